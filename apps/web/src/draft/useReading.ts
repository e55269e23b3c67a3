import type { Diagnostic, Item, KeysFrom, LineRole, LookCount, QuizSet, Role } from '@zakuska/core';
import { useEffect, useMemo, useState } from 'react';
import { WorkerClient } from '../worker/client.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { DraftWorker, ReadingChange } from './reader.worker.js';

const reader = new WorkerClient<DraftWorker>(() => new Worker(new URL('./reader.worker.js', import.meta.url), { type: 'module' }));

export interface Reading {
  /** The text that was read; newer text may be on its way. */
  text: string;
  /** Every line of it was read for this; else what was typed last was read with the questions around it, and the whole follows. */
  whole: boolean;
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
  return { text, whole: change.whole, set: { ...change.set, items }, diagnostics: change.diagnostics, asides: change.asides, looks: change.looks, roles };
}

/** Whether a reading says all that is to be known of a text: what is done with items asks this first. */
export const readAll = (reading: Reading | null, text: string): reading is Reading => reading !== null && reading.whole && reading.text === text;

/** ms without typing after which the whole is read. */
const REST = 250;

interface Draft {
  text: string;
  whole: boolean;
  overrides: readonly { line: number; role: Role }[];
  language: string | undefined;
  keysFrom: KeysFrom;
}

let names = 0;
/** ms that the caret stays on a line before its surroundings are looked at. */
const STAYS = 80;

function readingCall(name: string) {
  let known: object | null = null;
  return latestFrom(reader, async (remote, { text, whole, overrides, language, keysFrom }: Draft, before: Reading | null, worker): Promise<Reading> => {
    const fresh = known !== worker;
    known = null;
    const said = Array.from(overrides, (o): [number, Role] => [o.line, o.role]);
    const change = await remote.read(name, text, said, language, keysFrom, fresh, whole);
    known = worker;
    return readingOf(change, before, text);
  });
}

/**
 * Reads a text in the worker. While one reading runs, only the newest text waits for the next. In a long text what is typed is read near by
 * first, and the whole once typing rests.
 */
export function useReading(
  text: string,
  overrides: readonly { line: number; role: Role }[],
  language: string | undefined,
  keysFrom: KeysFrom = 'auto',
  /** The line that the caret is on, from 0, where somebody writes. */
  caret?: number,
): { reading: Reading | null; busy: boolean; failed: boolean; again: () => void } {
  const [rested, setRested] = useState<string | null>(null);
  const whole = rested === text;
  const draft = useMemo<Draft>(() => ({ text, whole, overrides, language, keysFrom }), [text, whole, overrides, language, keysFrom]);
  const [name] = useState(() => `draft ${names++}`);
  const { value, ...state } = useLatest(draft, () => readingCall(name));
  const due = value !== null && !value.whole && value.text === text;
  useEffect(() => {
    if (!due) return;
    const timer = setTimeout(() => setRested(text), REST);
    return () => clearTimeout(timer);
  }, [due, text]);
  const settled = readAll(value, text);
  useEffect(() => {
    if (!settled || caret === undefined) return;
    const timer = setTimeout(() => void reader.call((remote) => remote.prepare(name, caret)).catch(() => undefined), STAYS);
    return () => clearTimeout(timer);
  }, [settled, caret, name]);
  return { reading: value, ...state };
}
