/**
 * Words that every object knows stand in texts like any other: a source that spoke of "5 constructor" once ended the drafting from it.
 * All that looks words up in tables is asked with them.
 */
import { findingsOf } from '../check/index.js';
import { readabilityOf } from '../check/readability.js';
import { composeRequest, composeRework, firstWish, measure, reworked } from '../compose/index.js';
import { Drafter, readWordList, vocabularyItems, withMeanings } from '../drafter/index.js';
import { readDraft } from '../draft/read.js';
import { sayOperation } from '../edit/history.js';
import { writeNotation } from '../formats/notation/notation.js';
import type { Item, QuizSet } from '../item/model.js';
import { lexiconOf } from '../lexicon/lexicon.js';
import { mark } from '../mark/mark.js';
import { mergeReply } from '../rework/merge.js';
import { evidenceFor } from '../source/evidence.js';
import { indexSources } from '../source/sentences.js';
import { inBoth, sideBySide, typedTranslation, withTranslations } from '../translate/index.js';
import { guessLanguage } from './guess.js';
import { lookUp } from './lookUp.js';

const WORDS = ['constructor', 'toString', 'valueOf', 'hasOwnProperty', '__proto__', 'isPrototypeOf', 'toLocaleString', '__defineGetter__'];

test.each(WORDS)('%s is a word', (word) => {
  expect(lookUp({ a: 1 }, word)).toBeUndefined();
  const draft = `# ${word}\n\n1. What does a ${word} do to 5 ${word}?\na) ${word} *\nb) 3 ${word}\n\n2. The ${word} has 7 ${word}s.\nAnswer: true\n${word}: ${word}\n\n3. Say ${word}.\nAnswer: ${word}\n`;
  const { set } = readDraft(draft);
  expect(set.items[0]?.stem).toContain(`What does a ${word.startsWith('__') ? '' : word}`);
  expect(JSON.stringify(set)).not.toContain('[native code]');
  for (const f of findingsOf(set)) expect(f.message).not.toContain('native code');
  const read = readabilityOf(`The ${word} of a ${word} is here. It takes ${word}s.`);
  for (const value of Object.values(read ?? {})) expect(typeof value !== 'number' || Number.isFinite(value)).toBe(true);
  expect(guessLanguage(`${word} ${word} ${word}`)).toBeUndefined();
  const text = `A ${word} has 5 ${word} in it. The ${word} takes 20 ${word}s to the kitchen in 1987. Every ${word} is a tool that is made of 3 ${word}.`;
  const source = { id: 's', name: word, text };
  const index = indexSources([source], 'en');
  for (const item of set.items) evidenceFor(item, index);
  const drafter = new Drafter([source], 'en');
  expect(drafter.outcomes().join()).not.toContain('native code');
  const drafted = drafter.draft({ counts: { cloze: 2, numeric: 2, 'multiple-choice': 2, 'true-false': 2, 'short-answer': 2 } }, lexiconOf({}));
  expect(JSON.stringify(drafted)).not.toContain('native code');
  const list = readWordList(`${word}\n${word} two – ${word}`);
  vocabularyItems(withMeanings(list.words, lexiconOf({})), { ask: 'mix', as: 'choice' }, lexiconOf({}));
  expect(composeRequest({ ...firstWish('en'), topic: word, level: word }).text).toContain(word);
  expect(composeRework(set.items, 'language', word)).toContain(word);
  expect(measure(word).tokens).toBeGreaterThan(0);
  reworked(set.items, readDraft(draft).set);
  expect(mergeReply(set, readDraft(draft).set).pairs).toHaveLength(set.items.length);
  expect(sayOperation({ type: 'change', id: set.items[0]?.id ?? '', set: { [word]: 1 } }, set.items)).not.toContain('native code');
  expect(writeNotation(set)).not.toContain('native code');
  for (const item of set.items) mark(item as Item, { text: word });
  const made = Object.fromEntries(sideBySide(set, 'fr').map((r) => [r.unit.id, typedTranslation(r, r.original, word)]));
  const both: QuizSet = inBoth(withTranslations(set, word, made), word);
  expect(both.items).toHaveLength(set.items.length);
});
