/** Reads a table by a mapping: every row gives an item, belongs to one, or says why it gives none. */
import { keyHead, keyLine, keyTail } from '../../draft/signatures/keyWords.js';
import { lookName, readDraft } from '../../draft/read.js';
import { type KeyLook, keyLooks } from '../../draft/surface/stretch.js';
import { keyProblem } from '../../item/kinds.js';
import { type Diagnostic, item as itemSchema, type Item, type ItemOf, type QuizSet, type Section, UNTITLED } from '../../item/model.js';
import { richFromPlain, richToPlain } from '../../item/richText.js';
import { asksForMore } from '../../language/words.js';
import type { Row } from './grid.js';
import { type ColumnUse, useOf } from './headings.js';
import { placesOf } from './keyCells.js';
import { type CellLook, cellsOf, type Mapping, type TableSheet } from './mapping.js';
import { itemOfCells, type RowProblems } from './rowItem.js';
import { cellsByUse, joinCells, looksWithin, marksRight, type RowCells } from './rowCells.js';

/** What became of one row. */
export interface RowReading {
  /** 0-based in the sheet. */
  row: number;
  /** Index of the item that it gives or belongs to. */
  item?: number;
  /** Why it gives no item. */
  reason?: string;
}
/** A table read by agreed columns: its items, and what became of every row. */
export interface MappedTable {
  set: QuizSet;
  rows: RowReading[];
  diagnostics: Diagnostic[];
}

const TOTAL = /^(?:totals?|sum|summe|gesamt|totale?|somme|suma|razem|итого|всього|toplam)(?![\p{L}])/iu;
const HEADING_MOST = 60;

/** Rows that make up one item, with its part. */
interface Group {
  cells: RowCells;
  rows: RowReading[];
  part: string;
}
/** What is read so far, with the heading that stands above the rows to come. */
interface Taken {
  groups: Group[];
  part: string;
  /** Points and number of all groups so far. */
  points: number;
  count: number;
}
/** Groups that are held before items are made of them. */
const AT_ONCE = 32;

/**
 * Reads a table.
 * @param rows which rows of the sheet (0-based) are read; all where none are named
 * @param language BCP 47, decides what a comma in a number means
 */
export function readMapped(sheet: TableSheet, mapping: Mapping, rows?: ReadonlySet<number>, language?: string): MappedTable {
  const steps = readMappedInSteps(sheet, mapping, rows, language);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** The same a few hundred rows at a time, so that something else can be done in between, or it can be given up. */
export function* readMappedInSteps(sheet: TableSheet, mapping: Mapping, rows?: ReadonlySet<number>, language?: string): Generator<void, MappedTable, void> {
  const readings: RowReading[] = [];
  const made = new ItemsOfGroups(mapping, language);
  const taken: Taken = { groups: [], part: '', points: 0, count: 0 };
  const { groups } = taken;
  const parts = partsOfRow(mapping.columns);
  // what stands out can only be told of all rows together
  const together = !mapping.columns.some((u) => u === 'key' || u === 'mark' || u === 'right option') && mapping.keyForm !== 'first';
  let first = -1;
  for (const line of wholeRows(sheet, mapping, rows, readings)) {
    if (first < 0) first = line.r;
    if (parts.length === 1) takeRow(sheet, mapping, line, taken);
    else for (const columns of parts) takeRow(sheet, { ...mapping, columns }, { ...line, readings: line.readings.map((r) => copyOf(r, readings)) }, taken);
    if (!together && groups.length > AT_ONCE) {
      if (!made.items.length) explained(groups, first, mapping);
      // the last may go on in the next row
      for (const g of groups.splice(0, groups.length - 1)) made.add(g);
      yield;
    }
  }
  if (together) made.diagnostics.push(...markedOptions(groups.map((g) => g.cells)));
  if (!made.items.length) explained(groups, first, mapping);
  groups.forEach((g) => made.add(g));
  readings.sort((a, b) => a.row - b.row);
  const { items, sections, diagnostics } = made;
  return { set: { title: sheet.name || UNTITLED, items, ...(sections.length && { sections }) }, rows: readings, diagnostics };
}

/** The items of groups of rows, one after the other, with what is told of them. */
class ItemsOfGroups {
  readonly items: Item[] = [];
  readonly sections: Section[] = [];
  readonly diagnostics: Diagnostic[] = [];

  constructor(
    private readonly mapping: Mapping,
    private readonly language: string | undefined,
  ) {}

  add({ cells, rows, part }: Group): void {
    if (rows[0]?.reason) return;
    const problems: RowProblems = [];
    const made = itemOfCells(cells, this.mapping, this.language, problems);
    const parsed = soundChoice(made) ? { success: true as const, data: made } : itemSchema.safeParse(made);
    if (!parsed.success) {
      const issue = parsed.error.issues[0];
      for (const r of rows) r.reason = `cannot be an item: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`;
      return;
    }
    const item = parsed.data;
    const section = sectionOf(this.sections, part, cells);
    if (section) item.section = section;
    for (const r of rows) r.item = this.items.length;
    this.items.push(item);
    const tell = (p: RowProblems[number]): void =>
      void this.diagnostics.push({ ...p, from: 0, to: 0, line: cells.row + 1, column: 1, item: item.id, message: `Row ${cells.row + 1}: ${p.message}` });
    problems.forEach(tell);
    const none = keyProblem(item);
    if (none && !problems.some((p) => p.severity === 'error')) tell({ code: none.code, severity: 'error', message: `the item has ${none.message}.` });
    if (!('options' in item)) return;
    if (new Set(item.options.map((o) => o.content.toLowerCase())).size < item.options.length)
      tell({ code: 'option-duplicate', severity: 'warning', message: 'two options say the same.' });
    if (item.options.length === 1) tell({ code: 'option-single', severity: 'warning', message: 'the item has one option only.' });
  }
}

/**
 * Whether what cells came to is a choice that the model takes as it is: what `rowItem.ts` makes of one has the fields of the model, and
 * only numbers can be beyond its bounds. The schema says the same and takes a third of the time of a large table.
 */
function soundChoice(made: Record<string, unknown>): made is ItemOf<'multiple-choice'> {
  const { kind, points, options } = made as Partial<ItemOf<'multiple-choice'>>;
  return (
    kind === 'multiple-choice' && points !== undefined && points >= 0 && points <= 1_000_000 && (options ?? []).every((o) => o.credit >= -1 && o.credit <= 1)
  );
}

const copyOf = (reading: RowReading, all: RowReading[]): RowReading => {
  const copy = { ...reading };
  all.push(copy);
  return copy;
};

/**
 * The columns of each question of a row, where several stand side by side: what stands in front of the first belongs to all.
 * One list where a row holds one question.
 */
function partsOfRow(columns: readonly ColumnUse[]): ColumnUse[][] {
  const at = columns.flatMap((u, i) => (u === 'question' ? [i] : []));
  const [first = 0, second] = at;
  if (second === undefined) return [[...columns]];
  // numbers or kinds in front of each question
  let lead = 0;
  while (lead < first && columns[first - 1 - lead] === columns[second - 1 - lead] && columns[first - 1 - lead] !== 'ignore') lead++;
  const starts = at.map((q) => q - lead);
  return starts.map((from, n) => {
    const to = starts[n + 1] ?? columns.length;
    return columns.map((u, i) => (i < (starts[0] ?? 0) || (i >= from && i < to) ? u : 'ignore'));
  });
}

/** A row with those that only continue it. */
interface Line {
  r: number;
  row: Row;
  cells: readonly string[];
  /** Those of them that hold something. */
  full: readonly string[];
  /** An empty row stands above it. */
  apart: boolean;
  /** Its own, and those of the rows that go on from it. */
  readings: RowReading[];
}

/** The rows below the headings that are read, each with those that go on from it; of others it is said why they are not. */
function* wholeRows(sheet: TableSheet, mapping: Mapping, rows: ReadonlySet<number> | undefined, readings: RowReading[]): Generator<Line> {
  const hiddenRows = new Set(mapping.hidden ? [] : sheet.hiddenRows);
  const header = cellsOf(sheet.rows[mapping.header]).join('\u001f').toLowerCase();
  const [firstHeading = ''] = header.split('\u001f');
  const uses = mapping.columns;
  const at = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, i) => (wanted.includes(u) ? [i] : []));
  const numbers = at('number');
  const keys = at('key', 'mark', 'right option', 'true mark', 'false mark', 'points');
  const [question = -1] = at('question');
  let above = null as Line | null;
  let apart = false;
  const numbered = numbers.length > 0 && shareOf(sheet.rows.slice(mapping.header + 1, mapping.header + 200), numbers) > 0.45;
  const whyNot = (r: number, cells: readonly string[], full: readonly string[]): string => {
    if (r < mapping.header) return 'above the headings';
    if (r === mapping.header) return 'the headings';
    if (rows && !rows.has(r)) return 'not chosen';
    if (hiddenRows.has(r)) return 'hidden';
    if (mapping.header >= 0 && (cells[0] ?? '').toLowerCase() === firstHeading && cells.join('\u001f').toLowerCase() === header) return 'the headings again';
    return full.length === 1 && full[0]?.startsWith('#') ? 'a remark' : '';
  };
  for (const [r, row] of sheet.rows.entries()) {
    const cells = cellsOf(row);
    const full = cells.filter(Boolean);
    if (!full.length) {
      apart = true;
      continue;
    }
    const reason = whyNot(r, cells, full);
    if (reason) {
      readings.push({ row: r, reason });
      continue;
    }
    const reading: RowReading = { row: r };
    const text = cells[question] ?? '';
    const empty = (columns: readonly number[]): boolean => columns.every((c) => !cells[c]);
    const goesOn = (before: Line): boolean =>
      empty(keys) &&
      keys.length > 0 &&
      empty(numbers) &&
      (/^\p{Ll}/u.test(text) || !text) &&
      (numbered || (/^\p{Ll}/u.test(text) && full.length === 1)) &&
      !TOTAL.test(full[0] ?? '') &&
      full.length < before.full.length;
    if (above && mapping.layout === 'row' && !apart && goesOn(above)) {
      const before: Row = above.row;
      const joined: Row = Array.from({ length: Math.max(row.length, before.length) }, (_, c) => [before[c], cells[c]].filter((x) => x?.trim()).join(' '));
      const whole = cellsOf(joined);
      above = { ...above, row: joined, cells: whole, full: whole.filter(Boolean), readings: [...above.readings, reading] };
      readings.push(reading);
      continue;
    }
    readings.push(reading);
    if (above) yield above;
    above = { r, row, cells, full, apart, readings: [reading] };
    apart = false;
  }
  if (above) yield above;
}
function shareOf(rows: readonly Row[], columns: readonly number[]): number {
  const full = rows.filter((r) => r.some((c) => c.trim()));
  return full.length ? full.filter((r) => columns.some((c) => r[c]?.trim())).length / full.length : 0;
}

/** Takes a row into the groups: as an item of its own, as more of the item above, or as none. */
function takeRow(sheet: TableSheet, mapping: Mapping, line: Line, taken: Taken): void {
  const { groups } = taken;
  const uses = mapping.columns;
  const { cells, readings } = line;
  const none = (reason: string): void => {
    for (const r of readings) r.reason = reason;
  };
  const raw = cellsByUse(sheet, line.row, line.r, mapping);
  const { full } = line;
  const last = groups[groups.length - 1];
  if (mapping.layout === 'packed') unpack(raw, mapping);
  const optionsNow = raw.options.length > 0 || raw.pairs.length > 0 || raw.gaps.some(Boolean) || raw.said.has('step') || raw.said.has('accepted');
  if (mapping.layout === 'grouped' && last && sameItem(last.cells, raw) && (optionsNow || !raw.stem)) {
    if (!optionsNow && !raw.said.size) return none('no question in it');
    joinCells(last.cells, raw);
    last.rows.push(...readings);
    return;
  }
  if (mapping.layout === 'below' && last && raw.stem && belongsBelow(last, raw, line, mapping)) {
    last.rows.push(...readings);
    return;
  }
  const heading = (text: string): void => {
    none('a heading');
    taken.part = text;
  };
  const beside = uses.some((u, i) => u !== 'ignore' && u !== 'number' && u !== 'question' && cells[i]);
  const [only = ''] = full;
  if (!raw.stem && full.length <= 2 && full.some((c) => TOTAL.test(c))) return none('a total');
  if (!raw.stem && full.length === 1 && /\p{L}{3}/u.test(only) && !/[.!]$/.test(only) && only.length < HEADING_MOST) return heading(only);
  if (!raw.stem && full.length === 1 && /\p{L}{3}/u.test(only)) return none('a note');
  if (!raw.stem) return none(raw.options.length ? 'options without a question' : 'no question in it');
  const options = (): boolean => uses.some((u) => u === 'option' || u === 'options' || u === 'wrong option' || u === 'right option');
  const asks = (): boolean => /[?:…]\s*$|_{2,}/.test(raw.stem) || asksForMore(raw.stem);
  if (!beside && mapping.layout === 'row' && !raw.said.has('number') && options() && !asks()) return heading(raw.stem);
  if (TOTAL.test(raw.stem) && !raw.options.length) return none('a total');
  if (line.apart && !raw.options.length && !raw.said.has('key') && !raw.said.has('kind') && sumsUp(raw, taken)) return none('a total');
  groups.push({ cells: raw, rows: [...readings], part: taken.part });
  taken.count++;
  taken.points += pointsOf(raw) || 0;
}

const pointsOf = (cells: RowCells): number => Number((cells.said.get('points')?.[0] ?? '').replace(',', '.') || Number.NaN);
/** Whether the points of a row are those of all rows above together. */
const sumsUp = (row: RowCells, taken: Taken): boolean => taken.count > 2 && pointsOf(row) > 1 && Math.abs(taken.points - pointsOf(row)) < 1e-6;

/** Whether a row goes on with the item above: no question and no other number, or the same again. */
function sameItem(above: RowCells, row: RowCells): boolean {
  const [was = '', is = ''] = [above, row].map((c) => c.said.get('number')?.[0] ?? '');
  if (is && was) return is === was && (!row.stem || row.stem === above.stem || row.pairs.length > 0 || row.said.has('step'));
  return !is && (!row.stem || row.stem === above.stem);
}

const LETTER_LABEL = /^[([]?([A-Ha-h])[.)\]:]?$/;
const LABEL_IN_FRONT = /^[([]?([A-Ha-h])[.)\]:]\s*(?=\S)/;
/** In the layout with options below: takes a row as an option of the item above where it is one. */
function belongsBelow(last: Group, row: RowCells, line: Line, mapping: Mapping): boolean {
  const label = row.said.get('number')?.[0] ?? '';
  const due = last.cells.options.length;
  const place = (m: RegExpExecArray | null): number => (m?.[1] ? m[1].toUpperCase().charCodeAt(0) - 65 : -1);
  const inFront = LABEL_IN_FRONT.exec(row.stem);
  const key = keyLine(row.stem);
  if (key !== null && due > 1) {
    last.cells.said.set('key', [row.stem.slice(key).trim()]);
    return true;
  }
  const numbered = mapping.columns.includes('number');
  const is = place(LETTER_LABEL.exec(label)) === due || place(inFront) === due || (numbered && !label && !line.apart && last.cells.said.has('number'));
  if (!is) return false;
  const text = inFront && place(inFront) === due ? row.stem.slice(inFront[0].length) : row.stem;
  const ownKey = last.cells.said.has('key');
  const sign = line.cells[mapping.columns.indexOf('mark')] ?? (ownKey ? undefined : row.said.get('key')?.[0]);
  const feedback = row.said.get('feedback')?.[0];
  last.cells.options.push({
    text,
    rich: text === row.stem ? row.stemRich : richFromPlain(text),
    ...(feedback && { feedback: richFromPlain(feedback) }),
    ...(row.stemLooks && { looks: row.stemLooks }),
    ...(!ownKey && mapping.columns.some((u) => u === 'key' || u === 'mark') && { right: sign !== undefined && marksRight(sign, mapping.truthSigns) }),
  });
  return true;
}

/** A question and its options out of one cell. */
function unpack(raw: RowCells, mapping: Mapping): void {
  if (!raw.stem) return;
  const [item] = readDraft(raw.stem).set.items;
  if (!item || !('options' in item) || item.options.length < 2) return;
  // the question first: an option's words may stand in it, too
  const [, ...looks] = looksWithin(raw.stemRich, [item.stem, ...item.options.map((o) => o.content)].map(richToPlain));
  raw.stem = richToPlain(item.stem);
  raw.stemRich = item.stem;
  const keyed = item.options.some((o) => o.credit > 0);
  raw.options.push(
    ...item.options.map((o, i) => ({
      text: richToPlain(o.content),
      rich: o.content,
      ...(looks[i] && { looks: looks[i] }),
      ...(keyed && !mapping.columns.includes('key') && { right: o.credit > 0 }),
      ...(o.feedback && { feedback: o.feedback }),
    })),
  );
  if (item.label && !raw.said.has('number')) raw.said.set('number', [item.label]);
}

/** Words of a row that explains the columns to those who fill them in. From memory. */
const EXPLAINS =
  /^[(<[]?\s*(?:e\.?\s?g\.?|for example|example|required|optional|mandatory|max(?:imum)?\.?\s*\d|up to \d|z\.\s?b\.|beispiel|pflicht|optional|höchstens|p\. ?ej\.|ejemplo|obligatori[oa]|opcional|ex(?:emple|emplo)?\s?[.:]|p\. ?ex\.|obligatoire|facultatif|obrigatório|obbligatorio|facoltativo|bijv|verplicht|optioneel|np\.|wymagane|opcjonalne|например|обязательно|наприклад|обов.язково|örn|zorunlu|isteğe bağlı|the (?:text|question|letter|number|correct|right)|text of|letter of|number of|one of|yes or no|in seconds)/iu;
/** A first row that tells what to write in each column is no item. */
function explained(groups: readonly Group[], first: number | undefined, mapping: Mapping): void {
  const [group] = groups;
  if (!group || mapping.header < 0 || group.cells.row !== first || groups.length < 2) return;
  const { said, options, stem } = group.cells;
  const cells = [stem, ...options.map((o) => o.text), ...[...said].flatMap(([u, c]) => (u === 'question' ? [] : c))];
  const key = said.get('key')?.[0];
  const signs =
    Math.min(2, cells.filter((c) => EXPLAINS.test(c)).length) +
    (useOf(stem) === 'question' ? 1 : 0) +
    (['points', 'time'] as const).filter((u) => said.has(u) && !/\d/.test(said.get(u)?.[0] ?? '')).length +
    (key &&
    options.length > 1 &&
    'unknown' in
      placesOf(
        key,
        options.map((o) => o.text),
        mapping.keyForm,
      ) &&
    !/\?\s*$/.test(stem)
      ? 1
      : 0);
  if (signs >= 2 && (EXPLAINS.test(stem) || useOf(stem) === 'question')) for (const r of group.rows) r.reason = 'an explanation of the columns';
}

/** Keys that are said on the options themselves, where no column says them: a mark beside the words, or a look that exactly one option has in nearly all rows. */
function markedOptions(raws: readonly RowCells[]): Diagnostic[] {
  const choices = raws.filter((r) => r.options.length > 1);
  let signs = 0;
  for (const { options } of choices) {
    const ends = options.map((o) => keyTail(o.text));
    const heads = options.map((o) => keyHead(o.text));
    const marked = options.filter((_, i) => (ends[i] ?? -1) >= 0 || (heads[i] ?? 0) > 0).length;
    if (!marked || marked === options.length) continue;
    signs++;
    options.forEach((o, i) => {
      const [end = -1, head = 0] = [ends[i], heads[i]];
      o.right = end >= 0 || head > 0;
      if (!o.right) return;
      o.text = (end >= 0 ? o.text.slice(0, end) : o.text.slice(head)).trim();
      o.rich = richFromPlain(o.text);
    });
  }
  if (signs) return [];
  for (const look of Object.keys(keyLooks) as KeyLook[]) {
    const told = byLook(choices, look, (o) => o.looks?.includes(look) ?? false, `${lookName(look)} options were read as the keys`);
    if (told) return [told];
  }
  const struck = byLook(choices, 'struck', (o) => !o.looks?.includes('struck'), 'Options that are not struck through were read as the keys');
  return struck ? [struck] : [];
}

/** Takes what stands out for the keys, where exactly one option does in nearly all rows. */
function byLook(choices: readonly RowCells[], look: CellLook, right: (o: RowCells['options'][number]) => boolean, said: string): Diagnostic | null {
  const looked = (r: RowCells): boolean => r.options.some((o) => o.looks?.includes(look));
  const one = choices.filter((r) => looked(r) && r.options.filter(right).length === 1).length;
  if (!one || one < choices.length * 0.8) return null;
  for (const r of choices) if (looked(r)) for (const o of r.options) o.right = right(o);
  return {
    code: 'key-from-formatting',
    severity: 'info',
    from: 0,
    to: 0,
    line: (choices[0]?.row ?? 0) + 1,
    column: 1,
    message: `${said}: ${one} of ${choices.length} questions have exactly one.`,
  };
}

function sectionOf(sections: Section[], heading: string, raw: RowCells): string | undefined {
  const title = raw.said.get('part')?.[0] ?? heading;
  const passage = raw.said.get('passage')?.[0] ?? '';
  if (!title && !passage) return undefined;
  const rich = passage && richFromPlain(passage);
  const last = sections[sections.length - 1];
  if (last && (last.title ?? '') === title && (last.passage ?? '') === rich) return last.id;
  sections.push({ id: `s${sections.length + 1}`, ...(title && { title }), ...(rich && { passage: rich }) });
  return sections[sections.length - 1]?.id;
}
