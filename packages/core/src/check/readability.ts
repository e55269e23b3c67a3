/** How hard a text is to read, by published formulas. All but LIX were made for English. */
import { lookUp } from '../language/lookUp.js';

/** What the formulas count in a text. */
export interface TextCounts {
  sentences: number;
  words: number;
  /** Letters and figures. */
  letters: number;
  syllables: number;
  /** Words of three syllables or more. */
  polysyllables: number;
  /** Words of more than six letters. */
  long: number;
}

/** Counts of a text, the formula that suits its language, and the school year that it asks for. */
export interface Readability extends TextCounts {
  /** 0 (hard) to 100 (easy). Flesch 1948. */
  fleschEase: number;
  /** School years. Kincaid, Fishburne, Rogers and Chissom 1975. */
  fleschKincaid: number;
  /** School years. Gunning 1952. */
  fog: number;
  /** School years. McLaughlin 1969. */
  smog: number;
  /** School years. Coleman and Liau 1975. */
  colemanLiau: number;
  /** School years. Smith and Senter 1967. */
  ari: number;
  /** 20 (very easy) to 60 (very hard), any language. Björnsson 1968. */
  lix: number;
}

// Endings and beginnings that a count of vowel groups gets wrong, from memory.
const ONE_LESS = /(?:[^laeiouy]e|[aeiouy]le|[^td]ed|[^aeiou]eful|[^aeiou]ely)$/;
const SILENT_INSIDE = /[^aeiouy]e(?:ment|less|ness)s?$/;
const ONE_LESS_PLURAL = /[^scxzgh]es$/;
const ONE_MORE =
  /(?:ia(?!n$|l$|bl)|riet|dien|iu|io(?!n|u)|ii|[aeiou]bl$|^mc|ism$|([^aeiouy])\1l$|[^l]lien|^coa[dglx].|[^gq]ua[^auieo]|dnt$|uity$|ie(?:r|t)$|eo(?!u)|creat)/g;

/** Words that no ending tells, by how many syllables more they have. */
const EXTRA: Readonly<Record<string, number>> = { recipe: 1, recipes: 0, microorganism: 1, microorganisms: 1, area: 1, idea: 1, being: 1, create: 0 };

/** Syllables of an English word, by its groups of vowels. At least one. */
export function syllablesOf(word: string): number {
  const w = word.toLowerCase().replace(/[^a-z]/g, '');
  if (w.length <= 3) return 1;
  let n = w.match(/[aeiouy]+/g)?.length ?? 0;
  if (ONE_LESS.test(w) && !/[^aeiouy]le$/.test(w)) n--;
  if (ONE_LESS_PLURAL.test(w) && !/[^aeiouy]les$/.test(w)) n--;
  if (SILENT_INSIDE.test(w)) n--;
  n += w.match(ONE_MORE)?.length ?? 0;
  n += lookUp(EXTRA, w) ?? 0;
  return Math.max(1, n);
}

/** Abbreviations whose full stop ends no sentence, from memory. */
const ABBREVIATION = /(?<![\p{L}])(?:e\.g|i\.e|etc|vs|approx|no|dr|mr|mrs|ms|st|fig|min|max|ca)\.(?=\s+\S)/giu;

const SENTENCE_END = /(?<=[.!?…:])["”»)]*\s+|\n{2,}/;
const WORD = /[\p{L}\p{N}]+(?:['’.,-][\p{L}\p{N}]+)*/gu;

/** Counts sentences, words and syllables. A blank is a word. */
export function countsOf(text: string): TextCounts {
  const clean = text.replace(ABBREVIATION, (m) => m.replace(/\./g, '')).replace(/_{2,}|\[\[[^\][]*\]\]/g, ' blank ');
  const sentences = clean.split(SENTENCE_END).filter((s) => /[\p{L}\p{N}]/u.test(s)).length;
  const words = clean.match(WORD) ?? [];
  const counts: TextCounts = { sentences, words: words.length, letters: 0, syllables: 0, polysyllables: 0, long: 0 };
  for (const word of words) {
    const letters = word.replace(/[^\p{L}\p{N}]/gu, '').length;
    const syllables = word.split('-').reduce((n, part) => n + (/[a-z]/i.test(part) ? syllablesOf(part) : 1), 0);
    counts.letters += letters;
    counts.syllables += syllables;
    if (syllables >= 3) counts.polysyllables++;
    if (letters > 6) counts.long++;
  }
  return counts;
}

/** The formulas of a text; null where it has no words. */
export function readabilityOf(text: string): Readability | null {
  const c = countsOf(text);
  return c.words && c.sentences ? formulasOf(c) : null;
}

/** The formulas of counts. */
export function formulasOf(c: TextCounts): Readability {
  const perSentence = c.words / c.sentences;
  const perWord = c.syllables / c.words;
  return {
    ...c,
    fleschEase: 206.835 - 1.015 * perSentence - 84.6 * perWord,
    fleschKincaid: 0.39 * perSentence + 11.8 * perWord - 15.59,
    fog: 0.4 * (perSentence + (100 * c.polysyllables) / c.words),
    smog: 1.043 * Math.sqrt((c.polysyllables * 30) / c.sentences) + 3.1291,
    colemanLiau: (5.88 * c.letters) / c.words - (29.6 * c.sentences) / c.words - 15.8,
    ari: (4.71 * c.letters) / c.words + 0.5 * perSentence - 21.43,
    lix: perSentence + (100 * c.long) / c.words,
  };
}

const isEnglish = (language: string | undefined): boolean => !language || language.startsWith('en');

/** Long words a sentence from which on a text is of school year 2, 3 … 13: Anderson 1983, Lix and Rix, Journal of Reading 26(6), 490-496; from memory. */
const RIX_YEARS = [0.2, 0.5, 0.8, 1.3, 1.8, 2.4, 3.0, 3.7, 4.5, 5.3, 6.2, 7.2];

/** The school year of a text: by Kincaid's formula in English, in any other language by Anderson's Rix. */
export const readingYear = (r: Readability, language: string | undefined): number =>
  isEnglish(language) ? Math.max(1, r.fleschKincaid) : 1 + RIX_YEARS.filter((limit) => r.long / r.sentences >= limit).length;

/** The sentences of a text with their place and number of words. Places are characters of the text as given. */
export function sentencesOf(text: string): { from: number; to: number; words: number }[] {
  const masked = text.replace(ABBREVIATION, (m) => m.replace(/\./g, '·'));
  const out: { from: number; to: number; words: number }[] = [];
  let from = 0;
  for (const part of masked.split(new RegExp(`(${SENTENCE_END.source})`, 'u'))) {
    const words = part.match(WORD)?.length ?? 0;
    if (words) out.push({ from, to: from + part.length, words });
    from += part.length;
  }
  return out;
}

/**
 * Words that make a text hard: in English of three syllables or more, but for names, compounds with a hyphen and endings in -es, -ed
 * and -ing (Gunning 1952); in other languages of more than ten letters. Places are characters of the text.
 */
export function hardWords(text: string, language?: string): { from: number; to: number; word: string }[] {
  const english = isEnglish(language);
  return [...text.matchAll(WORD)].flatMap((m) => {
    const word = m[0];
    const before = text.slice(0, m.index).trimEnd();
    const name = /^\p{Lu}/u.test(word) && before !== '' && !/[.!?:…]["”»)]*$/.test(before);
    const hard = english
      ? !name && !word.includes('-') && /^[a-z'’]+$/i.test(word) && syllablesOf(word.replace(/(?:es|ed|ing)$/i, '')) >= 3
      : word.replace(/[^\p{L}]/gu, '').length > 10;
    return hard ? [{ from: m.index, to: m.index + word.length, word }] : [];
  });
}
