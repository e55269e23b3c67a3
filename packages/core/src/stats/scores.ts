/** Scores of a group of learners, and how each item worked. */
import { mean, variance } from './moments.js';
import { omega } from './omega.js';

/** How one item worked, by what people earned. */
export interface ItemFigures {
  id: string;
  /** Mean share of the points earned, 0 to 1. Crocker and Algina 1986, "item difficulty" (from memory). */
  difficulty: number;
  /** Between which shares the difficulty lies with 95 % certainty, were more such people asked. */
  interval: readonly [number, number];
  /** Correlation of the item's points with the points on all other items; null where one of the two does not vary. */
  discrimination: number | null;
  /**
   * By how much the upper 27 % of people, by their totals, earn a greater share than the lower 27 % (Kelley 1939, from memory), −1 to 1.
   * Who ties with the last of a group counts for the part of the group that is left for them. Null for fewer than four people.
   */
  upperLower: number | null;
  /** Alpha of the other items; null where they have none. */
  alphaWithout: number | null;
}

/** Figures of a test and its items. */
export interface Figures {
  n: number;
  mean: number;
  median: number;
  /** A quarter and three quarters of people have at most so much: type 7 of Hyndman and Fan 1996 (from memory), as R and spreadsheets have it. */
  quartiles: readonly [number, number];
  /**
   * Which side the longer tail is on: below 0 towards few points. Adjusted Fisher–Pearson coefficient, √(n(n−1))/(n−2) · m₃/m₂^1.5 (from
   * memory); null for fewer than three people or no spread.
   */
  skew: number | null;
  /** Standard deviation of the sample (n − 1). */
  sd: number;
  /** Cronbach's alpha, Cronbach 1951; null for less than two items or learners, or no variance. */
  alpha: number | null;
  /** McDonald's omega; null where no one factor is found. */
  omega: number | null;
  /** Standard error of measurement, sd · √(1 − alpha), in points. */
  standardError: number | null;
  items: ItemFigures[];
}

/** A quantile, by linear interpolation between the ordered values (type 7 of Hyndman and Fan 1996). @param p 0 to 1 */
export function quantile(xs: readonly number[], p: number): number {
  const s = [...xs].sort((a, b) => a - b);
  const at = (s.length - 1) * p;
  const low = Math.floor(at);
  const [a, b] = [s[low] ?? 0, s[Math.min(s.length - 1, low + 1)] ?? 0];
  return a + (b - a) * (at - low);
}
function skewness(xs: readonly number[]): number | null {
  const n = xs.length;
  const m = mean(xs);
  const moment = (k: number): number => mean(xs.map((x) => (x - m) ** k));
  const second = moment(2);
  return n < 3 || second < 1e-12 ? null : ((Math.sqrt(n * (n - 1)) / (n - 2)) * moment(3)) / second ** 1.5;
}

/** 97.5 % of a normal distribution lie below. */
const Z = 1.959964;
/**
 * Where a mean share lies with 95 % certainty. Of right and wrong: the score interval of Wilson 1927 (from memory), which never leaves 0 to
 * 1; of shares in between: the same with the variance that they have, which is at most that of right and wrong.
 */
function intervalOf(shares: readonly number[]): [number, number] {
  const n = shares.length;
  if (!n) return [0, 1];
  const p = mean(shares);
  const most = p * (1 - p);
  // shares in between tell more than right and wrong: as many people as would tell as much
  const own = shares.reduce((s, x) => s + (x - p) ** 2, 0) / n;
  const people = own > 1e-12 && most > 1e-12 ? Math.max(n, (n * most) / own) : n;
  const z2 = Z * Z;
  const middle = (p + z2 / (2 * people)) / (1 + z2 / people);
  const half = (Z * Math.sqrt(most / people + z2 / (4 * people * people))) / (1 + z2 / people);
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}

const GROUP = 0.27;
/** The mean of a group at one end of the totals; people who tie at its edge share what is left of it. */
function groupMean(order: readonly { total: number; share: number }[], size: number): number {
  const edge = order[size - 1]?.total ?? 0;
  const inside = order.filter((o, i) => i < size && o.total !== edge);
  const tied = order.filter((o) => o.total === edge);
  return (inside.reduce((s, o) => s + o.share, 0) + (size - inside.length) * mean(tied.map((o) => o.share))) / size;
}
function upperLowerOf(shares: readonly number[], totals: readonly number[]): number | null {
  const size = Math.round(shares.length * GROUP);
  if (shares.length < 4 || size < 1) return null;
  const all = shares.map((share, i) => ({ share, total: totals[i] ?? 0 })).sort((a, b) => a.total - b.total);
  return groupMean(all.toReversed(), size) - groupMean(all, size);
}

/** The correlation of two lists (Pearson); null where one of them does not vary. */
export function correlation(xs: readonly number[], ys: readonly number[]): number | null {
  const [mx, my] = [mean(xs), mean(ys)];
  let [xy, xx, yy] = [0, 0, 0];
  for (let i = 0; i < xs.length; i++) {
    const [dx, dy] = [(xs[i] ?? 0) - mx, (ys[i] ?? 0) - my];
    xy += dx * dy;
    xx += dx * dx;
    yy += dy * dy;
  }
  return xx > 1e-12 && yy > 1e-12 ? xy / Math.sqrt(xx * yy) : null;
}

/** An item as scores need it: what it is called and what it is worth. */
export interface Scored {
  id: string;
  points: number;
}
/** Cronbach's alpha from the variances of the items and of the totals; null where there is none. */
const alphaOf = (variances: readonly number[], spread: number): number | null => {
  const k = variances.length;
  return k > 1 && spread > 1e-12 ? (k / (k - 1)) * (1 - variances.reduce((s, v) => s + v, 0) / spread) : null;
};

/**
 * @param items ids and maximum points of the items that count
 * @param points one row a learner, one number an item, in points
 */
export function figures(items: readonly Scored[], points: readonly (readonly number[])[]): Figures {
  const totals = points.map((row) => row.reduce((a, b) => a + b, 0));
  const columns = items.map((_, j) => points.map((row) => row[j] ?? 0));
  const spread = variance(totals);
  const variances = columns.map(variance);
  const alpha = points.length > 1 ? alphaOf(variances, spread) : null;
  const sd = Math.sqrt(spread);
  return {
    n: points.length,
    mean: mean(totals),
    median: quantile(totals, 0.5),
    quartiles: [quantile(totals, 0.25), quantile(totals, 0.75)],
    skew: skewness(totals),
    sd,
    alpha,
    omega: omega(points),
    standardError: alpha === null ? null : sd * Math.sqrt(Math.max(0, 1 - alpha)),
    items: items.map((item, j) => {
      const own = columns[j] ?? [];
      const rest = totals.map((t, i) => t - (own[i] ?? 0));
      const shares = own.map((x) => (item.points ? x / item.points : 0));
      return {
        id: item.id,
        difficulty: mean(shares),
        interval: intervalOf(shares),
        discrimination: correlation(own, rest),
        upperLower: upperLowerOf(shares, totals),
        alphaWithout:
          points.length > 1
            ? alphaOf(
                variances.filter((_, k) => k !== j),
                variance(rest),
              )
            : null,
      };
    }),
  };
}
