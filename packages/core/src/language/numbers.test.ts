/** Numbers as people write them: other scripts, fractions, powers, bounds. */
import { parseNumber, writesDecimalComma } from './numbers.js';

// digits of Unicode 15 code charts: Arabic-Indic, extended Arabic-Indic, Devanagari, Bengali, fullwidth
test.each(['٠', '۰', '०', '০', '０'])('the ten digits from %s', (zero) => {
  const from = zero.codePointAt(0) ?? 0;
  for (let n = 0; n < 10; n++) {
    const digit = String.fromCodePoint(from + n);
    expect(parseNumber(digit)).toBe(n);
    expect(parseNumber(`1${digit}`)).toBe(10 + n);
  }
});

test.each<[string, number | null]>([
  ['+5', 5],
  // more than any number here can be
  ['-1e999', null],
  ['9'.repeat(59), 1e59],
  ['2 × 10^400', null],
  ['+ 5', 5],
  ['- 5', -5],
  ['–5', -5],
  ['٣٫٥', 3.5],
  ["1'000'000", 1_000_000],
  ['1 000', 1000],
  ['1.000.000', 1_000_000],
  ['1,000,000', 1_000_000],
  ['1,000.5', 1000.5],
  ['1.000,5', 1000.5],
  ['5.', 5],
  ['5,', 5],
  [',5', 0.5],
  ['-1/2', -0.5],
  ['-1 1/2', -1.5],
  ['1⁄4', 0.25],
  ['⅞', 0.875],
  ['2⅓', 7 / 3],
  ['1/3', 1 / 3],
  ['1,5/3', 0.5],
  ['50 % ', 0.5],
  ['-50%', -0.5],
  ['5 ‰', 0.005],
  ['1/2 %', 0.005],
  ['٥٠٪', 0.5],
  ['1e3', 1000],
  ['1E-3', 0.001],
  ['6,02 × 10^23', 6.02e23],
  ['2·10^-3', 0.002],
  ['3 x 10²', 300],
  ['0', 0],
  ['-0.5', -0.5],
  ['0.1', 0.1],
  ['12.5 %', 0.125],
  ['1/0', null],
  ['0/5', 0],
  ['%', null],
  ['5 %%', null],
  ['1 00', null],
  ['1,00,000', null],
  ['e5', null],
  ['5 5', null],
  [' ', null],
  ['9'.repeat(60), Number('9'.repeat(60))],
  ['9'.repeat(61), null],
])('%j is %p', (text, value) => {
  const n = parseNumber(text);
  if (value === null) expect(n).toBeNull();
  else expect(n).toBeCloseTo(value, 10);
});

test.each<[string, number, number]>([
  ['1,250', 1250, 1.25],
  ['0,250', 0.25, 0.25],
  ['12,345,678', 12_345_678, 12_345_678],
  ['1.250', 1.25, 1250],
  ['0.250', 0.25, 0.25],
  ['1.250.000', 1_250_000, 1_250_000],
  ['12,5', 12.5, 12.5],
])('%s is %d with a decimal point, and %d with a decimal comma', (text, point, comma) => {
  expect(parseNumber(text, false)).toBe(point);
  expect(parseNumber(text, true)).toBe(comma);
});

// common practice, no source
test.each([
  [undefined, false],
  ['en', false],
  ['en-GB', false],
  ['ja', false],
  ['zh-CN', false],
  ['de', true],
  ['fr-CA', true],
  ['uk', true],
])('%s parts decimals with a comma: %s', (language, comma) => {
  expect(writesDecimalComma(language)).toBe(comma);
});
