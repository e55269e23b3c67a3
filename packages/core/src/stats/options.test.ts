import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { type Choice, dotStacks, histogram, optionFigures, remarksOn } from './options.js';
import { figures, quantile } from './scores.js';

const csv = (name: string): string[][] =>
  readFileSync(new URL(name, import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .map((l) => l.replaceAll('"', '').split(','));

// 1,525 people, 16 items with options (R package psychTools, data set iqitems); key, alpha 0.84 and n as its vignette prints them, cited
// from memory. Who left an item out has it wrong, as score.multiple.choice of R psych counts.
const KEY = [4, 4, 4, 6, 6, 3, 4, 4, 5, 2, 2, 4, 3, 2, 6, 7];
const RAW = csv('./iqitems-raw.csv');
const NAMES = RAW[0] ?? [];
const PEOPLE = RAW.slice(1);
const RIGHT = PEOPLE.map((r) => KEY.map((k, j) => (Number(r[j]) === k ? 1 : 0)));
const ITEMS = NAMES.map((id) => ({ id, points: 1 }));

test('1,525 people and 16 items: alpha as published', () => {
  const f = figures(ITEMS, RIGHT);
  expect(f.n).toBe(1525);
  expect(f.alpha).toBeCloseTo(0.84, 2);
  // the same as R prints it (psych 2.2.9: alpha, skew of type 2; quantile; prop.test without correction)
  expect(f.alpha).toBeCloseTo(0.840794, 6);
  expect(f.standardError).toBeCloseTo(1.6253, 4);
  expect(f.skew).toBeCloseTo(0.033497, 6);
  expect(f.quartiles).toEqual([5, 11]);
  expect(f.items.map((i) => i.discrimination?.toFixed(5))).toEqual(
    '0.50313 0.44503 0.50538 0.46863 0.49610 0.46531 0.50977 0.48440 0.41107 0.41588 0.45686 0.34462 0.43306 0.48072 0.46917 0.40247'.split(' '),
  );
  expect(f.items.map((i) => i.alphaWithout?.toFixed(5))).toEqual(
    '0.82919 0.83248 0.82918 0.83116 0.82956 0.83137 0.82877 0.83025 0.83457 0.83428 0.83184 0.83818 0.83330 0.83092 0.83117 0.83474'.split(' '),
  );
  expect(f.items[0]?.interval.map((x) => x.toFixed(6))).toEqual(['0.614921', '0.663067']);
});

test('options of these items: each key sorts people, each wrong option does not; no key is doubted', () => {
  const f = figures(ITEMS, RIGHT);
  KEY.forEach((key, j) => {
    const choices = PEOPLE.map((r, i): Choice => {
      const own = r[j] ?? '';
      return { chosen: own && own !== 'NA' ? [own] : [], rest: (RIGHT[i] ?? []).reduce<number>((s, x, n) => s + (n === j ? 0 : x), 0) };
    });
    const options = ['0', '1', '2', '3', '4', '5', '6', '7', '8'];
    const shown = optionFigures(options, choices);
    const own = shown.find((o) => o.id === String(key));
    expect(own?.discrimination).toBeCloseTo(f.items[j]?.discrimination ?? 0, 10);
    expect(own?.discrimination).toBeGreaterThan(0.3);
    // the abler the more
    expect(Number(own?.fifths[4])).toBeGreaterThan(Number(own?.fifths[0]));
    const remarks = remarksOn(f.items[j]!, 1525, shown, new Set([String(key)]), 0);
    expect(remarks.filter((r) => r.kind === 'likely-key' || r.kind === 'against')).toEqual([]);
    // with the key taken for another option, the right one is found
    const wrongKey = shown.find((o) => o.id !== String(key) && o.n > 80)?.id ?? '';
    const points = RIGHT.map((r, i) => r.map((x, n) => (n === j ? (PEOPLE[i]?.[j] === wrongKey ? 1 : 0) : x)));
    const again = remarksOn(figures(ITEMS, points).items[j]!, 1525, shown, new Set([wrongKey]), 0);
    expect(again[0]).toEqual({ kind: 'likely-key', option: String(key) });
  });
});

test('quartiles as type 7 of Hyndman and Fan: by hand', () => {
  // 1 2 3 4: 1 + 0.75 · 1; 3 + 0.25 · 1
  expect([quantile([4, 1, 3, 2], 0.25), quantile([4, 1, 3, 2], 0.75)]).toEqual([1.75, 3.25]);
  expect(quantile([7], 0.25)).toBe(7);
});

test('skew: by hand, 0 of what is even, below 0 where few have little', () => {
  const one = (totals: number[]) =>
    figures(
      [{ id: 'a', points: 10 }],
      totals.map((t) => [t]),
    ).skew;
  expect(one([1, 2, 3])).toBeCloseTo(0, 12);
  // 0 0 3: m2 = 2, m3 = 2; √6 / 1 · 2 / 2^1.5
  expect(one([0, 0, 3])).toBeCloseTo((Math.sqrt(6) * 2) / 2 ** 1.5, 12);
  expect(one([9, 9, 8, 1])).toBeLessThan(0);
  expect(one([4, 4, 4])).toBeNull();
});

// Wilson's interval of 8 right of 10: 0.490 to 0.943 (Agresti and Coull 1998 and many tables, from memory)
test('the interval of a difficulty: as Wilson’s, never outside 0 to 1, narrower with more people', () => {
  const share = (right: number, n: number) =>
    figures(
      [{ id: 'a', points: 2 }],
      Array.from({ length: n }, (_, i) => [i < right ? 2 : 0]),
    ).items[0]?.interval ?? [0, 0];
  expect(share(8, 10)[0]).toBeCloseTo(0.49, 3);
  expect(share(8, 10)[1]).toBeCloseTo(0.943, 3);
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0, max: 3, noNaN: true }), { minLength: 1, maxLength: 40 }), (points) => {
      const { difficulty, interval } = figures(
        [{ id: 'a', points: 3 }],
        points.map((p) => [p]),
      ).items[0]!;
      expect(interval[0] >= 0 && interval[1] <= 1).toBe(true);
      expect(interval[0] - 1e-9 <= difficulty && difficulty <= interval[1] + 1e-9).toBe(true);
    }),
  );
});

test('upper and lower 27 %: by hand, and who ties at the edge counts in part', () => {
  const items = [
    { id: 'a', points: 1 },
    { id: 'b', points: 10 },
  ];
  // ten people, groups of three: totals 0 … 9 and the item right for the four best
  const rows = Array.from({ length: 10 }, (_, i) => [i >= 6 ? 1 : 0, i]);
  expect(figures(items, rows).items[0]?.upperLower).toBe(1);
  // all totals alike: nobody is upper or lower
  expect(
    figures(items, [
      [1, 0],
      [0, 1],
      [1, 0],
      [0, 1],
    ]).items[0]?.upperLower,
  ).toBe(0);
  expect(figures(items, rows.slice(0, 3)).items[0]?.upperLower).toBeNull();
});

test('a histogram counts everybody once, in at most twenty bars of a round width', () => {
  expect(histogram([0, 1, 1, 3], 3)).toEqual([
    { from: 0, to: 0.25, n: 1 },
    ...[0.25, 0.5, 0.75].map((from) => ({ from, to: from + 0.25, n: 0 })),
    { from: 1, to: 1.25, n: 2 },
    ...[1.25, 1.5, 1.75, 2, 2.25, 2.5].map((from) => ({ from, to: from + 0.25, n: 0 })),
    { from: 2.75, to: 3, n: 1 },
  ]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0, max: 300, noNaN: true })), fc.integer({ min: 1, max: 300 }), (totals, maximum) => {
      const bars = histogram(totals, maximum);
      expect(bars.length).toBeLessThanOrEqual(20);
      expect(bars.reduce((s, b) => s + b.n, 0)).toBe(totals.length);
    }),
  );
});

test('remarks: nothing of few people; idle options; many who left it out', () => {
  const option = (id: string, share: number, discrimination: number) => ({ id, n: 0, share, discrimination, fifths: [] });
  const options = [option('a', 0.6, 0.4), option('b', 0.38, -0.3), option('c', 0.02, -0.1)];
  const item = { difficulty: 0.6, discrimination: 0.4 };
  expect(remarksOn(item, 10, options, new Set(['a']), 0)).toEqual([]);
  expect(remarksOn(item, 40, options, new Set(['a']), 0.25)).toEqual([
    { kind: 'left-out', share: 0.25 },
    { kind: 'idle', option: 'c' },
  ]);
  expect(remarksOn({ difficulty: 0.05, discrimination: -0.2 }, 40, [], new Set(), 0)).toEqual([{ kind: 'against' }, { kind: 'too-hard' }]);
  expect(remarksOn({ difficulty: 1, discrimination: null }, 40, [option('a', 1, 0), option('b', 0, 0)], new Set(['a']), 0)).toEqual([{ kind: 'too-easy' }]);
});

test('dots: each person once; a stack is no wider than a dot, and the next begins a dot further or more', () => {
  expect(dotStacks([5, 1, 5, 5.4, 7], 0.5)).toEqual([
    { at: 1, people: [1] },
    { at: 5.2, people: [0, 2, 3] },
    { at: 7, people: [4] },
  ]);
  expect(dotStacks([], 1)).toEqual([]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0, max: 40, noNaN: true }), { maxLength: 60 }), fc.double({ min: 0.1, max: 3, noNaN: true }), (totals, width) => {
      const stacks = dotStacks(totals, width);
      expect(stacks.flatMap((s) => s.people).sort((a, b) => a - b)).toEqual(totals.map((_, i) => i));
      const ends = stacks.map((s) => s.people.map((i) => totals[i] as number)).map((t) => [Math.min(...t), Math.max(...t)] as const);
      ends.forEach(([least, most], i) => {
        expect(most - least).toBeLessThan(width);
        if (i) expect(least - (ends[i - 1]?.[0] ?? 0)).toBeGreaterThanOrEqual(width);
      });
    }),
  );
});
