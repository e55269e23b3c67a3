/** The decisions that a person is about to take on answers, with what they would change; and those that were taken. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type Decision, decisionProblem, type Effect, effectOf, handsOf, type Judging, judgingOf } from '@zakuska/core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../../api/client.js';
import { decide, type Found, holding, type Source, takeBack } from '../sources.js';
import { say } from '../../words/say.js';

/** Decisions about the same thing: the later takes the place of the earlier. */
const sameThing = (a: Decision, b: Decision): boolean =>
  a.item === b.item &&
  a.type === b.type &&
  (a.type !== 'answer' || b.type !== 'answer' || (a.gap === b.gap && a.text === b.text)) &&
  (a.type !== 'key' || b.type !== 'key' || Object.keys(a.set).join() === Object.keys(b.set).join());

export interface Marking {
  /** As answers are marked now. */
  now: Judging;
  /** As they would be with what is about to be decided. */
  then: Judging;
  staged: readonly Decision[];
  effect: Effect;
  /** Puts a decision to those that are about to be taken. */
  stage: (d: Decision) => void;
  /** Takes the last of them away again. */
  unstage: () => void;
  discard: () => void;
  apply: () => void;
  applying: boolean;
  /** Takes kept decisions back. */
  back: (ids: string[]) => void;
  /** What one more decision would change. */
  effectWith: (d: Decision) => Effect;
}

/** @param name a staged list is kept under in this browser, so that a reload loses nothing */
export function useMarking(source: Source, found: Found, changed: () => void): Marking {
  const name = `marking of ${source.id}`;
  const [staged, setStaged] = useState<readonly Decision[]>(() => JSON.parse(sessionStorage.getItem(name) ?? '[]') as Decision[]);
  useEffect(() => {
    if (staged.length) sessionStorage.setItem(name, JSON.stringify(staged));
    else sessionStorage.removeItem(name);
  }, [name, staged]);
  const queries = useQueryClient();
  const settled = (): Promise<void> => {
    changed();
    return queries.invalidateQueries({ queryKey: ['results', source.id] });
  };
  const failed = (e: unknown): void => void toast.error(wordsOf(e));
  const applying = useMutation({
    mutationFn: (list: readonly Decision[]) => decide(source, [...list]),
    onSuccess: async (_, list) => {
      await settled();
      setStaged((now) => now.filter((d) => !list.includes(d)));
      toast.success(say('All answers are marked anew.'));
    },
    onError: failed,
  });
  const backing = useMutation({ mutationFn: (ids: string[]) => takeBack(source, ids), onSuccess: settled, onError: failed });
  const held = useMemo(() => holding(found.decisions), [found.decisions]);
  const now = useMemo(() => judgingOf(found.sent, held), [found.sent, held]);
  const then = useMemo(() => judgingOf(found.sent, [...held, ...staged]), [found.sent, held, staged]);
  const people = useMemo(() => {
    const hands = handsOf(held);
    return found.attempts.map((a) => ({ responses: a.responses, hands: hands.get(a.id), kept: a.kept }));
  }, [found.attempts, held]);
  const effect = useMemo(() => effectOf(now, then, [...new Set(staged.map((d) => d.item))], people), [now, then, staged, people]);
  const effectWith = useCallback(
    (d: Decision) => effectOf(then, judgingOf(found.sent, [...held, ...staged, d]), [d.item], people),
    [then, found.sent, held, staged, people],
  );
  return {
    now,
    then,
    staged,
    effect,
    stage: (d) => {
      const problem = decisionProblem(then.set.items.some((i) => i.id === d.item) ? then.set : found.sent, d);
      if (problem) toast.error(problem);
      else setStaged((before) => [...before.filter((b) => !sameThing(b, d)), d]);
    },
    unstage: () => setStaged((before) => before.slice(0, -1)),
    discard: () => setStaged([]),
    apply: () => {
      if (staged.length && !applying.isPending) applying.mutate(staged);
    },
    applying: applying.isPending,
    back: (ids) => backing.mutate(ids),
    effectWith,
  };
}
