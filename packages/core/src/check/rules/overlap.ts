/** Ranges among the options that have values in common. */
import { plainOf } from '../../item/richText.js';
import { parseNumber } from '../../language/numbers.js';
import { guideline, type Rule } from '../finding.js';
import { letterIn, optionsOf } from '../options.js';

interface Range {
  min: number;
  max: number;
  /** Whether the end itself belongs to it. */
  closed: boolean;
}
const NUMBER = '([+−-]?\\d[\\d.,]*)';
// white space is one blank each
const BETWEEN = new RegExp(`^(?:from |between )?${NUMBER} ?(?:° ?[CF]|%|\\p{L}{1,3})? ?(?:–|—|-|to|bis|and|a|à) ?${NUMBER}`, 'iu');
const BELOW = new RegExp(`^(?:less than|under|below|fewer than|<|weniger als|unter|menos de|moins de)\\s*${NUMBER}`, 'iu');
const ABOVE = new RegExp(`^(?:more than|over|above|greater than|>|mehr als|über|más de|plus de)\\s*${NUMBER}`, 'iu');

function rangeOf(written: string): Range | null {
  const text = written.replace(/\s+/g, ' ');
  const n = (s: string | undefined): number => parseNumber(s ?? '') ?? NaN;
  const between = BETWEEN.exec(text);
  if (between) return { min: n(between[1]), max: n(between[2]), closed: true };
  const below = BELOW.exec(text);
  if (below) return { min: -Infinity, max: n(below[1]), closed: false };
  const above = ABOVE.exec(text);
  if (above) return { min: n(above[1]), max: Infinity, closed: false };
  return null;
}

export const overlap: Rule = {
  code: 'options-overlap',
  name: 'Options whose values overlap',
  why: 'A value that lies in two options makes both right, or shows that neither is.',
  source: guideline(22),
  examples: {
    found: [
      '1. How long does it rest?\na) 10 to 20 minutes *\nb) 15 to 30 minutes\nc) 40 to 50 minutes',
      '1. How hot is a fridge?\na) less than 5 °C *\nb) less than 10 °C\nc) more than 10 °C',
    ],
    fine: [
      '1. How long does it rest?\na) 10 to 20 minutes *\nb) 21 to 30 minutes\nc) 31 to 50 minutes',
      '1. How hot is a fridge?\na) less than 5 °C *\nb) 5 to 10 °C\nc) more than 10 °C',
    ],
  },
  ofItem(item) {
    if (item.kind !== 'multiple-choice') return [];
    const options = optionsOf(item);
    const ranges = options.map((o) => rangeOf(plainOf(o.content)));
    if (ranges.filter(Boolean).length < 2) return [];
    const out: ReturnType<NonNullable<Rule['ofItem']>> = [];
    ranges.forEach((b, j) => {
      const i = ranges.findIndex(
        (a, k) =>
          k < j && a && b && (a.closed && b.closed ? Math.max(a.min, b.min) <= Math.min(a.max, b.max) : Math.max(a.min, b.min) < Math.min(a.max, b.max)),
      );
      const [x, y] = [options[i], options[j]];
      if (x && y)
        out.push({
          severity: 'warning',
          place: 'options',
          option: y.id,
          message: `Options ${letterIn(options, x)} and ${letterIn(options, y)} have values in common.`,
        });
    });
    return out;
  },
};
