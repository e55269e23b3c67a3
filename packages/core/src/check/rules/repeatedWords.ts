/** The key shares a word with the question that no other option has. */
import { plainOf } from '../../item/richText.js';
import { contentWords } from '../../language/contentWords.js';
import { guideline, type Rule } from '../finding.js';
import { keysOf, letterIn, optionsOf } from '../options.js';

export const repeatedWords: Rule = {
  code: 'clue-repeated-words',
  name: 'The key repeats words of the question',
  why: 'A rare word that the question and the key have in common, and no other option has, points to the key.',
  source: `${guideline(28)} b, clang associations`,
  ofItem(item) {
    const options = optionsOf(item);
    const [key, ...more] = keysOf(options);
    if (!key || more.length || options.length < 3) return [];
    const stem = new Set(contentWords(plainOf(item.stem)));
    const others = new Set(options.filter((o) => o !== key).flatMap((o) => contentWords(plainOf(o.content))));
    const shared = [...new Set(contentWords(plainOf(key.content)))].filter((w) => w.length > 4 && !/\d/.test(w) && stem.has(w) && !others.has(w));
    return shared.length
      ? [
          {
            severity: 'warning',
            place: 'options',
            option: key.id,
            message: `Only the key ${letterIn(options, key)} repeats “${shared[0] ?? ''}…” of the question.`,
          },
        ]
      : [];
  },
  examples: {
    found: ['1. What does fermentation need?\na) cold\nb) microbes of fermentation *\nc) light'],
    fine: ['1. Which knife slices bread?\na) a serrated knife *\nb) a paring knife\nc) a cleaver'],
  },
};
