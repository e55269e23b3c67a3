/** Tables of responses marked: by a set, or by one of their rows that holds the key. */
import { ReadError } from '../item/readError.js';
import { isQuestion, nameOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { mark, type Response } from '../mark/mark.js';
import { comparisonOf } from './answers.js';
import { matchColumns } from './columns.js';
import { pointsIn, type ResponseUse } from './headings.js';
import { responseOf } from './responseOf.js';
import { type KeyRow, keyRowOf, type ResponseRow, type ResponseTable, understandResponses } from './table.js';

/** How a table is marked. */
export interface GradeAsked {
  set?: QuizSet;
  /** The row that is the key; null for none. Where nothing is said, the one that is called so, if no set is given. */
  keyRow?: KeyRow | null;
  /** Headings of columns that are not marked. */
  skip?: readonly string[];
  /** Points by heading; one each where nothing is said. */
  points?: readonly { heading: string; points: number }[];
  /** By the place of a column: what it is used for, its points, and what is right in it, as a person says them. They hold against all else. */
  columns?: ReadonlyMap<number, ColumnSaid>;
  /** Which row counts of a person who answered several times; all of them, each by itself, where nothing is said. */
  attempts?: 'first' | 'last' | 'best';
}
/** What a person says of a column. */
export interface ColumnSaid {
  use?: ResponseUse;
  points?: number;
  /** What is right, as a row with the key would say it. */
  key?: string;
}
/** A column that is marked. */
export interface MarkedColumn {
  /** Its place in the table as it was understood. */
  column: number;
  heading: string;
  points: number;
  /** What counts as right, in words: the key's cell, or the item. */
  key: string;
  how: 'one' | 'several' | 'accepted' | 'item';
  /** Share of the points that all people earned. */
  earned: number;
}
/** A table marked. */
export interface GradedTable {
  /** The table as it was understood. */
  table: ResponseTable;
  /** The place in the table of the row that is the key, from 0; null where none is. */
  keyRow: number | null;
  marked: MarkedColumn[];
  people: { name: string; score: number; max: number; marks: number[] }[];
  /** Mean score in points. */
  mean: number;
  /** Headings with the least share of points first. */
  mostMissed: string[];
  /** Names of those with less than half of the points. */
  lowScorers: string[];
  notes: string[];
}

const round = (x: number): number => Math.round(x * 1e4) / 1e4;
const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[\s\p{P}]+/gu, ' ')
    .trim();

/** The columns that a heading names: as it stands, else the one that begins with it or holds it. */
function columnNamed(columns: readonly { heading: string }[], heading: string): number {
  const wanted = plain(heading);
  const find = (test: (h: string) => boolean): number[] => columns.flatMap((c, i) => (c.heading && test(plain(c.heading)) ? [i] : []));
  for (const found of [find((h) => h === wanted), find((h) => h.startsWith(wanted)), find((h) => h.includes(wanted))]) {
    if (found.length === 1) return found[0] as number;
    if (found.length > 1) throw new ReadError(`“${heading}” names ${found.length} columns; write more of the heading`);
  }
  throw new ReadError(`there is no column “${heading}”`);
}

/** A column that is marked, and how. */
export interface Marking {
  column: number;
  heading: string;
  points: number;
  key: string;
  how: MarkedColumn['how'];
  /** Points that a row earns. */
  earn: (row: ResponseRow) => number;
  /** The item of a set that it is about, and a row's response to it. */
  asks?: { item: Item; response: (row: ResponseRow) => Response | null };
}

/** Marks by keys, one for each column: those in which it is empty are not marked. */
function byKey(table: ResponseTable, keys: readonly string[], people: readonly ResponseRow[], worth: (column: number) => number): Marking[] {
  return table.columns.flatMap((c, i) => {
    const said = keys[i]?.trim() ?? '';
    if (c.use !== 'question' || !said || /^(?:[-–—*]+|n ?\/ ?a|any(?: answer)?|none|not marked|varies|open)$/i.test(said)) return [];
    const { right, how } = comparisonOf(
      said,
      people.map((r) => r.cells[i] ?? ''),
    );
    const points = worth(i);
    return [{ column: i, heading: c.heading, points, key: said, how, earn: (r: ResponseRow) => (right(r.cells[i] ?? '') ? points : 0) }];
  });
}

/** Marks by the items of a set, each with the columns that are about it. */
function bySet(table: ResponseTable, set: QuizSet, said: ReadonlyMap<number, number>, notes: string[]): Marking[] {
  const { matched, unmatched } = matchColumns(table.columns, set);
  for (const c of unmatched.columns) notes.push(`Column “${c}” is about no item of the set and is not marked.`);
  for (const i of unmatched.items) notes.push(`Item “${nameOf(i, 50)}” has no column.`);
  return matched.flatMap(({ item, columns }) => {
    const [first] = columns;
    if (first === undefined || !isQuestion(item) || item.kind === 'essay') return [];
    const points = said.get(first) ?? item.points;
    const scale = item.points > 0 ? points / item.points : 0;
    const response = (r: ResponseRow): Response | null =>
      responseOf(
        item as Item,
        columns.map((c) => ({ heading: table.columns[c]?.heading ?? '', cell: r.cells[c] ?? '' })),
      );
    return [
      {
        column: first,
        heading: table.columns[first]?.heading ?? '',
        points,
        key: plainOf(item.stem),
        how: 'item' as const,
        earn: (r: ResponseRow) => {
          const given = response(r);
          return given ? mark(item, given, item.language ?? set.language).points * scale : 0;
        },
        asks: { item, response },
      },
    ];
  });
}

/** Of several rows of one person the one that counts. Rows without anything that tells persons apart stay as they are. */
function attemptsOf(people: readonly ResponseRow[], which: GradeAsked['attempts'], score: (r: ResponseRow) => number): ResponseRow[] {
  if (!which) return [...people];
  const by = new Map<string, ResponseRow[]>();
  for (const r of people) {
    const key = r.person || `row ${r.at}`;
    by.set(key, [...(by.get(key) ?? []), r]);
  }
  const chosen = new Set(
    [...by.values()].map((rows) => (which === 'first' ? rows[0] : which === 'last' ? rows.at(-1) : rows.reduce((a, b) => (score(b) > score(a) ? b : a)))),
  );
  return people.filter((r) => chosen.has(r));
}

/** A table with how its columns are marked. */
export interface Understood {
  table: ResponseTable;
  /** The row with the key. */
  key: ResponseRow | undefined;
  /** The rows of people that count. */
  people: ResponseRow[];
  /** The points of each row, one for each marking. */
  marksOf: ReadonlyMap<ResponseRow, number[]>;
  scoreOf: (row: ResponseRow) => number;
  markings: Marking[];
  notes: string[];
}

/**
 * Finds out how a table is marked, as `gradeTable` does.
 * @throws ReadError where the table, the key row or a heading that was named is not there
 */
export function understandMarking(rows: readonly (readonly string[])[], asked: GradeAsked): Understood {
  const byPerson = asked.columns ?? new Map<number, ColumnSaid>();
  const table = understandResponses(rows, byPerson);
  const notes = [...table.notes];
  for (const heading of asked.skip ?? []) (table.columns[columnNamed(table.columns, heading)] as { use: string }).use = 'other';
  const said = new Map<number, number>();
  for (const p of asked.points ?? []) {
    const i = columnNamed(table.columns, p.heading);
    said.set(i, p.points);
    // what is given points is marked, whatever its heading sounds like
    if (table.columns[i]) table.columns[i].use = 'question';
  }
  for (const [i, { points }] of byPerson) if (points !== undefined) said.set(i, points);
  const typed = new Map([...byPerson].flatMap(([i, { key }]) => (key === undefined ? [] : [[i, key] as const])));
  const worth = (i: number): number => said.get(i) ?? table.points?.[i] ?? pointsIn(table.columns[i]?.heading ?? '') ?? 1;
  const keyAt = asked.keyRow === null || (asked.set && asked.keyRow === undefined) ? null : keyRowOf(table, asked.keyRow ?? 'auto');
  if (keyAt === null && !asked.set && !typed.size) throw new ReadError('no row says that it is the key; say which one is, or give a set to mark by');
  const answered = table.rows.filter((_, i) => i !== keyAt);
  const key = keyAt === null ? undefined : table.rows[keyAt];
  /** Keys of columns: as they were typed, else of the row. */
  const cells = table.columns.map((_, i) => typed.get(i) ?? key?.cells[i] ?? '');
  const ofSet = keyAt === null && asked.set ? bySet(table, asked.set, said, notes) : [];
  const ofCells = byKey(table, cells, answered, worth);
  // what is typed holds against the item of the set
  const markings = [...ofSet.filter((m) => !typed.has(m.column)), ...ofCells].sort((a, b) => a.column - b.column);
  if (!markings.length) throw new ReadError(keyAt !== null ? 'the key row holds no answers' : 'no column of the table is about an item of the set');
  if (keyAt !== null)
    for (const c of table.columns)
      if (c.use === 'question' && !markings.some((m) => m.heading === c.heading)) notes.push(`Column “${c.heading}” has no key and is not marked.`);
  const marksOf = new Map(answered.map((r) => [r, markings.map((m) => round(m.earn(r)))]));
  const scoreOf = (r: ResponseRow): number => round((marksOf.get(r) ?? []).reduce((a, b) => a + b, 0));
  return { table, key, people: attemptsOf(answered, asked.attempts, scoreOf), marksOf, scoreOf, markings, notes };
}

/**
 * Marks a table of responses.
 * @param rows all rows of the table, as shown, with its headings
 * @throws ReadError where the table, the key row or a heading that was named is not there
 */
export function gradeTable(rows: readonly (readonly string[])[], asked: GradeAsked): GradedTable {
  const { table, key, people, marksOf, scoreOf, markings, notes } = understandMarking(rows, asked);
  const max = round(markings.reduce((n, m) => n + m.points, 0));
  const marked = markings.map((m, k) => ({
    column: m.column,
    heading: m.heading,
    points: m.points,
    key: m.key,
    how: m.how,
    earned: people.length && m.points ? people.reduce((n, r) => n + (marksOf.get(r)?.[k] ?? 0), 0) / (people.length * m.points) : 0,
  }));
  const names = new Map<string, number>();
  for (const r of people) names.set(r.name, (names.get(r.name) ?? 0) + 1);
  for (const [name, n] of names)
    if (n > 1)
      notes.push(`“${name}” stands there ${n} times; each counts by itself${asked.attempts ? '' : ' (say which counts of a person who tried again)'}.`);
  return {
    table,
    keyRow: key?.at ?? null,
    marked,
    people: people.map((r) => ({ name: r.name, score: scoreOf(r), max, marks: marksOf.get(r) ?? [] })),
    mean: people.length ? round(people.reduce((n, r) => n + scoreOf(r), 0) / people.length) : 0,
    mostMissed: [...marked]
      .filter((m) => m.earned < 1)
      .sort((a, b) => a.earned - b.earned)
      .map((m) => m.heading),
    lowScorers: people.filter((r) => scoreOf(r) < max / 2).map((r) => r.name),
    notes,
  };
}
