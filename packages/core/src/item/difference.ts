/** What has to be done to one version of a set to get another: the shortest list of operations that says it item by item. */
import type { SimpleOperation } from './operations.js';
import type { Item, QuizSet } from './model.js';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Operations that turn `from` into `to`: items are the same where their ids are. A changed item loses its check; one
 * that only stands elsewhere keeps it.
 */
export function difference(from: QuizSet, to: QuizSet): SimpleOperation[] {
  const out: SimpleOperation[] = [];
  const before = new Map(from.items.map((i) => [i.id, i]));
  const after = new Set(to.items.map((i) => i.id));
  const set: { title?: string; description?: string; language?: string; sections?: NonNullable<QuizSet['sections']> } = {};
  const unset: ('description' | 'language' | 'sections')[] = [];
  if (to.title !== from.title) set.title = to.title;
  for (const name of ['description', 'language', 'sections'] as const) {
    if (same(from[name], to[name])) continue;
    const value = to[name];
    if (value === undefined) unset.push(name);
    else Object.assign(set, { [name]: value });
  }
  if (Object.keys(set).length || unset.length) out.push({ type: 'describe', set, ...(unset.length && { unset }) });
  // one by one: those that an operation removes together have to stand together
  for (const i of from.items) if (!after.has(i.id)) out.push({ type: 'remove', ids: [i.id] });
  for (const item of to.items) {
    const was = before.get(item.id);
    if (was && !same(was, item)) out.push(onlyHome(was, item) ?? { type: 'replace', item, review: null });
  }
  const order = from.items.filter((i) => after.has(i.id)).map((i) => i.id);
  to.items.forEach((item, at) => {
    if (!before.has(item.id)) {
      out.push({ type: 'insert', at, items: [item] });
      order.splice(at, 0, item.id);
    } else if (order[at] !== item.id) {
      out.push({ type: 'move', id: item.id, to: at });
      order.splice(order.indexOf(item.id), 1);
      order.splice(at, 0, item.id);
    }
  });
  return out;
}

/** An item that only moved to another part is not changed in what was checked. */
function onlyHome(was: Item, item: Item): SimpleOperation | null {
  const { section: _was, ...a } = was;
  const { section, ...b } = item;
  if (!same(a, b)) return null;
  return section === undefined ? { type: 'change', id: item.id, set: {}, unset: ['section'] } : { type: 'change', id: item.id, set: { section } };
}
