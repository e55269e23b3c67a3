/** From lines to blocks: each question with its stem, options, keys and fields as they stand in the draft. */
import type { Kind } from '../item/model.js';
import { constructs, obey } from './constructs/index.js';
import type { FieldName } from './fields.js';
import { kindIn, kindsOfRanges, partLabel } from './headings.js';
import { habitsOf, type Habits } from './habits.js';
import { told, type Line } from './lines.js';
import type { Joint } from './stretch.js';
import { truth, truthKey, truthNote } from './truths.js';

/** What a line is; what the margin shows and a person can override. */
export type Role = 'question' | 'option' | 'key' | 'feedback' | 'field' | 'pair' | 'step' | 'part' | 'passage' | 'key-list' | 'aside' | 'blank';

export interface LineRole {
  role: Role;
  /** What the margin says: "4", "B", "B ✓", "key C", "feedback". */
  mark: string;
  /** Why the line was read so, in a few words. */
  reason: string;
}

/** Columns of a line's text. */
export interface Piece {
  line: number;
  from: number;
  to: number;
  /** How it is joined to the piece before it; a blank where nothing is said. */
  joint?: Joint;
  /** The row of a table that the piece is a cell of. */
  row?: number;
  /** A line of fenced code: all of the line as it stands. */
  code?: true;
}

/** What the labels of a list are: letters, numbers, small Roman numbers, bullets or nothing. */
export type LabelClass = 'letter' | 'number' | 'roman' | 'bullet' | 'none';

/** An entry of the list under a question: an option, a step, or one side of a pair. The question decides which. */
export interface Entry {
  label: string;
  form: string;
  labels: LabelClass;
  pieces: Piece[];
  marked: boolean;
  /** A star that is a key mark only where not every option has one. */
  star: boolean;
  feedback: Piece[];
}

export interface FieldBlock {
  name: FieldName;
  line: number;
  pieces: Piece[];
}

export interface KeyBlock {
  line: number;
  pieces: Piece[];
  /** Behind an arrow under it. */
  feedback: Piece[];
  /** Read as true or false where that stands in a box in front. */
  truth?: boolean;
}

export interface Part {
  title?: string;
  /** What key lists call it: "A", "2"; empty where it has no name. */
  label: string;
  kind?: Kind;
  /** Kinds that an instruction gives to numbered questions. */
  ranges: { from: number; to: number; kind: Kind }[];
  points?: number;
  total?: number;
  instructions: Piece[];
  passage: Piece[];
  /** A section of its own, though without a title. */
  untitled?: boolean;
  /** How many questions stand in it. */
  questions: number;
  /** The last question that its passage is for. */
  until?: number;
  /** The part that goes on behind it, where it only holds the sub-questions of one question. */
  lead?: Part;
  /** Its first line. */
  line: number;
}

/** A question as it stands in the draft. */
export class Block {
  /** As printed: "4", "3a", "IV"; undefined where there is none. */
  label: string | undefined;
  number: number | undefined;
  /** The letter of a part of a question: the "a" of "3a". */
  sub: string | undefined;
  form: string;
  line: number;
  last: number;
  stem: Piece[] = [];
  entries: Entry[] = [];
  /** How many entries have labels of each class, and the last with a letter. */
  readonly count: Record<LabelClass, number> = { letter: 0, number: 0, roman: 0, bullet: 0, none: 0 };
  lastLetter: Entry | undefined = undefined;
  keys: KeyBlock[] = [];
  fields: FieldBlock[] = [];
  readonly pairs: { left: Piece[]; right: Piece[] }[] = [];
  /** A kind that the draft gives by a word of its own: a column, a field. */
  kind: Kind | undefined = undefined;
  /** Read from a row of a table; its cells stand for what their column says. */
  row = false;
  /** The cell of a row with how far an answer may be off. */
  tolerance: Piece[] | undefined = undefined;
  /** What the stem's words say of the kind, and for how many pieces of the stem that was looked up. */
  said: Kind | undefined = undefined;
  saidOf = -1;

  constructor(
    line: number,
    readonly part: Part,
    name: { label?: string; number?: number; sub?: string; form?: string },
  ) {
    this.line = line;
    this.last = line;
    this.label = name.label;
    this.number = name.number;
    this.sub = name.sub;
    this.form = name.form ?? '';
  }
}

/** A stretch of lines that hold keys: where each line's entries start, and the part they are headed with. */
export interface KeyRows {
  rows: { line: number; at: number }[];
  /** Some row starts with a number. */
  numbered: boolean;
  heading: string;
  line: number;
}

export interface Outline {
  blocks: Block[];
  parts: Part[];
  keyRows: KeyRows[];
  roles: LineRole[];
  habits: Habits;
  /** What lines in front of all questions say of the set. */
  meta: { name: 'language' | 'description'; piece: Piece }[];
}

/** Reads the lines into blocks. `overrides` says by line number what a person has said the line is. */
export function outline(lines: readonly Line[], overrides: ReadonlyMap<number, Role>): Outline {
  const o = new Outliner(lines, overrides);
  for (const line of lines) {
    if (o.taken > line.index) continue;
    if (line.own.fold) o.fold = line.own.fold > 0;
    if (line.blank) {
      o.blankBefore = true;
      if (line.to > line.from && line.own.fold) o.say(line, 'aside', '', 'Markup of an answer that is folded away.');
      if (line.own.fold === -1) o.fold = false;
      continue;
    }
    const said = overrides.get(line.index);
    if (said) obey(o, line, said);
    else constructs.some((c) => c.read(o, line));
    o.blankBefore = false;
    if (line.own.fold === 2) o.fold = false;
  }
  truthParts(o, lines);
  return { blocks: o.blocks, parts: o.parts, keyRows: o.keyRows, roles: o.roles, habits: o.habits, meta: o.meta };
}

/** A part in which nearly all questions are statements called true or false asks that of all of them. */
function truthParts(o: Outliner, lines: readonly Line[]): void {
  const seen = new Map<Part, { all: number; truths: number }>();
  for (const b of o.blocks) {
    if (b.part.kind || b.kind || b.entries.length || b.pairs.length) continue;
    const n = seen.get(b.part) ?? { all: 0, truths: 0 };
    n.all++;
    const last = lines[b.stem[b.stem.length - 1]?.line ?? -1];
    const key = b.keys[0] ? o.text(b.keys[0].pieces) : '';
    if ((last && (told(last, truthKey) ?? told(last, truthNote))) || (key && truth(key.split(/[\s.,;–—(-]/)[0] ?? '', true) !== null)) n.truths++;
    seen.set(b.part, n);
  }
  for (const [part, n] of seen) if (n.truths >= 3 && n.truths >= n.all * 0.8) part.kind = 'true-false';
}

/** The kind that an instruction gives to the block's number: "For questions 5 to 7 write T or F." */
export const kindByNumber = ({ number, part }: Block): Kind | undefined =>
  number === undefined ? undefined : part.ranges.find((r) => number >= r.from && number <= r.to)?.kind;

/** Kinds of stems looked up lately: the same question is asked about them in every reading. */
const kindsSeen = new Map<string, Kind | undefined>();
const kindOfWords = (stem: string): Kind | undefined => {
  if (stem.length > 2000) return kindIn(stem);
  if (kindsSeen.has(stem)) return kindsSeen.get(stem);
  if (kindsSeen.size > 50_000) kindsSeen.clear();
  const kind = kindIn(stem);
  kindsSeen.set(stem, kind);
  return kind;
};

/** The state of reading that constructs share. */
export class Outliner {
  readonly habits: Habits;
  readonly blocks: Block[] = [];
  readonly parts: Part[] = [];
  readonly keyRows: KeyRows[] = [];
  readonly roles: LineRole[];
  readonly meta: Outline['meta'] = [];
  part: Part = emptyPart(0);
  block: Block | null = null;
  blankBefore = true;
  /** Inside a list of keys. */
  inKeys = false;
  /** Inside a fence of code. */
  fence: '' | 'code' | 'wrap' = '';
  /** Inside an answer that is folded away. */
  fold = false;
  /** "Answer:" stood alone; its value is awaited. */
  waiting = false;
  /** Prose belongs to a passage. */
  reading = false;
  /** Some question has a number. */
  numbered: boolean;
  /** Lines before this one are read already. */
  taken = 0;

  constructor(
    readonly lines: readonly Line[],
    readonly overrides: ReadonlyMap<number, Role>,
  ) {
    this.habits = habitsOf(lines);
    this.numbered = this.habits.numbered;
    this.roles = lines.map(() => blankRole);
    this.parts.push(this.part);
  }

  say(line: Line, role: Role, mark: string, reason: string): true {
    this.roles[line.index] = { role, mark, reason };
    if (this.block && role !== 'aside' && role !== 'part' && role !== 'key-list' && role !== 'passage') this.block.last = line.index;
    return true;
  }
  aside(line: Line, reason: string): true {
    return this.say(line, 'aside', 'aside', reason);
  }
  piece(line: Line, from: number, to = line.text.length, joint?: Joint): Piece {
    return joint ? { line: line.index, from, to, joint } : { line: line.index, from, to };
  }

  /** The next line with text behind a line. */
  next(index: number): Line | undefined {
    for (let i = index + 1; i < this.lines.length; i++) if (!this.lines[i]?.blank) return this.lines[i];
    return undefined;
  }
  /** The line with text before a line. */
  before(index: number): Line | undefined {
    for (let i = index - 1; i >= 0; i--) if (!this.lines[i]?.blank) return this.lines[i];
    return undefined;
  }

  open(line: Line, at: number, label: { label?: string; number?: number; sub?: string; form?: string }): Block {
    const b = new Block(line.index, this.part, label);
    this.block = b;
    this.blocks.push(b);
    this.part.questions++;
    if (label.number !== undefined) this.numbered = true;
    this.reading = false;
    this.inKeys = false;
    this.waiting = false;
    if (line.text.slice(at).trim()) b.stem.push(this.piece(line, at));
    return b;
  }
  openPart(line: Line, reason: string): Part {
    const t = line.text.trim();
    const part = emptyPart(line.index);
    // the names that the notation gives to parts without a title
    if (t !== NO_PART && t !== UNTITLED_PART) part.title = t;
    part.untitled = t === UNTITLED_PART;
    part.label = partLabel(t);
    this.part = part;
    this.parts.push(part);
    this.block = null;
    this.inKeys = false;
    this.reading = false;
    this.say(line, 'part', 'part', reason);
    return part;
  }

  text(pieces: readonly Piece[]): string {
    let out = '';
    for (const p of pieces) {
      const l = this.lines[p.line];
      if (l) out += `${out ? ' ' : ''}${l.text.slice(p.from, p.to).trim()}`;
    }
    return out;
  }
  /** The words of a stem; of a very long one the start and the end. */
  stem(b: Block): string {
    return b.stem.length > 24 ? this.text([...b.stem.slice(0, 12), ...b.stem.slice(-6)]) : this.text(b.stem);
  }
  /** Takes back a block that was opened: its lines turned out to be something else. */
  drop(b: Block): void {
    const at = this.blocks.lastIndexOf(b);
    if (at >= 0) this.blocks.splice(at, 1);
    b.part.questions--;
  }
  /** What the words of the stem, or of the part, say of the kind. */
  kindOf(b: Block): Kind | undefined {
    if (b.kind) return b.kind;
    if (b.saidOf !== b.stem.length) {
      b.said = kindOfWords(this.stem(b)) ?? kindByNumber(b) ?? b.part.kind;
      b.saidOf = b.stem.length;
    }
    return b.said;
  }
  /** Whether the block has all that an answered question has. */
  complete(b: Block): boolean {
    return b.entries.length > 0 || b.keys.length > 0 || b.pairs.length > 0 || b.fields.length > 0;
  }
  instruct(line: Line): void {
    const t = line.text;
    const ranges = told(line, kindsOfRanges);
    this.part.ranges.push(...ranges);
    const kind = told(line, kindIn);
    if (kind && !ranges.length && !this.part.kind) this.part.kind = kind;
    this.part.instructions.push(this.piece(line, t.length - t.trimStart().length));
  }
}

/** Headings for questions outside of any part, and for a part without a title. */
export const NO_PART = '(no part)';
export const UNTITLED_PART = '(untitled part)';

const blankRole: LineRole = { role: 'blank', mark: '', reason: '' };
export const emptyPart = (line: number): Part => ({ label: '', ranges: [], instructions: [], passage: [], questions: 0, line });
