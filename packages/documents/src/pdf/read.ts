/** PDF as draft text: columns in reading order, tables, running heads and page numbers aside, words parted at line ends joined. */
import { counted, type DocumentText, type Look, type Progress, ReadError, Sheet } from '@zakuska/core';
import { NoTextError } from '../document.js';
import { type Block, blocksOf, isStop, LABEL_START, rowsOf, type Segment, type TabStops, type TextLine, tabsTo, wordsOf } from './lines.js';
import { MOST_PAGES, openPdf } from './open.js';
import { type Box, type Glyph, type Page, readPage } from './page.js';

/**
 * Reads a PDF's text layer.
 * @throws ReadError where it is protected or broken, or where no page has text
 */
export async function readPdf(bytes: Uint8Array, progress?: Progress): Promise<DocumentText> {
  const { document, ops, close } = await openPdf(bytes);
  try {
    const pages: Page[] = [];
    for (let n = 1; n <= Math.min(document.numPages, MOST_PAGES); n++) {
      const page = await document.getPage(n);
      pages.push(await readPage(page, ops));
      page.cleanup();
      progress?.(n, Math.min(document.numPages, MOST_PAGES));
    }
    if (pages.every((p) => !hasText(p)))
      throw new NoTextError(
        `${pages.length === 1 ? 'the page of this PDF is a picture' : `all ${pages.length} pages of this PDF are pictures`}, without text to read; open it on the Draft screen to mark questions on it, or copy its words from a program that recognises text`,
      );
    const result = draftOfPages(pages);
    if (document.numPages > MOST_PAGES) result.notes.push(`Only the first ${MOST_PAGES} of ${document.numPages} pages were read.`);
    return result;
  } catch (e) {
    if (e instanceof ReadError) throw e;
    throw new ReadError('this PDF is broken; export it again from the program that it comes from');
  } finally {
    await close().catch(() => undefined);
  }
}

const hasText = (p: Page): boolean => p.glyphs.some((g) => /[\p{L}\p{N}]/u.test(g.text));
const plain = (l: TextLine): string => {
  let out = '';
  for (const s of l.segments) wordsOf(s, (w) => void (out += w));
  return out.replace(/\s+/g, ' ').trim();
};
const inKind = (t: string): string => t.replace(/\d+/g, '#').toLowerCase();

/** Heads and feet that run from page to page: words of the same kind at the same height, near the edge of several pages. */
function runningLines(pages: readonly Block[][], sizes: readonly Page[]): Set<TextLine> {
  const out = new Set<TextLine>();
  if (pages.length < 2) return out;
  const seen = new Map<string, TextLine[]>();
  pages.forEach((blocks, i) => {
    const lines = blocks.flatMap((b) => ('line' in b ? [b.line] : [])).sort((a, b) => a.top - b.top);
    const height = sizes[i]?.height ?? 0;
    const edge = [...lines.slice(0, 3).filter((l) => l.top < height * 0.16), ...lines.slice(-3).filter((l) => l.bottom > height * 0.84)];
    for (const l of new Set(edge)) {
      if (!/[\p{L}\p{N}]/u.test(plain(l))) continue;
      const key = `${Math.round(l.baseline / 6)} ${inKind(plain(l))}`;
      seen.set(key, [...(seen.get(key) ?? []), l]);
    }
  });
  for (const lines of seen.values()) if (lines.length >= 2 && lines.length >= pages.length * 0.4) for (const l of lines) out.add(l);
  return out;
}

/** The draft of pages that were read. */
export function draftOfPages(pages: readonly Page[]): DocumentText {
  const sheet = new Sheet();
  const blocks = pages.map(blocksOf);
  const running = runningLines(blocks, pages);
  blocks.forEach((list, i) => writeBlocks(sheet, list, running, i > 0, pages[i]?.width ?? 0));
  const notes: string[] = [];
  if (running.size) notes.push(`Running heads and page numbers set aside: “${[...new Set([...running].map(plain))].slice(0, 3).join('”, “').slice(0, 160)}”.`);
  const bare = pages.flatMap((p, i) => (hasText(p) ? [] : [i + 1]));
  if (bare.length)
    notes.push(`${bare.length === 1 ? `Page ${bare[0] ?? ''} has` : `Pages ${bare.join(', ')} have`} no text; mark questions there to take them as pictures.`);
  const pictures = pages.reduce((n, p) => n + p.pictures.filter((b) => b.right - b.left > 20 && b.bottom - b.top > 20).length, 0);
  if (pictures && bare.length < pages.length) notes.push(`${counted(pictures, 'picture')} on the pages: mark a picture to take it along.`);
  return { text: sheet.finish().text, notes, pictures: 0 };
}

/** The draft of what lies in a box of a page, as when a person marks it. */
export function draftOfRegion(page: Page, box: Box): string {
  const within = (b: Box): boolean =>
    (b.left + b.right) / 2 >= box.left && (b.left + b.right) / 2 <= box.right && (b.top + b.bottom) / 2 >= box.top && (b.top + b.bottom) / 2 <= box.bottom;
  const part: Page = { ...page, glyphs: page.glyphs.filter(within), across: page.across.filter(within), down: page.down.filter(within) };
  const sheet = new Sheet();
  writeBlocks(sheet, blocksOf(part), new Set(), false, page.width);
  return sheet.finish().text;
}

/** Lines below each other: of the page, or of one of its columns. */
interface Frame {
  left: number;
  /** Where lines are broken because nothing more fits; Infinity where nothing tells. */
  right: number;
}
/** The width of the first word of a line. */
function firstWord(line: TextLine): number {
  const [segment] = line.segments;
  const glyphs = segment?.glyphs ?? [];
  const end = glyphs.findIndex((g, i) => i > 0 && (/^\s/.test(g.text) || g.left - (glyphs[i - 1]?.right ?? g.left) > g.size * 0.2));
  const last = glyphs[(end < 0 ? glyphs.length : end) - 1];
  return last ? last.right - (glyphs[0]?.left ?? last.left) : 0;
}
/** Whether the line below goes on with a line because its first word did not fit there any more. */
function wraps(above: TextLine, below: TextLine, right: number): boolean {
  const blank = blankOf(above) ?? blankOf(below) ?? above.size * 0.2;
  const { blankTo } = above.segments.at(-1) ?? {};
  if (!below.segments.length || Math.max(above.right + blank, blankTo ?? 0) + firstWord(below) <= right + 0.5) return false;
  // on a page of tabs rows begin where lines go on; a line that was broken at a blank still has it, if there was room
  return !above.stops || blankTo !== undefined || above.right + blank > right + 0.5;
}
/** How wide a blank is in a line that draws one. */
function blankOf(line: TextLine): number | undefined {
  const blank = line.segments.flatMap((s) => s.glyphs).find((g) => g.text === ' ');
  return blank && blank.right - blank.left;
}

/** Whether a line was broken within a word, behind a sign of code or of an address: a blank would have been drawn, and there was room for it. */
function brokenAtSign(above: TextLine | null, right: number): boolean {
  const last = above?.segments.at(-1);
  if (!above || !last || last.blankTo !== undefined || !/[\\/=&+|]$/.test(textOf(last))) return false;
  return above.right + (blankOf(above) ?? Infinity) <= right + 0.5;
}

/** Cells that a line has at least before the line below is taken for the rest of its row. */
const ROW_CELLS = 4;
/**
 * How many tabs stand between a line and the one below, where that holds further cells of the row for which there was no room:
 * the next one does not fit, or empty cells reach to the margin. 0 where it is a line of its own.
 */
function tabsDownTo(above: TextLine, below: TextLine, frame: Frame): number {
  const { stops } = below;
  if (!stops || !isStop(stops, below.left)) return 0;
  const reached = Math.ceil((above.right - stops.left + 0.5) / stops.step);
  const down = Math.round((below.left - stops.left) / stops.step);
  const row = above.segments.length >= ROW_CELLS && !isStop(stops, above.left) && below.segments.length < above.segments.length;
  // a label or an option's letter with its words is a line of its own
  if (OWN_LINE.test(below.segments.map(textOf).join(' ')) || (!row && numbered(below))) return 0;
  if (stops.left + reached * stops.step + firstWord(below) > frame.right + 0.5) return down;
  if (!row || !Number.isFinite(frame.right)) return 0;
  return Math.floor((frame.right - stops.left) / stops.step) - reached + 1 + down;
}

/** Frames of lines: a line that stands higher than the one before begins the next column. */
function framesOf(lines: readonly TextLine[], width: number): Map<TextLine, Frame> {
  const runs: TextLine[][] = [];
  lines.forEach((l, i) => {
    const above = lines[i - 1];
    if (!above || l.baseline < above.baseline) runs.push([]);
    runs[runs.length - 1]?.push(l);
  });
  const out = new Map<TextLine, Frame>();
  for (const run of runs) {
    const left = Math.min(...run.map((l) => l.left));
    const most = Math.max(...run.map((l) => l.right));
    // margins are as wide on both sides, where there is one column; where columns end, nothing tells
    const even = runs.length === 1 && most <= width - left + 1;
    const frame = { left, right: even ? width - left : Infinity };
    for (const l of run) out.set(l, frame);
  }
  return out;
}
/** What begins a line of its own: a label, a number, a sign in front of a point, whatever marks stand around it; dots to write on that are many, or all there is. */
const OWN_LINE =
  /^[\s*_#>]{0,8}(?:[([]?(?:\d{1,3}|\p{L}|[ivxIVX]{1,4})[.)\]:](?!\d)|\p{Lu}[\p{L} ]{1,14}:\s|[•◦▪‣·–—☐□○●✓✗|-](?:\s|$)|[._…]{4}[._…\s]*$|[._…]{12})/u;
/** Whether a number or a letter stands in front, apart from the words. */
const numbered = ({ segments: [first, second] }: TextLine): boolean =>
  first !== undefined && second !== undefined && /^(?:\d{1,3}|\p{Lu})$/u.test(textOf(first).trim());
/** Points to give, at the end of a line that was full. */
const POINTS_LINE = /^\s*[_.…]{2,12}\s*\/\s*\d{1,3}\s*$/;
const BULLET = /^\s*[•◦▪‣·○●*–—-](?:\s|$)/u;

function writeBlocks(sheet: Sheet, blocks: readonly Block[], running: ReadonlySet<TextLine>, goesOn: boolean, width: number): void {
  const lines = blocks.flatMap((b) => ('line' in b && !running.has(b.line) ? [b.line] : []));
  const frames = framesOf(lines, width);
  const leading = usualLeading(lines);
  let above: TextLine | null = null;
  let first = true;
  for (const b of blocks) {
    if ('grid' in b) {
      sheet.table(b.grid.rows, false, (cell) => writeCell(sheet, cell));
      above = null;
      continue;
    }
    const { line } = b;
    if (running.has(line)) continue;
    const step = above ? line.baseline - above.baseline : 0;
    // the next column, or a step wider than lines have
    const frame = frames.get(line) ?? { left: line.left, right: Infinity };
    // a gap behind a label or sign parts it from the words
    const words = line.segments.map(textOf).join(' ');
    const apart = above !== null && (step < 0 || step > leading * 1.45 || step > Math.max(line.size, above.size) * 2.1);
    const tabsAbove = above !== null && !apart ? tabsDownTo(above, line, frame) : 0;
    const joined = above !== null && !apart && wraps(above, line, frame.right);
    if (apart) sheet.gap();
    else if (tabsAbove) sheet.words('\t'.repeat(tabsAbove));
    else if (joined && POINTS_LINE.test(words)) sheet.words('\t');
    else if (joined && !OWN_LINE.test(words) && !numbered(line)) sheet.words(brokenAtSign(above, frame.right) ? '' : ' ');
    else sheet.newline();
    if (first && goesOn) sheet.newline();
    first = false;
    // how far a point stands to the right says which it belongs to
    const atStop = line.stops !== undefined && isStop(line.stops, line.left);
    if (atStop && !tabsAbove && !joined) sheet.words('\t');
    const indent = !atStop && BULLET.test(words) ? Math.min(12, Math.round((line.left - frame.left) / (line.size * 0.6))) : 0;
    if (indent > 1) sheet.words(' '.repeat(indent));
    writeLine(sheet, line);
    above = line;
  }
  sheet.newline();
}

function usualLeading(lines: readonly TextLine[]): number {
  const steps = lines
    .slice(1)
    .map((l, i) => l.baseline - (lines[i]?.baseline ?? 0))
    .filter((s) => s > 2 && s < 60)
    .sort((a, b) => a - b);
  // most lines go on within a question, so the smaller half of the steps tells
  return steps[Math.floor(steps.length * 0.4)] ?? 14;
}

function writeLine(sheet: Sheet, line: TextLine): void {
  let before: Segment | null = null;
  const gaps = line.segments.slice(1).map((s, i) => gapBetween(line.segments[i] as Segment, s, line.stops));
  // where cells stand wide apart, a long one comes close to the next
  const cells = gaps.filter((g) => g.includes('\t')).length > Math.max(1, gaps.length / 2);
  for (const [i, s] of line.segments.entries()) {
    if (before) sheet.words(cells && gaps[i - 1] === NARROW ? '\t' : (gaps[i - 1] ?? ''));
    wordsOf(s, (words, look) => sheet.words(words, look));
    before = s;
  }
  sheet.joinHyphen();
}
const textOf = (s: Segment): string => s.glyphs.map((g) => g.text).join('');
/** A gap that may part columns, or only words. */
const NARROW = '   ';
/** What stands for a gap: a blank behind a label, a tab in front of an option's letter and in wide gaps, else blanks that the draft reader knows as a column's. */
function gapBetween(a: Segment, b: Segment, stops?: TabStops): string {
  // a label, or a box or point in front of one
  if (/^(?:[([]?(?:\d{1,3}|\p{L})[.)\]:]|[([]\s*[)\]]|[☐□○◯•◦▪‣–-])$/u.test(textOf(a).trim())) return ' ';
  if (stops && isStop(stops, b.left)) return '\t'.repeat(tabsTo(stops, a.right, b.left));
  return LABEL_START.test(textOf(b)) || b.left - a.right > b.size * 2.5 ? '\t' : NARROW;
}

function writeCell(sheet: Sheet, glyphs: readonly Glyph[]): void {
  let last = '';
  const say = (words: string, look: Look): void => {
    sheet.words(words, look);
    last = words;
  };
  // the lines of a cell wrap; options stand on lines of their own
  const rows = rowsOf(glyphs);
  rows.forEach((row, i) => {
    if (i > 0) {
      if (/^\s*[([]?[A-Ha-h][.)\]:]/.test(row.map((g) => g.text).join(''))) sheet.newline();
      else if (last && !/\s$/.test(last)) say(' ', {});
    }
    wordsOf({ glyphs: row }, say);
  });
}
