/** What a learner is told afterwards, for each kind and as much as the teacher lets be shown. */
import { defaultMatch, type Item, type QuizSet } from '../item/model.js';
import type { Response } from '../mark/mark.js';
import { marksOf, type Outcome, outcomeOf, pointsOf, requiredOpen } from './outcome.js';
import { seenNow, SHOWN, type ShownAfter } from './rules.js';

const base = { stem: 's', points: 1 };
const o = (of: [string, string, number, string?][]) => of.map(([id, content, credit, feedback]) => ({ id, content, credit, ...(feedback && { feedback }) }));
const items: Item[] = [
  {
    ...base,
    id: 'choice',
    kind: 'multiple-choice',
    options: o([
      ['a', '<em>rye</em>', 1, 'Yes, a grain.'],
      ['b', 'cod', 0, 'A fish.'],
    ]),
    feedback: { correct: 'Well done.', incorrect: 'Look at page 3.', general: 'Week 2.' },
  },
  {
    ...base,
    id: 'several',
    kind: 'multiple-response',
    scoring: 'right-minus-wrong',
    options: o([
      ['a', 'rye', 1],
      ['b', 'oats', 1],
      ['c', 'cod', 0],
    ]),
  },
  { ...base, id: 'truth', kind: 'true-false', answer: false, optionFeedback: { true: 'It melts.', false: 'So it is.' } },
  {
    ...base,
    id: 'words',
    kind: 'short-answer',
    match: defaultMatch,
    answers: [
      { text: 'levain', credit: 1 },
      { text: 'yeast', credit: 0.5 },
      { text: 'starter', credit: 1 },
    ],
  },
  {
    ...base,
    id: 'number',
    kind: 'numeric',
    unit: 'g',
    answers: [
      { min: 1, max: 9, credit: 0.5 },
      { min: 4, max: 5, credit: 1 },
    ],
  },
  { ...base, id: 'exact', kind: 'numeric', answers: [{ min: 7, max: 7, credit: 1 }] },
  {
    ...base,
    id: 'gaps',
    stem: '[[1]] [[2]] [[3]] [[4]]',
    kind: 'cloze',
    gaps: [
      { id: '1', kind: 'text', points: 1, answers: [{ text: 'rye', credit: 1 }] },
      {
        id: '2',
        kind: 'choice',
        points: 1,
        options: o([
          ['x', 'bowl', 0],
          ['y', 'oven', 1],
        ]),
      },
      { id: '3', kind: 'number', points: 1, answers: [{ min: 4, max: 5, credit: 1 }] },
      { id: '4', kind: 'number', points: 1, answers: [{ text: '2½', min: 2.5, max: 2.5, credit: 1 }] },
    ],
  },
  {
    ...base,
    id: 'pairs',
    kind: 'matching',
    pairs: [
      { left: 'dough', right: 'rises' },
      { left: 'oven', right: 'bakes' },
    ],
    extraRights: [],
  },
  { ...base, id: 'order', kind: 'ordering', sequence: ['mix', '<b>rest</b>', 'bake'] },
  { ...base, id: 'essay', kind: 'essay', points: 5, feedback: { correct: 'no', incorrect: 'no', general: 'Read on Monday.' } },
  { ...base, id: 'text', kind: 'information', points: 0 },
];
const set: QuizSet = { title: 'T', language: 'de', items };
const seen = (shows: ShownAfter) => seenNow({ shows: SHOWN[shows] }, false, false);
const outcome = (responses: Record<string, Response>, shows: ShownAfter): Outcome => outcomeOf(set, responses, marksOf(set, responses), seen(shows));
const told = (id: string, given?: Response) => outcome(given ? { [id]: given } : {}, 'answers').items?.find((i) => i.id === id);

test('nothing, the score, or the answers', () => {
  const responses: Record<string, Response> = { choice: { options: ['a'] }, several: { options: ['a'] }, essay: { text: 'Bread …' } };
  expect(outcome(responses, 'nothing')).toEqual({});
  expect(outcome(responses, 'score')).toEqual({ points: 1.5, maximum: 9, byHand: 5 });
  expect(outcome(responses, 'answers')).toMatchObject({ points: 1.5, maximum: 9, items: items.map((i) => ({ id: i.id })) });
  const graded = { ...set, items: items.slice(0, 2) };
  expect(outcomeOf(graded, {}, marksOf(graded, {}), seen('score'))).toEqual({ points: 0, maximum: 2 });
});

test.each<[string, Response | undefined, { state: string; points: number; feedback: string[]; answer?: string }]>([
  ['choice', { options: ['a'] }, { state: 'right', points: 1, feedback: ['Yes, a grain.', 'Well done.', 'Week 2.'] }],
  ['choice', { options: ['b'] }, { state: 'wrong', points: 0, feedback: ['A fish.', 'Look at page 3.', 'Week 2.'], answer: 'rye' }],
  ['choice', undefined, { state: 'unanswered', points: 0, feedback: ['Look at page 3.', 'Week 2.'], answer: 'rye' }],
  ['several', { options: ['a'] }, { state: 'partly', points: 0.5, feedback: [], answer: 'rye; oats' }],
  ['truth', { truth: true }, { state: 'wrong', points: 0, feedback: ['It melts.'], answer: 'Falsch' }],
  ['truth', { truth: false }, { state: 'right', points: 1, feedback: ['So it is.'] }],
  ['words', { text: 'yeast' }, { state: 'partly', points: 0.5, feedback: [], answer: 'levain / starter' }],
  ['number', { text: '12' }, { state: 'wrong', points: 0, feedback: [], answer: '4 to 5 g' }],
  ['exact', { text: '8' }, { state: 'wrong', points: 0, feedback: [], answer: '7' }],
  ['gaps', { gaps: { 1: 'rye' } }, { state: 'partly', points: 0.25, feedback: [], answer: 'rye; oven; 4; 2½' }],
  ['pairs', { pairs: ['bakes', 'rises'] }, { state: 'wrong', points: 0, feedback: [], answer: 'dough → rises; oven → bakes' }],
  ['order', { order: ['bake', 'mix', 'rest'] }, { state: 'wrong', points: 0, feedback: [], answer: 'mix → rest → bake' }],
  ['essay', { text: 'Bread …' }, { state: 'by-hand', points: 0, feedback: ['Read on Monday.'] }],
  ['text', undefined, { state: 'unanswered', points: 0, feedback: [] }],
])('%s after %j', (id, given, expected) => {
  expect(told(id, given)).toEqual({ id, ...expected });
});

test('the sum of marks is a number of points, not of floating point', () => {
  const of = (points: number) => ({ credit: 1, points, state: 'right' as const, reason: '' });
  expect(pointsOf({ a: of(0.1), b: of(0.2) })).toBe(0.3);
  expect(pointsOf({})).toBe(0);
});

test('a mark that is missing is told as unanswered', () => {
  expect(outcomeOf(set, {}, {}, seen('answers')).items?.[0]).toMatchObject({ state: 'unanswered', points: 0 });
});

test('right and wrong without keys, keys without right and wrong: neither tells the other', () => {
  const responses: Record<string, Response> = { choice: { options: ['b'] }, truth: { truth: false } };
  const marks = marksOf(set, responses);
  const none = { score: false, marks: false, keys: false, feedback: false };
  const judged = outcomeOf(set, responses, marks, { ...none, marks: true });
  expect(judged).toEqual({ items: items.map(({ id }) => ({ id, state: marks[id]?.state, points: marks[id]?.points })) });
  const keys = outcomeOf(set, responses, marks, { ...none, keys: true });
  // a key beside the wrong ones only would tell which they are
  expect(keys.items?.find((i) => i.id === 'choice')).toEqual({ id: 'choice', answer: 'rye' });
  expect(keys.items?.find((i) => i.id === 'truth')).toEqual({ id: 'truth', answer: 'Falsch' });
  // feedback of an option tells whether it was right
  expect(outcomeOf(set, responses, marks, { ...none, feedback: true }).items?.find((i) => i.id === 'choice')).toEqual({ id: 'choice', feedback: ['Week 2.'] });
});

test('what must be answered and is not: of each kind an empty answer is none, a wrong one is one', () => {
  const must: Item[] = [...items.map((i): Item => ({ ...i, required: true })), { ...base, id: 'may', kind: 'true-false', answer: true }];
  const set: QuizSet = { title: 'T', items: must };
  const open = (responses: Record<string, Response>): string[] => requiredOpen(set, marksOf(set, responses)).map((i) => i.id);
  expect(open({})).toEqual(items.filter((i) => i.kind !== 'information').map((i) => i.id));
  const without = open({ choice: { options: ['b'] }, several: { options: [] }, truth: { truth: true }, words: { text: '  ' }, essay: { text: '' } });
  expect(without).not.toContain('choice');
  expect(without).not.toContain('truth');
  for (const id of ['several', 'words', 'essay']) expect(without).toContain(id);
  expect(open({ words: { text: 'no idea' } })).not.toContain('words');
  expect(open({ essay: { text: 'An essay.' } })).not.toContain('essay');
});
