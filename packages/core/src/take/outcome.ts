/** What a learner is told after handing in: points, and where the answers may be seen, how each was marked and what is right. */
import { isGraded, maximumOf } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { richToPlain, sanitiseRich } from '../item/richText.js';
import { writtenRange } from '../language/decimal.js';
import { truthWords } from '../language/truthWords.js';
import { type Mark, mark, type Response, roundPoints } from '../mark/mark.js';

/** What learners may see afterwards. */
export type ShownAfter = 'nothing' | 'score' | 'answers';
/** What a learner is shown of an item afterwards. */
export interface OutcomeOfItem {
  id: string;
  state: Mark['state'];
  points: number;
  feedback: string[];
  /** The key in words, where the answer was not right. */
  answer?: string;
}
/** What a learner is shown after handing in, as much as the teacher lets be shown. */
export interface Outcome {
  shows: ShownAfter;
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

/** What is told of marked responses. */
export function outcomeOf(set: QuizSet, responses: Readonly<Record<string, Response>>, marks: Readonly<Record<string, Mark>>, shows: ShownAfter): Outcome {
  if (shows === 'nothing') return { shows };
  const byHand = set.items.filter((i) => i.kind === 'essay').reduce((sum, i) => sum + i.points, 0);
  const base: Outcome = { shows, points: pointsOf(marks), maximum: maximumOf(set.items.filter(isGraded)), ...(byHand && { byHand }) };
  return shows === 'score' ? base : { ...base, items: set.items.map((i) => ofItem(i, marks[i.id], responses[i.id], set.language)) };
}

function ofItem(item: Item, m: Mark | undefined, given: Response | undefined, language: string | undefined): OutcomeOfItem {
  const state = m?.state ?? 'unanswered';
  const { correct, incorrect, general } = item.feedback ?? {};
  const chosen =
    given && 'options' in given && 'options' in item
      ? item.options.filter((o) => given.options.includes(o.id)).map((o) => o.feedback)
      : given && 'truth' in given && item.kind === 'true-false'
        ? [item.optionFeedback?.[given.truth ? 'true' : 'false']]
        : [];
  const feedback = [...chosen, state === 'right' ? correct : isGraded(item) ? incorrect : undefined, general]
    .filter((f): f is string => Boolean(f))
    .map(sanitiseRich);
  const answer = state === 'right' || !isGraded(item) ? undefined : keyText(item, language);
  return { id: item.id, state, points: m?.points ?? 0, feedback, ...(answer && { answer }) };
}

/** The key in words, for a learner who may see it. */
function keyText(item: Item, language: string | undefined): string {
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
