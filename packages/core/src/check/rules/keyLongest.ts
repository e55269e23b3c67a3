/** The keyed option stands out by its length. */
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';
import { keysOf, letterIn, optionsOf } from '../options.js';

export const keyLongest: Rule = {
  code: 'key-longest',
  name: 'The key is the longest option',
  why: 'Who writes a key takes care to make it right, and it grows. Learners know, and choose the longest.',
  source: guideline(24),
  ofItem(item, { lengthRatio }) {
    const options = optionsOf(item);
    const [key] = keysOf(options);
    if (item.kind !== 'multiple-choice' || !key || options.length < 3) return [];
    const own = plainOf(key.content).length;
    const others = Math.max(...options.filter((o) => o !== key).map((o) => plainOf(o.content).length));
    // short options differ by a word without saying anything
    if (own < 25 || own < others * lengthRatio || own - others < 12) return [];
    return [{ severity: 'warning', place: 'options', option: key.id, message: `The key ${letterIn(options, key)} is much longer than the other options.` }];
  },
  examples: {
    found: ['1. What is a poolish?\na) an oven\nb) a wet pre-ferment of equal weights of flour and water *\nc) a knife'],
    fine: [
      '1. What is a poolish?\na) an oven\nb) a wet dough *\nc) a knife',
      '1. What does salt do?\na) It slows the yeast and tightens the gluten. *\nb) It feeds the yeast and loosens the gluten.\nc) It has no effect.',
    ],
  },
};
