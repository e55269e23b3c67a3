/** How likely a spread is by chance, exactly where it can be counted. */

const logFactorials: number[] = [0, 0];
function logFactorial(n: number): number {
  for (let i = logFactorials.length; i <= n; i++) logFactorials[i] = (logFactorials[i - 1] ?? 0) + Math.log(i);
  return logFactorials[n] ?? 0;
}

/** Two-sided exact binomial test against one half (Clopper and Pearson's distribution, summed over outcomes no likelier than the one seen). */
export function binomialTwoSided(successes: number, n: number): number {
  const p = (k: number): number => Math.exp(logFactorial(n) - logFactorial(k) - logFactorial(n - k) + n * Math.log(0.5));
  const seen = p(successes);
  let sum = 0;
  for (let k = 0; k <= n; k++) if (p(k) <= seen * (1 + 1e-9)) sum += p(k);
  return Math.min(1, sum);
}

/** Outcomes beyond this are too many to count; the chi-square distribution is near enough for them. */
const MOST_OUTCOMES = 200_000;

/**
 * The probability, when every place is equally likely, of counts as unlikely as these or less (exact multinomial test; beyond
 * 200,000 outcomes the chi-square goodness-of-fit test of Pearson 1900).
 */
export function multinomialEven(counts: readonly number[]): number {
  const n = counts.reduce((a, b) => a + b, 0);
  const k = counts.length;
  const outcomes = Math.exp(logFactorial(n + k - 1) - logFactorial(k - 1) - logFactorial(n));
  if (outcomes > MOST_OUTCOMES) {
    const expected = n / k;
    const x = counts.reduce((sum, c) => sum + (c - expected) ** 2 / expected, 0);
    return chiSquareUpper(x, k - 1);
  }
  const log = (parts: readonly number[]): number => logFactorial(n) - parts.reduce((s, c) => s + logFactorial(c), 0) - n * Math.log(k);
  const seen = log(counts) + 1e-9;
  let sum = 0;
  const walk = (left: number, places: number, parts: number[]): void => {
    if (places === 1) {
      const l = log([...parts, left]);
      if (l <= seen) sum += Math.exp(l);
      return;
    }
    for (let c = 0; c <= left; c++) walk(left - c, places - 1, [...parts, c]);
  };
  walk(n, k, []);
  return Math.min(1, sum);
}

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

/** A probability as people say it. */
export const inWords = (p: number): string =>
  p < 0.001
    ? 'less than once in a thousand'
    : p < 0.01
      ? `about ${Math.max(1, Math.round(p * 1000))} times in a thousand`
      : `about ${Math.max(1, Math.round(p * 100))} times in a hundred`;
