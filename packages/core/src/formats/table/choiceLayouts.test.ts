/** Layouts of choices as data: written, read back, rehearsed; one that nobody has written code for works by its row alone. */
import fc from 'fast-check';
import { anySet } from '../../item/arbitrary.js';
import type { Item, QuizSet } from '../../item/model.js';
import { runs } from '../../item/runs.js';
import { fit, fitSet } from '../../fit/fit.js';
import { playSet } from '../../rehearse/play.js';
import { rehearse } from '../../rehearse/rehearse.js';
import { choiceProfile, choiceRows, hasChoiceLayout, readChoiceRows } from './choiceLayouts.js';
import { type ChoiceLayout, choiceLayouts } from './layoutTable.js';
import { ownLayouts } from './layouts.js';

const choice = (more: object = {}): Item =>
  ({
    id: 'a',
    kind: 'multiple-choice',
    stem: 'What feeds a starter?',
    points: 1,
    options: ['Salt', 'Flour', 'Oil'].map((content, i) => ({ id: `o${i}`, content, credit: i === 1 ? 1 : 0 })),
    ...more,
  }) as Item;
const set = (...items: Item[]): QuizSet => ({ title: 'Bread', items });
const layout = (id: string): ChoiceLayout => choiceLayouts.find((l) => l.id === id) as ChoiceLayout;
const notes = (l: ChoiceLayout, item: Item): string[] => fit(item, choiceProfile(l), set(item)).notes.map((n) => `${n.fit}: ${n.brief ?? n.message}`);

/** A layout that is nowhere in the product. */
const made: ChoiceLayout = {
  id: 'made',
  name: 'a test',
  columns: [
    { heading: 'Worth', holds: 'points', about: '' },
    { heading: 'Correct one', holds: 'key', about: '' },
    { heading: 'Language', holds: { always: 'en' }, about: '' },
    { heading: 'Ask', holds: 'question', about: '' },
    ...['I', 'II', 'III'].map((n) => ({ heading: `Reply ${n}`, holds: 'option' as const, about: '' })),
    { heading: 'Clock', holds: 'time', about: '' },
  ],
  key: 'letters',
  least: 2,
  longest: { question: 200, option: 120 },
  times: { given: [5, 10], usual: 10 },
};
const all = [...choiceLayouts, made];

test('keys by letter, number and word stand as each layout says', () => {
  const key = (l: ChoiceLayout, item: Item): string => choiceRows(l, set(item))[1]?.[l.columns.findIndex((c) => c.holds === 'key')] ?? '';
  const two = choice({
    kind: 'multiple-response',
    scoring: 'all-or-nothing',
    options: ['Salt', 'Flour', 'Oil'].map((content, i) => ({ id: `o${i}`, content, credit: i ? 1 : 0 })),
  });
  expect([key(layout('choices'), two), key(layout('numbered'), choice()), key(layout('worded'), two), key(made, choice())]).toEqual([
    'B, C',
    '2',
    'Flour; Oil',
    'B',
  ]);
});

test('a column that is always the same, and the usual time', () =>
  expect(choiceRows(made, fitSet(set(choice()), choiceProfile(made)).set)[1]).toEqual(['1', 'B', 'en', 'What feeds a starter?', 'Salt', 'Flour', 'Oil', '10']));

test.each<[string, ChoiceLayout, Item, RegExp]>([
  ['a time that cannot be given becomes the next', layout('numbered'), choice({ timeLimit: 20 }), /^adapted: 30 s$/],
  ['what has no time gets the usual one', layout('numbered'), choice(), /^adapted: 30 s$/],
  ['a long question', made, choice({ stem: 'What feeds a starter? '.repeat(10), timeLimit: 5 }), /impossible/],
  ['too few options', made, choice({ timeLimit: 5, options: [1].map((i) => ({ id: `o${i}`, content: `Way ${i}`, credit: i })) }), /impossible/],
  ['several right ones where one may be', layout('numbered'), choice({ kind: 'multiple-response', timeLimit: 30, scoring: 'all-or-nothing' }), /impossible/],
  [
    'the sign that parts the right ones',
    layout('worded'),
    choice({ options: ['Salt; oil', 'Flour'].map((content, i) => ({ id: `o${i}`, content, credit: i })) }),
    /impossible/,
  ],
  [
    'options that read the same, where words are the key',
    layout('worded'),
    choice({ options: ['Flour', 'flour'].map((content, i) => ({ id: `o${i}`, content, credit: i })) }),
    /impossible/,
  ],
])('%s is told', (_, l, item, told) => expect(notes(l, item).join('\n')).toMatch(told));

test('rows of somebody else: another order of columns, a key that names nothing, no key', () => {
  const { set: read, diagnostics } = readChoiceRows(layout('worded'), [
    ['Answer 2', 'Right words', 'ANSWER 1', 'question text'],
    ['Flour', ' flour ', 'Salt', 'What feeds it?'],
    ['Flour', 'Sugar', 'Salt', 'And now?'],
    ['Flour', '', 'Salt', 'And then?'],
  ]);
  expect(read.items.map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual([
    [0, 1],
    [0, 0],
    [0, 0],
  ]);
  expect(diagnostics.map((d) => `${d.line} ${d.code}`)).toEqual(['3 key-unknown-option', '4 key-missing']);
});

test('headings tell which layout it is, and no two layouts have the same', () => {
  for (const l of ownLayouts) expect(ownLayouts.filter((o) => o.isOf(l.rows(set())[0] ?? []))).toEqual([l]);
  expect(hasChoiceLayout(made, ['ask', 'CORRECT ONE', 'Reply I', 'Reply II', 'Reply III'])).toBe(true);
  expect(hasChoiceLayout(made, ['Ask', 'Reply I', 'Reply II', 'Reply III'])).toBe(false);
});

test.each(all.map((l) => [l.id, l] as const))('random sets that fit mark themselves as before: %s', (_, l) => {
  const profile = choiceProfile(l);
  let items = 0;
  fc.assert(
    fc.property(anySet, (given) => {
      const sent = fitSet(given, profile).set;
      if (!sent.items.length) return;
      items += sent.items.length;
      const rows = choiceRows(l, sent);
      const { set: back, diagnostics } = readChoiceRows(l, rows);
      expect(diagnostics).toEqual([]);
      const withIds = rows[0]?.includes('Id') ? back : { ...back, items: back.items.map((i, n) => ({ ...i, id: sent.items[n]?.id ?? '' })) };
      const found = rehearse(playSet(withIds), sent, profile);
      expect(found.ok ? [] : found.items).toEqual([]);
    }),
    // of few sets, none may have an item that fits
    { numRuns: Math.max(40, runs(60)) },
  );
  expect(items).toBeGreaterThan(0);
});
