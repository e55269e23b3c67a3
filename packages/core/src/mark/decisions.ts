/**
 * What a teacher decides once answers are in: an answer counts, a key is another one, an item is left out, a person's answer is
 * marked by hand. The set as it was sent stays as it is; decisions lie over it, in the order in which they were made.
 */
import { z } from 'zod';
import { keyProblem } from '../item/kinds.js';
import { defaultMatch, type Gap, type Item, type ItemOf, item as itemSchema, type QuizSet } from '../item/model.js';
import { normalise } from '../item/typedText.js';
import { writesDecimalComma } from '../language/numbers.js';
import { gapMark, type Mark, mark, markAnyhow, markOf, type Response, typedNumber } from './mark.js';

/** The fields of an item that say what counts. */
export const keyFields = ['options', 'answer', 'answers', 'match', 'gaps', 'pairs', 'sequence', 'scoring'] as const;

const item = z.string().min(1).max(200);
const share = z.number().min(0).max(1);
/** The schema of a decision. */
export const decision = z.discriminatedUnion('type', [
  /** All who typed this get this share of the item's points, or of the gap's; of a choice of one, all who chose the option of this id. */
  z.object({ type: z.literal('answer'), item, gap: z.string().max(200).optional(), text: z.string().min(1).max(2000), credit: share }).strict(),
  /** The key, or how answers are compared with it, is another one. */
  z
    .object({
      type: z.literal('key'),
      item,
      set: z.partialRecord(z.enum(keyFields), z.unknown()).refine((s) => Object.keys(s).length > 0),
      /** What is different, in a few words. */
      said: z.string().max(300),
    })
    .strict(),
  /** The item counts for nobody. */
  z.object({ type: z.literal('leave-out'), item }).strict(),
  /** Everybody has its points. */
  z.object({ type: z.literal('full-points'), item }).strict(),
  /** One person's answer, marked by hand. */
  z
    .object({
      type: z.literal('hand'),
      item,
      /** The id of their attempt. */
      attempt: z.string().min(1).max(300),
      points: z.number().min(0).max(1_000_000),
      /** Points for each criterion of the rubric, in its order; null where one was not judged. */
      criteria: z.array(z.number().min(0).nullable()).max(50).optional(),
      comment: z.string().max(5000).optional(),
    })
    .strict(),
]);
/** What a teacher decided once answers are in. */
export type Decision = z.infer<typeof decision>;
/** A mark that a person gave to one answer. */
export type Hand = Extract<Decision, { type: 'hand' }>;

/** A set with the decisions that lie over it; marks by hand belong to single attempts and are given beside it. */
export interface Judging {
  /** The set with the keys that count now, without the items that are left out. */
  set: QuizSet;
  /** Items that count for nobody. */
  leftOut: ReadonlySet<string>;
  /** Items whose points everybody has. */
  full: ReadonlySet<string>;
  /** For an item, or one of its gaps: the shares that decided answers earn, by what makes answers the same. */
  answers: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

/** Where decided answers are kept: an item, or one of its gaps. */
export const placeOf = (item: string, gap?: string): string => (gap === undefined ? item : `${item}\u0000${gap}`);

/** The gap of an item that a decision names. */
const gapOf = (i: Item, gap: string | undefined): Gap | undefined => (gap === undefined || i.kind !== 'cloze' ? undefined : i.gaps.find((g) => g.id === gap));

/** Whether answers to an item, or to one of its gaps, are typed. */
export const isTyped = (i: Item, gap?: Gap): boolean => (gap ? gap.kind !== 'choice' : i.kind === 'short-answer' || i.kind === 'numeric');

/**
 * By what two typed answers are one: numbers by their value, texts in small letters with one blank between words, unless the item tells
 * capitals apart; the ids of options as they are. Empty where nothing was typed.
 * @param language the set's
 */
export function sameAnswer(i: Item, gap: Gap | undefined, typed: string, language?: string): string {
  if (i.kind === 'multiple-choice') return typed;
  const own = i.language ?? language;
  const rule = gap?.kind === 'text' ? (gap.match ?? defaultMatch) : i.kind === 'short-answer' ? i.match : defaultMatch;
  const text = normalise(typed, { ...defaultMatch, caseSensitive: rule.caseSensitive }, own);
  if (gap ? gap.kind !== 'number' : i.kind !== 'numeric') return text;
  const value = typedNumber(typed, i.kind === 'numeric' ? i.unit : undefined, writesDecimalComma(own));
  return value === null ? text : `= ${value}`;
}

/** Why a decision cannot be taken on a set, in a sentence; null where it can. */
export function decisionProblem(set: QuizSet, d: Decision): string | null {
  const i = set.items.find((x) => x.id === d.item);
  if (!i) return 'The item is not in what was sent.';
  if (d.type === 'key') return withKey(i, d.set) ? null : 'The key does not fit the item.';
  if (d.type === 'hand') {
    const given = (d.criteria ?? []).reduce<number>((sum, p) => sum + (p ?? 0), 0);
    return d.points > i.points || given > i.points + 1e-9 ? `The item has ${i.points} points at most.` : null;
  }
  if (d.type !== 'answer') return null;
  if (i.kind === 'multiple-choice') return i.options.some((o) => o.id === d.text) ? null : 'The item has no such option.';
  const gap = gapOf(i, d.gap);
  if (d.gap !== undefined && !gap) return 'The item has no such gap.';
  return isTyped(i, gap) ? null : 'Answers to this item are not typed. Change its key.';
}

/** The item with another key; undefined where that is no key of it. */
function withKey(i: Item, set: Extract<Decision, { type: 'key' }>['set']): Item | undefined {
  // an item takes only the fields of its kind: others would be lost without a word
  if (Object.keys(set).some((field) => !(field in i))) return undefined;
  const { data } = itemSchema.safeParse({ ...i, ...set });
  return data && !keyProblem(data) ? data : undefined;
}

/** Lays decisions over the set as it was sent, the later over the earlier; what does not fit the set changes nothing. */
export function judgingOf(set: QuizSet, decisions: readonly Decision[]): Judging {
  const items = new Map(set.items.map((i) => [i.id, i]));
  const leftOut = new Set<string>();
  const full = new Set<string>();
  const answers = new Map<string, Map<string, number>>();
  for (const d of decisions) {
    const i = items.get(d.item);
    if (!i) continue;
    switch (d.type) {
      case 'key':
        items.set(d.item, withKey(i, d.set) ?? i);
        break;
      case 'leave-out':
        leftOut.add(d.item);
        break;
      case 'full-points':
        full.add(d.item);
        break;
      case 'answer': {
        // several options may be right then, which the item by itself would not allow
        if (i.kind === 'multiple-choice') items.set(d.item, { ...i, options: i.options.map((o) => (o.id === d.text ? { ...o, credit: d.credit } : o)) });
        const place = placeOf(d.item, d.gap);
        const known = answers.get(place) ?? new Map<string, number>();
        answers.set(place, known.set(sameAnswer(i, gapOf(i, d.gap), d.text, set.language), d.credit));
        break;
      }
      case 'hand':
        break;
    }
  }
  return { set: { ...set, items: set.items.flatMap((i) => (leftOut.has(i.id) ? [] : [items.get(i.id) ?? i])) }, leftOut, full, answers };
}

/** The marks by hand, by attempt and item: the last of each. */
export function handsOf(decisions: readonly Decision[]): Map<string, Map<string, Hand>> {
  const out = new Map<string, Map<string, Hand>>();
  for (const d of decisions) if (d.type === 'hand') out.set(d.attempt, (out.get(d.attempt) ?? new Map<string, Hand>()).set(d.item, d));
  return out;
}

/** One item's mark, with what was decided. A mark by hand is above all, then full points for everybody, then decided answers. */
export function judgedMark(j: Judging, i: Item, given: Response | null | undefined, hand?: Hand): Mark {
  if (hand) return byHand(i, hand);
  if (j.full.has(i.id)) return markOf(i, 1, 'Everybody has these points.');
  const { language } = j.set;
  const own = j.answers.get(placeOf(i.id));
  // several options may be right now
  if (own && i.kind === 'multiple-choice') return markAnyhow(i, given, language);
  if (own && given && 'text' in given && given.text.trim()) {
    const credit = own.get(sameAnswer(i, undefined, given.text, language));
    if (credit !== undefined) return markOf(i, credit, DECIDED);
  }
  if (i.kind === 'cloze' && given && 'gaps' in given && i.gaps.some((g) => j.answers.has(placeOf(i.id, g.id)))) return gapByGap(j, i, given.gaps);
  return mark(i, given, language);
}
const DECIDED = 'Decided by a person.';

function byHand(i: Item, { points, comment }: Hand): Mark {
  const said = comment?.trim();
  return { ...markOf(i, i.points ? points / i.points : 1, 'Marked by a person.'), points, ...(said && { comment: said }) };
}

/** A text with gaps where a person decided on answers to one of them. */
function gapByGap(j: Judging, i: ItemOf<'cloze'>, typed: Readonly<Record<string, string>>): Mark {
  if (!i.gaps.some((g) => typed[g.id]?.trim())) return mark(i, { gaps: {} }, j.set.language);
  const total = i.gaps.reduce((sum, g) => sum + g.points, 0) || 1;
  return markOf(i, i.gaps.reduce((sum, g) => sum + g.points * judgedGap(j, i, g, typed[g.id] ?? '').credit, 0) / total, DECIDED);
}
/** The mark of one gap, as if the item had no other, with what was decided. @param typed what was typed, or the id of the chosen option */
export function judgedGap(j: Judging, i: ItemOf<'cloze'>, gap: Gap, typed: string): Mark {
  const credit = typed.trim() ? j.answers.get(placeOf(i.id, gap.id))?.get(sameAnswer(i, gap, typed, j.set.language)) : undefined;
  return credit === undefined ? gapMark(i, gap, typed, j.set.language) : markOf(i, credit, DECIDED);
}

/** The marks of an attempt, by item, with what was decided. Items that are left out have none. */
export const judgedMarks = (j: Judging, responses: Readonly<Record<string, Response>>, hands: ReadonlyMap<string, Hand> = new Map()): Record<string, Mark> =>
  Object.fromEntries(j.set.items.map((i) => [i.id, judgedMark(j, i, responses[i.id], hands.get(i.id))]));
