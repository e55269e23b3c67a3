/** A negative question over a negative option or statement. */
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';
import { letterIn, optionsOf } from '../options.js';

const NOT = /(?<![\p{L}])(?:not|never|cannot|except|\p{L}+n['’]t|nicht|kein\p{Ll}*|niet|geen|pas)(?![\p{L}])/iu;

export const doubleNegative: Rule = {
  code: 'negative-twice',
  name: 'Two negatives in one question',
  why: 'A negative in the question and another in the answer have to be turned round twice: it tests reading, not the subject.',
  source: guideline(17),
  examples: {
    found: [
      '1. Which of these is NOT true of yeast?\na) It does not grow in sugar. *\nb) It is a fungus.\nc) It gives off gas.',
      '1. True or false: It is not true that salt does not slow yeast.\nAnswer: true',
    ],
    fine: [
      '1. Which of these is NOT a grain?\na) rye\nb) cod *\nc) oats',
      '1. True or false: Salt does not feed yeast.\nAnswer: true',
      '1. Why does bread not rise?\na) The yeast is not alive. *\nb) The salt is old.\nc) The oven is clean.',
    ],
  },
  ofItem(item) {
    const stem = plainOf(item.stem);
    if (item.kind === 'true-false') {
      const twice = stem.split(/[.;!?]/).some((s) => (s.match(new RegExp(NOT.source, 'giu')) ?? []).length > 1);
      return twice ? [{ severity: 'note', place: 'stem', message: 'The statement has two negatives.' }] : [];
    }
    const asks = stem.split(/(?<=[.!])\s+/).at(-1) ?? '';
    // "why does it not": the negative is what is asked about, and no option is turned round by it
    if (!NOT.test(asks) || /^(?:why|how|what happens|when|warum|wann|pourquoi|por qué)/i.test(asks)) return [];
    const options = optionsOf(item);
    const found = options.find((o) => NOT.test(plainOf(o.content)));
    return found
      ? [{ severity: 'note', place: 'options', option: found.id, message: `The question is negative, and so is option ${letterIn(options, found)}.` }]
      : [];
  },
};
