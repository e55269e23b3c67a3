/** Spreadsheets (Office Open XML): the template and its layouts out and in, with a sheet that explains the columns. */
import {
  archiveLimits,
  fileName,
  fitSet,
  type Format,
  gridOf,
  layoutOf,
  type KeyLook,
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
  readTables,
  richFromPlain,
  sanitiseRich,
  standsOut,
  type TableSheet,
  templateRows,
  template,
  type QuizSet,
  type Profile,
} from '@zakuska/core';
import type { Cell, CellValue, Font, Workbook } from 'exceljs';
import SSF from 'ssf';

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
        ? encoder.encode(decoder.decode(data).replace(/(<dcterms:(?:created|modified)[^<>]*>)[^<]*/g, '$11980-01-02T00:00:00Z'))
        : data,
    ]),
  );
  return packArchive(files);
}

/** A value as its cell shows it (ECMA-376 part 1, 18.8.30: number formats), by the formatter that spreadsheets' own files are read with elsewhere. */
function formatted(v: number | Date, format: string | undefined): string {
  if (typeof v === 'number' && (!format || format === 'General' || format === '@')) return String(Number(v.toPrecision(15)));
  // serial days since the last day of 1899
  const n = v instanceof Date ? v.getTime() / 86_400_000 + 25_569 : v;
  try {
    // a full stop between day and month would be read as a fraction of seconds
    return SSF.format(
      v instanceof Date && (!format || format === 'General') ? 'yyyy-mm-dd' : (format ?? 'General').replace(/(?<=[dmy])\.(?=[dmy])/gi, '"."'),
      n,
    ).trim();
  } catch {
    return v instanceof Date ? v.toISOString().slice(0, 10) : String(v);
  }
}

/** A cell as it is shown: the result of a formula, the words of rich text, a number or date in its format. */
function shown(v: CellValue, format: string | undefined): string {
  if (v === null || v === undefined) return '';
  if (v instanceof Date || typeof v === 'number') return formatted(v, format);
  if (typeof v === 'boolean') return v ? 'TRUE' : 'FALSE';
  if (typeof v !== 'object') return String(v);
  if ('richText' in v) return v.richText.map((t) => t.text).join('');
  if ('formula' in v || 'sharedFormula' in v) return shown((v as { result?: CellValue }).result ?? null, format);
  if ('text' in v) return shown(v.text as CellValue, format);
  return '';
}
/** Rich text where a part of the words has a look of its own: sub- and superscript, bold, italic, underline. */
function richOf(v: CellValue): string | null {
  if (v === null || typeof v !== 'object' || !('richText' in v) || v.richText.length < 2) return null;
  const parts = v.richText.map(({ text, font }) => {
    let html = richFromPlain(text);
    if (font?.vertAlign === 'subscript') html = `<sub>${html}</sub>`;
    if (font?.vertAlign === 'superscript') html = `<sup>${html}</sup>`;
    if (font?.underline) html = `<u>${html}</u>`;
    if (font?.italic) html = `<em>${html}</em>`;
    if (font?.bold) html = `<strong>${html}</strong>`;
    return html;
  });
  return parts.some((p) => p.startsWith('<') && !p.startsWith('<br')) ? sanitiseRich(parts.join('')) : null;
}

/** How a cell stands out as a whole. */
function looksOf(c: Cell): KeyLook[] {
  const parts = typeof c.value === 'object' && c.value && 'richText' in c.value ? c.value.richText.map((t) => t.font ?? {}) : [c.font ?? {}];
  const all = (test: (f: Partial<Font>) => boolean): boolean => parts.length > 0 && parts.every(test);
  const ground = c.fill?.type === 'pattern' && c.fill.pattern === 'solid' ? (c.fill.fgColor?.argb ?? '').slice(-6) : '';
  const out: KeyLook[] = [];
  if (all((f) => f.bold === true)) out.push('bold');
  if (ground && standsOut(ground)) out.push('highlight');
  if (all((f) => Boolean(f.color?.argb) && standsOut((f.color?.argb ?? '').slice(-6)))) out.push('colour');
  if (all((f) => Boolean(f.underline))) out.push('underline');
  if (all((f) => f.italic === true)) out.push('italic');
  return out;
}

/** The sheets of a workbook as they are shown; sheets that are hidden are left out. */
async function sheetsOf(bytes: Uint8Array): Promise<TableSheet[]> {
  // bounds first: the library unpacks without any
  openArchive(bytes);
  const { Workbook } = await library();
  const book = new Workbook();
  try {
    await book.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
  } catch {
    throw new ReadError('this spreadsheet is broken; open it in the program that it comes from and save it again');
  }
  const out: TableSheet[] = [];
  for (const sheet of book.worksheets) {
    if (sheet.state !== 'visible') continue;
    const rows: Row[] = [];
    const hiddenRows: number[] = [];
    const rich: Record<string, string> = {};
    const looks: Record<string, KeyLook[]> = {};
    sheet.eachRow({ includeEmpty: false }, (r, number) => {
      while (rows.length < number - 1) rows.push([]);
      const cells: Row = [];
      r.eachCell({ includeEmpty: false }, (c, column) => {
        if (column > MOST_COLUMNS) return;
        while (cells.length < column - 1) cells.push('');
        // cells that are merged show their words once
        const own = !c.isMerged || c.master === c;
        cells.push(own ? shown(c.value, c.numFmt) : '');
        const look = own ? richOf(c.value) : null;
        if (look) rich[`${number - 1},${column - 1}`] = look;
        const out = own ? looksOf(c) : [];
        if (out.length) looks[`${number - 1},${column - 1}`] = out;
      });
      if (r.hidden) hiddenRows.push(number - 1);
      rows.push(cells);
    });
    const hiddenColumns = Array.from({ length: Math.min(sheet.columnCount, MOST_COLUMNS) }, (_, i) => i).filter((i) => sheet.getColumn(i + 1).hidden);
    if (rows.some((r) => r.some((c) => c.trim()))) out.push({ name: sheet.name, rows, hiddenRows, hiddenColumns, rich, looks });
  }
  if (!out.length) throw new ReadError('this workbook has no words in it');
  return out;
}
const MOST_COLUMNS = 500;

const profiles: Record<string, Profile> = { rows: rowsProfile, 'option-rows': optionRowsProfile, choices: choiceSheetProfile };
const about = (columns: readonly { heading: string; about: string }[]): Row[] => columns.map((c) => [c.heading, c.about]);

const sheet = (id: string, name: string, profile: Profile, rows: (set: QuizSet) => Row[], explained: readonly Row[]): Format => ({
  id,
  name,
  extension: '.xlsx',
  mediaType: MEDIA_TYPE,
  profile,
  tables: sheetsOf,
  read: async (bytes): Promise<ReadResult> => readTables(await sheetsOf(bytes)),
  play: async (bytes) => {
    const sheets = await sheetsOf(bytes);
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
];
