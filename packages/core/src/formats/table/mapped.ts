/** Reads a table by a mapping: every row gives an item, belongs to one, or says why it gives none. */
import { readKey, readNumber, wordings } from '../../draft/signatures/answers.js';
import { truth } from '../../language/truths.js';
import { keyHead, keyTail } from '../../draft/signatures/keyWords.js';
import { lookName } from '../../draft/read.js';
import { type KeyLook, keyLooks } from '../../draft/surface/stretch.js';
import { asksForMore, KIND_NAME, KIND_NAME_ORDER, QUESTION } from '../../language/words.js';
import { newId } from '../../item/ids.js';
import { keyProblem } from '../../item/kinds.js';
import { defaultMatch, type Diagnostic, item as itemSchema, type Item, type Kind, type QuizSet, type Section } from '../../item/model.js';
import { richFromPlain } from '../../item/richText.js';
import { gapMarks } from '../../item/kinds.js';
import { parseNumber, writesDecimalComma } from '../../language/numbers.js';
import type { Row } from './grid.js';
import { KIND_WORDS } from './grid.js';
import type { ColumnUse } from './headings.js';
import { cellsOf, type Mapping, optionsIn, placesIn, type TableSheet, unlabelled } from './mapping.js';
import { partsOf } from '../../item/strip.js';

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

const CODES: Readonly<Record<string, Kind>> = {
  mc: 'multiple-choice',
  mcq: 'multiple-choice',
  sc: 'multiple-choice',
  ma: 'multiple-response',
  mr: 'multiple-response',
  tf: 'true-false',
  sa: 'short-answer',
  num: 'numeric',
  fib: 'cloze',
  mat: 'matching',
  ord: 'ordering',
  ess: 'essay',
  open: 'essay',
};
/** The kind that a cell names, in words or by a code; null where it names none. */
export function kindNamed(cell: string): Kind | null {
  const t = cell.trim().toLowerCase().replace(/\s+/g, ' ');
  if (!t) return null;
  const own = (Object.entries(KIND_WORDS) as [Kind, string][]).find(([k, w]) => w === t || k === t)?.[0];
  if (own) return own;
  const code = CODES[t];
  if (code) return code;
  const named =
    KIND_NAME.exec(
      partsOf(t, /[/-]/)
        .join('/')
        .replace(/^(.*?)s?$/, '$1'),
    ) ?? KIND_NAME.exec(t);
  const at = named ? named.slice(1).findIndex(Boolean) : -1;
  if (at >= 0) return KIND_NAME_ORDER[at] ?? null;
  if (/true|false|wahr|richtig|verdadeir|verdader|vrai|vero|prawda|правда|верно|doğru/.test(t)) return 'true-false';
  if (/open|essay|offen|abiert|ouvert/.test(t)) return 'essay';
  if (/several|multiple (?:answer|response|select)|mehrfach/.test(t)) return 'multiple-response';
  if (/number|numer|calcul/.test(t)) return 'numeric';
  if (/short|text|word/.test(t)) return 'short-answer';
  if (/choice|single/.test(t)) return 'multiple-choice';
  return null;
}

/** A number or a word for question in front of the words: "3. ", "Q3: ", "Question: ". */
const QUESTION_LABEL = new RegExp(`^(?:(?:${QUESTION})\\s*(\\d{1,4})?\\s*[:.)]\\s+|(\\d{1,4})\\s*[.)]\\s+(?=\\p{L}))`, 'iu');
const TOTAL = /^(?:totals?|sum|summe|gesamt|totale?|somme|suma|razem|итого|всього|toplam)(?![\p{L}])/iu;
const MARKED = /^(?:x|✓|✔|✅|1|\+|y(?:es)?|ja|oui|s[ií]|sim|tak|да|так|evet|t(?:rue)?|v|r(?:ight|ichtig)?|wahr|correct[oa]?|100(?:\s?%)?|1[.,]0+)$/i;
const many = (cell: string): string[] =>
  cell
    .split(/[;,|\n]/)
    .map((s) => s.trim())
    .filter(Boolean);
/** Seconds: "45", "45 s", "1:30", "2 min". */
function seconds(cell: string): number | null {
  const clock = /^(\d{1,2}):(\d{2})$/.exec(cell);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const m = /^(\d+(?:[.,]\d+)?)\s*(m\w*|s\w*)?\.?$/i.exec(cell);
  const n = m ? Number((m[1] ?? '').replace(',', '.')) * (/^m/i.test(m[2] ?? '') ? 60 : 1) : 0;
  return n > 0 ? n : null;
}

/** What an option earns, from 1 or 100 for all of it; null where the cell is no number. */
function shareIn(cell: string): number | null {
  const n = /^-?\d{1,3}(?:[.,]\d+)?\s?%?$/.test(cell) ? Number(cell.replace(/\s?%$/, '').replace(',', '.')) : null;
  return n === null ? null : Math.max(-1, Math.min(1, Math.abs(n) > 1 || cell.endsWith('%') ? Math.round(n * 1e5) / 1e7 : n));
}

/** The cells of one item by use; options with what is said of each. */
interface Raw {
  row: number;
  said: Map<ColumnUse, string[]>;
  /** Words and, where looks say more, rich text. */
  options: { text: string; rich: string; right?: boolean; credit?: number; feedback?: string; looks?: readonly KeyLook[] }[];
  stemRich: string;
}

/**
 * Reads a table.
 * @param rows which rows of the sheet (0-based) are read; all where none are named
 * @param language BCP 47, decides what a comma in a number means
 */
export function readMapped(sheet: TableSheet, mapping: Mapping, rows?: ReadonlySet<number>, language?: string): MappedTable {
  const hiddenRows = new Set(mapping.hidden ? [] : sheet.hiddenRows);
  const header = cellsOf(sheet.rows[mapping.header]).join('\u001f').toLowerCase();
  const readings: RowReading[] = [];
  const raws: { raw: Raw; rows: RowReading[] }[] = [];
  const part = { title: '' };
  const parts = new Map<Raw, string>();
  const uses = mapping.columns;
  const options = uses.some((u) => u === 'option' || u === 'options' || u === 'wrong option' || u === 'right option');
  sheet.rows.forEach((row, r) => {
    const none = (reason: string): void => void readings.push({ row: r, reason });
    const cells = cellsOf(row);
    const full = cells.filter(Boolean);
    if (!full.length) return;
    if (r < mapping.header) return none('above the headings');
    if (r === mapping.header) return none('the headings');
    if (rows && !rows.has(r)) return none('not chosen');
    if (hiddenRows.has(r)) return none('hidden');
    if (mapping.header >= 0 && cells.join('\u001f').toLowerCase() === header) return none('the headings again');
    if (full.length === 1 && full[0]?.startsWith('#')) return none('a remark');
    const raw = rawOf(sheet, row, r, uses, mapping.separator);
    const question = raw.said.get('question')?.[0] ?? '';
    const last = raws[raws.length - 1];
    if (mapping.optionRows && last && raw.options.length && (!question || question === last.raw.said.get('question')?.[0])) {
      last.raw.options.push(...raw.options);
      const reading = { row: r };
      last.rows.push(reading);
      readings.push(reading);
      return;
    }
    const beside = uses.some((u, i) => u !== 'ignore' && u !== 'number' && u !== 'question' && cells[i]);
    if (!question && full.length <= 2 && full.some((c) => TOTAL.test(c))) return none('a total');
    if (!question && full.length === 1 && /\p{L}{3}/u.test(full[0] ?? '') && !/[.!]$/.test(full[0] ?? '') && (full[0] ?? '').length < 60) {
      part.title = full[0] ?? '';
      return none('a heading');
    }
    if (!question) return none(raw.options.length ? 'options without a question' : 'no question in it');
    if (!beside && options && !/[?:…]\s*$|_{2,}/.test(question) && !asksForMore(question)) {
      part.title = question;
      return none('a heading');
    }
    if (TOTAL.test(question) && !raw.options.length) return none('a total');
    const reading: RowReading = { row: r };
    readings.push(reading);
    raws.push({ raw, rows: [reading] });
    if (part.title) parts.set(raw, part.title);
  });
  const diagnostics: Diagnostic[] = [];
  if (!uses.some((u) => u === 'key' || u === 'mark' || u === 'right option')) diagnostics.push(...markedOptions(raws.map((x) => x.raw)));
  const items: Item[] = [];
  const sections: Section[] = [];
  for (const { raw, rows: own } of raws) {
    const problems: { code: string; severity: 'error' | 'warning'; message: string }[] = [];
    const made = itemOf(raw, mapping, language, problems);
    const parsed = itemSchema.safeParse(made);
    if (!parsed.success) {
      const issue = parsed.error.issues[0];
      for (const o of own) o.reason = `cannot be an item: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`;
      continue;
    }
    const item = parsed.data;
    const section = sectionOf(sections, parts.get(raw) ?? '', raw);
    if (section) item.section = section;
    for (const o of own) o.item = items.length;
    items.push(item);
    const tell = (p: (typeof problems)[number]): void =>
      void diagnostics.push({ ...p, from: 0, to: 0, line: raw.row + 1, column: 1, item: item.id, message: `Row ${raw.row + 1}: ${p.message}` });
    problems.forEach(tell);
    const none = keyProblem(item);
    if (none && !problems.some((p) => p.severity === 'error')) tell({ code: none.code, severity: 'error', message: `the item has ${none.message}.` });
    if ('options' in item && new Set(item.options.map((o) => o.content.toLowerCase())).size < item.options.length)
      tell({ code: 'option-duplicate', severity: 'warning', message: 'two options say the same.' });
    if ('options' in item && item.options.length === 1) tell({ code: 'option-single', severity: 'warning', message: 'the item has one option only.' });
  }
  return { set: { title: sheet.name || 'Untitled set', items, ...(sections.length && { sections }) }, rows: readings, diagnostics };
}

/** Keys that are said on the options themselves, where no column says them: a mark beside the words, or a look that exactly one option has in nearly all rows. */
function markedOptions(raws: readonly Raw[]): Diagnostic[] {
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
    const one = choices.filter((r) => r.options.filter((o) => o.looks?.includes(look)).length === 1).length;
    if (!one || one < choices.length * 0.8) continue;
    for (const r of choices) if (r.options.some((o) => o.looks?.includes(look))) for (const o of r.options) o.right = o.looks?.includes(look) ?? false;
    return [
      {
        code: 'key-from-formatting',
        severity: 'info',
        from: 0,
        to: 0,
        line: (choices[0]?.row ?? 0) + 1,
        column: 1,
        message: `${lookName(look)} options were read as the keys: ${one} of ${choices.length} questions have exactly one.`,
      },
    ];
  }
  return [];
}

function sectionOf(sections: Section[], heading: string, raw: Raw): string | undefined {
  const title = raw.said.get('part')?.[0] ?? heading;
  const passage = raw.said.get('passage')?.[0] ?? '';
  if (!title && !passage) return undefined;
  const rich = passage && richFromPlain(passage);
  const last = sections[sections.length - 1];
  if (last && (last.title ?? '') === title && (last.passage ?? '') === rich) return last.id;
  sections.push({ id: `s${sections.length + 1}`, ...(title && { title }), ...(rich && { passage: rich }) });
  return sections[sections.length - 1]?.id;
}

function rawOf(sheet: TableSheet, row: Row, r: number, uses: readonly ColumnUse[], separator: string): Raw {
  const said = new Map<ColumnUse, string[]>();
  const options: Raw['options'] = [];
  let right: Raw['options'][number] | null = null;
  let stemRich = '';
  const richOf = (c: number, text: string): string => sheet.rich?.[`${r},${c}`] ?? richFromPlain(text);
  const places = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  const optionColumns = places('option');
  const anyOption = places('option', 'wrong option', 'right option');
  /** The option of each column; an empty one has none. */
  const ofColumn = new Map<number, Raw['options'][number]>();
  /** The option that a column beside or behind the options is about: of those columns the nth is about the nth option. */
  const about = (c: number, use: ColumnUse, all: readonly number[]): Raw['options'][number] | undefined => {
    const own = places(use);
    return ofColumn.get(own.length === all.length ? (all[own.indexOf(c)] ?? -1) : c - 1);
  };
  const later: (() => void)[] = [];
  uses.forEach((use, c) => {
    const text = (row[c] ?? '').trim();
    if (use === 'mark') {
      later.push(() => {
        const option = about(c, 'mark', optionColumns);
        if (!option) return;
        const share = shareIn(text);
        option.right = MARKED.test(text) || (share ?? 0) > 0;
        if (share !== null) option.credit = share;
      });
      return;
    }
    if (!text || use === 'ignore') return;
    if (use === 'option' || use === 'wrong option' || use === 'right option') {
      const looks = sheet.looks?.[`${r},${c}`];
      const option: Raw['options'][number] = {
        text,
        rich: richOf(c, text),
        ...(use !== 'option' && { right: use === 'right option' }),
        ...(looks && { looks }),
      };
      ofColumn.set(c, option);
      if (use === 'right option') right = option;
      else options.push(option);
    } else if (use === 'options') options.push(...optionsIn(text, separator).map((t) => ({ text: t, rich: richFromPlain(t) })));
    else if (use === 'option feedback')
      later.push(() => {
        const option = about(c, 'option feedback', anyOption);
        if (option) option.feedback = richFromPlain(text);
      });
    else {
      said.set(use, [...(said.get(use) ?? []), text]);
      if (use === 'question') stemRich = richOf(c, text);
    }
  });
  if (right) options.unshift(right);
  for (const step of later) step();
  // in a row for each option, the key beside it is a mark
  const bare = unlabelled(options.map((o) => o.text));
  options.forEach((o, i) => {
    if (bare[i] !== o.text) Object.assign(o, { text: bare[i], rich: richFromPlain(bare[i] ?? '') });
  });
  if (options.length === 1 && options[0] && uses.filter((u) => u === 'option').length === 1 && said.has('key')) {
    const key = said.get('key')?.[0] ?? '';
    if (MARKED.test(key) || /^(?:0(?:\s?%)?|no|n|f|false|falsch|nein|wrong|-)$/i.test(key)) options[0].right = MARKED.test(key);
  }
  return { row: r, said, options, stemRich };
}

type Problems = { code: string; severity: 'error' | 'warning'; message: string }[];

function itemOf(raw: Raw, mapping: Mapping, language: string | undefined, problems: Problems): Record<string, unknown> {
  const { said, options } = raw;
  const first = (use: ColumnUse): string => said.get(use)?.[0] ?? '';
  const rich = (use: ColumnUse): string => (first(use) ? richFromPlain((said.get(use) ?? []).join('\n')) : '');
  const key = first('key');
  const comma = language === undefined ? /^\d+,\d+$/.test(key) || /^\d+,\d+$/.test(first('points')) : writesDecimalComma(language);
  const named = kindNamed(first('kind'));
  if (first('kind') && !named)
    problems.push({ code: 'field-unknown', severity: 'warning', message: `“${first('kind')}” names no kind that is known; told from the rest of the row.` });
  const number = (use: ColumnUse): number | null =>
    first(use)
      ? parseNumber(
          first(use)
            .replace(/(?:%|points?|pts?|p\.?|punkte?|marks?)$/i, '')
            .trim(),
          comma,
        )
      : null;
  const points = number('points');
  if (first('points') && (points === null || points < 0))
    problems.push({ code: 'points-invalid', severity: 'warning', message: `“${first('points')}” is no number of points; it counts 1.` });
  const feedback = { correct: rich('feedback right'), incorrect: rich('feedback wrong'), general: rich('feedback') };
  const difficulty = number('difficulty');
  const tags = [...(said.get('tags') ?? []).flatMap(many), ...(first('difficulty') && difficulty === null ? [first('difficulty').toLowerCase()] : [])];
  const time = first('time') ? seconds(first('time')) : null;
  const picture = first('picture');
  const label = QUESTION_LABEL.exec(raw.stemRich);
  const common = {
    id: newId(),
    stem: label ? raw.stemRich.slice(label[0].length) : raw.stemRich,
    points: points !== null && points >= 0 ? Math.round(points * 1e4) / 1e4 : 1,
    ...((first('number') || label?.[1] || label?.[2]) && { label: (first('number') || (label?.[1] ?? label?.[2] ?? '')).replace(/[.)]$/, '') }),
    ...(Object.values(feedback).some(Boolean) && { feedback: Object.fromEntries(Object.entries(feedback).filter(([, v]) => v)) }),
    ...(first('hint') && { hints: (said.get('hint') ?? []).map(richFromPlain) }),
    ...((tags.length || picture) && { tags: [...tags, ...(picture ? [`picture: ${picture}`] : [])] }),
    ...(first('outcome') && { outcomes: (said.get('outcome') ?? []).flatMap(many) }),
    ...(difficulty !== null && difficulty >= 0 && difficulty <= 1 && { level: { difficulty } }),
    ...(time !== null && { timeLimit: time }),
  };
  const truths = options.map((o) => truth(o.text, true));
  if (options.length >= 2 && named !== 'matching' && named !== 'ordering') {
    const places = keyed(raw, mapping, problems);
    if (
      options.length === 2 &&
      truths[0] !== null &&
      truths[1] !== null &&
      truths[0] !== truths[1] &&
      !options.some((o) => /^(?:yes|no|ja|nein|s[ií]|non?|oui|sim|não|nee|tak|nie|да|нет|так|ні|evet|hayır)$/i.test(o.text))
    )
      return { ...common, kind: 'true-false', answer: places.length === 1 ? (truths[places[0] ?? 0] ?? null) : null };
    const several = places.length > 1 || (named === 'multiple-response' && places.length !== 1) || named === 'multiple-response';
    const parts = options.some((o) => o.credit !== undefined && o.credit !== 0 && o.credit !== 1);
    const list = options.map((o, i) => ({
      id: newId(),
      content: o.rich,
      credit: parts ? (o.credit ?? 0) : places.includes(i) ? 1 : 0,
      ...(o.feedback && { feedback: o.feedback }),
    }));
    if (parts && !(options.filter((o) => o.credit === 1).length === 1)) return { ...common, kind: 'multiple-response', scoring: 'weights', options: list };
    if (parts) return { ...common, kind: 'multiple-choice', options: list };
    return several ? { ...common, kind: 'multiple-response', scoring: 'all-or-nothing', options: list } : { ...common, kind: 'multiple-choice', options: list };
  }
  return { ...common, ...written(raw, named, key, first, mapping, comma, problems) };
}

/** The places that the key of a row names. */
function keyed(raw: Raw, mapping: Mapping, problems: Problems): number[] {
  const { options, said } = raw;
  const key = said.get('key')?.[0] ?? '';
  const marked = options.flatMap((o, i) => (o.right ? [i] : []));
  if (marked.length || options.some((o) => o.right !== undefined)) return marked;
  if (!key) return [];
  const unknown = (): number[] => {
    problems.push({ code: 'key-unknown-option', severity: 'error', message: `the key “${key}” is none of its ${options.length} options.` });
    return [];
  };
  const texts = options.map((o) => o.text);
  const exact = texts.findIndex((t) => t.toLowerCase() === key.toLowerCase());
  if (mapping.keyForm === 'text') {
    if (exact >= 0) return [exact];
    const parts = many(key).map((p) => texts.findIndex((t) => t.toLowerCase() === p.toLowerCase()));
    if (parts.length > 1 && parts.every((p) => p >= 0)) return [...new Set(parts)].sort((a, b) => a - b);
  }
  for (const form of [mapping.keyForm, 'letters', 'numbers'] as const) {
    const places = placesIn(key, form);
    if (!places?.length) continue;
    if (places.some((p) => p < 0 || p >= options.length)) {
      // a number or letter may be an option's very words
      return exact >= 0 && mapping.keyForm !== form ? [exact] : unknown();
    }
    return [...new Set(places)].sort((a, b) => a - b);
  }
  if (exact >= 0) return [exact];
  const reading = readKey(
    key,
    texts.map((_, i) => (mapping.keyForm === 'numbers' ? String(i + 1) : String.fromCharCode(65 + i))),
    texts,
  );
  if (!reading || 'unknown' in reading) return unknown();
  if ('conflict' in reading) {
    problems.push({ code: 'key-conflict', severity: 'error', message: `${reading.conflict}.` });
    return [];
  }
  return reading.places;
}

/** Items without options, and those whose sides stand in option cells. */
function written(
  raw: Raw,
  named: Kind | null,
  key: string,
  first: (use: ColumnUse) => string,
  mapping: Mapping,
  comma: boolean,
  problems: Problems,
): Record<string, unknown> {
  const words = raw.options.map((o) => o.text);
  const stem = raw.said.get('question')?.[0] ?? '';
  const text = (k: string): { text: string; credit: number }[] => wordings(k).map((t) => ({ text: t, credit: 1 }));
  const numeric = (): { min: number; max: number; credit: number }[] =>
    partsOf(key.replace(/\s+/g, ' '), /[;|]| or /).flatMap((k) => {
      const n = readNumber(k, comma);
      if (!n) return [];
      const slack = first('tolerance') ? Math.abs(parseNumber(first('tolerance').replace(/^(?:±|\+\/-)\s*/, ''), comma) ?? 0) : 0;
      const tidy = (x: number): number => Number(x.toPrecision(12));
      return [{ min: tidy(n.min - slack), max: tidy(n.max + slack), credit: 1 }];
    });
  const truthValue = truth(key, true);
  const pairsIn = (cells: readonly string[]): { left: string; right: string }[] =>
    cells.flatMap((c) => {
      const sign = /=>|->|→|=|:|–|—| - /.exec(c.slice(1));
      const [left, right] = sign ? [c.slice(0, sign.index + 1).trim(), c.slice(sign.index + 1 + sign[0].length).trim()] : [];
      return left && right ? [{ left: richFromPlain(left), right: richFromPlain(right) }] : [];
    });
  const kind =
    named ??
    (truthValue !== null && !/\?\s*$/.test(stem)
      ? 'true-false'
      : gapMarks(stem).length || /_{3,}/.test(stem)
        ? key
          ? 'cloze'
          : 'short-answer'
        : key && numeric().length && readNumber(key, comma)
          ? 'numeric'
          : key
            ? 'short-answer'
            : 'essay');
  switch (kind) {
    case 'true-false':
      if (key && truthValue === null) problems.push({ code: 'key-unknown-option', severity: 'error', message: `“${key}” says neither true nor false.` });
      return { kind, answer: truthValue };
    case 'numeric': {
      const answers = numeric();
      if (key && !answers.length) problems.push({ code: 'key-unknown-option', severity: 'error', message: `“${key}” is no number.` });
      const unit = first('unit') || readNumber(key, comma)?.unit || '';
      return { kind, answers, ...(unit && { unit }) };
    }
    case 'cloze': {
      const marks = gapMarks(stem);
      const values = key.split(marks.length > 1 || (stem.match(/_{3,}/g)?.length ?? 0) > 1 ? /[;|,\n]/ : /\n/).filter(Boolean);
      let n = 0;
      const gapped = marks.length ? raw.stemRich : raw.stemRich.replace(/_{3,}|\.{5,}/g, () => `[[${++n}]]`);
      const ids = marks.length ? marks : Array.from({ length: n }, (_, i) => String(i + 1));
      if (!ids.length) return { kind: 'short-answer', answers: text(key), match: defaultMatch };
      if (key && values.length !== ids.length)
        problems.push({ code: 'gap-without-answer', severity: 'error', message: `${ids.length} gaps and ${values.length} answers.` });
      return {
        kind,
        stem: gapped,
        gaps: ids.map((id, i) => ({ id, kind: 'text', points: 1, answers: values.length === ids.length ? text(values[i] ?? '') : [] })),
      };
    }
    case 'matching': {
      const pairs = pairsIn(words.length ? words : partsOf(key, /[;|\n]/).filter(Boolean));
      if (pairs.length < 2) problems.push({ code: 'match-unbalanced', severity: 'error', message: 'its pairs cannot be told; write them as left = right.' });
      return { kind, pairs, extraRights: [] };
    }
    case 'ordering': {
      const steps = words.length > 1 ? words : optionsIn(key, mapping.separator);
      const order = words.length > 1 && key ? (placesIn(key, 'letters') ?? placesIn(key, 'numbers')) : null;
      return { kind, sequence: (order && order.length === steps.length ? order.map((i) => steps[i] ?? '') : steps).map(richFromPlain) };
    }
    case 'essay':
      return { kind, ...(key && { modelAnswer: richFromPlain(key) }) };
    case 'information':
      return { kind, points: 0 };
    case 'multiple-choice':
    case 'multiple-response': {
      if (raw.options.length) return { kind: 'multiple-choice', options: raw.options.map((o) => ({ id: newId(), content: o.rich, credit: 0 })) };
      problems.push({ code: 'kind-guessed', severity: 'warning', message: 'a choice without options; read as a short answer.' });
      return { kind: 'short-answer', answers: key ? text(key) : [], match: defaultMatch };
    }
    default:
      return { kind: 'short-answer', answers: key ? text(key) : [], match: defaultMatch };
  }
}
