/** Tables in a draft: rows between bars, or cells parted by tabs, semicolons or commas. Finds their extent and cells; what they hold is told elsewhere. */
import type { Line } from './lines.js';
import { memoised } from './lines.js';

/** The words of a cell, and where they stand in the line. */
export interface Cell {
  from: number;
  to: number;
  text: string;
}
/** A row of a table with its line. */
export interface Row {
  line: Line;
  cells: Cell[];
}
/** A table in a draft: its lines, the sign between its cells, and its rows. */
export interface TableBlock {
  rows: Row[];
  /** A line of hyphens parts the first row from the others. */
  headed: boolean;
  /** Lines that only part rows. */
  rules: Line[];
  first: number;
  last: number;
  sign: '|' | '\t' | ';' | ',' | '  ';
}

const BAR_RULE = /^\s*(?=.*[-=])[|+]?\s*:?[-=]+:?\s*(?:[|+]\s*:?[-=]+:?\s*)*[|+]?\s*$/;
const isBarRow = (t: string): boolean => /^\s*\|.*\|/.test(t) || (t.match(/\s\|\s/g)?.length ?? 0) >= 2 || (t.match(/\|/g)?.length ?? 0) >= TIGHT_BARS;
/** So many bars in a row part cells without blanks beside them. */
const TIGHT_BARS = 4;
const isTabRow = (t: string): boolean => (t.match(/\t/g)?.length ?? 0) >= 1 && !/^\s*\t/.test(t);
const barRow = (t: string): boolean => t.includes('|') && isBarRow(t);
const tabRow = (t: string): boolean => t.includes('\t') && isTabRow(t);

/** The cells of a line between bars; a bar behind a backslash is none. */
export function barCells(t: string): Cell[] {
  const out: Cell[] = [];
  let from = 0;
  for (let i = 0; i <= t.length; i++) {
    if (i < t.length && t[i] !== '|') continue;
    out.push({ from, to: i, text: t.slice(from, i).trim() });
    from = i + 1;
  }
  if (!out[0]?.text && t.trimStart().startsWith('|')) out.shift();
  if (!out[out.length - 1]?.text && t.trimEnd().endsWith('|')) out.pop();
  return out;
}
/** The cells of a line between signs of another sort. */
export function cellsBy(t: string, sign: string): Cell[] {
  const out: Cell[] = [];
  let from = 0;
  let quoted = false;
  for (let i = 0; i <= t.length; i++) {
    const c = t[i];
    if (sign !== '\t' && c === '"' && (quoted || !t.slice(from, i).trim())) quoted = !quoted;
    if (i < t.length && (c !== sign || quoted)) continue;
    let [a, b] = [from, i];
    const raw = t.slice(a, b);
    const said = /^\s*"([\s\S]*)"\s*$/.exec(raw);
    if (said && sign !== '\t') {
      a += raw.indexOf('"') + 1;
      b = a + (said[1]?.length ?? 0);
    }
    out.push({ from: a, to: b, text: t.slice(a, b).trim() });
    from = i + 1;
  }
  return out;
}

/** Rows parted by a sign that also stands in prose are a table only where neighbours have as many of it. */
const count = (t: string, sign: string): number => {
  let n = 0;
  let quoted = false;
  for (const c of t) {
    if (c === '"') quoted = !quoted;
    else if (c === sign && !quoted) n++;
  }
  return n;
};
const semicolons = (t: string): number => (t.includes(';') ? count(t, ';') : 0);
const commas = (t: string): number => (t.includes(',') && !/,\s/.test(t.replace(/"[^"]*"/g, '')) ? count(t, ',') : 0);

/** Cells parted by wide space. */
function wideCells(t: string): Cell[] {
  const out: Cell[] = [];
  for (const m of t.matchAll(/\S+(?:\s\S+)*/g)) out.push({ from: m.index, to: m.index + m[0].length, text: m[0] });
  return out;
}
/** A row of headings over columns that only wide space parts: it names a question and options, or a key. */
const wideHead = (t: string): number => {
  if (t.length > 200 || !/\S\s{2,}\S/.test(t)) return 0;
  const cells = wideCells(t);
  const letters = cells.filter((c, i) => i > 0 && c.text.length === 1 && /[A-H]/.test(c.text)).length;
  return cells.length >= 4 && letters >= 2 && cells.every((c) => c.text.length < 24) && cells.some((c) => /^\p{L}{4}/u.test(c.text)) ? cells.length : 0;
};

/** All tables of a draft, by their first line. Linear in the text. */
export function tablesOf(lines: readonly Line[]): Map<number, TableBlock> {
  const out = new Map<number, TableBlock>();
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i] as Line;
    if (line.blank) continue;
    const table = tableAt(lines, i);
    if (!table) continue;
    out.set(i, table);
    i = table.last;
  }
  return out;
}
function tableAt(lines: readonly Line[], start: number): TableBlock | null {
  const t = lines[start] as Line;
  const bars = memoised(t, barRow);
  const tabs = !bars && memoised(t, tabRow);
  const semis = !bars && !tabs ? memoised(t, semicolons) : 0;
  const comma = !bars && !tabs && semis < 2 ? memoised(t, commas) : 0;
  const wide = !bars && !tabs && semis < 2 && comma < 2 ? memoised(t, wideHead) : 0;
  if (!bars && !tabs && semis < 2 && comma < 2 && !wide) return null;
  const rows: Row[] = [];
  const rules: Line[] = [];
  let headed = false;
  let i = start;
  let last = start;
  for (; i < lines.length; i++) {
    const l = lines[i] as Line;
    if (bars) {
      if (l.text.length < 400 && BAR_RULE.test(l.text)) {
        if (rows.length === 1) headed = true;
        rules.push(l);
      } else if (memoised(l, barRow) || /^\s*\|/.test(l.text)) rows.push({ line: l, cells: barCells(l.text) });
      else break;
    } else if (tabs) {
      if (l.blank || !l.text.includes('\t')) break;
      rows.push({ line: l, cells: cellsBy(l.text, '\t') });
    } else if (wide) {
      const cells = l.blank ? [] : wideCells(l.text);
      if (i > start && cells.length !== wide) break;
      rows.push({ line: l, cells });
    } else if (semis >= 2) {
      if (memoised(l, semicolons) < 2) break;
      rows.push({ line: l, cells: cellsBy(l.text, ';') });
    } else {
      if (memoised(l, commas) < 2) break;
      rows.push({ line: l, cells: cellsBy(l.text, ',') });
    }
    last = i;
  }
  if (rows.length < 2) return null;
  const sign = wide ? '  ' : bars ? '|' : tabs ? '\t' : semis >= 2 ? ';' : ',';
  if (sign === ';' || sign === ',') {
    // as many cells in nearly every row, and at least three rows
    const widths = rows.map((r) => r.cells.length);
    const common = Math.max(...widths.map((w) => widths.filter((x) => x === w).length));
    if (rows.length < 3 || common < rows.length * 0.7) return null;
  }
  return { rows, headed, rules, first: start, last, sign };
}
