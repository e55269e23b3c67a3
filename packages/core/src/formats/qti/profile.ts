/** What QTI holds, by version. */
import type { Kind } from '../../item/model.js';
import { gapsInOrder, wholePoints } from '../../fit/steps.js';
import { allHeld, everything, type HeldField, holding, type Profile, type Step } from '../../fit/profile.js';
import { matchingAsChoices, orderingAsMatching, numberAsText, wordGapsApart } from '../../fit/recast.js';
import { blankAsGap } from '../blank.js';
import { isMarkup, richFromPlain, richToPlain } from '../../item/richText.js';

const GRADED = everything.kinds.filter((k) => k !== 'essay' && k !== 'information');
const ASKING = everything.kinds.filter((k) => k !== 'information');

/** The choices inside a line of text are plain text in QTI. */
const plainGapChoices: Step = (item) => {
  if (item.kind !== 'cloze' || !item.gaps.some((g) => g.kind === 'choice' && g.options.some((o) => isMarkup(o.content)))) return null;
  const gaps = item.gaps.map((g) =>
    g.kind === 'choice'
      ? { ...g, options: g.options.map((o) => ({ ...o, content: isMarkup(o.content) ? richFromPlain(richToPlain(o.content)) : o.content })) }
      : g,
  );
  return { item: { ...item, gaps }, fit: 'lost', brief: 'plain choices', message: 'the choices in its gaps become plain text there' };
};

/** Shares that never come to everything leave nothing that feedback for a right answer could show for. */
const unreachable: Step = (item) => {
  if (item.kind !== 'multiple-response' || item.scoring !== 'weights' || !item.feedback?.correct) return null;
  if (item.options.reduce((s, o) => s + Math.max(0, o.credit), 0) >= 1 - 1e-6) return null;
  const { correct: _correct, ...feedback } = item.feedback;
  return {
    item: { ...item, feedback },
    fit: 'lost',
    brief: 'never shown',
    message: 'feedback for right answers stays here, since its options never earn all points',
  };
};

/** A typed answer never takes points off. */
const noNegativeTexts: Step = (item) => {
  const cut = <T extends { credit: number }>(l: readonly T[]): T[] => l.map((a) => (a.credit < 0 ? { ...a, credit: 0 } : a));
  const message = { fit: 'lost' as const, brief: 'none below 0', message: 'nothing is taken off for wrong typed answers there' };
  if (item.kind === 'short-answer') return item.answers.some((a) => a.credit < 0) ? { ...message, item: { ...item, answers: cut(item.answers) } } : null;
  if (item.kind === 'numeric') return item.answers.some((a) => a.credit < 0) ? { ...message, item: { ...item, answers: cut(item.answers) } } : null;
  return null;
};

const NAMES: Partial<Record<HeldField, readonly Kind[]>> = {
  'feedback.correct': GRADED,
  'feedback.incorrect': GRADED,
  shuffle: ['multiple-choice', 'multiple-response', 'matching', 'ordering'],
};

/** QTI 2.1, 2.2 and 3.0. */
export const qti2Profile: Profile = {
  kinds: everything.kinds,
  holds: holding(allHeld, NAMES),
  ofSet: ['title', 'description', 'language'],
  plainDescription: true,
  scoring: ['all-or-nothing', 'per-option', 'right-minus-wrong', 'weights'],
  credits: 'any',
  match: ['caseSensitive', 'spaces'],
  rich: true,
  pictures: true,
  refuses: (item) =>
    'options' in item && item.options.length > 700
      ? 'it has more than 700 options'
      : item.kind === 'information' && !item.stem.trim()
        ? 'it has no text'
        : null,
  furtherSteps: [gapsInOrder, plainGapChoices, noNegativeTexts, unreachable],
};

/** An item that is worth nothing: only a test can say so. */
const worthOne: Step = (item) =>
  item.kind !== 'information' && item.points === 0
    ? { item: { ...item, points: 1 }, fit: 'lost', brief: '1 point', message: 'is worth a point there, since only a test can make an item worth nothing' }
    : null;

/** A package of QTI 2.1, 2.2 or 3.0 with items alone, for an item bank: what a test says of its items stays here. */
export const qti2BankProfile: Profile = {
  ...qti2Profile,
  holds: holding(
    allHeld.filter((f) => !['section.title', 'section.instructions', 'required', 'timeLimit', 'language', 'bonus'].includes(f)),
    NAMES,
  ),
  furtherSteps: [...(qti2Profile.furtherSteps ?? []), worthOne],
};

/**
 * The course LMS, which takes QTI 2.1 packages: it shows questions, choices and feedback and marks by response processing; it has no
 * pictures, hints, clocks or shuffling, and would show a learner what is meant for the person who marks.
 */
export const courseLmsProfile: Profile = {
  ...qti2Profile,
  holds: holding(
    ['points', 'title', 'feedback.correct', 'feedback.incorrect', 'feedback.general', 'optionFeedback', 'unit', 'wordBank', 'gapPoints', 'section.passage'],
    {
      'feedback.correct': GRADED,
      'feedback.incorrect': GRADED,
    },
  ),
  ofSet: ['title'],
  pictures: false,
};

/** QTI 1.2, whose metadata carries what its elements have no place for. */
export const qti12Profile: Profile = {
  ...qti2Profile,
  holds: holding(allHeld, { ...NAMES, 'feedback.general': ASKING }),
};

/** The gap that is asked for is drawn as a blank, so no other blank may stand in the text. */
const oneBlank: Step = (item) => {
  if (item.kind !== 'cloze' || !/_{3,}/.test(item.stem)) return null;
  return { item: { ...item, stem: item.stem.replace(/_{3,}/g, '…') }, fit: 'adapted', brief: 'one blank', message: 'other blanks become dots' };
};

/** A bank has no parts. */
const { 'section.title': _title, 'section.instructions': _instructions, 'section.passage': _passage, ...withoutParts } = qti12Profile.holds;
/** What an item bank of QTI 1.2 can hold: no parts. */
export const qti12BankProfile: Profile = { ...qti12Profile, holds: withoutParts, passageInFront: true };

/**
 * Common Cartridge 1.1 to 1.3: choice, several right, true/false, a word for a gap, essay. IMS Common Cartridge Profile, "Assessment",
 * from memory: no partial credit, no matching, no order, no numbers.
 */
export const cartridgeProfile: Profile = {
  kinds: ['multiple-choice', 'multiple-response', 'true-false', 'cloze', 'essay', 'short-answer'],
  recast: { ordering: orderingAsMatching, matching: matchingAsChoices, cloze: wordGapsApart, numeric: numberAsText, 'short-answer': blankAsGap },
  holds: holding(['points', 'title', 'hints', 'feedback.correct', 'feedback.incorrect', 'feedback.general', 'optionFeedback', 'modelAnswer'], {
    'feedback.correct': GRADED,
    'feedback.incorrect': GRADED,
    'feedback.general': ASKING,
  }),
  ofSet: ['title', 'description'],
  plainDescription: true,
  passageInFront: true,
  scoring: ['all-or-nothing'],
  credits: 'whole',
  match: ['caseSensitive', 'spaces'],
  rich: true,
  pictures: true,
  refuses: (item) => (item.kind === 'multiple-choice' && item.options.length < 2 ? 'a choice has at least two options there' : null),
  // the weighting of a cartridge is a whole number
  furtherSteps: [gapsInOrder, wholePoints(1, 99), oneBlank],
};
