import { agreementOf } from './agreement.js';

const zip = (a: readonly number[], b: readonly number[]): [number, number][] => a.map((x, i) => [x, b[i] ?? 0]);
const A = [3, 2, 0, 1, 3, 2, 2, 0, 1, 3, 3, 1, 2, 0, 2];
const B = [3, 2, 1, 1, 2, 2, 3, 0, 0, 3, 3, 1, 2, 1, 1];

test('kappa and weighted kappa as R prints them (psych 2.2.9, cohen.kappa: 0.46428571 and 0.81632653)', () => {
  const { n, same, kappa, weighted } = agreementOf(zip(A, B));
  expect([n, same]).toEqual([15, 9]);
  expect(kappa).toBeCloseTo(0.46428571, 8);
  expect(weighted).toBeCloseTo(0.81632653, 8);
});

// Cohen 1960, by hand: 20 yes–yes, 5 yes–no, 10 no–yes, 15 no–no; 0.7 seen, 0.5 by chance
test('two by two, by hand: kappa 0.4', () => {
  const pairs: [number, number][] = [
    ...Array.from({ length: 20 }, (): [number, number] => [1, 1]),
    ...Array.from({ length: 5 }, (): [number, number] => [1, 0]),
    ...Array.from({ length: 10 }, (): [number, number] => [0, 1]),
    ...Array.from({ length: 15 }, (): [number, number] => [0, 0]),
  ];
  const k = agreementOf(pairs);
  expect(k.kappa).toBeCloseTo(0.4, 12);
  // of two values near and far are one
  expect(k.weighted).toBeCloseTo(0.4, 12);
  // ten more and five less, of fifty
  expect(k.stricter).toBeCloseTo(0.1, 12);
});

test('who always agree, who all give the same, nobody', () => {
  expect(agreementOf(zip([1, 2], [1, 2]))).toEqual({ n: 2, same: 2, kappa: 1, weighted: 1, stricter: 0 });
  expect(agreementOf(zip([2, 2], [2, 2]))).toMatchObject({ same: 2, kappa: null, weighted: null });
  expect(agreementOf([])).toEqual({ n: 0, same: 0, kappa: null, weighted: null, stricter: 0 });
});
