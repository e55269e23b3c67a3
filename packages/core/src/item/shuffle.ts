/** Orders by chance that come out the same wherever the same seed is given. */
import { hash32 } from './ids.js';

/** A source of chance: a whole number from 0 to 2³² − 1 that depends on nothing but the label and a seed. */
export type Chance = (label: string) => number;
/** Chance from a seed that anybody may know: for previews and tests. What must not be foreseen takes its chance from a secret. */
export const seeded =
  (seed: string): Chance =>
  (label) => {
    // the low bits of FNV-1a follow the low bits of its letters; the finaliser of MurmurHash3 (A. Appleby, public domain) spreads them
    let h = hash32(`${seed}/${label}`);
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    return (h ^ (h >>> 16)) >>> 0;
  };

/** Puts a list in an order that depends on nothing but the chance and its label (Fisher–Yates). */
export function shuffled<T>(list: readonly T[], chance: Chance, label = ''): T[] {
  const out = list.slice();
  for (let i = out.length - 1; i > 0; i--) {
    const j = chance(`${label}/${i}`) % (i + 1);
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}

/** Numbers from 0 up to 1 in an order that follows from a seed (Mulberry32, T. Ettinger 2017, public domain; from memory). */
export function numbersFrom(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}
