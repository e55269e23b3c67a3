/** Statements that an absolute word makes false. */
import { plainOf } from '../../item/richText.js';
import type { Rule } from '../finding.js';
import { ABSOLUTE } from '../options.js';

export const absoluteStatement: Rule = {
  code: 'absolute-statement',
  name: 'A false statement with an absolute word',
  why: '“Always” and “never” are seldom true, and learners know it: the word gives the answer away.',
  source:
    'Frisbie and Becker 1991, An Analysis of Textbook Advice About True-False Tests, Applied Measurement in Education 4(1): specific determiners (from memory)',
  examples: {
    found: ['1. True or false: Bread always has yeast in it.\nAnswer: false'],
    fine: [
      '1. True or false: Hands are always washed before cooking.\nAnswer: true',
      '1. True or false: Rye flour has more gluten than wheat flour.\nAnswer: false',
    ],
  },
  ofItem(item) {
    if (item.kind !== 'true-false' || item.answer !== false) return [];
    const word = ABSOLUTE.exec(plainOf(item.stem))?.[0];
    // "all" and "only" have plain uses in statements; the rest leave no exception
    return word &&
      /^(?:always|never|every\w*|nobody|completely|impossible|immer|nie|niemals|siempre|nunca|jamás|toujours|jamais|sempre|altijd|nooit|zawsze|nigdy)$/i.test(
        word,
      )
      ? [{ severity: 'note', place: 'stem', message: `“${word}” makes it likely that the statement is false.` }]
      : [];
  },
};
