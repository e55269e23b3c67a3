import fc from 'fast-check';
import { gradeEdges, gradeOf, readGrades, roundings, roundTotal, writeGrades } from './grades.js';

const steps = (text: string) => {
  const r = readGrades(text);
  if ('problem' in r) throw new Error(r.problem);
  return r.steps;
};

test('steps are read as people write them, the best first', () => {
  const expected = [
    { name: 'very good', from: 0.925 },
    { name: 'B+', from: 0.8 },
    { name: 'failed', from: 0 },
  ];
  for (const text of ['failed 0\nB+ 80\nvery good 92.5', 'very good: 92,5 %; B+ = 80 %; failed from 0', '  B+   80%\n\nvery good 92.5 %\nfailed 0'])
    expect(steps(text)).toEqual(expected);
  // grades that are numbers
  expect(steps('1 92\n2 81').map((s) => s.name)).toEqual(['1', '2']);
});

test('a share gets the highest step that it reaches; a hair of a sum does not lower it', () => {
  const letters = steps('A 90\nB 80\nF 0');
  expect([1, 0.9, 0.1 + 0.7, 0.799, 0, 0.9 - 1e-12].map((s) => gradeOf(s, letters))).toEqual(['A', 'A', 'B', 'F', 'F', 'A']);
  expect(gradeOf(0.3, steps('passed 50'))).toBe('');
  expect(gradeOf(0.3, [])).toBe('');
});

test.each([
  ['A', /no grade with a per cent/],
  ['A 101', /more than 100/],
  ['A 90\nA 80', /twice/],
  ['A 90\nB 90', /Two grades begin at 90/],
  [`${'x'.repeat(40)} 90`, /too long/],
])('%j is told', (text, said) => {
  const r = readGrades(text);
  expect('problem' in r && r.problem).toMatch(said);
});

test('written and read again they are the same; more points never give a lower step', () => {
  const some = fc.uniqueArray(fc.tuple(fc.stringMatching(/^[A-Z][a-z+]{0,6}$/), fc.integer({ min: 0, max: 10_000 })), { maxLength: 8, selector: ([n]) => n });
  fc.assert(
    fc.property(some, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (list, a, b) => {
      const once = [...new Map(list.map(([name, from]) => [from, { name, from: from / 10_000 }])).values()].sort((x, y) => y.from - x.from);
      expect(steps(writeGrades(once))).toEqual(once);
      const place = (share: number): number => once.find((s) => s.name === gradeOf(share, once))?.from ?? -1;
      expect(place(Math.max(a, b))).toBeGreaterThanOrEqual(place(Math.min(a, b)));
    }),
  );
});

test('who lies within a standard error of where a grade begins is told, on either side of it', () => {
  const steps = [
    { name: 'A', from: 0.9 },
    { name: 'B', from: 0.6 },
    { name: 'F', from: 0 },
  ];
  expect(gradeEdges([0.95, 0.85, 0.84, 0.6, 0.55, 0.02], steps, 0.05)).toEqual([
    { step: steps[0], over: [0], under: [1] },
    { step: steps[1], over: [3], under: [4] },
  ]);
  expect(gradeEdges([0.75], steps, 0.05)).toEqual([]);
  expect(gradeEdges([], steps, 0.05)).toEqual([]);
  // no error, no doubt: only who stands on it
  expect(gradeEdges([0.6, 0.599], steps, 0)).toEqual([{ step: steps[1], over: [0], under: [] }]);
});

test.each([
  [7.25, [7.5, 7, 8]],
  [7.5, [7.5, 8, 8]],
  [7.24, [7, 7, 8]],
  [8, [8, 8, 8]],
  [0, [0, 0, 0]],
  [-0.5, [-0.5, 0, 0]],
  // sums of thirds are a little off: they are not carried up by that
  [1 / 3 + 1 / 3 + 1 / 3, [1, 1, 1]],
  [0.1 + 0.2 + 0.2, [0.5, 1, 1]],
])('%d points, rounded', (points, due) => {
  expect(roundings.map((r) => roundTotal(points, r) + 0)).toEqual(due);
  expect(roundTotal(points, undefined)).toBe(points);
});
