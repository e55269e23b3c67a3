/** The reader against drafts and readings that were not written here (packages/core/corpus), compared by the program that came with them. */
import { readFileSync, readdirSync } from 'node:fs';
import { coreFormats } from '../formats/index.js';
import { readDraft } from './read.js';

interface Score {
  gold: number;
  read: number;
  exact: number;
  silentWrongKey: number;
  missed: string[];
  falseAlarms: string[];
  misses: unknown[];
}
const folder = new URL('../../corpus/', import.meta.url);
const { scoreDraft } = (await import(new URL('score.mjs', folder).href)) as { scoreDraft: (gold: unknown, set: unknown) => Score };
const names = readdirSync(folder)
  .filter((f) => f.endsWith('.gold.json'))
  .map((f) => f.replace('.gold.json', ''));

test.each(names)('%s', (name) => {
  const gold = JSON.parse(readFileSync(new URL(`${name}.gold.json`, folder), 'utf8')) as unknown;
  const { set, diagnostics } = readDraft(readFileSync(new URL(`${name}.txt`, folder), 'utf8'));
  const s = scoreDraft(gold, { items: set.items, diagnostics });
  expect(s).toMatchObject({ read: s.gold, exact: s.gold, silentWrongKey: 0, missed: [], falseAlarms: [], misses: [] });
});

// Files as other programs write them: QTI 1.2 to 3.0, packages and cartridges.
const files = readdirSync(new URL('files/', folder));
test.each(files.filter((f) => !f.endsWith('.json')))('%s', async (file) => {
  const gold = JSON.parse(readFileSync(new URL(`files/${file.replace(/\.\w+$/, '')}.gold.json`, folder), 'utf8')) as unknown;
  const { set, diagnostics } = await coreFormats.read(new Uint8Array(readFileSync(new URL(`files/${file}`, folder))), file);
  const s = scoreDraft(gold, { items: set.items, diagnostics });
  expect(s).toMatchObject({ read: s.gold, exact: s.gold, silentWrongKey: 0, missed: [], falseAlarms: [], misses: [] });
});
