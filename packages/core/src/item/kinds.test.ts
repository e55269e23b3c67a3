/** Each kind: whether its key is complete, how the key is shown in short, and what counts. */
import { gapMarks, isGraded, isQuestion, keyPlaces, keyProblem, keySign, kinds, letterOf, maximumOf, nameOf } from './kinds.js';
import { defaultMatch, type Gap, type Item, type Kind } from './model.js';

const base = { id: 'i', stem: 's', points: 1 };
const o = (...credits: number[]) => credits.map((credit, n) => ({ id: `o${n}`, content: `${n}`, credit }));
const cloze = (stem: string, ...gaps: Partial<Gap>[]): Item => ({ ...base, stem, kind: 'cloze', gaps: gaps.map((g) => ({ points: 1, ...g }) as Gap) });
const word = (id: string, credit = 1): Partial<Gap> => ({ id, kind: 'text', answers: [{ text: 'a', credit }] });
const numeric = (min: number, max: number, credit = 1): Item => ({ ...base, kind: 'numeric', answers: [{ min, max, credit }] });
const short = (text: string, credit = 1): Item => ({ ...base, kind: 'short-answer', match: defaultMatch, answers: [{ text, credit }] });

test.each<[string, Item, string | null, string]>([
  ['one key', { ...base, kind: 'multiple-choice', options: o(0, 1, 0.5) }, null, 'B'],
  ['no key', { ...base, kind: 'multiple-choice', options: o(0, 0.5) }, 'no key', '?'],
  ['two keys', { ...base, kind: 'multiple-choice', options: o(1, 1) }, 'more than one key', '?'],
  ['several keys', { ...base, kind: 'multiple-response', scoring: 'weights', options: o(0.5, 0, 0.5) }, null, 'A C'],
  ['none of several', { ...base, kind: 'multiple-response', scoring: 'weights', options: o(0, -1) }, 'no key', '?'],
  ['true', { ...base, kind: 'true-false', answer: true }, null, 'T'],
  ['false', { ...base, kind: 'true-false', answer: false }, null, 'F'],
  ['neither', { ...base, kind: 'true-false', answer: null }, 'no key', '?'],
  ['a short word', short('rye'), null, 'rye'],
  ['a word of four', short('oats'), null, 'oats'],
  ['a longer word', short('wheat'), null, 'ab'],
  ['blanks', short('  '), 'no key', '?'],
  ['a word that earns a part', short('rye', 0.5), 'no key', '?'],
  ['no word', { ...base, kind: 'short-answer', match: defaultMatch, answers: [] }, 'no key', '?'],
  ['a number', numeric(12, 12), null, '12'],
  ['a range', numeric(4, 5), null, '4.5'],
  ['a long number', numeric(12345, 12345), null, '12'],
  ['a number of many places', numeric(0.12345678, 0.12345678), null, '12'],
  ['a number that earns a part', numeric(1, 1, 0.5), 'no key', '?'],
  ['no number', { ...base, kind: 'numeric', answers: [] }, 'no key', '?'],
  ['a gap', cloze('a [[1]]', word('1')), null, '__'],
  ['two gaps', cloze('[[1]] [[2]]', word('1'), word('2')), null, '2__'],
  ['no gap in the text', cloze('a', word('1')), 'no gap in the text', '?'],
  ['no answer at all', cloze('[[1]] [[2]]'), 'no answer for any gap', '?'],
  ['one without an answer', cloze('[[1]] [[2]] [[x]]', word('1'), word('2', 0.5)), 'no answer for gap 2, x', '?'],
  ['a gap with a choice', cloze('[[1]]', { id: '1', kind: 'choice', options: o(0, 1) }), null, '__'],
  ['a gap with a choice without a key', cloze('[[1]]', { id: '1', kind: 'choice', options: o(0, 0.5) }), 'no answer for any gap', '?'],
  [
    'two pairs',
    {
      ...base,
      kind: 'matching',
      pairs: [
        { left: 'a', right: 'x' },
        { left: 'b', right: 'y' },
      ],
      extraRights: [],
    },
    null,
    '⇄',
  ],
  [
    'one whole pair',
    {
      ...base,
      kind: 'matching',
      pairs: [
        { left: 'a', right: 'x' },
        { left: 'b', right: '' },
        { left: '', right: 'z' },
      ],
      extraRights: [],
    },
    'no key',
    '?',
  ],
  ['two steps', { ...base, kind: 'ordering', sequence: ['a', 'b'] }, null, '1·2'],
  ['one step', { ...base, kind: 'ordering', sequence: ['a'] }, 'no key', '?'],
  ['an essay', { ...base, kind: 'essay' }, null, '¶'],
  ['a text to read', { ...base, kind: 'information' }, null, 'i'],
])('%s', (_, item, problem, sign) => {
  expect(keyProblem(item)?.message ?? null).toBe(problem);
  expect(keySign(item)).toBe(sign);
});

test('which kinds a machine marks, and which ask at all', () => {
  const of = (is: (i: Item) => boolean): string[] => (Object.keys(kinds) as Kind[]).filter((k) => !is({ ...kinds[k].blank() }));
  expect(of(isGraded)).toEqual(['essay', 'information']);
  expect(of(isQuestion)).toEqual(['information']);
});

test.each(Object.keys(kinds) as Kind[])('a blank %s has its kind, an id of its own, and no key that counts', (kind) => {
  const [a, b] = [kinds[kind].blank(), kinds[kind].blank()];
  expect(a.kind).toBe(kind);
  expect(a.id).not.toBe(b.id);
  expect(a.points).toBe(kind === 'information' ? 0 : 1);
  if (isGraded(a) && kind !== 'ordering') expect(keyProblem(a)).not.toBeNull();
  if ('options' in a) {
    expect(a.options.map((x) => x.credit)).toEqual([0, 0, 0, 0]);
    expect(new Set(a.options.map((x) => x.id)).size).toBe(4);
  }
});

test.each([
  [0, 'A'],
  [25, 'Z'],
  [26, 'AA'],
  [27, 'AB'],
  [51, 'AZ'],
  [52, 'BA'],
  [701, 'ZZ'],
  [702, 'AAA'],
])('place %d is %s', (place, letter) => {
  expect(letterOf(place)).toBe(letter);
});

test('keys by place: full credit for a choice, any for several', () => {
  expect(keyPlaces({ ...base, kind: 'multiple-choice', options: o(0.5, 1, 0) })).toEqual([1]);
  expect(keyPlaces({ ...base, kind: 'multiple-response', scoring: 'weights', options: o(0.5, 1, 0, -1) })).toEqual([0, 1]);
});

test('the maximum leaves out what is a bonus and what is only read', () => {
  const item = (points: number, more: Partial<Item> = {}): Item => ({ ...base, kind: 'essay', points, ...more }) as Item;
  expect(maximumOf([item(2), item(3, { bonus: true }), item(4, { kind: 'information' }), item(0.5)])).toBe(2.5);
  expect(maximumOf([])).toBe(0);
});

test.each<[string, Partial<Item>, number, string]>([
  ['its first words', { stem: 'What <em>is</em>\n rye?' }, 80, 'What is rye?'],
  ['gaps as blanks', { stem: 'A [[1]] and [[x2]].' }, 80, 'A ____ and ____.'],
  ['its title before its words', { title: 'Grains', stem: 'What?' }, 80, 'Grains'],
  ['nothing', { stem: ' ' }, 80, 'No question text'],
  ['as long as it may be', { stem: 'abcdefgh' }, 8, 'abcdefgh'],
  ['cut', { stem: 'abc defgh' }, 5, 'abc…'],
])('a name of %s', (_, more, length, name) => {
  expect(nameOf({ ...base, kind: 'essay', ...more } as Item, length)).toBe(name);
});

test('the gaps of a text, in order', () => {
  expect(gapMarks('[[2]] x [[a b]] [1] [[]] [[3')).toEqual(['2', 'a b']);
});
