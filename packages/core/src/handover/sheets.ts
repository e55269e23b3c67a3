/** Results as sheets of a workbook: scores, answers, items, the key. Numbers are numbers and times are times. */
import { analyse } from '../analysis/analysis.js';
import { isQuestion, kinds, maximumOf, nameOf } from '../item/kinds.js';
import { gradeOf } from '../item/grades.js';
import type { Item } from '../item/model.js';
import { finalItems } from '../mark/answerGroups.js';
import { answerLines } from '../mark/answerWords.js';
import { keyText } from '../take/outcome.js';
import { labelsOf, type Results } from './results.js';

/** What stands in a cell. */
export type SheetCell = string | number | Date | null;
/** A sheet: its first row holds the headings. */
export interface ResultSheet {
  name: string;
  rows: SheetCell[][];
}

const questions = ({ set }: Results): Item[] => set.items.filter(isQuestion);
const share = (n: number): number => Math.round(n * 1000) / 1000;

/** Who has how much, with the points for each item. */
export function scoreSheet(r: Results): ResultSheet {
  const items = questions(r);
  const label = labelsOf(r);
  const counting = finalItems(items, r.sittings);
  const maximum = maximumOf(counting);
  const some = (of: 'mail' | 'number'): boolean => r.sittings.some((s) => s[of]);
  const [mails, numbers] = [some('mail'), some('number')];
  const late = r.sittings.some((s) => s.kept !== undefined);
  return {
    name: 'Scores',
    rows: [
      [
        'Name',
        ...(mails ? ['Mail'] : []),
        ...(numbers ? ['Number'] : []),
        'Points',
        'Of',
        'Share',
        ...(r.grades?.length ? ['Grade'] : []),
        ...(late ? ['Kept of the points'] : []),
        'Begun',
        'Handed in',
        ...items.map((i) => `Item ${label(i)}`),
      ],
      ...r.sittings.map((s): SheetCell[] => [
        s.name,
        ...(mails ? [s.mail ?? ''] : []),
        ...(numbers ? [s.number ?? ''] : []),
        s.points,
        maximum,
        maximum ? share(s.points / maximum) : null,
        ...(r.grades?.length ? [maximum ? gradeOf(s.points / maximum, r.grades) : ''] : []),
        ...(late ? [s.kept ?? 1] : []),
        new Date(s.startedAt),
        new Date(s.submittedAt),
        // what waits for a person has no points yet
        ...items.map((i) => (s.marks[i.id]?.state === 'by-hand' ? null : (s.marks[i.id]?.points ?? null))),
      ]),
    ],
  };
}

/** Who answered what, in words. */
export function answerSheet(r: Results): ResultSheet {
  const items = questions(r);
  const label = labelsOf(r);
  return {
    name: 'Answers',
    rows: [
      ['Name', ...items.map((i) => `${label(i)}. ${nameOf(i, 60)}`)],
      ...r.sittings.map((s): SheetCell[] => [s.name, ...items.map((i) => answerLines(i, s.responses[i.id]).join('; '))]),
    ],
  };
}

/** How each item worked; of those that wait for a person nothing is told. */
export function itemFiguresSheet(r: Results): ResultSheet {
  const label = labelsOf(r);
  const people = r.sittings.length;
  const { items } = analyse(r.set, r.sittings);
  const timed = items.some((i) => i.seconds);
  return {
    name: 'Items',
    rows: [
      ['Item', 'Question', 'Kind', 'Points', 'Answered', 'Not reached', 'Share of the points', 'Discrimination', ...(timed ? ['Seconds (median)'] : [])],
      ...items.map(({ item, figures, omitted, notReached, seconds }): SheetCell[] => [
        label(item),
        nameOf(item, 200),
        kinds[item.kind].name,
        item.points,
        people - Math.round((omitted + notReached) * people),
        Math.round(notReached * people),
        share(figures.difficulty),
        figures.discrimination === null ? null : share(figures.discrimination),
        ...(timed ? [seconds && Math.round(seconds.median)] : []),
      ]),
    ],
  };
}

/** What is right. */
export function keySheet(r: Results): ResultSheet {
  const label = labelsOf(r);
  return {
    name: 'Key',
    rows: [
      ['Item', 'Question', 'Key', 'Points'],
      ...questions(r).map((i): SheetCell[] => [label(i), nameOf(i, 200), i.kind === 'essay' ? 'marked by a person' : keyText(i, r.set.language), i.points]),
    ],
  };
}

/** All sheets of a workbook of results. */
export const resultSheets = (r: Results): ResultSheet[] => [scoreSheet(r), answerSheet(r), itemFiguresSheet(r), keySheet(r)];

/** A sheet as a table of texts: times by ISO 8601. */
export const textRows = ({ rows }: ResultSheet): string[][] =>
  rows.map((row) => row.map((c) => (c === null ? '' : c instanceof Date ? c.toISOString() : String(c))));
