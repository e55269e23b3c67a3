/** Building XML: a tiny tree, written with stable order and escaping. */
import { escapeXml } from '../item/richText.js';

/** Markup that is well-formed already, put in as it is. */
export class RawXml {
  constructor(readonly text: string) {}
}
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlChild[];
}
export type XmlChild = XmlElement | RawXml | string;
type Loose = XmlChild | null | undefined | false | Loose[];

/** An element; empty attributes (undefined) and empty children (null, false) are left out. */
export function el(name: string, attributes: Record<string, string | number | boolean | undefined> = {}, ...children: Loose[]): XmlElement {
  return {
    name,
    attributes: Object.fromEntries(Object.entries(attributes).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)]]))),
    children: (children as unknown[]).flat(Number.POSITIVE_INFINITY).filter((c) => c !== null && c !== undefined && c !== false) as XmlChild[],
  };
}

export interface Naming {
  element(name: string): string;
  attribute(name: string): string;
}
const asIs: Naming = { element: (n) => n, attribute: (n) => n };

// XML 1.0 has no way to hold these, not even escaped.
// biome-ignore lint/suspicious/noControlCharactersInRegex: the rule is about them
const FORBIDDEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;

/** An XML document, UTF-8, without a DTD. `naming` turns one vocabulary's names into another's. */
export function writeXml(root: XmlElement, naming: Naming = asIs): string {
  const parts: string[] = ['<?xml version="1.0" encoding="UTF-8"?>\n'];
  const write = (e: XmlElement, indent: string): void => {
    const name = naming.element(e.name);
    const attributes = Object.entries(e.attributes)
      .map(([k, v]) => ` ${naming.attribute(k)}="${escapeXml(v)}"`)
      .join('');
    if (!e.children.length) {
      parts.push(`${indent}<${name}${attributes}/>`);
      return;
    }
    parts.push(`${indent}<${name}${attributes}>`);
    // Space between elements is only added where no text stands, so that it can never become text.
    const mixed = e.children.some((c) => typeof c === 'string' || c instanceof RawXml);
    for (const c of e.children) {
      if (typeof c === 'string') parts.push(escapeXml(c));
      else if (c instanceof RawXml) parts.push(c.text);
      else if (mixed) write(c, '');
      else {
        parts.push('\n');
        write(c, `${indent}  `);
      }
    }
    parts.push(mixed ? `</${name}>` : `\n${indent}</${name}>`);
  };
  write(root, '');
  return `${parts.join('').replace(FORBIDDEN, '')}\n`;
}
