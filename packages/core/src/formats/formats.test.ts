/** Loss is predicted: what comes back from a format differs from what went in exactly as the fit said. */
import { runs } from '../item/runs.js';
import fc from 'fast-check';
import { anyRichSet, anySet } from '../item/arbitrary.js';
import { kinds } from '../item/kinds.js';
import type { Kind, QuizSet } from '../item/model.js';
import { fitSet } from '../fit/fit.js';
import type { Format } from './format.js';
import { coreFormats } from './index.js';
import { surprises } from './roundTrip.js';

const RUNS = runs(30);
const both: Format[] = coreFormats.formats.filter((f) => f.profile && f.write).map((f) => ({ ...f, read: (bytes, name) => coreFormats.read(bytes, name) }));

// what people read and no program marks is compared by its words (documents/src/paper/paper.test.ts)
test.each(both.filter((f) => !f.readBack).map((f) => [f.id, f] as const))('%s: what is lost is what was said', async (_id, format) => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      expect((await surprises(set, format)).slice(0, 2)).toEqual([]);
    }),
    { numRuns: format.anonymous ? Math.round(RUNS / 3) : RUNS },
  );
});

test.each(both.map((f) => [f.id, f] as const))('%s: the same set gives the same bytes', async (_id, format) => {
  await fc.assert(
    fc.asyncProperty(anySet, async (set) => {
      expect((await format.write?.(structuredClone(set)))?.bytes).toEqual((await format.write?.(set))?.bytes);
    }),
    { numRuns: 10 },
  );
});

test('every kind is either held, recast or refused in words', () => {
  for (const format of both) {
    for (const kind of Object.keys(kinds) as Kind[]) {
      const item = { ...kinds[kind].blank(), id: 'a' };
      const set: QuizSet = { title: 'T', items: [item] };
      const [fit] = fitSet(set, format.profile as never).fits;
      if (!fit?.items.length) expect(fit?.notes[0]?.message).toMatch(/\w+ \w+/);
    }
  }
});
