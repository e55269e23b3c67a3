/** What tables hold, by layout. */
import { gapsInOrder } from '../../fit/steps.js';
import { allHeld, everything, holding, type Profile, type Step } from '../../fit/profile.js';
import { defaultMatch } from '../../item/model.js';
import { letterOptions } from './grid.js';

/** One cell says how all typed gaps of an item are compared. */
const oneRule: Step = (item) => {
  if (item.kind !== 'cloze') return null;
  const rules = item.gaps.flatMap((g) => (g.kind === 'text' ? [g.match ?? defaultMatch] : []));
  const [first] = rules;
  if (!first || rules.every((r) => JSON.stringify(r) === JSON.stringify(first))) return null;
  return {
    item: { ...item, gaps: item.gaps.map((g) => (g.kind === 'text' ? { ...g, match: first } : g)) },
    fit: 'lost',
    brief: 'one way to compare',
    message: 'all its gaps are compared as the first one is',
  };
};

const HELD = allHeld.filter((f) => f !== 'answerFeedback' && f !== 'language');

/** The template, one row for each item. */
export const rowsProfile: Profile = {
  ...everything,
  holds: holding(HELD),
  ofSet: [],
  rich: false,
  pictures: false,
  keyless: false,
  most: { options: letterOptions },
  furtherSteps: [gapsInOrder, oneRule],
};
/** One row for each option: as many as there are. */
export const optionRowsProfile: Profile = { ...rowsProfile, most: {} };
