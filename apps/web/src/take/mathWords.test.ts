/** @jest-environment ./src/testing/environment.mjs */
/** Formulas in words: as Temml draws them, in every language of learners' pages. */
import '../testing/browser.js';
import { formulaMathMl } from '@zakuska/core/formulas';
import { pageLanguages } from './words/words.js';
import { MATH_WORDS, wordsOfMath } from './mathWords.js';

const math = (tex: string): Element => {
  const place = document.createElement('div');
  place.innerHTML = formulaMathMl(tex, false) ?? '';
  return place.querySelector('math') as Element;
};

test.each([
  ['\\frac{1}{2}', '1 over 2'],
  ['\\frac{a+b}{2}', 'the fraction a plus b, over 2, end of the fraction'],
  ['E = mc^2', 'E equals m c squared'],
  ['x^{n+1}', 'x to the power of n plus 1'],
  ['x_1^3', 'x sub 1 cubed'],
  ['\\sqrt{b^2-4ac}', 'the square root of b squared minus 4 a c'],
  ['\\sqrt[3]{8} \\ne 3', 'the root of order 3 of 8 is not equal to 3'],
  ['20^{\\circ}\\text{C}', '20 degrees C'],
  ['2(x+1) \\le 7', '2 open bracket x plus 1 close bracket is at most 7'],
  ['\\sum_{i=1}^{n} i', 'the sum from i equals 1 to n of i'],
  ['\\int_0^1 x\\,dx', 'the integral from 0 to 1 of x d x'],
  ['3 \\times 4 \\cdot 5', '3 times 4 times 5'],
  ['75\\,\\%', '75 per cent'],
  ['\\pi r^2', 'π r squared'],
])('%s: %s', (tex, said) => {
  expect(wordsOfMath(math(tex))).toBe(said);
});

test('in each language of the page, by its own words: no sign of a formula is left, and nothing to fill in', () => {
  expect(Object.keys(MATH_WORDS).sort()).toEqual([...pageLanguages].sort());
  const tex = '\\frac{-b \\pm \\sqrt[3]{b^2-4ac}}{2a_1} = x^3 \\ne \\sum_{i=1}^{n} i^{k} \\ge 5\\,\\%';
  const all = [...pageLanguages].map((l) => wordsOfMath(math(tex), `${l}-XX`));
  expect(new Set(all).size).toBe(all.length);
  for (const said of all) {
    expect(said).not.toMatch(/[{}=+−±≠≥∑%^_]/);
    for (const part of ['b', '4', 'a', 'c', '2', '1', 'x', 'n', 'k']) expect(said).toContain(part);
  }
  for (const { signs } of Object.values(MATH_WORDS)) for (const [sign, word] of Object.entries(signs)) expect([sign, word !== '']).toEqual([sign, true]);
  expect(wordsOfMath(math('a+b'), 'de')).toBe('a plus b');
  expect(wordsOfMath(math('a^2'), 'pl')).toBe('a do kwadratu');
  expect(wordsOfMath(math('a+b'), 'xx')).toBe(wordsOfMath(math('a+b'), 'en'));
});
