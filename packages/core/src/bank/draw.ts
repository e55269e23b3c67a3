/** Versions drawn from a pool: what stands against it, the draw itself, the order of its items, and what is said of it. */
import { counted } from '../language/counted.js';
import { isQuestion, keyProblem, nameOf } from '../item/kinds.js';
import { seeded, shuffled } from '../item/shuffle.js';
import { difficultyOf, offersOf, ofRow, type PoolItem, sayRow } from './blueprint.js';
import { fingerprint, nearGroups, nearlySame } from './likeness.js';
import { type DrawAsked, type Drawn, drawPlan, type DrawPlan } from '../item/drawn.js';
import { programOf, type Selection } from './program.js';
import { firstDraw } from './search.js';
import type { Solver } from './solver.js';
import { solve, type SolveLimits, solveLimits, type SolveProgress } from './solve.js';

/** Something that was asked and cannot be. */
export interface Unmet {
  /** The version it is about; absent where it is about all of them. */
  version?: string;
  /** The row of the blueprint, from 0. */
  row?: number;
  asked: number;
  got: number;
  message: string;
}

/** Items of several sets as one pool: an item that stands in several, by its id, counts once. */
export function poolOf(
  sets: readonly PoolItem['set'][],
  known: (id: string) => { measured?: number; uses?: number } | undefined = () => undefined,
): PoolItem[] {
  const ids = new Set<string>();
  return sets.flatMap((set) =>
    set.items.flatMap((item) => {
      if (ids.has(item.id)) return [];
      ids.add(item.id);
      return [{ item, set, ...known(item.id) }];
    }),
  );
}

/**
 * What of a plan cannot be, said before anything is drawn: rows that ask for more than the pool offers, rows that ask for more than a
 * version holds, items that are pinned and exclude each other. The smallest part that contradicts itself is named.
 */
export function againstPlan(pool: readonly PoolItem[], plan: DrawPlan, groups: readonly (readonly number[])[] = nearGroups(pool.map((p) => p.item))): Unmet[] {
  const out: Unmet[] = [];
  const several = plan.versions.length;
  const heads = new Map(groups.flatMap((g) => g.map((i) => [i, g[0] as number])));
  const offered = new Set(pool.flatMap((p, i) => (isQuestion(p.item) ? [heads.get(i) ?? i] : []))).size;
  const asked = plan.versions.reduce((n, v) => n + v.count, 0);
  const most = Math.max(...plan.versions.map((v) => v.count));
  if (most > offered)
    out.push({
      asked: most,
      got: offered,
      message: `A version of ${counted(most, 'item')} was asked for, and the pool offers ${counted(offered, 'different item')}.`,
    });
  else if (plan.overlap === 'none' && asked > offered)
    out.push({
      asked,
      got: offered,
      message: `${several} versions without a common item need ${counted(asked, 'item')}, and the pool offers ${counted(offered, 'different one')}.`,
    });
  const offers = offersOf(pool, plan.rows, groups);
  plan.rows.forEach((row, r) => {
    const each = row.count ?? row.points ?? 0;
    const has = row.count !== undefined ? (offers[r]?.items ?? 0) : (offers[r]?.points ?? 0);
    if (each > has)
      out.push({ row: r, asked: each, got: has, message: `Row ${r + 1} asks for ${sayRow(row)}, and the pool offers ${has}: ${each - has} too few.` });
    else if (plan.overlap === 'none' && each * several > has)
      out.push({
        row: r,
        asked: each * several,
        got: has,
        message: `Row ${r + 1} asks for ${sayRow(row)} in each of ${several} versions without a common item, which needs ${each * several}; the pool offers ${has}.`,
      });
  });
  // rows that have no item in common add up
  const apart: number[] = [];
  plan.rows.forEach((row, r) => {
    if (row.count !== undefined && apart.every((o) => !pool.some((p) => ofRow(row, p) && ofRow(plan.rows[o] ?? {}, p)))) apart.push(r);
  });
  const sum = apart.reduce((n, r) => n + (plan.rows[r]?.count ?? 0), 0);
  for (const v of plan.versions)
    if (sum > v.count)
      out.push({
        version: v.name,
        asked: sum,
        got: v.count,
        message: `Rows ${apart.map((r) => r + 1).join(', ')} ask for ${sum} items together, and version ${v.name} holds ${v.count}.`,
      });
  const by = new Map(pool.map((p) => [p.item.id, p]));
  const pinned = plan.pinned.flatMap((id) => by.get(id) ?? []);
  const gone = plan.pinned.length - pinned.length;
  if (gone)
    out.push({
      asked: plan.pinned.length,
      got: pinned.length,
      message: `${counted(gone, 'pinned item is', 'pinned items are')} not in the pool any more.`,
    });
  const prints = pinned.map((p) => fingerprint(p.item));
  pinned.forEach((a, i) =>
    pinned.slice(i + 1).forEach((b, k) => {
      const declared = plan.apart.some((ids) => ids.includes(a.item.id) && ids.includes(b.item.id));
      if (!declared && !(a.item.kind === b.item.kind && nearlySame(prints[i] as never, prints[i + 1 + k] as never))) return;
      out.push({
        asked: 2,
        got: 1,
        message: `“${nameOf(a.item, 40)}” and “${nameOf(b.item, 40)}” are pinned in every version, but ${declared ? 'may not stand in one version' : 'ask nearly the same'}.`,
      });
    }),
  );
  const least = plan.versions.find((v) => pinned.filter((p) => isQuestion(p.item)).length > v.count);
  if (least)
    out.push({
      version: least.name,
      asked: pinned.length,
      got: least.count,
      message: `${pinned.length} items are pinned, and version ${least.name} holds ${least.count}.`,
    });
  return out;
}

/** How far a draw is, and how good. */
export type DrawProgress = { stage: 'first'; share: number } | ({ stage: 'better' } & SolveProgress);

/**
 * Draws versions from a pool. The same pool, plan and limits give the same versions on every machine; a solver makes the first draw better as far as the limits allow.
 * @param onFirst gets the first draw, before a solver goes on from it
 * @param watch is told how far it is; returning true stops the search and keeps the best draw so far
 */
export function draw(
  pool: readonly PoolItem[],
  asked: DrawAsked,
  {
    highs,
    limits = solveLimits,
    watch,
    onFirst,
  }: { highs?: Solver; limits?: SolveLimits; watch?: (now: DrawProgress) => boolean | void; onFirst?: (first: Drawn) => void } = {},
): Drawn {
  const plan = drawPlan.parse(asked);
  // what does not exclude itself is drawn: of two pinned items that exclude each other the first stays pinned
  const program = programOf(pool, plan);
  for (const g of program.exclusive)
    for (const u of g.filter((i) => program.units[i]?.pinned).slice(1)) (program.units[u] as { pinned: boolean }).pinned = false;
  const first = firstDraw(program, (share) => void watch?.({ stage: 'first', share }));
  const drawnFrom = (selection: Selection, gap?: number): Drawn => ({
    plan,
    versions: plan.versions.map(({ name }, v) => ({
      name,
      items: inOrder(
        pool,
        program.units.flatMap((u, i) => (selection[v]?.[i] ? [u.members] : [])),
        plan,
        v,
      ).map((i) => pool[i]?.item.id ?? ''),
    })),
    ...(gap !== undefined && { gap: Math.round(gap * 1e6) / 1e6 }),
  });
  if (!highs || !program.units.length) return drawnFrom(first);
  onFirst?.(drawnFrom(first));
  const { selection, gap } = solve(highs, program, first, limits, (now) => watch?.({ stage: 'better', ...now }));
  return drawnFrom(selection, Number.isFinite(gap) ? gap : undefined);
}

/** The items of a version in its order: part by part; within a part by chance, unless it keeps its order; passages with their items in theirs. */
function inOrder(pool: readonly PoolItem[], units: readonly (readonly number[])[], plan: DrawPlan, version: number): number[] {
  const chance = seeded(`order ${plan.seed} ${version}`);
  const parts = new Map<string, (readonly number[])[]>();
  const key = (i: number): string => {
    const p = pool[i];
    const part = p?.set.sections?.findIndex((s) => s.id === p.item.section) ?? -1;
    return part < 0 ? '' : `${p?.set.title ?? ''}/${part}/${p?.item.section ?? ''}`;
  };
  for (const unit of [...units].sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0))) {
    const k = key(unit[0] ?? 0);
    parts.set(k, [...(parts.get(k) ?? []), unit]);
  }
  const keeps = (i: number): boolean => Boolean(pool[i]?.set.sections?.find((s) => s.id === pool[i]?.item.section)?.keepOrder);
  return [...parts].flatMap(([k, list]) => (plan.shuffle.items && !keeps(list[0]?.[0] ?? 0) ? shuffled(list, chance, k) : list).flat());
}

/** What is said of a draw: of each version, and of how much they have in common. */
export interface DrawFigures {
  versions: {
    name: string;
    questions: number;
    points: number;
    /** Mean difficulty, 0 to 1, of the items of which it is known; null where it is known of none. */
    difficulty: number | null;
    /** What each row of the blueprint got. */
    rows: number[];
    /** Ids that are not in the pool any more. */
    gone: string[];
  }[];
  /** How many items two versions have in common; a version with itself: how many it holds. */
  overlap: number[][];
  unmet: Unmet[];
}

/** Counts a draw anew from the pool as it is now. */
export function figuresOf(pool: readonly PoolItem[], { plan, versions }: Drawn): DrawFigures {
  const by = new Map(pool.map((p) => [p.item.id, p]));
  const unmet: Unmet[] = [];
  const said = versions.map(({ name, items }, v) => {
    const held = items.flatMap((id) => by.get(id) ?? []);
    const questions = held.filter((p) => isQuestion(p.item));
    const known = questions.flatMap((p) => difficultyOf(p) ?? []);
    const count = plan.versions[v]?.count ?? questions.length;
    if (questions.length < count)
      unmet.push({ version: name, asked: count, got: questions.length, message: `Version ${name} has ${questions.length} of ${counted(count, 'item')}.` });
    const rows = plan.rows.map((row, r) => {
      const got = questions.reduce((n, p) => n + (ofRow(row, p) ? (row.count !== undefined ? 1 : p.item.points) : 0), 0);
      const quota = row.count ?? row.points ?? 0;
      if (got < quota) unmet.push({ version: name, row: r, asked: quota, got, message: `Version ${name}, row ${r + 1}: ${sayRow(row)} asked, ${got} there.` });
      else if (got > quota)
        unmet.push({
          version: name,
          row: r,
          asked: quota,
          got,
          message: `Version ${name}, row ${r + 1}: ${sayRow(row)} asked, ${got} there, because nothing else fits.`,
        });
      return got;
    });
    return {
      name,
      questions: questions.length,
      points: round(questions.reduce((n, p) => n + (p.item.bonus ? 0 : p.item.points), 0)),
      difficulty: known.length ? round(known.reduce((a, b) => a + b, 0) / known.length) : null,
      rows,
      gone: items.filter((id) => !by.has(id)),
    };
  });
  const sets = versions.map((v) => new Set(v.items.filter((id) => by.has(id))));
  return { versions: said, overlap: sets.map((a) => sets.map((b) => [...a].filter((id) => b.has(id)).length)), unmet };
}
const round = (x: number): number => Math.round(x * 1e4) / 1e4;

/** Questions of a pool that have no key yet: they are drawn last. */
export const withoutKey = (pool: readonly PoolItem[]): PoolItem[] => pool.filter((p) => keyProblem(p.item) !== null);
