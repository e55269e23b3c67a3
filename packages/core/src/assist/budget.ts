/** What asking an assistant costs, and how much of it a person may ask in a month. */

/** Tokens of a request and of its reply. */
export interface Tokens {
  in: number;
  out: number;
}
/** What a million tokens cost, in the currency of the workspace. */
export type Prices = Tokens;
/** What a person may use in a calendar month: tokens of both directions, or money. */
export interface Allowance {
  unit: 'tokens' | 'money';
  amount: number;
}

/** What tokens cost, to a thousandth of a cent. */
export const costOf = (t: Tokens, prices: Prices): number => Math.round((t.in * prices.in + t.out * prices.out) / 10) / 1e5;

/** Tokens as an allowance counts them. */
export const usedOf = (t: Tokens, prices: Prices, unit: Allowance['unit']): number => (unit === 'tokens' ? t.in + t.out : costOf(t, prices));

/** Whether one more request fits. */
export interface Room {
  fits: boolean;
  /** What is left before it; never less than nothing. */
  left: number;
  /** What it may use at most. */
  needs: number;
}
/**
 * Whether a request fits into what is left of an allowance, whatever its reply needs of the most that it may have.
 * @param used so far in the month, with what is under way counted at its most
 * @param planned tokens of the request (estimated) and the most that its reply may have
 */
export function roomFor(allowance: Allowance, used: number, planned: Tokens, prices: Prices): Room {
  const left = Math.max(0, allowance.amount - used);
  const needs = usedOf(planned, prices, allowance.unit);
  return { fits: needs <= left + 1e-9, left, needs };
}

/** An amount in words: "0.42 EUR", "12,300 tokens". */
export const amountWords = (amount: number, unit: Allowance['unit'], currency: string): string =>
  unit === 'tokens' ? `${Math.round(amount).toLocaleString('en')} tokens` : `${amount.toFixed(amount !== 0 && Math.abs(amount) < 0.1 ? 4 : 2)} ${currency}`;

/** The month of a time, as "2026-11", in UTC: allowances begin anew with it. */
export const monthOf = (at: Date): string => at.toISOString().slice(0, 7);
