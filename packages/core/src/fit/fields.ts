/** The table of fields that a destination may have no place for: how each is told, and the item without it. */
import type { Gap, Item, NumberAnswer, Option, QuizSet, TextAnswer } from '../item/model.js';
import { sectionOf } from '../item/sameness.js';
import type { HeldField } from './profile.js';

/** How it is told that an item has a field, the item without it, and the words for that loss. */
export interface FieldRow {
  has(item: Item, set: QuizSet): boolean;
  without(item: Item): Item;
  brief: string;
  message: string | ((item: Item) => string);
  minor?: true;
}
const minor = (row: FieldRow): FieldRow => ({ ...row, minor: true });
/** An item without one of its fields. */
export const drop =
  (name: keyof Item) =>
  (item: Item): Item => {
    const { [name]: _dropped, ...rest } = item;
    return rest as Item;
  };
const some = (name: 'title' | 'label' | 'timeLimit' | 'language' | 'required' | 'shuffle' | 'bonus', brief: string, message: string): FieldRow => ({
  has: (i) => i[name] !== undefined,
  without: drop(name),
  brief,
  message,
});
const list = (name: 'hints' | 'tags' | 'outcomes', brief: string, message: string): FieldRow => ({
  has: (i) => !!i[name]?.length,
  without: drop(name),
  brief,
  message,
});
const own = (name: string, brief: string, message: FieldRow['message']): FieldRow => ({
  has: (i) => name in i && (i as unknown as Record<string, unknown>)[name] !== undefined,
  without: drop(name as keyof Item),
  brief,
  message,
});
const said = (which: 'correct' | 'incorrect' | 'general', brief: string, message: string): FieldRow => ({
  has: (i) => !!i.feedback?.[which],
  without: (i) => {
    const { [which]: _dropped, ...feedback } = i.feedback ?? {};
    const { feedback: _whole, ...rest } = i;
    return (Object.keys(feedback).length ? { ...rest, feedback } : rest) as Item;
  },
  brief,
  message,
});
const answersOf = (item: Item): readonly { feedback?: string | undefined }[] =>
  item.kind === 'short-answer' || item.kind === 'numeric'
    ? item.answers
    : item.kind === 'cloze'
      ? item.gaps.flatMap((g): { feedback?: string | undefined }[] => (g.kind === 'choice' ? g.options : g.answers))
      : [];
const silent = <T extends { feedback?: string | undefined }>(list_: readonly T[]): T[] => list_.map(({ feedback: _f, ...rest }) => rest as unknown as T);
/** The options of a choice; none of any other kind. */
export const options = (item: Item): readonly Option[] => (item.kind === 'multiple-choice' || item.kind === 'multiple-response' ? item.options : []);
/** An item with each of its gaps changed; others stay as they are. */
export const mapGaps = (item: Item, f: (g: Gap) => Gap): Item => (item.kind === 'cloze' ? { ...item, gaps: item.gaps.map(f) } : item);
const ofSection = (name: 'title' | 'instructions' | 'passage', brief: string, message: string): FieldRow => ({
  has: (i, set) => !!sectionOf(i, set)?.[name],
  // the section is cut down for all its items together, in `fitSet`
  without: (i) => i,
  brief,
  message,
});

const FIELDS: Record<HeldField, FieldRow> = {
  points: {
    has: (i) => i.points !== 1 && i.kind !== 'information',
    without: (i) => ({ ...i, points: 1 }),
    brief: 'no points',
    message: (i) => `its ${i.points} points stay here and have to be set again there`,
  },
  label: minor(some('label', 'no number', 'its own number stays here')),
  title: minor(some('title', 'no title', 'its title stays here')),
  hints: list('hints', 'no hints', 'hints stay here'),
  tags: minor(list('tags', 'no tags', 'tags stay here')),
  outcomes: minor(list('outcomes', 'no outcomes', 'outcomes stay here')),
  level: minor(own('level', 'no level', 'its level stays here')),
  bonus: some('bonus', 'no bonus', 'counts as a plain item there, not as a bonus'),
  required: some('required', 'as set there', 'whether it must be answered is set there'),
  shuffle: some('shuffle', 'order as here', 'is not shuffled there'),
  timeLimit: some('timeLimit', 'no time limit', 'the time limit stays here'),
  language: some('language', 'no own language', 'that it is in another language than the set is not known there'),
  'feedback.correct': said('correct', 'no feedback', 'feedback for right answers stays here'),
  'feedback.incorrect': said('incorrect', 'no feedback', 'feedback for wrong answers stays here'),
  'feedback.general': said('general', 'no feedback', 'feedback stays here'),
  optionFeedback: {
    has: (i) => options(i).some((o) => o.feedback) || (i.kind === 'true-false' && !!i.optionFeedback),
    without: (i) =>
      i.kind === 'true-false' ? drop('optionFeedback' as keyof Item)(i) : { ...(i as Extract<Item, { options: Option[] }>), options: silent(options(i)) },
    brief: 'no feedback',
    message: 'feedback of single options stays here',
  },
  answerFeedback: {
    has: (i) => answersOf(i).some((a) => a.feedback),
    without: (i) =>
      i.kind === 'short-answer'
        ? { ...i, answers: silent<TextAnswer>(i.answers) }
        : i.kind === 'numeric'
          ? { ...i, answers: silent<NumberAnswer>(i.answers) }
          : mapGaps(i, (g) =>
              g.kind === 'choice'
                ? { ...g, options: silent(g.options) }
                : g.kind === 'text'
                  ? { ...g, answers: silent(g.answers) }
                  : { ...g, answers: silent(g.answers) },
            ),
    brief: 'no feedback',
    message: 'feedback of single answers stays here',
  },
  pinned: {
    has: (i) => options(i).some((o) => o.pinned),
    without: (i) => ({ ...(i as Extract<Item, { options: Option[] }>), options: options(i).map(({ pinned: _p, ...o }) => o) }),
    brief: 'none stays put',
    message: 'no option keeps its place when options are shuffled there',
  },
  unit: own('unit', 'no unit', (i) => `the unit ${i.kind === 'numeric' ? (i.unit ?? '') : ''} stays here`),
  wordBank: {
    has: (i) => i.kind === 'cloze' && !!i.wordBank?.length,
    without: drop('wordBank' as keyof Item),
    brief: 'no word list',
    message: 'the list of words to choose from stays here',
  },
  gapPoints: {
    has: (i) => i.kind === 'cloze' && new Set(i.gaps.map((g) => g.points)).size > 1,
    without: (i) => mapGaps(i, (g) => ({ ...g, points: 1 })),
    brief: 'gaps alike',
    message: 'all gaps count the same there',
  },
  modelAnswer: minor(own('modelAnswer', 'no model answer', 'the model answer stays here')),
  rubric: minor(own('rubric', 'no rubric', 'the rubric stays here')),
  lines: minor(own('lines', 'size as there', 'the number of lines to write on stays here')),
  'section.title': minor(ofSection('title', 'no part', 'the title of its part stays here')),
  'section.instructions': ofSection('instructions', 'no instructions', 'the instructions of its part stay here'),
  'section.passage': ofSection('passage', 'no passage', 'the passage stays here'),
};
/** The table as rows. */
export const FIELD_ROWS = Object.entries(FIELDS) as [HeldField, FieldRow][];
/** The fields of a part. */
export const SECTION_FIELDS = ['title', 'instructions', 'passage'] as const;
