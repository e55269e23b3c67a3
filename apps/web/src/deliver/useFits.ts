import type { QuizSet } from '@zakuska/core';
import { useMemo } from 'react';
import { WorkerClient } from '../worker/client.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { Deliverer, Fits, KeptTemplate } from './deliver.worker.js';

/** The worker that fits, writes and rehearses; one for the page. */
export const deliverer = new WorkerClient<Deliverer>(() => new Worker(new URL('./deliver.worker.js', import.meta.url), { type: 'module' }));

interface Question {
  set: QuizSet;
  forms: Readonly<Record<string, string>>;
  templates: readonly KeptTemplate[];
}

const fitsCall = () =>
  latestFrom(
    deliverer,
    async (remote, { set, forms, templates }: Question): Promise<{ fits: Fits; items: number }> => ({
      fits: await remote.fits(set, forms, templates),
      items: set.items.length,
    }),
  );

/**
 * What every item becomes at every destination. While a set changes, what was known stays, as long as it has as many items.
 * @param templates those that the workspace keeps, each a destination by its id
 * @param forms the form chosen at each destination; a new object is a new question
 */
export function useFits(
  set: QuizSet,
  forms: Readonly<Record<string, string>>,
  templates: readonly KeptTemplate[],
): { fits: Fits | null; failed: boolean; again: () => void } {
  const question = useMemo<Question>(() => ({ set, forms, templates }), [set, forms, templates]);
  const { value, failed, again } = useLatest(question, fitsCall);
  return { fits: value?.items === set.items.length ? value.fits : null, failed, again };
}
