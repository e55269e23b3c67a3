/** Items that ask the same in nearly the same words: found among many by MinHash and LSH, decided by exact likeness. */
import { hash32 } from '../item/ids.js';
import type { Item } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { isEmptyWord } from '../language/contentWords.js';

/** Words as they are compared: small letters, without articles and their like; scripts without blanks by two signs. */
function wordsOf(text: string): string[] {
  const small = text.toLowerCase().normalize('NFKC');
  // most texts are of a script with blanks
  if (!UNSPACED.test(small)) return content(small.match(/[\p{L}\p{N}]+/gu) ?? []);
  const words = small.match(/[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}]+|[\p{L}\p{N}]+/gu) ?? [];
  return content(words.flatMap((w) => (UNSPACED.test(w.charAt(0)) && w.length > 2 ? Array.from({ length: w.length - 1 }, (_, i) => w.slice(i, i + 2)) : [w])));
}
const UNSPACED = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}]/u;
/** The words that say something, where there are any. */
function content(words: string[]): string[] {
  const said = words.filter((w) => !isEmptyWord(w));
  return said.length ? said : words;
}
/** Shingles of a text: its words and its pairs of neighbours, as 32-bit hashes. */
function shingles(text: string, into: Set<number>): void {
  let before = 0;
  for (const w of wordsOf(text)) {
    const h = hash32(w);
    into.add(h);
    if (before) into.add((Math.imul(before, 0x9e3779b1) ^ h) >>> 0);
    before = h;
  }
}

/** The shingles of a text by itself. */
export function textPrint(text: string): ReadonlySet<number> {
  const out = new Set<number>();
  shingles(plainOf(text), out);
  return out;
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
  const stem = textPrint(item.stem);
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

/** The bucket of each band that a signature falls into. */
function bandsOf(signs: Uint32Array): Int32Array {
  const keys = new Int32Array(BANDS);
  for (let b = 0; b < BANDS; b++) {
    let key = b;
    for (let r = 0; r < ROWS; r++) key = Math.imul(key ^ (signs[b * ROWS + r] as number), 0x9e3779b1) ^ (key >>> 13);
    // small whole numbers are the fastest keys
    keys[b] = key & 0x3fffffff;
  }
  return keys;
}
/**
 * By what items that ask nearly the same are found among many: two of them share at least one of these numbers, with the share of
 * misses that `BANDS` says; most others share none. Empty for what asks nothing.
 */
export function nearKeys(item: Item): number[] {
  const { all } = fingerprint(item);
  return item.kind === 'information' || !all.size ? [] : [...new Set(bandsOf(signature(all)))];
}

/** Of a bucket so many are looked at, the last ones, and an item is compared with so many in all: a pool of one pattern stays linear. */
const BUCKET = 10;
const MOST_COMPARED = 80;
/** Share of a signature that has to agree before likeness is counted exactly: well below what is looked for, because it is an estimate. */
const WORTH_COUNTING = Math.round(BANDS * ROWS * 0.4);
function agrees(a: Uint32Array, b: Uint32Array): boolean {
  let same = 0;
  for (let f = 0; f < a.length; f++) if (a[f] === b[f]) same++;
  return same >= WORTH_COUNTING;
}

/**
 * Groups of items that ask nearly the same. Each member is like the first of its group, so that groups do not grow into chains.
 * @returns groups of two and more, as places in `items`, in their order; linear in the number of items
 */
export function nearGroups(items: readonly Item[]): number[][] {
  const prints = items.map(fingerprint);
  const first = new Int32Array(items.length).fill(-1);
  const signatures: Uint32Array[] = Array.from({ length: items.length });
  // a bucket is the item that came into it last, and each item names the one before it: no list for each of a million buckets
  const buckets = Array.from({ length: BANDS }, () => new Map<number, number>());
  const before = Array.from({ length: BANDS }, () => new Int32Array(items.length).fill(-1));
  items.forEach((item, i) => {
    if (item.kind === 'information') return;
    const own = prints[i] as Fingerprint;
    if (!own.all.size) return;
    const signs = signature(own.all);
    signatures[i] = signs;
    const tried = new Set<number>();
    const keys = bandsOf(signs);
    for (let b = 0; b < BANDS && first[i] === -1; b++) {
      let k = buckets[b]?.get(keys[b] as number) ?? -1;
      for (let n = 0; k !== -1 && n < BUCKET; n++, k = before[b]?.[k] ?? -1) {
        const head = first[k] === -1 ? k : (first[k] as number);
        if (tried.has(head) || tried.size >= MOST_COMPARED) continue;
        tried.add(head);
        if (items[head]?.kind !== item.kind || !agrees(signatures[head] as Uint32Array, signs) || !nearlySame(prints[head] as Fingerprint, own)) continue;
        first[i] = head;
        first[head] = head;
        break;
      }
    }
    if (first[i] !== -1) return;
    // heads of groups and single items are what others are compared with
    for (let b = 0; b < BANDS; b++) {
      const bucket = buckets[b] as Map<number, number>;
      const key = keys[b] as number;
      (before[b] as Int32Array)[i] = bucket.get(key) ?? -1;
      bucket.set(key, i);
    }
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
