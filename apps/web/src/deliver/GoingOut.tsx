/** What goes, line by line: chosen before it goes, ticked off as it arrives. */
import { Check, Minus, Pencil, TriangleAlert, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { PushedItem } from './push.js';
import { say } from '../words/say.js';

export interface Line {
  item: string;
  name: string;
  state: 'new' | 'changed' | 'same';
  /** How many entries it becomes. */
  parts: number;
}
const STATE = { new: '', changed: say('changed since'), same: say('as there') } as const;

interface Props {
  lines: readonly Line[];
  without: ReadonlySet<string>;
  onWithout: (without: ReadonlySet<string>) => void;
  /** Whether there are items of the set in the container already. */
  known: boolean;
  /** Items of the set that stay here. */
  left: number;
}

export function GoingOut({ lines, without, onWithout, known, left }: Props) {
  const going = lines.filter((l) => !without.has(l.item));
  const all = going.length === lines.length;
  const count = (state: Line['state']): number => going.filter((l) => l.state === state).length;
  const said = [
    [count('new'), say('new')],
    [count('changed'), say('changed since')],
    [count('same'), say('as there already')],
  ] as const;
  const toggle = (item: string): void => {
    const next = new Set(without);
    if (!next.delete(item)) next.add(item);
    onWithout(next);
  };
  return (
    <fieldset className="min-w-0">
      <legend className="flex w-full items-baseline gap-2 text-[13.5px] font-semibold">
        <span className="flex-1">
          {all
            ? say('{lines, plural, one {One item goes} other {All # items go}}', { lines: lines.length })
            : say('{going} of {lines} items go', { going: going.length, lines: lines.length })}
          {left > 0 && <span className="font-normal text-brick"> · {say('{left, plural, one {one stays here} other {# stay here}}', { left })}</span>}
        </span>
        <button type="button" className="link font-normal" onClick={() => onWithout(all ? new Set(lines.map((l) => l.item)) : new Set())}>
          {all ? say('None') : say('All')}
        </button>
      </legend>
      {known && (
        <p className="text-[13px] text-ink-2">
          {said
            .filter(([n]) => n)
            .map(([n, words]) => `${n} ${words}`)
            .join(', ')}
        </p>
      )}
      <ul className="mt-1 max-h-56 overflow-auto rounded border border-rule" tabIndex={0} aria-label={say('What goes')}>
        {lines.map((l, n) => (
          <li key={l.item} className="border-b border-rule-2 last:border-0">
            <label className="flex min-h-7 cursor-pointer items-baseline gap-2 px-2 py-0.5 text-[13.5px] hover:bg-paper">
              <input type="checkbox" className="self-center accent-beet" checked={!without.has(l.item)} onChange={() => toggle(l.item)} />
              <span className="text-ink-2">{n + 1}</span>
              <span className="min-w-0 flex-1 truncate" title={l.name}>
                {l.name}
              </span>
              {l.parts > 1 && <span className="text-[12.5px] text-ink-2">{say('as {parts}', { parts: l.parts })}</span>}
              {STATE[l.state] && <span className={`text-[12.5px] ${l.state === 'changed' ? 'text-amber' : 'text-ink-2'}`}>{STATE[l.state]}</span>}
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

const MARKS: Record<PushedItem['status'], { icon: ReactNode; look: string; words: string }> = {
  waiting: { icon: <span className="block size-3.5" />, look: 'text-ink-2', words: say('waits') },
  arrived: { icon: <Check size={14} aria-hidden />, look: 'text-dill', words: say('arrived') },
  changed: { icon: <Pencil size={13} aria-hidden />, look: 'text-dill', words: say('changed there') },
  same: { icon: <Minus size={14} aria-hidden />, look: 'text-ink-2', words: say('was there') },
  'taken out': { icon: <X size={14} aria-hidden />, look: 'text-ink-2', words: say('taken out') },
  refused: { icon: <TriangleAlert size={14} aria-hidden />, look: 'text-brick', words: say('refused') },
};

/** The same lines while they go. */
GoingOut.Ticking = function Ticking({ items }: { items: readonly PushedItem[] }) {
  return (
    <ul className="mt-1 max-h-72 overflow-auto rounded border border-rule" tabIndex={0} aria-label={say('What goes')}>
      {items.map((i) => {
        const m = MARKS[i.status];
        return (
          <li key={i.key} className={`flex min-h-7 items-baseline gap-2 border-b border-rule-2 px-2 py-0.5 text-[13.5px] last:border-0 ${m.look}`}>
            <span className="self-center">{m.icon}</span>
            <span className="min-w-0 flex-1 truncate" title={i.name}>
              {i.name}
            </span>
            <span className="text-[12.5px]">{m.words}</span>
          </li>
        );
      })}
    </ul>
  );
};
