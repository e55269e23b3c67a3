/** What a format is to the rest of the program: a row of a registry (registry.ts). */
import type { KeysFrom } from '../draft/read.js';
import type { Profile } from '../fit/profile.js';
import type { QuizSet, ReadResult } from '../item/model.js';
import type { Playable } from '../rehearse/rehearse.js';
import type { FileHead } from './fileHead.js';
import type { Helpers } from './helpers.js';
import type { TableSheet } from './table/mapping.js';

/** A file that was written. */
export interface Written {
  bytes: Uint8Array;
  /** File name with extension, made from the set's title. */
  name: string;
}

/** What a person says about how a file is to be read. */
export interface ReadOptions {
  /** For formats that are read as a draft. */
  keysFrom?: KeysFrom;
}

/** What stands in a file, to be answered from the file alone; with `profile` where what such a file can hold depends on it. */
export interface Play {
  played: Playable[];
  profile?: Profile;
}

/** The words of a document as draft text. */
export interface DocumentText {
  /** Labels typed out, marks around words that stand out, pictures inside. */
  text: string;
  /** One sentence each for the person: what was set aside, accepted, or could not come along. */
  notes: string[];
  pictures: number;
}

/** What reading a written file again has shown. */
export interface ReadBack {
  /** How many questions, and how many keys, were to stand in it. */
  items: number;
  keys: number;
  /** One sentence each, without its full stop; `item` is an item of the set, `name` its name or that of the paper. */
  differences: { item?: string; name: string; message: string }[];
}

/** Tells how far the reading is: 3 of 40 pages. */
export type Progress = (done: number, all: number) => void;

type Soon<T> = T | Promise<T>;

/** Formats whose library is heavy or slow to load take their time; those of the core answer at once. */
export interface Format {
  id: string;
  name: string;
  extension: string;
  mediaType: string;
  /**
   * How sure it is that a file is of this format: 0 for no, up to 1. Of several the surest reads it; formats that are only written have none.
   * @throws ReadError for files that are known and not read, saying what to do
   */
  recognises?(file: FileHead): number;
  /** Throws ReadError where the input is nothing of this format. */
  read?(bytes: Uint8Array, name: string, options?: ReadOptions): Soon<ReadResult>;
  /** Its words as draft text, for formats that are read by way of one. */
  draft?(bytes: Uint8Array, progress?: Progress): Soon<DocumentText>;
  /** Its tables, for formats that are read by a mapping of columns. */
  tables?(bytes: Uint8Array): Soon<TableSheet[]>;
  /** Writes what `fitSet` makes of the set by the profile. Same set, same bytes. */
  write?(set: QuizSet): Soon<Written>;
  /** The same, to the byte, with helpers; for formats whose large sets take long. */
  share?(set: QuizSet, helpers: Helpers): Promise<Written>;
  /** What it can hold; stands on every format that is written. */
  profile?: Profile;
  /** Items come back under new ids: the format has no place for them. */
  anonymous?: boolean;
  /** For what people read and no program marks: what of the set is missing in the file, or stands in another place there. */
  readBack?(bytes: Uint8Array, set: QuizSet): Soon<ReadBack>;
  /** Without it, the file's items are read and marked. */
  play?(bytes: Uint8Array, name: string): Soon<Play>;
}

/** A file name from a title: letters, digits and dashes of any script, at most 60 characters. */
export const fileName = (title: string, extension: string): string => {
  const stem = title
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);
  return `${stem || 'set'}${extension}`;
};
