/**
 * Whether an item is harder for one group than for another whose points are the same (differential item functioning): the odds of
 * getting it right, compared within people of the same total. N. Mantel and W. Haenszel, J. Natl. Cancer Inst. 22 (1959), 719–748;
 * P. W. Holland and D. T. Thayer, in: Test Validity (1988), 129–145. Formulas from memory.
 */
import { chiSquareUpper } from './chiSquare.js';

/** A fourfold table of people with the same total: right and wrong in the group that is compared with, right and wrong in the other. */
export type Fourfold = readonly [number, number, number, number];
/** What the tables say together. */
export interface MantelHaenszel {
  /** How many times greater the odds of the first group are. */
  odds: number;
  /** With continuity correction. */
  chiSquare: number;
  /** How often chance alone would show as much, 0 to 1. */
  p: number;
  /** Between which odds it lies with 95 % certainty (J. Robins, N. Breslow and S. Greenland, Biometrics 42 (1986), 311–323). */
  interval: readonly [number, number];
}

const Z = 1.959964;
/** Joins fourfold tables; null where no table has people of both groups, or nobody differs. */
export function mantelHaenszel(tables: readonly Fourfold[]): MantelHaenszel | null {
  let [seen, due, spread] = [0, 0, 0];
  let [r, s, pr, both, qs] = [0, 0, 0, 0, 0];
  for (const [a, b, c, d] of tables) {
    const n = a + b + c + d;
    if (!(a + b) || !(c + d)) continue;
    seen += a;
    due += ((a + b) * (a + c)) / n;
    if (n > 1) spread += ((a + b) * (c + d) * (a + c) * (b + d)) / (n * n * (n - 1));
    const [rk, sk, pk, qk] = [(a * d) / n, (b * c) / n, (a + d) / n, (b + c) / n];
    r += rk;
    s += sk;
    pr += pk * rk;
    both += pk * sk + qk * rk;
    qs += qk * sk;
  }
  if (!(spread > 0) || !(r > 0) || !(s > 0)) return null;
  const chiSquare = Math.max(0, Math.abs(seen - due) - 0.5) ** 2 / spread;
  const error = Math.sqrt(pr / (2 * r * r) + both / (2 * r * s) + qs / (2 * s * s));
  const odds = r / s;
  return {
    odds,
    chiSquare,
    p: chiSquareUpper(chiSquare, 1),
    interval: [odds * Math.exp(-Z * error), odds * Math.exp(Z * error)],
  };
}

/** How much two groups differ on an item: hardly, somewhat, much (the classes A, B and C of the Educational Testing Service). */
export type Differs = 'hardly' | 'somewhat' | 'much';
/** An item in two groups: what the fourfold tables of each total say together. */
export interface GroupFigures extends MantelHaenszel {
  /** −2.35 · ln of the odds: below 0, the item is harder for the second group than its points say. */
  delta: number;
  differs: Differs;
}
/** Fewer in one of the groups say nothing (common practice, no source). */
export const GROUP_LEAST = 20;

/**
 * The classes: much where delta is beyond 1.5 and surely beyond 1; hardly where it is within 1 or may be chance. R. Zwick and K. Ercikan,
 * J. Educ. Meas. 26 (1989), 55–66, from memory.
 */
function classOf(delta: number, { p, interval }: MantelHaenszel): Differs {
  if (Math.abs(delta) < 1 || p >= 0.05) return 'hardly';
  // the end of the interval that is nearer to no difference
  const nearer = -2.35 * Math.log(delta < 0 ? interval[0] : interval[1]);
  return Math.abs(delta) >= 1.5 && Math.sign(nearer) === Math.sign(delta) && Math.abs(nearer) > 1 ? 'much' : 'somewhat';
}

/**
 * How an item worked in two groups.
 * @param right whether each person got it right
 * @param totals points of each person on all items, this one included
 * @param second whether each person is of the second group; null for who is of neither
 */
export function groupFigures(right: readonly boolean[], totals: readonly number[], second: readonly (boolean | null)[]): GroupFigures | null {
  const sizes = [second.filter((g) => g === false).length, second.filter((g) => g === true).length];
  if (Math.min(...sizes) < GROUP_LEAST) return null;
  const tables = new Map<number, [number, number, number, number]>();
  right.forEach((r, i) => {
    const group = second[i];
    if (group === null || group === undefined) return;
    const total = Math.round((totals[i] ?? 0) * 1e6);
    const table = tables.get(total) ?? [0, 0, 0, 0];
    const at = (group ? 2 : 0) + (r ? 0 : 1);
    table[at] = (table[at] as number) + 1;
    tables.set(total, table);
  });
  const found = mantelHaenszel([...tables.values()]);
  if (!found) return null;
  const delta = -2.35 * Math.log(found.odds);
  return { ...found, delta, differs: classOf(delta, found) };
}
