/** Blanks to fill in, and answers that stand in their place. */

/** A blank: low lines, a row of dots, an empty bracket, "[blank]". */
export const BLANK = /_{2,}|\.{5,}|…{2,}|\(\s{2,}\)|\[\s*blank\s*\]|\[\s{2,}\]|\{\s*\}/gi;
/** Whether a text has a blank to fill. */
export const hasBlank = (text: string): boolean => text.search(BLANK) >= 0;
/** A few words in square brackets within a sentence, no points and no note of the kind. */
export const BRACKETED = /\[(?!\s*(?:\d+\s*(?:p|m|pts?|points?|marks?)\b|x?\s*\]|T\s*\/\s*F))([^\][]{1,60})\](?!\()/i;
/** An answer in braces in its place. */
export const BRACED = /\{([^{}]{1,400})\}/;
/** A row of low lines or dots at the end, to write the whole answer on, behind a complete question. */
export const WRITE_ON = /(?<=[?.:!)…]|\p{L})\s*(?:\t|\s{2,})?(?:_{3,}|\.{5,}|…{2,})[\s_.…]*$/u;
