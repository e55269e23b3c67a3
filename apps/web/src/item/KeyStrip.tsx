/** The keys of the whole set in order, by position, with state: imbalance and gaps are seen before they are read. */
import { isQuestion, keyPlaces, keyProblem, keySign, letterOf, type Item, type Review } from '@zakuska/core';
import { type KeyboardEvent, memo, type ReactNode, useEffect, useMemo, useRef } from 'react';
import { flushSync } from 'react-dom';
import { useRows } from '../ui/useRows.js';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';

export interface Cell {
  id: string;
  sign: string;
  state: 'open' | 'checked' | 'error' | 'out';
  name: string;
}

const SAID: Readonly<Record<Cell['state'], string>> = { open: say('not checked'), checked: say('checked'), error: say('error'), out: say('left out') };
export const cellOf = (item: Item, n: number, review: Review | undefined, wrong = false): Cell => {
  const none = keyProblem(item);
  const state = review?.state === 'left-out' ? 'out' : none || wrong ? 'error' : review?.state === 'checked' ? 'checked' : 'open';
  return {
    id: item.id,
    sign: keySign(item),
    state,
    name: say('Item {label}: {what}, {SAID}', {
      label: item.label ?? n + 1,
      what: none ? retold(none.message) : say('key {keySign}', { keySign: keySign(item) }),
      SAID: SAID[state],
    }),
  };
};

/** How often each option is the key, and true against false; in words where one side is much too heavy. */
export function balance(items: readonly Item[]): { letters: string; truth: string; oneSided: boolean } {
  const counts = new Map<string, number>();
  let yes = 0;
  let no = 0;
  for (const i of items) {
    if (i.kind === 'multiple-choice') for (const p of keyPlaces(i)) counts.set(letterOf(p), (counts.get(letterOf(p)) ?? 0) + 1);
    if (i.kind === 'true-false' && i.answer === true) yes++;
    if (i.kind === 'true-false' && i.answer === false) no++;
  }
  const letters = [...counts]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([l, n]) => `${l} ${n}`)
    .join(' · ');
  // Common practice, no source: of at least five statements, four fifths on one side let a guesser pass.
  return {
    letters: letters && say('keys {letters}', { letters }),
    truth: yes + no ? say('true {yes} · false {no}', { yes, no }) : '',
    oneSided: yes + no >= 5 && Math.max(yes, no) / (yes + no) >= 0.8,
  };
}

/** px of a cell and the gap behind it, before it is measured. */
const CELL = 33;

/** Drawn anew only when it changed: a set has thousands of them. */
const StripCell = memo(function StripCell({
  id,
  sign,
  state,
  name,
  place,
  measure,
  now,
  stop,
  onPick,
}: Cell & {
  place: number;
  measure: (cell: Element | null) => void;
  now: boolean;
  /** The Tab key stops here; the others are reached by arrows. */
  stop: boolean;
  onPick: (id: string) => void;
}) {
  return (
    <span ref={measure} data-index={place} className="flex-none pr-[3px]">
      <button
        type="button"
        className={`cell ${state} ${now ? 'now' : ''}`}
        title={name}
        aria-label={name}
        aria-current={now ? 'true' : undefined}
        tabIndex={stop ? 0 : -1}
        onClick={() => onPick(id)}
      >
        {sign}
      </button>
    </span>
  );
});

export function KeyStrip({
  cells,
  now,
  onPick,
  left,
  items,
}: {
  cells: Cell[];
  now?: string | undefined;
  onPick: (id: string) => void;
  left: ReactNode;
  items: readonly Item[];
}) {
  const b = useMemo(() => balance(items.filter(isQuestion)), [items]);
  const latest = useRef(onPick);
  latest.current = onPick;
  const pick = useRef((id: string) => latest.current(id));
  const strip = useRef<HTMLDivElement>(null);
  const at = now === undefined ? -1 : cells.findIndex((c) => c.id === now);
  const { places, before, after, measure, show } = useRows({
    count: cells.length,
    scroll: strip,
    list: strip,
    estimate: CELL,
    keyOf: (i) => cells[i]?.id ?? '',
    horizontal: true,
  });
  useEffect(() => {
    if (at >= 0) show(at);
  }, [at, show]);
  /** Arrows, Home and End go from key to key: the whole strip is one stop for the Tab key. */
  const step = (e: KeyboardEvent): void => {
    const from = Number((e.target as Element).closest<HTMLElement>('[data-index]')?.dataset['index']);
    const ways: Record<string, number> = { ArrowRight: from + 1, ArrowLeft: from - 1, Home: 0, End: cells.length - 1 };
    const to = ways[e.key];
    const cell = to === undefined ? undefined : cells[to];
    if (Number.isNaN(from) || to === undefined || !cell || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    flushSync(() => pick.current(cell.id));
    show(to);
    const focused = (): boolean => {
      const button = strip.current?.querySelector<HTMLElement>(`[data-index="${to}"] button`);
      button?.focus();
      return Boolean(button);
    };
    // in the same tick, for who types ahead; one that was out of sight is drawn first
    if (!focused()) requestAnimationFrame(focused);
  };
  return (
    <section aria-label={say('Key strip')} className="flex items-center gap-3 border-b border-rule bg-sheet px-4 py-1.5 sm:px-6">
      <div className="text-[13px]/[1.45] whitespace-nowrap text-ink-2">{left}</div>
      <div ref={strip} className="flex min-w-0 flex-1 overflow-x-auto p-1" role="group" aria-label={say('Keys of the set')} onKeyDown={step}>
        {before > 0 && <span className="flex-none" style={{ width: before }} />}
        {places.map((i) => {
          const c = cells[i];
          return c && <StripCell key={c.id} {...c} place={i} measure={measure} now={c.id === now} stop={i === Math.max(0, at)} onPick={pick.current} />;
        })}
        {after > 0 && <span className="flex-none" style={{ width: after }} />}
      </div>
      <div className="hidden text-right text-[13px]/[1.45] whitespace-nowrap text-ink-2 lg:block">
        {b.letters && <div>{b.letters}</div>}
        {b.truth && (
          <div>
            {b.truth} {b.oneSided && <b className="text-amber">{say('one-sided')}</b>}
          </div>
        )}
      </div>
    </section>
  );
}
