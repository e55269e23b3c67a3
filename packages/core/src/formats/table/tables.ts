/** Tables of any layout as items: those of the templates by their headings, others by the mapping that is proposed. */
import { readDraft } from '../../draft/read.js';
import { keyProblem } from '../../item/kinds.js';
import { type Diagnostic, type Item, type ReadResult, type Section, UNTITLED } from '../../item/model.js';
import { partsOf, stripEnd } from '../../item/strip.js';
import { ReadError } from '../../item/readError.js';
import { type OwnLayout, ownLayout } from './layouts.js';
import { readMapped } from './mapped.js';
import { saysOf } from './headings.js';
import { languageVersions } from './languageVersions.js';
import { cellsOf, type TableSheet } from './mapping.js';
import { differencesOf, propose, type Proposal } from './propose.js';

/** The layout of a sheet that is in one of ours, and its rows from the headings on; null where it is in none. */
export function ownTable(sheet: TableSheet): { layout: OwnLayout; rows: TableSheet['rows'] } | null {
  const at = sheet.rows.findIndex((r) => r.some((c) => c.trim()));
  const layout = at < 0 ? undefined : ownLayout(sheet.rows[at] ?? []);
  return layout ? { layout, rows: sheet.rows.slice(at) } : null;
}

/**
 * Reads every sheet that holds questions, in order.
 * @throws ReadError where no sheet holds questions that can be told
 */
export function readTables(given: readonly TableSheet[]): ReadResult {
  const sheets = given.flatMap(languageVersions);
  const items: Item[] = [];
  const sections: Section[] = [];
  const diagnostics: Diagnostic[] = [];
  let title = '';
  const reasons = new Map<string, number>();
  const told = sheets.map((sheet) => {
    const own = ownTable(sheet);
    const proposal = own ? null : propose(sheet);
    const header = proposal?.mapping.header ?? -1;
    const heads = own?.rows[0] ?? (header < 0 ? [] : cellsOf(sheet.rows[header]).filter(Boolean));
    return { sheet, own, proposal, heads, worth: own ? Infinity : (proposal?.worth ?? 0) };
  });
  const best = Math.max(...told.map((t) => t.worth));
  const heads = new Set(told.flatMap((t) => t.heads));
  told.forEach(({ sheet, own, proposal }, n) => {
    if (proposal && sheets.length > 1 && aboutOthers(sheet, proposal, best, heads)) return;
    const mapping = proposal?.mapping;
    const table = own ? own.layout.read(own.rows) : mapping ? readMapped(sheet, mapping) : null;
    const plain = own || (proposal && proposal.rows >= POOR_ROWS) ? null : asDraft(sheet, table && { ...table, asides: [] });
    const read = plain ?? table;
    if (!read?.set.items.length) return;
    if (!plain && proposal?.other) doubted(read, readMapped(sheet, proposal.other.mapping), proposal);
    if (!title && sheets.length > 1 && !/^(?:sheet|tabelle|feuil|hoja|planilha|foglio|blad|arkusz|лист|аркуш|sayfa)\s*\d*$/i.test(sheet.name))
      title = sheet.name;
    // ids of sections stay apart from sheet to sheet
    const named = (id: string): string => (items.length ? `${id}-${n + 1}` : id);
    const into = items.length;
    for (const s of read.set.sections ?? []) sections.push({ ...s, id: into ? named(s.id) : s.id });
    for (const i of read.set.items) items.push(into && i.section ? { ...i, section: `${i.section}-${n + 1}` } : i);
    diagnostics.push(...read.diagnostics);
    if ('rows' in read) for (const r of read.rows) if (r.reason && !/heading|chosen/.test(r.reason)) reasons.set(r.reason, (reasons.get(r.reason) ?? 0) + 1);
  });
  if (!items.length) throw new ReadError('the columns of this table cannot be told: it needs a column of questions, and options or keys beside it');
  if (reasons.size)
    diagnostics.push({
      code: 'text-aside',
      severity: 'info',
      from: 0,
      to: 0,
      line: 1,
      column: 1,
      message: `Rows that give no item: ${[...reasons].map(([r, n]) => `${n} ${r}`).join(', ')}.`,
    });
  return { set: { title: title || UNTITLED, items, ...(sections.length && { sections }) }, diagnostics, asides: [] };
}

/** Whether a sheet tells how to fill in another, or holds notes: its rows name the columns of another, or are worth far less than the best sheet's. */
function aboutOthers(sheet: TableSheet, proposal: Proposal, best: number, heads: ReadonlySet<string>): boolean {
  if (proposal.worth >= best * 0.5) return false;
  const rows = sheet.rows.filter((r) => r.filter((c) => c.trim()).length > 1);
  const named = rows.filter((r) => heads.has((r.find((c) => c.trim()) ?? '').trim())).length;
  return named >= 2 && named >= rows.length * 0.3;
}

/** Keys that another explanation of the table, nearly as good, says otherwise stay empty, and it is told: never a guess. */
function doubted(read: Pick<ReadResult, 'set' | 'diagnostics'>, second: Pick<ReadResult, 'set'>, proposal: Proposal): void {
  const unsure = new Map(differencesOf(read.set.items, second.set.items).map((d) => [read.set.items[d.item]?.id, d]));
  const lines = new Map(read.diagnostics.map((d) => [d.item, d.line]));
  read.set.items = read.set.items.map((item) => (unsure.has(item.id) ? withoutKey(item) : item));
  for (const [item, d] of unsure)
    if (item)
      read.diagnostics.push({
        code: 'key-unsure',
        severity: 'warning',
        from: 0,
        to: 0,
        line: lines.get(item) ?? proposal.mapping.header + 2,
        column: 1,
        item,
        message: `“${d.stem.slice(0, 60)}”: the key is “${d.first}” or, with the columns taken otherwise, “${d.second}”. Open the table and say which column is what.`,
      });
}
/** An item as it is with its key not given. */
function withoutKey(item: Item): Item {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { ...item, options: item.options.map((o) => ({ ...o, credit: 0 })) };
    case 'true-false':
      return { ...item, answer: null };
    case 'short-answer':
      return { ...item, answers: [] };
    case 'numeric':
      return { ...item, answers: [] };
    default:
      return item;
  }
}

/** Rows of a table that is well explained are worth so much in the mean. */
const SURE_ROWS = 1.2;
/** Below this the rows are hardly items of a table. */
const POOR_ROWS = 0.9;

/**
 * A sheet whose rows are no items of one layout, read as the lines of a draft: cells go on from line to line, or each kind has columns of
 * its own. Null where that gives no more keys than the table does.
 */
function asDraft(sheet: TableSheet, asTable: ReadResult | null): ReadResult | null {
  const text = sheet.rows.map((r) => stripEnd(r.map((c) => partsOf(c, '\n').join(' ').trim()).join('\t'), /\t/)).join('\n');
  const { set, diagnostics, asides } = readDraft(text.slice(0, MOST_TEXT));
  const keyed = (items: readonly Item[]): number => items.filter((i) => !keyProblem(i)).length;
  return set.items.length && keyed(set.items) > keyed(asTable?.set.items ?? []) ? { set, diagnostics, asides } : null;
}
/** Characters of a sheet that are read as a draft at most. */
const MOST_TEXT = 2_000_000;

/** Whether a text is a table of questions rather than a draft: columns that are named, in nearly all of its lines. */
export function isTable(rows: readonly (readonly string[])[]): boolean {
  const full = rows.filter((r) => r.some((c) => c.trim()) && !(r.filter((c) => c.trim()).length === 1 && r[0]?.trimStart().startsWith('#')));
  if (full.length < 2) return false;
  // a table of Markdown stands in a draft, and the draft reader knows it
  if (full.some((r) => r.filter((c) => c.trim()).length > 1 && r.every((c) => /^(?::?-{2,}:?)?$/.test(c.trim())))) return false;
  const wide = full.filter((r) => r.length > 1).length;
  if (wide < full.length * 0.8) return false;
  const sheet = { name: '', rows: rows.map((r) => [...r]) };
  if (ownTable(sheet)) return true;
  const proposal = propose(sheet);
  if (!proposal || proposal.mapping.header < 0 || proposal.rows < SURE_ROWS) return false;
  return (rows[proposal.mapping.header] ?? []).filter((h) => Math.max(0, ...saysOf(h).values()) > 1).length >= 2;
}
