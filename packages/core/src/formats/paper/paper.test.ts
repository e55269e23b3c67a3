/** Rich text as blocks, what a paper asks for space, what its key says, and its words in each language. */
import fc from 'fast-check';
import { anyRichSet } from '../../item/arbitrary.js';
import { isQuestion } from '../../item/kinds.js';
import type { Item, ItemOf, QuizSet } from '../../item/model.js';
import { runs } from '../../item/runs.js';
import { blocksOf, plainOfBlocks } from './blocks.js';
import { keyInWords } from './key.js';
import { guidePaper, keyPaper, numbersOnPaper, paperItem, questionPaper } from './paper.js';
import type { PaperAnswer, PaperBlock } from './pieces.js';
import { paperLanguages, paperWords, pointsIn } from './words.js';

const text = (t: string, look = {}) => ({ is: 'text', text: t, ...look });
const p = (...runs: object[]) => ({ is: 'paragraph', runs });

test.each<[string, object[]]>([
  ['plain words', [p(text('plain words'))]],
  ['two\nlines', [p(text('two'), { is: 'break' }, text('lines'))]],
  ['a < b & c', [p(text('a < b & c'))]],
  [
    '<p>one <strong>bold <em>both</em></strong></p><p>two</p>',
    [p(text('one '), text('bold ', { bold: true }), text('both', { bold: true, italic: true })), p(text('two'))],
  ],
  ['H<sub>2</sub>O &amp; x<sup>2</sup>', [p(text('H'), text('2', { sub: true }), text('O & x'), text('2', { sup: true }))]],
  ['for \\(x < 2\\) and', [p(text('for '), { is: 'formula', tex: 'x < 2', display: false }, text(' and'))]],
  ['<p>\\[a &lt; b\\]</p>', [p({ is: 'formula', tex: 'a < b', display: true })]],
  ['<pre>if x:\n    y</pre>', [{ is: 'code', text: 'if x:\n    y' }]],
  [
    '<ul><li>a</li><li><p>b</p><ol start="3"><li>c</li></ol></li></ul>',
    [{ is: 'list', ordered: false, start: 1, items: [[p(text('a'))], [p(text('b')), { is: 'list', ordered: true, start: 3, items: [[p(text('c'))]] }]] }],
  ],
  [
    '<table><tbody><tr><th>h</th><td colspan="2">d</td></tr></tbody></table>',
    [
      {
        is: 'table',
        rows: [
          [
            { blocks: [p(text('h'))], head: true, columns: 1, rows: 1 },
            { blocks: [p(text('d'))], head: false, columns: 2, rows: 1 },
          ],
        ],
      },
    ],
  ],
  [`see <img src="asset:${'a'.repeat(64)}" alt="a loaf" width="80"/>`, [p(text('see '), { is: 'picture', asset: 'a'.repeat(64), alt: 'a loaf', width: 80 })]],
  ['', []],
])('%j as blocks', (rich, blocks) => {
  expect(blocksOf(rich)).toEqual(blocks);
});

test('a formula of MathML becomes TeX', () => {
  const [block] = blocksOf('<math><mfrac><mn>1</mn><mi>k</mi></mfrac></math>');
  expect(block).toEqual(p({ is: 'formula', tex: '\\frac{1}{k}', display: false }));
});

test('gaps become what is asked for, in formatted text and in plain', () => {
  const blank = (id: string) => [{ is: 'blank' as const, width: id.length }];
  expect(blocksOf('a [[abc]] b [[de]]', blank)).toEqual([p(text('a '), { is: 'blank', width: 3 }, text(' b '), { is: 'blank', width: 2 })]);
  expect(plainOfBlocks(blocksOf('<p>a <em>[[abc]]</em></p>', blank))).toBe('a ___');
});

const set = (items: Item[], more: Partial<QuizSet> = {}): QuizSet => ({ title: 'Bread', items, ...more });
const choice = (...options: string[]): ItemOf<'multiple-choice'> => ({
  id: 'c',
  kind: 'multiple-choice',
  stem: 'Which?',
  points: 1,
  options: options.map((content, i) => ({ id: `${i}`, content, credit: i ? 0 : 1 })),
});
const answer = (item: Item): PaperAnswer | undefined => paperItem(item, 'en', '1').answers[0];

test.each<[string, string[], number]>([
  ['four short ones stand on one line', ['rye', 'rice', 'wheat', 'maize'], 4],
  ['longer ones stand in two columns', ['rye flour from the mill', 'rice', 'wheat', 'maize'], 2],
  ['long ones stand below one another', ['rye flour from the old mill by the harbour', 'rice', 'wheat', 'maize'], 1],
  ['two always do', ['yes', 'no'], 1],
  ['as do lists', ['<ul><li>a</li></ul>', 'b', 'c', 'd'], 1],
])('options: %s', (_, options, columns) => {
  expect(answer(choice(...options))).toMatchObject({ is: 'options', columns });
});

test('blanks are as long as the longest answer and tell nothing of a single one', () => {
  const cloze = (...answers: string[]): ItemOf<'cloze'> => ({
    id: 'g',
    kind: 'cloze',
    points: answers.length,
    stem: answers.map((_, i) => `[[${i}]]`).join(' and '),
    gaps: answers.map((t, i) => ({ id: `${i}`, points: 1, kind: 'text', answers: [{ text: t, credit: 1 }] })),
  });
  const widths = (item: Item): number[] =>
    paperItem(item, 'en', '1').blocks.flatMap((b: PaperBlock) => (b.is === 'paragraph' ? b.runs.flatMap((r) => (r.is === 'blank' ? [r.width] : [])) : []));
  expect(widths(cloze('ox', 'pre-ferment'))).toEqual([20, 20]);
  expect(widths(cloze('ox', 'hen'))).toEqual([8, 8]);
  expect(widths(cloze('x'.repeat(90)))).toEqual([40]);
});

test('lines to write on: as many as are asked for, else as the model answer needs', () => {
  const essay = (more: Partial<ItemOf<'essay'>>): ItemOf<'essay'> => ({ id: 'e', kind: 'essay', stem: 'Why?', points: 1, ...more });
  expect(answer(essay({ lines: 3 }))).toEqual({ is: 'lines', lines: 3 });
  expect(answer(essay({}))).toEqual({ is: 'lines', lines: 6 });
  expect(answer(essay({ modelAnswer: 'x'.repeat(450) }))).toEqual({ is: 'lines', lines: 13 });
});

test('the key names the letters that stand on the paper', () => {
  const matching: Item = {
    id: 'm',
    kind: 'matching',
    stem: 'Match.',
    points: 2,
    pairs: [
      { left: 'cold', right: '4 °C' },
      { left: 'warm', right: '26 °C' },
      { left: 'hot', right: '240 °C' },
    ],
    extraRights: ['900 °C'],
  };
  const pairs = answer(matching);
  if (pairs?.is !== 'pairs') throw new Error('no pairs');
  const said = keyInWords(matching, 'en').split(', ');
  expect(said).toHaveLength(3);
  for (const [i, s] of said.entries()) {
    const letter = s.split('–')[1];
    const right = pairs.rights.find((r) => r.letter === letter);
    expect(plainOfBlocks(right?.blocks ?? [])).toBe(matching.pairs[i]?.right);
  }
});

test('parts of the points, feedback and rubric stand in the key', () => {
  const item: Item = {
    id: 's',
    kind: 'short-answer',
    stem: 'What is it?',
    points: 2,
    match: { caseSensitive: false, spaces: 'collapse', punctuation: 'keep', accents: 'keep', numbersAsValues: true, anyOrder: true, spelling: 0 },
    answers: [
      { text: 'biga <b>', credit: 1 },
      { text: 'starter', credit: 0.5, feedback: 'Which one?' },
    ],
    feedback: { general: 'It is stiff.', incorrect: 'Read page 4.' },
  };
  const key = keyPaper(set([item], { language: 'de' })).pieces.at(-1);
  if (key?.is !== 'key') throw new Error('no key');
  expect(key.headings).toEqual({ number: 'Nr.', key: 'Lösungen', points: 'Punkte' });
  expect(plainOfBlocks(key.rows[0]?.key ?? [])).toBe('biga <b>');
  expect(key.rows[0]?.notes.map(plainOfBlocks)).toEqual(['starter, 50 %: Which one?', 'It is stiff.', 'Wenn falsch: Read page 4.']);
});

test('what is said to true and false stands under the words of the set’s language', () => {
  const item: Item = { id: 't', kind: 'true-false', stem: 'Salz?', points: 1, answer: true, optionFeedback: { false: 'Doch.' } };
  const key = keyPaper(set([item], { language: 'de' })).pieces.at(-1);
  expect(key?.is === 'key' && key.rows[0]?.notes.map(plainOfBlocks)).toEqual(['Falsch: Doch.']);
});

test('the guide holds what a person marks, with all that it is marked by', () => {
  const open: Item = { id: 'e', kind: 'essay', stem: 'Why?', points: 6, modelAnswer: 'More sugar.', rubric: '<ul><li>3 for sugar</li></ul>' };
  const { title, pieces } = guidePaper(
    set([choice('a', 'b'), open, { ...open, id: 'f', modelAnswer: undefined, rubric: undefined, points: 1 }], { language: 'de' }),
  );
  expect(title).toBe('Bread: Bewertungshinweise');
  expect(pieces.slice(1).map((x) => (x.is === 'item' ? [x.number, x.points] : x.is === 'passage' ? plainOfBlocks(x.blocks) : x.is))).toEqual([
    ['2', '6 Punkte'],
    'Musterantwort: More sugar.',
    '3 for sugar',
    ['3', '1 Punkt'],
  ]);
});

test('every question of any set has its number on the paper and its row in the key, in the set’s order', () => {
  fc.assert(
    fc.property(anyRichSet, (any) => {
      const numbers = [...numbersOnPaper(any).values()];
      const { pieces } = questionPaper(any);
      expect(pieces.flatMap((x) => (x.is === 'item' ? [x.number] : []))).toEqual(numbers);
      expect(pieces.flatMap((x) => (x.is === 'item' ? [x.id] : []))).toEqual(any.items.filter(isQuestion).map((i) => i.id));
      const rows = keyPaper(any).pieces.flatMap((x) => (x.is === 'key' ? x.rows : []));
      expect(rows.map((r) => r.number)).toEqual(numbers);
    }),
    { numRuns: runs(60) },
  );
});

test.each(paperLanguages)('paper speaks %s throughout', (language) => {
  const own = paperWords(language);
  expect(Object.keys(own).sort()).toEqual(Object.keys(paperWords('en')).sort());
  for (const word of Object.values(own).flat()) expect(word.trim()).not.toBe('');
  // plural rules of CLDR, as the platform has them
  expect(pointsIn(own, 1, language)).toBe(own.point[0].replace('n', '1'));
  expect(pointsIn(own, 5, language)).toBe(own.point[1].replace('n', '5'));
});
test.each([
  ['Welches Mehl hat das meiste Gluten, und wie wird es im Teig verwendet?', 'de'],
  ['איזה מכשיר מודד טמפרטורה?', 'he'],
  ['ما هو الخبز؟', 'ar'],
  ['12 + 7 = ?', 'en'],
])('a set that does not say its language is read: %s', (stem, language) => {
  expect(questionPaper(set([{ id: 'e', kind: 'essay', stem, points: 1 }])).language).toBe(language);
});
test('a language that paper does not speak has English words', () => {
  expect(paperWords('eo')).toEqual(paperWords('en'));
  expect(paperWords('constructor')).toEqual(paperWords('en'));
});
