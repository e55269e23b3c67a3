/** The checking divided: everything once, in order, evenly, passages whole; undone; others' changes beside it. */
import fc from 'fast-check';
import type { Item } from '../item/model.js';
import { apply, clash, type Operation, type SetDocument } from '../item/operations.js';
import { divided, shares } from './divide.js';
import { filterItems } from './filter.js';
import { sayOperation } from './history.js';
import { contentPrint, copiesFor, copyOfSet, keepOwn, takeNewer } from './taken.js';

const item = (id: string, more: object = {}): Item => ({ id, kind: 'true-false', stem: id, points: 1, answer: true, ...more }) as Item;
const people = (n: number) => Array.from({ length: n }, (_, i) => ({ account: `p${i}`, name: `P ${i}` }));
const docOf = (sizes: readonly (number | 'p')[], checked: readonly number[] = []): SetDocument => {
  // 'p' begins a part with a passage of three items
  let n = 0;
  const items: Item[] = [];
  const sections: NonNullable<SetDocument['set']['sections']> = [];
  sizes.forEach((s, k) => {
    if (s === 'p') sections.push({ id: `s${k}`, passage: 'Read.' });
    for (let i = 0; i < (s === 'p' ? 3 : s); i++) items.push(item(`i${n++}`, s === 'p' ? { section: `s${k}` } : {}));
  });
  const reviews = Object.fromEntries(checked.flatMap((c) => (items[c] ? [[items[c].id, { state: 'checked' as const, by: 'x', at: '' }]] : [])));
  return { set: { title: 'T', items, sections }, reviews };
};

test('everything that is open goes to somebody once, in order; no passage is torn; sizes differ by a passage at most', () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.integer({ min: 0, max: 9 }), fc.constant('p' as const)), { maxLength: 8 }),
      fc.array(fc.nat(30), { maxLength: 6 }),
      fc.integer({ min: 1, max: 7 }),
      (sizes, checked, n) => {
        const doc = docOf(sizes, checked);
        const open = doc.set.items.filter((i) => !doc.reviews[i.id]);
        const work = divided(doc, people(n));
        expect(work.map((w) => w.account)).toEqual(people(n).map((p) => p.account));
        expect(work.flatMap((w) => w.items)).toEqual(open.map((i) => i.id));
        const who = new Map(work.flatMap((w) => w.items.map((i) => [i, w.account] as const)));
        for (const [k, i] of open.entries())
          if (k && i.section !== undefined && open[k - 1]?.section === i.section) expect(who.get(i.id)).toBe(who.get(open[k - 1]?.id ?? ''));
        const counts = work.map((w) => w.items.length);
        expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(6);
      },
    ),
  );
});

test('how far everybody is follows the checks; what came later is nobody’s; what is gone does not count', () => {
  let doc = docOf([6]);
  const op: Operation = { type: 'divide', work: divided(doc, people(2)) };
  const done = apply(doc, op);
  doc = done.document;
  expect(shares(doc).map((s) => [s.name, s.items.length, s.through])).toEqual([
    ['P 0', 3, 0],
    ['P 1', 3, 0],
  ]);
  for (const o of [
    { type: 'review', id: 'i0', review: { state: 'checked', by: 'x', at: '' } },
    { type: 'review', id: 'i1', review: { state: 'left-out' } },
    { type: 'remove', ids: ['i5'] },
    { type: 'insert', at: 0, items: [item('late')] },
  ] as Operation[])
    doc = apply(doc, o).document;
  expect(shares(doc).map((s) => [s.name, s.items.length, s.through])).toEqual([
    ['P 0', 3, 2],
    ['P 1', 2, 0],
    ['nobody', 1, 0],
  ]);
  expect(filterItems(doc, { work: 'p1' }, []).map((i) => i.id)).toEqual(['i3', 'i4']);
  expect(filterItems(doc, { work: 'p0', state: 'open' }, []).map((i) => i.id)).toEqual(['i2']);
  expect(sayOperation(op, [])).toBe('Divided the checking among P 0, P 1');
  expect(apply(done.document, done.inverse).document.work).toBeUndefined();
  // to divide and to check touch different things, to divide twice the same
  expect(clash(op, { type: 'review', id: 'i0', review: null })).toBe(false);
  expect(clash(op, { type: 'divide', work: null })).toBe(true);
});

test('a copy of a set: ids of its own throughout, also in versions and reviews; nobody is to check it', () => {
  const doc: SetDocument = {
    ...docOf([3], [1]),
    work: divided(docOf([3]), people(2)),
    drawn: { plan: { pinned: ['i0'] } as never, versions: [{ name: 'A', items: ['i2', 'i0'] }] },
    dismissed: { 'code i0': 'no' },
  };
  const copy = copyOfSet(doc, 'Copy', { set: 'from', reviews: true });
  const ids = copy.set.items.map((i) => i.id);
  expect(ids.filter((id) => /^i\d$/.test(id))).toEqual([]);
  expect(copy.drawn?.versions[0]?.items).toEqual([ids[2], ids[0]]);
  expect(copy.drawn?.plan.pinned).toEqual([ids[0]]);
  expect(Object.keys(copy.reviews)).toEqual([ids[1]]);
  expect([copy.work, copy.dismissed, copy.set.title]).toEqual([undefined, undefined, 'Copy']);
  expect(copy.set.items[0]?.takenFrom).toEqual({ set: 'from', item: 'i0', print: contentPrint(doc.set.items[0] as Item) });
  const away = copyOfSet(doc, 'Away', { reviews: false });
  expect([away.reviews, away.set.items.map((i) => i.takenFrom)]).toEqual([{}, [undefined, undefined, undefined]]);
});

test('what an item says does not hang on its ids, its number, or the order of its fields', () => {
  const a = item('a', { kind: 'multiple-choice', level: { bloom: 'apply', depth: 2 }, options: [{ id: 'x', content: 'one', credit: 1 }] });
  const b = item('b', { label: '7', kind: 'multiple-choice', options: [{ credit: 1, content: 'one', id: 'y' }], level: { depth: 2, bloom: 'apply' } });
  expect(contentPrint({ ...b, stem: 'a' } as Item)).toBe(contentPrint(a));
  expect(contentPrint({ ...a, stem: 'a, changed' } as Item)).not.toBe(contentPrint(a));
});

test('the newer version is taken with the copy’s own place, or the own is kept; then it is told no more', () => {
  const there = item('there', { stem: 'Old' });
  const [copy] = copiesFor([there], undefined, 's');
  const mine = { ...(copy as Item), section: 'part', label: '4' } as Item;
  const now = { ...there, stem: 'New' } as Item;
  const doc: SetDocument = { set: { title: 'T', items: [mine] }, reviews: { [mine.id]: { state: 'checked', by: 'x', at: '' } } };
  const taken = apply(doc, takeNewer(mine, now)).document;
  expect(taken.set.items[0]).toMatchObject({
    id: mine.id,
    stem: 'New',
    section: 'part',
    label: '4',
    takenFrom: { set: 's', item: 'there', print: contentPrint(now) },
  });
  expect(taken.reviews).toEqual({});
  const kept = apply(doc, keepOwn(mine, now)).document;
  expect(kept.set.items[0]).toMatchObject({ stem: 'Old', takenFrom: { print: contentPrint(now) } });
  // nothing that was checked has changed
  expect(Object.keys(kept.reviews)).toEqual([mine.id]);
});
