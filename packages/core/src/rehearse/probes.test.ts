/** Probes: what is asked of an item to see that its key holds, and that it can be asked of the same item under other names. */
import fc from 'fast-check';
import { anyGraded } from '../item/arbitrary.js';
import { defaultMatch, type Item, item as itemSchema } from '../item/model.js';
import { runs } from '../item/runs.js';
import { mark, type Response } from '../mark/mark.js';
import { actOf, type Probes, probesFor, responseOf } from './probes.js';

const item = (over: Record<string, unknown>): Item => itemSchema.parse({ id: 'i', stem: 'x', points: 1, ...over });
const options = (...credits: number[]): object[] => credits.map((credit, i) => ({ id: `o${i}`, content: `choice ${i}`, credit }));
const typed = (...texts: string[]): object[] => texts.map((text) => ({ text, credit: 1 }));

const all = (p: Probes): Response[] => [p.right, p.wrong, p.half, ...p.more].filter((r) => r !== null);
/** Whether some probe of the item is marked otherwise by another. */
const tells = (of: Item, from: Item): boolean => all(probesFor(of)).some((r) => mark(of, r).points !== mark(from, r).points);

/** An item, and the same with one thing of its key gone wrong. */
const BROKEN: readonly [what: string, good: Item, bad: Item][] = [
  ['another choice is the key', item({ kind: 'multiple-choice', options: options(0, 1, 0) }), item({ kind: 'multiple-choice', options: options(0, 0, 1) })],
  [
    'a partly right choice is not',
    item({ kind: 'multiple-choice', options: options(1, 0.5, 0) }),
    item({ kind: 'multiple-choice', options: options(1, 0, 0) }),
  ],
  [
    'one key too few',
    item({ kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 1, 0, 0) }),
    item({ kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 0, 0, 0) }),
  ],
  [
    'one key too many',
    item({ kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 1, 0, 0) }),
    item({ kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 1, 1, 0) }),
  ],
  [
    'another rule of credit',
    item({ kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 1, 0, 0) }),
    item({ kind: 'multiple-response', scoring: 'per-option', options: options(1, 1, 0, 0) }),
  ],
  [
    'a wrong choice takes nothing',
    item({ kind: 'multiple-response', scoring: 'weights', options: options(0.5, 0.5, -0.5) }),
    item({ kind: 'multiple-response', scoring: 'weights', options: options(0.5, 0.5, 0) }),
  ],
  ['false is true', item({ kind: 'true-false', answer: true }), item({ kind: 'true-false', answer: false })],
  [
    'one wording is not accepted',
    item({ kind: 'short-answer', answers: typed('rye', 'secale'), match: defaultMatch }),
    item({ kind: 'short-answer', answers: typed('rye'), match: defaultMatch }),
  ],
  [
    'capitals count',
    item({ kind: 'short-answer', answers: typed('rye'), match: defaultMatch }),
    item({ kind: 'short-answer', answers: typed('rye'), match: { ...defaultMatch, caseSensitive: true } }),
  ],
  [
    'the range ends lower',
    item({ kind: 'numeric', answers: [{ min: 10, max: 20, credit: 1 }] }),
    item({ kind: 'numeric', answers: [{ min: 10, max: 19.99, credit: 1 }] }),
  ],
  [
    'the range begins lower',
    item({ kind: 'numeric', answers: [{ min: 10, max: 20, credit: 1 }] }),
    item({ kind: 'numeric', answers: [{ min: 9.9, max: 20, credit: 1 }] }),
  ],
  [
    'a number is exact',
    item({ kind: 'numeric', answers: [{ min: 0.1, max: 0.1, credit: 1 }] }),
    item({ kind: 'numeric', answers: [{ min: 0.1, max: 0.2, credit: 1 }] }),
  ],
  [
    'the second gap takes anything of the first',
    item({
      kind: 'cloze',
      stem: '[[1]] and [[2]]',
      gaps: [
        { id: '1', kind: 'text', points: 1, answers: typed('salt') },
        { id: '2', kind: 'text', points: 1, answers: typed('water') },
      ],
    }),
    item({
      kind: 'cloze',
      stem: '[[1]] and [[2]]',
      gaps: [
        { id: '1', kind: 'text', points: 1, answers: typed('salt') },
        { id: '2', kind: 'text', points: 1, answers: typed('salt') },
      ],
    }),
  ],
  [
    'another choice in a gap',
    item({ kind: 'cloze', stem: '[[1]]', gaps: [{ id: '1', kind: 'choice', points: 1, options: options(1, 0, 0) }] }),
    item({ kind: 'cloze', stem: '[[1]]', gaps: [{ id: '1', kind: 'choice', points: 1, options: options(0, 0, 1) }] }),
  ],
  [
    'two rights changed over',
    item({
      kind: 'matching',
      pairs: [
        { left: 'a', right: '1' },
        { left: 'b', right: '2' },
        { left: 'c', right: '3' },
      ],
      extraRights: [],
    }),
    item({
      kind: 'matching',
      pairs: [
        { left: 'a', right: '1' },
        { left: 'b', right: '3' },
        { left: 'c', right: '2' },
      ],
      extraRights: [],
    }),
  ],
  ['two steps changed over', item({ kind: 'ordering', sequence: ['a', 'b', 'c', 'd'] }), item({ kind: 'ordering', sequence: ['a', 'c', 'b', 'd'] })],
];

test.each(BROKEN)('%s: told', (_what, good, bad) => {
  expect(tells(good, bad)).toBe(true);
  // and nothing is told of an item and itself
  expect(tells(good, structuredClone(good))).toBe(false);
});

describe('half right', () => {
  const CASES: readonly [what: string, item: Item, credit: number | null][] = [
    ['a choice with partial credit', item({ kind: 'multiple-choice', options: options(1, 0.25, 0) }), 0.25],
    ['a choice without: another wrong one', item({ kind: 'multiple-choice', options: options(1, 0, 0) }), 0],
    ['a choice with one wrong option only', item({ kind: 'multiple-choice', options: options(1, 0) }), null],
    ['half of the keys', item({ kind: 'multiple-response', scoring: 'per-option', options: options(1, 1, 0, 0) }), 0.75],
    [
      'a wording with half of the credit',
      item({
        kind: 'short-answer',
        answers: [
          { text: 'rye', credit: 1 },
          { text: 'grain', credit: 0.5 },
        ],
        match: defaultMatch,
      }),
      0.5,
    ],
    [
      'a wider range with half of the credit',
      item({
        kind: 'numeric',
        answers: [
          { min: 10, max: 10, credit: 1 },
          { min: 12, max: 14, credit: 0.5 },
        ],
      }),
      0.5,
    ],
    [
      'half of the pairs',
      item({
        kind: 'matching',
        pairs: [
          { left: 'a', right: '1' },
          { left: 'b', right: '2' },
        ],
        extraRights: [],
      }),
      0.5,
    ],
    ['true or false has none', item({ kind: 'true-false', answer: true }), null],
    ['an order has none', item({ kind: 'ordering', sequence: ['a', 'b'] }), null],
  ];
  test.each(CASES)('%s', (_what, i, credit) => {
    const { half } = probesFor(i);
    if (credit === null) expect(half).toBeNull();
    else expect(mark(i, half).credit).toBeCloseTo(credit, 6);
  });
});

test('a long matching is asked a bounded number of times', () => {
  const pairs = Array.from({ length: 60 }, (_, k) => ({ left: `left ${k}`, right: `right ${k}` }));
  const probes = probesFor(item({ kind: 'matching', pairs, extraRights: [] }));
  expect(probes.more.length).toBeLessThanOrEqual(601);
});

describe('what is done', () => {
  /** The same item as another file would hold it: options, gaps and choices under other names, options in another order. */
  const renamed = (i: Item): Item => {
    const copy = structuredClone(i);
    if ('options' in copy) copy.options = copy.options.map((o, k) => ({ ...o, id: `new${k}` }));
    if (copy.kind === 'cloze')
      copy.gaps = copy.gaps.map((g) => (g.kind === 'choice' ? { ...g, options: g.options.map((o, k) => ({ ...o, id: `new${k}` })) } : g));
    return copy;
  };
  const same = (a: string, b: string): boolean => a === b;

  test('every probe of every item is done again in an item whose parts are named otherwise, for the same points', () => {
    fc.assert(
      fc.property(anyGraded, (i) => {
        const other = renamed(i);
        for (const r of all(probesFor(i)).slice(0, 60)) {
          const act = actOf(i, r);
          const again = act && responseOf(other, act, same);
          expect(again).not.toBeNull();
          expect(mark(other, again).points).toBe(mark(i, r).points);
        }
      }),
      { numRuns: runs(200) },
    );
  });
  test('of options that say the same, the one meant is meant again', () => {
    const twice = item({
      kind: 'multiple-choice',
      options: [
        { id: 'a', content: 'rye', credit: 0 },
        { id: 'b', content: 'rye', credit: 1 },
      ],
    });
    const act = actOf(twice, { options: ['b'] });
    expect(act).toEqual({ type: 'choose', options: [{ content: 'rye', nth: 1 }] });
    expect(act && responseOf(twice, act, same)).toEqual({ options: ['b'] });
  });
  const choice = item({ kind: 'multiple-choice', options: options(1, 0) });
  const order = item({ kind: 'ordering', sequence: ['a', 'b'] });
  const matching = item({
    kind: 'matching',
    pairs: [
      { left: 'a', right: '1' },
      { left: 'b', right: '2' },
    ],
    extraRights: ['3'],
  });
  test.each<[string, Item, Parameters<typeof responseOf>[1]]>([
    ['a choice is not there', choice, { type: 'choose', options: [{ content: 'elsewhere', nth: 0 }] }],
    ['a choice in an order', order, { type: 'choose', options: [{ content: 'a', nth: 0 }] }],
    ['true in a choice', choice, { type: 'truth', value: true }],
    ['words in a choice', choice, { type: 'type', text: 'a' }],
    ['gaps in an order', order, { type: 'fill', gaps: ['a'] }],
    ['a step is not there', order, { type: 'order', pieces: [{ content: 'z', nth: 0 }] }],
    ['an order in a choice', choice, { type: 'order', pieces: [{ content: 'choice 0', nth: 0 }] }],
    ['a left is not there', matching, { type: 'pair', pairs: [{ left: { content: 'z', nth: 0 }, right: '1' }] }],
    ['pairs in a choice', choice, { type: 'pair', pairs: [{ left: { content: 'choice 0', nth: 0 }, right: '1' }] }],
  ])('%s: it cannot be done', (_what, i, act) => expect(responseOf(i, act, same)).toBeNull());
  test('a right that is not offered is left open', () =>
    expect(
      responseOf(
        matching,
        {
          type: 'pair',
          pairs: [
            { left: { content: 'b', nth: 0 }, right: 'elsewhere' },
            { left: { content: 'a', nth: 0 }, right: '3' },
          ],
        },
        same,
      ),
    ).toEqual({ pairs: ['3', null] }));
});
