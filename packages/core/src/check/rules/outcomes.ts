/** Outcomes of which the set has too little. */
import { isQuestion } from '../../item/kinds.js';
import { guideline, type Rule } from '../finding.js';

export const outcomes: Rule = {
  code: 'outcome-too-little',
  name: 'Too few items of an outcome',
  why: 'What is taught and not asked is not tested; one item says little of an outcome.',
  source: guideline(1),
  examples: {
    aim: { outcomes: { 'Knows grains': 2 } },
    found: ['1. What is rye?\na) a grain *\nb) a fish\nOutcome: Knows grains'],
    fine: ['1. What is rye?\na) a grain *\nb) a fish\nOutcome: Knows grains\n\n2. Which is older?\na) barley *\nb) rye\nOutcome: Knows grains'],
  },
  ofSet({ items }, _limits, { aim }) {
    return Object.entries(aim.outcomes ?? {}).flatMap(([outcome, wanted]) => {
      const of = items.filter((i) => isQuestion(i) && i.outcomes?.includes(outcome));
      return of.length < wanted
        ? [{ severity: 'warning' as const, items: [], message: `“${outcome}” has ${of.length || 'no'} ${of.length === 1 ? 'item' : 'items'} of ${wanted}.` }]
        : [];
    });
  },
};
