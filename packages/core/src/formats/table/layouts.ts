/** The layouts of tables that are written here and known again by their headings, whatever file they stand in. */
import type { Profile } from '../../fit/profile.js';
import type { QuizSet, ReadResult } from '../../item/model.js';
import { choiceLayouts, choiceProfile, choiceRows, hasChoiceLayout, readChoiceRows } from './choiceLayouts.js';
import { gridOf, layoutOf, optionRowsOf, type Row, setOf, template } from './grid.js';
import { optionRowsProfile, rowsProfile } from './profile.js';

/** A layout: what it holds, how a set that fits is written, how rows are known and read again. */
export interface OwnLayout {
  /** '' for the usual one; the others name their formats by it (csv-options). */
  id: string;
  /** Behind "Table, " or "Spreadsheet, ". */
  name: string;
  /** The columns, for a sheet that explains them. */
  columns: readonly { heading: string; about: string }[];
  profile: Profile;
  rows(set: QuizSet): Row[];
  /** @param headings the cells of the first row that holds any */
  isOf(headings: Row): boolean;
  read(rows: readonly Row[]): ReadResult;
}

/** All layouts, the usual one first. */
export const ownLayouts: readonly OwnLayout[] = [
  {
    id: '',
    name: 'a row for each item',
    columns: template,
    profile: rowsProfile,
    rows: (set) => gridOf(set, template),
    isOf: (h) => layoutOf(h) === 'rows',
    read: setOf,
  },
  {
    id: 'options',
    name: 'a row for each option',
    columns: template,
    profile: optionRowsProfile,
    rows: optionRowsOf,
    isOf: (h) => layoutOf(h) === 'option-rows',
    read: setOf,
  },
  ...choiceLayouts.map(
    (l): OwnLayout => ({
      id: l.id,
      name: `sheet of ${l.name}`,
      columns: l.columns,
      profile: choiceProfile(l),
      rows: (set) => choiceRows(l, set),
      isOf: (h) => hasChoiceLayout(l, h),
      read: (rows) => readChoiceRows(l, rows),
    }),
  ),
];

/** The layout of a table, by its headings; undefined where it is none of ours. */
export const ownLayout = (headings: Row): OwnLayout | undefined => ownLayouts.find((l) => l.isOf(headings));
