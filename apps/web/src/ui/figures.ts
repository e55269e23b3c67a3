/** Figures as they are written. */
import { locale } from '../words/say.js';

export const number = (n: number, digits = 1): string => n.toLocaleString(locale(), { maximumFractionDigits: digits });
/** A figure with as many decimals as its neighbours. */
export const fixed = (n: number, digits: number): string => n.toLocaleString(locale(), { minimumFractionDigits: digits, maximumFractionDigits: digits });
/** Points as they are written: no more decimals than needed. */
export const written = (n: number): string => number(n, 2);
/** A figure that may not be there: too few people, or nothing varies. */
export const orNone = (n: number | null, digits = 2): string => (n === null ? '–' : number(n, digits));
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
