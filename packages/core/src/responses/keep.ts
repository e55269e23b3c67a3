/**
 * A marked table as items and responses, so that it is kept with all other results of a set: by the items that its columns are about, or,
 * where a row or a person said the key, by items made from the key and what people gave.
 */
import { newId } from '../item/ids.js';
import { letterOf } from '../item/kinds.js';
import { defaultMatch, item as itemSchema, type Item } from '../item/model.js';
import { richFromPlain } from '../item/markup.js';
import type { Response } from '../mark/mark.js';
import { type GradeAsked, type Marking, understandMarking } from './grade.js';
import type { ResponseRow, ResponseTable } from './table.js';

/** Somebody's row. */
export interface KeptPerson {
  name: string;
  mail?: string;
  /** ISO 8601, where the table says a time that can be read. */
  at?: string;
  /** By item. */
  responses: Record<string, Response>;
}
/** A table to be kept. */
export interface KeptTable {
  items: Item[];
  people: KeptPerson[];
  /** What was made of columns that no item is about. */
  notes: string[];
}

const plain = (s: string): string => s.toLowerCase().replace(/\s+/g, ' ').trim();
/** So many different answers, given by people again and again, were chosen and not typed. */
const MOST_OPTIONS = 8;
const AGAIN = 2;

/** An item for a column whose key was said: a choice where few answers come again and again, else typed. */
function itemOf(m: Marking, people: readonly ResponseRow[], at: number): Marking['asks'] & { note: string } {
  const cellOf = (r: ResponseRow): string => r.cells[m.column]?.trim() ?? '';
  const cells = new Map<string, string>();
  for (const r of people) if (cellOf(r)) cells.set(plain(cellOf(r)), cellOf(r));
  const rights = new Set(people.flatMap((r) => (cellOf(r) && m.earn(r) > 0 ? [plain(cellOf(r))] : [])));
  const wrongs = [...cells].filter(([p]) => !rights.has(p));
  const filled = people.filter((r) => cellOf(r)).length;
  const common = { id: newId(), label: String(at + 1), stem: richFromPlain(m.heading), points: m.points };
  if (m.how === 'one' && wrongs.length > 0 && wrongs.length + 1 <= MOST_OPTIONS && filled >= (wrongs.length + 1) * AGAIN) {
    // whatever was accepted is the key, in the words of the key
    const options = [
      { id: 'key', content: richFromPlain(m.key), credit: 1 },
      ...wrongs.map(([p, text]) => ({ id: `given ${p}`, content: richFromPlain(text), credit: 0 })),
    ];
    options.sort((a, b) => a.content.localeCompare(b.content, undefined, { numeric: true }));
    return {
      item: itemSchema.parse({ ...common, kind: 'multiple-choice', options, shuffle: false }),
      response: (r) => (!cellOf(r) ? null : { options: [rights.has(plain(cellOf(r))) ? 'key' : `given ${plain(cellOf(r))}`] }),
      note: `Column “${m.heading}” became a choice of ${options.length}, ${letterOf(options.findIndex((o) => o.id === 'key'))} its key.`,
    };
  }
  const accepted = [m.key, ...[...rights].flatMap((p) => (p === plain(m.key) ? [] : [cells.get(p) ?? p]))];
  return {
    item: itemSchema.parse({
      ...common,
      kind: 'short-answer',
      answers: accepted.map((text) => ({ text, credit: 1 })),
      // what counts was told by the table: nothing more does
      match: { ...defaultMatch, numbersAsValues: false, anyOrder: false },
    }),
    response: (r) => (cellOf(r) ? { text: cellOf(r) } : null),
    note: `Column “${m.heading}” became a question with a typed answer.`,
  };
}

const cellBy = (table: ResponseTable, use: string, r: ResponseRow): string => r.cells[table.columns.findIndex((c) => c.use === use)]?.trim() ?? '';
function timeOf(cell: string): string | undefined {
  const at = cell ? Date.parse(cell) : Number.NaN;
  return Number.isNaN(at) ? undefined : new Date(at).toISOString();
}

/**
 * Makes items and responses of a table, marked as `gradeTable` marks it.
 * @throws ReadError as `gradeTable` does
 */
export function keepTable(rows: readonly (readonly string[])[], asked: GradeAsked): KeptTable {
  const { table, people, markings, notes } = understandMarking(rows, asked);
  const asks = markings.map((m, at) => {
    if (!m.asks) return itemOf(m, people, at);
    // an item is kept with the points that it was given here
    return { item: { ...m.asks.item, points: m.points }, response: m.asks.response, note: '' };
  });
  return {
    items: asks.map((a) => a.item),
    people: people.map((r): KeptPerson => {
      const mail = cellBy(table, 'mail', r);
      const at = timeOf(cellBy(table, 'time', r));
      return {
        name: r.name,
        ...(mail && { mail }),
        ...(at && { at }),
        responses: Object.fromEntries(
          asks.flatMap(({ item, response }) => {
            const given = response(r);
            return given ? [[item.id, given]] : [];
          }),
        ),
      };
    }),
    notes: [...notes, ...asks.flatMap((a) => (a.note ? [a.note] : []))],
  };
}
