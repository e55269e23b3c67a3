/** A version as a set: orders and their rules, keys that follow, parts. */
import fc from 'fast-check';
import { anySet } from '../item/arbitrary.js';
import { keyPlaces } from '../item/kinds.js';
import type { ChoiceItem, Item, Option } from '../item/model.js';
import { poolOf } from './draw.js';
import { drawPlan, type Drawn } from '../item/drawn.js';
import { made, pooled } from './testing.js';
import { mayShuffle, versionSet } from './versionSet.js';

const holding = (items: readonly Item[], seed = 3): Drawn => ({
  plan: drawPlan.parse({ versions: [{ name: 'A', count: 1 }], seed }),
  versions: [{ name: 'A', items: items.map((i) => i.id) }],
});
const options = (...contents: (string | Partial<Option>)[]): Option[] =>
  contents.map((c, i) => ({ id: `o${i}`, content: '', credit: i === 0 ? 1 : 0, ...(typeof c === 'string' ? { content: c } : c) }));

test('items keep ids, options, keys: only orders change; whoever answers right is right', () => {
  fc.assert(
    fc.property(anySet, fc.nat(1e6), (set, seed) => {
      const pool = poolOf([set]);
      const out = versionSet(pool, holding(set.items, seed), 0, 'A');
      expect(out.items.map((i) => i.id)).toEqual([...new Set(set.items.map((i) => i.id))]);
      for (const item of out.items) {
        const before = set.items.find((i) => i.id === item.id) as Item;
        const bare = ({ label: _, section: __, shuffle: ___, options: ____, ...rest }: Item & { options?: Option[] }): unknown => rest;
        expect(bare(item)).toEqual(bare(before));
        if ('options' in item && 'options' in before) expect(new Set(item.options)).toEqual(new Set(before.options));
      }
    }),
    { numRuns: 150 },
  );
});

test.each([
  ['words', options('rye', 'oat', 'rice'), true],
  ['numbers in order', options('4 °C', '12 °C', '20 °C'), false],
  ['numbers in no order', options('12 °C', '4 °C', '20 °C'), true],
  ['letters of others', options('rye', 'oat', 'both A and B'), false],
  ['all but one pinned', options('rye', { content: 'oat', pinned: true }, { content: 'none', pinned: true }), false],
])('options that may change places: %s', (_, list, may) => expect(mayShuffle(made(0, { options: list } as Partial<Item>) as ChoiceItem)).toBe(may));

test('what is pinned, or speaks of all others, stays at its place', () => {
  for (let seed = 0; seed < 20; seed++) {
    const item = made(0, { options: options('rye', { content: 'oat', pinned: true }, 'rice', 'None of the above') } as Partial<Item>);
    const [shown] = versionSet(pooled([item]), holding([item], seed), 0, 'A').items as ChoiceItem[];
    expect(shown?.options.map((o) => o.content)[1]).toBe('oat');
    expect(shown?.options.at(-1)?.content).toBe('None of the above');
  }
});
test('keys are spread over the places, however they were written', () => {
  const items = Array.from({ length: 20 }, (_, n) =>
    made(n, { options: options('right', 'wrong', 'bad', 'false').map((o, k) => ({ ...o, content: `${o.content} ${n} ${k}` })) } as Partial<Item>),
  );
  const shown = versionSet(pooled(items), holding(items), 0, 'A').items as ChoiceItem[];
  const places = shown.map((i) => keyPlaces(i)[0] ?? -1);
  expect([0, 1, 2, 3].map((k) => places.filter((p) => p === k).length)).toEqual([5, 5, 5, 5]);
  expect(places).not.toEqual(versionSet(pooled(items), holding(items, 4), 0, 'A').items.map((i) => keyPlaces(i as ChoiceItem)[0]));
});
test('parts of several sets keep apart, and a set’s language goes with its items', () => {
  const one = { title: 'One', language: 'en', sections: [{ id: 's', title: 'Bread' }], items: [made(1, { section: 's' })] };
  const two = { title: 'Two', language: 'fr', sections: [{ id: 's', title: 'Le pain' }], items: [made(2, { section: 's' })] };
  const out = versionSet(poolOf([one, two]), holding([...one.items, ...two.items]), 0, 'A');
  expect(out.sections?.map((s) => [s.id, s.title])).toEqual([
    ['s', 'Bread'],
    ['s-2', 'Le pain'],
  ]);
  expect(out.items.map((i) => [i.section, i.language])).toEqual([
    ['s', 'en'],
    ['s-2', 'fr'],
  ]);
});
