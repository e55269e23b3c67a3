/** The layouts of tables that are written here and known again by their headings, whatever file they stand in. */
import type { Profile } from '../../fit/profile.js';
import type { QuizSet, ReadResult } from '../../item/model.js';
import { choiceProfile, choiceRows, hasChoiceLayout, readChoiceRows } from './choiceLayouts.js';
import { gridOf, layoutOf, optionRowsOf, type Row, setOf, template } from './grid.js';
import { choiceLayouts, layoutNames } from './layoutTable.js';
import { optionRowsProfile, rowsProfile } from './profile.js';

/** A layout: what it holds, how a set that fits is written, how rows are known and read again. */
export interface OwnLayout {
  /** As in `layoutNames`. */
  id: string;
  name: string;
  /** The columns, for a sheet that explains them. */
  columns: readonly { heading: string; about: string }[];
  profile: Profile;
  rows(set: QuizSet): Row[];
  /** @param headings the cells of the first row that holds any */
  isOf(headings: readonly string[]): boolean;
  read(rows: readonly (readonly string[])[]): ReadResult;
}

type Way = Omit<OwnLayout, 'name'>;
/** How each layout is written and read. */
const WAYS: readonly Way[] = [
  {
    id: '',
    columns: template,
    profile: rowsProfile,
    rows: (set) => gridOf(set, template),
    isOf: (h) => layoutOf(h) === 'rows',
    read: setOf,
  },
  {
    id: 'options',
    columns: template,
    profile: optionRowsProfile,
    rows: optionRowsOf,
    isOf: (h) => layoutOf(h) === 'option-rows',
    read: setOf,
  },
  ...choiceLayouts.map(
    (l): Way => ({
      id: l.id,
      columns: l.columns,
      profile: choiceProfile(l),
      rows: (set) => choiceRows(l, set),
      isOf: (h) => hasChoiceLayout(l, h),
      read: (rows) => readChoiceRows(l, rows),
    }),
  ),
];

/** All layouts, the usual one first. */
export const ownLayouts: readonly OwnLayout[] = WAYS.map((way) => ({ ...way, name: layoutNames.find((n) => n.id === way.id)?.name ?? way.id }));

/** The layout of a table, by its headings; undefined where it is none of ours. */
export const ownLayout = (headings: readonly string[]): OwnLayout | undefined => ownLayouts.find((l) => l.isOf(headings));
