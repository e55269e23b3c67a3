/** The letters of a page as lines in reading order: columns, tables between rules, blanks drawn as rules. */
import { type Look, useOf } from '@zakuska/core';
import type { Box, Glyph, Page } from './page.js';

/** Letters of one line that stand together, without a gap wide enough for a column. */
export interface Segment extends Box {
  glyphs: Glyph[];
  baseline: number;
  size: number;
  /** Where blanks that stood behind its last letter end. */
  blankTo?: number;
}
export interface TextLine extends Box {
  segments: Segment[];
  baseline: number;
  size: number;
  /** Where tabs lead to on its page. */
  stops?: TabStops;
}
export interface Grid extends Box {
  /** Cells by row and column, with the letters in them. */
  rows: Glyph[][][];
}
export type Block = { line: TextLine } | { grid: Grid };

const boundsOf = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map((b) => b.left)),
  right: Math.max(...boxes.map((b) => b.right)),
  top: Math.min(...boxes.map((b) => b.top)),
  bottom: Math.max(...boxes.map((b) => b.bottom)),
});

/** The size of most letters. */
function usualSize(glyphs: readonly Glyph[]): number {
  const count = new Map<number, number>();
  for (const g of glyphs) count.set(Math.round(g.size * 2) / 2, (count.get(Math.round(g.size * 2) / 2) ?? 0) + 1);
  return [...count].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 11;
}

/** Letters on one height, each line from left to right; small raised and lowered ones belong to the line that they stand at. */
export function rowsOf(glyphs: readonly Glyph[]): Glyph[][] {
  const sorted = [...glyphs].sort((a, b) => a.baseline - b.baseline || a.left - b.left);
  const rows: { baseline: number; size: number; glyphs: Glyph[] }[] = [];
  for (const g of sorted) {
    const row = rows.findLast((r) => Math.abs(r.baseline - g.baseline) < Math.max(r.size, g.size) * 0.35 || rows.length > 60 * 1000);
    const near = row ?? null;
    if (near && Math.abs(near.baseline - g.baseline) < Math.min(near.size, g.size) * 0.3) {
      near.glyphs.push(g);
      continue;
    }
    rows.push({ baseline: g.baseline, size: g.size, glyphs: [g] });
  }
  // what is smaller, and touches a line without standing on its height, is raised or lowered
  const lines: typeof rows = [];
  const taken = new Set<(typeof rows)[number]>();
  for (const r of rows) {
    const host = rows.find(
      (o) =>
        o !== r &&
        o.size * 0.85 > r.size &&
        Math.abs(o.baseline - r.baseline) < o.size * 0.6 &&
        r.glyphs.every(
          (g) =>
            o.glyphs.some((h) => Math.abs(h.right - g.left) < o.size || Math.abs(h.left - g.right) < o.size || (h.left <= g.left && g.left <= h.right)) ||
            r.glyphs.some((h) => h !== g && Math.abs(h.right - g.left) < r.size),
        ),
    );
    if (host) {
      for (const g of r.glyphs) g.script = r.baseline < host.baseline ? 'sup' : 'sub';
      host.glyphs.push(...r.glyphs);
      taken.add(r);
    }
  }
  for (const r of rows) if (!taken.has(r)) lines.push(r);
  return lines.map((r) => r.glyphs.sort((a, b) => a.left - b.left || a.order - b.order));
}

/** An option's letter with its sign. */
export const LABEL_START = /^[A-Ha-hА-Га-г][.)]/u;

const startsLabel = (row: readonly Glyph[], i: number): boolean => LABEL_START.test(`${row[i]?.text ?? ''}${row[i + 1]?.text ?? ''}`);
/** Where options' letters stand that are no line's first: the same place in several rows is a column, however narrow the gap before it. */
function labelColumns(rows: readonly (readonly Glyph[])[]): number[] {
  const count = new Map<number, number>();
  for (const row of rows)
    row.forEach((g, i) => {
      const before = row[i - 1];
      if (before && startsLabel(row, i) && (!before.text.trim() || g.left - before.right > g.size * 0.4))
        count.set(Math.round(g.left), (count.get(Math.round(g.left)) ?? 0) + 1);
    });
  return [...count].filter(([x, n]) => n + (count.get(x - 1) ?? 0) + (count.get(x + 1) ?? 0) >= 2).map(([x]) => x);
}

/** Tab stops at equal steps. */
export interface TabStops {
  left: number;
  step: number;
}
/** Whether a place is a tab stop. */
export const isStop = ({ left, step }: TabStops, x: number): boolean => {
  const off = (x - left) / step;
  return off > 0.5 && Math.abs(off - Math.round(off)) * step < 0.7;
};
/** How many tabs lead from the end of words to a stop: one to each stop between, for cells that are empty. */
export const tabsTo = ({ left, step }: TabStops, from: number, to: number): number =>
  Math.max(1, Math.round((to - left) / step) - Math.ceil((from - left + 0.5) / step) + 1);
/** Jumps without a blank that have to end at stops before they are taken for tabs. */
const LEAST_JUMPS = 6;
/** The tab stops of a page that draws its blanks: what jumps without one ends at equal steps. Null where there are none. */
function tabStopsOf(rows: readonly (readonly Glyph[])[]): TabStops | null {
  const ends: number[] = [];
  let blanks = 0;
  let left = Number.POSITIVE_INFINITY;
  for (const row of rows)
    row.forEach((g, i) => {
      if (!g.text.trim()) return void blanks++;
      left = Math.min(left, g.left);
      const before = row[i - 1];
      if (before?.text.trim() && g.left - before.right > g.size * 0.12) ends.push(g.left);
    });
  if (ends.length < LEAST_JUMPS || blanks < ends.length) return null;
  const places = [...new Set(ends.map((x) => Math.round((x - left) * 10) / 10))].slice(0, 40);
  let best: TabStops | null = null;
  for (const off of places)
    for (let k = 1; k <= 12; k++) {
      const stops = { left, step: off / k };
      if (stops.step < 18 || stops.step > 90 || (best && stops.step <= best.step)) continue;
      const hits = ends.filter((x) => isStop(stops, x));
      // one place alone, or two, may be columns of text
      const distinct = new Set(hits.map((x) => Math.round((x - left) / stops.step))).size;
      if (hits.length >= ends.length * 0.9 && distinct > 2) best = stops;
    }
  return best;
}

/** Parts a row of letters where the gap is wide enough for a tab or a column. */
function segmentsOf(row: readonly Glyph[], gap: number, columns: readonly number[] = [], stops: TabStops | null = null): Segment[] {
  const out: Segment[] = [];
  let now: Glyph[] = [];
  let end = Number.NEGATIVE_INFINITY;
  const close = (): void => {
    if (now.some((g) => g.text.trim())) {
      const size = Math.max(...now.map((g) => g.size));
      const main = now.find((g) => g.size === size) ?? (now[0] as Glyph);
      out.push({ ...boundsOf(now), glyphs: now, baseline: main.baseline, size });
    }
    now = [];
  };
  row.forEach((g, i) => {
    if (!g.text.trim()) {
      if (now.length) now.push(g);
      return;
    }
    // a tab in front of an option's letter may be hardly wider than a blank
    const label = startsLabel(row, i);
    // … but a letter that goes on with a word is none
    const before = row[i - 1];
    const inWord = before !== undefined && /[\p{L}\p{N}]$/u.test(before.text) && g.left - before.right < g.size * 0.12;
    // … nor is one behind a blank that is no wider than blanks are
    const blank = before?.text === ' ' && Boolean(row[i - 2]?.text.trim()) && g.left - end < (before.right - before.left) * 1.1;
    const aligned = label && !inWord && !blank && columns.some((x) => Math.abs(x - g.left) < 1.5);
    const tab = stops !== null && before !== undefined && before.text.trim() !== '' && g.left - before.right > g.size * 0.12 && isStop(stops, g.left);
    if (now.length && (aligned || tab || g.left - end > (label && !blank ? 0.4 : gap) * Math.max(g.size, 6))) close();
    now.push(g);
    end = Math.max(end, g.right);
    if (now.length === 1) end = g.right;
  });
  close();
  // blanks at the end do not count
  for (const s of out) while (s.glyphs.length && !s.glyphs[s.glyphs.length - 1]?.text.trim()) s.blankTo = Math.max(s.blankTo ?? 0, s.glyphs.pop()?.right ?? 0);
  return out.map((s) => ({ ...s, ...boundsOf(s.glyphs) }));
}

// ── tables ──

const TOUCH = 3;
/** Places that lie close together as one. */
function merged(places: readonly number[]): number[] {
  const out: number[] = [];
  for (const p of [...places].sort((a, b) => a - b)) if (!out.length || p - (out[out.length - 1] ?? 0) > TOUCH) out.push(p);
  return out;
}

/** Tables whose cells are parted by rules across and down. */
export function gridsOf(page: Page): { grids: Grid[]; rest: Glyph[]; across: Box[] } {
  const touches = (a: Box, b: Box): boolean => a.left <= b.right + TOUCH && b.left <= a.right + TOUCH && a.top <= b.bottom + TOUCH && b.top <= a.bottom + TOUCH;
  const rules = [...page.across.map((box) => ({ box, down: false })), ...page.down.map((box) => ({ box, down: true }))];
  if (!page.down.length || rules.length > 5000) return { grids: [], rest: page.glyphs, across: page.across };
  // rules that touch belong to one table
  const group = rules.map((_, i) => i);
  const root = (i: number): number => {
    let r = i;
    while (group[r] !== r) r = group[r] ?? r;
    group[i] = r;
    return r;
  };
  const order = rules.map((_, i) => i).sort((a, b) => (rules[a]?.box.top ?? 0) - (rules[b]?.box.top ?? 0));
  for (let a = 0; a < order.length; a++)
    for (let b = a + 1; b < order.length; b++) {
      const [i, k] = [order[a] ?? 0, order[b] ?? 0];
      const [p, q] = [rules[i], rules[k]];
      if (!p || !q || q.box.top > p.box.bottom + TOUCH) break;
      if (touches(p.box, q.box)) group[root(k)] = root(i);
    }
  const tables = new Map<number, typeof rules>();
  rules.forEach((r, i) => tables.set(root(i), [...(tables.get(root(i)) ?? []), r]));
  const grids: Grid[] = [];
  const inTables = new Set<Box>();
  let rest: Glyph[] = page.glyphs;
  for (const t of tables.values()) {
    const xs = merged(t.filter((r) => r.down).map((r) => (r.box.left + r.box.right) / 2));
    const ys = merged(t.filter((r) => !r.down).map((r) => (r.box.top + r.box.bottom) / 2));
    if (xs.length < 2 || ys.length < 2 || (xs.length - 1) * (ys.length - 1) < 2) continue;
    const area = boundsOf(t.map((r) => r.box));
    const rows = Array.from({ length: ys.length - 1 }, () => Array.from({ length: xs.length - 1 }, (): Glyph[] => []));
    const outside: Glyph[] = [];
    for (const g of rest) {
      const [mx, my] = [(g.left + g.right) / 2, g.baseline - g.size * 0.3];
      const c = xs.findLastIndex((x) => x <= mx);
      const r = ys.findLastIndex((y) => y <= my);
      const cell = c >= 0 && r >= 0 && mx <= area.right && my <= area.bottom ? rows[r]?.[c] : undefined;
      if (cell) cell.push(g);
      else outside.push(g);
    }
    const filled = rows.flat().filter((c) => c.some((g) => g.text.trim())).length;
    // a frame around text is no table
    if (filled < 2) continue;
    rest = outside;
    grids.push({ ...area, rows });
    for (const r of t) inTables.add(r.box);
  }
  return { grids, rest, across: page.across.filter((a) => !inTables.has(a)) };
}

// ── rules that are blanks or underline ──

/** Rules close under letters underline them; others that are long enough are blanks to write on. */
function withRules(glyphs: Glyph[], across: readonly Box[], size: number, width: number): Glyph[] {
  const out = [...glyphs];
  for (const r of across) {
    const over = glyphs.filter((g) => {
      const mid = (g.left + g.right) / 2;
      return mid >= r.left - 1 && mid <= r.right + 1 && r.top >= g.baseline - g.size * 0.05 && r.top <= g.baseline + g.size * 0.35;
    });
    // a line through the middle of letters strikes them out, and is no blank
    const struck = glyphs.some(
      (g) => g.right > r.left + 1 && g.left < r.right - 1 && r.top < g.baseline - g.size * 0.1 && r.top > g.baseline - g.size * 0.6 && g.text.trim(),
    );
    if (struck) continue;
    const covered = over.reduce((sum, g) => sum + (g.text.trim() ? g.right - g.left : 0), 0);
    if (covered > (r.right - r.left) * 0.4) for (const g of over) g.under = true;
    else if (!over.some((g) => g.text.trim()) && r.right - r.left > size * 2 && r.right - r.left < width * 0.92) {
      const baseline = glyphs.find((g) => Math.abs(g.baseline - r.top) < size * 0.5)?.baseline ?? r.top;
      out.push({
        text: ' ______ ',
        left: r.left,
        right: r.right,
        baseline,
        top: baseline - size * 0.75,
        bottom: baseline + size * 0.2,
        size,
        strong: false,
        em: false,
        colour: '#000000',
        order: out.length,
      });
    }
  }
  return out;
}

// ── columns ──

/** The gutter between two columns of text, as the place of its middle; null where the lines run across. */
function gutterOf(lines: readonly TextLine[], width: number): number | null {
  const rows = lines.filter((l) => l.segments.length);
  if (rows.length < 8) return null;
  const area = boundsOf(rows);
  let best: { at: number; wide: number } | null = null;
  const across = area.right - area.left;
  // a broken file may put letters anywhere, miles away too
  const step = Math.max(3, across / 300);
  for (let at = area.left + across * 0.3; at <= area.left + across * 0.7; at += step) {
    let crossing = 0;
    const left: Segment[] = [];
    const right: Segment[] = [];
    for (const l of rows)
      for (const s of l.segments) {
        if (s.left < at - 4 && s.right > at + 4) crossing++;
        else if (s.right <= at + 4) left.push(s);
        else right.push(s);
      }
    if (crossing > rows.length * 0.2 || left.length < 5 || right.length < 5) continue;
    const [l, r] = [boundsOf(left), boundsOf(right)];
    // the words of a table or of options side by side do not fill their column; running text does, in many of its lines
    const fills = (list: readonly Segment[], b: Box): number => list.filter((s) => s.right - s.left > (b.right - b.left) * 0.6).length / list.length;
    if (r.left - l.right < 5 || l.right - l.left < width * 0.18 || r.right - r.left < width * 0.18) continue;
    if (fills(left, l) < 0.3 || fills(right, r) < 0.3) continue;
    const wide = r.left - l.right;
    if (!best || wide > best.wide) best = { at: (l.right + r.left) / 2, wide };
  }
  return best?.at ?? null;
}

// ── tables without rules ──

/** A table without rules, told by a row of headings: letters below belong to the heading that they stand under. */
function openGrid(lines: readonly TextLine[], from: number): { grid: Grid; last: number } | null {
  const head = lines[from];
  if (!head || head.segments.length < 3) return null;
  const text = (s: Segment): string =>
    s.glyphs
      .map((g) => g.text)
      .join('')
      .trim();
  const uses = head.segments.map((s) => useOf(text(s)));
  if (!uses.includes('question') || uses.filter(Boolean).length < 3) return null;
  const lefts = head.segments.map((s) => s.left - 3);
  const columnOf = (g: Glyph): number =>
    Math.max(
      0,
      lefts.findLastIndex((l) => g.left >= l),
    );
  const rows: Glyph[][][] = [head.segments.map((s) => [...s.glyphs])];
  const numbered = uses[0] === 'number';
  const steps = lines
    .slice(from + 1)
    .map((l, i) => l.baseline - (lines[from + i]?.baseline ?? 0))
    .sort((a, b) => a - b);
  const leading = steps[Math.floor(steps.length * 0.3)] ?? 14;
  let last = from;
  for (let i = from + 1; i < lines.length; i++) {
    const l = lines[i] as TextLine;
    const cells = head.segments.map((): Glyph[] => []);
    for (const s of l.segments) for (const g of s.glyphs) cells[columnOf(g)]?.push(g);
    // a line that runs on over the columns is below the table
    const runsOn = l.segments.some((s) => lefts.filter((x) => x > s.left + 8 && x + 8 < s.right).length > 1);
    if (runsOn || l.left < (lefts[0] ?? 0) - 10) break;
    const starts = numbered ? Boolean(cells[0]?.some((g) => /\d/.test(g.text))) : l.baseline - (lines[i - 1]?.baseline ?? 0) > leading * 1.35;
    if (starts || rows.length === 1) rows.push(cells);
    else cells.forEach((c, k) => rows[rows.length - 1]?.[k]?.push(...c));
    last = i;
  }
  return rows.length > 2 ? { grid: { ...boundsOf(lines.slice(from, last + 1)), rows }, last } : null;
}

const lineOf = (segments: readonly Segment[]): TextLine => {
  const size = Math.max(...segments.map((s) => s.size));
  return { ...boundsOf(segments), segments: [...segments], baseline: segments.find((s) => s.size === size)?.baseline ?? 0, size };
};

/** What stands on a page, in the order in which it is read. */
export function blocksOf(page: Page): Block[] {
  const size = usualSize(page.glyphs);
  const { grids, rest, across } = gridsOf(page);
  const glyphs = withRules(rest, across, size, page.width);
  const rows = rowsOf(glyphs);
  const labels = labelColumns(rows);
  const stops = tabStopsOf(rows);
  const lines = rows
    .map((row) => segmentsOf(row, 0.9, labels, stops))
    .filter((s) => s.length)
    .map((s) => ({ ...lineOf(s), ...(stops && { stops }) }));
  const blocks: Block[] = [];
  const at = gutterOf(lines, page.width);
  if (at === null)
    for (let i = 0; i < lines.length; i++) {
      // rows whose cells are parted by tabs may go on in the next line
      const open = stops ? null : openGrid(lines, i);
      blocks.push(open ? { grid: open.grid } : { line: lines[i] as TextLine });
      if (open) i = open.last;
    }
  else {
    // what runs across parts the page into bands; within one the left column is read before the right one
    let left: TextLine[] = [];
    let right: TextLine[] = [];
    const close = (): void => {
      blocks.push(...left.map((line) => ({ line })), ...right.map((line) => ({ line })));
      left = [];
      right = [];
    };
    for (const l of lines) {
      const a = l.segments.filter((s) => s.right <= at + 4);
      const b = l.segments.filter((s) => s.left >= at - 4);
      if (a.length + b.length < l.segments.length) {
        close();
        blocks.push({ line: l });
        continue;
      }
      if (a.length) left.push(lineOf(a));
      if (b.length) right.push(lineOf(b));
    }
    close();
  }
  for (const grid of grids) {
    const where = blocks.findIndex((b) => 'line' in b && b.line.top >= grid.top);
    blocks.splice(where < 0 ? blocks.length : where, 0, { grid });
  }
  return blocks;
}

// ── words ──

const RTL = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;
/** Letters as they are read: those of scripts that run from right to left are turned, with numbers and Latin words kept. */
function inReadingOrder(glyphs: readonly Glyph[]): readonly Glyph[] {
  const rtl = glyphs.filter((g) => RTL.test(g.text)).length;
  const ltr = glyphs.filter((g) => /[A-Za-z\u0400-\u04ff]/.test(g.text)).length;
  if (!rtl || rtl < ltr) return glyphs;
  const turned = [...glyphs].reverse();
  const out: Glyph[] = [];
  for (let i = 0; i < turned.length; ) {
    let k = i;
    while (k < turned.length && /[A-Za-z\d.,%/+\-–]/.test(turned[k]?.text ?? '') && !RTL.test(turned[k]?.text ?? '')) k++;
    // a run of a number or a Latin word; a full stop at its edge belongs to the line
    let [from, to] = [i, k];
    while (from < to && !/[A-Za-z\d]/.test(turned[from]?.text ?? '')) from++;
    while (to > from && !/[A-Za-z\d%]/.test(turned[to - 1]?.text ?? '')) to--;
    if (k > i) {
      out.push(...turned.slice(i, from), ...turned.slice(from, to).reverse(), ...turned.slice(to, k));
      i = k;
    } else {
      out.push(turned[i] as Glyph);
      i++;
    }
  }
  return out;
}

const lookOf = (g: Glyph): Look => ({
  strong: g.strong,
  em: g.em,
  under: g.under ?? false,
  highlight: g.highlight ?? false,
  sub: g.script === 'sub',
  sup: g.script === 'sup',
  colour: g.colour,
});

/** Hands the words of a segment on, piece by piece of one look; blanks that only stand as gaps are put in. */
export function wordsOf(segment: { glyphs: readonly Glyph[] }, write: (words: string, look: Look) => void): void {
  const glyphs = inReadingOrder(segment.glyphs);
  const rtl = glyphs.length > 1 && (glyphs[0] as Glyph).left > (glyphs[glyphs.length - 1] as Glyph).left;
  let before: Glyph | null = null;
  for (const g of glyphs) {
    if (before && before.text.trim() && g.text.trim()) {
      const gap = rtl ? before.left - g.right : g.left - before.right;
      if (gap > Math.max(g.size, before.size) * 0.17 && !(g.script !== before.script && gap < g.size * 0.4)) write(' ', lookOf(before));
    }
    write(g.text.normalize('NFKC') === g.text || !/[\ufb00-\ufb06\ufb1d-\ufdff\ufe70-\ufefc]/.test(g.text) ? g.text : g.text.normalize('NFKC'), lookOf(g));
    before = g;
  }
}
