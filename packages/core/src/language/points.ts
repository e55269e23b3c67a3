/** Points, as notes in a stem, as a rule of a part and as a part's total. */
import { atEnd, headOf, pattern } from './labels.js';
import { POINTS } from './words.js';

const AMOUNT = '(\\d+(?:[.,]\\d+)?|½|one|two|three|four|five|un|une|uno|una|ein|eine|um|uma|een|один)';
const WORDS: Record<string, number> = {
  '½': 0.5,
  one: 1,
  un: 1,
  une: 1,
  uno: 1,
  una: 1,
  ein: 1,
  eine: 1,
  um: 1,
  uma: 1,
  een: 1,
  один: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
};
const amount = (s: string | undefined): number => WORDS[(s ?? '').toLowerCase()] ?? Number((s ?? '').replace(',', '.'));

const NOTE = pattern(
  // "(0-2)": from none to all, as Polish and Russian papers have it (common practice, no source)
  `\\s*(?:[(\\[]\\s*0\\s*[-–—]\\s*([1-9]\\d?)\\s*[)\\]](?=\\s*\\S)|[(\\[]\\s*\\+?(\\d+(?:[.,]\\d+)?)\\s*[-–]?\\s*(?:extra\\s+|bonus\\s+)?(?:${POINTS}|p\\.?|b\\.)(?:\\s+(?:each|cada|je))?\\s*[)\\]]|[(\\[]\\s*0\\s*[-–—]\\s*(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS}|p\\.?|b\\.)\\s*[)\\]]|[(\\[]\\s*(?:${POINTS})\\s*[:=]?\\s*(\\d+(?:[.,]\\d+)?)\\s*[)\\]]|(?:[-–—]|\\.{2,}|\\s_{2,}\\s?\\/)\\s*(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})\\s*$|\\s_+\\s?\\/\\s?(\\d+)\\s*(?:${POINTS})?\\s*$)`,
);
/** Points of a question in its stem: "(2 points)", "[2 pts]", "— 2 marks", "__/3". */
export function pointsNote(text: string): { from: number; to: number; points: number } | null {
  const m = NOTE.exec(headOf(text)) ?? atEnd(NOTE, text);
  return m ? { from: m.index, to: m.index + m[0].length, points: amount(m.slice(1).find(Boolean)) } : null;
}
const EACH = pattern(
  `${AMOUNT}\\s*(?:${POINTS})\\s*(?:,\\s*)?(?:each|cada(?: una?)?|chacune?|jeweils|je|ciascun[oa]|l'un[oa]|elk|każde|kazde|per \\p{L}+|(?:par|la) \\p{L}+|pro \\p{L}+|je \\p{Lu}\\p{L}+|por \\p{L}+|za (?:każd\\p{L}+ )?\\p{L}+|за (?:кажд\\p{L}+ |кожн\\p{L}+ )?\\p{L}+|voor elke? \\p{L}+|for each \\p{L}+|an? (?:questions?|answers?|items?|gaps?)|apiece|pentru fiecare|ciascuna)|(?:each|je|po|câte|à|a|po|(?:za|für) (?:każd|jed)\\p{L}+ \\p{L}+|jeweils|cada una?|elk|per vraag|her (?:soru|biri))\\s*(?:question\\s*)?(?:(?:correct |right )?(?:answer |question |item )?(?:is worth|scores|gets|carries|earns|counts)?\\s*|vale\\s*|zählt\\s*)?${AMOUNT}\\s*(?:${POINTS}|p\\.(?=\\s*[)\\]]))|(?:${POINTS})\\s*${AMOUNT}\\s*(?:per|par|por|pro|za|ciascun[oa]|cada)(?![\\p{L}])|[(\\[]\\s*${AMOUNT}\\s*(?:cada un[oa]|chacune?|ciascun[oa]|each|je|elk|po)\\s*[)\\]]`,
);
/** Points of every item of a part: "2 points each". */
export function pointsEach(text: string): number | null {
  const m = EACH.exec(headOf(text));
  return m ? amount(m.slice(1).find(Boolean)) : null;
}
const TOTAL = pattern(`[(\\[,–—:-]\\s*(?:total\\s*:?\\s*)?(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})\\s*(?:[)\\]]|$)`);
/** Points of a part as a whole; those of its item where it has only one. */
export function pointsTotal(text: string): number | null {
  const m = TOTAL.exec(headOf(text));
  return m ? amount(m[1]) : null;
}
