/** What it costs to hand in after a quiz was due. */
import { roundPoints } from '../mark/mark.js';
import { GRACE_SECONDS, type MoreTime, type QuizRules } from './rules.js';

const DAY = 86_400_000;

/**
 * The share of the points that somebody keeps: 1 where they were in time or no such rule is there, down to 0.
 * @param given when the last answer was given, in milliseconds
 * @param more what this person has of time beyond the others; minutes that a pause took are among them
 */
export function keptShare({ late }: Pick<QuizRules, 'late'>, given: number, { until, minutes = 0 }: MoreTime = {}): number {
  if (!late) return 1;
  const due = Math.max(Date.parse(late.due) + minutes * 60_000, until ? Date.parse(until) : 0);
  // an answer on its way is not late
  if (given <= due + GRACE_SECONDS * 1000) return 1;
  const times = late.per === 'day' ? Math.ceil((given - due) / DAY) : 1;
  return Math.max(0, roundPoints(1 - (times * late.percent) / 100));
}
