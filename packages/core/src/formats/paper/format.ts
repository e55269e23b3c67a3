/** Web pages to print: one holds its set as text and is read again; of the others, each is one part of a paper. */
import { fitSet } from '../../fit/fit.js';
import { fromHtml } from '../../incoming/pasted.js';
import type { QuizSet } from '../../item/model.js';
import { utf8 } from '../encoding.js';
import { fileName, type Format } from '../format.js';
import { paperProfile } from '../notation/formats.js';
import { textOf } from '../plainText.js';
import { paperHtml, readPaperHtml } from './html.js';
import { paperPage } from './page.js';
import { guidePaper, keyPaper, questionPaper } from './paper.js';
import type { Paper } from './pieces.js';
import { printedProfile } from './profile.js';
import { readBackOf } from './readBack.js';

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

const part = (id: string, name: string, paperOf: (set: QuizSet) => Paper): Format => ({
  id,
  name,
  extension: '.html',
  mediaType: 'text/html',
  profile: printedProfile,
  anonymous: true,
  write: (given) => {
    const { set } = fitSet(given, printedProfile);
    const paper = paperOf(set);
    return { bytes: utf8(paperPage(paper, set)), name: fileName(paper.title, '.html') };
  },
  readBack: (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    return readBackOf(fromHtml(textOf(bytes)).text, paperOf(set), set);
  },
});

/** The rows of the registry. */
export const pageFormats: readonly Format[] = [
  whole,
  part('html-questions', 'Web page, questions', questionPaper),
  part('html-key', 'Web page, key', keyPaper),
  part('html-guide', 'Web page, marking guide for open questions', guidePaper),
];
