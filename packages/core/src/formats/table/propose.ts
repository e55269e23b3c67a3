/**
 * Finds the explanation of a whole table that is worth most: rows of headings, uses of columns and layouts are enumerated, the
 * likely ones are read for a sample of rows, and what comes out is weighed. No heading is a gate: words add weight, and so does
 * what the cells hold. The second best that keys other options is the doubt.
 */
import { BLANK } from '../../language/blanks.js';
import { FIRST_IS_RIGHT, KIND_WORDS } from '../../language/words.js';
import type { Item } from '../../item/model.js';
import { richToPlain } from '../../item/richText.js';
import { type ColumnFacts, factsOf } from './columnFacts.js';
import { writtenRange } from '../../language/decimal.js';
import type { Row } from './grid.js';
import { type ColumnUse, type HeadingSays, isKnownHeading, MARK_HEADING, SAYS_RIGHT, saysOf } from './headings.js';
import { type KeyForm, placesOf, truthSignsIn, truthSignsOf } from './keyCells.js';
import { type MappedTable, readMapped } from './mapped.js';
import { cellsOf, type Mapping, optionSeparators, optionsIn, type TableLayout, type TableSheet, unlabelled } from './mapping.js';
import { W } from './weights.js';

/** How sure the use of a column is: no explanation that is nearly as good, or as good as may be, gives it another. */
export type Sureness = 'sure' | 'likely' | 'unsure';

/** What a table is taken for, with how sure that is. */
export interface Proposal {
  mapping: Mapping;
  /** Of each column. */
  sure: Sureness[];
  /** What it is worth; only for comparing. */
  worth: number;
  /** What a row of the sample is worth in the mean. */
  rows: number;
  /** The second explanation, where it is worth nearly as much and keys other options. */
  other?: { mapping: Mapping; differs: readonly Difference[] };
}
/** An item that two explanations key differently. */
export interface Difference {
  /** Index among the items of the first explanation. */
  item: number;
  stem: string;
  first: string;
  second: string;
}

/** Rows that are looked at to tell what the columns hold, and those that are read to weigh an explanation. */
const SAMPLE = 300;
const READ = 30;
const MOST_COLUMNS = 200;
const HEAD_ROWS = 30;
/** So many rows below the first full one any words are looked at as headings. */
const NEAR = 4;
/** So many explanations are read; the others fall out by their columns. */
const READ_MOST = 24;
/** So many ways of finding options in a row are tried with every way of finding keys. */
const STRUCTURES_MOST = 14;
/** So many ways of joining rows are tried: only tables of fifty columns have more. */
const JOINED_MOST = 40;
/** So many ways of finding keys are tried with a way of finding options; only tables of a hundred columns have more. */
const KEYS_MOST = 60;
/** Rows by which it is told whether a column's keys name options. */
const RESOLVED = 24;

/** A row of headings (or two) and what they say. */
export interface Head {
  at: number;
  heads: readonly string[];
  says: readonly HeadingSays[];
  /** Some of its words are known. */
  known: boolean;
}

/** What enumerating the explanations of one row of headings needs. */
interface Ground {
  sheet: TableSheet;
  head: Head;
  width: number;
  rows: readonly Row[];
  facts: readonly ColumnFacts[];
  /** The headings without what counts them; '' where there is none. */
  names: readonly string[];
  /** Whether a column says something else on each row of a question: the number of an option, say. @param q the column of questions */
  differsWithin(q: number, c: number): boolean;
  /** The title and the headings, in one. */
  words: string;
  hidden: boolean;
  hiddenColumns: ReadonlySet<number>;
  /** What is known already of the uses beside a column of questions, and of what a use of a column is worth. */
  beside: Map<number, ReturnType<typeof besideOf>>;
  worths: Map<ColumnUse, number>[];
}

interface Candidate {
  mapping: Mapping;
  /** What its columns and its layout are worth. */
  columns: number;
}

/** An explanation of a table that was read for a sample of its rows. */
export interface Explanation {
  mapping: Mapping;
  worth: number;
  /** The parts of the worth: its rows' mean and its columns' sum. */
  rows: number;
  columns: number;
  read: MappedTable;
}

/** The explanations of a table that were weighed, the best first. @param hidden rows and columns that the file hides are read too */
export function explanationsOf(sheet: TableSheet, hidden = false): Explanation[] {
  const hiddenRows = new Set(hidden ? [] : sheet.hiddenRows);
  const hiddenColumns = new Set(hidden ? [] : sheet.hiddenColumns);
  const width = Math.min(MOST_COLUMNS, Math.max(0, ...sheet.rows.slice(0, SAMPLE).map((r) => r.length)));
  const weighed: Explanation[] = [];
  for (const head of width ? headsOf(sheet.rows, width, hiddenRows) : []) {
    const body = sheet.rows.filter((_, i) => i > head.at && !hiddenRows.has(i)).slice(0, SAMPLE);
    const rows = body.filter((r) => r.some((c) => c.trim())).map((r) => r.map((c, i) => (hiddenColumns.has(i) ? '' : c)));
    if (!rows.length) continue;
    const above = sheet.rows.slice(0, Math.max(0, head.at + 1)).flat();
    const facts = Array.from({ length: width }, (_, c) => factsOf(rows, c));
    const names = Array.from({ length: width }, (_, c) => bareHead(head.heads[c] ?? ''));
    const words = [sheet.name, ...above].join('\n');
    const ground: Ground = {
      sheet,
      head,
      width,
      rows,
      facts,
      names,
      differsWithin: differingWithin(rows),
      words,
      hidden,
      hiddenColumns,
      beside: new Map(),
      worths: facts.map(() => new Map()),
    };
    const sample = sampleOf(sheet, head.at, hiddenRows);
    for (const c of [...candidatesOf(ground), ...repeated(ground)].sort((a, b) => b.columns - a.columns).slice(0, READ_MOST)) {
      const read = readMapped(sample, { ...c.mapping, header: sample.header });
      const mean = worthOf(read);
      if (mean !== null) weighed.push({ mapping: c.mapping, worth: W.rows * mean + c.columns, rows: mean, columns: c.columns, read });
    }
  }
  return weighed.sort((a, b) => b.worth - a.worth);
}

/** The best explanation of a table; null where it holds no questions that can be told. @param hidden as for `explanationsOf` */
export function propose(sheet: TableSheet, hidden = false): Proposal | null {
  const [best, ...others] = explanationsOf(sheet, hidden);
  if (!best || best.worth < 0) return null;
  const { mapping, worth, rows } = best;
  const sure = mapping.columns.map((use, c): Sureness => {
    const other = others.find((o) => (o.mapping.columns[c] ?? 'ignore') !== use && !sameKeys(o, best));
    const distance = other ? worth - other.worth : Infinity;
    return distance > W.sure ? 'sure' : distance > W.doubt ? 'likely' : 'unsure';
  });
  for (const o of others) {
    if (worth - o.worth > W.doubt) break;
    const differs = differencesOf(best.read.set.items, o.read.set.items);
    if (differs.length) return { mapping, worth, rows, sure, other: { mapping: o.mapping, differs } };
  }
  return { mapping, worth, rows, sure };
}
/** Whether two explanations give the same items. */
const sameKeys = (a: Explanation, b: Explanation): boolean =>
  a.read.set.items.length === b.read.set.items.length &&
  a.read.set.items.every((item, i) => item.stem === b.read.set.items[i]?.stem && keyWords(item) === keyWords(b.read.set.items[i] as Item));

/** What every column of a table may be; null where it holds no questions that can be told. */
export const proposeMapping = (sheet: TableSheet, hidden = false): Mapping | null => propose(sheet, hidden)?.mapping ?? null;

/** The head of a sheet with as many rows as are read to weigh. */
function sampleOf(sheet: TableSheet, header: number, hiddenRows: ReadonlySet<number>): TableSheet & { header: number } {
  const rows: Row[] = [];
  const rich: Record<string, string> = {};
  const looks: Record<string, NonNullable<TableSheet['looks']>[string]> = {};
  const take = (r: number): void => {
    (sheet.rows[r] ?? []).forEach((_, c) => {
      const at = `${r},${c}`;
      const to = `${rows.length},${c}`;
      if (sheet.rich?.[at]) rich[to] = sheet.rich[at];
      if (sheet.looks?.[at]) looks[to] = sheet.looks[at];
    });
    rows.push([...(sheet.rows[r] ?? [])]);
  };
  if (header >= 0) take(header);
  for (let r = header + 1; r < sheet.rows.length && rows.length <= READ; r++) if (!hiddenRows.has(r)) take(r);
  return { name: sheet.name, rows, rich, looks, header: header >= 0 ? 0 : -1 };
}

// ── headings ──

/** The rows that may name the columns: the likeliest ones, the first full row where none is known, and none at all. */
export function headsOf(rows: readonly Row[], width: number, hidden: ReadonlySet<number>): Head[] {
  const none: Head = { at: -1, heads: [], says: [], known: false };
  const out: (Head & { score: number })[] = [];
  let firstFull = -1;
  // as many cells as most rows have
  const counts = rows.slice(0, SAMPLE).map((r) => r.filter((c) => c.trim()).length);
  const usual = counts.filter((n) => n > 1).sort((a, b) => a - b)[Math.floor(counts.filter((n) => n > 1).length / 2)] ?? 2;
  for (let at = 0; at < Math.min(rows.length, HEAD_ROWS); at++) {
    if (hidden.has(at)) continue;
    const cells = cellsOf(rows[at]).slice(0, width);
    const full = cells.filter(Boolean).length;
    if (full < 2) continue;
    if (firstFull < 0 && full >= usual * 0.6) firstFull = at;
    // what stands in the same column below is no heading of it
    if (cells.filter((c, i) => c && rows.slice(at + 1, at + 30).some((r) => (r[i] ?? '').trim() === c)).length >= Math.max(1, full * 0.3)) continue;
    // far down only a row of well-known headings is one
    if (firstFull >= 0 && at > firstFull + NEAR && cells.filter((c) => c && isKnownHeading(c)).length < 2) continue;
    for (const heads of [cells, ...grouped(rows[at - 1], cells)]) {
      const says = heads.map(saysAsHeading);
      const known = says.filter((s) => s.size).length;
      const asks = says.some((s) => s.has('question'));
      // letters alone head options, and so do keys: only with a question, or with most of the row known
      if (known < 2 && !(asks && full === 2)) continue;
      const sure = says.reduce((n, s) => n + Math.max(0, ...s.values()), 0) / 3;
      out.push({
        at,
        heads,
        says,
        known: true,
        score: sure + (asks ? 3 : 0) - (full - known) * 0.3 - cells.filter((c) => c.length > 60 || /\?\s*$/.test(c)).length,
      });
    }
  }
  const likely = out
    .sort((a, b) => b.score - a.score)
    .filter((h) => h.score > 0)
    .slice(0, 3);
  const cells = cellsOf(rows[firstFull]).slice(0, width);
  const guessed: Head[] =
    likely.some((h) => h.at === firstFull) || firstFull < 0 ? [] : [{ at: firstFull, heads: cells, says: cells.map(saysAsHeading), known: false }];
  return [...likely, ...guessed, none];
}

/** What a cell says as a heading; a question says nothing. */
const saysAsHeading = (cell: string): HeadingSays => (cell.length > 20 && /\?\s*$/.test(cell) ? NO_SAYS : saysOf(cell));
const NO_SAYS: HeadingSays = new Map();

/** Headings under a row that groups them: "Options" above A, B, C; a cell of the group counts for the columns up to the next. */
function grouped(above: Row | undefined, cells: readonly string[]): string[][] {
  const groups = cellsOf(above);
  const full = groups.filter(Boolean);
  if (full.length < 1 || full.some((g) => g.length > 40) || full.length >= cells.filter(Boolean).length + 2) return [];
  let group = '';
  return [
    cells.map((c, i) => {
      if (groups[i]) group = groups[i] ?? '';
      else if (!c) return '';
      if (!c) return group;
      // what says enough by itself may stand beyond the group
      const own = firstSaid(saysOf(c));
      return group && (own === '' || /^(?:key|option|options|right option|wrong option|number|mark|from|to)$/.test(own)) ? `${group} ${c}` : c;
    }),
  ];
}

// ── columns ──

/** What the cells of a column say for a use, without its heading. */
function fitOf(f: ColumnFacts, use: ColumnUse): number {
  switch (use) {
    case 'question':
      return f.asks * 0.5 + (f.length >= 15 ? 0.3 : f.length >= 8 ? 0.1 : -0.3) + (f.distinct < 0.3 ? -0.4 : 0) - (f.letters > 0.5 || f.numbers > 0.5 ? 1 : 0);
    case 'number':
      return f.rising > 0.6 ? 0.4 : f.distinct > 0.6 && f.length < 9 && f.numbers > 0.8 ? 0.1 : f.length > 12 ? -0.6 : -0.1;
    case 'points':
      return f.numbers > 0.7 && f.most <= 100 && f.least > 0 ? (f.distinct < 0.6 ? 0.2 : 0.05) : f.length < 12 && f.numbers > 0.4 ? -0.1 : -0.6;
    case 'time':
      return f.clock > 0.7 ? 0.4 : f.numbers > 0.8 && f.least >= 5 ? 0.15 : -0.5;
    case 'kind':
      return f.kinds > 0.7 ? 0.6 : -0.6;
    case 'feedback':
    case 'feedback right':
    case 'feedback wrong':
    case 'hint':
      return f.length > 15 && f.wordy > 0.4 ? 0.2 : f.length < 4 ? -0.5 : 0;
    case 'tags':
      return f.length < 30 && f.numbers < 0.5 ? (f.distinct < 0.7 ? 0.15 : 0) : -0.2;
    case 'from':
    case 'to':
    case 'tolerance':
      return f.numbers > 0.6 ? 0.2 : -0.8;
    case 'unit':
      return f.length < 10 && f.numbers < 0.3 ? 0.1 : -0.5;
    case 'mark':
      return f.filled === 0 ? 0 : f.marks > 0.95 ? 0.4 : f.shares > 0.95 ? 0.1 : -2;
    case 'true mark':
    case 'false mark':
      return f.marks > 0.95 && f.filled < 0.95 ? 0.4 : -2;
    case 'key':
      return f.rising > 0.6 ? -1.2 : f.wordy > 0.6 && f.length > 25 ? -0.3 : 0;
    case 'option':
    case 'wrong option':
    case 'right option':
      return (
        -(hasOneSign(f) ? W.oneSign : f.marks > 0.95 ? 0.8 : 0) -
        (f.kinds > 0.9 ? 0.4 : 0) -
        (f.asks > 0.5 ? 0.3 : 0) -
        (f.letters > 0.8 && f.distinct < 0.5 ? 0.4 : 0) -
        (f.wordy > 0.9 && f.length > 120 ? 0.2 : 0)
      );
    case 'options':
      return f.several > 0.6 ? 0.3 : -0.8;
    case 'option feedback':
      return f.length > 15 ? -0.1 : -0.3;
    case 'part':
    case 'passage':
      return f.distinct < 0.8 ? 0.1 : 0;
    default:
      return 0;
  }
}

/** What a use of a column is worth, by its heading and its cells: every explanation asks, so each is weighed once. */
function worthOfColumn(g: Ground, c: number, use: ColumnUse): number {
  const known = g.worths[c]?.get(use);
  if (known !== undefined) return known;
  const worth = weighedColumn(g, c, use);
  g.worths[c]?.set(use, worth);
  return worth;
}
function weighedColumn(g: Ground, c: number, use: ColumnUse): number {
  const f = g.facts[c] as ColumnFacts;
  const says = g.head.says[c];
  const most = says?.size ? Math.max(...says.values()) : 0;
  // what heads keys heads the right option as well, where it says words of its own
  const said = says?.get(use) ?? (use === 'right option' ? (says?.get('key') ?? says?.get('option')) : undefined) ?? 0;
  if (use === 'ignore') {
    if (said) return W.heading[said] ?? 0;
    const lost = f.length > 20 && f.wordy > 0.5 ? W.unusedText : W.unused;
    return f.filled * (most > 1 ? W.unusedSaid : lost);
  }
  const marks = use === 'mark' && headsMarks(g, c);
  // "Item", "Question" head the numbers as often as the words
  const numbers = use === 'number' && f.rising > 0.6 && says?.has('question');
  const heading = marks
    ? (W.heading[3] ?? 0)
    : numbers
      ? 0
      : said
        ? (W.heading[said] ?? 0)
        : most > 1
          ? W.headingOther
          : g.head.heads[c]?.trim()
            ? W.headingUnknown
            : 0;
  return heading + fitOf(f, use);
}

/** Uses that stand beside question, options and key. */
const BESIDE: readonly ColumnUse[] = [
  'number',
  'kind',
  'points',
  'feedback',
  'feedback right',
  'feedback wrong',
  'hint',
  'tags',
  'outcome',
  'difficulty',
  'time',
  'picture',
  'passage',
  'part',
  'tolerance',
  'unit',
  'accepted',
  'option feedback',
];
/** Of these there is one in a table. */
const ONCE: ReadonlySet<ColumnUse> = new Set(['number', 'kind', 'points', 'time', 'difficulty', 'key', 'tolerance', 'unit', 'picture', 'part', 'passage']);
/** Whether the cells of a column tell the use without a heading. */
function toldByCells(f: ColumnFacts, use: ColumnUse): boolean {
  switch (use) {
    case 'number':
      return f.rising > 0.6;
    case 'kind':
      return f.kinds > 0.7;
    case 'points':
      return f.numbers > 0.9 && f.distinct < 0.5 && f.most <= 20 && f.least > 0;
    case 'time':
      return f.clock > 0.7 || (f.numbers > 0.9 && f.distinct < 0.5 && f.least >= 10 && f.most <= 600);
    case 'feedback':
      return f.wordy > 0.4 && (f.length > 25 || (f.sentences > 0.6 && f.length > 10));
    case 'tags':
      return f.distinct < 0.6 && f.numbers < 0.2 && f.wordy < 0.3 && f.length > 2 && f.length < 30;
    default:
      return false;
  }
}

/** A use that a column may have beside question, options and key, with what it gains; unsaid, some uses have their place. */
interface Beside {
  c: number;
  use: ColumnUse;
  gain: number;
  place?: 'in front' | 'behind';
}

/** The uses that columns may have beside a column of questions, the best first. Every explanation asks, so each column of questions is looked at once. */
function besideOf(g: Ground, q: number): { none: ReadonlyMap<number, number>; uses: readonly Beside[] } {
  const known = g.beside.get(q);
  if (known) return known;
  const none = new Map<number, number>();
  const uses: Beside[] = [];
  for (let c = 0; c < g.width; c++) {
    const facts = g.facts[c];
    if (g.hiddenColumns.has(c) || !facts?.filled) continue;
    const within = g.differsWithin(q, c);
    const without = within && facts.numbers > 0.9 ? 0 : worthOfColumn(g, c, 'ignore');
    none.set(c, without);
    for (const use of BESIDE) {
      if (within && (use === 'number' || use === 'points' || use === 'time')) continue;
      const said = g.head.says[c]?.get(use) ?? 0;
      if (!said && !toldByCells(facts, use)) continue;
      const gain = worthOfColumn(g, c, use) - without;
      if (gain <= 0) continue;
      // numbers stand in front, feedback and tags behind
      const place = said ? undefined : use === 'number' ? 'in front' : use === 'feedback' ? 'behind' : undefined;
      uses.push({ c, use, gain, ...(place && { place }) });
    }
  }
  const found = { none, uses: uses.sort((a, b) => b.gain - a.gain) };
  g.beside.set(q, found);
  return found;
}

/** The best use of each column that the structure leaves over. */
function withRest(g: Ground, fixed: ReadonlyMap<number, ColumnUse>): { uses: ColumnUse[]; worth: number } {
  const uses: ColumnUse[] = Array.from({ length: g.width }, (_, c) => fixed.get(c) ?? 'ignore');
  const taken = new Set([...fixed.values()].filter((u) => ONCE.has(u)));
  const last = Math.max(0, ...fixed.keys());
  const q = [...fixed].find(([, u]) => u === 'question')?.[0] ?? 0;
  const beside = besideOf(g, q);
  let worth = 0;
  for (const [c, use] of fixed) worth += worthOfColumn(g, c, use);
  for (const [c, none] of beside.none) if (!fixed.has(c)) worth += none;
  for (const { c, use, gain, place } of beside.uses) {
    if (fixed.has(c) || uses[c] !== 'ignore' || taken.has(use)) continue;
    if ((place === 'in front' && c > last) || (place === 'behind' && c < last)) continue;
    uses[c] = use;
    if (ONCE.has(use)) taken.add(use);
    worth += gain;
  }
  return { uses, worth };
}

// ── explanations ──

/** How options are found: the columns of a structure with their uses, the layout, the options of a row. */
interface Structure {
  uses: ReadonlyMap<number, ColumnUse>;
  layout: TableLayout;
  separator: string;
  worth: number;
  /** The options of a row, to see whether keys name them; none where rows are joined. */
  optionsOf(row: Row): string[];
}

function candidatesOf(g: Ground): Candidate[] {
  const questions = Array.from({ length: g.width }, (_, c) => ({
    c,
    worth: g.hiddenColumns.has(c) ? -9 : worthOfColumn(g, c, 'question') + Math.min(0.4, (g.facts[c]?.length ?? 0) / 200),
  }))
    .filter((q) => q.worth > -0.6 && (g.facts[q.c]?.filled ?? 0) > 0.1)
    .sort((a, b) => b.worth - a.worth)
    .slice(0, 3);
  const out: Candidate[] = [];
  const seen = new Set<string>();
  for (const q of questions)
    for (const s of likeliest(g, q.c, structuresOf(g, q.c)))
      for (const k of likeliestKeys(g, keysOf(g, q.c, s))) {
        const fixed = new Map<number, ColumnUse>([[q.c, 'question'], ...s.uses, ...k.uses]);
        const { uses, worth } = withRest(g, fixed);
        const mapping: Mapping = {
          header: g.head.at,
          columns: uses,
          layout: s.layout,
          keyForm: k.form,
          separator: s.separator,
          hidden: g.hidden,
          ...(k.signs && { truthSigns: [k.signs[0], k.signs[1]] as [string, string] }),
        };
        const id = JSON.stringify(mapping);
        if (seen.has(id)) continue;
        seen.add(id);
        const head = g.head.at < 0 ? 0 : (g.head.known ? W.headKnown : W.headUnknown) + skippedOf(g) * W.headSkips;
        out.push({ mapping, columns: worth + s.worth + k.worth + head + leftOut(g, uses) });
      }
  return out;
}

/** Rows above the headings that are as full as the table: questions that would be lost. */
function skippedOf(g: Ground): number {
  const full = cellsOf(g.sheet.rows[g.head.at]).filter(Boolean).length;
  const above = g.sheet.rows.slice(0, g.head.at).filter((r) => r.filter((c) => c.trim()).length >= Math.max(3, full * 0.8));
  // a row of groups may stand right above
  return Math.min(3, above.length);
}

/** What it costs that columns like the options stand next to them and are none. */
function leftOut(g: Ground, uses: readonly ColumnUse[]): number {
  const options = uses.flatMap((u, c) => (u === 'option' ? [c] : []));
  const [first = -1] = options;
  const last = options[options.length - 1] ?? -1;
  let cost = 0;
  for (const c of [first - 2, first - 1, last + 1, last + 2])
    if (
      options.length &&
      uses[c] &&
      uses[c] !== 'question' &&
      uses[c] !== 'key' &&
      !/option/.test(uses[c]) &&
      !g.head.says[c]?.size &&
      g.facts[c]?.filled &&
      alike(g, first, c)
    )
      cost += W.likeOption;
  const named = new Set(options.map((c) => g.names[c] ?? '').filter(Boolean));
  if (options.length)
    uses.forEach((u, c) =>
      u === 'ignore' && g.facts[c]?.filled && (firstSaid(g.head.says[c]) === 'option' || named.has(g.names[c] ?? '')) ? (cost += W.optionLeft) : 0,
    );
  return cost;
}

/** The structures that the columns speak for most; all that join rows, which columns say little of. */
function likeliest(g: Ground, q: number, all: readonly Structure[]): Structure[] {
  const worth = (s: Structure): number => s.worth + withRest(g, new Map([[q, 'question' as const], ...s.uses])).worth;
  const best = (of: readonly Structure[], most: number): Structure[] =>
    of
      .map((s) => ({ s, worth: worth(s) }))
      .sort((a, b) => b.worth - a.worth)
      .slice(0, most)
      .map((c) => c.s);
  const joining = all.filter((s) => s.layout !== 'row' || !s.uses.size);
  return [
    ...best(
      all.filter((s) => s.layout === 'row'),
      STRUCTURES_MOST,
    ),
    ...(joining.length > JOINED_MOST ? best(joining, JOINED_MOST) : joining),
  ];
}

/** The ways of finding keys that their columns speak for most, where a wide table has very many; in their order. */
function likeliestKeys(g: Ground, all: ReturnType<typeof keysOf>): ReturnType<typeof keysOf> {
  if (all.length <= KEYS_MOST) return all;
  const worth = (k: (typeof all)[number]): number => [...k.uses].reduce((sum, [c, use]) => sum + worthOfColumn(g, c, use), k.worth);
  const best = new Set([...all].sort((a, b) => worth(b) - worth(a)).slice(0, KEYS_MOST));
  return all.filter((k) => best.has(k));
}

/** Explanations of tables with several questions side by side: the columns of the first are explained, and the others alike. */
function repeated(g: Ground): Candidate[] {
  const { names } = g;
  const first = names.findIndex((n, c) => n !== '' && g.head.says[c]?.has('question') && names.indexOf(n, c + 1) > 0);
  if (first < 0) return [];
  const period = names.indexOf(names[first] ?? '', first + 1) - first;
  let lead = 0;
  while (lead < first && names[first - 1 - lead] && names[first - 1 - lead] === names[first + period - 1 - lead]) lead++;
  const start = first - lead;
  const times = Math.floor((g.width - start) / period);
  const same = Array.from({ length: period * times }, (_, i) => i).filter((i) => names[start + i] === names[start + (i % period)]).length;
  if (period < 2 || times < 2 || same < period * times * 0.9) return [];
  const beyond = Array.from({ length: g.width }, (_, c) => c).filter((c) => c >= start + period);
  const one = candidatesOf({ ...g, hiddenColumns: new Set([...g.hiddenColumns, ...beyond]), beside: new Map() });
  return one.map(({ mapping, columns }) => ({
    mapping: {
      ...mapping,
      columns: mapping.columns.map((u, c) =>
        c < start + period ? u : c < start + period * times ? (mapping.columns[start + ((c - start) % period)] ?? 'ignore') : 'ignore',
      ),
    },
    columns: columns * times,
  }));
}

const NOTHING: readonly string[] = [];
const cell = (row: Row, c: number): string => (row[c] ?? '').trim();

/** The ways in which a table with its questions in one column may hold options. */
function structuresOf(g: Ground, q: number): Structure[] {
  const { facts, head, width } = g;
  const out: Structure[] = [];
  const free = Array.from({ length: width }, (_, c) => c).filter((c) => c !== q && !g.hiddenColumns.has(c) && present(g, c));
  const headed = (...uses: ColumnUse[]): number[] =>
    free.filter((c) => {
      const says = head.says[c];
      return says?.size && uses.some((u) => says.get(u) === Math.max(...says.values()));
    });
  const inColumns = (uses: ReadonlyMap<number, ColumnUse>, worth = 0): void => {
    const own = [...uses].flatMap(([c, u]) => (u.endsWith('option') ? [c] : [])).sort((a, b) => a - b);
    if (own.length < 2) return;
    out.push({ uses, layout: 'row', separator: '|', worth, optionsOf: (r) => unlabelled(own.map((c) => cell(r, c)).filter(Boolean)) });
  };
  const options = (columns: readonly number[]): Map<number, ColumnUse> => new Map(columns.map((c) => [c, 'option' as const]));

  /** Options with a mark, a reason or both beside each: the same columns for every option. */
  const woven = (run: readonly number[], period: number): void => {
    for (let n = 2; n * period <= run.length && n <= 8; n++) {
      const at = (offset: number): number[] => Array.from({ length: n }, (_, i) => run[i * period + offset] as number);
      const uses = new Map<number, ColumnUse>();
      let optionsAt = -1;
      for (let offset = 0; offset < period; offset++) {
        const own = at(offset);
        if (own.every((c) => marksColumn(g, c))) own.forEach((c) => uses.set(c, 'mark'));
        else if (optionsAt < 0) {
          optionsAt = offset;
          own.forEach((c) => uses.set(c, 'option'));
        } else if (period > 2 || own.every((c) => head.says[c]?.has('option feedback') || head.says[c]?.has('feedback')))
          own.forEach((c) => uses.set(c, 'option feedback'));
      }
      if (optionsAt >= 0 && uses.size === n * period) inColumns(uses, 0.3);
    }
  };

  // as the headings say, with columns without a heading between them
  const said = headed('option', 'wrong option');
  const wrong = headed('wrong option');
  if (said.length) {
    const [from, to] = [Math.min(...said), Math.max(...said)];
    const between = free.filter((c) => c > from && c < to && !said.includes(c) && !head.heads[c]?.trim());
    for (const more of between.length ? [between, []] : [[]]) {
      const all = [...said, ...more].sort((a, b) => a - b);
      const right = headed('key', 'right option').filter((c) => !all.includes(c));
      if (wrong.length)
        for (const r of right) inColumns(new Map([...options(all), ...wrong.map((c) => [c, 'wrong option'] as const), [r, 'right option']]), 0.2);
      for (const r of right) if (!wrong.length) inColumns(new Map([...all.map((c) => [c, 'wrong option'] as const), [r, 'right option']]), -0.3);
      const sayRight = all.filter((c) => SAYS_RIGHT.test(head.heads[c] ?? ''));
      if (sayRight.length === 1 && sayRight[0] !== undefined) inColumns(new Map([...options(all), [sayRight[0], 'right option']]), 1);
      inColumns(options(all.filter((c) => !wrong.includes(c) || wrong.length === all.length)));
      inColumns(options(all));
    }
  }
  // headings that only count: "1", "2", "3" or the same word again
  const counted = free.filter((c) => /(?:^|\s)(?:[1-9]|[ivx]{1,4})$/i.test(head.heads[c]?.trim() ?? ''));
  if (counted.length > 1) inColumns(options(counted), 0.3);
  for (const name of new Set(free.map((c) => g.names[c] ?? '').filter(Boolean))) {
    const columns = free.filter((c) => g.names[c] === name);
    if (columns.length > 1 && columns.every((c) => (facts[c]?.marks ?? 0) < 0.95 || (facts[c]?.length ?? 0) > 2)) inColumns(options(columns), 0.3);
  }
  // by what stands where: columns in a row, behind the question or in front of it
  for (const side of [free.filter((c) => c > q), free.filter((c) => c < q)]) {
    const run: number[] = [];
    for (const c of side) if (!run.length || c - (run[run.length - 1] ?? 0) <= 1) run.push(c);
    for (let from = 0; from < Math.min(run.length, 6); from++)
      for (let to = from + 2; to <= Math.min(run.length, from + 10); to++)
        inColumns(options(run.slice(from, to)), run.slice(from, to).every((c) => alike(g, run[from] ?? c, c)) ? 0.1 : -0.3);
    // one column beside them is headed as the key, and says words of its own
    for (const r of headed('key', 'right option')) {
      const own = run.filter(
        (c) => c !== r && (facts[c]?.filled ?? 0) > 0.3 && alike(g, r, c) && !/^(?:points|time|number|ignore)$/.test(firstSaid(head.says[c])),
      );
      if (own.length > 1 && (facts[r]?.filled ?? 0) > 0.8) inColumns(new Map([...own.map((c) => [c, 'wrong option'] as const), [r, 'right option']]), -0.2);
    }
    for (const period of [2, 3, 4]) for (let from = 0; from < Math.min(period, run.length); from++) woven(run.slice(from), period);
  }
  // all in one cell
  for (const c of free) {
    const cells = g.rows.map((r) => cell(r, c)).filter(Boolean);
    const labelled = cells.filter((x) => optionsIn(x, ' ').length > 1).length;
    for (const separator of optionSeparators) {
      const fit = cells.filter((x) => optionsIn(x, separator).length > 1).length;
      if (fit < cells.length * 0.6 || cells.length < 2 || (separator === ',' && (facts[c]?.wordy ?? 0) > 0.9 && !head.says[c]?.has('options'))) continue;
      out.push({
        uses: new Map([[c, 'options']]),
        layout: 'row',
        separator,
        worth: labelled === cells.length ? 0.1 : separator === ',' || separator === '/' ? -0.3 : 0,
        optionsOf: (r) => unlabelled(optionsIn(cell(r, c), separator)),
      });
      break;
    }
  }
  out.push(...joined(g, q, free));
  out.push(...packed(g, q));
  const [lefts, partners] = [headed('left'), headed('partner')];
  if (lefts.length && lefts.length === partners.length)
    out.push({
      uses: new Map([...lefts.map((c) => [c, 'left'] as const), ...partners.map((c) => [c, 'partner'] as const)]),
      layout: 'row',
      separator: '|',
      worth: 0.2,
      optionsOf: () => [],
    });
  // kinds that share a table each have columns of their own
  const steps = headed('step');
  const gaps = headed('gap');
  const least = headed('from');
  const greatest = free.filter((c) => !least.includes(c) && head.says[c]?.has('to'));
  // the title, a heading or the questions ask for an order
  const asked = `${g.words} ${g.rows
    .slice(0, 20)
    .map((r) => cell(r, q))
    .join(' ')}`;
  if (ORDERS.test(asked))
    for (const o of out.slice()) {
      const own = [...o.uses].filter(([, u]) => u === 'option');
      if (own.length > 2 && own.length === o.uses.size)
        out.push({ ...o, uses: new Map(own.map(([c]) => [c, 'step' as const])), worth: o.worth + 0.6, optionsOf: () => [] });
    }
  // as many columns of one sort as the questions have blanks
  const blanks = g.rows.map((r) => cell(r, q).match(BLANK)?.length ?? 0).filter((n) => n > 0);
  const most = Math.max(0, ...blanks);
  if (!gaps.length && most >= 2 && blanks.length > g.rows.length * 0.5)
    for (const c of free) {
      const run = free.filter((d) => d >= c && d < c + most && alike(g, c, d) && (facts[d]?.numbers ?? 1) < 0.8);
      if (run.length === most) out.push({ uses: new Map(run.map((d) => [d, 'gap' as const])), layout: 'row', separator: '|', worth: 0.2, optionsOf: () => [] });
    }
  const special = new Map<number, ColumnUse>([
    ...(steps.length > 1 ? steps.map((c) => [c, 'step'] as const) : []),
    ...gaps.map((c) => [c, 'gap'] as const),
    ...(least.length === 1 && greatest.length === 1 ? [...least.map((c) => [c, 'from'] as const), ...greatest.map((c) => [c, 'to'] as const)] : []),
  ]);
  out.push({ uses: new Map(), layout: 'row', separator: separatorAround(g), worth: 0, optionsOf: () => [] });
  if (special.size)
    for (const s of out.slice()) {
      const fits = [...special].filter(([c]) => c !== q && !s.uses.has(c));
      if (fits.length) out.push({ ...s, uses: new Map([...s.uses, ...fits]), worth: s.worth + 0.3 });
    }
  return out;
}

const firstSaid = (says: HeadingSays | undefined): ColumnUse | '' => [...(says ?? [])][0]?.[0] ?? '';

/** Whether a heading stands over marks: it says so, or it stands over several columns. */
function headsMarks(g: Ground, c: number): boolean {
  const head = g.head.heads[c]?.trim() ?? '';
  const name = g.names[c] ?? '';
  const again = g.head.heads.filter((h, i) => (name === '' ? h.trim() === head && head !== '' : g.names[i] === name)).length;
  return MARK_HEADING.test(head.replace(/[?.:]$/, '')) || again > 1 || (SAYS_RIGHT.test(head) && hasOneSign(g.facts[c]));
}

/** Whether one sign of right stands here and there in a column, and nothing else. */
const hasOneSign = (f: ColumnFacts | undefined): boolean =>
  f !== undefined && f.marks > 0.95 && f.filled > 0 && f.filled < 0.95 && [...f.values].filter(Boolean).length === 1;

/** Whether a column counts: it holds something, or is headed like others that do. */
function present(g: Ground, c: number): boolean {
  const name = g.names[c] ?? '';
  return (g.facts[c]?.filled ?? 0) > 0 || (name !== '' && g.names.some((n, i) => i !== c && n === name)) || marksColumn(g, c);
}

/** Whether a column says of something else that it is right: by marks, or by shares under such a heading. */
function marksColumn(g: Ground, c: number): boolean {
  const f = g.facts[c];
  if (!f) return false;
  // where no option of its place is ever right, the column is empty
  if (f.filled === 0) {
    const name = g.names[c] ?? '';
    return MARK_HEADING.test(g.head.heads[c]?.trim() ?? '') || (name !== '' && g.facts.some((o, i) => o.marks > 0.95 && g.names[i] === name));
  }
  // shares have noughts among them, and all of something; what counts from one is a number of the option
  const shares = f.shares > 0.95 && (f.least <= 0 || f.filled < 0.9) && (f.most === 1 || f.most === 100 || headsMarks(g, c));
  return (f.marks > 0.95 && !(f.numbers > 0.9 && f.least > 0 && f.filled > 0.9)) || shares;
}

/** Words that ask to put something in order. */
const ORDERS = KIND_WORDS.find(([, kind]) => kind === 'ordering')?.[0] ?? /$^/;

/** A heading without the letter or number that counts it, so that "Antwort A" and "Antwort B" are the same. */
const bareHead = (heading: string): string =>
  heading
    .trim()
    .toLowerCase()
    .slice(0, 80)
    // bounded: 80 characters
    .replace(/[\s_-]*[([]?(?:[a-h]|\d{1,2})[)\]]?$/, '')
    .trim();

/** Columns whose cells are of one sort: as long, as often numbers. */
function alike(g: Ground, a: number, b: number): boolean {
  const [x, y] = [g.facts[a], g.facts[b]];
  if (!x || !y) return false;
  return Math.max(x.length, y.length) <= 3 * Math.min(x.length, y.length) + 6 && Math.abs(x.numbers - y.numbers) < 0.5 && y.marks < 0.95 === x.marks < 0.95;
}

/** What parts lists in cells where no structure says it. */
function separatorAround(g: Ground): string {
  const cells = g.rows.flat().filter((c) => c.length < 400);
  return optionSeparators.find((s) => s !== ',' && s !== '/' && cells.filter((c) => c.includes(s)).length > g.rows.length * 0.2) ?? ';';
}

/** Whether a row goes on with the question of the one above: it has none, or the same again. */
const follows = (row: Row, above: Row, q: number): boolean => !cell(row, q) || cell(row, q) === cell(above, q);

/** `Ground.differsWithin` for rows: every explanation asks, so each pair of columns is looked at once. */
function differingWithin(rows: readonly Row[]): Ground['differsWithin'] {
  const kept = new Map<string, boolean>();
  const find = (q: number, c: number): boolean => {
    let pairs = 0;
    let other = 0;
    rows.forEach((r, i) => {
      const above = rows[i - 1];
      if (!above || !follows(r, above, q) || cell(r, q) === '' || cell(r, c) === '') return;
      pairs++;
      if (cell(r, c) !== cell(above, c)) other++;
    });
    return pairs > rows.length * 0.3 && other > pairs * 0.8;
  };
  return (q, c) => {
    const id = `${q},${c}`;
    const found = kept.get(id) ?? find(q, c);
    kept.set(id, found);
    return found;
  };
}

/** Whether a column counts the rows of each question: the number of an option. */
function countsWithin(g: Ground, q: number, c: number): boolean {
  const pairs = g.rows.flatMap((r, i) =>
    i > 0 && follows(r, g.rows[i - 1] ?? [], q) ? [[Number(cell(g.rows[i - 1] ?? [], c) || Number.NaN), Number(cell(r, c) || Number.NaN)] as const] : [],
  );
  return pairs.length > 2 && pairs.filter(([a, b]) => b === a + 1).length > pairs.length * 0.8;
}

/** Words that ask to match, wherever they stand in a question. From memory. */
const MATCHES = /match|pair|zuordn|ordne|verbind|relacion|empare|associ|reli|abbina|colleg|koppel|dopasuj|połącz|соответ|соедин|відповідн|eşle/i;

/** Options, pairs or steps in rows of their own. */
function joined(g: Ground, q: number, free: readonly number[]): Structure[] {
  const { facts, rows, head } = g;
  const out: Structure[] = [];
  // a row may hold nothing but its option, in a column of its own
  const full = rows.filter((r) => r.filter((c) => c.trim()).length > 1 || (!cell(r, q) && free.some((c) => c > q && cell(r, c))));
  const number = free.filter((c) => c < q && (facts[c]?.length ?? 99) < 10)[0];
  const following = full.filter((r, i) => {
    const above = full[i - 1];
    if (!above) return false;
    const same = number !== undefined && cell(r, number) !== '' && cell(r, number) === cell(above, number);
    return follows(r, above, q) || same;
  }).length;
  if (following >= full.length * 0.3) {
    // what is said anew in the rows that follow is said of their option
    const reasons = free.filter(
      (c) =>
        head.says[c]?.has('feedback') &&
        full.some((r, i) => i > 0 && follows(r, full[i - 1] ?? [], q) && cell(r, c) && cell(r, c) !== cell(full[i - 1] ?? [], c)),
    );
    const base = (uses: ReadonlyMap<number, ColumnUse>, worth: number): void => {
      const own = [...uses.values()].includes('option') ? reasons.filter((c) => !uses.has(c)) : [];
      out.push({
        uses: new Map<number, ColumnUse>([...uses, ...own.map((c) => [c, 'option feedback'] as const)]),
        layout: 'grouped',
        separator: '|',
        worth: worth + W.grouped + own.length * 0.8,
        optionsOf: () => [],
      });
    };
    for (const c of free) {
      if (c === number || (facts[c]?.filled ?? 0) < 0.4 || countsWithin(g, q, c)) continue;
      base(new Map([[c, 'option']]), 0);
      if (head.says[c]?.has('step')) base(new Map([[c, 'step']]), 0.2);
      if (head.says[c]?.has('accepted') || head.says[c]?.has('key')) base(new Map([[c, 'accepted']]), -0.3);
    }
    const asked = MATCHES.test(full.map((r) => cell(r, q)).join(' '));
    for (const left of free)
      for (const right of free)
        if (
          right > left &&
          (facts[left]?.filled ?? 0) > 0.4 &&
          (facts[right]?.filled ?? 0) > 0.4 &&
          left !== number &&
          (facts[left]?.marks ?? 1) < 0.9 &&
          (facts[right]?.marks ?? 1) < 0.9
        ) {
          const said = (head.says[left]?.has('left') ? 0.3 : 0) + (head.says[right]?.has('partner') ? 0.3 : 0);
          if (said > 0 || asked)
            base(
              new Map([
                [left, 'left'],
                [right, 'partner'],
              ]),
              said + (asked ? 0.3 : -0.2),
            );
        }
  }
  // options below their question, in its own column
  const labels = number !== undefined ? full.filter((r) => /^[([]?[a-h][.)\]:]?$/i.test(cell(r, number))).length : 0;
  const inFront = full.filter((r) => /^[([]?[a-h][.)\]:]\s*\S/i.test(cell(r, q))).length;
  const unnumbered = number !== undefined ? full.filter((r) => !cell(r, number) && cell(r, q)).length : 0;
  const below = Math.max(labels, inFront, unnumbered);
  if (below >= full.length * 0.4 && below < full.length)
    out.push({ uses: number === undefined ? new Map() : new Map([[number, 'number']]), layout: 'below', separator: '|', worth: W.below, optionsOf: () => [] });
  return out;
}

/** Question and options in one cell. */
function packed(g: Ground, q: number): Structure[] {
  const cells = g.rows.map((r) => cell(r, q)).filter(Boolean);
  const with2 = cells.filter((c) => {
    const [a, b] = [/(?:^|\s)[([]?a[.)\]]/i, /\s[([]?b[.)\]]/i].map((label) => c.search(label));
    return a !== undefined && b !== undefined && a >= 0 && b > a;
  }).length;
  return with2 >= cells.length * 0.5 && with2 > 0 ? [{ uses: new Map(), layout: 'packed', separator: '|', worth: W.packed, optionsOf: () => [] }] : [];
}

/** "Correct first" in a heading or a title. From memory. */
const FIRST_SAID =
  /(?:right|correct|key)\p{L}*(?: (?:one|answer|option|is|are|comes|stands|always))* (?:first|on top)|(?:richtig|korrekt)\p{L}*(?: \p{L}+){0,3} (?:zuerst|zuoberst|vorn|als erstes?)|(?:correct[ao]|cert[ao]|giust[ao]|corrett[ao]|juste|bonne)(?: \p{L}+){0,3} (?:primer[oa]?|primeir[oa]|per prim[ao]|d'abord|en premier)|первы[йм](?: \p{L}+){0,2} (?:верн|правильн)/iu;

/** A way in which the keys may be said. */
interface Keying {
  uses: ReadonlyMap<number, ColumnUse>;
  form: KeyForm;
  worth: number;
  signs?: readonly [string, string];
}

/** The ways in which the keys of a structure may be said. */
function keysOf(g: Ground, q: number, s: Structure): Keying[] {
  const { facts, head, width } = g;
  const free = Array.from({ length: width }, (_, c) => c).filter((c) => c !== q && !s.uses.has(c) && !g.hiddenColumns.has(c) && present(g, c));
  const own = [...s.uses].filter(([, u]) => u.endsWith('option')).map(([c]) => c);
  const out: Keying[] = [];
  const none = (): Keying => ({ uses: new Map(), form: 'letters', worth: 0 });
  const said = FIRST_IS_RIGHT.test(g.words) || FIRST_SAID.test(g.words);
  const keyedAlready = [...s.uses.values()].some((u) => u === 'mark' || u === 'right option');
  if (keyedAlready) return [none()];
  out.push(none());
  const firsts = own.length > 1 || [...s.uses.values()].includes('options');
  const choices = firsts || s.uses.size === 0;
  // the first of all that are like it, not of some
  const before = (own[0] ?? 0) - 1;
  const cut = before !== q && before >= 0 && alike(g, own[0] ?? 0, before) && (facts[before]?.filled ?? 0) > 0;
  if (firsts && said && !cut) out.push({ ...none(), form: 'first', worth: W.firstSaid });
  // marks behind all options in the same order, one for each
  if (own.length > 1) {
    const marks = free.filter((c) => marksColumn(g, c));
    for (let i = 0; i + own.length <= marks.length; i++) {
      const run = marks.slice(i, i + own.length);
      out.push({
        uses: new Map(run.map((c) => [c, 'mark' as const])),
        form: 'letters',
        worth: run.some((c) => MARK_HEADING.test(head.heads[c]?.trim() ?? '')) ? 0.5 : 0.2,
      });
    }
  }
  // a column for true and one for false
  for (const t of free)
    for (const f of free) {
      if (t === f || !TRUE_HEAD.test(head.heads[t]?.trim() ?? '') || !FALSE_HEAD.test(head.heads[f]?.trim() ?? '')) continue;
      if ([t, f].every((c) => (facts[c]?.marks ?? 0) > 0.95))
        out.push({
          uses: new Map([
            [t, 'true mark'],
            [f, 'false mark'],
          ]),
          form: 'letters',
          worth: 1,
        });
    }
  for (const c of free) {
    const f = facts[c] as ColumnFacts;
    const key = new Map<number, ColumnUse>([[c, 'key']]);
    const bareRows = g.rows.filter((r) => cell(r, c) && s.optionsOf(r).length < 2);
    const signs = signsFor(bareRows, q, c, head.heads[c] ?? '');
    if (s.layout === 'grouped' || s.layout === 'below') {
      const markLike = marksColumn(g, c);
      if (markLike && (s.layout === 'below' || own.length))
        out.push({
          uses: new Map([[c, 'mark']]),
          form: 'letters',
          worth: 0.2 + (head.says[c]?.has('key') || MARK_HEADING.test(head.heads[c]?.trim() ?? '') ? 0.6 : 0),
          ...signs,
        });
      // what counts from row to row is the number of the option
      const counted = g.rows.filter((r, i) => i > 0 && Number(cell(r, c)) === Number(cell(g.rows[i - 1] ?? [], c)) + 1).length;
      if (counted > g.rows.length * 0.5) continue;
      for (const form of f.numbers > 0.5 ? (['numbers'] as const) : (['letters', 'text'] as const))
        if (f.rising < 0.6 || c > q) out.push({ uses: key, form, worth: markLike ? -0.3 : 0 });
      continue;
    }
    let told = false;
    const alikeForms = new Set<string>();
    if (choices) {
      for (const form of ['letters', 'numbers', 'numbers from 0', 'roman', 'text'] as const) {
        if (!mayBe(f, form) || (binary(f) && free.some((o) => o !== c && binary(facts[o] as ColumnFacts)))) continue;
        const hits = resolved(g, c, s, form);
        if (hits === null || hits.share < 0.4 || alikeForms.has(hits.places)) continue;
        // a column that says words only is one of words
        if (form !== 'text' && hits.labels < 0.1) continue;
        alikeForms.add(hits.places);
        told = true;
        out.push({ uses: key, form, worth: (hits.share - 0.7) * 0.5 + (form === 'numbers from 0' ? W.fromZero : 0), ...signs });
      }
    }
    if (!told && (!own.length || head.says[c]?.has('key') || f.truths > 0.5)) out.push({ uses: key, form: 'letters', worth: typedWorth(g, c), ...signs });
  }
  return out;
}

/** Whether a column holds nothing but ones and noughts. */
const binary = (f: ColumnFacts): boolean => f.values.size > 0 && [...f.values].every((v) => v === '0' || v === '1' || v === '');

/** No item has more options that are named by number. */
const OPTIONS_MOST = 12;
/** Whether the cells of a column may name options in a form at all. */
function mayBe(f: ColumnFacts, form: KeyForm): boolean {
  if (form === 'numbers') return !(f.least < 1 || f.most > OPTIONS_MOST);
  // only a nought tells that counting starts there
  if (form === 'numbers from 0') return f.least === 0 && f.most < OPTIONS_MOST && f.numbers > 0.2;
  if (form === 'roman') return [...f.values].some((v) => /^[([]?[ivx]{2,4}[.)\]]?$/.test(v));
  return form === 'text' || f.numbers < 0.8;
}

const TRUE_HEAD = /^(?:t|v|r|w|p|d|true|right|wahr|richtig|vrai|verdadero|verdadeiro|vero|waar|juist|prawda|верно|правда|так|doğru|correct|certo|✓|✔)$/iu;
const FALSE_HEAD = /^(?:f|n|y|false|wrong|falsch|faux|falso|onwaar|onjuist|fałsz|неверно|неправда|ні|yanlış|incorrect|errado|✗|✘|x)$/iu;

/** The two signs for true and false in a column, where they are not the usual words. @param rows those without options */
function signsFor(rows: readonly Row[], q: number, c: number, heading: string): { signs?: readonly [string, string] } {
  const said = truthSignsIn(heading);
  if (said) return { signs: said };
  const statements = rows.filter((r) => !/[?:]\s*$|_{2,}/.test(cell(r, q)));
  const signs = truthSignsOf(new Set(statements.map((r) => cell(r, c).toLowerCase())));
  return signs ? { signs } : {};
}

/** What a column is worth as a key of rows without options: by heading, or as words behind the question. */
function typedWorth(g: Ground, c: number): number {
  const f = g.facts[c] as ColumnFacts;
  if (g.head.says[c]?.has('key')) return 0.1;
  return f.truths > 0.8 || truthSignsOf(f.values) ? 0.2 : f.length > 60 ? -0.8 : -0.35;
}

/** The share of rows with options whose key names one of them, and what it names; null where no row has both. */
function resolved(g: Ground, c: number, s: Structure, form: KeyForm): { share: number; labels: number; places: string } | null {
  let all = 0;
  let hits = 0;
  let labels = 0;
  let named = '';
  for (const r of g.rows.slice(0, RESOLVED)) {
    const key = cell(r, c);
    const options = key ? s.optionsOf(r) : NOTHING;
    if (options.length < 2) continue;
    all++;
    const places = placesOf(key, options, form);
    const hit = 'places' in places && (form !== 'text' || places.by === 'text' || key.length > 3);
    if (hit) hits++;
    if (hit && places.by === 'label') labels++;
    named += hit ? `${places.places.join()};` : ';';
  }
  return all ? { share: hits / all, labels: labels / all, places: named } : null;
}

// ── what reading comes to ──

/** The mean worth of the rows of a sample; null where it gives no item. */
function worthOf(read: MappedTable): number | null {
  const { items } = read.set;
  if (!items.length) return null;
  const codes = new Map<string, string[]>();
  for (const d of read.diagnostics) if (d.item) codes.set(d.item, [...(codes.get(d.item) ?? []), d.code]);
  const rowsOf = new Map<number, number>();
  let sum = 0;
  let counted = 0;
  for (const r of read.rows) {
    if (r.item !== undefined) rowsOf.set(r.item, (rowsOf.get(r.item) ?? 0) + 1);
    else if (/no question|without a question|cannot be/.test(r.reason ?? '')) {
      sum += W.rowLost;
      counted++;
    } else if (r.reason === 'a heading') sum -= 0.1;
  }
  const stems = new Map<string, number>();
  for (const i of items) stems.set(i.stem, (stems.get(i.stem) ?? 0) + 1);
  items.forEach((item, i) => {
    const n = rowsOf.get(i) ?? 1;
    counted += n;
    sum += n * (worthOfItem(item, codes.get(item.id) ?? []) + ((stems.get(item.stem) ?? 0) > 1 ? W.stemAgain : 0));
  });
  return counted ? sum / counted : null;
}

function worthOfItem(item: Item, codes: readonly string[]): number {
  const stem = richToPlain(item.stem).trim();
  let worth = /\p{L}{2}/u.test(stem) ? (/\S\s+\S/.test(stem) ? W.stemWords : 0) : W.stemNone;
  if (/[?:…]\s*$|_{2,}|\.{4,}/.test(stem)) worth += W.stemAsks;
  const wrong = codes.some((c) => /^(?:key-unknown-option|key-conflict|gap-without-answer|match-unbalanced)$/.test(c));
  const missing = codes.includes('key-missing');
  if (wrong) worth += W.keyWrong;
  if (missing) worth += W.keyMissing;
  if (codes.includes('option-duplicate')) worth += W.duplicate;
  if (codes.includes('option-single')) worth += W.single;
  if (codes.some((c) => /^(?:field-unknown|points-invalid|kind-guessed)$/.test(c))) worth += W.fieldWrong;
  if ('options' in item) {
    const texts = item.options.map((o) => richToPlain(o.content));
    if (texts.every((t) => /^[A-Ha-h]$|^[✓✔✗✘xX+-]$/.test(t))) worth += W.optionSigns;
    worth += (texts.filter((t) => /\?\s*$/.test(t)).length / texts.length) * W.optionAsks;
  }
  return worth + (wrong || missing ? ('options' in item ? W.choiceBare : 0) : W.kinds[item.kind]);
}

/** An item's key as words, '' where it has none. */
function keyWords(item: Item): string {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options
        .filter((o) => o.credit > 0)
        .map((o) => richToPlain(o.content))
        .join(' + ');
    case 'true-false':
      return item.answer === null ? '' : String(item.answer);
    case 'short-answer':
      return item.answers.map((a) => a.text).join(' / ');
    case 'numeric':
      return item.answers.map(writtenRange).join(' / ');
    default:
      return '';
  }
}

/** The items of the same question that two readings key differently, both with a key. */
export function differencesOf(first: readonly Item[], second: readonly Item[]): Difference[] {
  const others = new Map(second.map((i) => [i.stem, i]));
  return first.flatMap((i, n) => {
    const other = others.get(i.stem);
    const [a, b] = [keyWords(i), other ? keyWords(other) : ''];
    return a && b && a !== b ? [{ item: n, stem: richToPlain(i.stem), first: a, second: b }] : [];
  });
}
