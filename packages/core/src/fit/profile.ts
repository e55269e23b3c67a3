/** What a destination can hold, as data. `fit` (fit.ts) makes every item so, and says what that changes. */
import type { Item, Kind, MatchRule, QuizSet, Scoring } from '../item/model.js';
import type { Recast } from './recast.js';

/** Fields that a destination may have no place for. */
export type HeldField =
  | 'points'
  | 'label'
  | 'title'
  | 'hints'
  | 'tags'
  | 'outcomes'
  | 'level'
  | 'bonus'
  | 'required'
  | 'shuffle'
  | 'timeLimit'
  | 'language'
  | 'feedback.correct'
  | 'feedback.incorrect'
  | 'feedback.general'
  | 'optionFeedback'
  | 'answerFeedback'
  | 'pinned'
  | 'unit'
  | 'wordBank'
  | 'gapPoints'
  | 'modelAnswer'
  | 'rubric'
  | 'lines'
  | 'section.title'
  | 'section.instructions'
  | 'section.passage';

/** The fields of a set that a destination may have no place for. */
export type SetField = 'title' | 'description' | 'language' | 'translations';

/** How one thing about an item is changed on the way; null where there is nothing to change. */
export interface Change {
  item: Item;
  fit: 'adapted' | 'lost';
  /** In a few words, for a cell of the table. */
  brief: string;
  /** What happens there, as a clause that follows the item's name. */
  message: string;
  /** Nothing that a learner sees or that changes a mark: notes of the teacher's own. */
  minor?: boolean;
  /** Said although nothing of the item changes: how importers of it may differ. */
  told?: true;
}
/** A change that a destination asks for; null where the item needs none. Steps are tried in order, each on what the one before gave. */
export type Step = (item: Item, set: QuizSet, profile: Profile) => Change | null;

/** What a destination can hold. */
export interface Profile {
  /** Kinds that it has itself. */
  kinds: readonly Kind[];
  /** What an item of another kind can be said as; a kind that is in neither stays behind. */
  recast?: Partial<Record<Kind, Recast>>;
  /** Fields that it has a place for: for all kinds, or for some. */
  holds: Partial<Record<HeldField, true | readonly Kind[]>>;
  /** Fields of the set itself that it has a place for; all of them where nothing is said. */
  ofSet?: readonly SetField[];
  /** Whether the description of the set goes as plain words. */
  plainDescription?: boolean;
  /** Whether a passage, for which there is no place, goes in front of each of its questions. */
  passageInFront?: boolean;
  /** Its ways of scoring several right options; what is scored otherwise becomes the first. None: all or nothing. */
  scoring?: readonly Scoring[];
  /** Credits that an option or answer may have: any, none below nothing, or only all and nothing. */
  credits?: 'any' | 'positive' | 'whole';
  /** Parts of the matching rule of typed answers that it can be told. The others count strictly there; capital letters do not count. */
  match?: readonly (keyof MatchRule)[];
  /** Whether texts keep bold, lists, tables; else their words alone go. */
  rich: boolean;
  /** Whether pictures go along; apart: one behind the question, and one behind each option; question: one behind the question only. */
  pictures: boolean | 'apart' | 'question';
  /** Most options of an item, and most characters of the question and of an option. */
  most?: { options?: number; question?: number; option?: number };
  /** Why an item cannot go all the same; null where it can. */
  refuses?: (item: Item) => string | null;
  /** Whether items without a key may go. */
  keyless?: boolean;
  /** What only this destination asks for, in this order, ahead of all else. */
  furtherSteps?: readonly Step[];
}

/** All fields that there are. */
export const allHeld: readonly HeldField[] = [
  'points',
  'label',
  'title',
  'hints',
  'tags',
  'outcomes',
  'level',
  'bonus',
  'required',
  'shuffle',
  'timeLimit',
  'language',
  'feedback.correct',
  'feedback.incorrect',
  'feedback.general',
  'optionFeedback',
  'answerFeedback',
  'pinned',
  'unit',
  'wordBank',
  'gapPoints',
  'modelAnswer',
  'rubric',
  'lines',
  'section.title',
  'section.instructions',
  'section.passage',
];
/** Fields as a profile's `holds`: each for all kinds, but for those in `except`. */
export const holding = (fields: readonly HeldField[], except: Partial<Record<HeldField, readonly Kind[]>> = {}): Profile['holds'] => ({
  ...Object.fromEntries(fields.map((f) => [f, true as const])),
  ...except,
});

/** Whether a destination holds a field of items of a kind. */
export const holds = (profile: Profile, field: HeldField, kind: Kind): boolean => {
  const h = profile.holds[field];
  return h === true || (h?.includes(kind) ?? false);
};

/** Holds every item as it is, with or without a key. */
export const everything: Profile = {
  kinds: ['multiple-choice', 'multiple-response', 'true-false', 'short-answer', 'numeric', 'cloze', 'matching', 'ordering', 'essay', 'information'],
  holds: holding(allHeld),
  scoring: ['all-or-nothing', 'per-option', 'right-minus-wrong', 'weights'],
  match: ['caseSensitive', 'spaces', 'punctuation', 'accents', 'numbersAsValues', 'anyOrder', 'spelling'],
  rich: true,
  pictures: true,
  keyless: true,
};
