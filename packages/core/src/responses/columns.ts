/** Which columns of a response table are about which item of a set: by wording, by number, else by order. */
import { jaccard, textPrint } from '../bank/likeness.js';
import { isQuestion } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import type { ResponseColumn } from './table.js';

const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/\[\[[^\][]*\]\]|_{2,}/g, ' ')
    .replace(/[\s\p{P}\p{S}]+/gu, ' ')
    .trim();
/** The number that a heading says: "Q3", "3.", "Question 3: …", "Item 3". */
const numberOf = (heading: string): string | undefined =>
  /^(?:q(?:uestion)?|item|frage|pregunta|domanda|vraag|no|nr|aufgabe|task)?[ .#:]*(\d{1,3}[a-z]?)(?:[).:\s-]|$)/i.exec(heading.trim())?.[1];
/** The row of a grid: "Match each [flour]". */
const rowOf = (heading: string): string | undefined => /[[(]([^\][()]+)[\])]\s*$/.exec(heading)?.[1];

/** Items with their columns. */
export interface MatchedColumns {
  matched: { item: Item; columns: number[] }[];
  unmatched: { columns: string[]; items: Item[] };
}

/** From this likeness on, a heading is the wording of an item. */
const LIKE = 0.5;

/** Matches question columns with the items of a set. */
export function matchColumns(columns: readonly ResponseColumn[], set: QuizSet): MatchedColumns {
  const items = set.items.filter(isQuestion);
  const asked = columns.flatMap((c, i) => (c.use === 'question' ? [i] : []));
  const stems = items.map((i) => plain(plainOf(i.stem)));
  const prints = items.map((i) => textPrint(i.stem));
  const held = new Map<number, number[]>();
  const taken = new Set<number>();
  const give = (item: number, column: number): void => {
    held.set(item, [...(held.get(item) ?? []), column]);
    taken.add(column);
  };
  /** How sure a heading is the wording of an item, 0 to 1. */
  const like = (heading: string, k: number): number => {
    const bare = plain(heading.replace(/^(?:q(?:uestion)?|item)?[ .#]*\d{1,3}[a-z]?[).:\s-]+/i, ''));
    const stem = stems[k] ?? '';
    if (!bare || !stem) return 0;
    if (bare === stem) return 1;
    // cut headings, and rows of grids behind the wording
    if (Math.min(bare.length, stem.length) >= 12 && (stem.startsWith(bare) || bare.startsWith(stem))) return 0.95;
    return jaccard(textPrint(bare), prints[k] ?? new Set());
  };
  for (const i of asked) {
    const heading = columns[i]?.heading ?? '';
    const row = rowOf(heading);
    const scores = items.map((item, k) =>
      Math.max(like(heading, k), row !== undefined && item.kind === 'matching' ? like(heading.slice(0, heading.lastIndexOf(row) - 1), k) : 0),
    );
    const best = Math.max(0, ...scores);
    const at = scores.indexOf(best);
    const item = items[at];
    if (best >= LIKE && item && (!held.has(at) || item.kind === 'matching' || item.kind === 'cloze')) give(at, i);
  }
  // what is numbered, and not said in words
  const left = asked.filter((i) => !taken.has(i));
  for (const i of left) {
    const n = numberOf(columns[i]?.heading ?? '');
    if (n === undefined) continue;
    const byLabel = items.findIndex((item, k) => !held.has(k) && item.label === n);
    const at = byLabel >= 0 ? byLabel : /^\d+$/.test(n) && !held.has(Number(n) - 1) ? Number(n) - 1 : -1;
    if (items[at]) give(at, i);
  }
  // the rest in order, where as many are left as there are items
  const rest = asked.filter((i) => !taken.has(i));
  const free = items.flatMap((_, k) => (held.has(k) ? [] : [k]));
  if (rest.length === free.length && held.size === 0) rest.forEach((i, n) => give(free[n] as number, i));
  return {
    matched: items.flatMap((item, k) => (held.has(k) ? [{ item, columns: held.get(k) as number[] }] : [])),
    unmatched: { columns: asked.filter((i) => !taken.has(i)).map((i) => columns[i]?.heading ?? ''), items: items.filter((_, k) => !held.has(k)) },
  };
}
