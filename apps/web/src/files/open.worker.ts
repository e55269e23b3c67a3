/** Opens files away from the page. Tables stay here, so that only what is shown of them crosses over. */
import {
  assetsAsData,
  type Cue,
  type Diagnostic,
  type Item,
  keyProblem,
  type LookCount,
  looksLikeSubtitles,
  type Mapping,
  newId,
  propose,
  type Proposal,
  proposeMapping,
  readDraft,
  ReadError,
  type ReadResult,
  readSubtitles,
  type Section,
  signatureOf,
  type Sureness,
  type TableSheet,
  ownTable,
} from '@zakuska/core';
import { allFormats, NoTextError } from '@zakuska/documents';
import { expose } from 'comlink';
import { previewSeen, previewWhole, readSheet, SHOWN_ROWS, type TablePreview } from './preview.js';

export interface SheetView {
  name: string;
  rows: string[][];
  rowCount: number;
  columns: number;
  hiddenRows: number;
  hiddenColumns: number;
  /** Made by one of the templates; its columns need no mapping. */
  template: boolean;
  mapping: Mapping | null;
  /** How sure the use of each column is. */
  sure: Sureness[];
  /** The second explanation, where it is nearly as good and keys other options. */
  other: Proposal['other'] | null;
  /** What the first rows would be as headings, by which a kept mapping is known again. */
  heads: string[];
}
export type OpenedView = { format: string; kind: string } & (
  | { as: 'draft'; text: string; notes: string[]; questions: number; looks: LookCount[]; pictures: number; pdf: boolean }
  | { as: 'tables'; sheets: SheetView[] }
  | { as: 'items'; title: string; items: Item[]; sections: Section[]; diagnostics: Diagnostic[]; pictures: number; passages: number }
);
/** An error's one line as a sentence. */
const sentence = (e: ReadError): string => `${e.message.charAt(0).toUpperCase()}${e.message.slice(1)}.`;

const tables = new Map<string, TableSheet[]>();

/** Texts with their pictures inside, so that items can stand in any set. */
function whole<T>(value: T, assets: ReadResult['set']['assets']): T {
  const text = JSON.stringify(value);
  return text.includes('asset:') ? (JSON.parse(assetsAsData(text, { assets })) as T) : value;
}

const sheetOf = (id: string, n: number): TableSheet => {
  const sheet = tables.get(id)?.[n];
  if (!sheet) throw new Error('that sheet is not open');
  return sheet;
};
/** The preview that is asked for now, of each sheet. */
const asked = new Map<string, number>();

const remote = {
  /** Reads a file; a table stays open under `id`. Gives the words of an error where it cannot be read. */
  async open(id: string, bytes: Uint8Array, name: string, progress: (done: number, all: number) => void): Promise<OpenedView | { error: string }> {
    try {
      const opened = await allFormats.open(bytes, name, progress);
      const said = { format: opened.format, kind: opened.name };
      if (opened.as === 'draft') {
        const { set, looks } = readDraft(opened.text);
        return {
          ...said,
          as: 'draft',
          text: opened.text,
          notes: opened.notes,
          questions: set.items.length,
          looks,
          pictures: opened.pictures,
          pdf: opened.format === 'pdf',
        };
      }
      if (opened.as === 'tables') {
        tables.set(id, opened.sheets);
        const sheets = opened.sheets.map((s): SheetView => {
          const template = ownTable(s) !== null;
          const proposal = template ? null : propose(s);
          return {
            name: s.name,
            rows: s.rows.slice(0, SHOWN_ROWS).map((r) => [...r]),
            rowCount: s.rows.length,
            columns: Math.max(0, ...s.rows.slice(0, 2000).map((r) => r.length)),
            hiddenRows: s.hiddenRows?.length ?? 0,
            hiddenColumns: s.hiddenColumns?.length ?? 0,
            template,
            mapping: proposal?.mapping ?? null,
            sure: proposal?.sure ?? [],
            other: proposal?.other ?? null,
            heads: s.rows.slice(0, 30).map((r, i) => (r.filter((c) => c.trim()).length > 1 ? signatureOf(s, { header: i, columns: [] }) : '')),
          };
        });
        return { ...said, as: 'tables', sheets };
      }
      const { set, diagnostics } = opened.result;
      const items = whole(set.items, set.assets);
      return {
        ...said,
        as: 'items',
        title: set.title,
        items,
        sections: whole(set.sections ?? [], set.assets),
        diagnostics,
        pictures: Object.keys(set.assets ?? {}).length,
        passages: set.sections?.filter((s) => s.passage).length ?? 0,
      };
    } catch (e) {
      // pages without text can still be looked at, and marked
      if (e instanceof NoTextError)
        return {
          format: 'pdf',
          kind: 'PDF of pictures',
          as: 'draft',
          text: '',
          notes: ['Its pages are pictures without text: mark questions on them to take them.'],
          questions: 0,
          looks: [],
          pictures: 0,
          pdf: true,
        };
      if (e instanceof ReadError) return { error: sentence(e) };
      throw e;
    }
  },
  /** The words of a file that is kept as a source; of a transcript with their times. */
  async source(bytes: Uint8Array, name: string): Promise<{ text: string; cues: Cue[]; mediaType: string } | { error: string }> {
    try {
      const { text, format } = await allFormats.draft(bytes, name);
      const cues = looksLikeSubtitles(text) ? readSubtitles(text) : [];
      return {
        text: cues.length ? cues.map((c) => c.text).join('\n') : text,
        cues,
        mediaType: cues.length ? 'text/vtt' : (allFormats.byId(format)?.mediaType ?? 'text/plain'),
      };
    } catch (e) {
      if (e instanceof NoTextError) return { text: '', cues: [], mediaType: 'application/pdf' };
      if (e instanceof ReadError) return { error: sentence(e) };
      throw e;
    }
  },
  /** What the rows give that are seen. */
  seen(id: string, n: number, mapping: Mapping | null, rows: number[] | null): TablePreview {
    asked.set(`${id} ${n}`, (asked.get(`${id} ${n}`) ?? 0) + 1);
    return previewSeen(sheetOf(id, n), mapping, rows);
  },
  /** What all rows give; null where something else is asked for meanwhile. */
  whole(id: string, n: number, mapping: Mapping, rows: number[] | null): Promise<TablePreview | null> {
    const turn = asked.get(`${id} ${n}`);
    return previewWhole(sheetOf(id, n), mapping, rows, () => asked.get(`${id} ${n}`) === turn && tables.has(id));
  },
  /** The items of a table, for good. Ids of sections are new, so that several sheets can stand in one set. */
  take(id: string, sheets: { sheet: number; mapping: Mapping | null; rows: number[] | null }[]): { items: Item[]; sections: Section[]; withoutKey: number } {
    const items: Item[] = [];
    const sections: Section[] = [];
    for (const s of sheets) {
      const read = readSheet(sheetOf(id, s.sheet), s.mapping, s.rows);
      const names = new Map(read.sections.map((x) => [x.id, newId()]));
      for (const x of read.sections) sections.push({ ...x, id: names.get(x.id) ?? x.id });
      for (const i of read.items) items.push(i.section ? { ...i, section: names.get(i.section) ?? i.section } : i);
    }
    return { items, sections, withoutKey: items.filter((i) => keyProblem(i)).length };
  },
  signature: (id: string, n: number, mapping: Mapping): string => signatureOf(sheetOf(id, n), mapping),
  proposeWith(id: string, n: number, change: { header?: number; hidden?: boolean }): Mapping | null {
    const sheet = sheetOf(id, n);
    if (change.header === undefined) return proposeMapping(sheet, change.hidden ?? false);
    // with another row of headings, what stands above it is not looked at
    const mapping = proposeMapping({ ...sheet, rows: sheet.rows.map((r, i) => (i < (change.header ?? 0) ? [] : r)) }, change.hidden ?? false);
    return mapping && { ...mapping, header: change.header };
  },
  close: (id: string): void => void tables.delete(id),
  /** The workbook to fill in, with a sheet that explains its columns. */
  async template(): Promise<{ bytes: Uint8Array; name: string }> {
    const items: Item[] = [
      {
        id: newId(),
        kind: 'multiple-choice',
        stem: 'What feeds the yeast in a starter?',
        points: 1,
        options: ['salt', 'sugars from the flour', 'butter'].map((content, i) => ({ id: newId(), content, credit: i === 1 ? 1 : 0 })),
      },
      { id: newId(), kind: 'true-false', stem: 'Salt slows fermentation.', points: 1, answer: true },
      { id: newId(), kind: 'numeric', stem: 'How many grams are 2 % of 750 g?', points: 2, answers: [{ min: 15, max: 15, credit: 1 }] },
    ];
    const written = await allFormats.byId('xlsx')?.write?.({ title: 'Questions to fill in', items });
    if (!written) throw new Error('no template');
    return written;
  },
};
export type Opener = typeof remote;
expose(remote);
