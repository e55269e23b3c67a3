/** One change of many items at once. */
import { newId } from '../item/ids.js';
import { isQuestion, keyProblem } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import type { SetDocument, SimpleOperation } from '../item/operations.js';
import { isMarkup } from '../item/markup.js';
import { changeTo, mapTexts } from '../item/texts.js';

/** What can be set on many items at once. */
export type BulkChange =
  | { type: 'points'; points: number }
  /** null: as the set has it. */
  | { type: 'required' | 'shuffle'; value: boolean | null }
  /** Seconds; null: none. */
  | { type: 'timeLimit'; seconds: number | null }
  | { type: 'tags' | 'outcomes'; add: readonly string[]; remove: readonly string[] }
  /** An empty text takes the feedback away. */
  | { type: 'feedback'; which: 'correct' | 'incorrect' | 'general'; text: string; onlyWhereNone: boolean }
  | { type: 'capitals'; of: 'stem' | 'option' | 'both'; how: 'capital' | 'small' }
  | { type: 'stops'; of: 'stem' | 'option' | 'both'; how: 'add' | 'remove' }
  /** BCP 47; null: the set's. */
  | { type: 'language'; language: string | null };

/** The first letter of a rich text, behind tags and opening signs. */
const FIRST = /^((?:\s|<[^>]*>|["'“„«¿¡([])*)(\p{L})(\p{L}*)/u;
function firstLetter(text: string, how: 'capital' | 'small'): string {
  // names of code, formulas, single letters and words with a capital inside (pH, mRNA, DNA) are written as they are
  if (/^\s*(?:<code>|\\[([])/.test(text)) return text;
  return text.replace(FIRST, (whole, before: string, first: string, rest: string) => {
    if (!rest || /\p{Lu}/u.test(rest)) return whole;
    return before + (how === 'capital' ? first.toUpperCase() : first.toLowerCase()) + rest;
  });
}
/** How much of a rich text's end is closing tags and white space. */
function lastTags(rich: string): number {
  let end = rich.trimEnd().length;
  for (let open = rich.lastIndexOf('</', end); rich.charAt(end - 1) === '>' && open >= 0; open = rich.lastIndexOf('</', end)) {
    if (!/^\w+$/.test(rich.slice(open + 2, end - 1))) break;
    end = rich.slice(0, open).trimEnd().length;
  }
  return rich.length - end;
}
function fullStop(text: string, how: 'add' | 'remove'): string {
  const at = isMarkup(text) ? text.length - lastTags(text) : text.trimEnd().length;
  const [body, tail] = [text.slice(0, at), text.slice(at)];
  if (how === 'remove') return /[^.]\.$/.test(body) && !/(?:\b(?:etc|e\.g|i\.e|usw|bzw)|\b\p{Lu})\.$/u.test(body) ? body.slice(0, -1) + tail : text;
  return /[\p{L}\p{N})"”%]$/u.test(body) ? `${body}.${tail}` : text;
}

const unique = (list: readonly string[]): string[] => [...new Set(list.map((t) => t.trim()).filter(Boolean))];
const put = (item: Item, name: string, value: unknown): SimpleOperation | null => {
  const was = (item as unknown as Record<string, unknown>)[name];
  if (JSON.stringify(was) === JSON.stringify(value ?? undefined)) return null;
  return value === null || value === undefined
    ? was === undefined
      ? null
      : { type: 'change', id: item.id, set: {}, unset: [name] }
    : { type: 'change', id: item.id, set: { [name]: value } };
};

/** The item with its question, its options or both put through `f`. */
const formed = (item: Item, of: 'stem' | 'option' | 'both', f: (text: string) => string): SimpleOperation | null =>
  changeTo(
    item,
    mapTexts(item, (t, { part }) => (part === of || (of === 'both' && (part === 'stem' || part === 'option')) ? f(t) : t)),
  );

function one(item: Item, c: BulkChange): SimpleOperation | null {
  switch (c.type) {
    case 'points':
      return isQuestion(item) ? put(item, 'points', Math.round(c.points * 1e4) / 1e4) : null;
    case 'required':
      return put(item, c.type, c.value);
    case 'shuffle':
      return 'options' in item || item.kind === 'matching' || item.kind === 'ordering' ? put(item, c.type, c.value) : null;
    case 'timeLimit':
      return put(item, 'timeLimit', c.seconds);
    case 'language':
      return put(item, 'language', c.language);
    case 'tags':
    case 'outcomes': {
      const list = unique([...(item[c.type] ?? []).filter((t) => !c.remove.includes(t)), ...c.add]);
      return put(item, c.type, list.length ? list : null);
    }
    case 'feedback': {
      const was = item.feedback?.[c.which] ?? '';
      if (!isQuestion(item) || (c.onlyWhereNone && was) || was === (c.text.trim() && c.text)) return null;
      const { [c.which]: _, ...rest } = item.feedback ?? {};
      const feedback = c.text.trim() ? { ...rest, [c.which]: c.text } : rest;
      return put(item, 'feedback', Object.keys(feedback).length ? feedback : null);
    }
    case 'capitals':
      return formed(item, c.of, (t) => firstLetter(t, c.how));
    case 'stops':
      return formed(item, c.of, (t) => fullStop(t, c.how));
  }
}

/** The operations that make a change to items; none for items that are as wanted, or to which it does not apply. */
export const bulkChange = (items: readonly Item[], change: BulkChange): SimpleOperation[] => items.flatMap((i) => one(i, change) ?? []);

/** The operations that move items, in their order, to stand together in front of the item now at place `to` (or at the end). */
export function moveItems(items: readonly Item[], ids: ReadonlySet<string>, to: number): SimpleOperation[] {
  const before = items.slice(0, to).filter((i) => !ids.has(i.id)).length;
  const moving = items.filter((i) => ids.has(i.id));
  const order = items.map((i) => i.id);
  const out: SimpleOperation[] = [];
  const rest = items.filter((i) => !ids.has(i.id)).map((i) => i.id);
  const wanted = [...rest.slice(0, before), ...moving.map((i) => i.id), ...rest.slice(before)];
  wanted.forEach((id, at) => {
    if (order[at] === id) return;
    out.push({ type: 'move', id, to: at });
    order.splice(order.indexOf(id), 1);
    order.splice(at, 0, id);
  });
  return out;
}

/** A copy of an item with ids of its own. */
export function copyOf(item: Item): Item {
  const copy = JSON.parse(JSON.stringify(item)) as Item;
  copy.id = newId();
  if ('options' in copy) for (const o of copy.options) o.id = newId();
  delete copy.source;
  return copy;
}

const printedNumber = ({ label = '' }: Item): number | undefined => (/^\d{1,6}$/.test(label) ? Number(label) : undefined);
/** The operation that puts copies of items behind the last of them, open for checking. */
export function copyItems(items: readonly Item[], ids: ReadonlySet<string>): SimpleOperation[] {
  const last = items.findLastIndex((i) => ids.has(i.id));
  // a printed number stands once: a copy gets the next one, or none where what is printed is no number
  let highest = Math.max(0, ...items.map((i) => printedNumber(i) ?? 0));
  const copies = items.flatMap((i) => {
    if (!ids.has(i.id)) return [];
    const { label: _, ...copy } = copyOf(i);
    return [{ ...copy, ...(printedNumber(i) !== undefined && { label: String(++highest) }) } as Item];
  });
  return last < 0 ? [] : [{ type: 'insert', at: last + 1, items: copies }];
}

/**
 * The operations that mark items as checked; those that are left out or checked already stay as they are.
 * @param by the person's name
 * @param at ISO 8601
 * @returns the operations, and the items that have no key to be checked by
 */
export function markChecked(document: SetDocument, items: readonly Item[], by: string, at: string): { operations: SimpleOperation[]; faulty: Item[] } {
  const open = items.filter((i) => document.reviews[i.id] === undefined);
  return {
    operations: open.filter((i) => !keyProblem(i)).map((i) => ({ type: 'review', id: i.id, review: { state: 'checked', by, at } })),
    faulty: open.filter((i) => keyProblem(i)),
  };
}

/** The operations that leave items out, or take them back in. */
export const leaveOut = (document: SetDocument, ids: readonly string[], out: boolean): SimpleOperation[] =>
  ids.flatMap((id): SimpleOperation[] => {
    const is = document.reviews[id]?.state === 'left-out';
    return is === out ? [] : [{ type: 'review', id, review: out ? { state: 'left-out' } : null }];
  });
