/** Text that is a draft. Whatever is text and nothing else is one. */
import { readDraft } from '../draft/read.js';
import { ReadError } from '../item/readError.js';
import { decodeText, looksBinary } from './encoding.js';
import type { Format } from './format.js';
import { writtenOut } from './writtenOut.js';

/**
 * The text of a file.
 * @throws ReadError for bytes that are no text
 */
export function textOf(bytes: Uint8Array): string {
  if (looksBinary(bytes)) throw new ReadError('this is no text: open the program it comes from and save or copy it as text');
  return decodeText(bytes);
}

/** The row of the registry. */
export const draftFormat: Format = {
  id: 'draft',
  name: 'Draft text',
  extension: '.txt',
  mediaType: 'text/plain',
  // also of what is no text, to say so
  recognises: () => 0.01,
  read: (bytes, _name, options) => {
    const source = textOf(bytes);
    if (!source.trim()) throw new ReadError('the draft is empty');
    return readDraft(writtenOut(source)?.text ?? source, options);
  },
  draft: (bytes) => {
    const text = textOf(bytes)
      .replace(/^\uFEFF/, '')
      .replace(/\r\n?/g, '\n');
    const written = writtenOut(text);
    return { text: written?.text ?? text, notes: written ? [written.note] : [], pictures: 0 };
  },
};
