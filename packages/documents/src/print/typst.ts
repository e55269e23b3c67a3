/** Papers as PDF, set by Typst: for servers and the command line, since its compiler is no program for browsers. */
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { NodeCompiler } from '@myriaddreamin/typst-ts-node-compiler';
import {
  type Asset,
  type Paper,
  type PaperAnswer,
  type PaperBlock,
  type PaperItem,
  type PaperLook,
  type PaperPiece,
  type PaperRun,
  type QuizSet,
  usualLook,
} from '@zakuska/core';
import { tex2typst } from 'tex2typst';
import { pictureOf } from '../paper/picture.js';

/** The fonts that papers are set in, first to last: each stands in for signs that the one before has not. */
const FONTS: readonly { family: string; folder: string }[] = [
  { family: 'Atkinson Hyperlegible Next', folder: 'atkinson-hyperlegible-next' },
  { family: 'Noto Sans', folder: 'noto-sans' },
  { family: 'Noto Sans Arabic', folder: 'noto-sans-arabic' },
  { family: 'Noto Sans Hebrew', folder: 'noto-sans-hebrew' },
  { family: 'Noto Sans Mono', folder: 'noto-sans-mono' },
];
const CUTS = ['400Regular', '400Regular_Italic', '700Bold', '700Bold_Italic'];
/** A folder that is nowhere: pictures are handed to the compiler, and no file of the machine can be read by a paper. */
export const NOWHERE = '/zakuska-paper';
/** Widest and highest that a picture is shown, in points. */
const MOST_PICTURE = { width: 420, height: 300 };
/** Longer formulas stand as they were typed: none on paper is as long. */
const LONGEST = 5000;
/** Items higher than this, in points, may go on over the end of a page. */
const WHOLE_PAGE = 680;

/** The fonts of papers, as a list of Typst without its brackets. */
export const fontsOf = (): string => [DIGITS, ...FONTS.map((f) => typstString(f.family))].join(', ');
/** The zero of the first font has a stroke, which belongs into code. */
const DIGITS = '(name: "Noto Sans", covers: regex("[0-9]"))';

let shared: NodeCompiler | undefined;
function compiler(): NodeCompiler {
  shared ??= NodeCompiler.create({
    workspace: NOWHERE,
    fontArgs: [
      {
        fontPaths: FONTS.flatMap(({ folder }) => {
          const own = path.dirname(fileURLToPath(import.meta.resolve(`@expo-google-fonts/${folder}/package.json`)));
          return CUTS.map((cut) => path.join(own, cut));
        }),
      },
    ],
  });
  return shared;
}

/** A text as the language of Typst writes one. */
export const typstString = (text: string): string =>
  `"${text
    .replace(/[\\"]/g, '\\$&')
    .replace(/\n/g, '\\n')
    .replace(/\t/g, '\\t')
    .replace(/[\u0000-\u001f]/g, '')}"`;
const words = (text: string): string => (text ? `#${typstString(text)};` : '');

const HELPERS = `
#let whole(body) = layout(size => {
  let high = measure(block(width: size.width, body)).height
  block(breakable: high > ${WHOLE_PAGE}pt, width: 100%, inset: (bottom: 0.8em), body)
})
#let blank(width) = box(width: width, height: 0.9em, stroke: (bottom: 0.6pt), outset: (bottom: 2pt))
#let tick = box(width: 0.85em, height: 0.85em, stroke: 0.7pt, baseline: 10%)
#let rule(n) = for _ in range(n) { block(above: 1.7em, below: 0pt, line(length: 100%, stroke: 0.5pt)) }
#let quiet(body) = text(0.9em, fill: luma(35%), body)
`;

/** Writes one paper in the language of Typst. */
class Source {
  /** Pictures by the paths that the source names them by. */
  readonly pictures = new Map<string, Uint8Array>();
  constructor(
    private readonly paper: Paper,
    private readonly assets: Readonly<Record<string, Asset>>,
    /** Whether a piece of source can be set. */
    private readonly sets: (source: string, pictures: ReadonlyMap<string, Uint8Array>) => boolean,
    private readonly look: PaperLook,
  ) {}

  text(): string {
    const { title, language, pieces } = this.paper;
    const [name = 'en', region = ''] = language.toLowerCase().split('-');
    return [
      `#set document(title: ${typstString(title)}, author: "Zakuska", date: none)`,
      `#set page(paper: "a4", margin: 2cm, columns: ${this.look.columns}, footer: context align(center, text(9pt, fill: luma(35%))[#counter(page).display() / #counter(page).final().first()]))`,
      `#set text(font: (${fontsOf()}), size: ${this.look.large ? 16 : 11}pt${this.look.wide ? ', tracking: 0.06em, spacing: 145%' : ''}, lang: ${typstString(/^[a-z]{2,3}$/.test(name) ? name : 'en')}${/^[a-z]{2}$/.test(region) ? `, region: ${typstString(region)}` : ''})`,
      this.look.wide ? '#set par(leading: 1.05em, spacing: 1.5em)' : '#set par(leading: 0.62em, spacing: 0.9em)',
      '#show heading: set block(sticky: true, above: 1.4em, below: 0.9em)',
      '#show raw: set text(font: "Noto Sans Mono", size: 0.92em)',
      HELPERS,
      ...this.pieces(pieces),
    ].join('\n');
  }

  /** What a paper begins with stands over all of its columns. */
  private pieces(pieces: readonly PaperPiece[]): string[] {
    const head = this.look.columns === 1 ? 0 : pieces.findIndex((p) => p.is !== 'title' && p.is !== 'head');
    const written = pieces.map((p) => this.piece(p));
    if (head <= 0) return written;
    return [`#place(top + left, scope: "parent", float: true, clearance: 1em, block(width: 100%)[${written.slice(0, head).join('')}])`, ...written.slice(head)];
  }

  private piece(p: PaperPiece): string {
    switch (p.is) {
      case 'title':
        return `#heading(level: 1)[${words(p.text)}]`;
      case 'head': {
        const field = (label: string): string =>
          `[#grid(columns: (auto, 1fr), column-gutter: 0.4em, [${words(`${label}:`)}], [#box(width: 100%, height: 0.9em, stroke: (bottom: 0.6pt))])]`;
        return `#block(below: 1.6em)[#grid(columns: (2fr, 1fr, 1fr), column-gutter: 1em, ${[p.name, p.group, p.date].map(field).join(', ')})${p.points ? `#v(0.4em)#align(end)[${words(p.points)}]` : ''}]`;
      }
      case 'page':
        return '#pagebreak()';
      case 'heading':
        return `#heading(level: 2)[${words(p.text)}]`;
      case 'text':
        return this.blocks(p.blocks);
      case 'passage':
        return `#block(stroke: (left: 2pt + luma(70%)), inset: (left: 0.8em, y: 0.2em), width: 100%)[${this.blocks(p.blocks)}]`;
      case 'item':
        return this.item(p);
      case 'key': {
        const { number, key, points } = p.headings;
        const head = [number, key, points].map((h) => `[#strong[${words(h)}]]`).join(', ');
        const rows = p.rows.map(
          (r) =>
            `[#strong[${words(r.number)}]], [#strong[${this.blocks(r.key)}]${r.notes.map((n) => `#quiet[${this.blocks(n)}]`).join('')}], [${words(r.points)}]`,
        );
        return `#table(columns: (auto, 1fr, auto), stroke: 0.5pt + luma(60%), inset: 0.5em, table.header(${head})${rows.map((r) => `, ${r}`).join('')})`;
      }
    }
  }

  private item(p: PaperItem): string {
    const number = `${p.number}${/[.)]$/.test(p.number) ? '' : '.'}`;
    const points = p.points ? `#quiet[${words(` (${p.points})`)}]` : '';
    const last = p.blocks.at(-1);
    // points stand behind the last words of the question
    const asked =
      last?.is === 'paragraph' ? `${this.blocks(p.blocks.slice(0, -1))}#par[${this.runs(last.runs)}${points}]` : `${this.blocks(p.blocks)}${points}`;
    // labels of words need the room that they take
    return `#whole[#grid(columns: (${number.length > 4 ? 'auto' : '1.9em'}, 1fr), column-gutter: 0.2em, [${words(number)}], [${asked}${p.answers.map((a) => this.answer(a)).join('')}])]`;
  }

  private answer(a: PaperAnswer): string {
    switch (a.is) {
      case 'options': {
        const cells = a.options.map((o) => `[#grid(columns: (1.5em, 1fr), [${words(`${o.letter})`)}], [${this.blocks(o.blocks)}])]`).join(', ');
        // half a page holds half as much
        const columns = this.look.columns === 2 || this.look.large ? Math.max(1, a.columns / 2) : a.columns;
        return `#grid(columns: (1fr,) * ${columns}, column-gutter: 1em, row-gutter: 0.65em, ${cells})`;
      }
      case 'boxes':
        return `#par[${a.words.map((w) => `#tick #h(0.4em)${words(w.text)}`).join(' #h(2.5em)')}]`;
      case 'lines':
        return `#rule(${a.lines})`;
      case 'blank':
        return `#par[#blank(${a.width * 0.55}em) ${words(a.unit ?? '')}]`;
      case 'bank':
        return `#block(stroke: 0.7pt, inset: 0.6em)[${words(a.words.join('  ·  '))}]`;
      case 'pairs': {
        const rows = Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => {
          const left = a.lefts[i];
          const right = a.rights[i];
          return [
            left ? `[#grid(columns: (1.5em, 1fr, 2.5em), [${words(`${i + 1}.`)}], [${this.blocks(left)}], [#blank(2em)])]` : '[]',
            right ? `[#grid(columns: (1.5em, 1fr), [${words(`${right.letter}.`)}], [${this.blocks(right.blocks)}])]` : '[]',
          ].join(', ');
        });
        return `#grid(columns: (1fr, 1fr), column-gutter: 2em, row-gutter: 0.9em, ${rows.join(', ')})`;
      }
      case 'steps':
        return `#grid(columns: (2em, 1fr), row-gutter: 0.7em, ${a.steps.map((s) => `[#box(width: 1.3em, height: 1.1em, stroke: 0.7pt, baseline: 15%)], [${this.blocks(s)}]`).join(', ')})`;
    }
  }

  private blocks(blocks: readonly PaperBlock[]): string {
    return blocks
      .map((b): string => {
        switch (b.is) {
          case 'paragraph':
            return `#par[${this.runs(b.runs)}]`;
          case 'list':
            return b.ordered
              ? `#enum(start: ${b.start}, ${b.items.map((i) => `[${this.blocks(i)}]`).join(', ')})`
              : `#list(${b.items.map((i) => `[${this.blocks(i)}]`).join(', ')})`;
          case 'table': {
            const columns = Math.max(1, ...b.rows.map((r) => r.reduce((n, c) => n + c.columns, 0)));
            const cell = (c: (typeof b.rows)[number][number]): string =>
              `table.cell(colspan: ${Math.min(c.columns, columns)}, rowspan: ${Math.min(c.rows, b.rows.length)})[${c.head ? `#strong[${this.blocks(c.blocks)}]` : this.blocks(c.blocks)}]`;
            const table = `#table(columns: ${columns}, stroke: 0.5pt + luma(60%), inset: 0.4em, ${b.rows.flat().map(cell).join(', ')})`;
            // spans that do not fit together are set one cell after the other
            return this.sets(`${HELPERS}${table}`, this.pictures)
              ? table
              : `#table(columns: ${columns}, ${b.rows
                  .flat()
                  .map((c) => `[${this.blocks(c.blocks)}]`)
                  .join(', ')})`;
          }
          case 'code':
            return `#raw(block: true, ${typstString(b.text)})`;
          case 'quote':
            return `#pad(left: 1em)[${this.blocks(b.blocks)}]`;
        }
      })
      .join('');
  }

  private runs(runs: readonly PaperRun[]): string {
    return runs
      .map((r): string => {
        switch (r.is) {
          case 'text': {
            let out = r.code ? `#raw(${typstString(r.text)});` : words(r.text);
            if (r.sub) out = `#sub[${out}]`;
            if (r.sup) out = `#super[${out}]`;
            if (r.underline) out = `#underline[${out}]`;
            if (r.italic) out = `#emph[${out}]`;
            return r.bold ? `#strong[${out}]` : out;
          }
          case 'break':
            return '#linebreak()';
          case 'blank':
            return `#blank(${r.width * 0.55}em)`;
          case 'formula':
            return this.formula(r.tex, r.display);
          case 'picture':
            return this.picture(r);
        }
      })
      .join('');
  }

  private formula(tex: string, display: boolean): string {
    try {
      // the converter does not escape quotes, and behind a # stands a program: neither goes in, and no # comes out
      const math = tex.length > LONGEST || /["#]/.test(tex) ? '#' : tex2typst(tex).trim();
      const source = display ? `$ ${math} $` : `$${math}$`;
      if (math && !math.includes('#') && this.sets(source, new Map())) return source;
    } catch {
      // what the converter does not know stands as it was typed
    }
    return `#raw(${typstString(tex)});`;
  }

  private picture(r: Extract<PaperRun, { is: 'picture' }>): string {
    const picture = pictureOf(this.assets[r.asset]);
    if (picture) {
      const { type, bytes, width, height } = picture;
      const scale = Math.min(0.75, MOST_PICTURE.width / this.look.columns / width, MOST_PICTURE.height / height, r.width ? (r.width * 0.75) / width : 0.75);
      const name = `${r.asset}.${type}`;
      const file = `${NOWHERE}/${name}`;
      const source = `#box(image(${typstString(name)}, width: ${Math.max(1, Math.round(width * scale))}pt, alt: ${typstString(r.alt)}))`;
      if (this.sets(source, new Map([[file, bytes]]))) {
        this.pictures.set(file, bytes);
        return source;
      }
    }
    return `#emph[${words(r.alt || '[picture]')}]`;
  }
}

/** Sets a source. @throws what the compiler says */
export function compilePdf(source: string, pictures: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const c = compiler();
  for (const [file, bytes] of pictures) c.mapShadow(file, Buffer.from(bytes));
  try {
    return new Uint8Array(c.pdf({ mainFileContent: source }));
  } finally {
    c.resetShadow();
    // what was set before is of no use for the next paper, and would stay in memory
    c.evictCache(5);
  }
}
const sets = (source: string, pictures: ReadonlyMap<string, Uint8Array>): boolean => {
  try {
    compilePdf(source, pictures);
    return true;
  } catch {
    return false;
  }
};

/** A paper of a set as PDF, with title, language and bookmarks. Same paper, same look, same bytes. */
export function pdfOf(paper: Paper, set: QuizSet, look: PaperLook = usualLook): Uint8Array {
  const source = new Source(paper, set.assets ?? {}, sets, look);
  const text = source.text();
  return compilePdf(text, source.pictures);
}
