/** Results as they are handed over: who answered what, and what it earned. */
import type { GradeStep, Rounding } from '../item/grades.js';
import { isQuestion } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import type { Mark, Response } from '../mark/mark.js';

/** One attempt that was handed in. */
export interface Sitting {
  id: string;
  name: string;
  mail?: string | undefined;
  /** What the school calls the person. */
  number?: string | undefined;
  /** ISO 8601. */
  startedAt: string;
  submittedAt: string;
  /** As far as they are kept. */
  points: number;
  /** The share of the points that is kept; absent where all are. */
  kept?: number | undefined;
  /** Seconds that items were looked at, and ids of items behind the last one that was answered, where that is known. */
  times?: Readonly<Record<string, number>> | undefined;
  notReached?: readonly string[] | undefined;
  /** By item; none of an item that was left out. */
  marks: Readonly<Record<string, Mark>>;
  responses: Readonly<Record<string, Response>>;
}

/** What is handed over: the set with the keys that count, and everybody who counts. */
export interface Results {
  set: QuizSet;
  sittings: readonly Sitting[];
  /** The grades that points are worth, where the set has some. */
  grades?: readonly GradeStep[] | undefined;
  /** How points were rounded once they were added up. */
  rounding?: Rounding | undefined;
}

/** The same without names: people by numbers, in an order that tells nothing, without mails and numbers of the school. */
export function pseudonymous({ sittings, ...rest }: Results): Results {
  const order = [...sittings].sort((a, b) => a.id.localeCompare(b.id));
  return { ...rest, sittings: order.map(({ mail: _m, number: _n, ...s }, n) => ({ ...s, name: `Person ${n + 1}` })) };
}

/** Numbers of the items of a set, as they are labelled or counted: '' for what is no question. */
export const labelsOf = ({ set }: Pick<Results, 'set'>): ((item: Item) => string) => {
  const at = new Map(set.items.filter(isQuestion).map((i, n) => [i.id, i.label ?? String(n + 1)]));
  return (item) => at.get(item.id) ?? '';
};
