/** How dark the circles of a straightened sheet are, each found where it stands on paper that may be bent. */
import { type Bubble, SHEET } from '../formats/paper/sheet.js';
import { type Grey, type Point } from './picture.js';

/** What was measured of a circle. */
export interface Measured {
  /** Ink in it: 0 for white paper, 1 for the black of the corner marks. */
  dark: number;
  /** Ink right outside of its line. */
  outside: number;
  /** How much darker the paper is on one side of it than on another: more than shadows make where the edge of a stain runs through it. */
  uneven: number;
}
/** Circles that stand together and are looked for together. */
export interface Group {
  bubbles: readonly Bubble[];
  /** How far it stands from where it was to be, in millimetres. */
  moved: Point;
  /** How clearly its lines are there: 0 not at all, about 0.3 and more where they are. */
  clear: number;
}

/** A sheet laid flat: so many pixels to a millimetre from its upper left corner. */
export interface Flat {
  page: Grey;
  /** Pixels to a millimetre. */
  scale: number;
  /** Grey of black ink as a share of the white around it. */
  black: number;
}

const at = ({ page, scale }: Flat, x: number, y: number): number => {
  const c = Math.min(Math.max((x * scale) | 0, 0), page.width - 1);
  const r = Math.min(Math.max((y * scale) | 0, 0), page.height - 1);
  return page.data[r * page.width + c] as number;
};

/** The lightest of a small square: paper, where there is any. */
function lightest(flat: Flat, x: number, y: number): number {
  let most = 1;
  const half = 0.5;
  for (let dy = -half; dy <= half; dy += half) for (let dx = -half; dx <= half; dx += half) most = Math.max(most, at(flat, x + dx, y + dy));
  return most;
}

/** Points around the middle, by their distance. */
const around = (radius: number, n: number): Point[] =>
  Array.from({ length: n }, (_, i) => ({ x: radius * Math.cos((2 * Math.PI * i) / n), y: radius * Math.sin((2 * Math.PI * i) / n) }));
const LINE = around(SHEET.radius, 16);
const BESIDE = around(SHEET.radius + 0.65, 16);
const OUTSIDE = around(SHEET.radius + 0.55, 24);
/** What lies inside of the line. */
const INSIDE: Point[] = [];
for (let y = -1.6; y <= 1.6; y += 0.2) for (let x = -1.6; x <= 1.6; x += 0.2) if (Math.hypot(x, y) <= 1.6) INSIDE.push({ x, y });

/** Where paper is looked for around a circle: between it and its neighbours. */
const PAPER = { x: SHEET.pitch / 2, y: SHEET.row / 2 };

/** Measures a circle. */
export function measured(flat: Flat, bubble: Point, moved: Point): Measured {
  const x = bubble.x + moved.x;
  const y = bubble.y + moved.y;
  const [ul, ur, ll, lr] = [
    lightest(flat, x - PAPER.x, y - PAPER.y),
    lightest(flat, x + PAPER.x, y - PAPER.y),
    lightest(flat, x - PAPER.x, y + PAPER.y),
    lightest(flat, x + PAPER.x, y + PAPER.y),
  ] as const;
  const ink = (p: Point): number => {
    const u = p.x / (2 * PAPER.x) + 0.5;
    const v = p.y / (2 * PAPER.y) + 0.5;
    const white = (ul * (1 - u) + ur * u) * (1 - v) + (ll * (1 - u) + lr * u) * v;
    return (1 - at(flat, x + p.x, y + p.y) / white) / (1 - flat.black);
  };
  let sum = 0;
  for (const p of INSIDE) sum += Math.min(Math.max(ink(p), 0), 1);
  let outside = 0;
  for (const p of OUTSIDE) outside += Math.min(Math.max(ink(p), 0), 1);
  return { dark: sum / INSIDE.length, outside: outside / OUTSIDE.length, uneven: Math.max(ul, ur, ll, lr) / Math.min(ul, ur, ll, lr) - 1 };
}

/** How far a group is looked for from where its neighbours say that it is, and in which steps, in millimetres. */
const SEARCH = 1.2;
const STEP = 0.2;
/** A place further away has to be so much clearer, for each millimetre. */
const FAR = 0.02;
/** Groups look at so many neighbours that were found. */
const NEIGHBOURS = 4;
/** Of more circles than these in a group, some will do. */
const ENOUGH = 14;

function clearness(flat: Flat, bubbles: readonly Point[], dx: number, dy: number): number {
  let sum = 0;
  for (const b of bubbles) {
    let line = 0;
    let beside = 0;
    for (const p of LINE) line += at(flat, b.x + dx + p.x, b.y + dy + p.y);
    for (const p of BESIDE) beside += at(flat, b.x + dx + p.x, b.y + dy + p.y);
    sum += (beside - line) / Math.max(beside, 1);
  }
  return sum / bubbles.length / (1 - flat.black);
}

/**
 * Finds groups of circles on a sheet that is not quite flat: those near a corner mark first, each from there on by those beside it.
 * @param rows circles that stand together
 */
export function located(flat: Flat, rows: readonly (readonly Bubble[])[]): Group[] {
  const middle = (bubbles: readonly Point[]): Point => ({
    x: bubbles.reduce((s, b) => s + b.x, 0) / bubbles.length,
    y: bubbles.reduce((s, b) => s + b.y, 0) / bubbles.length,
  });
  const order = rows
    .map((bubbles, n) => {
      const m = middle(bubbles);
      return { n, bubbles, m, corner: Math.min(...SHEET.corners.map((c) => Math.hypot(c.x - m.x, c.y - m.y))) };
    })
    .sort((a, b) => a.corner - b.corner);
  // corner marks are where they are
  const known: { m: Point; moved: Point }[] = SHEET.corners.map((c) => ({ m: c, moved: { x: 0, y: 0 } }));
  const out: Group[] = [];
  for (const { n, bubbles, m } of order) {
    const near = known
      .map((k) => ({ ...k, far: Math.hypot(k.m.x - m.x, k.m.y - m.y) }))
      .sort((a, b) => a.far - b.far)
      .slice(0, NEIGHBOURS);
    const weights = near.reduce((s, k) => s + 1 / (k.far + 1), 0);
    const from = {
      x: near.reduce((s, k) => s + k.moved.x / (k.far + 1), 0) / weights,
      y: near.reduce((s, k) => s + k.moved.y / (k.far + 1), 0) / weights,
    };
    const some = bubbles.length > ENOUGH ? bubbles.filter((_, i) => i % Math.ceil(bubbles.length / ENOUGH) === 0) : bubbles;
    let best = { value: -Infinity, clear: 0, moved: from };
    for (let dy = -SEARCH; dy <= SEARCH + 1e-9; dy += STEP)
      for (let dx = -SEARCH; dx <= SEARCH + 1e-9; dx += STEP) {
        const clear = clearness(flat, some, from.x + dx, from.y + dy);
        const value = clear - FAR * Math.hypot(dx, dy);
        if (value > best.value) best = { value, clear, moved: { x: from.x + dx, y: from.y + dy } };
      }
    out[n] = { bubbles, moved: best.moved, clear: best.clear };
    if (best.clear > 0.1) known.push({ m, moved: best.moved });
  }
  return out;
}
