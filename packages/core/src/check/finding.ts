/** What a check finds: a place, a reason, and where it is safe a way to put it right. */
import type { Item, QuizSet } from '../item/model.js';
import type { SimpleOperation } from '../item/operations.js';

/** error: marks wrongly; warning: likely to mislead; note: worth a look. */
export type Severity = 'error' | 'warning' | 'note';

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

export interface Rule {
  code: string;
  name: string;
  /** Why it matters, for the person. */
  why: string;
  /** Where the rule is published. */
  source: string;
  ofItem?(item: Item, limits: Limits): Omit<Finding, 'code' | 'items'>[];
  ofSet?(set: QuizSet, limits: Limits): Omit<Finding, 'code'>[];
}

/** Thresholds that a workspace may change. */
export interface Limits {
  /** A keyed option this many times as long as the longest other one stands out. */
  lengthRatio: number;
  /** A spread of keys as uneven as this happens by chance with this probability or less. */
  chance: number;
  /** Shares of words that two stems have in common, from which on they are near-duplicates. */
  likeness: number;
}
export const usualLimits: Limits = { lengthRatio: 1.6, chance: 0.01, likeness: 0.8 };

/**
 * Haladyna, T. M., Downing, S. M. and Rodriguez, M. C. (2002), A Review of Multiple-Choice Item-Writing Guidelines for Classroom
 * Assessment, Applied Measurement in Education 15(3), 309-334; their list has 31 guidelines, numbered here from memory.
 */
export const guideline = (n: number): string => `Haladyna, Downing and Rodriguez 2002, guideline ${n} (number from memory)`;
