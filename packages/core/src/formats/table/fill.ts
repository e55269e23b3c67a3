/**
 * Fills a service's import template: what such a template can hold, the rows that are written, and how they are read back to be
 * rehearsed. Everything about it is known from the template itself (importer.ts).
 */
import { fitSet } from '../../fit/fit.js';
import { allHeld, holding, type HeldField, type Profile, type Step } from '../../fit/profile.js';
import { clozeAsText, matchingAsChoices, numberAsText, trueFalseAsChoice } from '../../fit/recast.js';
import { defaultMatch, type Item, type Kind, type Option, type QuizSet } from '../../item/model.js';
import { richFromPlain, richToPlain } from '../../item/richText.js';
import { utf8 } from '../encoding.js';
import { filledCsv as filledText } from './csv.js';
import { KIND_WORDS, type Row } from './grid.js';
import type { ColumnUse } from './headings.js';
import type { ImporterSheet } from './importer.js';
import { type KeyForm, truthOf } from './keyCells.js';
import { kindNamed } from './kindNames.js';
import { readMapped } from './mapped.js';
import { marksRight } from './rowCells.js';
import { cellsOf, type Mapping } from './mapping.js';

/** Stands for a blank while rows are read: a sign that no text has. */
const HELD_BLANK = '\uE0B1';

/** A template that can be filled. */
export interface Filling {
  /** What it can hold: fit makes items so. */
  profile: Profile;
  /** The rows of items that were made so, to stand from `firstDataRow` on in place of examples. */
  rowsOf(fitted: QuizSet): Row[];
  /** Such rows read back, by the columns alone, as items that the template can hold. */
  readBack(rows: readonly Row[], language?: string): QuizSet;
}

const plain = (rich: string): string => richToPlain(rich).trim();
const letter = (i: number): string => String.fromCharCode(65 + i);

/** What of an item stands in a column of its own; those that depend on its options are below. */
const CELLS: Partial<Record<ColumnUse, (item: Item, set: QuizSet) => string>> = {
  question: (i) => plain(i.stem),
  points: (i) => String(i.points),
  feedback: (i) => plain(i.feedback?.general ?? ''),
  'feedback right': (i) => plain(i.feedback?.correct ?? ''),
  'feedback wrong': (i) => plain(i.feedback?.incorrect ?? ''),
  hint: (i) => (i.hints ?? []).map(plain).join('\n'),
  tags: (i) => (i.tags ?? []).join(', '),
  outcome: (i) => (i.outcomes ?? []).join(', '),
  time: (i) => (i.timeLimit === undefined ? '' : String(i.timeLimit)),
  passage: (i, set) => plain(set.sections?.find((s) => s.id === i.section)?.passage ?? ''),
  part: (i, set) => set.sections?.find((s) => s.id === i.section)?.title ?? '',
};
/** The field of an item that a column holds. */
const FIELD: Partial<Record<ColumnUse, HeldField>> = {
  points: 'points',
  feedback: 'feedback.general',
  'feedback right': 'feedback.correct',
  'feedback wrong': 'feedback.incorrect',
  hint: 'hints',
  tags: 'tags',
  outcome: 'outcomes',
  time: 'timeLimit',
  passage: 'section.passage',
  part: 'section.title',
  'option feedback': 'optionFeedback',
};

/** Words for several right options, where another stands beside them for one. From memory. */
const SEVERAL = /^(?:multi|several|mehr|vari|plus|più|múlti|meer|wiel|неск|множ|кіль|çok)/iu;

/** The kinds that the template names in its column of kinds, with its own word for each; null where it has no such column. */
function kindsOf({ importer, sheet, uses }: ImporterSheet): Map<Kind, string> | null {
  const column = uses.indexOf('kind');
  if (column < 0) return null;
  const listed = (sheet.rules ?? []).filter((r) => r.kind === 'list' && r.columns[0] <= column && column <= r.columns[1]).flatMap((r) => r.values ?? []);
  const examples = sheet.rows.slice(importer.firstDataRow - 1).map((r) => r[column] ?? '');
  const explained = sheet.rows.slice(importer.headerRow, importer.firstDataRow - 1).flatMap((r) => (r[column] ?? '').split(/[,;/|()]|\bor\b/));
  const noted = Object.entries(sheet.notes ?? {}).flatMap(([at, note]) => (Number(at.split(',')[1]) === column ? note.split(/[,;/|()\n]|\bor\b/) : []));
  const out = new Map<Kind, string>();
  for (const word of [...listed, ...examples, ...explained, ...noted]) {
    const bare = word.trim().replace(/["“”']/g, '');
    const kind = kindNamed(bare);
    if (!kind) continue;
    const before = out.get(kind);
    if (before === undefined) out.set(kind, bare);
    else if (kind === 'multiple-choice' && before !== bare && !out.has('multiple-response')) {
      // beside “single”, “multiple” is of several right options
      const several = [before, bare].find((w) => SEVERAL.test(w));
      if (several === undefined) continue;
      out.set('multiple-response', several);
      out.set('multiple-choice', several === before ? bare : before);
    }
  }
  return out.size ? out : new Map((['multiple-choice', 'multiple-response', 'short-answer'] as const).map((k) => [k, KIND_WORDS[k]]));
}

/** The signs for right and wrong in columns of marks, as the template lists them or its examples have them. */
function signsOf({ importer, sheet, uses }: ImporterSheet): { right: string; wrong: string } {
  const columns = uses.flatMap((u, c) => (u === 'mark' ? [c] : []));
  const listed = (sheet.rules ?? [])
    .filter((r) => r.kind === 'list' && columns.some((c) => r.columns[0] <= c && c <= r.columns[1]))
    .flatMap((r) => r.values ?? []);
  const used = sheet.rows.slice(importer.firstDataRow - 1).flatMap((r) => columns.map((c) => (r[c] ?? '').trim()));
  const all = [...listed, ...used].filter(Boolean);
  const isRight = (x: string): boolean => marksRight(x) || /^(?:1|100 ?%?)$/.test(x);
  return { right: all.find(isRight) ?? 'x', wrong: all.find((x) => !isRight(x)) ?? '' };
}

/** The nearest of the times that may be given: at least as long as is wanted, else the longest. */
const allowedTime =
  (times: readonly number[]): Step =>
  (item) => {
    if (item.timeLimit === undefined || times.includes(item.timeLimit)) return null;
    const wanted = item.timeLimit;
    const given = times.find((t) => t >= wanted) ?? times.at(-1) ?? wanted;
    return {
      item: { ...item, timeLimit: given },
      fit: 'adapted',
      brief: `${given} s`,
      message: `its ${wanted} seconds become ${given}: one of those that may be given there`,
    };
  };

/** One cell, one answer: nothing in a template says how several would be parted. */
const oneAnswer: Step = (item) => {
  if (item.kind !== 'short-answer') return null;
  const right = item.answers.filter((a) => a.credit > 0);
  if (right.length < 2) return null;
  return {
    item: { ...item, answers: right.slice(0, 1) },
    fit: 'lost',
    brief: 'first answer',
    message: `of its ${right.length} accepted answers only the first goes`,
  };
};

/** What stands most often in a column of the examples: taken where an item says nothing of its own. */
function usual(rows: readonly Row[], column: number): string {
  const counts = new Map<string, number>();
  for (const r of rows) if (r[column]?.trim()) counts.set(r[column].trim(), (counts.get(r[column].trim()) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** How keys are written, from how the template says it. */
function keyFormOf({ importer, mapping, fromZero, byHeading }: ImporterSheet): KeyForm {
  if (byHeading) return 'letters';
  switch (importer.keyForm) {
    case 'first-option':
      return 'first';
    case 'letter':
      return 'letters';
    case 'number':
      return fromZero ? 'numbers from 0' : mapping?.keyForm === 'roman' ? 'roman' : 'numbers';
    default:
      return 'text';
  }
}

const PARTS = ['\n', '|', ';', ',', '/'] as const;
/** The sign that parts the pieces in all example cells of a column that have several; undefined where none does. */
const partedBy = (examples: readonly Row[], column: number): string | undefined => {
  const cells = examples.map((r) => r[column] ?? '').filter((c) => c.trim());
  return PARTS.find((p) => cells.length > 0 && cells.every((c) => c.includes(p)));
};
/** A separator with the blanks that the examples have around it. */
function asWritten(examples: readonly Row[], column: number, sign: string): string {
  const bare = sign.trim();
  if (!bare) return sign;
  const cell = examples.map((r) => r[column] ?? '').find((c) => c.includes(bare)) ?? '';
  const at = cell.indexOf(bare);
  return `${at > 0 && cell[at - 1] === ' ' ? ' ' : ''}${bare}${cell[at + bare.length] === ' ' ? ' ' : ''}`;
}
/** The sign that a heading or explanation names: "separate with |". */
function saidSeparator({ importer, sheet }: ImporterSheet, column: number): string | undefined {
  const text = sheet.rows
    .slice(importer.headerRow - 1, importer.firstDataRow - 1)
    .map((r) => r[column] ?? '')
    .join(' ');
  if (/semi-?colon|semikolon|strichpunkt|punto y coma|point-virgule|puntkomma|średnik/i.test(text)) return ';';
  if (/new ?line|line break|zeilenumbruch|neue zeile|retour à la ligne/i.test(text)) return '\n';
  if (/pipe|vertical bar|senkrecht/i.test(text)) return '|';
  if (/comma|komma|\bcoma\b|virgule|virgola/i.test(text)) return ',';
  return /[(\s“"']([|;/,])[)\s”"']|[(\s“"']([|;/,])$/.exec(text)?.slice(1).find(Boolean);
}

/** Right options in one cell and wrong ones in another. */
interface Apart {
  right: number;
  wrong: number;
  /** What parts them; null where the cell of the right one holds one alone. */
  rightBy: string | null;
  wrongBy: string;
}
/** Whether a template has the wrong options in one cell beside the right one, as its examples show. */
function splitOf({ importer, sheet, uses }: ImporterSheet): Apart | null {
  const examples = sheet.rows.slice(importer.firstDataRow - 1);
  const only = (...wanted: ColumnUse[]): number | undefined => {
    const all = uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
    return all.length === 1 ? all[0] : undefined;
  };
  const right = only('right option', 'key');
  const wrong = only('wrong option', 'options');
  if (right === undefined || wrong === undefined || uses.includes('option')) return null;
  const wrongBy = partedBy(examples, wrong);
  if (wrongBy === undefined) return null;
  const held = (r: Row): string[] => (r[wrong] ?? '').split(wrongBy).map((x) => x.trim().toLowerCase());
  const rightBy = partedBy(examples, right) ?? null;
  const keysOf = (r: Row): string[] =>
    (rightBy === null ? [r[right] ?? ''] : (r[right] ?? '').split(rightBy)).map((x) => x.trim().toLowerCase()).filter(Boolean);
  // keys that stand among the options, or are letters and numbers of them, belong to options in one cell
  const own = examples.filter((r) => r[right]?.trim() && r[wrong]?.trim());
  return own.length > 0 &&
    own.every((r) => keysOf(r).every((k) => !held(r).includes(k) && !/^(?:[a-h]|\d)$/.test(k) === !/^(?:[a-h]|\d)$/.test(held(r)[0] ?? '')))
    ? { right, wrong, rightBy, wrongBy }
    : null;
}

/** The words for true and false where all example keys are such; null where they are not. */
function truthSigns(examples: readonly Row[], column: number | undefined): [string, string] | null {
  const cells = column === undefined ? [] : examples.map((r) => (r[column] ?? '').trim()).filter(Boolean);
  if (!cells.length || !cells.every((c) => /\p{L}/u.test(c) && truthOf(c) !== null)) return null;
  const [some = ''] = cells;
  const said = (t: boolean): string =>
    cells.find((c) => truthOf(c) === t) ??
    (some === some.toUpperCase() && some.length > 1 ? String(t).toUpperCase() : some.length === 1 ? (t ? 'T' : 'F') : t ? 'True' : 'False');
  return [said(true), said(false)];
}

/** How a template is filled. */
export function fillingOf(template: ImporterSheet): Filling {
  const { importer, sheet, uses, mapping } = template;
  const first = importer.firstDataRow - 1;
  const examples = sheet.rows.slice(first);
  const at = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  const grouped = importer.orientation === 'row-per-option';
  const [packed] = at('options');
  const optionColumns = at('option', 'right option', 'wrong option');
  const [keys, marks, accepted] = [at('key'), at('mark'), at('accepted')];
  const apart = splitOf(template);
  const hasOptions = optionColumns.length > (grouped ? 0 : 1) || packed !== undefined;
  const rightFirst = importer.keyForm === 'first-option' || apart !== null;
  const keyForm = keyFormOf(template);
  const separator = packed === undefined ? '|' : (partedBy(examples, packed) ?? mapping?.separator ?? saidSeparator(template, packed) ?? '|');
  const between = packed === undefined ? separator : asWritten(examples, packed, separator);
  const lowerKeys = keyForm === 'letters' && examples.some((r) => keys.some((c) => /^[a-h]$/.test((r[c] ?? '').trim())));
  const signs = signsOf(template);
  const named = kindsOf(template);
  const may = (kind: Kind): boolean => (named ? named.has(kind) : kind === 'multiple-choice' || kind === 'multiple-response');
  // a typed answer stands where the key does; without options all that is asked is typed
  const truths = hasOptions ? null : truthSigns(examples, keys[0]);
  const typed = !truths && keys.length + accepted.length > 0 && (!hasOptions || (named?.has('short-answer') ?? false));
  const kinds: Kind[] = [];
  if (hasOptions && (may('multiple-choice') || !named)) kinds.push('multiple-choice');
  if (hasOptions && (!rightFirst || apart?.rightBy) && (may('multiple-response') || (named?.has('multiple-choice') && !named.has('multiple-response'))))
    kinds.push('multiple-response');
  if (typed) kinds.push('short-answer');
  if (named?.has('essay')) kinds.push('essay');
  if (truths) kinds.push('true-false');

  const typedColumns = [...keys, ...accepted];
  const { limits, maxOptions } = importer;
  const partsKeys = importer.keySeparator.trim();
  const profile: Profile = {
    kinds,
    recast: {
      ...(hasOptions && { 'true-false': trueFalseAsChoice, matching: matchingAsChoices }),
      ...(typed && { numeric: numberAsText, cloze: clozeAsText }),
    },
    holds: holding(allHeld.filter((f) => uses.some((u) => FIELD[u] === f))),
    passageInFront: !uses.includes('passage'),
    scoring: ['all-or-nothing'],
    credits: 'whole',
    match: [],
    rich: false,
    pictures: false,
    most: {
      ...(maxOptions && !apart && { options: maxOptions }),
      ...(limits.question !== undefined && { question: limits.question }),
      ...(limits.option !== undefined && { option: limits.option }),
    },
    refuses(item) {
      if (!plain(item.stem)) return 'it has no text';
      if ('options' in item) {
        const texts = item.options.map((o) => plain(o.content));
        const right = item.options.filter((o) => o.credit > 0);
        if (texts.length < 2) return 'a choice has at least two options there';
        if (texts.some((t) => !t)) return 'an option has no text';
        if (apart && item.options.every((o) => o.credit > 0)) return 'it has no wrong option';
        const parted = apart && item.options.find((o) => plain(o.content).includes((o.credit > 0 ? apart.rightBy : apart.wrongBy) ?? '\0'));
        if (parted) return `an option has the sign “${(parted.credit > 0 ? apart.rightBy : apart.wrongBy) ?? ''}”, which parts options there`;
        if (!apart && packed !== undefined && texts.some((t) => t.includes(separator.trim() || '\n')))
          return `an option has the sign “${separator.trim()}”, which parts options there`;
        if (keyForm === 'text' && right.length > 1 && right.some((o) => plain(o.content).includes(partsKeys)))
          return `a right option has the sign “${partsKeys}”, which parts keys there`;
        if (keyForm === 'text' && new Set(texts.map((t) => t.toLowerCase())).size < texts.length)
          return 'two of its options read the same, and the key is told by its text there';
      }
      return null;
    },
    furtherSteps: [...(limits.time ? [allowedTime(limits.time)] : []), ...(typedColumns.length > 1 ? [] : [oneAnswer])],
  };

  /** The options in the order in which they are written. */
  const ordered = (options: readonly Option[]): Option[] =>
    rightFirst ? [...options].sort((a, b) => Number(b.credit > 0) - Number(a.credit > 0)) : [...options];
  // options are lettered in the script of their headings
  const ends = optionColumns.map((c) => /(?<!\p{L})(\p{L})\)?$/u.exec(cellsOf(sheet.rows[importer.headerRow - 1])[c] ?? '')?.[1] ?? '');
  const own = ends.length > 1 && new Set(ends.map((e) => e.toUpperCase())).size === ends.length && ends.every(Boolean) ? ends : null;
  const labelOf = (i: number): string => (lowerKeys ? letter(i).toLowerCase() : (own?.[i]?.toUpperCase() ?? letter(i)));
  const keyOf = (options: readonly Option[]): string[] =>
    options.flatMap((o, i) => {
      if (o.credit <= 0) return [];
      if (template.byHeading) return [cellsOf(sheet.rows[importer.headerRow - 1])[optionColumns[i] ?? -1] ?? ''];
      if (keyForm === 'letters') return [labelOf(i)];
      if (keyForm === 'numbers') return [String(i + 1)];
      if (keyForm === 'numbers from 0') return [String(i)];
      if (keyForm === 'roman') return [['I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'][i] ?? String(i + 1)];
      return [plain(o.content)];
    });
  const typedKeys = (item: Item): string[] =>
    item.kind === 'true-false' && truths
      ? [item.answer ? truths[0] : truths[1]]
      : item.kind === 'short-answer'
        ? item.answers.filter((a) => a.credit > 0).map((a) => a.text)
        : [];
  // as the examples count: 1, 2 or Q1, Q2
  const numberPrefix = /^(\D{0,8})\d+$/.exec(usual(examples, uses.indexOf('number')))?.[1] ?? '';
  const needed = new Map((['time', 'points', 'kind'] as const).map((u) => [u, usual(examples, uses.indexOf(u))]));

  function rowOf(item: Item, set: QuizSet, n: number): Row {
    const row: Row = uses.map((use) => {
      if (use === 'number') return `${numberPrefix}${n + 1}`;
      if (use === 'kind') return named?.get(item.kind) ?? (item.kind === 'multiple-response' ? named?.get('multiple-choice') : undefined) ?? '';
      const own = CELLS[use]?.(item, set) ?? '';
      return own || (use === 'time' ? (needed.get('time') ?? '') : '');
    });
    const put = (c: number | undefined, text: string): void => {
      if (c !== undefined) row[c] = text;
    };
    const options = 'options' in item ? ordered(item.options) : [];
    const right = options.length ? keyOf(options) : typedKeys(item);
    if (apart && options.length) {
      const join = (list: Option[], column: number, by: string): string => list.map((o) => plain(o.content)).join(asWritten(examples, column, by));
      put(
        apart.right,
        join(
          options.filter((o) => o.credit > 0),
          apart.right,
          apart.rightBy ?? '',
        ),
      );
      put(
        apart.wrong,
        join(
          options.filter((o) => o.credit <= 0),
          apart.wrong,
          apart.wrongBy,
        ),
      );
      return row;
    }
    if (!grouped) {
      options.forEach((o, i) => {
        put(packed === undefined ? optionColumns[i] : undefined, plain(o.content));
        put(marks[i], o.credit > 0 ? signs.right : signs.wrong);
        // the reason that stands behind its option
        const c = optionColumns[i];
        const next = c === undefined ? -1 : uses.indexOf('option feedback', c);
        if (next >= 0 && (optionColumns[i + 1] === undefined || next < (optionColumns[i + 1] ?? 0))) put(next, plain(o.feedback ?? ''));
      });
      if (packed !== undefined) put(packed, options.map((o) => plain(o.content)).join(between));
    }
    if (!rightFirst || !options.length) {
      const columns = options.length ? keys : typedColumns;
      // one key in each of several columns, or all in one
      if (columns.length > 1) right.forEach((k, i) => put(columns[i], i === columns.length - 1 ? right.slice(i).join(importer.keySeparator) : k));
      else put(columns[0], right.join(importer.keySeparator));
    }
    return row;
  }

  /** A row for each option. Where the examples leave the question out in all rows but the first, so is it here. */
  function optionRows(item: Item, set: QuizSet, n: number): Row[] {
    const head = rowOf(item, set, n);
    const options = 'options' in item ? ordered(item.options) : [];
    const question = uses.indexOf('question');
    const [option] = optionColumns;
    const once = examples.some((r) => !r[question]?.trim() && option !== undefined && r[option]?.trim());
    if (!options.length) return [head];
    return options.map((o, i) =>
      uses.map((use, c) => {
        if (c === option) return plain(o.content);
        if (use === 'mark') return o.credit > 0 ? signs.right : signs.wrong;
        if (use === 'option feedback') return plain(o.feedback ?? '');
        return i > 0 && once ? '' : (head[c] ?? '');
      }),
    );
  }

  const back: Mapping = {
    header: importer.headerRow - 1,
    // several columns of one right and several wrong options are what they say; all else as it was understood
    columns: [...uses],
    layout: grouped ? 'grouped' : 'row',
    keyForm,
    separator,
    hidden: false,
    ...(mapping?.truthSigns
      ? { truthSigns: mapping.truthSigns }
      : signs.wrong
        ? { truthSigns: [signs.right.toLowerCase(), signs.wrong.toLowerCase()] as [string, string] }
        : {}),
  };

  return {
    profile,
    rowsOf: (fitted) => fitted.items.flatMap((item, n) => (grouped ? optionRows(item, fitted, n) : [rowOf(item, fitted, n)])),
    readBack(rows, language) {
      const above = sheet.rows.slice(0, first).map((r, i) => (i > back.header ? [] : [...r]));
      const question = uses.indexOf('question');
      const isTyped = (r: Row): boolean => !grouped && [...optionColumns, packed].every((c) => c === undefined || !r[c]);
      // right and wrong ones in a cell each need no reader
      const split = (cell: string | undefined, by: string | null): string[] =>
        (by === null ? [cell ?? ''] : (cell ?? '').split(by)).map((x) => x.trim()).filter(Boolean);
      if (apart) {
        const items = rows.map((r, n): Item => {
          const [right, wrong] = [split(r[apart.right], apart.rightBy), split(r[apart.wrong], apart.wrongBy)];
          const base = { id: `row ${n}`, stem: richFromPlain(r[question] ?? ''), points: Number(r[uses.indexOf('points')] || 1) };
          if (!wrong.length) return { ...base, kind: 'short-answer', answers: right.map((text) => ({ text, credit: 1 })), match: defaultMatch };
          const options = [...right, ...wrong].map((t, i) => ({ id: `${n} ${i}`, content: richFromPlain(t), credit: i < right.length ? 1 : 0 }));
          return right.length > 1 ? { ...base, kind: 'multiple-response', scoring: 'all-or-nothing', options } : { ...base, kind: 'multiple-choice', options };
        });
        return fitSet({ title: '', items, ...(language && { language }) }, profile).set;
      }
      // a key that names the heading of its option is its letter
      const heads = cellsOf(sheet.rows[importer.headerRow - 1]);
      const lettered = (cell: string): string =>
        cell
          .split(importer.keySeparator)
          .map((k) => optionColumns.findIndex((c, i) => (template.byHeading ? heads[c] === k.trim() : labelOf(i) === k.trim())))
          .flatMap((i) => (i < 0 ? [] : [letter(i)]))
          .join(',');
      // a blank in a question is no gap to be filled there
      const shown = rows
        .filter((r) => !isTyped(r))
        .map((r) =>
          r.map((c, i) =>
            i === question ? c.replace(/_{2,}/g, HELD_BLANK) : (template.byHeading || (own && keyForm === 'letters')) && keys.includes(i) ? lettered(c) : c,
          ),
        );
      // the rows of one item say so by its question
      if (grouped) shown.forEach((r, i) => (r[question] ||= shown[i - 1]?.[question] ?? ''));
      const { set } = readMapped({ name: sheet.name, rows: [...above, ...shown] }, back, undefined, language);
      const chosen = set.items.map((i) => ({ ...i, stem: i.stem.replaceAll(HELD_BLANK, '____') }));
      // what is typed counts as it stands in its cell
      const typedItem = (r: Row, n: number): Item => {
        const answers = typedColumns.flatMap((c) => (r[c] ? [{ text: r[c], credit: 1 }] : []));
        const base = { id: `typed ${n}`, stem: richFromPlain(r[question] ?? ''), points: Number(r[uses.indexOf('points')] || 1) };
        if (truths && answers[0]) return { ...base, kind: 'true-false', answer: answers[0].text === truths[0] };
        return answers.length ? { ...base, kind: 'short-answer', answers, match: defaultMatch } : { ...base, kind: 'essay' };
      };
      const next = chosen.values();
      const inOrder = grouped ? chosen : rows.flatMap((r, n) => (isTyped(r) ? [typedItem(r, n)] : (next.next().value ?? [])));
      // two options “true” and “false” are read as a statement: here they are what the template holds
      return fitSet({ ...set, items: inOrder, ...(language && { language }) }, profile).set;
    },
  };
}

/** A text template with rows in place of its examples. @param text of the file, as it was decoded */
export const filledCsv = (text: string, { importer }: ImporterSheet, rows: readonly Row[]): Uint8Array =>
  utf8(filledText(text, importer.firstDataRow - 1, rows));
