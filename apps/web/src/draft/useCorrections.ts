/** What a person says lines are: it is taken over, and what the reader learned from it is told, with a way back. */
import { type Role, taughtBy } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { type RefObject, useCallback, useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { inSentence, say } from '../words/say.js';
import { override } from './editor.js';
import { ROLES } from './roles.js';
import { readAll, type Reading } from './useReading.js';

/** What a line, from 0, is; null takes back what was said of it. */
export interface Said {
  line: number;
  role: Role | null;
}

export function useCorrections(view: RefObject<EditorView | null>, reading: Reading | null): (said: readonly Said[]) => void {
  // what a correction taught is told once the reading that knows it is there
  const corrected = useRef<{ said: readonly Said[]; before: Reading } | null>(null);
  const correct = useCallback(
    (said: readonly Said[]): void => {
      const v = view.current;
      if (!v) return;
      const sure = said.filter((s) => s.role !== null);
      corrected.current = sure.length && readAll(reading, v.state.doc.toString()) ? { said: sure, before: reading } : null;
      override(v, said);
    },
    [view, reading],
  );
  useEffect(() => {
    const c = corrected.current;
    if (!c || !reading || reading === c.before || reading.text !== c.before.text) return;
    corrected.current = null;
    const own = new Set(c.said.map((s) => s.line));
    const further = [...new Set(c.said.flatMap((s) => taughtBy(c.before.roles, reading.roles, s.line)))].filter((l) => !own.has(l)).length;
    const told = whatFollowed(c.said, further, reading.set.items.length);
    const takeBack = (): void => {
      if (view.current)
        override(
          view.current,
          c.said.map((s) => ({ line: s.line, role: null })),
        );
    };
    if (told) toast(told, { duration: 10_000, action: { label: say('Undo'), onClick: takeBack } });
  }, [view, reading]);
  return correct;
}

/** What followed from a correction, where more did than was said; `further` lines are read likewise now. */
function whatFollowed(said: readonly Said[], further: number, items: number): string | null {
  const [one] = said;
  if (said.length > 1)
    return say('Read as you showed{what}: {items} questions.', {
      what: further ? say(', and {further} further {further, plural, one {line} other {lines}} like them', { further }) : '',
      items,
    });
  if (!one || !further) return null;
  const name = inSentence(ROLES.find((r) => r.role === one.role)?.name ?? one.role ?? '');
  return say('{further} further {further, plural, one {line is} other {lines are}} read as “{name}” too.', { further, name });
}
