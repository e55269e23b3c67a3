/** Pushes of the open set, and those under way followed one after another. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import { api, call } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { followPush, isOpen, type PushView } from './push.js';

const keyOf = (setId: string): readonly string[] => ['pushes', setId];

/** Pushes of the open set, the newest first. */
export function usePushes() {
  const { view } = useOpenSet();
  return useQuery({
    queryKey: keyOf(view.id),
    queryFn: () => call(api.GET('/api/v1/sets/{set}/pushes', { params: { path: { set: view.id } } })) as Promise<unknown> as Promise<PushView[]>,
  });
}

/**
 * The oldest push to a service that is under way, then the next, whoever began them. `over` hears of each as it ends;
 * `noted` takes in what the server said of a push meanwhile.
 */
export function useRunning(
  service: string,
  pushes: readonly PushView[] | undefined,
  over: (p: PushView) => void,
): { running: PushView | undefined; noted: (p: PushView) => void } {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const running = pushes?.findLast((p) => p.service === service && isOpen(p));
  const noted = useCallback(
    (p: PushView): void => {
      const key = keyOf(view.id);
      if (!queries.getQueryData(key)) {
        void queries.invalidateQueries({ queryKey: key });
        return;
      }
      // a list that was asked for before says less than this
      void queries.cancelQueries({ queryKey: key });
      queries.setQueryData<PushView[]>(key, (all = []) => (all.some((x) => x.id === p.id) ? all.map((x) => (x.id === p.id ? p : x)) : [p, ...all]));
    },
    [queries, view.id],
  );
  const heard = useRef(over);
  useEffect(() => {
    heard.current = over;
  });
  const id = running?.id;
  useEffect(() => {
    if (!id) return;
    return followPush(id, (p) => {
      noted(p);
      if (!isOpen(p)) heard.current(p);
    });
  }, [id, noted]);
  return { running, noted };
}
