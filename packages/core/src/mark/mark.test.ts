import fc from 'fast-check';
import { anyGraded } from '../item/arbitrary.js';
import { defaultMatch, type Item, type MatchRule, type Scoring } from '../item/model.js';
import { rightResponse, wrongResponse } from './answers.js';
import { mark } from './mark.js';
import { parseNumber } from '../language/numbers.js';
import { matchesText } from '../item/typedText.js';

test('the response made from the key earns everything, the wrong one nothing', () => {
  fc.assert(
    fc.property(anyGraded, (item) => {
      expect(mark(item, rightResponse(item))).toMatchObject({ credit: 1, points: item.points, state: 'right' });
      const wrong = wrongResponse(item);
      if (wrong && !('order' in wrong && wrong.order.length === 1)) expect(mark(item, wrong).points).toBe(0);
      expect(mark(item, null)).toMatchObject({ points: 0, state: 'unanswered' });
    }),
    { numRuns: 400 },
  );
});

test('marks never depend on the order of options', () => {
  fc.assert(
    fc.property(anyGraded, fc.integer({ min: 1, max: 5 }), (item, turn) => {
      fc.pre(item.kind === 'multiple-choice' || item.kind === 'multiple-response');
      if (item.kind !== 'multiple-choice' && item.kind !== 'multiple-response') return;
      const turned = { ...item, options: [...item.options.slice(turn % item.options.length), ...item.options.slice(0, turn % item.options.length)] };
      const some = { options: item.options.filter((_, i) => i % 2 === 0).map((o) => o.id) };
      expect(mark(turned, some).credit).toBeCloseTo(mark(item, some).credit, 10);
    }),
  );
});

const response = (scoring: Scoring, credits = [1, 1, 0, 0]): Item => ({
  id: 'i',
  kind: 'multiple-response',
  stem: 's',
  points: 4,
  scoring,
  options: credits.map((credit, i) => ({ id: 'abcd'[i] ?? '', content: `${i}`, credit })),
});
test.each<[Scoring, string, number]>([
  ['all-or-nothing', 'ab', 4],
  ['all-or-nothing', 'a', 0],
  ['all-or-nothing', 'abc', 0],
  ['per-option', 'a', 3],
  ['per-option', 'abc', 3],
  ['per-option', 'cd', 0],
  ['right-minus-wrong', 'a', 2],
  ['right-minus-wrong', 'abc', 2],
  ['right-minus-wrong', 'c', 0],
])('%s with %s chosen of keys ab among abcd earns %d of 4', (scoring, chosen, points) => {
  expect(mark(response(scoring), { options: [...chosen] }).points).toBe(points);
});
test('weights add up and never go below nothing or above everything', () => {
  const item = response('weights', [0.75, 0.5, -0.5, -1]);
  expect(mark(item, { options: ['a'] }).points).toBe(3);
  expect(mark(item, { options: ['a', 'b'] }).points).toBe(4);
  expect(mark(item, { options: ['d'] }).points).toBe(0);
});

// The ways of writing: ISO 80000-1 (space as separator, comma or point for decimals); the rest common practice, no source.
test.each([
  ['12.5', 12.5],
  ['12,5', 12.5],
  ['.5', 0.5],
  ['-4', -4],
  ['\u22124', -4],
  ['1 250', 1250],
  ['1\u202f250,5', 1250.5],
  ['1,250', 1250],
  ['1.250,5', 1250.5],
  ['3/4', 0.75],
  ['1 1/2', 1.5],
  ['\u00bd', 0.5],
  ['2\u00bd', 2.5],
  ['75 %', 0.75],
  ['12.5%', 0.125],
  ['2.5 \u00d7 10^3', 2500],
  ['2.5e3', 2500],
  ['3 \u00d7 10\u207b\u00b2', 0.03],
])('%s is %d', (text, value) => {
  expect(parseNumber(text)).toBeCloseTo(value, 12);
});
test.each(['', 'abc', '1/0', '1,2,3', '12 apples', '--4', '1.2.3', '5-3'])('%j is no number', (text) => expect(parseNumber(text)).toBeNull());
test('a comma parts decimals where the language writes so', () => {
  expect(parseNumber('1,250', true)).toBe(1.25);
  expect(parseNumber('1.250', true)).toBe(1250);
});

const rule = (r: Partial<MatchRule>): MatchRule => ({ ...defaultMatch, ...r });
test.each<[string, string, Partial<MatchRule>, boolean]>([
  ['Levain', 'levain', {}, true],
  ['Levain', 'levain', { caseSensitive: true }, false],
  ['  le   levain ', 'le levain', {}, true],
  ['caf\u0065\u0301', 'caf\u00e9', {}, true],
  ['cafe', 'caf\u00e9', {}, false],
  ['cafe', 'caf\u00e9', { accents: 'ignore' }, true],
  ['1/2', '0.5', {}, true],
  ['50 %', '0.5', {}, true],
  ['2/4', '0.5', { numbersAsValues: false }, false],
  ['-3, 4', '4, -3', {}, true],
  ['b and a', 'a, b', {}, true],
  ['b, a', 'a, b', { anyOrder: false }, false],
  ['poolsh', 'poolish', {}, false],
  ['poolsh', 'poolish', { spelling: 1 }, true],
  ['it\u2019s', "it's", {}, true],
  ['well done!', 'well done', { punctuation: 'ignore' }, true],
  ['', 'a', {}, false],
])('%j for %j under %j: %s', (given, accepted, r, ok) => {
  expect(matchesText(given, accepted, rule(r))).toBe(ok);
});
test('Turkish i and \u0131 are two letters in Turkish', () => {
  expect(matchesText('\u0130stanbul', 'istanbul', defaultMatch, 'tr')).toBe(true);
  expect(matchesText('ISPARTA', 'isparta', defaultMatch, 'tr')).toBe(false);
});
