import { readFileSync } from 'node:fs';
import { rowsOf } from './csv.js';
import { explanationsOf } from './propose.js';
test('dbg', () => {
  const sheets = process.env['SHEET']
    ? JSON.parse(readFileSync(process.env['SHEET'], 'utf8'))
    : [{ name: '', rows: rowsOf(readFileSync(process.env['CSV'] ?? '')) }];
  const out: string[] = [];
  for (const s of sheets)
    for (const e of explanationsOf(s).slice(0, Number(process.env['N'] ?? 5)))
      out.push(
        `${e.worth.toFixed(2)} rows ${e.rows.toFixed(2)} cols ${e.columns.toFixed(2)} h${e.mapping.header} ${e.mapping.layout} ${e.mapping.keyForm} ${JSON.stringify(e.mapping.separator)} ${e.mapping.truthSigns ?? ''}: ${e.mapping.columns.join(', ')}  | ${e.read.diagnostics
          .slice(0, 3)
          .map((d) => `${d.code} ${d.message}`)
          .join(' ; ')}`,
      );
  process.stdout.write(`\n${out.join('\n')}\n`);
});
