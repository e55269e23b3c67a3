import fc from 'fast-check';
import { anyItem } from './arbitrary.js';
import type { Item } from './model.js';
import { apply, clash, emptyDocument, type Operation, OperationError, rebase, removing, type SetDocument } from './operations.js';

const documents = fc
  .uniqueArray(anyItem, { minLength: 1, maxLength: 6, selector: (i) => i.id })
  .map((items): SetDocument => ({ set: { title: 'T', items }, reviews: { [(items[0] as Item).id]: { state: 'checked', by: 'A', at: '2026-01-01' } } }));
const operationsOn = (d: SetDocument): fc.Arbitrary<Operation> => {
  const id = fc.constantFrom(...d.set.items.map((i) => i.id));
  return fc.oneof(
    anyItem.chain((i) => fc.nat(8).map((at): Operation => ({ type: 'insert', at, items: [i] }))),
    id.map((x): Operation => ({ type: 'remove', ids: [x] })),
    fc.tuple(id, fc.nat(8)).map(([x, to]): Operation => ({ type: 'move', id: x, to })),
    fc.tuple(id, fc.string()).map(([x, stem]): Operation => ({ type: 'change', id: x, set: { stem } })),
    id.map((x): Operation => ({ type: 'change', id: x, set: { label: '9' }, unset: ['feedback'] })),
    id.map((x): Operation => ({ type: 'review', id: x, review: { state: 'left-out' } })),
    fc.integer({ min: 1, max: 12 }).map((year): Operation => ({ type: 'aim', aim: { year, outcomes: { 'Knows grains': 2 } } })),
    id.map((x): Operation => ({ type: 'divide', work: [{ account: 'a', name: 'A', items: [x] }] })),
    id.map((x): Operation => ({ type: 'dismiss', finding: `key-longest ${x}`, reason: 'fine' })),
    fc.string({ minLength: 1 }).map((title): Operation => ({ type: 'describe', set: { title, language: 'es' } })),
    fc.tuple(id, id).map(
      ([x, y]): Operation => ({
        type: 'all',
        operations: [
          { type: 'change', id: x, set: { points: 3 } },
          { type: 'review', id: y, review: null },
        ],
      }),
    ),
  );
};

test('undoing any operation restores the set, and doing it again gives the same', () => {
  fc.assert(
    fc.property(
      documents.chain((d) => fc.tuple(fc.constant(d), operationsOn(d))),
      ([d, op]) => {
        const done = apply(d, op);
        const undone = apply(done.document, done.inverse);
        expect(undone.document).toEqual(d);
        expect(apply(undone.document, undone.inverse).document).toEqual(done.document);
      },
    ),
    { numRuns: 300 },
  );
});

test('operations that do not clash give the same set in either order', () => {
  fc.assert(
    fc.property(
      documents.chain((d) => fc.tuple(fc.constant(d), operationsOn(d), operationsOn(d))),
      ([d, a, b]) => {
        fc.pre(!clash(a, b) && ![a, b].some((o) => /insert|move|remove/.test(o.type)));
        const ab = apply(apply(d, a).document, b).document;
        const ba = apply(apply(d, b).document, a).document;
        expect(ab).toEqual(ba);
      },
    ),
  );
});

const item = (id: string): Item => ({ id, kind: 'true-false', stem: 'S', points: 1, answer: true });
const two: SetDocument = { set: { title: 'T', items: [item('a'), item('b')] }, reviews: { a: { state: 'checked', by: 'A', at: 'x' } } };

test('a checked item falls back to open when its key changes, and not when its tags do', () => {
  expect(apply(two, { type: 'change', id: 'a', set: { answer: false } }).document.reviews['a']).toBeUndefined();
  expect(apply(two, { type: 'change', id: 'a', set: { tags: ['x'] } }).document.reviews['a']?.state).toBe('checked');
});

test('a value that the model does not take changes nothing', () => {
  expect(() => apply(two, { type: 'change', id: 'a', set: { points: -1 } })).toThrow(OperationError);
  expect(() => apply(two, { type: 'change', id: 'a', set: { kind: 'essay' } })).toThrow(OperationError);
  expect(() => apply(two, { type: 'remove', ids: ['gone'] })).toThrow('no longer in the set');
});

test('mine goes on top of theirs where the two touch different things, and is held back where not', () => {
  const theirs: Operation = { type: 'change', id: 'a', set: { stem: 'theirs' } };
  const current = apply(two, theirs).document;
  const mine = [
    { id: 1, operation: { type: 'change', id: 'a', set: { stem: 'mine' } } as Operation },
    { id: 2, operation: { type: 'change', id: 'b', set: { stem: 'mine' } } as Operation },
    { id: 3, operation: { type: 'change', id: 'a', set: { points: 4 } } as Operation },
  ];
  const r = rebase(current, mine, [theirs]);
  expect(r.kept.map((k) => k.id)).toEqual([2, 3]);
  expect(r.conflicts.map((k) => k.id)).toEqual([1]);
  expect(r.document.set.items.map((i) => [i.stem, i.points])).toEqual([
    ['theirs', 4],
    ['mine', 1],
  ]);
});

test('an edit of an item that they removed is a conflict and not an error', () => {
  const theirs: Operation = { type: 'remove', ids: ['a'] };
  const r = rebase(apply(two, theirs).document, [{ operation: { type: 'change', id: 'a', set: { points: 2 } } as Operation }], [theirs]);
  expect(r.conflicts).toHaveLength(1);
  expect(r.document.set.items).toHaveLength(1);
});

test('several items are removed wherever they stand', () => {
  const d = { ...emptyDocument('T'), set: { title: 'T', items: ['a', 'b', 'c', 'd'].map(item) } };
  const done = apply(d, removing(['a', 'c']));
  expect(done.document.set.items.map((i) => i.id)).toEqual(['b', 'd']);
  expect(apply(done.document, done.inverse).document).toEqual(d);
});
