/** CSV and TSV (RFC 4180): delimiter, quotes and encoding are detected; cells that a spreadsheet would take for formulas are kept from it. */
import Papa from 'papaparse';
import { decodeText } from '../format.js';
import type { Row } from './grid.js';

/** A cell that begins so is run as a formula by spreadsheets. A number is none. */
const FORMULA = /^'*[=+\-@\t\r]/;
const NUMBER = /^[+-]?(\d+([.,]\d+)?|[.,]\d+)(e[+-]?\d+)?$/i;
const guarded = (cell: string): string => (FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell);
const unguarded = (cell: string): string => (cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell);

/** A table as text with CRLF line ends, as the RFC has them, and a byte-order mark, by which spreadsheets know UTF-8. */
export const csvText = (rows: readonly Row[], delimiter: ',' | '\t' | ';' = ','): string =>
  `\uFEFF${Papa.unparse(
    rows.map((r) => r.map(guarded)),
    { delimiter, newline: '\r\n' },
  )}\r\n`;

/** The rows of a text; ragged ones as they are. */
export function rowsOf(bytes: Uint8Array): Row[] {
  const text = decodeText(bytes).replace(/^\uFEFF/, '');
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy', delimitersToGuess: [',', '\t', ';', '|'] });
  return data.map((r) => r.map(unguarded));
}
