/** What stands in brackets at the end of a line, where it could be the answer of the question in front. */

/** Notes that stand in brackets behind questions and are no answers. */
const NOTE = /^(?:T\s*\/\s*F|\d+(?:[.,]\d+)?\s*\p{L}+\.?|(?:choose|select|tick|pick|circle|see|use|hint|pts?|points?)\b.*)$/iu;
const BRACKET_END = /([?.:…_]?)\s*\(([^()]{1,60})\)\s*$/;
/** The sign in front of the brackets, where a question ends so, and what stands in them. */
export const bracketEnd = (text: string): RegExpExecArray | null => BRACKET_END.exec(text.slice(-70));
/** Whether words in brackets could be an answer: a word at least, and no note to learners. */
export const saysAnswer = (words: string | undefined): boolean => words !== undefined && /\p{L}{2}/u.test(words) && !isNote(words);
/** Whether words in brackets only speak to whoever answers or marks. */
export const isNote = (words: string): boolean => NOTE.test(words.trim());
/** A number, a fraction, a time, a ratio, an amount of money. */
const FIGURE = /^[€£$]?\s?[-−+]?(?:\d+\s)?\d+(?:[.,:/]\d+)*\s?[%°€£$]?$/u;
/** The same of what stands behind a blank, where numbers are no points. */
export const fillsBlank = (words: string | undefined): boolean => saysAnswer(words) || FIGURE.test(words?.trim() ?? '');
