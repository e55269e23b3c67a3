/**
 * A set as a web page to print: the questions, then the key on a page of its own. The set itself stands in the page as text in the
 * notation, so that the page reads back whole; a page from elsewhere is read as a draft.
 */
import { readDraft } from '../../draft/read.js';
import { fromHtml } from '../../incoming/pasted.js';
import type { QuizSet, ReadResult } from '../../item/model.js';
import { writeNotation } from '../notation/notation.js';
import { paperPage } from './page.js';
import { bothPapers } from './paper.js';

const SOURCE = /<script type="text\/x-zakuska-notation">((?:(?!<\/?script\b)[\s\S])*)<\/script>/;

/** The page. Same set, same text. */
export function paperHtml(set: QuizSet): string {
  // an end tag of the script inside the text would end it
  const source = writeNotation(set).replace(/<(?=\/script|!--)/gi, '\\u003c');
  return paperPage(bothPapers(set), set, `<script type="text/x-zakuska-notation">\n${source}</script>\n`);
}

/** Reads a page: ours by the notation that stands in it, any other as a draft. */
export function readPaperHtml(html: string): ReadResult {
  const own = SOURCE.exec(html)?.[1];
  if (own !== undefined) return readDraft(own.replace(/^\n/, '').replace(/\\u003c(?=\/script|!--)/gi, '<'));
  return readDraft(fromHtml(html).text);
}
