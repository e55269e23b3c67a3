/**
 * Sums and halves of numbers as they are written in decimal: 0.1 + 0.2 is 0.3, and half of 9.5 and 10.5 is 10. A number stands for the
 * shortest decimal that names it (ECMA-262, Number::toString), which is how people and files write it.
 */

/** `coefficient` × 10 to the power of `exponent`. */
export interface Decimal {
  coefficient: bigint;
  exponent: number;
}

/** A plain or scientific decimal ("-12.50", "6.02e23") exactly as written; null where the text is none. */
export function decimalOf(text: string): Decimal | null {
  const m = /^([+-]?)(\d*)(?:\.(\d*))?(?:[eE]([+-]?\d{1,4}))?$/.exec(text);
  if (!m || !(m[2] || m[3])) return null;
  const digits = `${m[2] ?? ''}${m[3] ?? ''}`;
  const coefficient = BigInt(digits) * (m[1] === '-' ? -1n : 1n);
  return { coefficient, exponent: Number(m[4] ?? 0) - (m[3]?.length ?? 0) };
}

const of = (x: number): Decimal => {
  const d = decimalOf(String(x));
  if (!d) throw new RangeError(`${x} is no decimal number`);
  return d;
};
const numberOf = (d: Decimal): number => Number(`${d.coefficient}e${d.exponent}`);
/** How far apart powers may lie: beyond it the smaller one does not show, and the figures in between would be thousands. */
const FAR = 400;

function sum(a: Decimal, b: Decimal): Decimal {
  const exponent = Math.min(a.exponent, b.exponent);
  if (Math.max(a.exponent, b.exponent) - exponent > FAR) return a.exponent > b.exponent ? a : b;
  const at = (d: Decimal): bigint => d.coefficient * 10n ** BigInt(d.exponent - exponent);
  return { coefficient: at(a) + at(b), exponent };
}

/** The sum of two finite numbers. @throws RangeError where one is not finite */
export const plus = (a: number, b: number): number => numberOf(sum(of(a), of(b)));
/** The difference of two finite numbers. @throws RangeError where one is not finite */
export const minus = (a: number, b: number): number => plus(a, -b);
/** A finite number times a power of ten. @throws RangeError where it is not finite */
export const shifted = (x: number, places: number): number => {
  const { coefficient, exponent } = of(x);
  return numberOf({ coefficient, exponent: exponent + places });
};
const half = (d: Decimal): number => numberOf({ coefficient: d.coefficient * 5n, exponent: d.exponent - 1 });
/** The middle of a range. @throws RangeError where a bound is not finite */
export const middleOf = (range: { min: number; max: number }): number => half(sum(of(range.min), of(range.max)));
/** How far a range reaches from its middle. @throws RangeError where a bound is not finite */
export const halfWidthOf = (range: { min: number; max: number }): number => half(sum(of(range.max), of(-range.min)));

/**
 * Whether a whole number in figures is held by a number to its last figure: from 2^53 on most are not (IEEE 754 binary64). What is no
 * whole number is held as near as it is compared.
 */
export function isHeld(text: string): boolean {
  const d = decimalOf(text);
  if (!d || d.exponent < 0) return true;
  const whole = d.coefficient * 10n ** BigInt(Math.min(d.exponent, FAR));
  return whole === 0n || decimalsEqual(of(Number(text)), d);
}
function decimalsEqual(a: Decimal, b: Decimal): boolean {
  const difference = sum(a, { coefficient: -b.coefficient, exponent: b.exponent });
  return difference.coefficient === 0n;
}

/** A number in figures alone, without a power: 1e-7 as 0.0000001. */
export function inFigures(x: number): string {
  const { coefficient, exponent } = of(x);
  const sign = coefficient < 0n ? '-' : '';
  const figures = (coefficient < 0n ? -coefficient : coefficient).toString();
  if (exponent >= 0) return `${sign}${figures}${figures === '0' ? '' : '0'.repeat(exponent)}`;
  const padded = figures.padStart(1 - exponent, '0');
  return `${sign}${padded.slice(0, exponent)}.${padded.slice(exponent)}`;
}

/** A number as people write it: figures, or a power of ten ("6.02e23") where the figures would be more than two dozen. */
export function writtenNumber(x: number): string {
  const short = String(x);
  if (!short.includes('e')) return short;
  const figures = inFigures(x);
  return figures.length <= 24 ? figures : short.replace('e+', 'e');
}
/** A range as people write it: "9.5 to 10.5", or its one number. */
export const writtenRange = (range: { min: number; max: number }): string =>
  range.min === range.max ? writtenNumber(range.min) : `${writtenNumber(range.min)} to ${writtenNumber(range.max)}`;
