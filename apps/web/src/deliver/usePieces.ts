import type { QuizSet, Settings } from '@zakuska/core';
import { useMemo } from 'react';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { Going } from './deliver.worker.js';
import { deliverer } from './useFits.js';

interface Question {
  set: QuizSet;
  service: string;
  settings: Settings;
}
const piecesCall = () =>
  latestFrom(deliverer, async (remote, question: Question) => ({ question, pieces: await remote.pieces(question.set, question.service, question.settings) }));

/** What goes to a service, item by item; null until it is known for the set as it now is. */
export function usePieces(set: QuizSet, service: string, settings: Settings): Going[] | null {
  const question = useMemo<Question>(() => ({ set, service, settings }), [set, service, settings]);
  const { value } = useLatest(question, piecesCall);
  return value?.question === question ? value.pieces : null;
}
