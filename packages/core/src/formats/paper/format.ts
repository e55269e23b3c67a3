/** A web page to print, which holds its set as text and is read again. */
import { fitSet } from '../../fit/fit.js';
import { utf8 } from '../encoding.js';
import { fileName, type Format } from '../format.js';
import { paperProfile } from '../notation/formats.js';
import { textOf } from '../plainText.js';
import { paperHtml, readPaperHtml } from './html.js';

export const paperFormat: Format = {
  id: 'html',
  name: 'Web page to print, with the key',
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
