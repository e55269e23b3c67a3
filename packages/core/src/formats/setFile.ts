/** The set file: JSON by its published schema, which holds everything. */
import { everything } from '../fit/profile.js';
import { readSetFile, writeSetFile } from '../item/setFile.js';
import { utf8 } from './encoding.js';
import { fileName, type Format } from './format.js';
import { textOf } from './plainText.js';

export const setFileFormat: Format = {
  id: 'set',
  name: 'Set file',
  extension: '.zak.json',
  mediaType: 'application/json',
  recognises: ({ name, text }) =>
    /^\uFEFF?\s*\{\s*"zakuska"\s*:/.test(text) ? 1 : /"zakuska"\s*:/.test(text) ? 0.8 : /\.zak\.json$/i.test(name) ? 0.8 : /\.json$/i.test(name) ? 0.1 : 0,
  read: (bytes) => readSetFile(textOf(bytes)),
  write: (set) => ({ bytes: utf8(writeSetFile(set)), name: fileName(set.title, '.zak.json') }),
  profile: everything,
};
