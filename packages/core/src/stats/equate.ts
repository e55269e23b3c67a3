/**
 * Points of several versions on one scale, by the items that versions have in common: chained linear equating. M. J. Kolen and R. L.
 * Brennan, Test Equating, Scaling, and Linking (3rd edition, 2014), chapter 4, from memory. Points of a version are brought to the scale
 * of the common items in its own group, and from there to the scale of the other version in the group of that.
 */
import { mean, variance } from './moments.js';
import type { VersionScores } from './together.js';

/** A version on the scale of another: `slope` · points + `shift`. */
export interface Equated {
  name: string;
  /** People who took it. */
  n: number;
  /** Items that both have. */
  common: number;
  slope: number;
  shift: number;
}
/** Why there is no such scale. */
export type NotEquated = { name: string; n: number; common: number; why: 'people' | 'items' | 'spread' };

/** Fewer people in a group say too little, and fewer common items (common practice, no source). */
export const EQUATE_LEAST = { people: 30, items: 5 };

const spread = (list: readonly number[]): number => Math.sqrt(variance(list));

/** Each version but the first on the scale of the first. Items are the same where their ids are. */
export function equate([base, ...others]: readonly VersionScores[]): (Equated | NotEquated)[] {
  if (!base) return [];
  return others.map((x) => {
    const common = x.items.map((i) => i.id).filter((id) => base.items.some((b) => b.id === id));
    const about = { name: x.name, n: x.points.length, common: common.length };
    if (Math.min(x.points.length, base.points.length) < EQUATE_LEAST.people) return { ...about, why: 'people' };
    if (common.length < EQUATE_LEAST.items) return { ...about, why: 'items' };
    const totals = (v: VersionScores): number[] => v.points.map((row) => row.reduce((a, b) => a + b, 0));
    const anchors = (v: VersionScores): number[] => {
      const at = common.map((id) => v.items.findIndex((i) => i.id === id));
      return v.points.map((row) => at.reduce((sum, j) => sum + (row[j] ?? 0), 0));
    };
    const [all, link, baseAll, baseLink] = [totals(x), anchors(x), totals(base), anchors(base)];
    if (!(spread(all) > 1e-9) || !(spread(baseLink) > 1e-9)) return { ...about, why: 'spread' };
    const [up, over] = [spread(link) / spread(all), spread(baseAll) / spread(baseLink)];
    const slope = up * over;
    return { ...about, slope, shift: mean(baseAll) + over * (mean(link) - up * mean(all) - mean(baseLink)) };
  });
}
