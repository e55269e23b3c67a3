/** What a line could be: a role with a weight and a reason. A recogniser never looks at what others found and never decides. */
import type { Kind } from '../../item/model.js';
import type { FieldName } from '../model/fields.js';
import type { Line } from '../surface/lines.js';
import type { Series } from '../series/series.js';
import type { TableBlock } from '../surface/tables.js';
import type { Facts } from '../signatures/facts.js';
import type { Segment } from '../signatures/inline.js';
import type { Label } from '../signatures/label.js';

/** What a sign says that a line is. Several of them show as one role in the margin. */
export type SignRole =
  | 'question'
  | 'sub'
  | 'stem'
  | 'option'
  | 'more-option'
  | 'note'
  | 'key'
  | 'field'
  | 'more'
  | 'part'
  | 'instruction'
  | 'list-head'
  | 'list-entry'
  | 'list-more'
  | 'passage'
  | 'row'
  | 'bank'
  | 'write-on'
  | 'code'
  | 'table'
  | 'set-field'
  | 'aside';

/** What a line could be, with its weight (log-odds), the reason for the margin, and where its words stand. */
export interface Sign {
  role: SignRole;
  weight: number;
  /** Why the line could be that, in a few words for people. */
  why: string;
  /** A person said so. */
  said?: true;
  /** As what the habits of the draft, once known, add their weight: its label counts questions, or its series options. */
  habit?: 'question' | 'option';
  /** Column where the words start. */
  at: number;
  /** Column where they end; the line's end where nothing is said. */
  to?: number;
  label?: Label;
  /** A letter right behind the number: "1. (a) …". */
  subLabel?: Label;
  /** Options on the line: one, or several. */
  segments?: readonly Segment[];
  /** What opens the options: the series that they belong to. */
  sig?: string;
  name?: FieldName;
  kind?: Kind;
  /** A question of a matching or ordering task, whose rows follow. */
  task?: 'matching' | 'ordering';
  /** How many entries of a key list stand on the line. */
  entries?: number;
  /** Words that announce the key are there; without them its value alone speaks. */
  announced?: boolean;
  /** The two sides of a row: columns. */
  sides?: { left: [number, number]; right: [number, number]; labelled: boolean };
  /** How many lines with text it takes, where more than one. */
  take?: number;
  table?: TableBlock;
  /** A key in the margin or on the line in front of the label. */
  keyInFront?: [number, number];
  /** A box for true or for false is ticked behind the statement. */
  truthTicked?: boolean;
  /** A key behind the question on its line: columns. */
  keyBehind?: [number, number];
  /** Accepted answers behind the question on its line: columns. */
  keysBehind?: [number, number][];
  /** A name for what is a variation of the role: "chat", "rule", "plain", "truth". */
  sort?: string;
}

/** A line with text in its surroundings. */
export interface View {
  line: Line;
  facts: Facts;
  /** Place among the lines with text. */
  place: number;
  /** Blank lines before it. */
  gap: number;
  /** Starts with a small letter, in a draft that does not do so throughout. */
  lower: boolean;
  before: View | undefined;
  after: View | undefined;
  series: Series;
}

/** Finds signs of one sort. Its examples are tested: the line with ">" in front must get the role named. */
export interface Recogniser {
  /** What it recognises, in a few words. */
  name: string;
  /** Lines in which it must find a sign (the marked line is the one that starts with "> "), with the role that it must give. */
  examples: readonly (readonly [text: string, role: SignRole])[];
  find(v: View): Sign[];
}
