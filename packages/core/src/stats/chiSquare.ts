/** The chi-square distribution. */

/** The upper tail of the chi-square distribution, by the series and continued fraction of the incomplete gamma function (Abramowitz and Stegun 6.5.29, 6.5.31). */
export function chiSquareUpper(x: number, degrees: number): number {
  if (x <= 0) return 1;
  const a = degrees / 2;
  const z = x / 2;
  const front = Math.exp(a * Math.log(z) - z - logGamma(a));
  if (z < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < 500; n++) {
      term *= z / (a + n);
      sum += term;
      if (term < sum * 1e-15) break;
    }
    return Math.max(0, 1 - sum * front);
  }
  let b = z + 1 - a;
  let c = 1 / 1e-300;
  let d = 1 / b;
  let h = d;
  for (let i = 1; i < 500; i++) {
    const an = -i * (i - a);
    b += 2;
    d = 1 / (an * d + b || 1e-300);
    c = b + an / c || 1e-300;
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-15) break;
  }
  return front * h;
}
/** ln Γ of halves and wholes, by the recurrence from Γ(1/2) = √π and Γ(1) = 1. */
function logGamma(a: number): number {
  let out = a % 1 === 0 ? 0 : Math.log(Math.PI) / 2;
  for (let x = a % 1 === 0 ? 1 : 0.5; x < a; x++) out += Math.log(x);
  return out;
}
