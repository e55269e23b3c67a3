/** How a service's import template is written: what its headings, explanations and examples say of signs, kinds and keys. */
import { letterOf } from '../../item/kinds.js';
import type { Kind } from '../../item/model.js';
import { KIND_WORDS, type Row } from './grid.js';
import type { ColumnUse } from './headings.js';
import type { ImporterSheet } from './importer.js';
import { type KeyForm, truthOf } from './keyCells.js';
import { kindNamed } from './kindNames.js';
import { cellsOf } from './mapping.js';
import { marksRight } from './rowCells.js';

/** Words for several right options, where another stands beside them for one. From memory. */
const SEVERAL = /^(?:multi|several|mehr|vari|plus|più|múlti|meer|wiel|неск|множ|кіль|çok)/iu;

/** The kinds that the template names in its column of kinds, with its own word for each; null where it has no such column. */
function kindsOf({ importer, sheet, uses }: ImporterSheet): Map<Kind, string> | null {
  const column = uses.indexOf('kind');
  if (column < 0) return null;
  const listed = (sheet.rules ?? []).filter((r) => r.kind === 'list' && r.columns[0] <= column && column <= r.columns[1]).flatMap((r) => r.values ?? []);
  const examples = sheet.rows.slice(importer.firstDataRow - 1).map((r) => r[column] ?? '');
  const explained = sheet.rows.slice(importer.headerRow, importer.firstDataRow - 1).flatMap((r) => (r[column] ?? '').split(/[,;/|()]|\bor\b/));
  const noted = Object.entries(sheet.notes ?? {}).flatMap(([at, note]) => (Number(at.split(',')[1]) === column ? note.split(/[,;/|()\n]|\bor\b/) : []));
  const out = new Map<Kind, string>();
  for (const word of [...listed, ...examples, ...explained, ...noted]) {
    const bare = word.trim().replace(/["“”']/g, '');
    const kind = kindNamed(bare);
    if (!kind) continue;
    const before = out.get(kind);
    if (before === undefined) out.set(kind, bare);
    else if (kind === 'multiple-choice' && before !== bare && !out.has('multiple-response')) {
      // beside “single”, “multiple” is of several right options
      const several = [before, bare].find((w) => SEVERAL.test(w));
      if (several === undefined) continue;
      out.set('multiple-response', several);
      out.set('multiple-choice', several === before ? bare : before);
    }
  }
  return out.size ? out : new Map((['multiple-choice', 'multiple-response', 'short-answer'] as const).map((k) => [k, KIND_WORDS[k]]));
}

/** The signs for right and wrong in columns of marks, as the template lists them or its examples have them. */
function signsOf({ importer, sheet, uses }: ImporterSheet): { right: string; wrong: string } {
  const columns = uses.flatMap((u, c) => (u === 'mark' ? [c] : []));
  const listed = (sheet.rules ?? [])
    .filter((r) => r.kind === 'list' && columns.some((c) => r.columns[0] <= c && c <= r.columns[1]))
    .flatMap((r) => r.values ?? []);
  const used = sheet.rows.slice(importer.firstDataRow - 1).flatMap((r) => columns.map((c) => (r[c] ?? '').trim()));
  const all = [...listed, ...used].filter(Boolean);
  const isRight = (x: string): boolean => marksRight(x) || /^(?:1|100 ?%?)$/.test(x);
  return { right: all.find(isRight) ?? 'x', wrong: all.find((x) => !isRight(x)) ?? '' };
}

/** What stands most often in a column of the examples: taken where an item says nothing of its own. */
function usual(rows: readonly Row[], column: number): string {
  const counts = new Map<string, number>();
  for (const r of rows) if (r[column]?.trim()) counts.set(r[column].trim(), (counts.get(r[column].trim()) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** How keys are written, from how the template says it. */
function keyFormOf({ importer, mapping, fromZero, byHeading }: ImporterSheet): KeyForm {
  if (byHeading) return 'letters';
  switch (importer.keyForm) {
    case 'first-option':
      return 'first';
    case 'letter':
      return 'letters';
    case 'number':
      return fromZero ? 'numbers from 0' : mapping?.keyForm === 'roman' ? 'roman' : 'numbers';
    default:
      return 'text';
  }
}

const PARTS = ['\n', '|', ';', ',', '/'] as const;
/** The sign that parts the pieces in all example cells of a column that have several; undefined where none does. */
const partedBy = (examples: readonly Row[], column: number): string | undefined => {
  const cells = examples.map((r) => r[column] ?? '').filter((c) => c.trim());
  return PARTS.find((p) => cells.length > 0 && cells.every((c) => c.includes(p)));
};
/** A separator with the blanks that the examples have around it. */
export function asWritten(examples: readonly Row[], column: number, sign: string): string {
  const bare = sign.trim();
  if (!bare) return sign;
  const cell = examples.map((r) => r[column] ?? '').find((c) => c.includes(bare)) ?? '';
  const at = cell.indexOf(bare);
  return `${at > 0 && cell[at - 1] === ' ' ? ' ' : ''}${bare}${cell[at + bare.length] === ' ' ? ' ' : ''}`;
}
/** The sign that a heading or explanation names: "separate with |". */
function saidSeparator({ importer, sheet }: ImporterSheet, column: number): string | undefined {
  const text = sheet.rows
    .slice(importer.headerRow - 1, importer.firstDataRow - 1)
    .map((r) => r[column] ?? '')
    .join(' ');
  if (/semi-?colon|semikolon|strichpunkt|punto y coma|point-virgule|puntkomma|średnik/i.test(text)) return ';';
  if (/new ?line|line break|zeilenumbruch|neue zeile|retour à la ligne/i.test(text)) return '\n';
  if (/pipe|vertical bar|senkrecht/i.test(text)) return '|';
  if (/comma|komma|\bcoma\b|virgule|virgola/i.test(text)) return ',';
  return /[(\s“"']([|;/,])[)\s”"']|[(\s“"']([|;/,])$/.exec(text)?.slice(1).find(Boolean);
}

/** Right options in one cell and wrong ones in another. */
export interface Apart {
  right: number;
  wrong: number;
  /** What parts them; null where the cell of the right one holds one alone. */
  rightBy: string | null;
  wrongBy: string;
}
/** Whether a template has the wrong options in one cell beside the right one, as its examples show. */
function splitOf({ importer, sheet, uses }: ImporterSheet): Apart | null {
  const examples = sheet.rows.slice(importer.firstDataRow - 1);
  const only = (...wanted: ColumnUse[]): number | undefined => {
    const all = uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
    return all.length === 1 ? all[0] : undefined;
  };
  const right = only('right option', 'key');
  const wrong = only('wrong option', 'options');
  if (right === undefined || wrong === undefined || uses.includes('option')) return null;
  const wrongBy = partedBy(examples, wrong);
  if (wrongBy === undefined) return null;
  const held = (r: Row): string[] => (r[wrong] ?? '').split(wrongBy).map((x) => x.trim().toLowerCase());
  const rightBy = partedBy(examples, right) ?? null;
  const keysOf = (r: Row): string[] =>
    (rightBy === null ? [r[right] ?? ''] : (r[right] ?? '').split(rightBy)).map((x) => x.trim().toLowerCase()).filter(Boolean);
  // keys that stand among the options, or are letters and numbers of them, belong to options in one cell
  const own = examples.filter((r) => r[right]?.trim() && r[wrong]?.trim());
  return own.length > 0 &&
    own.every((r) => keysOf(r).every((k) => !held(r).includes(k) && !/^(?:[a-h]|\d)$/.test(k) === !/^(?:[a-h]|\d)$/.test(held(r)[0] ?? '')))
    ? { right, wrong, rightBy, wrongBy }
    : null;
}

/** The words for true and false where all example keys are such; null where they are not. */
function truthSigns(examples: readonly Row[], column: number | undefined): [string, string] | null {
  const cells = column === undefined ? [] : examples.map((r) => (r[column] ?? '').trim()).filter(Boolean);
  if (!cells.length || !cells.every((c) => /\p{L}/u.test(c) && truthOf(c) !== null)) return null;
  const [some = ''] = cells;
  const said = (t: boolean): string =>
    cells.find((c) => truthOf(c) === t) ??
    (some === some.toUpperCase() && some.length > 1 ? String(t).toUpperCase() : some.length === 1 ? (t ? 'T' : 'F') : t ? 'True' : 'False');
  return [said(true), said(false)];
}

/** All that is known of how a template is written. */
export interface Ways {
  template: ImporterSheet;
  /** The row of headings, and the example rows. */
  heads: readonly string[];
  examples: readonly Row[];
  grouped: boolean;
  /** The column that holds all options; undefined where each has its own. */
  packed: number | undefined;
  optionColumns: readonly number[];
  keys: readonly number[];
  marks: readonly number[];
  /** Where typed answers stand. */
  typedColumns: readonly number[];
  apart: Apart | null;
  rightFirst: boolean;
  keyForm: KeyForm;
  /** What parts options in one cell, and the same with its blanks. */
  separator: string;
  between: string;
  signs: { right: string; wrong: string };
  /** The template's own words for kinds. */
  named: ReadonlyMap<Kind, string> | null;
  truths: [string, string] | null;
  kinds: readonly Kind[];
  hasOptions: boolean;
  /** Whether answers may be typed. */
  typed: boolean;
  /** What stands in front of the numbers of items: nothing, or as in Q1, Q2. */
  numberPrefix: string;
  /** The usual time, in columns of times; '' in others. */
  usualTimes: readonly string[];
  /** With a row for each option: only the first of an item has its question. */
  questionOnce: boolean;
  /** Options are lettered in the script of their headings. */
  ownLetters: boolean;
  /** The letter of an option, as the template has it. */
  labelOf(i: number): string;
}

/** What is known of how a template is written. */
export function waysOf(template: ImporterSheet): Ways {
  const { importer, sheet, uses, mapping } = template;
  const examples = sheet.rows.slice(importer.firstDataRow - 1);
  const heads = cellsOf(sheet.rows[importer.headerRow - 1]);
  const at = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  const grouped = importer.orientation === 'row-per-option';
  const question = uses.indexOf('question');
  const [packed] = at('options');
  const optionColumns = at('option', 'right option', 'wrong option');
  const [keys, marks, accepted] = [at('key'), at('mark'), at('accepted')];
  const apart = splitOf(template);
  const hasOptions = optionColumns.length > (grouped ? 0 : 1) || packed !== undefined;
  const rightFirst = importer.keyForm === 'first-option' || apart !== null;
  const keyForm = keyFormOf(template);
  const separator = packed === undefined ? '|' : (partedBy(examples, packed) ?? mapping?.separator ?? saidSeparator(template, packed) ?? '|');
  const named = kindsOf(template);
  // a typed answer stands where the key does; without options all that is asked is typed
  const truths = hasOptions ? null : truthSigns(examples, keys[0]);
  const typed = !truths && keys.length + accepted.length > 0 && (!hasOptions || (named?.has('short-answer') ?? false));
  const lower = keyForm === 'letters' && examples.some((r) => keys.some((c) => /^[a-h]$/.test((r[c] ?? '').trim())));
  const ends = optionColumns.map((c) => /(?<!\p{L})(\p{L})\)?$/u.exec(heads[c] ?? '')?.[1]?.toUpperCase() ?? '');
  const ownLetters = ends.length > 1 && new Set(ends).size === ends.length && ends.every(Boolean);
  return {
    template,
    heads,
    examples,
    grouped,
    packed,
    optionColumns,
    keys,
    marks,
    typedColumns: [...keys, ...accepted],
    apart,
    rightFirst,
    keyForm,
    separator,
    between: packed === undefined ? separator : asWritten(examples, packed, separator),
    signs: signsOf(template),
    named,
    truths,
    kinds: possible({ named, hasOptions, several: !rightFirst || Boolean(apart?.rightBy), typed, truths: truths !== null }),
    hasOptions,
    typed,
    numberPrefix: /^(\D{0,8})\d+$/.exec(usual(examples, uses.indexOf('number')))?.[1] ?? '',
    usualTimes: uses.map((u, c) => (u === 'time' ? usual(examples, c) : '')),
    questionOnce: examples.some((r) => !r[question]?.trim() && optionColumns[0] !== undefined && r[optionColumns[0]]?.trim()),
    ownLetters,
    labelOf: (i) => (lower ? letterOf(i).toLowerCase() : ownLetters ? (ends[i] ?? '') : letterOf(i)),
  };
}

/** The kinds that a template can hold. */
function possible(w: { named: ReadonlyMap<Kind, string> | null; hasOptions: boolean; several: boolean; typed: boolean; truths: boolean }): Kind[] {
  const may = (kind: Kind): boolean => w.named?.has(kind) ?? true;
  // without a word of its own, several right options go under that of a choice
  const several = may('multiple-response') || may('multiple-choice');
  return [
    ...(w.hasOptions && may('multiple-choice') ? (['multiple-choice'] as const) : []),
    ...(w.hasOptions && w.several && several ? (['multiple-response'] as const) : []),
    ...(w.typed ? (['short-answer'] as const) : []),
    ...(w.named?.has('essay') ? (['essay'] as const) : []),
    ...(w.truths ? (['true-false'] as const) : []),
  ];
}
