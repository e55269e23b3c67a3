/** Drafts with habits of their own, each with what a careful typist takes it to mean (drafts.txt). All content is made up. */
import { readFileSync } from 'node:fs';
import { brief } from './brief.js';
import { readDraft } from './read.js';

interface Case {
  habit: string;
  draft: string;
  readings: string;
}
const cases: Case[] = readFileSync(new URL('./drafts.txt', import.meta.url), 'utf8')
  .split(/^=== /m)
  .slice(1)
  .map((text) => {
    const [habit = ''] = text.split('\n', 1);
    const [draft = '', readings = ''] = text.slice(habit.length + 1).split(/^--- read as\n/m);
    return { habit, draft: draft.trimEnd(), readings: readings.trim() };
  });

test('there are cases', () => expect(cases.length).toBeGreaterThan(60));

test.each(cases.map((c) => [c.habit, c] as const))('%s', (_, c) => {
  const { set, diagnostics } = readDraft(c.draft);
  const place = new Map(set.items.map((i, n) => [i.id, n + 1]));
  const doubts = diagnostics.filter((d) => d.severity !== 'info').map((d) => `${d.code}@${place.get(d.item ?? '') ?? 0}`);
  const read = [...set.items.map(brief), ...(doubts.length ? [`! ${doubts.join(' ')}`] : [])].join('\n');
  expect(read).toBe(c.readings);
});
