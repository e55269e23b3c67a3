/** Styles and list numbers of OpenDocument text (ODF 1.2 part 1, 16 and 20). */
import { childOf, childrenOf, type Look, standsOut, type XmlNode } from '@zakuska/core';
import { bullet, numeral } from '../numerals.js';

export interface TextLook extends Look {
  hidden?: boolean;
  /** Struck through. */
  struck?: boolean;
  font?: string;
}

interface Style {
  parent: string | undefined;
  text: Record<string, string>;
  list: string | undefined;
  /** Of a table: not to be shown. */
  hidden: boolean;
}

export class Styles {
  private readonly byKey = new Map<string, Style>();
  readonly lists = new Map<string, ListStyle>();
  private readonly defaults = new Map<string, Record<string, string>>();

  constructor(...roots: (XmlNode | null)[]) {
    for (const root of roots) if (root) childrenOf(root).forEach((group) => this.add(group));
  }

  /** Takes in a group of styles; others are passed over. */
  add(group: XmlNode): void {
    if (group.name !== 'styles' && group.name !== 'automatic-styles') return;
    for (const s of childrenOf(group)) {
      const family = s.attributes['family'] ?? '';
      const ground = childOf(s, 'table-cell-properties')?.attributes['background-color'];
      const text = { ...childOf(s, 'text-properties')?.attributes, ...(ground !== undefined && { 'background-color': ground }) };
      if (s.name === 'style')
        this.byKey.set(`${family} ${s.attributes['name'] ?? ''}`, {
          parent: s.attributes['parent-style-name'],
          text,
          list: s.attributes['list-style-name'],
          hidden: childOf(s, 'table-properties')?.attributes['display'] === 'false',
        });
      else if (s.name === 'default-style') this.defaults.set(family, text);
      else if (s.name === 'list-style') this.lists.set(s.attributes['name'] ?? '', new ListStyle(s));
    }
  }

  private chain(family: string, name: string | undefined): Style[] {
    const out: Style[] = [];
    for (let s = this.byKey.get(`${family} ${name ?? ''}`); s && out.length < 20; s = this.byKey.get(`${family} ${s.parent ?? ''}`)) out.unshift(s);
    return out;
  }
  look(family: 'paragraph' | 'text' | 'table-cell', name: string | undefined, before: TextLook): TextLook {
    const first = family === 'paragraph' ? said(this.defaults.get(family) ?? {}, before) : before;
    return this.chain(family, name).reduce((look, s) => said(s.text, look), first);
  }
  /** Whether a table of a style is not shown. */
  hides(table: string | undefined): boolean {
    return this.byKey.get(`table ${table ?? ''}`)?.hidden ?? false;
  }
  listOf(paragraph: string | undefined): string | undefined {
    return this.chain('paragraph', paragraph).findLast((s) => s.list !== undefined)?.list;
  }
}

function said(props: Record<string, string>, before: TextLook): TextLook {
  const look = { ...before };
  const has = (name: string): string | undefined => props[name];
  const weight = has('font-weight') ?? has('font-weight-complex');
  if (weight !== undefined) look.strong = /bold|[6-9]00/.test(weight);
  const style = has('font-style');
  if (style !== undefined) look.em = style === 'italic' || style === 'oblique';
  const under = has('text-underline-style');
  if (under !== undefined) look.under = under !== 'none';
  const through = has('text-line-through-style');
  if (through !== undefined) look.struck = through !== 'none';
  const ground = has('background-color');
  if (ground !== undefined) look.highlight = standsOut(ground);
  const colour = has('color');
  if (has('use-window-font-color') === 'true') delete look.colour;
  else if (colour !== undefined) look.colour = colour;
  const position = has('text-position');
  if (position !== undefined) {
    look.sup = /^super|^[1-9]/.test(position);
    look.sub = /^sub|^-/.test(position);
  }
  const display = has('display');
  if (display !== undefined) look.hidden = display === 'none';
  const font = has('font-name');
  if (font !== undefined) look.font = font;
  return look;
}

/** Names of formats in ODF are samples of them. */
const FORMATS: Record<string, string> = {
  '1': 'decimal',
  a: 'lowerLetter',
  A: 'upperLetter',
  i: 'lowerRoman',
  I: 'upperRoman',
  '': 'none',
  א: 'hebrew2',
  أ: 'arabicAlpha',
  α: 'greekLower',
  Α: 'greekUpper',
};
const formatOf = (sample: string): string =>
  FORMATS[sample] ??
  (/^[аА]/.test(sample)
    ? `${/\((?:uk)\)/.test(sample) ? 'ukrainian' : 'russian'}${sample.startsWith('А') ? 'Upper' : 'Lower'}`
    : (FORMATS[sample.slice(0, 1)] ?? 'decimal'));

interface Level {
  format: string | null;
  prefix: string;
  suffix: string;
  shown: number;
  start: number;
  bullet: string;
}

export class ListStyle {
  private readonly levels: (Level | undefined)[] = [];
  constructor(n: XmlNode) {
    for (const l of childrenOf(n)) {
      const a = l.attributes;
      this.levels[Number(a['level'] ?? 1) - 1] = {
        format: l.name === 'list-level-style-number' ? formatOf(a['num-format'] ?? '') : null,
        prefix: a['num-prefix'] ?? '',
        suffix: a['num-suffix'] ?? '',
        shown: Number(a['display-levels'] ?? 1),
        start: Number(a['start-value'] ?? 1),
        bullet: a['bullet-char'] ?? '•',
      };
    }
  }
  start(level: number): number {
    return this.levels[level]?.start ?? 1;
  }
  /** The label of a level for the numbers that were counted; null where none is printed. */
  label(level: number, counters: readonly number[]): string | null {
    const own = this.levels[level];
    if (!own) return null;
    if (own.format === null) return bullet(own.bullet);
    const numbers: string[] = [];
    for (let i = Math.max(0, level - own.shown + 1); i <= level; i++) {
      const said = numeral(counters[i] ?? this.start(i), this.levels[i]?.format ?? 'decimal');
      if (said) numbers.push(said);
    }
    const text = numbers.length ? `${own.prefix}${numbers.join('.')}${own.suffix}`.trim() : '';
    return text || null;
  }
}
