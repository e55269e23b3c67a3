/** The reader against drafts that the generator puts to paper: every pair of habits once, and random ones with slips of the hand. */
import { readDraft } from '../read.js';
import { runs, sampled } from '../../item/runs.js';
import { numbersFrom } from '../../item/shuffle.js';
import { pairwise, possible, put, someHabits, type Generated } from './generate.js';

interface Score {
  gold: number;
  exact: number;
  silentWrongKey: number;
}
const { scoreDraft } = (await import(new URL('../../../corpus/score.mjs', import.meta.url).href)) as { scoreDraft: (gold: unknown, set: unknown) => Score };

/** The sum over drafts, with the habits of those that are read wrong. */
function sumOf(drafts: readonly Generated[]): { items: number; exact: number; silent: number; wrong: string[] } {
  const sum = { items: 0, exact: 0, silent: 0, wrong: [] as string[] };
  for (const d of drafts) {
    const { set, diagnostics } = readDraft(d.text);
    const s = scoreDraft(d.gold, { items: set.items, diagnostics });
    sum.items += s.gold;
    sum.exact += s.exact;
    sum.silent += s.silentWrongKey;
    if (s.exact < s.gold) sum.wrong.push(`${s.exact}/${s.gold} ${Object.values(d.habits).join(' · ')}`);
  }
  return sum;
}

test('every pair of habits that go together is read right in at least 99 of 100 items, and no key is wrong in silence', () => {
  const all = pairwise(1).map((h, i) => put({ ...h, slip: 'none' }, i));
  const sum = sumOf(sampled(all, 0.2));
  expect(all.length).toBeGreaterThan(100);
  expect({ silent: sum.silent, share: sum.exact / sum.items >= 0.99 ? 'enough' : sum.wrong }).toEqual({ silent: 0, share: 'enough' });
});

test('slips of the hand leave at least 97 of 100 items exact, and no key wrong in silence', () => {
  const chance = numbersFrom(42);
  const sum = sumOf(Array.from({ length: runs(200) }, (_, i) => put(someHabits(chance), i)));
  expect({ silent: sum.silent, share: sum.exact / sum.items >= 0.97 ? 'enough' : sum.wrong }).toEqual({ silent: 0, share: 'enough' });
});

test('a draft follows from its seed, and says what it means', () => {
  const habits = someHabits(numbersFrom(5));
  expect(possible(habits)).toBe(true);
  expect(put(habits, 9)).toEqual(put(habits, 9));
  expect(put(habits, 9).gold.items.length).toBeGreaterThan(3);
});
