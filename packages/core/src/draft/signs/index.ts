/** The table of recognisers. A new habit is a new file and a row here, or one more way in an existing one. */
import type { Line } from '../surface/lines.js';
import type { Series } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import type { TableBlock } from '../surface/tables.js';
import { W } from '../model/weights.js';
import { fields, key, more, note, setField } from './answer.js';
import { braces } from './braces.js';
import { listEntry, listHead, listMore } from './keyList.js';
import { moreOption, option } from './option.js';
import { aside, instruction, part, passage, stem, task } from './prose.js';
import { question, sub } from './question.js';
import { bank, row } from './rows.js';
import type { Recogniser, Sign, View } from './sign.js';
import { tableReading } from './tableReading.js';

/** All recognisers. Each says by itself what a line could be; the search decides. */
export const recognisers: readonly Recogniser[] = [
  braces,
  question,
  sub,
  stem,
  option,
  moreOption,
  key,
  fields,
  note,
  more,
  part,
  instruction,
  task,
  passage,
  setField,
  listHead,
  listEntry,
  listMore,
  row,
  bank,
  aside,
];

/** What a line with text could be, as all recognisers say. */
export function signsOf(v: View): Sign[] {
  const out: Sign[] = [];
  for (const r of recognisers) out.push(...r.find(v));
  return out;
}

/** Signs of a table that starts at a line. */
export function tableSigns(table: TableBlock, take: number): Sign[] {
  const r = tableReading(table);
  const base = { role: 'table' as const, at: 0, take, table };
  const out: Sign[] = [];
  if (r.use === 'questions' || r.use === 'coded' || r.use === 'bare' || r.use === 'cards')
    out.push({
      ...base,
      sort: r.use,
      weight: r.weight + table.rows.length * (r.use === 'questions' || r.use === 'coded' ? W.tableQuestion : W.tableBare),
      why: 'A table with a question in each row.',
    });
  if (r.use === 'keys') out.push({ ...base, sort: 'keys', weight: r.weight + table.rows.length * W.tableKeys, why: 'A table of keys.' });
  else if (table.sign === '|') out.push({ ...base, sort: 'keys', weight: 0, why: 'A table of keys.' });
  if (table.rows.every((x) => x.cells.length <= 4))
    out.push({ ...base, sort: 'pairs', weight: table.sign === '|' ? table.rows.length * W.tableRow : 0, why: 'A table under a question that asks to match.' });
  if (table.sign === '|') {
    out.push({ ...base, sort: 'stem', weight: W.tableTask - 2, why: 'A table inside the question.' });
    out.push({ ...base, sort: 'aside', weight: -1, why: 'A table that holds no questions.' });
  }
  return out;
}

/** The line with text at a place, with its neighbours. */
export function viewAt(units: readonly Unit[], place: number, series: Series, near = true): View {
  const u = units[place] as Unit;
  const at = (i: number): View | undefined => (near && units[i] ? viewAt(units, i, series, false) : undefined);
  return { line: u.line, facts: u.facts, place, gap: u.gap, lower: u.facts.lower && !series.allLower, before: at(place - 1), after: at(place + 1), series };
}
export type { Line };
