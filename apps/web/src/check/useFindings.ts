import { type Finding, findingKey, type SetDocument } from '@zakuska/core';
import { wrap, type Remote } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Checked, Checker } from './check.worker.js';

let remote: Remote<Checker> | undefined;
const checker = (): Remote<Checker> => (remote ??= wrap<Checker>(new Worker(new URL('./check.worker.ts', import.meta.url), { type: 'module' })));

/** What the checks find in the items that go out, without what was set aside. While one check runs, only the newest set waits for the next. */
export function useFindings(document: SetDocument): { findings: Finding[]; reading: Checked['reading'] } {
  const [found, setFound] = useState<Checked>({ findings: [], reading: null });
  const wanted = useRef<SetDocument['set'] | null>(null);
  const running = useRef(false);
  const going = useMemo(
    () => ({ ...document.set, items: document.set.items.filter((i) => document.reviews[i.id]?.state !== 'left-out') }),
    [document.set, document.reviews],
  );
  useEffect(() => {
    wanted.current = going;
    if (running.current) return;
    running.current = true;
    void (async () => {
      while (wanted.current) {
        const set = wanted.current;
        wanted.current = null;
        setFound(await checker().check(set));
      }
      running.current = false;
    })();
  }, [going]);
  return useMemo(
    () => ({ findings: found.findings.filter((f) => document.dismissed?.[findingKey(f)] === undefined), reading: found.reading }),
    [found, document.dismissed],
  );
}
