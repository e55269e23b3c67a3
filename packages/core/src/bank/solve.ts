/** The programme solved by HiGHS (branch and cut), from a first draw on. */
import type { ModelData } from 'highs';
import { COSTS, costOf, OVERLAP_STEPS, type Program, type Selection } from './program.js';
import type { Solver } from './solver.js';

/** A programme as columns and rows for the solver: x[v][u], then the variables of the aims. */
interface Columns {
  data: ModelData;
  /** The values of all columns for a selection. */
  values(s: Selection): Float64Array;
}

class Rows {
  readonly starts = [0];
  readonly indices: number[] = [];
  readonly values: number[] = [];
  readonly lower: number[] = [];
  readonly upper: number[] = [];
  add(lower: number, upper: number, terms: Iterable<readonly [column: number, value: number]>): void {
    for (const [c, x] of terms) {
      if (x === 0) continue;
      this.indices.push(c);
      this.values.push(x);
    }
    this.starts.push(this.indices.length);
    this.lower.push(lower);
    this.upper.push(upper);
  }
}

function columnsOf(p: Program, highs: Solver): Columns {
  const [U, V, R] = [p.units.length, p.counts.length, p.rows.length];
  const cost: number[] = [];
  const upper: number[] = [];
  const lower: number[] = [];
  const whole: boolean[] = [];
  const column = (c: number, low: number, high: number, integer = false): number => {
    cost.push(c);
    lower.push(low);
    upper.push(high);
    whole.push(integer);
    return cost.length - 1;
  };
  const x = (v: number, u: number): number => v * U + u;
  for (let v = 0; v < V; v++) for (let u = 0; u < U; u++) column(p.cost[u] ?? 0, p.units[u]?.pinned ? 1 : 0, 1, true);
  const { infinity } = highs;
  const short = p.counts.map(() => column(COSTS.short, 0, infinity));
  const under = p.counts.map(() => Array.from({ length: R }, () => column(COSTS.under, 0, infinity)));
  const over = p.counts.map(() => Array.from({ length: R }, () => column(COSTS.over, 0, infinity)));
  const truth = p.counts.map(() => column(COSTS.truth, 0, infinity));
  const several = V > 1;
  const steps = several && COSTS.overlap[p.plan.overlap] > 0 ? Math.min(OVERLAP_STEPS, V - 1) : 0;
  const overlap = Array.from({ length: steps }, () => p.classes.map(() => column(COSTS.overlap[p.plan.overlap], 0, infinity)));
  const evenly = several && new Set(p.counts).size === 1;
  const range = (c: number): [number, number] => [column(-c, -infinity, infinity), column(c, -infinity, infinity)];
  const difficulty = several ? range(COSTS.difficulty * p.plan.weights.difficulty) : null;
  const points = evenly ? range(COSTS.points * p.plan.weights.points) : null;

  const rows = new Rows();
  for (let v = 0; v < V; v++) {
    const each = (of: (u: number) => number): (readonly [number, number])[] => p.units.map((_, u) => [x(v, u), of(u)] as const);
    const count = p.counts[v] ?? 0;
    rows.add(
      -infinity,
      count,
      each((u) => p.units[u]?.count ?? 0),
    );
    rows.add(count, infinity, [...each((u) => p.units[u]?.count ?? 0), [short[v] as number, 1]]);
    for (let r = 0; r < R; r++) {
      const quota = p.quotas[r] ?? 0;
      rows.add(quota, quota, [...each((u) => p.units[u]?.rows[r] ?? 0), [under[v]?.[r] as number, 1], [over[v]?.[r] as number, -1]]);
    }
    for (const g of p.exclusive)
      rows.add(
        -infinity,
        1,
        g.map((u) => [x(v, u), 1] as const),
      );
    rows.add(-infinity, 0, [...each((u) => p.units[u]?.truth ?? 0), [truth[v] as number, -1]]);
    rows.add(-infinity, 0, [...each((u) => -(p.units[u]?.truth ?? 0)), [truth[v] as number, -1]]);
    const within = (r: [number, number] | null, of: (u: number) => number): void => {
      if (!r) return;
      rows.add(0, infinity, [...each(of), [r[0], -1]]);
      rows.add(-infinity, 0, [...each(of), [r[1], -1]]);
    };
    within(difficulty, (u) => (p.units[u]?.difficulty ?? 0) / count);
    within(points, (u) => p.units[u]?.points ?? 0);
  }
  p.classes.forEach((c, k) => {
    const one = Math.max(...c.map((u) => p.units[u]?.count ?? 0));
    const terms = c.flatMap((u) => p.counts.map((_, v) => [x(v, u), p.units[u]?.count ?? 0] as const));
    overlap.forEach((columns, n) => rows.add(-infinity, one * (n + 1), [...terms, [columns[k] as number, -1]]));
  });
  const { continuous, integer } = highs.constants.variableType;
  const data: ModelData = {
    numCols: cost.length,
    numRows: rows.lower.length,
    colCost: cost,
    colLower: lower,
    colUpper: upper,
    rowLower: rows.lower,
    rowUpper: rows.upper,
    integrality: whole.map((w) => (w ? integer : continuous)),
    matrix: { format: 'csr', numCols: cost.length, numRows: rows.lower.length, starts: rows.starts, indices: rows.indices, values: rows.values },
  } as ModelData;
  return {
    data,
    values: (s) => {
      const out = new Float64Array(cost.length);
      s.forEach((held, v) => held.forEach((h, u) => (out[x(v, u)] = h)));
      return out;
    },
  };
}

/** How a search for the best draw stands. */
export interface SolveProgress {
  /** Cost of the best draw so far. */
  cost: number;
  /** No draw can cost less than this. */
  bound: number;
}
/** When the solver is content or gives up. Work is counted, not time, so that the same answer comes out on every machine. */
export interface SolveLimits {
  /** Content when the best draw is so near to the bound, as a share of its cost. */
  gap: number;
  /** … or in cost itself: half a point of cost is a difference in mean difficulty of 0.0025, or a quarter of a point between versions. */
  near: number;
  /** Gives up after so many iterations of the simplex method. */
  iterations: number;
}
/** Usual limits: 2 % of the bound, or some twenty seconds of an ordinary machine. */
export const solveLimits: SolveLimits = { gap: 0.02, near: 0.5, iterations: 60_000 };

/**
 * Improves a draw as far as the limits allow.
 * @returns the best draw found, and how far its cost is from the bound as a share (0: no draw is noticeably better)
 */
export function solve(
  highs: Solver,
  p: Program,
  first: Selection,
  limits: SolveLimits = solveLimits,
  watch?: (now: SolveProgress) => boolean | void,
): { selection: Selection; gap: number } {
  const ours = costOf(p, first);
  // all that costs is above nothing, so what costs nearly nothing needs no proof
  if (ours <= limits.near) return { selection: first, gap: 0 };
  const { data, values } = columnsOf(p, highs);
  const [U, V] = [p.units.length, p.counts.length];
  return highs.withModel(data, (model) => {
    model.options.set({ output_flag: false, random_seed: p.plan.seed % 2_000_000_000, mip_rel_gap: limits.gap, mip_abs_gap: limits.near });
    model.setSolution({ colValue: values(first) });
    const { callbackType } = highs.constants;
    let bound = 0;
    model.run({
      [callbackType.mipInterrupt](event) {
        const { mip_primal_bound: cost, mip_dual_bound: low, mip_total_lp_iterations: done } = event.data;
        if (low !== undefined && Number.isFinite(low)) bound = Math.max(bound, low);
        const stop = watch?.({ cost: cost ?? Infinity, bound }) === true;
        if (stop || Number(done ?? 0) > limits.iterations) event.interrupt();
      },
    });
    const at = model.getSolution().colValue;
    const selection: Selection = Array.from({ length: V }, (_, v) => Uint8Array.from({ length: U }, (_, u) => ((at[v * U + u] ?? 0) > 0.5 ? 1 : 0)));
    const low = model.info.get('mip_dual_bound');
    if (typeof low === 'number' && Number.isFinite(low)) bound = Math.max(bound, low);
    // what the solver found is taken where it is better by our own count
    const theirs = at.length ? costOf(p, selection) : Infinity;
    const best = theirs <= ours ? selection : first;
    const cost = Math.min(ours, theirs);
    return { selection: best, gap: cost - bound <= limits.near + 1e-6 ? 0 : (cost - bound) / cost };
  });
}
