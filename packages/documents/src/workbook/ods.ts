/** Spreadsheets of OpenDocument (ODF 1.3 part 3, 9: tables) as tables of what they show. */
import { decodeXml, type CellLook, openArchive, ReadError, type Row, type TableSheet, walkXml, type XmlNode } from '@zakuska/core';
import { xmlPart } from '../document.js';
import { Styles } from '../odt/styles.js';
import { looksOf, MOST_COLUMNS, withWords } from './shown.js';

/** Rows that only repeat an empty one, down to the end of the sheet, are not made. */
const MOST_REPEATED = 1000;

/**
 * The sheets of a workbook that are not hidden.
 * @throws ReadError where it is no spreadsheet, or too large unpacked, or has no words in it
 */
export function readOds(bytes: Uint8Array): TableSheet[] {
  const files = openArchive(bytes);
  const content = files.get('content.xml');
  if (!content) throw new ReadError('this file is no whole spreadsheet; open it in the program that it comes from and save it again');
  const xml = decodeXml(content);
  return withWords(readTables(xml, new Styles(xmlPart(files, 'styles.xml'))));
}

function readTables(xml: string, styles: Styles): TableSheet[] {
  const out: TableSheet[] = [];
  const looksNamed = (style: string | undefined): CellLook[] => {
    const { strong, em, under, struck, colour, highlight } = styles.look('table-cell', style, {});
    return looksOf({ bold: strong, italic: em, underline: under, struck, ink: colour, highlight });
  };
  let sheet: { name: string; rows: Row[]; hiddenRows: number[]; hiddenColumns: number[]; looks: Record<string, CellLook[]>; hidden: boolean } | null = null;
  let depth = 0;
  let columns = 0;
  let row: { cells: Row; looks: Map<number, CellLook[]>; repeated: number; hidden: boolean } | null = null;
  let cell: { text: string; repeated: number; covered: boolean; style: string | undefined; paragraphs: number } | null = null;
  let styleTree: XmlNode[] = [];
  let noted = 0;
  let inWords = 0;
  walkXml(xml, {
    open(tag, attributes) {
      if (tag === 'automatic-styles' || styleTree.length) {
        const node: XmlNode = { name: tag, attributes, children: [], line: 0 };
        styleTree[styleTree.length - 1]?.children.push(node);
        styleTree.push(node);
        return;
      }
      // what a note says is no word of its cell
      if (tag === 'annotation' || noted) {
        noted++;
        return;
      }
      if (tag === 'table') {
        if (depth++ > 0) return;
        const hidden = styles.hides(attributes['style-name']);
        sheet = { name: attributes['name'] ?? '', rows: [], hiddenRows: [], hiddenColumns: [], looks: {}, hidden };
        columns = 0;
      } else if (!sheet || depth > 1) return;
      else if (tag === 'table-column') {
        const n = Math.min(Number(attributes['number-columns-repeated'] ?? 1), MOST_COLUMNS);
        for (let i = 0; i < n; i++, columns++) if (/^(?:collapse|filter)$/.test(attributes['visibility'] ?? '')) sheet.hiddenColumns.push(columns);
      } else if (tag === 'table-row')
        row = {
          cells: [],
          looks: new Map(),
          repeated: Number(attributes['number-rows-repeated'] ?? 1),
          hidden: /^(?:collapse|filter)$/.test(attributes['visibility'] ?? ''),
        };
      else if (tag === 'table-cell' || tag === 'covered-table-cell')
        cell = {
          text: '',
          repeated: Number(attributes['number-columns-repeated'] ?? 1),
          covered: tag !== 'table-cell',
          style: attributes['style-name'],
          paragraphs: 0,
        };
      else if (cell && (tag === 'p' || tag === 'h')) {
        if (cell.paragraphs++) cell.text += '\n';
        inWords++;
      } else if (cell && inWords) {
        if (tag === 's') cell.text += ' '.repeat(Math.min(100, Number(attributes['c'] ?? 1)));
        else if (tag === 'tab') cell.text += '\t';
        else if (tag === 'line-break') cell.text += '\n';
      }
    },
    close(tag) {
      if (styleTree.length) {
        const done = styleTree.pop();
        if (!styleTree.length && done) styles.add(done);
        return;
      }
      if (noted) {
        noted--;
        return;
      }
      if ((tag === 'p' || tag === 'h') && inWords) inWords--;
      else if ((tag === 'table-cell' || tag === 'covered-table-cell') && row && cell && depth === 1) {
        const text = cell.covered ? '' : cell.text;
        const look = text.trim() ? looksNamed(cell.style) : [];
        for (let i = 0; i < cell.repeated && row.cells.length < MOST_COLUMNS; i++) {
          if (look.length) row.looks.set(row.cells.length, look);
          row.cells.push(text);
        }
        cell = null;
      } else if (tag === 'table-row' && row && sheet && depth === 1) {
        const empty = row.cells.every((c) => !c.trim());
        const times = empty ? Math.min(row.repeated, MOST_REPEATED) : Math.min(row.repeated, 100 * MOST_REPEATED);
        for (let i = 0; i < times; i++) {
          const r = sheet.rows.length;
          if (row.hidden) sheet.hiddenRows.push(r);
          for (const [c, look] of row.looks) sheet.looks[`${r},${c}`] = look;
          sheet.rows.push([...row.cells]);
        }
        row = null;
      } else if (tag === 'table') {
        depth--;
        if (depth === 0 && sheet) {
          while (sheet.rows.length && sheet.rows[sheet.rows.length - 1]?.every((c) => !c.trim())) sheet.rows.pop();
          const { hidden, ...table } = sheet;
          if (!hidden) out.push({ ...table, rich: {} });
          sheet = null;
        }
      }
    },
    text(t) {
      if (!styleTree.length && !noted && cell && inWords) cell.text += t.replace(/[\t\n\r ]+/g, ' ');
    },
  });
  styleTree = [];
  return out;
}
