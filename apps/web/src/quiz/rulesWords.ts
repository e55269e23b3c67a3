/** The rules of a quiz in words, for who looks at what was published. */
import { type QuizRules, type SeenFrom, SHOWN, type ShownAfter, shownAfter } from '@zakuska/core';
import { locale, say } from '../words/say.js';

export const SEEN_FROM: Readonly<Record<SeenFrom, string>> = {
  'handed-in': say('after handing in'),
  closed: say('when the quiz has closed'),
  released: say('when I release it'),
  never: say('never'),
};
export const ENTER: Readonly<Record<QuizRules['enter'], string>> = {
  name: say('anybody with the code, by a name they type'),
  nameless: say('anybody with the code, without names'),
  list: say('a class: each chooses their name'),
  personal: say('a class: each with a code of their own'),
};
export const COUNTS: Readonly<Record<QuizRules['counts'], string>> = { best: say('the best'), last: say('the last'), mean: say('the mean of all') };

/** When it is due, and what being later costs: "due 3 November, 12:00, later 10 % off for each day". */
export const lateWords = ({ due, percent, per }: NonNullable<QuizRules['late']>): string =>
  say('due {localMoment}, later {percent} % off{what}', { localMoment: localMoment(due), percent, what: per === 'day' ? say(' for each day') : '' });

/** The choice made most often that these are; undefined where they are none of them. */
export const presetOf = (shows: QuizRules['shows']): ShownAfter | undefined =>
  shownAfter.find((name) => Object.entries(SHOWN[name]).every(([part, from]) => shows[part as keyof typeof shows] === from));

export const localMoment = (iso: string): string =>
  new Date(iso).toLocaleString(locale(), { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** What is not as usual, a few words each. */
export function rulesWords(rules: QuizRules): string[] {
  const { shows, practice, minutes, opensAt, closesAt } = rules;
  const later = new Set(Object.values(shows));
  return [
    rules.enter === 'name'
      ? ''
      : rules.enter === 'nameless'
        ? say('without names')
        : rules.enter === 'list'
          ? say('names from the class')
          : say('codes of their own'),
    practice ? `practice${practice.tries ? say(', {tries, plural, one {# try} other {# tries}} an item', { tries: practice.tries }) : ''}` : '',
    rules.attempts === 1
      ? say('one attempt each')
      : rules.attempts > 1
        ? say('{attempts} attempts each, {COUNTS} counts', { attempts: rules.attempts, COUNTS: COUNTS[rules.counts] })
        : '',
    minutes === undefined ? '' : say('{minutes, plural, one {# minute} other {# minutes}}', { minutes }),
    rules.itemSeconds === undefined ? '' : say('{itemSeconds, plural, one {# second} other {# seconds}} an item', { itemSeconds: rules.itemSeconds }),
    opensAt ? say('opens {localMoment}', { localMoment: localMoment(opensAt) }) : '',
    rules.late ? lateWords(rules.late) : '',
    closesAt ? say('closes {localMoment}', { localMoment: localMoment(closesAt) }) : '',
    rules.pages === 'all' ? say('all on one page') : '',
    rules.back ? '' : say('no going back'),
    rules.holdsRequired ? say('required items first') : '',
    rules.shuffle.items && rules.shuffle.options
      ? say('items and options shuffled')
      : rules.shuffle.items
        ? say('items shuffled')
        : rules.shuffle.options
          ? say('options shuffled')
          : '',
    later.has('released') ? say('more is seen when you release it') : later.has('closed') ? say('more is seen when it has closed') : '',
  ].filter(Boolean);
}
