/** Spreadsheets (Office Open XML): the template and its layouts out and in, with a sheet that explains the columns. */
import {
  archiveLimits,
  fileName,
  fitSet,
  gridOf,
  layoutOf,
  openArchive,
  optionRowsOf,
  packArchive,
  playSet,
  ReadError,
  type ReadResult,
  type Row,
  rowsProfile,
  optionRowsProfile,
  choiceSheet,
  choiceSheetProfile,
  setOf,
  template,
  type QuizSet,
  type Profile,
} from '@zakuska/core';
import type { CellValue, Workbook } from 'exceljs';
import type { FileFormat } from './format.js';

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
  const about = book.addWorksheet('Explanation');
  about.columns = [{ width: 24 }, { width: 110 }];
  for (const row of [['Column', 'What stands in it'], ...explained]) about.addRow(row).alignment = { vertical: 'top', wrapText: true };
  about.getRow(1).font = { bold: true };
  const written = openArchive(new Uint8Array(await book.xlsx.writeBuffer()), { ...archiveLimits, ratio: 10_000 });
  // Same set, same bytes: the library writes the time of day into the properties and the archive.
  const decoder = new TextDecoder();
  const encoder = new TextEncoder();
  const files = Object.fromEntries(
    [...written].map(([path, data]) => [
      path,
      path === 'docProps/core.xml'
        ? encoder.encode(decoder.decode(data).replace(/(<dcterms:(?:created|modified)[^>]*>)[^<]*/g, '$11980-01-02T00:00:00Z'))
        : data,
    ]),
  );
  return packArchive(files);
}

/** A cell as it is shown: the result of a formula, the words of rich text, a date as it is written. */
function shown(v: CellValue): string {
  if (v === null || v === undefined) return '';
  if (v instanceof Date) return v.toISOString().slice(0, 10);
  if (typeof v !== 'object') return String(v);
  if ('richText' in v) return v.richText.map((t) => t.text).join('');
  if ('result' in v) return shown(v.result as CellValue);
  if ('text' in v) return shown(v.text as CellValue);
  return '';
}

async function rowsOf(bytes: Uint8Array): Promise<Row[]> {
  // bounds first: the library unpacks without any
  openArchive(bytes);
  const { Workbook } = await library();
  const book = new Workbook();
  try {
    await book.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
  } catch {
    throw new ReadError('this spreadsheet is broken; open it in the program that it comes from and save it again');
  }
  for (const sheet of book.worksheets) {
    const rows: Row[] = [];
    sheet.eachRow({ includeEmpty: true }, (r) => {
      const cells = Array.from({ length: Math.min(r.cellCount, 500) }, (_, i) => shown(r.getCell(i + 1).value));
      rows.push(cells);
    });
    if (layoutOf(rows[0] ?? [])) return rows;
  }
  throw new ReadError('no sheet of this workbook has the headings of a template; the columns cannot be told');
}

const profiles: Record<string, Profile> = { rows: rowsProfile, 'option-rows': optionRowsProfile, choices: choiceSheetProfile };
const about = (columns: readonly { heading: string; about: string }[]): Row[] => columns.map((c) => [c.heading, c.about]);

const sheet = (id: string, name: string, profile: Profile, rows: (set: QuizSet) => Row[], explained: readonly Row[]): FileFormat => ({
  id,
  name,
  extension: '.xlsx',
  mediaType: MEDIA_TYPE,
  profile,
  read: async (bytes): Promise<ReadResult> => setOf(await rowsOf(bytes)),
  play: async (bytes) => {
    const grid = await rowsOf(bytes);
    return { played: playSet(setOf(grid).set), profile: profiles[layoutOf(grid[0] ?? []) ?? 'rows'] ?? profile };
  },
  write: async (set) => ({ bytes: await bytesOf(rows(fitSet(set, profile).set), explained), name: fileName(set.title, '.xlsx') }),
});

export const xlsxFormats: readonly FileFormat[] = [
  sheet('xlsx', 'Spreadsheet, a row for each item', rowsProfile, (set) => gridOf(set, template), about(template)),
  sheet('xlsx-options', 'Spreadsheet, a row for each option', optionRowsProfile, optionRowsOf, about(template)),
  sheet('xlsx-choices', 'Spreadsheet of choices for a game', choiceSheetProfile, (set) => gridOf(set, choiceSheet), about(choiceSheet)),
];
