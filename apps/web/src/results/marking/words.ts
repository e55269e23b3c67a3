/** Answers and decisions in words. */
import { type Decision, gapsInOrder, type Item, nameOf, richToPlain } from '@zakuska/core';
import { written } from '../../ui/figures.js';

/** A share of an item's points, in points. */
export const pointsText = (n: number): string => `${written(n)} ${n === 1 ? 'point' : 'points'}`;

/** Where in an item a decision is: "gap 2 of item 4". */
export const placeWords = (item: Item | undefined, label: string, gap?: string): string => {
  if (gap === undefined || item?.kind !== 'cloze') return `item ${label}`;
  return `gap ${gapsInOrder(item).findIndex((g) => g.id === gap) + 1} of item ${label}`;
};

/** What was typed, or the option of an id. */
const answerText = (text: string, item: Item | undefined): string =>
  item?.kind === 'multiple-choice' ? richToPlain(item.options.find((o) => o.id === text)?.content ?? text) : text;

/** A decision in one sentence, without who made it. @param who the name of the person of a mark by hand */
export function decisionWords(d: Decision, item: Item | undefined, label: string, who?: string): string {
  const at = placeWords(item, label, 'gap' in d ? d.gap : undefined);
  switch (d.type) {
    case 'answer':
      return `“${answerText(d.text, item)}” ${d.credit >= 1 ? 'counts' : d.credit > 0 ? `counts ${Math.round(d.credit * 100)} %` : 'does not count'} in ${at}`;
    case 'key':
      return `${d.said} (${at})`;
    case 'leave-out':
      return `Item ${label} is left out${item ? `: ${nameOf(item, 50)}` : ''}`;
    case 'full-points':
      return `Everybody has the points of item ${label}`;
    case 'hand':
      return `${who ?? 'Somebody'} has ${pointsText(d.points)} for item ${label}${d.comment?.trim() ? ', with a comment' : ''}`;
  }
}
