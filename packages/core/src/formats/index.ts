/** The table of all formats. A new one is a folder and a row here. */
import { ReadError } from '../item/readError.js';
import { isMarkup, richFromPlain, richToPlain } from '../item/richText.js';
import { readSetFile, writeSetFile } from '../item/setFile.js';
import type { QuizSet, ReadResult } from '../item/model.js';
import { writeNotation } from './notation/notation.js';
import { readDraft } from '../draft/read.js';
import { decodeText, fileName, looksBinary, utf8, type Format, type ReadOptions } from './format.js';
import { readGift } from './gift/read.js';
import { giftProfile } from './gift/profile.js';
import { writeGift } from './gift/write.js';
import { allHeld, everything, type HeldField, holding, type Profile, type Step } from '../fit/profile.js';
import { type CartridgeVersion, writeCartridge, writeQti12 } from './qti/package1.js';
import { cartridgeProfile, qti12BankProfile, qti12Profile, qti2BankProfile, qti2Profile } from './qti/profile.js';
import { writeQtiPackage, type VersionId } from './qti/package.js';
import { playQti } from './qti/play.js';
import { looksLikeQti, openQti, readQti } from './qti/read.js';
import { playSet } from '../rehearse/play.js';
import { type Playable, type Rehearsal, rehearse } from '../rehearse/rehearse.js';
import { csvText, rowsOf } from './table/csv.js';
import { choiceSheet, gridOf, layoutOf, optionRowsOf, type Row, template } from './table/grid.js';
import { isTable, readTables } from './table/tables.js';
import { choiceSheetProfile, optionRowsProfile, rowsProfile } from './table/profile.js';
import { fitSet } from '../fit/fit.js';
import { paperHtml, readPaperHtml } from './paper/html.js';
import { looksLikeZip } from './archive.js';
import { partsOf } from '../item/strip.js';

const text = (bytes: Uint8Array): string => {
  if (looksBinary(bytes)) throw new ReadError('this is no text: open the program it comes from and save or copy it as text');
  return decodeText(bytes);
};

/** Every item of a text has a number in front of it, which it keeps when it comes back. */
const numbered: Step = (item, set) => {
  if (item.label !== undefined) return null;
  const label = String(set.items.findIndex((i) => i.id === item.id) + 1);
  return { item: { ...item, label }, fit: 'adapted', brief: 'numbered', message: `bears the number ${label} there`, minor: true };
};
/** The notation writes gaps into lines of text: lists, tables and looks around them become such lines. */
const gapsInLines: Step = (item) =>
  item.kind === 'cloze' && isMarkup(item.stem)
    ? {
        item: { ...item, stem: richFromPlain(partsOf(richToPlain(item.stem), '\n').filter(Boolean).join(' ')) },
        fit: 'lost',
        brief: 'plain text',
        message: 'the text around its gaps becomes one plain line there',
      }
    : null;
/** The notation says everything but feedback of single typed answers. */
const notationProfile: Profile = {
  ...everything,
  holds: holding(allHeld.filter((f) => f !== 'answerFeedback' && f !== 'language')),
  also: [numbered, gapsInLines],
};

/** What stands on paper: what a learner reads and what the person needs who marks. Pictures of the set are no part of the text that comes back. */
const ON_PAPER: readonly HeldField[] = [
  'label',
  'points',
  'lines',
  'unit',
  'wordBank',
  'modelAnswer',
  'rubric',
  'gapPoints',
  'section.title',
  'section.instructions',
  'section.passage',
];
const paperProfile: Profile = { ...everything, holds: holding(ON_PAPER), pictures: false, also: [numbered, gapsInLines] };

const qti = (version: VersionId, as: 'test' | 'bank' = 'test'): Format => ({
  id: `qti${version.replace('.', '')}${as === 'bank' ? '-bank' : ''}`,
  name: as === 'bank' ? `QTI ${version} items for a bank` : `QTI ${version} package`,
  extension: '.zip',
  mediaType: 'application/zip',
  write: (set) => writeQtiPackage(set, version, as === 'bank' ? qti2BankProfile : qti2Profile, as),
  profile: as === 'bank' ? qti2BankProfile : qti2Profile,
});

const cartridge = (version: CartridgeVersion, as: 'test' | 'bank'): Format => ({
  id: `cc${version.replace('.', '')}${as === 'bank' ? '-bank' : ''}`,
  name: `Common Cartridge ${version}${as === 'bank' ? ' question bank' : ''}`,
  extension: '.imscc',
  mediaType: 'application/zip',
  write: (set) => writeCartridge(set, version, as),
  profile: cartridgeProfile,
});

const tableProfiles = { rows: rowsProfile, 'option-rows': optionRowsProfile, choices: choiceSheetProfile };
const table = (id: string, name: string, delimiter: ',' | '\t', profile: Profile, rows: (set: QuizSet) => Row[]): Format => ({
  id,
  name,
  extension: delimiter === ',' ? '.csv' : '.tsv',
  mediaType: delimiter === ',' ? 'text/csv' : 'text/tab-separated-values',
  read: (bytes) => readTables([{ name: '', rows: rowsOf(bytes) }]),
  play: (bytes) => {
    const grid = rowsOf(bytes);
    return { played: playSet(readTables([{ name: '', rows: grid }]).set), profile: tableProfiles[layoutOf(grid[0] ?? []) ?? 'rows'] };
  },
  write: (set) => ({ bytes: utf8(csvText(rows(fitSet(set, profile).set), delimiter)), name: fileName(set.title, delimiter === ',' ? '.csv' : '.tsv') }),
  profile,
});

export const formats: readonly Format[] = [
  {
    id: 'draft',
    name: 'Draft text',
    extension: '.txt',
    mediaType: 'text/plain',
    read: (bytes, _name, options) => {
      const source = text(bytes);
      if (!source.trim()) throw new ReadError('the draft is empty');
      return readDraft(source, options);
    },
  },
  {
    id: 'text',
    name: 'Text in the notation',
    extension: '.txt',
    mediaType: 'text/plain',
    write: (set) => ({ bytes: utf8(writeNotation(fitSet(set, notationProfile).set)), name: fileName(set.title, '.txt') }),
    profile: notationProfile,
    anonymous: true,
  },
  {
    id: 'markdown',
    name: 'Markdown with keys',
    extension: '.md',
    mediaType: 'text/markdown',
    write: (set) => ({ bytes: utf8(writeNotation(fitSet(set, paperProfile).set)), name: fileName(set.title, '.md') }),
    profile: paperProfile,
    anonymous: true,
  },
  {
    id: 'html',
    name: 'Web page to print, with the key',
    extension: '.html',
    mediaType: 'text/html',
    read: (bytes) => readPaperHtml(text(bytes)),
    write: (set) => ({ bytes: utf8(paperHtml(fitSet(set, paperProfile).set)), name: fileName(set.title, '.html') }),
    profile: paperProfile,
    anonymous: true,
  },
  {
    id: 'set',
    name: 'Set file',
    extension: '.zak.json',
    mediaType: 'application/json',
    read: (bytes) => readSetFile(text(bytes)),
    write: (set) => ({ bytes: utf8(writeSetFile(set)), name: fileName(set.title, '.zak.json') }),
    profile: everything,
  },
  {
    id: 'gift',
    name: 'GIFT',
    extension: '.gift.txt',
    mediaType: 'text/plain',
    read: (bytes) => readGift(text(bytes)),
    write: writeGift,
    profile: giftProfile,
  },
  {
    id: 'qti',
    name: 'QTI, any version',
    extension: '.zip',
    mediaType: 'application/zip',
    read: readQti,
    play: (bytes, name) => {
      const { items, profile } = openQti(bytes, name);
      return { played: playQti(items), profile };
    },
  },
  { id: 'qti12', name: 'QTI 1.2 package', extension: '.zip', mediaType: 'application/zip', write: (set) => writeQti12(set), profile: qti12Profile },
  {
    id: 'qti12-bank',
    name: 'QTI 1.2 item bank',
    extension: '.zip',
    mediaType: 'application/zip',
    write: (set) => writeQti12(set, 'bank'),
    profile: qti12BankProfile,
  },
  qti('2.1'),
  qti('2.2'),
  qti('3.0'),
  ...(['2.1', '2.2', '3.0'] as const).map((v) => qti(v, 'bank')),
  ...(['1.1', '1.2', '1.3'] as const).flatMap((v) => [cartridge(v, 'test'), cartridge(v, 'bank')]),
  table('csv', 'Table, a row for each item', ',', rowsProfile, (set) => gridOf(set, template)),
  table('csv-options', 'Table, a row for each option', ',', optionRowsProfile, optionRowsOf),
  table('csv-choices', 'Sheet of choices for a game', ',', choiceSheetProfile, (set) => gridOf(set, choiceSheet)),
  table('tsv', 'Table with tabs', '\t', rowsProfile, (set) => gridOf(set, template)),
];

export const formatById = (id: string): Format | undefined => formats.find((f) => f.id === id);
export const writable = formats.filter((f) => f.write);
export const readable = formats.filter((f) => f.read);

/** Marks of GIFT: categories, titles, answers in braces. A numbered draft may have `{=12}` for a gap, which alone makes no GIFT. */
function looksLikeGift(text: string): boolean {
  if (/^\s*(?:\/\/.*\n\s*)*(?:\$CATEGORY:|::[^:\n]+::)/.test(text)) return true;
  const braces = Array.from(text.replace(/\\[{}~]/g, '').matchAll(/\{([^{}]*)\}/g), (m) => (m[1] ?? '').trim());
  if (braces.some((b) => b.startsWith('#') || b.includes('~') || b.includes('->') || /^(T|F|TRUE|FALSE)$/.test(b))) return true;
  return braces.some((b) => b.startsWith('=')) && !/^[ \t]{0,20}\d{1,3}[.)]\s/m.test(text);
}

/** A text is a table where its head is one; the last line of what is looked at may be cut off. */
function looksLikeTable(bytes: Uint8Array): boolean {
  const most = 20_000;
  const rows = rowsOf(bytes.subarray(0, most));
  return isTable(bytes.length > most ? rows.slice(0, -1) : rows);
}

/** Which format a file is in, by its name and first characters. A text that is nothing else is a draft. */
export function sniff(bytes: Uint8Array, name: string): Format {
  const of = (id: string): Format => formatById(id) as Format;
  if (looksLikeZip(bytes) || looksLikeQti(bytes)) return of('qti');
  if (/\.json$/i.test(name)) return of('set');
  const head = looksBinary(bytes) ? '' : decodeText(bytes.subarray(0, 20_000));
  if (/^\uFEFF?\s*\{\s*"zakuska"\s*:/.test(head)) return of('set');
  if (/\.gift(\.txt)?$/i.test(name) || looksLikeGift(head)) return of('gift');
  if (/\.html?$/i.test(name) || /^\s*<(!doctype html|html)\b/i.test(head)) return of('html');
  if (/\.(csv|tsv|tab)$/i.test(name)) return of('csv');
  if (head && looksLikeTable(bytes)) return of('csv');
  return of('draft');
}

/** Larger files are refused before anything of them is looked at. */
const MOST_BYTES = 50e6;

/** The format that reads a file: the one that is named, else the one that it looks like. */
function reading(bytes: Uint8Array, name: string, formatId?: string): Format & Required<Pick<Format, 'read'>> {
  if (bytes.length > MOST_BYTES) throw new ReadError(`this file has ${Math.round(bytes.length / 1e6)} MB; files of up to ${MOST_BYTES / 1e6} MB are read`);
  const format = formatId ? formatById(formatId) : sniff(bytes, name);
  if (!format?.read) throw new ReadError(`there is no reader called “${formatId ?? ''}”; there are ${readable.map((f) => f.id).join(', ')}`);
  return format as Format & Required<Pick<Format, 'read'>>;
}

/**
 * Reads a file in whatever format it is.
 * @throws ReadError with a one-line message where it cannot be read
 */
export function readFile(bytes: Uint8Array, name: string, formatId?: string, options: ReadOptions = {}): ReadResult & { format: string } {
  const format = reading(bytes, name, formatId);
  const result = format.read(bytes, name, options);
  return { ...nameIfNone(result, name), format: format.id };
}

/** A set that says no title of its own is called by its file's name. */
export function nameIfNone(result: ReadResult, name: string): ReadResult {
  if (result.set.title === 'Untitled set' || result.set.title === 'GIFT questions')
    result.set.title =
      name
        .replace(/^.*[\\/]/, '')
        .replace(/(\.zak)?\.[^.]+$/, '')
        .replace(/\.gift$/, '') || result.set.title;
  return result;
}

/**
 * A file as something to be answered from the file alone, with what files of its sort can hold.
 * @throws ReadError where the file cannot be read
 */
export function playFile(bytes: Uint8Array, name: string, formatId?: string): { played: Playable[]; set: QuizSet; profile?: Profile } {
  const format = reading(bytes, name, formatId);
  const { set } = readFile(bytes, name, format.id);
  return { set, ...(format.play?.(bytes, name) ?? { played: playSet(set), ...(format.profile && { profile: format.profile }) }) };
}

/**
 * Answers a file from what stands in it and compares with a set; without a set, with what was read from the file.
 * @throws ReadError where the file cannot be read
 */
export function rehearseFile(bytes: Uint8Array, name: string, against?: QuizSet, formatId?: string): Rehearsal {
  const { played, set, profile } = playFile(bytes, name, formatId);
  return against ? rehearse(played, against, profile) : rehearse(played, set);
}
