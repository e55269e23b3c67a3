/** Figures by outcome, part and kind: counted by hand for a few, and of any set the points of all. */
import fc from 'fast-check';
import { anyItem } from '../item/arbitrary.js';
import { maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { rightResponse } from '../mark/answers.js';
import type { Response } from '../mark/mark.js';
import { marksOf, pointsOf } from '../take/outcome.js';
import { byParts, partedBy } from './parts.js';

const truth = (id: string, more: Partial<Item> = {}): Item => ({ id, kind: 'true-false', stem: id, points: 1, answer: true, ...more }) as Item;
const set: QuizSet = {
  title: 'T',
  sections: [
    { id: 's1', title: 'Flour' },
    { id: 's2', title: 'Heat' },
  ],
  items: [
    truth('none'),
    truth('a', { outcomes: ['Yeast'], section: 's1', points: 2 }),
    truth('b', { outcomes: ['Yeast', 'Heat'], section: 's2' }),
    { id: 'n', kind: 'numeric', stem: 'n', points: 1, outcomes: ['Heat'], section: 's2', answers: [{ min: 1, max: 1, credit: 1 }] },
    { id: 'e', kind: 'essay', stem: 'e', points: 5, outcomes: ['Yeast'] },
  ],
};
const sat = (right: string[]) => {
  const responses: Record<string, Response> = {
    ...Object.fromEntries(['none', 'a', 'b'].map((id) => [id, { truth: right.includes(id) }])),
    n: { text: right.includes('n') ? '1' : '2' },
    e: { text: 'so' },
  };
  return { responses, marks: marksOf(set, responses) };
};
const people = [sat(['none', 'a', 'b', 'n']), sat(['a']), sat(['b'])];
const told = (by: (typeof partedBy)[number]) => byParts(set, people, by).map((p) => [p.name, p.items.map((i) => i.id).join(), p.maximum, p.points, p.under]);

test('by outcome: an item of two counts for both, what waits for a person for none, what has none comes last', () => {
  expect(told('outcome')).toEqual([
    ['Yeast', 'a,b', 3, [3, 2, 1], [2]],
    ['Heat', 'b,n', 2, [2, 0, 1], [1]],
    ['', 'none', 1, [1, 0, 0], [1, 2]],
  ]);
  expect(byParts(set, people, 'outcome').map((p) => p.reached)).toEqual([6 / 9, 3 / 6, 1 / 3]);
});

test('by part and by kind', () => {
  expect(told('part')).toEqual([
    ['Flour', 'a', 2, [2, 2, 0], [2]],
    ['Heat', 'b,n', 2, [2, 0, 1], [1]],
    ['', 'none', 1, [1, 0, 0], [1, 2]],
  ]);
  expect(told('kind').map(([name]) => name)).toEqual(['true-false', 'numeric']);
});

test('nobody, or nothing to have: no figure is made of nothing', () => {
  for (const by of partedBy) for (const p of byParts(set, [], by)) expect([p.reached, p.points, p.under]).toEqual([0, [], []]);
  expect(byParts({ title: 'T', items: [truth('x', { points: 0 })] }, people, 'kind')).toEqual([]);
});

test('of any set: by part and by kind each item stands once, and the points are those of all', () => {
  fc.assert(
    fc.property(fc.uniqueArray(anyItem, { selector: (i) => i.id, maxLength: 8 }), fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }), (items, right) => {
      const any: QuizSet = { title: 'T', items };
      const responses = Object.fromEntries(items.flatMap((i, n) => (right[n] ? [[i.id, rightResponse(i)]] : [])).filter(([, r]) => r)) as Record<
        string,
        Response
      >;
      const one = { responses, marks: marksOf(any, responses) };
      const counting = finalItems(items, [one]);
      for (const by of ['part', 'kind'] as const) {
        const parts = byParts(any, [one], by);
        expect(parts.reduce((n, p) => n + p.maximum, 0)).toBeCloseTo(maximumOf(counting), 6);
        expect(parts.reduce((n, p) => n + (p.points[0] ?? 0), 0)).toBeCloseTo(pointsOf(Object.fromEntries(counting.map((i) => [i.id, one.marks[i.id]!]))), 3);
      }
    }),
  );
});
