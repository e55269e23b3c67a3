/** A single item of a version exchanged by hand, with the rules watched. */
import { nameOf } from '../item/kinds.js';
import { difficultyOf, ofRow, type PoolItem, sayRow } from './blueprint.js';
import { fingerprint, nearlySame } from './likeness.js';
import type { Drawn } from '../item/drawn.js';

/** An item that may come instead of another. */
export interface Exchange {
  id: string;
  name: string;
  /** What would not hold any more, in words; empty where all rules hold. */
  breaks: string[];
}

/** So many are offered at most. */
const MOST = 40;

/**
 * What may come instead of an item of a version: those of the pool that it does not hold, those that break no rule first, and among these the likest in points and difficulty.
 * @param at which version, from 0
 */
export function exchangesFor(pool: readonly PoolItem[], drawn: Drawn, at: number, id: string): Exchange[] {
  const version = drawn.versions[at];
  const by = new Map(pool.map((p) => [p.item.id, p]));
  const old = by.get(id);
  if (!version || !old) return [];
  const held = version.items.filter((i) => i !== id).flatMap((i) => by.get(i) ?? []);
  const prints = held.map((p) => fingerprint(p.item));
  const elsewhere = new Map(drawn.versions.flatMap((v, k) => (k === at ? [] : v.items.map((i) => [i, v.name] as const))));
  const { plan } = drawn;
  const inside = new Set(version.items);
  const candidates = pool.flatMap((p) => {
    if (inside.has(p.item.id) || p.item.kind === 'information') return [];
    const own = fingerprint(p.item);
    const breaks: string[] = [];
    plan.rows.forEach((row, r) => {
      const worth = (x: PoolItem): number => (ofRow(row, x) ? (row.count !== undefined ? 1 : x.item.points) : 0);
      const sum = held.reduce((n, x) => n + worth(x), 0);
      const quota = row.count ?? row.points ?? 0;
      const was = Math.abs(sum + worth(old) - quota);
      if (Math.abs(sum + worth(p) - quota) > was) breaks.push(`row ${r + 1} (${sayRow(row)}) would have ${sum + worth(p)}`);
    });
    const like = held.find((h, k) => h.item.kind === p.item.kind && nearlySame(prints[k] as never, own));
    if (like) breaks.push(`asks nearly the same as “${nameOf(like.item, 40)}”`);
    if (plan.apart.some((ids) => ids.includes(p.item.id) && held.some((h) => ids.includes(h.item.id))))
      breaks.push('was declared not to stand together with another');
    if (plan.pinned.includes(id)) breaks.push('the other is pinned in every version');
    const there = elsewhere.get(p.item.id);
    if (there !== undefined && plan.overlap !== 'any') breaks.push(`stands in version ${there} already`);
    const unlike = Math.abs(p.item.points - old.item.points) + Math.abs((difficultyOf(p) ?? 0.5) - (difficultyOf(old) ?? 0.5));
    return [{ id: p.item.id, name: nameOf(p.item, 90), breaks, unlike }];
  });
  return candidates
    .sort((a, b) => a.breaks.length - b.breaks.length || a.unlike - b.unlike)
    .slice(0, MOST)
    .map(({ unlike: _, ...c }) => c);
}

/** What was drawn with one item of a version in the place of another. */
export const exchanged = (drawn: Drawn, at: number, id: string, by: string): Drawn => {
  const { gap: _, ...rest } = drawn;
  return { ...rest, versions: drawn.versions.map((v, k) => (k === at ? { ...v, items: v.items.map((i) => (i === id ? by : i)) } : v)) };
};

/** How two draws differ, version by version: what comes in, what goes out. */
export const drawDifference = (before: Drawn, after: Drawn): { name: string; in: string[]; out: string[] }[] =>
  after.versions.map(({ name, items }) => {
    const was = before.versions.find((v) => v.name === name)?.items ?? [];
    return { name, in: items.filter((i) => !was.includes(i)), out: was.filter((i) => !items.includes(i)) };
  });
