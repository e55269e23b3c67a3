/**
 * Sets as tables: a layout is a list of columns, each of which knows how to say its part of an item and how to take it back.
 * One row for each item; the `option-rows` layout has one for each option.
 */
import { newId } from '../../item/ids.js';
import { keyProblem, letterOf as letter } from '../../item/kinds.js';
import {
  bloomLevels,
  defaultMatch,
  type Diagnostic,
  type Gap,
  item as itemSchema,
  type Item,
  type Kind,
  type MatchRule,
  type Option,
  type QuizSet,
  type ReadResult,
  scorings,
  type Section,
  type TextAnswer,
  UNTITLED,
} from '../../item/model.js';
import { richFromPlain } from '../../item/richText.js';
import { ReadError } from '../../item/readError.js';
import { gapShares } from '../../item/sameness.js';
import { writtenRange } from '../../language/decimal.js';
import { partsOf } from '../../item/strip.js';

/** Cells as text; an empty one is ''. */
export type Row = string[];

/** Items as they stand in one row, with what the row says of their part. */
interface Draft {
  item: Record<string, unknown> & { kind: Kind };
  section: { title?: string; instructions?: string; passage?: string };
  options: string[];
  optionFeedback: string[];
  key: string;
  problems: string[];
}

/** A column of the template: its heading, what stands in it, how an item says it and how it is read. */
export interface Column {
  heading: string;
  /** For the sheet that explains the template. */
  about: string;
  write(item: Item, set: QuizSet): string;
  read?(cell: string, draft: Draft): void;
}

// ── answers in one cell ──

const SEPARATOR = ' | ';
/** Pieces of one cell, parted by bars; a bar inside a piece is kept by a backslash. */
const pack = (pieces: readonly string[]): string => pieces.map((p) => p.replace(/[\\|]/g, '\\$&')).join(SEPARATOR);
/** A text parted at a sign; a backslash keeps the sign behind it. */
function splitAt(s: string, sign: string): string[] {
  const out: string[] = [];
  let piece = '';
  for (let i = 0; i < s.length; i++) {
    const c = s.charAt(i);
    if (c === '\\' && i + 1 < s.length) piece += s.charAt(++i);
    else if (c === sign) {
      out.push(piece.trim());
      piece = '';
    } else piece += c;
  }
  return [...out, piece.trim()];
}
const unpack = (cell: string): string[] => (cell.trim() ? splitAt(cell, '|') : []);
const percentOf = (credit: number): string => `${Math.round(credit * 1e7) / 1e5}%`;
/** A piece with what it earns, where that is not everything: "levain [50%]". */
const earning = (text: string, credit: number): string => (credit === 1 && !/\[-?[\d.]+%\]$/.test(text) ? text : `${text} [${percentOf(credit)}]`);
function earned(piece: string): { text: string; credit: number } {
  const m = /\[(-?\d+(?:\.\d+)?)%\]$/.exec(piece);
  return m ? { text: piece.slice(0, m.index).trimEnd(), credit: Number(m[1]) / 100 } : { text: piece, credit: 1 };
}
/** A number as an answer: itself, or its least and its greatest. */
function rangeOf(text: string): { min: number; max: number } | null {
  const [a = Number.NaN, b] = text
    .replace(/\s+/g, ' ')
    .split(' to ')
    .map((x) => Number(x.replace(',', '.')));
  if (Number.isNaN(a) || !text.trim()) return null;
  if (b === undefined) return { min: a, max: a };
  return Number.isNaN(b) ? null : { min: Math.min(a, b), max: Math.max(a, b) };
}
const number = (cell: string): number | null =>
  cell.trim() === '' || Number.isNaN(Number(cell.trim().replace(',', '.'))) ? null : Number(cell.trim().replace(',', '.'));
const yes = (cell: string): boolean => /^(yes|true|1|x|ja|oui|sí|si|tak|да|так|evet|sim)$/i.test(cell.trim());

/** The key of a choice: letters; with what each earns where it is not all or nothing. */
const letterPlace = (s: string): number => [...s.toUpperCase()].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0) - 1;
const choiceKey = (options: readonly Option[]): string => options.flatMap((o, i) => (o.credit === 0 ? [] : [earning(letter(i), o.credit)])).join(', ');

const gapText = (g: Gap): string =>
  g.kind === 'choice'
    ? `{${g.options.map((o) => earning(o.content.replace(/[;{}\\]/g, '\\$&'), o.credit)).join('; ')}}`
    : g.kind === 'number'
      ? `#${g.answers.map((a) => earning(writtenRange(a), a.credit)).join('; ')}`
      : g.answers.map((a) => earning(a.text.replace(/[;{}#\\]/g, '\\$&'), a.credit)).join('; ');
function gapOf(piece: string, id: string, points: number): Gap {
  if (piece.startsWith('{') && piece.endsWith('}'))
    return {
      id,
      kind: 'choice',
      points,
      options: splitAt(piece.slice(1, -1), ';').map((t, i) => ({
        id: `g${i + 1}`,
        content: richFromPlain(earned(t).text),
        credit: /\[-?[\d.]+%\]$/.test(t) ? earned(t).credit : 1,
      })),
    };
  if (piece.startsWith('#'))
    return {
      id,
      kind: 'number',
      points,
      answers: splitAt(piece.slice(1), ';').flatMap((t) => {
        const e = earned(t);
        const r = rangeOf(e.text);
        return r ? [{ ...r, credit: e.credit }] : [];
      }),
    };
  return {
    id,
    kind: 'text',
    points,
    answers: splitAt(piece, ';')
      .filter(Boolean)
      .map((t) => ({ text: earned(t).text, credit: earned(t).credit })),
  };
}

function keyText(item: Item): string {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return choiceKey(item.options);
    case 'true-false':
      return item.answer === null ? '' : item.answer ? 'true' : 'false';
    case 'short-answer':
      return pack(item.answers.map((a) => earning(a.text, a.credit)));
    case 'numeric':
      return pack(item.answers.map((a) => earning(writtenRange(a), a.credit)));
    case 'cloze':
      return pack(item.gaps.map(gapText));
    case 'matching':
      return pack(item.pairs.map((p) => `${p.left.replace(/=>/g, '\\=>')} => ${p.right.replace(/=>/g, '\\=>')}`));
    case 'ordering':
      return pack(item.sequence);
    case 'essay':
      return item.modelAnswer ?? '';
    default:
      return '';
  }
}

function takeKey(d: Draft): void {
  const { item, key } = d;
  const bad = (what: string): void => void d.problems.push(what);
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const credits = new Map<number, number>();
      const rest = key.replace(/([A-Za-z]{1,2}|(?<!\d)\d+)(?:\s*\[(-?\d+(?:\.\d+)?)%\])?(?=[\s,;.)]|$)/g, (_, name: string, share?: string) => {
        const place = /^\d/.test(name) ? Number(name) - 1 : letterPlace(name);
        if (place < d.options.length) credits.set(place, share === undefined ? 1 : Number(share) / 100);
        else bad(`the key names “${name}”, which is no option`);
        return '';
      });
      if (/[^\s,;.)]/.test(rest)) bad(`“${key}” in the key column names no options`);
      item['options'] = d.options.map((content, i) => ({
        id: `o${i + 1}`,
        content: richFromPlain(content),
        credit: credits.get(i) ?? 0,
        ...(d.optionFeedback[i] && { feedback: richFromPlain(d.optionFeedback[i]) }),
      }));
      return;
    }
    case 'true-false':
      item['answer'] = /^(true|t|yes)$/i.test(key) ? true : /^(false|f|no)$/i.test(key) ? false : null;
      return;
    case 'short-answer':
      item['answers'] = unpack(key).map((t): TextAnswer => earned(t));
      return;
    case 'numeric':
      item['answers'] = unpack(key).flatMap((t) => {
        const e = earned(t);
        const r = rangeOf(e.text);
        if (!r) bad(`“${e.text}” is no number`);
        return r ? [{ ...r, credit: e.credit }] : [];
      });
      return;
    case 'cloze': {
      const points = (item['gapPoints'] as number[] | undefined) ?? [];
      const rule = item['match'] as MatchRule | undefined;
      item['gaps'] = unpack(key).map((p, i) => {
        const g = gapOf(p, String(i + 1), points[i] ?? 1);
        return g.kind === 'text' && rule ? { ...g, match: rule } : g;
      });
      return;
    }
    case 'matching':
      item['pairs'] = unpack(key).map((p) => {
        const [left = '', right = ''] = partsOf(p, /(?<!\\)=>/).map((x) => x.replace(/\\=>/g, '=>'));
        return { left: richFromPlain(left), right: richFromPlain(right) };
      });
      return;
    case 'ordering':
      item['sequence'] = unpack(key).map(richFromPlain);
      return;
    case 'essay':
      if (key) item['modelAnswer'] = richFromPlain(key);
      return;
    default:
  }
}
// ── columns ──

/** Kinds as the template names them. */
export const KIND_WORDS: Record<Kind, string> = {
  'multiple-choice': 'choice',
  'multiple-response': 'several right',
  'true-false': 'true or false',
  'short-answer': 'short answer',
  numeric: 'number',
  cloze: 'gaps',
  matching: 'matching',
  ordering: 'order',
  essay: 'open',
  information: 'text',
};
const kindOf = (cell: string): Kind | null => (Object.entries(KIND_WORDS).find(([, w]) => w === cell.trim().toLowerCase())?.[0] as Kind | undefined) ?? null;

const optionOf = (item: Item, i: number): Option | undefined =>
  item.kind === 'multiple-choice' || item.kind === 'multiple-response' ? item.options[i] : undefined;
const text = (heading: string, about: string, name: 'title' | 'label' | 'unit' | 'stem', rich: boolean): Column => ({
  heading,
  about,
  write: (i) => String((i as unknown as Record<string, unknown>)[name] ?? ''),
  read: (cell, d) => {
    if (cell || name === 'stem') d.item[name] = rich ? richFromPlain(cell) : cell;
  },
});
const listed = (heading: string, about: string, name: 'hints' | 'tags' | 'outcomes' | 'wordBank' | 'extraRights', rich: boolean): Column => ({
  heading,
  about,
  write: (i) => pack(((i as unknown as Record<string, unknown>)[name] as string[] | undefined) ?? []),
  read: (cell, d) => {
    const list = unpack(cell);
    if (list.length || name === 'extraRights') d.item[name] = rich ? list.map(richFromPlain) : list;
  },
});
const flag = (heading: string, about: string, name: 'bonus' | 'required' | 'shuffle'): Column => ({
  heading,
  about,
  write: (i) => (i[name] === undefined ? '' : i[name] ? 'yes' : 'no'),
  read: (cell, d) => {
    if (cell.trim()) d.item[name] = yes(cell);
  },
});
const feedback = (heading: string, about: string, name: 'correct' | 'incorrect' | 'general'): Column => ({
  heading,
  about,
  write: (i) => i.feedback?.[name] ?? '',
  read: (cell, d) => {
    if (cell.trim()) d.item['feedback'] = { ...(d.item['feedback'] as object | undefined), [name]: richFromPlain(cell) };
  },
});
const ofPart = (heading: string, about: string, name: 'title' | 'instructions' | 'passage'): Column => ({
  heading,
  about,
  write: (i, set) => set.sections?.find((s) => s.id === i.section)?.[name] ?? '',
  read: (cell, d) => {
    if (cell.trim()) d.section[name] = name === 'title' ? cell.trim() : richFromPlain(cell);
  },
});

/** The kind of the item. */
export const kindColumn: Column = {
  heading: 'Kind',
  about: `One of: ${Object.values(KIND_WORDS).join(', ')}.`,
  write: (i) => KIND_WORDS[i.kind],
};
/** The stem. */
export const questionColumn = text('Question', 'The question. Gaps are written [[1]], [[2]] …', 'stem', true);
/** The key, by letters, words, numbers or truth as the kind asks for. */
export const keyColumn: Column = {
  heading: 'Key',
  about:
    'The letters of the right options (A or A, C); true or false; accepted answers parted by | ; a number or 4 to 5; gaps parted by | with further answers parted by ; ; pairs as left => right parted by | ; steps in order parted by | . What earns a part has its share behind: B [50%].',
  write: keyText,
  read: (cell, d) => {
    d.key = cell.trim();
  },
};
/** The points. */
export const pointsColumn: Column = {
  heading: 'Points',
  about: 'Empty is 1.',
  write: (i) => (i.kind === 'information' ? '' : String(i.points)),
  read: (cell, d) => {
    const n = number(cell);
    if (n !== null && n >= 0) d.item['points'] = n;
    else if (cell.trim()) d.problems.push(`“${cell}” is no number of points`);
  },
};
/** The option at a place, from 0. */
export const optionColumn = (i: number): Column => ({
  heading: `Option ${letter(i)}`,
  about: 'What can be chosen.',
  write: (item) => optionOf(item, i)?.content ?? '',
  read: (cell, d) => {
    d.options[i] = cell;
  },
});
const optionFeedbackColumn = (i: number): Column => ({
  heading: `Feedback ${letter(i)}`,
  about: 'Shown when this option is chosen.',
  write: (item) => optionOf(item, i)?.feedback ?? '',
  read: (cell, d) => {
    d.optionFeedback[i] = cell;
  },
});
/** Which options keep their place when options are shuffled. */
export const pinColumn: Column = {
  heading: 'Stay put',
  about: 'Letters of options that keep their place when options are shuffled.',
  write: (i) => ('options' in i ? i.options.flatMap((o, k) => (o.pinned ? [letter(k)] : [])).join(', ') : ''),
  read: (cell, d) => {
    if (cell.trim())
      d.item['pins'] = cell
        .split(/[,;\s]+/)
        .filter(Boolean)
        .map(letterPlace);
  },
};
const truthFeedback = (which: 'true' | 'false'): Column => ({
  heading: `Feedback ${which}`,
  about: `Shown when ${which} is chosen.`,
  write: (i) => (i.kind === 'true-false' ? (i.optionFeedback?.[which] ?? '') : ''),
  read: (cell, d) => {
    if (cell.trim() && d.item.kind === 'true-false')
      d.item['optionFeedback'] = { ...(d.item['optionFeedback'] as object | undefined), [which]: richFromPlain(cell) };
  },
});

const RULE_WORDS: [string, Partial<MatchRule>][] = [
  ['capitals count', { caseSensitive: true }],
  ['punctuation ignored', { punctuation: 'ignore' }],
  ['accents ignored', { accents: 'ignore' }],
  ['numbers as written', { numbersAsValues: false }],
  ['in this order', { anyOrder: false }],
];
const ruleText = (rule: MatchRule): string =>
  [
    ...RULE_WORDS.filter(([, r]) => Object.entries(r).every(([k, v]) => rule[k as keyof MatchRule] === v)).map(([w]) => w),
    ...(rule.spelling ? [`${rule.spelling} letters may differ`] : []),
  ].join(', ');
const ruleOf = (cell: string): MatchRule => {
  const letters = /(\d) letters? may differ/.exec(cell)?.[1];
  return Object.assign(
    {},
    defaultMatch,
    ...RULE_WORDS.filter(([w]) => cell.includes(w)).map(([, r]) => r),
    letters ? { spelling: Number(letters) } : {},
  ) as MatchRule;
};
const ruleColumn: Column = {
  heading: 'Matching of answers',
  about: `How typed answers are compared. Empty is the usual way; else some of: ${RULE_WORDS.map(([w]) => w).join(', ')}, 1 letters may differ.`,
  write: (i) =>
    i.kind === 'short-answer' ? ruleText(i.match) : i.kind === 'cloze' ? ruleText(i.gaps.find((g) => g.kind === 'text')?.match ?? defaultMatch) : '',
  read: (cell, d) => {
    if (d.item.kind === 'short-answer') d.item['match'] = ruleOf(cell);
    else if (d.item.kind === 'cloze' && cell.trim()) d.item['match'] = ruleOf(cell);
  },
};

/** So many columns for options the template has at least. */
export const letterOptions = 8;
const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

/** Columns that say everything but the options, which differ in number and place from layout to layout. */
const details: readonly Column[] = [
  keyColumn,
  pointsColumn,
  {
    heading: 'Scoring',
    about: `For several right options, one of: ${scorings.join(', ')}.`,
    write: (i) => (i.kind === 'multiple-response' ? i.scoring : ''),
    read: (cell, d) => {
      if (d.item.kind === 'multiple-response') d.item['scoring'] = scorings.find((s) => s === cell.trim()) ?? 'all-or-nothing';
    },
  },
  pinColumn,
  ruleColumn,
  text('Unit', 'Stands behind a number.', 'unit', false),
  listed('Further right sides', 'Right sides without a partner, parted by | .', 'extraRights', true),
  listed('Words to choose from', 'For gaps, parted by | .', 'wordBank', false),
  {
    heading: 'Gap points',
    about: 'What each gap counts, parted by | .',
    write: (i) => (i.kind === 'cloze' && new Set(i.gaps.map((g) => g.points)).size > 1 ? gapShares(i.gaps.map((g) => g.points)).join(SEPARATOR) : ''),
    read: (cell, d) => {
      if (cell.trim()) d.item['gapPoints'] = unpack(cell).map((x) => number(x) ?? 1);
    },
  },
  feedback('Feedback', 'Shown with every answer.', 'general'),
  feedback('If right', 'Shown with right answers.', 'correct'),
  feedback('If wrong', 'Shown with wrong answers.', 'incorrect'),
  truthFeedback('true'),
  truthFeedback('false'),
  listed('Hints', 'In the order shown, parted by | .', 'hints', true),
  {
    heading: 'Rubric',
    about: 'For the person who marks.',
    write: (i) => (i.kind === 'essay' ? (i.rubric ?? '') : ''),
    read: (cell, d) => void (cell.trim() && d.item.kind === 'essay' && (d.item['rubric'] = richFromPlain(cell))),
  },
  {
    heading: 'Lines',
    about: 'To write on, for open questions.',
    write: (i) => (i.kind === 'essay' && i.lines ? String(i.lines) : ''),
    read: (cell, d) => void (number(cell) && d.item.kind === 'essay' && (d.item['lines'] = Math.round(number(cell) ?? 1))),
  },
  {
    heading: 'Time limit',
    about: 'Seconds.',
    write: (i) => (i.timeLimit ? String(i.timeLimit) : ''),
    read: (cell, d) => void ((number(cell) ?? 0) > 0 && (d.item['timeLimit'] = number(cell))),
  },
  flag('Shuffle', 'yes or no.', 'shuffle'),
  flag('Required', 'yes or no.', 'required'),
  flag('Bonus', 'yes: its points do not count into the maximum.', 'bonus'),
  listed('Tags', 'Parted by | .', 'tags', false),
  listed('Outcomes', 'Parted by | .', 'outcomes', false),
  {
    heading: 'Level',
    about: `A level of thinking (${bloomLevels.join(', ')}), a depth of 1 to 4, a difficulty of 0 to 1: apply, depth 2, difficulty 0.4.`,
    write: ({ level = {} }) =>
      [level.bloom, level.depth && `depth ${level.depth}`, level.difficulty !== undefined && `difficulty ${level.difficulty}`]
        .filter((x) => x !== false && x !== undefined && x !== 0)
        .join(', '),
    read: (cell, d) => {
      const bloom = bloomLevels.find((b) => cell.toLowerCase().includes(b));
      const depth = /depth\s*([1-4])/.exec(cell)?.[1];
      const difficulty = /difficulty\s*([\d.]+)/.exec(cell)?.[1];
      if (bloom || depth || difficulty)
        d.item['level'] = {
          ...(bloom && { bloom }),
          ...(depth && { depth: Number(depth) }),
          ...(difficulty && { difficulty: Math.min(1, Number(difficulty)) }),
        };
    },
  },
  text('Title', 'A short name.', 'title', false),
  text('Number', 'The number or name that the question bears.', 'label', false),
  ofPart('Part', 'Title of the part that it stands in.', 'title'),
  ofPart('Instructions', 'Of its part.', 'instructions'),
  ofPart('Passage', 'The text that it asks about.', 'passage'),
  {
    heading: 'Id',
    about: 'Keeps its identity when it comes back; leave it as it is.',
    write: (i) => i.id,
    read: (cell, d) => void (cell.trim() && (d.item['id'] = cell.trim().slice(0, 200))),
  },
];

/** The template: every field of the model that a cell can hold, one row for each item. */
export const template: readonly Column[] = [
  kindColumn,
  questionColumn,
  ...range(letterOptions).map(optionColumn),
  ...details,
  ...range(letterOptions).map(optionFeedbackColumn),
];

const optionRowColumns: readonly Column[] = [kindColumn, questionColumn, ...details];
const OPTION = 'Option';
const CREDIT = 'Credit';
const OPTION_FEEDBACK = 'Option feedback';

// ── tables ──

/** A set as a table: headings, then one row for each item. */
export const gridOf = (set: QuizSet, columns: readonly Column[]): Row[] => [
  columns.map((c) => c.heading),
  ...set.items.map((i) => columns.map((c) => c.write(i, set))),
];

/** A set as a table with one row for each option; what is said of the item stands in its first row. */
export function optionRowsOf(set: QuizSet): Row[] {
  const rows: Row[] = [[...optionRowColumns.map((c) => c.heading), OPTION, CREDIT, OPTION_FEEDBACK]];
  for (const item of set.items) {
    const own = optionRowColumns.map((c) => (c === keyColumn && 'options' in item ? '' : c.write(item, set)));
    const options = 'options' in item ? item.options : [];
    rows.push([...own, ...(options[0] ? optionCells(options[0]) : ['', '', ''])]);
    for (const o of options.slice(1)) rows.push([...optionRowColumns.map(() => ''), ...optionCells(o)]);
  }
  return rows;
}
const optionCells = (o: Option): string[] => [o.content, percentOf(o.credit), o.feedback ?? ''];

const headingKey = (s: string): string => s.trim().toLowerCase();

/** Which of the two layouts that hold everything a table has, by its headings; null where it has neither. */
export function layoutOf(headings: readonly string[]): 'rows' | 'option-rows' | null {
  const has = new Set(headings.map(headingKey));
  if (!has.has('question')) return null;
  if (has.has('kind') && has.has('option') && has.has('credit')) return 'option-rows';
  return has.has('kind') && has.has('key') ? 'rows' : null;
}

/**
 * Reads a table in one of the layouts that are written here. Rows that give no item are reported.
 * @throws ReadError where the headings are none of these
 */
export function setOf(rows: readonly (readonly string[])[]): ReadResult {
  const [headings = []] = rows;
  const layout = layoutOf(headings);
  if (!layout) throw new ReadError('the headings of this table are not those of a template; the columns cannot be told');
  const places = new Map(headings.map((h, i) => [headingKey(h), i]));
  const columns = layout === 'rows' ? template : optionRowColumns;
  const items: Item[] = [];
  const sections: Section[] = [];
  const diagnostics: Diagnostic[] = [];
  const ids = new Set<string>();
  const tell = (row: number, code: string, message: string, item?: string): void =>
    void diagnostics.push({ code, severity: 'error', from: 0, to: 0, line: row + 1, column: 1, message: `Row ${row + 1}: ${message}.`, ...(item && { item }) });
  const cell = (row: readonly string[], heading: string): string => row[places.get(headingKey(heading)) ?? -1] ?? '';
  let last: { key: string; id: string } = { key: '', id: '' };
  for (let r = 1; r < rows.length; r++) {
    const row = rows[r] ?? [];
    if (row.every((c) => !c.trim())) continue;
    const kind = kindOf(cell(row, 'Kind'));
    if (!kind) {
      tell(r, 'item-invalid', `“${cell(row, 'Kind')}” is no kind of item; the row was left out`);
      continue;
    }
    const d: Draft = { item: { kind, stem: '', points: 1 }, section: {}, options: [], optionFeedback: [], key: '', problems: [] };
    if (kind === 'information') d.item['points'] = 0;
    for (const c of columns) {
      const at = places.get(headingKey(c.heading));
      if (at !== undefined) c.read?.(row[at] ?? '', d);
    }
    if (layout === 'option-rows') {
      const credits: string[] = [];
      const takeOption = (o: readonly string[]): void => {
        if (!cell(o, OPTION).trim()) return;
        d.options.push(cell(o, OPTION));
        d.optionFeedback.push(cell(o, OPTION_FEEDBACK));
        credits.push(cell(o, CREDIT));
      };
      takeOption(row);
      // rows below without a kind go on with the options
      while (r + 1 < rows.length && !cell(rows[r + 1] ?? [], 'Kind').trim() && cell(rows[r + 1] ?? [], OPTION).trim()) takeOption(rows[++r] ?? []);
      if (d.options.length) d.key = credits.flatMap((c, i) => (Number.parseFloat(c) ? [`${letter(i)} [${c.trim().replace(/%?$/, '%')}]`] : [])).join(', ');
    } else while (d.options.length && !d.options[d.options.length - 1]?.trim()) d.options.pop();
    takeKey(d);
    const pins = d.item['pins'] as number[] | undefined;
    if (pins && Array.isArray(d.item['options']))
      d.item['options'] = (d.item['options'] as Option[]).map((o, i) => (pins.includes(i) ? { ...o, pinned: true } : o));
    const parsed = itemSchema.safeParse(d.item);
    if (!parsed.success) {
      tell(r, 'item-invalid', `${parsed.error.issues[0]?.path.join('.') ?? ''} ${parsed.error.issues[0]?.message ?? 'is not valid'}; the row was left out`);
      continue;
    }
    const made = parsed.data;
    if (ids.has(made.id)) made.id = newId();
    ids.add(made.id);
    if (Object.keys(d.section).length) {
      const key = JSON.stringify(d.section);
      if (last.key !== key) {
        last = { key, id: `s${sections.length + 1}` };
        sections.push({ id: last.id, ...d.section });
      }
      made.section = last.id;
    } else last = { key: '', id: '' };
    items.push(made);
    for (const p of d.problems) tell(r, 'key-unknown-option', p, made.id);
    const none = keyProblem(made);
    if (none && !d.problems.length) tell(r, none.code, `the item has ${none.message}`, made.id);
  }
  if (!items.length) throw new ReadError('no row of this table gives an item');
  return { set: { title: UNTITLED, items, ...(sections.length && { sections }) }, diagnostics, asides: [] };
}
