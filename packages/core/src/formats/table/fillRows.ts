/** The rows of a service's import template. */
import type { Item, Option, QuizSet } from '../../item/model.js';
import { richToPlain } from '../../item/richText.js';
import { asWritten, type Ways } from './fillWays.js';
import type { Row } from './grid.js';
import type { ColumnUse } from './headings.js';
import { ROMANS } from './keyCells.js';

/** A rich text as it stands in a cell. */
export const plain = (rich: string): string => richToPlain(rich).trim();

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
/** The options in the order in which they are written. */
const ordered = (w: Ways, options: readonly Option[]): Option[] =>
  w.rightFirst ? [...options].sort((a, b) => Number(b.credit > 0) - Number(a.credit > 0)) : [...options];

/** What says that an option is right, by how keys are written. */
function keyOf(w: Ways, o: Option, i: number): string {
  if (w.template.byHeading) return w.heads[w.optionColumns[i] ?? -1] ?? '';
  switch (w.keyForm) {
    case 'letters':
      return w.labelOf(i);
    case 'numbers':
      return String(i + 1);
    case 'numbers from 0':
      return String(i);
    case 'roman':
      return ROMANS[i]?.toUpperCase() ?? String(i + 1);
    default:
      return plain(o.content);
  }
}
function keysOf(w: Ways, item: Item, options: readonly Option[]): string[] {
  if (options.length) return options.flatMap((o, i) => (o.credit > 0 ? [keyOf(w, o, i)] : []));
  if (item.kind === 'true-false' && w.truths) return [item.answer ? w.truths[0] : w.truths[1]];
  return item.kind === 'short-answer' ? item.answers.filter((a) => a.credit > 0).map((a) => a.text) : [];
}

/** The cells of an item that do not depend on its options. */
function base(w: Ways, item: Item, set: QuizSet, n: number): Row {
  return w.template.uses.map((use, c) => {
    if (use === 'number') return `${w.numberPrefix}${n + 1}`;
    if (use === 'kind') return w.named?.get(item.kind) ?? (item.kind === 'multiple-response' ? w.named?.get('multiple-choice') : undefined) ?? '';
    return CELLS[use]?.(item, set) || (w.usualTimes[c] ?? '');
  });
}

/** An item as one row. */
function rowOf(w: Ways, item: Item, set: QuizSet, n: number): Row {
  const { uses, importer } = w.template;
  const row = base(w, item, set, n);
  const put = (c: number | undefined, text: string): void => {
    if (c !== undefined) row[c] = text;
  };
  const options = 'options' in item ? ordered(w, item.options) : [];
  const keys = keysOf(w, item, options);
  const { apart, optionColumns, packed } = w;
  if (apart && options.length) {
    const list = (column: number, right: boolean, by: string | null): void => {
      const texts = options.filter((o) => o.credit > 0 === right).map((o) => plain(o.content));
      put(column, texts.join(asWritten(w.examples, column, by ?? '')));
    };
    list(apart.right, true, apart.rightBy);
    list(apart.wrong, false, apart.wrongBy);
    return row;
  }
  if (!w.grouped) {
    options.forEach((o, i) => {
      put(packed === undefined ? optionColumns[i] : undefined, plain(o.content));
      put(w.marks[i], o.credit > 0 ? w.signs.right : w.signs.wrong);
      // the reason that stands behind its option
      const c = optionColumns[i];
      const next = c === undefined ? -1 : uses.indexOf('option feedback', c);
      if (next >= 0 && (optionColumns[i + 1] === undefined || next < (optionColumns[i + 1] ?? 0))) put(next, plain(o.feedback ?? ''));
    });
    if (packed !== undefined) put(packed, options.map((o) => plain(o.content)).join(w.between));
  }
  if (w.rightFirst && options.length) return row;
  const columns = options.length ? w.keys : w.typedColumns;
  // one key in each of several columns, or all in one
  if (columns.length > 1) keys.forEach((k, i) => put(columns[i], i === columns.length - 1 ? keys.slice(i).join(importer.keySeparator) : k));
  else put(columns[0], keys.join(importer.keySeparator));
  return row;
}

/** A row for each option. */
function optionRows(w: Ways, item: Item, set: QuizSet, n: number): Row[] {
  const { uses } = w.template;
  const head = rowOf(w, item, set, n);
  const options = 'options' in item ? ordered(w, item.options) : [];
  const [option] = w.optionColumns;
  if (!options.length) return [head];
  return options.map((o, i) =>
    uses.map((use, c) => {
      if (c === option) return plain(o.content);
      if (use === 'mark') return o.credit > 0 ? w.signs.right : w.signs.wrong;
      if (use === 'option feedback') return plain(o.feedback ?? '');
      return i > 0 && w.questionOnce ? '' : (head[c] ?? '');
    }),
  );
}

/** All rows of a set that was made to fit. */
export const rowsOfTemplate = (w: Ways, fitted: QuizSet): Row[] =>
  fitted.items.flatMap((item, n) => (w.grouped ? optionRows(w, item, fitted, n) : [rowOf(w, item, fitted, n)]));
