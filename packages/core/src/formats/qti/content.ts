/** The texts of QTI files as rich text: XHTML elements of 2.x and 3.0, and the HTML, plain text and pictures of 1.2. */
import { decodeHTML } from 'entities';
import { MathMLToLaTeX } from 'mathml-to-latex';
import { texOfMathML } from '../../item/mathml.js';
import { ALLOWED, DROPPED, escapeXml, isMarkup, RENAMED, richFromPlain, sanitiseRich, VOID } from '../../item/richText.js';
import { tidyRich } from '../../item/sameness.js';
import { descendants, markupOf, textOf, type XmlNode } from '../xmlTree.js';

/** What the reading of a text needs from the package around it. */
export interface Surroundings {
  /** A picture's address in the file as the item model names it (`asset:…`); null where it is not there. */
  picture(href: string): string | null;
  /** The file says truly what its texts are: nothing is guessed. */
  exact?: boolean;
}

/** A formula as TeX: from its own note of the TeX that it was made of, else converted. */
function tex(math: XmlNode): string {
  const note = descendants(math, 'annotation').find((a) => /tex/i.test(a.attributes['encoding'] ?? ''));
  const source = note ? textOf(note).trim() : MathMLToLaTeX.convert(markupOf(math)).trim();
  const block = math.attributes['display'] === 'block';
  return source ? escapeXml(block ? `\\[${source}\\]` : `\\(${source}\\)`) : '';
}

/** Elements that are read elsewhere or are no text of the question. */
const ELSEWHERE = new Set([
  'feedbackInline',
  'feedbackBlock',
  'modalFeedback',
  'rubricBlock',
  'stylesheet',
  'prompt',
  'templateBlock',
  'templateInline',
  'endAttemptInteraction',
  'catalogInfo',
]);
const BREAKING = new Set(['section', 'article', 'header', 'footer', 'aside', 'figure', 'figcaption', 'dl', 'dt', 'dd', 'address', 'hr']);

/** Gives the XHTML that stands for an element (a gap marker for an interaction), or undefined to read it as usual. */
export type Replace = (n: XmlNode) => string | undefined;

/** Elements of the XHTML part as rich text. */
export const richOf = (nodes: readonly (XmlNode | string)[], around: Surroundings, replace: Replace = () => undefined): string =>
  richOfXhtml(xhtmlOf(nodes, around, replace));

/** The same as XHTML, not yet tidied: to be put into other XHTML. */
export function xhtmlOf(nodes: readonly (XmlNode | string)[], around: Surroundings, replace: Replace = () => undefined): string {
  const write = (list: readonly (XmlNode | string)[]): string =>
    list
      .map((n) => {
        if (typeof n === 'string') return escapeXml(n);
        const other = replace(n);
        if (other !== undefined) return other;
        if (ELSEWHERE.has(n.name) || DROPPED.has(n.name)) return '';
        if (n.name === 'math') return tex(n);
        if (n.name === 'object' || n.name === 'img') return picture(n, around);
        const underlined = n.name === 'span' && /\bunderline\b/.test(`${n.attributes['class'] ?? ''} ${n.attributes['style'] ?? ''}`);
        const name = underlined ? 'u' : (RENAMED[n.name] ?? (BREAKING.has(n.name) ? 'p' : n.name));
        const allowed = Object.hasOwn(ALLOWED, name) ? ALLOWED[name] : undefined;
        const inside = write(n.children);
        // a division around blocks is only a frame; around text it is a paragraph
        if (!allowed || (name === 'p' && n.name !== 'p' && /<(p|ul|ol|table|pre|blockquote)\b/.test(inside))) return inside;
        const attributes = allowed.flatMap((a) => {
          const v = n.attributes[a];
          return v === undefined || ((a === 'href' || a === 'src') && !/^(https?:|mailto:)/i.test(v)) ? [] : [` ${a}="${escapeXml(v)}"`];
        });
        if (name === 'span' && !attributes.length) return inside;
        return VOID.has(name) ? `<${name}${attributes.join('')}/>` : `<${name}${attributes.join('')}>${inside}</${name}>`;
      })
      .join('');
  return write(nodes);
}

/** XHTML that may hold no tag at all: then it is text whose signs are escaped, which rich text would take literally. */
const asRich = (xhtml: string): string => (isMarkup(xhtml) ? xhtml : `<p>${xhtml}</p>`);
/** XHTML of `xhtmlOf` as rich text. */
export const richOfXhtml = (xhtml: string): string =>
  // most of it is words only
  /[<&\u0000]/.test(xhtml) ? tidyRich(asRich(xhtml)) : xhtml.replace(/[ \t\n\r\f]+/g, ' ').trim();

function picture(n: XmlNode, around: Surroundings): string {
  const src = around.picture(n.attributes['src'] ?? n.attributes['data'] ?? '');
  const alt = n.attributes['alt'] ?? textOf(n).trim();
  if (!src) return escapeXml(alt);
  const size = ['width', 'height'].flatMap((k) => (/^\d+$/.test(n.attributes[k] ?? '') ? [` ${k}="${n.attributes[k]}"`] : []));
  return `<img src="${src}" alt="${escapeXml(alt)}"${size.join('')}/>`;
}

const IMAGE = /(<img\b(?:[^<>"']|"[^"]*"|'[^']*')*?\ssrc\s*=\s*)("[^"]*"|'[^']*')/gi;
const TEX_IMAGE = /<img\b(?:[^<>"']|"[^"]*"|'[^']*')*?\sdata-equation-content\s*=\s*"([^"]*)"(?:[^<>"']|"[^"]*"|'[^']*')*>/gi;
const MATH = /<math\b(?:(?!<\/?math\b)[\s\S])*<\/math>/gi;
/** Tags that were escaped once more than the file needs: they show as text after one unescaping. */
const ESCAPED_TAG = /^[^<]*&lt;\/?(p|div|span|br|strong|em|b|i|u|ul|ol|table|img|sub|sup|h\d)\b[^<&]*&gt;/i;

/** HTML as rich text, also where it was escaped twice. */
export function richOfHtml(html: string, around: Surroundings): string {
  let text = html.trim();
  for (let i = 0; i < 2 && !around.exact && ESCAPED_TAG.test(text); i++) text = decodeHTML(text);
  text = text
    .replace(TEX_IMAGE, (_, t: string) => `\\(${t}\\)`)
    .replace(IMAGE, (_, head: string, quoted: string) => `${head}"${around.picture(decodeHTML(quoted.slice(1, -1))) ?? ''}"`)
    .replace(MATH, (m) => {
      const converted = texOfMathML(m);
      return converted ? escapeXml(`\\(${converted}\\)`) : '';
    });
  if (!isMarkup(text)) return richFromPlain(decodeHTML(text).replace(/\s+/g, ' ').trim());
  return tidyRich(sanitiseRich(around.exact ? text : text.replace(/\u00a0|&nbsp;/g, ' ')));
}
/** Texts of the material of QTI 1.2: what stands below an element in `mattext` and its like, one after another. */
export function richOfMaterial(n: XmlNode, around: Surroundings): string {
  const parts: string[] = [];
  const walk = (e: XmlNode): void => {
    switch (e.name) {
      case 'mattext':
      case 'matemtext':
      case 'mat_formattedtext': {
        const raw = e.children.some((c) => typeof c !== 'string')
          ? e.children.map((c) => (typeof c === 'string' ? escapeXml(c) : markupOf(c))).join('')
          : textOf(e);
        const type = (e.attributes['texttype'] ?? e.attributes['type'] ?? '').toLowerCase();
        const html =
          /html/.test(type) || (!around.exact && (isMarkup(raw) || ESCAPED_TAG.test(raw) || (type !== 'text/plain' && /&(nbsp|[a-z]+;|#\d+;)/i.test(raw))));
        const said = html ? richOfHtml(raw, around) : richFromPlain(raw.replace(/\s+/g, ' '));
        parts.push(e.name === 'matemtext' && said ? `<em>${said}</em>` : said);
        return;
      }
      case 'matimage': {
        // a picture may stand in the file itself, in base64 (QTI 1.2, matimage, attribute `embedded`)
        const inside = textOf(e).trim();
        const own = !e.attributes['uri'] && inside ? `data:${e.attributes['imagtype'] ?? e.attributes['imagetype'] ?? 'image/png'};base64,${inside}` : '';
        const src = around.picture(own || (e.attributes['uri'] ?? ''));
        if (src) parts.push(`<img src="${src}" alt="${escapeXml(e.attributes['label'] ?? e.attributes['alt'] ?? '')}"/>`);
        return;
      }
      case 'matbreak':
        parts.push('<br/>');
        return;
      default:
        for (const c of e.children) if (typeof c !== 'string') walk(c);
    }
  };
  walk(n);
  return joinRich(parts);
}

const BLOCK = /^<(p|ul|ol|table|pre|blockquote)\b/;
/** Rich texts one after another: with blocks among them each is a block of its own, else they stand in one line. */
export function joinRich(parts: readonly string[], between = ''): string {
  const said = parts.filter((p) => p.trim());
  if (said.length < 2) return tidyRich(said[0] ?? '');
  if (said.some((p) => BLOCK.test(p))) return tidyRich(said.map((p) => (BLOCK.test(p) ? p : `<p>${isMarkup(p) ? p : escapeXml(p)}</p>`)).join(''));
  if (said.some((p) => isMarkup(p))) return tidyRich(said.map((p) => (isMarkup(p) ? p : escapeXml(p))).join(between));
  return tidyRich(said.join(between));
}
