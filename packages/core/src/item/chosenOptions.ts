/** Credit of a multiple response for the options chosen. */
import type { ItemOf } from './model.js';

/** The share of the points that the chosen options earn, from 0 to 1: what negative credits would take below nothing is nothing. */
export function markChosen(item: Pick<ItemOf<'multiple-response'>, 'options' | 'scoring'>, chosen: ReadonlySet<string>): number {
  const keys = item.options.filter((o) => o.credit > 0);
  const right = keys.filter((o) => chosen.has(o.id)).length;
  const wrong = item.options.filter((o) => o.credit <= 0 && chosen.has(o.id)).length;
  const distractors = item.options.length - keys.length;
  const credit = ((): number => {
    switch (item.scoring) {
      case 'all-or-nothing':
        return right === keys.length && wrong === 0 ? 1 : 0;
      case 'per-option':
        return (right + distractors - wrong) / (item.options.length || 1);
      case 'right-minus-wrong':
        return right / (keys.length || 1) - (distractors ? wrong / distractors : 0);
      case 'weights':
        return item.options.reduce((sum, o) => sum + (chosen.has(o.id) ? o.credit : 0), 0);
    }
  })();
  return Math.min(1, Math.max(0, credit));
}
