/** Results of several versions together, item by item: each item over all who met it, in whatever version. */
import { mean } from './moments.js';
import type { Scored } from './scores.js';

/** A version with what its learners got. */
export interface VersionScores {
  name: string;
  items: readonly Scored[];
  /** One row a learner, one number an item, in points. */
  points: readonly (readonly number[])[];
}
/** An item over all versions that hold it. */
export interface ItemTogether {
  id: string;
  /** Learners who met it. */
  n: number;
  /** Mean share of its points, 0 to 1; the share of right answers where it is right or wrong. */
  difficulty: number;
  /**
   * How it goes with the rest of its version, −1 to 1: the correlation within versions, pooled, so that a harder version or an abler
   * group does not count (pooled within-groups correlation, as in the analysis of covariance; formula from memory). Null where nothing varies.
   */
  discrimination: number | null;
  /** Each version that holds it. */
  versions: { name: string; n: number; difficulty: number }[];
}

/** Items in the order in which the versions name them first. Versions that nobody has handed in count for nothing. */
export function together(versions: readonly VersionScores[]): ItemTogether[] {
  const sums = new Map<string, { cross: number; own: number; rest: number; shares: number }>();
  const out = new Map<string, ItemTogether>();
  for (const { name, items, points } of versions) {
    if (!points.length) continue;
    const totals = points.map((row) => row.reduce((a, b) => a + b, 0));
    const maximum = items.reduce((n, i) => n + i.points, 0);
    items.forEach(({ id, points: worth }, j) => {
      const own = points.map((row) => (worth ? (row[j] ?? 0) / worth : 0));
      // as a share of what the rest is worth: versions may be worth more or less
      const rest = points.map((row, i) => ((totals[i] ?? 0) - (row[j] ?? 0)) / (maximum - worth || 1));
      const [a, b] = [mean(own), mean(rest)];
      const s = sums.get(id) ?? { cross: 0, own: 0, rest: 0, shares: 0 };
      own.forEach((x, i) => {
        const y = rest[i] ?? 0;
        s.cross += (x - a) * (y - b);
        s.own += (x - a) ** 2;
        s.rest += (y - b) ** 2;
        s.shares += x;
      });
      sums.set(id, s);
      const item = out.get(id) ?? { id, n: 0, difficulty: 0, discrimination: null, versions: [] };
      item.n += own.length;
      item.difficulty = s.shares / item.n;
      item.discrimination = s.own > 1e-12 && s.rest > 1e-12 ? s.cross / Math.sqrt(s.own * s.rest) : null;
      item.versions.push({ name, n: own.length, difficulty: a });
      out.set(id, item);
    });
  }
  return [...out.values()];
}
