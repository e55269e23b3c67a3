/**
 * Writes rows into a sheet of a workbook that is there (Office Open XML, ECMA-376 part 1, 18.3). Only the part of that sheet is
 * written anew: rules, notes, looks and other sheets stay byte for byte.
 */
import { DOMParser, type Element, XMLSerializer } from '@xmldom/xmldom';
import { decodeXml, letterOf, openArchive, packArchive, ReadError } from '@zakuska/core';
import { columnOf, placeOfSheet } from './ooxml.js';

/** A cell to write: a text, a number, or nothing where it is ''. */
export type Cell = string | number;

const children = (e: Element, name: string): Element[] => [...e.childNodes].filter((n): n is Element => (n as Element).localName === name);
/** The row of a reference such as "B7". */
const rowOf = (reference: string): number => Number(/\d+/.exec(reference)?.[0] ?? 0);
const columnOfCell = (c: Element): number => columnOf(c.getAttribute('r') ?? '');

/**
 * Puts rows in place of those from `first` on. Cells take the looks of the first row that was there; what is computed by a formula in
 * columns that are not written stays.
 * @param first 1-based
 * @throws ReadError where the workbook has no such sheet, or it cannot be read
 */
export function fillSheet(bytes: Uint8Array, sheetName: string, first: number, rows: readonly (readonly Cell[])[]): Uint8Array {
  const files = openArchive(bytes);
  const path = placeOfSheet(files, sheetName);
  const part = path === undefined ? undefined : files.get(path);
  if (path === undefined || !part) throw new ReadError(`this workbook has no sheet “${sheetName}”`);
  const document = new DOMParser({ onError: () => undefined }).parseFromString(decodeXml(part), 'text/xml');
  const root = document.documentElement;
  const data = root && children(root, 'sheetData')[0];
  if (!root || !data) throw new ReadError('this workbook cannot be filled as it is; open it in a spreadsheet program, save it as XLSX and try again');
  const namespace = data.namespaceURI;
  const make = (name: string): Element => document.createElementNS(namespace, root.prefix ? `${root.prefix}:${name}` : name);

  const below = children(data, 'row').filter((r) => Number(r.getAttribute('r') ?? 0) >= first);
  const looks = new Map<number, string>();
  for (const c of below[0] ? children(below[0], 'c') : []) {
    const s = c.getAttribute('s');
    if (s !== null) looks.set(columnOfCell(c), s);
  }
  const written = new Set(rows.flatMap((r) => r.flatMap((v, c) => (v === '' ? [] : [c]))));
  const before = new Map(below.map((r) => [Number(r.getAttribute('r')), r]));
  /** A row as it is to be: what is written, and formulas beside it. */
  const rowAt = (n: number, values: readonly Cell[]): Element | null => {
    const row = before.get(n) ?? make('row');
    row.setAttribute('r', String(n));
    row.removeAttribute('spans');
    const kept = new Map(children(row, 'c').flatMap((c) => (children(c, 'f').length && !written.has(columnOfCell(c)) ? [[columnOfCell(c), c]] : [])));
    while (row.firstChild) row.removeChild(row.firstChild);
    const width = Math.max(values.length, ...[...kept.keys()].map((c) => c + 1));
    for (let c = 0; c < width; c++) {
      const value = values[c] ?? '';
      const cell = kept.get(c) ?? (value === '' ? null : cellOf(`${letterOf(c)}${n}`, value, looks.get(c)));
      if (cell) row.appendChild(cell);
    }
    return row.firstChild ? row : null;
  };
  const cellOf = (reference: string, value: Cell, look: string | undefined): Element => {
    const c = make('c');
    c.setAttribute('r', reference);
    if (look !== undefined) c.setAttribute('s', look);
    if (typeof value === 'number') {
      const v = make('v');
      v.textContent = String(value);
      c.appendChild(v);
      return c;
    }
    c.setAttribute('t', 'inlineStr');
    const is = make('is');
    const t = make('t');
    t.setAttribute('xml:space', 'preserve');
    t.textContent = value;
    is.appendChild(t);
    c.appendChild(is);
    return c;
  };
  const last = Math.max(first + rows.length - 1, ...before.keys(), 0);
  for (const r of below) data.removeChild(r);
  for (let n = first; n <= last; n++) {
    const row = rowAt(n, rows[n - first] ?? []);
    if (row) data.appendChild(row);
  }
  // cells that were joined among the examples
  for (const merges of children(root, 'mergeCells')) {
    for (const m of children(merges, 'mergeCell')) if (rowOf(m.getAttribute('ref') ?? '') >= first) merges.removeChild(m);
    if (!children(merges, 'mergeCell').length) root.removeChild(merges);
  }
  // how far the sheet goes is worked out anew by whoever opens it
  for (const d of children(root, 'dimension')) root.removeChild(d);
  const out = new Map(files);
  out.set(path, new TextEncoder().encode(new XMLSerializer().serializeToString(document)));
  dropChain(out);
  return packArchive(Object.fromEntries(out));
}

/** The order in which formulas are computed may name cells that are gone; spreadsheets make it anew. */
function dropChain(files: Map<string, Uint8Array>): void {
  if (!files.delete('xl/calcChain.xml')) return;
  const without = (path: string, pattern: RegExp): void => {
    const bytes = files.get(path);
    if (bytes) files.set(path, new TextEncoder().encode(decodeXml(bytes).replace(pattern, '')));
  };
  without('[Content_Types].xml', /<Override\b[^<>]*calcChain[^<>]*\/>/);
  without('xl/_rels/workbook.xml.rels', /<Relationship\b[^<>]*calcChain[^<>]*\/>/);
}
