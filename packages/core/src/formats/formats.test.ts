/** Loss is predicted: what comes back from a format differs from what went in exactly as the fit said. */
import fc from 'fast-check';
import { anyRichSet } from '../item/arbitrary.js';
import { formats, readFile } from './index.js';
import { surprises } from './roundTrip.js';
import type { Format } from './format.js';

const RUNS = Number(process.env['ZAKUSKA_RUNS'] ?? 250);
const both: Format[] = formats
  .filter((f) => f.profile && f.write && !['text', 'draft'].includes(f.id))
  .map((f) => ({ ...f, read: (bytes, name) => readFile(bytes, name) }));

test.each(both.map((f) => [f.id, f] as const))('%s: what is lost is what was said', (_id, format) => {
  fc.assert(
    fc.property(anyRichSet, (set) => {
      expect(surprises(set, format).slice(0, 2)).toEqual([]);
    }),
    { numRuns: RUNS },
  );
});
