/** A draw under way: the first answer at once, a better one while it is looked at, stopped when one likes. */
import type { Drawn, DrawPlan, ItemUse, QuizSet } from '@zakuska/core';
import { proxy } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import { WorkerClient, WorkerEnded } from '../worker/client.js';
import type { Drawer } from './draw.worker.js';

/** How a draw stands. `gap` is how far the best so far is from what cannot be passed, as a share; null before anything tells. */
export type Drawing = { state: 'none' } | { state: 'first' } | { state: 'better'; so: Drawn; gap: number | null } | { state: 'failed'; why: string };

/** @param onDrawn gets the end of every draw that comes to one; `stopped` where a person did not wait for the best */
export function useDraw(onDrawn: (drawn: Drawn, stopped: boolean) => void): {
  drawing: Drawing;
  start: (set: QuizSet, use: Readonly<Record<string, ItemUse>>, plan: DrawPlan) => void;
  stop: () => void;
} {
  const [drawing, setDrawing] = useState<Drawing>({ state: 'none' });
  const drawer = useMemo(() => new WorkerClient<Drawer>(() => new Worker(new URL('./draw.worker.js', import.meta.url), { type: 'module' })), []);
  const run = useRef(0);
  const done = useRef(onDrawn);
  done.current = onDrawn;
  useEffect(() => () => drawer.end(), [drawer]);
  const start = async (set: QuizSet, use: Readonly<Record<string, ItemUse>>, plan: DrawPlan): Promise<void> => {
    const mine = ++run.current;
    const mineStill = (): boolean => run.current === mine;
    let so: Drawn | undefined;
    // what is told on the way comes on lines of its own, and may come behind the end
    let over = false;
    const underWay = (): boolean => mineStill() && !over;
    setDrawing({ state: 'first' });
    try {
      const best = await drawer.call((w) =>
        w.draw(
          set,
          use,
          plan,
          proxy((first: Drawn) => {
            so = first;
            if (underWay()) setDrawing({ state: 'better', so: first, gap: null });
          }),
          proxy((gap: number) => underWay() && so && setDrawing({ state: 'better', so, gap })),
        ),
      );
      over = true;
      if (!mineStill()) return;
      setDrawing({ state: 'none' });
      done.current(best, false);
    } catch (e) {
      over = true;
      if (!mineStill()) return;
      if (e instanceof WorkerEnded && so) {
        setDrawing({ state: 'none' });
        done.current(so, true);
      } else setDrawing(e instanceof WorkerEnded ? { state: 'none' } : { state: 'failed', why: (e as Error).message });
    }
  };
  return { drawing, start: (set, use, plan) => void start(set, use, plan), stop: () => drawer.end() };
}
