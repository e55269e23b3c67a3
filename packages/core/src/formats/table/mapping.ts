/** Which column of a table is what, where its rows begin and how they make up items: what a person agrees to, and what reading goes by. */
import type { KeyLook } from '../../draft/surface/stretch.js';
import { stripEnd } from '../../item/strip.js';
import type { Row } from './grid.js';
import type { ColumnUse } from './headings.js';
import type { KeyForm } from './keyCells.js';

/** A look of a cell that may say whether what it holds is right: those of keys, and struck through. */
export type CellLook = KeyLook | 'struck';

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
  looks?: Readonly<Record<string, readonly CellLook[]>>;
  /** What is noted at cells, by "row,column". */
  notes?: Readonly<Record<string, string>>;
  /** What the file lets people write into its cells (data validation). */
  rules?: readonly CellRule[];
}

/** A rule for what may stand in the cells of columns: so many characters, one of a list. */
export interface CellRule {
  /** First and last column (0-based). */
  columns: readonly [number, number];
  kind: 'length' | 'list';
  /** Characters at most. */
  most?: number;
  values?: readonly string[];
}

/**
 * How rows make up items: a row an item; rows that belong together by their number or question, each with an option, a pair or a
 * step; options in the rows below a question, in the question's own column; question and options packed into one cell.
 */
export const tableLayouts = ['row', 'grouped', 'below', 'packed'] as const;
/** How rows make up items. */
export type TableLayout = (typeof tableLayouts)[number];

/** Which column holds what, where the rows with questions begin, and how the key is said. */
export interface Mapping {
  /** The row (0-based) that names the columns, the last of them where there are two; −1 where none does. What stands above it is left alone. */
  header: number;
  columns: ColumnUse[];
  layout: TableLayout;
  keyForm: KeyForm;
  /** What parts the options in one cell; a line break where it is '\n'. */
  separator: string;
  /** Rows and columns that the file hides are read too. */
  hidden: boolean;
  /** The two signs for true and false, in small letters, where they are not the usual words. */
  truthSigns?: [string, string];
}

/** A mapping of nothing: to start from by hand. @param columns how many there are */
export const blankMapping = (columns: number): Mapping => ({
  header: -1,
  columns: Array.from({ length: columns }, () => 'ignore' as const),
  layout: 'row',
  keyForm: 'letters',
  separator: '|',
  hidden: false,
});

/** A mapping that was asked for, with what a person has said since it was: that holds. @param before as it was when it was asked for, @param now as it is */
export function withSaidSince(before: Mapping, now: Mapping, proposed: Mapping): Mapping {
  const said = Object.fromEntries(Object.entries(now).filter(([field, value]) => field !== 'columns' && value !== before[field as keyof Mapping]));
  return { ...proposed, ...said, columns: proposed.columns.map((use, i) => (now.columns[i] !== before.columns[i] ? (now.columns[i] ?? use) : use)) };
}

/** The cells of a row without blanks around them. */
export const cellsOf = (row: Row | undefined): string[] => (row ?? []).map((c) => c.trim());

/** What may part the options in one cell, the surest first; a blank stands for the label in front of each. */
export const optionSeparators = ['\n', '|', ';', ' ', ' / ', '/', ','] as const;

/** The pieces of a cell that holds several options. @param separator one of `optionSeparators`, or any other sign */
export function optionsIn(cell: string, separator: string): string[] {
  const at = separator === '\n' ? /\r?\n/ : separator === ' ' ? /(?:^|\s)(?=[([]?[A-Ha-h1-8][.)\]]\s)/ : separator.trim();
  return cell
    .split(at)
    .map((p) => p.trim())
    .filter(Boolean);
}

/** The label in front of an option. */
export const OPTION_LABEL = /^[([]?([A-Za-z]|\d{1,2})[.)\]:]\s*/;
/** Options without the letters in front of them, where each has its own. */
export function unlabelled(options: readonly string[]): string[] {
  const labelled = options.every((o, i) => {
    const m = OPTION_LABEL.exec(o);
    const label = m?.[1] ?? '';
    return m && m[0].length < o.length && (/\d/.test(label) ? Number(label) === i + 1 : label.toUpperCase().charCodeAt(0) - 65 === i);
  });
  return labelled && options.length > 1 ? options.map((o) => o.replace(OPTION_LABEL, '')) : [...options];
}

/** The same layout has the same signature: the headings, or the number of columns where there are none. */
export const signatureOf = (sheet: TableSheet, mapping: Pick<Mapping, 'header' | 'columns'>): string =>
  mapping.header >= 0
    ? stripEnd(
        cellsOf(sheet.rows[mapping.header])
          .map((c) => c.toLowerCase().replace(/\s+/g, ' '))
          .join('\u001f'),
        /\u001f/,
      )
    : `columns ${mapping.columns.length}`;
