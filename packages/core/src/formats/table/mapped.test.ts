/** Every column of a table by what it is used for, and every kind that a row can give: one row, what is expected of its item, what is told of it. */
import type { KeyLook } from '../../draft/surface/stretch.js';
import type { ColumnUse } from './headings.js';
import { kindNamed } from './kindNames.js';
import { type MappedTable, readMapped } from './mapped.js';
import type { Mapping } from './mapping.js';

const mapping = (columns: ColumnUse[], over: Partial<Mapping> = {}): Mapping => ({
  header: -1,
  columns,
  layout: 'row',
  keyForm: 'letters',
  separator: ';',
  hidden: false,
  ...over,
});
const read = (cells: Partial<Record<ColumnUse, string | string[]>>, over?: Partial<Mapping>, language?: string): MappedTable => {
  const all = (Object.entries(cells) as [ColumnUse, string | string[]][]).flatMap(([use, c]) => [c].flat().map((text) => [use, text] as const));
  return readMapped(
    {
      name: '',
      rows: [all.map(([, text]) => text)],
    },
    mapping(
      all.map(([use]) => use),
      over,
    ),
    undefined,
    language,
  );
};
const codes = (r: MappedTable): string[] => r.diagnostics.map((d) => d.code);
const credits = (r: MappedTable): number[] => {
  const [i] = r.set.items;
  return i && 'options' in i ? i.options.map((o) => o.credit) : [];
};

// names of kinds and their codes: from memory; common practice, no source
test.each<[string, ReturnType<typeof kindNamed>]>([
  ['multiple choice', 'multiple-choice'],
  ['Multiple Choice Questions', 'multiple-choice'],
  ['MCQ', 'multiple-choice'],
  ['single choice', 'multiple-choice'],
  ['MA', 'multiple-response'],
  ['multiple answer', 'multiple-response'],
  ['Mehrfachauswahl', 'multiple-response'],
  ['T/F', 'true-false'],
  ['True / False', 'true-false'],
  ['richtig/falsch', 'true-false'],
  ['doğru/yanlış', 'true-false'],
  ['short answer', 'short-answer'],
  ['short text', 'short-answer'],
  ['one word', 'short-answer'],
  ['numerical', 'numeric'],
  ['calculation', 'numeric'],
  ['FIB', 'cloze'],
  ['matching', 'matching'],
  ['ordering', 'ordering'],
  ['essay', 'essay'],
  ['offene Frage', 'essay'],
  ['open', 'essay'],
  ['true-false', 'true-false'],
  ['', null],
  ['easy', null],
  ['7', null],
])('“%s” names %s', (cell, kind) => expect(kindNamed(cell)).toBe(kind));

describe('which options are right', () => {
  const three = ['flour', 'salt', 'yeast'];
  test.each<[what: string, cells: Parameters<typeof read>[0], over: Partial<Mapping>, credits: number[], codes: string[]]>([
    ['a letter', { option: three, key: 'C' }, {}, [0, 0, 1], []],
    ['letters run together', { option: three, key: 'AC' }, {}, [1, 0, 1], []],
    ['letters with words between', { option: three, key: 'a and c' }, {}, [1, 0, 1], []],
    ['a number', { option: three, key: '2' }, { keyForm: 'numbers' }, [0, 1, 0], []],
    ['a number where letters are the rule', { option: three, key: '2' }, {}, [0, 1, 0], []],
    ['the words', { option: three, key: 'SALT' }, { keyForm: 'text' }, [0, 1, 0], []],
    ['the words of several', { option: three, key: 'yeast, flour' }, { keyForm: 'text' }, [1, 0, 1], []],
    ['the words where letters are the rule', { option: three, key: 'yeast' }, {}, [0, 0, 1], []],
    ['a value that is no place but an option', { option: ['6', '7', '8'], key: '7' }, { keyForm: 'letters' }, [0, 1, 0], []],
    ['a letter beyond', { option: three, key: 'D' }, {}, [0, 0, 0], ['key-unknown-option']],
    ['words that no option has', { option: three, key: 'butter' }, { keyForm: 'text' }, [0, 0, 0], ['key-unknown-option']],
    ['no key', { option: three }, {}, [0, 0, 0], ['key-missing']],
    ['a right option and wrong ones', { 'right option': 'yeast', 'wrong option': ['salt', 'flour'] }, {}, [1, 0, 0], []],
    ['marks', { option: three, mark: ['x', '', 'x'] }, {}, [1, 0, 1], []],
    ['shares that are parts', { option: three, mark: ['100%', '50%', '0'] }, {}, [1, 0.5, 0], []],
    ['shares that take away', { option: three, mark: ['50', '50', '-50'] }, {}, [0.5, 0.5, -0.5], []],
    ['all options in one cell', { options: 'a) flour; b) salt; c) yeast', key: 'b' }, {}, [0, 1, 0], []],
    ['options on lines', { options: 'flour\nsalt', key: 'A' }, { separator: '\n' }, [1, 0], []],
    ['an empty option is none', { option: ['flour', '', 'yeast'], key: 'B' }, {}, [0, 1], []],
    ['two options say the same', { option: ['flour', 'Flour'], key: 'A' }, {}, [1, 0], ['option-duplicate']],
    ['one option only', { option: ['flour'], kind: 'choice', key: 'x' }, {}, [0], ['key-missing', 'option-single']],
  ])('%s', (_what, cells, over, expected, told) => {
    const r = read({ question: 'What makes dough rise?', ...cells }, over);
    expect(credits(r)).toEqual(expected);
    expect(codes(r)).toEqual(told);
  });
  test('a kind that is named is kept with one key too', () =>
    expect(read({ question: 'Which?', kind: 'multiple response', option: three, key: 'A' }).set.items[0]?.kind).toBe('multiple-response'));
  test.each<[string, (KeyLook | '')[][], number[][], string[]]>([
    [
      'bold in every row',
      [
        ['', 'bold'],
        ['bold', ''],
      ],
      [
        [0, 1],
        [1, 0],
      ],
      ['key-from-formatting'],
    ],
    [
      'bold in both options of a row',
      [
        ['bold', 'bold'],
        ['bold', ''],
      ],
      [
        [0, 0],
        [0, 0],
      ],
      ['key-missing', 'key-missing'],
    ],
  ])('looks: %s', (_what, looks, expected, told) => {
    const r = readMapped(
      {
        name: '',
        rows: looks.map((_, i) => [`Which one is it of ${i}?`, 'flour', 'salt']),
        looks: Object.fromEntries(looks.flatMap((row, y) => row.flatMap((l, x) => (l ? [[`${y},${x + 1}`, [l]]] : [])))),
      },
      mapping(['question', 'option', 'option']),
    );
    expect(r.set.items.map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual(expected);
    expect(codes(r)).toEqual(told);
  });
});

describe('rows without options', () => {
  test.each<[what: string, cells: Parameters<typeof read>[0], item: object, codes: string[]]>([
    ['true', { question: 'Salt slows yeast.', key: 'True' }, { kind: 'true-false', answer: true }, []],
    ['false, as a kind', { question: 'Salt helps yeast.', kind: 'T/F', key: 'falsch' }, { kind: 'true-false', answer: false }, []],
    ['neither', { question: 'Salt helps yeast.', kind: 'T/F', key: 'maybe' }, { kind: 'true-false', answer: null }, ['key-unknown-option']],
    ['a number', { question: 'How many grams?', key: '250' }, { kind: 'numeric', answers: [{ min: 250, max: 250, credit: 1 }] }, []],
    ['a number with its unit', { question: 'How much?', key: '250 g' }, { kind: 'numeric', unit: 'g' }, []],
    ['a range', { question: 'How much?', key: '200-300' }, { kind: 'numeric', answers: [{ min: 200, max: 300, credit: 1 }] }, []],
    ['a tolerance', { question: 'How much?', key: '250', tolerance: '±10' }, { kind: 'numeric', answers: [{ min: 240, max: 260, credit: 1 }] }, []],
    [
      'two numbers',
      { question: 'Which?', kind: 'numeric', key: '2 | 3' },
      {
        answers: [
          { min: 2, max: 2, credit: 1 },
          { min: 3, max: 3, credit: 1 },
        ],
      },
      [],
    ],
    ['no number', { question: 'How much?', kind: 'numeric', key: 'plenty' }, { kind: 'numeric', answers: [] }, ['key-unknown-option']],
    [
      'wordings',
      { question: 'Which grain?', key: 'rye | secale' },
      {
        kind: 'short-answer',
        answers: [
          { text: 'rye', credit: 1 },
          { text: 'secale', credit: 1 },
        ],
      },
      [],
    ],
    ['nothing', { question: 'Describe a starter.' }, { kind: 'essay' }, []],
    ['a model answer', { question: 'Describe a starter.', kind: 'essay', key: 'It lives.' }, { kind: 'essay', modelAnswer: 'It lives.' }, []],
    [
      'a gap',
      { question: 'Rye is a ____.', key: 'grain' },
      { kind: 'cloze', stem: 'Rye is a [[1]].', gaps: [{ id: '1', kind: 'text', points: 1, answers: [{ text: 'grain', credit: 1 }] }] },
      [],
    ],
    ['two gaps', { question: '____ and ____', key: 'salt; water' }, { kind: 'cloze', stem: '[[1]] and [[2]]' }, []],
    ['two gaps and one answer', { question: '____ and ____', key: 'salt' }, { kind: 'cloze' }, ['gap-without-answer']],
    ['gaps named, none to be seen', { question: 'Rye is a grain', kind: 'cloze', key: 'grain' }, { kind: 'short-answer' }, []],
    [
      'pairs in one cell',
      { question: 'Match.', kind: 'matching', key: 'rye = bread | oat = porridge' },
      {
        kind: 'matching',
        pairs: [
          { left: 'rye', right: 'bread' },
          { left: 'oat', right: 'porridge' },
        ],
      },
      [],
    ],
    [
      'pairs in cells',
      { question: 'Match.', kind: 'matching', option: ['rye -> bread', 'oat => porridge'] },
      {
        pairs: [
          { left: 'rye', right: 'bread' },
          { left: 'oat', right: 'porridge' },
        ],
      },
      [],
    ],
    ['no pairs', { question: 'Match.', kind: 'matching', key: 'rye' }, { kind: 'matching', pairs: [] }, ['match-unbalanced']],
    [
      'an order in cells',
      { question: 'Order.', kind: 'ordering', option: ['mix', 'rest', 'bake'] },
      { kind: 'ordering', sequence: ['mix', 'rest', 'bake'] },
      [],
    ],
    [
      'an order by letters',
      { question: 'Order.', kind: 'ordering', option: ['bake', 'mix', 'rest'], key: 'B, C, A' },
      { sequence: ['mix', 'rest', 'bake'] },
      [],
    ],
    ['an order in one cell', { question: 'Order.', kind: 'ordering', key: 'mix; rest; bake' }, { sequence: ['mix', 'rest', 'bake'] }, []],
    ['a text to read', { question: 'Read this first.', kind: 'information' }, { kind: 'information', points: 0 }, []],
    [
      'a choice without options',
      { question: 'Which?', kind: 'choice', key: 'rye' },
      { kind: 'short-answer', answers: [{ text: 'rye', credit: 1 }] },
      ['kind-guessed'],
    ],
    ['a kind that nobody knows', { question: 'Which grain?', kind: 'riddle', key: 'rye' }, { kind: 'short-answer' }, ['field-unknown']],
  ])('%s', (_what, cells, expected, told) => {
    const r = read(cells);
    expect(r.set.items[0]).toMatchObject(expected);
    expect(codes(r).filter((c) => c !== 'key-missing' || told.includes(c))).toEqual(told);
  });
  test.each([
    ['en', '1,500', { min: 1500, max: 1500 }],
    ['de', '1,500', { min: 1.5, max: 1.5 }],
    ['de', '1.500', { min: 1500, max: 1500 }],
  ])('a comma in %s: %s', (language, key, expected) =>
    expect(read({ question: 'How much?', kind: 'numeric', key }, {}, language).set.items[0]).toMatchObject({ answers: [expected] }),
  );
});

test('a key that is larger than any number is told, not thrown', () =>
  expect(read({ question: 'How much?', kind: 'numeric', key: '-1e999' }, {}).diagnostics.map((d) => d.code)).toEqual(['key-unknown-option']));

describe('what else a row says', () => {
  test.each<[ColumnUse, string | string[], object, string[]]>([
    ['points', '2', { points: 2 }, []],
    ['points', '1,5', { points: 1.5 }, []],
    ['points', '3 points', { points: 3 }, []],
    ['points', 'many', { points: 1 }, ['points-invalid']],
    ['points', '-2', { points: 1 }, ['points-invalid']],
    ['feedback', ['Because.', 'Indeed.'], { feedback: { general: 'Because.\nIndeed.' } }, []],
    ['feedback right', 'Good.', { feedback: { correct: 'Good.' } }, []],
    ['feedback wrong', 'No.', { feedback: { incorrect: 'No.' } }, []],
    ['hint', ['Think.', 'Smell.'], { hints: ['Think.', 'Smell.'] }, []],
    ['tags', 'bread; grain, rye', { tags: ['bread', 'grain', 'rye'] }, []],
    ['outcome', 'B1; B2', { outcomes: ['B1', 'B2'] }, []],
    ['difficulty', '0.4', { level: { difficulty: 0.4 } }, []],
    ['difficulty', 'Easy', { tags: ['easy'] }, []],
    ['time', '45', { timeLimit: 45 }, []],
    ['time', '1:30', { timeLimit: 90 }, []],
    ['time', '2 min', { timeLimit: 120 }, []],
    ['time', '1.5 minutes', { timeLimit: 90 }, []],
    ['picture', 'loaf.png', { tags: ['picture: loaf.png'] }, []],
    ['number', '12.', { label: '12' }, []],
    ['part', 'Part B', { section: 's1' }, []],
    ['passage', 'A starter lives.', { section: 's1' }, []],
  ])('%s “%s”', (use, cell, expected, told) => {
    const r = read({ question: 'Which grain?', key: 'rye', [use]: cell });
    expect(r.set.items[0]).toMatchObject(expected);
    expect(codes(r)).toEqual(told);
  });
  test.each(['later', '-3', '0'])('no time: “%s”', (cell) =>
    expect(read({ question: 'Which?', key: 'rye', time: cell }).set.items[0]?.timeLimit).toBeUndefined(),
  );
  test.each([
    ['3. Which grain?', 'Which grain?', '3'],
    ['Question 4: Which grain?', 'Which grain?', '4'],
    ['Question: Which grain?', 'Which grain?', undefined],
    ['3.5 g or more?', '3.5 g or more?', undefined],
  ])('a number in front of the words: “%s”', (question, stem, label) => {
    const [i] = read({ question, key: 'rye' }).set.items;
    expect([i?.stem, i?.label]).toEqual([stem, label]);
  });
  test('feedback of options, beside and behind', () => {
    const beside = readMapped(
      { name: '', rows: [['Which?', 'rye', 'Yes.', 'salt', 'No.', 'A']] },
      mapping(['question', 'option', 'option feedback', 'option', 'option feedback', 'key']),
    );
    const behind = readMapped(
      { name: '', rows: [['Which?', 'rye', 'salt', 'Yes.', 'No.', 'A']] },
      mapping(['question', 'option', 'option', 'option feedback', 'option feedback', 'key']),
    );
    for (const r of [beside, behind])
      expect(r.set.items[0]).toMatchObject({
        options: [
          { content: 'rye', feedback: 'Yes.' },
          { content: 'salt', feedback: 'No.' },
        ],
      });
  });
  test('one part for the rows that name it, another for the next', () => {
    const r = readMapped(
      {
        name: '',
        rows: [
          ['One?', 'a', 'First'],
          ['Two?', 'b', 'First'],
          ['Three?', 'c', 'Second'],
        ],
      },
      mapping(['question', 'key', 'part']),
    );
    expect(r.set.sections?.map((s) => s.title)).toEqual(['First', 'Second']);
    expect(r.set.items.map((i) => i.section)).toEqual(['s1', 's1', 's2']);
  });
});
