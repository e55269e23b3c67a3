/** Translations out and back as a sheet: the original beside the translation, with the id of the unit and where it stands. */
import Papa from 'papaparse';
import { decodeText } from '../formats/encoding.js';
import { ReadError } from '../item/readError.js';
import type { QuizSet } from '../item/model.js';
import type { ReturnedFile, ReturnedUnit } from './take.js';
import { BrokenCodes, fromCell, inCell, piecesOf, type Returned } from './inline.js';
import { stateOf, unitsOf } from './units.js';
import { readXliff } from './xliff.js';

const HEADS = { id: 'Id', where: 'Where', state: 'State' } as const;

/** Writes a set's texts as CSV: id, where it stands, original, translation, state. Markup stands as `<1>…</1>`. */
export function writeTranslationSheet(set: QuizSet, language: string): string {
  const own = set.translations?.[language] ?? {};
  const rows = unitsOf(set).map((u) => {
    const t = own[u.id];
    const cell = (text: string): string => (u.rich ? inCell(piecesOf(text)) : text);
    return [u.id, u.name, cell(u.text), t ? cell(t.text) : '', stateOf(u, t)];
  });
  return `${Papa.unparse([[HEADS.id, HEADS.where, set.language ?? 'en', language, HEADS.state], ...rows], { newline: '\r\n', escapeFormulae: false })}\r\n`;
}

/** Reads a sheet back: with ids, or as two columns, original and translation. @throws ReadError where it has no two columns */
export function readTranslationSheet(bytes: Uint8Array): ReturnedFile {
  const { data } = Papa.parse<string[]>(decodeText(bytes), { skipEmptyLines: 'greedy' });
  const width = Math.max(0, ...data.map((r) => r.length));
  if (width < 2) throw new ReadError('the sheet has no two columns: the original, and the translation beside it');
  const [head = [], ...below] = data;
  const at = (name: string): number => head.findIndex((h) => h.trim().toLowerCase() === name.toLowerCase());
  const ids = at(HEADS.id);
  const rest = Array.from({ length: width }, (_, i) => i).filter((i) => ![ids, at(HEADS.where), at(HEADS.state)].includes(i));
  const [from = 0, to = 1] = rest;
  // two columns of words have a heading only where it names languages
  const headed = ids >= 0 || head.every((h) => /^[a-z]{2,3}(?:-[A-Za-z0-9]+)*$/.test(h.trim()) || /^(?:source|target|original|translation)$/i.test(h.trim()));
  const told = head[to]?.trim() ?? '';
  const read = (cell: string, unit: ReturnedUnit): Returned[] => {
    try {
      return fromCell(cell);
    } catch (e) {
      if (e instanceof BrokenCodes) unit.broken = e.message;
      return [cell];
    }
  };
  const units = (headed ? below : data).map((row, n): ReturnedUnit => {
    const unit: ReturnedUnit = {
      id: ids >= 0 ? (row[ids] ?? '').trim() : '',
      line: n + (headed ? 2 : 1),
      target: [],
      checked: (row[at(HEADS.state)] ?? '').trim().toLowerCase() === 'checked',
    };
    unit.source = read(row[from] ?? '', unit);
    unit.target = read(row[to] ?? '', unit);
    return unit;
  });
  return { language: headed && /^[a-z]{2,3}(?:-[A-Za-z0-9]+)*$/.test(told) ? told : '', units };
}

/** What came back from translators, read by what it is: XLIFF, or a sheet. @throws ReadError where it is neither */
export function readTranslations(bytes: Uint8Array): ReturnedFile {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 400)).replaceAll('\0', '');
  return /^\W{0,4}<(?:\?xml|xliff)/.test(head) ? readXliff(bytes) : readTranslationSheet(bytes);
}
