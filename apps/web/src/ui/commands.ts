/**
 * What a person can do on a screen, each thing once: the keyboard runs it, the palette finds it by its name, the list of keys shows it.
 * A screen gives its commands with `useCommands` while it is shown.
 */
import { createContext, useContext, useEffect, useRef } from 'react';
import { say } from '../words/say.js';

export interface Command {
  /** What it does, as the palette and the list of keys say it. */
  name: string;
  /**
   * Keys that run it: "J", "ArrowDown", "F8", "Ctrl Shift Z". Signs are as they are typed: "?" and not "Shift /". On a Mac, Ctrl is also the command key.
   */
  keys?: readonly string[];
  /** How the keys are shown where it is not one by one: "1 to 9". */
  shown?: string;
  /** Means something only with its keys: not in the palette. */
  keysOnly?: boolean;
  /** Also while a person types in a field; others leave the keys to the field. */
  whileTyping?: boolean;
  /** @param key the one of `keys` that was pressed; '' from the palette */
  run: (key: string) => void;
}

const NAMES: Readonly<Record<string, string>> = { ArrowDown: '↓', ArrowUp: '↑', ArrowLeft: '←', ArrowRight: '→', Escape: 'Esc' };
/** The keys of a command as people read them: "J or ↓". */
export const shownKeys = (c: Command): string => c.shown ?? (c.keys ?? []).map((k) => k.replace(/\S+$/, (last) => NAMES[last] ?? last)).join(say(' or '));

/** A key event as `Command.keys` names it; '' while a sign is being composed. */
export function chordOf(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'> & { isComposing?: boolean }): string {
  if (e.isComposing || /^(?:Control|Meta|Alt|Shift|Dead|Process)$/.test(e.key)) return '';
  const letter = /^\p{L}$/u.test(e.key);
  // shift is part of a sign such as "?"
  const shift = e.shiftKey && (letter || e.key.length > 1);
  return [(e.ctrlKey || e.metaKey) && 'Ctrl', e.altKey && 'Alt', shift && 'Shift', letter ? e.key.toUpperCase() : e.key].filter(Boolean).join(' ');
}

/** Whether what is typed belongs to an element. */
export const isTyping = (t: Element): boolean =>
  /^(?:TEXTAREA|SELECT)$/.test(t.tagName) ||
  (t.tagName === 'INPUT' && !/^(?:checkbox|radio)$/.test((t as HTMLInputElement).type)) ||
  (t as HTMLElement).isContentEditable;

/**
 * Whether the keys of an event belong to where it comes from: a dialog, a field that is typed in, or a part of the page that says so
 * (`data-own-keys="all"`, or `"choices"` for digits and arrows).
 */
export function ownsKey(target: EventTarget | null, chord: string): 'all' | 'typing' | false {
  if (!(target instanceof Element)) return false;
  if (target.closest('[role=dialog], [role=alertdialog], [role=menu], math-field')) return 'all';
  if (isTyping(target) || target.closest('[data-own-keys=all]')) return 'typing';
  return target.closest('[data-own-keys=choices]') && /^(?:[1-9]|Arrow\w+)$/.test(chord) ? 'typing' : false;
}

export interface Palette {
  /** @param now gives the commands of a screen as they are when the palette opens */
  add(now: () => readonly Command[]): () => void;
  open(): void;
  /** All commands that hold now. */
  commands(): readonly Command[];
}
export const PaletteContext = createContext<Palette>({ add: () => () => undefined, open: () => undefined, commands: () => [] });
export const usePalette = (): Palette => useContext(PaletteContext);

/**
 * Commands that hold while a screen is shown. Of several with one key, the first that is shown runs.
 * @param commands may be new at every drawing; the newest count
 */
export function useCommands(commands: readonly Command[]): void {
  const { add } = usePalette();
  const newest = useRef(commands);
  newest.current = commands;
  useEffect(() => add(() => newest.current), [add]);
  useEffect(() => {
    /** From a field that is typed in, keys are taken before an editor does; all others once nobody else has taken them. */
    const hear = (early: boolean) => (e: KeyboardEvent) => {
      if (e.defaultPrevented) return;
      const chord = chordOf(e);
      const owner = ownsKey(e.target, chord);
      if (!chord || owner === 'all' || early !== (owner === 'typing')) return;
      const command = newest.current.find((c) => c.keys?.includes(chord) && (owner === false || c.whileTyping));
      if (!command) return;
      // Escape ends several things at once: what is typed in, and what it stands in
      if (chord !== 'Escape') {
        e.preventDefault();
        e.stopPropagation();
      }
      command.run(chord);
    };
    const [early, late] = [hear(true), hear(false)];
    addEventListener('keydown', early, true);
    addEventListener('keydown', late);
    return () => {
      removeEventListener('keydown', early, true);
      removeEventListener('keydown', late);
    };
  }, []);
}
