/** Whether a typed answer is an accepted one, by the item's matching rule. */
import type { MatchRule } from '../item/model.js';
import { parseNumber, writesDecimalComma } from './numbers.js';

/** Languages with a dotted and a dotless i, which plain lower-casing would confuse. */
const DOTLESS = /^(?:tr|az)\b/;
const lower = (s: string, language?: string): string => (language && DOTLESS.test(language) ? s.toLocaleLowerCase(language) : s.toLowerCase());

/** A text as it is compared: one writing of quotes, dashes, widths and accents (Unicode NFKC), white space collapsed. */
function normalise(text: string, rule: MatchRule, language?: string): string {
  let s = text
    .normalize('NFKC')
    .replace(/[\u00ad\u200b-\u200f\u2060\ufeff]/g, '')
    .replace(/[\u2018\u2019\u02bc\u00b4`]/g, "'")
    .replace(/[\u201c\u201d\u201e\u00ab\u00bb]/g, '"')
    .replace(/[\u2010-\u2015\u2212]/g, '-');
  if (rule.punctuation === 'ignore') s = s.replace(/(?<=\p{L})'(?=\p{L})/gu, '').replace(/[\p{P}\p{S}]/gu, ' ');
  if (!rule.caseSensitive) s = lower(s, language);
  // the dot of a Turkish i is no accent: it is lower-cased first
  if (rule.accents === 'ignore')
    s = s
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .normalize('NFC')
      .replace(/[ıłøđħŁØĐĦ]/g, (c) => PLAIN[c] ?? c);
  return s.replace(/\s+/g, ' ').trim();
}
/** Letters with a stroke or without a dot, which Unicode does not take apart. */
const PLAIN: Readonly<Record<string, string>> = { ı: 'i', ł: 'l', ø: 'o', đ: 'd', ħ: 'h', Ł: 'L', Ø: 'O', Đ: 'D', Ħ: 'H' };

/** Edits (insert, delete, substitute, swap of neighbours: Damerau 1964, restricted) between two short texts; stops counting above `limit`. */
export function letterDistance(x: string, y: string, limit: number): number {
  const a = [...x];
  const b = [...y];
  if (Math.abs(a.length - b.length) > limit) return limit + 1;
  let before: number[] = [];
  let prev = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let d = Math.min((prev[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (prev[j - 1] ?? 0) + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) d = Math.min(d, (before[j - 2] ?? 0) + 1);
      row.push(d);
    }
    before = prev;
    prev = row;
  }
  return prev[b.length] ?? limit + 1;
}

// "and" in the languages of the reader; from memory. Single letters join only in their own language: "x and y" is no Spanish list of x.
const AND: Readonly<Record<string, string>> = { de: 'und', fr: 'et', es: 'y|e', pt: 'e', it: 'e|ed', nl: 'en', pl: 'i|oraz', ru: 'и', uk: 'і|й|та', tr: 've' };
/**
 * The parts of an answer that is a list ("4, −3", "a and b", "1,5; 2"). A comma between figures parts nothing where a semicolon does,
 * and never where it is followed by three figures or stands in a decimal number with no blank behind it in a language that writes so.
 */
export function answerParts(s: string, language?: string): string[] {
  const own = AND[language?.slice(0, 2) ?? ''];
  const and = new RegExp(` (?:and${own ? `|${own}` : ''}) `, 'u');
  const sign = s.includes(';') ? ';' : writesDecimalComma(language) ? /,(?!\d)/ : /,(?!\d{3}\b)/;
  return s
    .replace(/\s+/g, ' ')
    .split(sign)
    .flatMap((p) => p.split(and))
    .map((p) => p.trim())
    .filter(Boolean);
}

/** How a typed answer came to count: letter by letter, by its value, as a list, or with letters that differ. */
export interface TextMatch {
  by: 'same' | 'value' | 'list' | 'spelling';
  /** How many letters differ. */
  letters: number;
}
const SAME: TextMatch = { by: 'same', letters: 0 };

/** One answer, or one part of a list. */
function matchPart(given: string, accepted: string, rule: MatchRule, language?: string): TextMatch | null {
  const g = normalise(given, rule, language);
  const a = normalise(accepted, rule, language);
  if (!g) return null;
  if (g === a) return SAME;
  const comma = writesDecimalComma(language);
  const x = parseNumber(given, comma);
  const y = parseNumber(accepted, comma);
  // figures are no spelling: 21 is no misspelt 12
  if (x !== null || y !== null)
    return rule.numbersAsValues && x !== null && y !== null && Math.abs(x - y) <= 1e-12 * Math.max(1, Math.abs(x), Math.abs(y))
      ? { by: 'value', letters: 0 }
      : null;
  if (rule.spelling === 0 || a.length <= rule.spelling * 2) return null;
  if ((g.match(/\d+/g) ?? []).join() !== (a.match(/\d+/g) ?? []).join()) return null;
  const letters = letterDistance(g, a, rule.spelling);
  return letters <= rule.spelling ? { by: 'spelling', letters } : null;
}

/** Lists longer than this are compared as sorted texts: pairing them part by part would take too long. */
const MOST_PARTS = 12;

/** Pairs the parts of two lists so that fewest letters differ in all; null where some part has no partner within the rule. */
function matchList(given: readonly string[], accepted: readonly string[], rule: MatchRule, language?: string): TextMatch | null {
  if (!rule.anyOrder || given.length !== accepted.length || given.length < 2 || given.length > MOST_PARTS) return null;
  const fits = given.map((g) => accepted.map((a) => matchPart(g, a, rule, language)));
  const used = new Set<number>();
  const pair = (at: number, left: number): number | null => {
    if (at === given.length) return 0;
    let best: number | null = null;
    for (let j = 0; j < accepted.length; j++) {
      const m = fits[at]?.[j];
      if (!m || used.has(j) || m.letters > left) continue;
      used.add(j);
      const rest = pair(at + 1, left - m.letters);
      used.delete(j);
      if (rest !== null && (best === null || m.letters + rest < best)) best = m.letters + rest;
      if (best === 0) break;
    }
    return best;
  };
  const letters = pair(0, rule.spelling);
  return letters === null ? null : { by: 'list', letters };
}

/**
 * Whether and how `given` counts as `accepted` under the rule; null where it does not.
 * @param language BCP 47: decides decimal commas, "and", and the Turkish i
 */
export function matchText(given: string, accepted: string, rule: MatchRule, language?: string): TextMatch | null {
  const parts = (s: string): string[] => answerParts(rule.caseSensitive ? s : lower(s, language), language);
  return matchPart(given, accepted, rule, language) ?? matchList(parts(given), parts(accepted), rule, language);
}
/** Whether `given` counts as `accepted` under the rule. */
export const matchesText = (given: string, accepted: string, rule: MatchRule, language?: string): boolean =>
  matchText(given, accepted, rule, language) !== null;
