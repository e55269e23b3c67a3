/** Tables as formats: a format for each layout. */
import { fitSet } from '../../fit/fit.js';
import { playSet } from '../../rehearse/play.js';
import { utf8 } from '../encoding.js';
import { type FileHead, HEAD } from '../fileHead.js';
import { fileName, type Format } from '../format.js';
import { csvText, rowsOf } from './csv.js';
import { type OwnLayout, ownLayout, ownLayouts } from './layouts.js';
import { layoutFormat } from './layoutTable.js';
import { isTable, readTables } from './tables.js';

/** A text is a table where its head is one; the last line of what is looked at may be cut off. */
function looksLikeTable({ bytes, text }: FileHead): boolean {
  if (!text) return false;
  const rows = rowsOf(bytes.subarray(0, HEAD));
  return isTable(bytes.length > HEAD ? rows.slice(0, -1) : rows);
}

const table = ({ id, name, profile, rows }: OwnLayout, delimiter: ',' | '\t'): Format => ({
  id: layoutFormat(delimiter === ',' ? 'csv' : 'tsv', id),
  name: delimiter === ',' ? `Table, ${name}` : 'Table with tabs',
  extension: delimiter === ',' ? '.csv' : '.tsv',
  mediaType: delimiter === ',' ? 'text/csv' : 'text/tab-separated-values',
  tables: (bytes) => [{ name: '', rows: rowsOf(bytes) }],
  read: (bytes) => readTables([{ name: '', rows: rowsOf(bytes) }]),
  play: (bytes) => {
    const grid = rowsOf(bytes);
    return { played: playSet(readTables([{ name: '', rows: grid }]).set), profile: ownLayout(grid[0] ?? [])?.profile ?? profile };
  },
  write: (set) => ({ bytes: utf8(csvText(rows(fitSet(set, profile).set), delimiter)), name: fileName(set.title, delimiter === ',' ? '.csv' : '.tsv') }),
  profile,
});

const [usual, ...others] = ownLayouts as [OwnLayout, ...OwnLayout[]];
/** The rows of the registry: every layout with commas, the usual one with tabs too. */
export const tableFormats: readonly Format[] = [
  {
    ...table(usual, ','),
    recognises: (file) => (/\.(csv|tsv|tab)$/i.test(file.name) ? 0.6 : looksLikeTable(file) ? 0.2 : 0),
  },
  ...others.map((layout) => table(layout, ',')),
  table(usual, '\t'),
];
