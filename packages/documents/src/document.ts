/** What every reader of documents gives: draft text, and what was set aside on the way to it. */
import {
  base64Of,
  counted,
  decodeXml,
  type Diagnostic,
  type DocumentText,
  type DraftResult,
  type FileHead,
  pictureType,
  readDraft,
  ReadError,
  type ReadOptions,
  readXml,
  type XmlNode,
} from '@zakuska/core';

/** A document that is whole, and holds pictures of pages but no text. */
export class NoTextError extends ReadError {}

/** A document's draft, read. What was set aside on the way is told as information. */
export function readDocumentText({ text, notes }: DocumentText, options: ReadOptions = {}): DraftResult {
  const read = readDraft(text, options);
  return { ...read, diagnostics: [...notes.map(asInformation), ...read.diagnostics] };
}
const asInformation = (message: string): Diagnostic => ({ code: 'document-note', severity: 'info', from: 0, to: 0, line: 1, column: 1, message });

/** The media type of an OpenDocument stands uncompressed at this place (OpenDocument 1.3 part 2, 3.3). */
const MEDIA_TYPE_AT = 38;
/** Whether a file is an OpenDocument of a media type. */
export const isOpenDocument = (file: FileHead, mediaType: string): boolean => file.startsWith('PK') && file.startsWith(mediaType, MEDIA_TYPE_AT);

/** A part of an archive as XML; null where there is none. */
export function xmlPart(files: ReadonlyMap<string, Uint8Array>, path: string): XmlNode | null {
  const bytes = files.get(path);
  return bytes ? readXml(decodeXml(bytes)).root : null;
}

export const brokenDocument = (program: string): ReadError =>
  new ReadError(`this file is no whole ${program}; open it in the program that it comes from and save it again`);

/** A picture as an address that holds it; null where no browser shows pictures of this sort. */
export function dataAddress(bytes: Uint8Array): string | null {
  const mediaType = pictureType(bytes);
  return mediaType && `data:${mediaType};base64,${base64Of(bytes)}`;
}

/** What a reader of a word processor's file met beside the text. The texts of notes are as they are shown, quoted and shortened. */
export interface Aside {
  inserted: number;
  deleted: number;
  comments: number;
  footnotes: number;
  footnoteTexts: string;
  /** Heads and feet of pages; '' where there are none. */
  around: string;
  hidden: number;
  unseenPictures: number;
}
/** The notes for the person about what was set aside or accepted. */
export function asideNotes(a: Aside): string[] {
  return [
    a.inserted + a.deleted > 0 && `Tracked changes were read as accepted: ${counted(a.inserted, 'insertion')}, ${counted(a.deleted, 'deletion')}.`,
    a.comments > 0 && `${counted(a.comments, 'comment')} set aside.`,
    a.footnotes > 0 && `${counted(a.footnotes, 'footnote')} set aside: ${a.footnoteTexts}.`,
    a.around && `Page headers and footers set aside: ${a.around}.`,
    a.hidden > 0 && `${counted(a.hidden, 'passage')} of hidden text set aside.`,
    a.unseenPictures > 0 && `${counted(a.unseenPictures, 'picture')} could not come along: no browser shows pictures of that sort. Save them as PNG or JPEG.`,
  ].filter((n) => typeof n === 'string' && n !== '') as string[];
}
