/** Words that open the question itself, without a number. */
import { QUESTION } from '../../language/words.js';

/** "Question:" or "Stem:" without a number. */
const HEAD = new RegExp(
  `^\\s*(?:[-•*]\\s+)?(?:${QUESTION}|stem|prompt|statement|question (?:text|stem)|enunciado|aussage|énoncé|text|front)\\s*(?:[:.–—]\\s+|=\\s*)(?=\\S)`,
  'iu',
);
/** The column behind a word for the question itself; 0 where there is none. */
export const behindHead = (text: string): number => HEAD.exec(text.slice(0, 80))?.[0].length ?? 0;
