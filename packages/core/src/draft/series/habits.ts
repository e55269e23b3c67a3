/** What a first search found out about how the draft is written, in steps: only what passes a threshold changes what is read. */

/** Options without any label. */
export const BARE: ReadonlySet<string> = new Set(['bare', 'strokes', 'cells', 'truth']);

/** How many of the questions do something, in steps; each has thresholds of its own. */
export type Share = 'few' | 'some' | 'many' | 'most';

/** How the draft is written, in steps. */
export interface Habits {
  /** How many questions there are; null where the draft was read in part. */
  questions: number | null;
  /** What series of labels are worth as numbers of questions, and as labels of options, where some have them. */
  question: ReadonlyMap<string, number>;
  option: ReadonlyMap<string, number>;
  /** Series of numbers that stand in front of lines which neither ask nor are answered, where questions of another series are: clauses, steps. */
  idle: ReadonlySet<string>;
  /** How many questions have no label. */
  plain: Share;
  /** How many have options without labels, and whether those between strokes are more than a few. */
  bare: Share;
  strokes: boolean;
  /** Letters label the questions. */
  letters: boolean;
  /** Most questions with options have a key line. */
  keyed: boolean;
  /** The number of options that most questions with options have, or 0. */
  size: number;
}
