/** Rich text that has to be parsed: made plain, or reduced to what is allowed. */
import { type DefaultTreeAdapterMap, parseFragment } from 'parse5';
import { escapeXml, isMarkup } from './markup.js';
import { stripEnd } from './strip.js';

export * from './markup.js';

/** Elements that rich text may hold, with their attributes. */
export const ALLOWED: Record<string, readonly string[]> = {
  p: [],
  br: [],
  strong: [],
  em: [],
  u: [],
  sub: [],
  sup: [],
  code: [],
  pre: [],
  ul: [],
  ol: ['start'],
  li: [],
  table: [],
  thead: [],
  tbody: [],
  tr: [],
  td: ['colspan', 'rowspan'],
  th: ['colspan', 'rowspan', 'scope'],
  caption: [],
  img: ['src', 'alt', 'width', 'height'],
  a: ['href'],
  span: ['lang', 'dir'],
  blockquote: [],
  math: ['display'],
  mi: [],
  mn: [],
  mo: [],
  mrow: [],
  msup: [],
  msub: [],
  msubsup: [],
  mfrac: [],
  msqrt: [],
  mroot: [],
  mtext: [],
  mover: [],
  munder: [],
  munderover: [],
  mtable: [],
  mtr: [],
  mtd: [],
  mspace: [],
  mstyle: [],
  semantics: [],
};
/** Elements that come in under other names. */
export const RENAMED: Record<string, string> = { b: 'strong', i: 'em', h1: 'p', h2: 'p', h3: 'p', h4: 'p', h5: 'p', h6: 'p', div: 'p' };
/** Elements whose text is no text for people. */
export const DROPPED = new Set(['script', 'style', 'template', 'iframe', 'object', 'embed', 'noscript', 'title', 'annotation', 'annotation-xml']);
/** Elements without an end (HTML, 13.1.2). */
export const VOID = new Set(['br', 'img', 'mspace']);
const BLOCK = /^(p|br|pre|ul|ol|li|table|tr|blockquote|caption)$/;

type Node = DefaultTreeAdapterMap['childNode'];

/** The words of a rich text without markup; blocks are parted by line breaks, pictures give their alternative text. */
export function richToPlain(rich: string): string {
  if (!isMarkup(rich)) return rich;
  let out = '';
  const walk = (nodes: readonly Node[]): void => {
    for (const n of nodes) {
      if ('value' in n) out += n.value;
      else if ('tagName' in n) {
        const block = BLOCK.test(n.tagName);
        if (block && out && !out.endsWith('\n')) out += '\n';
        if (n.tagName === 'img') out += n.attrs.find((a) => a.name === 'alt')?.value ?? '';
        if (DROPPED.has(n.tagName)) continue;
        walk(n.childNodes);
        if (block && !out.endsWith('\n')) out += '\n';
        else if (/^t[dh]$/.test(n.tagName)) out += '\t';
      }
    }
  };
  walk(parseFragment(rich).childNodes);
  return out
    .split('\n')
    .map((line) => stripEnd(line, /[\t ]/))
    .join('\n')
    .trim();
}

const safeUrl = (name: string, value: string): boolean =>
  name === 'src' ? /^(asset:[0-9a-f]{64}|data:image\/(png|jpeg|gif|webp);base64,[A-Za-z0-9+/=]+)$/.test(value) : /^(https?:|mailto:)/i.test(value);

/**
 * A fragment reduced to the allowed elements and attributes, as well-formed XHTML. Elements that are not allowed give
 * their content; scripts, styles and frames vanish whole. Plain text comes back unchanged.
 */
export function sanitiseRich(rich: string): string {
  if (!rich.includes('<') || !/<[a-z!/?]/i.test(rich)) return rich;
  if (!isMarkup(rich) && !/<(script|style|iframe|object|embed|svg|form|input|video|audio|link|meta)\b/i.test(rich)) return rich;
  const write = (nodes: readonly Node[], depth: number): string => {
    if (depth > 60) return '';
    let out = '';
    for (const n of nodes) {
      if ('value' in n) out += escapeXml(n.value);
      else if ('tagName' in n) {
        if (DROPPED.has(n.tagName)) continue;
        const name = RENAMED[n.tagName] ?? n.tagName;
        const allowed = Object.hasOwn(ALLOWED, name) ? ALLOWED[name] : undefined;
        const inside = write(n.childNodes, depth + 1);
        if (!allowed) {
          out += inside;
          continue;
        }
        const attrs = n.attrs
          .filter((a) => allowed.includes(a.name) && (!/^(src|href)$/.test(a.name) || safeUrl(a.name, a.value)))
          .map((a) => ` ${a.name}="${escapeXml(a.value)}"`)
          .join('');
        if (name === 'img' && !attrs.includes(' src=')) continue;
        out += VOID.has(name) ? `<${name}${attrs}/>` : `<${name}${attrs}>${inside}</${name}>`;
      }
    }
    return out;
  };
  return write(parseFragment(rich).childNodes, 0);
}

/** The words of a rich text in one line: no markup, blanks and line ends as single blanks. */
export const plainOf = (rich: string): string => richToPlain(rich).replace(/\s+/g, ' ').trim();
