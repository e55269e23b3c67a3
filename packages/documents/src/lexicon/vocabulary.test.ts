/** Lists of words in the layouts that people use, and the items made of them. */
import { type Item, indexSources, item as itemSchema, keyProblem, plainOf } from '@zakuska/core';
import { akin, lexiconOf } from '@zakuska/core/lexicon';
import { askings, meaningsOf, readWordList, vocabularyItems, type VocabularyWord, withMeanings } from '@zakuska/core/drafter';
import fs from 'node:fs';
import { english } from './index.js';

const sourdough = fs.readFileSync(new URL('../../../core/corpus/evidence/sourdough.txt', import.meta.url), 'utf8');
const index = indexSources([{ id: 's', name: 'Notes', text: sourdough }], 'en');
const TERMS =
  'knead, simmer, braise, roux, whisk, blanch, poach, sieve, gluten, yeast, oven, ladle, broth, grate, mince, batter, glaze, marinade, parsley, thyme, cumin, paprika, vinegar, pastry, griddle, skillet, colander, puree, brine, caramel';
const words = readWordList(TERMS).words;

test.each([
  ['a word a line', 'salt\nflour\nyeast'],
  ['with commas', 'salt, flour, yeast'],
  ['with semicolons', 'salt; flour; yeast;'],
  ['numbered', '1. salt\n2) flour\n(3) yeast'],
  ['with points', '- salt\n* flour\n• yeast'],
  ['in bold, with their class', '**salt** (n.)\n`flour` (noun)\nyeast n.'],
  ['twice the same', 'salt\nflour\nSalt\nyeast\n\nflour'],
])('a list %s', (_, text) => {
  expect(readWordList(text)).toEqual({ words: [{ word: 'salt' }, { word: 'flour' }, { word: 'yeast' }], unread: [] });
});

test.each([
  ['a dash', 'Teig – dough\nHefe — yeast\nSauerteig - sourdough'],
  ['a colon', 'Teig: dough\nHefe: yeast\nSauerteig: sourdough'],
  ['an equals sign, numbered', '1. Teig = dough\n2. Hefe = yeast\n3. Sauerteig = sourdough'],
  ['a tab', 'Teig\tdough\nHefe\t\tyeast\nSauerteig\tsourdough'],
  ['an arrow', 'Teig -> dough\nHefe → yeast\nSauerteig->sourdough'],
  ['bars, with a heading', '| Wort | Bedeutung |\n|---|---|\n| Teig | dough |\n| Hefe | yeast |\n| Sauerteig | sourdough |'],
  ['columns of blanks', 'Teig         dough\nHefe         yeast\nSauerteig    sourdough'],
])('words and glosses with %s', (_, text) => {
  expect(readWordList(text).words.map((w) => [w.word, w.gloss?.replace(/^\s+/, '')])).toEqual([
    ['Teig', 'dough'],
    ['Hefe', 'yeast'],
    ['Sauerteig', 'sourdough'],
  ]);
});

test('glosses below, indented; hyphens inside words stay; what is no word is told', () => {
  expect(readWordList('roux\n   a mixture of fat and flour\nblanch\n   to cook briefly in water').words).toEqual([
    { word: 'roux', gloss: 'a mixture of fat and flour' },
    { word: 'blanch', gloss: 'to cook briefly in water' },
  ]);
  expect(readWordList('mother-in-law – the mother of a spouse').words).toEqual([{ word: 'mother-in-law', gloss: 'the mother of a spouse' }]);
  const long = 'This line is a whole sentence that somebody wrote above the list of words';
  expect(readWordList(`${long}\nsalt\nflour`)).toEqual({ words: [{ word: 'salt' }, { word: 'flour' }], unread: [long] });
  for (const odd of ['', '\n\n', '1234', '|||', ' - ', '\u0000', `${'x'.repeat(100_000)}`]) expect(readWordList(odd).words).toEqual([]);
});

/** What holds of every item of a list. */
function holds(items: readonly Item[]): void {
  for (const item of items) {
    expect(itemSchema.safeParse(item).success).toBe(true);
    expect(keyProblem(item)).toBeNull();
    if (item.kind !== 'multiple-choice') continue;
    const texts = item.options.map((o) => plainOf(o.content).toLowerCase());
    expect(new Set(texts).size).toBe(texts.length);
    expect(item.options.filter((o) => o.credit > 0)).toHaveLength(1);
    const key = texts[item.options.findIndex((o) => o.credit > 0)] as string;
    // nothing that means the same as the key, or is a sort of it
    for (const t of texts) if (t !== key) expect([key, t, akin(english, t, key)]).toEqual([key, t, false]);
  }
}

test('30 words to 30 items, in each way of asking', () => {
  expect(words).toHaveLength(30);
  const meant = withMeanings(words, english, index);
  for (const ask of askings) {
    const { drafted, without } = vocabularyItems(meant, { ask, as: 'choice' }, english);
    expect(without).toEqual([]);
    expect(drafted).toHaveLength(30);
    holds(drafted.map((d) => d.item).filter((i) => i.kind === 'multiple-choice' && !i.stem.startsWith('What does')));
    // what stands in the stem does not give the answer
    for (const { item } of drafted)
      if (item.kind === 'multiple-choice' && !item.stem.startsWith('What does')) {
        const key = plainOf(item.options.find((o) => o.credit > 0)?.content ?? '').toLowerCase();
        expect(
          ` ${plainOf(item.stem)
            .toLowerCase()
            .replace(/[^a-z]+/g, ' ')} `,
        ).not.toContain(` ${key} `);
      }
  }
});

test('distractors come from the list, of the same class', () => {
  const meant = withMeanings(words, english, index);
  const own = new Set(words.map((w) => w.word));
  const { drafted } = vocabularyItems(meant, { ask: 'definition', as: 'choice' }, english);
  const options = drafted.flatMap(({ item }) => (item.kind === 'multiple-choice' ? item.options.map((o) => o.content) : []));
  expect(options.filter((o) => own.has(o)).length / options.length).toBeGreaterThan(0.9);
});

test('the meaning nearest to the source is proposed', () => {
  const fields = Object.fromEntries(['proof', 'starter', 'bread', 'score', 'feed'].map((w) => [w, meaningsOf(w, english, index)[0]?.sense]));
  expect(fields['bread']?.field).toBe('noun.food');
  // without a source the most frequent one
  expect(meaningsOf('proof', english)[0]?.sense.field).toBe('noun.cognition');
  for (const w of ['proof', 'score']) expect(meaningsOf(w, english, index)).toHaveLength(english(w).length);
});

test('an example blanks the word in the form that it has there, and the others stand in that form', () => {
  const meant: VocabularyWord[] = [
    { word: 'knead', gloss: 'work dough', example: 'The baker kneaded the dough.', sense: english('knead')[0] },
    { word: 'stir', example: 'x', sense: english('stir').find((s) => s.class === 'verb') },
    { word: 'rise', sense: english('rise').find((s) => s.class === 'verb') },
    { word: 'fry', sense: english('fry').find((s) => s.class === 'verb') },
  ];
  const [one] = vocabularyItems(meant, { ask: 'example', as: 'choice' }, english).drafted;
  expect(one?.item).toMatchObject({ kind: 'multiple-choice', stem: 'The baker ____ the dough.' });
  const texts = one?.item.kind === 'multiple-choice' ? one.item.options.map((o) => o.content).sort() : [];
  expect(texts).toEqual(['fried', 'kneaded', 'rose', 'stirred']);
});

test('own glosses in any language; too few words, and words without a meaning, are told', () => {
  const list = readWordList('Teig – dough\nHefe – yeast\nSauerteig – sourdough\nMehl – flour').words;
  const { drafted } = vocabularyItems(withMeanings(list, lexiconOf({})), { ask: 'definition', as: 'choice' }, lexiconOf({}));
  expect(drafted).toHaveLength(4);
  expect(drafted[0]?.item).toMatchObject({ stem: 'Which word means “dough”?' });
  expect(vocabularyItems(withMeanings(list, lexiconOf({})), { ask: 'mix', as: 'matching' }, lexiconOf({})).drafted[0]?.item).toMatchObject({
    kind: 'matching',
    points: 4,
  });
  expect(vocabularyItems([{ word: 'zzxqj' }], { ask: 'mix', as: 'choice' }, english).without).toEqual([{ word: 'zzxqj', why: 'it has no meaning yet' }]);
  expect(vocabularyItems([{ word: 'Teig', gloss: 'dough' }], { ask: 'definition', as: 'choice' }, lexiconOf({})).without[0]?.why).toContain('too few');
  expect(vocabularyItems([], { ask: 'mix', as: 'matching' }, english)).toEqual({ drafted: [], without: [] });
  expect(() => vocabularyItems([], { ask: 'mix', as: 'choice', options: 1 }, english)).toThrow('2 to 8');
});

test('typed: other words for the same are right as well', () => {
  const [one] = vocabularyItems([{ word: 'ladle', sense: english('sofa')[0] ?? undefined }], { ask: 'definition', as: 'typed' }, english).drafted;
  expect(one?.item.kind === 'short-answer' && one.item.answers.map((a) => a.text)).toEqual(expect.arrayContaining(['ladle', 'couch']));
});
