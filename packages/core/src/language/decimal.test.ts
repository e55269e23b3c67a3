/** Decimal sums against exact rational arithmetic of BigInt, and against the worked values of IEEE 754. */
import fc from 'fast-check';
import { decimalOf, halfWidthOf, inFigures, isHeld, middleOf, minus, plus, shifted } from './decimal.js';

const finite = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e200, max: 1e200 });
/** A number times 10^320, as a whole number: exact for all that are not below 10^-320. */
const scaled = (text: string): bigint => {
  const d = decimalOf(text);
  if (!d) throw new Error(text);
  return d.coefficient * 10n ** BigInt(d.exponent + 700);
};

test.each([
  [0.1, 0.2, 0.3],
  [2.9, 0.1, 3],
  [4006381333931, 0, 4006381333931],
  [1.6e-19, 1e-21, 1.61e-19],
  [9007199254740991, -1, 9007199254740990],
])('%d + %d = %d', (a, b, c) => {
  expect(plus(a, b)).toBe(c);
  expect(minus(c, b)).toBe(a);
});

test('a sum is the double nearest to the exact sum of what is written', () => {
  fc.assert(
    fc.property(finite, finite, (a, b) => {
      const exact = scaled(String(a)) + scaled(String(b));
      expect(plus(a, b)).toBe(Number(`${exact}e-700`));
    }),
  );
});

test('a tolerance goes on and comes off again', () => {
  const figures = fc.tuple(fc.bigInt({ min: -(10n ** 15n), max: 10n ** 15n }), fc.integer({ min: -20, max: 5 })).map(([n, e]) => Number(`${n}e${e}`));
  const tolerance = fc.tuple(fc.integer({ min: 0, max: 999 }), fc.integer({ min: -3, max: 0 })).map(([n, e]) => Number(`${n}e${e}`));
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: -4, max: 0 }), tolerance, (n, e, t) => {
      const value = Number(`${n}e${e}`);
      const range = { min: minus(value, t), max: plus(value, t) };
      expect(middleOf(range)).toBe(value);
      expect(halfWidthOf(range)).toBe(t);
    }),
  );
  fc.assert(fc.property(figures, (x) => expect(middleOf({ min: x, max: x })).toBe(x)));
});

test('figures alone say the same number', () => {
  fc.assert(
    fc.property(finite, (x) => {
      expect(Number(inFigures(x)) === x).toBe(true);
      expect(inFigures(x)).toMatch(/^-?\d+(\.\d+)?$/);
    }),
  );
  expect([1e-7, 6.02e23, 0, -12.5].map(inFigures)).toEqual(['0.0000001', '602000000000000000000000', '0', '-12.5']);
});

test.each([
  // IEEE 754: 2^53 + 1 is the first whole number that binary64 does not have
  ['9007199254740992', true],
  ['9007199254740993', false],
  ['12345678901234567890', false],
  ['100000000000000000000', true],
  ['6.02e23', true],
  ['4006381333931', true],
  ['0.333333333333333333333', true],
  ['-9007199254740993', false],
])('whether %s is held to its last figure', (text, held) => expect(isHeld(text)).toBe(held));

test('what is no decimal, and what is not finite', () => {
  for (const text of ['', '.', 'e5', '1,5', '0x10', '1e99999', ' 1']) expect(decimalOf(text)).toBeNull();
  expect(() => plus(Number.NaN, 1)).toThrow('no decimal');
  expect(() => middleOf({ min: 0, max: Number.POSITIVE_INFINITY })).toThrow(RangeError);
  expect(shifted(12.5, -2)).toBe(0.125);
  expect(plus(1e200, 1e-300)).toBe(1e200);
});
