import type { QuizSet } from '@zakuska/core';
import { useMemo } from 'react';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { Going } from './deliver.worker.js';
import { deliverer } from './useFits.js';

interface Question {
  set: QuizSet;
  service: string;
}
const piecesCall = () =>
  latestFrom(deliverer, async (remote, question: Question) => ({ question, pieces: await remote.pieces(question.set, question.service) }));

/** What goes to a service, item by item; null until it is known for the set as it now is. */
export function usePieces(set: QuizSet, service: string): Going[] | null {
  const question = useMemo<Question>(() => ({ set, service }), [set, service]);
  const { value } = useLatest(question, piecesCall);
  return value?.question === question ? value.pieces : null;
}
