/** Ranges as neighbouring stretches say of every number what the ranges said, and settled twice they stay as they are. */
import fc from 'fast-check';
import type { NumberAnswer } from './model.js';
import { runs } from './runs.js';
import { runsOf, settledRanges, tidyRich } from './sameness.js';

/** What a number earns and is told: the best counts, of equal ones the first. */
const said = (answers: readonly NumberAnswer[], x: number): string => {
  const [best] = answers.filter((a) => x >= a.min && x <= a.max).toSorted((a, b) => b.credit - a.credit);
  return best ? `${best.credit} ${best.feedback ?? ''}` : '';
};

test('a number within a range, both right, the range with words of its own', () => {
  const answers = [
    { min: 0, max: 0, credit: 1 },
    { min: -20, max: 20, credit: 1, feedback: 'about' },
  ];
  const settled = settledRanges(answers);
  expect([-20, -1, 0, 1, 20, 21].map((x) => said(settled, x))).toEqual(['1 about', '1 about', '1 ', '1 about', '1 about', '']);
  expect(settledRanges(settled)).toEqual(settled);
});

test('any ranges', () => {
  const answer = fc
    .record({
      a: fc.integer({ min: -4, max: 4 }),
      b: fc.integer({ min: -4, max: 4 }),
      credit: fc.constantFrom(1, 0.5),
      feedback: fc.constantFrom('', 'near', 'far'),
    })
    .map(({ a, b, credit, feedback }): NumberAnswer => ({ min: Math.min(a, b), max: Math.max(a, b), credit, ...(feedback && { feedback }) }));
  fc.assert(
    fc.property(fc.array(answer, { maxLength: 5 }), (answers) => {
      const settled = settledRanges(answers);
      for (let x = -5; x <= 5; x += 0.5) expect([x, said(settled, x)]).toEqual([x, said(answers, x)]);
      expect(settledRanges(settled)).toEqual(settled);
    }),
    { numRuns: runs(2000) },
  );
});

test('of two runs that meet, the one that the figure between them belongs to comes first', () => {
  const at = (signs: string[]) => runsOf(signs, [1, 2]).map((r) => [r.min, r.max]);
  expect(at(['a', 'a', 'b'])).toEqual([
    [2, 2],
    [1, 2],
  ]);
  expect(at(['a', 'b', 'b'])).toEqual([
    [1, 1],
    [1, 2],
  ]);
  expect(at(['', 'b', ''])).toEqual([[1, 2]]);
});

// words with a blank between them take a short way; it must be the long one's
test.each(['', ' dough ', 'a b', 'rye – oat', 'x\u00a0y', 'tick ✓', "it's 5 % of 3"])('“%s” is tidy by the short way as by the long one', (text) => {
  // an element that says nothing forces the long way
  expect(tidyRich(text)).toBe(tidyRich(`<p>${text}</p>`));
});
