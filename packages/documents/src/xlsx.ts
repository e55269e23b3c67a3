/** Spreadsheets: the template and its layouts as Office Open XML out and in, with a sheet that explains the columns; those of OpenDocument in. */
import {
  fileName,
  fitSet,
  layoutFormat,
  type Format,
  type Means,
  playSet,
  type ReadResult,
  readTables,
  type ResultSheet,
  type Row,
  type OwnLayout,
  ownLayouts,
  ownTable,
} from '@zakuska/core';
import { isOpenDocument } from './document.js';
import { readOds } from './workbook/ods.js';
import { calculatedOoxml, readOoxml } from './workbook/ooxml.js';
import { type SheetContent, writeWorkbook } from './workbook/write.js';

const ODS = 'application/vnd.oasis.opendocument.spreadsheet';
const MEDIA_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

const WIDE = /^(Question|Passage|Feedback|If right|If wrong|Key|Option [A-Z]+|Option)$/;

function bytesOf(rows: readonly Row[], explained: readonly Row[]): Uint8Array {
  const [headings = []] = rows;
  const look: SheetContent['look'] = (_, row) => (row === 0 ? 'wrapped heading' : 'wrapped');
  return writeWorkbook([
    { name: 'Items', widths: headings.map((h) => (WIDE.test(h) ? 32 : Math.max(10, h.length + 2))), rows, look, frozen: { rows: 1, columns: 0 } },
    ...(explained.length ? [{ name: 'Explanation', widths: [24, 110], rows: [['Column', 'What stands in it'], ...explained], look }] : []),
  ]);
}

const WIDEST = 60;
const SHARE = /^share/i;
/** A moment as the clock on the wall shows it. */
const wallTime = (at: Date): Date => new Date(at.getTime() - at.getTimezoneOffset() * 60_000);
/** Results as a workbook: a sheet each, headings that stay in sight and can be filtered by, numbers and times as such, times of the zone of whoever writes it. */
export function resultsWorkbook(sheets: readonly ResultSheet[]): Uint8Array {
  return writeWorkbook(
    sheets.map(({ name, rows }) => {
      const headings = rows[0] ?? [];
      const width = (n: number): number =>
        Math.min(WIDEST, Math.max(8, ...rows.slice(0, 200).map((r) => (r[n] instanceof Date ? 16 : String(r[n] ?? '').length + 2))));
      return {
        name,
        widths: headings.map((_, n) => width(n)),
        rows: rows.map((row) => row.map((c) => (c instanceof Date ? wallTime(c) : c))),
        look: (value, row, column) =>
          row === 0
            ? 'heading'
            : value instanceof Date
              ? 'moment'
              : typeof value === 'number'
                ? SHARE.test(String(headings[column]))
                  ? 'share'
                  : 'plain'
                : 'text',
        frozen: { rows: 1, columns: 1 },
        filtered: headings.length > 0,
      } satisfies SheetContent;
    }),
  );
}

/** Workbooks for services: one sheet, all of it text. */
export const workbook: Means['workbook'] = {
  write: async (rows) => bytesOf(rows, []),
  read: (bytes) => readOoxml(bytes)[0]?.rows.map((r) => [...r]) ?? [],
};

const about = (columns: readonly { heading: string; about: string }[]): Row[] => columns.map((c) => [c.heading, c.about]);

const sheet = ({ id, name, columns, profile, rows }: OwnLayout): Format => ({
  id: layoutFormat('xlsx', id),
  name: `Spreadsheet, ${name}`,
  extension: '.xlsx',
  mediaType: MEDIA_TYPE,
  profile,
  tables: calculatedOoxml,
  read: async (bytes): Promise<ReadResult> => readTables(await calculatedOoxml(bytes)),
  play: async (bytes) => {
    const sheets = readOoxml(bytes);
    const own = sheets.map(ownTable).find((t) => t !== null);
    return { played: playSet(readTables(sheets).set), profile: own?.layout.profile ?? profile };
  },
  write: (set) => ({ bytes: bytesOf(rows(fitSet(set, profile).set), about(columns)), name: fileName(set.title, '.xlsx') }),
});

const [usual, ...others] = ownLayouts as [OwnLayout, ...OwnLayout[]];
export const xlsxFormats: readonly Format[] = [
  {
    ...sheet(usual),
    recognises: (f) => (f.startsWith('PK') && (/\.xlsx$/i.test(f.name) || f.endHolds('xl/workbook.xml')) ? 0.85 : 0),
  },
  ...others.map(sheet),
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
