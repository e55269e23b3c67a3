import type { Decision } from './decisions.js';
import { doubleMarks, markerPairs } from './doubleMarks.js';

const hand = (by: string, attempt: string, points: number): { by: string; decision: Decision } => ({
  by,
  decision: { type: 'hand', item: 'essay', attempt, points },
});

test('the last of each counts; who marked alone, or is unknown, is in no pair', () => {
  const marks = doubleMarks([
    hand('Okafor', 'a', 1),
    hand('Brandt', 'a', 2),
    hand('Okafor', 'a', 3),
    hand('Okafor', 'b', 1),
    hand('', 'b', 2),
    { by: 'Brandt', decision: { type: 'leave-out', item: 'essay' } },
  ]);
  expect(marks).toEqual([
    {
      attempt: 'a',
      item: 'essay',
      marks: [
        { by: 'Okafor', points: 3 },
        { by: 'Brandt', points: 2 },
      ],
    },
  ]);
});

test('pairs are the same whoever came first; three markers make three pairs, who share most first', () => {
  const pairs = markerPairs(doubleMarks([hand('B', 'a', 1), hand('A', 'a', 2), hand('A', 'b', 0), hand('B', 'b', 1), hand('C', 'b', 3)]));
  expect(pairs.map((p) => [p.first, p.second, p.answers.map((x) => x.points)])).toEqual([
    [
      'A',
      'B',
      [
        [2, 1],
        [0, 1],
      ],
    ],
    ['A', 'C', [[0, 3]]],
    ['B', 'C', [[1, 3]]],
  ]);
});
