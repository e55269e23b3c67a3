/** How a quiz is taken: who, when, how it stands on the page, and what is shown of it when. One record, chosen by the teacher. */
import { z } from 'zod';
import { mayShuffle, staysInPlace } from '../bank/versionSet.js';
import type { Item, QuizSet } from '../item/model.js';
import { type Chance, shuffled } from '../item/shuffle.js';

/** From when on a learner sees something of their own attempt. */
export const seenFrom = ['handed-in', 'closed', 'released', 'never'] as const;
/** From when on a learner sees something of their own attempt. */
export type SeenFrom = (typeof seenFrom)[number];
/** What a learner may see afterwards: the points, right and wrong, the keys, the feedback. */
export const seenParts = ['score', 'marks', 'keys', 'feedback'] as const;
/** What a learner may see afterwards. */
export type SeenPart = (typeof seenParts)[number];

const when = z.enum(seenFrom);
const time = z.iso.datetime();
/** The longest time limit, in minutes: a week. */
export const LONGEST_MINUTES = 7 * 24 * 60;

/** How a quiz is taken. Times are instants (ISO 8601, UTC). */
export const quizRules = z.strictObject({
  /** How learners come in: by a name they type, without any, as one of a class list by their name, or by a code of their own. */
  enter: z.enum(['name', 'nameless', 'list', 'personal']).default('name'),
  /** Attempts per person; 0 for any number. */
  attempts: z.int().min(0).max(100).default(0),
  /** Which of several attempts of a person counts. */
  counts: z.enum(['best', 'last', 'mean']).default('best'),
  opensAt: time.optional(),
  closesAt: time.optional(),
  /** When it is due, and how many per cent of the points it costs to hand in later: once, or for each day that was begun. */
  late: z.strictObject({ due: time, percent: z.number().min(0).max(100), per: z.enum(['once', 'day']) }).optional(),
  /** Minutes that a person has from beginning to handing in. */
  minutes: z.number().min(0.5).max(LONGEST_MINUTES).optional(),
  /** Seconds for each item that has no time of its own; where it is said, time is up for items one by one, and nobody goes back. */
  itemSeconds: z.number().min(5).max(3600).optional(),
  pages: z.enum(['one-by-one', 'all']).default('one-by-one'),
  /** Whether a learner may go back to what they have passed. */
  back: z.boolean().default(true),
  /** A new order for each learner: of the items within their parts, and of the options that may change places. */
  shuffle: z.strictObject({ items: z.boolean(), options: z.boolean() }).default({ items: false, options: false }),
  shows: z
    .strictObject({ score: when, marks: when, keys: when, feedback: when })
    .default({ score: 'handed-in', marks: 'never', keys: 'never', feedback: 'never' }),
  /** Whether nobody may hand in before the required items have an answer; where it is not said, they are told and may. */
  holdsRequired: z.boolean().optional(),
  /** Each answer is marked at once. Tries for an item; 0 for any number. Hints: whether a wrong answer brings the next one. */
  practice: z.strictObject({ tries: z.int().min(0).max(20), hints: z.boolean() }).optional(),
});
/** How a quiz is taken. */
export type QuizRules = z.infer<typeof quizRules>;
/** What is made of answers that came from elsewhere: which of several of a person counts, and what being late costs. */
export const outsideRules = z.strictObject({ counts: quizRules.shape.counts.unwrap().optional(), late: quizRules.shape.late });
/** What is made of answers that came from elsewhere; all of a person stand there as they are where nothing is said. */
export type OutsideRules = z.infer<typeof outsideRules>;

/** Some of the rules, to change them; null takes one away. */
export const rulesChange = z.strictObject(
  Object.fromEntries(
    // defaults are for new rules: what a change does not name stays as it is
    Object.entries(quizRules.shape).map(([name, shape]) => [name, (shape instanceof z.ZodDefault ? shape.unwrap() : shape).nullish()]),
  ),
);
/** Some of the rules, to change them; null takes one away, and what has a usual value gets it again. */
export type RulesChange = { [K in keyof QuizRules]?: QuizRules[K] | null | undefined };

/** The change that makes rules what these are, whatever they were: what these do not hold is taken away. */
export const wholeChange = (rules: QuizRules): RulesChange => ({ ...Object.fromEntries(Object.keys(quizRules.shape).map((name) => [name, null])), ...rules });

/** What is shown afterwards, as it is chosen most often. */
export const shownAfter = ['nothing', 'score', 'answers'] as const;
/** What is shown afterwards, as it is chosen most often: nothing, the points, or all of it. */
export type ShownAfter = (typeof shownAfter)[number];
const all = (from: SeenFrom): QuizRules['shows'] => ({ score: from, marks: from, keys: from, feedback: from });
/** What is shown of each part, for the choices made most often. */
export const SHOWN: Readonly<Record<ShownAfter, QuizRules['shows']>> = {
  nothing: all('never'),
  score: { ...all('never'), score: 'handed-in' },
  answers: all('handed-in'),
};
/** The rules where nothing else is said; one attempt where the keys are shown at once, for then the second would know them. */
export const usualRules = (shown: ShownAfter = 'score'): QuizRules => quizRules.parse({ shows: SHOWN[shown], attempts: shown === 'answers' ? 1 : 0 });

/**
 * Rules with a change.
 * @throws ZodError where a value is not one
 */
export function changedRules(rules: QuizRules, change: RulesChange): QuizRules {
  const next: Record<string, unknown> = { ...rules };
  for (const [name, value] of Object.entries(rulesChange.parse(change)))
    if (value === null) delete next[name];
    else if (value !== undefined) next[name] = value;
  return quizRules.parse(next);
}

/** Why rules cannot be as they are; null where they can. */
export function rulesProblem(rules: QuizRules): string | null {
  if (rules.opensAt && rules.closesAt && Date.parse(rules.closesAt) <= Date.parse(rules.opensAt))
    return 'It would close before it opens. Choose a later time to close.';
  if (rules.late && rules.closesAt && Date.parse(rules.closesAt) <= Date.parse(rules.late.due))
    return 'It closes before anybody could be late. Choose a later time to close, or an earlier one when it is due.';
  if (rules.late && rules.opensAt && Date.parse(rules.late.due) <= Date.parse(rules.opensAt))
    return 'It is due before it opens. Choose a later time when it is due.';
  if (rules.pages === 'all' && !rules.back) return 'On one page everybody can go back. Show the items one by one, or allow going back.';
  if (rules.holdsRequired && !rules.back)
    return 'Who may not go back could never answer a required item that was passed. Allow going back, or let people hand in without it.';
  if (rules.itemSeconds !== undefined && (rules.pages === 'all' || rules.back))
    return 'A time for each item needs items one by one without going back. Choose both, or give the time for the whole.';
  if (rules.itemSeconds !== undefined && rules.practice)
    return 'In practice nobody is hurried from item to item. Leave out the time for each item, or practice.';
  return null;
}

/** Whether a quiz is for the people of a class only. */
export const isForClass = ({ enter }: Pick<QuizRules, 'enter'>): boolean => enter === 'list' || enter === 'personal';

/** Where a quiz stands in time: not open yet, open, or closed by hand or by the clock. */
export type Phase = 'before' | 'open' | 'closed';
/**
 * Where a quiz stands in time.
 * @param open whether the teacher has it open
 * @param now an instant, in milliseconds
 */
export function phaseOf(rules: Pick<QuizRules, 'opensAt' | 'closesAt'>, open: boolean, now: number): Phase {
  if (!open || (rules.closesAt && now >= Date.parse(rules.closesAt))) return 'closed';
  return rules.opensAt && now < Date.parse(rules.opensAt) ? 'before' : 'open';
}

/** Seconds after the end within which answers on their way are taken. */
export const GRACE_SECONDS = 30;
/** What one attempt has of time beyond the others. */
export interface MoreTime {
  /** Per cent of the time limit. */
  percent?: number;
  /** Minutes, given by hand. */
  minutes?: number;
  /** Until when this person may take it, where that is later than for the others (ISO 8601). */
  until?: string;
}
/** The rules as they are for somebody who may take it longer than the others. @param until ISO 8601 */
export const rulesUntil = <R extends Pick<QuizRules, 'closesAt'>>(rules: R, until: string | undefined): R =>
  rules.closesAt && until && Date.parse(until) > Date.parse(rules.closesAt) ? { ...rules, closesAt: until } : rules;
/**
 * When an attempt ends by the clock, in milliseconds; undefined where nothing ends it. Extra time also runs past the closing: somebody
 * who may take 90 minutes for 60 is not sent away after 60 because the quiz closes then.
 * @param begun when it was begun, in milliseconds
 */
export function dueOf(rules: Pick<QuizRules, 'minutes' | 'closesAt'>, begun: number, more: MoreTime = {}): number | undefined {
  const minute = 60_000;
  const limit = rules.minutes;
  const extra = ((limit ?? 0) * (more.percent ?? 0)) / 100 + (more.minutes ?? 0);
  const byLimit = limit === undefined ? undefined : begun + (limit + extra) * minute;
  const { closesAt } = rulesUntil(rules, more.until);
  const byClosing = closesAt ? Date.parse(closesAt) + extra * minute : undefined;
  if (byLimit === undefined || byClosing === undefined) return byLimit ?? byClosing;
  return Math.min(byLimit, byClosing);
}

/** Milliseconds that a learner has for an item; undefined where it has no end: without such a rule, and what is only to be read. */
export function itemTimeOf(item: Pick<Item, 'kind' | 'timeLimit'>, rules: Pick<QuizRules, 'itemSeconds'>, more: MoreTime = {}): number | undefined {
  if (rules.itemSeconds === undefined || item.kind === 'information') return undefined;
  return (item.timeLimit ?? rules.itemSeconds) * 10 * (100 + (more.percent ?? 0));
}
/**
 * Whether a learner may have answered items in their time: they went on from one to another within the times of all of them. A line that
 * was lost between costs nobody anything, for the page goes on by itself.
 * @param items from the one where they were seen last to the one where they are now, in their order
 * @param since when they were first seen at the first of these, in milliseconds
 */
export function withinItemTimes(items: readonly Item[], since: number, now: number, rules: Pick<QuizRules, 'itemSeconds'>, more: MoreTime = {}): boolean {
  let end = since + GRACE_SECONDS * 1000;
  for (const item of items) end += itemTimeOf(item, rules, more) ?? Infinity;
  return now <= end;
}

/** Which parts a learner sees. */
export type Seen = Readonly<Record<SeenPart, boolean>>;
const reached = (from: SeenFrom, closed: boolean, released: boolean): boolean =>
  from === 'handed-in' || (from === 'closed' && closed) || (from === 'released' && released);
/** What a learner who has handed in sees now. */
export function seenNow(rules: Pick<QuizRules, 'shows'>, closed: boolean, released: boolean): Seen {
  const of = (part: SeenPart): boolean => reached(rules.shows[part], closed, released);
  return { score: of('score'), marks: of('marks'), keys: of('keys'), feedback: of('feedback') };
}
/** What brings the next part that is not seen yet; undefined where nothing more comes. */
export function seenLater(rules: Pick<QuizRules, 'shows'>, closed: boolean, released: boolean): 'closed' | 'released' | undefined {
  const waits = seenParts.map((p) => rules.shows[p]).filter((from) => from !== 'never' && !reached(from, closed, released));
  return waits.includes('closed') ? 'closed' : waits.includes('released') ? 'released' : undefined;
}

/** A set with the rules for its options: those that may change places do. The same for all learners, so that it can be kept. */
export function takenSet(set: QuizSet, rules: Pick<QuizRules, 'shuffle'>): QuizSet {
  if (!rules.shuffle.options) return set;
  const items = set.items.map((item): Item => {
    if (!('options' in item) || !mayShuffle(item)) return item;
    return { ...item, shuffle: true, options: item.options.map((o) => (staysInPlace(o) ? { ...o, pinned: true } : o)) };
  });
  return { ...set, items };
}

/**
 * The items in the order of one learner: as they are, or each part's by chance. What is only to be read keeps its place, for what
 * comes after it speaks of it.
 */
export function itemsInOrder(items: readonly Item[], rules: Pick<QuizRules, 'shuffle'>, chance: Chance): Item[] {
  if (!rules.shuffle.items) return items.slice();
  const runs: Item[][] = [];
  for (const item of items) {
    const last = runs.at(-1);
    const before = last?.at(-1);
    const goesOn = before && item.kind !== 'information' && before.kind !== 'information' && before.section === item.section;
    if (last && goesOn) last.push(item);
    else runs.push([item]);
  }
  return runs.flatMap((run) => {
    // from an order that says nothing of how the author wrote them
    const neutral = run.slice().sort((a, b) => (a.id < b.id ? -1 : 1));
    return run.length > 1 ? shuffled(neutral, chance, `items ${neutral[0]?.id ?? ''}`) : run;
  });
}

/** An attempt as far as its counting goes. */
export interface Counting {
  /** By what persons are told apart. */
  person: string;
  points: number;
  /** When it was handed in: later is greater. */
  at: number;
}
/**
 * The points of each person, from all of their attempts.
 * @returns by person: the points that count, and the attempt that they are of; of a mean, the last one
 */
export function countingOf<A extends Counting>(attempts: readonly A[], counts: QuizRules['counts']): Map<string, { points: number; attempt: A }> {
  const by = new Map<string, A[]>();
  for (const a of attempts) by.set(a.person, [...(by.get(a.person) ?? []), a]);
  const out = new Map<string, { points: number; attempt: A }>();
  for (const [person, list] of by) {
    const inTime = list.sort((a, b) => a.at - b.at);
    const last = inTime.at(-1) as A;
    // of equal ones the first: the second try brought nothing
    const best = inTime.reduce((b, a) => (a.points > b.points ? a : b));
    const attempt = counts === 'best' ? best : last;
    const points = counts === 'mean' ? inTime.reduce((sum, a) => sum + a.points, 0) / inTime.length : attempt.points;
    out.set(person, { points, attempt });
  }
  return out;
}
