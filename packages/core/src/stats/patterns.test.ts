/** Unusual answer patterns: an example by hand, answers by chance against answers by ability, and when nothing is said. */
import fc from 'fast-check';
import { numbersFrom } from '../item/shuffle.js';
import { cautionIndices, UNUSUAL } from './patterns.js';

/** Ten items, item n got right by 20 − n of 20 people; person p gets what only the worse miss. */
const ladder = Array.from({ length: 20 }, (_, p) => Array.from({ length: 10 }, (_x, j) => p >= j + 1));

test('by hand: the easiest right is nothing to note, the hardest alone right is as odd as can be', () => {
  expect(cautionIndices(ladder).every((c) => c === null || c === 0)).toBe(true);
  const [easiest, hardest] = [Array.from({ length: 10 }, (_, j) => j < 4), Array.from({ length: 10 }, (_, j) => j >= 6)];
  const found = cautionIndices([...ladder, easiest, hardest]);
  expect(found.at(-2)).toBe(0);
  expect(found.at(-1)).toBe(1);
});

test('who answers by chance is told far more often than who answers by ability', () => {
  const roll = numbersFrom(3);
  const rows = Array.from({ length: 400 }, (_, i) => {
    const able = roll() * 4 - 2;
    return Array.from({ length: 30 }, (_x, j) => roll() < (i < 300 ? 1 / (1 + Math.exp(-2 * (able - (j - 15) / 6))) : 0.5));
  });
  const odd = cautionIndices(rows).map((c) => (c ?? 0) > UNUSUAL);
  const share = (from: number, to: number): number => odd.slice(from, to).filter(Boolean).length / (to - from);
  expect(share(300, 400)).toBeGreaterThan(0.8);
  expect(share(0, 300)).toBeLessThan(0.12);
});

test('few people, few items, all or none right: nothing is said; else it lies between 0 and 1', () => {
  expect(cautionIndices(ladder.slice(0, 19))).toEqual(Array(19).fill(null));
  expect(cautionIndices(ladder.map((r) => r.slice(0, 9))).every((c) => c === null)).toBe(true);
  expect(cautionIndices(ladder)[0]).toBeNull();
  expect(cautionIndices(ladder)[19]).toBeNull();
  fc.assert(
    fc.property(fc.array(fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), { minLength: 20, maxLength: 40 }), (rows) => {
      for (const c of cautionIndices(rows)) expect(c === null || (c >= 0 && c <= 1)).toBe(true);
    }),
  );
});
