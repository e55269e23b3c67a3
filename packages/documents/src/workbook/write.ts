/**
 * Workbooks of Office Open XML (ECMA-376 part 1, 18: SpreadsheetML) with a handful of looks. Rows become XML one after the other and
 * words stand once, so that a hundred thousand rows need little more memory than their words. Same sheets, same bytes.
 */
import { escapeXml, letterOf, packArchive } from '@zakuska/core';

/** What stands in a cell; nothing where it is null, undefined or ''. A date is written as its UTC clock shows it: cells know no time zones. */
export type Value = string | number | Date | null | undefined;

/** The looks of cells: where each stands in `cellXfs` (18.8.10), with its font, number format and whether it is wrapped. */
const LOOKS = {
  plain: { font: 0, format: 0, wrapped: false },
  /** Text whatever it looks like: nothing becomes a date or a formula. */
  text: { font: 0, format: 49, wrapped: false },
  wrapped: { font: 0, format: 49, wrapped: true },
  heading: { font: 1, format: 49, wrapped: false },
  'wrapped heading': { font: 1, format: 49, wrapped: true },
  moment: { font: 0, format: 164, wrapped: false },
  share: { font: 0, format: 165, wrapped: false },
} as const;
/** One of the looks of a cell. */
export type Look = keyof typeof LOOKS;
const lookNames = Object.keys(LOOKS) as Look[];

/** A sheet: its rows from the first on, how wide its columns are (in characters), how a cell looks, what stays in sight. */
export interface SheetContent {
  name: string;
  widths: readonly number[];
  rows: Iterable<readonly Value[]>;
  look(value: Value, row: number, column: number): Look;
  /** Rows and columns that stay when the rest is scrolled. */
  frozen?: { rows: number; columns: number };
  /** Whether the first row offers to filter by its columns. */
  filtered?: boolean;
}

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const SPREADSHEET = 'application/vnd.openxmlformats-officedocument.spreadsheetml';

/** Characters that XML cannot hold are written by their numbers, and so is what would be read as such a number (22.4.2.4, ST_Xstring). */
const UNHELD = /[\u0000-\u0008\u000b-\u001f\ufffe\uffff]|_(?=x[0-9A-Fa-f]{4}_)/g;
const heldXml = (text: string): string => escapeXml(text.replace(UNHELD, (c) => `_x${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}_`));

/** Day 0 of the usual calendar of workbooks (18.17.4.1). */
const EPOCH = Date.UTC(1899, 11, 30);
const DAY = 86_400_000;

/** Bytes of texts put one behind the other, in pieces of about a megabyte. */
class Bytes {
  private readonly encoder = new TextEncoder();
  private readonly pieces: Uint8Array[] = [];
  private held: string[] = [];
  private length = 0;

  add(text: string): void {
    this.held.push(text);
    this.length += text.length;
    if (this.length > 1e6) this.flush();
  }
  private flush(): void {
    this.pieces.push(this.encoder.encode(this.held.join('')));
    this.held = [];
    this.length = 0;
  }
  all(): Uint8Array {
    this.flush();
    const out = new Uint8Array(this.pieces.reduce((sum, p) => sum + p.length, 0));
    let at = 0;
    for (const p of this.pieces) {
      out.set(p, at);
      at += p.length;
    }
    return out;
  }
}

/** Words by the number that cells name them by (18.4.9). */
class SharedStrings {
  private readonly numbers = new Map<string, number>();
  private readonly xml = new Bytes();

  constructor() {
    this.xml.add(`${HEAD}<sst xmlns="${MAIN}">`);
  }
  numberOf(text: string): number {
    const known = this.numbers.get(text);
    if (known !== undefined) return known;
    const number = this.numbers.size;
    this.numbers.set(text, number);
    this.xml.add(`<si><t${/^\s|\s$|\n/.test(text) ? ' xml:space="preserve"' : ''}>${heldXml(text)}</t></si>`);
    return number;
  }
  all(): Uint8Array {
    this.xml.add('</sst>');
    return this.xml.all();
  }
}

function sheetXml(sheet: SheetContent, strings: SharedStrings): Uint8Array {
  const xml = new Bytes();
  const { rows: frozenRows = 0, columns: frozenColumns = 0 } = sheet.frozen ?? {};
  const pane =
    frozenRows || frozenColumns
      ? `<pane${frozenColumns ? ` xSplit="${frozenColumns}"` : ''}${frozenRows ? ` ySplit="${frozenRows}"` : ''} topLeftCell="${letterOf(frozenColumns)}${frozenRows + 1}" activePane="${
          frozenRows && frozenColumns ? 'bottomRight' : frozenRows ? 'bottomLeft' : 'topRight'
        }" state="frozen"/>`
      : '';
  xml.add(`${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0">${pane}</sheetView></sheetViews><sheetFormatPr defaultRowHeight="15"/>`);
  if (sheet.widths.length) xml.add(`<cols>${sheet.widths.map((w, i) => `<col min="${i + 1}" max="${i + 1}" width="${w}" customWidth="1"/>`).join('')}</cols>`);
  xml.add('<sheetData>');
  let row = 0;
  let width = 0;
  const letters: string[] = [];
  for (const values of sheet.rows) {
    row++;
    width = Math.max(width, values.length);
    let cells = '';
    values.forEach((value, column) => {
      if (value === null || value === undefined || value === '') return;
      const at = `${(letters[column] ??= letterOf(column))}${row}`;
      const look = lookNames.indexOf(sheet.look(value, row - 1, column));
      const style = look ? ` s="${look}"` : '';
      if (typeof value === 'string') cells += `<c r="${at}"${style} t="s"><v>${strings.numberOf(value)}</v></c>`;
      else cells += `<c r="${at}"${style}><v>${value instanceof Date ? (value.getTime() - EPOCH) / DAY : value}</v></c>`;
    });
    xml.add(`<row r="${row}">${cells}</row>`);
  }
  xml.add('</sheetData>');
  if (sheet.filtered && width) xml.add(`<autoFilter ref="A1:${letterOf(width - 1)}${Math.max(1, row)}"/>`);
  xml.add('</worksheet>');
  return xml.all();
}

const styles = `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="2"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd hh:mm"/><numFmt numFmtId="165" formatCode="0.0%"/></numFmts><fonts count="2"><font><sz val="11"/><name val="Calibri"/><family val="2"/></font><font><b/><sz val="11"/><name val="Calibri"/><family val="2"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="${lookNames.length}">${Object.values(
  LOOKS,
)
  .map(
    (l) =>
      `<xf numFmtId="${l.format}" fontId="${l.font}" fillId="0" borderId="0" xfId="0" applyNumberFormat="1" applyFont="1"${
        l.wrapped ? ' applyAlignment="1"><alignment vertical="top" wrapText="1"/></xf>' : '/>'
      }`,
  )
  .join('')}</cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`;

/** A workbook of sheets. Names of sheets are cut to the 31 characters that programs take, signs that they refuse become blanks. */
export function writeWorkbook(sheets: readonly SheetContent[]): Uint8Array {
  const encoder = new TextEncoder();
  const strings = new SharedStrings();
  const parts = sheets.map((s) => sheetXml(s, strings));
  const each = (one: (number: number, name: string) => string): string =>
    sheets
      .map((s, i) =>
        one(
          i + 1,
          heldXml(
            s.name
              .replace(/[[\]:*?/\\]/g, ' ')
              .slice(0, 31)
              .trim(),
          ),
        ),
      )
      .join('');
  const related = (id: string, type: string, target: string): string => `<Relationship Id="${id}" Type="${type}" Target="${target}"/>`;
  const part = (path: string, type: string): string => `<Override PartName="/${path}" ContentType="${type}"/>`;
  const texts: Record<string, string> = {
    '[Content_Types].xml': `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${part('xl/workbook.xml', `${SPREADSHEET}.sheet.main+xml`)}${each((n) => part(`xl/worksheets/sheet${n}.xml`, `${SPREADSHEET}.worksheet+xml`))}${part('xl/styles.xml', `${SPREADSHEET}.styles+xml`)}${part('xl/sharedStrings.xml', `${SPREADSHEET}.sharedStrings+xml`)}${part('docProps/core.xml', 'application/vnd.openxmlformats-package.core-properties+xml')}</Types>`,
    '_rels/.rels': `${HEAD}<Relationships xmlns="${PACKAGE}/relationships">${related('rId1', `${OFFICE}/officeDocument`, 'xl/workbook.xml')}${related('rId2', `${PACKAGE}/relationships/metadata/core-properties`, 'docProps/core.xml')}</Relationships>`,
    'docProps/core.xml': `${HEAD}<cp:coreProperties xmlns:cp="${PACKAGE}/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:creator>Zakuska</dc:creator></cp:coreProperties>`,
    'xl/workbook.xml': `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><bookViews><workbookView/></bookViews><sheets>${each((n, name) => `<sheet name="${name}" sheetId="${n}" r:id="rId${n}"/>`)}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${HEAD}<Relationships xmlns="${PACKAGE}/relationships">${each((n) => related(`rId${n}`, `${OFFICE}/worksheet`, `worksheets/sheet${n}.xml`))}${related(`rId${sheets.length + 1}`, `${OFFICE}/styles`, 'styles.xml')}${related(`rId${sheets.length + 2}`, `${OFFICE}/sharedStrings`, 'sharedStrings.xml')}</Relationships>`,
    'xl/styles.xml': styles,
  };
  return packArchive({
    ...Object.fromEntries(Object.entries(texts).map(([path, text]) => [path, encoder.encode(text)])),
    'xl/sharedStrings.xml': strings.all(),
    ...Object.fromEntries(parts.map((bytes, i) => [`xl/worksheets/sheet${i + 1}.xml`, bytes])),
  });
}
