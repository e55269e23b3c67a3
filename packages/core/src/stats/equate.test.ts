/** Versions on one scale: by hand, an abler group told from an easier version, and when nothing is said. */
import { numbersFrom } from '../item/shuffle.js';
import { equate, EQUATE_LEAST } from './equate.js';
import type { VersionScores } from './together.js';

/** People who answer by ability; each item has its ease, in logits. */
function version(name: string, ids: readonly string[], eases: readonly number[], people: number, able: number, seed: number): VersionScores {
  const roll = numbersFrom(seed);
  return {
    name,
    items: ids.map((id) => ({ id, points: 1 })),
    points: Array.from({ length: people }, () => {
      const a = able + (roll() + roll() + roll() - 1.5) * 2;
      return eases.map((e) => Number(roll() < 1 / (1 + Math.exp(-(a + e)))));
    }),
  };
}
const ids = (prefix: string, n: number): string[] => Array.from({ length: n }, (_, i) => `${prefix}${i}`);
const spreadOut = (n: number, by = 0): number[] => Array.from({ length: n }, (_, i) => (i - n / 2) / 4 + by);

test('by hand: means and spreads of the common items carry one scale to the other', () => {
  // people 0 to 29 in both; the base has each person's number twice, in the common item and in its own
  const rows = Array.from({ length: 30 }, (_, i) => i);
  const five = ids('c', 5);
  const base: VersionScores = {
    name: 'A',
    items: [...five, 'own'].map((id) => ({ id, points: 30 })),
    points: rows.map((i) => [i, 0, 0, 0, 0, i]),
  };
  const other: VersionScores = { name: 'B', items: [...five, 'mine'].map((id) => ({ id, points: 30 })), points: rows.map((i) => [i + 3, 0, 0, 0, 0, 7]) };
  // in B: common = total − 7; in A: total = 2 · common. So 2 · (total − 7)
  const [b] = equate([base, other]);
  expect(b).toMatchObject({ name: 'B', n: 30, common: 5 });
  expect(b && 'slope' in b ? b.slope : 0).toBeCloseTo(2, 9);
  expect(b && 'slope' in b ? b.shift : 0).toBeCloseTo(-14, 9);
});

test('the same version twice is on its own scale, whoever took it', () => {
  const [all, eases] = [ids('i', 30), spreadOut(30)];
  const same = equate([version('A', all, eases, 3000, 0, 1), version('B', all, eases, 3000, 1, 2)])[0];
  if (!same || !('slope' in same)) throw new Error('no scale');
  expect(same.slope).toBeCloseTo(1, 9);
  expect(same.shift).toBeCloseTo(0, 9);
});

test('a harder version taken by an abler group: its points are worth more, by as much as it is harder', () => {
  const [common, eases] = [ids('c', 20), spreadOut(20)];
  const a = version('A', [...common, ...ids('a', 20)], [...eases, ...spreadOut(20)], 5000, 0, 3);
  const b = version('B', [...common, ...ids('b', 20)], [...eases, ...spreadOut(20, -1)], 5000, 0.7, 4);
  // what the group of B would have had in A
  const due = version('A', [...common, ...ids('a', 20)], [...eases, ...spreadOut(20)], 5000, 0.7, 4);
  const total = (v: VersionScores): number => v.points.reduce((s, r) => s + r.reduce((x, y) => x + y, 0), 0) / v.points.length;
  const [found] = equate([a, b]);
  if (!found || !('slope' in found)) throw new Error('no scale');
  const on = found.slope * total(b) + found.shift;
  expect(total(due) - total(b)).toBeGreaterThan(2);
  expect(Math.abs(on - total(due))).toBeLessThan(0.5);
});

test('few people, few common items, nobody differs: it is said why', () => {
  const many = version('A', ids('i', 10), spreadOut(10), EQUATE_LEAST.people, 0, 5);
  const few = version('B', ids('i', 10), spreadOut(10), EQUATE_LEAST.people - 1, 0, 6);
  const strange = version('C', [...ids('i', 4), ...ids('x', 6)], spreadOut(10), 40, 0, 7);
  const flat: VersionScores = { ...many, name: 'D', points: many.points.map((r) => r.map(() => 1)) };
  expect(equate([many, few, strange, flat]).map((e) => ('why' in e ? e.why : 'a scale'))).toEqual(['people', 'items', 'spread']);
  expect(equate([])).toEqual([]);
  expect(equate([many])).toEqual([]);
});
