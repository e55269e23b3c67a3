/**
 * Expressions of response processing: a table of operators. Names and meanings: 1EdTech QTI Assessment, Section and Item Information
 * Model 2.1, "Expressions". An operator is a row: it gets its element with the operands as functions of the run.
 */
import { childrenOf, textOf, type XmlNode } from '../../xmlTree.js';
import { bool, type Container, container, float, matches, rounded, sameScalar, type Scalar, scalar, single, type Value } from './values.js';

/** What operators need of the run that they are part of. */
export interface Scope {
  /** The value of an expression. */
  value(expression: XmlNode): Value;
  /** The value of an outcome or response variable. */
  variable(identifier: string): Value;
  correct(identifier: string): Value;
  dflt(identifier: string): Value;
  /** The sum of mapped values of a response variable. */
  mapResponse(identifier: string): Value;
}
/** An operator at work: its element, its operands, and the scope. */
class Expression {
  readonly operands: readonly XmlNode[];
  constructor(
    readonly node: XmlNode,
    readonly scope: Scope,
  ) {
    this.operands = childrenOf(node);
  }
  attribute(name: string): string | undefined {
    return this.node.attributes[name];
  }
  /** The value of the operand at a place; NULL where there is none. */
  operand(at: number): Value {
    const n = this.operands[at];
    return n ? this.scope.value(n) : null;
  }
  /** Of two operands; NULL where one of them is. */
  both(f: (x: Container, y: Container) => Value): Value {
    const [x, y] = [this.operand(0), this.operand(1)];
    return x && y ? f(x, y) : null;
  }
  /** How many operands are true: NULL counts as false where a decision is asked for, which the standard's tables come to for conditions. */
  get trueOnes(): number {
    return this.operands.filter((n) => this.scope.value(n)?.items[0] === true).length;
  }
  /** The first value of an operand as a number; null where it is none. */
  number(at: number): number | null {
    const v = this.operand(at)?.items[0];
    const x = typeof v === 'number' ? v : typeof v === 'string' && v.trim() !== '' ? Number(v) : Number.NaN;
    return Number.isNaN(x) ? null : x;
  }
  /** Of all numbers of all operands, containers with all their values; NULL where an operand is NULL or no number. */
  numbers(f: (numbers: number[]) => number): Value {
    const out: number[] = [];
    for (const n of this.operands) {
      const v = this.scope.value(n);
      if (!v) return null;
      for (const i of v.items) out.push(Number(i));
    }
    return out.length && !out.some(Number.isNaN) ? float(f(out)) : null;
  }
  compare(f: (a: number, b: number) => boolean): Value {
    const [a, b] = [this.number(0), this.number(1)];
    return a === null || b === null ? null : bool(f(a, b));
  }
  /** A tolerance or a count, written as a number or as the name of a variable. */
  figure(text: string): number {
    const n = Number(text);
    return Number.isNaN(n) ? Number(this.scope.variable(text)?.items[0] ?? Number.NaN) : n;
  }
  /** The first value as a text, in small letters where the operator does not mind case. */
  text(v: Container): string {
    const text = String(v.items[0]);
    return this.attribute('caseSensitive') === 'false' ? text.toLowerCase() : text;
  }
}
type Operator = (e: Expression) => Value;

const arithmetic =
  (f: (x: number, y: number) => number): Operator =>
  (e) =>
    e.numbers(([x = Number.NaN, y = Number.NaN]) => f(x, y));

function equal(e: Expression): Value {
  const [x, y] = [e.number(0), e.number(1)];
  if (x === null || y === null) return null;
  const [t0 = 0, t1 = t0] = (e.attribute('tolerance') ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((t) => e.figure(t));
  const mode = e.attribute('toleranceMode') ?? 'exact';
  if (mode === 'exact') return bool(x === y);
  // x is the first operand: the standard's interval lies around it
  const lower = mode === 'relative' ? x * (1 - t0 / 100) : x - t0;
  const upper = mode === 'relative' ? x * (1 + t1 / 100) : x + t1;
  const [lo, hi] = lower <= upper ? [lower, upper] : [upper, lower];
  const above = e.attribute('includeLowerBound') === 'false' ? y > lo : y >= lo - 1e-12;
  const below = e.attribute('includeUpperBound') === 'false' ? y < hi : y <= hi + 1e-12;
  return bool(above && below);
}

/** Whether the values of one container are in another: in a row where it is ordered, else as often as they come. */
function contains(x: Container, y: Container): boolean {
  if (x.cardinality === 'ordered') return x.items.some((_, at) => y.items.every((i, k) => x.items[at + k] === i));
  const left = [...x.items];
  return y.items.every((i) => {
    const at = left.findIndex((l) => sameScalar(l, i, x.base));
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  });
}

const gather =
  (cardinality: 'multiple' | 'ordered'): Operator =>
  (e) => {
    const parts = e.operands.flatMap((n) => e.scope.value(n) ?? []);
    return container(
      cardinality,
      parts[0]?.base ?? 'identifier',
      parts.flatMap((p) => p.items),
    );
  };

/** Every operator that is known. What a file has beyond them is told as strange, and its value is NULL. */
export const operators: Readonly<Record<string, Operator>> = {
  baseValue: (e) => {
    const base = e.attribute('baseType') ?? 'string';
    const s = scalar(textOf(e.node), base);
    return s === undefined ? null : single(base, s);
  },
  variable: (e) => e.scope.variable(e.attribute('identifier') ?? ''),
  correct: (e) => e.scope.correct(e.attribute('identifier') ?? ''),
  default: (e) => e.scope.dflt(e.attribute('identifier') ?? ''),
  mapResponse: (e) => e.scope.mapResponse(e.attribute('identifier') ?? ''),
  null: () => null,
  mathConstant: (e) => float(e.attribute('name') === 'pi' ? Math.PI : e.attribute('name') === 'e' ? Math.E : Number.NaN),

  isNull: (e) => {
    const v = e.operand(0);
    // an empty string and an empty container are NULL too (QTI 2.1, isNull)
    return bool(v === null || v.items.length === 0 || (v.base === 'string' && v.cardinality === 'single' && v.items[0] === ''));
  },
  not: (e) => {
    const v = e.operand(0);
    return v ? bool(v.items[0] !== true) : null;
  },
  and: (e) => bool(e.trueOnes === e.operands.length),
  or: (e) => bool(e.trueOnes > 0),
  anyN: (e) => {
    const n = e.trueOnes;
    return bool(n >= e.figure(e.attribute('min') ?? '0') && n <= e.figure(e.attribute('max') ?? String(e.operands.length)));
  },

  match: (e) => e.both((x, y) => bool(matches(x, y))),
  stringMatch: (e) => e.both((x, y) => bool(e.attribute('substring') === 'true' ? e.text(x).includes(e.text(y)) : e.text(x) === e.text(y))),
  substring: (e) => e.both((x, y) => bool(e.text(y).includes(e.text(x)))),
  patternMatch: (e) => {
    const x = e.operand(0);
    return x ? bool(safePattern(e.attribute('pattern') ?? '')?.test(String(x.items[0]).slice(0, 1000)) ?? false) : null;
  },

  equal,
  equalRounded: (e) => {
    const figures = e.figure(e.attribute('figures') ?? '0');
    const mode = e.attribute('roundingMode');
    return e.compare((x, y) => rounded(x, mode, figures) === rounded(y, mode, figures));
  },
  lt: (e) => e.compare((x, y) => x < y),
  gt: (e) => e.compare((x, y) => x > y),
  lte: (e) => e.compare((x, y) => x <= y),
  gte: (e) => e.compare((x, y) => x >= y),

  sum: (e) => e.numbers((x) => x.reduce((s, y) => s + y, 0)),
  product: (e) => e.numbers((x) => x.reduce((s, y) => s * y, 1)),
  min: (e) => e.numbers((x) => Math.min(...x)),
  max: (e) => e.numbers((x) => Math.max(...x)),
  subtract: arithmetic((x, y) => x - y),
  divide: arithmetic((x, y) => x / y),
  power: arithmetic((x, y) => x ** y),
  integerDivide: arithmetic((x, y) => Math.floor(x / y)),
  integerModulus: arithmetic((x, y) => x - y * Math.floor(x / y)),
  round: arithmetic((x) => Math.floor(x + 0.5)),
  truncate: arithmetic((x) => Math.trunc(x)),
  roundTo: (e) => e.numbers(([x = Number.NaN]) => rounded(x, e.attribute('roundingMode'), e.figure(e.attribute('figures') ?? '0'))),
  integerToFloat: (e) => e.operand(0),

  multiple: gather('multiple'),
  ordered: gather('ordered'),
  containerSize: (e) => single('integer', e.operand(0)?.items.length ?? 0),
  member: (e) => e.both((x, y) => bool(y.items.some((i) => sameScalar(i, x.items[0] as Scalar, y.base)))),
  contains: (e) => e.both((x, y) => bool(contains(x, y))),
  delete: (e) =>
    e.both((x, y) =>
      container(
        y.cardinality,
        y.base,
        y.items.filter((i) => !sameScalar(i, x.items[0] as Scalar, y.base)),
      ),
    ),
  index: (e) => {
    const v = e.operand(0);
    const i = v?.items[e.figure(e.attribute('n') ?? '1') - 1];
    return v && i !== undefined ? single(v.base, i) : null;
  },
};

/** The value of an expression; undefined where its operator is not known. */
export const evaluate = (node: XmlNode, scope: Scope): Value | undefined =>
  Object.hasOwn(operators, node.name) ? operators[node.name]?.(new Expression(node, scope)) : undefined;

/** A pattern of a file as a regular expression; undefined where it is none or could take very long. */
function safePattern(pattern: string): RegExp | undefined {
  // nested repeats are what makes matching explode
  if (pattern.length > 500 || /[+*}]\s*\)[+*{]/.test(pattern)) return undefined;
  try {
    return new RegExp(`^(?:${pattern})$`, 'u');
  } catch {
    return undefined;
  }
}
