/** What is kept of people, in words. */
import type { Schemas } from '../api/client.js';
import { say } from '../words/say.js';

export type PersonRecord = Schemas['PersonRecordView'];
type Kind = PersonRecord['kind'];

/** What a record of each kind is. */
export const RECORD_NAMES: Readonly<Record<Kind, string>> = {
  answers: say('answers given here'),
  fetched: say('answers from elsewhere'),
  listed: say('on a class list'),
  written: say('a mail to them'),
  came: say('came from a course'),
};
const COUNTED: Readonly<Record<Kind, (n: number) => string>> = {
  answers: (n) => say('{n, plural, one {# attempt with its answers} other {# attempts with their answers}}', { n }),
  fetched: (n) => say('{n, plural, one {# response from elsewhere} other {# responses from elsewhere}}', { n }),
  listed: (n) => say('{n, plural, one {# place on a class list} other {# places on class lists}}', { n }),
  written: (n) => say('{n, plural, one {# mail} other {# mails}}', { n }),
  came: (n) => say('{n, plural, one {# launch from a course} other {# launches from courses}}', { n }),
};
/** How much went or would go, by kind. */
export const removedWords = (removed: Readonly<Record<string, number>>): string =>
  (Object.keys(COUNTED) as Kind[]).flatMap((k) => (removed[k] ? [COUNTED[k](removed[k])] : [])).join(', ') || say('nothing');
