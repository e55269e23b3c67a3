/** What is offered after an answer that did not count: the least that would let it count, and what doing it gives. */
import { defaultMatch, type Gap, type Item, type MatchRule, type NumberAnswer } from '../item/model.js';
import { apply, emptyDocument, type Operation } from '../item/operations.js';
import { mark, type Response } from './mark.js';
import { offersFor } from './offers.js';

const base = { id: 'i', stem: 's', points: 1 };
const text = (answers: [string, number][], rule: Partial<MatchRule> = {}): Item => ({
  ...base,
  kind: 'short-answer',
  answers: answers.map(([t, credit]) => ({ text: t, credit })),
  match: { ...defaultMatch, ...rule },
});
const number = (...answers: NumberAnswer[]): Item => ({ ...base, kind: 'numeric', answers });
const labels = (item: Item, given: Response, language?: string): string[] => offersFor(item, given, language).map((f) => f.label);
const done = (item: Item, operation: Operation): Item =>
  apply({ ...emptyDocument('T'), set: { title: 'T', items: [item] } }, operation).document.set.items[0] as Item;

test.each<[string, Item, string, string[]]>([
  ['capitals', text([['Levain', 1]], { caseSensitive: true }), 'levain', ['Do not mind capitals', 'Accept “levain” as well']],
  ['accents', text([['café', 1]]), 'cafe', ['Do not mind accents', 'Accept “cafe” as well']],
  ['punctuation', text([['well done', 1]]), 'well done!', ['Do not mind punctuation', 'Accept “well done!” as well']],
  ['a number', text([['0.5', 1]], { numbersAsValues: false }), '1/2', ['Count numbers by value', 'Accept “1/2” as well']],
  ['the order', text([['a, b', 1]], { anyOrder: false }), 'b, a', ['Take the list in any order', 'Accept “b, a” as well']],
  ['one letter', text([['poolish', 1]]), 'poolsh', ['Allow one letter to differ', 'Accept “poolsh” as well']],
  ['two letters', text([['poolish', 1]]), 'polsh', ['Allow two letters to differ', 'Accept “polsh” as well']],
  ['two where one is allowed', text([['poolish', 1]], { spelling: 1 }), 'polsh', ['Allow two letters to differ', 'Accept “polsh” as well']],
  [
    'the second of the answers',
    text([
      ['rye', 1],
      ['poolish', 1],
    ]),
    'poolsh',
    ['Allow one letter to differ', 'Accept “poolsh” as well'],
  ],
  [
    'near to what earns nothing',
    text([
      ['rye', 1],
      ['poolish', 0],
    ]),
    'poolsh',
    ['Accept “poolsh” as well'],
  ],
  ['something else', text([['rye', 1]]), ' bread ', ['Accept “bread” as well']],
  ['what counts', text([['rye', 1]]), 'RYE', []],
  ['blanks', text([['rye', 1]]), '  ', []],
])('%s', (_, item, given, expected) => {
  const offers = offersFor(item, { text: given });
  expect(offers.map((f) => f.label)).toEqual(expected);
  // whichever is done, the answer counts then
  for (const f of offers.slice(-1)) expect(mark(done(item, f.operation), { text: given }).state).toBe('right');
  for (const f of offers.filter((x) => x.reason)) expect(mark(done(item, f.operation), { text: given }).points).toBeGreaterThan(0);
});

test('an answer that is accepted anew takes the place of one that earned a part, and the others stay', () => {
  const item = text([
    ['rye', 1],
    ['grain', 0.5],
  ]);
  const [offer] = offersFor(item, { text: 'grain' }).slice(-1);
  expect(done(item, offer?.operation as Operation)).toMatchObject({
    answers: [
      { text: 'rye', credit: 1 },
      { text: 'grain', credit: 1 },
    ],
  });
});

test.each<[string, Item, string, string[], string]>([
  ['a little over', number({ min: 10, max: 10, credit: 1 }), '10.4', ['Accept 10 ± 0.4'], 'It lies 0.4 outside the key.'],
  ['a little under', number({ min: 10, max: 10, credit: 1 }), '9.6', ['Accept 10 ± 0.4'], 'It lies 0.4 outside the key.'],
  ['a tenth off', number({ min: 10, max: 10, credit: 1 }), '11', ['Accept 10 ± 1'], 'It lies 1 outside the key.'],
  ['more than a tenth off', number({ min: 10, max: 10, credit: 1 }), '11.001', [], ''],
  ['beside a range', number({ min: 4, max: 6, credit: 1 }), '7', ['Accept 5 ± 2'], 'It lies 1 outside the key.'],
  ['twice the range off', number({ min: 4, max: 6, credit: 1 }), '9', ['Accept 5 ± 4'], 'It lies 3 outside the key.'],
  ['more than that', number({ min: 4, max: 6, credit: 1 }), '9.5', [], ''],
  ['the nearest of two', number({ min: 10, max: 10, credit: 1 }, { min: 20, max: 20, credit: 1 }), '19', ['Accept 20 ± 1'], 'It lies 1 outside the key.'],
  [
    'nearer to what earns nothing',
    number({ min: 10, max: 10, credit: 1 }, { min: 10.5, max: 10.5, credit: 0 }),
    '10.4',
    ['Accept 10 ± 0.4'],
    'It lies 0.4 outside the key.',
  ],
  ['no key', number({ min: 10, max: 10, credit: 0 }), '10.4', [], ''],
  ['no number', number({ min: 10, max: 10, credit: 1 }), 'ten', [], ''],
])('a number %s', (_, item, given, expected, reason) => {
  const offers = offersFor(item, { text: given });
  expect(offers.map((f) => f.label)).toEqual(expected);
  expect(offers[0]?.reason ?? '').toBe(reason);
  for (const f of offers) {
    const after = done(item, f.operation);
    expect(mark(after, { text: given }).state).toBe('right');
    if (item.kind === 'numeric' && after.kind === 'numeric') expect(after.answers).toHaveLength(item.answers.length);
  }
});
test('the range that is widened no longer says how it was written; others stay as they are', () => {
  const item = number({ text: '20 g', min: 20, max: 20, credit: 1 }, { text: 'ten', min: 10, max: 10, credit: 1 });
  const [offer] = offersFor(item, { text: '10.4' });
  expect(done(item, offer?.operation as Operation)).toMatchObject({
    answers: [
      { text: '20 g', min: 20, max: 20 },
      { min: 9.6, max: 10.4, credit: 1 },
    ],
  });
  expect(JSON.stringify(offer?.operation)).not.toContain('ten');
});

const gaps: Gap[] = [
  { id: '1', kind: 'text', points: 1, answers: [{ text: 'poolish', credit: 1 }] },
  { id: '2', kind: 'number', points: 1, answers: [{ min: 10, max: 10, credit: 1 }] },
  {
    id: '3',
    kind: 'choice',
    points: 1,
    options: [
      { id: 'a', content: 'a', credit: 1 },
      { id: 'b', content: 'b', credit: 0 },
    ],
  },
];
const cloze: Item = { ...base, stem: '[[1]] [[2]] [[3]]', kind: 'cloze', gaps };
test('each gap that did not count has its own offers, and doing one changes that gap alone', () => {
  const given: Response = { gaps: { 1: 'poolsh', 2: '10.4', 3: 'b' } };
  const offers = offersFor(cloze, given);
  expect(offers.map((f) => [f.reason, f.label])).toEqual([
    ['Gap 1: One letter differs.', 'Allow one letter to differ'],
    ['Gap 1:', 'Accept “poolsh” as well'],
    ['Gap 2: It lies 0.4 outside the key.', 'Accept 10 ± 0.4'],
  ]);
  for (const [n, f] of offers.entries()) {
    const after = done(cloze, f.operation);
    expect(mark(after, given).credit).toBeCloseTo(1 / 3, 10);
    const other = n === 2 ? [0, 2] : [1, 2];
    for (const i of other) expect((after as typeof cloze & { gaps: Gap[] }).gaps[i]).toEqual(gaps[i]);
    expect((after as typeof cloze & { gaps: Gap[] }).gaps[n === 2 ? 1 : 0]).not.toEqual(gaps[n === 2 ? 1 : 0]);
  }
  expect(labels(cloze, { gaps: { 1: 'poolish', 2: '10', 3: 'b' } })).toEqual([]);
  expect(labels(cloze, { gaps: { 1: '', 2: 'x' } })).toEqual([]);
});

test('nothing is offered where nothing was typed, or by a response of another shape', () => {
  expect(offersFor(cloze, null)).toEqual([]);
  expect(labels(cloze, { text: 'poolsh' })).toEqual([]);
  expect(labels(text([['a', 1]]), { gaps: { 1: 'b' } })).toEqual([]);
  expect(labels(number({ min: 1, max: 1, credit: 1 }), { truth: true })).toEqual([]);
  expect(labels({ ...base, kind: 'true-false', answer: true }, { truth: false })).toEqual([]);
});

test('the language of the item counts before that of the set', () => {
  const item: Item = { ...number({ min: 1.25, max: 1.25, credit: 1 }), language: 'de' };
  expect(labels(item, { text: '1,3' }, 'en')).toEqual(['Accept 1.25 ± 0.05']);
  expect(labels(number({ min: 1300, max: 1300, credit: 1 }), { text: '1,310' }, 'en')).toEqual(['Accept 1300 ± 10']);
});
