/**
 * What another service's import template asks for: which column is what, where rows begin, how keys are said, what limits there are.
 * Told by its headings, its rows of explanation, its example rows, notes and data validation, with the words and the weighing that tables
 * are read with.
 */
import { ReadError } from '../../item/readError.js';
import { stripEnd } from '../../item/strip.js';
import type { Row } from './grid.js';
import { type ColumnUse, type HeadingSays, SAYS_RIGHT } from './headings.js';
import { readMapped } from './mapped.js';
import { cellsOf, type CellRule, type Mapping, type TableSheet } from './mapping.js';
import { headsOf, propose } from './propose.js';

/** What a column of a template is for. */
export const importerUses = [
  'question',
  'option',
  'key',
  'points',
  'feedback',
  'feedback-correct',
  'feedback-incorrect',
  'hint',
  'tags',
  'time',
  'kind',
  'number',
  'picture',
  'other',
] as const;
/** What a column of a template is for. */
export type ImporterUse = (typeof importerUses)[number];

/** A template as it was understood. */
export interface Importer {
  /** Name of the sheet that is to be filled; '' for a text file. */
  sheet: string;
  /** 1-based. */
  headerRow: number;
  /** 1-based: below headings and explanations; example rows count as data. */
  firstDataRow: number;
  orientation: 'row-per-item' | 'row-per-option';
  /** Every column in order. */
  columns: { heading: string; use: ImporterUse }[];
  keyForm: 'letter' | 'number' | 'text' | 'mark' | 'first-option';
  /** What stands between several right options. */
  keySeparator: string;
  /** Options of an item at most; null where it is not said. */
  maxOptions: number | null;
  /** Characters of a question and of an option at most, and the seconds that may be given, where the template says so. */
  limits: { question?: number; option?: number; time?: number[] };
}

const USES: Partial<Record<ColumnUse, ImporterUse>> = {
  question: 'question',
  option: 'option',
  options: 'option',
  'right option': 'option',
  'wrong option': 'option',
  mark: 'key',
  'true mark': 'key',
  'false mark': 'key',
  key: 'key',
  accepted: 'key',
  points: 'points',
  feedback: 'feedback',
  'feedback right': 'feedback-correct',
  'feedback wrong': 'feedback-incorrect',
  'option feedback': 'feedback',
  hint: 'hint',
  tags: 'tags',
  outcome: 'tags',
  time: 'time',
  kind: 'kind',
  number: 'number',
  picture: 'picture',
};

/** Headings that only count on, "X 1, X 2" or "X a, X b", in words that are not known, in front of a key: options. */
function countedOptions(heads: readonly string[], uses: readonly ColumnUse[]): number[] {
  const counted = heads.map((h) => {
    const m = /([1-9]|[A-Ha-h])\)?$/u.exec(h.trim());
    return m && { words: stripEnd(h.trim().slice(0, m.index), /[\s.:_(-]/), label: m[1] ?? '' };
  });
  const runs = new Map<string, number[]>();
  counted.forEach((m, c) => {
    if (!m || uses[c] !== 'ignore') return;
    const run = runs.get(m.words) ?? [];
    const place = /\d/.test(m.label) ? Number(m.label) - 1 : m.label.toUpperCase().charCodeAt(0) - 65;
    if (place === run.length) runs.set(m.words, [...run, c]);
  });
  const [longest = []] = [...runs.values()].sort((a, b) => b.length - a.length);
  return longest.length > 1 ? longest : [];
}

/** Headings that say little by themselves, and what they say in a template. From memory. */
const LOOSELY: readonly [RegExp, ColumnUse][] = [
  [/^(?:text|front|task|exercise|content|body|vorderseite|recto|anverso)$/i, 'question'],
  [/^(?:back|rückseite|verso|reverso|translation|meaning)$/i, 'key'],
];
const loosely = (heading: string): HeadingSays => new Map(LOOSELY.flatMap(([find, use]) => (find.test(heading) ? [[use, 1] as const] : [])));

/** Uses by the headings alone: what each says first, with what there can be only one of given to the surest. */
function usesByHeadings(says: readonly HeadingSays[], heads: readonly string[]): ColumnUse[] {
  const uses = says.map((s): ColumnUse => [...s].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'ignore');
  for (const use of ['question', 'key', 'kind', 'number', 'points', 'time'] as const) {
    const places = uses.flatMap((u, c) => (u === use ? [c] : []));
    const best = [...places].sort((a, b) => (says[b]?.get(use) ?? 0) - (says[a]?.get(use) ?? 0))[0];
    for (const c of places) {
      if (c === best) continue;
      const other = [...(says[c] ?? [])].find(([u]) => u !== use && !uses.includes(u));
      // several columns for keys are several keys
      if (use !== 'key') uses[c] = other?.[0] ?? 'ignore';
    }
  }
  if (!uses.some((u) => u === 'option' || u === 'options' || u === 'wrong option')) for (const c of countedOptions(heads, uses)) uses[c] = 'option';
  // "Answers" beside "Right": the one holds the options
  const answers = uses.flatMap((u, c) => (u === 'key' ? [c] : []));
  if (answers.length === 2 && !uses.some((u) => u === 'option' || u === 'options' || u === 'wrong option')) {
    const list = answers.filter((c) => !SAYS_RIGHT.test(heads[c] ?? ''));
    if (list.length === 1 && list[0] !== undefined) uses[list[0]] = 'options';
  }
  // "Number of the right answer" is no answer
  uses.forEach((u, c) => {
    const head = heads[c] ?? '';
    if ((u === 'right option' || u === 'option' || u === 'number') && SAYS_RIGHT.test(head) && (NUMBERS.test(head) || LETTERS.test(head))) uses[c] = 'key';
  });
  // what says "key" behind each of several options says of each whether it is right
  const isOption = (u: ColumnUse | undefined): boolean => u === 'option' || u === 'right option' || u === 'wrong option';
  const keys = uses.flatMap((u, c) => (u === 'key' ? [c] : []));
  const optionCount = uses.filter(isOption).length;
  const ofEach = keys.length === optionCount && keys.every((c) => SAYS_RIGHT.test(heads[c] ?? ''));
  if (keys.length > 1 && (ofEach || keys.every((c) => isOption(uses[c - 1])))) for (const c of keys) uses[c] = 'mark';
  // beside wrong options the key is the right one
  if (uses.includes('wrong option') && !uses.includes('option') && !uses.includes('right option')) {
    const key = uses.indexOf('key');
    if (key >= 0) uses[key] = 'right option';
  }
  return uses;
}

/** Characters at most, in words: "max. 120 characters", "up to 75 chars", "120 character limit", "(95)". From memory. */
const LENGTH =
  /(?:(?:max(?:imum|imal|\.)?|up to|at most|no more than|not more than|limit(?:ed to)?|≤|<=|höchstens|bis zu|máx(?:imo|\.)?|hasta|jusqu'à|massimo|fino a|até|maks(?:imum|ymalnie|\.)?|макс(?:имум|\.)?|до|en fazla)\s*(?:of |de |:)?\s*(\d{2,5})|(\d{2,5})\s*[- ]?\s*(?:char(?:acter)?s?|zeichen|letters|caract[eè]res|caracteri|carácter\p{L}*|caracteres|tekens|znak\p{L}*|символ\p{L}*|знак\p{L}*|karakter)\s*(?:max|limit|or (?:less|fewer)|or under)?)/iu;
const SIGNS = /char|zeichen|caract|teken|znak|символ|знак|karakter|letters|length|länge|long|≤|<=/iu;

/** The most characters that a text allows; undefined where it says none. */
function lengthIn(text: string): number | undefined {
  const m = LENGTH.exec(text);
  const n = Number(m?.[1] ?? m?.[2]);
  // a bare "(max. 50)" behind the name of a column is of letters, too
  return m && (m[2] !== undefined || SIGNS.test(text) || text.split('\n').some((l) => l.trimEnd().endsWith(')') && l.includes('('))) && n >= 10 ? n : undefined;
}
/** Seconds that a text lists: "5, 10, 20 or 30 seconds". */
function secondsIn(text: string): number[] | undefined {
  const list = /\d{1,4}(?:\s*(?:[,;/|]\s*)?(?:or|oder|o|ou|and|und|y|et|e)?\s*(?<=\D)\d{1,4}){2,}/iu.exec(text)?.[0];
  const all = list?.match(/\d{1,4}/g)?.map(Number);
  return all && all.every((n, i) => i === 0 || n > (all[i - 1] ?? 0)) ? all : undefined;
}

/** What stands about a column: its heading, the rows that explain, its notes. */
interface About {
  text: string;
  rules: readonly CellRule[];
}

function aboutColumn(sheet: TableSheet, c: number, header: number, first: number): About {
  const above = sheet.rows.slice(Math.max(0, header - 1), first).map((r) => r[c] ?? '');
  const notes = Object.entries(sheet.notes ?? {}).flatMap(([at, note]) => (Number(at.split(',')[1]) === c ? [note] : []));
  return { text: [...above, ...notes].join('\n'), rules: (sheet.rules ?? []).filter((r) => r.columns[0] <= c && c <= r.columns[1]) };
}

/** The number of rows below the headings that explain the columns. */
function explanations(rows: readonly Row[], header: number, uses: readonly ColumnUse[]): number {
  let n = 0;
  for (let r = header + 1; r < rows.length && n < 3; r++) {
    const cells = cellsOf(rows[r]);
    const full = cells.filter(Boolean);
    if (!full.length) break;
    const words = full.filter((c) => EXPLAINS.test(c)).length;
    const key = uses.findIndex((u) => u === 'key' || u === 'points' || u === 'time');
    const odd = key >= 0 && (cells[key] ?? '').split(/\s/).length > 1 && /\p{L}{3}/u.test(cells[key] ?? '') && !/^\d/.test(cells[key] ?? '');
    if (words < 2 && !(words && odd) && !(full.length === 1 && full[0] && full[0].length > 40)) break;
    n++;
  }
  return n;
}
const EXPLAINS =
  /required|optional|mandatory|\bchars?\b|[≤]|<=|max(?:imum)?\b|up to|at most|e\.g\.|for example|character|enter |write |type (?:the|in)|choose|select one|the (?:text|question|number|letter|correct|right)|leave (?:blank|empty)|pflicht|zeichen|eingeben|hier |obligator|opcional|escrib|caract|facultatif|saisir|écri|obbligator|facoltativ|inserisci|verplicht|optioneel|wymagan|opcjonal|wpisz|обязат|введите|обов|введіть|zorunlu|isteğe|yazın/iu;

const NUMBERS = /\b(?:number|numer|index|no\.|1\s?[-–,]\s?(?:2|4|6)|1, ?2)|nummer|zahl|número|numéro|numero|номер|numara/iu;
const LETTERS = /\b(?:letter|a\s?[-–,]\s?(?:b|d|f)|a, ?b)|buchstabe|letra|lettre|lettera|litera|буква|harf/iu;
/** Numbers of options that begin at nought. From memory. */
const FROM_ZERO =
  /(?:0|zero|null|cero|zéro)[- ]?(?:based|basiert|indexed)|(?:from|at|with|ab|von|bei|desde|à partir de|da|od|с|від) 0(?!\d)|first (?:\w+ )?(?:is|=) ?0/iu;
const WORDS = /\b(?:text|exact|wording|same as|copy of|the answer itself)|wortlaut|genauer text|texto exacto|texte exact|testo esatto/iu;

const nameOf = (cell: string): string => cell.toLowerCase().replace(/[\s_-]+/g, '');

/** What a person would call by one name. */
const SORT: Partial<Record<ColumnUse, string>> = {
  option: 'option',
  options: 'option',
  'wrong option': 'option',
  'right option': 'right',
  key: 'right',
  mark: 'right',
};
/** Whether example rows were read against what headings say outright: a few made-up rows prove little. */
const contradicts = (mapping: Mapping, byHeadings: readonly ColumnUse[], says: readonly HeadingSays[], heads: readonly string[]): boolean => {
  // the key stands under a heading that says so, if there is one
  const keys = byHeadings.flatMap((u, c) => (u === 'key' ? [c] : []));
  if (keys.length && mapping.columns.includes('key') && !keys.some((c) => SORT[mapping.columns[c] ?? 'ignore'] === 'right')) return true;
  return byHeadings.some((u, c) => {
    const own = mapping.columns[c] ?? 'ignore';
    if (u === 'key' && own === 'right option' && (NUMBERS.test(heads[c] ?? '') || LETTERS.test(heads[c] ?? ''))) return true;
    if (u === 'question' && says[c]?.has('question') && own !== 'question') return true;
    return u === 'option' && (says[c]?.get('option') ?? 0) >= 3 && own !== 'ignore' && own !== 'right option' && SORT[own] !== 'option';
  });
};

/** Cells of keys that are numbers, or letters, and nothing else. */
const NUMBER_CODES = /^\d{1,2}(?:\s*[,;|/+&]\s*\d{1,2})*$/;
const LETTER_CODES = /^[A-Ha-h](?:\s*[,;|/+&]\s*[A-Ha-h])*$/;
/** Whether the example rows name their keys by numbers, none by a letter. */
function countsKeys({ rows }: TableSheet, { columns }: Mapping, first: number): boolean {
  const cells = rows.slice(first).flatMap((r) => columns.flatMap((u, c) => (u === 'key' ? [(r[c] ?? '').trim()] : [])));
  return cells.some((c) => NUMBER_CODES.test(c)) && !cells.some((c) => LETTER_CODES.test(c));
}

/** The column in front of the question whose cells change exactly where the question does; −1 where there is none, or rows are no groups. */
function groupNames(rows: readonly Row[], uses: readonly ColumnUse[]): number {
  const question = uses.indexOf('question');
  const full = rows.filter((r) => r[question]?.trim());
  if (full.length < 2 || new Set(full.map((r) => r[question])).size === full.length) return -1;
  return uses.findIndex(
    (u, c) => u === 'ignore' && c < question && full.every((r, i) => i === 0 || (r[c] === full[i - 1]?.[c]) === (r[question] === full[i - 1]?.[question])),
  );
}

/** A template with what is known of its columns beyond what a person is told: enough to fill it (fill.ts). */
export interface ImporterSheet {
  importer: Importer;
  sheet: TableSheet;
  uses: readonly ColumnUse[];
  /** How its example rows read, where it has some that do. */
  mapping: Mapping | null;
  /** Numbers of options begin at 0. */
  fromZero: boolean;
  /** Keys are said by the headings of the options' columns. */
  byHeading: boolean;
}

/**
 * What a template asks for.
 * @param sheets the tables of the file
 * @throws ReadError where no row names columns that hold questions
 */
export const understandImporter = (sheets: readonly TableSheet[]): Importer => readImporter(sheets).importer;

/** As `understandImporter`, for filling it. */
export function readImporter(sheets: readonly TableSheet[]): ImporterSheet {
  const found = sheets.flatMap((sheet) => {
    const width = Math.max(0, ...sheet.rows.slice(0, 40).map((r) => r.length));
    return headsOf(sheet.rows, width, new Set(sheet.hiddenRows)).flatMap((head) => {
      const cells = cellsOf(sheet.rows[head.at]);
      const asks = head.says.some((s) => s.has('question'));
      const says = asks
        ? head.says
        : head.says.map((s, c) => {
            const loose = loosely(cells[c] ?? '');
            return loose.size ? loose : s;
          });
      const known = says.filter((s) => s.size).length;
      return says.some((s) => s.has('question')) && known > 1 ? [{ sheet, head: { ...head, says }, known: known + (head.known ? 100 : 0) }] : [];
    });
  });
  const [best] = found.sort((a, b) => b.known - a.known);
  if (!best) throw new ReadError('no row of this template names columns that hold questions; give the row of headings as the service has it');
  const { sheet, head } = best;
  const raw = cellsOf(sheet.rows[head.at]);
  const byHeadings = usesByHeadings(head.says, raw);
  const below = explanations(sheet.rows, head.at, byHeadings);
  const first = head.at + 1 + below;
  // example rows say more than headings do
  const examples: TableSheet = { ...sheet, rows: sheet.rows.map((r, i) => (i > head.at && i < first ? [] : r)) };
  const proposal = propose(examples);
  const proposed =
    proposal && proposal.mapping.header === head.at && proposal.rows > 0.9 && !contradicts(proposal.mapping, byHeadings, head.says, raw)
      ? proposal.mapping
      : null;
  // a reader takes a number for a letter where it must; whoever fills the template writes what its examples have
  const mapping = proposed && { ...proposed, ...(proposed.keyForm === 'letters' && countsKeys(examples, proposed, first) && { keyForm: 'numbers' as const }) };
  const uses = byHeadings.map((u, c): ColumnUse => {
    const own = mapping?.columns[c];
    return own && own !== 'ignore' ? own : u;
  });
  const named = uses.includes('number') ? -1 : groupNames(sheet.rows.slice(first), uses);
  if (named >= 0) uses[named] = 'number';
  const read = mapping ? readMapped(examples, mapping) : null;
  const about = uses.map((_, c) => aboutColumn(sheet, c, head.at, first));
  const at = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  // the one headed as an option of which it is said that a number or letter goes there
  if (!at('key', 'right option', 'mark', 'true mark').length && at('option').length > 2) {
    const said_ = at('option').filter((c) => /\b1\s*[,–-]|\ba\s*[,–-]\s*[b-h]\b/i.test(about[c]?.text ?? '') || SAYS_RIGHT.test(raw[c] ?? ''));
    if (said_.length === 1 && said_[0] !== undefined) uses[said_[0]] = 'key';
  }
  const options = at('option', 'right option', 'wrong option');
  const grouped = mapping?.layout === 'grouped' || (options.length === 1 && at('mark').length === 1);
  const keys = at('key');
  const said = keys.map((c) => about[c]?.text ?? '').join('\n');
  const hasOptions = options.length > 1 || at('options').length > 0;
  const limits: Importer['limits'] = {};
  const longest = (columns: readonly number[]): number | undefined => {
    const all = columns.flatMap((c) => [lengthIn(about[c]?.text ?? ''), ...(about[c]?.rules ?? []).map((r) => (r.kind === 'length' ? r.most : undefined))]);
    const known = all.filter((n): n is number => n !== undefined);
    return known.length ? Math.min(...known) : undefined;
  };
  const [question, option] = [longest(at('question')), longest(options.length ? options : at('options'))];
  if (question !== undefined) limits.question = question;
  if (option !== undefined) limits.option = option;
  const times = at('time').flatMap((c) => {
    const list = about[c]?.rules
      .find((r) => r.kind === 'list')
      ?.values?.map(Number)
      .filter((n) => n > 0);
    const all = list?.length ? list : secondsIn(about[c]?.text ?? '');
    return all ? [all] : [];
  })[0];
  if (times) limits.time = times;
  const importer: Importer = {
    sheet: sheet.name,
    headerRow: head.at + 1,
    firstDataRow: first + 1,
    orientation: grouped ? 'row-per-option' : 'row-per-item',
    columns: uses.map((u, c) => ({ heading: raw[c] ?? '', use: USES[u] ?? 'other' })),
    keyForm: keyFormOf(),
    keySeparator: separatorOf(),
    maxOptions: options.length > 1 && !grouped && !listsIn(options) ? options.length : null,
    limits,
  };
  // "A" and "1" are letters and numbers, whatever heads the column
  const names = new Set(options.map((c) => nameOf(raw[c] ?? '')).filter((h) => h.length > 1));
  const keyCells = keys.flatMap((c) => sheet.rows.slice(first).flatMap((r) => (r[c]?.trim() ? [nameOf(r[c])] : [])));
  const byHeading = keyCells.length > 0 && keyCells.every((k) => names.has(k));
  if (byHeading) importer.keyForm = 'text';
  return { importer, sheet, uses, mapping, byHeading, fromZero: mapping?.keyForm === 'numbers from 0' || FROM_ZERO.test(said) };

  /** Whether one of two cells, of the right and of the wrong options, holds several. */
  function listsIn(columns: readonly number[]): boolean {
    if (columns.length !== 2) return false;
    const cells = columns.flatMap((c) => sheet.rows.slice(first).flatMap((r) => (r[c]?.trim() ? [r[c]] : [])));
    return cells.some((c) => /[;|\n]/.test(c));
  }

  function keyFormOf(): Importer['keyForm'] {
    if (at('mark', 'true mark').length) return 'mark';
    if (at('right option').length || mapping?.keyForm === 'first') return 'first-option';
    const resolved = read?.set.items.some((i) => 'options' in i && i.options.some((o) => o.credit > 0));
    if (mapping && resolved) return mapping.keyForm === 'letters' ? 'letter' : mapping.keyForm === 'text' ? 'text' : 'number';
    const list = keys.flatMap((c) => about[c]?.rules ?? []).find((r) => r.kind === 'list')?.values;
    if (list?.length) return list.every((v) => /^\d+$/.test(v)) ? 'number' : list.every((v) => /^[A-Ha-h]$/.test(v)) ? 'letter' : 'text';
    const codes = keys.flatMap((c) => sheet.rows.slice(first).map((r) => (r[c] ?? '').trim()));
    if (hasOptions && codes.some((c) => NUMBER_CODES.test(c))) return 'number';
    if (hasOptions && codes.some((c) => LETTER_CODES.test(c))) return 'letter';
    if (NUMBERS.test(said) || FROM_ZERO.test(said)) return 'number';
    if (LETTERS.test(said)) return 'letter';
    if (WORDS.test(said)) return 'text';
    // options that are counted are named by number, lettered ones by letter
    const heads = options.map((c) => raw[c] ?? '');
    return heads.length && heads.every((h) => /\d\)?$/.test((h.split(/[([]/)[0] ?? '').trim())) ? 'number' : heads.length ? 'letter' : 'text';
  }

  function separatorOf(): string {
    const cells = keys.flatMap((c) => sheet.rows.slice(first, first + 20).map((r) => r[c] ?? ''));
    const short = /^\s*\(?(?:[A-Ha-h]|\d{1,2})\)?\s*([,;|/+&])\s*\(?(?:[A-Ha-h]|\d{1,2})/;
    const example = [...cells, said].map((c) => short.exec(c)?.[1] ?? /(?:[A-H]|\d)\s?([,;|/+])\s?(?:[A-H]|\d)/.exec(c)?.[1]).find(Boolean);
    if (/semi-?colon|semikolon|strichpunkt|punto y coma|point-virgule|punto e virgola|puntkomma|średnik|точк\p{L} с запят/iu.test(said)) return ';';
    if (/\b(?:pipe|vertical bar)\b|senkrecht/i.test(said)) return '|';
    if (/comma|komma|\bcoma|virgule|virgola|vírgula|przecin|запят/iu.test(said)) return ',';
    const signed = /(?:with|by|mit|durch|using|con|avec|par|met)\s+(?:an? )?["“'„]?([+;|/&])(?![\p{L}\d])/iu.exec(said)?.[1];
    return signed ?? example ?? ',';
  }
}

/** What a person says of a template that was understood otherwise: a use for every column, and how keys are said. */
export interface ImporterCorrection {
  columns: readonly ImporterUse[];
  keyForm: Importer['keyForm'];
}
/** How keys may be said. */
export const importerKeyForms = ['letter', 'number', 'text', 'mark', 'first-option'] as const satisfies readonly Importer['keyForm'][];

const BACK: Record<Exclude<ImporterUse, 'option' | 'key'>, ColumnUse> = {
  question: 'question',
  points: 'points',
  feedback: 'feedback',
  'feedback-correct': 'feedback right',
  'feedback-incorrect': 'feedback wrong',
  hint: 'hint',
  tags: 'tags',
  time: 'time',
  kind: 'kind',
  number: 'number',
  picture: 'picture',
  other: 'ignore',
};

/** A template as a person has it: what was understood of its columns and keys is as they say. */
export function correctedImporter(template: ImporterSheet, { columns, keyForm }: ImporterCorrection): ImporterSheet {
  const { importer, uses: before } = template;
  const options = columns.flatMap((u, c) => (u === 'option' ? [c] : []));
  const grouped = importer.orientation === 'row-per-option';
  const uses = columns.map((use, c): ColumnUse => {
    if (use === 'key') return keyForm === 'mark' ? 'mark' : 'key';
    if (use !== 'option') return use === USES[before[c] ?? 'ignore'] ? (before[c] ?? 'ignore') : BACK[use];
    if (options.length === 1 && !grouped) return 'options';
    return keyForm === 'first-option' ? (c === options[0] ? 'right option' : 'wrong option') : 'option';
  });
  const same = uses.every((u, c) => u === before[c]) && keyForm === importer.keyForm;
  if (same) return template;
  return {
    ...template,
    uses,
    mapping: null,
    byHeading: template.byHeading && keyForm === 'text',
    fromZero: template.fromZero && keyForm === 'number',
    importer: {
      ...importer,
      keyForm,
      columns: importer.columns.map((c, i) => ({ ...c, use: columns[i] ?? 'other' })),
      maxOptions: options.length > 1 && !grouped ? options.length : null,
    },
  };
}
