/** What a source says of keys: twenty items made from a text of ours, as they are and with every key made wrong. */
import { readFileSync } from 'node:fs';
import { readDraft } from '../draft/read.js';
import type { Item } from '../item/model.js';
import { evidenceFor } from './evidence.js';
import { indexSources, joinedCues, tokensOf } from './sentences.js';

const file = (name: string): string => readFileSync(new URL(`../../corpus/evidence/${name}`, import.meta.url), 'utf8');
const text = file('sourdough.txt');
const index = indexSources([{ id: 's', name: 'Notes', text }], 'en');
const { items } = readDraft(file('sourdough-items.txt')).set;

test('right keys are supported, and none is contradicted', () => {
  const verdicts = items.map((i) => evidenceFor(i, index)?.verdict);
  expect(verdicts.filter((v) => v === 'supported').length).toBeGreaterThanOrEqual(19);
  expect(verdicts).not.toContain('contradicted');
});

/** The item with each of its wrong answers as the key. */
const spoilt = (item: Item): Item[] => {
  if (item.kind === 'multiple-choice')
    return item.options.flatMap((o, k) => (o.credit > 0 ? [] : [{ ...item, options: item.options.map((x, j) => ({ ...x, credit: j === k ? 1 : 0 })) }]));
  if (item.kind === 'true-false') return [{ ...item, answer: !item.answer }];
  if (item.kind === 'numeric') return [{ ...item, answers: item.answers.map((a) => ({ ...a, min: a.min * 2, max: a.max * 2 })) }];
  return [];
};
test('of all wrong keys nine in ten are contradicted, and none is supported', () => {
  const verdicts = items.flatMap(spoilt).map((i) => evidenceFor(i, index)?.verdict);
  expect(verdicts.length).toBeGreaterThan(35);
  expect(verdicts).not.toContain('supported');
  expect(verdicts.filter((v) => v === 'contradicted').length / verdicts.length).toBeGreaterThan(0.85);
});

test('a hit says where it stands, and what it shares with the item stands in the sentence', () => {
  for (const item of items)
    for (const hit of evidenceFor(item, index)?.supports ?? []) {
      expect(text.slice(hit.sentence.from, hit.sentence.to)).toBe(hit.sentence.text);
      expect(hit.sentence.place).toMatch(/^paragraph \d+$/);
      expect(hit.matched.length).toBeGreaterThan(0);
      for (const m of hit.matched) expect(hit.sentence.text.slice(m.from, m.to)).toMatch(/[\p{L}\p{N}]/u);
    }
});

const one = (draft: string): Item => readDraft(draft).set.items[0] as Item;
const verdict = (source: string, draft: string, language = 'en'): string | undefined =>
  evidenceFor(one(draft), indexSources([{ id: 's', name: 'S', text: source }], language))?.verdict;
test.each([
  ['a number with another unit', 'The dough rests for 30 minutes.', '1. How long does the dough rest?\na) 30 minutes *\nb) 30 hours', 'supported'],
  ['a number in words', 'Feed the starter every twelve hours.', '1. Every how many hours is the starter fed?\nAnswer: 12', 'supported'],
  [
    'a number of a statement',
    'The oven is heated to 250 °C before baking.',
    '1. True or false: The oven is heated to 200 °C before baking.\nAnswer: true',
    'contradicted',
  ],
  ['a negation', 'Salt does not feed the yeast in a dough.', '1. True or false: Salt feeds the yeast in a dough.\nAnswer: true', 'contradicted'],
  [
    'an opposite',
    'A stiff starter ripens more slowly at night than a liquid starter.',
    '1. True or false: A stiff starter ripens less slowly at night than a liquid starter.\nAnswer: true',
    'contradicted',
  ],
  [
    'a pronoun',
    'The poolish ripens overnight. It is made of equal weights of flour and water.',
    '1. What is the poolish made of?\na) equal weights of flour and water *\nb) rye and salt',
    'supported',
  ],
  [
    'a question with NOT',
    'Wheat, rye and spelt are grains of the school.',
    '1. Which of these is NOT a grain of the school?\na) wheat\nb) rye\nc) cod *',
    'supported',
  ],
  [
    'a question with NOT and the wrong key',
    'Wheat, rye and spelt are grains of the school.',
    '1. Which of these is NOT a grain of the school?\na) wheat\nb) rye *\nc) cod',
    'contradicted',
  ],
  [
    'pairs',
    'Rye makes pumpernickel. Durum wheat makes pasta.',
    '1. Match each grain with what it makes.\nrye -> pumpernickel\ndurum wheat -> pasta',
    'supported',
  ],
  ['nothing about it', 'The school has a garden.', '1. What does yeast make?\na) gas *\nb) light', 'none'],
])('%s', (_, source, draft, expected) => expect(verdict(source, draft)).toBe(expected));

test('words are compared by their stems in the language of the set', () => {
  expect(verdict('Der Teig ruht in den Gärkörbchen zwölf Stunden lang.', '1. Wie viele Stunden ruht der Teig in einem Gärkörbchen?\nAntwort: 12', 'de')).toBe(
    'supported',
  );
  expect(verdict('Las levaduras producen el gas que levanta la masa.', '1. ¿Qué produce la levadura en las masas?\na) gas *\nb) luz', 'es')).toBe('supported');
});

test('a transcript tells the time of a sentence that goes over several cues', () => {
  const cues = [
    { from: 0, to: 4, text: 'Welcome to the bakehouse.' },
    { from: 130, to: 134, text: 'The core of the bread' },
    { from: 134, to: 139, text: 'has reached 96 °C when it is done.' },
  ];
  const ix = indexSources([{ id: 's', name: 'S', text: '', cues }], 'en');
  const e = evidenceFor(one('1. What temperature has the core of the bread reached?\nAnswer: 96\nUnit: °C'), ix);
  expect(e?.supports[0]?.sentence).toMatchObject({ place: 'at 2:10', time: 130 });
  expect(joinedCues(cues).starts[1]).toBe(26);
});

test('numbers stand with what they count, and a range is no minus', () => {
  const numbers = (t: string): [number, string][] => tokensOf(t, 'en').flatMap((x): [number, string][] => (x.number ? [[x.number.value, x.number.unit]] : []));
  expect(numbers('4-5 hours at 24 °C, 2 % of salt, € 3.50 and 900 g')).toEqual([
    [4, ''],
    [5, 'hour'],
    [24, '°c'],
    [2, '%'],
    [3.5, '€'],
    [900, 'g'],
  ]);
});

test('a sentence against a wrong key of a choice says which option it has in its place', () => {
  const choices = items.filter((i) => i.kind === 'multiple-choice');
  const told = choices.flatMap((item) => {
    const right = item.options.findIndex((o) => o.credit > 0);
    return spoilt(item).flatMap((wrong) => evidenceFor(wrong, index)?.contradicts.flatMap((h) => (h.instead === undefined ? [] : [h.instead === right])) ?? []);
  });
  expect(told.length).toBeGreaterThan(15);
  expect(told.filter(Boolean).length / told.length).toBeGreaterThan(0.9);
});
