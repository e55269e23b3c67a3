/** Two groups of those who sat a set: their scores, and whether items work the same for both. */
import { isQuestion, maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { type GroupFigures, groupFigures } from '../stats/groups.js';
import { type Figures, figures } from '../stats/scores.js';
import type { Sat } from './analysis.js';

/** An item in two groups. */
export interface ItemCompared {
  item: Item;
  /** Share of the points that each group reached. */
  reached: readonly [number, number];
  /** Null where the groups are too small, or nothing differs. */
  groups: GroupFigures | null;
}
/** Two groups compared. */
export interface Compared {
  figures: readonly [Figures, Figures];
  maximum: number;
  items: ItemCompared[];
}

/**
 * @param set with the keys that count
 * @param second whether each person is of the second group; null for who is of neither
 */
export function compareGroups(set: QuizSet, people: readonly Sat[], second: readonly (boolean | null)[]): Compared {
  const items = finalItems(set.items, people).filter(isQuestion);
  const points = people.map((p) => items.map((i) => p.marks[i.id]?.points ?? 0));
  const totals = points.map((row) => row.reduce((a, b) => a + b, 0));
  const of = (group: boolean): Figures =>
    figures(
      items,
      points.filter((_, n) => second[n] === group),
    );
  const both = [of(false), of(true)] as const;
  return {
    figures: both,
    maximum: maximumOf(items),
    items: items.map((item, j) => ({
      item,
      reached: [both[0].items[j]?.difficulty ?? 0, both[1].items[j]?.difficulty ?? 0],
      groups: groupFigures(
        people.map((p) => p.marks[item.id]?.state === 'right'),
        totals,
        second,
      ),
    })),
  };
}

/** What a person is told apart by. */
export interface Called {
  name: string;
  mail?: string;
  number?: string;
}
const plain = (s: string | undefined): string => (s ?? '').trim().replace(/\s+/g, ' ').toLowerCase();
/**
 * Whether somebody stands on a list: by number, else by mail, else by name. A name that two on the list have is nobody's.
 * @returns for each person whether they are there
 */
export function onList(people: readonly Called[], list: readonly Called[]): boolean[] {
  const numbers = new Set(list.map((m) => plain(m.number)).filter(Boolean));
  const mails = new Set(list.map((m) => plain(m.mail)).filter(Boolean));
  const counts = new Map<string, number>();
  for (const m of list) counts.set(plain(m.name), (counts.get(plain(m.name)) ?? 0) + 1);
  return people.map((p) => (p.number ? numbers.has(plain(p.number)) : false) || (p.mail ? mails.has(plain(p.mail)) : false) || counts.get(plain(p.name)) === 1);
}
