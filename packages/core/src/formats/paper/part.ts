/** A part of a paper as a format: set from what fits on paper, and read again by its words, whatever it is written in. */
import { fitSet } from '../../fit/fit.js';
import type { QuizSet } from '../../item/model.js';
import { fileName, type Format } from '../format.js';
import type { Paper } from './pieces.js';
import { printedProfile } from './profile.js';
import { readBackOf } from './readBack.js';

/** What papers are written in. */
export interface PaperFile {
  extension: string;
  mediaType: string;
  /** @param set with the pictures that the paper shows */
  write(paper: Paper, set: QuizSet): Uint8Array | Promise<Uint8Array>;
  /** The words of such a file in their order. */
  words(bytes: Uint8Array): string | Promise<string>;
}

/** The row of one part. @param paperOf makes the part of a set */
export const paperFormat = ({ extension, mediaType, write, words }: PaperFile, id: string, name: string, paperOf: (set: QuizSet) => Paper): Format => ({
  id,
  name,
  extension,
  mediaType,
  profile: printedProfile,
  anonymous: true,
  write: async (given) => {
    const { set } = fitSet(given, printedProfile);
    const paper = paperOf(set);
    return { bytes: await write(paper, set), name: fileName(paper.title, extension) };
  },
  readBack: async (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    return readBackOf(await words(bytes), paperOf(set), set);
  },
});
