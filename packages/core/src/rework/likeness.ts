/** How alike texts are that say the same in other words or in another language. */
import { plainOf } from '../item/richText.js';

const bare = (s: string): string =>
  plainOf(s)
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/\[\[[^\][]*\]\]|_{2,}/g, ' ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
/** The words of a text, small and without accents. */
export const wordsOf = (s: string): string[] => bare(s).split(' ').filter(Boolean);

/** The numbers of a text as they are written in figures, decimal signs made one. */
export const numbersOf = (s: string): string[] =>
  (
    plainOf(s)
      .replace(/\[\[[^\][]*\]\]/g, ' ')
      .match(/\d+(?:[.,]\d+)*/g) ?? []
  ).map((n) => n.replace(/,/g, '.').replace(/\.0+$/, ''));

/** Two words of one root: the same beginning, as "fermentation" and "fermentación", "starters" and "starter". */
function related(a: string, b: string): number {
  if (a === b) return 1;
  const most = Math.max(a.length, b.length);
  if (Math.min(a.length, b.length) < 4) return 0;
  let same = 0;
  while (same < a.length && a[same] === b[same]) same++;
  return same >= 4 && same >= most * 0.55 ? 0.8 : 0;
}
/** Words too short or common to say much count less. */
const weight = (w: string): number => (/\d/.test(w) ? 2 : w.length <= 3 ? 0.3 : 1);

/** Share of the words that two texts have in common, by root, 0 to 1; long and rare words count more than short ones. */
export function alike(x: string, y: string): number {
  const [a, b] = [wordsOf(x), wordsOf(y)];
  if (!a.length || !b.length) return a.length === b.length ? 1 : 0;
  const free = b.slice();
  let [both, all] = [0, 0];
  for (const w of a) {
    all += weight(w);
    let [best, at] = [0, -1];
    free.forEach((v, i) => {
      const r = related(w, v);
      if (r > best) [best, at] = [r, i];
    });
    if (at >= 0) {
      both += best * weight(w);
      free.splice(at, 1);
    }
  }
  for (const v of free) all += weight(v);
  return both / all;
}

/** Whether the numbers of two texts speak against their being the same: both have some, and fewer than half are common. */
export function numbersDisagree(x: string, y: string): boolean {
  const [a, b] = [numbersOf(x), numbersOf(y)];
  if (!a.length || !b.length) return false;
  const free = b.slice();
  const both = a.filter((n) => {
    const at = free.indexOf(n);
    if (at >= 0) free.splice(at, 1);
    return at >= 0;
  }).length;
  return both < Math.max(a.length, b.length) / 2;
}

/**
 * The best partners of two lists.
 * @param score how well place i of the first and place k of the second go together; 0 and less: not at all
 * @returns for each place of the first the place of the second, or null
 */
export function partners(n: number, m: number, score: (i: number, k: number) => number): (number | null)[] {
  const all: { i: number; k: number; s: number }[] = [];
  for (let i = 0; i < n; i++)
    for (let k = 0; k < m; k++) {
      const s = score(i, k);
      if (s > 0) all.push({ i, k, s });
    }
  all.sort((a, b) => b.s - a.s || Math.abs(a.i - a.k) - Math.abs(b.i - b.k) || a.i - b.i);
  const out: (number | null)[] = Array.from({ length: n }, () => null);
  const taken = new Set<number>();
  for (const { i, k } of all) {
    if (out[i] !== null || taken.has(k)) continue;
    out[i] = k;
    taken.add(k);
  }
  return out;
}
