/** Tables as formats: three layouts, with commas or tabs. */
import { fitSet } from '../../fit/fit.js';
import type { Profile } from '../../fit/profile.js';
import type { QuizSet } from '../../item/model.js';
import { playSet } from '../../rehearse/play.js';
import { utf8 } from '../encoding.js';
import { type FileHead, HEAD } from '../fileHead.js';
import { fileName, type Format } from '../format.js';
import { csvText, rowsOf } from './csv.js';
import { choiceSheet, gridOf, layoutOf, optionRowsOf, type Row, template } from './grid.js';
import { choiceSheetProfile, optionRowsProfile, rowsProfile } from './profile.js';
import { isTable, readTables } from './tables.js';

/** A text is a table where its head is one; the last line of what is looked at may be cut off. */
function looksLikeTable({ bytes, text }: FileHead): boolean {
  if (!text) return false;
  const rows = rowsOf(bytes.subarray(0, HEAD));
  return isTable(bytes.length > HEAD ? rows.slice(0, -1) : rows);
}

/** What each layout holds, by its name. */
export const tableProfiles = { rows: rowsProfile, 'option-rows': optionRowsProfile, choices: choiceSheetProfile };
const table = (id: string, name: string, delimiter: ',' | '\t', profile: Profile, rows: (set: QuizSet) => Row[]): Format => ({
  id,
  name,
  extension: delimiter === ',' ? '.csv' : '.tsv',
  mediaType: delimiter === ',' ? 'text/csv' : 'text/tab-separated-values',
  tables: (bytes) => [{ name: '', rows: rowsOf(bytes) }],
  read: (bytes) => readTables([{ name: '', rows: rowsOf(bytes) }]),
  play: (bytes) => {
    const grid = rowsOf(bytes);
    return { played: playSet(readTables([{ name: '', rows: grid }]).set), profile: tableProfiles[layoutOf(grid[0] ?? []) ?? 'rows'] };
  },
  write: (set) => ({ bytes: utf8(csvText(rows(fitSet(set, profile).set), delimiter)), name: fileName(set.title, delimiter === ',' ? '.csv' : '.tsv') }),
  profile,
});

/** The rows of the registry. */
export const tableFormats: readonly Format[] = [
  {
    ...table('csv', 'Table, a row for each item', ',', rowsProfile, (set) => gridOf(set, template)),
    recognises: (file) => (/\.(csv|tsv|tab)$/i.test(file.name) ? 0.6 : looksLikeTable(file) ? 0.2 : 0),
  },
  table('csv-options', 'Table, a row for each option', ',', optionRowsProfile, optionRowsOf),
  table('csv-choices', 'Sheet of choices for a game', ',', choiceSheetProfile, (set) => gridOf(set, choiceSheet)),
  table('tsv', 'Table with tabs', '\t', rowsProfile, (set) => gridOf(set, template)),
];
