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
