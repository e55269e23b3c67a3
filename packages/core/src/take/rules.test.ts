/** Rules of a quiz: times, extra time, what is seen when, orders, and which attempt counts. */
import fc from 'fast-check';
import { anyItem } from '../item/arbitrary.js';
import type { Item } from '../item/model.js';
import { seeded } from '../item/shuffle.js';
import { learnerView } from './learnerView.js';
import {
  changedRules,
  countingOf,
  dueOf,
  itemsInOrder,
  itemTimeOf,
  phaseOf,
  quizRules,
  rulesProblem,
  seenFrom,
  seenLater,
  seenNow,
  seenParts,
  SHOWN,
  takenSet,
  usualRules,
  wholeChange,
  withinItemTimes,
} from './rules.js';

const at = (time: string): number => Date.parse(`2026-11-30T${time}:00Z`);
const iso = (time: string): string => `2026-11-30T${time}:00Z`;

describe('times', () => {
  test('a quiz is open from its opening to its closing, unless it was closed by hand', () => {
    const rules = { opensAt: iso('08:00'), closesAt: iso('09:00') };
    expect([at('07:59'), at('08:00'), at('08:59'), at('09:00')].map((t) => phaseOf(rules, true, t))).toEqual(['before', 'open', 'open', 'closed']);
    expect(phaseOf(rules, false, at('08:30'))).toBe('closed');
    expect(phaseOf({}, true, at('08:30'))).toBe('open');
  });

  test.each<[string, Parameters<typeof dueOf>[0], string, Parameters<typeof dueOf>[2], string | undefined]>([
    ['nothing ends it', {}, '08:00', {}, undefined],
    ['the limit', { minutes: 30 }, '08:00', {}, '08:30'],
    ['the closing, where it comes first', { minutes: 30, closesAt: iso('08:20') }, '08:00', {}, '08:20'],
    ['the limit, where that comes first', { minutes: 30, closesAt: iso('09:00') }, '08:00', {}, '08:30'],
    ['a third more', { minutes: 30 }, '08:00', { percent: 33.3333333333 }, '08:40'],
    ['extra time runs past the closing', { minutes: 60, closesAt: iso('09:00') }, '08:00', { percent: 50 }, '09:30'],
    ['who begins late has no more because of it', { minutes: 60, closesAt: iso('09:00') }, '08:45', {}, '09:00'],
    ['minutes given by hand', { minutes: 30, closesAt: iso('08:30') }, '08:00', { minutes: 5 }, '08:35'],
    ['minutes given by hand where only the closing ends it', { closesAt: iso('08:30') }, '08:00', { minutes: 5 }, '08:35'],
    ['per cent of no limit is nothing', { closesAt: iso('08:30') }, '08:00', { percent: 50 }, '08:30'],
  ])('%s', (_, rules, begun, more, due) => {
    const found = dueOf(rules, at(begun), more);
    expect(found === undefined ? undefined : new Date(Math.round(found / 1000) * 1000).toISOString().slice(11, 16)).toBe(due);
  });

  test('more time never ends an attempt earlier', () => {
    const some = fc.double({ min: 0, max: 300, noNaN: true });
    fc.assert(
      fc.property(fc.option(some, { nil: undefined }), fc.boolean(), some, some, (minutes, closes, percent, hand) => {
        const rules = { ...(minutes !== undefined && { minutes }), ...(closes && { closesAt: iso('09:00') }) };
        const plain = dueOf(rules, at('08:00'));
        const more = dueOf(rules, at('08:00'), { percent, minutes: hand });
        expect(more === undefined).toBe(plain === undefined);
        if (plain !== undefined) expect(more).toBeGreaterThanOrEqual(plain);
      }),
    );
  });
});

describe('what is seen', () => {
  test('each part from its own moment on, and what still comes is told', () => {
    const rules = { shows: { score: 'handed-in', marks: 'closed', keys: 'released', feedback: 'never' } } as const;
    expect(seenNow(rules, false, false)).toEqual({ score: true, marks: false, keys: false, feedback: false });
    expect(seenLater(rules, false, false)).toBe('closed');
    expect(seenNow(rules, true, false)).toEqual({ score: true, marks: true, keys: false, feedback: false });
    expect(seenLater(rules, true, false)).toBe('released');
    expect(seenNow(rules, false, true)).toEqual({ score: true, marks: false, keys: true, feedback: false });
    expect(seenNow(rules, true, true)).toEqual({ score: true, marks: true, keys: true, feedback: false });
    expect(seenLater(rules, true, true)).toBeUndefined();
  });

  test('what was seen once is not taken away by closing or releasing', () => {
    const from = fc.constantFrom(...seenFrom);
    fc.assert(
      fc.property(fc.record({ score: from, marks: from, keys: from, feedback: from }), fc.boolean(), fc.boolean(), (shows, closed, released) => {
        const before = seenNow({ shows }, closed, released);
        const after = seenNow({ shows }, true, true);
        for (const part of seenParts) if (before[part]) expect(after[part]).toBe(true);
        if (seenLater({ shows }, closed, released) === undefined) expect(after).toEqual(before);
      }),
    );
  });
});

describe('rules', () => {
  test('one attempt where keys are shown at once; a change keeps the rest; null takes away', () => {
    expect(usualRules('answers').attempts).toBe(1);
    expect(usualRules('score')).toMatchObject({ attempts: 0, enter: 'name', pages: 'one-by-one', back: true, shows: SHOWN.score });
    const some = changedRules(usualRules('answers'), { minutes: 20, pages: 'all' });
    expect(some).toEqual({ ...usualRules('answers'), minutes: 20, pages: 'all' });
    expect(changedRules(some, { minutes: null, back: undefined })).toEqual({ ...usualRules('answers'), pages: 'all' });
    const all = quizRules.parse({ minutes: 9, itemSeconds: 20, holdsRequired: true, back: false, practice: { tries: 1, hints: false } });
    expect(changedRules(all, wholeChange(some))).toEqual(some);
    expect(changedRules(some, wholeChange(all))).toEqual(all);
    expect(() => changedRules(some, { minutes: -1 })).toThrow();
    expect(() => changedRules(some, { colour: 'red' } as never)).toThrow();
    expect(quizRules.parse(JSON.parse(JSON.stringify(some)))).toEqual(some);
  });
  test('what cannot be together is said', () => {
    expect(rulesProblem(usualRules())).toBeNull();
    expect(rulesProblem(changedRules(usualRules(), { opensAt: iso('09:00'), closesAt: iso('08:00') }))).toMatch(/close/);
    expect(rulesProblem(changedRules(usualRules(), { pages: 'all', back: false }))).toMatch(/one by one/);
  });
});

describe('orders', () => {
  const choice = (id: string, contents: string[], more: object = {}): Item =>
    ({
      id,
      kind: 'multiple-choice',
      stem: id,
      points: 1,
      options: contents.map((content, i) => ({ id: `${id}${i}`, content, credit: i ? 0 : 1 })),
      ...more,
    }) as Item;

  test('options change places where their rule allows it: not numbers in order, not what speaks of all others, not where the item forbids it', () => {
    const items = [
      choice('words', ['rye', 'oats', 'All of the above']),
      choice('numbers', ['1 °C', '4 °C', '9 °C']),
      choice('fixed', ['rye', 'oats'], { shuffle: false }),
    ];
    const set = { title: 'T', items };
    const [words, numbers, fixed] = takenSet(set, { shuffle: { items: false, options: true } }).items as [Item, Item, Item];
    expect(words).toMatchObject({ shuffle: true });
    for (let n = 0; n < 30; n++) expect(learnerView(words, set, seeded(`${n}`)).options?.at(-1)?.content).toBe('All of the above');
    expect(new Set(Array.from({ length: 30 }, (_, n) => learnerView(words, set, seeded(`${n}`)).options?.[0]?.content))).toEqual(new Set(['rye', 'oats']));
    expect(numbers).toEqual(items[1]);
    expect(fixed).toEqual(items[2]);
    expect(takenSet(set, { shuffle: { items: true, options: false } })).toBe(set);
  });

  test('items change places within their part; what is only to be read stays where it is', () => {
    const of = (id: string, section?: string, kind = 'essay'): Item => ({ id, kind, stem: id, points: 1, ...(section && { section }) }) as Item;
    const items = [of('a'), of('b'), of('read', undefined, 'information'), of('c'), of('d'), of('e', 'p'), of('f', 'p'), of('g', 'q')];
    const orders = Array.from({ length: 60 }, (_, n) =>
      itemsInOrder(items, { shuffle: { items: true, options: false } }, seeded(`${n}`))
        .map((i) => i.id)
        .join(''),
    );
    for (const o of orders) expect(o).toMatch(/^(?:ab|ba)read(?:cd|dc)(?:ef|fe)g$/);
    expect(new Set(orders).size).toBe(8);
    expect(itemsInOrder(items, { shuffle: { items: false, options: true } }, seeded('x'))).toEqual(items);
  });

  test('every order holds every item once, and depends on nothing but the chance', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyItem, { maxLength: 8, selector: (i) => i.id }), fc.string(), (items, seed) => {
        const rules = { shuffle: { items: true, options: true } };
        const order = itemsInOrder(items, rules, seeded(seed)).map((i) => i.id);
        expect(order.slice().sort()).toEqual(items.map((i) => i.id).sort());
        expect(itemsInOrder(items, rules, seeded(seed)).map((i) => i.id)).toEqual(order);
      }),
      { numRuns: 50 },
    );
  });
});

test('of several attempts of a person the best, the last or the mean counts', () => {
  const attempts = [
    { person: 'ada', points: 3, at: 1 },
    { person: 'ada', points: 5, at: 2 },
    { person: 'ada', points: 4, at: 3 },
    { person: 'béla', points: 2, at: 2 },
  ];
  const of = (counts: 'best' | 'last' | 'mean'): unknown => [...countingOf(attempts, counts)].map(([person, c]) => [person, c.points, c.attempt.at]);
  expect(of('best')).toEqual([
    ['ada', 5, 2],
    ['béla', 2, 2],
  ]);
  expect(of('last')).toEqual([
    ['ada', 4, 3],
    ['béla', 2, 2],
  ]);
  expect(of('mean')).toEqual([
    ['ada', 4, 3],
    ['béla', 2, 2],
  ]);
});

describe('a time for each item', () => {
  const items = [
    { id: 'a', kind: 'true-false', stem: 's', points: 1, answer: true },
    { id: 'b', kind: 'true-false', stem: 's', points: 1, answer: true, timeLimit: 90 },
    { id: 'read', kind: 'information', stem: 's', points: 0 },
    { id: 'c', kind: 'true-false', stem: 's', points: 1, answer: true },
  ] as const satisfies Item[];
  const timed = { itemSeconds: 20 };
  test('its own where it has one, more for who has extra time, none for what is only read', () => {
    expect(items.map((i) => itemTimeOf(i, timed))).toEqual([20_000, 90_000, undefined, 20_000]);
    expect(items.map((i) => itemTimeOf(i, timed, { percent: 50 }))).toEqual([30_000, 135_000, undefined, 30_000]);
    expect(items.map((i) => itemTimeOf(i, {}))).toEqual([undefined, undefined, undefined, undefined]);
  });
  test('who went on from item to item within the times of all was in time, with the grace once', () => {
    const [a, b] = items;
    expect(withinItemTimes([a], 1000, 51_000, timed)).toBe(true);
    expect(withinItemTimes([a], 1000, 51_001, timed)).toBe(false);
    expect(withinItemTimes([a, b], 1000, 141_000, timed)).toBe(true);
    expect(withinItemTimes([a, b], 1000, 141_001, timed)).toBe(false);
    expect(withinItemTimes(items, 1000, 1e9, timed)).toBe(true);
    expect(withinItemTimes([a], 1000, 61_000, timed, { percent: 50 })).toBe(true);
  });
  test('it needs items one by one, no way back, and no practice', () => {
    const rules = { ...usualRules(), itemSeconds: 20, back: false };
    expect(rulesProblem(rules)).toBeNull();
    expect(rulesProblem({ ...rules, back: true })).toMatch(/one by one/);
    expect(rulesProblem({ ...rules, pages: 'all' })).not.toBeNull();
    expect(rulesProblem({ ...rules, practice: { tries: 2, hints: true } })).toMatch(/practice/);
  });
});
