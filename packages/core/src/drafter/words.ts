/** Sentences as words with their classes: for English by a tagger, for other languages by how words are written. */
import { lookUp } from '../language/lookUp.js';
import nlp from 'compromise/three';
import { baseForms } from '../lexicon/lexicon.js';
import { isEmptyWord } from '../language/contentWords.js';
import { parseNumber, writesDecimalComma } from '../language/numbers.js';
import { stemmerOf } from '../source/sentences.js';

/** What a word is in its sentence. */
export type Role = 'noun' | 'name' | 'verb' | 'adjective' | 'adverb' | 'pronoun' | 'determiner' | 'preposition' | 'conjunction' | 'number' | 'other';

/** A word of a sentence, with its place in it (UTF-16 offsets). */
export interface Word {
  text: string;
  from: number;
  to: number;
  /** In small letters. */
  lower: string;
  /** In its base form, in small letters. */
  base: string;
  stem: string;
  role: Role;
  /** Of nouns: whether it is a plural. */
  plural: boolean;
  /** The tagger's own marks, as "Person" or "PastTense". */
  marks: ReadonlySet<string>;
  /** Of numbers. */
  value?: number;
}

/** Reads a sentence into its words. */
export type ReadWords = (sentence: string) => Word[];

interface Term {
  pre: string;
  text: string;
  post: string;
  tags?: Set<string>;
}

/** A text that begins with a capital letter. */
export const upperFirst = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** Small numbers as English writes them: each at the place of its value. */
export const SPELLED = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');
const NUMBER_WORDS: Readonly<Record<string, number>> = Object.fromEntries(SPELLED.map((w, i) => [w, i]));

function roleOf(word: string, tags: ReadonlySet<string>, first: boolean): Role {
  const capital = /^\p{Lu}/u.test(word);
  const is = (...names: string[]): boolean => names.some((n) => tags.has(n));
  if (is('Value', 'Cardinal') && !is('Ordinal')) return 'number';
  if (is('Pronoun', 'Possessive') && isPronoun(word)) return 'pronoun';
  if (is('Determiner')) return 'determiner';
  if (is('Preposition')) return 'preposition';
  if (is('Conjunction')) return 'conjunction';
  if (is('Verb') && !is('Noun')) return 'verb';
  if (is('Adjective')) return 'adjective';
  if (is('Adverb')) return 'adverb';
  if (is('ProperNoun', 'Person', 'Place', 'Organization', 'Acronym'))
    return capital && (!first || /^\p{Lu}[\p{Lu}\d]/u.test(word) || is('Person', 'Place')) ? 'name' : 'noun';
  if (is('Noun')) return !first && capital ? 'name' : 'noun';
  return 'other';
}
const isPronoun = (word: string): boolean =>
  /^(?:i|you|he|she|it|we|they|me|him|her|us|them|my|your|his|its|our|their|mine|yours|hers|ours|theirs|this|that|these|those|one|ones|who|whom|whose|which|myself|itself|himself|herself|themselves)$/i.test(
    word,
  );

interface Nouns {
  toSingular(): { text(): string };
  toPlural(): { text(): string };
}
/** Another number of a noun, asked of the tagger once: it knows the irregular ones. */
function numbered(change: (n: Nouns) => { text(): string }): (noun: string) => string {
  const known = new Map<string, string>();
  return (noun) => {
    let s = known.get(noun);
    if (s === undefined) {
      const nouns = (nlp(noun).tag('Noun') as unknown as { nouns(): Nouns }).nouns();
      s = change(nouns).text() || noun;
      if (known.size < 50_000) known.set(noun, s);
    }
    return s;
  };
}
/** The singular of a noun. */
export const singularOf = numbered((n) => n.toSingular());
/** The plural of a noun in the singular. */
export const pluralOf = numbered((n) => n.toPlural());

/** Reads English sentences, by the tagger of `compromise`. */
export const englishWords: ReadWords = (sentence) => {
  const stem = stemmerOf('en');
  const out: Word[] = [];
  let at = 0;
  const terms = (nlp(sentence) as unknown as { document: Term[][] }).document.flat();
  for (const t of terms) {
    const from = t.text ? sentence.indexOf(t.text, at) : -1;
    if (from < 0) continue;
    const to = from + t.text.length;
    at = to;
    const tags = t.tags ?? new Set<string>();
    const lower = t.text.toLowerCase();
    const role = roleOf(t.text, tags, !out.length);
    const plural = role === 'noun' && (tags.has('Plural') || (!tags.has('Singular') && /[^s]s$/.test(lower)));
    const base = role === 'noun' ? (plural ? singularOf(lower) : lower) : role === 'verb' ? (baseForms(lower, 'verb').at(-1) ?? lower) : lower;
    const value = role === 'number' ? (lookUp(NUMBER_WORDS, lower) ?? parseNumber(/^[\d.,]*\d/.exec(t.text)?.[0] ?? t.text, false) ?? undefined) : undefined;
    out.push({ text: t.text, from, to, lower, base, stem: stem(lower), role, plural, marks: tags, ...(value !== undefined && { value }) });
  }
  return mended(out);
};

/** What a tagger takes one for the other, since many words are both: seen by what a sentence needs. */
function mended(words: Word[]): Word[] {
  const [first, second] = words;
  const tense = (w: Word): boolean => w.role === 'verb' && ['PresentTense', 'PastTense', 'Copula', 'Auxiliary', 'Modal'].some((m) => w.marks.has(m));
  // "Bulk fermentation takes …", "Folding builds strength": no request, since a verb with its subject comes behind
  if (first?.role === 'verb' && second && words.slice(1, 4).some(tense) && (second.role === 'noun' || (first.marks.has('Gerund') && tense(second))))
    words[0] = { ...first, role: 'noun', plural: false, base: first.lower, marks: new Set(['Noun', 'Singular']) };
  // "A white stock simmers for …": a sentence has a verb
  if (!words.some((w) => w.role === 'verb')) {
    const at = words.findIndex(
      (w, i) =>
        i > 1 &&
        w.role === 'noun' &&
        w.plural &&
        words[i - 1]?.role === 'noun' &&
        !words[i - 1]?.plural &&
        /^(?:preposition|determiner|number|adverb)$/.test(words[i + 1]?.role ?? ''),
    );
    const w = words[at];
    if (w) words[at] = { ...w, role: 'verb', plural: false, base: baseForms(w.lower, 'verb').at(-1) ?? w.lower, marks: new Set(['Verb', 'PresentTense']) };
  }
  return words;
}

/** Reads sentences of a language without a tagger: numbers, and what is written with a capital letter where that tells a name. */
export function roughWords(language: string): ReadWords {
  const stem = stemmerOf(language);
  const comma = writesDecimalComma(language);
  const capitals = language.slice(0, 2) === 'de' ? 'noun' : 'name';
  return (sentence) =>
    Array.from(sentence.matchAll(/\d[\d.,]*\d|\d|[\p{L}\p{M}]+(?:['’-][\p{L}\p{M}]+)*/gu), (m, i) => {
      const text = m[0];
      const lower = text.toLowerCase();
      const value = /^\d/.test(text) ? (parseNumber(text, comma) ?? undefined) : undefined;
      const role: Role = value !== undefined ? 'number' : i && /^\p{Lu}/u.test(text) ? capitals : isEmptyWord(lower) ? 'other' : 'noun';
      return {
        text,
        from: m.index,
        to: m.index + text.length,
        lower,
        base: lower,
        stem: stem(lower),
        role,
        plural: false,
        marks: new Set<string>(),
        ...(value !== undefined && { value }),
      };
    });
}
