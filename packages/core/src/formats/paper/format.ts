/** Web pages to print: one holds its set as text and is read again; of the others, each is one part of a paper. */
import { fitSet } from '../../fit/fit.js';
import { fromHtml } from '../../incoming/pasted.js';
import { utf8 } from '../encoding.js';
import { fileName, type Format } from '../format.js';
import { paperProfile } from '../notation/formats.js';
import { textOf } from '../plainText.js';
import { paperHtml, readPaperHtml } from './html.js';
import { paperPage } from './page.js';
import { guidePaper, keyPaper, questionPaper } from './paper.js';
import { type PaperFile, paperFormat } from './part.js';

const whole: Format = {
  id: 'html',
  name: 'Web page, questions and key',
  extension: '.html',
  mediaType: 'text/html',
  recognises: ({ name, text, endHolds }) =>
    /\.html?$/i.test(name) || /^\s*<(!doctype html|html)\b/i.test(text)
      ? endHolds('text/x-zakuska-notation') || text.includes('text/x-zakuska-notation')
        ? 0.95
        : 0.3
      : 0,
  read: (bytes) => readPaperHtml(textOf(bytes)),
  write: (set) => ({ bytes: utf8(paperHtml(fitSet(set, paperProfile).set)), name: fileName(set.title, '.html') }),
  profile: paperProfile,
  anonymous: true,
};

const page: PaperFile = {
  extension: '.html',
  mediaType: 'text/html',
  write: (paper, set) => utf8(paperPage(paper, set)),
  words: (bytes) => fromHtml(textOf(bytes)).text,
};

/** The rows of the registry. */
export const pageFormats: readonly Format[] = [
  whole,
  paperFormat(page, 'html-questions', 'Web page, questions', questionPaper),
  paperFormat(page, 'html-key', 'Web page, key', keyPaper),
  paperFormat(page, 'html-guide', 'Web page, marking guide for open questions', guidePaper),
];
