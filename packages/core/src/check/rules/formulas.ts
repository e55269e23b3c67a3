/** Formulas with a slip in their TeX. */
import { mapTexts } from '../../item/texts.js';
import { brokenFormulas } from '../../item/formulas.js';
import type { Item } from '../../item/model.js';
import type { Rule } from '../finding.js';

/** The formulas of an item that cannot be drawn, as TeX. */
export function brokenFormulasOf(item: Item): string[] {
  const broken: string[] = [];
  mapTexts(item, (text) => {
    broken.push(...brokenFormulas(text));
    return text;
  });
  return broken;
}

/** The rule for formulas that cannot be drawn. */
export const formulas: Rule = {
  code: 'formula-broken',
  name: 'A formula that cannot be drawn',
  why: 'Learners would see its TeX instead of the formula.',
  source: 'The TeX that is understood here: the documentation of Temml',
  examples: {
    found: ['1. What is \\(x^\\) for x = 2?\nAnswer: 4', '1. Which is a half?\na) \\(\\frac{1}{2}\\) *\nb) \\(\\frac{1\\)'],
    fine: ['1. What is \\(x^2\\) for x = 2?\nAnswer: 4', '1. Which is a half?\na) \\(\\frac{1}{2}\\) *\nb) \\(\\frac{2}{1}\\)'],
  },
  ofItem(item) {
    const broken = brokenFormulasOf(item);
    const [first] = broken;
    if (first === undefined) return [];
    const inStem = brokenFormulas(item.stem).length > 0;
    const shown = first.length > 40 ? `${first.slice(0, 39)}…` : first;
    const more = broken.length > 1 ? ` (and ${broken.length - 1} more)` : '';
    return [{ severity: 'error', place: inStem ? 'stem' : 'options', message: `The formula “${shown}”${more} cannot be drawn; learners see its text.` }];
  },
};
