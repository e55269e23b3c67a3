/** CSV and TSV (RFC 4180): delimiter, quotes and encoding are detected; cells that a spreadsheet would take for formulas are kept from it. */
import Papa from 'papaparse';
import { decodeText } from '../encoding.js';
import type { Row } from './grid.js';

/** A cell that begins so is run as a formula by spreadsheets, with full-width signs by some. A number is none. (OWASP, "CSV injection", from memory.) */
const FORMULA = /^'*[=+\-@\t\r\n＝＋－＠]/;
const NUMBER = /^[+-]?(\d+([.,]\d+)?|[.,]\d+)(e[+-]?\d+)?$/i;
const guarded = (cell: string): string => (FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell);
const unguarded = (cell: string): string => (cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell);

/** A table as text with CRLF line ends, as the RFC has them, and a byte-order mark, by which spreadsheets know UTF-8. */
export const csvText = (rows: readonly Row[], delimiter: ',' | '\t' | ';' = ','): string =>
  `\uFEFF${Papa.unparse(
    rows.map((r) => r.map(guarded)),
    { delimiter, newline: '\r\n' },
  )}\r\n`;

const DELIMITERS = ['\t', ';', '|', ','];
/** The sign that parts the cells: the one that gives most lines the same number of cells, of those the most cells. */
function delimiterOf(text: string): string {
  // "sep=;" in the first line is how spreadsheets are told
  const said = /^sep=(.)\r?\n/i.exec(text)?.[1];
  if (said) return said;
  const head = text.slice(0, 20_000);
  let best = { sign: ',', score: 0 };
  for (const sign of DELIMITERS) {
    const { data } = Papa.parse<string[]>(head, { delimiter: sign, skipEmptyLines: 'greedy', preview: 60 });
    const counts = new Map<number, number>();
    for (const r of data) counts.set(r.length, (counts.get(r.length) ?? 0) + 1);
    const [cells, times] = [...counts].filter(([n]) => n > 1).sort((a, b) => b[1] - a[1])[0] ?? [0, 0];
    const score = (times / Math.max(1, data.length)) * (1 + Math.log(Math.max(1, cells)));
    if (score > best.score + 1e-9) best = { sign, score };
  }
  return best.sign;
}

/** The rows of a text, empty ones too, so that their numbers stay; ragged ones as they are. */
export function rowsOf(bytes: Uint8Array): Row[] {
  const text = decodeText(bytes).replace(/^\uFEFF/, '');
  const delimiter = delimiterOf(text);
  const body = text.replace(/^sep=.\r?\n/i, '');
  const { data } = Papa.parse<string[]>(body, { delimiter });
  while (data.length && data[data.length - 1]?.every((c) => !c)) data.pop();
  // in place: a large table has hundreds of thousands of cells
  for (const row of data) for (let i = 0; i < row.length; i++) if (row[i]?.startsWith("'")) row[i] = unguarded(row[i] as string);
  return data;
}

/**
 * The text of a template with rows in place of its examples: headings and explanations as they stood, the same sign between cells, the
 * same line ends, a byte-order mark where there was one. Cells are written as they are: the service takes them so.
 */
export function filledCsv(template: string, kept: number, rows: readonly Row[]): string {
  const mark = template.startsWith('\uFEFF') ? '\uFEFF' : '';
  const text = template.replace(/^\uFEFF/, '');
  const [said = ''] = /^sep=.\r?\n/i.exec(text) ?? [];
  const delimiter = delimiterOf(text);
  const newline = text.includes('\r\n') ? '\r\n' : '\n';
  const above = Papa.parse<string[]>(text.slice(said.length), { delimiter, preview: kept }).data;
  return `${mark}${said}${Papa.unparse([...above, ...rows], { delimiter, newline })}${newline}`;
}
