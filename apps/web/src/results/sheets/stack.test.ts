/** The stack of sheets: names go on to further pages, doubts are settled one by one and taken back, and what is left is said. */
import type { FieldView, SheetView } from './reading.js';
import { after, doubtsOf, emptyStack, leftToDo, pagesOf, type Stack, type Step } from './stack.js';

const grey = { width: 1, height: 1, data: new Uint8Array(1) };
const field = (item: string, given: string[], doubt?: FieldView['doubt']): FieldView => ({
  item,
  label: item,
  is: 'bubbles',
  several: false,
  signs: ['A', 'B'].map((value) => ({ value, sign: value })),
  given,
  ...(doubt && { doubt, cut: grey }),
});
const sheet = (page: number, fields: FieldView[], person = ''): SheetView => ({ is: 'read', print: 'P', page, person, fields, head: grey });
const ran = (...steps: Step[]): Stack => steps.reduce(after, emptyStack);
const came = (id: string, view: SheetView): Step[] => [
  { is: 'come', id, file: `${id}.jpg` },
  { is: 'read', id, view },
];

test('a picture waits until it was read; what is left is said in words', () => {
  const stack = ran(
    { is: 'come', id: 'a', file: 'a.jpg' },
    ...came('b', sheet(1, [field('1', ['A', 'B'], 'several')])),
    { is: 'come', id: 'c', file: 'c.jpg' },
    {
      is: 'read',
      id: 'c',
      view: { is: 'not', mayBeSaid: false, message: 'No.' },
    },
  );
  expect(leftToDo(stack)).toEqual(['1 picture to read', '1 picture that was not read', '1 mark to look at', '1 sheet without a name']);
  expect(leftToDo(ran(...came('a', sheet(1, [], 'Ada'))))).toEqual([]);
});

test('a doubt is settled, taken back and settled otherwise', () => {
  const start = came('a', sheet(1, [field('1', ['A']), field('2', ['A', 'B'], 'several'), field('3', [], 'faint')], 'Ada'));
  const first = ran(...start, { is: 'said', entry: 'a', field: 1, given: ['B'] });
  expect(doubtsOf(first).map((d) => d.at)).toEqual([2]);
  const back = after(first, { is: 'back' });
  expect(doubtsOf(back).map((d) => d.at)).toEqual([1, 2]);
  const done = [
    { is: 'said', entry: 'a', field: 1, given: ['A'] },
    { is: 'said', entry: 'a', field: 2, given: [] },
  ].reduce<Stack>((s, step) => after(s, step as Step), back);
  expect(leftToDo(done)).toEqual([]);
  expect(pagesOf(done)[0]?.fields.map((f) => f.given)).toEqual([['A'], ['A'], []]);
  expect(after(emptyStack, { is: 'back' })).toBe(emptyStack);
});

test('the name of a first page is that of the pages behind it, until the next first page; one named otherwise keeps its name', () => {
  const pages = [...came('a1', sheet(1, [])), ...came('a2', sheet(2, [])), ...came('b1', sheet(1, [])), ...came('b2', sheet(2, []))];
  const names = (s: Stack): string[] => s.entries.map((e) => e.person);
  const named = ran(...pages, { is: 'named', id: 'a1', person: 'Ada' });
  expect(names(named)).toEqual(['Ada', 'Ada', '', '']);
  const apart = after(after(named, { is: 'named', id: 'a2', person: 'Otto' }), { is: 'named', id: 'a1', person: 'Ada B.' });
  expect(names(apart)).toEqual(['Ada B.', 'Otto', '', '']);
  // a page that comes after its first one was named
  expect(names(ran(...came('a', sheet(1, [], 'K7')), ...came('b', sheet(2, []))))).toEqual(['K7', 'K7']);
});

test('a picture that is left out takes its doubts along, also those that were settled', () => {
  const stack = ran(...came('a', sheet(1, [field('1', [], 'faint')], 'Ada')), { is: 'said', entry: 'a', field: 0, given: ['A'] }, { is: 'gone', id: 'a' });
  expect(stack).toEqual(emptyStack);
});
