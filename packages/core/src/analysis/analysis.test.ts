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

test('who stopped before an item has not left it out; the time of an item is that of those of whom it is known', () => {
  const two = { ...set, items: set.items.filter((i) => i.kind !== 'essay') };
  const sat = people.map((p, n) => ({ ...p, marks: marksOf(two, p.responses), ...(n < 5 && { times: { mc: [10, 20, 30, 40, 100][n] as number } }) }));
  const [mc, , num] = analyse(two, sat).items;
  // nobody answered anything behind the number
  expect([num?.omitted, num?.notReached]).toEqual([0, expect.closeTo(1 / 3)]);
  expect(num?.remarks).toContainEqual({ kind: 'not-reached', share: num?.notReached });
  expect(mc?.seconds).toEqual({ median: 30, quartiles: [20, 40] });
  expect(num?.seconds).toBeNull();
  // said for each person, that counts: here they had the number first
  const first = analyse(
    two,
    sat.map((p) => ({ ...p, notReached: [] })),
  );
  expect([first.items[2]?.omitted, first.items[2]?.notReached]).toEqual([expect.closeTo(1 / 3), 0]);
});

test('points that wait for all are taken away as far as they were kept', () => {
  const [one, other] = people.slice(0, 2) as [(typeof people)[number], (typeof people)[number]];
  const marked = { ...one, marks: { ...one.marks, essay: { credit: 0.5, points: 2, state: 'partly' as const, reason: '' } } };
  const all = Object.values(marked.marks).reduce((sum, m) => sum + m.points, 0);
  expect(
    settledPoints(set, [
      { ...marked, points: all * 0.8, kept: 0.8 },
      { ...other, points: 4 },
    ]),
  ).toEqual([expect.closeTo((all - 2) * 0.8), 4]);
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
