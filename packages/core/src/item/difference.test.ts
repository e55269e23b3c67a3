import fc from 'fast-check';
import { anySet } from './arbitrary.js';
import { difference } from './difference.js';
import type { QuizSet } from './model.js';
import { apply, type SetDocument } from './operations.js';

const turned = (from: QuizSet, to: QuizSet, reviews: SetDocument['reviews'] = {}): SetDocument =>
  apply({ set: from, reviews }, { type: 'all', operations: difference(from, to) }).document;

test('applying the difference gives the other set', () => {
  fc.assert(
    fc.property(anySet, anySet, fc.infiniteStream(fc.nat(5)), (a, b, dice) => {
      // the other set shares some items, some of them changed, in another order
      const shared = a.items.filter(() => (dice.next().value ?? 0) > 1).map((i) => ((dice.next().value ?? 0) > 3 ? { ...i, points: 7 } : i));
      const items = [...shared, ...b.items.map((i) => ({ ...i, id: `b${i.id}` }))].sort(() => (dice.next().value ?? 0) - 2.5);
      const to = { ...b, items };
      expect(turned(a, to).set).toEqual(to);
    }),
    { numRuns: 150 },
  );
});

test('checks stay on items that are unchanged, and go from changed ones', () => {
  const item = (id: string, stem: string) => ({ id, kind: 'essay' as const, stem, points: 1 });
  const checked = { state: 'checked' as const, by: 'x', at: '2026-11-23' };
  const from: QuizSet = { title: 'T', items: [item('1', 'one'), item('2', 'two'), item('3', 'three')] };
  const to: QuizSet = {
    title: 'T',
    sections: [{ id: 's1', title: 'A' }],
    items: [{ ...item('3', 'three'), section: 's1' }, item('1', 'one'), item('2', 'two!')],
  };
  const after = turned(from, to, { '1': checked, '2': checked, '3': checked });
  expect(after.reviews).toEqual({ '1': checked, '3': checked });
});
