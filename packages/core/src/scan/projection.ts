/** The projective map between a page and its picture (a homography), from points that are known in both. */
import type { Point } from './picture.js';

/** Nine numbers of a 3 × 3 matrix, row after row, the last of them 1. */
export type Projection = readonly number[];

/** A map as a function, for many points. */
export function toward(m: Projection): (x: number, y: number) => Point {
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0, i = 1] = m;
  return (x, y) => {
    const w = g * x + h * y + i;
    return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
  };
}
/** Where a point goes. */
export const projected = (m: Projection, { x, y }: Point): Point => toward(m)(x, y);
/** The map to a picture that is so many times as large. */
export const enlarged = (m: Projection, times: number): Projection => m.map((v, i) => (i < 6 ? v * times : v));

/** Solves a small system of linear equations by elimination with pivots; null where it has no single solution. */
function solved(rows: number[][]): number[] | null {
  const n = rows.length;
  for (let c = 0; c < n; c++) {
    let best = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r]?.[c] ?? 0) > Math.abs(rows[best]?.[c] ?? 0)) best = r;
    const pivot = rows[best] as number[];
    if (Math.abs(pivot[c] as number) < 1e-12) return null;
    rows[best] = rows[c] as number[];
    rows[c] = pivot;
    for (let r = 0; r < n; r++) {
      const row = rows[r] as number[];
      const times = (row[c] as number) / (pivot[c] as number);
      if (r === c || times === 0) continue;
      for (let k = c; k <= n; k++) row[k] = (row[k] as number) - times * (pivot[k] as number);
    }
  }
  return rows.map((r, i) => (r[n] as number) / (r[i] as number));
}

/**
 * The map that brings four points to four others
 * (direct linear transformation with the last number 1; Hartley and Zisserman, "Multiple View Geometry", 4.1, from memory).
 * @returns null where three of them lie on a line, so that there is none
 */
export function projectionOf(from: readonly Point[], to: readonly Point[]): Projection | null {
  // points are brought near 0 and 1 first, so that they keep their figures
  const size = Math.max(...from.map((p) => Math.max(Math.abs(p.x), Math.abs(p.y))), 1);
  const far = Math.max(...to.map((p) => Math.max(Math.abs(p.x), Math.abs(p.y))), 1);
  const s = solved(
    from.flatMap((p, n) => {
      const x = p.x / size;
      const y = p.y / size;
      const u = (to[n]?.x ?? 0) / far;
      const v = (to[n]?.y ?? 0) / far;
      return [
        [x, y, 1, 0, 0, 0, -u * x, -u * y, u],
        [0, 0, 0, x, y, 1, -v * x, -v * y, v],
      ];
    }),
  );
  if (!s) return null;
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0] = s;
  return [(a * far) / size, (b * far) / size, c * far, (d * far) / size, (e * far) / size, f * far, g / size, h / size, 1];
}
