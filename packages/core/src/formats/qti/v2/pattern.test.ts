/** Patterns written out, against the regular expressions of JavaScript, which mean the same for what is read here. */
import fc from 'fast-check';
import { textsOfPattern } from './pattern.js';

test.each<[string, string[] | null]>([
  // XML Schema Part 2, appendix F: branches, quantifiers, character classes, escapes
  ['colou?r|hue[s]?', ['colour', 'color', 'hue', 'hues']],
  ['(a|b)c', ['ac', 'bc']],
  ['(?:levain|starter)s?', ['levain', 'levains', 'starter', 'starters']],
  ['[Cc]at', ['Cat', 'cat']],
  ['a{2}', ['aa']],
  ['a{0,2}b', ['b', 'ab', 'aab']],
  ['3\\.5', ['3.5']],
  ['^end$', ['end']],
  ['', []],
  ['a*', null],
  ['a+', null],
  ['.', null],
  ['[0-9]', null],
  ['[^a]', null],
  ['\\d', null],
  ['(a', null],
  ['a)', null],
  ['[ab', null],
  ['a{2,}', null],
  ['[abcdefgh][abcdefgh][abcdefgh]', null],
  ['x'.repeat(1001), null],
])('%s', (pattern, texts) => {
  const out = textsOfPattern(pattern);
  expect(out === null ? null : [...out].sort()).toEqual(texts === null ? null : [...texts].sort());
});

const atom = fc.constantFrom('a', 'b', 'colou', '[xy]', '\\.', '(?:q|rs)', '(t)');
const piece = fc.tuple(atom, fc.constantFrom('', '', '?', '{2}', '{1,2}')).map((p) => p.join(''));
const pattern = fc
  .array(
    fc.array(piece, { minLength: 1, maxLength: 3 }).map((p) => p.join('')),
    { minLength: 1, maxLength: 3 },
  )
  .map((b) => b.join('|'));

test('every text that is given is taken by the pattern, and no two are the same', () => {
  fc.assert(
    fc.property(pattern, (p) => {
      const texts = textsOfPattern(p);
      if (!texts) return;
      const whole = new RegExp(`^(?:${p})$`);
      for (const t of texts) expect(whole.test(t)).toBe(true);
      expect(new Set(texts).size).toBe(texts.length);
    }),
  );
});

test('no short text that the pattern takes is left out', () => {
  const short = fc.stringMatching(/^[abxyqrst.]{1,4}$/);
  fc.assert(
    fc.property(pattern, fc.array(short, { maxLength: 30 }), (p, tries) => {
      const texts = textsOfPattern(p);
      if (!texts) return;
      const whole = new RegExp(`^(?:${p})$`);
      for (const t of tries) expect(texts.includes(t)).toBe(whole.test(t));
    }),
  );
});
