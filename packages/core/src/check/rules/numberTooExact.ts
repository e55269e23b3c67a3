/** A number key that nobody will type to the last figure. */
import { minus, plus } from '../../language/decimal.js';
import type { Rule } from '../finding.js';

export const numberTooExact: Rule = {
  code: 'number-too-exact',
  name: 'A number that has to be typed exactly',
  why: 'With three or more decimals and no tolerance, a learner who rounds is marked wrong.',
  source: 'Common practice, no source',
  examples: {
    found: ['1. How many cups are 1 litre?\nAnswer: 4.2268'],
    fine: [
      '1. How many grams are 1.5 kg?\nAnswer: 1500',
      '1. How many cups are 1 litre?\nAnswer: 4.2268 ± 0.05',
      '1. How many metres are 0.42 mm?\nAnswer: 0.00042',
    ],
  },
  ofItem(item) {
    if (item.kind !== 'numeric') return [];
    const decimals = (n: number): number => /\.(\d+)$/.exec(String(n))?.[1]?.length ?? 0;
    // 0.00042 comes of moving the point, and is exact; 4.2268 comes of a division
    const figures = (n: number): number => String(n).replace(/^-?[0.]*|\./g, '').length;
    const exact = item.answers.find(
      (a) =>
        a.credit > 0 &&
        a.min === a.max &&
        decimals(a.min) >= 3 &&
        figures(a.min) >= 4 &&
        !item.answers.some((b) => b !== a && b.min <= a.min && b.max >= a.max),
    );
    if (!exact) return [];
    // half of the second decimal: what rounding to two decimals can change
    const [min, max] = [minus(exact.min, 0.005), plus(exact.max, 0.005)];
    const { text: _asWritten, ...rest } = exact;
    return [
      {
        severity: 'warning',
        place: 'key',
        message: `Only exactly ${exact.min} is right.`,
        fix: {
          label: 'Allow rounding to two decimals',
          operations: [{ type: 'change', id: item.id, set: { answers: item.answers.map((a) => (a === exact ? { ...rest, min, max } : a)) } }],
        },
      },
    ];
  },
};
