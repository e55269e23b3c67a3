/** The items that are chosen in Check, to be changed together. */
import type { Item } from '@zakuska/core';
import { useCallback, useMemo, useState } from 'react';

export interface Chosen {
  ids: ReadonlySet<string>;
  /** In the order of the set; what is no longer there is left away. */
  items: readonly Item[];
  /** Chooses an item or not; without `on` the other way round. */
  choose: (id: string, on?: boolean) => void;
  chooseOnly: (items: readonly Item[]) => void;
  /** All of some, or none where all of them are chosen. */
  chooseAll: (of: readonly Item[]) => void;
}

export function useChosen(items: readonly Item[]): Chosen {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const chosen = useMemo(() => items.filter((i) => ids.has(i.id)), [items, ids]);
  const choose = useCallback(
    (id: string, on?: boolean) => setIds((c) => ((on ?? !c.has(id)) ? new Set([...c, id]) : new Set([...c].filter((x) => x !== id)))),
    [],
  );
  const chooseOnly = useCallback((of: readonly Item[]) => setIds(new Set(of.map((i) => i.id))), []);
  const chooseAll = useCallback((of: readonly Item[]) => setIds((c) => (of.every((i) => c.has(i.id)) ? new Set() : new Set(of.map((i) => i.id)))), []);
  return { ids, items: chosen, choose, chooseOnly, chooseAll };
}
