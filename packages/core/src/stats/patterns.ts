/**
 * How far somebody's answers depart from what their points would suggest: the modified caution index. D. L. Harnisch and R. L. Linn,
 * J. Educ. Meas. 18 (1981), 133–146, from memory.
 */

/** Beyond this a pattern is called unusual (Harnisch 1983, from memory). */
export const UNUSUAL = 0.3;
/** Fewer people or items say nothing (common practice, no source). */
const FEWEST = { people: 20, items: 10 };

/**
 * The index of each person, 0 (the easiest items right, as many as there are) to 1 (the hardest); null of who got all or none right, and
 * of all where there are too few people or items.
 * @param right one row a person, one value an item
 */
export function cautionIndices(right: readonly (readonly boolean[])[]): (number | null)[] {
  const wide = right[0]?.length ?? 0;
  if (right.length < FEWEST.people || wide < FEWEST.items) return right.map(() => null);
  const shares = Array.from({ length: wide }, (_, j) => right.filter((row) => row[j]).length / right.length);
  const order = [...shares].sort((a, b) => b - a);
  // sums of the easiest and of the hardest, as many as somebody got right
  const easiest = [0];
  const hardest = [0];
  for (let n = 0; n < wide; n++) {
    easiest.push((easiest[n] as number) + (order[n] as number));
    hardest.push((hardest[n] as number) + (order[wide - 1 - n] as number));
  }
  return right.map((row) => {
    const n = row.filter(Boolean).length;
    const spread = (easiest[n] as number) - (hardest[n] as number);
    if (n === 0 || n === wide || spread < 1e-9) return null;
    const got = row.reduce((sum, r, j) => sum + (r ? (shares[j] as number) : 0), 0);
    return Math.max(0, Math.min(1, ((easiest[n] as number) - got) / spread));
  });
}
