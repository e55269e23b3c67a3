/**
 * Spreadsheets that other programs take: choices, a row each, in columns and with limits of their own. A layout is a row of `layoutTable.ts`;
 * what it holds, how it is written and how it is read back follow from the row.
 */
import { newId } from '../../item/ids.js';
import { letterOf } from '../../item/kinds.js';
import { type ChoiceItem, type Diagnostic, type Item, item as itemSchema, type QuizSet, type ReadResult, UNTITLED } from '../../item/model.js';
import { ReadError } from '../../item/readError.js';
import { plainOf, richFromPlain } from '../../item/richText.js';
import { partsOf } from '../../item/strip.js';
import { holding, type HeldField, type Profile } from '../../fit/profile.js';
import { trueFalseAsChoice } from '../../fit/recast.js';
import { allowedTime, usualTime } from '../../fit/steps.js';
import type { Row } from './grid.js';
import type { ChoiceLayout, Holds } from './layoutTable.js';

const HELD: Partial<Record<Holds & string, HeldField>> = { points: 'points', time: 'timeLimit', feedback: 'feedback.general' };
const placesOf = (layout: ChoiceLayout, holds: Holds & string): number[] => layout.columns.flatMap((c, i) => (c.holds === holds ? [i] : []));
const isChoice = (item: Item): item is ChoiceItem => 'options' in item;
/** Why an item cannot go into a layout. */
function refuses(layout: ChoiceLayout, item: Item): string | null {
  if (!isChoice(item)) return null;
  const right = item.options.filter((o) => o.credit > 0);
  if (item.options.length < layout.least) return `there are at least ${layout.least} options there`;
  if (item.options.some((o) => !plainOf(o.content))) return 'an option has no text';
  if (layout.between === undefined && right.length > 1) return 'one option is right there';
  if (item.kind === 'multiple-response' && right.length === 1) return 'one right option among several to tick cannot be told from a choice there';
  if (layout.key !== 'words') return null;
  const texts = item.options.map((o) => plainOf(o.content));
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
  const named = (i: number, content: string): string => (layout.key === 'letters' ? letterOf(i) : layout.key === 'numbers' ? String(i + 1) : plainOf(content));
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
export function hasChoiceLayout(layout: ChoiceLayout, headings: readonly string[]): boolean {
  const asked = [...placesOf(layout, 'question'), ...placesOf(layout, 'key'), ...placesOf(layout, 'option').slice(0, layout.least)];
  return asked.every((i) => headings.some((h) => same(h, layout.columns[i]?.heading ?? '')));
}

/** The options that a key names, by their places; what names none is handed to `bad`. */
function placesNamed(layout: ChoiceLayout, key: string, texts: readonly string[], bad: (name: string) => void): Set<number> {
  const names = layout.key === 'words' ? (layout.between ? partsOf(key, layout.between.trim()) : [key.trim()]) : key.split(/[,;\s]+/);
  const placeOf = (name: string): number =>
    layout.key === 'words'
      ? texts.findIndex((t) => plainOf(t).toLowerCase() === plainOf(name).toLowerCase())
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
export function readChoiceRows(layout: ChoiceLayout, rows: readonly (readonly string[])[]): ReadResult {
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
