/**
 * Results of formulas that a workbook was saved without, as programs write them that do not calculate (npm fast-formula-parser, the
 * functions of Office Open XML). What cannot be worked out shows nothing.
 */
import type { Row } from '@zakuska/core';

/** Formulas of a sheet without a result, by place "row,column", 0-based. */
export type Pending = ReadonlyMap<string, string>;
/** A sheet as far as formulas need it. */
export interface Calculated {
  name: string;
  rows: Row[];
  pending: Pending;
}

/** Formulas that are worked out at most, characters of each, and how far one may lead to another. */
const MOST = { formulas: 50_000, length: 2000, depth: 60, cells: 100_000 };

interface Parser {
  parse(formula: string, at: { sheet: string; row: number; col: number }): unknown;
}
interface Place {
  sheet?: string;
  row: number;
  col: number;
}
interface Range {
  sheet?: string;
  from: { row: number; col: number };
  to: { row: number; col: number };
}
type Cell = string | number | boolean | null;

const valueOf = (text: string): Cell => (text === '' ? null : /^-?\d{1,15}(?:\.\d{1,15})?$/.test(text) ? Number(text) : text);
const textOf = (value: unknown): string =>
  typeof value === 'number' && Number.isFinite(value)
    ? String(Number(value.toPrecision(12)))
    : typeof value === 'boolean'
      ? String(value).toUpperCase()
      : typeof value === 'string'
        ? value
        : '';

/** Puts the results into the rows. Sheets without such formulas stay as they are. */
export async function calculate(sheets: readonly Calculated[]): Promise<void> {
  if (!sheets.some((s) => s.pending.size)) return;
  // @ts-expect-error the package brings no types
  const { default: FormulaParser } = (await import('fast-formula-parser')) as unknown as {
    default: new (hooks: { onCell: (at: Place) => Cell; onRange: (range: Range) => Cell[][] }) => Parser;
  };
  const known = new Map<string, Cell>();
  let left = MOST.formulas;
  let depth = 0;
  const sheetAt = (name: string | undefined): Calculated | undefined => sheets.find((s) => s.name.toLowerCase() === name?.toLowerCase());
  /** @param row, col 1-based, as the library counts */
  const cell = (sheet: Calculated | undefined, row: number, col: number): Cell => {
    const formula = sheet?.pending.get(`${row - 1},${col - 1}`);
    if (!sheet || formula === undefined) return valueOf(sheet?.rows[row - 1]?.[col - 1] ?? '');
    const key = `${sheet.name} ${row},${col}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    // a formula that leads to itself shows nothing
    known.set(key, null);
    if (left-- <= 0 || depth >= MOST.depth || formula.length > MOST.length) return null;
    depth++;
    let found: Cell = null;
    try {
      found = valueOf(textOf(parser.parse(formula, { sheet: sheet.name, row, col })));
    } catch {
      // a function that is not known, or a formula that is none
    }
    depth--;
    known.set(key, found);
    return found;
  };
  const parser = new FormulaParser({
    onCell: ({ sheet, row, col }) => cell(sheetAt(sheet), row, col),
    onRange({ sheet: name, from, to }) {
      const sheet = sheetAt(name);
      const last = Math.min(to.row, sheet?.rows.length ?? 0);
      const width = Math.min(to.col, from.col + MOST.cells) - from.col + 1;
      if ((last - from.row + 1) * width > MOST.cells) return [];
      return Array.from({ length: Math.max(0, last - from.row + 1) }, (_, r) =>
        Array.from({ length: width }, (_c, c) => cell(sheet, from.row + r, from.col + c)),
      );
    },
  });
  for (const sheet of sheets)
    for (const place of sheet.pending.keys()) {
      const [row = 0, column = 0] = place.split(',').map(Number);
      const text = textOf(cell(sheet, row + 1, column + 1));
      if (!text) continue;
      while (sheet.rows.length <= row) sheet.rows.push([]);
      const cells = sheet.rows[row] as string[];
      while (cells.length < column) cells.push('');
      cells[column] = text;
    }
}
