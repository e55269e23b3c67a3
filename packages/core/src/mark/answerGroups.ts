/** Typed answers of many people put together, so that one decision is for all who wrote the same. */
import { isQuestion } from '../item/kinds.js';
import type { Gap, Item } from '../item/model.js';
import { letterDistance } from '../item/typedText.js';
import { type Hand, isTyped, judgedGap, judgedMark, type Judging, placeOf, sameAnswer } from './decisions.js';
import type { Mark, Response } from './mark.js';

/** People who typed the same. */
export interface AnswerGroup {
  /** By what their answers are the same. */
  key: string;
  /** As most of them wrote it. */
  text: string;
  /** All ways in which it was written, the commonest first. */
  writings: string[];
  /** Who, by their places. */
  who: number[];
  /** How the answer is marked now, as if the item were worth what it is to one person; of a gap, as if it were the whole item. */
  mark: Mark;
  /** A person decided it. */
  decided: boolean;
  /** A key or a commoner answer that is spelt nearly so. */
  near?: string;
}

/** Answers of so many letters may differ in one, and of so many in two, to be near. */
const ONE_OF = 4;
const TWO_OF = 8;
/** Answers are held against so many commoner ones. */
const COMPARED = 200;

/** Whether a text is spelt nearly as another one: a letter or two differ. Common practice, no source. */
function isNear(a: string, b: string): boolean {
  const shorter = Math.min(a.length, b.length);
  const most = shorter >= TWO_OF ? 2 : shorter >= ONE_OF ? 1 : 0;
  return most > 0 && a !== b && !/\d/.test(a + b) && letterDistance(a, b, most) <= most;
}

const typedIn = (gap: Gap | undefined, given: Response | null | undefined): string =>
  !given ? '' : gap ? ('gaps' in given ? (given.gaps[gap.id] ?? '') : '') : 'text' in given ? given.text : '';

/**
 * The answers to an item whose answers are typed, or to one of its gaps, put together: first those that do not count in full, the
 * commonest before the rarer, each followed by what is spelt nearly so; then those that do.
 * @param given one for each person; nothing where there was no answer
 */
export function answerGroups(j: Judging, item: Item, gap: Gap | undefined, given: readonly (Response | null | undefined)[]): AnswerGroup[] {
  if (!isTyped(item, gap)) return [];
  const { language } = j.set;
  const found = new Map<string, { who: number[]; writings: Map<string, number> }>();
  given.forEach((r, place) => {
    const text = typedIn(gap, r).trim();
    if (!text) return;
    const key = sameAnswer(item, gap, text, language);
    const known = found.get(key) ?? { who: [], writings: new Map<string, number>() };
    found.set(key, known);
    known.who.push(place);
    known.writings.set(text, (known.writings.get(text) ?? 0) + 1);
  });
  const decided = j.answers.get(placeOf(item.id, gap?.id));
  const markOfText = (text: string): Mark => (gap && item.kind === 'cloze' ? judgedGap(j, item, gap, text) : judgedMark(j, item, { text }));
  const groups = [...found]
    .map(([key, { who, writings }]): AnswerGroup => {
      const ways = [...writings].sort((a, b) => b[1] - a[1]).map(([w]) => w);
      const text = ways[0] ?? '';
      return { key, text, writings: ways, who, mark: markOfText(text), decided: decided?.has(key) ?? false };
    })
    .sort((a, b) => b.who.length - a.who.length || a.key.localeCompare(b.key));
  const keys = keysOf(item, gap).map((text) => ({ text, key: sameAnswer(item, gap, text, language) }));
  groups.forEach((g, n) => {
    const like = g.mark.state === 'right' ? undefined : [...keys, ...groups.slice(0, Math.min(n, COMPARED))].find((o) => isNear(g.key, o.key));
    if (like) g.near = like.text;
  });
  return inOrder(groups);
}

/** The accepted texts of an item or a gap. */
function keysOf(item: Item, gap: Gap | undefined): string[] {
  const answers = gap ? (gap.kind === 'text' ? gap.answers : []) : item.kind === 'short-answer' ? item.answers : [];
  return answers.filter((a) => a.credit > 0).map((a) => a.text);
}

/** Open ones first, each before those that are near to it; then what counts in full. */
function inOrder(groups: readonly AnswerGroup[]): AnswerGroup[] {
  const open = groups.filter((g) => g.mark.state !== 'right');
  const texts = new Set(open.map((g) => g.text));
  const out: AnswerGroup[] = [];
  const put = (g: AnswerGroup): void => {
    if (out.includes(g)) return;
    out.push(g);
    for (const o of open) if (o.near === g.text) put(o);
  };
  for (const g of open) if (!g.near || !texts.has(g.near)) put(g);
  for (const g of open) put(g);
  return [...out, ...groups.filter((g) => g.mark.state === 'right')];
}

/** What decisions would change, before they are taken. */
export interface Effect {
  /** Who would have other points, by their places: what they have, and what they would have. */
  people: { place: number; before: number; after: number }[];
  /** Mean points of all. */
  mean: { before: number; after: number };
}

/**
 * What it would change if one judging took the place of another.
 * @param items ids of the items that could be marked otherwise
 * @param people their responses, what was marked by hand of them, by item, and the share of their points that is kept where they were late
 */
export function effectOf(
  before: Judging,
  after: Judging,
  items: readonly string[],
  people: readonly { responses: Readonly<Record<string, Response>>; hands?: ReadonlyMap<string, Hand> | undefined; kept?: number | undefined }[],
): Effect {
  const sum = (j: Judging, p: (typeof people)[number]): number =>
    (p.kept ?? 1) * j.set.items.reduce((s, i) => s + (items.includes(i.id) ? judgedMark(j, i, p.responses[i.id], p.hands?.get(i.id)).points : 0), 0);
  const out: Effect = { people: [], mean: { before: 0, after: 0 } };
  people.forEach((p, place) => {
    const [was, is] = [sum(before, p), sum(after, p)];
    if (Math.abs(is - was) > 1e-9) out.people.push({ place, before: was, after: is });
    out.mean.before += was / people.length;
    out.mean.after += is / people.length;
  });
  return out;
}

/** The items that count for everybody: each is marked, and none waits for a person. @param people with their marks, by item */
export const finalItems = (items: readonly Item[], people: readonly { marks: Readonly<Record<string, Mark>> }[]): Item[] =>
  items.filter((i) => isQuestion(i) && people.every(({ marks }) => marks[i.id] !== undefined && marks[i.id]?.state !== 'by-hand'));
