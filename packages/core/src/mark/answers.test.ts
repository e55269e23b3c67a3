/** Responses made from the key, for each kind. */
import { defaultMatch, type Gap, type Item } from '../item/model.js';
import { rightResponse, wrongResponse } from './answers.js';

const base = { id: 'i', stem: '[[1]]', points: 1 };
const o = (...credits: number[]) => credits.map((credit, n) => ({ id: `o${n}`, content: `${n}`, credit }));
const gap = (g: Partial<Gap> & Pick<Gap, 'kind'>): Item => ({ ...base, kind: 'cloze', gaps: [{ id: '1', points: 1, ...g } as Gap] });

test.each<[string, Item, unknown, unknown]>([
  ['a choice', { ...base, kind: 'multiple-choice', options: o(0, 1, 0.5, -1) }, { options: ['o1'] }, { options: ['o0'] }],
  ['a choice of keys only', { ...base, kind: 'multiple-choice', options: o(1) }, { options: ['o0'] }, null],
  ['several', { ...base, kind: 'multiple-response', scoring: 'weights', options: o(0.5, 0, 0.5, -1) }, { options: ['o0', 'o2'] }, { options: ['o1', 'o3'] }],
  ['true', { ...base, kind: 'true-false', answer: true }, { truth: true }, { truth: false }],
  ['false', { ...base, kind: 'true-false', answer: false }, { truth: false }, { truth: true }],
  ['no truth', { ...base, kind: 'true-false', answer: null }, null, null],
  [
    'words',
    {
      ...base,
      kind: 'short-answer',
      match: defaultMatch,
      answers: [
        { text: 'b', credit: 0.5 },
        { text: 'a', credit: 1 },
      ],
    },
    { text: 'a' },
    { text: 'zzz not this' },
  ],
  ['no words', { ...base, kind: 'short-answer', match: defaultMatch, answers: [] }, { text: '' }, { text: 'zzz not this' }],
  [
    'a number',
    {
      ...base,
      kind: 'numeric',
      answers: [
        { min: 0, max: 10, credit: 0.5 },
        { min: 4, max: 5, credit: 1 },
      ],
    },
    { text: '4.5' },
    { text: '1037' },
  ],
  ['a number below zero', { ...base, kind: 'numeric', answers: [{ min: -5, max: -4, credit: 1 }] }, { text: '-4.5' }, { text: '1017' }],
  [
    'a third',
    { ...base, kind: 'numeric', answers: [{ min: 1 / 3, max: 1 / 3, credit: 1 }] },
    { text: '0.3333333333333333' },
    { text: String((1 / 3) * 2 + 1017) },
  ],
  ['no number', { ...base, kind: 'numeric', answers: [] }, { text: '' }, { text: '1017' }],
  ['a gap with a choice', gap({ kind: 'choice', options: o(0, 1, -0.5) }), { gaps: { 1: 'o1' } }, { gaps: { 1: 'o0' } }],
  ['a gap of keys only', gap({ kind: 'choice', options: o(1) }), { gaps: { 1: 'o0' } }, { gaps: { 1: '' } }],
  ['a gap without a key', gap({ kind: 'choice', options: o(0) }), { gaps: { 1: '' } }, { gaps: { 1: 'o0' } }],
  [
    'a gap with words',
    gap({
      kind: 'text',
      answers: [
        { text: 'b', credit: 0.5 },
        { text: 'a', credit: 1 },
      ],
    }),
    { gaps: { 1: 'a' } },
    { gaps: { 1: 'zzz not this' } },
  ],
  [
    'a gap with a number',
    gap({
      kind: 'number',
      answers: [
        { min: 1, max: 9, credit: 0.5 },
        { min: 2, max: 4, credit: 1 },
      ],
    }),
    { gaps: { 1: '3' } },
    { gaps: { 1: '1035' } },
  ],
  ['a gap without a number', gap({ kind: 'number', answers: [] }), { gaps: { 1: '' } }, { gaps: { 1: '1017' } }],
  [
    'pairs',
    {
      ...base,
      kind: 'matching',
      pairs: [
        { left: 'a', right: 'x' },
        { left: 'b', right: 'y' },
        { left: 'c', right: '' },
      ],
      extraRights: ['z'],
    },
    { pairs: ['x', 'y', null] },
    { pairs: ['y', 'x', 'x'] },
  ],
  ['a pair alone', { ...base, kind: 'matching', pairs: [{ left: 'a', right: 'x' }], extraRights: [] }, { pairs: ['x'] }, { pairs: [null] }],
  ['an order', { ...base, kind: 'ordering', sequence: ['a', 'b', 'c'] }, { order: ['a', 'b', 'c'] }, { order: ['c', 'b', 'a'] }],
  ['an essay', { ...base, kind: 'essay' }, null, null],
  ['a text to read', { ...base, kind: 'information' }, null, null],
])('%s', (_, item, right, wrong) => {
  expect(rightResponse(item)).toEqual(right);
  expect(wrongResponse(item)).toEqual(wrong);
});
