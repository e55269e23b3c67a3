/**
 * Spreadsheets that other programs take: choices, a row each, in columns and with limits of their own. A layout is a row of the table
 * below; what it holds, how it is written and how it is read back follow from the row.
 */
import { newId } from '../../item/ids.js';
import { letterOf } from '../../item/kinds.js';
import { type Diagnostic, type Item, item as itemSchema, type QuizSet, type ReadResult, UNTITLED } from '../../item/model.js';
import { ReadError } from '../../item/readError.js';
import { richFromPlain, richToPlain } from '../../item/richText.js';
import { partsOf } from '../../item/strip.js';
import { holding, type HeldField, type Profile, type Step } from '../../fit/profile.js';
import { trueFalseAsChoice } from '../../fit/recast.js';
import { allowedTime } from '../../fit/steps.js';
import type { Row } from './grid.js';

/** What a column holds: something of the item, or the same in all rows. */
type Holds = 'question' | 'option' | 'key' | 'points' | 'time' | 'feedback' | 'id' | { always: string };

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

const HELD: Partial<Record<Holds & string, HeldField>> = { points: 'points', time: 'timeLimit', feedback: 'feedback.general' };
const placesOf = (layout: ChoiceLayout, holds: Holds & string): number[] => layout.columns.flatMap((c, i) => (c.holds === holds ? [i] : []));
const isChoice = (item: Item): item is Extract<Item, { kind: 'multiple-choice' | 'multiple-response' }> => 'options' in item;
/** Words in one line, as a cell holds them that others look up. */
const words = (rich: string): string => richToPlain(rich).replace(/\s+/g, ' ').trim();

/** Seconds that a row gets where its item says nothing. */
const usualTime =
  (seconds: number): Step =>
  (item) =>
    item.timeLimit !== undefined || !isChoice(item)
      ? null
      : {
          item: { ...item, timeLimit: seconds },
          fit: 'adapted',
          brief: `${seconds} s`,
          message: `it gets ${seconds} seconds there: it has no time limit of its own`,
        };

/** Why an item cannot go into a layout. */
function refuses(layout: ChoiceLayout, item: Item): string | null {
  if (!isChoice(item)) return null;
  const right = item.options.filter((o) => o.credit > 0);
  if (item.options.length < layout.least) return `there are at least ${layout.least} options there`;
  if (item.options.some((o) => !words(o.content))) return 'an option has no text';
  if (layout.between === undefined && right.length > 1) return 'one option is right there';
  if (item.kind === 'multiple-response' && right.length === 1) return 'one right option among several to tick cannot be told from a choice there';
  if (layout.key !== 'words') return null;
  const texts = item.options.map((o) => words(o.content));
  if (new Set(texts.map((t) => t.toLowerCase())).size < texts.length) return 'two of its options read the same, and the key is told by their words there';
  const sign = layout.between?.trim();
  return sign && right.length && texts.some((t) => t.includes(sign)) ? `an option holds “${sign}”, which parts the right ones there` : null;
}

/** What a layout holds. */
export function choiceProfile(layout: ChoiceLayout): Profile {
  const held = layout.columns.flatMap((c) => (typeof c.holds === 'string' ? (HELD[c.holds] ?? []) : []));
  return {
    kinds: layout.between === undefined ? ['multiple-choice'] : ['multiple-choice', 'multiple-response'],
    recast: { 'true-false': trueFalseAsChoice },
    holds: holding(held),
    ofSet: [],
    passageInFront: true,
    scoring: ['all-or-nothing'],
    credits: 'whole',
    match: [],
    rich: false,
    pictures: false,
    most: { options: placesOf(layout, 'option').length, ...layout.longest },
    refuses: (item) => refuses(layout, item),
    furtherSteps: [...(layout.times?.given ? [allowedTime(layout.times.given)] : []), ...(layout.times?.usual ? [usualTime(layout.times.usual)] : [])],
  };
}

function keyOf(layout: ChoiceLayout, item: Item): string {
  if (!isChoice(item)) return '';
  const named = (i: number, content: string): string => (layout.key === 'letters' ? letterOf(i) : layout.key === 'numbers' ? String(i + 1) : words(content));
  return item.options.flatMap((o, i) => (o.credit > 0 ? [named(i, o.content)] : [])).join(layout.between ?? '');
}

/** A set that fits as rows of a layout, its headings first. */
export function choiceRows(layout: ChoiceLayout, set: QuizSet): Row[] {
  return [
    layout.columns.map((c) => c.heading),
    ...set.items.map((item) => {
      let place = 0;
      return layout.columns.map(({ holds }): string => {
        if (typeof holds !== 'string') return holds.always;
        switch (holds) {
          case 'question':
            return item.stem;
          case 'option':
            return isChoice(item) ? (item.options[place++]?.content ?? '') : '';
          case 'key':
            return keyOf(layout, item);
          case 'points':
            return String(item.points);
          case 'time':
            return item.timeLimit === undefined ? '' : String(item.timeLimit);
          case 'feedback':
            return item.feedback?.general ?? '';
          case 'id':
            return item.id;
        }
      });
    }),
  ];
}

const same = (a: string | undefined, b: string): boolean => (a ?? '').trim().toLowerCase() === b.toLowerCase();
/** Whether headings are those of a layout: its question, its key and its first options. */
export function hasChoiceLayout(layout: ChoiceLayout, headings: Row): boolean {
  const asked = [...placesOf(layout, 'question'), ...placesOf(layout, 'key'), ...placesOf(layout, 'option').slice(0, layout.least)];
  return asked.every((i) => headings.some((h) => same(h, layout.columns[i]?.heading ?? '')));
}

/** The options that a key names, by their places; what names none is handed to `bad`. */
function placesNamed(layout: ChoiceLayout, key: string, texts: readonly string[], bad: (name: string) => void): Set<number> {
  const names = layout.key === 'words' ? (layout.between ? partsOf(key, layout.between.trim()) : [key.trim()]) : key.split(/[,;\s]+/);
  const placeOf = (name: string): number =>
    layout.key === 'words'
      ? texts.findIndex((t) => words(t).toLowerCase() === words(name).toLowerCase())
      : layout.key === 'numbers'
        ? (/^\d{1,3}$/.test(name) ? Number(name) : 0) - 1
        : texts.findIndex((_, i) => letterOf(i) === name.toUpperCase());
  const out = new Set<number>();
  for (const name of names.filter(Boolean)) {
    const place = placeOf(name);
    if (place >= 0 && place < texts.length) out.add(place);
    else bad(name);
  }
  return out;
}

/**
 * Rows of a layout as items. A key that names no option is told at the item.
 * @param rows headings first, in any order
 * @throws ReadError where no row gives an item
 */
export function readChoiceRows(layout: ChoiceLayout, rows: readonly Row[]): ReadResult {
  const [headings = []] = rows;
  const at = layout.columns.map((c) => headings.findIndex((h) => same(h, c.heading)));
  const items: Item[] = [];
  const diagnostics: Diagnostic[] = [];
  const ids = new Set<string>();
  rows.forEach((row, r) => {
    const cells = (holds: Holds & string): string[] => placesOf(layout, holds).map((i) => row[at[i] ?? -1] ?? '');
    const [stem = '', key = '', points = '', time = '', feedback = ''] = (['question', 'key', 'points', 'time', 'feedback'] as const).map((h) => cells(h)[0]);
    if (r === 0 || row.every((c) => !c.trim())) return;
    const tell = (code: string, message: string, item?: string): void =>
      void diagnostics.push({ code, severity: 'error', from: 0, to: 0, line: r + 1, column: 1, message: `Row ${r + 1}: ${message}.`, ...(item && { item }) });
    const texts = cells('option');
    while (texts.length && !texts[texts.length - 1]?.trim()) texts.pop();
    const own = cells('id')[0]?.trim().slice(0, 200);
    const itemId = own && !ids.has(own) ? own : newId();
    ids.add(itemId);
    const right = placesNamed(layout, key, texts, (name) => tell('key-unknown-option', `the key names “${name}”, which is no option`, itemId));
    if (!right.size && !key.trim()) tell('key-missing', 'the item has no right option', itemId);
    const numberIn = (cell: string): number | undefined => (cell.trim() && Number(cell) >= 0 ? Number(cell) : undefined);
    const limit = numberIn(time);
    const made = itemSchema.safeParse({
      id: itemId,
      kind: right.size > 1 ? 'multiple-response' : 'multiple-choice',
      stem: richFromPlain(stem),
      points: numberIn(points) ?? 1,
      options: texts.map((t, i) => ({ id: `o${i + 1}`, content: richFromPlain(t), credit: right.has(i) ? 1 : 0 })),
      ...(limit && { timeLimit: limit }),
      ...(feedback.trim() && { feedback: { general: richFromPlain(feedback) } }),
    });
    if (made.success) items.push(made.data);
    else tell('item-invalid', `${made.error.issues[0]?.message ?? 'it is not valid'}; the row was left out`);
  });
  if (!items.length) throw new ReadError('no row of this table gives an item');
  return { set: { title: UNTITLED, items }, diagnostics, asides: [] };
}
