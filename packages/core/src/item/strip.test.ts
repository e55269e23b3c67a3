import fc from 'fast-check';
import { partsOf, stripEnd, tightAround } from './strip.js';

const text = fc.string({ unit: fc.constantFrom(' ', '\t', '\u00a0', ',', '.', 'a', '<br/>') });

test('does what the plain pattern does, at its cost in short texts only', () => {
  fc.assert(
    fc.property(text, (t) => {
      expect(stripEnd(t, /[.\s]/)).toBe(t.replace(/[.\s]+$/, ''));
      expect(partsOf(t, ',')).toEqual(t.trim().split(/\s*,\s*/));
      expect(tightAround(t, /(<br\/>)/)).toBe(t.replace(/\s*(<br\/>)\s*/g, '$1'));
    }),
  );
});
