/** The layouts of tables that are written here, as data: screens read their names, nothing of how they are written or read comes with them. */

/** What a column holds: something of the item, or the same in all rows. */
export type Holds = 'question' | 'option' | 'key' | 'points' | 'time' | 'feedback' | 'id' | { always: string };

/** A layout of choices as data. */
export interface ChoiceLayout {
  /** Formats are called by it: csv-…, xlsx-… */
  id: string;
  /** What it is, behind "sheet of". */
  name: string;
  /** The columns in their order, with what each is for; options in the order of their places. */
  columns: readonly { heading: string; holds: Holds; about: string }[];
  /** How the key names options: by letters, by numbers from 1, or by their words. */
  key: 'letters' | 'numbers' | 'words';
  /** What stands between several right options; none where there is one only. */
  between?: string;
  /** Fewest options; there are as many at most as there are columns. */
  least: number;
  /** Characters of a question and of an option at most. */
  longest?: { question?: number; option?: number };
  /** The seconds that may be given, from the shortest, and those that are written where an item says nothing. */
  times?: { given?: readonly number[]; usual?: number };
}

const options = (headings: readonly string[]): ChoiceLayout['columns'] =>
  headings.map((heading) => ({ heading, holds: 'option', about: 'What can be chosen.' }));
const question = (heading: string): ChoiceLayout['columns'][number] => ({ heading, holds: 'question', about: 'The question.' });
const id: ChoiceLayout['columns'][number] = { heading: 'Id', holds: 'id', about: 'Keeps its identity when it comes back; leave it as it is.' };

/** The layouts that are written and read. A new one is a row here. */
export const choiceLayouts: readonly ChoiceLayout[] = [
  {
    id: 'choices',
    name: 'choices for a game',
    columns: [
      question('Question'),
      ...options(['Option A', 'Option B', 'Option C', 'Option D', 'Option E', 'Option F']),
      { heading: 'Right options', holds: 'key', about: 'The letters of the right options.' },
      { heading: 'Points', holds: 'points', about: 'Empty is 1.' },
      { heading: 'Time limit', holds: 'time', about: 'Seconds.' },
      id,
    ],
    key: 'letters',
    between: ', ',
    least: 2,
  },
  {
    id: 'numbered',
    name: 'choices by number',
    columns: [
      question('Prompt'),
      ...options(['Choice 1', 'Choice 2', 'Choice 3', 'Choice 4']),
      { heading: 'Right number', holds: 'key', about: 'The number of the right choice, counted from 1.' },
      { heading: 'Seconds', holds: 'time', about: 'One of 15, 30, 45, 60, 90.' },
      { heading: 'Remark', holds: 'feedback', about: 'Shown afterwards.' },
      id,
    ],
    key: 'numbers',
    least: 2,
    longest: { question: 120, option: 60 },
    times: { given: [15, 30, 45, 60, 90], usual: 30 },
  },
  {
    id: 'worded',
    name: 'choices by words',
    columns: [
      { heading: 'Type', holds: { always: 'choice' }, about: 'Always: choice.' },
      question('Question text'),
      { heading: 'Right words', holds: 'key', about: 'The right options, word for word, parted by semicolons.' },
      ...options(['Answer 1', 'Answer 2', 'Answer 3', 'Answer 4', 'Answer 5']),
      { heading: 'Worth', holds: 'points', about: 'Points; empty is 1.' },
      id,
    ],
    key: 'words',
    between: '; ',
    least: 2,
    longest: { option: 200 },
  },
];

/** Names of all layouts, the usual one, called by '', first; they stand behind "Table, ", "Spreadsheet, " or "XLSX, ". */
export const layoutNames: readonly { id: string; name: string }[] = [
  { id: '', name: 'a row for each item' },
  { id: 'options', name: 'a row for each option' },
  ...choiceLayouts.map(({ id, name }) => ({ id, name: `sheet of ${name}` })),
];
/** The format of a layout in files of a sort: csv, csv-options, xlsx-choices … */
export const layoutFormat = (file: 'csv' | 'tsv' | 'xlsx', layout: string): string => (layout ? `${file}-${layout}` : file);
