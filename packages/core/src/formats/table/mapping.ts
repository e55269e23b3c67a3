/** Which column of a table is what: proposed from its headings and its contents, so that a person only has to look. */
import { readKey } from '../../draft/signatures/answers.js';
import type { KeyLook } from '../../draft/surface/stretch.js';
import { letterPlace } from '../../language/labels.js';
import { truth } from '../../language/truths.js';
import type { Row } from './grid.js';
import { type ColumnUse, MARK_HEADING, useOf } from './headings.js';
import { stripEnd } from '../../item/strip.js';

/** One table of a file. */
export interface TableSheet {
  name: string;
  /** Ragged rows of cells as they are shown; an empty cell is ''. */
  rows: readonly Row[];
  /** Rows and columns (0-based) that the file hides. */
  hiddenRows?: readonly number[];
  hiddenColumns?: readonly number[];
  /** Cells whose looks say more than their words, as rich text, by "row,column". */
  rich?: Readonly<Record<string, string>>;
  /** Cells that stand out by their looks, by "row,column". */
  looks?: Readonly<Record<string, readonly KeyLook[]>>;
}

/** How a column says the key: by letters, by numbers, by the words of the option. */
export const keyForms = ['letters', 'numbers', 'text'] as const;
/** How the key names options: by their letters, by their numbers from 1, by their words. */
export type KeyForm = (typeof keyForms)[number];

/** Which column holds what, where the rows with questions begin, and how the key is said. */
export interface Mapping {
  /** The row (0-based) that names the columns; −1 where none does. What stands above it is left alone. */
  header: number;
  columns: ColumnUse[];
  /** Options stand each in a row of its own, below the question that they belong to. */
  optionRows: boolean;
  keyForm: KeyForm;
  /** What parts the options in one cell; a line break where it is '\n'. */
  separator: string;
  /** Rows and columns that the file hides are read too. */
  hidden: boolean;
}

const SEPARATORS = ['\n', '|', ';', ' / ', ','];
/** Rows that are looked at to tell what the columns hold. */
const SAMPLE = 400;
const MOST_COLUMNS = 200;

/** The cells of a row without blanks around them. */
export const cellsOf = (row: Row | undefined): string[] => (row ?? []).map((c) => c.trim());

/** The pieces of a cell that holds several options; labels in front of them go. */
export function optionsIn(cell: string, separator: string): string[] {
  const parts = separator === '\n' ? cell.split(/\r?\n/) : cell.split(separator.trim() || separator);
  return parts.map((p) => p.trim()).filter(Boolean);
}

/** Options without the letters in front of them, where each has its own. */
export function unlabelled(options: readonly string[]): string[] {
  const labelled = options.every((o, i) => {
    const m = /^[([]?([A-Za-z]|\d{1,2})[.)\]:]\s*\S/.exec(o);
    const label = m?.[1] ?? '';
    return m && (/\d/.test(label) ? Number(label) === i + 1 : label.toUpperCase().charCodeAt(0) - 65 === i);
  });
  return labelled && options.length > 1 ? options.map((o) => o.replace(/^[([]?(?:[A-Za-z]|\d{1,2})[.)\]:]\s*/, '')) : [...options];
}

const LETTER = /^[([]?[A-Za-zА-Яа-яҐґЄєІі][.)\]]?$/u;
const NUMBER = /^[([]?\d{1,2}[.)\]]?$/;
const JOINING = new Set(['and', 'und', 'et', 'y', 'e', 'en', 'i', 'и', 'та', 've']);
/** Whether a cell is a list of labels and nothing else: "A, C", "(1) and (3)". */
const isListOf = (cell: string, label: RegExp): boolean =>
  cell
    .replace(/\s+/g, ' ')
    .replace(/ ?([,;/&+|]) ?/g, '$1')
    .split(/[,;/&+| ]/)
    .every((word, i, all) => label.test(word) || (i > 0 && i < all.length - 1 && JOINING.has(word)));
/** The places that a cell of letters or numbers names, 0-based; null where it names none. */
export function placesIn(key: string, form: KeyForm): number[] | null {
  const t = key.trim();
  if (form === 'letters') {
    if (/^[A-Ha-h]{2,6}$/.test(t) && t === t.toUpperCase() && [...t].every((c, i, all) => i === 0 || c > (all[i - 1] ?? '')))
      return [...t].map((c) => c.charCodeAt(0) - 65);
    // single letters; what joins them in a language ("y", "и") stands between others
    if (!isListOf(t, LETTER)) return null;
    const found = Array.from(t.matchAll(/(?<!\p{L})\p{L}(?!\p{L})/gu), (m) => m[0]);
    const joined = found.filter((c, i) => !(i > 0 && i < found.length - 1 && /[yeiиі]/.test(c) && /\p{Lu}/u.test(found[0] ?? '')));
    return joined.map(letterPlace);
  }
  if (form === 'numbers') return isListOf(t, NUMBER) ? Array.from(t.matchAll(/\d+/g), (m) => Number(m[0]) - 1) : null;
  return null;
}

/** The row that names the columns, with what each of them says; null where none does. */
function headerOf(rows: readonly Row[], hidden: ReadonlySet<number>): { at: number; uses: (ColumnUse | null)[] } | null {
  let best: { at: number; uses: (ColumnUse | null)[]; score: number } | null = null;
  for (let at = 0; at < Math.min(rows.length, 30); at++) {
    if (hidden.has(at)) continue;
    const cells = cellsOf(rows[at]).slice(0, MOST_COLUMNS);
    const uses = cells.map((c) => (c ? useOf(c) : null));
    const known = uses.filter(Boolean).length;
    const full = cells.filter(Boolean).length;
    const asks = uses.includes('question');
    // letters alone head options, and so do keys: only with a question, or with most of the row known
    if (known < 2 || (!asks && known < full * 0.6)) continue;
    const score = known + (asks ? 3 : 0) - (full - known) * 0.3;
    if (!best || score > best.score) best = { at, uses, score };
  }
  return best;
}

interface Profiled {
  filled: number;
  length: number;
  /** Shares of the filled cells. */
  letters: number;
  numbers: number;
  asks: number;
  truths: number;
}
function profiled(rows: readonly Row[], column: number): Profiled {
  const cells = rows.map((r) => (r[column] ?? '').trim()).filter(Boolean);
  const share = (test: (c: string) => boolean): number => (cells.length ? cells.filter(test).length / cells.length : 0);
  return {
    filled: cells.length,
    length: cells.reduce((n, c) => n + c.length, 0) / Math.max(1, cells.length),
    letters: share((c) => c.length < 12 && isListOf(c.trim(), LETTER)),
    numbers: share((c) => /^\d+(?:[.,]\d+)?$/.test(c)),
    asks: share((c) => /[?:…]\s*$|_{2,}/.test(c)),
    truths: share((c) => truth(c, true) !== null),
  };
}

/** Uses told from contents alone: the longest words are the questions, a last column of letters the keys, what lies between the options. */
function fromContents(rows: readonly Row[], width: number): ColumnUse[] | null {
  const columns = Array.from({ length: width }, (_, i) => profiled(rows, i));
  const full = rows.filter((r) => r.some((c) => c.trim())).length;
  const question = columns.map((c, i) => ({ i, score: c.filled < full * 0.8 ? -1 : c.length + c.asks * 60 })).sort((a, b) => b.score - a.score)[0];
  if (!question || question.score < 12) return null;
  const uses: ColumnUse[] = columns.map(() => 'ignore');
  uses[question.i] = 'question';
  const isKey = (c: Profiled, i: number): boolean => {
    if (i === question.i || c.filled < full * 0.6) return false;
    if (c.letters > 0.8 || c.truths > 0.8) return true;
    // words or numbers that stand among the others of the row
    const others = columns.map((_, k) => k).filter((k) => k !== i && k !== question.i);
    const hits = rows.filter((r) => {
      const v = (r[i] ?? '').trim().toLowerCase();
      return v && others.some((k) => (r[k] ?? '').trim().toLowerCase() === v);
    }).length;
    return others.length >= 2 && hits > full * 0.8;
  };
  let key = -1;
  for (let i = width - 1; i >= 0; i--)
    if (columns[i] && isKey(columns[i] as Profiled, i)) {
      key = i;
      break;
    }
  if (key < 0) {
    // numbers from 1 to the count of the other columns name options
    for (let i = width - 1; i > question.i && key < 0; i--) {
      const c = columns[i] as Profiled;
      if (c.filled > full * 0.6 && rows.every((r) => !(r[i] ?? '').trim() || /^[1-8]$/.test((r[i] ?? '').trim())) && width - 2 >= 2) key = i;
    }
  }
  if (key < 0) return null;
  uses[key] = 'key';
  const between = key > question.i ? [question.i + 1, key] : [question.i + 1, width];
  for (let i = between[0] ?? 0; i < (between[1] ?? 0); i++) if ((columns[i]?.filled ?? 0) > 0) uses[i] = 'option';
  const first = columns[0];
  if (question.i > 0 && first && first.numbers > 0.9) uses[0] = 'number';
  return uses;
}

/** Columns with the same heading beside each option, or headed as a mark, say whether the option left of them is right. */
function marksBeside(uses: (ColumnUse | null)[], heads: readonly string[], rows: readonly Row[]): void {
  const options = uses.flatMap((u, i) => (u === 'option' ? [i] : []));
  const named = heads.flatMap((h, i) => (uses[i] !== 'option' && MARK_HEADING.test(stripEnd(h.trim(), /[?.:]/)) ? [i] : []));
  const beside = named.filter((i) => uses[i - 1] === 'option');
  // a mark beside each option, or all marks behind all options in the same order
  const marks = beside.length >= 2 ? beside : named.length === options.length ? named : [];
  const blankish = (i: number): boolean =>
    rows.every((r) =>
      /^(?:|x|✓|✔|✗|-|-?\d{1,3}(?:[.,]\d+)?\s?%?|\+|ja|nein|yes|no|y|n|t|f|true|false|wahr|falsch|100|100\s?%|0\s?%|richtig|correct|wrong)$/i.test(
        (r[i] ?? '').trim(),
      ),
    );
  if (marks.length >= 2 && marks.every(blankish)) for (const i of marks) uses[i] = 'mark';
}

/** What every column of a table may be; null where it holds no questions that can be told. */
export function proposeMapping(sheet: TableSheet, hidden = false): Mapping | null {
  const hiddenRows = new Set(hidden ? [] : sheet.hiddenRows);
  const hiddenColumns = new Set(hidden ? [] : sheet.hiddenColumns);
  const width = Math.min(MOST_COLUMNS, Math.max(0, ...sheet.rows.slice(0, SAMPLE).map((r) => r.length)));
  const head = headerOf(sheet.rows, hiddenRows);
  const body = sheet.rows.filter((_, i) => i > (head?.at ?? -1) && !hiddenRows.has(i)).slice(0, SAMPLE);
  const rows = body.filter((r) => r.filter((c) => c.trim()).length > 1);
  let uses: (ColumnUse | null)[];
  if (head) {
    uses = Array.from({ length: width }, (_, i) => (hiddenColumns.has(i) ? 'ignore' : (head.uses[i] ?? null)));
    const heads = cellsOf(sheet.rows[head.at]);
    // "1", "2", "3" in a row head options
    heads.forEach((h, i) => {
      if (/^[1-9]$/.test(h) && uses[i] === null && (heads[i + 1] === String(Number(h) + 1) || heads[i - 1] === String(Number(h) - 1))) uses[i] = 'option';
    });
    marksBeside(uses, heads, rows);
    settle(uses, rows, heads);
    if (!uses.includes('question')) return null;
    if (!uses.some((u) => u === 'key' || u === 'option' || u === 'options' || u === 'right option' || u === 'kind')) return null;
  } else {
    const told =
      rows.length >= 2
        ? fromContents(
            rows.map((r) => r.map((c, i) => (hiddenColumns.has(i) ? '' : c))),
            width,
          )
        : null;
    if (!told) return null;
    uses = told;
  }
  const columns = uses.map((u) => u ?? 'ignore');
  const optionRows = isOptionRows(columns, rows);
  const separator = separatorOf(columns, rows);
  return { header: head?.at ?? -1, columns, optionRows, separator, keyForm: keyFormOf(columns, rows, separator), hidden };
}

/** Headings that can mean two things, decided by what stands beside and below them. */
function settle(uses: (ColumnUse | null)[], rows: readonly Row[], heads: readonly string[]): void {
  const at = (use: ColumnUse): number[] => uses.flatMap((u, i) => (u === use ? [i] : []));
  // a second column of a sort that there can be only one of: the fuller one counts
  for (const use of ['question', 'number', 'kind', 'key'] as const) {
    const places = at(use);
    if (places.length < 2) continue;
    // "Answer" and "Correct answer": the plainer one is an option's or the text of it
    const best = [...places].sort((a, b) => score(use, b) - score(use, a))[0];
    for (const i of places) if (i !== best) uses[i] = use === 'key' && profiled(rows, i).length > 1 && !uses.includes('option') ? 'options' : null;
  }
  function score(use: string, i: number): number {
    const p = profiled(rows, i);
    return use === 'question'
      ? p.length
      : use === 'key'
        ? (/correct|right|richtig|key|poprawn|правильн|doğru|bonne|corrett|cert[oa]|juist/i.test(heads[i] ?? '') ? 1000 : 0) + p.filled
        : p.filled;
  }
  const wrong = at('wrong option');
  const key = at('key')[0];
  // beside columns of wrong answers, the right one is an option of its own
  if (wrong.length && key !== undefined && profiled(rows, key).letters < 0.6) uses[key] = 'right option';
  // "Options" and no other: several columns under one heading are one option each
  if (at('options').length > 1) for (const i of at('options')) uses[i] = 'option';
  if (at('option').length === 1 && !uses.includes('options') && !uses.includes('mark')) {
    const [only] = at('option') as [number];
    const beside = rows.filter((r) => /[|;\n]/.test(r[only] ?? '')).length;
    if (beside > rows.length * 0.6) uses[only] = 'options';
  }
  // "Q" heads numbers, or the questions themselves
  if (!uses.includes('question')) {
    const [longest] = uses
      .map((u, i) => ({ i, u, length: profiled(rows, i).length }))
      .filter((c) => c.u === null || c.u === 'number')
      .sort((a, b) => b.length - a.length);
    if (longest && longest.length > 10) uses[longest.i] = 'question';
  }
  // headings without a name between two options belong to them
  const options = at('option');
  const [first, last] = [options[0], options[options.length - 1]];
  if (first !== undefined && last !== undefined)
    for (let i = first + 1; i < last; i++) if (uses[i] === null && !heads[i]?.trim() && rows.some((r) => (r[i] ?? '').trim())) uses[i] = 'option';
}

/** Whether a question's options stand in rows of their own: one option column, and rows without a question, or with the one above again. */
function isOptionRows(columns: readonly ColumnUse[], rows: readonly Row[]): boolean {
  const options = columns.flatMap((u, i) => (u === 'option' ? [i] : []));
  const question = columns.indexOf('question');
  if (options.length !== 1 || rows.length < 2) return false;
  const [option] = options as [number];
  const follows = rows.filter((r, i) => i > 0 && (r[option] ?? '').trim() && (!(r[question] ?? '').trim() || r[question] === rows[i - 1]?.[question])).length;
  return follows >= rows.length * 0.3;
}

function separatorOf(columns: readonly ColumnUse[], rows: readonly Row[]): string {
  const at = columns.indexOf('options');
  if (at < 0) return '|';
  const cells = rows.map((r) => (r[at] ?? '').trim()).filter(Boolean);
  const fit = (s: string): number => cells.filter((c) => optionsIn(c, s).length > 1).length;
  return SEPARATORS.find((s) => fit(s) >= cells.length * 0.7) ?? [...SEPARATORS].sort((a, b) => fit(b) - fit(a))[0] ?? '|';
}

/** How the keys name options: the form that fits the most rows. */
function keyFormOf(columns: readonly ColumnUse[], rows: readonly Row[], separator: string): KeyForm {
  const key = columns.indexOf('key');
  if (key < 0) return 'letters';
  const count = { letters: 0, numbers: 0, text: 0 };
  for (const r of rows) {
    const said = (r[key] ?? '').trim();
    const options = rowOptions(r, columns, separator);
    if (!said || options.length < 2) continue;
    for (const form of ['letters', 'numbers'] as const) {
      const places = placesIn(said, form);
      if (places?.length && places.every((p) => p < options.length)) count[form]++;
    }
    const reading = readKey(
      said,
      options.map((_, i) => String.fromCharCode(65 + i)),
      options,
    );
    if (options.some((o) => o.toLowerCase() === said.toLowerCase()) || (reading && 'places' in reading && said.length > 2)) count.text++;
  }
  return keyForms.reduce<KeyForm>(
    (best, f) => (count[f] > count[best] ? f : best),
    count.text > Math.max(count.letters, count.numbers) ? 'text' : count.numbers > count.letters ? 'numbers' : 'letters',
  );
}

/** The options that a row holds, as words. */
export function rowOptions(row: Row, columns: readonly ColumnUse[], separator: string): string[] {
  const out: string[] = [];
  columns.forEach((u, i) => {
    const c = (row[i] ?? '').trim();
    if (!c) return;
    if (u === 'options') out.push(...optionsIn(c, separator));
    else if (u === 'option') out.push(c);
  });
  return unlabelled(out);
}

/** The same layout has the same signature: the headings, or the number of columns where there are none. */
export const signatureOf = (sheet: TableSheet, mapping: Mapping): string =>
  mapping.header >= 0
    ? stripEnd(
        cellsOf(sheet.rows[mapping.header])
          .map((c) => c.toLowerCase().replace(/\s+/g, ' '))
          .join('\u001f'),
        /\u001f/,
      )
    : `columns ${mapping.columns.length}`;
