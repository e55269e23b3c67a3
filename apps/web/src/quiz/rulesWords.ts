/** The rules of a quiz in words, for who looks at what was published. */
import { counted, type QuizRules, type SeenFrom, SHOWN, type ShownAfter, shownAfter } from '@zakuska/core';

export const SEEN_FROM: Readonly<Record<SeenFrom, string>> = {
  'handed-in': 'after handing in',
  closed: 'when the quiz has closed',
  released: 'when I release it',
  never: 'never',
};
export const ENTER: Readonly<Record<QuizRules['enter'], string>> = {
  name: 'anybody with the code, by a name they type',
  nameless: 'anybody with the code, without names',
  list: 'a class: each chooses their name',
  personal: 'a class: each with a code of their own',
};
export const COUNTS: Readonly<Record<QuizRules['counts'], string>> = { best: 'the best', last: 'the last', mean: 'the mean of all' };

/** When it is due, and what being later costs: "due 3 November, 12:00, later 10 % off for each day". */
export const lateWords = ({ due, percent, per }: NonNullable<QuizRules['late']>): string =>
  `due ${localMoment(due)}, later ${percent} % off${per === 'day' ? ' for each day' : ''}`;

/** The choice made most often that these are; undefined where they are none of them. */
export const presetOf = (shows: QuizRules['shows']): ShownAfter | undefined =>
  shownAfter.find((name) => Object.entries(SHOWN[name]).every(([part, from]) => shows[part as keyof typeof shows] === from));

export const localMoment = (iso: string): string =>
  new Date(iso).toLocaleString(undefined, { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** What is not as usual, a few words each. */
export function rulesWords(rules: QuizRules): string[] {
  const { shows, practice, minutes, opensAt, closesAt } = rules;
  const later = new Set(Object.values(shows));
  return [
    rules.enter === 'name' ? '' : rules.enter === 'nameless' ? 'without names' : rules.enter === 'list' ? 'names from the class' : 'codes of their own',
    practice ? `practice${practice.tries ? `, ${counted(practice.tries, 'try', 'tries')} an item` : ''}` : '',
    rules.attempts === 1 ? 'one attempt each' : rules.attempts > 1 ? `${rules.attempts} attempts each, ${COUNTS[rules.counts]} counts` : '',
    minutes === undefined ? '' : counted(minutes, 'minute'),
    rules.itemSeconds === undefined ? '' : `${counted(rules.itemSeconds, 'second')} an item`,
    opensAt ? `opens ${localMoment(opensAt)}` : '',
    rules.late ? lateWords(rules.late) : '',
    closesAt ? `closes ${localMoment(closesAt)}` : '',
    rules.pages === 'all' ? 'all on one page' : '',
    rules.back ? '' : 'no going back',
    rules.holdsRequired ? 'required items first' : '',
    rules.shuffle.items && rules.shuffle.options
      ? 'items and options shuffled'
      : rules.shuffle.items
        ? 'items shuffled'
        : rules.shuffle.options
          ? 'options shuffled'
          : '',
    later.has('released') ? 'more is seen when you release it' : later.has('closed') ? 'more is seen when it has closed' : '',
  ].filter(Boolean);
}
