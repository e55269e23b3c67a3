import { item as itemSchema, type Item, type ItemOf, type QuizSet } from '../item/model.js';
import { type Decision, judgedMark, judgingOf } from './decisions.js';
import { ledgerOf, ruleOffers } from './ledger.js';
import type { Response } from './mark.js';

const make = (fields: object): Item => itemSchema.parse(fields);
const items = [
  make({
    id: 'mc',
    kind: 'multiple-choice',
    stem: 'Which flour?',
    options: [
      { id: 'a', content: '<em>rye</em>', credit: 1 },
      { id: 'b', content: 'wheat' },
    ],
  }),
  make({ id: 'tf', kind: 'true-false', stem: 'Salt is a spice.', answer: true }),
  make({ id: 'sa', kind: 'short-answer', stem: 'Pastry with ham?', answers: [{ text: 'vol-au-vent' }] }),
  make({ id: 'num', kind: 'numeric', stem: 'How hot?', answers: [{ min: 200, max: 200 }] }),
  make({
    id: 'gaps',
    kind: 'cloze',
    stem: '[[2]] then [[1]]',
    points: 3,
    gaps: [
      { id: '1', kind: 'text', points: 1, answers: [{ text: 'crème' }] },
      {
        id: '2',
        kind: 'choice',
        points: 2,
        options: [
          { id: 'x', content: 'milk', credit: 1 },
          { id: 'y', content: 'oil' },
        ],
      },
    ],
  }),
  make({ id: 'essay', kind: 'essay', stem: 'Why?' }),
];
const set: QuizSet = { title: 'T', items };
const of = (id: string): Item => items.find((i) => i.id === id) as Item;
const rows = (id: string, given: (Response | undefined)[], decisions: Decision[] = [], part = 0) => {
  const j = judgingOf(set, decisions);
  const now = j.set.items.find((i) => i.id === id) as Item;
  return ledgerOf(j, now, given)[part]?.rows ?? [];
};
const pointsAfter = (id: string, d: Decision, given: Response): number => {
  const j = judgingOf(set, [d]);
  return judgedMark(j, j.set.items.find((i) => i.id === id) as Item, given).points;
};

test('options: who chose them; giving one points makes it a key', () => {
  const [a, b] = rows('mc', [{ options: ['a'] }, { options: ['b'] }, undefined, { options: ['b'] }]);
  expect([a?.who, a?.share, b?.who, b?.share]).toEqual([[0], 1, [1, 3], 0]);
  const d = b?.give(1) as Decision;
  expect(d).toEqual({ type: 'answer', item: 'mc', text: 'b', credit: 1 });
  expect(pointsAfter('mc', d, { options: ['b'] })).toBe(1);
  expect(pointsAfter('mc', d, { options: ['a'] })).toBe(1);
  expect(rows('mc', [], [d]).map((r) => [r.share, r.decided])).toEqual([
    [1, false],
    [1, true],
  ]);
});
test('true or false: one of the two is right', () => {
  const [yes, no] = rows('tf', [{ truth: true }, { truth: false }]);
  expect([yes?.who, yes?.share, no?.who, no?.share]).toEqual([[0], 1, [1], 0]);
  for (const d of [no?.give(1), yes?.give(0)]) {
    expect(d).toMatchObject({ said: 'The statement is false' });
    expect(pointsAfter('tf', d as Decision, { truth: false })).toBe(1);
    expect(pointsAfter('tf', d as Decision, { truth: true })).toBe(0);
  }
});
test('typed: a decision is for all who wrote the same', () => {
  const [one] = rows('sa', [{ text: 'Vol au vent' }, { text: 'vol au vent' }]);
  expect(one).toMatchObject({ who: [0, 1], share: 0, also: ['vol au vent'], near: 'vol-au-vent' });
  expect(pointsAfter('sa', one?.give(0.5) as Decision, { text: 'VOL AU VENT' })).toBe(0.5);
});
test('gaps stand in the order of the text, each with its points; both sorts can be given points', () => {
  const given: Response[] = [{ gaps: { '1': 'creme', '2': 'y' } }];
  const parts = ledgerOf(judgingOf(set, []), of('gaps'), given);
  expect(parts.map((p) => [p.gap?.id, p.typed, p.points])).toEqual([
    ['2', false, 2],
    ['1', true, 1],
  ]);
  const oil = parts[0]?.rows.find((r) => r.key === 'y');
  expect(oil?.who).toEqual([0]);
  expect(pointsAfter('gaps', oil?.give(1) as Decision, given[0] as Response)).toBe(2);
  expect(pointsAfter('gaps', parts[1]?.rows[0]?.give(1) as Decision, given[0] as Response)).toBe(1);
});
test('the rule that would let an answer count is offered; the answer alone is not one', () => {
  expect(ruleOffers(of('gaps'), (of('gaps') as ItemOf<'cloze'>).gaps[0], 'creme').map((o) => o.label)).toEqual(['Do not mind accents']);
  const [wider] = ruleOffers(of('num'), undefined, '205');
  expect(wider?.label).toBe('Accept 200 ± 5');
  expect(pointsAfter('num', wider?.decision as Decision, { text: '196' })).toBe(1);
  expect(ruleOffers(of('sa'), undefined, 'something else')).toEqual([]);
});
test('answers that are not put together', () => {
  expect(ledgerOf(judgingOf(set, []), of('essay'), [{ text: 'so' }])).toEqual([]);
});
