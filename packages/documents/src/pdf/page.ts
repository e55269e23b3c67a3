/**
 * What stands on a PDF page: letters with place and look, rules and grounds, pictures. Taken from the page's drawing operators
 * (ISO 32000-1, 8 and 9), because only they say colour, weight and the lines between cells.
 */
import type { PDFPageProxy } from 'pdfjs-dist';
import { standsOut, fromSymbolFont } from '@zakuska/core';

export interface Box {
  /** Points from the left and upper edge of the page. */
  left: number;
  top: number;
  right: number;
  bottom: number;
}
export interface Glyph extends Box {
  text: string;
  /** Where the letters stand on. */
  baseline: number;
  size: number;
  strong: boolean;
  em: boolean;
  colour: string;
  /** In the order in which it was drawn. */
  order: number;
  highlight?: boolean;
  under?: boolean;
  script?: 'sub' | 'sup';
}
export interface Page {
  width: number;
  height: number;
  glyphs: Glyph[];
  /** Lines across and down, between cells or to write on. */
  across: Box[];
  down: Box[];
  pictures: Box[];
}

type Matrix = readonly [number, number, number, number, number, number];
const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];
const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];
const applied = (m: Matrix, x: number, y: number): [number, number] => [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]];
function boxed(m: Matrix, x0: number, y0: number, x1: number, y1: number): Box {
  const corners = [applied(m, x0, y0), applied(m, x1, y0), applied(m, x0, y1), applied(m, x1, y1)];
  const xs = corners.map((c) => c[0]);
  const ys = corners.map((c) => c[1]);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

interface State {
  ctm: Matrix;
  fill: string;
  stroke: string;
  font: { name: string; scale: number; strong: boolean; em: boolean };
  size: number;
  charSpacing: number;
  wordSpacing: number;
  across: number;
  leading: number;
  rise: number;
  mode: number;
}
interface FontObject {
  name?: string;
  fontMatrix?: number[];
  bold?: boolean;
  black?: boolean;
  italic?: boolean;
  vertical?: boolean;
}
interface DrawnGlyph {
  unicode: string;
  width: number;
  isSpace: boolean;
}

const hex = (args: readonly unknown[]): string =>
  typeof args[0] === 'string'
    ? args[0]
    : `#${args
        .slice(0, 3)
        .map((n) => Math.round(Number(n)).toString(16).padStart(2, '0'))
        .join('')}`;
const matrixOf = (args: readonly unknown[]): Matrix => {
  const [first] = args;
  const list = typeof first === 'number' ? args : Array.from(first as ArrayLike<number>);
  return list.length >= 6 ? (list.slice(0, 6).map(Number) as unknown as Matrix) : IDENTITY;
};
/** A page of a picture book may draw a million lines; no worksheet does. */
const MOST_SHAPES = 20_000;

/** Reads a page. `ops` are the library's numbers of operators. */
export async function readPage(page: PDFPageProxy, ops: Record<string, number>): Promise<Page> {
  const { fnArray, argsArray } = await page.getOperatorList();
  const view = page.getViewport({ scale: 1 });
  const out: Page = { width: view.width, height: view.height, glyphs: [], across: [], down: [], pictures: [] };
  const grounds: { box: Box; colour: string }[] = [];
  const name = new Map(Object.entries(ops).map(([k, v]) => [v, k]));
  let s: State = {
    ctm: view.transform as unknown as Matrix,
    fill: '#000000',
    stroke: '#000000',
    font: { name: '', scale: 0.001, strong: false, em: false },
    size: 0,
    charSpacing: 0,
    wordSpacing: 0,
    across: 1,
    leading: 0,
    rise: 0,
    mode: 0,
  };
  const saved: State[] = [];
  let text: Matrix = IDENTITY;
  let [x, y, lineX, lineY] = [0, 0, 0, 0];
  const move = (dx: number, dy: number): void => {
    lineX += dx;
    lineY += dy;
    x = lineX;
    y = lineY;
  };
  const show = (glyphs: readonly (DrawnGlyph | number)[]): void => {
    const m = times(s.ctm, text);
    const size = Math.abs(s.size);
    const scale = Math.hypot(m[2], m[3]);
    // letters that do not run from left to right are no line of the text: margins, stamps
    const upright = Math.abs(m[1]) < Math.abs(m[0]) * 0.2 && m[0] > 0;
    for (const g of glyphs) {
      if (typeof g === 'number') {
        x -= ((g * s.size) / 1000) * s.across;
        continue;
      }
      if (!g) continue;
      const width = g.width * s.font.scale * s.size;
      const advance = (width + s.charSpacing + (g.isSpace ? s.wordSpacing : 0)) * s.across;
      const named = fromSymbolFont(g.unicode, s.font.name).replace(/\u0000/g, '');
      // a sign that has no width of its own, drawn with one: a blank that shares its glyph
      const words = named === '\uFE0F' && width > Math.abs(s.size) * 0.1 ? ' ' : named;
      if (upright && words) {
        const [left, baseline] = applied(m, x, y + s.rise);
        const [right] = applied(m, x + width * s.across, y + s.rise);
        out.glyphs.push({
          text: words,
          left,
          right: Math.max(right, left),
          baseline,
          top: baseline - size * scale * 0.75,
          bottom: baseline + size * scale * 0.2,
          size: size * scale,
          // outlined as well as filled: bold without a bold font
          strong: s.font.strong || s.mode === 2,
          em: s.font.em,
          colour: s.fill,
          order: out.glyphs.length,
        });
      }
      x += advance;
    }
  };
  const path = (op: number, data: ArrayLike<number> | null): void => {
    const called = name.get(op) ?? '';
    const filled = /fill/i.test(called);
    const stroked = /stroke/i.test(called);
    if ((!filled && !stroked) || !data || out.across.length + out.down.length + grounds.length > MOST_SHAPES) return;
    for (const shape of shapesOf(data)) {
      const box = boxed(s.ctm, shape.left, shape.top, shape.right, shape.bottom);
      const [w, h] = [box.right - box.left, box.bottom - box.top];
      if (h <= 2.5 && w > 4) out.across.push(box);
      else if (w <= 2.5 && h > 4) out.down.push(box);
      else if (!shape.straight) continue;
      else if (stroked && Math.abs(w - h) < 3 && w >= 5 && w <= 18)
        // a small square is a box to tick
        out.glyphs.push({
          text: '☐',
          ...box,
          baseline: box.bottom - h * 0.1,
          size: h * 1.1,
          strong: false,
          em: false,
          colour: '#000000',
          order: out.glyphs.length,
        });
      else if (stroked || (filled && /^#f{6}$/i.test(s.fill) && h > 8)) {
        if (stroked) {
          out.across.push({ ...box, bottom: box.top }, { ...box, top: box.bottom });
          out.down.push({ ...box, right: box.left }, { ...box, left: box.right });
        }
      } else if (filled) grounds.push({ box, colour: s.fill });
    }
  };
  for (let i = 0; i < fnArray.length; i++) {
    const args = (argsArray[i] ?? []) as unknown[];
    switch (name.get(fnArray[i] ?? -1)) {
      case 'save':
        saved.push({ ...s });
        break;
      case 'restore':
        s = saved.pop() ?? s;
        break;
      case 'transform':
        s.ctm = times(s.ctm, matrixOf(args));
        break;
      case 'paintFormXObjectBegin':
        saved.push({ ...s });
        if (args[0]) s.ctm = times(s.ctm, matrixOf([args[0]]));
        break;
      case 'paintFormXObjectEnd':
        s = saved.pop() ?? s;
        break;
      case 'setFillRGBColor':
        s.fill = hex(args);
        break;
      case 'setStrokeRGBColor':
        s.stroke = hex(args);
        break;
      case 'setFillColorN':
      case 'setFillTransparent':
        s.fill = '#000000';
        break;
      case 'beginText':
        text = IDENTITY;
        x = y = lineX = lineY = 0;
        break;
      case 'setTextMatrix':
        text = matrixOf(args);
        x = y = lineX = lineY = 0;
        break;
      case 'moveText':
        move(Number(args[0]), Number(args[1]));
        break;
      case 'setLeadingMoveText':
        s.leading = -Number(args[1]);
        move(Number(args[0]), Number(args[1]));
        break;
      case 'nextLine':
        move(0, s.leading);
        break;
      case 'setLeading':
        s.leading = -Number(args[0]);
        break;
      case 'setCharSpacing':
        s.charSpacing = Number(args[0]);
        break;
      case 'setWordSpacing':
        s.wordSpacing = Number(args[0]);
        break;
      case 'setHScale':
        s.across = Number(args[0]) / 100;
        break;
      case 'setTextRise':
        s.rise = Number(args[0]);
        break;
      case 'setTextRenderingMode':
        s.mode = Number(args[0]);
        break;
      case 'setFont': {
        const id = String(args[0]);
        const f = (page.commonObjs.has(id) ? page.commonObjs.get(id) : {}) as FontObject;
        const called = (f.name ?? '').replace(/^[A-Z]{6}\+/, '');
        s.font = {
          name: called.split(/[,-]/)[0] ?? '',
          scale: f.fontMatrix?.[0] ?? 0.001,
          strong: Boolean(f.bold ?? f.black) || /bold|black|heavy|semibold|demi(?!o)/i.test(called),
          em: Boolean(f.italic) || /italic|oblique/i.test(called),
        };
        s.size = Number(args[1]);
        break;
      }
      case 'showText':
      case 'showSpacedText':
        show(args[0] as (DrawnGlyph | number)[]);
        break;
      case 'nextLineShowText':
        move(0, s.leading);
        show(args[0] as (DrawnGlyph | number)[]);
        break;
      case 'constructPath': {
        const [op, data] = args as [number, ArrayLike<ArrayLike<number>> | null];
        path(op, data?.[0] ?? null);
        break;
      }
      case 'paintImageXObject':
      case 'paintInlineImageXObject':
      case 'paintJpegXObject':
      case 'paintImageXObjectRepeat':
        out.pictures.push(boxed(s.ctm, 0, 0, 1, 1));
        break;
      default:
    }
  }
  out.glyphs = withoutDoubles(out.glyphs);
  ground(out.glyphs, grounds);
  for (const a of await page.getAnnotations().catch(() => [])) {
    const note = a as { subtype?: string; rect?: number[]; color?: ArrayLike<number> };
    if ((note.subtype === 'Highlight' || note.subtype === 'Underline') && note.rect) {
      const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = note.rect;
      const box = boxed(view.transform as unknown as Matrix, x0, y0, x1, y1);
      for (const g of out.glyphs) if (inside(g, box)) g[note.subtype === 'Highlight' ? 'highlight' : 'under'] = true;
    }
  }
  return out;
}

/** The straight shapes of a path as boxes: operators 0 move, 1 line, 2 and 3 curves, 4 close. */
function shapesOf(data: ArrayLike<number>): (Box & { straight: boolean })[] {
  const out: (Box & { straight: boolean })[] = [];
  let now: (Box & { straight: boolean }) | null = null;
  const point = (px: number, py: number): void => {
    if (!now) return;
    now.left = Math.min(now.left, px);
    now.right = Math.max(now.right, px);
    now.top = Math.min(now.top, py);
    now.bottom = Math.max(now.bottom, py);
  };
  for (let i = 0; i < data.length; ) {
    const op = data[i++];
    if (op === 0 || op === 1) {
      const [px = 0, py = 0] = [data[i++], data[i++]];
      if (op === 0) {
        now = { left: px, right: px, top: py, bottom: py, straight: true };
        out.push(now);
      } else point(px, py);
    } else if (op === 2 || op === 3) {
      const count = op === 2 ? 3 : 2;
      if (now) now.straight = false;
      for (let k = 0; k < count; k++) point(data[i++] ?? 0, data[i++] ?? 0);
    } else if (op !== 4) break;
  }
  return out;
}

const inside = (g: Glyph, box: Box): boolean => {
  const mid = (g.left + g.right) / 2;
  const height = (g.top + g.bottom) / 2;
  return mid >= box.left - 1 && mid <= box.right + 1 && height >= box.top - 1 && height <= box.bottom + 1;
};

/** Letters drawn twice in nearly the same place are one bold letter. */
function withoutDoubles(glyphs: readonly Glyph[]): Glyph[] {
  const seen = new Map<string, Glyph>();
  const out: Glyph[] = [];
  for (const g of glyphs) {
    const key = (dx: number): string => `${g.text} ${Math.round((g.left + dx) / 2)} ${Math.round(g.baseline / 2)}`;
    const twin = g.text.trim() ? (seen.get(key(0)) ?? seen.get(key(-1))) : undefined;
    if (twin && Math.abs(twin.left - g.left) < 1.2 && Math.abs(twin.baseline - g.baseline) < 1.2) {
      if (twin.left !== g.left) twin.strong = true;
      continue;
    }
    if (g.text.trim()) seen.set(key(0), g);
    out.push(g);
  }
  return out;
}

/** Letters on a ground of a colour of its own are highlighted; a ground as high as several lines is only a box. */
function ground(glyphs: readonly Glyph[], grounds: readonly { box: Box; colour: string }[]): void {
  const marking = grounds.filter((g) => standsOut(g.colour));
  if (!marking.length) return;
  for (const g of glyphs) if (marking.some((m) => m.box.bottom - m.box.top < g.size * 2.6 && inside(g, m.box))) g.highlight = true;
}
