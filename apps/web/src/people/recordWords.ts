/** What is kept of people, in words. */
import { counted } from '@zakuska/core';
import type { Schemas } from '../api/client.js';

export type PersonRecord = Schemas['PersonRecordView'];
type Kind = PersonRecord['kind'];

/** What a record of each kind is. */
export const RECORD_NAMES: Readonly<Record<Kind, string>> = {
  answers: 'answers given here',
  fetched: 'answers from elsewhere',
  listed: 'on a class list',
  written: 'a mail to them',
  came: 'came from a course',
};
const COUNTED: Readonly<Record<Kind, (n: number) => string>> = {
  answers: (n) => counted(n, 'attempt with its answers', 'attempts with their answers'),
  fetched: (n) => counted(n, 'response from elsewhere', 'responses from elsewhere'),
  listed: (n) => counted(n, 'place on a class list', 'places on class lists'),
  written: (n) => counted(n, 'mail'),
  came: (n) => counted(n, 'launch from a course', 'launches from courses'),
};
/** How much went or would go, by kind. */
export const removedWords = (removed: Readonly<Record<string, number>>): string =>
  (Object.keys(COUNTED) as Kind[]).flatMap((k) => (removed[k] ? [COUNTED[k](removed[k])] : [])).join(', ') || 'nothing';
