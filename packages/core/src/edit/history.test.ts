/** What was done, in words; how two states differ; and the way back. */
import { apply, emptyDocument, type Operation, type SetDocument, type SimpleOperation } from '../item/operations.js';
import type { Item } from '../item/model.js';
import { differencesOf, documentBefore, goBack, sayOperation, type Step } from './history.js';

const item = (id: string, more: Partial<Item> = {}): Item => ({ id, kind: 'true-false', stem: `Statement ${id}.`, points: 1, answer: true, ...more }) as Item;
const items = [item('a'), item('b', { label: '2a' }), item('c')];
const start = (): SetDocument => ({ ...emptyDocument('T'), set: { title: 'T', items: structuredClone(items) } });

test.each<[Operation, string]>([
  [{ type: 'insert', at: 0, items: [item('x')] }, 'Added “Statement x.”'],
  [{ type: 'insert', at: 0, items: [item('x'), item('y')] }, 'Added 2 items'],
  [{ type: 'remove', ids: ['a'] }, 'Took out 1 item'],
  [{ type: 'remove', ids: ['a', 'b'] }, 'Took out 2 items'],
  [{ type: 'move', id: 'b', to: 0 }, 'Moved item 2a'],
  [{ type: 'move', id: 'gone', to: 0 }, 'Moved an item that is gone'],
  [{ type: 'change', id: 'c', set: { stem: 'New.', points: 2 } }, 'Changed the question, points of item 3'],
  [{ type: 'change', id: 'a', set: { answer: false }, unset: ['hints'] }, 'Changed the key, hints of item 1'],
  [{ type: 'change', id: 'a', set: { tags: ['x'] } }, 'Changed tags of item 1'],
  [{ type: 'replace', item: item('a') }, 'Rewrote item 1'],
  [{ type: 'review', id: 'a', review: { state: 'checked', by: 'M', at: '' } }, 'Checked item 1'],
  [{ type: 'review', id: 'a', review: { state: 'left-out' } }, 'Left out item 1'],
  [{ type: 'review', id: 'a', review: null }, 'Opened item 1 again'],
  [{ type: 'dismiss', finding: 'x a', reason: '' }, 'Set a finding aside'],
  [{ type: 'dismiss', finding: 'x a', reason: null }, 'Took a finding back in'],
  [{ type: 'aim', aim: { year: 8 } }, 'Changed what the set is meant to be'],
  [{ type: 'describe', set: { title: 'U', language: 'de' } }, 'Changed the title, language of the set'],
  [{ type: 'describe', set: {}, unset: ['description'] }, 'Changed the description of the set'],
  [{ type: 'all', label: 'Balanced the keys', operations: [] }, 'Balanced the keys'],
  [{ type: 'all', operations: [{ type: 'move', id: 'a', to: 1 }] }, 'Moved item 1'],
  [
    {
      type: 'all',
      operations: [
        { type: 'move', id: 'a', to: 1 },
        { type: 'move', id: 'a', to: 0 },
      ],
    },
    '2 changes at once',
  ],
])('%j is “%s”', (operation, words) => {
  expect(sayOperation(operation, items)).toBe(words);
});

/** Does operations and keeps the steps, the newest first, as the server gives them. */
function done(operations: readonly Operation[]): { document: SetDocument; steps: Step[] } {
  let document = start();
  const steps: Step[] = [];
  operations.forEach((operation, i) => {
    const r = apply(document, operation);
    document = r.document;
    steps.unshift({ version: i + 1, operation, inverse: r.inverse });
  });
  return { document, steps };
}
const several: Operation[] = [
  { type: 'insert', at: 1, items: [item('x')] },
  { type: 'change', id: 'a', set: { answer: false } },
  { type: 'move', id: 'c', to: 0 },
  { type: 'remove', ids: ['b'] },
  { type: 'review', id: 'a', review: { state: 'left-out' } },
];

test('the set before any number of steps, and one operation that leads there and can be undone', () => {
  const { document, steps } = done(several);
  for (let n = 0; n <= steps.length; n++) {
    const undone = steps.slice(0, n);
    const then = documentBefore(document, undone);
    expect(then).toEqual(done(several.slice(0, several.length - n)).document);
    const back = goBack(undone, `Back ${n}`);
    expect(back).toMatchObject({ type: 'all', label: `Back ${n}` });
    const r = apply(document, back);
    expect(r.document).toEqual(then);
    expect(apply(r.document, r.inverse).document).toEqual(document);
  }
});
test('a step of several changes goes back as a whole', () => {
  const both: SimpleOperation[] = [
    { type: 'change', id: 'a', set: { stem: 'One.' } },
    { type: 'change', id: 'a', set: { stem: 'Two.' } },
  ];
  const { document, steps } = done([{ type: 'all', label: 'Both', operations: both }]);
  expect(document.set.items[0]?.stem).toBe('Two.');
  expect(apply(document, goBack(steps, 'Back')).document).toEqual(start());
});

const differs = (operations: readonly Operation[]): [string, string, string[]][] =>
  differencesOf(start(), done(operations).document).map((d) => [d.id, d.what, d.fields]);
test.each<[string, Operation[], [string, string, string[]][]]>([
  ['nothing', [], []],
  ['a review only', [{ type: 'review', id: 'a', review: { state: 'left-out' } }], []],
  ['an item more', [{ type: 'insert', at: 1, items: [item('x')] }], [['x', 'added', []]]],
  ['an item less', [{ type: 'remove', ids: ['b'] }], [['b', 'gone', []]]],
  ['a change', [{ type: 'change', id: 'b', set: { stem: 'New.', tags: ['t'] } }], [['b', 'changed', ['stem', 'tags']]]],
  ['one that moved', [{ type: 'move', id: 'c', to: 0 }], [['c', 'moved', []]]],
  [
    'one that moved and changed is told as changed',
    [
      { type: 'move', id: 'c', to: 0 },
      { type: 'change', id: 'c', set: { points: 3 } },
    ],
    [['c', 'changed', ['points']]],
  ],
  ['another kind', [{ type: 'replace', item: { id: 'a', kind: 'essay', stem: 'Statement a.', points: 1 } }], [['a', 'changed', ['kind']]]],
  [
    'several at once',
    several,
    [
      ['a', 'changed', ['answer']],
      ['x', 'added', []],
      ['b', 'gone', []],
    ],
  ],
])('%s', (_, operations, expected) => {
  expect(differs(operations)).toEqual(expected);
});

test('of a long set the fewest items have moved', () => {
  const long = (order: readonly number[]): SetDocument => ({ ...emptyDocument('T'), set: { title: 'T', items: order.map((n) => item(`i${n}`)) } });
  const plain = Array.from({ length: 50 }, (_, n) => n);
  const turned = [...plain.slice(1, 30), 0, ...plain.slice(30)];
  expect(differencesOf(long(plain), long(turned)).map((d) => [d.id, d.what])).toEqual([['i0', 'moved']]);
  expect(differencesOf(long(plain), long([...plain].reverse()))).toHaveLength(49);
});
