/** How hard a text is to read, by published formulas. All but LIX were made for English. */

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
  n += EXTRA[w] ?? 0;
  return Math.max(1, n);
}

/** Abbreviations whose full stop ends no sentence, from memory. */
const ABBREVIATION = /(?<![\p{L}])(?:e\.g|i\.e|etc|vs|approx|no|dr|mr|mrs|ms|st|fig|min|max|ca)\.(?=\s+\S)/giu;

/** Counts sentences, words and syllables. A blank is a word. */
export function countsOf(text: string): TextCounts {
  const clean = text.replace(ABBREVIATION, (m) => m.replace(/\./g, '')).replace(/_{2,}|\[\[[^\]]*\]\]/g, ' blank ');
  const sentences = clean.split(/(?<=[.!?…:])["”»)]*\s+|\n{2,}/).filter((s) => /[\p{L}\p{N}]/u.test(s)).length;
  const words = clean.match(/[\p{L}\p{N}]+(?:['’.,-][\p{L}\p{N}]+)*/gu) ?? [];
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
