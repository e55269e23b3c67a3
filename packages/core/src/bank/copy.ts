/** Items taken from one set into another. */
import { newId } from '../item/ids.js';
import type { Item } from '../item/model.js';

/** Copies for another set: new ids, and nothing that only means something where they come from. */
export const copiesFor = (items: readonly Item[], language?: string): Item[] =>
  items.map(({ section: _s, source: _f, label: _l, ...item }) => ({ ...item, id: newId(), ...(language && !item.language && { language }) }) as Item);
