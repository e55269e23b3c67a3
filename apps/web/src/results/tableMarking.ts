/** Tables of answers marked: what is shown of them and of what came out. Runs in a worker, where the table stays. */
import {
  type ColumnSaid,
  type GradeAsked,
  gradeTable,
  type KeptTable,
  keepTable,
  type QuizSet,
  ReadError,
  type ResponseColumn,
  type ResponseTable,
  type TableSheet,
  understandResponses,
} from '@zakuska/core';
import { allFormats } from '@zakuska/documents';
import { say } from '../words/say.js';

/** How a table is to be marked, as it crosses over. */
export interface MarkingAsked {
  sheet: number;
  /** Marks by the items of this set. */
  set?: QuizSet | undefined;
  /** The row that is the key, by its place in the table from 0; found where it is not said, none for null. */
  keyRow?: number | null | undefined;
  columns: readonly (readonly [number, ColumnSaid])[];
  attempts?: GradeAsked['attempts'] | undefined;
}
/** A column as it is shown. */
export interface ColumnView extends ResponseColumn {
  /** What people wrote there first. */
  answers: string[];
  /** How it is marked; absent where it is not. */
  marked?: { points: number; key: string; by: 'item' | 'key'; earned: number };
}
/** A table, marked where it can be. */
export interface MarkingView {
  columns: ColumnView[];
  /** Rows that may hold the key: the first of the table. */
  rows: { at: number; name: string }[];
  keyRow: number | null;
  people: { name: string; score: number; max: number }[];
  mean: number;
  /** Columns with the least share of points first. */
  mostMissed: number[];
  lowScorers: string[];
  notes: string[];
  /** Why nothing is marked yet. */
  problem?: string;
}

/** Rows that can be chosen as the key. */
const MOST_ROWS = 100;
const SHOWN_ANSWERS = 4;
let open: TableSheet[] = [];
const sentence = (e: ReadError): string => `${e.message.charAt(0).toUpperCase()}${e.message.slice(1)}.`;

const told = (table: ResponseTable, keyRow: number | null): Pick<MarkingView, 'columns' | 'rows' | 'keyRow'> => ({
  columns: table.columns.map((c, i) => {
    const answers = new Set<string>();
    for (const r of table.rows) {
      if (answers.size >= SHOWN_ANSWERS) break;
      if (r.at !== keyRow && r.cells[i]) answers.add(r.cells[i]);
    }
    return { ...c, answers: [...answers] };
  }),
  rows: table.rows.slice(0, MOST_ROWS).map(({ at, name }) => ({ at, name })),
  keyRow,
});

const howOf = ({ set, keyRow, columns, attempts }: MarkingAsked): GradeAsked => ({
  columns: new Map(columns),
  ...(set && { set }),
  ...(keyRow !== undefined && { keyRow: keyRow === null ? null : { at: keyRow } }),
  ...(attempts && { attempts }),
});

/** What the worker does. */
export const marking = {
  /** Takes a table in. @returns the names of its sheets, or why it is none */
  async open(bytes: Uint8Array, name: string): Promise<{ sheets: string[] } | { error: string }> {
    try {
      open = (await allFormats.tables(bytes, name)).filter((s) => s.rows.some((r) => r.some((c) => c.trim())));
      return open.length ? { sheets: open.map((s) => s.name) } : { error: say('There is nothing in this table.') };
    } catch (e) {
      return { error: e instanceof ReadError ? sentence(e) : say('This file could not be read.') };
    }
  },
  /** The table as items and responses, to be kept. */
  keep(asked: MarkingAsked): KeptTable | { error: string } {
    try {
      return keepTable(open[asked.sheet]?.rows ?? [], howOf(asked));
    } catch (e) {
      if (e instanceof ReadError) return { error: sentence(e) };
      throw e;
    }
  },
  /** Marks it. What is wrong is said with what was understood of the table, so that a person can say the rest. */
  mark(asked: MarkingAsked): MarkingView | { error: string } {
    const rows = open[asked.sheet]?.rows ?? [];
    const said = new Map(asked.columns);
    const nothing = { people: [], mean: 0, mostMissed: [], lowScorers: [], notes: [] };
    try {
      const g = gradeTable(rows, howOf(asked));
      const marks = new Map(g.marked.map((m) => [m.column, m]));
      const view = told(g.table, g.keyRow);
      const columnOf = new Map(g.marked.map((m) => [m.heading, m.column]));
      return {
        ...view,
        columns: view.columns.map((c, i) => {
          const m = marks.get(i);
          return m ? { ...c, marked: { points: m.points, key: m.key, by: m.how === 'item' ? 'item' : 'key', earned: m.earned } } : c;
        }),
        people: g.people.map(({ name, score, max }) => ({ name, score, max })),
        mean: g.mean,
        mostMissed: g.mostMissed.map((heading) => columnOf.get(heading) as number),
        lowScorers: g.lowScorers,
        notes: g.notes,
      };
    } catch (e) {
      if (!(e instanceof ReadError)) throw e;
      try {
        const table = understandResponses(rows, said);
        return { ...told(table, null), ...nothing, notes: table.notes, problem: sentence(e) };
      } catch (worse) {
        return { error: worse instanceof ReadError ? sentence(worse) : sentence(e) };
      }
    }
  },
};
