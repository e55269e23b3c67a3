/** A table of responses understood: where its headings stand, what its columns hold, who answered what, which row is the key. */
import { ReadError } from '../item/readError.js';
import { KEY_NAME, POINTS_NAME, type ResponseUse, saidBy, saidByCells, SUM_NAME, TEACHER_NAME } from './headings.js';

/** A column with its use. */
export interface ResponseColumn {
  heading: string;
  use: ResponseUse;
}
/** A row of a person. */
export interface ResponseRow {
  /** Row of the table, from 0. */
  at: number;
  /** Who it is, as shown; "row N" where nothing says. */
  name: string;
  /** What tells persons apart: the mail, else the id, else the name; empty where there is none. */
  person: string;
  cells: string[];
}
/** A table of responses, one row a person. */
export interface ResponseTable {
  columns: ResponseColumn[];
  rows: ResponseRow[];
  /** A row of points, by column. */
  points: (number | null)[] | null;
  /** Lines that are nobody: sums, empty rows, rows that stand twice. */
  notes: string[];
}

/** Two to four words with capitals, or one: what a name looks like. */
const PERSON = /^\p{Lu}[\p{L}.'’-]*(?:,? \p{Lu}[\p{L}.'’-]*){0,3}$/u;

type Rows = readonly (readonly string[])[];
const trimmed = (rows: Rows): string[][] => rows.map((r) => r.map((c) => c.replace(/[\u00a0\s]+/g, ' ').trim()));

/** A table with a person a column (questions down, one column that is called the key) turned, so that a person is a row; any other as it is. */
function upright(rows: string[][]): string[][] {
  const head = headingRow(rows);
  const headings = rows[head] ?? [];
  const uses = headings.map(saidBy);
  const question = uses.indexOf('question');
  const keys = headings.filter((h) => KEY_NAME.test(h)).length;
  if (question < 0 || keys !== 1 || uses.some((u) => u === 'name' || u === 'mail' || u === 'time' || u === 'first name')) return rows;
  const people = headings.flatMap((h, i) => (i > question && h && (KEY_NAME.test(h) || uses[i] === null || uses[i] === 'answer') ? [i] : []));
  const body = rows.slice(head + 1).filter((r) => r[question]);
  return [['Name', ...body.map((r) => r[question] ?? '')], ...people.map((i) => [headings[i] ?? '', ...body.map((r) => r[i] ?? '')])];
}

/** The row of headings: the first that fills most columns, with rows below that are as wide. */
function headingRow(rows: readonly string[][]): number {
  const filled = rows.slice(0, 15).map((r) => r.filter(Boolean).length);
  const most = Math.max(0, ...filled);
  const at = filled.findIndex((n) => n >= Math.max(2, most * 0.7));
  return Math.max(0, at);
}

/** One row an answer (person, question, answer) made one row a person; null where it is not such a table. */
function pivoted(columns: readonly ResponseColumn[], rows: readonly string[][]): { columns: ResponseColumn[]; rows: string[][] } | null {
  const question = columns.findIndex((c) => c.use === 'question' && saidBy(c.heading) === 'question');
  const answer = columns.findIndex((c) => c.use === 'answer');
  const whos = columns.flatMap((c, i) => (['name', 'first name', 'last name', 'mail', 'id', 'class'].includes(c.use) ? [i] : []));
  if (question < 0 || answer < 0 || !whos.length) return null;
  const questions = [...new Set(rows.map((r) => r[question] ?? '').filter(Boolean))];
  if (questions.length < 2 || questions.length > rows.length * 0.67) return null;
  const people = new Map<string, string[]>();
  for (const r of rows) {
    const key = whos.map((i) => r[i] ?? '').join('\u0000');
    if (!key.replaceAll('\u0000', '')) continue;
    const person = people.get(key) ?? [...whos.map((i) => r[i] ?? ''), ...questions.map(() => '')];
    const at = questions.indexOf(r[question] ?? '');
    if (at >= 0) person[whos.length + at] = r[answer] ?? '';
    people.set(key, person);
  }
  return {
    columns: [...whos.map((i) => columns[i] as ResponseColumn), ...questions.map((heading) => ({ heading, use: 'question' as const }))],
    rows: [...people.values()],
  };
}

/**
 * Understands a table of responses.
 * @param given all rows, as shown
 * @param said uses that a person has said, by the place of the column in what comes out; they hold against what is found
 * @throws ReadError where there are no headings, or nobody answered anything
 */
export function understandResponses(given: Rows, said: ReadonlyMap<number, { use?: ResponseUse }> = new Map()): ResponseTable {
  const all = upright(trimmed(given));
  const head = headingRow(all);
  const headings = all[head] ?? [];
  const body = all.slice(head + 1).map((r, i) => ({ r, at: head + 1 + i }));
  if (headings.filter(Boolean).length < 2 || !body.some(({ r }) => r.some(Boolean))) throw new ReadError('the table has no heading row with answers below it');
  const width = Math.max(...all.map((r) => r.length));
  const uses: ResponseUse[] = Array.from({ length: width }, (_, i) => {
    const cells = body.map(({ r }) => r[i] ?? '');
    const said = saidBy(headings[i] ?? '');
    if (!headings[i] && !cells.some(Boolean)) return 'other';
    const mails = saidByCells(cells);
    return said && said !== 'question' ? said : (mails ?? (headings[i] ? 'question' : 'other'));
  });
  // a column "Answer" alone, without one of questions, is a question itself
  if (!uses.some((u, i) => u === 'question' && saidBy(headings[i] ?? '') === 'question'))
    for (const [i, u] of uses.entries()) if (u === 'answer') uses[i] = 'question';
  // where nothing is called a name, the column that holds one in every row is
  if (!uses.some((u) => ['name', 'first name', 'last name', 'mail', 'id'].includes(u))) {
    const at = uses.findIndex((u, i) => {
      const cells = body.map(({ r }) => r[i] ?? '').filter(Boolean);
      return (
        u === 'question' &&
        !/\?\s*$/.test(headings[i] ?? '') &&
        cells.length > 1 &&
        new Set(cells).size === cells.length &&
        cells.filter((c) => PERSON.test(c)).length > cells.length * 0.7
      );
    });
    if (at >= 0) uses[at] = 'name';
  }
  // names of the table's own: "#" or "No" says nothing where there are names
  const seen = new Map<string, number>();
  let columns: ResponseColumn[] = Array.from({ length: width }, (_, i) => {
    const heading = headings[i] ?? '';
    const n = (seen.get(heading) ?? 0) + 1;
    seen.set(heading, n);
    return { heading: n > 1 && heading ? `${heading} (${n})` : heading, use: uses[i] as ResponseUse };
  });
  let lines = body;
  const long = pivoted(
    columns,
    body.map(({ r }) => r),
  );
  if (long) {
    columns = long.columns;
    lines = long.rows.map((r, i) => ({ r, at: i + 1 }));
  }
  columns = columns.map((c, i) => ({ ...c, use: said.get(i)?.use ?? c.use }));
  const at = (use: ResponseUse): number[] => columns.flatMap((c, i) => (c.use === use ? [i] : []));
  const [names, firsts, lasts, mails, ids] = [at('name'), at('first name'), at('last name'), at('mail'), at('id')];
  const words = (r: readonly string[], places: readonly number[]): string =>
    places
      .map((i) => r[i] ?? '')
      .filter(Boolean)
      .join(' ');
  const questions = at('question');
  const notes: string[] = [];
  let points: ResponseTable['points'] = null;
  const rows: ResponseRow[] = [];
  const twice = new Set<string>();
  for (const { r, at: place } of lines) {
    if (!r.some(Boolean)) continue;
    const full = words(r, names) || [words(r, firsts), words(r, lasts)].filter(Boolean).join(' ');
    const lead = full || r.find(Boolean) || '';
    const name = full || words(r, mails) || words(r, ids) || `row ${place + 1}`;
    const numbers = questions.flatMap((i) => (r[i] ? [Number(r[i].replace(',', '.').replace('%', ''))] : []));
    const figures = numbers.length > 0 && numbers.every((n) => !Number.isNaN(n));
    if (POINTS_NAME.test(lead) && figures) {
      points = columns.map((c, i) => (c.use === 'question' && r[i] ? Number(r[i].replace(',', '.')) : null));
      continue;
    }
    if (SUM_NAME.test(lead) && !KEY_NAME.test(lead) && (figures || !questions.some((i) => r[i]))) {
      notes.push(`Row ${place + 1} (${lead}) sums others up and is nobody.`);
      continue;
    }
    const print = r.join('\u0000');
    // the same person at the same time with the same answers: a row that stands twice
    if (twice.has(print) && (mails.length || at('time').length || full)) {
      notes.push(`Row ${place + 1} (${name}) stands there twice and counts once.`);
      continue;
    }
    twice.add(print);
    rows.push({ at: place, name, person: (words(r, mails) || words(r, ids) || full).toLowerCase(), cells: columns.map((_, i) => r[i] ?? '') });
  }
  if (!rows.length) throw new ReadError('the table has a heading row, and nobody below it');
  return { columns, rows, points, notes };
}

/** How a key row is named: by a name in it, by its number, or found; or exactly, by its place in the table from 0. */
export type KeyRow = 'auto' | string | number | { at: number };

/** How well a row would do as the key: how many of its answers are the ones that most others gave. */
function agreement(table: ResponseTable, at: number): number {
  const row = table.rows[at];
  if (!row) return -1;
  let [same, asked] = [0, 0];
  table.columns.forEach((c, i) => {
    if (c.use !== 'question' || !row.cells[i]) return;
    asked++;
    const count = new Map<string, number>();
    table.rows.forEach((r, k) => {
      const cell = (r.cells[i] ?? '').toLowerCase();
      if (k !== at && cell) count.set(cell, (count.get(cell) ?? 0) + 1);
    });
    const most = Math.max(0, ...count.values());
    if (most > 0 && (count.get((row.cells[i] ?? '').toLowerCase()) ?? 0) === most) same++;
  });
  return asked ? same / asked + asked / 1000 : -1;
}

/**
 * The place of the key row among the rows of persons.
 * @returns null where none is named as such ("auto")
 * @throws ReadError where the row that was named is not there, or several could be meant
 */
export function keyRowOf(table: ResponseTable, named: KeyRow): number | null {
  const { rows } = table;
  if (typeof named === 'object') {
    const at = rows.findIndex((r) => r.at === named.at);
    if (at < 0) throw new ReadError(`row ${named.at + 1} holds no answers`);
    return at;
  }
  const words = (r: ResponseRow): string => [r.name, ...r.cells.filter((_, i) => table.columns[i]?.use !== 'question')].join(' | ');
  if (named === 'auto') {
    const found = rows.flatMap((r, i) =>
      table.columns.some((c, k) => c.use !== 'question' && c.use !== 'other' && KEY_NAME.test(r.cells[k] ?? '')) || KEY_NAME.test(r.name) ? [i] : [],
    );
    if (found.length === 1) return found[0] as number;
    if (found.length > 1) {
      const exact = found.filter((i) => KEY_NAME.test(rows[i]?.name ?? ''));
      if (exact.length === 1) return exact[0] as number;
      throw new ReadError(`rows ${found.map((i) => (rows[i]?.at ?? 0) + 1).join(', ')} may each be the key; say which one is`);
    }
    const teachers = rows.flatMap((r, i) => (TEACHER_NAME.test(words(r)) ? [i] : []));
    return teachers.length === 1 ? (teachers[0] as number) : null;
  }
  const n = typeof named === 'number' ? named : /^\d+$/.test(named.trim()) ? Number(named) : null;
  if (n !== null && !rows.some((r) => r.name.toLowerCase() === String(named).trim().toLowerCase())) {
    // counted among the rows of people, or as the sheet counts them: the one that is more like a key
    const [among, sheet] = [n - 1, rows.findIndex((r) => r.at === n - 1)];
    const candidates = [...new Set([among, sheet])].filter((i) => rows[i] !== undefined);
    if (!candidates.length) throw new ReadError(`there is no row ${n}; the table has ${rows.length} rows of answers`);
    const worth = (i: number): number => (KEY_NAME.test(words(rows[i] as ResponseRow)) ? 10 : 0) + agreement(table, i);
    return candidates.reduce((a, b) => (worth(b) > worth(a) ? b : a));
  }
  const wanted = String(named).trim().toLowerCase();
  const exact = rows.flatMap((r, i) =>
    r.name.toLowerCase() === wanted || r.cells.some((c, k) => table.columns[k]?.use !== 'question' && c.toLowerCase() === wanted) ? [i] : [],
  );
  const part = exact.length ? exact : rows.flatMap((r, i) => (words(r).toLowerCase().includes(wanted) ? [i] : []));
  if (part.length === 1) return part[0] as number;
  throw new ReadError(
    part.length
      ? `“${named}” names ${part.length} rows (${part.map((i) => (rows[i]?.at ?? 0) + 1).join(', ')}); say the number of the row`
      : `no row is named “${named}”`,
  );
}
