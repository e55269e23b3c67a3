/**
 * What a QTI 1.2 item shows and asks for (IMS QTI ASI 1.2, presentation): texts and responses in their order become a stem and
 * interactions. Which, is said by a table of shapes; the first that fits reads the item.
 */
import { richToXhtml } from '../../../item/markup.js';
import { isMarkup, richToPlain } from '../../../item/richText.js';
import { partsOf } from '../../../item/strip.js';
import { childOf, childrenOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import type { Choice, Interaction } from '../assessmentItem.js';
import { joinRich, richOfMaterial, type Surroundings } from '../content.js';
import type { Around } from '../split.js';
import type { Conditions } from './conditions.js';
import { type Metadata, yes } from './metadata.js';

const RESPONSES = ['response_lid', 'response_str', 'response_num', 'response_grp', 'response_xy'];
type Token = { text: string } | { response: XmlNode };

/** Texts and responses in the order in which they stand. */
function tokensOf(presentation: XmlNode, around: Surroundings): Token[] {
  const out: Token[] = [];
  const walk = (n: XmlNode): void => {
    for (const c of childrenOf(n)) {
      if (RESPONSES.includes(c.name)) out.push({ response: c });
      else if (c.name === 'material' && (c.attributes['label'] === 'unit' || c.attributes['label'] === 'word-bank')) continue;
      else if (c.name === 'material' || c.name.startsWith('mat')) {
        const text = richOfMaterial(c, around);
        // white space alone still parts two gaps
        if (!text && /^\s+$/.test(textOf(childOf(c, 'mattext') ?? c)) && childOf(c, 'mattext')) out.push({ text: ' ' });
        // what stands in a block of its own is parted from what follows
        if (text) out.push({ text: inLine(c) ? keepEnds(text, c) + (n.name === 'flow_mat' ? ' ' : '') : text });
      } else walk(c);
    }
  };
  walk(presentation);
  return out;
}
const inLine = (material: XmlNode): boolean => !isMarkup(textOf(material));
/** A piece of a line keeps the blank at its ends, where a gap comes before or behind. */
const keepEnds = (text: string, material: XmlNode): string => {
  const raw = textOf(childrenOf(material)[0] ?? material);
  return `${/^\s/.test(raw) ? ' ' : ''}${text}${/\s$/.test(raw) ? ' ' : ''}`;
};

/** What is shown and asked for. */
export interface Presented {
  stem: string;
  /** The interactions stand in the text of the stem. */
  inline: boolean;
  parts: Interaction[];
  /** A sort of interaction that is not read. */
  unsupported?: string;
  /** Where each part is a question of its own: what stands around it, and behind the last one. */
  around?: { each: Around[]; rest: string };
}

const ident = (r: XmlNode): string => r.attributes['ident'] ?? '';
const isShuffled = (r: XmlNode): boolean => descendants(r, 'render_choice').some((c) => yes(c.attributes['shuffle']));

/** A presentation as the shapes look at it. */
class Presentation {
  readonly tokens: readonly Token[];
  readonly responses: readonly XmlNode[];
  /** The responses that are choices, and what stands in them before their labels, as words. */
  readonly lids: readonly XmlNode[];
  readonly names: readonly string[];
  /** The texts without the responses. */
  readonly stem: string;

  constructor(
    readonly node: XmlNode,
    readonly meta: Metadata,
    /** The kind that the metadata name, in small letters. */
    readonly kind: string,
    readonly scorer: Conditions,
    /** Written by this program. */
    readonly exact: boolean,
    readonly around: Surroundings,
  ) {
    this.tokens = tokensOf(node, around);
    this.responses = this.tokens.flatMap((t) => ('response' in t ? [t.response] : []));
    this.lids = this.responses.filter((r) => r.name === 'response_lid');
    this.names = this.lids.map((r) => richToPlain(this.own(r)).trim());
    this.stem = joinRich(
      this.tokens.flatMap((t) => ('text' in t ? [t.text] : [])),
      ' ',
    );
  }
  get onlyChoices(): boolean {
    return this.lids.length === this.responses.length;
  }
  /** The one response of an item that has one. */
  get single(): XmlNode {
    return this.responses[0] as XmlNode;
  }

  /** The text of a response before its labels. */
  own(r: XmlNode): string {
    return joinRich(
      childrenOf(r)
        .filter((c) => /^(material|flow_mat|flow|material_ref)$/.test(c.name))
        .map((c) => richOfMaterial(c, this.around)),
    );
  }
  /** The stem with what stands in a response behind it. */
  stemAnd(r: XmlNode): string {
    const lead = this.own(r);
    return lead ? joinRich([this.stem, lead], ' ') : this.stem;
  }
  choices(r: XmlNode): Choice[] {
    const mayPin = isShuffled(r) || this.exact;
    return descendants(r, 'response_label').map((l) => ({
      identifier: l.attributes['ident'] ?? '',
      content: richOfMaterial(l, this.around),
      ...(mayPin && /^no$/i.test(l.attributes['rshuffle'] ?? '') && { pinned: true }),
    }));
  }
  typed(r: XmlNode): Interaction {
    const number = this.scorer.isNumber(ident(r)) || (this.kind.includes('numer') && this.responses.length === 1);
    return { type: 'typed', variable: ident(r), number };
  }
  /** A response within a text: a list to choose from, or a gap to fill. */
  gap(r: XmlNode): Interaction {
    return r.name === 'response_lid' ? { type: 'gap', variable: ident(r), options: this.choices(r) } : this.typed(r);
  }
  /** The stem with a gap marker for each response, in one line where the texts are. */
  woven(): Presented {
    const parts: Interaction[] = [];
    const pieces = this.tokens.map((t) => {
      if ('text' in t) return t.text;
      parts.push(this.gap(t.response));
      return `${this.own(t.response)}[[${parts.length}]]`;
    });
    return { stem: pieces.some(isMarkup) ? joinRich(pieces) : pieces.join(''), inline: true, parts };
  }
  /** The stem with the markers of the file ("[tool]") as gap markers. */
  marked(names: readonly string[]): Presented {
    const stem = names.reduce((s, name, i) => s.replace(`[${name}]`, `[[${i + 1}]]`), this.stem);
    return { stem, inline: true, parts: this.responses.map((r) => this.gap(r)) };
  }
  /** A choice for each left side. */
  rows(): Presented {
    const match: Interaction = {
      type: 'match',
      rows: this.lids.map((r) => ({ content: this.own(r), options: this.choices(r) })),
      answer: (row, o) => [ident(this.lids[row] as XmlNode), o.identifier],
      ...(this.lids.some(isShuffled) && { shuffle: true }),
    };
    return this.plain(match);
  }
  /** Choices one below the other that have no option in common: none is a row of the others. */
  get apart(): boolean {
    const options = this.lids.map((r) => new Set(this.choices(r).map((c) => c.content)));
    const all = options.flatMap((o) => [...o]);
    return options.every((o) => o.size > 1) && new Set(all).size === all.length;
  }
  /** Each response with its text as a question of its own. */
  questions(): Presented {
    const each: Around[] = [];
    let before = '';
    for (const t of this.tokens) {
      if ('text' in t) {
        before += `<p>${richToXhtml(t.text)}</p>`;
        continue;
      }
      each.push({ before, prompt: richToXhtml(this.own(t.response)) });
      before = '';
    }
    return { stem: this.stem, inline: false, parts: this.lids.map((r) => this.choicePart(r)), around: { each, rest: before } };
  }
  choicePart(r: XmlNode): Interaction {
    const cardinality = (r.attributes['rcardinality'] ?? 'Single').toLowerCase();
    const shuffle = isShuffled(r) ? { shuffle: true } : {};
    const options = this.choices(r);
    return cardinality === 'ordered'
      ? { type: 'order', variable: ident(r), options, ...shuffle }
      : { type: 'choice', variable: ident(r), several: cardinality === 'multiple', options, ...shuffle };
  }
  plain(part: Interaction, stem = this.stem): Presented {
    return { stem, inline: false, parts: [part] };
  }
}

const choice = (p: Presentation): Presented => p.plain(p.choicePart(p.single), p.stemAnd(p.single));

/** Labels with a `match_group` are the left sides of the others. */
function groups(p: Presentation): Presented {
  const r = p.single;
  const labels = descendants(r, 'response_label');
  const isLeft = (_: Choice, i: number): boolean => labels[i]?.attributes['match_group'] !== undefined;
  const all = p.choices(r);
  const lefts = all.filter(isLeft);
  const rights = all.filter((c, i) => !isLeft(c, i));
  return p.plain({
    type: 'match',
    rows: lefts.map((l) => ({ content: l.content, options: rights })),
    answer: (row, o) => [ident(r), `${lefts[row]?.identifier},${o.identifier}`],
  });
}

/** One response to type: an essay where nothing in the file could mark it, else a short answer, in the text where text comes behind it. */
function written(p: Presentation): Presented {
  const r = p.single;
  const rows = Math.max(0, ...descendants(r, 'render_fib').map((f) => Number(f.attributes['rows'] ?? 0)));
  const byHand = /^no$/i.test(p.meta.first('qmd_computerscored') ?? '');
  const open = !p.scorer.scores && (rows > 1 || byHand || /essay|text_only|long/.test(p.kind) || !p.scorer.literals(ident(r)).length);
  if (open && !(rows <= 1 && /short|fill|fib/.test(p.kind))) {
    const lines = rows > 1 || (p.exact && rows > 0) ? rows : undefined;
    return p.plain({ type: 'extended', variable: ident(r), ...(lines && { lines }) });
  }
  const at = p.tokens.findIndex((t) => 'response' in t);
  return p.tokens.slice(at + 1).some((t) => 'text' in t) ? p.woven() : p.plain(p.typed(r), p.stemAnd(r));
}

/** The shapes of presentations, the first that fits reads; the last fits all. */
const SHAPES: readonly { fits(p: Presentation): boolean; read(p: Presentation): Presented }[] = [
  {
    fits: (p) => p.responses.some((r) => r.name === 'response_xy' || descendants(r, 'render_hotspot').length > 0),
    read: (p) => ({ stem: p.stem, inline: false, parts: [], unsupported: 'hotspot' }),
  },
  // a text to read
  { fits: (p) => p.responses.length === 0, read: (p) => ({ stem: p.stem, inline: false, parts: [] }) },
  {
    fits: (p) => p.exact && /blanks|dropdowns/.test(p.kind),
    read: (p) => (p.responses.every((r) => p.own(r) !== '') ? p.marked(p.responses.map((_, i) => String(i + 1))) : p.woven()),
  },
  { fits: (p) => p.exact && p.kind.includes('matching'), read: (p) => p.rows() },
  { fits: (p) => p.onlyChoices && p.lids.length === 1, read: choice },
  // blanks named in the text: "[tool] and [use]"
  { fits: (p) => p.onlyChoices && p.names.every((n) => n !== '' && p.stem.includes(`[${n}]`)), read: (p) => p.marked(p.names) },
  { fits: (p) => p.onlyChoices && !p.exact && p.apart, read: (p) => p.questions() },
  { fits: (p) => p.onlyChoices && p.names.every((n) => n !== ''), read: (p) => p.rows() },
  { fits: (p) => p.responses.length === 1 && p.single.name === 'response_grp', read: groups },
  { fits: (p) => p.responses.length === 1, read: written },
  { fits: () => true, read: (p) => p.woven() },
];

/** The stem and the interactions of a presentation. */
export function presentationOf(node: XmlNode, meta: Metadata, kind: string, scorer: Conditions, exact: boolean, around: Surroundings): Presented {
  const p = new Presentation(node, meta, kind, scorer, exact, around);
  return (SHAPES.find((s) => s.fits(p)) as (typeof SHAPES)[number]).read(p);
}

/** The word bank and the unit, which stand in materials of these labels. */
export function labelledMaterials(presentation: XmlNode, around: Surroundings): { wordBank?: string[]; unit?: string } {
  const labelled = (name: string): string[] =>
    descendants(presentation, 'material')
      .filter((m) => m.attributes['label'] === name)
      .map((m) => richToPlain(richOfMaterial(m, around)));
  const wordBank = labelled('word-bank')
    .flatMap((w) => partsOf(w, '\n'))
    .filter(Boolean);
  const [unit] = labelled('unit');
  return { ...(wordBank.length && { wordBank }), ...(unit && { unit }) };
}
