/** Spreadsheets: the template and its layouts as Office Open XML out and in, with a sheet that explains the columns; those of OpenDocument in. */
import {
  fileName,
  type ResultSheet,
  fitSet,
  type Format,
  gridOf,
  layoutOf,
  type Means,
  optionRowsOf,
  playSet,
  type ReadResult,
  type Row,
  rowsProfile,
  optionRowsProfile,
  choiceSheet,
  choiceSheetProfile,
  readTables,
  templateRows,
  template,
  type QuizSet,
  type Profile,
} from '@zakuska/core';
import type { Workbook } from 'exceljs';
import { isOpenDocument } from './document.js';
import { sameBytes } from './sameBytes.js';
import { readOds } from './workbook/ods.js';
import { calculatedOoxml, readOoxml } from './workbook/ooxml.js';

const ODS = 'application/vnd.oasis.opendocument.spreadsheet';
const MEDIA_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
// a library of its own weight, which most people never need
const library = async (): Promise<{ Workbook: new () => Workbook }> => {
  const m = (await import('exceljs')) as unknown as { default?: { Workbook: new () => Workbook }; Workbook?: new () => Workbook };
  return (m.default ?? m) as { Workbook: new () => Workbook };
};

const WIDE = /^(Question|Passage|Feedback|If right|If wrong|Key|Option [A-Z]+|Option)$/;

async function bytesOf(rows: readonly Row[], explained: readonly Row[]): Promise<Uint8Array> {
  const { Workbook } = await library();
  const book = new Workbook();
  book.creator = 'Zakuska';
  const sheet = book.addWorksheet('Items', { views: [{ state: 'frozen', ySplit: 1 }] });
  const [headings = []] = rows;
  sheet.columns = headings.map((h) => ({ width: WIDE.test(h) ? 32 : Math.max(10, h.length + 2) }));
  for (const row of rows) {
    const r = sheet.addRow(row);
    // everything is text: nothing becomes a date or a formula
    r.eachCell({ includeEmpty: false }, (c) => {
      c.numFmt = '@';
      c.alignment = { vertical: 'top', wrapText: true };
    });
  }
  sheet.getRow(1).font = { bold: true };
  if (explained.length) {
    const about = book.addWorksheet('Explanation');
    about.columns = [{ width: 24 }, { width: 110 }];
    for (const row of [['Column', 'What stands in it'], ...explained]) about.addRow(row).alignment = { vertical: 'top', wrapText: true };
    about.getRow(1).font = { bold: true };
  }
  return sameBytes(new Uint8Array(await book.xlsx.writeBuffer()));
}

const WIDEST = 60;
const SHARE = /^share/i;
/** A moment as the clock on the wall shows it: cells know no time zones. */
const wallTime = (at: Date): Date => new Date(at.getTime() - at.getTimezoneOffset() * 60_000);
/** Results as a workbook: a sheet each, headings that stay in sight and can be filtered by, numbers and times as such, times of the zone of whoever writes it. */
export async function resultsWorkbook(sheets: readonly ResultSheet[]): Promise<Uint8Array> {
  const { Workbook } = await library();
  const book = new Workbook();
  book.creator = 'Zakuska';
  for (const { name, rows } of sheets) {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1, xSplit: 1 }] });
    const headings = rows[0] ?? [];
    const width = (n: number): number =>
      Math.min(WIDEST, Math.max(8, ...rows.slice(0, 200).map((r) => (r[n] instanceof Date ? 16 : String(r[n] ?? '').length + 2))));
    sheet.columns = headings.map((_, n) => ({ width: width(n) }));
    for (const row of rows)
      sheet.addRow(row.map((c) => (c instanceof Date ? wallTime(c) : c))).eachCell({ includeEmpty: false }, (c, column) => {
        // words are text, whatever they begin with: nothing becomes a formula
        if (typeof c.value === 'string') c.numFmt = '@';
        if (c.value instanceof Date) c.numFmt = 'yyyy-mm-dd hh:mm';
        if (typeof c.value === 'number' && SHARE.test(String(headings[column - 1]))) c.numFmt = '0.0%';
      });
    sheet.getRow(1).font = { bold: true };
    if (headings.length) sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: Math.max(1, rows.length), column: headings.length } };
  }
  return sameBytes(new Uint8Array(await book.xlsx.writeBuffer()));
}

/** Workbooks for services: one sheet, all of it text. */
export const workbook: Means['workbook'] = {
  write: (rows) => bytesOf(rows, []),
  read: (bytes) => readOoxml(bytes)[0]?.rows.map((r) => [...r]) ?? [],
};

const profiles: Record<string, Profile> = { rows: rowsProfile, 'option-rows': optionRowsProfile, choices: choiceSheetProfile };
const about = (columns: readonly { heading: string; about: string }[]): Row[] => columns.map((c) => [c.heading, c.about]);

const sheet = (id: string, name: string, profile: Profile, rows: (set: QuizSet) => Row[], explained: readonly Row[]): Format => ({
  id,
  name,
  extension: '.xlsx',
  mediaType: MEDIA_TYPE,
  profile,
  tables: calculatedOoxml,
  read: async (bytes): Promise<ReadResult> => readTables(await calculatedOoxml(bytes)),
  play: async (bytes) => {
    const sheets = readOoxml(bytes);
    const own = sheets.map(templateRows).find((r) => r !== null);
    return { played: playSet(readTables(sheets).set), profile: profiles[layoutOf(own?.[0] ?? []) ?? 'rows'] ?? profile };
  },
  write: async (set) => ({ bytes: await bytesOf(rows(fitSet(set, profile).set), explained), name: fileName(set.title, '.xlsx') }),
});

export const xlsxFormats: readonly Format[] = [
  {
    ...sheet('xlsx', 'Spreadsheet, a row for each item', rowsProfile, (set) => gridOf(set, template), about(template)),
    recognises: (f) => (f.startsWith('PK') && (/\.xlsx$/i.test(f.name) || f.endHolds('xl/workbook.xml')) ? 0.85 : 0),
  },
  sheet('xlsx-options', 'Spreadsheet, a row for each option', optionRowsProfile, optionRowsOf, about(template)),
  sheet('xlsx-choices', 'Spreadsheet of choices for a game', choiceSheetProfile, (set) => gridOf(set, choiceSheet), about(choiceSheet)),
  {
    id: 'ods',
    name: 'OpenDocument spreadsheet',
    extension: '.ods',
    mediaType: ODS,
    recognises: (f) => (isOpenDocument(f, ODS) ? 0.95 : 0),
    tables: async (bytes) => readOds(bytes),
    read: async (bytes) => readTables(readOds(bytes)),
  },
];
