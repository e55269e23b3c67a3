/** Items as something that can be answered by what their text says. */
import { isMarkup, richToPlain } from '../item/richText.js';
import { tidyRich } from '../item/sameness.js';
import type { QuizSet } from '../item/model.js';
import { mark } from '../mark/mark.js';
import { responseOf } from './probes.js';
import type { Playable } from './rehearse.js';

/** Whether two texts show the same, however they are marked up. */
export const showsSame = (a: string, b: string): boolean => {
  if (a === b) return true;
  const x = tidyRich(a);
  const y = tidyRich(b);
  return x === y || ((isMarkup(x) || isMarkup(y)) && words(x) === words(y));
};
const words = (rich: string): string => richToPlain(rich).replace(/\s+/g, ' ').trim();

/** Items of a set that was read back, marked by the core: for formats whose rules of scoring are those of the model, or few. */
export const playSet = (set: QuizSet): Playable[] =>
  set.items.map((item) => ({
    id: item.id,
    stem: item.stem,
    maximum: item.points,
    score: (act) => {
      const r = responseOf(item, act, showsSame);
      return r ? mark(item, r, set.language).points : null;
    },
  }));
