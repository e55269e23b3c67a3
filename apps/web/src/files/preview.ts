/** What a table would give by agreed columns: first of the rows that are seen, then of all of them, a piece at a time. */
import {
  type Diagnostic,
  type Item,
  type MappedTable,
  type Mapping,
  readMapped,
  readMappedInSteps,
  readTables,
  type RowReading,
  type Section,
  type TableSheet,
  ownTable,
} from '@zakuska/core';

/** Rows of a sheet that the page shows at most. */
export const SHOWN_ROWS = 200;
/** Rows that are read at once: those that are shown, and enough more for what stands out to be told. */
export const SEEN_ROWS = 500;
/** Milliseconds of reading before others get their turn. */
const TURN = 30;

export interface TablePreview {
  count: number;
  /** Whether all rows were read, or only those that are seen. */
  whole: boolean;
  first: Item[];
  /** Rows that are shown, with what becomes of each. */
  rows: RowReading[];
  reasons: [string, number][];
  problems: Diagnostic[];
  problemCount: number;
}
/** What a sheet gives. */
export interface SheetRead {
  items: Item[];
  sections: Section[];
  rows: RowReading[];
  diagnostics: Diagnostic[];
}

const ofTable = ({ set, rows, diagnostics }: MappedTable): SheetRead => ({ items: set.items, sections: set.sections ?? [], rows, diagnostics });
/** A sheet of a template, which needs no mapping. */
function ofTemplate(sheet: TableSheet): SheetRead {
  const own = ownTable(sheet);
  if (!own) return { items: [], sections: [], rows: [], diagnostics: [] };
  const { set, diagnostics } = readTables([{ name: '', rows: own.rows }]);
  return { items: set.items, sections: set.sections ?? [], rows: [], diagnostics };
}
const chosen = (rows: number[] | null): ReadonlySet<number> | undefined => (rows ? new Set(rows) : undefined);

/** All of a sheet, without a pause. */
export const readSheet = (sheet: TableSheet, mapping: Mapping | null, rows: number[] | null): SheetRead =>
  mapping ? ofTable(readMapped(sheet, mapping, chosen(rows))) : ofTemplate(sheet);

function reasonsOf(rows: readonly RowReading[]): [string, number][] {
  const out = new Map<string, number>();
  for (const r of rows) if (r.reason && !/^(?:the headings|above the headings)$/.test(r.reason)) out.set(r.reason, (out.get(r.reason) ?? 0) + 1);
  return [...out];
}
function viewOf(read: SheetRead, whole: boolean): TablePreview {
  const problems = read.diagnostics.filter((d) => d.severity !== 'info');
  return {
    count: read.items.length,
    whole,
    first: read.items.slice(0, 4),
    rows: read.rows.filter((r) => r.row < SHOWN_ROWS),
    reasons: reasonsOf(read.rows),
    problems: problems.slice(0, 40),
    problemCount: problems.length,
  };
}

/** What the rows give that are seen, at once; of a small sheet that is all of them. */
export function previewSeen(sheet: TableSheet, mapping: Mapping | null, rows: number[] | null): TablePreview {
  const whole = sheet.rows.length <= SEEN_ROWS || !mapping;
  return viewOf(readSheet(whole ? sheet : { ...sheet, rows: sheet.rows.slice(0, SEEN_ROWS) }, mapping, rows), whole);
}

/**
 * What all rows give. Others get their turn every few hundredths of a second.
 * @param wanted whether it is still asked for
 * @returns null where it was given up
 */
export async function previewWhole(sheet: TableSheet, mapping: Mapping, rows: number[] | null, wanted: () => boolean): Promise<TablePreview | null> {
  const steps = readMappedInSteps(sheet, mapping, chosen(rows));
  let turn = performance.now();
  for (;;) {
    const { done, value } = steps.next();
    if (done) return viewOf(ofTable(value), true);
    if (performance.now() - turn < TURN) continue;
    await new Promise((r) => setTimeout(r));
    if (!wanted()) return null;
    turn = performance.now();
  }
}
