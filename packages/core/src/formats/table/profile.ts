/** What tables hold, by layout. */
import { gapsInOrder } from '../../fit/steps.js';
import { allHeld, everything, type HeldField, holding, type Profile, type Step } from '../../fit/profile.js';
import { trueFalseAsChoice } from '../../fit/recast.js';
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

const SHEET: readonly HeldField[] = ['points', 'timeLimit'];
/** Question, up to six options, the right ones, seconds: the sheet that game services take. */
export const choiceSheetProfile: Profile = {
  kinds: ['multiple-choice', 'multiple-response'],
  recast: { 'true-false': trueFalseAsChoice },
  holds: holding(SHEET),
  ofSet: [],
  passageInFront: true,
  scoring: ['all-or-nothing'],
  credits: 'whole',
  match: [],
  rich: false,
  pictures: false,
  most: { options: 6 },
  refuses: (item) =>
    'options' in item && item.options.filter((o) => o.credit > 0).length === 1 && item.kind === 'multiple-response'
      ? 'one right option among several to tick cannot be told from a choice there'
      : null,
};
