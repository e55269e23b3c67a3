/** Going through the items in Check: which are shown, which one is at hand, and what is open at it. */
import { type Evidence, type Filter, filterItems, type Finding, isFiltering, type Item, type SetDocument } from '@zakuska/core';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { holdKeys } from '../ui/heldKeys.js';
import type { Under } from './CurrentItem.js';

export interface Walk {
  filter: Filter;
  setFilter: (filter: Filter) => void;
  showAll: () => void;
  /** The items that are shown, in the order of the set. */
  shown: readonly Item[];
  /** The item at hand and its place among those that are shown; the first until one is picked. */
  item: Item | undefined;
  at: number;
  /** Whether an item was picked: the sheet then follows it. */
  follow: boolean;
  under: Under | null;
  setUnder: (under: Under | null) => void;
  /** Opens something under the item at hand, or closes it. */
  toggle: (under: Under) => void;
  /** The code of the finding that is being set aside. */
  asideOf: string | null;
  setAsideOf: (code: string | null) => void;
  endAside: () => void;
  go: (id: string | undefined) => void;
  /** Goes to an item from elsewhere on the page, also to one that is filtered away. */
  goFrom: (id: string, show?: 'evidence') => void;
  /** Goes so many items on, or back where it is negative. */
  step: (by: number) => void;
  /** Goes to the next shown item, from the one at hand on and round, of which something is true; tells where there is none. */
  next: (is: (i: Item) => boolean, none: string) => void;
  /** Opens the editor of an item that has just been added. */
  open: (id: string) => void;
}

export function useWalk(doc: SetDocument, findings: readonly Finding[], evidence: ReadonlyMap<string, Evidence>): Walk {
  const { items } = doc.set;
  // another stage may lead to one item
  const [params] = useSearchParams();
  const [current, setCurrent] = useState(params.get('item') ?? undefined);
  const [under, setUnder] = useState<Under | null>(params.has('edit') ? 'editor' : null);
  const [filter, setFilter] = useState<Filter>({});
  const [asideOf, setAsideOf] = useState<string | null>(null);

  const filtered = useMemo(() => (isFiltering(filter) ? filterItems(doc, filter, findings, evidence) : items), [doc, filter, findings, evidence, items]);
  // the item at hand stays in sight although a change takes it out of what is filtered for
  const shown = useMemo(() => {
    if (filtered === items || !current || filtered.some((i) => i.id === current) || under === null) return filtered;
    const keep = new Set([...filtered.map((i) => i.id), current]);
    return items.filter((i) => keep.has(i.id));
  }, [filtered, items, current, under]);
  const at = Math.max(
    0,
    shown.findIndex((i) => i.id === current),
  );

  const showAll = useCallback(() => setFilter({}), []);
  const endAside = useCallback(() => setAsideOf(null), []);
  const go = useCallback((id: string | undefined) => {
    if (!id) return;
    setCurrent(id);
    setUnder((u) => (u === 'evidence' ? u : null));
    setAsideOf(null);
  }, []);
  const goFrom = useCallback(
    (id: string, show?: 'evidence') => {
      if (!shown.some((i) => i.id === id)) setFilter({});
      go(id);
      if (show) setUnder(show);
    },
    [shown, go],
  );
  const step = useCallback((by: number) => go(shown[Math.min(shown.length - 1, Math.max(0, at + by))]?.id), [shown, at, go]);
  const next = useCallback(
    (is: (i: Item) => boolean, none: string) => {
      const order = [...shown.slice(at + 1), ...shown.slice(0, at + 1)];
      const found = order.find((i) => doc.reviews[i.id]?.state !== 'left-out' && is(i));
      if (found) go(found.id);
      else toast(none);
    },
    [shown, at, go, doc.reviews],
  );
  const toggle = useCallback(
    (u: Under) => {
      if (u === 'editor' && under !== 'editor') holdKeys();
      setUnder(under === u ? null : u);
    },
    [under],
  );
  const open = useCallback((id: string) => {
    setFilter({});
    setCurrent(id);
    setUnder('editor');
    setAsideOf(null);
  }, []);
  return {
    filter,
    setFilter,
    showAll,
    shown,
    item: shown[at],
    at,
    follow: current !== undefined,
    under,
    setUnder,
    toggle,
    asideOf,
    setAsideOf,
    endAside,
    go,
    goFrom,
    step,
    next,
    open,
  };
}
