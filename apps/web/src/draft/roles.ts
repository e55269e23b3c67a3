/** The roles that a person can give a line, with their names and keys. */
import { lookUp, type Role } from '@zakuska/core';
import { say } from '../words/say.js';

export const ROLES: readonly { role: Role; name: string; key: string }[] = [
  { role: 'question', name: say('Question'), key: 'q' },
  { role: 'option', name: say('Option'), key: 'o' },
  { role: 'key', name: say('Key'), key: 'k' },
  { role: 'feedback', name: say('Feedback'), key: 'f' },
  { role: 'more', name: say('Goes on from above'), key: 'g' },
  { role: 'passage', name: say('Passage'), key: 'p' },
  { role: 'part', name: say('Part heading'), key: 'h' },
  { role: 'key-list', name: say('List of keys'), key: 'l' },
  { role: 'aside', name: say('Set aside'), key: 'a' },
];

const MARKS: Readonly<Record<string, string>> = {
  aside: say('aside'),
  columns: say('columns'),
  feedback: say('feedback'),
  field: say('field'),
  key: say('key'),
  'key list': say('key list'),
  part: say('part'),
  passage: say('passage'),
  words: say('words'),
};
/** What the margin says of a line, in few letters: numbers and signs as they are. @param mark as the reader gives it */
export const markOf = (mark: string): string =>
  mark.startsWith('key ') && mark !== 'key list' ? say('key {keySign}', { keySign: mark.slice(4) }) : (lookUp(MARKS, mark) ?? mark);
