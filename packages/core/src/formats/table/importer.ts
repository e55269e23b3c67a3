/**
 * What another service's import template asks for: which column is what, where rows begin, how keys are said, what limits there are.
 * Told by its headings, its rows of explanation, its example rows, notes and data validation, with the words and the weighing that tables
 * are read with.
 */
import { ReadError } from '../../item/readError.js';
import type { Row } from './grid.js';
import type { ColumnUse, HeadingSays } from './headings.js';
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

/** Uses by the headings alone: what each says first, with what there can be only one of given to the surest. */
function usesByHeadings(says: readonly HeadingSays[]): ColumnUse[] {
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
  return m && (m[2] !== undefined || SIGNS.test(text)) && n >= 10 ? n : undefined;
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
  /required|optional|mandatory|max(?:imum)?\b|up to|at most|e\.g\.|for example|character|enter |write |type (?:the|in)|choose|select one|the (?:text|question|number|letter|correct|right)|leave (?:blank|empty)|pflicht|zeichen|eingeben|hier |obligator|opcional|escrib|caract|facultatif|saisir|écri|obbligator|facoltativ|inserisci|verplicht|optioneel|wymagan|opcjonal|wpisz|обязат|введите|обов|введіть|zorunlu|isteğe|yazın/iu;

const NUMBERS = /\b(?:number|index|no\.|1\s?[-–,]\s?(?:2|4|6)|1, ?2)|nummer|zahl|número|numéro|numero|номер|numara/iu;
const LETTERS = /\b(?:letter|a\s?[-–,]\s?(?:b|d|f)|a, ?b)|buchstabe|letra|lettre|lettera|litera|буква|harf/iu;
const WORDS = /\b(?:text|exact|wording|same as|copy of|the answer itself)|wortlaut|genauer text|texto exacto|texte exact|testo esatto/iu;

/** Whether the example rows name their keys by numbers, none by a letter. */
function countsKeys({ rows }: TableSheet, { columns }: Mapping, first: number): boolean {
  const cells = rows.slice(first).flatMap((r) => columns.flatMap((u, c) => (u === 'key' ? [(r[c] ?? '').trim()] : [])));
  return cells.some((c) => /^\d{1,2}(?:\s*[,;|/+&]\s*\d{1,2})*$/.test(c)) && !cells.some((c) => /^[A-Ha-h](?:\s*[,;|/+&]\s*[A-Ha-h])*$/.test(c));
}

/** A template with what is known of its columns beyond what a person is told: enough to fill it (fill.ts). */
export interface ImporterSheet {
  importer: Importer;
  sheet: TableSheet;
  uses: readonly ColumnUse[];
  /** How its example rows read, where it has some that do. */
  mapping: Mapping | null;
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
    const [head] = headsOf(sheet.rows, width, new Set(sheet.hiddenRows));
    return head?.known && head.says.some((s) => s.has('question')) ? [{ sheet, head, known: head.says.filter((s) => s.size).length }] : [];
  });
  const [best] = found.sort((a, b) => b.known - a.known);
  if (!best) throw new ReadError('no row of this template names columns that hold questions; give the row of headings as the service has it');
  const { sheet, head } = best;
  const byHeadings = usesByHeadings(head.says);
  const below = explanations(sheet.rows, head.at, byHeadings);
  const first = head.at + 1 + below;
  // example rows say more than headings do
  const examples: TableSheet = { ...sheet, rows: sheet.rows.map((r, i) => (i > head.at && i < first ? [] : r)) };
  const proposal = propose(examples);
  const proposed = proposal && proposal.mapping.header === head.at && proposal.rows > 0.9 ? proposal.mapping : null;
  // a reader takes a number for a letter where it must; whoever fills the template writes what its examples have
  const mapping = proposed && { ...proposed, ...(proposed.keyForm === 'letters' && countsKeys(examples, proposed, first) && { keyForm: 'numbers' as const }) };
  const uses = byHeadings.map((u, c): ColumnUse => {
    const own = mapping?.columns[c];
    return own && own !== 'ignore' ? own : u;
  });
  const read = mapping ? readMapped(examples, mapping) : null;
  const raw = cellsOf(sheet.rows[head.at]);
  const about = uses.map((_, c) => aboutColumn(sheet, c, head.at, first));
  const at = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  const options = at('option', 'right option', 'wrong option');
  const grouped = mapping?.layout === 'grouped' || (options.length === 1 && at('mark').length === 1);
  const keys = at('key');
  const said = keys.map((c) => about[c]?.text ?? '').join('\n');
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
    maxOptions: options.length > 1 && !grouped ? options.length : null,
    limits,
  };
  return { importer, sheet, uses, mapping };

  function keyFormOf(): Importer['keyForm'] {
    if (at('mark', 'true mark').length) return 'mark';
    if (at('right option').length || mapping?.keyForm === 'first') return 'first-option';
    const resolved = read?.set.items.some((i) => 'options' in i && i.options.some((o) => o.credit > 0));
    if (mapping && resolved) return mapping.keyForm === 'letters' ? 'letter' : mapping.keyForm === 'text' ? 'text' : 'number';
    const list = keys.flatMap((c) => about[c]?.rules ?? []).find((r) => r.kind === 'list')?.values;
    if (list?.length) return list.every((v) => /^\d+$/.test(v)) ? 'number' : list.every((v) => /^[A-Ha-h]$/.test(v)) ? 'letter' : 'text';
    if (NUMBERS.test(said)) return 'number';
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
    return example ?? ',';
  }
}
