import type { Fit, QuizSet } from '@zakuska/core';
import { wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { Deliverer } from './deliver.worker.js';

let remote: ReturnType<typeof wrap<Deliverer>> | undefined;
/** The worker that fits, writes and rehearses; one for the page. */
export const deliverer = (): ReturnType<typeof wrap<Deliverer>> =>
  (remote ??= wrap<Deliverer>(new Worker(new URL('./deliver.worker.ts', import.meta.url), { type: 'module' })));

/** What every item becomes at every destination; null until it is known. While a set changes, what was known stays. */
export function useFits(set: QuizSet, forms: Readonly<Record<string, string>>): Record<string, Fit[]> | null {
  const [known, setKnown] = useState<{ fits: Record<string, Fit[]>; set: QuizSet } | null>(null);
  const key = JSON.stringify(forms);
  useEffect(() => {
    let current = true;
    void deliverer()
      .fits(set, JSON.parse(key) as Record<string, string>)
      .then((fits) => current && setKnown({ fits, set }));
    return () => {
      current = false;
    };
  }, [set, key]);
  return known && known.set.items.length === set.items.length ? known.fits : null;
}
