/** One table of formats, and one way to open, read, answer and rehearse files by it. */
import { ReadError } from '../item/readError.js';
import { withinModel } from '../item/limits.js';
import { type QuizSet, type ReadResult, UNTITLED } from '../item/model.js';
import { playSet } from '../rehearse/play.js';
import { type Rehearsal, rehearse } from '../rehearse/rehearse.js';
import { headOf } from './fileHead.js';
import type { DocumentText, Format, Play, Progress, ReadOptions } from './format.js';
import { languageVersions } from './table/languageVersions.js';
import type { TableSheet } from './table/mapping.js';

/** Larger files are refused before anything of them is looked at. */
const MOST_BYTES = 50e6;

/** A file as a person opens it: words for the draft, tables whose columns are to be agreed on, or items as they are. */
export type Opened = { format: string; name: string } & (
  | ({ as: 'draft' } & DocumentText)
  | { as: 'tables'; sheets: TableSheet[] }
  | { as: 'items'; result: ReadResult }
);

type Readable = Format & Required<Pick<Format, 'read'>>;
type Writable = Format & Required<Pick<Format, 'write' | 'profile'>>;

/** A table of formats, and what can be done with files by it. */
export class FormatRegistry {
  /** @param formats a row each; ids are unique */
  constructor(readonly formats: readonly Format[]) {}

  /** The format with an id. */
  byId(id: string): Format | undefined {
    return this.formats.find((f) => f.id === id);
  }
  get readable(): readonly Readable[] {
    return this.formats.filter((f): f is Readable => f.read !== undefined);
  }
  get writable(): readonly Writable[] {
    return this.formats.filter((f): f is Writable => f.write !== undefined && f.profile !== undefined);
  }

  /**
   * The format that a file is in: the one that is surest of it, of equals the first.
   * @throws ReadError where the file is too large, of a sort that is known and not read, or nothing that is known
   */
  recognise(bytes: Uint8Array, name: string): Format {
    if (bytes.length > MOST_BYTES) throw new ReadError(`this file has ${Math.round(bytes.length / 1e6)} MB; files of up to ${MOST_BYTES / 1e6} MB are read`);
    const head = headOf(bytes, name);
    let best: Format | undefined;
    let sure = 0;
    for (const format of this.formats) {
      const s = format.recognises?.(head) ?? 0;
      if (s > sure) [best, sure] = [format, s];
    }
    if (!best) throw new ReadError('this is no text and no file of a sort that is read here: open it in the program it comes from and save or copy it as text');
    return best;
  }

  /** The format that reads a file: the one that is named, else the one that is surest. */
  private reading(bytes: Uint8Array, name: string, id?: string): Readable {
    const format = id ? this.byId(id) : this.recognise(bytes, name);
    if (!format?.read) throw new ReadError(`there is no reader called “${id ?? format?.id ?? ''}”; there are ${this.readable.map((f) => f.id).join(', ')}`);
    return format as Readable;
  }

  /**
   * The items of a file in whatever format it is.
   * @param id the format, where a person has named it
   * @throws ReadError with a one-line message where it cannot be read
   */
  async read(bytes: Uint8Array, name: string, id?: string, options: ReadOptions = {}): Promise<ReadResult & { format: string }> {
    const format = this.reading(bytes, name, id);
    return { ...withinModel(named(await format.read(bytes, name, options), name)), format: format.id };
  }

  /**
   * The words of a file as draft text, with what was set aside.
   * @throws ReadError where the file cannot be read, or holds items or a table and no draft
   */
  async draft(bytes: Uint8Array, name: string, progress?: Progress): Promise<DocumentText & { format: string }> {
    const format = this.recognise(bytes, name);
    if (!format.draft) throw new ReadError(`this is a file of items (${format.name}), no text to draft from`);
    return { ...(await format.draft(bytes, progress)), format: format.id };
  }

  /**
   * The tables of a file, each as it lies there; a text that is none is cut at its commas or tabs all the same.
   * @throws ReadError where it cannot be read, or is no table
   */
  async tables(bytes: Uint8Array, name: string): Promise<TableSheet[]> {
    const surest = this.recognise(bytes, name);
    const format = surest.tables ? surest : surest.id === 'draft' ? this.byId('csv') : undefined;
    if (!format?.tables) throw new ReadError(`this is no table (${surest.name}); give it as CSV, TSV or a spreadsheet`);
    return format.tables(bytes);
  }

  /**
   * Opens a file the way that suits it.
   * @throws ReadError with a one-line message where it cannot be read
   */
  async open(bytes: Uint8Array, name: string, progress?: Progress): Promise<Opened> {
    const format = this.recognise(bytes, name);
    const said = { format: format.id, name: format.name };
    if (format.draft) return { as: 'draft', ...said, ...(await format.draft(bytes, progress)) };
    if (format.tables) return { as: 'tables', ...said, sheets: (await format.tables(bytes)).flatMap(languageVersions) };
    return { as: 'items', ...said, result: await this.read(bytes, name, format.id) };
  }

  /**
   * A file as something to be answered from the file alone, with what files of its sort can hold.
   * @throws ReadError where it cannot be read
   */
  async play(bytes: Uint8Array, name: string, id?: string): Promise<Play> {
    const format = this.reading(bytes, name, id);
    if (format.play) return format.play(bytes, name);
    const { set } = await format.read(bytes, name);
    return { played: playSet(set), ...(format.profile && { profile: format.profile }) };
  }

  /**
   * Answers a file from what stands in it and compares with a set; without a set, with what was read from the file.
   * @throws ReadError where it cannot be read
   */
  async rehearse(bytes: Uint8Array, name: string, against?: QuizSet, id?: string): Promise<Rehearsal> {
    const { played, profile } = await this.play(bytes, name, id);
    return against ? rehearse(played, against, profile) : rehearse(played, (await this.read(bytes, name, id)).set);
  }
}

/** A set that says no title of its own is called by its file's name. */
function named(result: ReadResult, name: string): ReadResult {
  if (result.set.title === UNTITLED || result.set.title === 'GIFT questions')
    result.set.title =
      name
        .replace(/^.*[\\/]/, '')
        .replace(/(\.zak)?\.[^.]+$/, '')
        .replace(/\.gift$/, '') || result.set.title;
  return result;
}
