/** What stands on paper and on slides, whatever the file is written in: pieces in their order, with rich text as blocks of runs. */

import { z } from 'zod';

/** Words of one look, a formula, a picture of the set, a blank to write in, or the end of a line. */
export type PaperRun =
  | { is: 'text'; text: string; bold?: true; italic?: true; underline?: true; sub?: true; sup?: true; code?: true }
  /** TeX; `display` stands in a line of its own. */
  | { is: 'formula'; tex: string; display: boolean }
  /** A picture of the set by the hash of its bytes. */
  | { is: 'picture'; asset: string; alt: string; width?: number }
  /** So many letters wide. */
  | { is: 'blank'; width: number }
  | { is: 'break' };

/** A cell of a table, over so many columns and rows. */
export interface PaperCell {
  blocks: PaperBlock[];
  head: boolean;
  columns: number;
  rows: number;
}

/** A block of rich text. */
export type PaperBlock =
  | { is: 'paragraph'; runs: PaperRun[] }
  | { is: 'list'; ordered: boolean; start: number; items: PaperBlock[][] }
  | { is: 'table'; rows: PaperCell[][] }
  | { is: 'code'; text: string }
  | { is: 'quote'; blocks: PaperBlock[] };

/** Where a learner answers. */
export type PaperAnswer =
  /** Lettered options in so many columns. */
  | { is: 'options'; options: { letter: string; blocks: PaperBlock[]; right: boolean }[]; columns: 1 | 2 | 4 }
  /** Boxes to tick, side by side. */
  | { is: 'boxes'; words: { text: string; right: boolean }[] }
  | { is: 'lines'; lines: number }
  /** A blank so many letters wide, with a unit behind it. */
  | { is: 'blank'; width: number; unit?: string }
  /** Words to choose from. */
  | { is: 'bank'; words: string[] }
  /** Two columns to join; `letter` is the right side of each left one. */
  | { is: 'pairs'; lefts: PaperBlock[][]; rights: { letter: string; blocks: PaperBlock[] }[] }
  /** Steps in an order that is not the right one, each with a box for its number. */
  | { is: 'steps'; steps: PaperBlock[][] };

/** A question as it stands on paper. */
export interface PaperItem {
  is: 'item';
  /** The item of the set. */
  id: string;
  number: string;
  /** "2 points"; empty for one point. */
  points: string;
  blocks: PaperBlock[];
  answers: PaperAnswer[];
}

/** A row of the key. */
export interface PaperKeyRow {
  id: string;
  number: string;
  key: PaperBlock[];
  points: string;
  /** What is to be said or looked for: feedback, what earns part of the points, the rubric. */
  notes: PaperBlock[][];
}

/** One piece of a paper. */
export type PaperPiece =
  | { is: 'title'; text: string }
  /** Lines for name, class and date, and the sum of the points. */
  | { is: 'head'; name: string; group: string; date: string; points: string }
  /** What follows begins a page. */
  | { is: 'page' }
  | { is: 'heading'; text: string }
  | { is: 'text'; blocks: PaperBlock[] }
  | { is: 'passage'; blocks: PaperBlock[] }
  | PaperItem
  | { is: 'key'; headings: { number: string; key: string; points: string }; rows: PaperKeyRow[] };

/** A paper: its pieces, and what it is called. */
export interface Paper {
  title: string;
  language: string;
  pieces: PaperPiece[];
}

const letters = z.string().max(200_000);
const run: z.ZodType<PaperRun> = z.discriminatedUnion('is', [
  z.object({
    is: z.literal('text'),
    text: letters,
    bold: z.literal(true).optional(),
    italic: z.literal(true).optional(),
    underline: z.literal(true).optional(),
    sub: z.literal(true).optional(),
    sup: z.literal(true).optional(),
    code: z.literal(true).optional(),
  }),
  z.object({ is: z.literal('formula'), tex: letters, display: z.boolean() }),
  z.object({ is: z.literal('picture'), asset: z.string().regex(/^[0-9a-f]{64}$/), alt: letters, width: z.number().positive().max(10_000).optional() }),
  z.object({ is: z.literal('blank'), width: z.number().min(1).max(200) }),
  z.object({ is: z.literal('break') }),
]) as z.ZodType<PaperRun>;
const runs = z.array(run).max(10_000);
const span = z.number().int().min(1).max(1000);
const blocks: z.ZodType<PaperBlock[]> = z.lazy(() => z.array(block).max(10_000));
const block: z.ZodType<PaperBlock> = z.lazy(() =>
  z.discriminatedUnion('is', [
    z.object({ is: z.literal('paragraph'), runs }),
    z.object({ is: z.literal('list'), ordered: z.boolean(), start: z.number().int(), items: z.array(blocks).max(10_000) }),
    z.object({
      is: z.literal('table'),
      rows: z.array(z.array(z.object({ blocks, head: z.boolean(), columns: span, rows: span })).max(1000)).max(10_000),
    }),
    z.object({ is: z.literal('code'), text: letters }),
    z.object({ is: z.literal('quote'), blocks }),
  ]),
);
/** A paper of what reports are made of: headings, text and tables; no questions to answer. */
export const reportSchema = z.object({
  title: z.string().min(1).max(1000),
  language: z.string().max(35),
  pieces: z
    .array(
      z.discriminatedUnion('is', [
        z.object({ is: z.literal('title'), text: letters }),
        z.object({ is: z.literal('page') }),
        z.object({ is: z.literal('heading'), text: letters }),
        z.object({ is: z.literal('text'), blocks }),
        z.object({
          is: z.literal('key'),
          headings: z.object({ number: letters, key: letters, points: letters }),
          rows: z.array(z.object({ id: z.string().max(200), number: letters, key: blocks, points: letters, notes: z.array(blocks).max(1000) })).max(10_000),
        }),
      ]),
    )
    .max(20_000),
});
/** A report, as it is set. It is a paper. */
export type Report = z.infer<typeof reportSchema>;
