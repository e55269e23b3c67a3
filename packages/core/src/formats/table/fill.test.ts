/** Templates of made-up services are filled, read back by their columns, and answered. */
import fc from 'fast-check';
import { fitSet } from '../../fit/fit.js';
import { anyGraded } from '../../item/arbitrary.js';
import type { Item, QuizSet } from '../../item/model.js';
import { playSet } from '../../rehearse/play.js';
import { rehearse } from '../../rehearse/rehearse.js';
import { filledCsv, type Filling, fillingOf } from './fill.js';
import type { Row } from './grid.js';
import { correctedImporter, type ImporterSheet, readImporter } from './importer.js';
import type { TableSheet } from './mapping.js';

const sheet = (text: string, more: Partial<TableSheet> = {}): TableSheet => ({ name: '', rows: text.split('\n').map((r) => r.split(';')), ...more });
const TEMPLATES: Record<string, string> = {
  letters: 'Prompt;Choice A;Choice B;Choice C;Choice D;Right choice (letter);Points',
  'letters in small, with examples': 'Question;A;B;C;D;Key;Remark\nSweet?;sugar;salt;acid;;a;so it is\nFats?;butter;oil;flour;;a,b;',
  numbers: 'Question;Option 1;Option 2;Option 3;Option 4;Answer;Seconds\nSweet?;sugar;salt;acid;ash;1;20\nFats?;butter;oil;flour;;1,2;30',
  texts: 'Question;Option A;Option B;Option C;Option D;Answer\nSweet?;sugar;salt;ash;;sugar\nSour?;honey;lemon;ash;;lemon',
  'the right one first': 'Prompt;Correct answer;Wrong answer 1;Wrong answer 2;Wrong answer 3;Explanation',
  'rows of options': 'question_no;question;option;is_correct;feedback\n1;Sweet?;sugar;TRUE;Yes\n1;Sweet?;salt;FALSE;No',
  'rows of options, the question once':
    'Question;Option;Right\nSweet?;sugar;x\n;salt;\n;ash;\nSour?;honey;\n;lemon;x\n;milk;\nBitter?;honey;\n;coffee;x\n;milk;',
  'marks beside options':
    'Question;Option 1;Correct 1;Option 2;Correct 2;Option 3;Correct 3\nSweet?;sugar;TRUE;salt;FALSE;ash;FALSE\nSour?;honey;FALSE;lemon;TRUE;ash;FALSE',
  'options in one cell': 'Question;Options;Answer\nSweet?;sugar | salt | ash;A\nSour?;honey | lemon;B',
  'explained below':
    'Question;Option A;Option B;Option C;Option D;Right;Time\nthe text of the question (max. 200 characters);required (80 characters at most);required;optional;optional;e.g. B;Seconds: 15, 30 or 60',
  'kinds in a column':
    'Type;Question;Option 1;Option 2;Option 3;Option 4;Answer\nsingle;Sweet?;sugar;salt;ash;;1\nmultiple;Fats?;butter;oil;flour;;1,2\nshort answer;Red root?;;;;;beetroot',
  cards: 'Question;Answer\nRed root?;beetroot\nFive plus two?;7',
};
const templates = Object.entries(TEMPLATES).map(([name, text]): [string, ImporterSheet] => [name, readImporter([sheet(text)])]);
const set = (items: Item[]): QuizSet => ({ title: 'T', items });

const fillAndAnswer = (t: ImporterSheet, s: QuizSet): { rows: Row[]; filling: Filling; rehearsal: ReturnType<typeof rehearse> } => {
  const filling = fillingOf(t);
  const rows = filling.rowsOf(fitSet(s, filling.profile).set);
  return { rows, filling, rehearsal: rehearse(playSet(filling.readBack(rows)), s, filling.profile) };
};

const choice = (id: string, stem: string, options: [string, number][], more: Partial<Item> = {}): Item =>
  ({
    id,
    kind: options.filter(([, c]) => c > 0).length > 1 ? 'multiple-response' : 'multiple-choice',
    stem,
    points: 1,
    scoring: 'all-or-nothing',
    options: options.map(([content, credit], i) => ({ id: `${id}${i}`, content, credit })),
    ...more,
  }) as Item;
const KITCHEN = [
  choice(
    'a',
    'Which one feeds yeast?',
    [
      ['salt', 0],
      ['sugar', 1],
      ['ash', 0],
    ],
    { timeLimit: 20, points: 2 },
  ),
  choice('b', 'Which two are fats?', [
    ['butter', 1],
    ['flour', 0],
    ['oil', 1],
    ['salt', 0],
  ]),
  { id: 'c', kind: 'true-false', stem: 'Salt slows yeast.', points: 1, answer: true } as Item,
  { id: 'd', kind: 'short-answer', stem: 'Red root?', points: 1, answers: [{ text: 'beetroot', credit: 1 }], match: {} } as unknown as Item,
];

test.each(templates)('%s: what was said beforehand is what stands there, and marks so', (_, t) => {
  const s = set(
    KITCHEN.map((i) =>
      i.kind === 'short-answer'
        ? {
            ...i,
            match: { caseSensitive: false, spaces: 'collapse', punctuation: 'keep', accents: 'keep', numbersAsValues: false, anyOrder: false, spelling: 0 },
          }
        : i,
    ),
  );
  const { rehearsal, filling } = fillAndAnswer(t, s);
  const { fits } = fitSet(s, filling.profile);
  expect(fits.filter((f) => f.items.length).length).toBeGreaterThan(0);
  expect(rehearsal.items.filter((i) => i.verdict === 'differs' || i.verdict === 'missing')).toEqual([]);
});

test.each(templates)('%s: random items', (_, t) => {
  fc.assert(
    fc.property(fc.array(anyGraded, { minLength: 1, maxLength: 4 }), (list) => {
      const s = set(list.map((i, n) => ({ ...i, id: `i${n}`, stem: `Question ${n}: ${i.stem}` })));
      const { rehearsal } = fillAndAnswer(t, s);
      expect(rehearsal.items.filter((i) => i.verdict === 'differs' || i.verdict === 'missing')).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

const cells = (name: string, items: Item[]): Row[] => {
  const t = readImporter([sheet(TEMPLATES[name] ?? '')]);
  return fillAndAnswer(t, set(items)).rows;
};
test('keys are written as the examples have them', () => {
  const [a, b] = KITCHEN as [Item, Item];
  expect(cells('letters', [a, b])).toEqual([
    ['Which one feeds yeast?', 'salt', 'sugar', 'ash', '', 'B', '2'],
    ['Which two are fats?', 'butter', 'flour', 'oil', 'salt', 'A,C', '1'],
  ]);
  expect(cells('letters in small, with examples', [b])[0]?.[5]).toBe('a,c');
  expect(cells('numbers', [a])[0]?.slice(5)).toEqual(['2', '20']);
  expect(cells('texts', [a])[0]?.[5]).toBe('sugar');
  expect(cells('the right one first', [a, b])).toEqual([['Which one feeds yeast?', 'sugar', 'salt', 'ash', '', '']]);
  expect(cells('rows of options, the question once', [a])).toEqual([
    ['Which one feeds yeast?', 'salt', ''],
    ['', 'sugar', 'x'],
    ['', 'ash', ''],
  ]);
  expect(cells('rows of options', [a])[1]).toEqual(['1', 'Which one feeds yeast?', 'sugar', 'TRUE', '']);
  expect(cells('kinds in a column', [b])).toEqual([['multiple', 'Which two are fats?', 'butter', 'flour', 'oil', 'salt', '1,3']]);
  // 20 s are not among those that may be given
  expect(cells('explained below', [a])[0]?.[6]).toBe('30');
});
test.each<[string, string, string[]]>([
  [
    'numbers that begin at nought, as the heading says',
    'Question;Answer (counting from 0);Option;Option;Option',
    ['Which one feeds yeast?', '1', 'salt', 'sugar', 'ash'],
  ],
  [
    'names that count as the examples do',
    'item_id;question;answer;is_right\nR1;Sweet?;sugar;yes\nR1;Sweet?;salt;no\nR2;Sour?;lemon;yes\nR2;Sour?;ash;no',
    ['R1', 'Which one feeds yeast?', 'salt', 'no'],
  ],
  ['options under words that nobody knows', 'Question;Wybx 1;Wybx 2;Wybx 3;Right one', ['Which one feeds yeast?', 'salt', 'sugar', 'ash', '2']],
  [
    'a sign behind each option',
    'Question;Reply 1;Right?;Reply 2;Right?;Reply 3;Right?\nSweet?;sugar;yes;salt;no;ash;no',
    ['Which one feeds yeast?', 'salt', 'no', 'sugar', 'yes', 'ash', 'no'],
  ],
  ['what counts as an answer number', 'Question;Answer 1;Answer 2;Answer 3;Correct Answer Number', ['Which one feeds yeast?', 'salt', 'sugar', 'ash', '2']],
  ['statements', 'No;Statement;True/False\n1;Water is dry.;FALSE', ['1', 'Salt slows yeast.', 'TRUE']],
  [
    'options in one cell, blanks around the sign',
    'Item;Alternatives;Correct alternative(s)\nSample;x / y / z;y',
    ['Which one feeds yeast?', 'salt / sugar / ash', 'sugar'],
  ],
  [
    'keys by words beside options in one cell',
    'Question;Choices (parted by |);Answer\nSweet?;sugar|salt|ash;sugar',
    ['Which one feeds yeast?', 'salt|sugar|ash', 'sugar'],
  ],
])('%s', (_, text, row) => {
  const t = readImporter([sheet(text)]);
  const item = KITCHEN[text.startsWith('Front') ? 3 : text.includes('Statement') ? 2 : 0] as Item;
  expect(fillAndAnswer(t, set([item])).rows[0]).toEqual(row);
});
test('what is longer than the template allows stays here and is told; headings and explanations stay, examples go', () => {
  const t = readImporter([sheet(TEMPLATES['explained below'] ?? '')]);
  const long = choice('l', 'x'.repeat(201), [
    ['a', 1],
    ['b', 0],
  ]);
  const { rows, filling } = fillAndAnswer(t, set([long, KITCHEN[0] as Item]));
  expect(fitSet(set([long]), filling.profile).fits[0]?.notes[0]?.message).toMatch(/^its question has \d+ characters; 200 are possible there$/);
  expect(rows).toHaveLength(1);
  const text = (of: string): string => new TextDecoder('utf-8', { ignoreBOM: true }).decode(filledCsv(of, t, rows));
  const lines = text(TEMPLATES['explained below'] ?? '').split('\n');
  expect(lines.map((l) => l.split(';')[0])).toEqual(['Question', 'the text of the question (max. 200 characters)', 'Which one feeds yeast?', '']);
  // line ends, mark and separator stay as they were; what looks like a formula is written as it is
  expect(text(`\uFEFFsep=;\r\n${(TEMPLATES['explained below'] ?? '').replaceAll('\n', '\r\n')}`)).toMatch(
    /^\uFEFFsep=;\r\nQuestion;.*\r\n.*\r\nWhich one.*\r\n$/,
  );
  expect(new TextDecoder().decode(filledCsv('Question;Answer\na;b', readImporter([sheet('Question;Answer\na;b')]), [['=1+1?', '-2']]))).toBe(
    'Question;Answer\n=1+1?;-2\n',
  );
});
test('what a person says of the columns counts: uses, how keys are said', () => {
  const t = readImporter([sheet('Question;Option 1;Option 2;Option 3;Answer;Owner\nSweet?;sugar;salt;ash;1;me')]);
  const said = correctedImporter(t, { columns: ['question', 'option', 'option', 'option', 'key', 'tags'], keyForm: 'letter' });
  const [item] = KITCHEN as [Item];
  expect(fillAndAnswer(said, set([{ ...item, tags: ['yeast'] }]))).toMatchObject({
    rows: [['Which one feeds yeast?', 'salt', 'sugar', 'ash', 'B', 'yeast']],
    rehearsal: { ok: true },
  });
  const first = correctedImporter(t, { columns: ['question', 'option', 'option', 'option', 'other', 'other'], keyForm: 'first-option' });
  expect(fillAndAnswer(first, set([item])).rows).toEqual([['Which one feeds yeast?', 'sugar', 'salt', 'ash', '', '']]);
  expect(correctedImporter(t, { columns: t.importer.columns.map((c) => c.use), keyForm: t.importer.keyForm })).toBe(t);
});
