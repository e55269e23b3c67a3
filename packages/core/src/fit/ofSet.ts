/** What a set says of itself, beside its items, and what of that stays behind at a destination. */
import { type QuizSet, UNTITLED } from '../item/model.js';
import { richFromPlain, richToPlain } from '../item/richText.js';
import { tidyRich } from '../item/sameness.js';
import type { Profile, SetField } from './profile.js';

interface SetFieldRow {
  has(set: QuizSet): boolean;
  brief: string;
  message: string;
}
const ROWS: Record<SetField, SetFieldRow> = {
  title: { has: (s) => s.title !== '' && s.title !== UNTITLED, brief: 'name of the file', message: 'its title is the name of the file only' },
  description: { has: (s) => !!s.description, brief: 'stays here', message: 'its description stays here' },
  language: { has: (s) => s.language !== undefined, brief: 'stays here', message: 'which language it is in is not known there' },
  translations: { has: (s) => Object.keys(s.translations ?? {}).length > 0, brief: 'stays here', message: 'its translations stay here' },
};
const setFields = Object.keys(ROWS) as SetField[];

/** A field of a set that does not go with it, or goes as plain words; the message is a clause that follows "the set:". */
export interface SetLoss {
  field: SetField;
  /** In a few words, for a cell of a table. */
  brief: string;
  message: string;
}

/** What of a set, beside its items, stays behind at a destination. */
export function setLosses(set: QuizSet, profile: Profile): SetLoss[] {
  const held: readonly SetField[] = profile.ofSet ?? setFields;
  const out: SetLoss[] = setFields.flatMap((field) =>
    held.includes(field) || !ROWS[field].has(set) ? [] : [{ field, brief: ROWS[field].brief, message: ROWS[field].message }],
  );
  const { description } = set;
  if (description && held.includes('description') && profile.plainDescription && richFromPlain(richToPlain(description)) !== tidyRich(description))
    out.push({ field: 'description', brief: 'plain text', message: 'its description becomes plain text' });
  return out;
}
