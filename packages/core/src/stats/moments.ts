/** Means, variances and covariances. */

/** The mean of numbers; 0 of none. */
export const mean = (xs: readonly number[]): number => (xs.length ? xs.reduce((a, b) => a + b, 0) / xs.length : 0);

/** The variance of numbers (n − 1); 0 of fewer than two. */
export const variance = (xs: readonly number[]): number => {
  if (xs.length < 2) return 0;
  const m = mean(xs);
  return xs.reduce((s, x) => s + (x - m) ** 2, 0) / (xs.length - 1);
};
/** The covariances of the items of a test, a row each (n − 1). @param points one row a person, one number an item */
export function covariances(points: readonly (readonly number[])[]): number[][] {
  const n = points.length;
  const wide = points[0]?.length ?? 0;
  const off = Array.from({ length: wide }, (_, j) => {
    const own = points.map((row) => row[j] ?? 0);
    const m = mean(own);
    return Float64Array.from(own, (x) => x - m);
  });
  const out = off.map(() => Array.from({ length: wide }, () => 0));
  for (let i = 0; i < wide; i++)
    for (let j = i; j < wide; j++) {
      const [x, y] = [off[i] as Float64Array, off[j] as Float64Array];
      let sum = 0;
      for (let p = 0; p < n; p++) sum += (x[p] as number) * (y[p] as number);
      (out[i] as number[])[j] = (out[j] as number[])[i] = n > 1 ? sum / (n - 1) : 0;
    }
  return out;
}
