/**
 * Reads XML as it is found in the field into a small tree: any encoding, undeclared entities, errors that a strict parser would
 * stop at. Never a DTD, never an external entity, bounded depth.
 */
import { SaxesParser } from 'saxes';
import { ReadError } from '../item/readError.js';
import { escapeXml } from '../item/richText.js';
import { decodeText } from './encoding.js';
import { plainXml } from './plainXml.js';
import { elementOf, ENTITIES, MAX_DEPTH, withoutPrefix, type XmlNode } from './xmlNode.js';

export type { XmlNode };

/** A document that was read, with what was not well-formed in it. */
export interface XmlFile {
  root: XmlNode;
  /** What is wrong with the file although it could be read. */
  problems: { line: number; message: string }[];
}

const MAX_PROBLEMS = 20;

/** Whether bytes begin like XML, in whatever encoding. */
export const looksLikeXml = (bytes: Uint8Array): boolean =>
  // the signs asked for are the same in every encoding of single bytes; a mark of UTF-8 shows as its three
  /^(?:\u00ef\u00bb\u00bf)?[\s\uFEFF]*<(\?xml|!DOCTYPE|!--|[A-Za-z])/.test(decodeText(bytes.subarray(0, 400), 'iso-8859-1'));

const latin1 = new TextDecoder('latin1');
/** The text of an XML file by its byte-order mark, else by the encoding that it declares. */
export function decodeXml(bytes: Uint8Array): string {
  const declared = /^[^<]{0,4}<\?xml[^>]*\bencoding\s*=\s*["']([\w.:-]+)["']/i.exec(latin1.decode(bytes.subarray(0, 200)))?.[1]?.toLowerCase();
  return decodeText(bytes, declared);
}

/** What is told of a document while it is read; names without prefix. */
export interface XmlEvents {
  open(name: string, attributes: Record<string, string>, line: number): void;
  close(name: string): void;
  text(text: string): void;
}

/**
 * Reads XML piece by piece, for what is too large to hold as a tree.
 * @returns what is wrong with it although it could be read
 * @throws ReadError where it defines entities or nests deeper than 200 levels; what an event throws
 */
export function walkXml(text: string, events: XmlEvents): XmlFile['problems'] {
  if (/<!ENTITY/i.test(text.slice(0, 20_000)))
    throw new ReadError('this XML defines entities of its own, which are not read for safety; export it again without a DTD');
  const parser = new SaxesParser({ position: true });
  (parser as unknown as { ENTITIES: Record<string, string> }).ENTITIES = ENTITIES;
  const problems: XmlFile['problems'] = [];
  let depth = 0;
  let gaveUp: unknown;
  // the parser goes on behind what an event throws; the first of it counts
  const told =
    <T>(event: (of: T) => void): ((of: T) => void) =>
    (of) => {
      if (gaveUp) throw gaveUp;
      try {
        event(of);
      } catch (e) {
        gaveUp = e;
        throw e;
      }
    };
  parser.on('error', (e) => {
    if (problems.length < MAX_PROBLEMS) problems.push({ line: parser.line, message: e.message.replace(/^(?:[^:]*:)?\d+:\d+:\s*/, '') });
  });
  parser.on(
    'opentag',
    told((tag) => {
      if (++depth > MAX_DEPTH) throw new ReadError(`line ${parser.line}: elements are nested more than ${MAX_DEPTH} deep`);
      const { node, attribute } = elementOf(tag.name, parser.line);
      for (const key in tag.attributes) {
        const name = attribute(key);
        if (name) node.attributes[name] = tag.attributes[key] as string;
      }
      events.open(node.name, node.attributes, parser.line);
    }),
  );
  parser.on(
    'closetag',
    told((tag) => {
      depth--;
      events.close(withoutPrefix(tag.name));
    }),
  );
  const inText = told((t: string) => events.text(t));
  parser.on('text', inText);
  parser.on('cdata', inText);
  try {
    parser.write(text.replace(/^\uFEFF/, '')).close();
  } catch (e) {
    if (gaveUp) throw gaveUp;
    // the parser stops only where it cannot go on, as at the end of a file cut short
    problems.push({ line: parser.line, message: (e as Error).message });
  }
  return problems;
}

/**
 * Reads XML.
 * @throws ReadError where it holds no element, defines entities, or nests deeper than 200 levels
 */
export function readXml(text: string): XmlFile {
  const plain = plainXml(text);
  return plain ? { root: plain, problems: [] } : readAnyXml(text);
}

/** Reads XML with the full parser, that goes on behind what is wrong. @throws as `readXml` */
export function readAnyXml(text: string): XmlFile {
  let root: XmlNode | null = null;
  const open: XmlNode[] = [];
  const problems = walkXml(text, {
    open(name, attributes, line) {
      const node: XmlNode = { name, attributes, children: [], line };
      const parent = open[open.length - 1];
      if (parent) parent.children.push(node);
      else root ??= node;
      open.push(node);
    },
    close: () => void open.pop(),
    text(t) {
      const parent = open[open.length - 1];
      if (!parent) return;
      const last = parent.children.length - 1;
      if (typeof parent.children[last] === 'string') parent.children[last] += t;
      else parent.children.push(t);
    },
  });
  if (!root) throw new ReadError('there is no element in this XML');
  return { root, problems };
}

const isElement = (c: XmlNode | string): c is XmlNode => typeof c !== 'string';
/** Child elements, of one name or all. */
export function childrenOf(n: XmlNode, name?: string): readonly XmlNode[] {
  if (name) return n.children.filter((c): c is XmlNode => isElement(c) && c.name === name);
  return n.children.every(isElement) ? n.children : n.children.filter(isElement);
}
/** The first child element of a name. */
export const childOf = (n: XmlNode, name: string): XmlNode | undefined => n.children.find((c): c is XmlNode => isElement(c) && c.name === name);
/** An element without the text between elements, at every depth: for what has its meaning in elements alone and is gone through often. */
export function withoutTextBetween(n: XmlNode): XmlNode {
  const inner = childrenOf(n);
  return inner.length ? { ...n, children: inner.map(withoutTextBetween) } : n;
}
/** All text inside. */
export const textOf = (n: XmlNode): string => n.children.map((c) => (typeof c === 'string' ? c : textOf(c))).join('');
/** Every element inside, in document order, of one of the names; those inside a found one too. */
export function descendants(n: XmlNode, ...names: string[]): XmlNode[] {
  const out: XmlNode[] = [];
  const walk = (e: XmlNode): void => {
    for (const c of e.children) {
      if (typeof c === 'string') continue;
      if (!names.length || names.includes(c.name)) out.push(c);
      walk(c);
    }
  };
  walk(n);
  return out;
}

/** An element as XML again, without prefixes. */
export const markupOf = (n: XmlNode): string =>
  `<${n.name}${Object.entries(n.attributes)
    .map(([k, v]) => ` ${k}="${escapeXml(v)}"`)
    .join('')}>${n.children.map((c) => (typeof c === 'string' ? escapeXml(c) : markupOf(c))).join('')}</${n.name}>`;
