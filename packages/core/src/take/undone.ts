/** What an attacker does with orders, for tests. */
import { hash32 } from '../item/ids.js';

/** A list before it was shuffled as orders once were: Fisher–Yates by FNV-1a of a seed that the browser knows. */
export function undone<T>(list: readonly T[], seed: string): T[] {
  const out = list.slice();
  for (let i = 1; i < out.length; i++) {
    const j = hash32(`${seed}/${i}`) % (i + 1);
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}
