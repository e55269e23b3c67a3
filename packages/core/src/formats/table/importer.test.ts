/** Import templates of made-up services: what their columns, rows of explanation, examples, notes and rules ask for. */
import { type Importer, understandImporter } from './importer.js';
import type { TableSheet } from './mapping.js';

const sheet = (text: string, more: Partial<TableSheet> = {}): TableSheet => ({ name: '', rows: text.split('\n').map((r) => r.split(';')), ...more });
const understood = (text: string, more?: Partial<TableSheet>): Importer => understandImporter([sheet(text, more)]);
const uses = (t: Importer): string => t.columns.map((c) => c.use).join(' ');

test('headings alone: every column has its use, in order', () => {
  const t = understood('Sort;Text of the task;Choice A;Choice B;Choice C;Right choice;Worth;Said when right;Picture file;Shelf');
  expect(t).toMatchObject({ headerRow: 1, firstDataRow: 2, orientation: 'row-per-item', keyForm: 'letter', maxOptions: 3, limits: {} });
  expect(t.columns.map((c) => c.heading)[1]).toBe('Text of the task');
  expect(understood('Type;Question;Option 1;Option 2;Answer;Points;Hint;Topic;Seconds;Owner').columns.map((c) => c.use)).toEqual(
    'kind question option option key points hint tags time other'.split(' '),
  );
});

test.each<[string, string, Partial<Importer>, string]>([
  [
    'a title above, a row of explanation below',
    'Upload sheet of the kitchen game\n\nPrompt;Correct answer;Wrong answer 1;Wrong answer 2;Explanation\nthe text of the question (max. 200 characters);the right answer (max 80 characters);required;optional;shown afterwards',
    { headerRow: 3, firstDataRow: 5, keyForm: 'first-option', limits: { question: 200, option: 80 } },
    'question option option option feedback',
  ],
  [
    'example rows say how the key is meant',
    'Question;A;B;C;Key\nSweet?;sugar;salt;acid;1\nFats?;butter;oil;flour;1,2',
    { firstDataRow: 2, keyForm: 'number', keySeparator: ',', maxOptions: 3 },
    'question option option option key',
  ],
  [
    'keys by the words of the option',
    'Question;Option A;Option B;Answer\nSweet?;sugar;salt;sugar\nSour?;honey;lemon;lemon',
    { keyForm: 'text' },
    'question option option key',
  ],
  [
    'a row for each option, with marks',
    'question_no;question;option;is_correct;feedback\n1;Sweet?;sugar;TRUE;Yes\n1;Sweet?;salt;FALSE;No',
    { orientation: 'row-per-option', keyForm: 'mark', maxOptions: null },
    'number question option key feedback',
  ],
  [
    'what a key is, said behind a dash in its heading; seconds and lengths in headings',
    'Question (up to 95 characters);Reply 1;Answer 1 (60 characters at most);Answer 2 (60 characters at most);Seconds: 15, 30, 45 or 60;Right answer – its number, several parted by commas',
    { keyForm: 'number', keySeparator: ',', limits: { question: 95, option: 60, time: [15, 30, 45, 60] } },
    'question other option option time key',
  ],
  [
    'German, several keys parted by semicolons',
    'Nr;Frage;Antwort A;Antwort B;Richtige Antwort (Buchstabe, mehrere durch Semikolon);Punkte',
    { keyForm: 'letter', keySeparator: ';' },
    'number question option option key points',
  ],
])('%s', (_what, text, expected, said) => {
  const t = understood(text);
  expect(t).toMatchObject(expected);
  expect(uses(t)).toBe(said);
});

test('rules of the file say lengths, the seconds that may be given and the form of keys; notes say what parts keys', () => {
  const t = understood('#;Question;A;B;Answer;Seconds', {
    rules: [
      { columns: [1, 1], kind: 'length', most: 95 },
      { columns: [2, 3], kind: 'length', most: 60 },
      { columns: [4, 4], kind: 'list', values: ['1', '2'] },
      { columns: [5, 5], kind: 'list', values: ['10', '20', '60'] },
    ],
    notes: { '0,4': 'Several: part them with a semicolon' },
  });
  expect(t).toMatchObject({ keyForm: 'number', keySeparator: ';', limits: { question: 95, option: 60, time: [10, 20, 60] } });
});

test('the sheet to fill is found among others, and what is no template says so', () => {
  const notes: TableSheet = { name: 'Read me', rows: [['How to fill it in'], ['Question', 'The text']] };
  const t = understandImporter([notes, { ...sheet('Question;A;B;Key'), name: 'Upload' }]);
  expect([t.sheet, uses(t)]).toEqual(['Upload', 'question option option key']);
  expect(() => understood('Name;Street;Town\nA;B;C')).toThrow(/names columns that hold questions/);
});
