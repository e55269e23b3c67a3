/** Whether a typed answer is an accepted one, by the item's matching rule. */
import type { MatchRule } from '../item/model.js';
import { parseNumber, writesDecimalComma } from './numbers.js';

/** Turkish has a dotted and a dotless i, which plain lower-casing would confuse. */
const lower = (s: string, language?: string): string => (language?.startsWith('tr') ? s.toLocaleLowerCase('tr') : s.toLowerCase());

function normalise(text: string, rule: MatchRule, language?: string): string {
  let s = text
    .normalize('NFKC')
    .replace(/[\u2018\u2019\u02bc]/g, "'")
    .replace(/[\u201c\u201d\u201e]/g, '"')
    .replace(/[\u2012-\u2015\u2212]/g, '-');
  if (rule.accents === 'ignore') s = s.normalize('NFD').replace(/\p{M}/gu, '').normalize('NFC');
  if (rule.punctuation === 'ignore') s = s.replace(/[\p{P}\p{S}]/gu, ' ');
  if (!rule.caseSensitive) s = lower(s, language);
  return s.replace(/\s+/g, ' ').trim();
}

/** Edits (insert, delete, substitute, swap of neighbours) between two short texts; stops counting above `limit`. */
function distance(a: string, b: string, limit: number): number {
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

/** The parts of an answer that is a list ("4, −3", "a and b"). */
export const answerParts = (s: string): string[] => s.split(/\s*[,;]\s*(?!\d{3}\b)|\s+and\s+/).filter(Boolean);

/** Whether `given` counts as `accepted` under the rule. */
export function matchesText(given: string, accepted: string, rule: MatchRule, language?: string): boolean {
  const g = normalise(given, rule, language);
  const a = normalise(accepted, rule, language);
  if (!g) return false;
  if (g === a) return true;
  if (rule.numbersAsValues) {
    const comma = writesDecimalComma(language);
    const x = parseNumber(given, comma);
    const y = parseNumber(accepted, comma);
    if (x !== null && y !== null) return Math.abs(x - y) <= 1e-12 * Math.max(1, Math.abs(x), Math.abs(y));
  }
  if (rule.anyOrder) {
    const gs = answerParts(g);
    const as = answerParts(a);
    if (as.length > 1 && gs.length === as.length && gs.sort().join('\u0001') === as.sort().join('\u0001')) return true;
  }
  return rule.spelling > 0 && a.length > rule.spelling * 2 && distance(g, a, rule.spelling) <= rule.spelling;
}
