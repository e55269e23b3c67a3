/** The checking of a set divided among several people: stretches of items for each, and how far everybody is. */
import type { Item } from '../item/model.js';
import type { SetDocument, Work } from '../item/operations.js';

/** Places between items where a stretch may end: not inside a part whose items share a passage. */
function cuts(items: readonly Item[], { set }: SetDocument): number[] {
  const passages = new Set(set.sections?.filter((s) => s.passage).map((s) => s.id));
  const out: number[] = [];
  for (let i = 1; i < items.length; i++) {
    const { section } = items[i] as Item;
    if (section === undefined || !passages.has(section) || items[i - 1]?.section !== section) out.push(i);
  }
  return [...out, items.length];
}

/**
 * Divides what is still to be looked at, in its order, into stretches of about the same number of items; items of one passage stay together.
 * @param people those who check, in the order in which they get their stretch
 * @returns a share for each, which may be empty where there are fewer items than people
 */
export function divided(document: SetDocument, people: readonly Pick<Work, 'account' | 'name'>[]): Work[] {
  const open = document.set.items.filter((i) => !document.reviews[i.id]);
  const ends = cuts(open, document);
  let from = 0;
  return people.map(({ account, name }, k) => {
    const ideal = (open.length * (k + 1)) / people.length;
    const near = ends.reduce((best, end) => (Math.abs(end - ideal) < Math.abs(best - ideal) ? end : best), 0);
    const to = k === people.length - 1 ? open.length : Math.max(from, near);
    const items = open.slice(from, to).map((i) => i.id);
    from = to;
    return { account, name, items };
  });
}

/** How far somebody is with their share. */
export interface Share {
  /** Undefined for the items that nobody has and nobody has looked at. */
  account?: string;
  name: string;
  /** Ids of the items of the share that are in the set. */
  items: string[];
  /** How many of them were checked or left out. */
  through: number;
}
/** How far everybody is, and what is nobody's. */
export function shares(document: SetDocument): Share[] {
  const there = new Set(document.set.items.map((i) => i.id));
  const work = document.work ?? [];
  const all: Share[] = work.map(({ account, name, items }) => {
    const own = items.filter((id) => there.has(id));
    return { account, name, items: own, through: own.filter((id) => document.reviews[id]).length };
  });
  const given = new Set(work.flatMap((w) => w.items));
  const rest = document.set.items.filter((i) => !given.has(i.id) && !document.reviews[i.id]).map((i) => i.id);
  return rest.length && work.length ? [...all, { name: 'nobody', items: rest, through: 0 }] : all;
}
