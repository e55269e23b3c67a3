/** What is looked for in the bank, as it stands in the address: a link shows the same view. */
import type { BankFilters } from './filters.js';
import { filterNames } from './filters.js';

/** Words and filters. */
export interface BankAsked extends BankFilters {
  q: string;
  sort: string;
}

/** What an address asks for. */
export function askedIn(params: URLSearchParams): BankAsked {
  const of = (name: string): string[] => params.getAll(name).filter(Boolean);
  return { q: params.get('q') ?? '', sort: params.get('sort') ?? '', ...(Object.fromEntries(filterNames.map((n) => [n, of(n)])) as unknown as BankFilters) };
}
/** The address of what is asked. */
export function paramsOf(asked: BankAsked): URLSearchParams {
  const out = new URLSearchParams();
  if (asked.q) out.set('q', asked.q);
  for (const n of filterNames) for (const v of asked[n]) out.append(n, v);
  if (asked.sort) out.set('sort', asked.sort);
  return out;
}
/** Whether anything narrows the bank. */
export const narrows = (asked: BankAsked): boolean => asked.q.trim() !== '' || filterNames.some((n) => asked[n].length > 0);
