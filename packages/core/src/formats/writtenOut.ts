/** Questions that a text holds in a form of its own, written out as a draft: records as a chat assistant hands them out, a paper set in TeX, a page in two columns. */
import { counted } from '../language/counted.js';
import { readDraft } from '../draft/read.js';
import { writeNotation } from './notation/notation.js';
import { columnsApart } from './pageColumns.js';
import { recordsIn } from './records/records.js';
import { readTables } from './table/tables.js';
import { draftOfTex, isTex } from './tex/tex.js';

/** A draft, and what a person is told of how it came about. */
export interface WrittenOut {
  text: string;
  /** "2 questions in JSON were written out as a draft." */
  note: string;
}
const told = (items: number, language: string): string =>
  `${counted(items, 'question')} in ${language} ${items === 1 ? 'was' : 'were'} written out as a draft.`;

/** The questions that a text holds as records, in TeX or side by side, written out as a draft; null where it holds none or reads as a draft by itself. */
export function writtenOut(text: string): WrittenOut | null {
  if (isTex(text)) {
    const draft = draftOfTex(text);
    const { items } = readDraft(draft).set;
    return items.some((i) => i.stem) ? { text: draft, note: told(items.length, 'TeX') } : null;
  }
  const apart = columnsApart(text);
  if (apart !== null) return { text: apart, note: 'Questions in two columns were written out, one column below the other.' };
  const sheet = recordsIn(text);
  if (!sheet || readDraft(text).set.items.length > 1) return null;
  try {
    const { set } = readTables([sheet]);
    return { text: writeNotation(set), note: told(set.items.length, 'JSON') };
  } catch {
    return null;
  }
}
