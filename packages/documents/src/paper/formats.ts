/** Papers as files: a row for each part of each form. */
import { fileName, importProfile, printedProfile, fitSet, type Format, keyPaper, type Paper, type QuizSet, questionPaper, readBackOf } from '@zakuska/core';
import { readDocx } from '../docx/read.js';
import type { ImportKeys } from './docx.js';

const DOCX = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

// a library of its own weight, which most people never need
const library = () => import('./docx.js');

const paper = (id: string, name: string, part: (set: QuizSet) => Paper): Format => ({
  id,
  name,
  extension: '.docx',
  mediaType: DOCX,
  profile: printedProfile,
  anonymous: true,
  write: async (given) => {
    const { set } = fitSet(given, printedProfile);
    const made = part(set);
    return { bytes: await (await library()).docxOf(made, set), name: fileName(made.title, '.docx') };
  },
  readBack: async (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    return readBackOf((await readDocx(bytes)).text, part(set), set);
  },
});
const both = (set: QuizSet): Paper => {
  const [questions, key] = [questionPaper(set), keyPaper(set)];
  return { ...questions, pieces: [...questions.pieces, { is: 'page' }, ...key.pieces] };
};
const forImporters = (id: string, name: string, keys: ImportKeys): Format => ({
  id,
  name,
  extension: '.docx',
  mediaType: DOCX,
  profile: importProfile,
  anonymous: true,
  write: async (given) => {
    const { set } = fitSet(given, importProfile);
    return { bytes: await (await library()).importDocxOf(questionPaper(set), keys), name: fileName(set.title, '.docx') };
  },
  // with keys, it is answered like any other file
  ...(keys === 'none' && {
    readBack: async (bytes: Uint8Array, given: QuizSet) => {
      const { set } = fitSet(given, importProfile);
      const { pieces, ...rest } = questionPaper(set);
      return readBackOf((await readDocx(bytes)).text, { ...rest, pieces: pieces.filter((p) => p.is === 'item') }, set);
    },
  }),
});

/** The rows of the registry. */
export const paperFormats: readonly Format[] = [
  paper('docx-paper', 'DOCX, questions and key', both),
  paper('docx-questions', 'DOCX, questions', questionPaper),
  paper('docx-key', 'DOCX, key', keyPaper),
  forImporters('docx-import', 'DOCX for importers, without keys', 'none'),
  forImporters('docx-import-starred', 'DOCX for importers, keys starred', 'starred'),
  forImporters('docx-import-bold', 'DOCX for importers, keys in bold', 'bold'),
];
