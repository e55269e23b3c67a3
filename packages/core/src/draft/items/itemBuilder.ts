/** What the making of one item works with: the block's words as stretches, its keys, its doubts, and the words used so far. */
import { newId } from '../../item/ids.js';
import type { Diagnostic, Fix, Kind } from '../../item/model.js';
import { kindIn } from '../signatures/headings.js';
import { codeOf, placeOf, stretchOf, type Line } from '../surface/lines.js';
import { kindByNumber, type Block, type Entry, type FieldBlock, type Listed, type Piece } from '../model/outline.js';
import { Stretch } from '../surface/stretch.js';

/** A doubt before it has its place in the draft. Lines and edits count from the block's first line and its first character. */
export interface Problem {
  code: string;
  severity: Diagnostic['severity'];
  message: string;
  /** The line it is about, counted from the block's first; the key list's own line where it is 'listed'. */
  line?: number | 'listed';
  fixes?: Fix[];
}

/** Characters of the draft that became part of a field, counted from the block's first. */
export interface Used {
  from: number;
  to: number;
  as: 'stem' | 'option' | 'pair' | 'step' | 'key' | 'feedback' | 'field' | 'left over';
}

/** What says the key of the question: its words, and where they stand. */
export interface Key {
  text: Stretch;
  line: number | 'listed';
  /** Behind an arrow under the key: of the answer where the kind is named, else of the item. */
  feedback: Stretch | null;
  truth?: boolean;
}

/** So many words of a list below the questions are no key beside one that is said already. */
const EXPLAINS = 4;

/** How the draft as a whole writes, as far as it matters to one item. */
export interface WritingHabits {
  decimalComma: boolean;
  /** Answers stand in square brackets in their sentences. */
  bracketGaps: boolean;
  /** Stems end with their points as a number in brackets: "[2]". */
  bracketPoints: boolean;
  /** Answers stand in round brackets behind the questions, and the draft says so. */
  bracketKeys: boolean;
  /** The letters or signs that stand for true and false throughout; null where the draft names none. */
  truths: readonly [string, string] | null;
  /** Looks of options (see stretch.ts) that mark the key, where nothing else does. */
  keyLook: number;
}

/** The fields that items of every kind have. */
export interface Common {
  id: string;
  stem: string;
  points: number;
  label?: string;
}

/** Makes one item of one block. Whatever goes into a field is remembered in `used`; whatever is unclear in `problems`. */
export class ItemBuilder {
  readonly problems: Problem[] = [];
  readonly used: Used[] = [];
  stem: Stretch;
  points: number | undefined;
  bonus = false;
  /** Seconds to answer in, as a note behind the question says. */
  seconds: number | undefined;
  /** Feedback behind arrows went to the answers. */
  answerFeedback = false;
  /** How difficult it is, as a note in brackets says: tags. */
  level: string[] = [];
  /** The kind that a note in brackets names. */
  noted: Kind | undefined;
  readonly keys: Key[];
  /** Where the words of a field end that the key stands behind. */
  readonly ends = new Map<FieldBlock, number>();
  /** A reason behind a key. */
  reason: Stretch | null = null;
  private readonly origin: number;

  constructor(
    readonly block: Block,
    private readonly lines: readonly Line[],
    private readonly draft: string,
    listed: Listed | undefined,
    readonly manner: WritingHabits,
  ) {
    this.origin = lines[block.line]?.from ?? 0;
    this.stem = this.stretch(block.stem.filter((p) => p.row === undefined));
    this.keys = block.keys.flatMap((k) => {
      const text = this.stretch(k.pieces).trimmed();
      if (!text.text && k.truth === undefined) return [];
      const feedback = k.feedback.length ? this.stretch(k.feedback) : null;
      return [{ text, line: k.line - block.line, feedback, ...(k.truth !== undefined && { truth: k.truth }) }];
    });
    for (const k of this.keys) this.use(k.text, 'key');
    // "1. Plants use carbon dioxide.": below questions that have their keys, and many words say why
    if (listed && this.keys.length && block.entries.length && !listed.reason && listed.value.text.split(/\s+/).length >= EXPLAINS) this.reason = listed.value;
    else if (listed) {
      this.keys.push({ text: listed.value, line: 'listed', feedback: null });
      this.reason = listed.reason;
    }
  }

  /** Pieces of lines as one stretch; lines that go on are joined as they were broken. */
  stretch(pieces: readonly Piece[]): Stretch {
    const parts = pieces.map((p) => {
      const line = this.lines[p.line];
      if (!line) return Stretch.empty;
      return p.code ? codeOf(this.draft, line, this.origin) : stretchOf(line, p.from, p.to, this.origin).trimmed();
    });
    return Stretch.join(parts, (i) => pieces[i]?.joint ?? ' ');
  }
  /** Notes that a stretch went into a field. */
  use(s: Stretch, as: Used['as']): void {
    for (const r of s.runs) this.used.push({ from: r.from, to: r.from + r.length, as });
  }
  /** Takes a stretch out of the field that it went into: it is told as set aside. */
  setAside(s: Stretch): void {
    for (const r of s.runs) {
      const end = r.from + r.length;
      const others = this.used.splice(0).flatMap((u) => [
        { ...u, to: Math.min(u.to, r.from) },
        { ...u, from: Math.max(u.from, end) },
      ]);
      this.used.push(...others.filter((u) => u.from < u.to), { from: r.from, to: end, as: 'left over' });
    }
  }
  /** A stretch as the rich text of a field. */
  rich(s: Stretch, as: Used['as']): string {
    this.use(s, as);
    return s.rich;
  }
  /** A stretch as plain words of a field. */
  words(s: Stretch, as: Used['as']): string {
    this.use(s, as);
    return s.plain;
  }
  /** The stem as rich text. What it takes is counted as used. */
  stemRich(): string {
    const cells = this.block.stem.filter((p) => p.row !== undefined);
    const stem = this.rich(this.stem, 'stem');
    if (!cells.length) return stem;
    const rows = new Map<number, string[]>();
    for (const c of cells) rows.set(c.row ?? 0, [...(rows.get(c.row ?? 0) ?? []), this.rich(this.stretch([c]).trimmed(), 'stem')]);
    const table = [...rows.values()].map((r) => `<tr>${r.map((c) => `<td>${c}</td>`).join('')}</tr>`).join('');
    return `${stem && !stem.startsWith('<p>') ? `<p>${stem}</p>` : stem}<table><tbody>${table}</tbody></table>`;
  }
  /** Id, stem, points and label as the block says them. */
  common(): Common {
    const { label } = this.block;
    return { id: newId(), stem: '', points: 1, ...(label && { label }) };
  }

  get name(): string {
    return this.block.label ? `Question ${this.block.label}` : 'The question';
  }
  /** Remembers a doubt about the item, with fixes where some are safe. */
  doubt(code: string, severity: Problem['severity'], message: string, line?: number | 'listed', fixes?: Fix[]): void {
    this.problems.push({ code, severity, message, ...(line !== undefined && { line }), ...(fixes?.length && { fixes }) });
  }
  /** The line of an entry, counted from the block's first. */
  lineOf(e: Entry): number {
    return (e.pieces[0]?.line ?? this.block.line) - this.block.line;
  }
  /** The place right behind a piece. */
  endOf(p: Piece | undefined): number {
    const line = p && this.lines[p.line];
    if (!line) return 0;
    const end = p.from + line.text.slice(p.from, p.to).trimEnd().length;
    return end > 0 ? placeOf(line, end - 1) + 1 - this.origin : line.from - this.origin;
  }
  /** What the words of the stem, or of the part, say of the kind. */
  kindSaid(): Kind | undefined {
    const b = this.block;
    if (b.kind) return b.kind;
    return kindIn(this.stem.text) ?? kindByNumber(b) ?? b.part.kind;
  }
}
