/**
 * Draft text made from something with formatting: paragraphs with labels typed out, and marks around the words that stand out,
 * where the draft reader looks for keys. Every reader of documents writes on such a sheet.
 */

/** How words look. */
export interface Look {
  strong?: boolean;
  em?: boolean;
  under?: boolean;
  highlight?: boolean;
  sub?: boolean;
  sup?: boolean;
  /** CSS colour of the letters, where one is said. */
  colour?: string;
}

/** Words of one look, or markup that goes into the draft as it is (a picture, a formula). */
type Piece = { words: string; look: Look } | { markup: string };
interface SheetLine {
  /** Indentation, label, signs of a heading. */
  lead: string;
  pieces: Piece[];
}

/** The red, green and blue of a CSS colour, 0 to 255; null where it says no colour of its own. */
function rgbOf(colour: string): [number, number, number] | null {
  const c = colour.trim().toLowerCase();
  if (!c || /^(?:inherit|initial|transparent|none|auto|windowtext|currentcolor|window)/.test(c) || /^rgba\(.*,\s*0(?:\.0+)?\)$/.test(c)) return null;
  const hex = /^#?([0-9a-f]{3}|[0-9a-f]{6}|[0-9a-f]{8})$/.exec(c)?.[1];
  if (hex) {
    const full = hex.length === 3 ? hex.replace(/./g, '$&$&') : hex;
    return [0, 2, 4].map((i) => parseInt(full.slice(i, i + 2), 16)) as [number, number, number];
  }
  const parts = /^rgba?\(([^)]*)\)/
    .exec(c)?.[1]
    ?.split(/[\s,/]+/)
    .slice(0, 3)
    .map(Number);
  if (parts?.length === 3 && !parts.some(Number.isNaN)) return parts as [number, number, number];
  if (/^(?:black|white|gr[ae]y|silver|dimgr[ae]y|lightgr[ae]y|darkgr[ae]y|whitesmoke|gainsboro|snow|ivory)$/.test(c)) return [0, 0, 0];
  // another name of a colour: nearly all of them are no grey
  return /^[a-z]+$/.test(c) ? [255, 0, 0] : null;
}

/** Whether a colour of letters or ground is no black, white or grey. */
export function standsOut(colour: string): boolean {
  const rgb = rgbOf(colour);
  return rgb !== null && Math.max(...rgb) - Math.min(...rgb) > 60;
}

/** A colour that so much of the text has is how the text is printed, and marks nothing. */
const COMMON_COLOUR = 0.45;

const sameLook = (a: Look, b: Look): boolean =>
  !a.strong === !b.strong &&
  !a.em === !b.em &&
  !a.under === !b.under &&
  !a.highlight === !b.highlight &&
  !a.sub === !b.sub &&
  !a.sup === !b.sup &&
  (a.colour ?? '') === (b.colour ?? '');

/** What in plain words would be read as a tag of a draft. */
const TAG_LIKE = /<(?=\/?(?:b|strong|i|em|u|ins|sub|sup|mark|ink|code|p|ul|ol|table|blockquote|pre|math|a|span|img|br)(?:\s[^<>]*)?\/?>)/gi;

/** A page that a reader of documents writes on: it keeps the numbers of lists, and puts marks of the notation around words that stand out. */
export class Sheet {
  private readonly lines: SheetLine[] = [{ lead: '', pieces: [] }];
  private marked = false;
  /** Pictures written on the sheet. */
  pictures = 0;

  private get line(): SheetLine {
    return this.lines[this.lines.length - 1] as SheetLine;
  }
  /** Whether nothing stands on the line yet, not even a label. */
  get fresh(): boolean {
    return !this.line.lead.trim() && !this.line.pieces.length;
  }
  /** Whether a label stands on the line, and nothing behind it. */
  get labelled(): boolean {
    return Boolean(this.line.lead.trim()) && !this.line.pieces.length;
  }

  /** Words go on behind what stands there. White space is as it comes; line breaks are `newline`'s. */
  words(said: string, look: Look = {}): void {
    // biome-ignore lint/suspicious/noControlCharactersInRegex: exporters leave them in, and nobody sees them
    const clean = said.replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, '');
    const words = this.labelled ? clean.trimStart() : clean;
    if (!words) return;
    const last = this.line.pieces[this.line.pieces.length - 1];
    if (last && 'words' in last && sameLook(last.look, look)) last.words += words;
    else this.line.pieces.push({ words, look });
  }
  /** Markup of the draft itself: TeX between its signs, an element. */
  markup(markup: string): void {
    this.line.pieces.push({ markup });
    this.marked = true;
  }
  /** A picture, by its address. */
  picture(src: string, alt: string): void {
    this.markup(`<img src="${src}" alt="${alt.replace(/["<>\n\r]/g, ' ').trim()}"/>`);
    this.pictures++;
  }
  /** Where the line above ends within a word (a hyphen, and small letters go on), the word is joined: its rest moves up. */
  joinHyphen(): void {
    const above = this.lines[this.lines.length - 2];
    const end = above?.pieces[above.pieces.length - 1];
    const [start] = this.line.pieces;
    if (!end || !start || !('words' in end) || !('words' in start) || this.line.lead) return;
    const parted = /(\p{L}{2,})[-\u00ad\u2010]\s*$/u.exec(end.words);
    const rest = /^\p{Ll}+\S*\s*/u.exec(start.words);
    if (!parted || !rest) return;
    end.words = end.words.replace(/[-\u00ad\u2010]\s*$/u, '') + rest[0].trimEnd();
    start.words = start.words.slice(rest[0].length);
  }
  /** The next words begin a line. */
  newline(): void {
    if (this.blank(this.line)) this.lines[this.lines.length - 1] = { lead: '', pieces: [] };
    else this.lines.push({ lead: '', pieces: [] });
  }
  /** The next words begin a paragraph with an empty line above it. */
  gap(): void {
    this.newline();
    const before = this.lines[this.lines.length - 2];
    if (before && !this.blank(before)) this.lines.push({ lead: '', pieces: [] });
  }
  /** Begins a line with the label of a list, as printed ("3.", "b)", "-"). Where a list within a list ends, an empty line tells. */
  label(label: string, depth: number): void {
    if (depth < this.depth) this.gap();
    else this.newline();
    this.depth = depth;
    this.line.lead = `${'   '.repeat(Math.max(0, Math.min(depth, 8)))}${label} `;
    this.marked = true;
  }
  /** Begins a paragraph that stands in no list, as after the end of one. */
  outside(): void {
    if (this.depth >= 0) this.gap();
    else this.newline();
    this.depth = -1;
  }
  /** How deep the list goes whose label stands last; −1 outside of lists. */
  private depth = -1;
  /** Begins a heading. */
  heading(level: number): void {
    this.gap();
    this.depth = -1;
    this.line.lead = `${'#'.repeat(Math.max(1, Math.min(6, level)))} `;
    this.marked = true;
  }
  private blank(l: SheetLine): boolean {
    return !l.lead.trim() && l.pieces.every((p) => 'words' in p && !p.words.trim());
  }

  /**
   * A table. `cells` are written one by one by the given function on this sheet; each line of a cell beyond the first is parted from the one before by a break.
   * A table of one column is only layout, and so is one whose cells are labelled options; they become lines.
   */
  table<C>(rows: readonly (readonly C[])[], headed: boolean, write: (cell: C) => void): void {
    const grid = rows.map((row) =>
      row.map((cell) => {
        const from = this.lines.length;
        this.lines.push({ lead: '', pieces: [] });
        write(cell);
        return this.lines.splice(from).filter((l) => !this.blank(l));
      }),
    );
    const widest = Math.max(0, ...grid.map((r) => r.length));
    const used = Array.from({ length: widest }, (_, i) => i).filter((i) => grid.some((r) => r[i]?.length));
    this.newline();
    if (used.length < 2 || optionGrid(grid, plainOf)) {
      for (const row of grid)
        for (const cell of row) {
          for (const l of cell) {
            this.lines[this.lines.length - 1] = l;
            this.lines.push({ lead: '', pieces: [] });
          }
        }
      return;
    }
    if (used.length === 2 && labelTable(grid, used)) {
      for (const row of grid) {
        const [label, words] = [row[used[0] ?? 0], row[used[1] ?? 1]];
        const said = label?.[0] ? plainOf(label[0]).replace(/\*\*/g, '').trim() : '';
        if (said) this.label(/^\d+$/.test(said) ? `${said}.` : /^\p{L}$/u.test(said) ? `${said})` : said, -1);
        (words ?? []).forEach((l, i) => {
          if (i > 0 || !said) this.newline();
          this.line.pieces.push(...(l.lead.trim() ? [{ words: l.lead, look: {} }] : []), ...l.pieces);
        });
        this.newline();
      }
      return;
    }
    this.gap();
    this.marked = true;
    // a first row that is bold and the others are not names the columns
    const bold = (row: readonly SheetLine[][]): boolean =>
      row.flat().length > 1 && row.flat().every((l) => l.pieces.every((p) => 'markup' in p || !p.words.trim() || p.look.strong));
    const named = headed || (grid.length > 2 && bold(grid[0] ?? []) && !grid.slice(1).some(bold));
    grid.forEach((row, i) => {
      if (used.every((c) => !row[c]?.length)) return;
      const pieces: Piece[] = [{ markup: '|' }];
      for (const c of used) {
        pieces.push({ markup: ' ' });
        (row[c] ?? []).forEach((l, k) => {
          if (k > 0) pieces.push({ markup: '<br/>' });
          if (l.lead.trim()) pieces.push({ words: l.lead.trimStart().replace(/^#+ /, ''), look: {} });
          for (const p of l.pieces) pieces.push('words' in p ? { ...p, words: p.words.replace(/\|/g, '\\|') } : p);
        });
        pieces.push({ markup: ' |' });
      }
      this.line.pieces = pieces;
      this.lines.push({ lead: '', pieces: [] });
      if (i === 0 && named) {
        this.line.pieces = [{ markup: `|${' --- |'.repeat(used.length)}` }];
        this.lines.push({ lead: '', pieces: [] });
      }
    });
    this.lines.push({ lead: '', pieces: [] });
  }

  /** The draft text; `formatted` says whether it holds more than the plain words would. */
  finish(): { text: string; formatted: boolean } {
    const shown = this.coloursThatMark();
    const text = this.lines
      .map((l) => {
        // a heading stands out anyway
        const plain = l.lead.startsWith('#');
        const [first] = l.pieces;
        // a row of a table in Markdown that somebody pasted: breaks typed in its cells are breaks
        const piped = first !== undefined && 'words' in first && /^\s*\|/.test(first.words);
        return l.lead + l.pieces.map((p) => ('markup' in p ? p.markup : this.dressed(plain ? { words: p.words, look: {} } : p, shown, piped))).join('');
      })
      .map((l) => l.replace(/[^\S\n]+$/g, ''))
      .join('\n')
      .replace(/\n{3,}/g, '\n\n')
      .replace(/^\n+|\s+$/g, '');
    return { text, formatted: this.marked };
  }

  /** The colours that mark: no grey, and not the colour that most of the text has. */
  private coloursThatMark(): Set<string> {
    const letters = new Map<string, number>();
    let all = 0;
    for (const l of this.lines)
      for (const p of l.pieces) {
        if (!('words' in p)) continue;
        const n = p.words.replace(/\s/g, '').length;
        all += n;
        if (p.look.colour && standsOut(p.look.colour)) letters.set(p.look.colour, (letters.get(p.look.colour) ?? 0) + n);
      }
    return new Set([...letters].filter(([, n]) => n < all * COMMON_COLOUR).map(([c]) => c));
  }

  private dressed({ words: text, look }: { words: string; look: Look }, colours: ReadonlySet<string>, piped: boolean): string {
    const inner = text.trim();
    if (!inner) return gapOf(text);
    const escaped = inner.replace(TAG_LIKE, (tag, at: number) => (piped && /^<br/i.test(inner.slice(at)) ? tag : '\\<'));
    let words = escaped;
    // signs alone show nothing, but a box or a tick may be coloured
    const bare = !/[\p{L}\p{N}]/u.test(inner);
    const wrap = (on: boolean | undefined, open: string, end: string): void => {
      if (!on || bare) return;
      words = `${open}${words}${end}`;
      this.marked = true;
    };
    wrap(look.sub, '<sub>', '</sub>');
    wrap(look.sup, '<sup>', '</sup>');
    wrap(look.under, '<u>', '</u>');
    wrap(look.highlight, '<mark>', '</mark>');
    wrap(look.colour !== undefined && colours.has(look.colour), '<ink>', '</ink>');
    wrap(look.em, '*', '*');
    wrap(look.strong, '**', '**');
    return gapOf(/^\s*/.exec(text)?.[0] ?? '') + words + gapOf(/\s*$/.exec(text)?.[0] ?? '');
  }
}

/** White space between words: tabs stay as many, for each is a cell that may be empty; wide space stays wide, because columns of options and pairs are told by it. */
const gapOf = (blanks: string): string =>
  blanks.includes('\t') ? blanks.replace(/[^\t]/g, '') : blanks.length > 1 ? ' '.repeat(Math.min(8, blanks.length)) : blanks ? ' ' : '';

const plainOf = (l: SheetLine): string => l.lead + l.pieces.map((p) => ('words' in p ? p.words : p.markup)).join('');

/** Whether a table of two columns is a question with its options, labels in the first column. */
function labelTable(grid: readonly (readonly (readonly SheetLine[])[])[], used: readonly number[]): boolean {
  const labels = grid.map((row) => (row[used[0] ?? 0] ?? []).map(plainOf).join(' ').replace(/\*\*/g, '').trim());
  const letters = labels.filter((l) => /^[([]?[A-Ha-hА-Еа-е][.)\]:]?$|^[☐☑☒○●□]$/u.test(l)).length;
  return (
    letters >= 2 &&
    labels.every((l) => /^(?:[([]?(?:\p{L}|\d{1,3})[.)\]:]?|[☐☑☒○●□]|)$/u.test(l)) &&
    new Set(labels.filter((l) => /^\p{L}/u.test(l))).size === labels.filter((l) => /^\p{L}/u.test(l)).length
  );
}

/** Whether the cells of a table are options with their letters, two or more in a row. */
function optionGrid(grid: readonly (readonly (readonly SheetLine[])[])[], text: (l: SheetLine) => string): boolean {
  const cells = grid.flat().filter((c) => c.length);
  return (
    cells.length >= 2 &&
    cells.length <= 12 &&
    cells.every((c) => c.length === 1 && /^\s*[([]?[A-Ha-hА-Еа-е][.)\]:]\s*\S/.test(text(c[0] as SheetLine).replace(/\*\*|<\/?(?:u|mark|ink)>/g, '')))
  );
}
