/**
 * Item response models with one trait: how able somebody has to be to get an item right (difficulty), and how sharply it tells them apart
 * (discrimination). Marginal maximum likelihood by EM: R. D. Bock and M. Aitkin, Psychometrika 46 (1981), 443–459.
 */

import { mean } from './moments.js';
import { correlation } from './scores.js';

/** One slope for all items (1PL), or one for each (2PL). */
export type IrtModel = '1PL' | '2PL';
/** Fewer people than this give no figures that would hold (common practice, no source). */
export const IRT_PEOPLE: Readonly<Record<IrtModel, number>> = { '1PL': 100, '2PL': 250 };

/** An estimate with its standard error. */
export interface Estimate {
  value: number;
  error: number;
}
/** The figures of one item. Logits; abilities of the group have mean 0 and standard deviation 1. */
export interface IrtItem {
  /** The ability at which half get it right. */
  difficulty: Estimate;
  /** The slope there. */
  discrimination: Estimate;
}
/** Two items whose answers go together: one may give the other away, or both hang on the same step. */
export interface IrtPair {
  /** Places of the items. */
  items: readonly [number, number];
  /** By how much their correlation, once ability is taken out (Q3), exceeds that of other pairs. */
  excess: number;
}
/** A model that was fitted. */
export interface IrtFit {
  model: IrtModel;
  /** In the order of the items; null of one that everybody or nobody got right, which has no figures. */
  items: (IrtItem | null)[];
  logLikelihood: number;
  /** The ability of each person, given their answers (expected a posteriori). */
  abilities: number[];
  /** Pairs of items that go together more than ability explains, the closest first. */
  pairs: IrtPair[];
  /** Whether it came to rest. */
  settled: boolean;
}

/** Abilities at which the likelihood is summed up, with their weights: equal steps of the normal density. */
const NODES = Array.from({ length: 61 }, (_, q) => -6 + q * 0.2);
const WEIGHTS = ((): number[] => {
  const density = NODES.map((x) => Math.exp((-x * x) / 2));
  const all = density.reduce((a, b) => a + b, 0);
  return density.map((d) => d / all);
})();
const CYCLES = 500;
const AT_REST = 1e-5;
/** Steeper than this is a step: such an item sorts the group without exception, and has no estimate. */
const STEEPEST = 8;

/** People with the same answers, counted once. */
interface Pattern {
  right: boolean[];
  times: number;
}
const keyOf = (row: readonly boolean[]): string => row.map(Number).join('');
function patternsOf(rows: readonly (readonly boolean[])[]): Pattern[] {
  const by = new Map<string, Pattern>();
  for (const row of rows) {
    const key = keyOf(row);
    const there = by.get(key);
    if (there) there.times++;
    else by.set(key, { right: [...row], times: 1 });
  }
  return [...by.values()];
}

/** Slopes and intercepts: the logit of getting item j right is a[j] θ + d[j]. */
interface Lines {
  a: number[];
  d: number[];
}
const chance = (a: number, d: number, x: number): number => 1 / (1 + Math.exp(-(a * x + d)));

/** For each pattern how likely each ability is, and the logarithm of the likelihood of all. */
function expected(patterns: readonly Pattern[], { a, d }: Lines): { posterior: Float64Array[]; logLikelihood: number } {
  const k = a.length;
  const logRight = NODES.map((x) => a.map((slope, j) => -Math.log1p(Math.exp(-(slope * x + (d[j] ?? 0))))));
  const logWrong = NODES.map((x) => a.map((slope, j) => -Math.log1p(Math.exp(slope * x + (d[j] ?? 0)))));
  let logLikelihood = 0;
  const posterior = patterns.map(({ right, times }) => {
    const at = new Float64Array(NODES.length);
    for (let q = 0; q < NODES.length; q++) {
      let sum = Math.log(WEIGHTS[q] as number);
      const [r, w] = [logRight[q] as number[], logWrong[q] as number[]];
      for (let j = 0; j < k; j++) sum += (right[j] ? r[j] : w[j]) as number;
      at[q] = sum;
    }
    const most = at.reduce((m, v) => Math.max(m, v), -Infinity);
    let all = 0;
    for (let q = 0; q < at.length; q++) all += at[q] = Math.exp((at[q] as number) - most);
    for (let q = 0; q < at.length; q++) at[q] = (at[q] as number) / all;
    logLikelihood += times * (most + Math.log(all));
    return at;
  });
  return { posterior, logLikelihood };
}

/**
 * Fits a model to answers that are right or wrong.
 * @param rows a row for each person, in it a value for each item: whether it was right
 * @returns null where there are too few people, or fewer than three items that some got right and some wrong
 */
export function fitIrt(rows: readonly (readonly boolean[])[], model: IrtModel): IrtFit | null {
  const n = rows.length;
  const wide = rows[0]?.length ?? 0;
  const rights = Array.from({ length: wide }, (_, j) => rows.filter((r) => r[j]).length);
  const used = rights.flatMap((r, j) => (r > 0 && r < n ? [j] : []));
  if (n < IRT_PEOPLE[model] || used.length < 3) return null;
  const patterns = patternsOf(rows.map((r) => used.map((j) => r[j] as boolean)));
  const lines: Lines = { a: used.map(() => 1), d: used.map((j) => Math.log((rights[j] as number) / (n - (rights[j] as number)))) };
  let settled = false;
  let state = expected(patterns, lines);
  for (let cycle = 0; cycle < CYCLES && !settled; cycle++) {
    const moved = maximised(patterns, state.posterior, lines, model);
    state = expected(patterns, lines);
    settled = moved < AT_REST;
  }
  const found = errorsOf(patterns, state.posterior, lines, model);
  const abilityOf = new Map(patterns.map((p, i) => [keyOf(p.right), meanAbility(state.posterior[i] as Float64Array)]));
  const answers = rows.map((r) => used.map((j) => r[j] as boolean));
  const abilities = answers.map((r) => abilityOf.get(keyOf(r)) ?? 0);
  return {
    model,
    logLikelihood: state.logLikelihood,
    abilities,
    pairs: together(answers, abilities, lines).map((p) => ({ ...p, items: [used[p.items[0]] as number, used[p.items[1]] as number] })),
    settled,
    items: rights.map((_, j) => {
      const at = used.indexOf(j);
      return at < 0 || (lines.a[at] as number) > STEEPEST ? null : (found[at] ?? null);
    }),
  };
}

const meanAbility = (posterior: Float64Array): number => posterior.reduce((sum, p, q) => sum + p * (NODES[q] as number), 0);

/** Pairs that exceed the mean of all by more than this hang together (K. B. Christensen and others, Appl. Psychol. Meas. 41 (2017), 178–194, from memory). */
const CLOSE = 0.2;
/** Correlations of what ability leaves unexplained: Q3 of W. M. Yen, Appl. Psychol. Meas. 8 (1984), 125–145. */
function together(rows: readonly (readonly boolean[])[], abilities: readonly number[], { a, d }: Lines): IrtPair[] {
  const left = a.map((slope, j) => rows.map((r, i) => (r[j] ? 1 : 0) - chance(slope, d[j] as number, abilities[i] as number)));
  const all: IrtPair[] = [];
  for (let i = 0; i < a.length; i++)
    for (let j = i + 1; j < a.length; j++) all.push({ items: [i, j], excess: correlation(left[i] as number[], left[j] as number[]) ?? 0 });
  const usual = mean(all.map((p) => p.excess));
  return all
    .map((p) => ({ ...p, excess: p.excess - usual }))
    .filter((p) => p.excess > CLOSE)
    .sort((x, y) => y.excess - x.excess);
}

/** One step to more likely lines; gives how far the farthest has moved. */
function maximised(patterns: readonly Pattern[], posterior: readonly Float64Array[], lines: Lines, model: IrtModel): number {
  const { a, d } = lines;
  const all = new Float64Array(NODES.length);
  const right = a.map(() => new Float64Array(NODES.length));
  patterns.forEach(({ right: r, times }, i) => {
    const at = posterior[i] as Float64Array;
    for (let q = 0; q < at.length; q++) {
      const people = times * (at[q] as number);
      all[q] = (all[q] as number) + people;
      for (let j = 0; j < r.length; j++) if (r[j]) (right[j] as Float64Array)[q] = ((right[j] as Float64Array)[q] as number) + people;
    }
  });
  let moved = 0;
  let [slopeUp, slopeCurve] = [0, 0];
  for (let j = 0; j < a.length; j++) {
    let [up, upA, curve, curveA, cross] = [0, 0, 0, 0, 0];
    for (let q = 0; q < NODES.length; q++) {
      const x = NODES[q] as number;
      const p = chance(a[j] as number, d[j] as number, x);
      const over = ((right[j] as Float64Array)[q] as number) - (all[q] as number) * p;
      const weight = (all[q] as number) * p * (1 - p);
      up += over;
      upA += over * x;
      curve += weight;
      cross += weight * x;
      curveA += weight * x * x;
    }
    if (model === '1PL') {
      const step = up / curve;
      d[j] = (d[j] as number) + step;
      moved = Math.max(moved, Math.abs(step));
      slopeUp += upA - (cross * up) / curve;
      slopeCurve += curveA - (cross * cross) / curve;
      continue;
    }
    // Newton's step in both; never so far that it jumps over what it looks for
    const det = curve * curveA - cross * cross;
    const stepA = Math.max(-1, Math.min(1, (curve * upA - cross * up) / det));
    const stepD = Math.max(-1, Math.min(1, (curveA * up - cross * upA) / det));
    a[j] = Math.min((a[j] as number) + stepA, STEEPEST + 1);
    d[j] = (d[j] as number) + stepD;
    moved = Math.max(moved, Math.abs(stepA), Math.abs(stepD));
  }
  if (model === '1PL') {
    const step = Math.max(-0.5, Math.min(0.5, slopeUp / slopeCurve));
    for (let j = 0; j < a.length; j++) a[j] = (a[j] as number) + step;
    moved = Math.max(moved, Math.abs(step));
  }
  return moved;
}

/** Difficulty and discrimination with standard errors, from the cross products of each person's score (outer product of gradients). */
function errorsOf(patterns: readonly Pattern[], posterior: readonly Float64Array[], { a, d }: Lines, model: IrtModel): (IrtItem | null)[] {
  const k = a.length;
  // of one slope for all: it, then the intercepts; else slope and intercept of each
  const size = model === '1PL' ? k + 1 : 2 * k;
  const slopeAt = (j: number): number => (model === '1PL' ? 0 : 2 * j);
  const interceptAt = (j: number): number => (model === '1PL' ? j + 1 : 2 * j + 1);
  const information = Array.from({ length: size }, () => new Float64Array(size));
  const p = NODES.map((x) => a.map((slope, j) => chance(slope, d[j] as number, x)));
  patterns.forEach(({ right, times }, i) => {
    const at = posterior[i] as Float64Array;
    const score = new Float64Array(size);
    for (let q = 0; q < at.length; q++)
      for (let j = 0; j < k; j++) {
        const over = (at[q] as number) * ((right[j] ? 1 : 0) - ((p[q] as number[])[j] as number));
        score[slopeAt(j)] = (score[slopeAt(j)] as number) + over * (NODES[q] as number);
        score[interceptAt(j)] = (score[interceptAt(j)] as number) + over;
      }
    for (let r = 0; r < size; r++)
      for (let c = 0; c < size; c++)
        (information[r] as Float64Array)[c] = ((information[r] as Float64Array)[c] as number) + times * (score[r] as number) * (score[c] as number);
  });
  const covariance = inverse(information);
  if (!covariance) return a.map(() => null);
  const of = (r: number, c: number): number => covariance[r]?.[c] ?? NaN;
  return a.map((slope, j): IrtItem | null => {
    const value = -(d[j] as number) / slope;
    const [s, t] = [slopeAt(j), interceptAt(j)];
    // of a quotient, by its derivatives (delta method)
    const variance = (of(t, t) + value * value * of(s, s) + 2 * value * of(s, t)) / (slope * slope);
    if (!(variance > 0) || !(of(s, s) > 0)) return null;
    return { difficulty: { value, error: Math.sqrt(variance) }, discrimination: { value: slope, error: Math.sqrt(of(s, s)) } };
  });
}

/** The inverse of a matrix (Gauss and Jordan, largest pivot first); null where it has none. */
function inverse(matrix: readonly Float64Array[]): number[][] | null {
  const n = matrix.length;
  const rows = matrix.map((r, i) => [...r, ...Array.from({ length: n }, (_, c) => Number(c === i))]);
  for (let c = 0; c < n; c++) {
    let best = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r]?.[c] ?? 0) > Math.abs(rows[best]?.[c] ?? 0)) best = r;
    [rows[c], rows[best]] = [rows[best] as number[], rows[c] as number[]];
    const row = rows[c] as number[];
    const pivot = row[c] as number;
    if (Math.abs(pivot) < 1e-12) return null;
    for (let i = 0; i < row.length; i++) row[i] = (row[i] as number) / pivot;
    for (const [r, other] of rows.entries()) {
      const times = other[c] as number;
      if (r !== c && times !== 0) for (let i = 0; i < row.length; i++) other[i] = (other[i] as number) - times * (row[i] as number);
    }
  }
  return rows.map((r) => r.slice(n));
}
