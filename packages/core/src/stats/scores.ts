/** Scores of a group of learners, and how each item worked. */

export interface ItemFigures {
  id: string;
  /** Mean share of the points earned, 0 to 1. Crocker and Algina 1986, "item difficulty" (from memory). */
  difficulty: number;
  /** Correlation of the item's points with the points on all other items; null where one of the two does not vary. */
  discrimination: number | null;
}

/** Figures of a test and its items. */
export interface Figures {
  n: number;
  mean: number;
  median: number;
  /** Standard deviation of the sample (n − 1). */
  sd: number;
  /** Cronbach's alpha, Cronbach 1951; null for less than two items or learners, or no variance. */
  alpha: number | null;
  /** Standard error of measurement, sd · √(1 − alpha), in points. */
  standardError: number | null;
  items: ItemFigures[];
}

const mean = (xs: readonly number[]): number => (xs.length ? xs.reduce((a, b) => a + b, 0) / xs.length : 0);
const variance = (xs: readonly number[]): number => {
  if (xs.length < 2) return 0;
  const m = mean(xs);
  return xs.reduce((s, x) => s + (x - m) ** 2, 0) / (xs.length - 1);
};
const median = (xs: readonly number[]): number => {
  const s = [...xs].sort((a, b) => a - b);
  const mid = s.length >> 1;
  return s.length ? (s.length % 2 ? (s[mid] ?? 0) : ((s[mid - 1] ?? 0) + (s[mid] ?? 0)) / 2) : 0;
};
function correlation(xs: readonly number[], ys: readonly number[]): number | null {
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
/**
 * @param items ids and maximum points of the items that count
 * @param points one row a learner, one number an item, in points
 */
export function figures(items: readonly Scored[], points: readonly (readonly number[])[]): Figures {
  const totals = points.map((row) => row.reduce((a, b) => a + b, 0));
  const column = (j: number): number[] => points.map((row) => row[j] ?? 0);
  const k = items.length;
  const spread = variance(totals);
  const alpha = k > 1 && points.length > 1 && spread > 1e-12 ? (k / (k - 1)) * (1 - items.reduce((s, _, j) => s + variance(column(j)), 0) / spread) : null;
  const sd = Math.sqrt(spread);
  return {
    n: points.length,
    mean: mean(totals),
    median: median(totals),
    sd,
    alpha,
    standardError: alpha === null ? null : sd * Math.sqrt(Math.max(0, 1 - alpha)),
    items: items.map((item, j) => {
      const own = column(j);
      return {
        id: item.id,
        difficulty: item.points ? mean(own) / item.points : 0,
        discrimination: correlation(
          own,
          totals.map((t, i) => t - (own[i] ?? 0)),
        ),
      };
    }),
  };
}
