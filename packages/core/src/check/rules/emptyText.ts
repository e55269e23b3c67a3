/** Questions and options in which nothing stands. */
import { plainOf } from '../../item/richText.js';
import type { Rule } from '../finding.js';
import { letterIn, optionsOf } from '../options.js';

const nothing = (rich: string): boolean => plainOf(rich) === '' && !/<img\b|<math\b/.test(rich);

export const emptyText: Rule = {
  code: 'text-missing',
  name: 'A question or an option without text',
  why: 'Learners would see an empty line.',
  source: 'The item model',
  examples: { found: ['1.\na) rye *\nb) oats'], fine: ['1. Which is the older grain?\na) rye\nb) barley *'] },
  ofItem(item) {
    const options = optionsOf(item);
    const pairs = item.kind === 'matching' ? item.pairs : [];
    return [
      ...(nothing(item.stem) ? [{ severity: 'error' as const, place: 'stem' as const, message: 'The question has no text.' }] : []),
      ...options
        .filter((o) => nothing(o.content))
        .map((o) => ({ severity: 'error' as const, place: 'options' as const, option: o.id, message: `Option ${letterIn(options, o)} has no text.` })),
      ...(options.length === 1 ? [{ severity: 'error' as const, place: 'options' as const, message: 'There is one option only.' }] : []),
      ...(pairs.some((p) => nothing(p.left) || nothing(p.right))
        ? [{ severity: 'error' as const, place: 'options' as const, message: 'A side of a pair has no text.' }]
        : []),
    ];
  },
};
