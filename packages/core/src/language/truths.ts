/** True and false, as words, letters, notes in front of or behind a statement, and boxes. */
import { atEnd, headOf, pattern } from './labels.js';
import { FALSE, FALSE_SHORT, TRUE, TRUE_SHORT } from './words.js';

const TRUE_WORD = pattern(`^(?:${TRUE})$`);
const FALSE_WORD = pattern(`^(?:${FALSE})$`);
const TRUE_SIGN = /^[✓✔√○◯〇⭕]\ufe0f?$/u;
const FALSE_SIGN = /^[✗✘×✕❌]\ufe0f?$/u;
/** The truth value that a word says; null where it says none. Single letters only where `letters` allows them. */
export function truth(word: string, letters: boolean): boolean | null {
  const w = word
    .trim()
    .replace(/[.!]$/, '')
    .replace(/^["'“«]|["'”»]$/g, '');
  if (TRUE_WORD.test(w)) return true;
  if (FALSE_WORD.test(w)) return false;
  if (TRUE_SIGN.test(w)) return true;
  if (FALSE_SIGN.test(w)) return false;
  if (letters && w.length === 1) return TRUE_SHORT.has(w.toLowerCase()) ? true : FALSE_SHORT.has(w.toLowerCase()) ? false : null;
  return null;
}

const T = `${TRUE}|T|V|W|R`;
const F = `${FALSE}|F`;
/** A truth value in front of a statement: "(T) …", "F – …"; the letters that only some languages use (tak, doğru, правда) count in whole brackets. */
export const TRUTH_SIGN =
  '(?:[([]\\s*(?=[DYPSВНПΣΛ]\\s*[)\\]])|[([]?\\s*(?![DYPSВНПΣΛ]\\s*[)\\]:–—-]))(T|F|V|R|W|D|Y|P|S|В|Н|П|Σ|Λ|true|false|verdadero|falso|vrai|faux|richtig|falsch)\\s*(?:[)\\]]\\s*[:–—-]?|[:–—-])\\s+';
const EMPTY = '(?:[([]\\s*[)\\]]|[☐□○])';
const BOTH = `(?:${EMPTY}\\s*(?:${T}|P)\\s*${EMPTY}\\s*(?:${F}|Y)|P\\s*/\\s*F|D\\s*/\\s*Y|J\\s*/\\s*[ON]|В\\s*/\\s*Н|П\\s*/\\s*Н|T\\s{1,4}F(?!\\p{L})|(?:${T})\\s*(?:/|\\||or|o|ou|oder|of|lub|czy|или|чи|або|ya da|y|und|et|e|en|ili|eller|vai|vagy|sau|nebo|alebo|või|arba|ή|atau|hay|hoặc|au|ali|또는|या)\\s*(?:${F}|Y))`;
const TF_HEAD = pattern(`^\\s*[(\\[¿]?\\s*(?:${BOTH})\\s*[)\\]]?\\s*(?:[?:.)–—-]+\\s*|(?<=[)\\]])\\s*|(?<=T\\s{1,4}F|[TVRW]\\s?/\\s?F)\\s+)`);
const TF_NOTE = pattern(`\\s*[(\\[]\\s*(?:${BOTH})\\s*\\??\\s*[)\\]]\\s*[.:]?\\s*$`);
const TF_BARE = pattern(`(?:\\s+|\\s*[-–—:]\\s*)(?:${BOTH})\\s*\\??\\s*$`);
const TF_APART = /\s{2,}(?:T\s{1,8}F|V\s{1,8}F|R\s{1,8}F|W\s{1,8}F|P\s{1,8}F|D\s{1,8}Y|В\s{1,8}Н|П\s{1,8}Н)\s*$/u;
/** "True   False", both as words, to circle one. */
const TF_WORDS_APART = pattern(`(?<![\\p{L}\\p{N}])(?:${TRUE})\\s{1,12}(?:${FALSE})\\s*$`);
/** "True or False:" in front of a statement or "(T/F)" behind it: the columns of the note. */
export function truthNote(text: string): { from: number; to: number } | null {
  const head = TF_HEAD.exec(headOf(text));
  if (head && head[0].length < text.length) return { from: 0, to: head[0].length };
  const tail = atEnd(TF_NOTE, text) ?? atEnd(TF_BARE, text) ?? atEnd(TF_APART, text) ?? atEnd(TF_WORDS_APART, text);
  return tail && tail.index > 0 ? { from: tail.index, to: text.length } : null;
}
/** Ticks and crosses in brackets behind a statement: "(√)", "（×）". */
const TF_SIGN = /\s*[([（]\s*(?:([✓✔√○◯⭕对對])|([✗✘×✕❌错錯]))\ufe0f?\s*[)\]）]\s*[.。]?\s*$/u;
const TF_KEY = pattern(`\\s*(?:[(\\[（]\\s*(${T}|${F})\\s*[)\\]）]|[-–—:=>→]+\\s*(${T}|${F})|[✅❌✔✗✓✘]️?\\s*(${T}|${F}))\\s*[.!]?\\s*$`);
const TF_KEY_SPACED = pattern(`(?:\\s{2,}|\\t\\s*|(?<=[\\p{Ll}\\d][.!])\\s+|\\s*(?:_{2,}|\\.{4,}|…+)\\s*)(${T}|${F})\\s*_*\\s*$`);
/** "… three chambers. FALSE – four": the correction follows. */
const TF_CORRECTED = pattern(`(?<=[.!?])\\s+[([]?(${TRUE}|${FALSE})[)\\]]?\\s*(?:[–—-]|:|→|,\\s)\\s*(?=\\S)`);
/** "V  [F]", "(T) / F": of the two letters behind a statement one stands in brackets, as one that is circled. */
export const ONE_IN_BRACKETS = /\s+(?:[([]\s?([TVRWP])\s?[)\]]\s{0,4}[/|]?\s{0,4}[FY]|[TVRWP]\s{0,4}[/|]?\s{0,4}[([]\s?[FY]\s?[)\]])\s*$/u;
/** The answer behind a statement: "… (True)", "… – False", "… ❌ False"; with wide space also "…   T". */
export function truthKey(text: string): { from: number; to: number; value: boolean; reason?: number } | null {
  const corrected = text.length < 300 ? TF_CORRECTED.exec(text) : null;
  const said = corrected ? truth(corrected[1] ?? '', false) : null;
  if (corrected && said !== null && corrected.index > 8)
    return { from: corrected.index, to: text.length, value: said, reason: corrected.index + corrected[0].length };
  const sign = atEnd(TF_SIGN, text);
  if (sign && sign.index > 0) return { from: sign.index, to: text.length, value: Boolean(sign[1]) };
  const ringed = atEnd(ONE_IN_BRACKETS, text);
  if (ringed && ringed.index > 0) return { from: ringed.index, to: text.length, value: Boolean(ringed[1]) };
  const m = atEnd(TF_KEY, text) ?? atEnd(TF_KEY_SPACED, text);
  const word = m?.slice(1).find(Boolean);
  const value = word ? truth(word, true) : null;
  return m && m.index > 0 && value !== null ? { from: m.index, to: text.length, value } : null;
}
/** Words of some length may have an ending: "wahre", "verdaderos". */
const ENDING = '(?:(?<=\\p{L}{4})\\p{L}{0,3})?(?!\\p{L})';
const SAYS_TRUE = pattern(`(?<!\\p{L})(?:${TRUE})${ENDING}`);
const SAYS_FALSE = pattern(`(?<!\\p{L})(?:${FALSE})${ENDING}`);
/** The letters that a heading gives for true and false: "mark with A what is true and with F what is false" is [A, F]. */
export function truthLetters(text: string): readonly [string, string] | null {
  const head = headOf(text).replace(/^[^:–—-]{1,30}[:–—-]+/u, '');
  const yes = SAYS_TRUE.exec(head);
  const no = SAYS_FALSE.exec(head);
  if (!yes || !no) return null;
  const letters = [...head.matchAll(/(?<![\p{L}\d])\p{Lu}(?![\p{L}\d)])|(?<=\()\p{Lu}(?=\))/gu)];
  const first = yes.index < no.index;
  if (!letters.length) {
    // "Sant eller falskt?": the letters that the two words start with
    const initials = [yes, no].map((m) => m[0][0]?.toUpperCase() ?? '');
    const [t = '', f = ''] = initials;
    return t !== f && /\p{Lu}/u.test(t + f) && head.length < 60 && truth(t, true) === null ? [t, f] : null;
  }
  const [a, b, more] = letters;
  if (!a || !b || more || a[0] === b[0]) return null;
  return first ? [a[0], b[0]] : [b[0], a[0]];
}
const EITHER = pattern(`(?<![\\p{L}\\p{N}])(?:(${TRUE}|T|V|W|R)|(${FALSE}|F))(?![\\p{L}\\p{N}])`);
/** The two sides of a note to choose from, in the order in which they stand: "True / False"; null where one of them is missing. */
export function truthSides(note: string): { from: number; to: number; value: boolean }[] | null {
  const sides: { from: number; to: number; value: boolean }[] = [];
  for (let at = 0; at < note.length; ) {
    const m = EITHER.exec(note.slice(at));
    if (!m) break;
    const from = at + m.index;
    at = from + m[0].length;
    sides.push({ from, to: at, value: m[1] !== undefined });
  }
  return sides.length === 2 && sides[0]?.value !== sides[1]?.value ? sides : null;
}
const LEGEND = pattern(
  `(?<![\\p{L}])(\\S)\\s*[=:–-]\\s*(?:right|correct|richtig|${TRUE})\\p{L}{0,3}[\\s,;/]+(?:and |und |y |et )?(\\S)\\s*[=:–-]\\s*(?:wrong|incorrect|${FALSE})`,
);
/** "(O / X)": a ring and a cross to choose from, as in East Asia. */
export const RING_OR_CROSS = /[([（]\s*[O○]\s*[/,・·]?\s*[X×]\s*[)\]）]|(?:^|\s)[O○]\s?[X×](?:\s|퀴즈|문제|クイズ|問題|题)|\s?[〇○◯]か[×✕]か。?\s*$/u;
/** The signs that a legend gives for true and false: "r = right, w = wrong". */
export function truthLegend(text: string): readonly [string, string] | null {
  const m = LEGEND.exec(headOf(text));
  return m?.[1] && m[2] && m[1] !== m[2] ? [m[1].toUpperCase(), m[2].toUpperCase()] : null;
}
