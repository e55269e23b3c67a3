/** DOCX (Office Open XML, WordprocessingML) as draft text: numbers and letters of lists typed out, looks kept, tracked changes accepted. */
import { childOf, childrenOf, type DocumentText, openArchive, resolvePath, Sheet, textOf, type XmlNode, fromSymbolFont } from '@zakuska/core';
import { asideNotes, brokenDocument, dataAddress, xmlPart } from '../document.js';
import { Numbering } from './numbering.js';
import { texOfOmml } from './omml.js';
import { type RunLook, Styles } from './styles.js';

/** The targets of a part's relations, by id. */
function relations(files: ReadonlyMap<string, Uint8Array>, part: string): Map<string, { type: string; target: string }> {
  const at = part.lastIndexOf('/') + 1;
  const root = xmlPart(files, `${part.slice(0, at)}_rels/${part.slice(at)}.rels`);
  return new Map(
    (root ? childrenOf(root, 'Relationship') : []).map((r) => [
      r.attributes['Id'] ?? '',
      {
        type: (r.attributes['Type'] ?? '').replace(/^.*\//, ''),
        target: r.attributes['TargetMode'] === 'External' ? '' : (resolvePath(part, r.attributes['Target'] ?? '') ?? ''),
      },
    ]),
  );
}

/** Blocks of a body and what may stand around them. */
const AROUND = new Set([
  'sdt',
  'sdtContent',
  'customXml',
  'smartTag',
  'ins',
  'moveTo',
  'hyperlink',
  'fldSimple',
  'bdo',
  'dir',
  'ruby',
  'rubyBase',
  'txbxContent',
]);

/**
 * Reads a DOCX.
 * @throws ReadError where it is no document, broken, protected or too large unpacked
 */
export function readDocx(bytes: Uint8Array): DocumentText {
  const files = openArchive(bytes);
  const main = [...relations(files, '').values()].find((r) => r.type === 'officeDocument')?.target ?? 'word/document.xml';
  const root = xmlPart(files, main);
  const body = root && childOf(root, 'body');
  if (!body) throw brokenDocument('DOCX document');
  return new DocxReader(files, main).read(body);
}

class DocxReader {
  private readonly sheet = new Sheet();
  private readonly styles: Styles;
  private readonly numbering: Numbering;
  private readonly targets: Map<string, { type: string; target: string }>;
  /** Text boxes of the paragraph that is being read; they follow behind it. */
  private boxes: XmlNode[] = [];
  private inserted = 0;
  private deleted = 0;
  private comments = 0;
  private hidden = 0;
  private unseenPictures = 0;
  private readonly footnotes: string[] = [];
  /** Depth of fields whose instruction, not their result, is being read. */
  private instruction: boolean[] = [];

  constructor(
    private readonly files: ReadonlyMap<string, Uint8Array>,
    main: string,
  ) {
    this.targets = relations(files, main);
    const part = (type: string): XmlNode | null => xmlPart(files, [...this.targets.values()].find((t) => t.type === type)?.target ?? '');
    this.styles = new Styles(part('styles'));
    this.numbering = new Numbering(part('numbering'));
    for (const type of ['footnotes', 'endnotes']) {
      const notes = part(type);
      for (const n of notes ? childrenOf(notes) : []) if (!n.attributes['type'] && textOf(n).trim()) this.footnotes.push(textOf(n).trim());
    }
  }

  read(body: XmlNode): DocumentText {
    this.blocks(body);
    const { text } = this.sheet.finish();
    return { text, notes: this.notes(), pictures: this.sheet.pictures };
  }

  private notes(): string[] {
    const around = new Set(
      [...this.targets.values()]
        .filter((t) => t.type === 'header' || t.type === 'footer')
        .map((t) => textOf(xmlPart(this.files, t.target) ?? { name: '', attributes: {}, children: [], line: 0 }).trim())
        .filter(Boolean),
    );
    const { inserted, deleted, comments, hidden, unseenPictures, footnotes } = this;
    return asideNotes({
      inserted,
      deleted,
      comments,
      hidden,
      unseenPictures,
      footnotes: footnotes.length,
      footnoteTexts: shortened(footnotes),
      around: shortened([...around]),
    });
  }

  private blocks(parent: XmlNode): void {
    for (const n of childrenOf(parent)) {
      if (n.name === 'p') this.paragraph(n);
      else if (n.name === 'tbl') this.table(n);
      else if (n.name === 'AlternateContent') {
        const chosen = alternative(n);
        if (chosen) this.blocks(chosen);
      } else if (n.name === 'ins' || n.name === 'moveTo' || AROUND.has(n.name)) this.blocks(n);
    }
  }

  private paragraph(p: XmlNode): void {
    const props = childOf(p, 'pPr');
    const look = this.styles.paragraph(props);
    if (look.contents) return;
    const { sheet } = this;
    // a paragraph whose end was deleted goes on in the next one
    const marks = props && childOf(props, 'rPr');
    const content = this.says(p);
    const label = look.numId === undefined || !content ? null : this.numbering.next(look.numId, look.level);
    if (!content) {
      sheet.gap();
      return;
    }
    if (look.heading && !label) sheet.heading(look.heading);
    else if (label) sheet.label(label, look.level);
    else if (!this.joined && look.numId === undefined && !look.indented) sheet.outside();
    else if (!this.joined) sheet.newline();
    this.joined = false;
    this.inline(p, look.heading ? { ...look.run, strong: false } : look.run);
    if (marks && childOf(marks, 'del')) this.joined = true;
    else sheet.newline();
    const boxes = this.boxes.splice(0);
    for (const b of boxes) this.blocks(b);
  }
  private joined = false;

  /** Whether a paragraph shows anything. */
  private says(n: XmlNode): boolean {
    return childrenOf(n).some((c) => {
      if (c.name === 't' || c.name === 'instrText' || c.name === 'delText') return c.name === 't' && textOf(c).trim() !== '';
      if (/^(?:drawing|pict|object|oMath|sym|AlternateContent|checkBox)$/.test(c.name)) return true;
      return c.name !== 'del' && c.name !== 'moveFrom' && c.name !== 'pPr' && c.name !== 'rPr' && this.says(c);
    });
  }

  private inline(parent: XmlNode, look: RunLook): void {
    for (const n of childrenOf(parent)) {
      switch (n.name) {
        case 'r':
          this.run(n, look);
          break;
        case 'oMath':
        case 'oMathPara': {
          const all = n.name === 'oMath' ? [n] : childrenOf(n, 'oMath');
          for (const m of all) {
            const tex = texOfOmml(m);
            if (tex) this.sheet.markup(n.name === 'oMath' ? `\\(${tex}\\)` : `\\[${tex}\\]`);
          }
          break;
        }
        case 'del':
        case 'moveFrom':
          this.deleted++;
          break;
        case 'ins':
        case 'moveTo':
          this.inserted++;
          this.inline(n, look);
          break;
        case 'sdt': {
          const box = childOf(childOf(n, 'sdtPr') ?? n, 'checkbox');
          if (box) this.sheet.words(/^(?:1|true|on)$/.test(childOf(box, 'checked')?.attributes['val'] ?? '') ? '☑' : '☐');
          else this.inline(n, look);
          break;
        }
        case 'AlternateContent': {
          const chosen = alternative(n);
          if (chosen) this.inline(chosen, look);
          break;
        }
        default:
          if (AROUND.has(n.name)) this.inline(n, look);
      }
    }
  }

  private run(r: XmlNode, paragraph: RunLook): void {
    const look = this.styles.run(childOf(r, 'rPr'), paragraph);
    if (look.hidden) {
      if (textOf(r).trim()) this.hidden++;
      return;
    }
    this.inRun(r, look);
  }

  private inRun(r: XmlNode, look: RunLook): void {
    const { sheet } = this;
    const { font = '', hidden: _, ...shown } = look;
    for (const n of childrenOf(r)) {
      if (this.instruction.includes(true) && n.name !== 'fldChar') continue;
      switch (n.name) {
        case 't':
          sheet.words(fromSymbolFont(textOf(n), font), shown);
          break;
        case 'tab':
        case 'ptab':
          sheet.words('\t', shown);
          break;
        case 'br':
        case 'cr':
          if (n.attributes['type'] !== 'page') sheet.newline();
          break;
        case 'noBreakHyphen':
          sheet.words('-', shown);
          break;
        case 'sym':
          sheet.words(fromSymbolFont(String.fromCharCode(parseInt(n.attributes['char'] ?? '2022', 16)), n.attributes['font'] ?? ''), shown);
          break;
        case 'fldChar':
          this.field(n);
          break;
        case 'commentReference':
          this.comments++;
          break;
        case 'drawing':
        case 'pict':
        case 'object':
          this.drawn(n);
          break;
        case 'AlternateContent': {
          const chosen = alternative(n);
          if (chosen) this.inRun(chosen, look);
          break;
        }
        case 'ruby':
          for (const base of childrenOf(n, 'rubyBase')) this.inline(base, look);
          break;
        default:
      }
    }
  }

  private field(n: XmlNode): void {
    const type = n.attributes['fldCharType'];
    if (type === 'begin') {
      const box = childOf(childOf(n, 'ffData') ?? n, 'checkBox');
      if (box) {
        const on = childOf(box, 'checked') ?? childOf(box, 'default');
        this.sheet.words(on && !/^(?:0|false)$/.test(on.attributes['val'] ?? '1') ? '☑' : '☐');
      }
      this.instruction.push(true);
    } else if (type === 'separate') this.instruction[this.instruction.length - 1] = false;
    else if (type === 'end') this.instruction.pop();
  }

  /** Pictures and text boxes of a drawing. */
  private drawn(n: XmlNode): void {
    let alt = '';
    const walk = (e: XmlNode): void => {
      for (const c of childrenOf(e)) {
        if (c.name === 'docPr') alt = c.attributes['descr'] ?? '';
        if (c.name === 'txbxContent') {
          this.boxes.push(c);
          continue;
        }
        if (c.name === 'blip' || c.name === 'imagedata') {
          const target = this.targets.get(c.attributes['embed'] ?? c.attributes['id'] ?? '')?.target;
          const bytes = target ? this.files.get(target) : undefined;
          const src = bytes && dataAddress(bytes);
          if (src) this.sheet.picture(src, alt);
          else this.unseenPictures++;
        }
        if (c.name === 'AlternateContent') {
          const chosen = alternative(c);
          if (chosen) walk(chosen);
        } else walk(c);
      }
    };
    walk(n);
  }

  private table(tbl: XmlNode): void {
    const rows: XmlNode[] = [];
    const find = (n: XmlNode): void => {
      for (const c of childrenOf(n)) {
        if (c.name === 'tr') {
          if (!childOf(childOf(c, 'trPr') ?? c, 'del')) rows.push(c);
        } else if (AROUND.has(c.name)) find(c);
      }
    };
    find(tbl);
    const cellsOf = (n: XmlNode): (XmlNode | null)[] =>
      childrenOf(n).flatMap((c): (XmlNode | null)[] => {
        if (c.name !== 'tc') return AROUND.has(c.name) ? cellsOf(c) : [];
        const props = childOf(c, 'tcPr');
        const merge = props && childOf(props, 'vMerge');
        const own = merge && merge.attributes['val'] !== 'restart' ? null : c;
        const span = Math.min(60, Number((props && childOf(props, 'gridSpan')?.attributes['val']) ?? 1) || 1);
        return [own, ...Array.from({ length: span - 1 }, () => null)];
      });
    const headed = rows[0] !== undefined && childOf(childOf(rows[0], 'trPr') ?? rows[0], 'tblHeader') !== undefined;
    this.sheet.table(rows.map(cellsOf), headed, (c) => c && this.blocks(c));
  }
}

/** The side of an alternative that is read: the newer one where it holds text, else the older. */
function alternative(n: XmlNode): XmlNode | undefined {
  const choice = childOf(n, 'Choice');
  return choice ?? childOf(n, 'Fallback');
}

const shortened = (texts: readonly string[]): string => {
  const all = texts.map((t) => `“${t.replace(/\s+/g, ' ').slice(0, 60)}”`);
  return all.length > 3 ? `${all.slice(0, 3).join(', ')} and ${all.length - 3} more` : all.join(', ');
};
