/** Rich text as blocks of runs. */
import { type DefaultTreeAdapterMap, parseFragment } from 'parse5';
import { texOfMathML } from '../../item/mathml.js';
import { isMarkup } from '../../item/richText.js';
import { replaceFormulas } from '../../item/formulas.js';
import { serialize } from 'parse5';
import type { PaperBlock, PaperCell, PaperRun } from './pieces.js';

type Node = DefaultTreeAdapterMap['childNode'];
type Element = DefaultTreeAdapterMap['element'];
type Look = Omit<Extract<PaperRun, { is: 'text' }>, 'is' | 'text'>;

const LOOKS: Readonly<Record<string, Look>> = {
  strong: { bold: true },
  em: { italic: true },
  u: { underline: true },
  sub: { sub: true },
  sup: { sup: true },
  code: { code: true },
};
const attribute = (e: Element, name: string): string | undefined => e.attrs.find((a) => a.name === name)?.value;
const whole = (e: Element, name: string): number => Math.max(1, Math.min(1000, Number.parseInt(attribute(e, name) ?? '1', 10) || 1));
const GAP = /\[\[([^\][]+)\]\]/g;

/** What a gap of a stem becomes. */
export type GapRuns = (id: string) => PaperRun[];

/** Words with their formulas and gaps as runs. */
function runsOf(text: string, look: Look, gap: GapRuns | undefined): PaperRun[] {
  const out: PaperRun[] = [];
  const plain = (words: string): void => {
    words.split('\n').forEach((line, i) => {
      if (i) out.push({ is: 'break' });
      if (line) out.push({ is: 'text', text: line, ...look });
    });
  };
  const gapped = (words: string): void => {
    let at = 0;
    if (gap)
      for (const m of words.matchAll(GAP)) {
        plain(words.slice(at, m.index));
        out.push(...gap(m[1] ?? ''));
        at = m.index + m[0].length;
      }
    plain(words.slice(at));
  };
  // the signs of formulas are looked for as in any text of the set; what is between them comes in order
  const formulas: { tex: string; display: boolean; whole: string }[] = [];
  replaceFormulas(text, (tex, display, all) => {
    formulas.push({ tex, display, whole: all });
    return all;
  });
  let rest = text;
  for (const f of formulas) {
    const at = rest.indexOf(f.whole);
    gapped(rest.slice(0, at));
    out.push({ is: 'formula', tex: f.tex.trim(), display: f.display });
    rest = rest.slice(at + f.whole.length);
  }
  gapped(rest);
  return out;
}

/** Builds blocks one after the other: runs gather in a paragraph until something else begins. */
class Builder {
  readonly blocks: PaperBlock[] = [];
  private runs: PaperRun[] = [];
  constructor(private readonly gap: GapRuns | undefined) {}

  add(...runs: PaperRun[]): void {
    this.runs.push(...runs);
  }
  close(): void {
    // blanks around line ends and at both ends are layout of the source
    const runs = this.runs.filter((r, i, all) => r.is !== 'text' || r.text.trim() || (i > 0 && i < all.length - 1));
    const [first] = runs;
    const last = runs.at(-1);
    if (first?.is === 'text') first.text = first.text.trimStart();
    if (last?.is === 'text') last.text = last.text.trimEnd();
    while (runs.at(-1)?.is === 'break') runs.pop();
    if (runs.length) this.blocks.push({ is: 'paragraph', runs });
    this.runs = [];
  }
  put(block: PaperBlock): void {
    this.close();
    this.blocks.push(block);
  }
  within(nodes: readonly Node[]): PaperBlock[] {
    const inner = new Builder(this.gap);
    inner.walk(nodes, {});
    inner.close();
    return inner.blocks;
  }
  walk(nodes: readonly Node[], look: Look): void {
    for (const n of nodes) {
      if ('value' in n) this.add(...runsOf(n.value.replace(/\s+/g, ' '), look, this.gap));
      else if ('tagName' in n) this.element(n, look);
    }
  }
  private element(e: Element, look: Look): void {
    switch (e.tagName) {
      case 'br':
        return this.add({ is: 'break' });
      case 'p':
      case 'li':
      case 'caption':
        this.close();
        this.walk(e.childNodes, look);
        return this.close();
      case 'ul':
      case 'ol':
        return this.put({
          is: 'list',
          ordered: e.tagName === 'ol',
          start: whole(e, 'start'),
          items: e.childNodes.flatMap((c) => ('tagName' in c ? [this.within(c.childNodes)] : [])),
        });
      case 'table': {
        const rows: PaperCell[][] = [];
        const rowsIn = (nodes: readonly Node[]): void => {
          for (const n of nodes)
            if (!('tagName' in n)) continue;
            else if (n.tagName === 'tr')
              rows.push(
                n.childNodes.flatMap((c) =>
                  'tagName' in c
                    ? [{ blocks: this.within(c.childNodes), head: c.tagName === 'th', columns: whole(c, 'colspan'), rows: whole(c, 'rowspan') }]
                    : [],
                ),
              );
            else if (n.tagName === 'caption') this.element(n, { bold: true });
            else rowsIn(n.childNodes);
        };
        rowsIn(e.childNodes);
        return this.put({ is: 'table', rows: rows.filter((r) => r.length) });
      }
      case 'pre':
        return this.put({ is: 'code', text: textIn(e).replace(/\n$/, '') });
      case 'blockquote':
        return this.put({ is: 'quote', blocks: this.within(e.childNodes) });
      case 'img': {
        const asset = /^asset:([0-9a-f]{64})$/.exec(attribute(e, 'src') ?? '')?.[1];
        const width = Number.parseInt(attribute(e, 'width') ?? '', 10);
        const alt = attribute(e, 'alt') ?? '';
        return asset ? this.add({ is: 'picture', asset, alt, ...(width > 0 && { width }) }) : this.add({ is: 'text', text: alt, ...look });
      }
      case 'math':
        return this.add({
          is: 'formula',
          tex: texOfMathML(serialize({ nodeName: '#document-fragment', childNodes: [e] } as never)),
          display: attribute(e, 'display') === 'block',
        });
      default:
        return this.walk(e.childNodes, { ...look, ...LOOKS[e.tagName] });
    }
  }
}
const textIn = (e: Element): string =>
  e.childNodes.map((c) => ('value' in c ? c.value : 'tagName' in c ? (c.tagName === 'br' ? '\n' : textIn(c)) : '')).join('');

/**
 * A rich text as blocks.
 * @param gap what its gaps become; without it they stand as they are written
 */
export function blocksOf(rich: string, gap?: GapRuns): PaperBlock[] {
  const builder = new Builder(gap);
  if (isMarkup(rich)) builder.walk(parseFragment(rich).childNodes, {});
  else builder.add(...runsOf(rich, {}, gap));
  builder.close();
  return builder.blocks;
}

/** The words of blocks in one line, formulas as TeX, blanks as strokes. */
export const plainOfBlocks = (blocks: readonly PaperBlock[]): string =>
  blocks
    .map((b): string => {
      if (b.is === 'paragraph')
        return b.runs
          .map((r) => (r.is === 'text' ? r.text : r.is === 'formula' ? r.tex : r.is === 'picture' ? r.alt : r.is === 'blank' ? '_'.repeat(r.width) : ' '))
          .join('');
      if (b.is === 'list') return b.items.map(plainOfBlocks).join('; ');
      if (b.is === 'table') return b.rows.map((r) => r.map((c) => plainOfBlocks(c.blocks)).join(', ')).join('; ');
      return b.is === 'code' ? b.text : plainOfBlocks(b.blocks);
    })
    .join(' ');
