/** Rich text to and from the editor: what nobody touched comes back as it was. */
import { DOMParser as Parser, NodeFilter as Filter } from 'linkedom';
import { fromEditor, toEditor } from './richDoc.js';

beforeAll(() => {
  Object.assign(globalThis, { DOMParser: Parser, NodeFilter: Filter });
});

test.each([
  ['plain text', 'What is rye?'],
  ['signs of markup in plain text', '3 < 4 & 5 > 2'],
  ['lines of plain text', 'one\ntwo'],
  ['a formula', 'Half of \\(\\frac{1}{2}\\) is'],
  ['a formula with a sign of markup', 'where \\(a < b\\)'],
  ['a formula on its own line', '\\[x^2 + y^2\\]'],
  ['gaps', 'A [[1]] and a [[2]].'],
  ['bold and italic', 'Be <strong>exact</strong> and <em>kind</em>'],
  ['paragraphs', '<p>One.</p><p>Two.</p>'],
  ['a list', '<p>Of:</p><ul><li>rye</li><li>oats</li></ul>'],
  ['raised and lowered signs', 'H<sub>2</sub>O and m<sup>2</sup>'],
  ['code that looks like a formula or a gap', '<code>a\\(b\\)[[1]]</code>'],
])('%s', (_, rich) => expect(fromEditor(toEditor(rich))).toBe(rich));

test('cells and list items lose the paragraph that the editor puts into them, and attributes that say nothing', () => {
  expect(fromEditor('<ul><li><p>rye</p></li></ul>')).toBe('<ul><li>rye</li></ul>');
  expect(fromEditor('<table><tbody><tr><td colspan="1" rowspan="1"><p>a</p></td><td colspan="2" rowspan="1"><p>b</p></td></tr></tbody></table>')).toBe(
    '<table><tbody><tr><td>a</td><td colspan="2">b</td></tr></tbody></table>',
  );
});
test('an empty editor is an empty text, and what could run is gone', () => {
  expect(fromEditor('<p></p>')).toBe('');
  expect(fromEditor('<p>a</p><p></p>')).toBe('a');
  expect(fromEditor('<p onclick="x()">a<script>x()</script></p>')).toBe('a');
});
test('MathML of a file becomes a formula that can be edited', () => {
  expect(toEditor('<p>x <math><mfrac><mn>1</mn><mn>2</mn></mfrac></math></p>')).toContain('data-tex="\\frac{1}{2}"');
});
