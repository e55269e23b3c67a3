/** What a group can, by outcome, by part of the set and by kind of item: points that were reached of those that could be. */
import { maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { roundPoints } from '../mark/mark.js';
import type { Sat } from './analysis.js';

/** By what items are put together. */
export const partedBy = ['outcome', 'part', 'kind'] as const;
/** By what items are put together. */
export type PartedBy = (typeof partedBy)[number];

/** Some of the items, and what people reached of them. */
export interface PartFigures {
  /** The outcome, the title of the part, the kind; '' for items that have none. */
  name: string;
  items: Item[];
  /** Points that can be had. */
  maximum: number;
  /** Share of the points that all together have reached, 0 to 1. */
  reached: number;
  /** Points of each person, in their order. */
  points: number[];
  /** Places of the people with fewer than half of the points. */
  under: number[];
}

/** Fewer points than this share are few: who has them may need it once more (common practice, no source). */
const FEW = 0.5;

function namesOf(item: Item, by: PartedBy, set: QuizSet): readonly string[] {
  if (by === 'kind') return [item.kind];
  if (by === 'outcome') return item.outcomes?.length ? [...new Set(item.outcomes)] : [''];
  return [set.sections?.find((s) => s.id === item.section)?.title ?? ''];
}

/**
 * The figures by outcome, part or kind: of items that count for everybody, in the order in which they come; what has none stands last. An
 * item of two outcomes counts for both.
 * @param set with the keys that count, without what was left out
 */
export function byParts(set: QuizSet, people: readonly Sat[], by: PartedBy): PartFigures[] {
  const groups = new Map<string, Item[]>();
  for (const item of finalItems(set.items, people)) for (const name of namesOf(item, by, set)) groups.set(name, [...(groups.get(name) ?? []), item]);
  return [...groups]
    .sort(([a], [b]) => Number(a === '') - Number(b === ''))
    .map(([name, items]): PartFigures => {
      const maximum = maximumOf(items);
      const points = people.map((p) => roundPoints(items.reduce((sum, i) => sum + (p.marks[i.id]?.points ?? 0), 0)));
      const all = maximum * people.length;
      return {
        name,
        items,
        maximum,
        reached: all ? points.reduce((a, b) => a + b, 0) / all : 0,
        points,
        under: points.flatMap((p, n) => (p < maximum * FEW ? [n] : [])),
      };
    });
}
