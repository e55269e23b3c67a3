/** What answers say of the items of a pool: how hard they are, and which were used last. */
import type { PoolItem } from './blueprint.js';

/** How an item did where it was answered. */
export interface ItemUse {
  answers: number;
  /** Mean share of its points that was earned, 0 to 1. */
  share?: number | undefined;
  /** When somebody answered it last, as ISO 8601. */
  at?: string | undefined;
}
/** From so many answers on an item's share says more of it than its given level; common practice, no source. */
export const ENOUGH_ANSWERS = 10;

/**
 * A pool with what answers say: difficulty where enough people answered, and 0 to 1 for how lately an item was used among those of the
 * pool that were, by their order in time, so that a draw does not hang on the day on which it is made.
 * @param use by the id of the item
 */
export function withUse(pool: readonly PoolItem[], use: Readonly<Record<string, ItemUse>>): PoolItem[] {
  const times = [...new Set(pool.flatMap(({ item }) => use[item.id]?.at ?? []))].sort();
  return pool.map((p) => {
    const own = Object.hasOwn(use, p.item.id) ? use[p.item.id] : undefined;
    if (!own?.answers) return p;
    return {
      ...p,
      ...(own.share !== undefined && own.answers >= ENOUGH_ANSWERS && { measured: 1 - own.share }),
      uses: own.at === undefined ? 0 : (times.indexOf(own.at) + 1) / times.length,
    };
  });
}
