/** Text with formatting, as it comes from the clipboard (HTML), as draft text: list numbers typed out, keys that stand out kept marked, tables in bars. */
import { parseFragment, serializeOuter, type DefaultTreeAdapterMap } from 'parse5';
import { texOfMathML } from '../item/mathml.js';
import { type Look, Sheet, standsOut } from './sheet.js';
import { fromSymbolFont } from '../language/symbols.js';

type Node = DefaultTreeAdapterMap['childNode'];
type Element = DefaultTreeAdapterMap['element'];

/** What was pasted, as draft text. */
export interface Pasted {
  text: string;
  /** Whether the formatting says more than the plain text: worth keeping. */
  formatted: boolean;
  /** Pictures that could not come along, because only their address was on the clipboard. */
  picturesLost: number;
}

/** Whether a text is the source of a page, or of a piece of one: it starts with an element of a page and closes some. */
export const isPageSource = (text: string): boolean =>
  /^[\s\uFEFF]*<(?:!doctype html|html|head|body|main|section|article|form|div|table|ol|ul|dl|h[1-6]|p)\b[^<>]*>/i.test(text.slice(0, 2000)) &&
  /<\/(?:p|li|ol|ul|td|div|h[1-6]|dd|label)>/i.test(text.slice(0, 20_000));

const attr = (e: Element, name: string): string => e.attrs.find((a) => a.name === name)?.value ?? '';

/** What a style sheet says of a class, an element or both: only selectors of one step are looked at. */
type Sheets = ReadonlyMap<string, string>;
function stylesIn(html: string): Sheets {
  const out = new Map<string, string>();
  for (const [, css = ''] of html.matchAll(/<style\b[^>]*>([\s\S]*?)<\/style>/gi))
    for (const [, selectors = '', rules = ''] of css.replace(/\/\*[\s\S]*?\*\/|<!--|-->/g, '').matchAll(/([^{}]+)\{([^{}]*)\}/g))
      for (const selector of selectors.split(',')) {
        const key = selector.trim().toLowerCase();
        if (/^(?:[a-z][\w-]*)?(?:\.[\w-]+)?$/.test(key) && key && out.size < 2000) out.set(key, `${out.get(key) ?? ''};${rules}`);
      }
  return out;
}
/** The style of an element: of its name, its classes, its own. */
function styleOf(e: Element, sheets: Sheets): string {
  const own = attr(e, 'style').toLowerCase();
  if (!sheets.size) return own;
  const classes = attr(e, 'class').toLowerCase().split(/\s+/).filter(Boolean);
  return [sheets.get(e.tagName), ...classes.flatMap((c) => [sheets.get(`.${c}`), sheets.get(`${e.tagName}.${c}`)]), own]
    .filter(Boolean)
    .join(';')
    .toLowerCase();
}
const saidIn = (style: string, name: string): string =>
  Array.from(style.matchAll(new RegExp(`(?:^|;)\\s*${name}\\s*:\\s*([^;]+)`, 'g')), (m) => (m[1] ?? '').trim()).pop() ?? '';

interface FontLook extends Look {
  font?: string;
}
/** How an element makes its words look, on top of how they looked before. */
function lookOf(e: Element, before: FontLook, style: string): FontLook {
  const said = (name: string): string => saidIn(style, name);
  const weight = said('font-weight');
  const align = said('vertical-align');
  const tag = e.tagName;
  const colour = said('color') || (tag === 'font' ? attr(e, 'color').toLowerCase() : '');
  const font = (tag === 'font' ? attr(e, 'face') : said('font-family')).split(',')[0]?.replace(/["']/g, '').trim() ?? '';
  const ground = said('background-color') || said('background').split(/\s(?![^(]*\))/)[0] || '';
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
    highlight: before.highlight || tag === 'mark' || standsOut(ground) || standsOut(said('mso-highlight')),
    sub: before.sub || tag === 'sub' || align === 'sub',
    sup: before.sup || tag === 'sup' || align === 'super',
    ...((font || before.font) && { font: font || (before.font ?? '') }),
    ...(colour && tag !== 'a' ? { colour } : before.colour !== undefined && { colour: before.colour }),
  };
}

const BLOCK =
  /^(?:p|div|h[1-6]|li|ul|ol|table|tr|blockquote|pre|section|article|header|footer|main|nav|aside|form|fieldset|legend|figure|figcaption|address|center|dl|dt|dd|hr)$/;
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

/** HTML as draft text: from the clipboard, or a page. */
export function fromHtml(html: string): Pasted {
  const sheet = new Sheet();
  const sheets = stylesIn(html);
  let picturesLost = 0;
  interface At {
    depth: number;
    pre: boolean;
  }
  const table = (e: Element, look: FontLook): void => {
    const rows: Element[] = [];
    const find = (nodes: readonly Node[]): void => {
      for (const n of nodes) {
        if (!('tagName' in n)) continue;
        if (n.tagName === 'tr') rows.push(n);
        else if (n.tagName !== 'table') find(n.childNodes);
      }
    };
    find(e.childNodes);
    const cells = rows.map((r) =>
      r.childNodes
        .filter((c): c is Element => 'tagName' in c && /^t[dh]$/.test(c.tagName))
        .flatMap((c): (Element | null)[] => [c, ...Array.from({ length: Math.min(20, Number(attr(c, 'colspan')) || 1) - 1 }, () => null)]),
    );
    sheet.table(cells, cells[0]?.some((c) => c?.tagName === 'th') ?? false, (c) => {
      if (c) walk(c.childNodes, lookOf(c, look, styleOf(c, sheets)), { depth: -1, pre: false });
    });
  };
  const walk = (nodes: readonly Node[], look: FontLook, at: At): void => {
    for (const n of nodes) {
      if ('value' in n) {
        if (at.pre)
          n.value.split('\n').forEach((l, i) => {
            if (i > 0) sheet.newline();
            sheet.words(l);
          });
        else {
          // a tab between words is how a word processor exports one
          const words = fromSymbolFont(
            n.value.replace(/[\t\n\r ]+/g, (m) => (/^ ?\t ?$/.test(m) ? '\t' : ' ')),
            look.font ?? '',
          );
          if (words.trim() || !sheet.fresh) sheet.words(words, look);
        }
        continue;
      }
      if ('tagName' in n) element(n, look, at);
    }
  };
  /** A list of terms, each with what is said of it, is a table of two columns. */
  const terms = (e: Element, look: FontLook): void => {
    const rows: (Element | null)[][] = [];
    const find = (nodes: readonly Node[]): void => {
      for (const n of nodes) {
        if (!('tagName' in n)) continue;
        const last = rows[rows.length - 1];
        if (n.tagName === 'dt') rows.push([n]);
        else if (n.tagName === 'dd' && last?.length === 1) last.push(n);
        else if (n.tagName === 'dd') rows.push([null, n]);
        else find(n.childNodes);
      }
    };
    find(e.childNodes);
    sheet.table(rows, false, (c) => {
      if (c) walk(c.childNodes, lookOf(c, look, styleOf(c, sheets)), { depth: -1, pre: false });
    });
  };
  const list = (e: Element, style: string, look: FontLook, at: At): void => {
    const depth = at.depth + 1;
    const tag = e.tagName;
    const type = attr(e, 'type') || saidIn(style, 'list-style-type') || /^[\w-]+/.exec(saidIn(style, 'list-style'))?.[0] || '';
    let n = Number(attr(e, 'start')) || 1;
    sheet.newline();
    for (const c of e.childNodes) {
      if (!('tagName' in c)) continue;
      if (c.tagName !== 'li') {
        element(c, look, { ...at, depth });
        continue;
      }
      n = Number(attr(c, 'value')) || n;
      const own = saidIn(styleOf(c, sheets), 'list-style-type');
      const named = own && own !== 'decimal' && own !== 'disc' ? own : type;
      if (named === 'none') sheet.newline();
      else sheet.label(tag === 'ol' ? labelOf(named, n, depth) : '-', depth);
      n++;
      walk(c.childNodes, lookOf(c, look, styleOf(c, sheets)), { ...at, depth });
      sheet.newline();
    }
  };
  const element = (e: Element, before: FontLook, at: At): void => {
    const tag = e.tagName;
    const style = styleOf(e, sheets);
    if (/^(?:script|style|head|title|meta|link|noscript|o:p|template)$/.test(tag) || /(?:^|;)\s*display\s*:\s*none/.test(style)) return;
    // what a word processor exports as the running head and foot of its pages
    if (tag === 'div' && /^(?:header|footer)$/i.test(attr(e, 'title') || attr(e, 'type'))) return;
    const look = lookOf(e, before, style);
    if (tag === 'br') return sheet.newline();
    if (tag === 'hr') return sheet.gap();
    if (tag === 'math') {
      const tex = texOfMathML(serializeOuter(e));
      return void (tex && sheet.markup(`\\(${tex}\\)`));
    }
    if (tag === 'input') {
      const type = attr(e, 'type').toLowerCase();
      if (type === 'checkbox' || type === 'radio') sheet.words(e.attrs.some((a) => a.name === 'checked') ? '☑ ' : '☐ ', {});
      else if (type === 'text' || !type) sheet.words(' ____ ', {});
      return;
    }
    if (tag === 'img') {
      const src = attr(e, 'src');
      if (/^data:image\/(?:png|jpeg|gif|webp);base64,/.test(src)) sheet.picture(src, attr(e, 'alt'));
      else if (src) picturesLost++;
      return;
    }
    if (tag === 'table') return table(e, look);
    if (tag === 'dl') return terms(e, look);
    // an answer that is folded away; the words on the fold say that it is one
    if (tag === 'details') {
      const fold = e.childNodes.find((c): c is Element => 'tagName' in c && c.tagName === 'summary');
      sheet.label('Answer:', -1);
      return walk(
        e.childNodes.filter((c) => c !== fold),
        look,
        { ...at, depth: Math.max(0, at.depth) },
      );
    }
    if (tag === 'ul' || tag === 'ol') return list(e, style, look, at);
    const block = BLOCK.test(tag);
    if (/^h[1-6]$/.test(tag)) {
      sheet.heading(Number(tag[1]));
      walk(e.childNodes, { ...look, strong: false }, at);
      return sheet.gap();
    }
    // a paragraph in a list item goes on behind its label
    const inItem = at.depth >= 0 && sheet.labelled;
    const apart = (): void => (tag === 'p' && at.depth < 0 ? sheet.gap() : sheet.newline());
    if (block && !inItem) apart();
    walk(e.childNodes, look, { ...at, pre: at.pre || tag === 'pre' });
    if (block) apart();
  };
  // a whole page, so that a body's own style is no stray text
  walk(parseFragment(html).childNodes, {}, { depth: -1, pre: false });
  return { ...sheet.finish(), picturesLost };
}
