/** What a draft holds as it stands: questions with their stems, options, keys and fields; parts; lists of keys. What the reading gives and the items are made of. */
import type { Kind } from '../../item/model.js';
import type { FieldName } from './fields.js';
import type { Joint, Stretch } from '../surface/stretch.js';

/** What a line is; what the margin shows and a person can override. */
/** What a line is, as the margin says; "more" is only said by people: the line goes on from the one above, whatever that is. */
export type Role = 'question' | 'option' | 'key' | 'feedback' | 'field' | 'pair' | 'step' | 'part' | 'passage' | 'key-list' | 'more' | 'aside' | 'blank';

/** What a line is, as the margin shows it, with the reason. */
export interface LineRole {
  role: Role;
  /** What the margin says: "4", "B", "B ✓", "key C", "feedback". */
  mark: string;
  /** Why the line was read so, in a few words. */
  reason: string;
  /** All of it is code: signs that mark a look elsewhere stand for themselves. */
  code?: true;
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

/** A line that names a field, with its words. */
export interface FieldBlock {
  name: FieldName;
  line: number;
  pieces: Piece[];
}

/** A line or mark that says the key, with its words. */
export interface KeyBlock {
  line: number;
  pieces: Piece[];
  /** Behind an arrow under it. */
  feedback: Piece[];
  /** Read as true or false where that stands in a box in front. */
  truth?: boolean;
}

/** A part of the draft: its heading, what it instructs and gives to read, and which questions it says it holds. */
export interface DraftPart {
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
  /** The letters that its heading gives for true and false. */
  truths?: readonly [string, string];
  /** The part that goes on behind it, where it only holds the sub-questions of one question. */
  lead?: DraftPart;
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
  /** Called a bonus in front. */
  bonus = false;
  /** A task whose rows or steps stand below. */
  asks: 'matching' | 'ordering' | undefined = undefined;

  constructor(
    line: number,
    public part: DraftPart,
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
  rows: { line: number; at: number; to?: number; cells?: readonly { from: number; to: number; text: string }[] }[];
  /** Some row starts with a number. */
  numbered: boolean;
  heading: string;
  line: number;
}

/** All that stands in a draft, before items are made of it. */
export interface Outline {
  blocks: Block[];
  parts: DraftPart[];
  keyRows: KeyRows[];
  roles: LineRole[];
  /** What lines in front of all questions say of the set. */
  meta: { name: 'language' | 'description'; piece: Piece }[];
}

/** The kind that an instruction gives to the block's number: "For questions 5 to 7 write T or F." */
export const kindByNumber = ({ number, part }: Block): Kind | undefined =>
  number === undefined ? undefined : part.ranges.find((r) => number >= r.from && number <= r.to)?.kind;

/** Headings for questions outside of any part, and for a part without a title. */
export const NO_PART = '(no part)';
/** The label of a part that has none of its own. */
export const UNTITLED_PART = '(untitled part)';

/** A part that begins at a line and holds nothing yet. */
export const emptyPart = (line: number): DraftPart => ({ label: '', ranges: [], instructions: [], passage: [], questions: 0, line });

/** An entry of the key list that names this question. */
export interface Listed {
  value: Stretch;
  reason: Stretch | null;
}
