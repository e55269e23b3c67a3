/** What a sentence speaks of: said by itself, or by its paragraph or heading; and how a text speaks. */
import { indexSources } from '../source/sentences.js';
import { mannerOf } from './manner.js';
import { speaksForItself } from './subjects.js';
import { type Statement, statementsOf } from './statements.js';
import { englishWords } from './words.js';

const statements = (text: string): Statement[] => statementsOf(indexSources([{ id: 's', name: 'Notes', text }], 'en'), englishWords, true);
/** So long that it is no article on one subject. */
const filler = Array.from({ length: 130 }, (_, i) => `Entry ${i} has nothing of interest to say of fires or bread.`).join('\n\n');
const about = (text: string): (string | undefined)[] =>
  statements(`${text}\n\n${filler}`)
    .filter((s) => text.includes(s.sentence.text))
    .map((s) => s.about);

test.each([
  ['Wild yeasts ferment sugar at 30 degrees.', true],
  ['The Saltmarsh oven was built by two masons in 1931.', true],
  ['A stiff starter holds 50 percent of water.', true],
  ['In 1973, Saltmarsh flour was sold in three towns.', true],
  // brought in by a sentence before
  ['The oven was built by two masons in 1931.', false],
  ['A smaller version was built by two masons in 1931.', false],
  ['In September 1931 the original oven was found again.', false],
  ['Work was well advanced on three ovens in 1931.', false],
  ['Minimum needs are met by two masons.', true],
  ['Ian was taught to bake by two masons.', false],
])('whether it says what it speaks of: %s', (text, itself) => {
  expect(speaksForItself(englishWords(text), text, () => false)).toBe(itself);
});

test('what hangs on a heading or on the opening of its paragraph carries it', () => {
  expect(about('Saltmarsh oven\n\nA small fire was lit by two masons in 1931.')).toEqual(['Saltmarsh oven']);
  expect(about('Saltmarsh Oven is a wood oven that was built for a town of masons. A small fire was lit by two masons in 1931.').at(-1)).toBe('Saltmarsh Oven');
  // a heading that names a part of the text names nothing, nor does a number
  for (const heading of ['Introduction', '3.2 History', '7', 'Next', 'A heading that goes on for far too long to be one']) {
    expect(about(`${heading}\n\nA small fire was lit by two masons in 1931.`)).toEqual([]);
  }
  expect(about('An example is the wood oven of the Saltmarsh school. A small fire was lit by two masons in 1931.').filter(Boolean)).toEqual([]);
  // what it names itself needs no heading
  expect(about('Saltmarsh oven\n\nIn the Saltmarsh oven bread was baked by two masons in 1931.').filter(Boolean)).toEqual([]);
});

test('a text tells, argues, or instructs; a short one is taken at its word', () => {
  const times = (n: number, ...sentences: string[]): string => Array.from({ length: n }, (_, i) => sentences[i % sentences.length]).join(' ');
  const manner = (text: string) => mannerOf(indexSources([{ id: 's', name: 'Notes', text }], 'en'));
  const told = 'Rye bread rests for many hours in a warm kitchen of the school.';
  const argued = 'However, we claim that rye bread rests for many hours in vain.';
  const instructed = 'Click the button of the dialog to select the default oven settings.';
  expect(manner(times(60, told))).toBe('tells');
  expect(manner(times(60, told, told, argued))).toBe('argues');
  expect(manner(times(60, told, told, instructed))).toBe('instructs');
  expect(manner(times(60, told, told, told, told, told, told, told, argued))).toBe('tells');
  expect(manner(times(20, argued))).toBe('tells');
});
