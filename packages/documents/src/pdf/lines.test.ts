/** Pages laid out letter by letter, as a PDF draws them, and the draft that is read from them. */
import { readDraft } from '@zakuska/core';
import type { Box, Glyph, Page } from './page.js';
import { draftOfPages, draftOfRegion } from './read.js';

const SIZE = 10;
const WIDTH = 5;
interface Words {
  at: [x: number, y: number];
  text: string;
  look?: Partial<Glyph>;
}
/** A page of words, every letter 5 points wide. */
function page(words: readonly Words[], more: Partial<Page> = {}): Page {
  const glyphs: Glyph[] = [];
  for (const w of words)
    [...w.text].forEach((text, i) => {
      const left = w.at[0] + i * WIDTH;
      const baseline = w.at[1];
      glyphs.push({
        text,
        left,
        right: left + WIDTH,
        baseline,
        top: baseline - 7.5,
        bottom: baseline + 2,
        size: SIZE,
        strong: false,
        em: false,
        colour: '#000000',
        order: glyphs.length,
        ...w.look,
      });
    });
  return { width: 600, height: 800, glyphs, across: [], down: [], pictures: [], ...more };
}
const lines = (x: number, y: number, texts: readonly string[], step = 12): Words[] => texts.map((text, i) => ({ at: [x, y + i * step], text }));
const rule = (left: number, right: number, y: number): Box => ({ left, right, top: y, bottom: y + 0.5 });
const text = (...pages: Page[]): string => draftOfPages(pages).text;

test('a word parted at the end of a line is joined; a hyphen in a word that goes on large stays', () => {
  expect(text(page(lines(50, 100, ['1. Why is the starter fed with flo-', 'ur twice a day in a sun-', 'Baked Kitchen?'])))).toBe(
    '1. Why is the starter fed with flour\ntwice a day in a sun-\nBaked Kitchen?',
  );
});

test('two columns of running text are read one after the other, what runs across them in its place', () => {
  const left = Array.from({ length: 9 }, (_, i) => `left line ${i} with many words in it`);
  const right = Array.from({ length: 9 }, (_, i) => `right line ${i} with many words too`);
  const read = text(
    page([
      { at: [50, 80], text: 'A heading that runs across both of the columns of the page, to its edge' },
      ...lines(50, 110, left),
      ...lines(320, 110, right),
    ]),
  );
  expect(read.split('\n').filter(Boolean)).toEqual(['A heading that runs across both of the columns of the page, to its edge', ...left, ...right]);
});

test('options side by side are no columns of text', () => {
  const rows = Array.from({ length: 5 }, (_, i): Words[] => [
    { at: [50, 100 + i * 40], text: `${i + 1}. Question number ${i + 1} of this page?` },
    { at: [60, 112 + i * 40], text: 'A. yes' },
    { at: [200, 112 + i * 40], text: 'B. no' },
    { at: [340, 112 + i * 40], text: 'C. both' },
  ]).flat();
  const { set } = readDraft(text(page(rows)));
  expect(set.items.map((i) => 'options' in i && i.options.map((o) => o.content))).toEqual(Array.from({ length: 5 }, () => ['yes', 'no', 'both']));
});

test('heads and feet that run from page to page are set aside, whatever their number; what stands once is kept', () => {
  const pages = [1, 2, 3].map((n) =>
    page([
      { at: [50, 40], text: 'Saltmarsh test paper' },
      ...lines(50, 200, [`${n}. Question ${n}?`, 'a) one', 'b) two']),
      { at: [280, 770], text: `Page ${n} of 3` },
    ]),
  );
  const read = draftOfPages(pages);
  expect(read.text).not.toMatch(/Saltmarsh|Page/);
  expect(read.notes.join()).toContain('Running heads and page numbers set aside: “Saltmarsh test paper”, “Page 1 of 3”');
  expect(readDraft(read.text).set.items.length).toBe(3);
});

test('a rule under letters underlines them, one without letters is a blank, one through letters is neither', () => {
  const words = lines(50, 100, ['A starter feeds on            .', 'b) flour', 'c) butter']);
  const read = text(page(words, { across: [rule(145, 200, 101), rule(65, 90, 113.5), rule(65, 95, 121)] }));
  expect(read.split('\n')[0]).toMatch(/^A starter feeds on\s+______\s+\.$/);
  expect(read).toContain('b) <u>flour</u>');
  expect(read).toContain('c) butter');
});

test('bold, colour and ground of letters are kept; raised and lowered ones are scripts', () => {
  const words: Words[] = [
    { at: [50, 100], text: 'a) ' },
    { at: [65, 100], text: 'bold', look: { strong: true } },
    { at: [50, 112], text: 'b) ' },
    { at: [65, 112], text: 'red', look: { colour: '#c00000' } },
    { at: [50, 124], text: 'c) ' },
    { at: [65, 124], text: 'lit', look: { highlight: true } },
    { at: [50, 136], text: 'CO' },
    { at: [60, 138.5], text: '2', look: { size: 6, top: 134, bottom: 140 } },
    { at: [50, 160], text: 'plain words that make up most of the page, so that red stands out from them' },
  ];
  expect(text(page(words)).split('\n').filter(Boolean).slice(0, 4)).toEqual(['a) **bold**', 'b) <ink>red</ink>', 'c) <mark>lit</mark>', 'CO<sub>2</sub>']);
});

test('cells between rules are a table; a marked region is read alone', () => {
  const cells: Words[] = [
    ...['No.', 'Question', 'A', 'B', 'Answer'].map((t, i): Words => ({ at: [55 + i * 100, 112], text: t })),
    ...['1', 'Sweet?', 'sugar', 'salt', 'A'].map((t, i): Words => ({ at: [55 + i * 100, 132], text: t })),
    ...['2', 'Sour?', 'oil', 'lemon', 'B'].map((t, i): Words => ({ at: [55 + i * 100, 152], text: t })),
  ];
  const sheet = page(cells, {
    across: [100, 120, 140, 160].map((y) => rule(50, 550, y)),
    down: [50, 150, 250, 350, 450, 550].map((x) => ({ left: x, right: x + 0.5, top: 100, bottom: 160 })),
  });
  const { set } = readDraft(text(sheet));
  expect(set.items.map((i) => 'options' in i && i.options.map((o) => `${o.content}${o.credit}`))).toEqual([
    ['sugar1', 'salt0'],
    ['oil0', 'lemon1'],
  ]);
  expect(draftOfRegion(sheet, { left: 140, right: 249, top: 140, bottom: 160 })).toBe('Sour?');
});

/** A page of one column, 400 wide, with margins of 50. */
const column = (rows: [text: string, left?: number][]): string =>
  text(
    page(
      rows.map(([words, left = 50], i) => ({ at: [left, 60 + i * 14], text: words })),
      { width: 400, height: 600 },
    ),
  );

test('a line that was broken because nothing more fitted goes on; one that ends before, or a label, begins anew', () => {
  // sixty letters of 5 points fill the column
  const full = 'What does a cook mean by the word that stands in the heading';
  expect(column([[full], ['of this page?'], ['A) all is ready'], ['B) nothing is']])).toBe(`${full} of this page?\nA) all is ready\nB) nothing is`);
  expect(column([[full], ['A) all is ready']])).toBe(`${full}\nA) all is ready`);
  expect(column([[full], ['**A:** all is ready']])).toBe(`${full}\n**A:** all is ready`);
  expect(column([[full], ['......................']])).toBe(`${full}\n......................`);
  expect(column([['What is it?'], ['It is a word.']])).toBe('What is it?\nIt is a word.');
});
test('how far a point stands to the right is kept', () => {
  expect(column([['• Which light may stay on?'], ['◦ the ceiling light', 74], ['◦ the red one', 74]])).toBe(
    '• Which light may stay on?\n    ◦ the ceiling light\n    ◦ the red one',
  );
});
test('a letter inside a word is no label, wherever it stands', () => {
  const read = column([['a) one    b) two'], ['c) one    f) six'], ['For staff. 1 T, 2 F, 3 T']]);
  expect(read.split('\n')[2]).toBe('For staff. 1 T, 2 F, 3 T');
});

/** A row of cells on a page of tab stops, each cell at the next stop behind the one before; a cell without words moves one stop on. */
const STEP = 35;
const tabs = (y: number, cells: readonly string[], from = 50): Words[] => {
  let x = from;
  return cells.flatMap((text, i): Words[] => {
    if (i > 0) x = 50 + Math.floor((x - 50) / STEP + 1.001) * STEP;
    const at: [number, number] = [x, y];
    x += text.length * WIDTH;
    return text ? [{ at, text }] : [];
  });
};
/** Rows of tabs on a narrow page, as draft. */
const tabbed = (...rows: (readonly string[])[]): string[] =>
  text(
    page(
      rows.flatMap((cells, i) => tabs(60 + i * 14, cells)),
      { width: 350, height: 600 },
    ),
  ).split('\n');

test('what jumps without a blank to equal steps is a tab; cells that are empty count; rows that were broken go on', () => {
  expect(
    tabbed(
      ['No', 'Question here', 'A', 'B', 'Key'],
      ['1', 'What is it now?', 'one of all', '', 'A'],
      ['2', 'Is it so, or is it not so?', 'a thing of the '],
      ['house and the yard', 'no', 'B'],
      ['3', 'Which?', 'this', 'that', 'B'],
    ),
  ).toEqual([
    'No\tQuestion here\tA\tB\tKey',
    '1\tWhat is it now?\tone of all\t\tA',
    '2\tIs it so, or is it not so?\ta thing of the house and the yard\tno\tB',
    '3\tWhich?\tthis\tthat\tB',
  ]);
});
test('a row whose empty cells reach to the margin goes on below; an option on a line of its own does not', () => {
  const read = tabbed(
    ['No', 'Question', 'A', 'B', 'C', 'Key'],
    ['1', 'What is it, if it is so?', 'yes', 'no'],
    ['', 'A'],
    ['2', 'Which of all is it?', 'this', 'or so', 'all', 'B'],
    ['3', 'Why is it so?', 'so', 'not', 'as is', 'C'],
    ['4', 'Who is it?', 'a', 'b', 'c', 'A'],
    ['To a page of it as it is a few words go as well.'],
    ['As it is so on a page, a few go on it here, too.'],
    ['5.', 'What is it, of all of these that are, now?'],
    ['', 'A', 'a thing here'],
    ['', 'B', 'no'],
  );
  expect(read[1]).toBe('1\tWhat is it, if it is so?\tyes\tno\t\tA');
  expect(read.slice(-3)).toEqual(['5. What is it, of all of these that are, now?', '\tA\ta thing here', '\tB\tno']);
});

/** A page of one column, 400 wide, with margins of 50, whose blanks are drawn; those that hang over the margin, too. */
test.each([
  [
    'code broken behind a sign goes on without a blank',
    'What is the length of it, if the angle is known and is 2\\',
    'pi/omega now',
    'What is the length of it, if the angle is known and is 2\\pi/omega now',
  ],
  ['a blank to fill in goes on', 'A copy of data that is kept for bad days is known to be a  ', '______ copy.', /known to be a +______ copy\./],
  ['many dots are a line to write on', 'What is the area of the square that is seven metres wide? ', '.................... m (2)', /wide\?\n\.{20} m/],
  ['a word with a colon begins a line', 'How many metres is that in twenty years, if all is as it is ', 'Back: 30', /as it is\nBack: 30/],
  ['a number with a decimal point goes on', 'A plug that is used for sound is named here: the name is  ', '3.5 mm jack', /name is +3\.5 mm jack/],
  [
    'points that the blanks in front pushed down belong to the line',
    'What does it cost?                                      ',
    '____/2',
    'What does it cost?\t____/2',
  ],
])('%s', (_, above, below, read) => {
  const said = column([['This page draws its blanks.'], [above], [below]])
    .split('\n')
    .slice(1)
    .join('\n');
  if (typeof read === 'string') expect(said).toBe(read);
  else expect(said).toMatch(read);
});
test('a letter behind one drawn blank is no option of a column, wherever others stand', () => {
  const read = column([['a) one     b) two'], ['c) four    d) six'], ['take vitamin D.'], ['or a      B. two']]);
  expect(read).toContain('take vitamin D.');
});
test('breaks typed in the cells of a pasted table are breaks; elsewhere such a tag is words', () => {
  expect(column([['| 1 | Which? | A) rye<br>B) oat |'], ['Which tag is <br>?']])).toBe('| 1 | Which? | A) rye<br>B) oat |\nWhich tag is \\<br>?');
});
test('what stands first on the next page keeps how far it stands to the right', () => {
  const first = page(lines(50, 60, ['• Which light may stay on?', 'Words that are here for a wide enough page, so that it has a margin']), { width: 400 });
  const next = page(
    [{ at: [74, 60], text: '◦ the ceiling light' }, ...lines(50, 72, ['Others stand on the second page, which is as wide as the one before'])],
    { width: 400 },
  );
  expect(text(first, next)).toMatch(/\n {4}◦ the ceiling light/);
});
