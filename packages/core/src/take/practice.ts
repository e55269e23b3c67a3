/** Practice: each answer is marked at once, a wrong one brings a hint and another try, and the key comes when an item is through. */
import { isGraded } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { mark, type Mark, type Response } from '../mark/mark.js';
import { type OutcomeOfItem, outcomeOfItem } from './outcome.js';
import type { QuizRules } from './rules.js';

/** What is kept of one item of an attempt: its tries, the hints that were seen, and the answer that counts. */
export interface ItemTries {
  tries: number;
  hints: number;
  /** No more tries: right, out of tries, or given up. */
  done: boolean;
  /** How the first answer was marked: what somebody knew without help. */
  first?: Mark['state'];
  /** The last answer that was tried, and its mark. */
  response?: Response;
  mark?: Mark;
}
/** What a learner is told of an item under way. The key is in it only when the item is through. */
export interface PracticeView {
  tries: number;
  /** Tries that are left; absent where there is no limit. */
  left?: number;
  /** The hints seen so far. */
  hints: string[];
  /** Whether there is another one. */
  moreHints: boolean;
  done: boolean;
  /** How the last try was marked; absent before the first. */
  state?: Mark['state'];
  points?: number;
  feedback?: string[];
  answer?: string;
}
/** What a learner does with an item: answer it, ask for a hint, or see the key. */
export type PracticeStep = { type: 'answer'; response: Response } | { type: 'hint' } | { type: 'give-up' };

const NONE: ItemTries = { tries: 0, hints: 0, done: false };
const hintsOf = (item: Item, rules: Practice): readonly string[] => (rules.hints ? (item.hints ?? []) : []);
type Practice = NonNullable<QuizRules['practice']>;

/**
 * One step with an item.
 * @param before what is kept of it; undefined before the first step
 * @returns what is to be kept; the same where the step changes nothing, as once an item is through
 */
export function practiceStep(item: Item, before: ItemTries | undefined, step: PracticeStep, rules: Practice, language?: string): ItemTries {
  const now = before ?? NONE;
  if (now.done || item.kind === 'information') return now;
  const hints = hintsOf(item, rules).length;
  if (step.type === 'give-up') return { ...now, done: true };
  if (step.type === 'hint') return now.hints < hints ? { ...now, hints: now.hints + 1 } : now;
  const marked = mark(item, step.response, language);
  const { state } = marked;
  if (state === 'unanswered') return now;
  const tries = now.tries + 1;
  // what nobody can mark here has one try: there is nothing to learn from a second
  const done = state === 'right' || state === 'by-hand' || !isGraded(item) || (rules.tries > 0 && tries >= rules.tries);
  return {
    tries,
    hints: done ? now.hints : Math.min(hints, now.hints + 1),
    done,
    first: now.first ?? state,
    response: step.response,
    mark: marked,
  };
}

/**
 * What a learner is told of an item.
 * @param item in the learner's language, as the answer in `progress` is
 */
export function practiceView(item: Item, progress: ItemTries | undefined, rules: Practice, language?: string): PracticeView {
  const now = progress ?? NONE;
  const hints = hintsOf(item, rules);
  const view: PracticeView = {
    tries: now.tries,
    ...(rules.tries > 0 && { left: Math.max(0, rules.tries - now.tries) }),
    hints: hints.slice(0, now.hints),
    moreHints: !now.done && now.hints < hints.length,
    done: now.done,
  };
  if (!now.done) return now.mark ? { ...view, state: now.mark.state } : view;
  const told: OutcomeOfItem = outcomeOfItem(item, now.mark, now.response, language, { score: true, marks: true, keys: true, feedback: true });
  const { id: _, ...rest } = told;
  return { ...view, ...rest };
}

/** The answers that count: those that were tried, and of what was not tried what stands there. */
export function practised(responses: Readonly<Record<string, Response>>, progress: Readonly<Record<string, ItemTries>>): Record<string, Response> {
  const out: Record<string, Response> = { ...responses };
  for (const [id, p] of Object.entries(progress))
    if (p.response) out[id] = p.response;
    else if (p.done) delete out[id];
  return out;
}
