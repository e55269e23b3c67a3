/** Papers as DOCX: real lists and tables, formulas that can be edited, items kept whole on a page. */
import {
  type PaperAnswer,
  type Asset,
  type PaperBlock,
  type PaperKeyRow,
  type Paper,
  type PaperItem,
  type PaperPiece,
  plainOfBlocks,
  runsFromRight,
  type QuizSet,
  type PaperRun,
} from '@zakuska/core';
import {
  AlignmentType,
  BorderStyle,
  Document,
  Footer,
  HeadingLevel,
  ImageRun,
  type IRunOptions,
  LevelFormat,
  Packer,
  PageNumber,
  Paragraph,
  type ParagraphChild,
  Tab,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from 'docx';
import { sameBytes } from '../sameBytes.js';
import { officeMath } from './math.js';
import { pictureOf } from './picture.js';

/** Lengths in twentieths of a point: A4 with margins of 2 cm. */
const PAGE = { width: 11_906, height: 16_838, margin: 1134 };
const TEXT_WIDTH = PAGE.width - 2 * PAGE.margin;
const INDENT = 454;
/** Widest and highest that a picture is shown, in pixels of 1/96 inch. */
const MOST_PICTURE = { width: 560, height: 420 };
const GREY = '595959';
const FONT = 'Arial';

const NO_BORDER = { style: BorderStyle.NONE, size: 0, color: 'auto' };
const NO_BORDERS = { top: NO_BORDER, bottom: NO_BORDER, left: NO_BORDER, right: NO_BORDER, insideHorizontal: NO_BORDER, insideVertical: NO_BORDER };

/** How a paragraph stands. */
interface Standing {
  /** Twentieths of a point. */
  left?: number;
  hanging?: number;
  /** Stays on the page of the next paragraph. */
  keep?: boolean;
  look?: Partial<IRunOptions>;
  numbering?: { reference: string; level: number; instance: number };
  /** Runs ahead of its own. */
  ahead?: ParagraphChild[];
  /** Runs behind its own. */
  behind?: ParagraphChild[];
  after?: number;
  /** How many lists it stands in. */
  depth?: number;
  bordered?: boolean;
}

/** Writes one paper. */
class Writer {
  private lists = 0;
  private readonly rightToLeft: boolean;
  constructor(
    private readonly paper: Paper,
    private readonly assets: Readonly<Record<string, Asset>>,
  ) {
    this.rightToLeft = runsFromRight(paper.language);
  }

  async bytes(): Promise<Uint8Array> {
    const document = new Document({
      title: this.paper.title,
      creator: 'Zakuska',
      styles: {
        default: {
          heading1: { run: { bold: true, size: 32, color: '000000' } },
          heading2: { run: { bold: true, size: 26, color: '000000' } },
          document: { run: { font: FONT, size: 22, language: { value: this.paper.language } }, paragraph: { spacing: { after: 80 } } },
        },
      },
      numbering: {
        config: [
          // options count anew behind each question, as the second level of one list
          { reference: 'questions', levels: [this.level(LevelFormat.DECIMAL, '%1.', 0), { ...this.level(LevelFormat.LOWER_LETTER, '%2)', INDENT), level: 1 }] },
          { reference: 'options', levels: [this.level(LevelFormat.LOWER_LETTER, '%1)', INDENT)] },
          { reference: 'numbers', levels: [0, 1, 2].map((l) => ({ ...this.level(LevelFormat.DECIMAL, `%${l + 1}.`, INDENT * (l + 1)), level: l })) },
          { reference: 'bullets', levels: [0, 1, 2].map((l) => ({ ...this.level(LevelFormat.BULLET, '•', INDENT * (l + 1)), level: l })) },
        ],
      },
      sections: [
        {
          properties: {
            page: {
              size: { width: PAGE.width, height: PAGE.height },
              margin: { top: PAGE.margin, bottom: PAGE.margin, left: PAGE.margin, right: PAGE.margin },
            },
          },
          footers: {
            default: new Footer({
              children: [
                new Paragraph({
                  alignment: AlignmentType.CENTER,
                  children: [new TextRun({ children: [PageNumber.CURRENT, ' / ', PageNumber.TOTAL_PAGES], color: GREY, size: 18 })],
                }),
              ],
            }),
          },
          children: this.paper.pieces.flatMap((p) => this.piece(p)),
        },
      ],
    });
    return sameBytes(new Uint8Array(await Packer.toArrayBuffer(document)));
  }

  private level(format: (typeof LevelFormat)[keyof typeof LevelFormat], text: string, left: number) {
    return { level: 0, format, text, alignment: AlignmentType.START, style: { paragraph: { indent: { left: left + INDENT, hanging: INDENT } } } };
  }

  private piece(p: PaperPiece): (Paragraph | Table)[] {
    switch (p.is) {
      case 'title':
        return [
          new Paragraph({
            heading: HeadingLevel.HEADING_1,
            bidirectional: this.rightToLeft,
            spacing: { after: 160 },
            children: [this.words(p.text)],
          }),
        ];
      case 'head': {
        const line = (label: string, to: number): ParagraphChild[] => [
          this.words(`${label}: `),
          new TextRun({ children: [new Tab()] }),
          ...(to < TEXT_WIDTH ? [this.words(' ')] : []),
        ];
        const stops = [TEXT_WIDTH * 0.45, TEXT_WIDTH * 0.7, TEXT_WIDTH].map(Math.round);
        return [
          new Paragraph({
            bidirectional: this.rightToLeft,
            spacing: { before: 80, after: p.points ? 120 : 240 },
            tabStops: stops.map((position) => ({ type: 'left', position, leader: 'underscore' }) as const),
            children: [...line(p.name, stops[0] ?? 0), ...line(p.group, stops[1] ?? 0), ...line(p.date, TEXT_WIDTH)],
          }),
          ...(p.points
            ? [new Paragraph({ bidirectional: this.rightToLeft, spacing: { after: 240 }, alignment: AlignmentType.END, children: [this.words(p.points)] })]
            : []),
        ];
      }
      case 'page':
        return [new Paragraph({ pageBreakBefore: true, spacing: { after: 0 }, children: [] })];
      case 'heading':
        return [
          new Paragraph({
            heading: HeadingLevel.HEADING_2,
            bidirectional: this.rightToLeft,
            keepNext: true,
            spacing: { before: 240, after: 120 },
            children: [this.words(p.text)],
          }),
        ];
      case 'text':
        return this.blocks(p.blocks, { keep: false });
      case 'passage':
        return this.blocks(p.blocks, { left: INDENT, bordered: true });
      case 'item':
        return this.item(p);
      case 'key':
        return [this.key(p)];
    }
  }

  private item(p: PaperItem): (Paragraph | Table)[] {
    const counted = this.counts(p.number);
    const question = this.blocks(p.blocks, {
      left: INDENT,
      keep: true,
      ...(counted
        ? { numbering: { reference: 'questions', level: 0, instance: 0 } }
        : { hanging: INDENT, ahead: [this.words(`${p.number}${/[.)]$/.test(p.number) ? '' : '.'}`), new TextRun({ children: [new Tab()] })] }),
      behind: p.points ? [this.words(` (${p.points})`, { color: GREY, size: 20 })] : [],
    });
    const answers = p.answers.flatMap((a, i) => this.answer(a, i === p.answers.length - 1, counted));
    return [...question, ...answers, new Paragraph({ spacing: { after: 120 }, children: [] })];
  }
  /** Whether a question's number is the next that a list counts by itself. */
  private counted = 0;
  private counts(number: string): boolean {
    if (number !== String(this.counted + 1)) return false;
    this.counted++;
    return true;
  }

  private answer(a: PaperAnswer, last: boolean, counted: boolean): (Paragraph | Table)[] {
    const at: Standing = { left: INDENT, keep: !last };
    switch (a.is) {
      case 'options': {
        if (a.columns === 1) {
          const numbering = counted ? { reference: 'questions', level: 1, instance: 0 } : { reference: 'options', level: 0, instance: ++this.lists };
          return a.options.flatMap((o, i) =>
            this.blocks(o.blocks, {
              left: 2 * INDENT,
              keep: !last || i < a.options.length - 1,
              numbering,
            }),
          );
        }
        const width = Math.round((TEXT_WIDTH - INDENT) / a.columns);
        const rows: (typeof a.options)[] = [];
        for (let i = 0; i < a.options.length; i += a.columns) rows.push(a.options.slice(i, i + a.columns));
        return rows.map(
          (row, r) =>
            new Paragraph({
              bidirectional: this.rightToLeft,
              keepNext: !last || r < rows.length - 1,
              indent: { left: INDENT },
              tabStops: Array.from({ length: a.columns - 1 }, (_, i) => ({ type: 'left', position: INDENT + width * (i + 1) }) as const),
              children: row.flatMap((o, i) => [
                ...(i ? [new TextRun({ children: [new Tab()] })] : []),
                this.words(`${o.letter}) `),
                ...o.blocks.flatMap((b) => (b.is === 'paragraph' ? this.runs(b.runs) : [])),
              ]),
            }),
        );
      }
      case 'boxes':
        return [this.line(a.words.map((w) => `☐ ${w.text}`).join('      '), at)];
      case 'lines':
        return Array.from(
          { length: a.lines },
          (_, i) =>
            new Paragraph({
              keepNext: !last || i < a.lines - 1,
              indent: { left: INDENT },
              spacing: { before: 160, after: 0 },
              tabStops: [{ type: 'left', position: TEXT_WIDTH, leader: 'underscore' }],
              children: [new TextRun({ children: [new Tab()] })],
            }),
        );
      case 'blank':
        return [this.line(`${'_'.repeat(a.width)}${a.unit ? ` ${a.unit}` : ''}`, at)];
      case 'bank':
        return [
          new Table({
            width: { size: TEXT_WIDTH - INDENT, type: WidthType.DXA },
            indent: { size: INDENT, type: WidthType.DXA },
            rows: [new TableRow({ cantSplit: true, children: [this.cell([this.line(a.words.join('  ·  '), {})], {})] })],
          }),
        ];
      case 'pairs': {
        const half = Math.round((TEXT_WIDTH - INDENT) / 2);
        const rows = Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => {
          const left = a.lefts[i];
          const right = a.rights[i];
          return new TableRow({
            cantSplit: true,
            children: [
              this.cell(left ? this.blocks(left, { ahead: [this.words(`${i + 1}. `)], behind: [this.words(' ____')], keep: true }) : [], { width: half }),
              this.cell(right ? this.blocks(right.blocks, { ahead: [this.words(`${right.letter}. `)], keep: true }) : [], { width: half }),
            ],
          });
        });
        return [
          new Table({
            width: { size: half * 2, type: WidthType.DXA },
            columnWidths: [half, half],
            indent: { size: INDENT, type: WidthType.DXA },
            borders: NO_BORDERS,
            rows,
          }),
        ];
      }
      case 'steps':
        return a.steps.flatMap((s, i) => this.blocks(s, { ...at, keep: !last || i < a.steps.length - 1, ahead: [this.words('____ ')] }));
    }
  }

  private key(p: Extract<PaperPiece, { is: 'key' }>): Table {
    const widths = [0.1, 0.8, 0.1].map((share) => Math.round(TEXT_WIDTH * share));
    const row = (cells: (Paragraph | Table)[][], head = false): TableRow =>
      new TableRow({
        ...(head && { tableHeader: true }),
        cantSplit: true,
        children: cells.map((c, i) => this.cell(c, { width: widths[i] ?? 0, ...(head && { shade: 'F2F2F2' }) })),
      });
    const heading = (text: string): Paragraph[] => [this.line(text, { look: { bold: true } })];
    const entry = (r: PaperKeyRow): TableRow =>
      row([
        [this.line(r.number, { look: { bold: true } })],
        [...this.blocks(r.key, { look: { bold: true } }), ...r.notes.flatMap((n) => this.blocks(n, { look: { size: 20 } }))],
        [this.line(r.points, {})],
      ]);
    return new Table({
      width: { size: TEXT_WIDTH, type: WidthType.DXA },
      columnWidths: widths,
      rows: [row([heading(p.headings.number), heading(p.headings.key), heading(p.headings.points)], true), ...p.rows.map(entry)],
    });
  }

  private cell(children: (Paragraph | Table)[], o: { width?: number; shade?: string; columns?: number; rows?: number }): TableCell {
    return new TableCell({
      margins: { top: 60, bottom: 60, left: 100, right: 100 },
      ...(o.width && { width: { size: o.width, type: WidthType.DXA } }),
      ...(o.shade && { shading: { fill: o.shade } }),
      ...(o.columns && o.columns > 1 && { columnSpan: o.columns }),
      ...(o.rows && o.rows > 1 && { rowSpan: o.rows }),
      // a cell ends with a paragraph (ECMA-376 part 1, 17.4.65)
      children: children.at(-1) instanceof Paragraph ? children : [...children, new Paragraph({ children: [] })],
    });
  }

  private blocks(given: readonly PaperBlock[], at: Standing): (Paragraph | Table)[] {
    // what stands ahead or behind needs a paragraph to stand in
    const empty: PaperBlock = { is: 'paragraph', runs: [{ is: 'text', text: '\u00a0' }] };
    const opens = (at.ahead?.length || at.numbering) && given[0]?.is !== 'paragraph';
    const closes = at.behind?.length && given.at(-1)?.is !== 'paragraph' && given.length > 0;
    const blocks = [...(opens ? [empty] : []), ...given, ...(closes ? [empty] : [])];
    return blocks.flatMap((b, i): (Paragraph | Table)[] => {
      const own: Standing = {
        ...at,
        ...(i > 0 && { ahead: [], hanging: 0, numbering: undefined }),
        behind: i === blocks.length - 1 ? (at.behind ?? []) : [],
      } as Standing;
      switch (b.is) {
        case 'paragraph':
          return [this.paragraph(this.runs(b.runs, at.look), own)];
        case 'list': {
          const instance = ++this.lists;
          return b.items.flatMap((item, k) =>
            this.blocks(item, {
              left: (at.left ?? 0) + INDENT,
              keep: at.keep ?? false,
              depth: (at.depth ?? 0) + 1,
              // a list that starts elsewhere has its numbers typed
              ...(b.ordered && b.start !== 1
                ? { hanging: INDENT, ahead: [this.words(`${b.start + k}. `)] }
                : { numbering: { reference: b.ordered ? 'numbers' : 'bullets', level: Math.min(2, at.depth ?? 0), instance } }),
            }),
          );
        }
        case 'table': {
          const columns = Math.max(1, ...b.rows.map((r) => r.reduce((n, c) => n + c.columns, 0)));
          const width = TEXT_WIDTH - (at.left ?? 0);
          return [
            new Table({
              width: { size: width, type: WidthType.DXA },
              columnWidths: Array.from({ length: columns }, () => Math.round(width / columns)),
              indent: { size: at.left ?? 0, type: WidthType.DXA },
              rows: b.rows.map(
                (r) =>
                  new TableRow({
                    cantSplit: true,
                    children: r.map((c) =>
                      this.cell(this.blocks(c.blocks, { keep: at.keep ?? false, ...(c.head && { look: { bold: true } }) }), {
                        columns: c.columns,
                        rows: c.rows,
                        ...(c.head && { shade: 'F2F2F2' }),
                      }),
                    ),
                  }),
              ),
            }),
          ];
        }
        case 'code':
          return b.text.split('\n').map((line) => this.paragraph([this.words(line, { font: 'Courier New', size: 20 })], { ...own, after: 0 }));
        case 'quote':
          return this.blocks(b.blocks, { ...own, left: (at.left ?? 0) + INDENT });
      }
    });
  }

  private paragraph(children: ParagraphChild[], at: Standing): Paragraph {
    return new Paragraph({
      bidirectional: this.rightToLeft,
      keepNext: at.keep ?? false,
      keepLines: at.keep ?? false,
      ...(at.after !== undefined && { spacing: { after: at.after } }),
      ...(at.bordered && { border: { left: { style: BorderStyle.SINGLE, size: 12, space: 8, color: 'A6A6A6' } } }),
      ...(at.numbering ? { numbering: at.numbering } : at.left && { indent: { left: at.left, ...(at.hanging && { hanging: at.hanging }) } }),
      children: [...(at.ahead ?? []), ...children, ...(at.behind ?? [])],
    });
  }
  private line(text: string, at: Standing): Paragraph {
    return this.paragraph([this.words(text, at.look)], at);
  }
  private words(text: string, look: Partial<IRunOptions> = {}): TextRun {
    return new TextRun({ ...look, text, ...(this.rightToLeft && { rightToLeft: true }) } as IRunOptions);
  }

  private runs(runs: readonly PaperRun[], look: Partial<IRunOptions> = {}): ParagraphChild[] {
    return runs.flatMap((r): ParagraphChild[] => {
      switch (r.is) {
        case 'text':
          return [
            this.words(r.text, {
              ...look,
              ...(r.bold && { bold: true }),
              ...(r.italic && { italics: true }),
              ...(r.underline && { underline: {} }),
              ...(r.sub && { subScript: true }),
              ...(r.sup && { superScript: true }),
              ...(r.code && { font: 'Courier New' }),
            }),
          ];
        case 'break':
          return [new TextRun({ break: 1 })];
        case 'blank':
          return [this.words('_'.repeat(r.width))];
        case 'formula':
          return [officeMath(r.tex, r.display) ?? this.words(r.tex, { ...look, font: 'Courier New' })];
        case 'picture':
          return [this.picture(r) ?? this.words(r.alt || '[picture]', { ...look, italics: true })];
      }
    });
  }

  /** The picture; null where its sort cannot stand in a DOCX or its bytes are none. */
  private picture(r: Extract<PaperRun, { is: 'picture' }>): ImageRun | null {
    const asset = this.assets[r.asset];
    const picture = pictureOf(asset);
    if (!asset || !picture) return null;
    const { type, bytes, width, height } = picture;
    const scale = Math.min(1, MOST_PICTURE.width / width, MOST_PICTURE.height / height, r.width ? r.width / width : 1);
    return new ImageRun({
      type,
      data: bytes,
      transformation: { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) },
      altText: { name: asset.name, description: r.alt, title: r.alt },
    });
  }
}

/** A paper of a set as DOCX. Same paper, same bytes. */
export const docxOf = (paper: Paper, set: QuizSet): Promise<Uint8Array> => new Writer(paper, set.assets ?? {}).bytes();

/** How the key stands in a plain document for importers: not at all, a star behind the right option, or the right option in bold. */
export type ImportKeys = 'none' | 'starred' | 'bold';

/** A plain document as importers of documents take it: the question on one line, each option on its own, nothing else. */
export async function importDocxOf(paper: Paper, keys: ImportKeys): Promise<Uint8Array> {
  const lines = paper.pieces.flatMap((p): Paragraph[] => {
    if (p.is !== 'item') return [];
    const options = p.answers.flatMap((a) => (a.is === 'options' ? a.options : []));
    return [
      new Paragraph({ children: [new TextRun(`${p.number}. ${plainOfBlocks(p.blocks)}`)] }),
      ...options.map(
        (o) =>
          new Paragraph({
            children: [
              new TextRun({
                text: `${o.letter.toUpperCase()}. ${plainOfBlocks(o.blocks)}${o.right && keys === 'starred' ? ' *' : ''}`,
                bold: o.right && keys === 'bold',
              }),
            ],
          }),
      ),
      new Paragraph({ children: [] }),
    ];
  });
  const document = new Document({ title: paper.title, creator: 'Zakuska', sections: [{ children: lines }] });
  return sameBytes(new Uint8Array(await Packer.toArrayBuffer(document)));
}
