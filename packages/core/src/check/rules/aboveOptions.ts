/** Options that speak of the other options. */
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';
import { ALL_ABOVE, letterIn, NONE_ABOVE, optionsOf } from '../options.js';

export const aboveOptions: Rule = {
  code: 'all-or-none-of-the-above',
  name: '“All of the above” or “none of the above”',
  why: 'Who knows that two options are right knows that “all” is; who sees that one is wrong knows that it is not. “None” does not show that somebody knows what is right.',
  source: `${guideline(25)} and 26`,
  ofItem(item) {
    const options = optionsOf(item);
    return options.flatMap((o) => {
      const text = plainOf(o.content);
      const which = ALL_ABOVE.test(text) ? 'all' : NONE_ABOVE.test(text) ? 'none' : null;
      return which
        ? [
            {
              severity: 'note' as const,
              place: 'options' as const,
              option: o.id,
              message: `Option ${letterIn(options, o)} is “${which} of the above”${o.credit > 0 ? ', and it is the key' : ''}.`,
            },
          ]
        : [];
    });
  },
  examples: {
    found: ['1. Which is a grain?\na) rye\nb) oats\nc) All of the above *'],
    fine: ['1. Which is a grain?\na) rye\nb) cod\nc) all of it but the bran'],
  },
};
