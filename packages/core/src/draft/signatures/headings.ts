/** Headings of parts, and what their words and the words of a stem say of the kind. */
import { kinds } from '../../item/kinds.js';
import type { Kind } from '../../item/model.js';
import { headOf, pattern, romanValue } from '../../language/labels.js';
import { KIND_CODES } from '../../item/kindCodes.js';
import { KIND_NAME, KIND_NAME_ORDER, KIND_WORDS, PART } from '../../language/words.js';
import { matchesOf } from '../../language/matches.js';

const PART_LINE = pattern(
  `^[\\s\\p{So}]*(?:\\d{1,2}\\s?(?:e|re|er|ère|ème|º|ª|\\.|st|nd|rd|th|-?й|-?а|-?я)?\\s+)?(?:${PART})(?![\\p{L}])\\s*(?:[A-Z]|\\d{1,2}|[IVX]{1,4}|one|two|three|four|five)?(?:\\s*[:.–—)(-]|\\s{2,}|\\s*$)`,
);
/** "Part B: …" */
export const partLine = (text: string): boolean => PART_LINE.test(headOf(text));

const PART_LABEL = pattern(
  `(?:^|\\s)(?:${PART})(?![\\p{L}])\\s*(?:no\\.?|n[º°]|nr\\.?)?\\s*([A-Z]|\\d{1,2}|[IVX]{1,5}|one|two|three|four|five)(?![\\p{L}\\d])`,
);
const NUMERALS: Record<string, string> = { one: '1', two: '2', three: '3', four: '4', five: '5' };
/** What a part is called in its heading and in key lists: "A", "2", "III"; empty where it has no name. */
export function partLabel(text: string): string {
  const t = headOf(text).trim();
  const m = PART_LABEL.exec(t) ?? /^([A-H]|[IVX]{1,5}|\d{1,2})(?:[.):]|\s{2,}|\s[-–—]\s|\s*$)/.exec(t);
  const chinese = '一二三四五六七八九十'.indexOf(/^([一二三四五六七八九十])、/u.exec(t)?.[1] ?? ' ') + 1;
  if (chinese) return String(chinese);
  const tail = m ? null : /^\p{L}{1,12}(?:\.\s*|\s+)([A-H]|\d{1,2}|[IVX]{1,5})\s*[:.)–-]*$/u.exec(t);
  const label = (m?.[1] ?? tail?.[1] ?? '').toUpperCase();
  const numeral = NUMERALS[label.toLowerCase()] ?? label;
  const roman = numeral.length > 1 || /^[IVX]$/.test(numeral) ? romanValue(numeral) : 0;
  return roman ? String(roman) : numeral;
}

/** Kind words stand near the start or the end; a stem of many pages is not searched through. */
export function kindIn(text: string): Kind | undefined {
  // "Doğru (D) / Yanlış (Y)": the letters to write say nothing of the kind
  const near = (text.length > 1200 ? `${text.slice(0, 600)} ${text.slice(-600)}` : text).replace(/\s?\(\p{L}\)/gu, '');
  return KIND_WORDS.find(([find]) => find.test(near))?.[1];
}

const RANGE =
  /(?:questions?|items?|preguntas?|questions?|fragen|aufgaben|perguntas|quest[õo]es|domande|vragen|pytania|zadania|вопрос\p{L}*|питання|sorular?)\s*(\d{1,3})(?:\s*(?:[-–—]|to|a|à|bis|t\/m|do|до|through|and|und|y|e|et)\s*(\d{1,3}))?/giu;
/** What an instruction says of numbered questions: "For questions 5 - 7 write T or F. Question 8 needs a short answer." */
export function kindsOfRanges(text: string): { from: number; to: number; kind: Kind }[] {
  const out: { from: number; to: number; kind: Kind }[] = [];
  for (const sentence of text.split(/(?<=[.!;])\s+/)) {
    const kind = kindIn(sentence);
    if (!kind) continue;
    for (const m of matchesOf(RANGE, sentence)) out.push({ from: Number(m[1]), to: Number(m[2] ?? m[1]), kind });
  }
  return out;
}

/** The kind that a field or a cell names: "ordering", "Multiple choice", "verdadero/falso". */
export function kindNamed(name: string): Kind | undefined {
  const wanted = name
    .trim()
    .toLowerCase()
    .replace(/\s*\/\s*/g, '/');
  const named = (Object.keys(kinds) as Kind[]).find((k) => k === wanted.replace(/\s+/g, '-') || kinds[k].name.toLowerCase() === wanted);
  const code = KIND_CODES[name.trim().toUpperCase()];
  return named ?? code ?? KIND_NAME_ORDER[KIND_NAME.exec(wanted)?.slice(1).findIndex(Boolean) ?? -1];
}
