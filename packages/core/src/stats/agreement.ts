/** How far two people who marked the same answers agree. */

/** The agreement of two markers. */
export interface Agreement {
  /** Answers that both marked. */
  n: number;
  /** How many of them got the same points. */
  same: number;
  /** Cohen's kappa (Cohen 1960, from memory): agreement beyond that of chance, over the points as names; null where nothing varies. */
  kappa: number | null;
  /** The same with squared differences as weights (Cohen 1968, from memory): near is better than far; null where nothing varies. */
  weighted: number | null;
  /** By how much the second gave more than the first, on average. */
  stricter: number;
}

/** @param pairs points of the first and of the second marker, one pair for each answer */
export function agreementOf(pairs: readonly (readonly [number, number])[]): Agreement {
  const n = pairs.length;
  const same = pairs.filter(([a, b]) => Math.abs(a - b) < 1e-9).length;
  const counts = (at: 0 | 1): Map<number, number> => {
    const out = new Map<number, number>();
    for (const p of pairs) out.set(p[at], (out.get(p[at]) ?? 0) + 1);
    return out;
  };
  const [first, second] = [counts(0), counts(1)];
  let chance = 0;
  let far = 0;
  for (const [a, x] of first)
    for (const [b, y] of second) {
      const share = (x * y) / (n * n);
      if (Math.abs(a - b) < 1e-9) chance += share;
      far += share * (a - b) ** 2;
    }
  const apart = pairs.reduce((s, [a, b]) => s + (a - b) ** 2, 0) / (n || 1);
  return {
    n,
    same,
    kappa: n && chance < 1 - 1e-12 ? (same / n - chance) / (1 - chance) : null,
    weighted: far > 1e-12 ? 1 - apart / far : null,
    stricter: pairs.reduce((s, [a, b]) => s + b - a, 0) / (n || 1),
  };
}
