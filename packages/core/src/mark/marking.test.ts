/** A table of responses for every kind: points, state, and the sentence that says why. By hand from the model (docs of item/model.ts). */
import { defaultMatch, type Item, type ItemOf, type Kind, type MatchRule } from '../item/model.js';
import { answerProblem, longestAnswer, mark, type Response, response, roundPoints, typedNumber } from './mark.js';

const base = { id: 'i', stem: 's', points: 2 };
const options = (...credits: number[]): ItemOf<'multiple-choice'>['options'] => credits.map((credit, n) => ({ id: `o${n}`, content: `${n}`, credit }));
const choice = (...credits: number[]): Item => ({ ...base, kind: 'multiple-choice', options: options(...credits) });
const responses = (...credits: number[]): Item => ({ ...base, kind: 'multiple-response', scoring: 'right-minus-wrong', options: options(...credits) });
const text = (answers: [string, number][], rule: Partial<MatchRule> = {}): Item => ({
  ...base,
  kind: 'short-answer',
  answers: answers.map(([t, credit]) => ({ text: t, credit })),
  match: { ...defaultMatch, ...rule },
});
const number = (min: number, max: number, unit?: string, more: [number, number, number][] = []): Item => ({
  ...base,
  kind: 'numeric',
  answers: [{ min, max, credit: 1 }, ...more.map(([a, b, credit]) => ({ min: a, max: b, credit }))],
  ...(unit && { unit }),
});
const cloze = (...gaps: ItemOf<'cloze'>['gaps']): Item => ({ ...base, stem: gaps.map((g) => `[[${g.id}]]`).join(' '), kind: 'cloze', gaps });
const word = (id: string, accepted: string, points = 1): ItemOf<'cloze'>['gaps'][number] => ({
  id,
  kind: 'text',
  points,
  answers: [{ text: accepted, credit: 1 }],
});
const pairs = (...of: [string, string][]): Item => ({ ...base, kind: 'matching', pairs: of.map(([left, right]) => ({ left, right })), extraRights: [] });
const steps: Item = { ...base, kind: 'ordering', sequence: ['mix', 'rest', 'bake'] };

type Row = [what: string, item: Item, given: Response | null, state: string, points: number, reason: string];
const two = pairs(['dough', 'rises'], ['oven', 'bakes']);
const table: Row[] = [
  ['the key', choice(1, 0, 0), { options: ['o0'] }, 'right', 2, 'A earns 100 %.'],
  ['a distractor', choice(1, 0, 0), { options: ['o2'] }, 'wrong', 0, 'C earns 0 %.'],
  ['an option that earns a part', choice(1, 0.333, 0), { options: ['o1'] }, 'partly', 0.666, 'B earns 33.3 %.'],
  ['an option that costs', choice(1, -0.5), { options: ['o1'] }, 'wrong', 0, 'B earns -50 %.'],
  ['two options of one', choice(1, 0, 0), { options: ['o0', 'o1'] }, 'wrong', 0, 'A, B: more than one option was chosen.'],
  ['the key twice', choice(1, 0), { options: ['o0', 'o0'] }, 'right', 2, 'A earns 100 %.'],
  ['an option that is not there', choice(1, 0), { options: ['x'] }, 'unanswered', 0, 'No answer.'],
  ['no option', choice(1, 0), { options: [] }, 'unanswered', 0, 'No answer.'],
  ['words for options', choice(1, 0), { text: 'a' }, 'unanswered', 0, 'No answer.'],
  ['nothing given', choice(1, 0), null, 'unanswered', 0, 'No answer.'],
  ['all keys', responses(1, 1, 0, 0), { options: ['o0', 'o1'] }, 'right', 2, '2 of 2 keys chosen, 0 wrong.'],
  ['a key and a wrong one', responses(1, 1, 0, 0), { options: ['o0', 'o3'] }, 'wrong', 0, '1 of 2 keys chosen, 1 wrong.'],
  ['one key', responses(1, 1, 0, 0), { options: ['o1'] }, 'partly', 1, '1 of 2 keys chosen, 0 wrong.'],
  ['two wrong ones', responses(1, 0, 0), { options: ['o1', 'o2'] }, 'wrong', 0, '0 of 1 keys chosen, 2 wrong.'],
  ['truth for options', responses(1, 1, 0), { truth: true }, 'unanswered', 0, 'No answer.'],
  ['true', { ...base, kind: 'true-false', answer: true }, { truth: true }, 'right', 2, 'The statement is true.'],
  ['true for false', { ...base, kind: 'true-false', answer: false }, { truth: true }, 'wrong', 0, 'The statement is false.'],
  ['words for truth', { ...base, kind: 'true-false', answer: false }, { text: 'false' }, 'unanswered', 0, 'No answer.'],
  ['an accepted answer', text([['levain', 1]]), { text: ' levain ' }, 'right', 2, 'Accepted as “levain”.'],
  [
    'one that earns less',
    text([
      ['levain', 1],
      ['starter', 0.5],
    ]),
    { text: 'starter' },
    'partly',
    1,
    'Accepted as “starter”.',
  ],
  [
    'the better of two that fit',
    text([
      ['a; b', 0.5],
      ['b; a', 1],
    ]),
    { text: 'b; a' },
    'right',
    2,
    'Accepted as “b; a”.',
  ],
  ['by its value', text([['0.5', 1]]), { text: '1/2' }, 'right', 2, 'Accepted: “1/2” has the value of “0.5”.'],
  ['as a list', text([['salt; water', 1]]), { text: 'water; salt' }, 'right', 2, 'Accepted: the parts are those of “salt; water”.'],
  ['with one letter more', text([['poolish', 1]], { spelling: 1 }), { text: 'pooolish' }, 'right', 2, 'Accepted: 1 letter differs from “poolish”.'],
  ['with two', text([['poolish', 1]], { spelling: 2 }), { text: 'pooolis' }, 'right', 2, 'Accepted: 2 letters differ from “poolish”.'],
  [
    'the nearest of two',
    text(
      [
        ['poolish', 1],
        ['poolisch', 1],
      ],
      { spelling: 2 },
    ),
    { text: 'poolisc' },
    'right',
    2,
    'Accepted: 1 letter differs from “poolish”.',
  ],
  ['one letter too many', text([['poolish', 1]]), { text: 'pooolish' }, 'wrong', 0, 'One letter differs from “poolish”.'],
  ['two letters where one is allowed', text([['poolish', 1]], { spelling: 1 }), { text: 'pooolis' }, 'wrong', 0, '2 letters differ from “poolish”.'],
  [
    'near to what earns nothing',
    text([
      ['levain', 1],
      ['poolish', 0],
    ]),
    { text: 'pooolish' },
    'wrong',
    0,
    'Not among the accepted answers.',
  ],
  ['something else', text([['levain', 1]]), { text: 'yeast' }, 'wrong', 0, 'Not among the accepted answers.'],
  ['blanks', text([['levain', 1]]), { text: '  ' }, 'unanswered', 0, 'No answer.'],
  ['an option for words', text([['levain', 1]]), { options: ['o0'] }, 'unanswered', 0, 'No answer.'],
  ['far too long', text([['levain', 1]]), { text: 'x'.repeat(2001) }, 'wrong', 0, 'The answer is longer than 2000 signs.'],
  ['as long as it may be', text([['levain', 1]]), { text: 'x'.repeat(2000) }, 'wrong', 0, 'Not among the accepted answers.'],
  ['a number', number(4, 5), { text: '4' }, 'right', 2, 'Within the key.'],
  ['the other end', number(4, 5), { text: '5' }, 'right', 2, 'Within the key.'],
  ['written otherwise', number(4, 5), { text: '4,5' }, 'right', 2, '“4,5” is read as 4.5. Within the key.'],
  ['outside', number(4, 5), { text: '5.001' }, 'wrong', 0, 'Outside the key.'],
  ['below', number(4, 5), { text: '3.999' }, 'wrong', 0, 'Outside the key.'],
  ['off by less than floating point tells', number(0.3, 0.3), { text: '0.30000000000000004' }, 'right', 2, 'Within the key.'],
  ['off by more', number(0.3, 0.3), { text: '0.3000001' }, 'wrong', 0, 'Outside the key.'],
  ['large and off by more than a billionth', number(1e9, 1e9), { text: '1000000003' }, 'wrong', 0, 'Outside the key.'],
  ['in the outer range', number(4, 5, undefined, [[3, 6, 0.5]]), { text: '3' }, 'partly', 1, 'Within the key.'],
  ['in both ranges', number(4, 5, undefined, [[3, 6, 0.5]]), { text: '4' }, 'right', 2, 'Within the key.'],
  ['with its unit', number(5, 5, 'kg'), { text: '5 KG' }, 'right', 2, '“5 KG” is read as 5. Within the key.'],
  ['with the unit in front', number(5, 5, '€'), { text: '€ 5' }, 'right', 2, '“€ 5” is read as 5. Within the key.'],
  ['with another unit', number(5, 5, 'kg'), { text: '5 lb' }, 'wrong', 0, '“5 lb” does not have the unit kg.'],
  ['mega is not milli', number(5, 5, 'mW'), { text: '5 MW' }, 'wrong', 0, '“5 MW” does not have the unit mW.'],
  ['per cent', number(75, 75, '%'), { text: '75 %' }, 'right', 2, '“75 %” is read as 75. Within the key.'],
  ['per cent that is not the unit', number(0.75, 0.75), { text: '75 %' }, 'right', 2, '“75 %” is read as 0.75. Within the key.'],
  ['no number', number(5, 5, 'kg'), { text: 'five' }, 'wrong', 0, '“five” is not a number.'],
  ['no number and no unit', number(5, 5), { text: '5 kg' }, 'wrong', 0, '“5 kg” is not a number.'],
  ['blanks for a number', number(5, 5), { text: ' ' }, 'unanswered', 0, 'No answer.'],
  ['truth for a number', number(5, 5), { truth: true }, 'unanswered', 0, 'No answer.'],
  ['both gaps', cloze(word('1', 'rye'), word('2', 'oats')), { gaps: { 1: 'rye', 2: 'oats' } }, 'right', 2, '2 of 2 gaps right.'],
  ['one of two', cloze(word('1', 'rye'), word('2', 'oats')), { gaps: { 1: 'rye', 2: '' } }, 'partly', 1, '1 of 2 gaps right.'],
  ['the one that counts more', cloze(word('1', 'rye', 3), word('2', 'oats', 1)), { gaps: { 1: 'rye' } }, 'partly', 1.5, '1 of 2 gaps right.'],
  ['gaps that count nothing', cloze(word('1', 'rye', 0)), { gaps: { 1: 'rye' } }, 'wrong', 0, '1 of 1 gaps right.'],
  ['blanks in gaps', cloze(word('1', 'rye')), { gaps: { 1: ' ' } }, 'unanswered', 0, 'No answer.'],
  ['no gaps', cloze(word('1', 'rye')), { gaps: {} }, 'unanswered', 0, 'No answer.'],
  ['words for gaps', cloze(word('1', 'rye')), { text: 'rye' }, 'unanswered', 0, 'No answer.'],
  [
    'a choice and a number in gaps',
    cloze(
      { id: '1', kind: 'choice', points: 1, options: options(1, 0) },
      { id: '2', kind: 'number', points: 1, answers: [{ min: 4, max: 5, credit: 1 }] },
      { id: '3', kind: 'choice', points: 1, options: options(0, 1) },
      {
        id: '4',
        kind: 'number',
        points: 1,
        answers: [
          { min: 1, max: 2, credit: 0.5 },
          { min: 1, max: 1, credit: 1 },
        ],
      },
    ),
    { gaps: { 1: 'o0', 2: '4.5', 3: 'o0', 4: '2' } },
    'partly',
    1.25,
    '2 of 4 gaps right.',
  ],
  ['a choice that is not there', cloze({ id: '1', kind: 'choice', points: 1, options: options(1, 0) }), { gaps: { 1: 'x' } }, 'wrong', 0, '0 of 1 gaps right.'],
  ['all pairs', two, { pairs: ['rises', 'bakes'] }, 'right', 2, '2 of 2 pairs right.'],
  ['one pair', two, { pairs: ['rises', 'rises'] }, 'partly', 1, '1 of 2 pairs right.'],
  ['one pair, the other open', two, { pairs: ['rises', null] }, 'partly', 1, '1 of 2 pairs right.'],
  ['no pair', two, { pairs: [null, null] }, 'unanswered', 0, 'No answer.'],
  ['a pair without a side counts nowhere', pairs(['a', 'x'], ['b', 'y'], ['c', '']), { pairs: ['x', 'y', ''] }, 'right', 2, '2 of 2 pairs right.'],
  ['an order for pairs', two, { order: ['rises'] }, 'unanswered', 0, 'No answer.'],
  ['the order', steps, { order: ['mix', 'rest', 'bake'] }, 'right', 2, 'The sequence is right.'],
  ['another order', steps, { order: ['mix', 'bake', 'rest'] }, 'wrong', 0, 'The sequence differs from the key.'],
  ['a part of the order', steps, { order: ['mix', 'rest'] }, 'wrong', 0, 'The sequence differs from the key.'],
  ['no order', steps, { order: [] }, 'unanswered', 0, 'No answer.'],
  ['pairs for an order', steps, { pairs: ['mix'] }, 'unanswered', 0, 'No answer.'],
  ['an essay', { ...base, kind: 'essay' }, { text: 'Bread is …' }, 'by-hand', 0, 'Marked by a person.'],
  ['an empty essay', { ...base, kind: 'essay' }, { text: ' ' }, 'unanswered', 0, 'Marked by a person.'],
  ['no essay', { ...base, kind: 'essay' }, null, 'unanswered', 0, 'Marked by a person.'],
  ['an option for an essay', { ...base, kind: 'essay' }, { options: ['a'] }, 'unanswered', 0, 'Marked by a person.'],
  ['a text to read', { ...base, kind: 'information' }, { text: 'x' }, 'unanswered', 0, 'No answer.'],
  ['an item without a key', choice(0, 0), { options: ['o0'] }, 'wrong', 0, 'The item has no key.'],
  ['an item with two keys', choice(1, 1), { options: ['o0'] }, 'wrong', 0, 'The item has more than one key.'],
];
test.each(table)('%s', (_, item, given, state, points, reason) => {
  const m = mark(item, given);
  expect({ state: m.state, points: m.points, reason: m.reason }).toEqual({ state, points, reason });
  expect(m.points).toBeCloseTo(m.credit * item.points, 4);
});

test.each<[string, string | undefined, string | undefined, number]>([
  ['1.125', undefined, 'en', 1.125],
  ['1,250', undefined, 'en', 1250],
  ['1,250', undefined, 'de', 1.25],
  ['1,250', 'de', 'en', 1.25],
  ['1,250', 'en', 'de', 1250],
])('%s in an item in %s of a set in %s is %d', (given, own, language, value) => {
  const item = { ...number(value, value), ...(own && { language: own }) };
  expect(mark(item, { text: given }, language).state).toBe('right');
});
test('where a comma parts decimals, a point is read both ways, and the better one counts', () => {
  expect(mark(number(1125, 1125), { text: '1.125' }, 'de').state).toBe('right');
  expect(mark(number(1.125, 1.125), { text: '1.125' }, 'de').state).toBe('right');
  expect(mark(number(1.125, 1.125, undefined, [[1125, 1125, 0.5]]), { text: '1.125' }, 'de').credit).toBe(1);
  expect(mark(number(1125, 1125), { text: '1.125' }, 'en').state).toBe('wrong');
});

// rounding half up, as of points on paper
test.each([
  [0, 0],
  [1 / 3, 0.3333],
  [2 / 3, 0.6667],
  [0.00005, 0.0001],
  [1.00005, 1.0001],
  [2.99994999, 2.9999],
])('%d points are %d', (points, rounded) => {
  expect(roundPoints(points)).toBe(rounded);
});

test.each<[string, string | undefined, boolean, number | null]>([
  ['5', undefined, false, 5],
  ['5 kg', 'kg', false, 5],
  ['5kg', 'kg', false, 5],
  ['5 KG', 'kg', false, 5],
  ['kg 5', 'kg', false, 5],
  ['-5 kg', 'kg', false, -5],
  ['5 g', 'kg', false, null],
  ['½ l', 'l', false, 0.5],
  ['2,5 l', 'l', true, 2.5],
  ['5 mg', 'Mg', false, null],
  ['5 pa', 'Pa', false, null],
  ['5 PA', 'Pa', false, 5],
  ['12 %', '%', false, 12],
  ['12 %', undefined, false, 0.12],
  ['', 'kg', false, null],
  [`${'0'.repeat(200)}`, undefined, false, null],
  [`${' '.repeat(150)}5`, undefined, false, 5],
  [`${'1'.repeat(201)}`, undefined, false, null],
])('%j with the unit %s is %s', (given, unit, comma, value) => {
  expect(typedNumber(given, unit, comma)).toBe(value);
});

const limits: [Kind, Response, string | null][] = [
  ['short-answer', { text: 'x'.repeat(2000) }, null],
  ['short-answer', { text: 'x'.repeat(2001) }, 'An answer here has at most 2,000 signs. Shorten it.'],
  ['cloze', { gaps: { 1: 'x', 2: 'x'.repeat(2001) } }, 'An answer here has at most 2,000 signs. Shorten it.'],
  ['cloze', { gaps: { 1: 'x', 2: 'x'.repeat(2000) } }, null],
  ['numeric', { text: '1'.repeat(201) }, 'An answer here has at most 200 signs. Shorten it.'],
  ['numeric', { text: '1'.repeat(200) }, null],
  ['essay', { text: 'x'.repeat(50_000) }, null],
  ['essay', { text: 'x'.repeat(50_001) }, 'An answer here has at most 50,000 signs. Shorten it.'],
  ['multiple-choice', { options: ['x'.repeat(3000)] }, null],
];
test.each(limits)('%s: the longest answer', (kind, given, problem) => {
  expect(answerProblem({ ...base, kind } as Item, given)).toBe(problem);
  expect(longestAnswer.numeric).toBe(200);
});

const long = (n: number): string => 'x'.repeat(n);
test.each<[string, unknown, boolean]>([
  ['options', { options: Array.from({ length: 200 }, () => long(200)) }, true],
  ['too many options', { options: Array.from({ length: 201 }, () => 'a') }, false],
  ['an option that is too long', { options: [long(201)] }, false],
  ['truth', { truth: false }, true],
  ['a word for truth', { truth: 'false' }, false],
  ['a text', { text: long(50_000) }, true],
  ['a text that is too long', { text: long(50_001) }, false],
  ['gaps', { gaps: Object.fromEntries(Array.from({ length: 500 }, (_, i) => [`${long(190)}${i}`, long(2000)])) }, true],
  ['too many gaps', { gaps: Object.fromEntries(Array.from({ length: 501 }, (_, i) => [`g${i}`, 'x'])) }, false],
  ['a gap that is too long', { gaps: { a: long(2001) } }, false],
  ['a name that is too long', { gaps: { [long(201)]: 'x' } }, false],
  ['pairs', { pairs: [...Array.from({ length: 199 }, () => null), long(20_000)] }, true],
  ['too many pairs', { pairs: Array.from({ length: 201 }, () => null) }, false],
  ['a pair that is too long', { pairs: [long(20_001)] }, false],
  ['an order', { order: Array.from({ length: 200 }, () => long(100)) }, true],
  ['pieces as long as they may be', { order: [long(20_000)] }, true],
  ['too many pieces', { order: Array.from({ length: 201 }, () => 'x') }, false],
  ['a piece that is too long', { order: [long(20_001)] }, false],
  ['two shapes at once', { text: 'a', truth: true }, false],
  ['nothing', {}, false],
])('a response of %s: %s', (_, given, ok) => {
  expect(response.safeParse(given).success).toBe(ok);
});
