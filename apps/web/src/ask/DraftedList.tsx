/** What was drafted, item by item with where it comes from: kept unless it is left out. Y keeps, N leaves out, J and K go on and back. */
import { type Item, nameOf, writeNotation } from '@zakuska/core';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { ItemView } from '../item/ItemView.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { say } from '../words/say.js';

export interface Offered {
  /** The same as long as the same thing is asked. */
  key: string;
  item: Item;
  /** Where it comes from, or how it was made. */
  beside: ReactNode;
}

interface Props {
  offered: readonly Offered[];
  /** Said beside the number: what there is too little of. */
  note?: ReactNode;
  busy: boolean;
  /** What else is to be done once they stand in the draft. */
  onPut?: () => Promise<void>;
}
export function DraftedList({ offered, note, busy, onPut }: Props) {
  const { view, draft } = useOpenSet();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState(0);
  const list = useRef<HTMLOListElement>(null);
  const navigate = useNavigate();
  const now = offered[Math.min(at, offered.length - 1)];
  const kept = offered.filter((o) => !out.has(o.key));
  const leave = (key: string | undefined, left: boolean): void => {
    if (key === undefined) return;
    setOut((s) => {
      const next = new Set(s);
      if (left) next.add(key);
      else next.delete(key);
      return next;
    });
  };
  const go = (by: number): void => setAt((a) => Math.max(0, Math.min(offered.length - 1, a + by)));
  useCommands([
    { name: say('Leave the item out'), keys: ['N'], keysOnly: true, run: () => (leave(now?.key, true), go(1)) },
    { name: say('Keep the item'), keys: ['Y'], keysOnly: true, run: () => (leave(now?.key, false), go(1)) },
    { name: say('Next item'), keys: ['J', 'ArrowDown'], keysOnly: true, run: () => go(1) },
    { name: say('Previous item'), keys: ['K', 'ArrowUp'], keysOnly: true, run: () => go(-1) },
  ]);
  useEffect(() => {
    if (at) list.current?.children[at]?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const put = async (): Promise<void> => {
    draft.add(writeNotation({ title: '', items: kept.map((o) => o.item) }));
    await onPut?.();
    toast(say('{kept, plural, one {# item} other {# items}} put into the draft. Undo in the draft takes them out again.', { kept: kept.length }));
    await navigate(`/sets/${view.id}/draft`);
  };
  return (
    <section aria-label={say('Drafted items')} className="grid content-start gap-3">
      <div className="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-rule bg-paper py-2">
        <p role="status" className="min-w-0 flex-1 text-sm">
          {busy
            ? say('Drafting …')
            : `${say('{offered, plural, one {# item} other {# items}}', { offered: offered.length })}${out.size && kept.length < offered.length ? say(', {n} left out', { n: offered.length - kept.length }) : ''}`}
          {!busy && note}
        </p>
        <Button look="primary" disabled={busy || !kept.length} onClick={() => void put()}>
          {busy ? say('Put them into the draft') : say('Put {kept, plural, one {# item} other {# items}} into the draft', { kept: kept.length })}
        </Button>
      </div>
      <ol ref={list} className="grid gap-3">
        {offered.map((o, n) => {
          const left = out.has(o.key);
          return (
            <li key={o.key}>
              <article
                aria-label={`${n + 1}: ${nameOf(o.item, 60)}`}
                aria-current={o === now}
                className={`grid gap-x-6 gap-y-2 rounded border p-3 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] ${o === now ? 'border-beet bg-sheet' : 'border-rule'}`}
                onClick={() => setAt(n)}
              >
                <div className={left ? 'text-ink-2 line-through' : ''}>
                  {/* its sentence stands beside it */}
                  <ItemView item={{ ...o.item, feedback: undefined }} />
                </div>
                <div className="grid content-start justify-items-start gap-1.5 text-[13.5px] text-ink-2">
                  {o.beside}
                  <Button look="quiet" className="-ml-2" aria-pressed={left} onClick={() => leave(o.key, !left)}>
                    {left ? say('Keep after all') : say('Leave out')}
                  </Button>
                </div>
              </article>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
