/**
 * Workbooks of Office Open XML (ECMA-376, transitional and strict) as tables of what they show. Lenient, as the programs are that open
 * them: parts may be missing, references and styles too; what is there is read.
 */
import {
  type CellRule,
  childOf,
  childrenOf,
  decodeXml,
  descendants,
  type CellLook,
  openArchive,
  ReadError,
  resolvePath,
  richFromPlain,
  type Row,
  sanitiseRich,
  standsOut,
  type TableSheet,
  textOf,
  walkXml,
  type XmlNode,
} from '@zakuska/core';
import { xmlPart } from '../document.js';
import { flag, val } from '../val.js';
import { calculate, type Pending } from './formulas.js';
import { type LetterLook, looksOf, MOST_COLUMNS, shownNumber, withWords } from './shown.js';

/** Rows of a sheet at most (ECMA-376 leaves it open; what the known programs hold, from memory). */
const MOST_ROWS = 1_048_576;

const broken = (): ReadError => new ReadError('this spreadsheet is broken; open it in the program that it comes from and save it again');

/**
 * The sheets of a workbook that are not hidden.
 * @throws ReadError where it is no workbook, or too large unpacked, or has no words in it
 */
export const readOoxml = (bytes: Uint8Array): TableSheet[] => finished(openSheets(bytes));

/** The same with the results of formulas that were saved without one. */
export async function calculatedOoxml(bytes: Uint8Array): Promise<TableSheet[]> {
  const opened = openSheets(bytes);
  await calculate(opened.map(({ sheet, pending }) => ({ name: sheet.name, rows: sheet.rows as Row[], pending })));
  return finished(opened);
}

/** A sheet as it stands in the file. */
interface OpenSheet {
  sheet: TableSheet;
  /** Formulas without a result. */
  pending: Pending;
}
function openSheets(bytes: Uint8Array): OpenSheet[] {
  const files = byPath(openArchive(bytes));
  const book = part(files, 'xl/workbook.xml');
  const places = sheetPlaces(files, book);
  if (!places.length) throw broken();
  const strings = stringsOf(files.get('xl/sharedstrings.xml'));
  const styles = new CellStyles(part(files, 'xl/styles.xml'), themeColours(files));
  const properties = book ? childOf(book, 'workbookPr')?.attributes : undefined;
  const from1904 = /^(?:1|true)$/.test(properties?.['date1904'] ?? '');
  return places.map(({ name, path }) => {
    const { sheet, pending } = readSheet(name, decodeXml(files.get(path) ?? new Uint8Array()), strings, styles, from1904);
    const notes = notesOf(files, path);
    return { sheet: Object.keys(notes).length ? { ...sheet, notes } : sheet, pending };
  });
}
function finished(opened: readonly OpenSheet[]): TableSheet[] {
  const sheets = opened.map((o) => o.sheet);
  // a list of a rule may stand in cells of any sheet
  return withWords(sheets.map((s) => ({ ...s, ...(s.rules && { rules: s.rules.map((r) => withValues(r, s, sheets)) }) })));
}

/** What is noted at the cells of a sheet: its old-style comments. */
function notesOf(files: ReadonlyMap<string, Uint8Array>, sheet: string): Record<string, string> {
  const name = sheet.slice(sheet.lastIndexOf('/') + 1);
  const links = part(files, `xl/worksheets/_rels/${name}.rels`);
  const target = (links ? childrenOf(links) : [])
    .map((l) => l.attributes['Target'] ?? '')
    .find((t) => /^comments?\d*\.xml$/i.test(t.slice(t.lastIndexOf('/') + 1)));
  const path = target && resolvePath(sheet, target)?.toLowerCase();
  const root = path ? part(files, path) : null;
  return Object.fromEntries(
    (root ? descendants(root, 'comment') : []).map((c) => {
      const at = c.attributes['ref'];
      return [`${Number(/\d+/.exec(at ?? '')?.[0] ?? 1) - 1},${columnOf(at)}`, textOf(c).trim()];
    }),
  );
}

/** The values of a list that a rule takes from cells: "Lists!$A$1:$A$4". */
function withValues(rule: CellRule, own: TableSheet, sheets: readonly TableSheet[]): CellRule {
  const range = /^=?(?:'?([^'!]+)'?!)?\$?([A-Z]+)\$?(\d+):\$?([A-Z]+)\$?(\d+)$/.exec(rule.values?.length === 1 ? (rule.values[0] ?? '') : '');
  if (rule.kind !== 'list' || !range) return rule;
  const sheet = range[1] ? sheets.find((s) => s.name === range[1]) : own;
  const [left, right] = [columnOf(range[2]), columnOf(range[4])];
  const rows = sheet?.rows.slice(Number(range[3]) - 1, Math.min(Number(range[5]), Number(range[3]) + 200)) ?? [];
  return { ...rule, values: rows.flatMap((r) => r.slice(left, right + 1)).filter(Boolean) };
}

/** Paths in small letters with slashes, for some programs write them otherwise. */
const byPath = (files: ReadonlyMap<string, Uint8Array>): Map<string, Uint8Array> =>
  new Map([...files].map(([path, data]) => [path.replace(/\\/g, '/').replace(/^\//, '').toLowerCase(), data]));

/** A part that may be missing or unreadable. */
function part(files: ReadonlyMap<string, Uint8Array>, path: string): XmlNode | null {
  try {
    return xmlPart(files, path);
  } catch {
    return null;
  }
}

/** Where a sheet of this name lies in the archive; undefined where there is none. */
export const placeOfSheet = (files: ReadonlyMap<string, Uint8Array>, name: string): string | undefined =>
  sheetPlaces(files, part(files, 'xl/workbook.xml')).find((s) => s.name === name)?.path;

/** The sheets that are shown, in order: by the workbook's list, else the sheets that lie there. */
function sheetPlaces(files: ReadonlyMap<string, Uint8Array>, book: XmlNode | null): { name: string; path: string }[] {
  const targets = new Map<string, string>();
  const links = part(files, 'xl/_rels/workbook.xml.rels');
  for (const l of links ? childrenOf(links) : []) {
    const target = (l.attributes['Target'] ?? '').replace(/\\/g, '/').toLowerCase();
    targets.set(l.attributes['Id'] ?? '', target.startsWith('/') ? target.slice(1) : `xl/${target}`);
  }
  const lying = [...files.keys()]
    .filter((p) => /^xl\/worksheets\/[^/]+\.xml$/.test(p))
    .sort((a, b) => Number(/\d+/.exec(a)?.[0] ?? 0) - Number(/\d+/.exec(b)?.[0] ?? 0));
  const sheets = book ? descendants(book, 'sheet') : [];
  const named = sheets.map((s, i) => ({
    name: s.attributes['name'] ?? '',
    hidden: /hidden/i.test(s.attributes['state'] ?? ''),
    path: [targets.get(s.attributes['id'] ?? ''), `xl/worksheets/sheet${s.attributes['sheetId'] ?? i + 1}.xml`, lying[i]].find(
      (p) => p !== undefined && files.has(p),
    ),
  }));
  const found = named.flatMap(({ name, hidden, path }) => (path && !hidden && /worksheet|sheet/.test(path) ? [{ name, path }] : []));
  return found.length || named.length ? found : lying.map((path, i) => ({ name: `Sheet ${i + 1}`, path }));
}

/** Words that cells share: plain, and as rich text where a part of them has a look of its own. */
interface Words {
  text: string;
  rich: string | null;
  /** The look of all its letters, where its parts say one. */
  look: LetterLook | null;
}

function stringsOf(file: Uint8Array | undefined): (Words | string)[] {
  const out: (Words | string)[] = [];
  // one entry at a time: a bank has hundreds of thousands of them
  const stack: XmlNode[] = [];
  if (file)
    walkXml(decodeXml(file), {
      open(name, attributes) {
        if (!stack.length && name !== 'si') return;
        const node: XmlNode = { name, attributes, children: [], line: 0 };
        stack[stack.length - 1]?.children.push(node);
        stack.push(node);
      },
      close() {
        const done = stack.pop();
        if (!done || stack.length) return;
        const words = wordsOf(done);
        out.push(words.look || words.rich ? words : words.text);
      },
      text: (t) => void stack[stack.length - 1]?.children.push(t),
    });
  return out;
}
/** "_x000D_" stands for a character by its number (ECMA-376 part 1, 22.4.2.4). */
const unescaped = (text: string): string =>
  text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex: string) => (hex === '000D' ? '' : String.fromCharCode(parseInt(hex, 16))));

function wordsOf(si: XmlNode): Words {
  const runs = childrenOf(si, 'r');
  const text = unescaped(runs.length ? runs.map((r) => textOf(childOf(r, 't') ?? EMPTY)).join('') : textOf(childOf(si, 't') ?? EMPTY));
  if (!runs.length) return { text, rich: null, look: null };
  const looks = runs.map((r) => fontLook(childOf(r, 'rPr') ?? EMPTY));
  const same = (what: keyof LetterLook): boolean => runs.every((r, i) => looks[i]?.[what] || !textOf(r).trim());
  const look: LetterLook = {
    bold: same('bold'),
    italic: same('italic'),
    underline: same('underline'),
    struck: same('struck'),
    ...(same('ink') && looks.find((l) => l.ink)?.ink && { ink: looks.find((l) => l.ink)?.ink ?? '' }),
  };
  return { text, rich: runs.length > 1 ? richOf(runs, looks) : null, look };
}
const EMPTY: XmlNode = { name: '', attributes: {}, children: [], line: 0 };

/** Rich text where a part of the words has a look of its own: sub- and superscript, bold, italic, underline. */
function richOf(runs: readonly XmlNode[], looks: readonly LetterLook[]): string | null {
  const parts = runs.map((r, i) => {
    let html = richFromPlain(unescaped(textOf(childOf(r, 't') ?? EMPTY)));
    const place = val(childOf(r, 'rPr'), 'vertAlign');
    if (place === 'subscript') html = `<sub>${html}</sub>`;
    if (place === 'superscript') html = `<sup>${html}</sup>`;
    if (looks[i]?.underline) html = `<u>${html}</u>`;
    if (looks[i]?.italic) html = `<em>${html}</em>`;
    if (looks[i]?.bold) html = `<strong>${html}</strong>`;
    return html;
  });
  return parts.some((p) => p.startsWith('<') && !p.startsWith('<br')) ? sanitiseRich(parts.join('')) : null;
}

/** How a font or the properties of a run make letters look. */
function fontLook(font: XmlNode, theme: readonly string[] = []): LetterLook {
  const ink = colourOf(childOf(font, 'color'), theme);
  return { bold: flag(font, 'b'), italic: flag(font, 'i'), underline: flag(font, 'u'), struck: flag(font, 'strike'), ...(ink && { ink }) };
}

/** The palette that old files number (ECMA-376 part 1, 18.8.27), from 8 on; from memory. */
const PALETTE =
  '000000 FFFFFF FF0000 00FF00 0000FF FFFF00 FF00FF 00FFFF 800000 008000 000080 808000 800080 008080 C0C0C0 808080 9999FF 993366 FFFFCC CCFFFF 660066 FF8080 0066CC CCCCFF 000080 FF00FF FFFF00 00FFFF 800080 800000 008080 0000FF 00CCFF CCFFFF CCFFCC FFFF99 99CCFF FF99CC CC99FF FFCC99 3366FF 33CCCC 99CC00 FFCC00 FF9900 FF6600 666699 969696 003366 339966 003300 333300 993300 993366 333399 333333'.split(
    ' ',
  );
function colourOf(e: XmlNode | undefined, theme: readonly string[]): string | undefined {
  if (!e) return undefined;
  const { rgb, indexed, theme: place } = e.attributes;
  if (rgb) return rgb.slice(-6);
  if (indexed !== undefined) return PALETTE[Number(indexed) < 8 ? Number(indexed) : Number(indexed) - 8];
  return place === undefined ? undefined : theme[Number(place)];
}
/** The colours of the theme in the order in which cells number them: light and dark change places (ECMA-376 part 1, 18.8.3; from memory). */
function themeColours(files: ReadonlyMap<string, Uint8Array>): string[] {
  const root = part(files, 'xl/theme/theme1.xml');
  const scheme = root ? descendants(root, 'clrScheme')[0] : undefined;
  const all = (scheme ? childrenOf(scheme) : []).map((c) => {
    const own = childrenOf(c)[0]?.attributes ?? {};
    return own['lastClr'] ?? own['val'] ?? '';
  });
  const [dark1 = '', light1 = '', dark2 = '', light2 = '', ...rest] = all;
  return [light1, dark1, light2, dark2, ...rest];
}

/** What the styles of cells say: how numbers are shown, how cells look. */
class CellStyles {
  private readonly formats: (string | number)[] = [];
  private readonly looks: LetterLook[] = [];

  constructor(root: XmlNode | null, theme: readonly string[]) {
    const list = (name: string): readonly XmlNode[] => {
      const group = root && childOf(root, name);
      return group ? childrenOf(group) : [];
    };
    const codes = new Map(list('numFmts').map((f) => [f.attributes['numFmtId'] ?? '', f.attributes['formatCode'] ?? '']));
    const fonts = list('fonts').map((f) => fontLook(f, theme));
    const grounds = list('fills').map((f) => {
      const pattern = childOf(f, 'patternFill');
      return pattern?.attributes['patternType'] === 'solid' ? colourOf(childOf(pattern, 'fgColor'), theme) : undefined;
    });
    for (const xf of list('cellXfs')) {
      const id = xf.attributes['numFmtId'] ?? '0';
      this.formats.push(codes.get(id) ?? Number(id));
      const ground = grounds[Number(xf.attributes['fillId'] ?? -1)];
      this.looks.push({ ...fonts[Number(xf.attributes['fontId'] ?? -1)], ...(ground && standsOut(ground) && { highlight: true }) });
    }
  }
  format(style: string | undefined): string | number | undefined {
    return this.formats[Number(style ?? 0)];
  }
  look(style: string | undefined): LetterLook {
    return this.looks[Number(style ?? 0)] ?? {};
  }
}

/** The column (0-based) of a reference such as "AB12"; −1 for none. */
export function columnOf(reference: string | undefined): number {
  let n = 0;
  for (const c of reference ?? '') {
    const code = c.toUpperCase().charCodeAt(0) - 64;
    if (code < 1 || code > 26) break;
    n = n * 26 + code;
  }
  return n - 1;
}

interface OpenCell {
  column: number;
  type: string;
  style: string | undefined;
  value: string;
  formula: string;
  inline: XmlNode | null;
}

function readSheet(name: string, xml: string, strings: readonly (Words | string)[], styles: CellStyles, from1904: boolean): OpenSheet {
  const rows: Row[] = [];
  const hiddenRows: number[] = [];
  const hiddenColumns: number[] = [];
  const rich: Record<string, string> = {};
  const looks: Record<string, CellLook[]> = {};
  const merged: string[] = [];
  const rules: CellRule[] = [];
  const pending = new Map<string, string>();
  let rule: { attributes: Record<string, string>; formulas: string[] } | null = null;
  let row = -1;
  let cell: OpenCell | null = null;
  let field = '';
  let next = 0;
  const stack: XmlNode[] = [];
  const put = (c: OpenCell): void => {
    if (row < 0 || row >= MOST_ROWS || c.column >= MOST_COLUMNS) return;
    const found = c.type === 's' ? strings[Number(c.value)] : c.inline ? wordsOf(c.inline) : undefined;
    const words = typeof found === 'string' ? undefined : found;
    const text = typeof found === 'string' ? found : (words?.text ?? shown(c, styles, from1904));
    if (!text && c.formula && c.type !== 'e') pending.set(`${row},${c.column}`, c.formula);
    if (!text) return;
    while (rows.length <= row) rows.push([]);
    const cells = rows[row] as Row;
    while (cells.length < c.column) cells.push('');
    cells[c.column] = text;
    const at = `${row},${c.column}`;
    if (words?.rich) rich[at] = words.rich;
    const look = { ...styles.look(c.style), ...words?.look };
    const own = looksOf(look);
    if (own.length) looks[at] = own;
  };
  walkXml(xml, {
    open(tag, attributes) {
      if (stack.length || (cell && tag === 'is')) {
        const node: XmlNode = { name: tag, attributes, children: [], line: 0 };
        stack[stack.length - 1]?.children.push(node);
        stack.push(node);
        return;
      }
      if (tag === 'row') {
        const said = Number(attributes['r']);
        row = Number.isInteger(said) && said > 0 && said <= MOST_ROWS ? said - 1 : row + 1;
        next = 0;
        if (isTrue(attributes['hidden']) || attributes['ht'] === '0') hiddenRows.push(row);
      } else if (tag === 'c') {
        const at = columnOf(attributes['r']);
        cell = { column: at >= 0 ? at : next, type: attributes['t'] ?? 'n', style: attributes['s'], value: '', formula: '', inline: null };
        next = cell.column + 1;
      } else if (tag === 'v') field = 'v';
      else if (tag === 'f') field = 'f';
      else if (tag === 'col' && isTrue(attributes['hidden']))
        for (let i = Number(attributes['min']) - 1; i < Math.min(Number(attributes['max']), MOST_COLUMNS); i++) hiddenColumns.push(i);
      else if (tag === 'dataValidation') rule = { attributes, formulas: [] };
      else if (rule && (tag === 'formula1' || tag === 'formula2')) {
        rule.formulas.push('');
        field = 'formula';
      } else if (tag === 'mergeCell') merged.push(attributes['ref'] ?? '');
    },
    close(tag) {
      if (stack.length) {
        const done = stack.pop();
        if (!stack.length && cell && done) cell.inline = done;
      } else if (tag === 'v' || tag === 'f') field = '';
      else if (tag === 'formula1' || tag === 'formula2') field = '';
      else if (tag === 'dataValidation' && rule) {
        rules.push(...rulesOf(rule.attributes, rule.formulas));
        rule = null;
      } else if (tag === 'c' && cell) {
        put(cell);
        cell = null;
      }
    },
    text(t) {
      if (stack.length) stack[stack.length - 1]?.children.push(t);
      else if (field === 'v' && cell) cell.value += t;
      else if (field === 'f' && cell) cell.formula += t;
      else if (field === 'formula' && rule) rule.formulas[rule.formulas.length - 1] += t;
    },
  });
  for (const range of merged) clearMerged(rows, range);
  return { sheet: { name, rows: Array.from(rows, (r) => r ?? []), hiddenRows, hiddenColumns, rich, looks, ...(rules.length && { rules }) }, pending };
}

/** Rules of lengths and lists (ECMA-376 part 1, 18.3.1.32); others say nothing that is used here. */
function rulesOf({ type = '', operator = 'between', sqref = '' }: Record<string, string>, [first = '', second = '']: readonly string[]): CellRule[] {
  const most = Number(operator === 'between' ? second : first) - (operator === 'lessThan' ? 1 : 0);
  const values = first.startsWith('"')
    ? first
        .slice(1, -1)
        .split(/[,;]/)
        .map((v) => v.trim())
    : [first];
  return sqref
    .split(/\s+/)
    .filter(Boolean)
    .flatMap((range): CellRule[] => {
      const [from, to = from] = range.split(':');
      const columns = [columnOf(from), columnOf(to)] as const;
      if (type === 'list') return [{ columns, kind: 'list', values }];
      return type === 'textLength' && /between|lessThan/.test(operator) && most > 0 ? [{ columns, kind: 'length', most }] : [];
    });
}
const isTrue = (value: string | undefined): boolean => /^(?:1|true|on)$/i.test(value ?? '');

/** A cell as it is shown: the result of a formula, a number or date in its format. */
function shown({ type, value, style }: OpenCell, styles: CellStyles, from1904: boolean): string {
  if (value === '') return '';
  if (type === 'str') return unescaped(value);
  if (type === 'b') return value === '1' || value === 'true' ? 'TRUE' : 'FALSE';
  if (type === 'd') return value.replace(/T.*/, '');
  if (type === 'e') return '';
  const n = Number(value);
  return Number.isFinite(n) ? shownNumber(n, styles.format(style), from1904) : value;
}

/** Cells that are merged show their words once: those of the first. */
function clearMerged(rows: readonly Row[], range: string): void {
  const [from, to] = range.split(':');
  const [top, bottom] = [from, to].map((r) => Number(/\d+/.exec(r ?? '')?.[0] ?? 0) - 1);
  const [left, right] = [columnOf(from), columnOf(to)];
  if (top === undefined || bottom === undefined || top < 0) return;
  for (let r = top; r <= Math.min(bottom, rows.length - 1); r++) {
    const cells = rows[r];
    if (cells) for (let c = left; c <= Math.min(right, cells.length - 1); c++) if (r !== top || c !== left) cells[c] = '';
  }
}
