/** The rows of a filled template read back by its columns alone: what a service would make of them. */
import { letterOf } from '../../item/kinds.js';
import { defaultMatch, type Item, type QuizSet } from '../../item/model.js';
import { richFromPlain } from '../../item/richText.js';
import { type Apart, type Ways } from './fillWays.js';
import type { Row } from './grid.js';
import { readMapped } from './mapped.js';
import type { Mapping } from './mapping.js';

/** Stands for a blank while rows are read: a sign that no text has. */
const HELD_BLANK = '\uE0B1';

const base = (w: Ways, r: Row, id: string): { id: string; stem: string; points: number } => {
  const { uses } = w.template;
  return { id, stem: richFromPlain(r[uses.indexOf('question')] ?? ''), points: Number(r[uses.indexOf('points')] || 1) };
};
const answersOf = (texts: readonly string[]): { text: string; credit: number }[] => texts.map((text) => ({ text, credit: 1 }));

/** What is typed counts as it stands in its cell. */
function typedItem(w: Ways, r: Row, n: number): Item {
  const texts = w.typedColumns.flatMap((c) => r[c] || []);
  const it = base(w, r, `typed ${n}`);
  if (w.truths && texts[0]) return { ...it, kind: 'true-false', answer: texts[0] === w.truths[0] };
  return texts.length ? { ...it, kind: 'short-answer', answers: answersOf(texts), match: defaultMatch } : { ...it, kind: 'essay' };
}

/** Right and wrong options in a cell each. */
function apartItem(w: Ways, { right: rightAt, rightBy, wrong: wrongAt, wrongBy }: Apart, r: Row, n: number): Item {
  const split = (cell: string | undefined, by: string | null): string[] =>
    (by === null ? [cell ?? ''] : (cell ?? '').split(by)).map((x) => x.trim()).filter(Boolean);
  const [right, wrong] = [split(r[rightAt], rightBy), split(r[wrongAt], wrongBy)];
  const it = base(w, r, `row ${n}`);
  if (!wrong.length) return { ...it, kind: 'short-answer', answers: answersOf(right), match: defaultMatch };
  const options = [...right, ...wrong].map((t, i) => ({ id: `${n} ${i}`, content: richFromPlain(t), credit: i < right.length ? 1 : 0 }));
  return right.length > 1 ? { ...it, kind: 'multiple-response', scoring: 'all-or-nothing', options } : { ...it, kind: 'multiple-choice', options };
}

/** A key that names the heading of its option, or its letter in another script, as the letter that tables have. */
const lettered = (w: Ways, cell: string): string =>
  cell
    .split(w.template.importer.keySeparator)
    .map((k) => w.optionColumns.findIndex((c, i) => (w.template.byHeading ? w.heads[c] : w.labelOf(i)) === k.trim()))
    .flatMap((i) => (i < 0 ? [] : [letterOf(i)]))
    .join(',');

function mappingOf(w: Ways): Mapping {
  const { importer, uses, mapping } = w.template;
  const signs: [string, string] | undefined = mapping?.truthSigns ?? (w.signs.wrong ? [w.signs.right.toLowerCase(), w.signs.wrong.toLowerCase()] : undefined);
  return {
    header: importer.headerRow - 1,
    columns: [...uses],
    layout: w.grouped ? 'grouped' : 'row',
    keyForm: w.keyForm,
    separator: w.separator,
    hidden: false,
    ...(signs && { truthSigns: signs }),
  };
}

/** Items with options, by the reader of tables. */
function chosenItems(w: Ways, rows: readonly Row[], language: string | undefined): Item[] {
  const { importer, sheet, uses, byHeading } = w.template;
  const mapping = mappingOf(w);
  const question = uses.indexOf('question');
  const translated = byHeading || (w.ownLetters && w.keyForm === 'letters');
  const shown = rows.map((r) =>
    // a blank in a question is no gap to be filled there
    r.map((c, i) => (i === question ? c.replace(/_{2,}/g, HELD_BLANK) : translated && w.keys.includes(i) ? lettered(w, c) : c)),
  );
  // the rows of one item say so by its question
  if (w.grouped) shown.forEach((r, i) => (r[question] ||= shown[i - 1]?.[question] ?? ''));
  const above = sheet.rows.slice(0, importer.firstDataRow - 1).map((r, i) => (i > mapping.header ? [] : [...r]));
  const { set } = readMapped({ name: sheet.name, rows: [...above, ...shown] }, mapping, undefined, language);
  return set.items.map((i) => ({ ...i, stem: i.stem.replaceAll(HELD_BLANK, '____') }));
}

/** The items of rows, in their order. */
export function readTemplateRows(w: Ways, rows: readonly Row[], language: string | undefined): QuizSet {
  const { apart } = w;
  const isTyped = (r: Row): boolean => !w.grouped && [...w.optionColumns, w.packed].every((c) => c === undefined || !r[c]);
  const set = (items: Item[]): QuizSet => ({ title: '', items, ...(language && { language }) });
  if (apart) return set(rows.map((r, n) => apartItem(w, apart, r, n)));
  const chosen = chosenItems(w, w.grouped ? rows : rows.filter((r) => !isTyped(r)), language);
  if (w.grouped) return set(chosen);
  const next = chosen.values();
  return set(rows.flatMap((r, n) => (isTyped(r) ? [typedItem(w, r, n)] : (next.next().value ?? []))));
}
