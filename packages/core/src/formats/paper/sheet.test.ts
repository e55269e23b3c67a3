/** The answer sheet: everything has a place of its own on the page, and stands for what the item can be answered with. */
import fc from 'fast-check';
import { anyRichSet } from '../../item/arbitrary.js';
import { runs } from '../../item/runs.js';
import type { Item, QuizSet } from '../../item/model.js';
import { type Bubble, bubblesOf, SHEET, sheetOf, sheetPrint } from './sheet.js';

const choice = (id: string, options: number, more: object = {}): Item =>
  ({
    id,
    kind: 'multiple-choice',
    stem: id,
    points: 1,
    options: Array.from({ length: options }, (_, i) => ({ id: `o${i}`, content: `${i}`, credit: i ? 0 : 1 })),
    ...more,
  }) as Item;
const set = (...items: Item[]): QuizSet => ({ title: 'T', language: 'en', items });

test('a hundred items with five options, or true and false, stand on one page', () => {
  const items = Array.from(
    { length: 100 },
    (_, i): Item => (i % 4 ? choice(`q${i}`, 5) : { id: `q${i}`, kind: 'true-false', stem: 's', points: 1, answer: true }),
  );
  const { pages, left } = sheetOf(set(...items));
  expect(pages).toHaveLength(1);
  expect(left).toEqual([]);
  expect(pages[0]?.fields.map((f) => f.label)).toEqual(items.map((_, i) => String(i + 1)));
});

test('each kind has what it is answered with', () => {
  const items = [
    choice('a', 4),
    choice('b', 3, { kind: 'multiple-response', scoring: 'all' }),
    { id: 'c', kind: 'true-false', stem: 's', points: 1, answer: true },
    { id: 'd', kind: 'numeric', stem: 's', points: 1, answers: [] },
    { id: 'e', kind: 'short-answer', stem: 's', points: 1, answers: [] },
    {
      id: 'f',
      kind: 'matching',
      stem: 's',
      points: 1,
      pairs: [
        { left: 'x', right: '1' },
        { left: 'y', right: '2' },
      ],
      extraRights: ['3'],
    },
    { id: 'g', kind: 'ordering', stem: 's', points: 1, sequence: ['m', 'n', 'o'] },
    { id: 'h', kind: 'essay', stem: 's', points: 1 },
    { id: 'i', kind: 'information', stem: 's', points: 0 },
  ] as unknown as Item[];
  const { pages, left } = sheetOf(set(...items));
  const fields = pages.flatMap((p) => p.fields);
  expect(left).toEqual([{ item: 'h', label: '8' }]);
  expect(fields.map((f) => [f.item, f.part, f.is, f.is === 'bubbles' ? f.bubbles.map((b) => b.value).join('') : f.label])).toEqual([
    ['a', undefined, 'bubbles', 'ABCD'],
    ['b', undefined, 'bubbles', 'ABC'],
    ['c', undefined, 'bubbles', 'truefalse'],
    ['d', undefined, 'grid', '4'],
    ['e', undefined, 'box', '5'],
    ['f', '0', 'bubbles', 'ABC'],
    ['f', '1', 'bubbles', 'ABC'],
    ['g', '0', 'bubbles', '123'],
    ['g', '1', 'bubbles', '123'],
    ['g', '2', 'bubbles', '123'],
  ]);
  expect(fields.flatMap((f) => (f.is === 'bubbles' && f.several ? [f.item] : []))).toEqual(['b']);
  const grid = fields.find((f) => f.is === 'grid');
  expect(grid?.is === 'grid' && grid.columns.map((c) => c.map((b) => b.value).join(''))).toEqual([
    '-.0123456789',
    ...Array.from({ length: 5 }, () => '.0123456789'),
  ]);
});

test('what the code says: the print of the items, the page, and whose it is; other items or another order have another print', () => {
  const many = set(...Array.from({ length: 200 }, (_, i) => choice(`q${i}`, 4)));
  const { pages } = sheetOf(many, { code: 'Q37R9QK7', name: 'Ada Brandt' });
  expect(pages.length).toBeGreaterThan(1);
  expect(pages.map((p) => p.code)).toEqual(pages.map((_, i) => `ZAKUSKA/${sheetPrint(many)}/${i + 1}/${pages.length}/Q37R9QK7`));
  // alphanumeric mode of QR codes (ISO/IEC 18004, table 5): digits, capital letters, space and $%*+-./:
  for (const p of pages) expect(p.code).toMatch(/^[0-9A-Z $%*+\-./:]+$/);
  const prints = [many, set(...many.items.slice().reverse()), set(...many.items.slice(1)), set(choice('q0', 5))].map(sheetPrint);
  expect(new Set(prints).size).toBe(4);
  expect(sheetPrint({ ...many, title: 'Another title' })).toBe(prints[0]);
});

test('of any set: inside the page, clear of the marks, no bubble over another, every field once', () => {
  fc.assert(
    fc.property(anyRichSet, (given) => {
      const { pages } = sheetOf(given);
      const seen = new Set<string>();
      for (const { fields } of pages) {
        const all = fields.flatMap(bubblesOf);
        for (const b of all) {
          expect(b.x - SHEET.radius).toBeGreaterThanOrEqual(SHEET.field.left);
          expect(b.x + SHEET.radius).toBeLessThanOrEqual(SHEET.field.right + 0.001);
          expect(b.y - SHEET.radius).toBeGreaterThanOrEqual(SHEET.field.top - 0.001);
          expect(b.y + SHEET.radius).toBeLessThanOrEqual(SHEET.field.bottom + SHEET.row);
          expect(b.value).not.toBe('');
        }
        const inOrder = all.slice().sort((p, q) => p.y - q.y || p.x - q.x);
        for (let i = 0; i < inOrder.length; i++)
          for (let j = i + 1; j < inOrder.length; j++) {
            const [p, q] = [inOrder[i] as Bubble, inOrder[j] as Bubble];
            if (q.y - p.y > 2 * SHEET.radius) break;
            expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeGreaterThan(2 * SHEET.radius);
          }
        for (const f of fields) {
          const key = `${f.item} ${f.part ?? ''}`;
          expect(seen.has(key)).toBe(false);
          seen.add(key);
        }
      }
    }),
    { numRuns: runs(60) },
  );
});
