/** Long lists draw what is in sight. Short ones are whole on the page, for the browser's own search, for print and for screen readers. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useCallback, useLayoutEffect, useState } from 'react';

/** Lists of up to so many rows are drawn whole. */
export const WHOLE = 200;

export interface Rows {
  /** Places of the rows to draw, in order. */
  places: readonly number[];
  /** px that stand for the rows before and after them. */
  before: number;
  after: number;
  /** Is given every drawn row, which bears its place as `data-index`: rows may differ in size, and change it. */
  measure: (row: Element | null) => void;
  /** Brings a row into sight. */
  show: (place: number) => void;
}

/**
 * The rows of a list that are to be drawn.
 * @param count how many there are
 * @param scroll the element that scrolls
 * @param list the element that the rows lie in
 * @param estimate px of a row before it is measured
 * @param keyOf what stays the same for a row while others come and go
 * @param always a row that is drawn although it is out of sight: the one that has the focus
 */
export function useRows({
  count,
  scroll,
  list,
  estimate,
  keyOf,
  always,
  horizontal = false,
  whole = WHOLE,
  beyond = horizontal ? 20 : 6,
}: {
  count: number;
  scroll: RefObject<HTMLElement | null>;
  list: RefObject<HTMLElement | null>;
  estimate: number;
  keyOf: (place: number) => string;
  always?: number | undefined;
  horizontal?: boolean;
  /** Up to so many are drawn whole. */
  whole?: number;
  /** So many are drawn beyond both edges. */
  beyond?: number;
}): Rows {
  const long = count > whole;
  const [margin, setMargin] = useState(0);
  useLayoutEffect(() => {
    if (!long || !scroll.current || !list.current || horizontal) return;
    const now = list.current.getBoundingClientRect().top - scroll.current.getBoundingClientRect().top + scroll.current.scrollTop;
    setMargin((was) => (Math.abs(was - now) > 1 ? now : was));
  }, [long, scroll, list, horizontal, count]);
  // oxlint-disable-next-line react/incompatible-library -- no compiler memoises this component
  const virtual = useVirtualizer({
    count: long ? count : 0,
    getScrollElement: () => scroll.current,
    estimateSize: () => estimate,
    getItemKey: keyOf,
    scrollMargin: margin,
    overscan: beyond,
    // what is shown has a neighbour in sight, so that one sees that it goes on
    ...(horizontal && { scrollPaddingStart: estimate + 8, scrollPaddingEnd: estimate + 8 }),
    horizontal,
  });
  const show = useCallback(
    (place: number) => {
      if (long) virtual.scrollToIndex(place, { align: 'auto' });
      else list.current?.querySelector(`[data-index="${place}"]`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    },
    [long, virtual, list],
  );
  if (!long) return { places: Array.from({ length: count }, (_, i) => i), before: 0, after: 0, measure: nothing, show };
  const drawn = virtual.getVirtualItems();
  const first = drawn[0];
  const last = drawn[drawn.length - 1];
  const places = drawn.map((r) => r.index);
  const extra = always !== undefined && always >= 0 && always < count && !places.includes(always) ? always : undefined;
  const above = extra !== undefined && extra < (places[0] ?? 0);
  const size = extra === undefined ? 0 : (virtual.measurementsCache[extra]?.size ?? estimate);
  return {
    // the one that is out of sight stands at the edge that it lies beyond, and takes its room from what stands for those
    places: extra === undefined ? places : above ? [extra, ...places] : [...places, extra],
    before: Math.max(0, (first ? first.start - margin : 0) - (above ? size : 0)),
    after: Math.max(0, (last ? virtual.getTotalSize() - (last.end - margin) : 0) - (extra !== undefined && !above ? size : 0)),
    measure: virtual.measureElement,
    show,
  };
}
const nothing = (): void => undefined;
