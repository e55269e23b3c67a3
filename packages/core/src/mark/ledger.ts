/** All answers to an item as a ledger: what was answered, by how many, what it earns, and the decision that would have it otherwise. */
import type { Gap, Item, ItemOf, Option } from '../item/model.js';
import { gapsInOrder } from '../item/kinds.js';
import { plainOf } from '../item/richText.js';
import { type AnswerGroup, answerGroups } from './answerGroups.js';
import { type Decision, isTyped, type Judging, keyFields } from './decisions.js';
import type { Response } from './mark.js';
import { offersFor } from './offers.js';

/** One answer, with all who gave it. */
export interface LedgerRow {
  /** Tells rows of a part apart. */
  key: string;
  /** What was answered: plain, or of an option its rich text. */
  text: string;
  /** The same in a few plain words. */
  name: string;
  /** Other ways in which it was typed. */
  also: readonly string[];
  /** By their places. */
  who: readonly number[];
  /** Share of the points that it earns, −1 to 1. */
  share: number;
  /** A person decided it. */
  decided: boolean;
  /** A key or a commoner answer that is spelt nearly so. */
  near?: string;
  /** The decision that it earns another share. */
  give: (share: number) => Decision;
}
/** The answers to an item, or to one of its gaps. */
export interface LedgerPart {
  gap?: Gap;
  /** Typed, or chosen among options. */
  typed: boolean;
  /** An answer earns all of the points or none: a part of them means nothing here. */
  whole: boolean;
  /** What a full answer earns, in points. */
  points: number;
  rows: LedgerRow[];
}

const rowsOfGroups = (item: Item, gap: Gap | undefined, groups: readonly AnswerGroup[]): LedgerRow[] =>
  groups.map((g) => ({
    key: g.key,
    text: g.text,
    name: g.text,
    also: g.writings.slice(1),
    who: g.who,
    share: g.mark.credit,
    decided: g.decided,
    ...(g.near !== undefined && { near: g.near }),
    give: (credit): Decision => ({ type: 'answer', item: item.id, ...(gap && { gap: gap.id }), text: g.text, credit }),
  }));

/** Rows of options: who chose them, and the key in which one earns another share. */
const rowsOfOptions = (options: readonly Option[], chose: (id: string) => number[], give: (options: Option[], said: string) => Decision): LedgerRow[] =>
  options.map((o) => ({
    key: o.id,
    text: o.content,
    name: plain(o.content),
    also: [],
    who: chose(o.id),
    share: o.credit,
    decided: false,
    give: (credit) =>
      give(
        options.map((x) => (x.id === o.id ? { ...x, credit } : x)),
        `“${plain(o.content)}” ${credit >= 1 ? 'is right' : credit > 0 ? `earns ${Math.round(credit * 100)} %` : 'is not right'}`,
      ),
  }));
const plain = (rich: string): string => {
  const text = plainOf(rich);
  return text.length > 60 ? `${text.slice(0, 59)}…` : text;
};

const placesWhere = (given: readonly (Response | null | undefined)[], is: (r: Response) => boolean): number[] =>
  given.flatMap((r, place) => (r && is(r) ? [place] : []));

/**
 * The answers to an item, put together; of a text with gaps one part for each gap in the order of the text. Nothing for items whose
 * answers are not put together: essays, pairs, sequences.
 * @param given one response for each person; nothing where there is none
 */
export function ledgerOf(j: Judging, item: Item, given: readonly (Response | null | undefined)[]): LedgerPart[] {
  const key = (set: Extract<Decision, { type: 'key' }>['set'], said: string): Decision => ({ type: 'key', item: item.id, set, said });
  switch (item.kind) {
    case 'short-answer':
    case 'numeric':
      return [{ typed: true, whole: false, points: item.points, rows: rowsOfGroups(item, undefined, answerGroups(j, item, undefined, given)) }];
    case 'multiple-choice':
    case 'multiple-response': {
      const chose = (id: string): number[] => placesWhere(given, (r) => 'options' in r && r.options.includes(id));
      const rows = rowsOfOptions(item.options, chose, (options, said) => key({ options }, said));
      if (item.kind === 'multiple-response') return [{ typed: false, whole: item.scoring !== 'weights', points: item.points, rows }];
      const decided = j.answers.get(item.id);
      const give =
        (text: string) =>
        (credit: number): Decision => ({ type: 'answer', item: item.id, text, credit });
      return [{ typed: false, whole: false, points: item.points, rows: rows.map((r) => ({ ...r, decided: decided?.has(r.key) ?? false, give: give(r.key) })) }];
    }
    case 'true-false':
      return [
        {
          typed: false,
          whole: true,
          points: item.points,
          rows: [true, false].map((truth) => ({
            key: String(truth),
            text: String(truth),
            name: String(truth),
            also: [],
            who: placesWhere(given, (r) => 'truth' in r && r.truth === truth),
            share: item.answer === truth ? 1 : 0,
            decided: false,
            // one of the two is right
            give: (share) => key({ answer: share > 0 ? truth : !truth }, `The statement is ${share > 0 === truth ? 'true' : 'false'}`),
          })),
        },
      ];
    case 'cloze':
      return gapParts(j, item, given, key);
    default:
      return [];
  }
}

function gapParts(
  j: Judging,
  item: ItemOf<'cloze'>,
  given: readonly (Response | null | undefined)[],
  key: (set: Extract<Decision, { type: 'key' }>['set'], said: string) => Decision,
): LedgerPart[] {
  const total = item.gaps.reduce((sum, g) => sum + g.points, 0) || 1;
  return gapsInOrder(item).map((gap): LedgerPart => {
    const part = { gap, typed: isTyped(item, gap), whole: false, points: (item.points * gap.points) / total };
    if (gap.kind !== 'choice') return { ...part, rows: rowsOfGroups(item, gap, answerGroups(j, item, gap, given)) };
    const chose = (id: string): number[] => placesWhere(given, (r) => 'gaps' in r && r.gaps[gap.id] === id);
    const give = (options: Option[], said: string): Decision => key({ gaps: item.gaps.map((g) => (g.id === gap.id ? { ...gap, options } : g)) }, said);
    return { ...part, rows: rowsOfOptions(gap.options, chose, give) };
  });
}

/** A rule of the item that would let an answer count, and others like it. */
export interface RuleOffer {
  /** "Only accents differ." */
  reason: string;
  /** "Do not mind accents" */
  label: string;
  decision: Decision;
}

/** The rules that would let a typed answer count: less strict ones, or a wider range. @param language the set's */
export function ruleOffers(item: Item, gap: Gap | undefined, text: string, language?: string): RuleOffer[] {
  return offersFor(item, gap ? { gaps: { [gap.id]: text } } : { text }, language).flatMap((o): RuleOffer[] => {
    if (o.alone || o.operation.type !== 'change') return [];
    const set = Object.fromEntries(Object.entries(o.operation.set).filter(([field]) => (keyFields as readonly string[]).includes(field)));
    return [{ reason: o.reason, label: o.label, decision: { type: 'key', item: item.id, set, said: o.label } }];
  });
}
