/** Records within other text, as a chat assistant hands them out, written out as a draft. */
import { counted } from '../../language/counted.js';
import { readDraft } from '../../draft/read.js';
import { writeNotation } from '../notation/notation.js';
import { readTables } from '../table/tables.js';
import { recordsIn } from './records.js';

/** The questions that a text holds as records, written out as a draft in the notation, with how many they are; null where it holds none or reads as a draft by itself. */
export function draftOfRecords(text: string): { text: string; items: number } | null {
  const sheet = recordsIn(text);
  if (!sheet || readDraft(text).set.items.length > 1) return null;
  try {
    const { set } = readTables([sheet]);
    return { text: writeNotation(set), items: set.items.length };
  } catch {
    return null;
  }
}

/** What a person is told of it: "2 questions in JSON were written out as a draft." */
export const writtenOut = (items: number): string => `${counted(items, 'question')} in JSON ${items === 1 ? 'was' : 'were'} written out as a draft.`;
