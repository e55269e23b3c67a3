/** Options that say the same, or nearly. */
import { plainOf } from '../../item/richText.js';
import type { ItemOf } from '../../item/model.js';
import { letterDistance } from '../../item/typedText.js';
import { guideline, type Rule } from '../finding.js';
import { letterIn, optionsOf } from '../options.js';

/** A text without what people do not read as a difference. */
const bare = (rich: string): string =>
  plainOf(rich)
    // single letters are signs (T and t are two alleles), words are words
    .replace(/\p{L}{2,}/gu, (w) => w.toLowerCase())
    .replace(/^\p{Lu}(?= \p{L}{2})/u, (w) => (/^[AI]$/.test(w) ? w.toLowerCase() : w))
    .replace(/[.,;:!?'’"“”()]+/g, '')
    .replace(/^(?:an?|the)\s+/, '')
    .trim();

export const optionsAlike: Rule = {
  code: 'options-alike',
  name: 'Two options that say the same',
  why: 'Two options that mean the same cannot both be wrong or both be the one key: learners strike out both.',
  source: guideline(22),
  examples: {
    found: ['1. What is rye?\na) a grain *\nb) a fish\nc) A fish.', '1. How is dough kept?\na) in a cool place *\nb) in a warm oven\nc) in a warm ovens'],
    fine: [
      '1. What is 12 + 13?\na) 24\nb) 25 *\nc) 26',
      '1. Which is true?\na) T is dominant *\nb) t is dominant\nc) none is',
      '1. Which word is right?\na) bake *\nb) cake\nc) make',
      '1. Where is salt?\na) in a cell *\nb) in a cellar\nc) at sea',
    ],
  },
  ofItem(item) {
    const options = optionsOf(item);
    const texts = options.map((o) => bare(o.content));
    const out: ReturnType<NonNullable<Rule['ofItem']>> = [];
    options.forEach((b, j) => {
      const i = texts.findIndex((t, k) => k < j && t !== '' && t === texts[j] && !/<img\b|\\\(/.test(`${b.content}${options[k]?.content}`));
      const a = options[i];
      if (a) {
        // where capitals or signs are what is asked, the texts differ to the letter
        const equal = plainOf(a.content) === plainOf(b.content);
        if (!equal && /capital|punctuat|apostrophe|spelling|comma|full stop/i.test(item.stem)) return;
        out.push({
          severity: equal && a.credit !== b.credit ? 'error' : 'warning',
          place: 'options',
          option: b.id,
          message: `Options ${letterIn(options, a)} and ${letterIn(options, b)} say the same${a.credit !== b.credit ? ', and only one of them is a key' : ''}.`,
        });
        return;
      }
      // long texts that differ in one letter: one of the two has a slip
      const near = texts.findIndex(
        (t, k) =>
          k < j &&
          t.length > 12 &&
          t.split(' ').length > 2 &&
          !/\d/.test(t) &&
          t.toLowerCase() !== texts[j]?.toLowerCase() &&
          letterDistance(t, texts[j] ?? '', 1) === 1,
      );
      const c = options[near];
      if (c && !(item as ItemOf<'multiple-choice'>).stem.match(/spell|written|grammar|\bform\b/i))
        out.push({
          severity: 'note',
          place: 'options',
          option: b.id,
          message: `Options ${letterIn(options, c)} and ${letterIn(options, b)} differ in one letter only.`,
        });
    });
    return out;
  },
};
