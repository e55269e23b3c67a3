/** What one person did, as text for a mail or to print: points, and of each item the answer, its points, the key where it was missed, the comment. */
import { roundTotal } from '../item/grades.js';
import { isQuestion, maximumOf, nameOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { answerLines } from '../mark/answerWords.js';
import { type Mark, keptOf, roundPoints } from '../mark/mark.js';
import { keyText } from '../take/outcome.js';
import type { Results, Sitting } from './results.js';

/** One item of somebody's paper. */
export interface PaperLine {
  item: Item;
  /** Absent where the item has no mark. */
  mark: Mark | undefined;
  /** What was answered, a line each; empty where there was no answer. */
  answer: string[];
  /** The key in words, where the answer was not right in full. */
  key: string;
}
/** Somebody's paper. */
export interface MarkedPaper {
  lines: PaperLine[];
  /** Points on the items that count for everybody, and what can be had for them. */
  points: number;
  maximum: number;
}

/**
 * What somebody answered and what it earned, in the order of the set.
 * @param final the items that count for everybody, where they are known already: they are the same on all papers
 */
export function paperOf({ set, sittings, rounding }: Results, s: Sitting, final = finalItems(set.items, sittings)): MarkedPaper {
  const counting = new Set(final.map((i) => i.id));
  return {
    lines: set.items.filter(isQuestion).map((item) => {
      const mark = s.marks[item.id];
      return {
        item,
        mark,
        answer: answerLines(item, s.responses[item.id]),
        key: mark && mark.state !== 'right' && mark.state !== 'by-hand' ? keyText(item, set.language) : '',
      };
    }),
    points: roundTotal(
      keptOf(roundPoints(set.items.reduce((sum, i) => sum + (counting.has(i.id) ? (s.marks[i.id]?.points ?? 0) : 0), 0)), s.kept ?? 1),
      rounding,
    ),
    maximum: maximumOf(set.items.filter((i) => counting.has(i.id))),
  };
}

const points = (n: number): string => `${Math.round(n * 100) / 100}`;

/** The same as plain text. @param labelOf numbers of items as people met them */
export function paperText(results: Results, s: Sitting, labelOf: (item: Item) => string): string {
  const { lines, points: earned, maximum } = paperOf(results, s);
  const late = s.kept === undefined ? '' : ` (handed in late: ${points((1 - s.kept) * 100)} % off)`;
  const head = [results.set.title, `${s.name}: ${points(earned)} of ${points(maximum)} points${late}`];
  const body = lines.map(({ item, mark, answer, key }) =>
    [
      `${labelOf(item)}. ${nameOf(item, 200)}`,
      `   ${answer.length ? answer.join('\n   ') : 'No answer.'}`,
      `   ${mark?.state === 'by-hand' ? 'Not marked yet.' : `${points(mark?.points ?? 0)} of ${points(item.points)}`}${key ? `. Right: ${key}` : ''}`,
      ...(mark?.comment ? [`   ${mark.comment}`] : []),
    ].join('\n'),
  );
  return [head.join('\n'), ...body].join('\n\n');
}
