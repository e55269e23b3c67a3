/** What every reader of documents gives: draft text, and what was set aside on the way to it. */
import { decodeXml, type Diagnostic, type DraftResult, readDraft, ReadError, type ReadOptions, readXml, type XmlNode } from '@zakuska/core';

/** A document that is whole, and holds pictures of pages but no text. */
export class NoTextError extends ReadError {}

export interface DocumentText {
  /** Draft text: labels typed out, marks around words that stand out, pictures inside. */
  text: string;
  /** One sentence each for the person: what was set aside, accepted, or could not come along. */
  notes: string[];
  pictures: number;
}

/** Tells how far the reading is: 3 of 40 pages. */
export type Progress = (done: number, all: number) => void;

/** A document's draft, read. What was set aside on the way is told as information. */
export function readDocumentText({ text, notes }: DocumentText, options: ReadOptions = {}): DraftResult {
  const read = readDraft(text, options);
  return { ...read, diagnostics: [...notes.map(told), ...read.diagnostics] };
}
const told = (message: string): Diagnostic => ({ code: 'document-note', severity: 'info', from: 0, to: 0, line: 1, column: 1, message });

/** "1 picture", "3 pictures". */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** A part of an archive as XML; null where there is none. */
export function xmlPart(files: ReadonlyMap<string, Uint8Array>, path: string): XmlNode | null {
  const bytes = files.get(path);
  return bytes ? readXml(decodeXml(bytes)).root : null;
}

export const brokenDocument = (program: string): ReadError =>
  new ReadError(`this file is no whole ${program}; open it in the program that it comes from and save it again`);

/** A picture as an address that holds it; null where no browser shows pictures of this sort. */
export function dataAddress(bytes: Uint8Array, mediaType: string | null): string | null {
  if (!mediaType) return null;
  let s = '';
  for (let i = 0; i < bytes.length; i += 0x8000) s += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return `data:${mediaType};base64,${btoa(s)}`;
}
