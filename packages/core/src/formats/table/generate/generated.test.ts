/** The reader of tables against those that the generator makes: every pair of habits once, and random ones. */
import { isDeepStrictEqual } from 'node:util';
import { item as itemSchema } from '../../../item/model.js';
import { readTables } from '../tables.js';
import { runs } from '../../../item/runs.js';
import { numbersFrom } from '../../../item/shuffle.js';
import { type GeneratedTable, pairwise, possible, put, someHabits } from './generate.js';

interface Score {
  gold: number;
  exact: number;
  silentWrongKey: number;
  misses: unknown[];
}
const { scoreDraft } = (await import(new URL('../../../../corpus/score.mjs', import.meta.url).href)) as { scoreDraft: (gold: unknown, set: unknown) => Score };

const TIMES = Number(process.env['ZAKUSKA_TIMES'] ?? 1);

/** The sum over tables, with the habits of those that are read wrong. */
function sumOf(tables: readonly GeneratedTable[]): { items: number; exact: number; silent: number; wrong: string[]; odd: unknown[] } {
  const sum = { items: 0, exact: 0, silent: 0, wrong: [] as string[], odd: [] as unknown[] };
  for (const t of tables) {
    let s: Score = { gold: t.gold.items.length, exact: 0, silentWrongKey: 0, misses: [] };
    try {
      const { set, diagnostics } = readTables([t.sheet]);
      for (const item of set.items) if (!isDeepStrictEqual(itemSchema.parse(item), item)) sum.odd.push(item);
      s = scoreDraft(t.gold, { items: set.items, diagnostics });
    } catch (e) {
      s.misses.push(String(e));
    }
    sum.items += s.gold;
    sum.exact += s.exact;
    sum.silent += s.silentWrongKey;
    if (s.exact < s.gold) sum.wrong.push(`${s.exact}/${s.gold}${s.silentWrongKey ? ` SILENT ${s.silentWrongKey}` : ''} ${Object.values(t.habits).join(' · ')}`);
  }
  return sum;
}

/** How many of these are read: all by command (`ZAKUSKA_TIMES=2` or more), half of them alone, an eighth in a run of all tests: it is the slowest. */
const part = <T>(list: readonly T[]): T[] => list.slice(0, Math.ceil(list.length * Math.min(1, Math.max(1 / 8, TIMES / 2))));

test('pairs of habits that go together are read right in at least 99 of 100 items, and no key is wrong in silence', () => {
  // the first tables hold most pairs: each takes as many new ones as it can
  const tables = part(pairwise(1)).map((h, i) => put(h, i));
  const sum = sumOf(tables);
  expect(tables.length).toBeGreaterThan(30);
  // choices are not put through the schema, which would change nothing of them
  expect(sum.odd).toEqual([]);
  expect({ silent: sum.silent, share: sum.exact / sum.items >= 0.99 ? 'enough' : sum.wrong }).toEqual({ silent: 0, share: 'enough' });
});

// a seed that nobody tuned with: the day of the run, or one that is asked for
test('tables of habits drawn at random', () => {
  const seed = Number(process.env['ZAKUSKA_SEED'] ?? 20_261_128);
  const chance = numbersFrom(seed);
  const sum = sumOf(Array.from({ length: runs(30) }, (_, i) => put(someHabits(chance), seed + i)));
  if (TIMES > 1) process.stdout.write(`${sum.exact} of ${sum.items} exact, ${sum.silent} keys wrong in silence\n${sum.wrong.join('\n')}\n`);
  expect({ silent: sum.silent, share: sum.exact / sum.items >= 0.99 ? 'enough' : sum.wrong }).toEqual({ silent: 0, share: 'enough' });
});

test('a table follows from its habits and its seed', () => {
  const habits = someHabits(numbersFrom(5));
  expect(possible(habits)).toBe(true);
  expect(put(habits, 9)).toEqual(put(habits, 9));
  expect(put(habits, 9).gold.items.length).toBeGreaterThan(2);
});
