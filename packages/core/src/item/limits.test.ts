import { withinModel } from './limits.js';
import { readSetFile, writeSetFile } from './setFile.js';
import type { Item, QuizSet } from './model.js';

const choice = (more: object): Item =>
  ({
    id: 'a',
    kind: 'multiple-choice',
    stem: 'What feeds it?',
    points: 1,
    options: [
      { id: 'x', content: 'flour', credit: 1 },
      { id: 'y', content: 'salt', credit: 0 },
    ],
    ...more,
  }) as Item;
const read = (set: Partial<QuizSet>): ReturnType<typeof withinModel> =>
  withinModel({ set: { title: 'Bread', items: [], ...set }, diagnostics: [], asides: [] });

test('what is within the model stays the very same', () => {
  const result = { set: { title: 'Bread', items: [choice({})] }, diagnostics: [], asides: [] };
  expect(withinModel(result)).toBe(result);
});

test.each([
  [
    'a credit above all',
    { options: [{ id: 'x', content: 'flour', credit: 3.33 }] },
    { options: [{ credit: 1 }] },
    /credit of option 1 is 3.33 in the file, and 1 here/,
  ],
  ['a credit below', { options: [{ id: 'x', content: 'flour', credit: -4 }] }, { options: [{ credit: -1 }] }, /is -4 in the file, and -1 here/],
  ['points below nothing', { points: -2 }, { points: 0 }, /points is -2/],
  ['a language that is a sentence', { language: 'the language that this item is in: German' }, { stem: 'What feeds it?' }, /language was left out/],
  ['no time at all', { timeLimit: 0 }, { stem: 'What feeds it?' }, /timeLimit was left out/],
])('%s is brought within and told', (_, more, after, message) => {
  const { set, diagnostics } = read({ items: [choice(more)] });
  expect(set.items[0]).toMatchObject(after);
  expect(diagnostics).toEqual([expect.objectContaining({ severity: 'warning', item: 'a', message: expect.stringMatching(message) })]);
  expect(readSetFile(writeSetFile(set)).set.items).toHaveLength(1);
});

test('an id that stands twice stays with the first; the others come out the same each time and all go into a set file', () => {
  const three = { items: [choice({}), choice({ stem: 'Again' }), choice({ id: 'b' }), choice({ stem: 'A third time' })] };
  const { set, diagnostics } = read(three);
  expect(diagnostics).toEqual([]);
  expect(set.items.map((i) => i.id)).toEqual(['a', expect.not.stringMatching(/^[ab]$/), 'b', expect.not.stringMatching(/^[ab]$/)]);
  expect(set.items.map((i) => i.stem)).toEqual(three.items.map((i) => i.stem));
  expect(read(three).set.items.map((i) => i.id)).toEqual(set.items.map((i) => i.id));
  expect(readSetFile(writeSetFile(set)).set.items).toHaveLength(4);
});

test('ids that are too long become short ones, the same wherever they stand, and nobody needs to know', () => {
  const long = 'p'.repeat(300);
  const { set, diagnostics } = read({
    sections: [{ id: long, title: 'Money' }],
    items: [choice({ id: 'q'.repeat(300), section: long }), choice({ section: long })],
  });
  expect(diagnostics).toEqual([]);
  expect(set.sections?.[0]?.id.length).toBeLessThan(200);
  expect(set.items.map((i) => i.section)).toEqual([set.sections?.[0]?.id, set.sections?.[0]?.id]);
});

test('what cannot be brought within is left out and told; the rest comes in', () => {
  const { set, diagnostics } = read({ items: [{ id: 'b', kind: 'riddle' } as unknown as Item, choice({})] });
  expect(set.items.map((i) => i.id)).toEqual(['a']);
  expect(diagnostics).toEqual([expect.objectContaining({ code: 'limit-passed', severity: 'error', message: expect.stringMatching(/^Item 1 was left out/) })]);
});
