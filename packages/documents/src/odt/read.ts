/** ODT (OpenDocument text) as draft text: numbers and letters of lists typed out, looks kept, tracked changes accepted. */
import { childOf, childrenOf, type DocumentText, markupOf, openArchive, Sheet, textOf, texOfMathML, type XmlNode, fromSymbolFont } from '@zakuska/core';
import { asideNotes, brokenDocument, dataAddress, xmlPart } from '../document.js';
import { Styles, type TextLook } from './styles.js';

/**
 * Reads an ODT.
 * @throws ReadError where it is no text document, broken, protected or too large unpacked
 */
export function readOdt(bytes: Uint8Array): DocumentText {
  const files = openArchive(bytes);
  const content = xmlPart(files, 'content.xml');
  const text = content && childOf(childOf(content, 'body') ?? content, 'text');
  if (!text) throw brokenDocument('ODT document');
  return new OdtReader(files, content, xmlPart(files, 'styles.xml')).read(text);
}

/** The list that a paragraph stands in. */
interface InList {
  style: string;
  level: number;
  counters: number[];
}

class OdtReader {
  private readonly sheet = new Sheet();
  private readonly styles: Styles;
  private readonly counted = new Map<string, number[]>();
  private boxes: XmlNode[] = [];
  private readonly footnotes: string[] = [];
  private comments = 0;
  private changes = { insertion: 0, deletion: 0 };
  private unseenPictures = 0;
  private hidden = 0;
  private around: string[] = [];

  constructor(
    private readonly files: ReadonlyMap<string, Uint8Array>,
    content: XmlNode,
    styles: XmlNode | null,
  ) {
    this.styles = new Styles(styles, content);
    const masters = styles && childOf(styles, 'master-styles');
    for (const page of masters ? childrenOf(masters, 'master-page') : [])
      for (const part of childrenOf(page)) if (/^(?:header|footer)/.test(part.name) && textOf(part).trim()) this.around.push(textOf(part).trim());
  }

  read(text: XmlNode): DocumentText {
    this.blocks(text, null);
    const quoted = (texts: readonly string[]): string => (texts.length ? `“${texts.join('”, “').slice(0, 200)}”` : '');
    const { comments, hidden, unseenPictures, footnotes } = this;
    const notes = asideNotes({
      inserted: this.changes.insertion,
      deleted: this.changes.deletion,
      comments,
      hidden,
      unseenPictures,
      footnotes: footnotes.length,
      footnoteTexts: quoted(footnotes),
      around: quoted([...new Set(this.around)]),
    });
    return { text: this.sheet.finish().text, notes, pictures: this.sheet.pictures };
  }

  private blocks(parent: XmlNode, list: InList | null): void {
    for (const n of childrenOf(parent)) {
      switch (n.name) {
        case 'p':
        case 'h':
          this.paragraph(n, 'outside');
          break;
        case 'list':
          this.list(n, list);
          break;
        case 'table':
          this.table(n);
          break;
        case 'frame':
          this.sheet.newline();
          this.frame(n);
          this.sheet.newline();
          this.unfold();
          break;
        case 'tracked-changes':
          for (const region of childrenOf(n))
            for (const change of childrenOf(region)) if (change.name === 'insertion' || change.name === 'deletion') this.changes[change.name]++;
          break;
        case 'section':
        case 'numbered-paragraph':
          if (n.attributes['display'] !== 'none') this.blocks(n, list);
          break;
        default:
      }
    }
  }

  private list(n: XmlNode, outer: InList | null): void {
    const level = outer ? outer.level + 1 : 0;
    const style = n.attributes['style-name'] ?? outer?.style ?? this.styles.listOf(firstParagraph(n)?.attributes['style-name']) ?? '';
    const before =
      this.counted.get(`id ${n.attributes['continue-list'] ?? ''}`) ?? (n.attributes['continue-numbering'] === 'true' ? this.counted.get(style) : undefined);
    const counters = outer?.style === style || (outer && n.attributes['style-name'] === undefined) ? outer.counters : (before ?? []);
    this.counted.set(style, counters);
    const id = n.attributes['id'];
    if (id !== undefined) this.counted.set(`id ${id}`, counters);
    const own = this.styles.lists.get(style);
    for (const item of childrenOf(n)) {
      if (item.name !== 'list-item' && item.name !== 'list-header') continue;
      let labelled = false;
      for (const c of childrenOf(item)) {
        if (c.name === 'list') {
          this.list(c, { style, level, counters });
          continue;
        }
        if (c.name !== 'p' && c.name !== 'h') {
          this.blocks({ ...item, children: [c] }, null);
          continue;
        }
        // the label stands in front of the first paragraph of an item
        if (labelled || item.name === 'list-header' || !own) {
          this.paragraph(c, null);
          continue;
        }
        labelled = true;
        const start = item.attributes['start-value'];
        for (let i = 0; i < level; i++) counters[i] ??= own.start(i);
        counters[level] = start === undefined ? (counters[level] ?? own.start(level) - 1) + 1 : Number(start);
        counters.length = level + 1;
        this.paragraph(c, { label: own.label(level, counters), level });
      }
    }
  }

  private paragraph(p: XmlNode, list: { label: string | null; level: number } | 'outside' | null): void {
    const { sheet } = this;
    const look = this.styles.look('paragraph', p.attributes['style-name'], {});
    if (!childrenOf(p).length && !textOf(p).trim()) {
      if (!list || list === 'outside') sheet.gap();
      return;
    }
    const heading = p.name === 'h' ? Number(p.attributes['outline-level'] ?? 1) : 0;
    if (list === 'outside' && !heading) sheet.outside();
    else if (list !== 'outside' && list?.label) sheet.label(list.label, list.level);
    else if (heading) sheet.heading(heading);
    else sheet.newline();
    this.inline(p, heading ? { ...look, strong: false } : look);
    sheet.newline();
    this.unfold();
  }
  /** Text boxes follow behind the paragraph in which they are anchored. */
  private unfold(): void {
    for (const b of this.boxes.splice(0)) this.blocks(b, null);
  }

  private inline(parent: XmlNode, look: TextLook): void {
    const { sheet } = this;
    const { font = '', hidden, ...shown } = look;
    for (const n of parent.children) {
      if (typeof n === 'string') {
        if (!hidden) sheet.words(fromSymbolFont(n.replace(/[\t\n\r ]+/g, ' '), font), shown);
        else if (n.trim()) this.hidden++;
        continue;
      }
      switch (n.name) {
        case 's':
          sheet.words(' '.repeat(Math.min(40, Number(n.attributes['c'] ?? 1))), shown);
          break;
        case 'tab':
          sheet.words('\t', shown);
          break;
        case 'line-break':
          sheet.newline();
          break;
        case 'note': {
          const body = childOf(n, 'note-body');
          if (body) this.footnotes.push(textOf(body).trim());
          break;
        }
        case 'annotation':
          this.comments++;
          break;
        case 'frame':
          this.frame(n);
          break;
        case 'span':
          this.inline(n, this.styles.look('text', n.attributes['style-name'], look));
          break;
        case 'ruby': {
          const base = childOf(n, 'ruby-base');
          if (base) this.inline(base, look);
          break;
        }
        case 'custom-shape':
        case 'rect':
        case 'g':
          this.boxes.push(n);
          break;
        case 'annotation-end':
        case 'change':
        case 'change-start':
        case 'change-end':
        case 'soft-page-break':
          break;
        default:
          this.inline(n, look);
      }
    }
  }

  /** A picture, a formula or a box of text. A frame may hold its content in several forms, the best first. */
  private frame(n: XmlNode): void {
    const box = childOf(n, 'text-box');
    if (box) return void this.boxes.push(box);
    const object = childOf(n, 'object');
    const inside = object && (childOf(object, 'math') ?? this.mathOf(object.attributes['href'] ?? ''));
    if (inside) {
      const tex = texOfMathML(markupOf(inside)) || starMath(inside);
      if (tex) return this.sheet.markup(`\\(${tex}\\)`);
    }
    const alt = textOf(childOf(n, 'desc') ?? childOf(n, 'title') ?? { name: '', attributes: {}, children: [], line: 0 });
    for (const image of childrenOf(n, 'image')) {
      const bytes = this.files.get((image.attributes['href'] ?? '').replace(/^\.\//, ''));
      const src = bytes && dataAddress(bytes);
      if (src) return this.sheet.picture(src, alt);
    }
    this.unseenPictures++;
  }
  private mathOf(href: string): XmlNode | null {
    const root = xmlPart(this.files, `${href.replace(/^\.\//, '').replace(/\/$/, '')}/content.xml`);
    return root?.name === 'math' ? root : null;
  }

  private table(t: XmlNode): void {
    const rows: { row: XmlNode; header: boolean }[] = [];
    const find = (n: XmlNode, header: boolean): void => {
      for (const c of childrenOf(n)) {
        if (c.name === 'table-row') {
          for (let i = Math.min(Number(c.attributes['number-rows-repeated'] ?? 1), 50); i > 0; i--) rows.push({ row: c, header });
        } else if (/^table-(?:header-rows|rows|row-group)$/.test(c.name)) find(c, header || c.name === 'table-header-rows');
      }
    };
    find(t, false);
    const cells = rows.map(({ row }) =>
      childrenOf(row).flatMap((c): (XmlNode | null)[] => {
        if (c.name === 'covered-table-cell') return [null];
        if (c.name !== 'table-cell') return [];
        return Array.from({ length: Math.min(60, Number(c.attributes['number-columns-repeated'] ?? 1)) }, () => c);
      }),
    );
    this.sheet.table(cells, rows[0]?.header ?? false, (c) => c && this.blocks(c, null));
  }
}

function firstParagraph(n: XmlNode): XmlNode | undefined {
  for (const c of childrenOf(n)) {
    if (c.name === 'p' || c.name === 'h') return c;
    const inside = firstParagraph(c);
    if (inside) return inside;
  }
  return undefined;
}

/** The note that a formula carries of what was typed, where its MathML says nothing. */
const starMath = (math: XmlNode): string => {
  const note = childrenOf(childOf(math, 'semantics') ?? math, 'annotation').map(textOf)[0];
  return note ? `\\text{${note.replace(/[{}\\]/g, ' ').trim()}}` : '';
};
