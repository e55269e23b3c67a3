/** Outcomes that a source allows: what it says most about, in its own words. */
import fc from 'fast-check';
import { Drafter } from './draft.js';

const NOTES = `Sourdough notes

A sourdough starter is a culture of wild yeast and bacteria that lives on flour and water. Salt slows the yeast of a dough. Salt tightens the gluten of a dough.
A loaf of rye bread rests for 24 hours. Rye bread has a core of 96 degrees when it is baked. In August, rye bread is baked in the yard.
`;
const outcomes = (text: string, language = 'en', most?: number): string[] => new Drafter([{ id: 's', name: 'Notes', text }], language).outcomes(most);

test('what is defined is explained, what acts is explained, figures are named; in the order of the source', () => {
  const found = outcomes(NOTES);
  expect(found).toEqual(
    expect.arrayContaining(['Explain what sourdough starter is', 'Explain what salt does, and why', 'Name the numbers that belong to rye bread']),
  );
  expect(found.join()).not.toContain('August');
  expect(outcomes(NOTES, 'en', 2)).toHaveLength(2);
});

test('of another language the topics stand alone; where nothing comes again there are none', () => {
  expect(
    outcomes('Der Sauerteig braucht Mehl und Wasser am Tag. Der Sauerteig gärt mit dem Mehl vom Roggen über Nacht.', 'de').every(
      (o) => !/^(?:Explain|Describe)/.test(o),
    ),
  ).toBe(true);
  expect(outcomes('Bread is nice.')).toEqual([]);
  expect(outcomes('')).toEqual([]);
});

test('whatever the text, each outcome once and no more than asked', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('Salt', 'slows', 'the', 'yeast', 'dough', 'is', 'a', '.', '\n\n', 'Über', '5 %', 'of'), { maxLength: 60 }),
      (words) => {
        const found = outcomes(words.join(' '), 'en', 4);
        expect(found.length).toBeLessThanOrEqual(4);
        expect(new Set(found).size).toBe(found.length);
      },
    ),
    { numRuns: 100 },
  );
});
