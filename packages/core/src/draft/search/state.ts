/** What a reading knows at a line: where it stands in a question, which labels are due, what the questions before looked like. */
import type { Sign } from '../signs/sign.js';

/** What the lines at hand belong to. */
export const Mode = { top: 0, stem: 1, options: 2, key: 3, notes: 4, passage: 5, list: 6, rows: 7 } as const;

/** One way that a state was reached. */
export interface Edge {
  from: State;
  sign: Sign;
  gain: number;
}

/** What has been read up to a place, as far as it matters to what may follow. States that agree in it are one. */
export class State {
  score = 0;
  /** The best way here, and the others. */
  edges: Edge[] = [];
  /** The best that can still come behind it; filled from the end of the draft. */
  ahead = Number.NEGATIVE_INFINITY;
  /** The next line with text. */
  place = 0;

  mode: number = Mode.top;
  inQuestion = false;
  /** Series and last value of the questions' labels, and where they stand. */
  qSig = '';
  qLast = 0;
  qIndent = 0;
  /** The question at hand has no label. */
  plain = false;
  subSig = '';
  subLast = 0;
  /** Series, last value and number of its options; value of the first option of the last row. */
  oSig = '';
  oLast = 0;
  oCount = 0;
  oRow = 0;
  /** A person has said of one of its options that it is one. */
  oSaid = false;
  keyed = false;
  /** The options of the question before. */
  dSig = '';
  dCount = 0;
  /** 1: a heading since the last question, 2: an instruction. */
  head = 0;
  /** What the question at hand, and the part, ask for: '' | matching | ordering | other kinds. */
  ask = '';
  partKind = '';
  listLast = 0;
  listCount = 0;
  /** The series of the numbers in front of rows. */
  rowSig = '';
  rowLeft = 0;
  rowRight = 0;
  /** How the stem ends: 0 open, 1 asks, 2 ends a sentence. */
  stemEnd = 0;
  /** The label of the question, or a key word, stood alone. */
  bare = false;
  /** The stem is a word or two. */
  brief = false;
  /** No words of the question were read yet. */
  noStem = false;
  /** Where the options stand. */
  oIndent = 0;
  /** The kind that a line under the question names outright. */
  said = '';
  /** How many blanks the stem has. */
  gaps = 0;
  /** No question was read yet. */
  none = true;

  /** Takes over all that another state knows, but not how it was reached. */
  become(o: State): this {
    this.score = o.score;
    this.mode = o.mode;
    this.inQuestion = o.inQuestion;
    this.qSig = o.qSig;
    this.qLast = o.qLast;
    this.qIndent = o.qIndent;
    this.plain = o.plain;
    this.subSig = o.subSig;
    this.subLast = o.subLast;
    this.oSig = o.oSig;
    this.oLast = o.oLast;
    this.oCount = o.oCount;
    this.oRow = o.oRow;
    this.oSaid = o.oSaid;
    this.keyed = o.keyed;
    this.dSig = o.dSig;
    this.dCount = o.dCount;
    this.head = o.head;
    this.ask = o.ask;
    this.partKind = o.partKind;
    this.listLast = o.listLast;
    this.listCount = o.listCount;
    this.rowSig = o.rowSig;
    this.rowLeft = o.rowLeft;
    this.rowRight = o.rowRight;
    this.stemEnd = o.stemEnd;
    this.bare = o.bare;
    this.said = o.said;
    this.brief = o.brief;
    this.noStem = o.noStem;
    this.oIndent = o.oIndent;
    this.gaps = o.gaps;
    this.none = o.none;
    return this;
  }

  /** Whether two states know the same. */
  same(o: State): boolean {
    return this.like(o) && this.qIndent === o.qIndent && this.oIndent === o.oIndent && this.listCount === o.listCount;
  }
  /** Whether two states go on alike. What differs most often is compared first. */
  like(o: State): boolean {
    return (
      this.mode === o.mode &&
      this.oCount === o.oCount &&
      this.oLast === o.oLast &&
      this.qLast === o.qLast &&
      this.oSig === o.oSig &&
      this.qSig === o.qSig &&
      this.dSig === o.dSig &&
      this.dCount === o.dCount &&
      this.inQuestion === o.inQuestion &&
      this.plain === o.plain &&
      this.keyed === o.keyed &&
      this.bare === o.bare &&
      this.none === o.none &&
      this.brief === o.brief &&
      this.noStem === o.noStem &&
      this.head === o.head &&
      this.stemEnd === o.stemEnd &&
      this.subSig === o.subSig &&
      this.subLast === o.subLast &&
      this.oRow === o.oRow &&
      this.oSaid === o.oSaid &&
      this.ask === o.ask &&
      this.partKind === o.partKind &&
      this.said === o.said &&
      this.listLast === o.listLast &&
      this.listCount > 0 === o.listCount > 0 &&
      this.rowSig === o.rowSig &&
      this.rowLeft === o.rowLeft &&
      this.rowRight === o.rowRight &&
      this.gaps === o.gaps
    );
  }
}
