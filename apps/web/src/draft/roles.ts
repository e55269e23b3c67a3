/** The roles that a person can give a line, with their names and keys. */
import type { Role } from '@zakuska/core';

export const ROLES: readonly { role: Role; name: string; key: string }[] = [
  { role: 'question', name: 'Question', key: 'q' },
  { role: 'option', name: 'Option', key: 'o' },
  { role: 'key', name: 'Key', key: 'k' },
  { role: 'feedback', name: 'Feedback', key: 'f' },
  { role: 'more', name: 'Goes on from above', key: 'g' },
  { role: 'passage', name: 'Passage', key: 'p' },
  { role: 'part', name: 'Part heading', key: 'h' },
  { role: 'key-list', name: 'List of keys', key: 'l' },
  { role: 'aside', name: 'Set aside', key: 'a' },
];
