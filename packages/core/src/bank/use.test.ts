/** A pool with what answers say of it: difficulty by answers, and the items used last are drawn last. */
import type { Item } from '../item/model.js';
import { difficultyOf } from './blueprint.js';
import { draw, poolOf } from './draw.js';
import { withUse } from './use.js';

const STEMS = [
  'Salt draws water',
  'Rye ferments fast',
  'Butter melts early',
  'Steam lifts crust',
  'Yeast likes warmth',
  'Milk browns bread',
  'Oil keeps soft',
  'Flour holds gas',
];
const items = STEMS.map((stem, n): Item => ({ id: `i${n}`, kind: 'true-false', stem: `${stem}.`, points: 1, answer: true, level: { difficulty: 0.5 } }));
const pool = poolOf([{ title: 'P', items }]);
const at = (day: number): string => `2026-11-${String(day).padStart(2, '0')}T08:00:00Z`;

test('answers say how hard an item is from ten on; before that its level does', () => {
  const used = withUse(pool, { i0: { answers: 40, share: 0.9, at: at(1) }, i1: { answers: 9, share: 0.1, at: at(2) } });
  expect(used.map((p) => Number(difficultyOf(p)?.toFixed(2)))).toEqual([0.1, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5]);
  expect(used.slice(0, 3).map((p) => p.uses)).toEqual([0.5, 1, undefined]);
  expect(withUse(pool, { constructor: { answers: 5 } } as never)).toEqual(pool);
});

test('four of eight are drawn: those never used, then those used longest ago', () => {
  const use = Object.fromEntries([0, 1, 2, 3, 4, 5].map((n) => [`i${n}`, { answers: 20, share: 0.5, at: at(10 + n) }]));
  for (const seed of [1, 2, 3, 4, 5]) {
    const [version] = draw(withUse(pool, use), { versions: [{ name: 'A', count: 4 }], seed, weights: { difficulty: 0, points: 0, use: 10 } }).versions;
    expect(version?.items.toSorted()).toEqual(['i0', 'i1', 'i6', 'i7']);
  }
});
