/** What a service's import template can hold. */
import { allHeld, holding, type HeldField, type Profile, type Step } from '../../fit/profile.js';
import { allowedTime } from '../../fit/steps.js';
import { clozeAsText, matchingAsChoices, numberAsText, trueFalseAsChoice } from '../../fit/recast.js';
import type { Item } from '../../item/model.js';
import { plain } from './fillRows.js';
import type { Ways } from './fillWays.js';
import type { ColumnUse } from './headings.js';

/** The field of an item that a column holds. */
const FIELD: Partial<Record<ColumnUse, HeldField>> = {
  points: 'points',
  feedback: 'feedback.general',
  'feedback right': 'feedback.correct',
  'feedback wrong': 'feedback.incorrect',
  hint: 'hints',
  tags: 'tags',
  outcome: 'outcomes',
  time: 'timeLimit',
  passage: 'section.passage',
  part: 'section.title',
  'option feedback': 'optionFeedback',
};

/** One cell, one answer: nothing in a template says how several would be parted. */
const oneAnswer: Step = (item) => {
  if (item.kind !== 'short-answer') return null;
  const right = item.answers.filter((a) => a.credit > 0);
  if (right.length < 2) return null;
  return {
    item: { ...item, answers: right.slice(0, 1) },
    fit: 'lost',
    brief: 'first answer',
    message: `of its ${right.length} accepted answers only the first goes`,
  };
};

/** Why an item cannot stand in a template; null where it can. */
function refusalOf(w: Ways, item: Item): string | null {
  const { apart, packed, separator, keyForm } = w;
  const partsKeys = w.template.importer.keySeparator.trim();
  if (!plain(item.stem)) return 'it has no text';
  if (!('options' in item)) return null;
  const texts = item.options.map((o) => plain(o.content));
  const right = item.options.filter((o) => o.credit > 0);
  if (texts.length < 2) return 'a choice has at least two options there';
  if (texts.some((t) => !t)) return 'an option has no text';
  if (apart && right.length === texts.length) return 'it has no wrong option';
  const by = (credit: number): string | null => (!apart ? null : credit > 0 ? apart.rightBy : apart.wrongBy);
  const parted = item.options.find((o) => plain(o.content).includes(by(o.credit) ?? '\0'));
  if (parted) return `an option has the sign “${by(parted.credit) ?? ''}”, which parts options there`;
  if (!apart && packed !== undefined && texts.some((t) => t.includes(separator.trim() || '\n')))
    return `an option has the sign “${separator.trim()}”, which parts options there`;
  if (keyForm !== 'text') return null;
  if (right.length > 1 && right.some((o) => plain(o.content).includes(partsKeys))) return `a right option has the sign “${partsKeys}”, which parts keys there`;
  return new Set(texts.map((t) => t.toLowerCase())).size < texts.length ? 'two of its options read the same, and the key is told by its text there' : null;
}

/** What a template can hold, from how it is written. */
export function profileOfTemplate(w: Ways): Profile {
  const { importer, uses } = w.template;
  const { limits, maxOptions } = importer;
  return {
    kinds: w.kinds,
    recast: {
      ...(w.hasOptions && { 'true-false': trueFalseAsChoice, matching: matchingAsChoices }),
      ...(w.typed && { numeric: numberAsText, cloze: clozeAsText }),
    },
    holds: holding(allHeld.filter((f) => uses.some((u) => FIELD[u] === f))),
    ofSet: [],
    passageInFront: !uses.includes('passage'),
    scoring: ['all-or-nothing'],
    credits: 'whole',
    match: [],
    rich: false,
    pictures: false,
    most: {
      ...(maxOptions && !w.apart && { options: maxOptions }),
      ...(limits.question !== undefined && { question: limits.question }),
      ...(limits.option !== undefined && { option: limits.option }),
    },
    refuses: (item) => refusalOf(w, item),
    furtherSteps: [...(limits.time ? [allowedTime(limits.time)] : []), ...(w.typedColumns.length > 1 ? [] : [oneAnswer])],
  };
}
