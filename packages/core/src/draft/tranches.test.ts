/**
 * The reader against 228 drafts that were not written here, in twelve groups by where they come from (packages/core/corpus/tranches),
 * compared by the program that came with them. Each group was scored once before anybody looked into it (docs/reading.md has those
 * figures); what stands here are floors for what was learnt since, so that a change cannot lose it unseen.
 */
import { readFileSync, readdirSync } from 'node:fs';
import { decodeText } from '../formats/encoding.js';
import { readDraft } from './read.js';

interface Score {
  gold: number;
  exact: number;
  silentWrongKey: number;
  falseAlarms: string[];
}
const folder = new URL('../../corpus/', import.meta.url);
const { scoreDraft } = (await import(new URL('score.mjs', folder).href)) as { scoreDraft: (gold: unknown, set: unknown) => Score };

/** Exact items in percent, silent wrong keys, false alarms. */
const floors: readonly (readonly [group: number, exact: number, silent: number, alarms: number])[] = [
  [1, 99, 0, 0],
  [2, 99, 0, 1],
  [3, 99, 0, 2],
  [4, 99, 0, 7],
  [5, 99, 0, 3],
  [6, 98, 0, 9],
  [7, 98, 0, 6],
  [8, 100, 0, 1],
  [9, 100, 0, 0],
  [10, 99, 0, 2],
  [11, 99, 0, 1],
  [12, 100, 0, 1],
];

test.each(floors)('group %i: %f %% exact, at most %i silent wrong keys and %i false alarms', (group, exact, silent, alarms) => {
  const at = new URL(`tranches/${group}/`, folder);
  const sum = { gold: 0, exact: 0, silent: 0, alarms: 0 };
  for (const file of readdirSync(at).filter((f) => f.endsWith('.txt'))) {
    const gold = JSON.parse(readFileSync(new URL(file.replace('.txt', '.gold.json'), at), 'utf8')) as unknown;
    const { set, diagnostics } = readDraft(decodeText(readFileSync(new URL(file, at))));
    const s = scoreDraft(gold, { items: set.items, diagnostics });
    sum.gold += s.gold;
    sum.exact += s.exact;
    sum.silent += s.silentWrongKey;
    sum.alarms += s.falseAlarms.length;
  }
  expect((100 * sum.exact) / sum.gold).toBeGreaterThanOrEqual(exact);
  expect(sum.silent).toBeLessThanOrEqual(silent);
  expect(sum.alarms).toBeLessThanOrEqual(alarms);
});
