/**
 * A block that fits into a sheet that somebody has: its headings are pasted, with the people below or without, and what comes back has
 * the same columns and rows, filled where the results say something, to be pasted over what was there. Nothing that stood in a cell is
 * lost: only cells of scores are written.
 */
import { utf8 } from '../formats/encoding.js';
import { rowsOf } from '../formats/table/csv.js';
import { isQuestion, maximumOf, nameOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { matchPeople } from '../people/match.js';
import { saidBy } from '../responses/headings.js';
import type { Results, Sitting } from './results.js';

/** What a column of the sheet is for. */
export type SheetColumn = 'name' | 'first name' | 'last name' | 'mail' | 'number' | 'points' | 'of' | 'share' | 'nothing' | { item: string };
/** A sheet that was filled. */
export interface FilledSheet {
  columns: SheetColumn[];
  /** The rows below the headings. */
  rows: string[][];
  /** How many cells were written. */
  filled: number;
  /** Who handed in and has no row. */
  missing: string[];
  /** Rows of people that are nobody's for sure: they are left as they were. */
  unsure: string[];
}

const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}%]+/gu, ' ')
    .trim();
/** "Q3", "3.", "Item 3" */
const NUMBERED = /^(?:q|question|item|no|nr|task|frage|aufgabe|pregunta|domanda|vraag|pergunta)? ?(\d{1,3}[a-z]?)$/;
const OF = /^(?:of|out of|max(?:imum)?|max points|possible)$/;
const SHARE = /^(?:%|per ?cent|percentage|share)$/;
const POINTS = /^(?:points?|scores?|marks?|result|total|sum|grade|punkte|puntos|points obtenus|punti|punten)$/;

function columnOf(heading: string, items: readonly Item[], title: string): SheetColumn {
  const h = plain(heading);
  if (!h) return 'nothing';
  if (OF.test(h)) return 'of';
  if (SHARE.test(h)) return 'share';
  if (POINTS.test(h) || h === plain(title)) return 'points';
  const number = NUMBERED.exec(h)?.[1];
  const item =
    items.find((i, n) => number !== undefined && (i.label ?? String(n + 1)).toLowerCase() === number) ?? items.find((i) => plain(nameOf(i, 300)) === h);
  if (item) return { item: item.id };
  const said = saidBy(heading);
  if (said === 'name' || said === 'first name' || said === 'last name' || said === 'mail') return said;
  if (said === 'id') return 'number';
  return said === 'score' ? 'points' : 'nothing';
}

/** Fills a sheet that was pasted. @param text its heading row, with rows of people below or none: then everybody gets a row */
export function fillSheetOf(results: Results, text: string): FilledSheet {
  const [headings = [], ...below] = rowsOf(utf8(text));
  const { set, sittings } = results;
  const items = set.items.filter(isQuestion);
  const columns = headings.map((h) => columnOf(h, items, set.title));
  // a column without a name beside those of people is where the score goes
  if (!columns.some((c) => c === 'points' || typeof c === 'object')) {
    const free = columns.flatMap((c, n) => (c === 'nothing' && below.every((r) => !(r[n] ?? '').trim()) ? [n] : []));
    if (free.length === 1) columns[free[0] as number] = 'points';
  }
  const maximum = maximumOf(finalItems(items, sittings));
  const valueOf = (c: SheetColumn, s: Sitting): string | null => {
    if (typeof c === 'object') return s.marks[c.item]?.state === 'by-hand' || !s.marks[c.item] ? null : String(s.marks[c.item]?.points);
    if (c === 'points') return String(s.points);
    if (c === 'of') return String(maximum);
    return c === 'share' && maximum ? `${Math.round((s.points / maximum) * 1000) / 10} %` : null;
  };
  let filled = 0;
  const fill = (row: readonly string[], s: Sitting): string[] =>
    columns.map((c, n) => {
      const value = valueOf(c, s);
      if (value === null) return row[n] ?? '';
      filled++;
      return value;
    });
  if (!below.length) {
    const rows = sittings.map((s) =>
      fill(
        columns.map((c) => personCell(c, s)),
        s,
      ),
    );
    return { columns, rows, filled, missing: [], unsure: [] };
  }
  const cell = (row: readonly string[], c: SheetColumn): string => (row[columns.indexOf(c)] ?? '').trim();
  const nameIn = (row: readonly string[]): string => cell(row, 'name') || `${cell(row, 'first name')} ${cell(row, 'last name')}`.trim();
  const numbered = new Map(sittings.flatMap((s) => (s.number ? [[s.number, s]] : [])));
  const matches = matchPeople(
    below.map((r) => ({ name: nameIn(r), ...(cell(r, 'mail') && { mail: cell(r, 'mail') }) })),
    sittings.map((s) => ({ id: s.id, name: s.name, ...(s.mail && { mail: s.mail }) })),
  );
  const there = new Set<string>();
  const unsure: string[] = [];
  const rows = below.map((row, n): string[] => {
    const match = matches[n];
    const s =
      numbered.get(cell(row, 'number')) ?? (match && match.by !== 'maybe' && match.by !== 'nobody' ? sittings.find((x) => x.id === match.person) : undefined);
    if (!s) {
      if (match?.by === 'maybe') unsure.push(nameIn(row));
      return columns.map((_, k) => row[k] ?? '');
    }
    there.add(s.id);
    return fill(row, s);
  });
  return { columns, rows, filled, missing: sittings.filter((s) => !there.has(s.id)).map((s) => s.name), unsure };
}

/** What says who somebody is, in a row made for them. */
function personCell(c: SheetColumn, s: Sitting): string {
  const words = s.name.split(' ');
  switch (c) {
    case 'name':
      return s.name;
    case 'first name':
      return words.slice(0, -1).join(' ') || s.name;
    case 'last name':
      return words.length > 1 ? (words.at(-1) ?? '') : '';
    case 'mail':
      return s.mail ?? '';
    case 'number':
      return s.number ?? '';
    default:
      return '';
  }
}
