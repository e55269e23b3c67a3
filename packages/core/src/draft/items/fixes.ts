/** What a press can do about a doubt of a key, and what to do where no press can. Edits count from the block's first character. */
import { letterOf } from '../../item/kinds.js';
import type { Fix, Item } from '../../item/model.js';
import type { ItemBuilder, Key } from './itemBuilder.js';
import type { Entry } from '../model/outline.js';

/** What an option is called in a key: its label, or the letter that is due. */
export const calledOf = (e: Entry | undefined, place: number): string => (e?.label || letterOf(place)).toUpperCase();
/** What a statement can be, and how it is said in a draft of any language. */
const TRUTHS = ['True', 'False'].map((words) => ({ words, label: `Set ${words.toLowerCase()}` }));

/** Writes other words in the place of keys. None where one of them stands in a list for many questions, which says it there. */
export function keysAs(keys: readonly Key[], words: string, label: string): Fix[] {
  const edits = keys.flatMap(({ text, line }) => {
    const last = text.runs[text.runs.length - 1];
    return line === 'listed' || !last ? [] : [{ from: text.runs[0]?.from ?? 0, to: last.from + last.length, insert: words }];
  });
  return edits.length && edits.length === keys.length ? [{ label, edits }] : [];
}

/** A key that says true, or false, wherever it is said. */
export const truthFixes = (keys: readonly Key[]): Fix[] => TRUTHS.flatMap(({ words, label }) => keysAs(keys, words, label));

/** Options are few enough to offer each. */
const OFFERED = 8;

/** A key that names no option: one fix for each that it could name. */
export const optionsFor = (m: ItemBuilder, key: Key): Fix[] =>
  m.block.entries.length > OFFERED
    ? []
    : m.block.entries.flatMap((e, i) => {
        const letter = calledOf(e, i);
        return keysAs([key], letter, `Set ${letter}`);
      });

/** The key of an item without one, where it is to be chosen from what is there: a mark behind an option, a line that says true or false. */
export function keyFixes(m: ItemBuilder, item: Item): Fix[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return m.block.entries.map((e, i) => {
        const at = m.endOf(e.pieces[e.pieces.length - 1]);
        return { label: `Mark ${calledOf(e, i)}`, edits: [{ from: at, to: at, insert: ' *' }] };
      });
    case 'true-false': {
      const at = m.endOf(m.block.entries.at(-1)?.pieces.at(-1) ?? m.block.stem.at(-1));
      return m.block.row ? [] : TRUTHS.map(({ words, label }) => ({ label, edits: [{ from: at, to: at, insert: `\nAnswer: ${words}` }] }));
    }
    default:
      return [];
  }
}

/** What to do about a doubt that has no fix to press, and why there is none. */
export const ADVICE: Readonly<Record<string, string>> = {
  'key-missing': 'Only you know it: type it below the question behind “Answer:”.',
  'key-conflict': 'The text does not say which one holds: change it there.',
  'key-unknown-option': 'What was meant cannot be told from the text: change the key there.',
  'key-list-unmatched': 'Put the number of its question in front of each key of the list, or type the key below its question.',
  'gap-without-answer': 'Only you know them: put each answer in braces in its place, as in {rye}, or all in one line behind “Answer:”.',
  'match-unbalanced': 'Type what belongs to it behind “=”, or take the line out.',
  'stem-empty': 'Type the question above its options.',
  'option-single': 'Type further options below it, or take its letter away if it is the answer.',
  'option-empty': 'Type its words, or take the line out.',
  'option-duplicate': 'Which one was meant otherwise cannot be told: change or take out one of them.',
  'option-label-gap': 'A letter in a key means the option that bears it: set the letters right if the key should name another.',
  'points-invalid': 'Type a number such as 2 or 0.5.',
  'field-unknown': 'Change it here, or later on the item.',
  'number-gap': 'If a question is missing, it may have been read as part of the one above.',
  'number-repeat': 'A key list cannot tell the two apart: change one of the numbers.',
};
