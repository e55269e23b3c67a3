/** Words that leave no exception, which learners know to be wrong. */
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';
import { ABSOLUTE, ALL_ABOVE, letterIn, NONE_ABOVE, optionsOf } from '../options.js';

export const absolutes: Rule = {
  code: 'absolute-words',
  name: 'Absolute words in some options only',
  why: '“Always” and “never” are seldom true, and learners know it: options with them are struck out unread.',
  source: `${guideline(28)} a, specific determiners`,
  ofItem(item) {
    const options = optionsOf(item);
    const marked = options.filter((o) => ABSOLUTE.test(plainOf(o.content)) && !ALL_ABOVE.test(plainOf(o.content)) && !NONE_ABOVE.test(plainOf(o.content)));
    // words that all options have are the subject of the question
    if (!marked.length || marked.length > options.length / 2 || marked.some((o) => o.credit > 0) || options.length < 3) return [];
    return marked.map((o) => ({
      severity: 'note' as const,
      place: 'options' as const,
      option: o.id,
      message: `Option ${letterIn(options, o)} says “${ABSOLUTE.exec(plainOf(o.content))?.[0] ?? ''}”, which marks it as wrong.`,
    }));
  },
  examples: {
    found: ['1. When is bread done?\na) when hollow *\nb) always after an hour\nc) when dark'],
    fine: [
      '1. When do you wash your hands?\na) always *\nb) never\nc) only when told',
      '1. When is bread done?\na) when it sounds hollow *\nb) after an hour\nc) when dark',
    ],
  },
};
