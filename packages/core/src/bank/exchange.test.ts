/** Exchanges by hand with the rules watched; what goes out of a set. */
import type { Item } from '../item/model.js';
import { apply, type SetDocument } from '../item/operations.js';
import { draw } from './draw.js';
import { drawDifference, exchanged, exchangesFor } from './exchange.js';
import { goingSet } from './going.js';
import { made, pooled } from './testing.js';

const range = (n: number): Item[] => Array.from({ length: n }, (_, i) => made(i));
const pool = pooled([...range(9), { ...made(4), id: 'again' }]);
const drawn = draw(pool, {
  versions: [
    { name: 'A', count: 3 },
    { name: 'B', count: 3 },
  ],
  rows: [{ outcome: 'Heat', count: 1 }],
  overlap: 'none',
  pinned: [],
  apart: [['item-1', 'item-2']],
});

test('what may come in: nothing that the version holds; each broken rule is said; what breaks none stands first', () => {
  const [a] = drawn.versions;
  for (const id of a?.items ?? []) {
    const offers = exchangesFor(pool, drawn, 0, id);
    expect(offers.length).toBe(pool.length - 3);
    expect(offers.some((o) => a?.items.includes(o.id))).toBe(false);
    expect(offers.map((o) => o.breaks.length)).toEqual(offers.map((o) => o.breaks.length).toSorted((x, y) => x - y));
    for (const o of offers) {
      const there = drawn.versions[1]?.items.includes(o.id) ?? false;
      expect(o.breaks.some((b) => b.includes('stands in version B'))).toBe(there);
      const heat = (x: string): number => (pool.find((p) => p.item.id === x)?.item.outcomes?.includes('Heat') ? 1 : 0);
      expect(o.breaks.some((b) => b.startsWith('row 1'))).toBe(heat(o.id) !== heat(id));
    }
    expect(exchangesFor(pool, drawn, 0, 'nobody')).toEqual([]);
  }
});
test('an exchange changes one place of one version, and is told as a difference', () => {
  const old = drawn.versions[0]?.items[1] ?? '';
  const by = exchangesFor(pool, drawn, 0, old)[0]?.id ?? '';
  const after = exchanged(drawn, 0, old, by);
  expect(after.versions[0]?.items.indexOf(by)).toBe(1);
  expect(after.versions[1]).toEqual(drawn.versions[1]);
  expect(drawDifference(drawn, after)).toEqual([
    { name: 'A', in: [by], out: [old] },
    { name: 'B', in: [], out: [] },
  ]);
});

test('a draw is kept with the set as one operation with its inverse; what goes out is the whole set or a version', () => {
  const items = pool.map((p) => p.item);
  const start: SetDocument = { set: { title: 'Bread', description: 'For week two', items }, reviews: { 'item-0': { state: 'left-out' } } };
  const { document, inverse } = apply(start, { type: 'draw', drawn });
  expect(document.drawn).toEqual(drawn);
  expect(apply(document, inverse).document).toEqual(start);
  expect(goingSet(document)?.items.length).toBe(items.length - 1);
  const b = goingSet(document, 'B');
  expect(b?.title).toBe('Bread, version B');
  expect(b?.description).toBe('For week two');
  // what a person left out since is not in it
  expect(b?.items.map((i) => i.id)).toEqual(drawn.versions[1]?.items.filter((id) => id !== 'item-0'));
  expect(goingSet(document, 'Z')).toBeNull();
  expect(goingSet(start, 'A')).toBeNull();
});
