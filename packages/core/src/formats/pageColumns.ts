/** A page in two columns of questions, as it comes out of a PDF: the lines of both stand side by side. One column is put below the other. */

import { matchesOf } from '../language/matches.js';

/** A number with a sign behind it, and words: what a question in the right column begins with. */
const LABEL = /^\(?(?:\p{L}{1,9}\.?\s{0,2})?(\d{1,3})\s?[.):–-]\s{0,8}(?=\S)/u;
const numberOf = (cell: string): number | undefined => {
  const found = LABEL.exec(cell.trimStart().slice(0, 40))?.[1];
  return found === undefined ? undefined : Number(found);
};
/** Words, and blanks that part the columns where the right one is found; on each of their lines two are enough. */
const GUTTER = /\S\s{3,}(?=\S)/g;
const PARTED = /\s{2}$/;
/** A left column is so wide at least. */
const NARROWEST = 20;
/** Right columns hang so far to the left of where they were found, as their glyphs are rounded to places. */
const SLACK = 2;
/** No page has more lines; a text without end is not gone through again and again. */
const LONGEST = 300;

interface Cells {
  left: string;
  right: string;
}

/** Where on a line a right column begins with the number of a question, behind words and a gutter; −1 where it does not. */
function rightNumberAt(line: string): number {
  for (const gap of matchesOf(GUTTER, line)) {
    const at = gap.index + gap[0].length;
    if (at >= NARROWEST && numberOf(line.slice(at)) !== undefined) return at;
  }
  return -1;
}

/** A line cut at a column; null where words stand across it. */
function cut(line: string, column: number): Cells | null {
  if (line.trimEnd().length <= column - SLACK) return { left: line.trimEnd(), right: '' };
  for (const at of [column, column - 1, column - SLACK]) {
    const left = line.slice(0, at);
    if (!left.trim() || PARTED.test(left)) return { left: left.trimEnd(), right: line.slice(at).trimEnd() };
  }
  return null;
}

const numbersOf = (cells: readonly string[]): number[] => cells.map(numberOf).filter((n) => n !== undefined);

/** The cells of a column as blocks: what stands in front of its first number, then a block for each that is larger than the one before. */
function blocksOf(cells: readonly string[]): { number: number; lines: string[] }[] {
  const blocks: { number: number; lines: string[] }[] = [];
  for (const cell of cells) {
    const number = numberOf(cell);
    const last = blocks[blocks.length - 1];
    if (number !== undefined && !(last && number <= last.number)) blocks.push({ number, lines: [cell] });
    else if (last) last.lines.push(cell);
    else blocks.push({ number: 0, lines: [cell] });
  }
  return blocks;
}

/** Lines side by side as they are to be read: down each column where the numbers say so, else by the numbers. Null where they are no columns of questions. */
function readDown(rows: readonly Cells[]): string[] | null {
  const [left, right] = [rows.map((r) => r.left), rows.map((r) => r.right)];
  const [l, r] = [blocksOf(left), blocksOf(right)];
  const [ln, rn] = [l.map((b) => b.number).filter(Boolean), r.map((b) => b.number).filter(Boolean)];
  const all = [...ln, ...rn].sort((a, b) => a - b);
  if (!ln.length || !rn.length || all.length < 3 || new Set(all).size !== all.length) return null;
  if ((all[all.length - 1] ?? 0) - (all[0] ?? 0) !== all.length - 1) return null;
  // keys in columns have a number on each line, questions have options below
  const numbered = numbersOf([...left, ...right]).length;
  if (numbered * 2 > [...left, ...right].filter((c) => c.trim()).length) return null;
  // what stands above the first number of the right column goes on from the left one
  const down = (rn[0] ?? 0) > (ln[ln.length - 1] ?? 0);
  const blocks = down ? [...l, ...r] : [...l, ...r].sort((a, b) => a.number - b.number);
  return blocks.flatMap((b, i) => (i && b.number ? ['', ...b.lines] : b.lines));
}

/** How many lines at the end, where nothing stands in the right column, are none of the left one: what neither ends its question nor goes on with its numbers. */
function leftRest(rows: readonly Cells[]): number {
  const end = rows.findLastIndex((r) => r.right) + 1;
  let last = Math.max(0, ...numbersOf(rows.slice(0, end).map((r) => r.left)));
  for (let i = end; i < rows.length; i++) {
    if (!rows[i]?.left || (i > 0 && rows[i - 1]?.left)) continue;
    const number = numberOf(rows[i]?.left ?? '');
    if (number !== last + 1) return rows.length - i;
    last = number;
  }
  return 0;
}

/** Columns of questions at the beginning of these lines: one sheet where the numbers begin anew on the next one, else all. */
function firstOf(rows: readonly Cells[]): { lines: string[]; count: number } | null {
  const numbers = rows.map((r) => numberOf(r.left));
  const first = numbers.find((n) => n !== undefined);
  const anew = numbers.indexOf(first, numbers.indexOf(first) + 1);
  for (const end of anew < 0 ? [rows.length] : [anew, rows.length]) {
    const count = end - leftRest(rows.slice(0, end));
    const lines = readDown(rows.slice(0, count));
    if (lines) return { lines, count };
  }
  return null;
}

/**
 * A text whose questions stand in two columns, with one column below the other; words stay as they are.
 * @returns null where no part of it has two columns of questions
 */
export function columnsApart(text: string): string | null {
  const lines = text.split('\n');
  const out: string[] = [];
  let found = false;
  let done = 0;
  for (let i = 0; i < lines.length; i++) {
    const column = rightNumberAt(lines[i] ?? '');
    if (column < 0) continue;
    const rows: Cells[] = [];
    let from = i;
    for (let to = i; to < Math.min(lines.length, i + LONGEST); to++) {
      const cells = cut(lines[to] ?? '', column);
      if (!cells) break;
      rows.push(cells);
    }
    // what stands above in the left column belongs to it
    for (; from > done; from--) {
      const cells = cut(lines[from - 1] ?? '', column);
      if (!cells?.right || !cells.left) break;
      rows.unshift(cells);
    }
    const read = firstOf(rows);
    if (!read) continue;
    out.push(...lines.slice(done, from), ...read.lines, '');
    found = true;
    done = from + read.count;
    i = done - 1;
  }
  return found ? [...out, ...lines.slice(done)].join('\n') : null;
}
