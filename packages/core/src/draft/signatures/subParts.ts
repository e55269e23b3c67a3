import { matchesOf } from '../../language/matches.js';

/** "(a) 3   (b) 180   (c) 378 m": the keys of the parts of one question. */
export function subParts(text: string): { sub: string; from: number; to: number }[] {
  if (TRUTHS_BY_NUMBER.test(text.trim()))
    return matchesOf(TRUTH_BY_NUMBER, text).map((m) => ({ sub: `.${m[1]}`, from: m.index + m[0].length - 1, to: m.index + m[0].length }));
  if (!FIRST_PART.test(text)) return [];
  const out: { sub: string; from: number; to: number }[] = [];
  const roman = /^\(?i[).]/.test(text);
  for (const m of text.matchAll(roman ? ROMAN_PART : LETTER_PART)) {
    const sub = m[1] ?? '';
    const last = out[out.length - 1];
    if (sub !== (roman ? (ROMANS[out.length] ?? '') : String.fromCharCode(97 + out.length)) || (!last && m.index > 0)) continue;
    if (last) last.to = m.index;
    out.push({ sub, from: m.index + m[0].length, to: text.length });
  }
  return out.map((p) => ({ ...p, to: p.from + text.slice(p.from, p.to).replace(/[\s,;]+$/, '').length }));
}
// "1F, 2P", "1 – T; 2 – F": statements to be judged, by their numbers
const SAID = '\\s?[.):–-]?\\s?[TFVRWPNDYПНВ]';
const TRUTH_BY_NUMBER = new RegExp(`(\\d)${SAID}(?!\\p{L})`, 'gu');
const TRUTHS_BY_NUMBER = new RegExp(`^1${SAID}(?:[,;\\s]\\s?\\d${SAID}){1,12}\\.?$`, 'u');
const FIRST_PART = /^\(?[ai][).]/;
const LETTER_PART = /(?:^|(?<=[\s,;]))\(?([a-h])[).]\s*(?=\S)/g;
const ROMAN_PART = /(?:^|(?<=[\s,;]))\(?(i{1,3}|iv|v|vi)[).]\s*(?=\S)/g;
const ROMANS = ['i', 'ii', 'iii', 'iv', 'v', 'vi'];
