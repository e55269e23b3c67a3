/** Statements that are nearly all true, or nearly all false. */
import type { Item } from '../../item/model.js';
import { binomialTwoSided, inWords } from '../chance.js';
import { guideline, type Rule } from '../finding.js';

const truths = (answers: readonly boolean[]): string =>
  answers.map((a, n) => `${n + 1}. True or false: Statement ${n} of these holds water${n}.\nAnswer: ${String(a)}\n`).join('\n');

export const truthBalance: Rule = {
  code: 'true-false-out-of-balance',
  name: 'Statements nearly all true, or nearly all false',
  why: 'Who ticks the same throughout scores too well.',
  source: guideline(20),
  ofSet({ items }, { chance }) {
    const all = items.filter((i): i is Item & { kind: 'true-false' } => i.kind === 'true-false' && i.answer !== null);
    const yes = all.filter((i) => i.answer).length;
    const p = all.length < 5 ? 1 : binomialTwoSided(yes, all.length);
    // five of one sort happen six times in a hundred and are seen at once; a limit of one in a hundred would never tell
    if (p > Math.max(chance, 0.07) || (yes !== 0 && yes !== all.length && p > chance)) return [];
    return [
      {
        severity: 'warning',
        items: all.map((i) => i.id),
        place: 'key',
        message: `${yes} of ${all.length} statements are true. By chance so uneven a list happens ${inWords(p)}.`,
      },
    ];
  },
  examples: {
    found: [truths([true, true, true, true, true])],
    fine: [truths([true, true, true, true, false]), truths([true, false, true, false, true, false])],
  },
};
