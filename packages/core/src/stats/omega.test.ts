/** Omega: loadings that were put in come out, figures of R psych, and when there is none. */
import { readFileSync } from 'node:fs';
import { numbersFrom } from '../item/shuffle.js';
import { covariances } from './moments.js';
import { omega } from './omega.js';
import { figures } from './scores.js';

const table = (name: string): number[][] =>
  readFileSync(new URL(name, import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((l) => l.split(',').map(Number));

test('covariances, by hand', () => {
  expect(
    covariances([
      [1, 2],
      [2, 4],
      [3, 9],
    ]),
  ).toEqual([
    [1, 3.5],
    [3.5, 13],
  ]);
  expect(covariances([])).toEqual([]);
  expect(covariances([[1, 2]])).toEqual([
    [0, 0],
    [0, 0],
  ]);
});

test('what was put in comes out: items that measure one thing, some much and some little', () => {
  const roll = numbersFrom(5);
  const normal = (): number => Math.sqrt(-2 * Math.log(Math.max(roll(), 1e-12))) * Math.cos(2 * Math.PI * roll());
  const l = [0.9, 0.8, 0.6, 0.5, 0.3, 0.7];
  const rows = Array.from({ length: 20_000 }, () => {
    const able = normal();
    return l.map((x) => x * able + Math.sqrt(1 - x * x) * normal());
  });
  const all = l.reduce((a, b) => a + b, 0) ** 2;
  const due = all / (all + l.reduce((s, x) => s + 1 - x * x, 0));
  expect(Math.abs((omega(rows) ?? 0) - due)).toBeLessThan(0.005);
  // alpha takes all items to measure alike, and is less
  const f = figures(
    l.map((_, i) => ({ id: `i${i}`, points: 1 })),
    rows,
  );
  expect(f.alpha ?? 1).toBeLessThan(f.omega ?? 0);
});

test('items that all measure alike: omega is alpha', () => {
  // covariances of 1 between all, variances of 3: four people that differ in one thing, and noise that is balanced by hand
  const rows = [-1, 1].flatMap((able) => [0, 1, 2, 3, 4, 5, 6, 7].map((noise) => [0, 1, 2].map((j) => able + ((noise >> j) & 1 ? 1.25 : -1.25))));
  const f = figures(
    [0, 1, 2].map((i) => ({ id: `i${i}`, points: 1 })),
    rows,
  );
  expect(f.omega).toBeCloseTo(f.alpha ?? 0, 9);
});

// R 4.2: least squares over the covariances by optim, 0.3067512 and 0.8416020; factanal (maximum likelihood), 0.3067539 and 0.8415356; of the
// ability items (iqitems of psychTools, no answer as wrong) fa(fm = "minres", covar = TRUE) of psych 2.2.9, 0.8416019
test('LSAT-6 and ability items are as R has them', () => {
  const lsat = table('./lsat6.csv').map((r) => r.slice(-5));
  expect(omega(lsat)).toBeCloseTo(0.3067512, 6);
  const key = [4, 4, 4, 6, 6, 3, 4, 4, 5, 2, 2, 4, 3, 2, 6, 7];
  const ability = table('./iqitems-raw.csv').map((r) => key.map((k, j) => Number(r[j] === k)));
  expect(ability).toHaveLength(1525);
  expect(omega(ability)).toBeCloseTo(0.841602, 6);
});

test('two items, fewer people than items, no spread: no figure is made up', () => {
  expect(omega([])).toBeNull();
  expect(
    omega([
      [1, 0],
      [0, 1],
      [1, 1],
    ]),
  ).toBeNull();
  expect(omega([[1, 0, 1, 0]])).toBeNull();
  expect(omega(Array.from({ length: 9 }, () => [1, 1, 1]))).toBeNull();
});
