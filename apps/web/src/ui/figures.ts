/** Figures as they are written. */

export const number = (n: number, digits = 1): string => n.toLocaleString(undefined, { maximumFractionDigits: digits });
/** Points as they are written: no more decimals than needed. */
export const written = (n: number): string => number(n, 2);
/** A figure that may not be there: too few people, or nothing varies. */
export const orNone = (n: number | null, digits = 2): string => (n === null ? '–' : number(n, digits));
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
