/** Identifiers of what is written for a set: the same for the same set, others for another, so that an importer tells packages apart. */
import { stableId } from '../../item/ids.js';
import type { QuizSet } from '../../item/model.js';

/**
 * An identifier for a part of a package ("manifest", "section-2"): an NCName, from the set's title, which names its version too, and the
 * least of its items' ids, which stays when items are moved.
 */
export function identifierOf(quiz: QuizSet, part: string): string {
  const least = quiz.items.reduce((l, i) => (l && l < i.id ? l : i.id), '');
  return `${part}-${stableId(`${quiz.title}\n${least}`).slice(0, 13)}`;
}
