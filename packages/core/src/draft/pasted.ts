/** Text with formatting, as it comes from the clipboard (HTML), as draft text: list numbers typed out, keys that stand out kept marked, tables in bars. */
import { parseFragment, type DefaultTreeAdapterMap } from 'parse5';

type Node = DefaultTreeAdapterMap['childNode'];
type Element = DefaultTreeAdapterMap['element'];

export interface Pasted {
  text: string;
  /** Whether the formatting says more than the plain text: worth keeping. */
  formatted: boolean;
  /** Pictures that could not come along, because only their address was on the clipboard. */
  picturesLost: number;
}

interface Look {
  strong: boolean;
  em: boolean;
  under: boolean;
  mark: boolean;
  sub: boolean;
  sup: boolean;
}
const PLAIN: Look = { strong: false, em: false, under: false, mark: false, sub: false, sup: false };

const attr = (e: Element, name: string): string => e.attrs.find((a) => a.name === name)?.value ?? '';
/** A colour that makes text or ground stand out: no black, white or grey. */
function standsOut(colour: string): boolean {
  const c = colour.trim().toLowerCase();
  if (!c || /^(?:inherit|initial|transparent|none|auto|windowtext|currentcolor|black|white|gr[ae]y|window)/.test(c)) return false;
  const hex = /^#([0-9a-f]{3,8})$/.exec(c)?.[1];
  const rgb = hex
    ? hex.length < 6
      ? Array.from(hex.slice(0, 3), (h) => parseInt(h + h, 16))
      : [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16))
    : /^rgba?\(([^)]*)\)/
        .exec(c)?.[1]
        ?.split(/[\s,/]+/)
        .slice(0, 3)
        .map(Number);
  if (/^rgba\(.*,\s*0\)$/.test(c)) return false;
  if (!rgb || rgb.length < 3 || rgb.some(Number.isNaN)) return !hex;
  return Math.max(...rgb) - Math.min(...rgb) > 60;
}

/** How an element makes its words look, on top of how they looked before. */
function lookOf(e: Element, before: Look): Look {
  const style = attr(e, 'style').toLowerCase();
  const said = (name: string): string => new RegExp(`(?:^|;)\\s*${name}\\s*:\\s*([^;]+)`).exec(style)?.[1]?.trim() ?? '';
  const weight = said('font-weight');
  const align = said('vertical-align');
  const tag = e.tagName;
  return {
    // some editors wrap everything in <b style="font-weight: normal">
    strong: weight ? /bold|[6-9]00/.test(weight) : before.strong || tag === 'b' || tag === 'strong',
    em: said('font-style') ? said('font-style') === 'italic' : before.em || tag === 'i' || tag === 'em',
    under:
      /underline/.test(said('text-decoration')) ||
      /underline/.test(said('text-decoration-line')) ||
      (before.under && tag !== 'a') ||
      tag === 'u' ||
      tag === 'ins',
    mark:
      before.mark ||
      tag === 'mark' ||
      standsOut(said('background-color') || said('background').split(/\s/)[0] || '') ||
      standsOut(said('mso-highlight')) ||
      (tag !== 'a' && standsOut(said('color'))) ||
      (tag === 'font' && standsOut(attr(e, 'color'))),
    sub: before.sub || tag === 'sub' || align === 'sub',
    sup: before.sup || tag === 'sup' || align === 'super',
  };
}

const BLOCK = /^(?:p|div|h[1-6]|li|ul|ol|table|tr|blockquote|pre|section|article|header|footer|dl|dt|dd|hr)$/;
const ROMAN = ['i', 'ii', 'iii', 'iv', 'v', 'vi', 'vii', 'viii', 'ix', 'x'];

/** The label of an item of a list, as a word processor would print it. */
function labelOf(type: string, n: number, depth: number): string {
  const letter = (base: number): string => String.fromCharCode(base + ((n - 1) % 26));
  const style = type || (depth === 0 ? '1' : depth === 1 ? 'a' : 'i');
  if (/^(?:a|lower-(?:alpha|latin))$/.test(style)) return `${letter(97)})`;
  if (/^(?:A|upper-(?:alpha|latin))$/.test(style)) return `${letter(65)})`;
  if (/^(?:i|lower-roman)$/.test(style)) return `${ROMAN[n - 1] ?? n})`;
  if (/^(?:I|upper-roman)$/.test(style)) return `${(ROMAN[n - 1] ?? String(n)).toUpperCase()}.`;
  return `${n}.`;
}

/** Clipboard HTML as draft text. */
export function fromHtml(html: string): Pasted {
  const lines: string[] = [''];
  let formatted = false;
  let picturesLost = 0;
  /** Words of one look, written when the look changes, so that marks stand close to them. */
  let run: { text: string; look: Look } | null = null;
  const close = (): void => {
    if (!run) return;
    const { text, look } = run;
    run = null;
    const inner = text.trim();
    const at = lines.length - 1;
    if (!inner) {
      lines[at] += text ? ' ' : '';
      return;
    }
    const [lead, tail] = [/^\s/.test(text) ? ' ' : '', /\s$/.test(text) ? ' ' : ''];
    const blank = !/[\p{L}\p{N}]/u.test(inner);
    let words = inner;
    const wrap = (on: boolean, open: string, end: string): void => {
      if (!on || blank) return;
      words = `${open}${words}${end}`;
      formatted = true;
    };
    wrap(look.sub, '<sub>', '</sub>');
    wrap(look.sup, '<sup>', '</sup>');
    wrap(look.under, '<u>', '</u>');
    wrap(look.mark, '<mark>', '</mark>');
    wrap(look.em, '*', '*');
    wrap(look.strong, '**', '**');
    lines[at] += `${lead}${words}${tail}`;
  };
  const put = (text: string, look: Look): void => {
    if (run && JSON.stringify(run.look) === JSON.stringify(look)) run.text += text;
    else {
      close();
      run = { text, look };
    }
  };
  const newline = (): void => {
    close();
    if (lines[lines.length - 1]?.trim()) lines.push('');
    else lines[lines.length - 1] = '';
  };
  const blankLine = (): void => {
    newline();
    if (lines.length > 1 && lines[lines.length - 2] !== '') lines.push('');
  };
  const cellText = (cell: Element, look: Look): string => {
    const outer = lines.length;
    close();
    lines.push('');
    walk(cell.childNodes, lookOf(cell, look), { depth: -1, pre: false });
    close();
    const own = lines
      .splice(outer)
      .map((l) => l.trim())
      .filter(Boolean);
    return own.join(' ').replace(/\|/g, '\\|');
  };
  const table = (e: Element, look: Look): void => {
    const rows: Element[] = [];
    const find = (nodes: readonly Node[]): void => {
      for (const n of nodes) {
        if (!('tagName' in n)) continue;
        if (n.tagName === 'tr') rows.push(n);
        else if (n.tagName !== 'table') find(n.childNodes);
      }
    };
    find(e.childNodes);
    const cells = rows.map((r) => r.childNodes.filter((c): c is Element => 'tagName' in c && /^t[dh]$/.test(c.tagName)));
    const widest = Math.max(0, ...cells.map((c) => c.length));
    newline();
    // a table of one column is only layout
    if (widest < 2) {
      for (const row of cells) for (const c of row) walk(c.childNodes, lookOf(c, look), { depth: -1, pre: false });
      return newline();
    }
    formatted = true;
    blankLine();
    cells.forEach((row, i) => {
      const texts = row.map((c) => cellText(c, look));
      while (texts.length < widest) texts.push('');
      lines[lines.length - 1] = `| ${texts.join(' | ')} |`;
      lines.push('');
      if (i === 0 && row.some((c) => c.tagName === 'th')) {
        lines[lines.length - 1] = `|${' --- |'.repeat(widest)}`;
        lines.push('');
      }
    });
  };
  const walk = (nodes: readonly Node[], look: Look, at: { depth: number; pre: boolean }): void => {
    for (const n of nodes) {
      if ('value' in n) {
        const words = at.pre ? n.value : n.value.replace(/[\t\n\r ]+/g, ' ');
        if (at.pre) {
          words.split('\n').forEach((l, i) => {
            if (i > 0) {
              close();
              lines.push('');
            }
            put(l, PLAIN);
          });
        } else if (words.trim() || (run?.text ?? lines[lines.length - 1]) !== '') put(words, look);
        continue;
      }
      if (!('tagName' in n)) continue;
      element(n, look, at);
    }
  };
  const element = (e: Element, before: Look, at: { depth: number; pre: boolean }): void => {
    const tag = e.tagName;
    if (/^(?:script|style|head|title|meta|link|noscript|o:p)$/.test(tag) || /display\s*:\s*none/.test(attr(e, 'style'))) return;
    const look = lookOf(e, before);
    if (tag === 'br') return newline();
    if (tag === 'hr') return blankLine();
    if (tag === 'img') {
      const src = attr(e, 'src');
      if (/^data:image\/(?:png|jpeg|gif|webp);base64,/.test(src)) {
        close();
        lines[lines.length - 1] += `<img src="${src}" alt="${attr(e, 'alt').replace(/["<>]/g, '')}"/>`;
        formatted = true;
      } else if (src) picturesLost++;
      return;
    }
    if (tag === 'table') return table(e, look);
    if (tag === 'ul' || tag === 'ol') {
      const depth = at.depth + 1;
      const type = attr(e, 'type') || /list-style-type\s*:\s*([\w-]+)/.exec(attr(e, 'style'))?.[1] || '';
      let n = Number(attr(e, 'start')) || 1;
      newline();
      for (const c of e.childNodes) {
        if (!('tagName' in c)) continue;
        if (c.tagName !== 'li') {
          element(c, look, { ...at, depth });
          continue;
        }
        newline();
        n = Number(attr(c, 'value')) || n;
        const own = /list-style-type\s*:\s*([\w-]+)/.exec(attr(c, 'style'))?.[1];
        const label = tag === 'ol' ? labelOf(own && own !== 'decimal' ? own : type, n, depth) : '-';
        formatted = true;
        lines[lines.length - 1] = `${'   '.repeat(Math.max(0, depth))}${label} `;
        n++;
        walk(c.childNodes, lookOf(c, look), { ...at, depth });
        newline();
      }
      return;
    }
    const block = BLOCK.test(tag);
    if (/^h[1-6]$/.test(tag)) {
      blankLine();
      formatted = true;
      lines[lines.length - 1] = `${'#'.repeat(Number(tag[1]))} `;
      walk(e.childNodes, { ...look, strong: false }, at);
      return blankLine();
    }
    // a paragraph in a list item goes on behind its label
    const inItem = at.depth >= 0 && /^\s*(?:-|[\dA-Za-z]+[.)])\s*$/.test(lines[lines.length - 1] ?? '');
    const apart = tag === 'p' && at.depth < 0 ? blankLine : newline;
    if (block && !inItem) apart();
    walk(e.childNodes, look, { ...at, pre: at.pre || tag === 'pre' });
    if (block) apart();
  };
  walk(parseFragment(html).childNodes, PLAIN, { depth: -1, pre: false });
  close();
  const text = lines
    .map((l) => l.replace(/[^\S\n]+$/g, ''))
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim();
  return { text, formatted, picturesLost };
}
