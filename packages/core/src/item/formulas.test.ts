import fc from 'fast-check';
import { brokenFormulas, formulaMathMl, replaceFormulas } from './formulas.js';

test('whatever stands between the signs, a formula is drawn or it is not, and nothing is thrown', () => {
  const tex = fc.string({
    unit: fc.constantFrom('x', '^', '_', '{', '}', '\\frac', '\\left(', '&', '#', '%', '$', '\\', ' ', '\\begin{a}', '\\def\\a{\\a\\a}\\a'),
    maxLength: 12,
  });
  fc.assert(
    fc.property(tex, fc.boolean(), (t, display) => void expect(typeof (formulaMathMl(t, display) ?? '')).toBe('string')),
    { numRuns: 500 },
  );
  for (const t of ['x^', '{'.repeat(4999), 'x'.repeat(5001), '\\def\\a{\\a\\a}\\a', '']) expect(() => formulaMathMl(t, false)).not.toThrow();
  expect(formulaMathMl('x^', false)).toBeNull();
  expect(formulaMathMl('x^2', false)).toContain('<msup>');
});

test('formulas of a text are found one by one, and a sign that opens none is text', () => {
  expect(brokenFormulas('a \\(x^\\) b \\[\\frac{1\\] c \\(x\\) \\(y')).toEqual(['x^', '\\frac{1']);
  expect(replaceFormulas('\\(a \\(b\\) c', (t, display) => `<${t}${display}>`)).toBe('\\(a <bfalse> c');
  expect(replaceFormulas('\\[a\\] &lt; \\(x &lt; y\\)', (t) => `<${t}>`)).toBe('<a> &lt; <x < y>');
});
