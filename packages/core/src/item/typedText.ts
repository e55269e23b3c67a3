/** Whether a typed answer is an accepted one, by the item's matching rule. */
import type { MatchRule } from './model.js';
import { onlyFormula, sameFormula } from './typedFormula.js';
import { parseNumber, writesDecimalComma } from '../language/numbers.js';

/** Languages with a dotted and a dotless i, which plain lower-casing would confuse. */
const DOTLESS = /^(?:tr|az)\b/;
const lower = (s: string, language?: string): string => (language && DOTLESS.test(language) ? s.toLocaleLowerCase(language) : s.toLowerCase());

/** A text as it is compared, by the rule: one writing of quotes, dashes, widths and accents (Unicode NFKC), white space collapsed. */
export function normalise(text: string, rule: MatchRule, language?: string): string {
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

/**
 * Edits (insert, delete, substitute, swap of neighbours: Damerau 1964, restricted) between two texts; `limit` + 1 for more than `limit`.
 * Only the band of the table in which that few edits can lie is filled (Ukkonen 1985): time in length × limit.
 */
export function letterDistance(x: string, y: string, limit: number): number {
  const a = [...x];
  const b = [...y];
  if (Math.abs(a.length - b.length) > limit) return limit + 1;
  const far = limit + 1;
  let before: number[] = [];
  let prev = Array.from({ length: b.length + 1 }, (_, j) => Math.min(j, far));
  let row = prev.map(() => far);
  for (let i = 1; i <= a.length; i++) {
    const [first, last] = [Math.max(1, i - limit), Math.min(b.length, i + limit)];
    row[first - 1] = first === 1 ? Math.min(i, far) : far;
    for (let j = first; j <= last; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let d = Math.min((prev[j] ?? far) + 1, (row[j - 1] ?? far) + 1, (prev[j - 1] ?? far) + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) d = Math.min(d, (before[j - 2] ?? far) + 1);
      row[j] = Math.min(d, far);
    }
    if (last < b.length) row[last + 1] = far;
    [before, prev, row] = [prev, row, before.length ? before : prev.map(() => far)];
  }
  return prev[b.length] ?? far;
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

/** How a typed answer came to count: letter by letter, by its value, as a formula, as a list, or with letters that differ. */
export interface TextMatch {
  by: 'same' | 'value' | 'formula' | 'list' | 'spelling';
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
  // fewer than half of the letters, however many the rule allows: so a looser rule never refuses more
  const limit = Math.min(rule.spelling, Math.floor((a.length - 1) / 2));
  if (limit <= 0) return null;
  if ((g.match(/\d+/g) ?? []).join() !== (a.match(/\d+/g) ?? []).join()) return null;
  const letters = letterDistance(g, a, limit);
  return letters <= limit ? { by: 'spelling', letters } : null;
}

/** Lists longer than this are compared as sorted texts: pairing them part by part would take too long. */
const MOST_PARTS = 12;

/**
 * Pairs the parts of two lists so that fewest letters differ in all; null where some part has no partner within the rule. Goes over
 * the sets of partners already taken, not over the orders in which they could be: 4,096 for twelve parts.
 */
function matchList(given: readonly string[], accepted: readonly string[], rule: MatchRule, language?: string): TextMatch | null {
  if (!rule.anyOrder || given.length !== accepted.length || given.length < 2 || given.length > MOST_PARTS) return null;
  let fewest = new Map([[0, 0]]);
  for (const g of given) {
    const fits = accepted.map((a) => matchPart(g, a, rule, language));
    const next = new Map<number, number>();
    for (const [taken, letters] of fewest)
      fits.forEach((m, j) => {
        const now = taken | (1 << j);
        if (!m || now === taken || letters + m.letters > rule.spelling) return;
        next.set(now, Math.min(next.get(now) ?? Number.POSITIVE_INFINITY, letters + m.letters));
      });
    fewest = next;
  }
  const [letters] = fewest.values();
  return letters === undefined ? null : { by: 'list', letters };
}

/**
 * Whether and how `given` counts as `accepted` under the rule; null where it does not.
 * @param language BCP 47: decides decimal commas, "and", and the Turkish i
 */
export function matchText(given: string, accepted: string, rule: MatchRule, language?: string): TextMatch | null {
  const formula = onlyFormula(accepted);
  // of a formula no letter may differ, and its commas part nothing
  if (formula !== null)
    return given.trim() && sameFormula(given, formula, rule.caseSensitive ? undefined : (s) => lower(s, language)) ? { by: 'formula', letters: 0 } : null;
  const parts = (s: string): string[] => answerParts(rule.caseSensitive ? s : lower(s, language), language);
  return matchPart(given, accepted, rule, language) ?? matchList(parts(given), parts(accepted), rule, language);
}
/** Whether `given` counts as `accepted` under the rule. */
export const matchesText = (given: string, accepted: string, rule: MatchRule, language?: string): boolean =>
  matchText(given, accepted, rule, language) !== null;
