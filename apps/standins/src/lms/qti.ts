/**
 * The LMS's own reader of QTI 2.1 and 2.2 packages: it shows items and marks answers from the file alone. It shares
 * nothing with the product, so what the product writes is read here by somebody else.
 */
import { DOMParser, type Element, type Node } from '@xmldom/xmldom';
import { unzipSync, zipSync } from 'fflate';

export class PackageError extends Error {}

export interface StoredItem {
  identifier: string;
  title: string;
  xml: string;
  /** What it counts in its test. */
  weight?: number;
}
export interface StoredQuiz {
  title: string;
  items: StoredItem[];
  refused: { title: string; message: string }[];
}

const MAX_BYTES = 50 * 1024 * 1024;
const elements = (n: { childNodes: ArrayLike<Node> }): Element[] => Array.from(n.childNodes).filter((c): c is Element => c.nodeType === 1);
const children = (e: Element, name: string): Element[] => elements(e).filter((c) => c.localName === name);
const child = (e: Element, name: string): Element | undefined => children(e, name)[0];
const all = (e: Element, name: string): Element[] => elements(e).flatMap((c) => [...(c.localName === name ? [c] : []), ...all(c, name)]);
const attr = (e: Element, name: string): string => e.getAttribute(name) ?? '';

function parse(xml: string, what: string): Element {
  if (/<!DOCTYPE|<!ENTITY/i.test(xml)) throw new PackageError(`${what}: document types are not accepted`);
  let problem = '';
  const onError = (level: string, message: string): void => {
    if (level !== 'warning') problem ||= message;
  };
  try {
    const root = new DOMParser({ onError }).parseFromString(xml, 'text/xml').documentElement;
    if (root && !problem) return root;
  } catch (e) {
    problem ||= (e as Error).message;
  }
  throw new PackageError(`${what}: ${problem || 'empty'}`);
}

/** Opens a package: the manifest says which files are items, the test says their order. */
export function readPackage(bytes: Uint8Array): StoredQuiz {
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: (f) => {
        total += f.originalSize;
        if (total > MAX_BYTES) throw new PackageError('the package is larger than 50 MB when unpacked');
        return true;
      },
    });
  } catch (e) {
    throw e instanceof PackageError ? e : new PackageError('this is no zip file');
  }
  const text = (name: string): string | undefined => (files[name] ? new TextDecoder().decode(files[name]) : undefined);
  const manifestXml = text('imsmanifest.xml');
  if (!manifestXml) throw new PackageError('imsmanifest.xml is missing');
  const manifest = parse(manifestXml, 'imsmanifest.xml');
  const resources = all(manifest, 'resource');
  const ofType = (pattern: RegExp): Element[] => resources.filter((r) => pattern.test(attr(r, 'type')));
  const items = ofType(/^imsqti_item_xmlv2p[12]$/);
  if (!items.length) throw new PackageError('the manifest lists no QTI 2.1 item');
  const testFile = attr(ofType(/^imsqti_test_xmlv2p[12]$/)[0] ?? (items[0] as Element), 'href');
  const test = text(testFile);
  const root = test ? parse(test, testFile) : undefined;
  const weightOf = (r: Element): number => {
    const w = child(r, 'weight');
    return w && Number(attr(w, 'value')) >= 0 ? Number(attr(w, 'value')) : 1;
  };
  const refs =
    root?.localName === 'assessmentTest'
      ? all(root, 'assessmentItemRef').map((r) => ({ href: attr(r, 'href'), weight: weightOf(r) }))
      : items.map((i) => ({ href: attr(i, 'href'), weight: 1 }));
  const quiz: StoredQuiz = { title: (root?.localName === 'assessmentTest' && attr(root, 'title')) || 'Imported quiz', items: [], refused: [] };
  for (const { href, weight } of refs) {
    const xml = text(href);
    try {
      if (!xml) throw new PackageError('the file is missing from the package');
      const item = parse(xml, href);
      if (item.localName !== 'assessmentItem' || !child(item, 'itemBody')) throw new PackageError('no assessmentItem with an itemBody');
      quiz.items.push({ identifier: attr(item, 'identifier'), title: attr(item, 'title') || attr(item, 'identifier'), xml, weight });
    } catch (e) {
      if (!(e instanceof PackageError)) throw e;
      quiz.refused.push({ title: href, message: e.message });
    }
  }
  return quiz;
}

/** A quiz as it is kept here, as a package: what was imported, not what was sent. */
export function exportPackage(quiz: StoredQuiz): Uint8Array {
  const file = (n: number): string => `item-${String(n + 1).padStart(4, '0')}.xml`;
  const refs = quiz.items
    .map((i, n) => `<assessmentItemRef identifier="i${n + 1}" href="${file(n)}"><weight identifier="W" value="${i.weight ?? 1}"/></assessmentItemRef>`)
    .join('');
  const test = `<?xml version="1.0" encoding="UTF-8"?><assessmentTest xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="quiz" title="${escape(quiz.title)}"><testPart identifier="p" navigationMode="nonlinear" submissionMode="simultaneous"><assessmentSection identifier="s" title="" visible="false">${refs}</assessmentSection></testPart></assessmentTest>`;
  const encoder = new TextEncoder();
  return zipSync({ 'test.xml': encoder.encode(test), ...Object.fromEntries(quiz.items.map((i, n) => [file(n), encoder.encode(i.xml)])) });
}

const escape = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);
const HTML = new Set([
  'p',
  'div',
  'span',
  'strong',
  'em',
  'u',
  'sub',
  'sup',
  'code',
  'pre',
  'ul',
  'ol',
  'li',
  'table',
  'thead',
  'tbody',
  'tr',
  'td',
  'th',
  'caption',
  'blockquote',
  'br',
  'a',
]);

function inner(e: Element, field: string): string {
  return Array.from(e.childNodes)
    .map((n) => (n.nodeType === 3 || n.nodeType === 4 ? escape(n.nodeValue ?? '') : n.nodeType === 1 ? render(n as Element, field) : ''))
    .join('');
}

/** An element of an item's body as HTML; interactions become form fields named `field` + response identifier. */
function render(e: Element, field: string): string {
  const name = `${field}${attr(e, 'responseIdentifier')}`;
  const prompt = (): string => {
    const p = child(e, 'prompt');
    return p ? `<p class="prompt">${inner(p, field)}</p>` : '';
  };
  const label = (): string => escape(child(e, 'prompt')?.textContent?.trim() || 'Answer');
  switch (e.localName) {
    case 'choiceInteraction': {
      const type = attr(e, 'maxChoices') === '1' ? 'radio' : 'checkbox';
      return `<fieldset>${prompt().replace(/^<p class="prompt">(.*)<\/p>$/s, '<legend>$1</legend>')}${children(e, 'simpleChoice')
        .map((c) => `<label><input type="${type}" name="${name}" value="${escape(attr(c, 'identifier'))}"> <span>${inner(c, field)}</span></label>`)
        .join('')}</fieldset>`;
    }
    case 'textEntryInteraction':
      return `<input class="entry" aria-label="Answer" autocomplete="off" name="${name}">`;
    case 'extendedTextInteraction':
      return `${prompt()}<textarea rows="6" aria-label="${label()}" name="${name}"></textarea>`;
    case 'inlineChoiceInteraction':
      return `<select aria-label="Answer" name="${name}"><option value=""></option>${children(e, 'inlineChoice')
        .map((c) => `<option value="${escape(attr(c, 'identifier'))}">${escape(c.textContent ?? '')}</option>`)
        .join('')}</select>`;
    case 'matchInteraction': {
      const [lefts, rights] = children(e, 'simpleMatchSet').map((s) => children(s, 'simpleAssociableChoice'));
      const options = (rights ?? []).map((r) => `<option value="${escape(attr(r, 'identifier'))}">${escape(r.textContent ?? '')}</option>`).join('');
      return `${prompt()}<table>${(lefts ?? []).map((l) => `<tr><td>${inner(l, field)}</td><td><select aria-label="${escape(l.textContent ?? '')}" name="${name}|${escape(attr(l, 'identifier'))}"><option value=""></option>${options}</select></td></tr>`).join('')}</table>`;
    }
    case 'orderInteraction': {
      const choices = children(e, 'simpleChoice');
      return `${prompt()}<table>${choices.map((c) => `<tr><td><select aria-label="Place of ${escape(c.textContent ?? '')}" name="${name}#${escape(attr(c, 'identifier'))}"><option value=""></option>${choices.map((_, i) => `<option>${i + 1}</option>`).join('')}</select></td><td>${inner(c, field)}</td></tr>`).join('')}</table>`;
    }
    case 'prompt':
      return `<p class="prompt">${inner(e, field)}</p>`;
    default:
      return HTML.has(e.localName ?? '') ? (e.localName === 'br' ? '<br>' : `<${e.localName}>${inner(e, field)}</${e.localName}>`) : inner(e, field);
  }
}

export function showItem(item: StoredItem, field: string): string {
  const body = child(parse(item.xml, item.title), 'itemBody');
  return body ? inner(body, field) : '';
}

export type Value = null | boolean | number | string[] | { ordered: string[] };

/** The form's fields as response variables, by the item's declarations. */
export function responsesOf(item: StoredItem, field: string, form: Record<string, string | string[] | undefined>): Record<string, string[]> {
  const root = parse(item.xml, item.title);
  const out: Record<string, string[]> = {};
  for (const d of children(root, 'responseDeclaration')) {
    const id = attr(d, 'identifier');
    const name = field + id;
    const direct = form[name];
    const list = direct === undefined ? [] : [direct].flat();
    const pairs = Object.entries(form).flatMap(([k, v]) => (k.startsWith(`${name}|`) && v ? [`${k.slice(name.length + 1)} ${String(v)}`] : []));
    const order = Object.entries(form)
      .flatMap(([k, v]) => (k.startsWith(`${name}#`) && v ? [{ id: k.slice(name.length + 1), place: Number(v) }] : []))
      .sort((a, b) => a.place - b.place)
      .map((x) => x.id);
    out[id] = [...list, ...pairs, ...order].map((s) => s.trim()).filter(Boolean);
  }
  return out;
}

export interface Scored {
  score: number;
  maximum: number;
  byHand: boolean;
  feedback: string[];
}

/** Marks an answer by the item's response processing (QTI 2.1, Response Processing). */
export function score(item: StoredItem, responses: Record<string, string[]>): Scored {
  const root = parse(item.xml, item.title);
  const declarations = new Map(children(root, 'responseDeclaration').map((d) => [attr(d, 'identifier'), d]));
  const outcomes = new Map<string, Value>();
  for (const o of children(root, 'outcomeDeclaration')) {
    const dflt = child(o, 'defaultValue')?.textContent?.trim();
    outcomes.set(attr(o, 'identifier'), attr(o, 'baseType') === 'float' ? Number(dflt ?? 0) : dflt ? [dflt] : null);
  }
  const cardinality = (id: string): string => attr(declarations.get(id) as Element, 'cardinality');
  const correct = (id: string): string[] => {
    const d = declarations.get(id);
    const c = d && child(d, 'correctResponse');
    return c ? children(c, 'value').map((v) => v.textContent?.trim() ?? '') : [];
  };
  const same = (id: string, a: string[], b: string[]): boolean =>
    a.length === b.length && (cardinality(id) === 'ordered' ? a.every((x, i) => x === b[i]) : [...a].sort().join('\u0001') === [...b].sort().join('\u0001'));
  const mapResponse = (id: string): number => {
    const d = declarations.get(id);
    const m = d && child(d, 'mapping');
    if (!m) return 0;
    const entries = children(m, 'mapEntry');
    let sum = 0;
    for (const given of new Set(responses[id] ?? [])) {
      const e = entries.find((x) =>
        attr(x, 'caseSensitive') === 'false' ? attr(x, 'mapKey').toLowerCase() === given.toLowerCase() : attr(x, 'mapKey') === given,
      );
      sum += Number(e ? attr(e, 'mappedValue') : attr(m, 'defaultValue') || 0);
    }
    if (attr(m, 'lowerBound')) sum = Math.max(sum, Number(attr(m, 'lowerBound')));
    if (attr(m, 'upperBound')) sum = Math.min(sum, Number(attr(m, 'upperBound')));
    return sum;
  };
  const num = (v: Value): number | null => (typeof v === 'number' ? v : Array.isArray(v) && v.length === 1 ? toNumber(v[0] ?? '') : null);
  const evaluate = (e: Element): Value => {
    const parts = elements(e);
    const values = (): Value[] => parts.map(evaluate);
    const numbers = (): (number | null)[] => values().map(num);
    const compare = (test: (a: number, b: number) => boolean): Value => {
      const [a, b] = numbers();
      return a == null || b == null ? null : test(a, b);
    };
    switch (e.localName) {
      case 'variable': {
        const id = attr(e, 'identifier');
        return outcomes.has(id) ? (outcomes.get(id) ?? null) : responses[id]?.length ? responses[id] : null;
      }
      case 'baseValue':
        return /^(float|integer)$/.test(attr(e, 'baseType')) ? Number(e.textContent) : [e.textContent?.trim() ?? ''];
      case 'correct':
        return correct(attr(e, 'identifier'));
      case 'mapResponse':
        return mapResponse(attr(e, 'identifier'));
      case 'isNull':
        return values()[0] === null;
      case 'not':
        return !values()[0];
      case 'and':
        return values().every(Boolean);
      case 'or':
        return values().some(Boolean);
      case 'gte':
        return compare((a, b) => a >= b - 1e-9);
      case 'gt':
        return compare((a, b) => a > b);
      case 'lte':
        return compare((a, b) => a <= b + 1e-9);
      case 'lt':
        return compare((a, b) => a < b);
      case 'equal':
        return compare((a, b) => a === b);
      case 'sum':
        return numbers().reduce<number>((s, n) => s + (n ?? 0), 0);
      case 'product':
        return numbers().reduce<number>((s, n) => s * (n ?? 0), 1);
      case 'match': {
        const [a, b] = values();
        const id = parts[0] ? attr(parts[0], 'identifier') : '';
        return Array.isArray(a) && Array.isArray(b) ? same(id, a, b) : a !== null && a === b;
      }
      default:
        throw new PackageError(`the expression ${e.localName} is not known here`);
    }
  };
  const run = (rules: Element[]): void => {
    for (const r of rules) {
      if (r.localName === 'setOutcomeValue') outcomes.set(attr(r, 'identifier'), evaluate(elements(r)[0] as Element));
      else if (r.localName === 'responseCondition') {
        for (const branch of elements(r)) {
          const [test, ...then] = elements(branch);
          if (branch.localName === 'responseElse') run(elements(branch));
          else if (test && evaluate(test) === true) run(then);
          else continue;
          break;
        }
      } else throw new PackageError(`the rule ${r.localName} is not known here`);
    }
  };
  const processing = child(root, 'responseProcessing');
  const template = processing ? attr(processing, 'template') : '';
  const first = 'RESPONSE';
  if (/match_correct(\.xml)?$/.test(template))
    outcomes.set('SCORE', same(first, responses[first] ?? [], correct(first)) && (responses[first] ?? []).length > 0 ? 1 : 0);
  else if (/map_response(\.xml)?$/.test(template)) outcomes.set('SCORE', mapResponse(first));
  else if (processing) run(elements(processing));
  const shown = children(root, 'modalFeedback').filter((f) => {
    const v = outcomes.get(attr(f, 'outcomeIdentifier'));
    return Array.isArray(v) && v.includes(attr(f, 'identifier'));
  });
  return {
    score: (num(outcomes.get('SCORE') ?? 0) ?? 0) * (item.weight ?? 1),
    maximum: (num(outcomes.get('MAXSCORE') ?? 1) ?? 1) * (item.weight ?? 1),
    byHand: all(root, 'extendedTextInteraction').length > 0,
    feedback: shown.map((f) => inner(f, '')),
  };
}

const toNumber = (s: string): number | null => {
  const t = s.trim().replace(',', '.');
  return t !== '' && Number.isFinite(Number(t)) ? Number(t) : null;
};
