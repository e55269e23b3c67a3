import type { Diagnostic, Item, KeysFrom, LineRole, LookCount, QuizSet, Role } from '@zakuska/core';
import { useMemo } from 'react';
import { WorkerClient } from '../worker/client.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { DraftWorker, ReadingChange } from './reader.worker.js';

const reader = new WorkerClient<DraftWorker>(() => new Worker(new URL('./reader.worker.js', import.meta.url), { type: 'module' }));

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

interface Draft {
  text: string;
  overrides: readonly { line: number; role: Role }[];
  language: string | undefined;
  keysFrom: KeysFrom;
}

let names = 0;

function readingCall() {
  const name = `draft ${names++}`;
  let known: object | null = null;
  return latestFrom(reader, async (remote, { text, overrides, language, keysFrom }: Draft, before: Reading | null, worker): Promise<Reading> => {
    const fresh = known !== worker;
    known = null;
    const said = Array.from(overrides, (o): [number, Role] => [o.line, o.role]);
    const change = await remote.read(name, text, said, language, keysFrom, fresh);
    known = worker;
    return readingOf(change, before, text);
  });
}

/** Reads a text in the worker. While one reading runs, only the newest text waits for the next. */
export function useReading(
  text: string,
  overrides: readonly { line: number; role: Role }[],
  language: string | undefined,
  keysFrom: KeysFrom = 'auto',
): { reading: Reading | null; busy: boolean; failed: boolean; again: () => void } {
  const draft = useMemo<Draft>(() => ({ text, overrides, language, keysFrom }), [text, overrides, language, keysFrom]);
  const { value, ...state } = useLatest(draft, readingCall);
  return { reading: value, ...state };
}
