import type { Schemas } from '../api/client.js';

/** What a person asked for in a month. */
export interface PersonsUse {
  person: string;
  asks: number;
  tokensIn: number;
  tokensOut: number;
  /** By currency: it may have been another one at another time. */
  costs: { currency: string; cost: number }[];
}

/** What each person asked for, who used most first. */
export function byPerson(list: readonly Pick<Schemas['AskedView'], 'person' | 'account' | 'tokensIn' | 'tokensOut' | 'cost' | 'currency'>[]): PersonsUse[] {
  const all = new Map<string, PersonsUse>();
  for (const a of list) {
    const key = a.account ?? a.person;
    const p = all.get(key) ?? { person: a.person, asks: 0, tokensIn: 0, tokensOut: 0, costs: [] };
    p.asks++;
    p.tokensIn += a.tokensIn;
    p.tokensOut += a.tokensOut;
    const there = p.costs.find((c) => c.currency === a.currency);
    if (there) there.cost += a.cost;
    else p.costs.push({ currency: a.currency, cost: a.cost });
    all.set(key, p);
  }
  return [...all.values()].sort((a, b) => b.tokensIn + b.tokensOut - a.tokensIn - a.tokensOut || a.person.localeCompare(b.person));
}
