/** What a learner is told after handing in: points, and where the answers may be seen, how each was marked and what is right. */
import { isGraded, isQuestion, maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { richFromPlain } from '../item/markup.js';
import { richToPlain, sanitiseRich } from '../item/richText.js';
import { writtenRange } from '../language/decimal.js';
import { truthWords } from '../language/truthWords.js';
import { type Mark, mark, type Response, roundPoints } from '../mark/mark.js';
import type { Seen } from './rules.js';

/** What a learner is shown of an item afterwards, each part where it may be seen. */
export interface OutcomeOfItem {
  id: string;
  state?: Mark['state'];
  points?: number;
  feedback?: string[];
  /** The key in words, where the answer was not right. */
  answer?: string;
}
/** What a learner is shown after handing in, as much as the teacher lets be shown. */
export interface Outcome {
  points?: number;
  maximum?: number;
  /** Points that a person still has to give. */
  byHand?: number;
  items?: OutcomeOfItem[];
}

/** The marks of a learner's responses, by item. */
export const marksOf = (set: QuizSet, responses: Readonly<Record<string, Response>>): Record<string, Mark> =>
  Object.fromEntries(set.items.map((i) => [i.id, mark(i, responses[i.id], set.language)]));
/** The sum of marks, at most 4 decimals. */
export const pointsOf = (marks: Readonly<Record<string, Mark>>): number => roundPoints(Object.values(marks).reduce((sum, m) => sum + m.points, 0));

/** What is told of marked responses: the parts that may be seen. */
export function outcomeOf(set: QuizSet, responses: Readonly<Record<string, Response>>, marks: Readonly<Record<string, Mark>>, seen: Seen): Outcome {
  const waits = (i: Item): boolean => marks[i.id]?.state === 'by-hand';
  const byHand = set.items.filter(waits).reduce((sum, i) => sum + i.points, 0);
  return {
    ...(seen.score && { points: pointsOf(marks), maximum: maximumOf(set.items.filter((i) => !waits(i))), ...(byHand && { byHand }) }),
    ...((seen.marks || seen.keys || seen.feedback) && {
      items: set.items.map((i) => outcomeOfItem(i, marks[i.id], responses[i.id], set.language, seen)),
    }),
  };
}

/** What is told of one item: the parts that may be seen. The key is told where the answer was not right. */
export function outcomeOfItem(item: Item, m: Mark | undefined, given: Response | undefined, language: string | undefined, seen: Seen): OutcomeOfItem {
  const state = m?.state ?? 'unanswered';
  // where right and wrong are not seen, a key beside the wrong ones only would tell them
  const answer = seen.keys && isGraded(item) && (state !== 'right' || !seen.marks) && keyText(item, language);
  return {
    id: item.id,
    ...(seen.marks && { state, points: m?.points ?? 0 }),
    ...(seen.feedback && { feedback: [...feedbackOf(item, state, given, seen.marks), ...(m?.comment ? [richFromPlain(m.comment)] : [])] }),
    ...(answer && { answer }),
  };
}

/** @param judged whether feedback may tell right from wrong */
function feedbackOf(item: Item, state: Mark['state'], given: Response | undefined, judged: boolean): string[] {
  const { correct, incorrect, general } = item.feedback ?? {};
  const chosen =
    given && 'options' in given && 'options' in item
      ? item.options.filter((o) => given.options.includes(o.id)).map((o) => o.feedback)
      : given && 'truth' in given && item.kind === 'true-false'
        ? [item.optionFeedback?.[given.truth ? 'true' : 'false']]
        : [];
  const judging = judged ? [...chosen, state === 'right' ? correct : isGraded(item) ? incorrect : undefined] : [];
  return [...judging, general].filter((f): f is string => Boolean(f)).map(sanitiseRich);
}

/** The key in words, as learners are told it; empty where there is none. */
export function keyText(item: Item, language: string | undefined): string {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options
        .filter((o) => o.credit > 0)
        .map((o) => richToPlain(o.content))
        .join('; ');
    case 'short-answer':
      return item.answers
        .filter((x) => x.credit >= 1)
        .map((x) => x.text)
        .join(' / ');
    case 'matching':
      return item.pairs.map((p) => `${richToPlain(p.left)} → ${richToPlain(p.right)}`).join('; ');
    case 'ordering':
      return item.sequence.map(richToPlain).join(' → ');
    case 'cloze':
      return item.gaps
        .map((g) =>
          g.kind === 'choice'
            ? g.options.find((o) => o.credit >= 1)?.content
            : g.kind === 'text'
              ? g.answers[0]?.text
              : (g.answers[0]?.text ?? String(g.answers[0]?.min ?? '')),
        )
        .join('; ');
    case 'numeric': {
      const r = item.answers.find((x) => x.credit >= 1);
      return !r ? '' : `${writtenRange(r)}${item.unit ? ` ${item.unit}` : ''}`;
    }
    case 'true-false':
      return item.answer === null ? '' : truthWords(item.language ?? language)[item.answer ? 'true' : 'false'];
    default:
      return '';
  }
}

/** The items that must be answered and are not. @param marks of the responses, by item */
export const requiredOpen = (set: QuizSet, marks: Readonly<Record<string, Mark>>): Item[] =>
  set.items.filter((i) => i.required && isQuestion(i) && marks[i.id]?.state === 'unanswered');
