/** Pages in two columns, as programs that copy a PDF lay them out. All content is made up. */
import fc from 'fast-check';
import { readDraft } from '../draft/read.js';
import { runs } from '../item/runs.js';
import { columnsApart } from './pageColumns.js';
import { writtenOut } from './writtenOut.js';

const beside = (left: readonly string[], right: readonly string[], width = 44): string =>
  Array.from({ length: Math.max(left.length, right.length) }, (_, i) => ((left[i] ?? '').padEnd(width) + (right[i] ?? '')).trimEnd()).join('\n');
const question = (n: number, options: readonly string[] = ['ash', 'oak', 'yew'], label = `${n}.`): string[] => [
  `${label} Which tree grows at gate ${n}?`,
  ...options.map((o, i) => `   ${'ABCD'[i]}) ${o}`),
];
const read = (text: string): string[] =>
  readDraft(writtenOut(text)?.text ?? text).set.items.map(
    (i) => `${i.label} ${i.stem} ${'options' in i ? i.options.map((o) => o.content + (o.credit ? '*' : '')).join('/') : ''}`,
  );
const four = [1, 2, 3, 4].map((n) => `${n} Which tree grows at gate ${n}? ash/oak/yew`);

test('down the left column, then down the right one; what stands above and below stays where it is', () => {
  const text = `Trees: a quiz\n\n${beside([...question(1), '', ...question(2)], [...question(3), '', ...question(4)])}\n\nKey\n1 A   2 B   3 C   4 A\n`;
  expect(read(text)).toEqual([
    '1 Which tree grows at gate 1? ash*/oak/yew',
    '2 Which tree grows at gate 2? ash/oak*/yew',
    '3 Which tree grows at gate 3? ash/oak/yew*',
    '4 Which tree grows at gate 4? ash*/oak/yew',
  ]);
  expect(writtenOut(text)?.note).toBe('Questions in two columns were written out, one column below the other.');
});

test('across the page by the numbers', () => {
  expect(read(beside([...question(1), '', ...question(3)], [...question(2), '', ...question(4)]))).toEqual(four);
});

test('columns of unequal length, that begin on different lines, whose last question goes on in the next column', () => {
  expect(read(beside(['Choose one.', ...question(1), ...question(2), ...question(3)], ['', '', '', ...question(4)]))).toEqual(four);
  expect(read(beside([...question(1)], [...question(2), ...question(3), ...question(4)]))).toEqual(four);
  const [head = '', ...options] = question(2);
  expect(read(beside([...question(1), head, options[0] ?? ''], [...options.slice(1), ...question(3), ...question(4)]))).toEqual(four);
});

test('words for “question” in front of the numbers; options beside one another inside a column', () => {
  const worded = [1, 2, 3, 4].map((n) => [`Q${n}. Which tree grows at gate ${n}?`, 'A) ash    B) oak    C) yew', '']);
  expect(read(beside([...(worded[0] ?? []), ...(worded[1] ?? [])], [...(worded[2] ?? []), ...(worded[3] ?? [])], 50))).toHaveLength(4);
});

test.each([
  ['keys in columns', '1. B            6. C\n2. A            7. D\n3. C            8. A\n4. D            9. B\n'],
  ['words in columns', '1. an ash tree in spring        4. a yew\n2. an oak                       5. a fir\n3. an elm                       6. a pine\n'],
  ['things to match', 'Match.\n1. ash tree of the north        A. hard wood\n2. fir tree of the south        B. soft wood\n'],
  ['options in two columns', '1. Which tree?\nA) ash tree of the north        C) oak\nB) fir tree of the south        D) yew\n2. Which?\nA) a    B) b\n'],
  ['results behind wide space', '1) 7 × 8 and a little more =            56. the end\n2) 144 ÷ 12 =                12\n'],
  ['numbers that do not go on', beside(question(1), question(7))],
  ['one text', question(1).join('\n')],
  ['nothing', ''],
])('%s stay as they are', (_, text) => {
  expect(columnsApart(text)).toBeNull();
});

test('two sheets one after the other, each with numbers of its own', () => {
  const sheet = beside([...question(1), '', ...question(2)], [...question(3), '', ...question(4)]);
  expect(read(`${sheet}\n${sheet}`)).toEqual([...four, ...four]);
});

const words = (t: string): string[] => t.split(/\s+/).filter(Boolean).sort();

test('no word is lost, whatever stands side by side', () => {
  const cell = fc.constantFrom('', '1. What is it?', '2. And that?', '3. Where?', '4) Who?', '   A) ash', '   B) oak', 'words', 'Page 2');
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell), { maxLength: 14 }), fc.integer({ min: 22, max: 40 }), (rows, width) => {
      const text = beside(
        rows.map((r) => r[0]),
        rows.map((r) => r[1]),
        width,
      );
      const apart = columnsApart(text);
      if (apart !== null) expect(words(apart)).toEqual(words(text));
    }),
    { numRuns: runs(2000) },
  );
});

test('questions in two columns come one below the other, however many; what is apart stays apart', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 6 }),
      fc.integer({ min: 2, max: 6 }),
      fc.integer({ min: 2, max: 4 }),
      fc.integer({ min: 34, max: 50 }),
      (l, r, options, width) => {
        const made = (from: number, count: number): string[] =>
          Array.from({ length: count }, (_, i) => [...question(from + i, ['ash', 'oak', 'yew', 'fir'].slice(0, options)), '']).flat();
        const apart = columnsApart(beside(made(1, l), made(l + 1, r), width)) ?? '';
        expect(apart.split('\n').filter(Boolean)).toEqual([...made(1, l), ...made(l + 1, r)].filter(Boolean));
        expect(columnsApart(apart)).toBeNull();
      },
    ),
    { numRuns: runs(300) },
  );
});
