/** Readings as they are compared. */
import type { DraftResult } from '../read.js';

/** Everything but ids, which are new in each reading; doubts name their items by place. */
export function withoutIds(r: DraftResult): unknown {
  const place = new Map(r.set.items.map((i, n) => [i.id, n]));
  const plain = JSON.stringify(r, (k, v: unknown) =>
    k === 'id' && typeof v === 'string' && !/^s\d+$|^\d+$/.test(v) ? '' : k === 'item' ? place.get(v as string) : v,
  );
  return JSON.parse(plain);
}
