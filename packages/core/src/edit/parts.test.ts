/** Parts of a set: whatever is done, no item is lost or doubled, what is undone is as before, and parts stand together. */
import fc from 'fast-check';
import { draw } from '../bank/draw.js';
import type { Item, QuizSet, Section } from '../item/model.js';
import { apply, type Operation, type SetDocument } from '../item/operations.js';
import { changePart, dissolvePart, makePart, moveRun, moveTo, numberItems, runsOfSet } from './parts.js';

const item = (id: string, more: object = {}): Item => ({ id, kind: 'true-false', stem: id, points: 1, answer: true, ...more }) as Item;
/** A set from letters: each its part, a dot for none. */
const setOf = (homes: string): QuizSet => {
  const ids = [...new Set([...homes].filter((h) => h !== '.'))];
  return {
    title: 'T',
    items: [...homes].map((h, i) => item(`i${i}`, h === '.' ? {} : { section: h })),
    ...(ids.length && { sections: ids.map((id) => ({ id, title: `Part ${id}` })) }),
  };
};
const homes = (d: SetDocument): string => d.set.items.map((i) => i.section ?? '.').join('');
const order = (d: SetDocument): string => d.set.items.map((i) => i.id.slice(1)).join('');
const after = (set: QuizSet, op: Operation | null): SetDocument => (op ? apply({ set, reviews: {} }, op).document : { set, reviews: {} });

test.each([
  ['within its part', 'aab', 0, 1, '102', 'aab'],
  ['to the edge of its part', 'aab', 1, 0, '102', 'aab'],
  ['into the middle of another', 'abb', 0, 1, '102', 'bbb'],
  ['between two parts', '.aabb', 0, 2, '12034', 'aa.bb'],
  ['out of its part', 'aab.', 0, 3, '1230', 'ab..'],
  ['behind its part stays in it', 'aab', 0, 1, '102', 'aab'],
  ['the end of another part', 'abb', 0, 2, '120', 'bb.'],
])('an item moved %s', (_, from, at, to, ids, sections) => {
  const set = setOf(from);
  const d = after(set, moveTo(set, `i${at}`, to));
  expect([order(d), homes(d)]).toEqual([ids, sections]);
});
test('nowhere to go is nothing to do', () => {
  const set = setOf('ab');
  expect([moveTo(set, 'i0', 0), moveTo(set, 'i0', -1), moveTo(set, 'i0', 2), moveTo(set, 'gone', 1), moveRun(set, 0, -1), moveRun(set, 1, 1)]).toEqual(
    Array(6).fill(null),
  );
});

test('a part is made of items that stand apart: they come together where the first stands', () => {
  const set = setOf('.a..a');
  const d = after(set, makePart(set, new Set(['i2', 'i4', 'i0']), { title: 'New', keepOrder: true }));
  expect(order(d)).toBe('02413');
  expect(runsOfSet(d.set).map((r) => [r.section?.title, r.to - r.from])).toEqual([
    ['New', 3],
    ['Part a', 1],
    [undefined, 1],
  ]);
});

test('a part is changed with points for all its questions, texts to read aside; dissolved, its items stay', () => {
  const set = setOf('aab');
  set.items.splice(1, 0, { id: 'text', kind: 'information', stem: 'Read.', points: 0, section: 'a' });
  const d = after(set, changePart(set, { id: 'a', title: '', instructions: 'Choose one.', passage: '' }, 3));
  expect(d.set.sections?.[0]).toEqual({ id: 'a', instructions: 'Choose one.' });
  expect(d.set.items.map((i) => i.points)).toEqual([3, 0, 3, 1]);
  const gone = after(d.set, dissolvePart(d.set, 'a'));
  expect([homes(gone), gone.set.sections?.map((s) => s.id)]).toEqual(['...b', ['b']]);
  expect(after(gone.set, dissolvePart(gone.set, 'b')).set.sections).toBeUndefined();
});

test('parts are moved past each other; items are numbered through, in each part, or not', () => {
  const set = setOf('aa.bb');
  expect(order(after(set, moveRun(set, 2, -1)))).toBe('01342');
  expect(order(after(set, moveRun(set, 0, 1)))).toBe('20134');
  const labels = (how: 'through' | 'parts' | 'none'): (string | undefined)[] => after(set, numberItems(set, how)).set.items.map((i) => i.label);
  expect(labels('through')).toEqual(['1', '2', '3', '4', '5']);
  expect(labels('parts')).toEqual(['1', '2', '1', '1', '2']);
  expect(numberItems(set, 'none')).toBeNull();
});

test('whatever is done in whatever order: every item once, and back again as it was', () => {
  const step = fc.record({ what: fc.constantFrom('move', 'make', 'change', 'dissolve', 'run', 'number'), a: fc.nat(9), b: fc.nat(9) });
  fc.assert(
    fc.property(fc.stringMatching(/^[.abc]{1,9}$/), fc.array(step, { maxLength: 8 }), (from, steps) => {
      const start: SetDocument = { set: setOf(from), reviews: {} };
      let d = start;
      const back: Operation[] = [];
      for (const { what, a, b } of steps) {
        const { set } = d;
        const part: Section | undefined = set.sections?.[a % Math.max(1, set.sections.length)];
        const op: Operation | null =
          what === 'move'
            ? moveTo(set, set.items[a % set.items.length]?.id ?? '', b)
            : what === 'make'
              ? makePart(set, new Set([a, b].map((i) => set.items[i % set.items.length]?.id ?? '')), {})
              : what === 'run'
                ? moveRun(set, a, b % 2 ? 1 : -1)
                : what === 'number'
                  ? numberItems(set, b % 2 ? 'parts' : 'through')
                  : part
                    ? what === 'change'
                      ? changePart(set, { ...part, title: 'New' }, b)
                      : dissolvePart(set, part.id)
                    : null;
        if (!op) continue;
        const done = apply(d, op);
        back.unshift(done.inverse);
        d = done.document;
        expect(d.set.items.map((i) => i.id).toSorted()).toEqual(start.set.items.map((i) => i.id).toSorted());
        const known = new Set(d.set.sections?.map((s) => s.id));
        for (const i of d.set.items) if (i.section !== undefined) expect(known.has(i.section)).toBe(true);
      }
      for (const op of back) d = apply(d, op).document;
      expect(d).toEqual(start);
    }),
  );
});

test('a part that keeps its order keeps it in versions; another is shuffled', () => {
  const set = setOf('aaaaaaaabbbbbbbb');
  const drawn = (keepOrder: boolean): string[][] => {
    const [a, b] = set.sections as [Section, Section];
    const sections = [{ ...a, ...(keepOrder && { keepOrder }) }, b];
    return draw(
      set.items.map((i) => ({ item: i, set: { ...set, sections } })),
      { versions: [{ name: 'A', count: 16 }] },
    ).versions.map((v) => v.items);
  };
  const part = (versions: string[][], from: number, to: number): string[] => (versions[0] ?? []).slice(from, to);
  const first = set.items.slice(0, 8).map((i) => i.id);
  expect(part(drawn(true), 0, 8)).toEqual(first);
  expect(part(drawn(false), 0, 8)).not.toEqual(first);
  expect(part(drawn(true), 8, 16)).not.toEqual(set.items.slice(8).map((i) => i.id));
});
