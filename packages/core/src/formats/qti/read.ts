/**
 * Reads QTI 1.2, 2.1, 2.2 and 3.0: single files, content packages with or without a manifest, Common Cartridges, several versions
 * in one package. What cannot be used is reported with its file and line; the rest comes in.
 */
import { newId } from '../../item/ids.js';
import { type Diagnostic, type Item, type ReadResult, type Section, UNTITLED } from '../../item/model.js';
import { ReadError } from '../../item/readError.js';
import { bloomLevels } from '../../item/model.js';
import { richFromPlain, richToPlain } from '../../item/richText.js';
import { tidyRich } from '../../item/sameness.js';
import { looksLikeZip, openArchive, resolvePath } from '../archive.js';
import { bytesOf, Pictures } from '../pictures.js';
import { childOf, childrenOf, decodeXml, descendants, looksLikeXml, readXml, textOf, type XmlNode } from '../xmlTree.js';
import type { AssessmentItem, PlacedItem } from './assessmentItem.js';
import { richOf, richOfHtml, richOfMaterial, type Surroundings } from './content.js';
import { readItem1 } from './v1/item.js';
import { readItem2 } from './v2/item.js';
import { playQti } from './play.js';
import { rehearse } from '../../rehearse/rehearse.js';
import { itemOf, type Remark } from './itemOf.js';
import type { Profile } from '../../fit/profile.js';
import { cartridgeProfile, qti12BankProfile, qti12Profile, qti2BankProfile, qti2Profile } from './profile.js';

/** Names in the order that people count: item-2 before item-10. */
const BY_NUMBER = new Intl.Collator('en', { numeric: true });

/** A part of a test, as far as the model holds one. */
type SectionHead = Omit<Section, 'id'>;
/** One question in its place. */
interface Placed {
  asked: AssessmentItem;
  path: string;
  /** The part of the test; the same object for the items of one part. */
  part: SectionHead | null;
  weight: number;
  timeLimit?: number;
  required?: boolean;
  bonus?: boolean;
  resource?: Resource;
}
interface Resource {
  identifier: string;
  type: string;
  paths: string[];
  node: XmlNode;
}

const QTI_ROOTS = new Set(['questestinterop', 'assessmentItem', 'assessmentTest', 'assessmentSection', 'assessmentStimulus']);
const positive = (text: string | undefined): number | undefined => {
  const n = Number(text);
  return text !== undefined && text.trim() !== '' && Number.isFinite(n) && n > 0 ? n : undefined;
};
/** What an item counts in its test. */
function weightOf(ref: XmlNode): number {
  const value = childOf(ref, 'weight')?.attributes['value'];
  const n = Number(value);
  return value?.trim() && Number.isFinite(n) && n >= 0 ? n : 1;
}
const nameless = (title: string | undefined): boolean => !title || /^(root[_ ]section|section[ _-]?\d*|untitled|unnamed)$/i.test(title.trim());

class QtiReader {
  readonly items: PlacedItem[] = [];
  readonly diagnostics: Diagnostic[] = [];
  readonly pictures = new Pictures();
  private readonly documents = new Map<string, XmlNode>();
  private readonly resources: Resource[] = [];
  /** The resource that each file belongs to: the one that it begins before one that only lists it. */
  private readonly resourceOf = new Map<string, Resource>();
  private readonly placed: Placed[] = [];
  private readonly done = new Set<string>();
  private readonly unsupported: string[] = [];
  private readonly missing = new Map<string, string[]>();
  private title: string | undefined;
  /** How often a test names each file. */
  private readonly asked = new Map<string, number>();
  private hasTest = false;

  constructor(private readonly files: ReadonlyMap<string, Uint8Array>) {}

  private tell(severity: Diagnostic['severity'], code: string, message: string, line = 1, item?: string): void {
    this.diagnostics.push({ code, severity, from: 0, to: 0, line, column: 1, message, ...(item && { item }) });
  }

  read(): ReadResult {
    let manifest: string | null = null;
    for (const [path, bytes] of this.files) {
      if (/(^|\/)(__MACOSX|\.)/.test(path) || !looksLikeXml(bytes)) continue;
      // pages and style sheets of a cartridge are no question files
      if (/\.(x?html?|svg|xsd|dtd|css|xsl)$/i.test(path)) continue;
      try {
        const { root, problems } = readXml(decodeXml(bytes));
        const of = findRoot(root);
        if (!of) continue;
        if (of.name === 'manifest') {
          if (manifest === null || path.split('/').length < manifest.split('/').length) manifest = path;
        } else {
          const [first] = problems;
          if (first)
            this.tell('warning', 'file-damaged', `${this.at(path, first.line)}: ${first.message.toLowerCase()}; what could be read was read`, first.line);
        }
        this.documents.set(path, of);
      } catch (e) {
        if (!(e instanceof ReadError)) throw e;
        if (/<(questestinterop|(qti-)?assessment)/i.test(decodeXml(bytes.subarray(0, 4000)))) this.tell('error', 'file-invalid', `${path}: ${e.message}`);
      }
    }
    const root = manifest === null ? null : this.documents.get(manifest);
    if (manifest !== null && root) this.listResources(root, manifest);
    this.inOrder();
    if (!this.placed.length && !this.unsupported.length) {
      const [broken] = this.diagnostics.filter((d) => d.code === 'file-invalid');
      throw new ReadError(broken ? broken.message : this.files.size > 1 ? 'there is no QTI question in this package' : 'there is no QTI question in this XML');
    }
    return this.result(root);
  }

  /** What files of this sort can hold. */
  profile(): Profile {
    const roots = [...this.documents.values()];
    if (roots.some((r) => r.name === 'assessmentTest')) return qti2Profile;
    if (roots.some((r) => r.name === 'assessmentItem')) return roots.length > 1 ? qti2BankProfile : qti2Profile;
    const cartridge =
      this.resources.some((r) => /imscc_xml/.test(r.type)) || roots.some((r) => descendants(r, 'fieldlabel').some((f) => textOf(f) === 'cc_profile'));
    return cartridge ? cartridgeProfile : roots.some((r) => childOf(r, 'assessment')) ? qti12Profile : qti12BankProfile;
  }

  private at(path: string, line?: number): string {
    return this.files.size > 1 ? `${path}${line ? `, line ${line}` : ''}` : `line ${line ?? 1}`;
  }

  // ── the manifest and the order of files ──

  private listResources(manifest: XmlNode, path: string): void {
    for (const list of childrenOf(manifest, 'resources')) {
      for (const r of childrenOf(list, 'resource')) {
        const base = (manifest.attributes['base'] ?? '') + (list.attributes['base'] ?? '') + (r.attributes['base'] ?? '');
        const hrefs = [r.attributes['href'], ...childrenOf(r, 'file').map((f) => f.attributes['href'])];
        const paths = [...new Set(hrefs.flatMap((h) => (h ? (resolvePath(path, base + h) ?? []) : [])))];
        this.resources.push({ identifier: r.attributes['identifier'] ?? '', type: r.attributes['type'] ?? '', paths, node: r });
        for (const p of paths) {
          if (/qti|assessment|question-bank/i.test(r.attributes['type'] ?? '') && !this.files.has(p))
            this.tell('warning', 'file-missing', `the manifest names ${p}, which is not in the package`);
        }
      }
    }
    for (const r of this.resources) if (r.paths[0] !== undefined && !this.resourceOf.has(r.paths[0])) this.resourceOf.set(r.paths[0], r);
    for (const r of this.resources) for (const p of r.paths) if (!this.resourceOf.has(p)) this.resourceOf.set(p, r);
  }

  private inOrder(): void {
    const listed = this.resources.flatMap((r) => r.paths);
    const byPath = [...this.documents.keys()].sort(BY_NUMBER.compare);
    const order = [...new Set([...listed, ...byPath])].filter((p) => this.documents.has(p));
    const is = (name: string) => (p: string) => this.documents.get(p)?.name === name;
    for (const p of order.filter(is('assessmentTest'))) this.test2(p);
    // a bank comes behind the test that draws from it
    for (const p of order.filter(is('questestinterop')).filter((p) => childOf(this.documents.get(p) as XmlNode, 'assessment'))) this.file1(p);
    for (const p of order) {
      if (is('questestinterop')(p)) this.file1(p);
      else if (is('assessmentItem')(p)) this.item2(p, null);
      else if (is('assessmentSection')(p) && !this.done.has(p)) this.section2(this.documents.get(p) as XmlNode, p, null);
    }
  }

  private surroundings(path: string, into: string[]): Surroundings {
    return {
      picture: (href) => {
        if (/^data:image\//i.test(href)) {
          const src = this.embedded(href);
          if (!src) into.push(`${href.slice(0, 30)}…`);
          return src;
        }
        const file = this.find(path, href);
        const bytes = file === null ? undefined : this.files.get(file);
        const src = file !== null && bytes ? this.pictures.add(bytes, file.replace(/^.*\//, '')) : null;
        if (!src) into.push(href);
        return src;
      },
    };
  }
  /** A picture that stands in the file as base64; null where that is none. */
  private embedded(href: string): string | null {
    const data = href.slice(href.indexOf(',') + 1).replace(/\s+/g, '');
    if (!/;base64,/i.test(href.slice(0, 60)) || !/^[A-Za-z0-9+/]+={0,2}$/.test(data) || data.length % 4 !== 0) return null;
    return this.pictures.add(bytesOf(data), 'picture');
  }
  /** The path that an address means: beside the file, below the cartridge's folder of files, or the only file of that name. */
  private find(path: string, href: string): string | null {
    const bare = href.replace(/^(\$|%24)IMS[-_]CC[-_]FILEBASE(\$|%24)\/?/i, '');
    const near = resolvePath(path, bare);
    for (const p of [near, near && `web_resources/${near}`, resolvePath('', bare), `web_resources/${resolvePath('', bare) ?? ''}`])
      if (p && this.files.has(p)) return p;
    const name = resolvePath('', bare)?.replace(/^.*\//, '');
    const same = name ? [...this.files.keys()].filter((p) => p.endsWith(`/${name}`) || p === name) : [];
    return same.length === 1 ? (same[0] ?? null) : null;
  }

  // ── QTI 1.2 ──

  private file1(path: string): void {
    if (this.done.has(path)) return;
    this.done.add(path);
    const root = this.documents.get(path) as XmlNode;
    const byIdent = new Map(descendants(root, 'item').map((i) => [i.attributes['ident'] ?? '', i]));
    const seen = new Set<XmlNode>();
    const resource = this.resourceOf.get(path);
    const lost: string[] = [];
    const around = this.surroundings(path, lost);
    const take = (item: XmlNode, part: SectionHead | null): void => {
      if (seen.has(item)) return;
      seen.add(item);
      const before = lost.length;
      for (const asked of readItem1(item, around)) this.place({ asked, path, part, weight: 1, ...(resource && { resource }) }, lost.slice(before));
    };
    const walk = (n: XmlNode, part: SectionHead | null): void => {
      for (const c of childrenOf(n)) {
        if (c.name === 'item') take(c, part);
        else if (c.name === 'itemref') {
          const item = byIdent.get(c.attributes['linkrefid'] ?? '');
          if (item) take(item, part);
        } else if (c.name === 'section') {
          const select = Number(descendants(c, 'selection_number').map((x) => textOf(x).trim())[0] ?? Number.NaN);
          const listed = childrenOf(c).filter((x) => /^(item|itemref|section)$/.test(x.name)).length;
          if (select > 0 && select < listed) this.tellSelection(select, listed, c.attributes['title'], path, c.line);
          walk(c, this.part1(c, around) ?? part);
        } else if (c.name === 'assessment' || c.name === 'objectbank') {
          const title = c.attributes['title'];
          if (title && !nameless(title)) this.title ??= cleanTitle(title);
          walk(c, part);
        }
      }
    };
    walk(root, null);
    const banks = new Set(descendants(root, 'sourcebank_ref').map((b) => textOf(b).trim()));
    for (const [p, doc] of this.documents)
      if (doc.name === 'questestinterop' && childrenOf(doc, 'objectbank').some((b) => banks.has(b.attributes['ident'] ?? ''))) this.file1(p);
  }

  /** "Any three of these ten": all are taken, since a set has all its items; the rule itself is told. */
  private tellSelection(select: number, of: number, title: string | undefined, path: string, line: number | undefined): void {
    this.tell(
      'info',
      'selection-dropped',
      `${this.at(path, line)}: the file asks any ${select} of the ${of} questions${nameless(title) ? '' : ` of “${cleanTitle(title ?? '')}”`}; here all ${of} are in the set. Arrange can draw ${select} of them`,
      line,
    );
  }

  private part1(section: XmlNode, around: Surroundings): SectionHead | null {
    const title = section.attributes['title'];
    const passage = childrenOf(section, 'presentation_material')
      .map((m) => richOfMaterial(m, around))
      .filter(Boolean)
      .join('');
    const instructions = childrenOf(section, 'rubric')
      .filter((r) => !/scorer|assessor/i.test(r.attributes['view'] ?? ''))
      .map((m) => richOfMaterial(m, around))
      .filter(Boolean)
      .join('');
    if (nameless(title) && !passage && !instructions) return null;
    return { ...(!nameless(title) && { title: cleanTitle(title ?? '') }), ...(instructions && { instructions }), ...(passage && { passage }) };
  }

  // ── QTI 2.x and 3.0 ──

  private test2(path: string): void {
    this.done.add(path);
    const root = this.documents.get(path) as XmlNode;
    this.title ??= root.attributes['title'] && cleanTitle(root.attributes['title']);
    this.hasTest = true;
    for (const part of childrenOf(root, 'testPart')) for (const s of childrenOf(part)) this.section2(s, path, null);
  }

  private section2(n: XmlNode, path: string, outer: SectionHead | null): void {
    if (n.name === 'assessmentItemRef') return this.reference(n, path, outer);
    if (n.name === 'assessmentSectionRef') {
      const p = resolvePath(path, n.attributes['href'] ?? '');
      const section = p ? this.documents.get(p) : undefined;
      if (!p || !section)
        this.tell('warning', 'file-missing', `${this.at(path, n.line)}: the section ${n.attributes['href'] ?? ''} is not in the package`, n.line);
      else if (!this.done.has(p)) {
        this.done.add(p);
        this.section2(section, p, outer);
      }
      return;
    }
    if (n.name !== 'assessmentSection') return;
    const select = Number(childOf(n, 'selection')?.attributes['select']);
    const listed = childrenOf(n).filter((c) => /^assessment(Item|Section)/.test(c.name)).length;
    if (select > 0 && select < listed) this.tellSelection(select, listed, n.attributes['title'], path, n.line);
    const lost: string[] = [];
    const around = this.surroundings(path, lost);
    const { title, visible } = n.attributes;
    const instructions = childrenOf(n, 'rubricBlock')
      .filter((r) => /candidate/.test(r.attributes['view'] ?? 'candidate'))
      .map((r) => richOf(r.children, around))
      .filter(Boolean)
      .join('');
    const shows = visible !== 'false' && !nameless(title);
    const part: SectionHead | null =
      shows || instructions ? { ...(shows && { title: cleanTitle(title ?? '') }), ...(instructions && { instructions }) } : outer;
    for (const c of childrenOf(n)) this.section2(c, path, part);
  }

  private reference(ref: XmlNode, path: string, part: SectionHead | null): void {
    const target = resolvePath(path, ref.attributes['href'] ?? '');
    if (!target || this.documents.get(target)?.name !== 'assessmentItem') {
      this.tell('warning', 'file-missing', `${this.at(path, ref.line)}: the item ${ref.attributes['href'] ?? ''} is not in the package`, ref.line);
      return;
    }
    this.asked.set(target, (this.asked.get(target) ?? 0) + 1);
    const maxTime = positive(childOf(ref, 'timeLimits')?.attributes['maxTime']);
    const { required } = ref.attributes;
    this.item2(target, part, {
      weight: weightOf(ref),
      ...(maxTime && { timeLimit: maxTime }),
      ...(required !== undefined && { required: required === 'true' }),
      ...(/(^|\s)bonus(\s|$)/.test(ref.attributes['category'] ?? '') && { bonus: true }),
    });
  }

  private item2(path: string, part: SectionHead | null, more: Partial<Placed> = {}): void {
    if (this.done.has(path)) return;
    this.done.add(path);
    const root = this.documents.get(path) as XmlNode;
    const lost: string[] = [];
    const around = this.surroundings(path, lost);
    const stimulus = (href: string): string | null => {
      const p = resolvePath(path, href);
      const s = p ? this.documents.get(p) : undefined;
      const body = s && childOf(s, 'stimulusBody');
      return p && body ? richOf(body.children, this.surroundings(p, lost)) : null;
    };
    const resource = this.resourceOf.get(path);
    for (const asked of readItem2(root, around, stimulus)) this.place({ asked, path, part, weight: 1, ...more, ...(resource && { resource }) }, lost);
  }

  // ── putting together ──

  private place(p: Placed, lost: readonly string[]): void {
    const { asked } = p;
    if (asked.unsupported) {
      this.unsupported.push(`${asked.unsupported} (${this.at(p.path, asked.line)})`);
      return;
    }
    this.placed.push(p);
    if (lost.length) this.missing.set(`${this.placed.length - 1}`, [...new Set(lost)]);
  }

  private result(manifest: XmlNode | null | undefined): ReadResult {
    const items: Item[] = [];
    const sections: Section[] = [];
    const ids = new Set<string>();
    const languages = new Map<string, number>();
    let last: { part: SectionHead | null; passage: string; section: Section | null } = { part: null, passage: '', section: null };
    this.placed.forEach((p, n) => {
      const { asked } = p;
      const made = itemOf(asked);
      const where = this.at(p.path, asked.line);
      if (!made.item) {
        this.unsupported.push(`${made.remarks[0]?.message.match(/^[^(]*\((.*)\)/)?.[1] ?? 'unknown'} (${where})`);
        return;
      }
      const { item } = made;
      if (ids.has(item.id)) item.id = newId();
      ids.add(item.id);
      if (p.weight !== 1) item.points = Math.round(item.points * p.weight * 1e4) / 1e4;
      if (p.timeLimit) item.timeLimit = p.timeLimit;
      if (p.required !== undefined) item.required = p.required;
      if (p.bonus) item.bonus = true;
      if (p.resource) addMetadata(item, p.resource.node);
      if (asked.language) {
        item.language = asked.language;
        languages.set(asked.language, (languages.get(asked.language) ?? 0) + 1);
      }
      const passage = asked.passage ? tidyRich(asked.passage) : (p.part?.passage ?? '');
      if (p.part || passage) {
        if (!(last.section && last.part === p.part && last.passage === passage)) {
          const { passage: _own, ...part } = p.part ?? {};
          const section: Section = { id: `s${sections.length + 1}`, ...part, ...(passage && { passage }) };
          sections.push(section);
          last = { part: p.part, passage, section };
        }
        item.section = last.section?.id ?? '';
      } else last = { part: null, passage: '', section: null };
      items.push(item);
      const placed: PlacedItem = { item, asked, weight: p.weight, full: made.full, ...(this.hasTest && { delivered: this.asked.get(p.path) ?? 0 }) };
      this.items.push(placed);
      const name = `Item ${items.length}`;
      if (!asked.exact && !made.remarks.length) made.remarks.push(...misread(placed));
      if (asked.apart)
        made.remarks.push({
          severity: asked.apart.together ? 'warning' : 'info',
          code: 'item-apart',
          message: `it is question ${asked.apart.at} of ${asked.apart.of} in one item of the file; here each is an item of its own${asked.apart.together ? ', with its share of the points, which the file gives for all of them together only' : ''}`,
        });
      if (placed.delivered === 0) made.remarks.push({ severity: 'info', code: 'not-in-test', message: 'it is in the package, but its test does not ask it' });
      for (const r of made.remarks) this.tell(r.severity, r.code, `${name} (${where}): ${r.message}.`, asked.line, item.id);
      for (const href of this.missing.get(String(n)) ?? [])
        this.tell('warning', 'picture-missing', `${name} (${where}): the picture ${href.slice(0, 100)} is not in the file.`, asked.line, item.id);
      this.lookOver(item, name);
    });
    if (this.unsupported.length)
      this.tell(
        'error',
        'kind-unsupported',
        `${this.unsupported.length === 1 ? 'An item is' : `${this.unsupported.length} items are`} of a sort that is not held here and left out: ${this.unsupported.slice(0, 8).join('; ')}${this.unsupported.length > 8 ? ' …' : ''}.`,
      );
    // the language of most items is the set's where the package does not say it; items in another one keep theirs
    const said = manifestWords(manifest, 'language');
    const language = said === 'und' ? undefined : (said ?? [...languages].sort((a, b) => b[1] - a[1])[0]?.[0]);
    for (const i of items) if (i.language === language) delete i.language;
    const title = this.title ?? manifestWords(manifest, 'title')?.replace(/\s+/g, ' ');
    const description = manifestWords(manifest, 'description');
    const pictures = Object.entries(this.pictures.assets);
    const used = pictures.length ? JSON.stringify([items, sections]) : '';
    const assets = Object.fromEntries(pictures.filter(([hash]) => used.includes(hash)));
    return {
      set: {
        title: title || UNTITLED,
        items,
        ...(language && { language }),
        ...(description && { description: richFromPlain(description) }),
        ...(sections.length && { sections }),
        ...(Object.keys(assets).length && { assets }),
      },
      diagnostics: this.diagnostics,
      asides: [],
    };
  }

  private lookOver(item: Item, name: string): void {
    if (!('options' in item)) return;
    const seen = new Set<string>();
    if (item.options.length === 1) this.tell('warning', 'option-single', `${name} has one option only.`, 1, item.id);
    for (const [i, o] of item.options.entries()) {
      const key = tidyRich(o.content).toLowerCase();
      if (!key) this.tell('warning', 'option-empty', `${name}: option ${i + 1} is empty.`, 1, item.id);
      else if (seen.has(key)) this.tell('warning', 'option-duplicate', `${name}: two options say “${richToPlain(o.content).slice(0, 60)}”.`, 1, item.id);
      seen.add(key);
    }
  }
}

/**
 * What marks otherwise here than in the file, although nothing odd was seen in reading: the item is answered both ways. So no key
 * that was read from somebody else's rules is silently wrong.
 */
function misread(placed: PlacedItem): Remark[] {
  // whether a test asks it is another question
  const { delivered: _delivered, ...alone } = placed;
  const [found] = rehearse(playQti([alone]), { title: '', items: [placed.item] }).items;
  if (found?.verdict !== 'differs') return [];
  const reason = (found.reason ?? '').replace(/\bthere\b/g, 'in the file');
  // points for no answer at all are an oddity of the file, no misreading
  return [
    { severity: reason.startsWith('nothing ') ? 'info' : 'warning', code: 'scoring-adapted', message: `it does not mark just as in the file: ${reason}` },
  ];
}

/** The element that a file is about: some exporters put it inside an envelope. */
function findRoot(root: XmlNode): XmlNode | null {
  if (root.name === 'manifest' || QTI_ROOTS.has(root.name)) return root;
  // parts of a 1.2 file without the root that should stand around them
  if (['assessment', 'section', 'item', 'objectbank'].includes(root.name) && descendants(root, 'presentation').length)
    return { name: 'questestinterop', attributes: {}, children: [root], line: 1 };
  for (const c of childrenOf(root)) if (QTI_ROOTS.has(c.name)) return c;
  return null;
}

/** Titles are plain text; exporters leave entities of an earlier escaping in them. */
const cleanTitle = (title: string): string =>
  richToPlain(richOfHtml(title, { picture: () => null }))
    .replace(/\s+/g, ' ')
    .trim();
/** What the description of a package (IEEE LOM) says of the whole. */
const generalOf = (manifest: XmlNode | null | undefined): XmlNode | undefined =>
  manifest ? descendants(childOf(manifest, 'metadata') ?? { ...manifest, children: [] }, 'general')[0] : undefined;
const manifestWords = (manifest: XmlNode | null | undefined, field: 'title' | 'language' | 'description'): string | undefined => {
  const general = generalOf(manifest);
  const found = general ? childOf(general, field) : undefined;
  return found ? textOf(found).trim() || undefined : undefined;
};

/** What the description of a resource (IEEE LOM) says of its item: keywords as tags, objectives as outcomes, levels by their scheme. */
function addMetadata(item: Item, resource: XmlNode): void {
  const lom = descendants(resource, 'lom')[0];
  if (!lom) return;
  const words = (n: XmlNode): string[] => {
    const strings = descendants(n, 'string', 'langstring');
    return (strings.length ? strings : [n]).map((s) => textOf(s).replace(/\s+/g, ' ').trim()).filter(Boolean);
  };
  const tags = childrenOf(lom, 'general').flatMap((g) => childrenOf(g, 'keyword').flatMap(words));
  const outcomes: string[] = [];
  const level: NonNullable<Item['level']> = {};
  for (const c of childrenOf(lom, 'classification')) {
    const purpose = descendants(childOf(c, 'purpose') ?? { ...c, children: [] }, 'value').flatMap(words)[0] ?? '';
    if (/objective|competency/i.test(purpose)) outcomes.push(...childrenOf(c, 'description').flatMap(words), ...childrenOf(c, 'keyword').flatMap(words));
    for (const path of childrenOf(c, 'taxonPath')) {
      const scheme = childrenOf(path, 'source').flatMap(words)[0]?.toLowerCase() ?? '';
      const entry = childrenOf(path, 'taxon').flatMap((t) => childrenOf(t, 'entry').flatMap(words))[0] ?? '';
      const bloom = bloomLevels.find((b) => b === entry.toLowerCase());
      if (scheme.includes('bloom') && bloom) level.bloom = bloom;
      if (/depth/.test(scheme) && /^[1-4]$/.test(entry)) level.depth = Number(entry);
      if (/difficulty/.test(scheme) && entry !== '' && Number(entry) >= 0 && Number(entry) <= 1) level.difficulty = Number(entry);
    }
  }
  if (tags.length) item.tags = [...new Set([...(item.tags ?? []), ...tags])];
  if (outcomes.length) item.outcomes = [...new Set([...(item.outcomes ?? []), ...outcomes])];
  if (Object.keys(level).length) item.level = { ...item.level, ...level };
}

/** Whether bytes are a package or a file of QTI, told by their first characters. */
export function looksLikeQti(bytes: Uint8Array): boolean {
  return (
    looksLikeXml(bytes) &&
    /<([\w-]+:)?(questestinterop|(qti-)?assessment-?(item|test|section)|objectbank|assessment)\b/i.test(decodeXml(bytes.subarray(0, 6000)))
  );
}

/**
 * Reads QTI of any version.
 * @throws ReadError where there is no question in it, or it is unsafe to open
 */
export function readQti(bytes: Uint8Array, name: string): ReadResult {
  return openQti(bytes, name).result;
}

/** As `readQti`, with each item's own scoring, which can be answered. */
export function openQti(bytes: Uint8Array, name: string): { result: ReadResult; items: PlacedItem[]; profile: Profile } {
  const reader = new QtiReader(looksLikeZip(bytes) ? openArchive(bytes) : new Map([[name || 'file.xml', bytes]]));
  return { result: reader.read(), items: reader.items, profile: reader.profile() };
}
