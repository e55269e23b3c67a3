/** What a person says a line is: each role, on a line that is read otherwise without it, and what becomes of the item. */
import fc from 'fast-check';
import { runs } from '../item/runs.js';
import { readDraft, type Role } from './read.js';

const ROLES: readonly Role[] = ['question', 'option', 'key', 'feedback', 'more', 'passage', 'part', 'key-list', 'aside'];
const lines = (...l: string[]): string => l.join('\n');
const FIRST = ['1. Which grain makes a dark loaf?', 'a) rye', 'b) rice'];
const SECOND = ['2. Which fat is solid?', 'a) butter', 'b) oil'];

/** A draft, the line (0-based) that is said, its role, and what is then in the set. */
const CASES: readonly [role: Role, draft: string, line: number, expected: object][] = [
  ['question', lines('Dough rises', 'in the warm?', 'a) yes, it does', 'b) no, never'), 0, { items: [{ stem: expect.stringContaining('Dough rises') }] }],
  // as a question it fits nowhere, and yet it was said
  ['question', lines(FIRST[0] ?? '', '', 'Of course!', 'a) butter', FIRST[0] ?? ''), 3, { items: [{}, { stem: expect.stringContaining('butter') }, {}] }],
  [
    'option',
    lines(FIRST[0] ?? '', 'a) rye', 'rye from the north', 'b) rice', ...SECOND),
    2,
    { items: [{ options: [{ content: 'rye' }, { content: 'rye from the north' }, { content: 'rice' }] }, { options: [{}, {}] }] },
  ],
  [
    'option',
    lines('1. Which grain makes a dark loaf?', 'rye from the north', 'a) rice', 'b) oat'),
    1,
    { items: [{ options: [{ content: 'rye from the north' }, { content: 'rice' }, { content: 'oat' }] }] },
  ],
  [
    'key',
    lines(...FIRST, 'a, as everybody knows', '', ...SECOND),
    3,
    { items: [{ options: [{ credit: 1 }, { credit: 0 }] }, { options: [{ content: 'butter' }, {}] }] },
  ],
  ['feedback', lines(...FIRST, 'Rye is dark.', '', ...SECOND), 3, { items: [{ feedback: { general: 'Rye is dark.' } }, {}] }],
  ['more', lines(...FIRST, 'c) not rice', ...SECOND), 3, { items: [{ options: [{ content: 'rye' }, { content: expect.stringContaining('not rice') }] }, {}] }],
  [
    'passage',
    lines('A starter is alive. It wants flour and water each day.', '', ...FIRST),
    0,
    { sections: [{ passage: expect.stringContaining('A starter is alive.') }], items: [{ options: [{ content: 'rye' }, {}] }] },
  ],
  ['part', lines('Grains of the north', ...FIRST), 0, { sections: [{ title: 'Grains of the north' }], items: [{}] }],
  ['key-list', lines(...FIRST, ...SECOND, '1a 2b'), 6, { items: [{ options: [{ credit: 1 }, { credit: 0 }] }, { options: [{ credit: 0 }, { credit: 1 }] }] }],
  ['aside', lines(...FIRST, 'c) page two of three', ...SECOND), 3, { items: [{ options: [{ content: 'rye' }, { content: 'rice' }] }, {}] }],
];
test.each(CASES)('%s', (role, draft, line, expected) => {
  const { set, roles } = readDraft(draft, { overrides: new Map([[line, role]]) });
  // what goes on from above is shown as what it goes on from
  expect(roles[line]?.role).toBe(role === 'more' ? 'option' : role);
  expect(set).toMatchObject(expected);
});
test('feedback in two lines, each said, is one feedback; none of it goes to the key', () => {
  const draft = lines(...FIRST, 'Answer: a', 'Rye is dark', 'and rice is not.', ...SECOND);
  const { set, roles } = readDraft(draft, { overrides: new Map([4, 5].map((l) => [l, 'feedback' as const])) });
  expect(roles.slice(3, 6).map((r) => r.role)).toEqual(['key', 'feedback', 'feedback']);
  expect(set.items[0]).toMatchObject({
    options: [{ credit: 1 }, { credit: 0 }],
    feedback: { general: expect.stringMatching(/^Rye is dark\s+and rice is not\.$/) },
  });
});
test('every role is tried', () => expect(new Set(CASES.map(([role]) => role))).toEqual(new Set(ROLES)));

const line = fc.constantFrom(
  ...FIRST,
  ...SECOND,
  'Answer: a',
  'Because it is dark.',
  'Part two',
  '3. Salt slows yeast. True or false?',
  '___ feeds a starter.',
  '1a 2b',
  'Of course!',
  '',
);
/** As what else a line may be shown; what belongs to a question is set aside where none stands above. */
const ALSO: Readonly<Partial<Record<Role, Role>>> = {
  // asked in parts
  question: 'passage',
  // a heading inside a list of keys
  part: 'key-list',
  option: 'aside',
  key: 'aside',
  feedback: 'aside',
  'key-list': 'aside',
};
test('whatever is said of whichever line: it is that or set aside, and every item stands on words', () => {
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 14 }), fc.nat(), fc.constantFrom(...ROLES), (all, at, role) => {
      const draft = lines(...all);
      const where = at % all.length;
      const { roles, set } = readDraft(draft, { overrides: new Map([[where, role]]) });
      expect(roles).toHaveLength(all.length);
      if (all[where] && role !== 'more') expect([role, ALSO[role]]).toContain(roles[where]?.role);
      for (const i of set.items) expect(i.source && draft.slice(i.source.from, i.source.to).length).toBeGreaterThan(0);
    }),
    { numRuns: runs(200) },
  );
});
