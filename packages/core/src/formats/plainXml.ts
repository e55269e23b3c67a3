/**
 * Plain XML, which nearly every file is, in one quick pass: elements, attributes, text, comments, CDATA, entities that need no declaration.
 * What is anything else, or wrong in any way, is left to the full parser, which is an order slower and knows what to say of it.
 */
import { elementOf, ENTITIES, MAX_DEPTH, type XmlNode } from './xmlNode.js';

const DECLARATION =
  /^<\?xml[ \t\n]+version[ \t\n]*=[ \t\n]*(["'])1\.0\1(?:[ \t\n]+encoding[ \t\n]*=[ \t\n]*(["'])[A-Za-z][\w.-]*\2)?(?:[ \t\n]+standalone[ \t\n]*=[ \t\n]*(["'])(?:yes|no)\3)?[ \t\n]*\?>/;
// pairs of surrogates are not looked into: a file with such signs goes the long way
const UNUSUAL = /[^\t\n\x20-\uD7FF\uE000-\uFFFD]/;
const SLASH = 0x2f;
const BANG = 0x21;
const CLOSE = 0x3e;
const LINE_END = 0x0a;
const SPACE = 0x20;
/** A new line and its indent, which is most of the text in an indented file: one string for each depth, made once. */
const INDENTS = Array.from({ length: 64 }, (_, depth) => `\n${' '.repeat(depth)}`);
const TAG = /[A-Za-z_][\w:.-]*/y;
const ATTRIBUTE = /[ \t\n]+([A-Za-z_][\w:.-]*)[ \t\n]*=[ \t\n]*(?:"([^"<\t\n]*)"|'([^'<\t\n]*)')/y;
const TAG_END = /[ \t\n]*\/?>/y;
const CLOSE_END = /[ \t\n]*>/y;

/** A sign of XML 1.0 (production 2) by its number, else undefined. */
function charOf(code: number): string | undefined {
  const allowed =
    code === 9 || code === 10 || code === 13 || (code >= 32 && code <= 0xd7ff) || (code >= 0xe000 && code <= 0xfffd) || (code >= 0x10000 && code <= 0x10ffff);
  return allowed ? String.fromCodePoint(code) : undefined;
}
const REFERENCE = /&(?:#x([0-9a-fA-F]+)|#([0-9]+)|([A-Za-z][A-Za-z0-9]*));|&/g;
/** Text with its references replaced; null where one is not understood. */
function resolved(text: string): string | null {
  if (!text.includes('&')) return text;
  let understood = true;
  const out = text.replace(REFERENCE, (_, hex?: string, decimal?: string, name?: string) => {
    const meant = hex ? charOf(Number.parseInt(hex, 16)) : decimal ? charOf(Number.parseInt(decimal, 10)) : name ? ENTITIES[name] : undefined;
    if (meant === undefined) understood = false;
    return meant ?? '';
  });
  return understood ? out : null;
}

/**
 * Reads plain XML.
 * @returns its element, or null where the full parser has to look: at anything but elements, text, comments and CDATA, and at all that is not well-formed
 */
export function plainXml(source: string): XmlNode | null {
  let text = source.charCodeAt(0) === 0xfeff ? source.slice(1) : source;
  if (text.includes('\r')) text = text.replace(/\r\n?/g, '\n');
  if (UNUSUAL.test(text)) return null;
  const open: { tag: string; node: XmlNode }[] = [];
  let inside: XmlNode | null = null;
  let root: XmlNode | null = null;
  let at = DECLARATION.exec(text)?.[0].length ?? 0;
  let line = 1;
  let counted = 0;
  const lineAt = (place: number): number => {
    for (let n = text.indexOf('\n', counted); n >= 0 && n < place; n = text.indexOf('\n', counted)) {
      line++;
      counted = n + 1;
    }
    return line;
  };
  const put = (piece: string): void => {
    if (!inside) return;
    const last = inside.children.length - 1;
    if (typeof inside.children[last] === 'string') inside.children[last] += piece;
    else inside.children.push(piece);
  };
  /** The indent that is all that stands up to a place; undefined where it is more, or deeper. */
  const indentTo = (to: number): string | undefined => {
    if (text.charCodeAt(at) !== LINE_END || to - at > INDENTS.length) return undefined;
    for (let i = at + 1; i < to; i++) if (text.charCodeAt(i) !== SPACE) return undefined;
    return INDENTS[to - at - 1];
  };
  const ends = (pattern: RegExp): number => {
    pattern.lastIndex = at;
    return pattern.test(text) ? pattern.lastIndex : -1;
  };
  /** Where a tag ends: most have nothing before their bracket. */
  const closes = (pattern: RegExp): number => (text.charCodeAt(at) === CLOSE ? at + 1 : ends(pattern));

  while (at < text.length) {
    const mark = text.indexOf('<', at);
    if (mark !== at) {
      const indent = indentTo(mark);
      if (indent !== undefined) put(indent);
      else {
        const raw = text.slice(at, mark < 0 ? text.length : mark);
        if (inside ? raw.includes(']]>') : /[^ \t\n]/.test(raw)) return null;
        const piece = resolved(raw);
        if (piece === null) return null;
        put(piece);
      }
      if (mark < 0) break;
      at = mark;
    }
    const next = text.charCodeAt(at + 1);
    if (next === SLASH) {
      const top = open.pop();
      if (!top || !text.startsWith(top.tag, at + 2)) return null;
      at += 2 + top.tag.length;
      at = closes(CLOSE_END);
      if (at < 0) return null;
      inside = open[open.length - 1]?.node ?? null;
    } else if (next === BANG) {
      const comment = text.startsWith('<!--', at);
      if (!comment && !(inside && text.startsWith('<![CDATA[', at))) return null;
      const from = at + (comment ? 4 : 9);
      const to = text.indexOf(comment ? '--' : ']]>', from);
      const held = text.slice(from, to);
      if (to < 0 || held.includes('<!') || (comment && text[to + 2] !== '>')) return null;
      if (!comment && held) put(held);
      at = to + 3;
    } else {
      if ((root && !inside) || open.length >= MAX_DEPTH) return null;
      at++;
      const from = at;
      at = ends(TAG);
      if (at < 0) return null;
      const tag = text.slice(from, at);
      const { node, attribute } = elementOf(tag, 0);
      let spaces = '';
      // most have no attribute and end at once
      while (text.charCodeAt(at) !== CLOSE) {
        ATTRIBUTE.lastIndex = at;
        const found = ATTRIBUTE.exec(text);
        if (!found) break;
        at = ATTRIBUTE.lastIndex;
        const value = resolved(found[2] ?? found[3] ?? '');
        const key = found[1] ?? '';
        const name = attribute(key);
        if (value === null || node.attributes[name] !== undefined || spaces.includes(` ${key} `)) return null;
        if (name) node.attributes[name] = value;
        else spaces += ` ${key} `;
      }
      at = closes(TAG_END);
      if (at < 0) return null;
      node.line = lineAt(at);
      if (inside) inside.children.push(node);
      else root = node;
      if (text.charCodeAt(at - 2) !== SLASH) {
        open.push({ tag, node });
        inside = node;
      }
    }
  }
  return open.length ? null : root;
}
