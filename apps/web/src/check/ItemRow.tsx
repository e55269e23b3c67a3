/** One item on the sheet: its number, its state, what is read of it, and what opens under it. */
import { type Item, keyProblem, type Review } from '@zakuska/core';
import { memo, type ReactNode } from 'react';
import { Rich } from '../ui/Rich.js';
import { shortDay, dayAndTime } from '../ui/localTime.js';
import { ItemView } from '../item/ItemView.js';
import { say } from '../words/say.js';

const STATES = {
  out: { words: say('left out'), look: 'text-ink-2' },
  error: { words: say('error'), look: 'text-brick' },
  checked: { words: say('checked'), look: 'text-dill' },
  open: { words: say('not checked'), look: 'text-ink-2' },
} as const;

/** Drawn anew only when something of it changed: moving on redraws two rows, not a thousand. */
export const ItemRow = memo(function ItemRow({
  item,
  row,
  rows,
  measure,
  place,
  now,
  review,
  passage,
  chosen,
  choosing,
  mayEdit,
  bare,
  onPick,
  onChoose,
  children,
}: {
  item: Item;
  /** Its place among the rows that are shown, and how many those are. */
  row: number;
  rows: number;
  measure: (row: Element | null) => void;
  /** Its place in the set. */
  place: number;
  now: boolean;
  review: Review | undefined;
  passage: { title?: string | undefined; passage?: string | undefined } | null;
  chosen: boolean;
  /** Whether any item is chosen: then all boxes are in sight. */
  choosing: boolean;
  mayEdit: boolean;
  /** The item is being edited: its editor stands in place of it. */
  bare: boolean;
  onPick: (id: string) => void;
  onChoose: (id: string, on: boolean) => void;
  children: ReactNode;
}) {
  const none = keyProblem(item);
  const state = STATES[review?.state === 'left-out' ? 'out' : none ? 'error' : review?.state === 'checked' ? 'checked' : 'open'];
  const name = item.label ?? String(place + 1);
  const by = review?.state === 'checked' ? say('Checked by {by}, {dayAndTime}', { by: review.by, dayAndTime: dayAndTime(review.at) }) : undefined;
  return (
    <div ref={measure} data-index={row}>
      {passage && (
        <div className="border-t border-rule-2 py-3 pr-10 pl-[74px] first:border-t-0">
          {passage.title && <h2 className="font-bold text-beet">{passage.title}</h2>}
          {passage.passage && <Rich className="mt-1 max-w-prose text-ink-2" text={passage.passage} />}
        </div>
      )}
      <article
        data-item={item.id}
        aria-posinset={row + 1}
        aria-setsize={rows}
        aria-current={now ? 'true' : undefined}
        aria-label={say('Item {name}, {state}', { name, state: state.words })}
        onMouseDown={(e) => !now && !(e.target as HTMLElement).closest('button, a, input, label') && onPick(item.id)}
        className={`group grid grid-cols-[62px_minmax(0,1fr)] border-t border-rule-2 py-2.5 pr-4 [contain-intrinsic-size:auto_140px] sm:grid-cols-[74px_minmax(0,1fr)] sm:pr-10 ${now ? 'bg-linear-to-r from-beet-soft to-transparent to-30% shadow-[inset_3px_0_var(--beet)]' : 'cursor-pointer [content-visibility:auto]'} ${state === STATES.out ? 'text-ink-2' : ''}`}
      >
        <div className="pr-4 text-right font-[650] text-ink-2">
          {name}
          <small className={`block text-xs font-medium ${state.look}`} title={by}>
            {state.words}
            {now && review?.state === 'checked' && (
              <span className="block font-normal">
                <span className="block truncate">{review.by}</span>
                {shortDay(review.at)}
              </span>
            )}
          </small>
          {mayEdit && (
            <input
              type="checkbox"
              tabIndex={now ? 0 : -1}
              aria-label={say('Choose item {name}', { name })}
              checked={chosen}
              onChange={(e) => onChoose(item.id, e.target.checked)}
              className={`mt-1 size-[18px] accent-beet ${chosen || choosing || now ? '' : 'opacity-0 group-hover:opacity-100'}`}
            />
          )}
        </div>
        <div className={state === STATES.out && !bare ? 'line-through decoration-1' : ''} {...(item.language && { lang: item.language })}>
          {!bare && <ItemView item={item} />}
          {children}
        </div>
      </article>
    </div>
  );
});
