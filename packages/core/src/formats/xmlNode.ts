/** An element of XML as the readers of formats see it: names without prefixes, those of QTI 3.0 as 2.1 has them. */
import { decodeHTMLStrict } from 'entities';
import { remembered } from '../language/remembered.js';

/** An element that was read, with the line that it starts on. */
export interface XmlNode {
  /** Without prefix. */
  name: string;
  /** Without prefixes, but `xml:lang` is `lang`. */
  attributes: Record<string, string>;
  children: (XmlNode | string)[];
  /** 1-based, where the element begins. */
  line: number;
}

/** Elements may stand in one another so deep, no deeper. */
export const MAX_DEPTH = 200;

/** What entities stand for: XML's own, and HTML's, which exporters use without declaring them. */
export const ENTITIES = new Proxy<Record<string, string>>(
  { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" },
  {
    get(own, name) {
      if (typeof name !== 'string') return undefined;
      if (Object.hasOwn(own, name)) return own[name];
      const text = `&${name};`;
      const decoded = /^[A-Za-z][A-Za-z0-9]{1,30}$/.test(name) ? decodeHTMLStrict(text) : text;
      return decoded === text ? undefined : decoded;
    },
  },
);

/** A name without its prefix. */
export const withoutPrefix = (name: string): string => name.slice(name.indexOf(':') + 1);
const camel = (kebab: string): string => kebab.replace(/-([a-z0-9])/g, (_, c: string) => c.toUpperCase());

type Names = (name: string) => string;
// a file has the same few names again and again
const plainName = remembered((name) => (name.startsWith('xmlns') ? '' : withoutPrefix(name)));
const nameOfThree = remembered((name) => {
  const local = plainName(name);
  return local.includes('-') && !/^(data|aria)-/.test(local) ? camel(local) : local;
});
const namesOf = remembered((tag): { element: string; attribute: Names } => {
  const local = withoutPrefix(tag);
  return local.startsWith('qti-') ? { element: camel(local.slice(4)), attribute: nameOfThree } : { element: local, attribute: plainName };
});

/**
 * An element by its tag, still empty. The names of QTI 3.0 are those of 2.1 in kebab case with `qti-` before them: both are read as 2.1's.
 * @returns with it how its attributes are called here; '' for one that declares a name space
 */
export function elementOf(tag: string, line: number): { node: XmlNode; attribute: Names } {
  const { element, attribute } = namesOf(tag);
  return { node: { name: element, attributes: {}, children: [], line }, attribute };
}
