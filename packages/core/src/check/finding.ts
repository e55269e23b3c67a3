/** What a check finds: a place, a reason, and where it is safe a way to put it right. */
import type { Item, QuizSet } from '../item/model.js';
import type { Aim, SimpleOperation } from '../item/operations.js';

/** error: marks wrongly; warning: likely to mislead; note: worth a look. */
export type Severity = 'error' | 'warning' | 'note';

/** What a rule found: where, why it matters, and a fix where one is safe. */
export interface Finding {
  code: string;
  severity: Severity;
  /** The items that it is about; none where it is about the whole set. */
  items: string[];
  /** Where in the item. */
  place?: 'stem' | 'options' | 'key';
  option?: string;
  message: string;
  /** A change that is safe to make unseen: it touches form, never what is right. */
  fix?: { label: string; operations: SimpleOperation[] };
}

/** What tells a finding from others, whatever its words: its rule, its items, its option. */
export const findingKey = (f: Pick<Finding, 'code' | 'items' | 'option'>): string => [f.code, ...f.items.slice(0, 4), f.option ?? ''].join(' ').slice(0, 400);

/** One check: looks at items one by one (`ofItem`) or at the whole set (`ofSet`), and carries the examples that it is tested with. */
export interface Rule {
  code: string;
  name: string;
  /** Why it matters, for the person. */
  why: string;
  /** Where the rule is published. */
  source: string;
  /** Drafts of one set each: in the first ones it is found, in the others, though near, it is not. Shown to people and tested. */
  examples: { found: readonly string[]; fine: readonly string[]; aim?: Aim };
  ofItem?(item: Item, limits: Limits, about: About): Omit<Finding, 'code' | 'items'>[];
  ofSet?(set: QuizSet, limits: Limits, about: About): Omit<Finding, 'code'>[];
}

/** What rules know of the set around an item. */
export interface About {
  language: string | undefined;
  aim: Aim;
}

/** Thresholds that a workspace may change. */
export interface Limits {
  lengthRatio: number;
  chance: number;
  likeness: number;
  yearsAbove: number;
  sentenceWords: number;
  gapShare: number;
}
/** What each threshold means, and between what it can be set. */
export const limitRows: readonly { name: keyof Limits; label: string; usual: number; min: number; max: number; step: number }[] = [
  { name: 'lengthRatio', label: 'The key stands out from this many times the longest other option', usual: 1.6, min: 1.1, max: 4, step: 0.1 },
  { name: 'chance', label: 'Keys are uneven where chance makes them so at most this often', usual: 0.01, min: 0.001, max: 0.2, step: 0.001 },
  { name: 'likeness', label: 'Items are alike from this share of common words', usual: 0.8, min: 0.4, max: 1, step: 0.05 },
  { name: 'yearsAbove', label: 'An item is too hard to read from this many school years above the set’s level', usual: 3, min: 1, max: 8, step: 0.5 },
  { name: 'sentenceWords', label: 'A sentence is long from this many words', usual: 30, min: 12, max: 60, step: 1 },
  { name: 'gapShare', label: 'A text has too many gaps where they are more than this share of its words', usual: 0.35, min: 0.1, max: 0.9, step: 0.05 },
];
/** The thresholds that hold where a workspace has set none. */
export const usualLimits: Limits = Object.fromEntries(limitRows.map((r) => [r.name, r.usual])) as unknown as Limits;

/**
 * Haladyna, T. M., Downing, S. M. and Rodriguez, M. C. (2002), A Review of Multiple-Choice Item-Writing Guidelines for Classroom
 * Assessment, Applied Measurement in Education 15(3), 309-334; their list has 31 guidelines, numbered here from memory.
 */
export const guideline = (n: number): string => `Haladyna, Downing and Rodriguez 2002, guideline ${n} (number from memory)`;
