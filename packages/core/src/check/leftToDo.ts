/** What is still to be done with items before they go out. */
import { isQuestion, keyProblem } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import type { SetDocument } from '../item/operations.js';
import { picturesWithoutWords } from './rules/pictureWords.js';

/** Items with something left to do, each list in their order. */
export interface LeftToDo {
  /** They cannot be marked. */
  withoutKey: Item[];
  /** Nobody has said that they are right. */
  notChecked: Item[];
  /** A picture in them says nothing to who cannot see it. */
  pictures: Item[];
}

/** What is left to do with items that go out. @param reviews of the set that they are of */
export function leftToDo(items: readonly Item[], reviews: SetDocument['reviews']): LeftToDo {
  const lacksKey = (i: Item): boolean => isQuestion(i) && keyProblem(i) !== null;
  return {
    withoutKey: items.filter(lacksKey),
    notChecked: items.filter((i) => reviews[i.id]?.state !== 'checked' && !lacksKey(i)),
    pictures: items.filter((i) => picturesWithoutWords(i) > 0),
  };
}
