/** Papers as PDF: formats for servers and the command line, apart from those that a browser writes as well. */
import { fileName, fitSet, type Format, guidePaper, keyPaper, type Paper, printedProfile, type QuizSet, questionPaper, readBackOf } from '@zakuska/core';
import { openPdf } from '../pdf/open.js';
import { bothPapers } from '../paper/both.js';
import { pdfOf } from './typst.js';

const ARABIC = /\p{Script=Arabic}/u;

interface Words {
  words: string;
  /** Runs from right to left. */
  back: boolean;
  /** Ends a line. */
  end: boolean;
}
/** Words as they are read: what runs from right to left stands in a PDF from left to right, line by line. */
function inReadingOrder(all: readonly Words[]): string {
  const out: string[] = [];
  let line: Words[] = [];
  const close = (): void => {
    const back = line.filter((w) => w.back).length;
    out.push(...(back * 2 > line.filter((w) => /\p{L}/u.test(w.words)).length ? line.reverse() : line).map((w) => w.words));
    line = [];
  };
  for (const w of all) {
    line.push(w);
    if (w.end) close();
  }
  close();
  return out.join('');
}

/** The words of a PDF as they come in it: side by side or below one another, what belongs together comes together. */
async function wordsOfPdf(bytes: Uint8Array): Promise<string> {
  // the library takes the bytes away
  const { document, close } = await openPdf(bytes.slice());
  try {
    const pages: string[] = [];
    for (let n = 1; n <= document.numPages; n++) {
      const { items } = await (await document.getPage(n)).getTextContent();
      pages.push(inReadingOrder(items.flatMap((i) => ('str' in i ? [{ words: i.str + (i.hasEOL ? ' ' : ''), back: i.dir === 'rtl', end: i.hasEOL }] : []))));
    }
    return pages.join(' ');
  } finally {
    await close();
  }
}

const pdf = (id: string, name: string, part: (set: QuizSet) => Paper): Format & Required<Pick<Format, 'write' | 'readBack'>> => ({
  id,
  name,
  extension: '.pdf',
  mediaType: 'application/pdf',
  profile: printedProfile,
  anonymous: true,
  write: (given) => {
    const { set } = fitSet(given, printedProfile);
    const paper = part(set);
    return { bytes: pdfOf(paper, set), name: fileName(paper.title, '.pdf') };
  },
  readBack: async (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    const paper = part(set);
    // joined letters come out of a PDF as the shapes that they were drawn in, some of them twice: nothing to compare by
    if (ARABIC.test(JSON.stringify(paper.pieces)))
      return {
        ...readBackOf('', { ...paper, pieces: [] }, set),
        differences: [{ name: paper.title, message: 'words in Arabic script cannot be read again from a PDF; look at the pages' }],
      };
    return readBackOf(await wordsOfPdf(bytes), paper, set);
  },
});

/** The rows: what `allFormats` has not. */
export const pdfFormats = [
  pdf('pdf-paper', 'PDF, questions and key', bothPapers),
  pdf('pdf-questions', 'PDF, questions', questionPaper),
  pdf('pdf-key', 'PDF, key', keyPaper),
  pdf('pdf-guide', 'PDF, marking guide for open questions', guidePaper),
] as const;
