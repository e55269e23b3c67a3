/** Versions together: by hand, against one set split in two, and against a harder version with an abler group. */
import jstat from 'jstat';
import { figures } from './scores.js';
import { together } from './together.js';

const items = (ids: string, points = 1) => [...ids].map((id) => ({ id, points }));

test('by hand: an item of two versions is the mean over all who met it', () => {
  const found = together([
    {
      name: 'A',
      items: items('ab'),
      points: [
        [1, 1],
        [1, 0],
        [0, 0],
      ],
    },
    { name: 'B', items: items('bc', 2), points: [[2, 0]] },
    { name: 'C', items: items('ad'), points: [] },
  ]);
  expect(found.map((i) => [i.id, i.n, Number(i.difficulty.toFixed(4))])).toEqual([
    ['a', 3, 0.6667],
    ['b', 4, 0.5],
    ['c', 1, 0],
  ]);
  expect(found[1]?.versions).toEqual([
    { name: 'A', n: 3, difficulty: 1 / 3 },
    { name: 'B', n: 1, difficulty: 1 },
  ]);
  // within A: own (1,0,0), rest (1,1,0); within B nothing varies. r = ½ / √(⅔ · ⅔)
  expect(found[1]?.discrimination).toBeCloseTo(0.5, 10);
  expect(found[2]?.discrimination).toBeNull();
});

test('one version alone has the figures of the set; split at random in two halves of one mean, nearly so', () => {
  let seed = 7;
  const chance = (): number => (seed = (seed * 48271) % 2147483647) / 2147483647;
  const points: number[][] = Array.from({ length: 400 }, () => {
    const ability = chance();
    return items('abcdef').map((_, j) => (chance() < ability * 0.7 + j * 0.05 ? 1 : 0));
  });
  const whole = figures(items('abcdef'), points);
  const one = together([{ name: 'A', items: items('abcdef'), points }]);
  whole.items.forEach((f, j) => {
    expect(one[j]?.difficulty).toBeCloseTo(f.difficulty, 12);
    expect(one[j]?.discrimination).toBeCloseTo(f.discrimination ?? 0, 10);
    // the library's own correlation (npm jstat) of item and rest
    const own = points.map((row) => row[j] ?? 0);
    const rest = points.map((row) => row.reduce((x, y) => x + y, 0) - (row[j] ?? 0));
    expect(one[j]?.discrimination).toBeCloseTo((jstat as unknown as { corrcoeff(x: number[], y: number[]): number }).corrcoeff(own, rest), 10);
  });
  const halves = together([0, 1].map((h) => ({ name: String(h), items: items('abcdef'), points: points.filter((_, i) => i % 2 === h) })));
  whole.items.forEach((f, j) => expect(Math.abs((halves[j]?.discrimination ?? 0) - (f.discrimination ?? 0))).toBeLessThan(0.02));
});

test('an abler group on another version makes no item discriminate', () => {
  // within each group the first item has nothing to do with the rest; the second group is better at everything
  const weak = ['00000', '10000', '01100', '11100'].map((row) => [...row].map(Number));
  const able = ['10011', '10011', '11111', '11111'].map((row) => [...row].map(Number));
  const found = together([
    { name: 'A', items: items('xyzuv'), points: weak },
    { name: 'B', items: items('xyzuv'), points: able },
  ]);
  expect(found[0]?.discrimination).toBeCloseTo(0, 10);
  // all in one heap it would seem to
  expect(figures(items('xyzuv'), [...weak, ...able]).items[0]?.discrimination).toBeGreaterThan(0.3);
});
