/** Tables of responses marked: key rows and sets, in the habits of forms, sheets and exports. Scores were counted by hand. */
import type { Item, QuizSet } from '../item/model.js';
import { readDraft } from '../draft/read.js';
import { gradeTable } from './grade.js';

const rows = (text: string, sign = '|'): string[][] =>
  text
    .trim()
    .split('\n')
    .map((l) => l.split(sign).map((c) => c.trim()));
const said = (text: string, asked: Parameters<typeof gradeTable>[1] = {}): Record<string, number> =>
  Object.fromEntries(gradeTable(rows(text), asked).people.map((p) => [p.name, p.score]));

test('a form export with a row that is the key: meta columns are none, one question skipped, two points for one', () => {
  const table = `
Timestamp | Email Address | Your name | Class | Which flour is strongest? | How hot is the oven (°C)? | Pick all that feed yeast | Any comments?
2026/11/02 9:00:01 AM | teacher@x.example | ANSWER KEY | – | Strong wheat | 220 | sugar, flour | –
2026/11/02 9:05:11 AM | ada@x.example | Ada Brandt | 7b | strong wheat | 220 °C | flour, sugar | nice
2026/11/02 9:06:40 AM | otto@x.example | Otto Finch | 7b | rye | 200 | sugar |
2026/11/02 9:07:02 AM | mia@x.example | Mia Sole | 7a | Strong wheat | 220.0 | sugar, flour, salt | none`;
  const g = gradeTable(rows(table), { points: [{ heading: 'Pick all', points: 2 }] });
  expect(g.marked.map((m) => [m.heading, m.points])).toEqual([
    ['Which flour is strongest?', 1],
    ['How hot is the oven (°C)?', 1],
    ['Pick all that feed yeast', 2],
  ]);
  expect(g.people.map((p) => [p.name, p.score, p.max])).toEqual([
    ['Ada Brandt', 4, 4],
    ['Otto Finch', 0, 4],
    ['Mia Sole', 2, 4],
  ]);
  expect(g.mean).toBe(2);
  expect(g.mostMissed).toEqual(['Pick all that feed yeast', 'Which flour is strongest?', 'How hot is the oven (°C)?']);
  expect(g.lowScorers).toEqual(['Otto Finch']);
  expect(said(table, { skip: ['How hot is the oven (°C)?'] })).toEqual({ 'Ada Brandt': 2, 'Otto Finch': 0, 'Mia Sole': 1 });
});

test.each([
  ['letters with and without words', 'Name | Q1\nKey | B\nAda | B) rye\nOtto | b.\nMia | A', { Ada: 1, Otto: 1, Mia: 0 }],
  ['words with letters in the key', 'Name | Q1\nKey | b) rye\nAda | rye\nOtto | B\nMia | a) oat', { Ada: 1, Otto: 1, Mia: 0 }],
  ['letters packed', 'Name | Q1\nKey | AC\nAda | CA\nOtto | A\nMia | A, C', { Ada: 1, Otto: 0, Mia: 1 }],
  ['letters with blanks', 'Name | Q1\nKey | A, C\nAda | C,A\nOtto | A\nMia | a and c', { Ada: 1, Otto: 0, Mia: 1 }],
  [
    'letters with signs in the key, packed in answers',
    'Name | Q1\nKey | A,C\nAda | AC\nOtto | ac\nMia | A\nNoor | A & C',
    { Ada: 1, Otto: 1, Mia: 0, Noor: 1 },
  ],
  ['points in headings', 'Name | Q1 (2 pts) | Q2 [max 3] | Q3\nKey | a | b | c\nAda | a | b | c\nOtto | a | c | c', { Ada: 6, Otto: 3 }],
  ['people side by side', 'Question | Correct answer | Ada | Otto\nWhich? | rye | Rye | oat\nHow hot? | 90 | 90 | 90', { Ada: 2, Otto: 1 }],
  [
    'points and counts beside the questions',
    'Player | Correct answers | Incorrect answers | Q1 | Q1 points | Q2: Which? | Accuracy\nKey | 2 | 0 | a | 1 | b | 100 %\nAda | 1 | 1 | a | 1 | c | 50 %',
    { Ada: 1 },
  ],
  [
    'options that hold commas',
    'Name | Q1\nKey | salt, fine; sugar\nAda | sugar; salt, fine\nOtto | salt, fine\nMia | sugar;salt, fine',
    { Ada: 1, Otto: 0, Mia: 1 },
  ],
  [
    'options that hold commas, parted by commas',
    'Name | Q1\nKey | rye, whole, oat\nAda | oat, rye, whole\nOtto | rye, whole\nMia | rye, whole, oat',
    { Ada: 1, Otto: 0, Mia: 1 },
  ],
  ['several accepted', 'Name | Q1\nKey | colour / color\nAda | color\nOtto | Colour\nMia | couleur', { Ada: 1, Otto: 1, Mia: 0 }],
  ['several accepted, said by "or"', 'Name | Q1\nKey | rye or spelt\nAda | spelt\nOtto | Rye\nMia | oat', { Ada: 1, Otto: 1, Mia: 0 }],
  ['numbers as people write them', 'Name | Q1\nKey | 0.5\nAda | 0,5\nOtto | 1/2\nMia | 5', { Ada: 1, Otto: 1, Mia: 0 }],
  ['amounts', 'Name | Q1\nKey | €3.50\nAda | 3,50 €\nOtto | 3.5\nMia | 3.50 $', { Ada: 1, Otto: 1, Mia: 0 }],
  ['thousands', 'Name | Q1\nKey | 1500\nAda | 1,500\nOtto | 1 500\nMia | 1.5', { Ada: 1, Otto: 1, Mia: 0 }],
  ['units', 'Name | Q1\nKey | 2 kg\nAda | 2\nOtto | 2kg\nMia | 2 g', { Ada: 1, Otto: 1, Mia: 0 }],
  ['days', 'Name | Q1\nKey | 2026-11-28\nAda | 28/11/2026\nOtto | 28.11.2026\nMia | 27/11/2026', { Ada: 1, Otto: 1, Mia: 0 }],
  ['truth in two languages', 'Name | Q1\nKey | TRUE\nAda | True\nOtto | wahr\nMia | FALSE', { Ada: 1, Otto: 1, Mia: 0 }],
  ['spaces, capitals, quotes, full stops', "Name | Q1\nKey | the baker’s yeast\nAda | The  Baker's yeast.\nOtto | the bakers yeast", { Ada: 1, Otto: 0 }],
  ['times of day', 'Name | Q1\nKey | 7:30\nAda | 07:30:00 AM\nOtto | 7:30 PM', { Ada: 1, Otto: 0 }],
  ['days in words', 'Name | Q1\nKey | 28 November 2026\nAda | 2026-11-28\nOtto | Nov 28, 2026\nMia | 28 October 2026', { Ada: 1, Otto: 1, Mia: 0 }],
  ['what forms ask in sentences', 'Please enter your full name: | Which class are you in? | Q1\nKEY | | a\nAda | 7b | a', { Ada: 1 }],
  ['names without a heading that says so', 'Who | Q1 | Q2\nThe Teacher | a | b\nAda Brandt | a | a\nOtto Finch | b | a', { 'Ada Brandt': 1, 'Otto Finch': 0 }],
  ['nothing answered', 'Name | Q1 | Q2\nKey | a | b\nAda | | b\nOtto | | ', { Ada: 1, Otto: 0 }],
])('%s', (_, table, scores) => expect(said(table)).toEqual(scores));

test.each([
  ['by a name in it', 'Name | Q1\nAda | rye\nMs Okafor | oat\nOtto | oat', 'okafor', { Ada: 0, Otto: 1 }],
  ['by its number among the people', 'Name | Q1 | Q2\nP. | oat | rye\nAda | oat | oat\nOtto | oat | rye', '1', { Ada: 1, Otto: 2 }],
  ['by its number in the sheet', 'Name | Q1 | Q2\nAda | oat | oat\nOtto | oat | rye\nKey | oat | rye', '4', { Ada: 1, Otto: 2 }],
  ['found in another column', 'Name | Class | Q1\nP. Marsh | Answer key | oat\nAda | 7a | rye', 'auto', { Ada: 0 }],
  ['as the last row', 'Student | 1. Which? | 2. What?\nAda | a | b\nOtto | b | b\nSolutions | a | b', 'auto', { Ada: 2, Otto: 1 }],
  [
    'in German',
    'Zeitstempel | Vorname | Nachname | Frage 1\n01.11.2026 10:00:00 | Muster | Lösung | Roggen\n01.11.2026 10:05:00 | Ada | Brandt | roggen',
    'auto',
    { 'Ada Brandt': 1 },
  ],
])('the key row is found %s', (_, table, keyRow, scores) => expect(said(table, { keyRow })).toEqual(scores));

test('titles above, sums below, a row of points, scores beside questions, rows that stand twice', () => {
  const g = gradeTable(
    rows(`
Quiz 3, week two | | | | |
Name | Score | 1. Which flour? | 1. Which flour? [Score] | 2. How hot? | 2. How hot? [Score]
Points | | 2 | | 3 |
Key | | rye | | 90 |
Ada | 5 / 5 | Rye | 2 | 90 | 3
Otto | 0 / 5 | oat | 0 | 80 | 0
Otto | 0 / 5 | oat | 0 | 80 | 0
Average | 2.5 | | | |`),
    {},
  );
  expect(g.people).toEqual([
    { name: 'Ada', score: 5, max: 5, marks: [2, 3] },
    { name: 'Otto', score: 0, max: 5, marks: [0, 0] },
  ]);
  expect(g.notes.join(' ')).toContain('stands there twice and counts once');
  expect(g.notes.join(' ')).toContain('sums others up');
});

test('one row an answer', () => {
  const table = rows(`
Student | Question | Answer
Key | Which flour? | rye
Key | How hot? | 90
Ada | Which flour? | rye
Ada | How hot? | 80
Otto | How hot? | 90
Otto | Which flour? | Rye`);
  expect(gradeTable(table, {}).people.map((p) => [p.name, p.score])).toEqual([
    ['Ada', 1],
    ['Otto', 2],
  ]);
});

test('who answered several times: each by itself, or the first, the last, the best', () => {
  const table = `
Email | Name | Q1 | Q2
k@x.example | Key | a | b
ada@x.example | Ada | a | b
ada@x.example | Ada | b | b
otto@x.example | Otto | b | a
ada@y.example | Ada | a | a`;
  const scores = (attempts?: 'first' | 'last' | 'best'): [string, number][] =>
    gradeTable(rows(table), attempts ? { attempts } : {}).people.map((p) => [p.name, p.score]);
  expect(scores()).toEqual([
    ['Ada', 2],
    ['Ada', 1],
    ['Otto', 0],
    ['Ada', 1],
  ]);
  expect(scores('first')).toEqual([
    ['Ada', 2],
    ['Otto', 0],
    ['Ada', 1],
  ]);
  expect(scores('last')).toEqual([
    ['Ada', 1],
    ['Otto', 0],
    ['Ada', 1],
  ]);
  expect(scores('best')).toEqual([
    ['Ada', 2],
    ['Otto', 0],
    ['Ada', 1],
  ]);
});

const DRAFT = `1. Which flour is strongest?
a) rye
b) strong wheat *
c) rice, brown

2. Choose all that feed yeast.
Select all that apply.
a) sugar *
b) flour, fine *
c) salt

3. True or false: Rye has no gluten. Answer: false

4. At how many °C does water boil?
Answer: 100 ± 1

5. What is a wet pre-ferment called?
Answer: poolish
`;
const set: QuizSet = readDraft(DRAFT).set;

test.each([
  [
    'by wording, in another order',
    'Name | What is a wet pre-ferment called? | Which flour is strongest? | Choose all that feed yeast. | Rye has no gluten. | At how many °C does water boil?\nAda | Poolish | strong wheat | flour, fine, sugar | False | 99.5',
    5,
  ],
  ['by number', 'Name | Q1 | Q2 | Q3 | Q4 | Q5\nAda | B | A, B | F | 100 °C | poolish', 5],
  ['in order', 'Name | flour | yeast | gluten | boil | ferment\nAda | b) strong wheat | sugar; flour, fine | falsch | 101 | POOLISH', 5],
  ['wrong ones', 'Name | Q1 | Q2 | Q3 | Q4 | Q5\nAda | rice, brown | A, B, C | T | 98 | polish', 0],
])('by a set: columns found %s', (_, table, score) => expect(gradeTable(rows(table), { set }).people).toMatchObject([{ name: 'Ada', score, max: 5 }]));
test('by a set: what is about no item is said, and not marked', () => {
  const g = gradeTable(rows('Name | Which flour is strongest? | Favourite colour?\nAda | rye | red'), { set });
  expect(g.marked.map((m) => m.heading)).toEqual(['Which flour is strongest?']);
  expect(g.notes.filter((n) => n.includes('about no item')).length).toBe(1);
  expect(g.notes.filter((n) => n.includes('has no column')).length).toBe(4);
});
test('by a set: rows of a grid are one matching item', () => {
  const item = {
    id: 'm',
    kind: 'matching',
    stem: 'Match each flour with its use.',
    points: 2,
    pairs: [
      { left: 'rye', right: 'dark bread' },
      { left: 'rice', right: 'noodles' },
    ],
    extraRights: [],
  } as Item;
  const table = rows(
    'Name | Match each flour with its use. [rye] | Match each flour with its use. [rice]\nAda | dark bread | noodles\nOtto | dark bread | dark bread',
  );
  expect(gradeTable(table, { set: { title: 'T', items: [item] } }).people.map((p) => p.score)).toEqual([2, 1]);
});

test.each([
  ['no key', 'Name | Q1\nAda | a', {}, 'no row says that it is the key'],
  ['a key row that is not there', 'Name | Q1\nAda | a', { keyRow: 'nobody' }, 'no row is named “nobody”'],
  ['a number that is not there', 'Name | Q1\nAda | a', { keyRow: '9' }, 'there is no row 9'],
  ['two keys', 'Name | Q1\nKey | a\nAnswer key | b\nAda | a', {}, 'may each be the key'],
  ['an empty key', 'Name | Q1\nKey | \nAda | a', {}, 'the key row holds no answers'],
  ['a column that is not there', 'Name | Q1\nKey | a\nAda | a', { skip: ['Q7'] }, 'there is no column “Q7”'],
  ['no table', 'nothing', {}, 'no heading row'],
  ['a table of another quiz', 'Name | Favourite colour?\nAda | red', { set }, 'no column of the table is about an item of the set'],
])('said plainly: %s', (_, table, asked, message) => expect(() => gradeTable(rows(table), asked)).toThrow(message));
test('a question without a key in the key row is not marked, and said', () => {
  const g = gradeTable(rows('Name | Q1 | Say what you liked\nKey | a | \nAda | a | the bread'), {});
  expect(g.marked.map((m) => m.heading)).toEqual(['Q1']);
  expect(g.notes).toEqual(['Column “Say what you liked” has no key and is not marked.']);
});

describe('what a person says of columns', () => {
  const TABLE = rows(`
Timestamp | Who | Group | Which flour is strongest? | Hot?
9:00 | ANSWER KEY | - | Strong wheat | 220
9:05 | Ada | 7b | strong wheat | 220
9:06 | Otto | 7b | rye | 200`);
  const graded = (columns: [number, object][], more: object = {}) => gradeTable(TABLE, { columns: new Map(columns), ...more });

  test('nothing said: the table says where its key is and what it marks', () => {
    const g = graded([]);
    expect(g.keyRow).toBe(1);
    expect(g.table.columns.map((c) => c.use)).toEqual(['time', 'name', 'class', 'question', 'question']);
    expect(g.marked.map((m) => m.column)).toEqual([3, 4]);
    expect(g.people.map((p) => [p.name, p.score])).toEqual([
      ['Ada', 2],
      ['Otto', 0],
    ]);
  });
  test('uses, points and keys hold against what was found', () => {
    expect(graded([[4, { use: 'other' }]]).people.map((p) => p.max)).toEqual([1, 1]);
    expect(graded([[3, { points: 3 }]]).people.map((p) => p.score)).toEqual([4, 0]);
    expect(graded([[3, { key: 'rye' }]]).people.map((p) => p.score)).toEqual([1, 1]);
    expect(graded([[3, { key: '' }]]).marked.map((m) => m.column)).toEqual([4]);
    expect(graded([[1, { use: 'other' }]], { keyRow: { at: 1 } }).people.map((p) => p.name)).toEqual(['row 3', 'row 4']);
  });
  test('another row is the key, by its place; one that is not there is told', () => {
    expect(graded([], { keyRow: { at: 3 } }).people.map((p) => [p.name, p.score])).toEqual([
      ['ANSWER KEY', 0],
      ['Ada', 0],
    ]);
    expect(() => graded([], { keyRow: { at: 9 } })).toThrow('row 10 holds no answers');
  });
  test('keys that are typed do without a row, and stand beside a set', () => {
    const open = TABLE.filter((_, i) => i !== 1);
    expect(() => gradeTable(open, {})).toThrow('no row says that it is the key');
    const typed = gradeTable(open, { columns: new Map([[4, { key: '200' }]]) });
    expect(typed.keyRow).toBeNull();
    // a row that is called the key is somebody where none is to be
    expect(graded([[4, { key: '200' }]], { keyRow: null }).people.map((p) => [p.name, p.score])).toEqual([
      ['ANSWER KEY', 0],
      ['Ada', 0],
      ['Otto', 1],
    ]);
    expect(typed.people.map((p) => p.score)).toEqual([0, 1]);
    const { set } = readDraft('1. Which flour is strongest?\na) strong wheat *\nb) rye\n');
    const both = gradeTable(open, { set, columns: new Map([[4, { key: '200' }]]) });
    expect(both.marked.map((m) => [m.column, m.how])).toEqual([
      [3, 'item'],
      [4, expect.not.stringMatching('item')],
    ]);
    expect(both.people.map((p) => p.score)).toEqual([1, 1]);
  });
});
