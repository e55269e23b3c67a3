/** Papers as PDF: formats for servers and the command line, apart from those that a browser writes as well. */
import { fileName, fitSet, type Format, guidePaper, keyPaper, type Paper, printedProfile, type QuizSet, questionPaper, readBackOf } from '@zakuska/core';
import { openPdf } from '../pdf/open.js';
import { bothPapers } from '../paper/both.js';
import { pdfOf } from './typst.js';

/** The words of a PDF as they come in it: side by side or below one another, what belongs together comes together. */
async function wordsOfPdf(bytes: Uint8Array): Promise<string> {
  // the library takes the bytes away
  const { document, close } = await openPdf(bytes.slice());
  try {
    const pages: string[] = [];
    for (let n = 1; n <= document.numPages; n++) {
      const { items } = await (await document.getPage(n)).getTextContent();
      pages.push(items.map((i) => ('str' in i ? i.str + (i.hasEOL ? ' ' : '') : '')).join(''));
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
    return readBackOf(await wordsOfPdf(bytes), part(set), set);
  },
});

/** The rows: what `allFormats` has not. */
export const pdfFormats = [
  pdf('pdf-paper', 'PDF, questions and key', bothPapers),
  pdf('pdf-questions', 'PDF, questions', questionPaper),
  pdf('pdf-key', 'PDF, key', keyPaper),
  pdf('pdf-guide', 'PDF, marking guide for open questions', guidePaper),
] as const;
