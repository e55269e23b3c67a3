import { randomInt } from 'node:crypto';

/** Letters and digits that cannot be taken for one another when read out. */
const SIGNS = 'BCDFGHJKMNPQRTVWXYZ346789';
const signs = (length: number): string => Array.from({ length }, () => SIGNS[randomInt(SIGNS.length)]).join('');
/** The entry code of a quiz: six signs. */
export const newCode = (): string => signs(6);
/** The code of one person for one quiz: eight, so that neither is taken for the other, and none is guessed (25⁸ are 1.5 · 10¹¹). */
export const newOwnCode = (): string => signs(8);
