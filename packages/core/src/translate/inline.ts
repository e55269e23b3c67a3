/** Rich text as translators get it: words, and codes in place of markup, gaps and formulas, which they may move but not change. */
import { type DefaultTreeAdapterMap, parseFragment } from 'parse5';
import { escapeXml, isMarkup, richFromPlain, VOID } from '../item/richText.js';

/** A piece of a text: words, a pair of codes around pieces, or a code that stands for something. */
export type Piece = string | Pair | Single;
/** A pair of codes. */
export interface Pair {
  id: string;
  /** The element: "strong". */
  name: string;
  open: string;
  children: Piece[];
}
/** A code that stands for something that stays: a gap, a formula, a picture, the end of a line. */
export interface Single {
  id: string;
  name: 'gap' | 'formula' | 'image' | 'br' | 'other';
  /** What it stands for, as it is in the text. */
  raw: string;
  /** For the translator: "[gap]". */
  shown: string;
}

/** A text whose codes are not those of its original; the message says which. */
export class BrokenCodes extends Error {
  override name = 'BrokenCodes';
}

type Node = DefaultTreeAdapterMap['childNode'];
type Element = DefaultTreeAdapterMap['element'];
const isElement = (n: Node): n is Element => 'tagName' in n;

const KEPT = /\[\[[^\][]+\]\]|\\\(.*?\\\)|\\\[.*?\\\]|\{\{[^{}]+\}\}/gs;

/** The pieces of a rich text; codes are numbered from 1 in their order. */
export function piecesOf(rich: string): Piece[] {
  let next = 0;
  const id = (): string => String(++next);
  const markup = isMarkup(rich);
  const words = (text: string): Piece[] => {
    const out: Piece[] = [];
    let at = 0;
    for (const m of text.matchAll(KEPT)) {
      if (m.index > at) out.push(text.slice(at, m.index));
      const gap = m[0].startsWith('[[');
      out.push({ id: id(), name: gap ? 'gap' : 'formula', raw: markup ? escapeXml(m[0]) : m[0], shown: gap ? '[gap]' : m[0].slice(0, 80) });
      at = m.index + m[0].length;
    }
    if (at < text.length) out.push(text.slice(at));
    return out;
  };
  if (!markup) return words(rich);
  const openTag = (e: Element): string => `<${e.tagName}${e.attrs.map((a) => ` ${a.name}="${escapeXml(a.value)}"`).join('')}`;
  const whole = (e: Element): string => {
    if (VOID.has(e.tagName)) return `${openTag(e)}/>`;
    return `${openTag(e)}>${e.childNodes.map((c) => (isElement(c) ? whole(c) : 'value' in c ? escapeXml(c.value) : '')).join('')}</${e.tagName}>`;
  };
  const plain = (e: Element): string => e.childNodes.map((c) => (isElement(c) ? plain(c) : 'value' in c ? c.value : '')).join('');
  const walk = (nodes: readonly Node[]): Piece[] =>
    nodes.flatMap((n): Piece[] => {
      if (!isElement(n)) return 'value' in n ? words(n.value) : [];
      const { tagName } = n;
      if (tagName === 'math') return [{ id: id(), name: 'formula', raw: whole(n), shown: plain(n).slice(0, 80) }];
      if (VOID.has(tagName)) {
        const alt = n.attrs.find((a) => a.name === 'alt')?.value;
        return [
          {
            id: id(),
            name: tagName === 'img' ? 'image' : tagName === 'br' ? 'br' : 'other',
            raw: whole(n),
            shown: tagName === 'br' ? '\n' : `[${alt || 'picture'}]`,
          },
        ];
      }
      const own = id();
      return [{ id: own, name: tagName, open: `${openTag(n)}>`, children: walk(n.childNodes) }];
    });
  return walk(parseFragment(rich).childNodes);
}

/** All codes of pieces, by their number. */
export function codesOf(pieces: readonly Piece[]): Map<string, Pair | Single> {
  const out = new Map<string, Pair | Single>();
  const walk = (list: readonly Piece[]): void => {
    for (const p of list) {
      if (typeof p === 'string') continue;
      out.set(p.id, p);
      if ('children' in p) walk(p.children);
    }
  };
  walk(pieces);
  return out;
}

/** Pieces as they came back: words and codes by their number alone. */
export type Returned = string | { id: string; children?: Returned[] };

/**
 * The rich text of pieces that came back, with the codes of the original.
 * @throws BrokenCodes where a code is missing, comes twice, is unknown, or is no pair where the original has one
 */
export function richOf(returned: readonly Returned[], original: string): string {
  const codes = codesOf(piecesOf(original));
  const markup = isMarkup(original);
  const seen = new Set<string>();
  const shown = (c: Pair | Single): string =>
    'children' in c ? `<${c.name}>` : c.name === 'gap' ? `the gap ${c.raw}` : c.name === 'br' ? 'the end of a line' : c.shown;
  const write = (list: readonly Returned[]): string =>
    list
      .map((r) => {
        if (typeof r === 'string') return markup ? escapeXml(r) : r;
        const code = codes.get(r.id);
        if (!code) throw new BrokenCodes(`code ${r.id} is none of the original's`);
        if (seen.has(r.id)) throw new BrokenCodes(`code ${r.id} (${shown(code)}) stands there twice`);
        seen.add(r.id);
        if ('children' in code) {
          if (!r.children) throw new BrokenCodes(`code ${r.id} (${shown(code)}) goes around words, and here stands alone`);
          return `${code.open}${write(r.children)}</${code.name}>`;
        }
        if (r.children?.length) throw new BrokenCodes(`code ${r.id} (${shown(code)}) stands alone, and here goes around words`);
        return code.raw;
      })
      .join('');
  const text = write(returned);
  for (const [id, code] of codes) if (!seen.has(id)) throw new BrokenCodes(`code ${id} (${shown(code)}) is missing`);
  // words that look like markup, in a text that has none
  return markup ? text : richFromPlain(text);
}

/** Whether a text holds the same gaps, formulas and pictures as another, in whatever order. */
export function sameSingles(a: string, b: string): boolean {
  const singles = (text: string): string =>
    [...codesOf(piecesOf(text)).values()]
      .flatMap((c) => ('raw' in c && c.name !== 'br' ? [c.raw] : []))
      .sort()
      .join('\n');
  return singles(a) === singles(b);
}

/** Pieces in one line of text, for a cell of a sheet: `<1>bold</1> and <2/>`. A "<" in front of a digit or a slash is doubled. */
export const inCell = (pieces: readonly Piece[]): string =>
  pieces
    .map((p) => (typeof p === 'string' ? p.replace(/<(?=[\d/<])/g, '<<') : 'children' in p ? `<${p.id}>${inCell(p.children)}</${p.id}>` : `<${p.id}/>`))
    .join('');

/** Reads a cell back. @throws BrokenCodes where a code is opened and not closed, or closed and not opened */
export function fromCell(cell: string): Returned[] {
  const top: Returned[] = [];
  const open: { id: string; children: Returned[] }[] = [];
  const add = (r: Returned): void => {
    const list = open.at(-1)?.children ?? top;
    const last = list.at(-1);
    if (typeof r === 'string' && typeof last === 'string') list[list.length - 1] = last + r;
    else if (r !== '') list.push(r);
  };
  let at = 0;
  for (const m of cell.matchAll(/<<|<(\/?)(\d{1,4})(\/?)>/g)) {
    add(cell.slice(at, m.index));
    at = m.index + m[0].length;
    const [, closes, id = '', alone] = m;
    if (m[0] === '<<') add('<');
    else if (alone) add({ id });
    else if (!closes) {
      const pair = { id, children: [] };
      add(pair);
      open.push(pair);
    } else if (open.pop()?.id !== id) throw new BrokenCodes(`</${id}> closes what is not open`);
  }
  add(cell.slice(at));
  const left = open.at(-1);
  if (left) throw new BrokenCodes(`<${left.id}> is not closed`);
  return top;
}
