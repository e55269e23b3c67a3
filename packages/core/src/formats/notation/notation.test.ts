import { runs } from '../../item/runs.js';
import fc from 'fast-check';
import { anySet } from '../../item/arbitrary.js';
import { look, takeBack, writeNotation } from './notation.js';
import { readDraft } from '../../draft/read.js';

test('a set that is written as text and taken back is the very same set', () => {
  fc.assert(
    fc.property(anySet, (set) => {
      const back = takeBack(set, writeNotation(set));
      expect(back.set).toEqual(set);
      expect(back.same).toBe(set.items.length);
    }),
    { numRuns: runs(150) },
  );
});

test('written text read as any draft gives the same items', () => {
  fc.assert(
    fc.property(anySet, (set) => {
      expect(readDraft(writeNotation(set)).set.items.map(look)).toEqual(set.items.map(look));
    }),
    { numRuns: runs(60) },
  );
});
