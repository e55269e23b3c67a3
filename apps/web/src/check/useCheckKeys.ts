/** The keys of the keyboard in Check: the list that people are shown, and who hears them. */
import { useEffect, useRef } from 'react';

export const KEYS: readonly (readonly [string, string])[] = [
  ['J or ↓', 'next item'],
  ['K or ↑', 'previous item'],
  ['1 to 9', 'set the key: first, second … option; 1 true, 2 false'],
  ['C', 'mark as checked, and on to the next'],
  ['X', 'leave out, or take back in'],
  ['E', 'edit the item; Escape ends'],
  ['T', 'try an answer'],
  ['V', 'what the source says of the key'],
  ['M', 'mend: do what the first finding offers'],
  ['D', 'set the first finding aside, with a reason'],
  ['N', 'next item with an error'],
  ['F', 'next item with a finding'],
  ['G', 'next item that the source does not support'],
  ['O', 'next item that is open'],
  ['S', 'choose the item, or not'],
  ['A', 'choose all that are shown, or none'],
  ['B', 'change the chosen items'],
  ['R', 'find and replace'],
  ['/', 'words to find'],
  ['P', 'preview as a learner'],
  ['H', 'history'],
  ['U or Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['Ctrl K', 'any action by name'],
];

export interface CheckKeys {
  /** What each key does; those that change something are left out for who may only read. */
  keys: Readonly<Record<string, () => void>>;
  /** 1 to 9; nothing where the item has no such option. */
  digit: ((n: number) => void) | null;
  /** Closes whatever is open. */
  escape: () => void;
}

const isTyping = (t: HTMLElement): boolean =>
  /^(TEXTAREA|SELECT)$/.test(t.tagName) || (t.tagName === 'INPUT' && !/^(checkbox|radio)$/.test((t as HTMLInputElement).type)) || t.isContentEditable;

/** Hears the keys while Check is shown. Whoever types, and whatever has keys of its own, keeps them. */
export function useCheckKeys(now: CheckKeys): void {
  const latest = useRef(now);
  latest.current = now;
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const t = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || t.closest('[role=dialog], math-field')) return;
      const { keys, digit, escape } = latest.current;
      // in the editor all keys but Escape are its own, in the try box those that choose an answer
      const own = isTyping(t) || t.closest('[data-own-keys=all]') !== null;
      if (e.key === 'Escape') {
        if (own) t.blur();
        else e.preventDefault();
        return escape();
      }
      if (own || (t.closest('[data-own-keys=choices]') && /^(?:[1-9]|Arrow\w+)$/.test(e.key))) return;
      const run = keys[e.key] ?? (digit && /^[1-9]$/.test(e.key) ? () => digit(Number(e.key)) : undefined);
      if (!run) return;
      e.preventDefault();
      run();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
}
