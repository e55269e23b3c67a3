/** Pools for tests. */
import { newId } from '../item/ids.js';
import type { Item, QuizSet } from '../item/model.js';
import { kinds } from '../item/kinds.js';
import type { PoolItem } from './blueprint.js';

const THINGS = 'flour oven knife sauce herb pan spoon bowl whisk tray yeast starter crust crumb broth stock vinegar brine butter pastry'.split(' ');
const DISHES = 'bread soup cake salad stew rolls pasta pickles pie relish'.split(' ');
const WHENS = 'today tomorrow spring noon night winter'.split(' ');
/** Outcomes that the made items take turns in. */
export const OUTCOMES = ['Yeast', 'Heat', 'Safety'];

/** The nth of items that ask different things; its fields may be said otherwise. */
export function made(n: number, more: Partial<Item> = {}): Item {
  const stem = `Which ${THINGS[n % 20] ?? ''} of shelf ${n * 7 + 1} suits the ${DISHES[Math.floor(n / 2) % 10] ?? ''} of ${WHENS[n % 6] ?? ''}, case ${n}?`;
  return {
    ...kinds['multiple-choice'].blank(),
    id: `item-${n}`,
    stem,
    outcomes: [OUTCOMES[n % 3] as string],
    points: 1 + (n % 2),
    level: { difficulty: ((n * 37) % 100) / 100 },
    options: [0, 1, 2, 3].map((j) => ({ id: newId(), content: `${DISHES[(n + j * 3) % 10] ?? ''} ${n * 11 + j * 5}`, credit: j === n % 4 ? 1 : 0 })),
    ...more,
  } as Item;
}
/** Items as a pool of one set. */
export const pooled = (items: Item[], set: Partial<QuizSet> = {}): PoolItem[] => {
  const whole: QuizSet = { title: 'Pool', ...set, items };
  return items.map((item) => ({ item, set: whole }));
};
