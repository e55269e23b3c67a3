/** Building XML: a tiny tree, written with stable order and escaping. */
import { escapeXml } from '../item/richText.js';

/** Markup that is well-formed already, put in as it is. */
export class RawXml {
  constructor(readonly text: string) {}
}
/** An element to be written. */
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlChild[];
}
/** What can stand in an element: elements, XML that is written as it is, text that is escaped. */
export type XmlChild = XmlElement | RawXml | string;
type Loose = XmlChild | null | undefined | false | Loose[];

/** An element; empty attributes (undefined) and empty children (null, false) are left out. */
export function el(name: string, attributes: Record<string, string | number | boolean | undefined> = {}, ...children: Loose[]): XmlElement {
  const own: Record<string, string> = {};
  for (const key in attributes) {
    const value = attributes[key];
    if (value !== undefined) own[key] = typeof value === 'string' ? value : String(value);
  }
  const list: XmlChild[] = [];
  gather(children, list);
  return { name, attributes: own, children: list };
}
function gather(from: readonly Loose[], into: XmlChild[]): void {
  for (const c of from) {
    if (Array.isArray(c)) gather(c, into);
    else if (c !== null && c !== undefined && c !== false) into.push(c);
  }
}

/** How names of elements and attributes are written: QTI 3 writes them with dashes. */
export interface Naming {
  element(name: string): string;
  attribute(name: string): string;
}
const asIs: Naming = { element: (n) => n, attribute: (n) => n };

// XML 1.0 has no way to hold these, not even escaped.
// biome-ignore lint/suspicious/noControlCharactersInRegex: the rule is about them
const FORBIDDEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
// biome-ignore lint/suspicious/noControlCharactersInRegex: as above
const SPECIAL = /[&<>"\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;
const allowed = (text: string): string => text.replace(FORBIDDEN, '');
const escaped = (text: string): string => (SPECIAL.test(text) ? escapeXml(allowed(text)) : text);

/** An XML document, UTF-8, without a DTD. `naming` turns one vocabulary's names into another's. */
export function writeXml(root: XmlElement, naming: Naming = asIs): string {
  let out = '<?xml version="1.0" encoding="UTF-8"?>\n';
  const write = (e: XmlElement, indent: string): void => {
    const name = naming.element(e.name);
    out += `${indent}<${name}`;
    for (const key in e.attributes) out += ` ${naming.attribute(key)}="${escaped(e.attributes[key] ?? '')}"`;
    if (!e.children.length) {
      out += '/>';
      return;
    }
    out += '>';
    // Space between elements is only added where no text stands, so that it can never become text.
    const mixed = e.children.some((c) => typeof c === 'string' || c instanceof RawXml);
    for (const c of e.children) {
      if (typeof c === 'string') out += escaped(c);
      else if (c instanceof RawXml) out += allowed(c.text);
      else if (mixed) write(c, '');
      else {
        out += '\n';
        write(c, `${indent}  `);
      }
    }
    out += mixed ? `</${name}>` : `\n${indent}</${name}>`;
  };
  write(root, '');
  return `${out}\n`;
}
