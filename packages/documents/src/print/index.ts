/** Papers as PDF, and answer sheets: formats for servers and the command line, apart from those that a browser writes as well. */
import {
  type AnswerSheet,
  bothPapers,
  fileName,
  fitSet,
  type Format,
  guidePaper,
  keyPaper,
  type Paper,
  type PaperLook,
  printedProfile,
  type QuizSet,
  questionPaper,
  type ReadBack,
  type Report,
  readBackOf,
  type SheetField,
  sheetOf,
  type SheetPerson,
  sheetPrint,
  type Written,
} from '@zakuska/core';
import { openPdf } from '../pdf/open.js';
import { withUndrawn } from './scripts.js';
import { sheetPdf } from './sheet.js';
import { readSheetDocx, sheetDocx } from './sheetDocx.js';
import { readSheetHtml, sheetHtml } from './sheetHtml.js';
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

/** A format that is set here: the file may look in several ways, or be for several people. */
export interface PrintFormat extends Format {
  write(set: QuizSet, look?: PaperLook, people?: readonly SheetPerson[]): Written | Promise<Written>;
  readBack(bytes: Uint8Array, set: QuizSet, people?: readonly SheetPerson[]): Promise<ReadBack>;
}
/** One that is set as PDF. */
export interface PdfFormat extends PrintFormat {
  write(set: QuizSet, look?: PaperLook, people?: readonly SheetPerson[]): Written;
}

const pdf = (id: string, name: string, part: (set: QuizSet) => Paper): PdfFormat => ({
  id,
  name,
  extension: '.pdf',
  mediaType: 'application/pdf',
  profile: printedProfile,
  anonymous: true,
  write: (given, look) => {
    const { set } = fitSet(given, printedProfile);
    const paper = part(set);
    return { bytes: pdfOf(paper, set, look), name: fileName(paper.title, '.pdf') };
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
    const back = readBackOf(await wordsOfPdf(bytes), paper, set);
    return { ...back, differences: withUndrawn(back.differences, set) };
  },
});

/** The sheets of a set: one for anybody, or one for each person. */
const sheetsOf = (set: QuizSet, people: readonly SheetPerson[] = []): AnswerSheet[] => (people.length ? people.map((p) => sheetOf(set, p)) : [sheetOf(set)]);
const sheetName = ({ title, words }: AnswerSheet, extension: string): string => fileName(`${title} ${words.sheet}`, extension);
/** What has no place on a sheet. */
const leftOf = ({ left }: AnswerSheet): ReadBack['differences'] =>
  left.map(({ item, label }) => ({ item, name: label, message: 'it has no place on the sheet; it is answered on paper of its own' }));
const fieldsOf = (made: AnswerSheet): SheetField[] => made.pages.flatMap((p) => p.fields);

const sheet: PdfFormat = {
  id: 'pdf-sheet',
  name: 'PDF, answer sheet',
  extension: '.pdf',
  mediaType: 'application/pdf',
  profile: printedProfile,
  anonymous: true,
  // a sheet that is read by its measures looks in one way
  write: (given, _, people) => {
    const { set } = fitSet(given, printedProfile);
    const sheets = sheetsOf(set, people);
    return { bytes: sheetPdf(sheets), name: sheetName(sheets[0] as AnswerSheet, '.pdf') };
  },
  readBack: async (bytes, given) => {
    const { set } = fitSet(given, printedProfile);
    const made = sheetOf(set);
    const stands = new Set((await wordsOfPdf(bytes)).split(/\s+/));
    const fields = fieldsOf(made);
    const missing = fields.filter((f) => !f.label.split(/\s+/).every((w) => stands.has(w)));
    return {
      items: new Set(fields.map((f) => f.item)).size,
      keys: 0,
      differences: [...missing.map((f) => ({ item: f.item, name: f.label, message: 'its place is not on the sheet' })), ...leftOf(made)],
    };
  },
};

/** A sheet that is not set as PDF: read again as photographs of its pages would be. */
const pictured = (
  id: string,
  name: string,
  { extension, mediaType }: Pick<Format, 'extension' | 'mediaType'>,
  write: (sheets: readonly AnswerSheet[]) => Uint8Array | Promise<Uint8Array>,
  read: (bytes: Uint8Array, known: Parameters<typeof readSheetDocx>[1]) => ReturnType<typeof readSheetDocx>,
): PrintFormat => ({
  ...sheet,
  id,
  name,
  extension,
  mediaType,
  write: async (given, _, people) => {
    const { set } = fitSet(given, printedProfile);
    const sheets = sheetsOf(set, people);
    return { bytes: await write(sheets), name: sheetName(sheets[0] as AnswerSheet, extension) };
  },
  readBack: async (bytes, given, people) => {
    const { set } = fitSet(given, printedProfile);
    const made = sheetOf(set);
    const pages = await read(bytes, new Map([[sheetPrint(set), { sheet: made }]]));
    const unread = (people?.length ? people : [undefined]).flatMap((person) =>
      made.pages.flatMap((_, n) => {
        const found = pages.find((p) => p.is === 'read' && p.page === n + 1 && p.person === (person?.code ?? ''));
        const page = [person?.name, `page ${n + 1}`].filter(Boolean).join(', ');
        if (found?.is !== 'read') return [{ name: page, message: 'the sheet reader does not find it' }];
        return found.fields.some((f) => f.given.length) ? [{ name: page, message: 'the sheet reader sees a mark where nobody has made one' }] : [];
      }),
    );
    return { items: new Set(fieldsOf(made).map((f) => f.item)).size, keys: 0, differences: [...unread, ...leftOf(made)] };
  },
});
const docxSheet = pictured(
  'docx-sheet',
  'DOCX, answer sheet',
  { extension: '.docx', mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document' },
  sheetDocx,
  readSheetDocx,
);
const htmlSheet = pictured(
  'html-sheet',
  'Web page, answer sheet',
  { extension: '.html', mediaType: 'text/html' },
  (sheets) => new TextEncoder().encode(sheetHtml(sheets)),
  (bytes, known) => readSheetHtml(new TextDecoder().decode(bytes), known),
);

/** A report as PDF. @param set with the pictures that it names */
export const reportPdf = (report: Report, set: QuizSet): Uint8Array => pdfOf(report as Paper, set);

/** The rows: what `allFormats` has not. */
export const pdfFormats = [
  pdf('pdf-paper', 'PDF, questions and key', bothPapers),
  pdf('pdf-questions', 'PDF, questions', questionPaper),
  pdf('pdf-key', 'PDF, key', keyPaper),
  pdf('pdf-guide', 'PDF, marking guide for open questions', guidePaper),
  sheet,
] as const;
/** All that a server sets. */
export const printFormats: readonly PrintFormat[] = [...pdfFormats, docxSheet, htmlSheet];
