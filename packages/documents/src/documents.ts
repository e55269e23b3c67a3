/** The documents whose words become draft text: a row for each sort, and those that are known and not read. */
import { decodePage, type FileHead, type Format, fromHtml, isPageSource, looksBinary, ReadError } from '@zakuska/core';
import { isOpenDocument, readDocumentText } from './document.js';
import { readDocx } from './docx/read.js';
import { readOdt } from './odt/read.js';
import { readPdf } from './pdf/read.js';

type Document = Format & Required<Pick<Format, 'draft' | 'recognises'>>;
const document = (id: string, name: string, extension: string, mediaType: string, recognises: Document['recognises'], draft: Document['draft']): Document => ({
  id,
  name,
  extension,
  mediaType,
  recognises,
  draft,
  read: async (bytes, _, options) => readDocumentText(await draft(bytes), options),
});

/** A sort of file that is known by its signs and not read; `advice` says what to do instead. */
const refused = (id: string, name: string, extension: string, is: (file: FileHead) => string | false): Format => ({
  id,
  name,
  extension,
  mediaType: 'application/octet-stream',
  recognises: (file) => {
    const advice = is(file);
    if (advice) throw new ReadError(advice);
    return 0;
  },
});

/** A page's text, by the encoding that it names. */
function pageText(bytes: Uint8Array): string {
  if (looksBinary(bytes)) throw new ReadError('this is no web page; open it in a browser and save it as HTML');
  return decodePage(bytes);
}
const latin = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes);
const OPEN_DOCUMENT = 'application/vnd.oasis.opendocument.text';

export const documentFormats: readonly Format[] = [
  refused('rtf', 'RTF', '.rtf', (f) => f.startsWith('{\\rtf') && 'RTF is not read; open the file in a word processor and save it as DOCX or ODT'),
  refused(
    'office',
    'File of an old office program',
    '.doc',
    (f) =>
      f.startsWith('\u00d0\u00cf\u0011\u00e0') &&
      // what is protected by a password lies in such a container too; its parts have names in UTF-16
      (latin(f.bytes).replace(/\0/g, '').includes('EncryptedPackage')
        ? 'this file is protected by a password; save it without one'
        : 'this is a file of an old office program; open it there and save it as DOCX, ODT or XLSX'),
  ),
  document(
    'docx',
    'DOCX document',
    '.docx',
    'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    (f) => (f.startsWith('PK') && f.endHolds('word/document') ? 0.9 : 0),
    readDocx,
  ),
  document('odt', 'ODT document', '.odt', OPEN_DOCUMENT, (f) => (isOpenDocument(f, OPEN_DOCUMENT) ? 0.95 : 0), readOdt),
  document('pdf', 'PDF document', '.pdf', 'application/pdf', (f) => (latin(f.bytes.subarray(0, 1024)).includes('%PDF-') ? 1 : 0), readPdf),
  document(
    'page',
    'Web page, any',
    '.html',
    'text/html',
    (f) => (!f.startsWith('PK') && (/\.(?:html?|xhtml|mht)$/i.test(f.name) || isPageSource(f.text)) ? 0.92 : 0),
    (bytes) => {
      const { text, picturesLost } = fromHtml(pageText(bytes));
      const notes = picturesLost
        ? [`${picturesLost === 1 ? '1 picture is' : `${picturesLost} pictures are`} not in the page itself and could not come along.`]
        : [];
      return { text, notes, pictures: 0 };
    },
  ),
];
