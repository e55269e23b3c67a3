/**
 * Translations out and back as XLIFF 1.2 (OASIS Standard, 1 February 2008) and 2.1 (OASIS Standard, 13 February 2018; its core has the
 * namespace and schema of 2.0). Units have ids that stay, markup goes as inline codes; keys and structure do not go along.
 */
import type { QuizSet } from '../item/model.js';
import { ReadError } from '../item/readError.js';
import { el, type XmlChild, writeXml } from '../formats/xml.js';
import { decodeXml, readXml, type XmlNode } from '../formats/xmlTree.js';
import type { ReturnedFile, ReturnedUnit } from './take.js';
import { type Piece, piecesOf, type Returned } from './inline.js';
import { stateOf, type Unit, type UnitState, unitsOf } from './units.js';

/** The versions that are written. */
export const xliffVersions = ['1.2', '2.1'] as const;
/** A version of XLIFF. */
export type XliffVersion = (typeof xliffVersions)[number];

const CTYPE: Readonly<Record<string, string>> = { strong: 'bold', em: 'italic', u: 'underlined', a: 'link', br: 'lb', image: 'image' };
const SUBTYPE: Readonly<Record<string, string>> = { strong: 'xlf:b', em: 'xlf:i', u: 'xlf:u' };

// the empty text keeps codes that stand next to each other from being indented: blanks are words here
const inline12 = (pieces: readonly Piece[]): XmlChild[] => [
  '',
  ...pieces.map((p) => {
    if (typeof p === 'string') return p;
    const ctype = CTYPE[p.name] ?? `x-${p.name}`;
    return 'children' in p ? el('g', { id: p.id, ctype }, inline12(p.children)) : el('x', { id: p.id, ctype, 'equiv-text': p.shown });
  }),
];
const inline21 = (pieces: readonly Piece[]): XmlChild[] => [
  '',
  ...pieces.map((p) => {
    if (typeof p === 'string') return p;
    const fixed = { canCopy: 'no', canDelete: 'no' };
    if (!('children' in p))
      return p.name === 'br'
        ? el('ph', { id: p.id, ...fixed, type: 'fmt', subType: 'xlf:lb' })
        : el('ph', { id: p.id, ...fixed, type: p.name === 'image' ? 'image' : 'other', disp: p.shown, equiv: p.shown });
    const subType = SUBTYPE[p.name];
    return el('pc', { id: p.id, ...fixed, type: p.name === 'a' ? 'link' : 'fmt', ...(subType && { subType }) }, inline21(p.children));
  }),
];

const STATE_12: Readonly<Record<Exclude<UnitState, 'missing'>, string>> = { made: 'translated', checked: 'final', stale: 'needs-review-translation' };
const STATE_21: Readonly<Record<Exclude<UnitState, 'missing'>, string>> = { made: 'translated', checked: 'final', stale: 'initial' };

/**
 * Writes a set's texts for translators, with the translations that there are.
 * @param language of the translations, BCP 47
 */
export function writeXliff(set: QuizSet, language: string, version: XliffVersion): string {
  const source = set.language ?? 'en';
  const own = set.translations?.[language] ?? {};
  const units = unitsOf(set).map((unit) => ({ unit, t: own[unit.id], state: stateOf(unit, own[unit.id]) }));
  // the codes of a stale translation are those of an original that is gone: it goes along in words only where none is needed
  const target = (u: Unit, text: string): Piece[] => (u.rich ? piecesOf(text) : [text]);
  if (version === '1.2') {
    const body = units.map(({ unit, t, state }) =>
      el(
        'trans-unit',
        { id: unit.id, resname: unit.name, approved: state === 'checked' ? 'yes' : 'no', 'xml:space': 'preserve' },
        el('source', { 'xml:lang': source }, inline12(unit.rich ? piecesOf(unit.text) : [unit.text])),
        t && state !== 'missing' && el('target', { 'xml:lang': language, state: STATE_12[state] }, inline12(target(unit, t.text))),
        el('note', { from: 'zakuska' }, unit.name),
      ),
    );
    return writeXml(
      el(
        'xliff',
        { version: '1.2', xmlns: 'urn:oasis:names:tc:xliff:document:1.2' },
        el('file', { original: set.title || 'set', 'source-language': source, 'target-language': language, datatype: 'html' }, el('body', {}, body)),
      ),
    );
  }
  const file = units.map(({ unit, t, state }) =>
    el(
      'unit',
      { id: unit.id, name: unit.name, 'xml:space': 'preserve' },
      el('notes', {}, el('note', { category: 'where' }, unit.name)),
      el(
        'segment',
        { state: state === 'missing' ? 'initial' : STATE_21[state], subState: state === 'stale' ? 'zakuska:stale' : undefined },
        el('source', {}, inline21(unit.rich ? piecesOf(unit.text) : [unit.text])),
        t && el('target', {}, inline21(target(unit, t.text))),
      ),
    ),
  );
  return writeXml(
    el(
      'xliff',
      { xmlns: 'urn:oasis:names:tc:xliff:document:2.0', version: '2.1', srcLang: source, trgLang: language },
      el('file', { id: 'set', original: set.title || 'set' }, file),
    ),
  );
}

/** Inline content as words and codes: pairs of codes may come as one element, or as two that name each other. */
function returned(node: XmlNode): Returned[] {
  const top: Returned[] = [];
  const open: { id: string; children: Returned[] }[] = [];
  const add = (r: Returned): void => void (open.at(-1)?.children ?? top).push(r);
  const walk = (children: XmlNode['children']): void => {
    for (const c of children) {
      if (typeof c === 'string') {
        if (c) add(c);
        continue;
      }
      const { name, attributes: a } = c;
      const id = a['id'] ?? '';
      if (name === 'g' || name === 'pc') {
        const pair = { id, children: [] };
        add(pair);
        open.push(pair);
        walk(c.children);
        open.splice(open.indexOf(pair));
      } else if (name === 'bx' || name === 'bpt' || name === 'sc') {
        const pair = { id: a['rid'] ?? id, children: [] };
        add(pair);
        open.push(pair);
      } else if (name === 'ex' || name === 'ept' || name === 'ec') {
        const of = a['startRef'] ?? a['rid'] ?? id;
        const at = open.findLastIndex((o) => o.id === of);
        if (at >= 0) open.splice(at);
      } else if (name === 'x' || name === 'ph' || name === 'it') add({ id });
      else if (name === 'cp') add(String.fromCodePoint(Math.min(0x10ffff, Number.parseInt(a['hex'] ?? 'fffd', 16) || 0xfffd)));
      // marks of a translator's tool around words
      else if (name !== 'sm' && name !== 'em') walk(c.children);
    }
  };
  walk(node.children);
  return top;
}
const child = (n: XmlNode, name: string): XmlNode | undefined => n.children.find((c): c is XmlNode => typeof c !== 'string' && c.name === name);
function* all(n: XmlNode, name: string): Generator<XmlNode> {
  for (const c of n.children) {
    if (typeof c === 'string') continue;
    if (c.name === name) yield c;
    else yield* all(c, name);
  }
}

/** Reads XLIFF 1.x or 2.x, of whatever tool. @throws ReadError where it is none */
export function readXliff(bytes: Uint8Array): ReturnedFile {
  const { root } = readXml(decodeXml(bytes));
  if (root.name !== 'xliff') throw new ReadError('not an XLIFF file: its first element is not "xliff"');
  const two = (root.attributes['version'] ?? '').startsWith('2') || root.attributes['trgLang'] !== undefined;
  const units: ReturnedUnit[] = [];
  if (two) {
    for (const u of all(root, 'unit')) {
      const source: Returned[] = [];
      const target: Returned[] = [];
      let checked = true;
      let segments = 0;
      for (const s of u.children) {
        if (typeof s === 'string' || (s.name !== 'segment' && s.name !== 'ignorable')) continue;
        const from = child(s, 'source');
        const to = child(s, 'target');
        if (from) source.push(...returned(from));
        // what is between segments need not be said again
        if (to) target.push(...returned(to));
        else if (s.name === 'ignorable' && from) target.push(...returned(from));
        if (s.name === 'segment') {
          segments++;
          checked &&= /^(?:final|reviewed)$/.test(s.attributes['state'] ?? '');
        }
      }
      units.push({ id: u.attributes['id'] ?? '', line: u.line, source, target, checked: checked && segments > 0 });
    }
    return { language: root.attributes['trgLang'] ?? '', units };
  }
  let language = '';
  for (const f of all(root, 'file')) language ||= f.attributes['target-language'] ?? '';
  for (const u of all(root, 'trans-unit')) {
    const from = child(u, 'source');
    const to = child(u, 'target');
    const state = to?.attributes['state'] ?? '';
    const unit: ReturnedUnit = {
      id: u.attributes['id'] ?? '',
      line: u.line,
      source: from && returned(from),
      // a tool may copy the source into what is not translated yet
      target: to && !/^(?:new|needs-translation)$/.test(state) ? returned(to) : [],
      checked: u.attributes['approved'] === 'yes' || /^(?:final|signed-off)$/.test(state),
    };
    units.push(unit);
    language ||= to?.attributes['lang'] ?? '';
  }
  return { language, units };
}
