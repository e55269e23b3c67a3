/** The chi-square distribution. */

/** ln Γ(x) for x > 0 (C. Lanczos, J. SIAM Numer. Anal. B 1 (1964), 86–96; coefficients for g = 7, from memory). */
function lnGamma(x: number): number {
  const c = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905, -0.13857109526572012,
    9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  let sum = c[0] as number;
  for (let i = 1; i < c.length; i++) sum += (c[i] as number) / (x - 1 + i);
  const t = x + 6.5;
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

const TERMS = 500;
/**
 * The probability that a chi-square value with so many degrees of freedom is larger, 0 to 1: the regularised incomplete gamma function
 * Q(k/2, x/2), by its series or its continued fraction (M. Abramowitz and I. Stegun, Handbook of Mathematical Functions, 6.5.29 and
 * 6.5.31, from memory).
 */
export function chiSquareBeyond(value: number, degrees: number): number {
  const [a, x] = [degrees / 2, value / 2];
  if (!(x > 0)) return 1;
  const front = Math.exp(a * Math.log(x) - x - lnGamma(a));
  if (x < a + 1) {
    let [term, sum] = [1 / a, 1 / a];
    for (let n = 1; n < TERMS && term > sum * 1e-15; n++) {
      term *= x / (a + n);
      sum += term;
    }
    return Math.max(0, 1 - front * sum);
  }
  let b = x + 1 - a;
  let c = 1e300;
  let d = 1 / b;
  let h = d;
  for (let n = 1; n < TERMS; n++) {
    const an = -n * (n - a);
    b += 2;
    d = 1 / (an * d + b);
    c = b + an / c;
    h *= d * c;
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return Math.min(1, front * h);
}
