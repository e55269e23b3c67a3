/** Ways of scoring several keys: which trials tell them apart, and the plainest way that gives the same marks. */
import fc from 'fast-check';
import { markChosen } from './chosenOptions.js';
import { type Scoring, scorings } from './model.js';
import { scoringFor, settledScoring, trials } from './scoring.js';

const options = (...credits: number[]) => credits.map((credit, n) => ({ id: `o${n}`, content: `${n}`, credit }));

// by the definitions in the model: shares of the points
test.each<[Scoring, number[], number[], number]>([
  ['all-or-nothing', [1, 1, 0], [0, 1], 1],
  ['all-or-nothing', [1, 1, 0], [0], 0],
  ['all-or-nothing', [1, 1, 0], [0, 1, 2], 0],
  ['per-option', [1, 1, 0, 0], [0, 1], 1],
  ['per-option', [1, 1, 0, 0], [0], 0.75],
  ['per-option', [1, 1, 0, 0], [2, 3], 0],
  ['per-option', [], [], 0],
  ['right-minus-wrong', [1, 1, 0, 0], [0, 1], 1],
  ['right-minus-wrong', [1, 1, 0, 0], [0, 2], 0],
  ['right-minus-wrong', [1, 1, 1, 1, 0, 0], [0, 1, 2, 4], 0.25],
  ['right-minus-wrong', [1, 1], [0], 0.5],
  ['right-minus-wrong', [0, 0], [0], 0],
  ['weights', [0.5, 0.25, -0.5], [0, 1], 0.75],
  ['weights', [0.5, 0.25, -0.5], [0, 2], 0],
  ['weights', [0.75, 0.75], [0, 1], 1],
  ['weights', [0.5, 0.5], [], 0],
])('%s of %j with %j chosen is %d', (scoring, credits, chosen, credit) => {
  expect(markChosen({ scoring, options: options(...credits) }, new Set(chosen.map((k) => `o${k}`)))).toBeCloseTo(credit, 12);
});

test('up to eight options every set of them is tried, once', () => {
  const sets = trials(options(1, 0, 0), [true, false, false]);
  expect(sets.map((s) => s.join(''))).toEqual(['0', '1', '01', '2', '02', '12', '012']);
  expect(trials(options(...Array.from({ length: 8 }, () => 0)), []).length).toBe(255);
});
test('of more options, those sets that tell ways of scoring apart', () => {
  const keys = Array.from({ length: 14 }, (_, k) => k < 3);
  const sets = trials(options(...keys.map(Number)), keys).map((s) => s.join(' '));
  for (const set of ['0 1 2', '0 1 2 3', '0 1', '1 2', '0 2', '5', '13', '0 1 2 13', '10 11', Array.from({ length: 14 }, (_, k) => k).join(' ')])
    expect(sets).toContain(set);
  expect(sets).toContain('3 4 5 6 7 8 9 10 11 12 13');
  expect(sets).not.toContain('');
  expect(sets).not.toContain('12 13');
});

test.each(scorings)('what scores as %s is found to', (scoring) => {
  const item = { scoring, options: scoring === 'weights' ? options(0.6, 0.4, -0.25, 0) : options(1, 1, 0, 0) };
  expect(settledScoring(item)).toEqual(item);
});
test('weights that say no more than a plain way are that way', () => {
  expect(settledScoring({ scoring: 'weights', options: options(0.5, 0.5, -0.5, -0.5) })).toEqual({
    scoring: 'right-minus-wrong',
    options: options(1, 1, 0, 0),
  });
  expect(settledScoring({ scoring: 'right-minus-wrong', options: options(1, 0) }).scoring).toBe('all-or-nothing');
  expect(settledScoring({ scoring: 'weights', options: options(0, -1) })).toEqual({ scoring: 'weights', options: options(0, -1) });
});
test('nothing is found for marks that no way gives, and little off is not off', () => {
  expect(scoringFor(options(1, 0, 0), (chosen) => (chosen.length === 2 ? 1 : 0.3))).toBeNull();
  expect(scoringFor(options(1, 0), (chosen) => (chosen.join() === '0' ? 1 - 1e-7 : 0))?.scoring).toBe('all-or-nothing');
  expect(scoringFor(options(1, 0), (chosen) => (chosen.join() === '0' ? 1 - 1e-5 : 0))).toBeNull();
  expect(scoringFor(options(1, 0), (chosen) => (chosen.join() === '0' ? 0.99 : 0), 0.1)?.scoring).toBe('all-or-nothing');
});
test('settling changes no mark', () => {
  const credit = fc.constantFrom(-1, -0.5, 0, 0.25, 0.5, 1);
  fc.assert(
    fc.property(fc.array(credit, { minLength: 1, maxLength: 6 }), fc.constantFrom(...scorings), fc.array(fc.nat(5)), (credits, scoring, chosen) => {
      const item = { scoring, options: options(...credits) };
      const set = new Set(chosen.map((k) => `o${k}`));
      fc.pre([...set].some((id) => item.options.some((x) => x.id === id)));
      expect(markChosen(settledScoring(item), set)).toBeCloseTo(markChosen(item, set), 5);
    }),
  );
});
