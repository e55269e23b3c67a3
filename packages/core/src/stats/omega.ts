/**
 * Reliability where items measure one thing unequally well: McDonald's omega, from a model with one factor. R. P. McDonald, Test Theory
 * (1999), chapter 6 (from memory): ω = (Σλ)² / ((Σλ)² + Σψ), λ the loadings and ψ what is left of each item's variance.
 */
import { covariances } from './moments.js';

const CYCLES = 2000;
const AT_REST = 1e-9;

/**
 * The loadings of one factor by least squares over the covariances beside the diagonal (minres; H. H. Harman and W. H. Jones, Psychometrika
 * 31 (1966), 351–368, from memory). No item is given more than all of its variance.
 * @param s the covariances of the items, a row each
 */
function loadings(s: readonly (readonly number[])[]): number[] | null {
  const k = s.length;
  const most = s.map((row, i) => Math.sqrt(row[i] as number));
  // to begin with: each with the sum of its covariances
  const sums = s.map((row, i) => row.reduce((a, b, j) => a + (j === i ? 0 : b), 0));
  const all = sums.reduce((a, b) => a + Math.abs(b), 0);
  if (!(all > 0)) return null;
  const l = sums.map((sum) => sum / Math.sqrt(all));
  for (let cycle = 0; cycle < CYCLES; cycle++) {
    let moved = 0;
    for (let i = 0; i < k; i++) {
      let [over, under] = [0, 0];
      for (let j = 0; j < k; j++) {
        if (j === i) continue;
        over += (s[i]?.[j] as number) * (l[j] as number);
        under += (l[j] as number) ** 2;
      }
      const next = under > 0 ? Math.max(-(most[i] as number), Math.min(most[i] as number, over / under)) : 0;
      moved = Math.max(moved, Math.abs(next - (l[i] as number)) / (most[i] as number));
      l[i] = next;
    }
    if (moved < AT_REST) return l;
  }
  return null;
}

/**
 * McDonald's omega of a test, 0 to 1; null for fewer than three items that vary, fewer people than items, or where no factor is found.
 * @param points one row a person, one number an item, in points
 */
export function omega(points: readonly (readonly number[])[]): number | null {
  const s = covariances(points);
  const varying = s.flatMap((row, i) => ((row[i] as number) > 1e-12 ? [i] : []));
  if (varying.length < 3 || points.length <= varying.length) return null;
  const own = varying.map((i) => varying.map((j) => s[i]?.[j] as number));
  const found = loadings(own);
  if (!found) return null;
  const common = found.reduce((a, b) => a + b, 0) ** 2;
  const left = own.reduce((sum, row, i) => sum + (row[i] as number) - (found[i] as number) ** 2, 0);
  return common + left > 0 ? common / (common + left) : null;
}
