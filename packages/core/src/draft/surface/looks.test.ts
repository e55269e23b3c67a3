/** Signs of a look are drawn as the look. What counts as emphasis is checked against CommonMark 0.31, 6.2 (its examples by number, from memory). */
import fc from 'fast-check';
import { runs } from '../../item/runs.js';
import { looksOf } from './looks.js';
import { lineText } from './lines.js';

/** The line with its looks in brackets, and nothing of what is not seen. */
const seen = (raw: string): string => {
  let out = '';
  let at = 0;
  for (const d of looksOf(raw)) {
    out += raw.slice(at, d.from);
    if (d.looks.length) out += `[${d.looks.join(' ')}: ${raw.slice(d.from, d.to)}]`;
    at = d.to;
  }
  return out + raw.slice(at);
};

test.each([
  ['b) **sugars** from the flour', 'b) [bold: sugars] from the flour'],
  ['**b) sugars**', '[bold: b) sugars]'],
  ['CO<sub>2</sub> and x<sup>2</sup>', 'CO[below: 2] and x[above: 2]'],
  ['<u>rye</u>, <mark>oat</mark>, <ink>spelt</ink>', '[underline: rye], [highlight: oat], [colour: spelt]'],
  // three stars that close two looks are not taken apart, here as in the reading
  ['**bold and *both***', '**bold and *both***'],
  ['<b>bold and *both*</b>', '[bold: bold and ][bold italic: both]'],
  // a star that says the key is no look
  ['b) sugars from the flour *', 'b) sugars from the flour *'],
  ['*b) sugars', '*b) sugars'],
  // code, formulas and escapes stay as they are typed
  ['`2**3**4` is no bold', '`2**3**4` is no bold'],
  ['\\(a_1 * b_2 * c\\)', '\\(a_1 * b_2 * c\\)'],
  ['\\*not emphasised\\*', '\\*not emphasised\\*'],
  ['a gap of ____ and ____', 'a gap of ____ and ____'],
  // CommonMark 0.31, examples 350 to 352, 360, 378
  ['*foo bar*', '[italic: foo bar]'],
  ['a * foo bar*', 'a * foo bar*'],
  ['__foo bar__', '[bold: foo bar]'],
  ['foo_bar_', 'foo_bar_'],
  ['**foo bar**', '[bold: foo bar]'],
])('%s', (raw, drawn) => expect(seen(raw)).toBe(drawn));

test('a line far too long, and one without signs, are left as they are', () => {
  expect(looksOf(`**${'rye '.repeat(6000)}**`)).toEqual([]);
  expect(looksOf('rye and oats')).toEqual([]);
});

test('random lines: in order, within the line, and what stays is what the reader reads', () => {
  const bits = fc.constantFrom('**', '*', '__', '_', 'rye', ' ', 'oat', '<sub>', '</sub>', '<b>', '</b>', '1', 'x');
  fc.assert(
    fc.property(fc.array(bits, { maxLength: 14 }), (parts) => {
      const raw = parts.join('');
      const drawn = looksOf(raw);
      let at = 0;
      let left = '';
      for (const d of drawn) {
        expect(d.from).toBeGreaterThanOrEqual(at);
        expect(d.to).toBeGreaterThan(d.from);
        left += raw.slice(at, d.from) + (d.looks.length ? raw.slice(d.from, d.to) : '');
        at = d.to;
      }
      expect(at).toBeLessThanOrEqual(raw.length);
      expect(left + raw.slice(at)).toBe(lineText(raw).text);
    }),
    { numRuns: runs(1000) },
  );
});
