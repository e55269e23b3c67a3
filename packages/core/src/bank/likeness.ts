/** Items that ask the same in nearly the same words: found among many by MinHash and LSH, decided by exact likeness. */
import { hash32 } from '../item/ids.js';
import type { Item } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { isEmptyWord } from '../language/contentWords.js';

/** Words as they are compared: small letters, without articles and their like; scripts without blanks by two signs. */
function wordsOf(text: string): string[] {
  const words =
    text
      .toLowerCase()
      .normalize('NFKC')
      .match(/[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}]+|[\p{L}\p{N}]+/gu) ?? [];
  const out = words.flatMap((w) =>
    /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}]/u.test(w) && w.length > 2
      ? Array.from({ length: w.length - 1 }, (_, i) => w.slice(i, i + 2))
      : [w],
  );
  const content = out.filter((w) => !isEmptyWord(w));
  return content.length ? content : out;
}
/** Shingles of a text: its words and its pairs of neighbours, as 32-bit hashes. */
function shingles(text: string, into: Set<number>): void {
  const words = wordsOf(text);
  words.forEach((w, i) => {
    into.add(hash32(w));
    if (i > 0) into.add(hash32(`${words[i - 1] ?? ''} ${w}`));
  });
}

/** The texts of an item beside its stem, whatever its kind calls them. */
function partsOf(item: Item): string[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options.map((o) => o.content);
    case 'matching':
      return item.pairs.flatMap((p) => [p.left, p.right]);
    case 'ordering':
      return item.sequence;
    default:
      return [];
  }
}

/** What an item is compared by: the shingles of its stem, and those of stem and options together. */
export interface Fingerprint {
  stem: ReadonlySet<number>;
  all: ReadonlySet<number>;
}
/** The fingerprint of an item; the order of its options does not count. */
export function fingerprint(item: Item): Fingerprint {
  const stem = new Set<number>();
  shingles(plainOf(item.stem), stem);
  const all = new Set(stem);
  for (const part of partsOf(item)) shingles(plainOf(part), all);
  return { stem, all };
}

/** Share of the members that two sets have in common, 0 to 1 (Jaccard 1901); 1 where both are empty. */
export function jaccard(a: ReadonlySet<number>, b: ReadonlySet<number>): number {
  const [small, large] = a.size < b.size ? [a, b] : [b, a];
  if (!large.size) return 1;
  let both = 0;
  for (const x of small) if (large.has(x)) both++;
  return both / (a.size + b.size - both);
}

/** From this likeness of stem and options on, two items ask the same; common practice, no source. */
export const NEAR = 0.6;
/** The stems alone must be as like as this: items that share only their options ask different things. */
const NEAR_STEM = 0.5;
/** Whether two items ask nearly the same. */
export const nearlySame = (a: Fingerprint, b: Fingerprint): boolean => jaccard(a.stem, b.stem) >= NEAR_STEM && jaccard(a.all, b.all) >= NEAR;

// 20 bands of 3: pairs with a likeness of 0.6 meet in a bucket with 1 − (1 − 0.6³)²⁰ = 99.2 % (Leskovec, Rajaraman and Ullman, Mining of Massive Datasets, 3.4).
const BANDS = 20;
const ROWS = 3;
const FACTORS = Array.from({ length: BANDS * ROWS }, (_, i) => hash32(`factor ${i}`) | 1);
const ADDENDS = Array.from({ length: BANDS * ROWS }, (_, i) => hash32(`addend ${i}`));

/** The MinHash signature of a set of hashes (Broder 1997): for each of the functions the least value. */
function signature(set: ReadonlySet<number>): Uint32Array {
  const out = new Uint32Array(BANDS * ROWS).fill(0xffffffff);
  for (const x of set)
    for (let f = 0; f < out.length; f++) {
      let h = Math.imul(x ^ (x >>> 15), FACTORS[f] as number) + (ADDENDS[f] as number);
      h = (h ^ (h >>> 13)) >>> 0;
      if (h < (out[f] as number)) out[f] = h;
    }
  return out;
}

/** In a bucket, an item is compared with so many that came before and are not of one group: a pool of nothing but one question stays linear. */
const MOST_COMPARED = 12;

/**
 * Groups of items that ask nearly the same. Each member is like the first of its group, so that groups do not grow into chains.
 * @returns groups of two and more, as places in `items`, in their order; linear in the number of items
 */
export function nearGroups(items: readonly Item[]): number[][] {
  const prints = items.map(fingerprint);
  const first = new Int32Array(items.length).fill(-1);
  const buckets = Array.from({ length: BANDS }, () => new Map<number, number[]>());
  items.forEach((item, i) => {
    if (item.kind === 'information') return;
    const own = prints[i] as Fingerprint;
    if (!own.all.size) return;
    const signs = signature(own.all);
    const tried = new Set<number>();
    const lists: number[][] = [];
    for (let b = 0; b < BANDS; b++) {
      let key = b;
      for (let r = 0; r < ROWS; r++) key = Math.imul(key ^ (signs[b * ROWS + r] as number), 0x9e3779b1) ^ (key >>> 13);
      const bucket = buckets[b] as Map<number, number[]>;
      const list = bucket.get(key);
      if (list) lists.push(list);
      else bucket.set(key, [i]);
      for (const k of list ?? []) {
        if (first[i] !== -1) break;
        const head = first[k] === -1 ? k : (first[k] as number);
        if (tried.has(head) || tried.size >= MOST_COMPARED * BANDS) continue;
        tried.add(head);
        if (items[head]?.kind === item.kind && nearlySame(prints[head] as Fingerprint, own)) {
          first[i] = head;
          first[head] = head;
        }
      }
    }
    // heads of groups and single items are what others are compared with
    if (first[i] === -1) for (const list of lists) if (list.length < MOST_COMPARED) list.push(i);
  });
  const groups = new Map<number, number[]>();
  first.forEach((head, i) => {
    if (head === -1) return;
    const group = groups.get(head);
    if (group) group.push(i);
    else groups.set(head, [i]);
  });
  return [...groups.values()].filter((g) => g.length > 1);
}
