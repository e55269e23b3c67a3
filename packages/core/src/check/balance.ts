/** Moves keys to other places so that no place has more than its share. */
import { plainOf } from '../item/richText.js';
import { keyPlaces } from '../item/kinds.js';
import { hash32 } from '../item/ids.js';
import type { Item, ItemOf } from '../item/model.js';
import type { SimpleOperation } from '../item/operations.js';
import { ALL_ABOVE, NONE_ABOVE, optionValue } from './options.js';

/** Options that name others by their place: "both A and C", "A and B only". */
const NAMES_PLACES = /(?<![\p{L}])(?:[A-F] (?:and|or|und|oder|et|ou|y|o|e) [A-F]|(?:answers?|options?|antworten?) [A-F])(?![\p{L}])/u;

/** Whether the options of an item stand in an order that means something: then none is moved. */
export function isOrdered(item: ItemOf<'multiple-choice'>): boolean {
  const texts = item.options.map((o) => plainOf(o.content));
  if (texts.some((t) => ALL_ABOVE.test(t) || NONE_ABOVE.test(t) || NAMES_PLACES.test(t))) return true;
  const values = item.options.map(optionValue);
  return values.every((v) => v !== null) && values.every((v, i) => i === 0 || (v ?? 0) >= (values[i - 1] ?? 0));
}

/**
 * Operations that spread the keys evenly over the places, among items with equally many options. A key changes places with one
 * option; pinned options and options in a meaningful order stay. The same set gives the same operations.
 */
export function balanceKeys(items: readonly Item[]): SimpleOperation[] {
  const choices = items.filter((i): i is ItemOf<'multiple-choice'> => i.kind === 'multiple-choice' && keyPlaces(i).length === 1);
  const out: SimpleOperation[] = [];
  for (const size of new Set(choices.map((i) => i.options.length))) {
    const of = choices.filter((i) => i.options.length === size);
    const counts = Array.from({ length: size }, () => 0);
    const place = (i: ItemOf<'multiple-choice'>): number => keyPlaces(i)[0] ?? 0;
    const free = of.filter((i) => !i.options[place(i)]?.pinned && !isOrdered(i));
    for (const i of of) if (!free.includes(i)) counts[place(i)] = (counts[place(i)] ?? 0) + 1;
    const share = Math.ceil(of.length / size);
    // those that may stay where they are stay; the rest go where fewest keys are
    const moving = free.filter((i) => {
      const p = place(i);
      if ((counts[p] ?? 0) >= share) return true;
      counts[p] = (counts[p] ?? 0) + 1;
      return false;
    });
    for (const item of moving) {
      const open = item.options.flatMap((o, p) => (o.pinned ? [] : [p]));
      const to = open.sort((a, b) => (counts[a] ?? 0) - (counts[b] ?? 0) || hash32(`${item.id}/${a}`) - hash32(`${item.id}/${b}`))[0] ?? place(item);
      counts[to] = (counts[to] ?? 0) + 1;
      const from = place(item);
      if (to === from) continue;
      const options = item.options.slice();
      [options[from], options[to]] = [options[to] as (typeof options)[0], options[from] as (typeof options)[0]];
      out.push({ type: 'change', id: item.id, set: { options } });
    }
  }
  return out;
}
