/**
 * Sheets as people fill them in and as cameras see them, drawn by computation, so that the reader of sheets can be measured on
 * thousands of circles whose truth is known. Development only.
 */
import { bubblesOf, SHEET, type SheetField, type SheetPage, type Bubble } from '../formats/paper/sheet.js';
import { numbersFrom } from '../item/shuffle.js';
import { type Grey, greyAt, type Point } from './picture.js';
import { projectionOf, toward } from './projection.js';

const between = (roll: () => number, from: number, to: number): number => from + (to - from) * roll();

/** Paper with so many pixels to a millimetre. */
export interface Paper extends Grey {
  scale: number;
}
const WHITE = 250;

/** Puts ink where `amount` (0 to 1) says, within a box in millimetres: what lies there already stays as dark as it is. */
function ink(paper: Paper, left: number, top: number, right: number, bottom: number, amount: (x: number, y: number) => number): void {
  const { scale } = paper;
  for (let r = Math.max(0, Math.floor(top * scale)); r < Math.min(paper.height, bottom * scale); r++)
    for (let c = Math.max(0, Math.floor(left * scale)); c < Math.min(paper.width, right * scale); c++) {
      const a = amount((c + 0.5) / scale, (r + 0.5) / scale);
      if (a > 0) paper.data[r * paper.width + c] = Math.min(paper.data[r * paper.width + c] as number, WHITE - a * 235);
    }
}
const away = (x: number, y: number, a: Point, b: Point): number => {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const t = Math.min(1, Math.max(0, ((x - a.x) * dx + (y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(x - a.x - t * dx, y - a.y - t * dy);
};
/** A line, its edges soft over a tenth of a millimetre. */
function stroke(paper: Paper, a: Point, b: Point, thick: number, dark: number): void {
  const m = thick + 0.2;
  ink(
    paper,
    Math.min(a.x, b.x) - m,
    Math.min(a.y, b.y) - m,
    Math.max(a.x, b.x) + m,
    Math.max(a.y, b.y) + m,
    (x, y) => dark * Math.min(1, Math.max(0, (thick / 2 - away(x, y, a, b)) / 0.1 + 0.5)),
  );
}

/** Strokes that stand for letters, inside of a circle: what they are does not matter, how much ink they are does. */
function sign(paper: Paper, { x, y, sign: s }: Bubble): void {
  const roll = numbersFrom(s.charCodeAt(0) * 31 + s.length);
  for (let n = 0; n < 3; n++) {
    const p = (): Point => ({ x: x + between(roll, -0.65, 0.65), y: y + between(roll, -0.8, 0.8) });
    stroke(paper, p(), p(), 0.22, 0.6);
  }
}

/** An empty sheet without its words and its code. */
export function drawSheet(page: SheetPage, scale = 8): Paper {
  const paper: Paper = {
    scale,
    width: SHEET.width * scale,
    height: SHEET.height * scale,
    data: new Uint8Array(SHEET.width * SHEET.height * scale * scale).fill(WHITE),
  };
  SHEET.corners.forEach(({ x, y }, i) => {
    const half = SHEET.cornerSize / 2;
    ink(paper, x - half, y - half, x + half, y + half, (px, py) => (i < 3 || Math.max(Math.abs(px - x), Math.abs(py - y)) > half - SHEET.ring ? 1 : 0));
  });
  for (const f of page.fields) {
    if (f.is === 'box') {
      const [l, t, r, b] = [f.x, f.y, f.x + f.width, f.y + f.height];
      for (const [from, to] of [
        [
          { x: l, y: t },
          { x: r, y: t },
        ],
        [
          { x: l, y: b },
          { x: r, y: b },
        ],
        [
          { x: l, y: t },
          { x: l, y: b },
        ],
        [
          { x: r, y: t },
          { x: r, y: b },
        ],
      ] as const)
        stroke(paper, from, to, 0.18, 0.9);
      continue;
    }
    for (const b of bubblesOf(f)) {
      const m = SHEET.radius + 0.3;
      ink(
        paper,
        b.x - m,
        b.y - m,
        b.x + m,
        b.y + m,
        (x, y) => 0.65 * Math.min(1, Math.max(0, (0.09 - Math.abs(Math.hypot(x - b.x, y - b.y) - SHEET.radius)) / 0.1 + 0.5)),
      );
      sign(paper, b);
    }
  }
  return paper;
}

/** How somebody marks a circle, or tries to unmark it. */
export type MarkStyle = 'filled' | 'light' | 'sloppy' | 'cross' | 'tick' | 'erased' | 'crossed-out';

/** The circles that say a value: of a row one for each value between commas, of a grid one in each column; a box has none. */
export function circlesFor(field: SheetField, value: string): Bubble[] {
  if (field.is === 'bubbles') return field.bubbles.filter((b) => value.split(',').includes(b.value));
  return field.is === 'grid' ? [...value].flatMap((sign, c) => field.columns[c]?.filter((b) => b.value === sign) ?? []) : [];
}

/** Marks a circle on paper. */
export function mark(paper: Paper, { x, y }: Point, style: MarkStyle, roll: () => number): void {
  const off = (): number => between(roll, -0.35, 0.35);
  const disc = (radius: number, dark: number, rough: number, cx = x + off(), cy = y + off()): void =>
    ink(paper, cx - 3, cy - 3, cx + 3, cy + 3, (px, py) => {
      // pencil leaves stripes
      const grain = 1 - rough * (0.5 + 0.5 * Math.sin((px + py * 0.6) * 9));
      return dark * grain * Math.min(1, Math.max(0, (radius - Math.hypot(px - cx, py - cy)) / 0.15));
    });
  const line = (dx0: number, dy0: number, dx1: number, dy1: number, dark: number): void =>
    stroke(paper, { x: x + dx0 + off() / 2, y: y + dy0 + off() / 2 }, { x: x + dx1 + off() / 2, y: y + dy1 + off() / 2 }, between(roll, 0.35, 0.6), dark);
  const dark = between(roll, 0.55, 0.95);
  switch (style) {
    case 'filled':
      return disc(between(roll, 1.8, 2.2), dark, between(roll, 0, 0.35));
    case 'light':
      return disc(between(roll, 1.8, 2.2), between(roll, 0.35, 0.55), between(roll, 0, 0.3));
    case 'sloppy': {
      disc(between(roll, 1.3, 1.7), dark, 0.3);
      return disc(between(roll, 1, 1.5), dark, 0.3);
    }
    case 'cross':
      line(-1.9, -1.9, 1.9, 1.9, dark);
      return line(-1.9, 1.9, 1.9, -1.9, dark);
    case 'tick':
      line(-1.4, 0, -0.3, 1.5, dark);
      return line(-0.3, 1.5, 2, -2.2, dark);
    case 'erased':
      return disc(2.1, between(roll, 0.03, 0.22), 0.3);
    case 'crossed-out':
      disc(between(roll, 1.8, 2.1), dark, 0.2, x, y);
      line(-3, -3, 3, 3, 0.95);
      return line(-3, 3, 3, -3, 0.95);
  }
}

/** How a sheet was photographed. */
export interface Shot {
  /** Pixels to a millimetre in the middle of the picture. */
  fine: number;
  /** Degrees, to the right. */
  turned: number;
  /** How much shorter the far edge is: 0 from straight above, 0.2 from the side. */
  slant: number;
  /** From where: degrees. */
  from: number;
  /** How far the middle of the paper stands up, in millimetres that it moves. */
  bent: number;
  /** Light within a shadow: 1 for none. */
  shadow: number;
  /** Standard deviation of the noise, in steps of grey. */
  noise: number;
  /** Pixels that a point is spread over. */
  blur: number;
  /** Light through coffee: 1 for none. */
  stain: number;
  seed: number;
}
/** From straight above in good light. */
export const STRAIGHT: Shot = { fine: 5, turned: 0, slant: 0, from: 0, bent: 0, shadow: 1, noise: 2, blur: 0, stain: 1, seed: 1 };

/** The picture that a camera takes of paper on a desk. */
export function photographed(paper: Paper, shot: Shot): Grey {
  const roll = numbersFrom(shot.seed);
  const turn = (shot.turned * Math.PI) / 180;
  const look = (shot.from * Math.PI) / 180;
  const middle = { x: SHEET.width / 2, y: SHEET.height / 2 };
  const seen = (p: Point): Point => {
    const dx = (p.x - middle.x) * shot.fine;
    const dy = (p.y - middle.y) * shot.fine;
    // what is further away is smaller
    const far = 1 + (shot.slant * ((p.x - middle.x) * Math.cos(look) + (p.y - middle.y) * Math.sin(look))) / 180;
    return { x: (dx * Math.cos(turn) - dy * Math.sin(turn)) / far, y: (dx * Math.sin(turn) + dy * Math.cos(turn)) / far };
  };
  const edges = [
    { x: 0, y: 0 },
    { x: SHEET.width, y: 0 },
    { x: 0, y: SHEET.height },
    { x: SHEET.width, y: SHEET.height },
  ];
  const places = edges.map(seen);
  const desk = 12 * shot.fine;
  const left = Math.min(...places.map((p) => p.x)) - desk;
  const top = Math.min(...places.map((p) => p.y)) - desk;
  const width = Math.ceil(Math.max(...places.map((p) => p.x)) + desk - left);
  const height = Math.ceil(Math.max(...places.map((p) => p.y)) + desk - top);
  const back = projectionOf(
    places.map((p) => ({ x: p.x - left, y: p.y - top })),
    edges,
  );
  if (!back) throw new Error('the sheet is seen edge on');
  const onPage = toward(back);
  // a shadow with a soft edge along a line, and a spot of coffee
  const edge = { angle: between(roll, 0, 6.28), at: between(roll, -40, 40) };
  const towards = { x: Math.cos(edge.angle) / 12, y: Math.sin(edge.angle) / 12 };
  const spot = { x: between(roll, 30, 180), y: between(roll, 70, 260), r: between(roll, 15, 30) };
  const sharp = new Uint8Array(width * height);
  for (let r = 0; r < height; r++)
    for (let c = 0; c < width; c++) {
      const p = onPage(c + 0.5, r + 0.5);
      let v = 95;
      if (p.x >= 0 && p.y >= 0 && p.x < SHEET.width && p.y < SHEET.height) {
        // paper that stands up in its middle, like a page of a book: corners stay
        const lift = shot.bent && Math.sin((Math.PI * p.x) / SHEET.width) * shot.bent;
        const aside = lift && lift * 0.4 * Math.sin((Math.PI * 2 * p.y) / SHEET.height);
        v = greyAt(paper, (p.x + aside) * paper.scale, (p.y + lift) * paper.scale);
        if (shot.stain < 1) {
          const d = Math.hypot(p.x - spot.x, p.y - spot.y) / spot.r;
          // a spot with a darker rim
          if (d < 1) v *= d > 0.93 ? shot.stain * 0.85 : shot.stain;
        }
      }
      const deep = (p.x - middle.x) * towards.x + (p.y - middle.y) * towards.y - edge.at / 12;
      const light = shot.shadow === 1 ? 1 : shot.shadow + (1 - shot.shadow) / (1 + Math.exp(deep));
      sharp[r * width + c] = v * light * 0.92;
    }
  const picture: Grey = { width, height, data: sharp };
  const soft = shot.blur > 0 ? blurred(picture, shot.blur) : picture;
  for (let i = 0; i < soft.data.length; i++) {
    // the sum of two even ones: a triangle, with the spread that was asked for
    const n = (roll() + roll() - 1) * 2.45 * shot.noise;
    soft.data[i] = Math.min(255, Math.max(0, (soft.data[i] as number) + n));
  }
  return soft;
}

/** The mean over a square, twice: nearly the blur of a lens. */
function blurred(g: Grey, radius: number): Grey {
  let from = g;
  for (let turn = 0; turn < 2; turn++) {
    const data = new Uint8Array(g.data.length);
    for (let y = 0; y < g.height; y++)
      for (let x = 0; x < g.width; x++) {
        const h = radius / 2;
        data[y * g.width + x] =
          (greyAt(from, x + 0.5 - h, y + 0.5 - h) +
            greyAt(from, x + 0.5 + h, y + 0.5 - h) +
            greyAt(from, x + 0.5 - h, y + 0.5 + h) +
            greyAt(from, x + 0.5 + h, y + 0.5 + h)) /
          4;
      }
    from = { ...g, data };
  }
  return from;
}

/** A shot as phones and scanners take them, at random. */
export function anyShot(roll: () => number): Shot {
  const sometimes = (share: number, value: number, usual: number): number => (roll() < share ? value : usual);
  return {
    fine: between(roll, 4.2, 9),
    turned: between(roll, -15, 15) + sometimes(0.15, 180, 0),
    slant: between(roll, 0, 0.22),
    from: between(roll, 0, 360),
    bent: sometimes(0.3, between(roll, 0, 2.5), 0),
    shadow: sometimes(0.5, between(roll, 0.45, 0.9), 1),
    noise: between(roll, 0, 12),
    blur: between(roll, 0, 1.6),
    stain: sometimes(0.25, between(roll, 0.65, 0.9), 1),
    seed: Math.floor(roll() * 1e9),
  };
}
