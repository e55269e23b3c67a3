/** The items that are shown, one under the other; of many, those in sight. The item at hand comes into view. */
import type { Item } from '@zakuska/core';
import { type ReactNode, type RefObject, useEffect, useRef } from 'react';
import { useRows } from '../ui/useRows.js';
import { useHardMarks } from './useHardMarks.js';
import { say } from '../words/say.js';

/** px of an item with four options, before it is measured. */
const ROW = 150;

export function Sheet({
  shown,
  at,
  follow,
  under,
  scroll,
  language,
  hardMarks,
  sentenceWords,
  onShowAll,
  children,
}: {
  shown: readonly Item[];
  /** Place of the item at hand. */
  at: number;
  /** Whether somebody has gone to it: then it comes into view. */
  follow: boolean;
  /** What is open under it; it stays on the page although it is scrolled out of sight. */
  under: string | null;
  scroll: RefObject<HTMLElement | null>;
  language: string | undefined;
  hardMarks: boolean;
  sentenceWords: number;
  onShowAll: () => void;
  /** Draws an item; `measure` is for its outermost element, which bears the place as `data-index`. */
  children: (item: Item, place: number, measure: (row: Element | null) => void) => ReactNode;
}) {
  const sheet = useRef<HTMLDivElement>(null);
  const { places, before, after, measure, show } = useRows({
    count: shown.length,
    scroll,
    list: sheet,
    estimate: ROW,
    keyOf: (i) => shown[i]?.id ?? '',
    always: under ? at : undefined,
  });
  useHardMarks(sheet, hardMarks, language, sentenceWords, `${places[0]} ${places.length}`, shown);
  const id = shown[at]?.id;
  useEffect(() => {
    if (!follow || !id) return;
    // what opens under it is there at the next frame
    const frame = requestAnimationFrame(() => {
      const row = sheet.current?.querySelector(`[data-item="${id}"]`);
      if (row) row.scrollIntoView({ block: 'nearest' });
      else show(at);
    });
    return () => cancelAnimationFrame(frame);
  }, [follow, id, under, at, show]);
  return (
    <section ref={sheet} aria-label={say('Items')} className="min-h-full border-x border-rule bg-sheet pt-2 pb-[30vh]" {...(language && { lang: language })}>
      {!shown.length && (
        <p className="p-6 text-ink-2">
          {say('No item is like that.')}{' '}
          <button type="button" className="link" onClick={onShowAll}>
            {say('Show all')}
          </button>
        </p>
      )}
      {before > 0 && <div style={{ height: before }} />}
      {places.map((n) => {
        const item = shown[n];
        return item && children(item, n, measure);
      })}
      {after > 0 && <div style={{ height: after }} />}
    </section>
  );
}
