/** What results say of a set: its scores, how each item and each option worked, and what is worth a look. */
import { isQuestion, keyPlaces, maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { keptOf, type Mark, type Response, roundPoints } from '../mark/mark.js';
import { notReached } from '../mark/reached.js';
import { type ItemRemark, type OptionFigures, optionFigures, remarksOn } from '../stats/options.js';
import { type Figures, figures, type ItemFigures, quantile } from '../stats/scores.js';

/** How one item worked. */
export interface ItemAnalysis {
  item: Item;
  figures: ItemFigures;
  /** Of an item that is answered by choosing; true and false are "true" and "false". */
  options: OptionFigures[];
  /** Ids of the options that are right. */
  keys: ReadonlySet<string>;
  /** Share of people who gave no answer, and answered something behind it. */
  omitted: number;
  /** Share of people who did not come so far. */
  notReached: number;
  /** Seconds that people looked at it; null where that is not known. */
  seconds: Spread | null;
  remarks: ItemRemark[];
}
/** What the results of a group say. */
export interface Analysis {
  /** The items that count for everybody, in the order of the set. */
  items: ItemAnalysis[];
  /** Items that wait for a person. */
  waiting: Item[];
  figures: Figures;
  /** What can be had, in points. */
  maximum: number;
}

/** What somebody did with a set. */
export interface Sat {
  marks: Readonly<Record<string, Mark>>;
  responses: Readonly<Record<string, Response>>;
  /** Seconds that they looked at items, by their ids, where that is known. */
  times?: Readonly<Record<string, number>> | undefined;
  /** Ids of items behind the last one that they answered, in the order in which they had them; of that of the set where it is not said. */
  notReached?: readonly string[] | undefined;
}
/** Where the middle of figures lies, and the middle half. */
export interface Spread {
  median: number;
  quartiles: readonly [number, number];
}

const optionsOf = (item: Item): string[] =>
  item.kind === 'multiple-choice' || item.kind === 'multiple-response' ? item.options.map((o) => o.id) : item.kind === 'true-false' ? ['true', 'false'] : [];
const keysOf = (item: Item): Set<string> =>
  new Set(
    item.kind === 'multiple-choice' || item.kind === 'multiple-response'
      ? keyPlaces(item).map((n) => item.options[n]?.id ?? '')
      : item.kind === 'true-false' && item.answer !== null
        ? [String(item.answer)]
        : [],
  );
const chosenIn = (r: Response | undefined): string[] => (!r ? [] : 'options' in r ? r.options : 'truth' in r ? [String(r.truth)] : []);

/**
 * The points of each person on what counts for everybody: what was given by hand while others still wait for theirs is left away, so that
 * all are compared by the same.
 * @param people `points` as far as they are kept by `kept`, the share that handing in late leaves
 */
export function settledPoints(set: QuizSet, people: readonly (Sat & { points: number; kept?: number | undefined })[]): number[] {
  const counting = new Set(finalItems(set.items, people).map((i) => i.id));
  const early = set.items.filter((i) => !counting.has(i.id));
  return people.map((p) => roundPoints(early.reduce((sum, i) => sum - keptOf(p.marks[i.id]?.points ?? 0, p.kept ?? 1), p.points)));
}

/** Where seconds lie; null of none. */
function spreadOf(seconds: readonly number[]): Spread | null {
  if (!seconds.length) return null;
  return { median: quantile(seconds, 0.5), quartiles: [quantile(seconds, 0.25), quantile(seconds, 0.75)] };
}

/** @param set with the keys that count, without what was left out */
export function analyse(set: QuizSet, people: readonly Sat[]): Analysis {
  const counting = finalItems(set.items, people);
  const points = people.map((p) => counting.map((i) => p.marks[i.id]?.points ?? 0));
  const totals = points.map((row) => row.reduce((a, b) => a + b, 0));
  const f = figures(counting, points);
  const unreached = people.map((p) => new Set(p.notReached ?? notReached(set.items, p.marks)));
  const share = (n: number): number => (people.length ? n / people.length : 0);
  return {
    items: counting.map((item, j): ItemAnalysis => {
      const own = f.items[j] as ItemFigures;
      const keys = keysOf(item);
      const options = optionFigures(
        optionsOf(item),
        people.map((p, i) => ({ chosen: chosenIn(p.responses[item.id]), rest: (totals[i] ?? 0) - (points[i]?.[j] ?? 0) })),
      );
      const stopped = share(unreached.filter((u) => u.has(item.id)).length);
      const omitted = share(people.filter((p, i) => p.marks[item.id]?.state === 'unanswered' && !unreached[i]?.has(item.id)).length);
      return {
        item,
        figures: own,
        options,
        keys,
        omitted,
        notReached: stopped,
        seconds: spreadOf(people.flatMap((p) => p.times?.[item.id] ?? [])),
        remarks: remarksOn(own, people.length, options, keys, omitted, stopped),
      };
    }),
    waiting: set.items.filter((i) => isQuestion(i) && !counting.includes(i)),
    figures: f,
    maximum: maximumOf(counting),
  };
}

/** Whether an item is worth talking over: fewer than half of its points were reached, or who has more points on the rest chose otherwise. */
export const toDiscuss = ({ figures, remarks }: ItemAnalysis): boolean =>
  figures.difficulty < 0.5 || remarks.some((r) => r.kind === 'likely-key' || r.kind === 'against');
