/** Whether two texts look the same to a learner. */
import { isMarkup, richToPlain } from '../item/richText.js';
import { tidyRich } from '../item/sameness.js';

/** Whether two texts show the same, however they are marked up. */
export const showsSame = (a: string, b: string): boolean => {
  if (a === b) return true;
  const x = tidyRich(a);
  const y = tidyRich(b);
  return x === y || ((isMarkup(x) || isMarkup(y)) && words(x) === words(y));
};
const words = (rich: string): string => richToPlain(rich).replace(/\s+/g, ' ').trim();
