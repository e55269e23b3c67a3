/** What an item of a QTI file shows and how it is scored, in terms that all versions share. */
import type { Item, Section } from '../../item/model.js';
import type { Scorer } from './scoring.js';

/** Something to choose, with the identifier that stands for it in responses. */
export interface Choice {
  identifier: string;
  content: string;
  pinned?: boolean;
  /** A text inside the option that shows when it is chosen. */
  feedback?: string;
}

/** One thing to answer. */
export type Interaction =
  | {
      type: 'choice';
      variable: string;
      several: boolean;
      options: Choice[];
      shuffle?: boolean;
      /** How many may be chosen, where it is limited. */
      most?: number;
    }
  /** A text or number to type. */
  | { type: 'typed'; variable: string; number: boolean }
  /** A choice inside a line of text. */
  | { type: 'gap'; variable: string; options: Choice[] }
  | { type: 'extended'; variable: string; lines?: number }
  | { type: 'order'; variable: string; options: Choice[]; shuffle?: boolean }
  /** Rows to which one of several options belongs; `answer` says how choosing it is handed in. */
  | {
      type: 'match';
      rows: { content: string; options: Choice[] }[];
      answer(row: number, option: Choice): [variable: string, value: string];
      shuffle?: boolean;
    };

/** An item of a file: what it shows, what it asks for, and how it scores. */
export interface AssessmentItem {
  identifier: string;
  line: number;
  title?: string;
  language?: string;
  /** With `[[1]]`, `[[2]]` … where the parts stand, if they stand in the text. */
  stem: string;
  inline: boolean;
  /** Written by this program: nothing has to be guessed. */
  exact?: boolean;
  /** The score that stands for all points, where the file is known to say so. */
  fullScore?: number;
  parts: Interaction[];
  /** Text ahead of the question that may be shared with its neighbours. */
  passage?: string;
  scorer: Scorer;
  /** Points that the file states; null where only the rules tell. */
  points: number | null;
  /** Whether scores are of a scale of their own (per cent) and `points` says what the maximum is worth. */
  scaled: boolean;
  feedback: ReadonlyMap<string, string>;
  /** Fields that are the same whatever the kind. */
  more: Partial<Pick<Item, 'label' | 'hints' | 'tags' | 'outcomes' | 'level' | 'timeLimit' | 'required' | 'bonus'>> & {
    modelAnswer?: string;
    rubric?: string;
    wordBank?: string[];
    unit?: string;
    /** Fields of the model that the file states in metadata, for kinds that show nothing of it. */
    shuffle?: boolean;
  };
  /** Whether the file makes question and key anew for each learner: what is declared is no key then. */
  drawn?: boolean;
  /** What the model has no kind for. */
  unsupported?: string;
  /** It is one of several things that an item of the file asks; `together`: the file gives points for all of them only. */
  apart?: { at: number; of: number; together: boolean };
}

/** Items of one file or package with the parts that they stand in. */
export interface AskedSet {
  title?: string;
  language?: string;
  items: { asked: AssessmentItem; section?: Section; weight?: number; path: string }[];
}

/** An item that was read, with what it was read from. */
export interface PlacedItem {
  item: Item;
  asked: AssessmentItem;
  /** What it counts in its test. */
  weight: number;
  /** The score that earns all of its points. */
  full: number;
  /** How many times the test of its package asks it; undefined where there is no test. */
  delivered?: number;
}
