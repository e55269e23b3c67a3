/** The article before a blank fits some options only. */
import { plainOf } from '../../item/richText.js';
import type { Option } from '../../item/model.js';
import { guideline, type Rule } from '../finding.js';
import { keysOf, optionsOf } from '../options.js';
import { stripEnd } from '../../item/strip.js';

/** A blank, and what ends a question. */
const BEHIND = /[\s_…:.?]/;
const LAST_ARTICLE = /(?<!\p{L})an?$/iu;

export const articles: Rule = {
  code: 'clue-grammar',
  name: 'The article before the blank fits some options only',
  why: '“An” at the end of the question rules out every option that begins with a consonant.',
  source: `${guideline(28)} d, grammatical inconsistencies`,
  ofItem(item) {
    const options = optionsOf(item);
    const article = LAST_ARTICLE.exec(stripEnd(plainOf(item.stem), BEHIND))?.[0].toLowerCase();
    if (!article || options.length < 2) return [];
    const fits = (o: Option): boolean => /^[aeiou]/i.test(plainOf(o.content)) === (article === 'an');
    const begun = options.filter((o) => /^[a-z]/i.test(plainOf(o.content)) && !/^(?:an?|the)\s/i.test(plainOf(o.content)));
    // sounds decide, not letters: hour, university
    if (begun.length < options.length || begun.some((o) => /^(?:ho(?:ur|nest|nour)|heir|uni|use|eu|one|u[bcfhjkqrstn][aeiou])/i.test(plainOf(o.content))))
      return [];
    if (begun.every(fits) || !keysOf(options).every(fits)) return [];
    const stem = stripEnd(item.stem, BEHIND);
    return [
      {
        severity: 'warning',
        place: 'stem',
        message: `The question ends with “${article}”, which only some options follow.`,
        fix: {
          label: 'Write “a/an”',
          operations: [{ type: 'change', id: item.id, set: { stem: stem.replace(LAST_ARTICLE, 'a/an') + item.stem.slice(stem.length) } }],
        },
      },
    ];
  },
  examples: {
    found: ['1. A machine that kneads is a\na) mixer *\nb) oven\nc) icebox'],
    fine: ['1. A machine that bakes is an\na) oven *\nb) iron\nc) apple', '1. One sixtieth of a minute is a\na) second *\nb) hour\nc) day'],
  },
};
