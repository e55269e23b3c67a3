/** Papers as files: a row for each part of each form. */
import {
  bothPapers,
  fileName,
  fitSet,
  guidePaper,
  type Format,
  importProfile,
  keyPaper,
  languageOf,
  type PaperFile,
  paperFormat,
  type PaperPiece,
  printedProfile,
  type QuizSet,
  questionPaper,
  readBackOf,
  slidesOf,
  walkXml,
} from '@zakuska/core';
import { readDocx } from '../docx/read.js';
import { ownParts } from '../sameBytes.js';
import type { ImportKeys } from './docx.js';

const DOCX = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

// a library of its own weight, which most people never need
const library = () => import('./docx.js');

const docx: PaperFile = {
  extension: '.docx',
  mediaType: DOCX,
  write: async (paper, set) => (await library()).docxOf(paper, set),
  words: async (bytes) => (await readDocx(bytes)).text,
};
const markdown: PaperFile = {
  extension: '.md',
  mediaType: 'text/markdown',
  write: async (paper, set) => new TextEncoder().encode((await import('./markdown.js')).markdownOf(paper, set)),
  words: (bytes) =>
    new TextDecoder()
      .decode(bytes)
      // pictures are letters too, and none that anybody reads
      .replace(/data:image\/[a-z]+;base64,[\w+/=]*/g, '')
      // where a sign of Markdown stands next to a letter, the letter is written by its number
      .replace(/&#x([0-9A-F]+);/gi, (_, hex: string) => String.fromCodePoint(Number.parseInt(hex, 16)))
      // tables that Markdown cannot hold stand as HTML, with looks of their own
      .replace(/<\/?(?:em|strong|blockquote)>/g, ''),
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

/** The words of a PPTX, slide by slide. */
function wordsOfSlides(bytes: Uint8Array): string {
  const parts = ownParts(bytes);
  const number = (path: string): number => Number(/slide(\d+)\.xml$/.exec(path)?.[1] ?? 0);
  const words = (xml: Uint8Array): string => {
    const out: string[] = [];
    let inWords = false;
    walkXml(new TextDecoder().decode(xml), {
      open: (name) => {
        inWords = name === 't';
      },
      close: () => {
        inWords = false;
      },
      text: (t) => {
        if (inWords) out.push(t);
      },
    });
    return out.join(' ');
  };
  return [...parts]
    .filter(([path]) => /^ppt\/slides\/slide\d+\.xml$/.test(path))
    .sort(([a], [b]) => number(a) - number(b))
    .map(([, xml]) => words(xml))
    .join('\n');
}
const slides: Format = {
  id: 'pptx',
  name: 'Slides',
  extension: '.pptx',
  mediaType: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  profile: printedProfile,
  anonymous: true,
  write: async (given) => {
    const { set } = fitSet(given, printedProfile);
    return { bytes: await (await import('./pptx.js')).pptxOf(slidesOf(set), set), name: fileName(set.title, '.pptx') };
  },
  readBack: (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    // the key stands behind its question, and blanks to write in do not stand at all
    const pieces = slidesOf(set).flatMap((s): PaperPiece[] => {
      if (s.is === 'title') return [{ is: 'title', text: s.title }];
      if (s.is === 'part')
        return [
          { is: 'heading', text: s.title },
          { is: 'text', blocks: s.blocks },
        ];
      if (s.step === 'question') return [{ is: 'item', id: s.id, number: s.place, points: '', blocks: s.blocks, answers: s.answers }];
      return [
        {
          is: 'key',
          headings: { number: '', key: '', points: '' },
          rows: s.step === 'key' ? [{ id: s.id, number: s.place, key: s.key, points: '', notes: [] }] : [],
        },
      ];
    });
    return readBackOf(wordsOfSlides(bytes), { title: set.title, language: languageOf(set), pieces }, set);
  },
};

/** The rows of the registry. */
export const paperFormats: readonly Format[] = [
  paperFormat(docx, 'docx-paper', 'DOCX, questions and key', bothPapers),
  paperFormat(docx, 'docx-questions', 'DOCX, questions', questionPaper),
  paperFormat(docx, 'docx-key', 'DOCX, key', keyPaper),
  paperFormat(docx, 'docx-guide', 'DOCX, marking guide for open questions', guidePaper),
  paperFormat(markdown, 'markdown-questions', 'Markdown, questions', questionPaper),
  paperFormat(markdown, 'markdown-key', 'Markdown, key', keyPaper),
  paperFormat(markdown, 'markdown-guide', 'Markdown, marking guide for open questions', guidePaper),
  forImporters('docx-import', 'DOCX for importers, without keys', 'none'),
  forImporters('docx-import-starred', 'DOCX for importers, keys starred', 'starred'),
  forImporters('docx-import-bold', 'DOCX for importers, keys in bold', 'bold'),
  slides,
];
