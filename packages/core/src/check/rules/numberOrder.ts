/** Numbers among the options that stand in no order. */
import { guideline, type Rule } from '../finding.js';
import { optionsOf, optionValue } from '../options.js';

export const numberOrder: Rule = {
  code: 'options-out-of-order',
  name: 'Numbers out of order',
  why: 'Numbers in order are found at a glance; out of order they cost time and test reading.',
  source: guideline(21),
  ofItem(item) {
    const options = optionsOf(item);
    if (options.length < 3 || options.some((o) => o.pinned)) return [];
    const values = options.map(optionValue);
    if (values.some((v) => v === null)) return [];
    const numbers = values as number[];
    const rises = numbers.every((v, i) => i === 0 || v >= (numbers[i - 1] ?? v));
    const falls = numbers.every((v, i) => i === 0 || v <= (numbers[i - 1] ?? v));
    if (rises || falls) return [];
    const sorted = options.map((o, i) => ({ o, v: numbers[i] ?? 0 })).sort((a, b) => a.v - b.v);
    return [
      {
        severity: 'note',
        place: 'options',
        message: 'The options are numbers that stand in no order.',
        fix: { label: 'Put them in order', operations: [{ type: 'change', id: item.id, set: { options: sorted.map((s) => s.o) } }] },
      },
    ];
  },
  examples: {
    found: ['1. How hot is a fridge?\na) 12 °C\nb) 4 °C *\nc) 20 °C'],
    fine: ['1. How hot is a fridge?\na) 4 °C *\nb) 12 °C\nc) 20 °C'],
  },
};
