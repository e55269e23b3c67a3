/** Versions drawn away from the page. */
import { draw, type Drawn, type DrawPlan, type ItemUse, loadSolver, poolOf, type QuizSet, type Solver, withUse } from '@zakuska/core';
import { expose } from 'comlink';
import wasm from 'highs/runtime?url';

let solver: Promise<Solver> | undefined;

const remote = {
  /**
   * Draws. `onFirst` gets a first draw at once; `tell` hears how far the best so far is from what cannot be passed, as a share of its cost.
   */
  async draw(
    set: QuizSet,
    use: Readonly<Record<string, ItemUse>>,
    plan: DrawPlan,
    onFirst: (first: Drawn) => void,
    tell: (gap: number) => void,
  ): Promise<Drawn> {
    solver ??= loadSolver(wasm);
    let told = 0;
    return draw(withUse(poolOf([set]), use), plan, {
      highs: await solver,
      onFirst,
      watch: (now) => {
        if (now.stage !== 'better' || Date.now() - told < 200) return;
        told = Date.now();
        tell(Number.isFinite(now.cost) && now.cost > 0 ? (now.cost - now.bound) / now.cost : 1);
      },
    });
  },
};
export type Drawer = typeof remote;
expose(remote);
