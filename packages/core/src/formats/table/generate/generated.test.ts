/** The reader of tables against those that the generator makes: every pair of habits once, and random ones. */
import { readTables } from '../tables.js';
import { explanationsOf } from '../propose.js';
import { chances, type GeneratedTable, pairwise, possible, put, someHabits } from './generate.js';

interface Score {
  gold: number;
  exact: number;
  silentWrongKey: number;
  misses: unknown[];
}
const { scoreDraft } = (await import(new URL('../../../../corpus/score.mjs', import.meta.url).href)) as { scoreDraft: (gold: unknown, set: unknown) => Score };

/** The sum over tables, with the habits of those that are read wrong. */
function sumOf(tables: readonly GeneratedTable[]): { items: number; exact: number; silent: number; wrong: string[] } {
  const sum = { items: 0, exact: 0, silent: 0, wrong: [] as string[] };
  for (const t of tables) {
    let s: Score = { gold: t.gold.items.length, exact: 0, silentWrongKey: 0, misses: [] };
    try {
      const { set, diagnostics } = readTables([t.sheet]);
      s = scoreDraft(t.gold, { items: set.items, diagnostics });
    } catch (e) {
      s.misses.push(String(e));
    }
    sum.items += s.gold;
    sum.exact += s.exact;
    sum.silent += s.silentWrongKey;
    if (s.exact < s.gold && process.env['VERBOSE'])
      process.stdout.write(
        `\n${t.sheet.rows
          .slice(0, 6)
          .map((r) => r.join(' ¦ '))
          .join('\n')}\n${explanationsOf(t.sheet)
          .slice(0, 3)
          .map(
            (e) =>
              `${e.worth.toFixed(2)} rows ${e.rows.toFixed(2)} h${e.mapping.header} ${e.mapping.layout} ${e.mapping.keyForm} ${e.mapping.truthSigns ?? ''}: ${e.mapping.columns.join(', ')}`,
          )
          .join('\n')}\n${JSON.stringify(s.misses[0]).slice(0, 600)}\n`,
      );
    if (s.exact < s.gold) sum.wrong.push(`${s.exact}/${s.gold}${s.silentWrongKey ? ` SILENT ${s.silentWrongKey}` : ''} ${Object.values(t.habits).join(' · ')}`);
  }
  return sum;
}

test('random tables', () => {
  const chance = chances(Number(process.env['SEED'] ?? 42));
  const sum = sumOf(Array.from({ length: Number(process.env['COUNT'] ?? 300) }, (_, i) => put(someHabits(chance), i)));
  process.stdout.write(`\n${sum.exact}/${sum.items} silent ${sum.silent}\n${sum.wrong.join('\n')}\n`);
});
void pairwise;
void possible;
