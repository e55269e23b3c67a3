/** Formulas that are typed: the same one in other writings, another one in nearly the same, and what is no formula. */
import fc from 'fast-check';
import { parseNumber } from '../language/numbers.js';
import { formulaMathMl } from './formulas.js';
import { defaultMatch } from './model.js';
import { matchText } from './typedText.js';
import { asksFormula, canonicalTex, numberOfTex, onlyFormula, sameFormula } from './typedFormula.js';

test('one formula and nothing else', () => {
  expect(onlyFormula('\\(x^2\\)')).toBe('x^2');
  expect(onlyFormula(' \\[ \\frac12 \\] ')).toBe('\\frac12');
  expect(onlyFormula('\\( x\\  \\)')).toBe('x\\ ');
  for (const none of ['x^2', 'about \\(x\\)', '\\(x\\) or \\(y\\)', '\\(\\)', '\\( \\)', '\\(x\\]', '']) expect(onlyFormula(none)).toBeNull();
});

test.each([
  ['\\frac12', '\\dfrac{1}{2}'],
  ['\\frac{1}{2}', '\\tfrac 1 2'],
  ['x^2', 'x^{2}'],
  ['x²', 'x^{2}'],
  ['x_1^2', 'x^2_1'],
  ['\\left( a+b \\right)^2', '(a + b)^{2}'],
  ['2\\cdot x', '2 \\times x'],
  ['a\\leq b', 'a \\le b'],
  ['{x}+{y}', 'x+y'],
  ['\\sqrt x', '\\sqrt{x}'],
  ['\\sqrt[3]{x}', '\\sqrt[3]x'],
  ['\\operatorname{sin} x', '\\mathrm{sin}\\,x'],
  ['3{,}5\\,\\text{kg}', '3.5\\mathrm{kg}'],
  ['\\pi r^2', 'π r^{2}'],
  ['\\alpha b', '\\alpha{}b'],
  ['x^{\\placeholder{}}', 'x^{}'],
  ['E=mc^2', 'E = m c^{2}'],
  // as a visual field writes it
  ['\\frac{\\mathrm{d}y}{\\mathrm{d}x}', '\\frac{\\differentialD y}{\\differentialD x}'],
])('%s is %s', (a, b) => {
  expect(canonicalTex(a)).toBe(canonicalTex(b));
});

test.each([
  ['x^2', 'x^3'],
  ['x^{12}', 'x^12'],
  ['\\frac{1}{2}', '\\frac{2}{1}'],
  ['a+b', 'b+a'],
  ['x_1', 'x^1'],
  ['\\sqrt{x+1}', '\\sqrt{x}+1'],
  ['X', 'x'],
  ['\\sqrt[3]{x}', '\\sqrt{x}'],
  ['(a+b)^2', 'a+b^2'],
  ['\\alpha b', '\\alphab'],
])('%s is not %s', (a, b) => {
  expect(canonicalTex(a)).not.toBe(canonicalTex(b));
});

test('it looks as before: drawn by Temml, a library of its own, there is no difference but of how things are grouped', () => {
  const drawn = (tex: string): string =>
    (formulaMathMl(tex, false) ?? '').replace(
      /<annotation[^]*?<\/annotation>|<\/?(?:mrow|mpadded|mstyle|semantics)\b[^>]*>|\s(?:stretchy|fence|form|lspace|rspace|symmetric|class|style|mathvariant)="[^"]*"|\s+/g,
      '',
    );
  for (const tex of [
    '\\frac12',
    'x^2_1',
    'a^{n+1}',
    '\\sqrt[3]{x}',
    '\\frac{-b+\\sqrt{b^2-4ac}}{2a}',
    'x_{i}^{2}',
    '\\alpha b',
    '{a}+{b}',
    '\\sum_{i}^{n} i',
    '2^{x^y}',
  ])
    expect(drawn(canonicalTex(tex))).toBe(drawn(tex));
});

test('whatever is typed: there is an end, the same twice is the same, and braces that close nothing hurt nobody', () => {
  const tex = fc
    .array(fc.constantFrom('\\frac', '\\sqrt', '{', '}', '[', ']', '^', '_', 'x', '1', ',', '\\text', '\\', ' ', '\\cdot', '²', '\\left', '('), {
      maxLength: 40,
    })
    .map((s) => s.join(''));
  fc.assert(
    fc.property(tex, (t) => {
      expect(canonicalTex(t)).toBe(canonicalTex(t));
      expect(sameFormula(`\\(${t}\\)`, t)).toBe(onlyFormula(`\\(${t}\\)`) !== null || canonicalTex(`\\(${t}\\)`) === canonicalTex(t));
    }),
  );
  expect(canonicalTex('{'.repeat(1900))).toBe('');
});

test('once brought to the one way, a formula with its braces in order stays so', () => {
  const atom = fc.constantFrom('x', 'y', '2', '\\pi', '+', '\\cdot', 'A');
  const { formula } = fc.letrec((tie) => ({
    formula: fc
      .array(fc.oneof({ depthSize: 'small' }, atom, tie('power'), tie('fraction'), tie('root')), { minLength: 1, maxLength: 4 })
      .map((a) => a.join('')),
    power: fc.tuple(atom, tie('formula')).map(([a, b]) => `${a}^{${String(b)}}`),
    fraction: fc.tuple(tie('formula'), tie('formula')).map(([a, b]) => `\\frac{${String(a)}}{${String(b)}}`),
    root: tie('formula').map((a) => `\\sqrt{${String(a)}}`),
  }));
  fc.assert(fc.property(formula as fc.Arbitrary<string>, (f) => expect(canonicalTex(canonicalTex(f))).toBe(canonicalTex(f))));
});

test('an answer that is a formula is compared as one, whatever the rule allows of spelling', () => {
  const loose = { ...defaultMatch, spelling: 2, anyOrder: true, punctuation: 'ignore' as const };
  expect(matchText('\\(x^{2}\\)', '\\(x^2\\)', loose)).toEqual({ by: 'formula', letters: 0 });
  expect(matchText('x^2', '\\(x^2\\)', loose)).toEqual({ by: 'formula', letters: 0 });
  expect(matchText('\\(x^{3}\\)', '\\(x^2\\)', loose)).toBeNull();
  // as the rule says of case, so that it is marked here as elsewhere
  expect(matchText('X^2', '\\(x^2\\)', loose)).not.toBeNull();
  expect(matchText('X^2', '\\(x^2\\)', { ...loose, caseSensitive: true })).toBeNull();
  expect(matchText('', '\\(x^2\\)', loose)).toBeNull();
});

test('a formula is asked for where every accepted answer is one', () => {
  const of = (...texts: string[]) => asksFormula({ kind: 'short-answer', answers: texts.map((text) => ({ text, credit: 1 })) });
  expect([of('\\(x\\)'), of('\\(x\\)', '\\(y\\)'), of('\\(x\\)', 'x'), of('x'), of()]).toEqual([true, true, false, false, false]);
  expect(
    asksFormula({
      kind: 'text',
      answers: [
        { text: '\\(x\\)', credit: 1 },
        { text: 'nothing', credit: 0 },
      ],
    }),
  ).toBe(true);
  expect(asksFormula({ kind: 'numeric', answers: [{ min: 1, max: 1, credit: 1 }] })).toBe(false);
});

test.each([
  ['\\frac{3}{4}', 0.75],
  ['1\\frac12', 1.5],
  ['-\\frac{1}{2}', -0.5],
  ['2.5\\cdot10^{3}', 2500],
  ['2{,}5\\times 10^{-3}', 0.0025],
  ['12', 12],
])('the number %s typed as a formula is %d', (tex, value) => {
  expect(parseNumber(numberOfTex(tex))).toBe(value);
});
test('what is no such number stays as it is', () => {
  expect(numberOfTex('\\sqrt{2}')).toBe('\\sqrt{2}');
});
