/** What can be left to helpers, as it is known to them: a row a chore. */
import type { Chore } from './helpers.js';
import { itemsChore } from './qti/v2/package.js';

const chores: readonly Chore<never, unknown>[] = [itemsChore];

/** Does a chore by its id. @throws Error for an id that is none, and whatever the chore throws */
export function doChore(id: string, input: unknown): unknown {
  const chore = chores.find((c) => c.id === id);
  if (!chore) throw new Error(`there is no chore called ${id}`);
  return chore.run(input as never);
}
