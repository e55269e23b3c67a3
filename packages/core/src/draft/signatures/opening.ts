/** The word that opens a line, whatever it announces. */
import { LETTERS } from '../../language/labels.js';
import { withinValue } from './entries.js';

/** A word with a colon that opens a line, and the column behind it. */
export interface Opening {
  /** In small letters; "#" stands for a number. */
  word: string;
  /** The number behind the word; 0 where there is none. */
  ord: number;
  /** Column of what stands behind. */
  at: number;
  /** A sign or brackets part the word from the rest. */
  signed: boolean;
}

const BRACKETED = /^[^\p{L}\p{N}]{0,6}[【〔[(（<«]\s*(\p{L}[\p{L}\p{M} .'’]{0,28}?)\s*(\d{0,3})\s*[】〕\])）>»]\s*[:：–—-]?\s*(?=\S)/u;
const SIGNED = /^[^\p{L}\p{N}([]{0,6}(\p{L}[\p{L}\p{M} .'’/]{0,28}?)\s*(\d{0,3})\s*(?:[:：=]|\s[–—-](?=\s)|→|⇒)\s*/u;
const NUMBERED =
  /^[^\p{L}\p{N}]{0,3}(\p{L}[\p{L}\p{M}]{0,14}\.?(?:\s\p{L}[\p{L}\p{M}]{0,14}){0,2}?)\s?(\d{1,3}(?:\.\d{1,2})?)(?:\s?(?:of|von|de|sur|di|z|из|van|av|\/)\s?\d{1,3}(?=\s*$))?[.)]?(?:\s+(?=\S)|\s*$)/u;
/** A sign that is no bullet, with words behind it. */
const SIGN = /^\s*([@#%&~^!§$¬¶]|\/\/|\*{2,})(\s*)\s+(?=\S)/u;
const ALONE = new RegExp(`^\\s*(\\p{L}[\\p{L}\\p{M}'’]{1,14}\\.?)(\\s)\\s*(?=[([（]?(?:[${LETTERS}]|\\d)[)\\]）]?\\s*[.。]?$)`, 'u');

/** "6.2" counts as 602. */
const numberOf = (said: string): number =>
  said.includes('.') ? withinValue(said.slice(0, said.indexOf('.')), said.slice(said.indexOf('.') + 1)) : Number(said);

/** The word that opens a line, the number behind it, and where the rest starts; null where none does. */
export function openingOf(line: string): Opening | null {
  const text = line.slice(0, 80);
  const signed = BRACKETED.exec(text) ?? SIGNED.exec(text);
  const m = signed ?? NUMBERED.exec(text) ?? ALONE.exec(text) ?? SIGN.exec(text);
  if (!m) return null;
  const number = (m[2] ?? '').trim();
  const word = (m[1] ?? '').trim().toLowerCase();
  // a lone letter is an option's label
  if (word.length < 2 && /\p{L}/u.test(word) && !number && !/[^\p{Script=Latin}\p{Script=Cyrillic}\p{Script=Greek}]/u.test(word)) return null;
  return { word: number ? `${word} #` : word, ord: numberOf(number), at: m[0].length, signed: signed !== null || !/\p{L}/u.test(word) };
}
