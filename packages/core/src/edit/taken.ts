/** Items and sets that are copies of others: they know where from, and whether what they were taken from has changed since. */
import { newId, stableId } from '../item/ids.js';
import type { Item } from '../item/model.js';
import { nameOf } from '../item/kinds.js';
import type { Operation, Review, SetDocument } from '../item/operations.js';
import { canonical, changedFields } from '../item/sameness.js';
import { copyOf } from './bulk.js';

/** What an item says, in a text to compare: the same however its fields are ordered, its ids are called, its markup is written and it is numbered. */
export const contentPrint = (item: Item): string => stableId(JSON.stringify({ ...canonical(item), label: undefined }, inOrder));
/** The database gives fields back in an order of its own. */
const inOrder = (_: string, v: unknown): unknown =>
  v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1))) : v;

/**
 * Copies for another set: nothing goes along that only means something where they come from.
 * @param language of the items, where it is not that of the set they go to
 * @param set the id of the set they come from, where they are to remember it
 */
export const copiesFor = (items: readonly Item[], language?: string, set?: string): Item[] =>
  items.map((item) => {
    const { section: _s, label: _l, ...copy } = copyOf(item);
    return {
      ...copy,
      ...(language && !item.language && { language }),
      ...(set !== undefined && { takenFrom: { set, item: item.id, print: contentPrint(item) } }),
    } as Item;
  });

/** A value with ids exchanged, as values and as names of fields. */
function renamed(value: unknown, ids: ReadonlyMap<string, string>): unknown {
  if (typeof value === 'string') return ids.get(value) ?? value;
  if (Array.isArray(value)) return value.map((v) => renamed(v, ids));
  if (!value || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [ids.get(k) ?? k, renamed(v, ids)]));
}

/**
 * A copy of a set: items with ids of their own that know where they come from, in the same parts, with its versions and its aim.
 * @param set the id of the set; undefined where the copy is for somebody who cannot see it: then it remembers nothing
 * @param reviews whether it stays said which items were checked
 */
export function copyOfSet(document: SetDocument, title: string, { set, reviews }: { set?: string; reviews: boolean }): SetDocument {
  const ids = new Map(document.set.items.map((i) => [i.id, newId()]));
  const items = document.set.items.map((item): Item => {
    const { takenFrom: _, source: __, ...kept } = item;
    const takenFrom = set === undefined ? {} : { takenFrom: { set, item: item.id, print: contentPrint(item) } };
    return { ...kept, ...takenFrom, id: ids.get(item.id) ?? newId() } as Item;
  });
  const { dismissed: _, work: __, drawn, ...rest } = document;
  const kept = Object.entries(document.reviews).filter(([, r]) => reviews || r.state === 'left-out');
  return {
    ...rest,
    set: { ...document.set, title, items },
    reviews: Object.fromEntries(kept.map(([id, r]): [string, Review] => [ids.get(id) ?? id, r])),
    ...(drawn && { drawn: renamed(drawn, ids) as typeof drawn }),
  };
}

/** An item that says what another says, in its own place: with its id, its part and its number. */
function saying(there: Item, mine: Item): Item {
  const [copy] = copiesFor([there]);
  const home = { ...(mine.section !== undefined && { section: mine.section }), ...(mine.label !== undefined && { label: mine.label }) };
  return { ...(copy as Item), ...home, id: mine.id, ...seen(mine, there) };
}
const rewritten = (label: string, item: Item): Operation => ({ type: 'all', label, operations: [{ type: 'replace', item }] });
/**
 * The step that brings a copy up to what it was taken from.
 * @param there the item that it was taken from, as it is now
 */
export const takeNewer = (mine: Item, there: Item): Operation => rewritten('the newer version taken', saying(there, mine));
/**
 * The step that makes an item of another set a copy of the one that is kept: one question from now on, with one history of its use.
 * @param set the id of the set that the kept one stands in
 */
export function joinWith(mine: Item, kept: Item, set: string): Operation {
  const takenFrom = kept.takenFrom ?? { set, item: kept.id, print: contentPrint(kept) };
  return rewritten(`Joined with “${nameOf(kept, 40)}”`, saying(kept, { ...mine, takenFrom }));
}

/** The fields in which two items say something else, by their names in the model; how they are numbered is none. */
export const saidOtherwise = (a: Item, b: Item): string[] => changedFields(a, b).filter((f) => f !== 'label');

/** The step that leaves a copy as it is: what changed until now is not told again. */
export const keepOwn = (mine: Item, there: Item): Operation => ({ type: 'change', id: mine.id, set: seen(mine, there) });
const seen = (mine: Item, there: Item): Pick<Item, 'takenFrom'> => (mine.takenFrom ? { takenFrom: { ...mine.takenFrom, print: contentPrint(there) } } : {});
