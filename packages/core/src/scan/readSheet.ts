/**
 * Reads a photographed or scanned answer sheet: corner marks, straightening, code, circles, and what of it a person has to look at.
 * How a sheet is made: docs/answer-sheet.md.
 */
import { type AnswerSheet, bubblesOf, SHEET, type Bubble, type SheetField, type SheetPage } from '../formats/paper/sheet.js';
import { type Flat, located, measured, type Measured } from './circles.js';
import { codeOf } from './code.js';
import { findCorners } from './corners.js';
import { gridRead, limitsOf, rowRead, type Seen, seenOf, type SheetDoubt, strictly, withoutSigns } from './marks.js';
import { cutOut, type Grey, greyAt, type Point, shrunk } from './picture.js';
import { enlarged, projected, type Projection, toward } from './projection.js';

/** What a field of a sheet says. */
export interface FieldRead {
  field: SheetField;
  /** Values of the circles that are filled in, or the number of a grid; empty where nothing is. With a doubt: what it seems to be. */
  given: string[];
  doubt?: SheetDoubt;
  /** Where it is on the flat page, in millimetres, for whoever has to look. */
  area: { left: number; top: number; width: number; height: number };
}
/** A sheet that was read. */
export interface SheetRead {
  is: 'read';
  /** What its code says, or was said of it. */
  print: string;
  /** From 1. */
  page: number;
  /** Whose it is, as the code says; '' where it does not. */
  person: string;
  fields: FieldRead[];
  flat: Flat;
}
/** A picture that is no sheet that could be read. */
export interface NotRead {
  is: 'not';
  why: 'small' | 'marks' | 'code' | 'other' | 'page';
  /** In one sentence: what is wrong and what helps. */
  message: string;
}

/** Pixels to a millimetre of the flat page. */
const SCALE = 6;
/** A picture with fewer pixels along its longer side shows no circles. */
const SMALLEST = 600;

/** Lays the page flat. */
function flattened(picture: Grey, map: Projection): Flat {
  // where a picture is much finer than the flat page, its pixels are put together first, so that none is looked past
  const a = projected(map, { x: 100, y: 150 });
  const b = projected(map, { x: 101, y: 150 });
  const times = Math.max(1, Math.floor(Math.hypot(b.x - a.x, b.y - a.y) / SCALE));
  const g = shrunk(picture, times);
  const seen = toward(enlarged(map, 1 / times));
  const width = SHEET.width * SCALE;
  const height = SHEET.height * SCALE;
  const data = new Uint8Array(width * height);
  for (let r = 0; r < height; r++) {
    const y = (r + 0.5) / SCALE;
    for (let c = 0; c < width; c++) {
      const at = seen((c + 0.5) / SCALE, y);
      data[r * width + c] = greyAt(g, at.x, at.y);
    }
  }
  const page = { width, height, data };
  return { page, scale: SCALE, black: blackOf(page) };
}

/** Grey of the corner marks as a share of the white around them: the median of the three solid ones. */
function blackOf(page: Grey): number {
  const grey = (x: number, y: number): number => page.data[Math.round(y * SCALE) * page.width + Math.round(x * SCALE)] as number;
  const shares = SHEET.corners.slice(0, 3).map(({ x, y }) => {
    const inside: number[] = [];
    const paper: number[] = [];
    for (let k = -2; k <= 2; k++) {
      for (let j = -2; j <= 2; j++) inside.push(grey(x + k, y + j));
      const out = SHEET.cornerSize / 2 + 1.5;
      paper.push(grey(x + k, y + out), grey(x + k, y - out), grey(x + out, y + k), grey(x - out, y + k));
    }
    const middle = (all: number[], share: number): number => all.sort((a, b) => a - b)[Math.floor(all.length * share)] as number;
    return middle(inside, 0.5) / Math.max(middle(paper, 0.8), 1);
  });
  return Math.min(shares.sort((a, b) => a - b)[1] as number, 0.8);
}

/** A row is there from this clearness of its lines on. */
const CLEAR = 0.08;

/** Whether anything is written in a box: dark places inside of its line. */
function written(flat: Flat, left: number, top: number, width: number, height: number): boolean {
  const inside = cutOut(flat.page, left * SCALE, top * SCALE, width * SCALE, height * SCALE);
  // shadows change slowly, strokes do not: each place is compared with the lightest of its stretch of 6 mm
  const stretch = 6 * SCALE;
  let ink = 0;
  for (let x0 = 0; x0 < inside.width; x0 += stretch) {
    const part = cutOut(inside, x0, 0, stretch, inside.height);
    const sorted = Uint8Array.from(part.data).sort();
    const paper = sorted[Math.floor(sorted.length * 0.9)] as number;
    const dark = paper * (1 - 0.3 * (1 - flat.black));
    for (const v of sorted) {
      if (v >= dark) break;
      ink++;
    }
  }
  // a stroke of 0.4 by 2 mm
  return ink / SCALE ** 2 > 0.8;
}

function fieldsOf(flat: Flat, page: SheetPage): FieldRead[] {
  const groups = page.fields.map(bubblesOf);
  const places = located(
    flat,
    groups.filter((g) => g.length),
  );
  const all = new Map<Bubble, Measured>();
  for (const g of places) for (const b of g.bubbles) all.set(b, measured(flat, b, g.moved));
  const inked = withoutSigns(all);
  const single = page.fields.flatMap((f) => (f.is === 'grid' ? f.columns : f.is === 'bubbles' && !f.several ? [f.bubbles] : []));
  const limits = limitsOf(single.map((row) => row.map(inked)));
  const strict = strictly(limits);
  const seen = (bubbles: readonly Bubble[], several: boolean): Seen[] => bubbles.map((b) => seenOf(inked(b), several ? strict : limits));
  let next = 0;
  const { length } = places;
  return page.fields.map((field, n): FieldRead => {
    const group = groups[n]?.length ? places[next++] : undefined;
    // a box moves as what stands beside it does
    const beside = group ?? places[Math.min(next, length - 1)];
    const moved: Point = beside?.moved ?? { x: 0, y: 0 };
    if (field.is === 'box') {
      const edge = 0.9;
      const area = { left: field.x + moved.x, top: field.y + moved.y, width: field.width, height: field.height };
      const is = written(flat, area.left + edge, area.top + edge, area.width - 2 * edge, area.height - 2 * edge);
      return { field, given: [], area, ...(is && { doubt: 'written' as const }) };
    }
    const xs = (groups[n] as Bubble[]).map((b) => b.x + moved.x);
    const ys = (groups[n] as Bubble[]).map((b) => b.y + moved.y);
    const margin = 3;
    const left = field.x + moved.x;
    const top = (field.is === 'grid' ? field.y + moved.y : Math.min(...ys)) - margin;
    const area = { left, top, width: Math.max(...xs) + margin - left, height: Math.max(...ys) + margin - top };
    const read =
      field.is === 'grid'
        ? gridRead(field.columns.map((c) => rowRead(c, seen(c, false), false)))
        : rowRead(field.bubbles, seen(field.bubbles, field.several), field.several);
    return { field, ...read, area, ...((group?.clear ?? 0) < CLEAR && { doubt: 'lost' as const }) };
  });
}

/**
 * Reads a picture of an answer sheet.
 * @param picture as it was taken, whichever way up
 * @param sheets  those that it may be one of, by their print
 * @param as      what it is, where a person has said so because its code could not be read
 */
export function readSheet(picture: Grey, sheets: ReadonlyMap<string, { sheet: AnswerSheet }>, as?: { print: string; page: number }): SheetRead | NotRead {
  if (Math.max(picture.width, picture.height) < SMALLEST)
    return {
      is: 'not',
      why: 'small',
      message: `This picture has ${picture.width} × ${picture.height} pixels, too few for circles to be seen. Take it again with at least ${SMALLEST} along the longer side.`,
    };
  const map = findCorners(picture);
  if (!map)
    return {
      is: 'not',
      why: 'marks',
      message: 'The four marks in the corners of a sheet are not in this picture. Take it again with the whole sheet in view, on a plain ground.',
    };
  const flat = flattened(picture, map);
  const code = codeOf(flat);
  if (!code && !as) {
    return { is: 'not', why: 'code', message: 'The code at the upper right could not be read. Say which page it is, or take the picture again.' };
  }
  const { print, page } = code ?? (as as { print: string; page: number });
  const sheet = sheets.get(print)?.sheet;
  if (!sheet) return { is: 'not', why: 'other', message: 'This is an answer sheet of another set, or of this one before items were moved, added or removed.' };
  const found = sheet.pages[page - 1];
  if (!found) return { is: 'not', why: 'page', message: `The sheet of this set has ${sheet.pages.length} pages; this one says that it is page ${page}.` };
  return { is: 'read', print, page, person: code?.person ?? '', fields: fieldsOf(flat, found), flat };
}
