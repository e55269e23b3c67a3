import type { Diagnostic, Item, KeysFrom, LineRole, LookCount, QuizSet, Role } from '@zakuska/core';
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Reader, ReadingChange } from './reader.worker.js';

let remote: ReturnType<typeof wrap<Reader>> | undefined;
const reader = (): ReturnType<typeof wrap<Reader>> => (remote ??= wrap<Reader>(new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module' })));

export interface Reading {
  /** The text that was read; newer text may be on its way. */
  text: string;
  set: QuizSet;
  diagnostics: Diagnostic[];
  /** How many lines were set aside. */
  asides: number;
  /** Looks of options that may say the keys. */
  looks: LookCount[];
  /** One for each line. */
  roles: LineRole[];
}

/** A reading from the one before and what changed. */
export function readingOf(change: ReadingChange, before: Reading | null, text: string): Reading {
  const items = change.items.map((c, i): Item => {
    const source = { from: change.places[2 * i] ?? 0, to: change.places[2 * i + 1] ?? 0 };
    const item = typeof c === 'number' ? (before?.set.items[c] as Item) : c;
    return item.source?.from === source.from && item.source.to === source.to ? item : { ...item, source };
  });
  const roles = Array.from(change.ofLine, (n) => change.roles[n] as LineRole);
  return { text, set: { ...change.set, items }, diagnostics: change.diagnostics, asides: change.asides, looks: change.looks, roles };
}

let names = 0;

/** Reads a text in the worker. While one reading runs, only the newest text waits for the next. */
export function useReading(
  text: string,
  overrides: readonly { line: number; role: Role }[],
  language: string | undefined,
  keysFrom: KeysFrom = 'auto',
): { reading: Reading | null; busy: boolean } {
  const [reading, setReading] = useState<Reading | null>(null);
  const [busy, setBusy] = useState(false);
  const name = useRef('');
  if (!name.current) name.current = `draft ${names++}`;
  const last = useRef<Reading | null>(null);
  const wanted = useRef<{ text: string; overrides: readonly { line: number; role: Role }[]; language: string | undefined; keysFrom: KeysFrom } | null>(null);
  const running = useRef(false);
  useEffect(() => {
    wanted.current = { text, overrides, language, keysFrom };
    if (running.current) return;
    running.current = true;
    void (async () => {
      const slow = setTimeout(() => setBusy(true), 400);
      while (wanted.current) {
        const w = wanted.current;
        wanted.current = null;
        const change = await reader().read(
          name.current,
          w.text,
          w.overrides.map((o) => [o.line, o.role]),
          w.language,
          w.keysFrom,
          last.current === null,
        );
        last.current = readingOf(change, last.current, w.text);
        setReading(last.current);
      }
      clearTimeout(slow);
      setBusy(false);
      running.current = false;
    })();
  }, [text, overrides, language, keysFrom]);
  return { reading, busy };
}
