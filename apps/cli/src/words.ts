/** `zakuska words`: items from a list of words, by what they mean. */
import { parseArgs } from 'node:util';
import { indexSources, type SourceText, writeNotation } from '@zakuska/core';
import { type Asking, askings, readWordList, vocabularyItems, type VocabularyItems, type VocabularyWish, withMeanings } from '@zakuska/core/drafter';
import { english } from '@zakuska/documents/lexicon';

/** What is said to `zakuska words`. */
export interface WordsOrder {
  file: string;
  wish: VocabularyWish;
  /** A source that tells which meaning of a word is meant. */
  source?: string;
  json: boolean;
}
const AS = ['choice', 'typed', 'matching'] as const;

/** Understands the arguments. @throws Error that says what is wrong with them */
export function wordsOrder(args: readonly string[]): WordsOrder {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      ask: { type: 'string', default: 'definition' },
      as: { type: 'string', default: 'choice' },
      options: { type: 'string', default: '4' },
      source: { type: 'string' },
      seed: { type: 'string', default: '1' },
      json: { type: 'boolean', default: false },
    },
  });
  const [file] = positionals;
  if (file === undefined || positionals.length > 1) throw new Error('words takes one list');
  const ask = askings.find((a): a is Asking => a === values.ask);
  if (!ask) throw new Error(`--ask needs one of ${askings.join(', ')}`);
  const as = AS.find((a) => a === values.as);
  if (!as) throw new Error(`--as needs one of ${AS.join(', ')}`);
  const options = Number(values.options);
  if (!Number.isInteger(options) || options < 2 || options > 8) throw new Error('--options needs a whole number from 2 to 8');
  return { file, wish: { ask, as, options, seed: values.seed }, ...(values.source !== undefined && { source: values.source }), json: values.json };
}

/** Items from a list, each word in the meaning that fits the source and the other words; lines that are no words come back as they stand. */
export function itemsOfWords(list: string, order: WordsOrder, source?: SourceText): VocabularyItems & { unread: string[] } {
  const { words, unread } = readWordList(list);
  const meant = withMeanings(words, english, source ? indexSources([source], 'en') : undefined);
  return { ...vocabularyItems(meant, order.wish, english), unread };
}

/** The items in the notation. */
export const wordsText = (v: VocabularyItems): string => (v.drafted.length ? writeNotation({ title: '', items: v.drafted.map((d) => d.item) }) : '');
