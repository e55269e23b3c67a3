import { readFileSync } from 'node:fs';
import { figures } from './scores.js';

// Law School Admission Test, section 6: 1,000 people, 5 items; published with R packages ltm and psych. KR-20 = alpha = 0.2950
// (Rizopoulos 2006, cited from memory; reproduced with R psych). Proportions right 0.924, 0.709, 0.553, 0.763, 0.870 (same source).
test('alpha and difficulties of LSAT 6 are as published', () => {
  const rows = readFileSync(new URL('./lsat6.csv', import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((l) => l.split(',').map(Number));
  const items = [1, 2, 3, 4, 5].map((n) => ({ id: `i${n}`, points: 1 }));
  const f = figures(
    items,
    rows.map((r) => r.slice(-5)),
  );
  expect(f.n).toBe(1000);
  expect(f.alpha).toBeCloseTo(0.295, 3);
  expect(f.items.map((i) => Math.round(i.difficulty * 1000) / 1000)).toEqual([0.924, 0.709, 0.553, 0.763, 0.87]);
});

test('one learner, no learner, no spread: no figure is made up', () => {
  const items = [
    { id: 'a', points: 1 },
    { id: 'b', points: 2 },
  ];
  expect(figures(items, [])).toMatchObject({ n: 0, mean: 0, alpha: null, standardError: null });
  expect(
    figures(items, [
      [1, 2],
      [1, 2],
    ]),
  ).toMatchObject({ mean: 3, median: 3, sd: 0, alpha: null });
});

test('an example by hand: mean, median, spread, alpha, error, and how each item goes with the rest', () => {
  const items = [
    { id: 'a', points: 1 },
    { id: 'b', points: 2 },
    { id: 'c', points: 0 },
  ];
  const f = figures(items, [
    [1, 2, 0],
    [1, 1, 0],
    [0, 1, 0],
    [0, 0, 0],
  ]);
  // totals 3, 2, 1, 0: mean 1.5, variance 5/3; variances of the items 1/3, 2/3, 0; alpha = 3/2 · (1 − 1 / (5/3)) = 0.6
  expect(f).toMatchObject({ n: 4, mean: 1.5, median: 1.5 });
  expect(f.sd).toBeCloseTo(Math.sqrt(5 / 3), 12);
  expect(f.alpha).toBeCloseTo(0.6, 12);
  expect(f.standardError).toBeCloseTo(Math.sqrt(5 / 3) * Math.sqrt(0.4), 12);
  expect(f.items.map((i) => [i.id, i.difficulty])).toEqual([
    ['a', 0.5],
    ['b', 0.5],
    ['c', 0],
  ]);
  // a: 1 1 0 0 with 2 1 1 0: r = 1 / √(1 · 2)
  expect(f.items[0]?.discrimination).toBeCloseTo(1 / Math.SQRT2, 12);
  expect(f.items[1]?.discrimination).toBeCloseTo(1 / Math.SQRT2, 12);
  expect(f.items[2]?.discrimination).toBeNull();
});

test.each([
  [[5], 5],
  [[1, 9], 5],
  [[9, 1, 5], 5],
  [[10, 9, 2, 1], 5.5],
  [[], 0],
])('the median of %p is %d', (totals, median) => {
  expect(
    figures(
      [{ id: 'a', points: 10 }],
      totals.map((t) => [t]),
    ).median,
  ).toBe(median);
});

test('alpha below nothing is told as it is, and its error is the whole spread at least', () => {
  const f = figures(
    [
      { id: 'a', points: 1 },
      { id: 'b', points: 1 },
    ],
    [
      [1, 0],
      [0, 1],
      [1, 0],
      [1, 1],
    ],
  );
  expect(f.alpha).toBeLessThan(0);
  expect(f.standardError).toBeGreaterThan(f.sd);
  // one item has no alpha; one learner neither
  expect(figures([{ id: 'a', points: 1 }], [[1], [0]]).alpha).toBeNull();
  expect(
    figures(
      [
        { id: 'a', points: 1 },
        { id: 'b', points: 1 },
      ],
      [[1, 0]],
    ),
  ).toMatchObject({ alpha: null, sd: 0, mean: 1 });
});

test('what earns more with the rest sorts with it, what earns less against it', () => {
  const items = ['a', 'b', 'c'].map((id) => ({ id, points: 1 }));
  const f = figures(items, [
    [1, 1, 0],
    [1, 1, 0],
    [0, 0, 1],
    [0, 0, 1],
  ]);
  expect(f.items.map((i) => Math.sign(i.discrimination ?? 0))).toEqual([0, 0, -1]);
  expect(f.items[2]?.discrimination).toBeCloseTo(-1, 12);
});
