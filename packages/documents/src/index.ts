/** Documents: the formats of the core and those that need a library of their own, in one table, and one way to open any file. */
import {
  formats,
  nameIfNone,
  playFile as playCore,
  type Playable,
  type Profile,
  type QuizSet,
  ReadError,
  readFile,
  type ReadResult,
  type Rehearsal,
  rehearse,
} from '@zakuska/core';
import type { FileFormat } from './format.js';
import { xlsxFormats } from './xlsx.js';

export type { FileFormat } from './format.js';

/** The table of all formats. A new one is a file and a row. */
export const fileFormats: readonly FileFormat[] = [...formats, ...xlsxFormats];
export const fileFormatById = (id: string): FileFormat | undefined => fileFormats.find((f) => f.id === id);
export const writableFiles = fileFormats.filter((f) => f.write);
export const readableFiles = fileFormats.filter((f) => f.read);

const heavy = (bytes: Uint8Array, name: string, formatId?: string): FileFormat | undefined => {
  if (formatId) return xlsxFormats.find((f) => f.id === formatId);
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
export async function openFile(bytes: Uint8Array, name: string, formatId?: string): Promise<ReadResult & { format: string }> {
  const format = heavy(bytes, name, formatId);
  if (!format?.read) {
    if (formatId && !fileFormatById(formatId)?.read)
      throw new ReadError(`there is no reader called “${formatId}”; there are ${readableFiles.map((f) => f.id).join(', ')}`);
    return readFile(bytes, name, formatId);
  }
  return { ...nameIfNone(await format.read(bytes, name), name), format: format.id };
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
