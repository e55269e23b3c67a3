/** Documents: the formats of the core and those that need a library of their own, in one table, and one way to open any file. */
import {
  decodeText,
  formats,
  looksBinary,
  nameIfNone,
  playFile as playCore,
  type Playable,
  type Profile,
  type QuizSet,
  ReadError,
  readFile,
  type ReadOptions,
  type ReadResult,
  sniff,
  tableRowsOf,
  type TableSheet,
  type Rehearsal,
  rehearse,
} from '@zakuska/core';
import type { FileFormat } from './format.js';
import type { DocumentText, Progress } from './document.js';
import { documentFormats, sniffDocument } from './documents.js';
import { xlsxFormats } from './xlsx.js';

export { type DocumentText, NoTextError } from './document.js';
export { type Box, type Page, readPage } from './pdf/page.js';
export { draftOfRegion } from './pdf/read.js';
export type { FileFormat } from './format.js';

/** The table of all formats. A new one is a file and a row. */
export const fileFormats: readonly FileFormat[] = [...formats, ...documentFormats, ...xlsxFormats];
export const fileFormatById = (id: string): FileFormat | undefined => fileFormats.find((f) => f.id === id);
export const writableFiles = fileFormats.filter((f) => f.write);
export const readableFiles = fileFormats.filter((f) => f.read);

const heavy = (bytes: Uint8Array, name: string, formatId?: string): FileFormat | undefined => {
  if (formatId) return [...documentFormats, ...xlsxFormats].find((f) => f.id === formatId);
  const document = sniffDocument(bytes, name);
  if (document) return document;
  // a workbook is a zip archive whose parts lie in xl/
  return bytes[0] === 0x50 && bytes[1] === 0x4b && (/\.xlsx$/i.test(name) || hasPart(bytes, 'xl/workbook.xml')) ? xlsxFormats[0] : undefined;
};
function hasPart(bytes: Uint8Array, path: string): boolean {
  const tail = new TextDecoder('latin1').decode(bytes.subarray(Math.max(0, bytes.length - 65_536)));
  return tail.includes(path);
}

/**
 * Reads a file in whatever format it is.
 * @throws ReadError with a one-line message where it cannot be read
 */
export async function openFile(bytes: Uint8Array, name: string, formatId?: string, options: ReadOptions = {}): Promise<ReadResult & { format: string }> {
  const format = heavy(bytes, name, formatId);
  if (!format?.read) {
    if (formatId && !fileFormatById(formatId)?.read)
      throw new ReadError(`there is no reader called “${formatId}”; there are ${readableFiles.map((f) => f.id).join(', ')}`);
    return readFile(bytes, name, formatId, options);
  }
  return { ...nameIfNone(await format.read(bytes, name, options), name), format: format.id };
}

/**
 * The words of a document as draft text, with what was set aside; a text file as it is.
 * @throws ReadError where the file cannot be read, or holds items or a table and no draft
 */
export async function draftOf(bytes: Uint8Array, name: string, progress?: Progress): Promise<DocumentText & { format: string }> {
  const format = heavy(bytes, name);
  if (format?.draft) return { ...(await format.draft(bytes, progress)), format: format.id };
  const plain = format ?? sniff(bytes, name);
  if (plain.id !== 'draft') throw new ReadError(`this is a file of items (${plain.name}), no text to draft from`);
  return { ...plainDraft(bytes), format: 'draft' };
}

/** A text file as a draft. */
function plainDraft(bytes: Uint8Array): DocumentText {
  if (looksBinary(bytes)) throw new ReadError('this is no text: open the program it comes from and save or copy it as text');
  return {
    text: decodeText(bytes)
      .replace(/^\uFEFF/, '')
      .replace(/\r\n?/g, '\n'),
    notes: [],
    pictures: 0,
  };
}

/** A file as a person opens it: words for the draft, tables whose columns are to be agreed on, or items as they are. */
export type Opened = { format: string; name: string } & (
  | ({ as: 'draft' } & DocumentText)
  | { as: 'tables'; sheets: TableSheet[] }
  | { as: 'items'; result: ReadResult }
);
/**
 * Opens a file the way that suits it.
 * @throws ReadError with a one-line message where it cannot be read
 */
export async function openAny(bytes: Uint8Array, name: string, progress?: Progress): Promise<Opened> {
  const found = heavy(bytes, name) ?? sniff(bytes, name);
  const said = { format: found.id, name: found.name };
  if ('draft' in found && found.draft) return { as: 'draft', ...said, ...(await found.draft(bytes, progress)) };
  if (found.id === 'draft') return { as: 'draft', ...said, ...plainDraft(bytes) };
  if (/^(?:csv|tsv)/.test(found.id)) return { as: 'tables', ...said, sheets: [{ name: '', rows: tableRowsOf(bytes) }] };
  if ('sheets' in found && found.sheets) return { as: 'tables', ...said, sheets: await found.sheets(bytes) };
  return { as: 'items', ...said, result: nameIfNone((await (found as FileFormat).read?.(bytes, name)) as ReadResult, name) };
}

/** A file as something to be answered from the file alone, with what files of its sort can hold. */
export async function openPlay(bytes: Uint8Array, name: string, formatId?: string): Promise<{ played: Playable[]; set: QuizSet; profile?: Profile }> {
  const format = heavy(bytes, name, formatId);
  if (!format?.read || !format.play) return playCore(bytes, name, formatId);
  return { set: (await format.read(bytes, name)).set, ...(await format.play(bytes, name)) };
}

/** Answers a file from what stands in it and compares with a set; without a set, with what was read from the file. */
export async function rehearseAny(bytes: Uint8Array, name: string, against?: QuizSet, formatId?: string): Promise<Rehearsal> {
  const { played, set, profile } = await openPlay(bytes, name, formatId);
  return against ? rehearse(played, against, profile) : rehearse(played, set);
}
