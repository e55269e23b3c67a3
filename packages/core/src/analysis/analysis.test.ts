import { item as itemSchema, type QuizSet } from '../item/model.js';
import type { Response } from '../mark/mark.js';
import { marksOf } from '../take/outcome.js';
import { analyse, settledPoints } from './analysis.js';

const set: QuizSet = {
  title: 'T',
  items: [
    itemSchema.parse({
      id: 'mc',
      kind: 'multiple-choice',
      stem: 'Which?',
      points: 2,
      options: [
        { id: 'a', content: 'a', credit: 1 },
        { id: 'b', content: 'b' },
        { id: 'c', content: 'c' },
      ],
    }),
    itemSchema.parse({ id: 'tf', kind: 'true-false', stem: 'So?', answer: true }),
    itemSchema.parse({ id: 'num', kind: 'numeric', stem: 'How many?', points: 3, answers: [{ min: 7, max: 7 }] }),
    itemSchema.parse({ id: 'essay', kind: 'essay', stem: 'Why?', points: 4 }),
  ],
};
/** Twenty who know two things, ten who know neither; those who know more choose b, whatever its key says. */
const people = Array.from({ length: 30 }, (_, n) => {
  const able = n < 20;
  const responses: Record<string, Response> = {
    mc: { options: [able ? 'b' : 'a'] },
    tf: { truth: able },
    ...(n % 3 !== 2 && { num: { text: able ? '7' : '8' } }),
    essay: { text: 'so' },
  };
  return { responses, marks: marksOf(set, responses) };
});

test('an option that the able choose is told as the likely key; who left an item out is counted; essays wait', () => {
  const a = analyse(set, people);
  expect(a.items.map((i) => i.item.id)).toEqual(['mc', 'tf', 'num']);
  expect(a.waiting.map((i) => i.id)).toEqual(['essay']);
  expect(a.maximum).toBe(6);
  const [mc, tf, num] = a.items;
  expect(mc?.options.map((o) => [o.id, o.n])).toEqual([
    ['a', 10],
    ['b', 20],
    ['c', 0],
  ]);
  expect(mc?.remarks).toEqual([
    { kind: 'likely-key', option: 'b' },
    { kind: 'idle', option: 'c' },
  ]);
  expect(tf?.options.map((o) => [o.id, o.n])).toEqual([
    ['true', 20],
    ['false', 10],
  ]);
  expect(tf?.keys).toEqual(new Set(['true']));
  expect(num?.options).toEqual([]);
  expect(num?.omitted).toBeCloseTo(1 / 3);
  expect(num?.remarks).toContainEqual({ kind: 'left-out', share: num?.omitted });
});

test('nobody: nothing is made up', () => {
  const a = analyse(set, []);
  expect(a.figures.n).toBe(0);
  for (const i of a.items) expect([i.remarks, i.omitted, i.figures.difficulty]).toEqual([[], 0, 0]);
});

test('an essay that was marked for one person only makes nobody better off before it is for all', () => {
  const marked = (n: number) => ({ credit: 0.5, points: 2, state: 'partly' as const, reason: `${n}` });
  const some = people.slice(0, 2).map((p) => ({ ...p, points: 1 }));
  const [first, second] = some as [(typeof some)[number], (typeof some)[number]];
  const one = { ...first, points: 3, marks: { ...first.marks, essay: marked(1) } };
  expect(settledPoints(set, [one, second])).toEqual([1, 1]);
  expect(settledPoints(set, [one, { ...second, points: 3, marks: { ...second.marks, essay: marked(2) } }])).toEqual([3, 3]);
});
