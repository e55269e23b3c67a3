import { chances, put, type TableHabits } from './generate/generate.js';
import { explanationsOf } from './propose.js';
import { readTables } from './tables.js';
const names = [
  'layout',
  'heads',
  'headed',
  'key',
  'sign',
  'truth',
  'title',
  'tail',
  'start',
  'number',
  'points',
  'why',
  'more',
  'keyPlace',
  'parts',
  'reasons',
  'kinds',
];
test('x', () => {
  for (const line of (process.env['H'] ?? '').split('\n').filter(Boolean)) {
    const h = Object.fromEntries(line.split(' · ').map((v, i) => [names[i], v])) as TableHabits;
    const t = put(h, 3);
    process.stdout.write(
      `\n${t.sheet.rows
        .slice(0, 7)
        .map((r) => r.join(' ¦ '))
        .join('\n')}\n${explanationsOf(t.sheet)
        .slice(0, 4)
        .map(
          (e) =>
            `${e.worth.toFixed(2)} rows ${e.rows.toFixed(2)} h${e.mapping.header} ${e.mapping.layout} ${e.mapping.keyForm} ${e.mapping.truthSigns ?? ''}: ${e.mapping.columns.join(', ')}`,
        )
        .join('\n')}\n`,
    );
    try {
      process.stdout.write(JSON.stringify(readTables([t.sheet]).diagnostics.slice(0, 2)).slice(0, 400));
    } catch (e) {
      process.stdout.write(String(e));
    }
  }
});
void chances;
