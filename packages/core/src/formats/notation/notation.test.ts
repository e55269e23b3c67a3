import { runs } from '../../item/runs.js';
import fc from 'fast-check';
import { anySet } from '../../item/arbitrary.js';
import type { Item, QuizSet } from '../../item/model.js';
import { look, takeBack, writeNotation } from './notation.js';
import { readDraft } from '../../draft/read.js';

test('a set that is written as text and taken back is the very same set', () => {
  fc.assert(
    fc.property(anySet, (set) => {
      const back = takeBack(set, writeNotation(set));
      expect(back.set).toEqual(set);
      expect(back.same).toBe(set.items.length);
    }),
    { numRuns: runs(70) },
  );
});

test('written text read as any draft gives the same items', () => {
  fc.assert(
    fc.property(anySet, (set) => {
      expect(readDraft(writeNotation(set)).set.items.map(look)).toEqual(set.items.map(look));
    }),
    { numRuns: runs(40) },
  );
});

test('the fields of a part stay its own where their words ask for a task', () => {
  const essay = (n: number): string => `${n}. Name ${n}\nKind: essay\nPoints: 1\n\n`;
  const part = '## Words of the kitchen\nInstructions: Match the words\nPassage: pan a:b lid = Match the words\n\n';
  const item = '4. pan # stove\npan a lid Select all that apply -> fire and smoke\nstove x < y -> a pot Points: 3\nKind: matching\n';
  const { set } = readDraft(`${essay(1)}${essay(2)}${essay(3)}${part}${item}`);
  expect(set.sections).toEqual([{ id: 's1', title: 'Words of the kitchen', instructions: 'Match the words', passage: 'pan a:b lid = Match the words' }]);
});

test('a letter by itself at the end is no tick, however many lines end so', () => {
  const item = (id: string, more: object): Item => ({ id, stem: 'éa éñ', points: 1, ...more }) as Item;
  const set: QuizSet = {
    title: 'T',
    items: [
      item('1', { kind: 'ordering', outcomes: ['６．５ ＝ x'], sequence: ['$CATEGORY: x', 'Añ'] }),
      item('2', { kind: 'numeric', outcomes: ['$CATEGORY: x'], answers: [{ min: 0, max: 0, credit: 1 }] }),
    ],
  };
  expect(readDraft(writeNotation(set)).set.items.map(look)).toEqual(set.items.map(look));
});
