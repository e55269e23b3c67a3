import type { DraftResult, Role } from '@zakuska/core';
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Reader } from './reader.worker.js';

let remote: ReturnType<typeof wrap<Reader>> | undefined;
const reader = (): ReturnType<typeof wrap<Reader>> => (remote ??= wrap<Reader>(new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module' })));

export interface Reading extends DraftResult {
  /** The text that was read; newer text may be on its way. */
  text: string;
}

/** Reads the text in the worker. While one reading runs, only the newest text waits for the next. */
export function useReading(
  text: string,
  overrides: readonly { line: number; role: Role }[],
  language: string | undefined,
): { reading: Reading | null; busy: boolean } {
  const [reading, setReading] = useState<Reading | null>(null);
  const [busy, setBusy] = useState(false);
  const wanted = useRef<{ text: string; overrides: readonly { line: number; role: Role }[]; language: string | undefined } | null>(null);
  const running = useRef(false);
  useEffect(() => {
    wanted.current = { text, overrides, language };
    if (running.current) return;
    running.current = true;
    void (async () => {
      const slow = setTimeout(() => setBusy(true), 400);
      while (wanted.current) {
        const w = wanted.current;
        wanted.current = null;
        const result = await reader().read(
          w.text,
          w.overrides.map((o) => [o.line, o.role]),
          w.language,
        );
        setReading({ ...result, text: w.text });
      }
      clearTimeout(slow);
      setBusy(false);
      running.current = false;
    })();
  }, [text, overrides, language]);
  return { reading, busy };
}
