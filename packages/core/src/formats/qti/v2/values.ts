/** Values of response processing: containers of a base type with a cardinality (QTI 2.1 information model, "Values"). */

/** One value of a base type. */
export type Scalar = string | number | boolean;
/** Values of one base type; a single value is a container of one. */
export interface Container {
  cardinality: 'single' | 'multiple' | 'ordered' | 'record';
  base: string;
  items: readonly Scalar[];
}
/** NULL of the standard is null here. */
export type Value = Container | null;

/** Base types that are numbers. */
export const NUMERIC = new Set(['integer', 'float', 'duration']);
/** A number in a text; `other` where there is none. */
export const numberOr = (text: string | undefined, other: number): number => {
  const n = text === undefined || text.trim() === '' ? Number.NaN : Number(text);
  return Number.isNaN(n) ? other : n;
};

/** A text as a value of a base type; undefined where it is none. */
export function scalar(text: string, base: string): Scalar | undefined {
  if (NUMERIC.has(base)) {
    const t = text.trim();
    const n = t === '' ? Number.NaN : Number(t);
    return Number.isFinite(n) && (base !== 'integer' || Number.isInteger(n)) ? n : undefined;
  }
  if (base === 'boolean') return text.trim() === 'true' || text.trim() === '1';
  if (base === 'directedPair' || base === 'pair') return text.trim().split(/\s+/).join(' ');
  return base === 'string' ? text : text.trim();
}

/** A container; NULL where it is empty. */
export const container = (cardinality: Container['cardinality'], base: string, items: readonly Scalar[]): Value =>
  items.length ? { cardinality, base, items } : null;
/** A single value. */
export const single = (base: string, item: Scalar): Container => ({ cardinality: 'single', base, items: [item] });
/** A boolean value. */
export const bool = (b: boolean): Container => single('boolean', b);
/** A float value; NULL for what is no finite number. */
export const float = (n: number): Value => (Number.isFinite(n) ? single('float', n) : null);

/** A pair the other way round. */
export const MIRROR = (pair: string): string => pair.split(' ').reverse().join(' ');
/** Whether two values of a base type are equal; the two sides of a pair have no order. */
export const sameScalar = (a: Scalar, b: Scalar, base: string): boolean => a === b || (base === 'pair' && a === MIRROR(String(b)));

/** Whether two values match (QTI 2.1, match): equal as single values, in order, or as bags. */
export function matches(x: Container, y: Container): boolean {
  if (x.items.length !== y.items.length) return false;
  if (x.cardinality === 'ordered' || y.cardinality === 'ordered') return x.items.every((i, k) => sameScalar(i, y.items[k] as Scalar, x.base));
  const left = [...y.items];
  return x.items.every((i) => {
    // a number in a string variable, as some exporters declare it, still equals that number
    const at = left.findIndex((l) => sameScalar(l, i, x.base) || (typeof l !== typeof i && String(l) === String(i)));
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  });
}

/** A number to some figures, halves away from nothing: 3.175 is 3.18, although a computer holds a little less than it. */
export function rounded(x: number, mode: string | undefined, figures: number): number {
  const full = x * (1 + 1e-12);
  if (mode === 'significantFigures') return Number(full.toPrecision(Math.min(15, Math.max(1, figures))));
  return Number(full.toFixed(Math.min(15, Math.max(0, figures))));
}
