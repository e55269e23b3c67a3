/** Groups compared on an item: open data with published figures, classes by hand, and when nothing is said. */
import { numbersFrom } from '../item/shuffle.js';
import { chiSquareUpper } from './chiSquare.js';
import { type Fourfold, GROUP_LEAST, groupFigures, mantelHaenszel } from './groups.js';

// Admissions to the six largest departments of Berkeley in 1973: data set UCBAdmissions of R (P. J. Bickel and others, Science 187 (1975),
// 398–403). Figures as mantelhaen.test(UCBAdmissions) of R prints them.
test('admissions of Berkeley: odds, test and interval as R has them', () => {
  const departments: Fourfold[] = [
    [512, 313, 89, 19],
    [353, 207, 17, 8],
    [120, 205, 202, 391],
    [138, 279, 131, 244],
    [53, 138, 94, 299],
    [22, 351, 24, 317],
  ];
  const found = mantelHaenszel(departments);
  expect(found?.odds).toBeCloseTo(0.9046968, 6);
  expect(found?.chiSquare).toBeCloseTo(1.4269, 4);
  expect(found?.p).toBeCloseTo(0.2323, 4);
  expect(found?.interval[0]).toBeCloseTo(0.7719074, 6);
  expect(found?.interval[1]).toBeCloseTo(1.0603298, 6);
  // a department with people of one group says nothing
  expect(mantelHaenszel([...departments, [5, 7, 0, 0]])).toEqual(found);
});

// Quantiles of tables of the chi-square distribution (Abramowitz and Stegun, table 26.8)
test.each([
  [3.84146, 1, 0.05],
  [6.6349, 1, 0.01],
  [0.0157908, 1, 0.9],
  [18.307, 10, 0.05],
  [3.9403, 10, 0.95],
  [124.342, 100, 0.05],
])('beyond %d with %d degrees lies %d', (value, degrees, p) => {
  expect(chiSquareUpper(value, degrees)).toBeCloseTo(p, 5);
});
test('nothing lies below 0, and all of it beyond', () => {
  expect(chiSquareUpper(0, 1)).toBe(1);
  expect(chiSquareUpper(-1, 3)).toBe(1);
  expect(chiSquareUpper(1e4, 1)).toBe(0);
});

/** Two groups of the same ability; the first item is harder for the second by so many logits. */
function sat(harder: number, people: number): { right: boolean[]; totals: number[]; second: boolean[] } {
  const roll = numbersFrom(11);
  const rows = Array.from({ length: people }, (_, i) => {
    const able = roll() + roll() + roll() - 1.5;
    return Array.from({ length: 20 }, (_x, j) => roll() < 1 / (1 + Math.exp(-(2 * able - (j - 10) / 8 - (j === 0 && i % 2 ? harder : 0)))));
  });
  return { right: rows.map((r) => r[0] as boolean), totals: rows.map((r) => r.filter(Boolean).length), second: rows.map((_, i) => i % 2 === 1) };
}
test.each([
  [0, 'hardly'],
  [0.6, 'somewhat'],
  [1.4, 'much'],
])('an item that is harder for one group by %d logits differs %s', (harder, differs) => {
  const { right, totals, second } = sat(harder, 4000);
  const found = groupFigures(right, totals, second);
  expect(found?.differs).toBe(differs);
  // the other way round it is the same with the other sign
  const turned = groupFigures(
    right,
    totals,
    second.map((g) => !g),
  );
  expect(turned?.delta).toBeCloseTo(-(found?.delta ?? 0), 9);
  expect(turned?.differs).toBe(differs);
  if (harder) expect(found?.delta).toBeLessThan(0);
});

test('small groups, and an item that all get right, say nothing; who is of no group does not count', () => {
  const { right, totals, second } = sat(1, 200);
  expect(
    groupFigures(
      right,
      totals,
      second.map((g, i) => (i < 2 * GROUP_LEAST - 2 ? g : null)),
    ),
  ).toBeNull();
  expect(
    groupFigures(
      right.map(() => true),
      totals,
      second,
    ),
  ).toBeNull();
  const half = second.map((g, i) => (i < 100 ? g : null));
  expect(groupFigures(right, totals, half)).toEqual(groupFigures(right.slice(0, 100), totals.slice(0, 100), second.slice(0, 100)));
});
