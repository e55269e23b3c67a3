/** A planted arrow upwards, a planted circle and a folder without a row are caught. */
import { forbidden } from './layers.mjs';

const rows = { words: '', items: 'words', marks: 'words items' };
const check = (files, table = rows) => forbidden(Object.entries(files), table);

test('arrows down are fine, also of tests in any direction', () => {
  expect(
    check({
      'words/a.ts': "import { x } from './b.js';",
      'items/a.ts': "import { x } from '../words/a.js';\nconst b = await import('../words/b.js');",
      'marks/deep/a.ts': "export { x } from '../../items/a.js';",
      'words/a.test.ts': "import { x } from '../marks/a.js';",
      'index.ts': "export * from './marks/a.js';",
    }),
  ).toEqual([]);
});

test.each([
  ['up', { 'words/a.ts': "import { x } from '../items/a.js';" }, 'words/a.ts (words) uses items/a.ts (items)'],
  ['up by a type', { 'items/a.ts': "import type { X } from '../marks/a.js';" }, 'items/a.ts (items) uses marks/a.ts (marks)'],
  ['to the top', { 'marks/a.ts': "import { all } from '../index.js';" }, 'marks/a.ts (marks) uses index.ts (.)'],
  ['to a test', { 'marks/a.ts': "import { any } from '../items/arbitrary.js';" }, 'marks/a.ts uses items/arbitrary.ts, which is for tests only'],
  ['without a row', { 'rooms/a.ts': '' }, 'rooms/a.ts: its folder is in no row of scripts/layers.mjs'],
])('%s', (_, files, said) => {
  expect(check(files)).toContain(said);
});

test('no circle can be written into the table', () => {
  expect(check({}, { words: 'items', items: 'words' })).toEqual(['the row “words” uses “items”, which is no row above it']);
});
