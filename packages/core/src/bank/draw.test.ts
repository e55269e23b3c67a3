/** Versions: their rules as properties, the optimum against brute force, what is told where something cannot be. */
import fc from 'fast-check';
import { runs } from '../item/runs.js';
import type { Item, Section } from '../item/model.js';
import { readBlueprint } from './blueprint.js';
import { againstPlan, draw, figuresOf, poolOf } from './draw.js';
import { fingerprint, nearlySame } from './likeness.js';
import { type DrawAsked, drawPlan } from '../item/drawn.js';
import { costOf, programOf, type Selection } from './program.js';
import { firstDraw } from './search.js';
import { solve } from './solve.js';
import { loadSolver, type Solver } from './solver.js';
import { made, OUTCOMES, pooled } from './testing.js';

let highs: Solver;
beforeAll(async () => {
  highs = await loadSolver();
});
const versions = (count: number, many: number): DrawAsked['versions'] => Array.from({ length: many }, (_, i) => ({ name: 'ABCDEFGH'[i] ?? '', count }));
const range = (n: number): Item[] => Array.from({ length: n }, (_, i) => made(i));

test('thirty items, three versions of eight by blueprint: nothing comes twice though the pool has duplicates', () => {
  const items = range(27);
  const pool = pooled([...items, ...[0, 5, 9].map((n) => ({ ...made(n), id: `again ${n}` }))]);
  const rows = OUTCOMES.map((outcome, i) => ({ outcome, count: i === 2 ? 2 : 3 }));
  const drawn = draw(pool, { versions: versions(8, 3), rows, overlap: 'none' }, { highs });
  const all = drawn.versions.flatMap((v) => v.items);
  expect(all.length).toBe(24);
  expect(new Set(all.map((id) => Number(/\d+/.exec(id)?.[0]))).size).toBe(24);
  const { versions: said, overlap, unmet } = figuresOf(pool, drawn);
  expect(said.map((v) => v.rows)).toEqual([
    [3, 3, 2],
    [3, 3, 2],
    [3, 3, 2],
  ]);
  expect(overlap).toEqual([
    [8, 0, 0],
    [0, 8, 0],
    [0, 0, 8],
  ]);
  expect(unmet).toEqual([]);
  // equally hard, equally many points
  const hard = said.map((v) => v.difficulty ?? 0);
  expect(Math.max(...hard) - Math.min(...hard)).toBeLessThan(0.02);
  expect(new Set(said.map((v) => v.points)).size).toBe(1);
});

test('the same seed gives the same versions, another seed others; nothing depends on the names that options have', () => {
  const asked: DrawAsked = { versions: versions(6, 3), seed: 7 };
  const first = draw(pooled(range(40)), asked, { highs });
  expect(draw(pooled(range(40)), asked, { highs })).toEqual(first);
  expect(draw(pooled(range(40)), { ...asked, seed: 8 }, { highs }).versions).not.toEqual(first.versions);
});

/** The least cost over all selections, by trying them all. */
function leastCost(pool: ReturnType<typeof pooled>, asked: DrawAsked): number {
  const p = programOf(pool, drawPlan.parse(asked));
  const [U, V] = [p.units.length, p.counts.length];
  let best = Infinity;
  const fits = (held: Uint8Array, v: number): boolean =>
    p.units.reduce((n, u, i) => n + (held[i] ? u.count : 0), 0) <= (p.counts[v] ?? 0) &&
    p.exclusive.every((g) => g.reduce((n, i) => n + (held[i] ?? 0), 0) <= 1) &&
    p.units.every((u, i) => !u.pinned || held[i] === 1);
  const singles = Array.from({ length: 2 ** U }, (_, bits) => Uint8Array.from({ length: U }, (__, i) => (bits >> i) & 1));
  const choices = p.counts.map((_, v) => singles.filter((h) => fits(h, v)));
  const go = (v: number, s: Selection): void => {
    if (v === V) best = Math.min(best, costOf(p, s));
    else for (const h of choices[v] ?? []) go(v + 1, [...s, h]);
  };
  go(0, []);
  return best;
}
test.each([
  ['two of three from seven', 7, { versions: versions(3, 2) }],
  ['with rows', 8, { versions: versions(3, 2), rows: [{ outcome: 'Yeast', count: 2 }] }],
  ['too few for no overlap', 5, { versions: versions(3, 2), overlap: 'none' }],
  ['overlap that cannot be helped', 5, { versions: versions(4, 2), rows: [{ outcome: 'Heat', count: 1 }] }],
  [
    'with one pinned and two apart',
    7,
    {
      versions: versions(3, 2),
      pinned: ['item-1'],
      apart: [
        ['item-1', 'item-3'],
        ['item-2', 'item-4'],
      ],
    },
  ],
  ['points asked', 7, { versions: versions(3, 2), rows: [{ outcome: 'Safety', points: 2 }] }],
] as [string, number, DrawAsked][])('the best by brute force is found: %s', (_, n, asked) => {
  const pool = pooled([...range(n - 1), { ...made(0), id: 'again' }]);
  const p = programOf(pool, drawPlan.parse(asked));
  const { selection, gap } = solve(highs, p, firstDraw(p), { gap: 0, near: 1e-7, iterations: 1e6 });
  expect(gap).toBe(0);
  expect(costOf(p, selection)).toBeCloseTo(leastCost(pool, asked), 5);
});

test('rules that always hold: length, nothing like another in a version, passages whole, pinned in all, apart', () => {
  fc.assert(
    fc.property(
      fc.record({
        seed: fc.integer({ min: 0, max: 1e6 }),
        many: fc.integer({ min: 1, max: 4 }),
        count: fc.integer({ min: 1, max: 9 }),
        size: fc.integer({ min: 3, max: 24 }),
        passage: fc.integer({ min: 0, max: 5 }),
        again: fc.array(fc.nat({ max: 23 }), { maxLength: 4 }),
        overlap: fc.constantFrom('none', 'little', 'any'),
        quota: fc.option(fc.integer({ min: 0, max: 6 }), { nil: undefined }),
      }),
      ({ seed, many, count, size, passage, again, overlap, quota }) => {
        const sections: Section[] = [{ id: 'p', title: 'Reading', passage: 'A text to read.' }];
        const items = range(size).map((i, n) => (n >= 1 && n <= passage ? { ...i, section: 'p' } : i));
        const pool = pooled([...items, ...again.map((n, k) => ({ ...made(n), id: `again ${k}` }))], { sections });
        const apart: [string, string] = ['item-1', `item-${size - 1}`];
        const asked: DrawAsked = {
          versions: versions(count, many),
          seed,
          overlap: overlap as 'none',
          pinned: ['item-0'],
          ...(passage === 0 && { apart: [apart] }),
          ...(quota !== undefined && { rows: [{ outcome: 'Heat', count: quota }] }),
        };
        const drawn = draw(pool, asked);
        const by = new Map(pool.map((p) => [p.item.id, p.item]));
        for (const { items: ids } of drawn.versions) {
          expect(ids.length).toBeLessThanOrEqual(count);
          expect(new Set(ids).size).toBe(ids.length);
          expect(ids).toContain('item-0');
          const held = ids.map((id) => by.get(id) as Item);
          held.forEach((a, i) => held.slice(i + 1).forEach((b) => expect(nearlySame(fingerprint(a), fingerprint(b))).toBe(false)));
          const inPassage = ids.filter((id) => by.get(id)?.section === 'p').length;
          expect([0, Math.min(passage, size - 1)]).toContain(inPassage);
          if (passage === 0 && size > 2) expect(apart.every((id) => ids.includes(id))).toBe(false);
        }
        // what is short, or not as the blueprint has it, is told
        const { versions: said, unmet } = figuresOf(pool, drawn);
        said.forEach((v) => {
          if (v.questions < count) expect(unmet.some((u) => u.version === v.name && u.row === undefined)).toBe(true);
          if (quota !== undefined && v.rows[0] !== quota) expect(unmet.some((u) => u.version === v.name && u.row === 0)).toBe(true);
        });
      },
    ),
    { numRuns: runs(60) },
  );
});

test.each([
  [
    'a row too large',
    { versions: versions(8, 1), rows: [{ outcome: 'Yeast', count: 7 }] },
    'Row 1 asks for 7 items of outcome “Yeast”, and the pool offers 4: 3 too few.',
  ],
  ['a row for several versions', { versions: versions(4, 3), rows: [{ outcome: 'Heat', count: 2 }], overlap: 'none' }, 'needs 6; the pool offers 4'],
  [
    'rows that add up',
    {
      versions: versions(3, 1),
      rows: [
        { outcome: 'Heat', count: 2 },
        { outcome: 'Yeast', count: 2 },
      ],
    },
    'Rows 1, 2 ask for 4 items together, and version A holds 3.',
  ],
  ['more than there is', { versions: versions(20, 1) }, 'A version of 20 items was asked for, and the pool offers 12 different items.'],
  ['pinned and apart', { versions: versions(4, 1), pinned: ['item-1', 'item-2'], apart: [['item-2', 'item-1']] }, 'but may not stand in one version'],
  ['pinned and the same', { versions: versions(4, 1), pinned: ['item-1', 'again'] }, 'but ask nearly the same'],
  ['pinned and gone', { versions: versions(4, 1), pinned: ['nobody'] }, '1 pinned item is not in the pool any more.'],
  ['too many pinned', { versions: versions(1, 1), pinned: ['item-1', 'item-2'] }, '2 items are pinned, and version A holds 1.'],
] as [string, DrawAsked, string][])('said before anything is drawn: %s', (_, asked, message) => {
  const pool = pooled([...range(12), { ...made(1), id: 'again' }]);
  expect(againstPlan(pool, drawPlan.parse(asked)).map((u) => u.message)).toContainEqual(expect.stringContaining(message));
  // and a draw is made all the same, as far as it goes
  expect(draw(pool, asked).versions.length).toBe(asked.versions.length);
});

test('an item that two sets hold counts once; an item that is gone is told', () => {
  const items = range(5);
  const pool = poolOf([
    { title: 'One', items },
    { title: 'Two', items: [items[0] as Item, made(9)] },
  ]);
  expect(pool.length).toBe(6);
  const drawn = draw(pool, { versions: versions(6, 1) });
  const { versions: said, unmet } = figuresOf(pool.slice(1), drawn);
  expect(said[0]?.gone).toEqual(['item-0']);
  expect(unmet.map((u) => u.message)).toEqual(['Version A has 5 of 6 items.']);
});
test('what was used least is drawn first, and what has no key last', () => {
  const pool = pooled(range(12)).map((p, i) => ({ ...p, uses: i < 6 ? 9 : 0 }));
  expect(draw(pool, { versions: versions(6, 1) }, { highs }).versions[0]?.items.toSorted()).toEqual([6, 7, 8, 9, 10, 11].map((n) => `item-${n}`).toSorted());
  const keyless = pooled(range(8).map((i, n) => (n < 3 ? ({ ...i, options: [] } as Item) : i)));
  expect(draw(keyless, { versions: versions(5, 1) }, { highs }).versions[0]?.items.some((id) => /item-[012]$/.test(id))).toBe(false);
});
test('a search is told how far it is, and can be stopped', () => {
  const stages = new Set<string>();
  // impossible balance, so that the solver has something to do
  const pool = pooled(range(30).map((i, n) => ({ ...i, level: { difficulty: (n * n) / 900 }, points: 1 + n ** 2 })));
  const drawn = draw(pool, { versions: versions(5, 3) }, { highs, watch: (now) => (stages.add(now.stage), now.stage === 'better') });
  expect([...stages]).toEqual(['first', 'better']);
  expect(drawn.gap).toBeGreaterThan(0);
});

test.each([
  ['[{"outcome":"Yeast","count":3}]', [{ outcome: 'Yeast', count: 3 }]],
  [
    '{"rows":[{"kind":"True/False","items":2},{"kind":"MC","level":"easy","points":4}]}',
    [
      { kind: 'true-false', count: 2 },
      { kind: 'multiple-choice', difficulty: { from: 0, to: 0.35 }, points: 4 },
    ],
  ],
  [
    '[{"tags":["week 2"],"level":{"bloom":"apply","difficulty":[0.2,0.5]},"section":"Part A","n":1}]',
    [{ tag: 'week 2', bloom: 'apply', difficulty: { from: 0.2, to: 0.5 }, part: 'Part A', count: 1 }],
  ],
])('a blueprint file: %s', (text, rows) => expect(readBlueprint(text)).toEqual(rows));
test.each([
  ['{', 'the blueprint is not JSON'],
  ['{"a":1}', 'holds no list of rows'],
  ['[{"topic":"x","count":1}]', 'row 1 of the blueprint: “topic” is not known'],
  ['[{"outcome":"x"}]', 'row 1 of the blueprint: says neither count nor points'],
  ['[{"kind":"riddle","count":1}]', 'kind “riddle” is not known'],
  ['[{"outcome":"x","count":2},{"outcome":"x","count":-2}]', 'row 2 of the blueprint: count'],
  ['[{"level":"odd","count":2}]', 'level “odd” is not known'],
])('a blueprint that is none: %s', (text, message) => expect(() => readBlueprint(text)).toThrow(message));
