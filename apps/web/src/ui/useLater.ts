/** Parts of the page that are fetched when the first question needs them. Until then, and without a connection, what is simpler does the same. */
import { useEffect, useState } from 'react';

const fetched = new Map<() => Promise<unknown>, unknown>();

/**
 * What `load` brings; null until it is there.
 * @param load the same function each time
 * @param wanted whether it is needed here
 */
export function useLater<T extends object>(load: () => Promise<T>, wanted: boolean): T | null {
  const [ready, setReady] = useState(() => (fetched.get(load) as T | undefined) ?? null);
  useEffect(() => {
    if (!wanted || ready) return;
    let here = true;
    load().then(
      (it) => {
        fetched.set(load, it);
        if (here) setReady(() => it);
      },
      () => undefined,
    );
    return () => void (here = false);
  }, [load, wanted, ready]);
  return wanted ? ready : null;
}
