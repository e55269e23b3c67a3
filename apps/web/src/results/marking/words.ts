/** Answers and decisions in words. */
import { type Decision, gapsInOrder, type Item, nameOf, richToPlain } from '@zakuska/core';
import { written } from '../../ui/figures.js';
import { say } from '../../words/say.js';

/** A share of an item's points, in points. */
export const pointsText = (n: number): string => `${written(n)} ${n === 1 ? 'point' : 'points'}`;

/** Where in an item a decision is: "gap 2 of item 4". */
export const placeWords = (item: Item | undefined, label: string, gap?: string): string => {
  if (gap === undefined || item?.kind !== 'cloze') return say('item {label}', { label });
  return say('gap {n} of item {label}', { n: gapsInOrder(item).findIndex((g) => g.id === gap) + 1, label });
};

/** What was typed, or the option of an id. */
const answerText = (text: string, item: Item | undefined): string =>
  item?.kind === 'multiple-choice' ? richToPlain(item.options.find((o) => o.id === text)?.content ?? text) : text;

/** A decision in one sentence, without who made it. @param who the name of the person of a mark by hand */
export function decisionWords(d: Decision, item: Item | undefined, label: string, who?: string): string {
  const at = placeWords(item, label, 'gap' in d ? d.gap : undefined);
  switch (d.type) {
    case 'answer':
      return say('“{answerText}” {what} in {at}', {
        answerText: answerText(d.text, item),
        what: d.credit >= 1 ? say('counts') : d.credit > 0 ? say('counts {round} %', { round: Math.round(d.credit * 100) }) : say('does not count'),
        at,
      });
    case 'key':
      return `${d.said} (${at})`;
    case 'leave-out':
      return say('Item {label} is left out{what}', { label, what: item ? `: ${nameOf(item, 50)}` : '' });
    case 'full-points':
      return say('Everybody has the points of item {label}', { label });
    case 'hand':
      return say('{who} has {pointsText} for item {label}{what}', {
        who: who ?? say('Somebody'),
        pointsText: pointsText(d.points),
        label,
        what: d.comment?.trim() ? say(', with a comment') : '',
      });
  }
}
