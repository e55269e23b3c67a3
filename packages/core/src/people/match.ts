/** Who of a class list somebody is who handed in under a name or a mail address. */

/** Somebody on a class list. */
export interface Listed {
  id: string;
  name: string;
  mail?: string;
}
/** Somebody who handed in. */
export interface Learner {
  name: string;
  mail?: string;
}
/** Who a learner is taken for. */
export interface PersonMatch {
  /** The person, where there is one that it is, or may be. */
  person: string | null;
  /** By mail, by the name as it stands on the list, by a name that only one of the list can mean; maybe: to be asked. */
  by: 'mail' | 'name' | 'likely' | 'maybe' | 'nobody';
}

const words = (name: string): string[] =>
  name
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
const sameWords = (a: readonly string[], b: readonly string[]): boolean => a.length === b.length && [...a].sort().join(' ') === [...b].sort().join(' ');
/** "A. Brandt" and "Ada" for Ada Brandt: every word of the shorter begins or is a word of the longer. */
const shortFor = (short: readonly string[], long: readonly string[]): boolean => {
  const free = [...long];
  return short.every((w) => {
    const at = free.findIndex((f) => f === w || (w.length === 1 && f.startsWith(w)));
    if (at < 0) return false;
    free.splice(at, 1);
    return true;
  });
};
/** Whether one letter at most differs. */
function nearly(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1 || Math.min(a.length, b.length) < 4) return false;
  let i = 0;
  while (i < a.length && i < b.length && a[i] === b[i]) i++;
  const [x, y] = [a.slice(i), b.slice(i)];
  return x.slice(1) === y.slice(1) || x.slice(1) === y || x === y.slice(1) || (x[0] === y[1] && x[1] === y[0] && x.slice(2) === y.slice(2));
}

/**
 * Matches learners to a class list. Nobody of the list is given to two learners without being asked about.
 * @returns one match a learner, in their order
 */
export function matchPeople(learners: readonly Learner[], list: readonly Listed[]): PersonMatch[] {
  const named = list.map((p) => ({ p, w: words(p.name), mail: p.mail?.trim().toLowerCase() }));
  const one = <T>(all: readonly T[]): T | undefined => (all.length === 1 ? all[0] : undefined);
  const found = learners.map((l): PersonMatch => {
    const mail = (l.mail ?? (l.name.includes('@') ? l.name : '')).trim().toLowerCase();
    const byMail = mail ? one(named.filter((n) => n.mail === mail)) : undefined;
    if (byMail) return { person: byMail.p.id, by: 'mail' };
    const w = words(l.name);
    if (!w.length) return { person: null, by: 'nobody' };
    const exact = named.filter((n) => sameWords(n.w, w));
    if (exact.length) return { person: exact[0]?.p.id ?? null, by: exact.length === 1 ? 'name' : 'maybe' };
    const short = named.filter((n) => shortFor(w, n.w) || shortFor(n.w, w));
    if (short.length) return { person: short[0]?.p.id ?? null, by: short.length === 1 ? 'likely' : 'maybe' };
    const near = named.filter((n) => nearly([...n.w].sort().join(' '), [...w].sort().join(' ')));
    return near[0] ? { person: near[0].p.id, by: 'maybe' } : { person: null, by: 'nobody' };
  });
  const times = new Map<string, number>();
  for (const m of found) if (m.person) times.set(m.person, (times.get(m.person) ?? 0) + 1);
  // two who hand in under names for one person: the name that stands on the list is hers, others are asked
  return found.map((m) => (m.person && (times.get(m.person) ?? 0) > 1 && m.by === 'likely' ? { ...m, by: 'maybe' } : m));
}
