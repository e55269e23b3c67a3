/** How likely a spread is by chance, exactly where it can be counted. */
import { chiSquareUpper } from '../stats/chiSquare.js';

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

/** A probability as people say it. */
export const inWords = (p: number): string =>
  p < 0.001
    ? 'less than once in a thousand'
    : p < 0.01
      ? `about ${Math.max(1, Math.round(p * 1000))} times in a thousand`
      : `about ${Math.max(1, Math.round(p * 100))} times in a hundred`;
