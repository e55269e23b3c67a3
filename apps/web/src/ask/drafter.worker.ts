/** Drafts items from sources and from words, away from the page. What it is told stays with it until it ends. */
import type { SourceText } from '@zakuska/core';
import {
  type DraftedItems,
  Drafter,
  type DraftWish,
  meaningsOf,
  readWordList,
  type VocabularyItems,
  vocabularyItems,
  type VocabularyWish,
  type VocabularyWord,
  withMeanings,
  type WordList,
} from '@zakuska/core/drafter';
import { baseForms, lexiconOf, type Sense } from '@zakuska/core/lexicon';
import { indexSources, type SentenceIndex } from '@zakuska/core';
import { expose } from 'comlink';

/** What a person said of a word: a meaning of the database by its id, or words of their own. */
export interface SaidOfWord {
  sense?: string;
  gloss?: string;
  example?: string;
}
/** What a list gives: each word with what it means and what it could mean, and the items. */
export interface FromWords extends VocabularyItems {
  words: VocabularyWord[];
  choices: Sense[][];
}

const known: Record<string, readonly Sense[]> = {};
const lexicon = lexiconOf(known);
let drafter: Drafter | undefined;
let index: SentenceIndex | undefined;

const remote = {
  /** Reads sources; gives the words whose meanings it wants to be told. */
  open(sources: readonly SourceText[], language: string | undefined): string[] {
    drafter = new Drafter(sources, language);
    return drafter.words();
  },
  /** Reads sources that tell which meaning of a word is the likeliest. */
  near(sources: readonly SourceText[], language: string | undefined): void {
    index = sources.length ? indexSources(sources, language) : undefined;
  },
  know(senses: Readonly<Record<string, readonly Sense[]>>): void {
    Object.assign(known, senses);
  },
  draft(wish: DraftWish): DraftedItems {
    if (!drafter) throw new Error('no source is open');
    return drafter.draft(wish, lexicon);
  },
  /** Outcomes that sources allow. */
  outcomes(sources: readonly SourceText[], language: string | undefined): string[] {
    return new Drafter(sources, language).outcomes();
  },
  /** Reads a list; with the forms under which its words may stand in a lexicon. */
  list(text: string): WordList & { forms: string[] } {
    const read = readWordList(text);
    return { ...read, forms: [...new Set(read.words.flatMap((w) => baseForms(w.word.toLowerCase())))] };
  },
  vocabulary(list: WordList, said: Readonly<Record<string, SaidOfWord>>, wish: VocabularyWish): FromWords {
    const choices = list.words.map((w) => meaningsOf(w.word, lexicon, index).map((m) => m.sense));
    const words = withMeanings(list.words, lexicon, index).map((w, i): VocabularyWord => {
      const own = said[w.word];
      const sense = own?.sense === undefined ? w.sense : choices[i]?.find((s) => s.id === own.sense);
      return { ...w, sense, ...(own?.gloss && { gloss: own.gloss }), ...(own?.example && { example: own.example }) };
    });
    return { words, choices, ...vocabularyItems(words, wish, lexicon) };
  },
};
export type DraftingWorker = typeof remote;
expose(remote);
