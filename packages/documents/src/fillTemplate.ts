/** A service's import template filled with a set: the same file with the items in place of its examples, read back and answered. */
import {
  correctedImporter,
  decodeText,
  type Fit,
  filledCsv,
  fillingOf,
  fitSet,
  type ImporterCorrection,
  type ImporterSheet,
  playSet,
  type QuizSet,
  ReadError,
  readImporter,
  type Rehearsal,
  rehearse,
  type Row,
  setLosses,
  type SetLoss,
  type TableSheet,
} from '@zakuska/core';
import { fillSheet } from './workbook/fill.js';

/** A template that was filled. */
export interface Filled {
  bytes: Uint8Array;
  /** What became of each item of the set, in their order. */
  fits: Fit[];
  /** What of the set itself stays behind. */
  ofSet: SetLoss[];
  /** The file as it was written, answered. */
  rehearsal: Rehearsal;
}

/**
 * Fills a template.
 * @param tables reads the tables of a file, by its name
 * @param name file name of the template: what it is written as is what it is
 * @param correction what a person says of it
 * @throws ReadError where the template is not understood, or of a kind that cannot be written
 */
export async function fillTemplate(
  bytes: Uint8Array,
  name: string,
  set: QuizSet,
  tables: (bytes: Uint8Array, name: string) => Promise<TableSheet[]>,
  correction?: ImporterCorrection,
): Promise<Filled> {
  const understood = readImporter(await tables(bytes, name));
  const template = correction ? correctedImporter(understood, correction) : understood;
  const filling = fillingOf(template);
  const { set: fitted, fits } = fitSet(set, filling.profile);
  const rows = filling.rowsOf(fitted);
  const zip = bytes[0] === 0x50 && bytes[1] === 0x4b;
  if (zip && !/\.xlsx$/i.test(name)) throw new ReadError('a template can be filled as XLSX, CSV or TSV; save it as one of these');
  const written = zip ? intoWorkbook(bytes, template, rows) : filledCsv(textOf(bytes), template, rows);
  // what counts is the file: it is read as it was written
  const back = (await tables(written, name)).find((s) => s.name === template.sheet.name);
  const there = back?.rows.slice(template.importer.firstDataRow - 1).filter((r) => r.some((c) => c.trim())) ?? [];
  const width = template.uses.length;
  const whole = there.map((r): Row => Array.from({ length: width }, (_, c) => r[c] ?? ''));
  return {
    bytes: written,
    fits,
    ofSet: setLosses(set, filling.profile),
    rehearsal: rehearse(playSet(filling.readBack(whole, set.language)), set, filling.profile),
  };
}

/** The text of a file, with the byte-order mark that it has. */
const textOf = (bytes: Uint8Array): string => `${bytes[0] === 0xef && bytes[1] === 0xbb ? '\uFEFF' : ''}${decodeText(bytes).replace(/^\uFEFF/, '')}`;

/** Uses whose cells are numbers where they look like ones: rules of a sheet ask for numbers, not for their digits. */
const COUNTS = new Set(['number', 'points', 'time']);

function intoWorkbook(bytes: Uint8Array, { importer, sheet, uses }: ImporterSheet, rows: readonly Row[]): Uint8Array {
  const counts = (c: number): boolean => COUNTS.has(uses[c] ?? '') || (uses[c] === 'key' && importer.keyForm === 'number');
  return fillSheet(
    bytes,
    sheet.name,
    importer.firstDataRow,
    rows.map((row) => row.map((text, c) => (counts(c) && /^-?\d+(?:\.\d+)?$/.test(text) ? Number(text) : text))),
  );
}
