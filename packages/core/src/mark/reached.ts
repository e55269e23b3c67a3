/** How far somebody came. */
import { isQuestion } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import type { Mark } from './mark.js';

/**
 * Questions that somebody did not reach: those behind the last one that they answered. What lies open before it was left out on purpose.
 * Source: the usual definition for tests taken in a given order (F. M. Lord, Applications of Item Response Theory, 1980, chapter 15; from memory).
 * @param items in the order in which they came
 * @returns ids
 */
export function notReached(items: readonly Item[], marks: Readonly<Record<string, Mark>>): string[] {
  const questions = items.filter(isQuestion);
  const last = questions.findLastIndex((i) => marks[i.id] !== undefined && marks[i.id]?.state !== 'unanswered');
  // an item that was left out since has no mark
  return questions.slice(last + 1).flatMap((i) => (marks[i.id] ? [i.id] : []));
}
