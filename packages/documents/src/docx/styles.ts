/** Looks of Office Open XML: a run's own, on top of its style's, on top of its paragraph's (ECMA-376 part 1, 17.7.2). */
import { childOf, childrenOf, type Look, standsOut, type XmlNode } from '@zakuska/core';
import { flag } from '../val.js';

export interface RunLook extends Look {
  /** Marked not to be shown. */
  hidden?: boolean;
  font?: string;
}
interface Style {
  name: string;
  basedOn: string | undefined;
  run: XmlNode | undefined;
  paragraph: XmlNode | undefined;
}

/** What run properties say, on top of what was said before. */
function said(props: XmlNode | undefined, before: RunLook): RunLook {
  if (!props) return before;
  const look: RunLook = { ...before };
  // letters that run right to left have switches of their own
  const complex = flag(props, 'rtl') || flag(props, 'cs');
  const bold = flag(props, complex ? 'bCs' : 'b');
  if (bold !== undefined) look.strong = bold;
  const italic = flag(props, complex ? 'iCs' : 'i');
  if (italic !== undefined) look.em = italic;
  const under = flag(props, 'u');
  if (under !== undefined) look.under = under;
  const hidden = flag(props, 'vanish');
  if (hidden !== undefined) look.hidden = hidden;
  const highlight = childOf(props, 'highlight')?.attributes['val'];
  const fill = childOf(props, 'shd')?.attributes['fill'];
  if (highlight !== undefined) look.highlight = !/^(?:none|white|black|lightgray|darkgray)$/i.test(highlight);
  else if (fill !== undefined) look.highlight = standsOut(fill);
  const colour = childOf(props, 'color')?.attributes['val'];
  if (colour !== undefined) {
    if (colour === 'auto') delete look.colour;
    else look.colour = `#${colour}`;
  }
  const align = childOf(props, 'vertAlign')?.attributes['val'];
  if (align !== undefined) {
    look.sub = align === 'subscript';
    look.sup = align === 'superscript';
  }
  const font = childOf(props, 'rFonts')?.attributes['ascii'];
  if (font !== undefined) look.font = font;
  return look;
}

export interface ParagraphLook {
  run: RunLook;
  /** 1 to 6 for a heading, 0 for none. */
  heading: number;
  numId: string | undefined;
  level: number;
  /** Stands in from the margin, as what belongs to an item of a list. */
  indented: boolean;
  /** A line of a table of contents. */
  contents: boolean;
}

export class Styles {
  private readonly byId = new Map<string, Style>();
  private readonly base: RunLook;
  private readonly usual: string | undefined;

  constructor(root: XmlNode | null) {
    for (const s of root ? childrenOf(root, 'style') : []) {
      const id = s.attributes['styleId'];
      if (id !== undefined)
        this.byId.set(id, {
          name: childOf(s, 'name')?.attributes['val'] ?? id,
          basedOn: childOf(s, 'basedOn')?.attributes['val'],
          run: childOf(s, 'rPr'),
          paragraph: childOf(s, 'pPr'),
        });
    }
    const defaults = root && childOf(root, 'docDefaults');
    const runs = defaults ? childOf(defaults, 'rPrDefault') : undefined;
    this.base = said(runs && childOf(runs, 'rPr'), {});
    this.usual = root
      ? childrenOf(root, 'style').find((s) => s.attributes['type'] === 'paragraph' && s.attributes['default'] === '1')?.attributes['styleId']
      : undefined;
  }

  /** A style and those that it is based on, the most basic first. */
  private chain(id: string | undefined): Style[] {
    const out: Style[] = [];
    for (let s = id === undefined ? undefined : this.byId.get(id); s && out.length < 20; s = s.basedOn === undefined ? undefined : this.byId.get(s.basedOn))
      out.unshift(s);
    return out;
  }

  paragraph(props: XmlNode | undefined): ParagraphLook {
    const styles = this.chain((props && childOf(props, 'pStyle')?.attributes['val']) ?? this.usual);
    const run = styles.reduce((look, s) => said(s.run, look), this.base);
    const all = [...styles.map((s) => s.paragraph), props].filter((p) => p !== undefined);
    const last = (name: string): XmlNode | undefined => all.map((p) => childOf(p, name)).findLast((n) => n !== undefined);
    const numbers = all.flatMap((p) => childOf(p, 'numPr') ?? []);
    const inNumbers = (name: string): string | undefined => numbers.map((n) => childOf(n, name)?.attributes['val']).findLast((v) => v !== undefined);
    const outline = last('outlineLvl')?.attributes['val'];
    const named = styles.map((s) => /^heading (\d)$/i.exec(s.name)?.[1] ?? (/^title$/i.test(s.name) ? '1' : undefined)).findLast((h) => h !== undefined);
    const level = outline !== undefined && Number(outline) < 9 ? Number(outline) + 1 : Number(named ?? 0);
    const numId = inNumbers('numId');
    return {
      run,
      heading: Math.min(6, level),
      numId: numId === '0' ? undefined : numId,
      level: Number(inNumbers('ilvl') ?? 0),
      indented: Number(last('ind')?.attributes['left'] ?? last('ind')?.attributes['start'] ?? 0) > 100,
      contents: styles.some((s) => /^toc \d/i.test(s.name)),
    };
  }

  /** The look of a run's words in a paragraph. */
  run(props: XmlNode | undefined, paragraph: RunLook): RunLook {
    if (!props) return paragraph;
    const styled = this.chain(childOf(props, 'rStyle')?.attributes['val']).reduce((look, s) => said(s.run, look), paragraph);
    return said(props, styled);
  }
}
