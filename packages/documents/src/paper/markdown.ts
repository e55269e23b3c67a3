/** A paper as Markdown (CommonMark, with the tables of GFM and formulas between dollars), one file with its pictures within it. */
import {
  assetsAsData,
  htmlOfBlocks,
  type Paper,
  type PaperAnswer,
  type PaperBlock,
  type PaperCell,
  type PaperPiece,
  type PaperRun,
  type QuizSet,
} from '@zakuska/core';
import type { BlockContent, DefinitionContent, ListItem, PhrasingContent, RootContent } from 'mdast';
import { gfmTableToMarkdown } from 'mdast-util-gfm-table';
import { mathToMarkdown } from 'mdast-util-math';
import { toMarkdown } from 'mdast-util-to-markdown';

type Flow = BlockContent | DefinitionContent;

const words = (value: string): PhrasingContent => ({ type: 'text', value });
const raw = (value: string): PhrasingContent => ({ type: 'html', value });
const strong = (value: string): PhrasingContent => ({ type: 'strong', children: [words(value)] });
const paragraph = (...children: PhrasingContent[]): Flow => ({ type: 'paragraph', children });
/** Between blanks or at an end, where it opens no emphasis; the first stroke alone is escaped, so that it is no rule over the page. */
const blank = (width: number): PhrasingContent => raw(`\\${'_'.repeat(width)}`);
const list = (items: readonly Flow[][]): Flow => ({
  type: 'list',
  spread: false,
  children: items.map((children): ListItem => ({ type: 'listItem', spread: false, children })),
});

function phrasing(r: PaperRun): PhrasingContent[] {
  switch (r.is) {
    case 'text': {
      const text = r.text.trim();
      if (!text) return [words(r.text)];
      const at = r.text.indexOf(text);
      const [before, after] = [r.text.slice(0, at), r.text.slice(at + text.length)];
      let out: PhrasingContent[] = [r.code ? { type: 'inlineCode', value: text } : words(text)];
      // what Markdown has no signs for stands as HTML, which belongs to it
      for (const tag of [r.sup && 'sup', r.sub && 'sub', r.underline && 'u']) if (tag) out = [raw(`<${tag}>`), ...out, raw(`</${tag}>`)];
      if (r.italic) out = [{ type: 'emphasis', children: out }];
      if (r.bold) out = [{ type: 'strong', children: out }];
      // signs around words hold only where no blank is next to them
      return [...(before ? [words(before)] : []), ...out, ...(after ? [words(after)] : [])];
    }
    case 'formula':
      return [{ type: 'inlineMath', value: r.tex }];
    case 'picture':
      return [{ type: 'image', url: `asset:${r.asset}`, alt: r.alt }];
    case 'blank':
      return [words('_'.repeat(r.width))];
    case 'break':
      return [{ type: 'break' }];
  }
}
const line = (runs: readonly PaperRun[]): PhrasingContent[] => {
  const apart = (r: PaperRun | undefined, edge: RegExp): boolean => !r || r.is === 'break' || (r.is === 'text' && edge.test(r.text));
  return runs.flatMap((r, i) => (r.is === 'blank' && apart(runs[i - 1], /\s$/) && apart(runs[i + 1], /^\s/) ? [blank(r.width)] : phrasing(r)));
};

/** A table that GFM can hold: one line in each cell, no cell over several. */
const isPlain = (b: Extract<PaperBlock, { is: 'table' }>): boolean =>
  b.rows.every((row) =>
    row.every(
      (c) =>
        c.columns === 1 &&
        c.rows === 1 &&
        c.blocks.length <= 1 &&
        c.blocks.every((x) => x.is === 'paragraph' && x.runs.every((r) => r.is !== 'break' && (r.is !== 'formula' || !r.tex.includes('|')))),
    ),
  );

function flow(b: PaperBlock): Flow {
  switch (b.is) {
    case 'paragraph': {
      const [only, ...rest] = b.runs;
      return only?.is === 'formula' && only.display && !rest.length ? { type: 'math', value: only.tex } : paragraph(...line(b.runs));
    }
    case 'list':
      return { ...list(b.items.map(flows)), ...(b.ordered && { ordered: true, start: b.start }) } as Flow;
    case 'table': {
      // lines of their own would end the stretch of HTML
      if (!isPlain(b)) return { type: 'html', value: htmlOfBlocks([b]).replaceAll('\n', '&#10;') };
      const cells = b.rows.map((row) => row.map((c) => line(c.blocks.flatMap((x) => (x.is === 'paragraph' ? x.runs : [])))));
      // the first row is the heading, and there has to be one
      const headed = b.rows[0]?.some((c) => c.head) ? cells : [(cells[0] ?? []).map(() => []), ...cells];
      return {
        type: 'table',
        children: headed.map((row) => ({ type: 'tableRow', children: row.map((children) => ({ type: 'tableCell', children })) })),
      };
    }
    case 'code':
      return { type: 'code', value: b.text };
    case 'quote':
      return { type: 'blockquote', children: flows(b.blocks) };
  }
}
const flows = (blocks: readonly PaperBlock[]): Flow[] => blocks.map(flow);

/** Blocks with words in front of their first line. */
function behind(front: readonly PhrasingContent[], blocks: readonly PaperBlock[]): Flow[] {
  const [first, ...rest] = flows(blocks);
  if (first?.type === 'paragraph') return [paragraph(...front, words(' '), ...first.children), ...rest];
  return [paragraph(...front), ...(first ? [first] : []), ...rest];
}

function answer(a: PaperAnswer): Flow[] {
  switch (a.is) {
    case 'options':
      return [list(a.options.map((o) => behind([words(`${o.letter})`)], o.blocks)))];
    case 'boxes':
      return [paragraph(words(a.words.map((w) => `☐ ${w.text}`).join(' \u00a0 ')))];
    case 'lines':
      return Array.from({ length: a.lines }, () => paragraph(blank(60)));
    case 'blank':
      return [paragraph(blank(a.width), ...(a.unit ? [words(` ${a.unit}`)] : []))];
    case 'bank':
      return [{ type: 'blockquote', children: [paragraph(words(a.words.join(' · ')))] }];
    case 'pairs': {
      const cell = (front: PaperRun[], blocks: PaperBlock[] | undefined): PaperCell => {
        const [first, ...rest] = blocks ?? [];
        const headed: PaperBlock[] =
          first?.is === 'paragraph' ? [{ is: 'paragraph', runs: [...front, ...first.runs] }, ...rest] : [{ is: 'paragraph', runs: front }, ...(blocks ?? [])];
        return { blocks: blocks ? headed : [], head: false, columns: 1, rows: 1 };
      };
      const rows = Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => [
        cell(
          [
            { is: 'blank', width: 4 },
            { is: 'text', text: ` ${i + 1}. ` },
          ],
          a.lefts[i],
        ),
        cell([{ is: 'text', text: `${a.rights[i]?.letter}. ` }], a.rights[i]?.blocks),
      ]);
      return [flow({ is: 'table', rows })];
    }
    case 'steps':
      return [list(a.steps.map((s) => behind([blank(3)], s)))];
  }
}

function piece(p: PaperPiece): RootContent[] {
  switch (p.is) {
    case 'title':
      return [{ type: 'heading', depth: 1, children: [words(p.text)] }];
    case 'head':
      return [paragraph(...[p.name, p.group, p.date].flatMap((f) => [words(`${f}: `), blank(12), words(' \u00a0 ')]), ...(p.points ? [words(p.points)] : []))];
    case 'page':
      return [{ type: 'thematicBreak' }];
    case 'heading':
      return [{ type: 'heading', depth: 2, children: [words(p.text)] }];
    case 'text':
      return flows(p.blocks);
    case 'passage':
      return [{ type: 'blockquote', children: flows(p.blocks) }];
    case 'item': {
      const points = p.points ? [paragraph({ type: 'emphasis', children: [words(`(${p.points})`)] })] : [];
      return [...behind([strong(`${p.number}.`)], p.blocks), ...p.answers.flatMap(answer), ...points];
    }
    case 'key':
      return p.rows.flatMap((r) => [
        ...behind([strong(`${r.number}.`), words(` (${p.headings.points}: ${r.points})`)], r.key),
        ...(r.notes.length ? [list(r.notes.map(flows))] : []),
      ]);
  }
}

/**
 * The text. Same paper, same text.
 * @param set with the pictures that the paper shows
 */
export const markdownOf = (paper: Paper, set: QuizSet): string =>
  assetsAsData(
    toMarkdown(
      { type: 'root', children: paper.pieces.flatMap(piece) },
      { bullet: '-', emphasis: '*', rule: '-', extensions: [gfmTableToMarkdown(), mathToMarkdown()] },
    ),
    set,
  );
