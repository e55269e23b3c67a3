/** What a lexical database tells of words, as drafting uses it. */
import { z } from 'zod';

/** The classes of words that a lexical database holds. */
export const wordClasses = ['noun', 'verb', 'adjective', 'adverb'] as const;
/** One of the classes of words. */
export type WordClass = (typeof wordClasses)[number];

/** The schema of one meaning of a word. */
export const sense = z.object({
  /** The class and the place in the database: the same meaning has the same id under every word. */
  id: z.string(),
  class: z.enum(wordClasses),
  /** All words that mean it, with the one asked for; written as people write them. */
  words: z.array(z.string()),
  gloss: z.string(),
  examples: z.array(z.string()),
  /** How often the word was met with this meaning in the database's own corpus. */
  count: z.number().int(),
  /** The database's subject field: "noun.food", "verb.motion". */
  field: z.string(),
  /** It is the name of one thing, not of a sort of things. */
  instance: z.boolean(),
  /** Ids of what it is a sort of, the nearest first. */
  above: z.array(z.string()),
  /** Coordinate terms: other sorts of the same, the most frequent first. */
  siblings: z.array(z.object({ word: z.string(), count: z.number().int() })),
  /** Words for sorts of it. */
  below: z.array(z.string()),
  opposites: z.array(z.string()),
});
/** One meaning of a word. */
export type Sense = z.infer<typeof sense>;

/** Gives the meanings of a word in its base form, the most frequent first; none where it is unknown. */
export type Lexicon = (word: string) => readonly Sense[];

/** A lexicon that knows nothing: for languages without one. */
export const noLexicon: Lexicon = () => [];

/** A lexicon from what was looked up before, word by word (as a server sends it). */
export const lexiconOf =
  (known: Readonly<Record<string, readonly Sense[]>>): Lexicon =>
  (word) =>
    (Object.hasOwn(known, word) ? known[word] : undefined) ?? [];

// The endings that a base form may have lost (WordNet, morphy(7WN), "Rules of Detachment").
const DETACHED: Readonly<Record<WordClass, readonly (readonly [string, string])[]>> = {
  noun: [
    ['s', ''],
    ['ses', 's'],
    ['xes', 'x'],
    ['zes', 'z'],
    ['ches', 'ch'],
    ['shes', 'sh'],
    ['men', 'man'],
    ['ies', 'y'],
  ],
  verb: [
    ['s', ''],
    ['ies', 'y'],
    ['es', 'e'],
    ['es', ''],
    ['ed', 'e'],
    ['ed', ''],
    ['ing', 'e'],
    ['ing', ''],
  ],
  adjective: [
    ['er', ''],
    ['est', ''],
    ['er', 'e'],
    ['est', 'e'],
  ],
  adverb: [],
};

/**
 * The forms that a word may be an inflection of, itself first; which of them are words, a lexicon says.
 * @param word in small letters
 * @param wordClass one class, or all of them
 */
export function baseForms(word: string, wordClass?: WordClass): string[] {
  const out = new Set([word]);
  for (const c of wordClass ? [wordClass] : wordClasses) {
    for (const [ending, instead] of DETACHED[c]) {
      if (!word.endsWith(ending) || word.length < ending.length + 2 || (ending === 's' && word.endsWith('ss'))) continue;
      const base = word.slice(0, -ending.length) + instead;
      out.add(base);
      // "stirred": the consonant was doubled
      const doubled = /([bdglmnprt])\1$/.exec(base);
      if (doubled && c === 'verb' && !instead) out.add(base.slice(0, -1));
    }
  }
  return [...out];
}

/** The meanings of a word in any of its regular forms, of one class or all. */
export function sensesOf(lexicon: Lexicon, word: string, wordClass?: WordClass): Sense[] {
  for (const base of baseForms(word, wordClass)) {
    const found = lexicon(base).filter((s) => !wordClass || s.class === wordClass);
    if (found.length) return found;
  }
  return [];
}

/**
 * Whether two words may mean the same, or the one a sort of the other: in any of their meanings that are not rare. A distractor that
 * is so related to the key may be right as well.
 */
export function akin(lexicon: Lexicon, a: string, b: string): boolean {
  const x = sensesOf(lexicon, a);
  const y = sensesOf(lexicon, b);
  const ids = new Set(x.map((s) => s.id));
  return y.some((s) => ids.has(s.id) || s.above.some((id) => ids.has(id))) || x.some((s) => s.above.some((id) => y.some((t) => t.id === id)));
}
