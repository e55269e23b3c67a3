/** The documents whose words become draft text: a row for each sort. */
import { decodePage, decodeText, fromHtml, looksBinary, ReadError } from '@zakuska/core';
import { type DocumentText, type Progress, readDocumentText } from './document.js';
import { readDocx } from './docx/read.js';
import type { FileFormat } from './format.js';
import { readOdt } from './odt/read.js';
import { readPdf } from './pdf/read.js';

interface DocumentFormat extends FileFormat {
  draft(bytes: Uint8Array, progress?: Progress): DocumentText | Promise<DocumentText>;
}
const document = (id: string, name: string, extension: string, mediaType: string, draft: DocumentFormat['draft']): DocumentFormat => ({
  id,
  name,
  extension,
  mediaType,
  draft,
  read: async (bytes, _, options) => readDocumentText(await draft(bytes), options),
});

export const documentFormats: readonly DocumentFormat[] = [
  document('docx', 'DOCX document', '.docx', 'application/vnd.openxmlformats-officedocument.wordprocessingml.document', readDocx),
  document('odt', 'ODT document', '.odt', 'application/vnd.oasis.opendocument.text', readOdt),
  document('pdf', 'PDF document', '.pdf', 'application/pdf', readPdf),
  document('page', 'Web page, any', '.html', 'text/html', (bytes) => {
    const { text, picturesLost } = fromHtml(pageText(bytes));
    const notes = picturesLost
      ? [`${picturesLost === 1 ? '1 picture is' : `${picturesLost} pictures are`} not in the page itself and could not come along.`]
      : [];
    return { text, notes, pictures: 0 };
  }),
];
const byId = (id: string): DocumentFormat => documentFormats.find((f) => f.id === id) as DocumentFormat;

/** A page's text, by the encoding that it names. */
function pageText(bytes: Uint8Array): string {
  if (looksBinary(bytes)) throw new ReadError('this is no web page; open it in a browser and save it as HTML');
  return decodePage(bytes);
}

const starts = (bytes: Uint8Array, signs: string, at = 0): boolean => [...signs].every((c, i) => bytes[at + i] === c.charCodeAt(0));

/**
 * Which sort of document a file is, by its bytes; undefined where it is none.
 * @throws ReadError for documents that are known and not read here, saying what to do
 */
export function sniffDocument(bytes: Uint8Array, name: string): DocumentFormat | undefined {
  if (starts(bytes, '%PDF-') || latin(bytes.subarray(0, 1024)).includes('%PDF-')) return byId('pdf');
  if (starts(bytes, '{\\rtf')) throw new ReadError('RTF is not read; open the file in a word processor and save it as DOCX or ODT');
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11 && bytes[3] === 0xe0) {
    // what is protected by a password lies in such a container too; its parts have names in UTF-16
    const protectedOne = latin(bytes).replace(/\0/g, '').includes('EncryptedPackage');
    throw new ReadError(
      protectedOne
        ? 'this file is protected by a password; save it without one'
        : 'this is a file of an old office program; open it there and save it as DOCX, ODT or XLSX',
    );
  }
  if (starts(bytes, 'PK')) {
    if (starts(bytes, 'application/vnd.oasis.opendocument.', 38)) {
      if (starts(bytes, 'application/vnd.oasis.opendocument.text', 38)) return byId('odt');
      return undefined;
    }
    // the directory stands at the end of an archive
    const tail = latin(bytes.subarray(Math.max(0, bytes.length - 65_536)));
    if (tail.includes('word/document')) return byId('docx');
    return undefined;
  }
  if (/\.(?:html?|xhtml|mht)$/i.test(name) || /^[\s\uFEFF]*<(?:!doctype html|html)\b/i.test(decodeText(bytes.subarray(0, 400)))) {
    // a page that was written here holds its notation, which says more
    return latin(bytes).includes('text/x-zakuska-notation') ? undefined : byId('page');
  }
  return undefined;
}
const latin = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes);
