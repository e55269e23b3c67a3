/**
 * Sheets drawn, filled in as people do, and photographed by computation: what is read is what was marked, or it is asked. Shots and
 * marks are at random; more of them by command (ZAKUSKA_TIMES). The camera is our own, from memory of how pictures go wrong: no source.
 */
import type { Item, QuizSet } from '../item/model.js';
import { runs, sampled } from '../item/runs.js';
import { numbersFrom } from '../item/shuffle.js';
import { sheetOf, type SheetField, sheetPrint } from '../formats/paper/sheet.js';
import { anyShot, drawSheet, mark, type MarkStyle, type Paper, photographed, type Shot, STRAIGHT } from './camera.js';
import type { Grey } from './picture.js';
import { projected, projectionOf } from './projection.js';
import { sheetCode } from './code.js';
import { type FieldRead, readSheet, type SheetRead } from './readSheet.js';

const choice = (id: string, n: number, kind = 'multiple-choice'): Item =>
  ({
    id,
    kind,
    stem: id,
    points: 1,
    scoring: 'all',
    options: Array.from({ length: n }, (_, i) => ({ id: `o${i}`, content: `${i}`, credit: i ? 0 : 1 })),
  }) as unknown as Item;
const items: Item[] = [
  ...Array.from({ length: 36 }, (_, i) => choice(`q${i}`, 3 + (i % 3), i % 9 === 4 ? 'multiple-response' : undefined)),
  ...Array.from({ length: 8 }, (_, i): Item => ({ id: `t${i}`, kind: 'true-false', stem: 's', points: 1, answer: true })),
  { id: 'n', kind: 'numeric', stem: 's', points: 1, answers: [] } as unknown as Item,
  { id: 'w', kind: 'short-answer', stem: 's', points: 1, answers: [] } as unknown as Item,
];
const set: QuizSet = { title: 'T', language: 'en', items };
const print = sheetPrint(set);
const sheet = sheetOf(set);
const [page] = sheet.pages as [(typeof sheet.pages)[0]];
const known = new Map([[print, { sheet }]]);
const blank = drawSheet(page, 6);
const fresh = (): Paper => ({ ...blank, data: blank.data.slice() });
/** The camera draws no code: which sheet it is, is said. */
const read = (picture: Grey): ReturnType<typeof readSheet> => readSheet(picture, known, { print, page: 1 });
const readOf = (picture: Grey): SheetRead => {
  const r = read(picture);
  if (r.is === 'not') throw new Error(r.message);
  return r;
};
const fieldOf = (r: SheetRead, item: string): FieldRead => r.fields.find((f) => f.field.item === item) as FieldRead;
const bubbles = (item: string): { x: number; y: number; value: string }[] => {
  const f = page.fields.find((x) => x.item === item);
  return f?.is === 'bubbles' ? f.bubbles : [];
};

/** Marks a page at random. @returns what is meant, by field, and whether something was put beside it that nobody means */
function filledIn(paper: Paper, roll: () => number, usual: MarkStyle): Map<SheetField, { values: string[]; odd: boolean }> {
  const truth = new Map<SheetField, { values: string[]; odd: boolean }>();
  for (const f of page.fields) {
    if (f.is === 'box') continue;
    const values: string[] = [];
    let odd = false;
    const rows = f.is === 'grid' ? f.columns.slice(0, 3) : [f.bubbles];
    for (const row of rows) {
      if (f.is === 'bubbles' && roll() < 0.05) continue;
      const digits = f.is === 'grid' ? row.filter((b) => /\d/.test(b.value)) : row;
      const meant = new Set([digits[Math.floor(roll() * digits.length)]]);
      if (f.is === 'bubbles' && f.several) meant.add(row[Math.floor(roll() * row.length)]);
      for (const b of row) {
        if (!meant.has(b)) continue;
        mark(paper, b, usual, roll);
        values.push(b.value);
      }
      const other = row[Math.floor(roll() * row.length)];
      if (other && roll() < 0.03 && !meant.has(other)) {
        mark(paper, other, roll() < 0.6 ? 'erased' : 'crossed-out', roll);
        odd = true;
      }
    }
    truth.set(f, { values: f.is === 'grid' ? [values.join('')] : values, odd });
  }
  return truth;
}

const STYLES: readonly MarkStyle[] = ['filled', 'filled', 'filled', 'filled', 'sloppy', 'light', 'cross', 'tick'];
test('photographed askew, in shadow, bent, stained, out of focus: nothing is read wrong in silence, and little is asked', () => {
  const count = { right: 0, asked: 0 };
  const wrong: unknown[] = [];
  const times = runs(10);
  for (let n = 0; n < times; n++) {
    const seed = 4000 + n;
    const roll = numbersFrom(seed);
    const paper = fresh();
    const usual = STYLES[Math.floor(roll() * STYLES.length)] as MarkStyle;
    const truth = filledIn(paper, roll, usual);
    const shot = anyShot(roll);
    const r = read(photographed(paper, shot));
    if (r.is === 'not') {
      wrong.push({ seed, shot, message: r.message });
      continue;
    }
    for (const { field, given, doubt } of r.fields) {
      const meant = truth.get(field);
      if (!meant) continue;
      if (doubt) count.asked += meant.odd ? 0 : 1;
      else if (JSON.stringify(given) === JSON.stringify(meant.values)) count.right++;
      else wrong.push({ seed, usual, field: field.label, given, meant });
    }
  }
  expect(wrong).toEqual([]);
  // what nobody rubbed out or crossed out is seldom asked
  expect(count.asked / (count.right + count.asked)).toBeLessThan(0.06);
});

describe('one mark of each sort, from straight above', () => {
  const roll = numbersFrom(7);
  const paper = fresh();
  const put = (item: string, at: number, style: MarkStyle): void => mark(paper, bubbles(item)[at] ?? { x: 0, y: 0 }, style, roll);
  for (const i of [0, 1, 2, 3, 5, 6, 7, 8]) put(`q${i}`, i % 3, 'filled');
  put('q10', 0, 'filled');
  put('q10', 1, 'filled');
  put('q11', 0, 'filled');
  put('q11', 2, 'crossed-out');
  put('q12', 0, 'crossed-out');
  put('q4', 0, 'filled');
  put('q4', 1, 'filled');
  put('t0', 1, 'filled');
  const r = readOf(photographed(paper, STRAIGHT));
  test.each<[string, string[], string | undefined]>([
    ['q0', ['A'], undefined],
    ['q8', ['C'], undefined],
    ['q9', [], undefined],
    ['q10', ['A', 'B'], 'several'],
    ['q11', ['A', 'C'], 'crossed'],
    ['q12', ['A'], 'crossed'],
    ['q4', ['A', 'B'], undefined],
    ['t0', ['false'], undefined],
    ['n', [], undefined],
    ['w', [], undefined],
  ])('%s: %j %s', (item, given, doubt) => expect(fieldOf(r, item)).toMatchObject({ given, ...(doubt ? { doubt } : {}) }));
  test('only what is doubtful is asked', () => expect(r.fields.filter((f) => f.doubt).map((f) => f.field.item)).toEqual(['q10', 'q11', 'q12']));
});

test('a number is read from its grid; one with a hole in it is asked; what is written in a box is asked', () => {
  const grid = page.fields.find((f) => f.is === 'grid');
  const box = page.fields.find((f) => f.is === 'box');
  if (grid?.is !== 'grid' || box?.is !== 'box') throw new Error('no grid');
  const number = (signs: string): SheetRead => {
    const paper = fresh();
    const roll = numbersFrom(3);
    [...signs].forEach((s, c) => {
      const b = grid.columns[c]?.find((x) => x.value === s);
      if (b) mark(paper, b, 'filled', roll);
    });
    if (signs.includes(' ')) mark(paper, { x: box.x + 8, y: box.y + 4 }, 'cross', roll);
    return readOf(photographed(paper, STRAIGHT));
  };
  const whole = fieldOf(number('-12.5'), 'n');
  expect([whole.given, whole.doubt]).toEqual([['-12.5'], undefined]);
  const hole = number('1 2');
  expect(fieldOf(hole, 'n')).toMatchObject({ given: ['12'], doubt: 'number' });
  expect(fieldOf(hole, 'w')).toMatchObject({ given: [], doubt: 'written' });
  expect(fieldOf(number('1.2.3'), 'n').doubt).toBe('number');
});

test('upside down and on its side it is the same', () => {
  const paper = fresh();
  const roll = numbersFrom(5);
  for (let i = 0; i < 12; i++) mark(paper, bubbles(`q${i}`)[i % 3] ?? { x: 0, y: 0 }, 'filled', roll);
  const given = (shot: Partial<Shot>): string[][] => readOf(photographed(paper, { ...STRAIGHT, ...shot })).fields.map((f) => f.given);
  const straight = given({});
  expect(straight.slice(0, 4)).toEqual([['A'], ['B'], ['C'], ['A']]);
  for (const turned of sampled([90, 180], 0.5)) expect(given({ turned })).toEqual(straight);
});

describe('what is no sheet that can be read', () => {
  const grey = (width: number, height: number, of: (i: number) => number): Grey => ({
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, i) => of(i)),
  });
  const why = (g: Grey): string => {
    const r = read(g);
    return r.is === 'not' ? r.why : 'read';
  };
  test('a white picture, noise, one that is too small', () => {
    const roll = numbersFrom(1);
    expect(why(grey(900, 1200, () => 255))).toBe('marks');
    expect(why(grey(900, 1200, () => roll() * 256))).toBe('marks');
    expect(why(grey(300, 400, () => 255))).toBe('small');
  });
  test('half a sheet', () => {
    const whole = photographed(fresh(), STRAIGHT);
    const height = Math.floor(whole.height / 2);
    expect(why({ width: whole.width, height, data: whole.data.subarray(0, whole.width * height) })).toBe('marks');
  });
  test('a sheet without a code is asked for, one of another set is refused, and so is a page that there is none of', () => {
    const picture = photographed(fresh(), STRAIGHT);
    expect(readSheet(picture, known)).toMatchObject({ is: 'not', why: 'code' });
    expect(readSheet(picture, known, { print: '0'.repeat(12), page: 1 })).toMatchObject({ is: 'not', why: 'other' });
    expect(readSheet(picture, known, { print, page: 9 })).toMatchObject({ is: 'not', why: 'page', message: expect.stringContaining('page 9') });
  });
});

test('the words of a code', () => {
  expect(sheetCode('ZAKUSKA/0123456789AB/2/3')).toEqual({ print: '0123456789AB', page: 2, pages: 3, person: '' });
  expect(sheetCode('ZAKUSKA/0123456789AB/1/1/K7Q')).toMatchObject({ person: 'K7Q' });
  for (const s of ['', 'ZAKUSKA/1/2/3', 'https://x.example/0123456789AB/1/1']) expect(sheetCode(s)).toBeNull();
});

test('a map takes points where they were said to go, and there is none through points of one line', () => {
  const from = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
    { x: 0, y: 20 },
    { x: 10, y: 20 },
  ];
  const to = [
    { x: 100, y: 50 },
    { x: 400, y: 80 },
    { x: 120, y: 700 },
    { x: 380, y: 640 },
  ];
  const map = projectionOf(from, to);
  from.forEach((p, i) => {
    const at = projected(map ?? [], p);
    expect(at.x).toBeCloseTo(to[i]?.x ?? 0, 6);
    expect(at.y).toBeCloseTo(to[i]?.y ?? 0, 6);
  });
  expect(
    projectionOf(
      from.map((_, i) => ({ x: i, y: i })),
      to,
    ),
  ).toBeNull();
});
