/** Keys that stand in one place too often. */
import { keyPlaces, letterOf } from '../../item/kinds.js';
import type { Item } from '../../item/model.js';
import { balanceKeys } from '../balance.js';
import { inWords, multinomialEven } from '../chance.js';
import { guideline, type Rule } from '../finding.js';

/** Twelve items whose key stands where `place` says. */
const choices = (place: (n: number) => number): string =>
  Array.from(
    { length: 12 },
    (_, n) => `${n + 1}. Question about thing ${n}?\n${['a', 'b', 'c', 'd'].map((l, i) => `${l}) word${n}${l}${i === place(n) ? ' *' : ''}`).join('\n')}\n`,
  ).join('\n');

export const keyPositions: Rule = {
  code: 'keys-in-one-place',
  name: 'The key too often in one place',
  why: 'Who guesses the same letter throughout scores too well.',
  source: guideline(20),
  ofSet({ items }, { chance }) {
    const choices = items.filter((i): i is Item & { kind: 'multiple-choice' } => i.kind === 'multiple-choice' && keyPlaces(i).length === 1);
    const out: ReturnType<NonNullable<Rule['ofSet']>> = [];
    for (const size of [3, 4, 5]) {
      const of = choices.filter((i) => i.options.length === size);
      if (of.length < 6) continue;
      const counts = Array.from({ length: size }, (_, p) => of.filter((i) => keyPlaces(i)[0] === p).length);
      const p = multinomialEven(counts);
      if (p > chance) continue;
      const operations = balanceKeys(of);
      const most = counts.indexOf(Math.max(...counts));
      out.push({
        severity: 'warning',
        items: of.map((i) => i.id),
        place: 'key',
        message: `Of ${of.length} items with ${size} options, ${counts[most] ?? 0} have the key at ${letterOf(most)}. By chance that happens ${inWords(p)}.`,
        ...(operations.length && { fix: { label: 'Shuffle to balance', operations } }),
      });
    }
    return out;
  },
  examples: {
    found: [choices(() => 1)],
    fine: [choices((n) => n % 4), '1. What is rye?\na) a fish\nb) a grain *\nc) a fat'],
  },
};
