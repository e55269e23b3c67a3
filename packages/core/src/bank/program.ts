/**
 * Automated test assembly (van der Linden, Linear Models for Optimal Test Design, 2005) as a mixed integer programme:
 * the units that are drawn, what binds them, what is aimed at. Its variables and constraints: docs/versions.md.
 */
import { isQuestion, keyProblem } from '../item/kinds.js';
import { seeded } from '../item/shuffle.js';
import { difficultyOf, ofRow, type PoolItem } from './blueprint.js';
import { nearGroups } from './likeness.js';
import type { BlueprintRow, DrawPlan } from '../item/drawn.js';

/** What is drawn as one: an item, or the items of a passage, which come whole or not at all. */
export interface Unit {
  /** Places in the pool. */
  members: number[];
  /** Questions, which are what is counted. */
  count: number;
  points: number;
  /** Sum of the difficulties, the pool's mean where nobody said one. */
  difficulty: number;
  /** What it adds to each row of the blueprint: items or points. */
  rows: Float64Array;
  /** True statements less false ones. */
  truth: number;
  pinned: boolean;
  uses: number;
  /** Questions without a key: drawn last. */
  keyless: number;
}

/** What breaking an aim costs. A row that is not met, an item too few, weighs more than all that is only wished. */
export const COSTS = {
  /** For each item that a version is short of. */
  short: 2000,
  /** For each item of a row that is missing. */
  under: 1000,
  /** For each item of a row beyond what it asks for. */
  over: 200,
  /** For each time that a question comes once more in another version. */
  overlap: { none: 5000, little: 20, any: 0 },
  /** For a difference of mean difficulty of 1. */
  difficulty: 200,
  /** For a point between the version that gives most and the one that gives least. */
  points: 2,
  /** For each true statement more than false ones in a version, or the other way round. */
  truth: 0.2,
  /** For an item used more than all others. */
  use: 0.5,
  keyless: 5,
  /** Chance that decides between what is equally good. */
  chance: 0.02,
} as const;

/** A question that comes a third time costs twice as much as one that comes a second time, so that it is another that does. */
export const OVERLAP_STEPS = 2;

/** A draw as a programme: units by versions. */
export interface Program {
  units: Unit[];
  /** Units of which a version holds one at most: they ask the same, or were declared to exclude each other. */
  exclusive: number[][];
  /** Units whose coming twice in several versions is overlap: the same question in nearly the same words counts as one. */
  classes: number[][];
  counts: number[];
  /** What each row asks of each version, in items or points. */
  quotas: Float64Array;
  /** Cost of a unit in any version: use, missing keys. */
  cost: Float64Array;
  /** What decides between draws that cost the same: a little for each unit in each version, by the seed. */
  chance: Float64Array[];
  rows: readonly BlueprintRow[];
  plan: DrawPlan;
}

/** Groups of the pool that ask the same, and the units and bounds that follow from it. */
export function programOf(pool: readonly PoolItem[], plan: DrawPlan, groups: readonly (readonly number[])[] = nearGroups(pool.map((p) => p.item))): Program {
  const passages = new Map<string, number[]>();
  const units: Unit[] = [];
  const known = pool.flatMap((p) => difficultyOf(p) ?? []);
  const usual = known.length ? known.reduce((a, b) => a + b, 0) / known.length : 0.5;
  const pinned = new Set(plan.pinned);
  const most = Math.max(1, ...pool.map((p) => p.uses ?? 0));
  const setIds = new Map<unknown, number>();
  pool.forEach((p, i) => {
    const part = p.set.sections?.find((s) => s.id === p.item.section);
    if (!setIds.has(p.set)) setIds.set(p.set, setIds.size);
    if (part?.passage) {
      const key = `${setIds.get(p.set) ?? 0}/${part.id}`;
      const members = passages.get(key);
      if (members) return void members.push(i);
      const list = [i];
      passages.set(key, list);
      units.push(blank(list, plan.rows.length));
    } else units.push(blank([i], plan.rows.length));
  });
  const unitOf = new Map<number, number>();
  units.forEach((u, at) => {
    for (const i of u.members) {
      const p = pool[i] as PoolItem;
      const { item } = p;
      unitOf.set(i, at);
      if (pinned.has(item.id)) u.pinned = true;
      if (!isQuestion(item)) continue;
      u.count++;
      u.points += item.bonus ? 0 : item.points;
      u.difficulty += difficultyOf(p) ?? usual;
      u.uses += (p.uses ?? 0) / most;
      if (keyProblem(item)) u.keyless++;
      if (item.kind === 'true-false' && item.answer !== null) u.truth += item.answer ? 1 : -1;
      plan.rows.forEach((row, r) => {
        if (ofRow(row, p)) u.rows[r] = (u.rows[r] ?? 0) + (row.count !== undefined ? 1 : item.points);
      });
    }
  });
  // texts that stand alone are never drawn, but where they are pinned
  const drawable = units.map((u) => u.count > 0 || u.pinned);
  const moved = new Map<number, number>();
  const kept = units.filter((_, i) => {
    if (drawable[i]) moved.set(i, moved.size);
    return drawable[i];
  });
  const asUnits = (members: readonly number[]): number[] => [...new Set(members.flatMap((i) => moved.get(unitOf.get(i) ?? -1) ?? []))];
  const near = groups.map(asUnits).filter((g) => g.length > 1);
  const at = new Map(pool.map((p, i) => [p.item.id, i]));
  const apart = plan.apart.map((ids) => asUnits(ids.map((id) => at.get(id) ?? -1))).filter((g) => g.length > 1);
  const inGroup = new Set(near.flat());
  const chance = seeded(`draw ${plan.seed}`);
  return {
    units: kept,
    exclusive: [...near, ...apart],
    classes: [...near, ...kept.flatMap((u, i) => (inGroup.has(i) || u.pinned ? [] : [[i]]))].filter((c) => !c.some((i) => kept[i]?.pinned)),
    counts: plan.versions.map((v) => v.count),
    quotas: Float64Array.from(plan.rows, (r) => r.count ?? r.points ?? 0),
    cost: Float64Array.from(kept, (u) => (u.pinned ? 0 : COSTS.use * plan.weights.use * u.uses + COSTS.keyless * u.keyless)),
    chance: plan.versions.map((_, v) => Float64Array.from(kept, (u, i) => (u.pinned ? 0 : COSTS.chance * u.count * (chance(`${v}/${i}`) / 2 ** 32)))),
    rows: plan.rows,
    plan,
  };
}

const blank = (members: number[], rows: number): Unit => ({
  members,
  count: 0,
  points: 0,
  difficulty: 0,
  rows: new Float64Array(rows),
  truth: 0,
  pinned: false,
  uses: 0,
  keyless: 0,
});

/** For each version, whether it holds each unit. */
export type Selection = Uint8Array[];

const sumOf = (p: Program, held: Uint8Array, of: (u: Unit) => number): number => p.units.reduce((sum, u, i) => (held[i] ? sum + of(u) : sum), 0);

/** What a selection costs: the programme's objective, counted anew from nothing, without the part of chance. */
export function costOf(p: Program, s: Selection): number {
  let cost = 0;
  const means: number[] = [];
  const points: number[] = [];
  s.forEach((held, v) => {
    const count = sumOf(p, held, (u) => u.count);
    cost += COSTS.short * Math.max(0, (p.counts[v] ?? 0) - count);
    p.quotas.forEach((quota, r) => {
      const got = sumOf(p, held, (u) => u.rows[r] ?? 0);
      cost += COSTS.under * Math.max(0, quota - got) + COSTS.over * Math.max(0, got - quota);
    });
    cost += COSTS.truth * Math.abs(sumOf(p, held, (u) => u.truth));
    p.units.forEach((_, i) => {
      if (held[i]) cost += p.cost[i] ?? 0;
    });
    means.push(sumOf(p, held, (u) => u.difficulty) / (p.counts[v] ?? 1));
    points.push(sumOf(p, held, (u) => u.points));
  });
  if (s.length > 1) {
    cost += COSTS.difficulty * p.plan.weights.difficulty * (Math.max(...means) - Math.min(...means));
    // versions of different lengths give points in proportion
    if (new Set(p.counts).size === 1) cost += COSTS.points * p.plan.weights.points * (Math.max(...points) - Math.min(...points));
    for (const c of p.classes) {
      const times = s.reduce((n, held) => n + c.reduce((k, i) => k + (held[i] ? (p.units[i]?.count ?? 0) : 0), 0), 0);
      const one = Math.max(...c.map((i) => p.units[i]?.count ?? 0));
      for (let k = 1; k <= OVERLAP_STEPS; k++) cost += COSTS.overlap[p.plan.overlap] * Math.max(0, times - k * one);
    }
  }
  return cost;
}
