/** Item response models: published figures of LSAT-6, figures that were put in come out, and when there are none. */
import { readFileSync } from 'node:fs';
import { numbersFrom } from '../item/shuffle.js';
import { fitIrt, IRT_PEOPLE, type IrtFit } from './irt.js';

const lsat6 = readFileSync(new URL('./lsat6.csv', import.meta.url), 'utf8')
  .trim()
  .split('\n')
  .slice(1)
  .map((line) => line.split(',').map((v) => v === '1'));
const values = (fit: IrtFit | null, of: 'difficulty' | 'discrimination', part: 'value' | 'error' = 'value'): number[] =>
  (fit?.items ?? []).map((i) => i?.[of][part] ?? NaN);
const close = (got: readonly number[], wanted: readonly number[], within: number): void =>
  got.forEach((v, n) => expect([n, Math.abs(v - (wanted[n] ?? NaN)) <= within, v]).toEqual([n, true, v]));

// Section 6 of the Law School Admission Test, 1,000 people (Bock and Lieberman 1970; Bock and Aitkin 1981). Estimates as the help pages of
// the R package ltm print them (D. Rizopoulos, J. Stat. Software 17/5, 2006), from memory.
test('LSAT-6, two parameters', () => {
  const fit = fitIrt(lsat6, '2PL');
  expect(fit?.settled).toBe(true);
  expect(fit?.logLikelihood).toBeCloseTo(-2466.653, 2);
  close(values(fit, 'discrimination'), [0.8254, 0.7229, 0.8905, 0.6886, 0.6575], 0.003);
  close(values(fit, 'difficulty'), [-3.3597, -1.3696, -0.2799, -1.8659, -3.1236], 0.01);
  // standard errors there are from the Hessian, here from cross products: near to one another
  close(values(fit, 'discrimination', 'error'), [0.2581, 0.1867, 0.2326, 0.1852, 0.21], 0.03);
});
test('LSAT-6, one slope for all', () => {
  const fit = fitIrt(lsat6, '1PL');
  expect(fit?.logLikelihood).toBeCloseTo(-2466.938, 2);
  close(values(fit, 'discrimination'), Array(5).fill(0.7551) as number[], 0.002);
  close(values(fit, 'difficulty'), [-3.6153, -1.3224, -0.3176, -1.7301, -2.7802], 0.01);
  close(values(fit, 'difficulty', 'error'), [0.3266, 0.1422, 0.0977, 0.1691, 0.251], 0.03);
});

/** People and answers made by the model. */
function made(n: number, items: readonly (readonly [number, number])[], seed: number): boolean[][] {
  const roll = numbersFrom(seed);
  const normal = (): number => Math.sqrt(-2 * Math.log(Math.max(roll(), 1e-12))) * Math.cos(2 * Math.PI * roll());
  return Array.from({ length: n }, () => {
    const able = normal();
    return items.map(([a, b]) => roll() < 1 / (1 + Math.exp(-a * (able - b))));
  });
}
test('what was put in comes out, within three standard errors for nearly all', () => {
  const items = [0.6, 0.9, 1.2, 1.6, 2].flatMap((a) => [-1.5, -0.5, 0.5, 1.5].map((b) => [a, b] as const));
  const fit = fitIrt(made(1500, items, 6), '2PL');
  let off = 0;
  for (const [n, [a, b]] of items.entries()) {
    const found = fit?.items[n];
    if (!found) throw new Error(`item ${n} has no figures`);
    if (Math.abs(found.difficulty.value - b) > 3 * found.difficulty.error) off++;
    if (Math.abs(found.discrimination.value - a) > 3 * found.discrimination.error) off++;
  }
  expect(off).toBeLessThanOrEqual(1);
});

test('two items that hang together are told, and no others; abilities are those that answers were made with', () => {
  const items = Array.from({ length: 12 }, (_, n) => [1 + (n % 3) / 2, (n - 6) / 4] as const);
  const rows = made(600, items, 9);
  const alone = fitIrt(rows, '2PL');
  expect(alone?.pairs).toEqual([]);
  const roll = numbersFrom(4);
  // the last item is answered as the fourth was, in most cases
  const tied = rows.map((r) => [...r, roll() < 0.75 ? (r[3] as boolean) : roll() < 0.5]);
  const fit = fitIrt(tied, '1PL');
  expect(fit?.pairs.map((p) => p.items)).toEqual([[3, 12]]);
  expect(fit?.pairs[0]?.excess).toBeGreaterThan(0.2);
  // whoever gets more right is taken to be abler where all slopes are one
  const byAbility = tied.map((r, i) => [fit?.abilities[i] ?? 0, r.filter(Boolean).length] as const).sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  for (let i = 1; i < byAbility.length; i++) expect(byAbility[i]![1]).toBeGreaterThanOrEqual(byAbility[i - 1]![1]);
  // an item that all got right has no place among the pairs
  expect(
    fitIrt(
      tied.map((r) => [true, ...r]),
      '1PL',
    )?.pairs.map((p) => p.items),
  ).toEqual([[4, 13]]);
});

test('too few people, too few items, and items that all or none got right', () => {
  expect(fitIrt(lsat6.slice(0, IRT_PEOPLE['2PL'] - 1), '2PL')).toBeNull();
  expect(fitIrt(lsat6.slice(0, IRT_PEOPLE['2PL'] - 1), '1PL')).not.toBeNull();
  expect(
    fitIrt(
      lsat6.map((r) => r.slice(0, 2)),
      '2PL',
    ),
  ).toBeNull();
  expect(fitIrt([], '1PL')).toBeNull();
  const more = fitIrt(
    lsat6.map((r) => [true, ...r, false]),
    '2PL',
  );
  expect(more?.items.map((i) => i === null)).toEqual([true, false, false, false, false, false, true]);
  close(values(more, 'discrimination').slice(1, 6), [0.8254, 0.7229, 0.8905, 0.6886, 0.6575], 0.003);
});

test('an item that sorts people without exception has no figures, and hurts no other', () => {
  const rows = lsat6.map((r) => [...r, r.filter(Boolean).length >= 4]);
  const fit = fitIrt(rows, '2PL');
  expect(fit?.items).toHaveLength(6);
  for (const i of fit?.items ?? []) if (i) expect([i.difficulty.value, i.difficulty.error, i.discrimination.value].every(Number.isFinite)).toBe(true);
});
