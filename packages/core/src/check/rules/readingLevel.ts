/** Items that are harder to read than the set is meant to be. */
import type { Rule } from '../finding.js';
import { readabilityOf, readingYear } from '../readability.js';
import { readText, setText } from '../readText.js';

/** Formulas of so few words say nothing. */
const FEWEST_WORDS = 15;

export const readingLevel: Rule = {
  code: 'reading-level',
  name: 'Harder to read than the set’s level',
  why: 'An item should be hard for what it asks, not for how it says it.',
  source: 'Haladyna, Downing and Rodriguez 2002, guideline 12 (number from memory); the year by Kincaid and others 1975, in other languages by Anderson 1983',
  examples: {
    aim: { year: 4 },
    found: [
      '1. Considering the microbiological implications of inadequate refrigeration, which of the following contamination hypotheses most plausibly explains the deterioration of the preparation?\na) insufficient acidification of the ingredients *\nb) disproportionate hydration of the mixture\nc) unsatisfactory ventilation of the laboratory',
    ],
    fine: ['1. You want to bake bread today. Which of these do you need for the dough to rise well in a warm place?\na) yeast *\nb) sand\nc) ice'],
  },
  ofItem(item, { yearsAbove }, { language, aim }) {
    if (aim.year === undefined) return [];
    const r = readabilityOf(readText(item));
    if (!r || r.words < FEWEST_WORDS) return [];
    const year = readingYear(r, language);
    return year >= aim.year + yearsAbove
      ? [{ severity: 'note', place: 'stem', message: `It reads like year ${Math.round(year)}; the set is meant for year ${aim.year}.` }]
      : [];
  },
  ofSet(set, _limits, { language, aim }) {
    const r = aim.year === undefined ? null : readabilityOf(setText(set));
    if (!r || r.words < FEWEST_WORDS * 5 || aim.year === undefined) return [];
    const year = readingYear(r, language);
    return year >= aim.year + 1
      ? [{ severity: 'note', items: [], message: `The whole set reads like year ${Math.round(year)}; it is meant for year ${aim.year}.` }]
      : [];
  },
};
