import type { Kind } from '../../item/model.js';

/** What an explanation of a table is worth: every weight of the proposal, by name. Set by hand on generated tables; rows count in the mean, columns in sum. */
export const W = {
  // ── rows, per row of the sample ──
  /** The mean over the rows counts so much against the sum over the columns. */
  rows: 2,
  /** An item of each kind with its key; of an open question nothing in the row is left over. */
  kinds: {
    'multiple-choice': 1.5,
    'multiple-response': 1.5,
    'true-false': 1.25,
    numeric: 1.1,
    'short-answer': 0.85,
    cloze: 1.2,
    matching: 1.3,
    ordering: 1.2,
    essay: 0.3,
    information: 0.2,
  } satisfies Record<Kind, number>,
  /** A choice that nothing keys. */
  choiceBare: 0.1,
  /** A key that names no option, a gap without its answer, two right options of one. */
  keyWrong: -1,
  keyMissing: -0.3,
  duplicate: -0.8,
  single: -1,
  /** Kind or points named by something that is none. */
  fieldWrong: -0.5,
  stemAsks: 0.4,
  stemWords: 0.25,
  stemNone: -1.5,
  /** A question that stands twice: rows of one item read as several. */
  stemAgain: -2,
  optionAsks: -0.4,
  /** Options that are letters, ticks and the like. */
  optionSigns: -0.8,
  /** A row that should give an item, and gives none. */
  rowLost: -1,

  // ── columns ──
  /** A heading that says the use first, further, by a word of it. */
  heading: [0, 0.3, 0.6, 1],
  /** A heading that says another use and not this one. */
  headingOther: -0.8,
  headingUnknown: -0.05,
  /** A filled column that is not used: shares of it that are filled, more where it holds sentences. */
  unused: -0.15,
  unusedText: -0.3,
  /** Its heading says what it is, and it is not used. */
  unusedSaid: -1,
  /** A column beside the options that is like them and none. */
  likeOption: -0.5,
  /** A column of options in which one sign stands here and there, and nothing else: taken off. */
  oneSign: 3,
  /** A column headed as an option that is none, where others are. */
  optionLeft: -1.5,
  /** A row of headings without a word that is known. */
  headUnknown: -0.15,
  headKnown: 0.3,
  /** A full row above the headings, which would be lost; up to three. */
  headSkips: -0.6,
  /** Layouts other than a row an item. */
  grouped: -0.1,
  below: -0.2,
  packed: -0.15,
  /** Words in the title or a heading that say that the first option is right. */
  firstSaid: 1.5,
  /** Keys by numbers from 0. */
  fromZero: -0.15,
  /** The second explanation is a doubt where it is worth so much less at most, and keys other options. */
  doubt: 0.35,
  /** A use is sure where no other explanation of other items comes nearer than this. */
  sure: 1.5,
} as const;
