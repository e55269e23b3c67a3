/** What a person may want to change after trying an answer: the ways in which it would have counted. */
import { middleOf, minus, plus, writtenNumber } from '../language/decimal.js';
import type { Gap, Item, MatchRule, NumberAnswer, TextAnswer } from '../item/model.js';
import { defaultMatch } from '../item/model.js';
import type { SimpleOperation } from '../item/operations.js';
import { gapMark, mark, type Response, typedNumber } from './mark.js';
import { writesDecimalComma } from '../language/numbers.js';
import { matchText } from '../item/typedText.js';

/** A change that would let an answer count, as an operation with its name. */
export interface Offer {
  /** What the answer differs in: "One letter differs." */
  reason: string;
  /** What can be done about it: "Allow one letter to differ". */
  label: string;
  operation: SimpleOperation;
  /** Takes in this one answer, and no others like it. */
  alone?: true;
}

/** The ways to be less strict, one step each, the least first. */
const RELAXED: readonly { reason: string; label: string; rule: (r: MatchRule) => MatchRule }[] = [
  { reason: 'Only capital letters differ.', label: 'Do not mind capitals', rule: (r) => ({ ...r, caseSensitive: false }) },
  { reason: 'Only accents differ.', label: 'Do not mind accents', rule: (r) => ({ ...r, accents: 'ignore' }) },
  { reason: 'Only punctuation differs.', label: 'Do not mind punctuation', rule: (r) => ({ ...r, punctuation: 'ignore' }) },
  { reason: 'It is the same number, written differently.', label: 'Count numbers by value', rule: (r) => ({ ...r, numbersAsValues: true }) },
  { reason: 'Only the order of the list differs.', label: 'Take the list in any order', rule: (r) => ({ ...r, anyOrder: true }) },
  { reason: 'One letter differs.', label: 'Allow one letter to differ', rule: (r) => ({ ...r, spelling: Math.max(1, r.spelling) }) },
  { reason: 'Two letters differ.', label: 'Allow two letters to differ', rule: (r) => ({ ...r, spelling: Math.max(2, r.spelling) }) },
];

const textOffers = (
  given: string,
  answers: readonly TextAnswer[],
  rule: MatchRule,
  language: string | undefined,
  put: (change: { answers?: TextAnswer[]; match?: MatchRule }) => SimpleOperation,
): Offer[] => {
  const keys = answers.filter((a) => a.credit > 0);
  const eased = RELAXED.find((e) => keys.some((a) => matchText(given, a.text, e.rule(rule), language)));
  return [
    ...(eased ? [{ reason: eased.reason, label: eased.label, operation: put({ match: eased.rule(rule) }) }] : []),
    {
      reason: '',
      label: `Accept “${given.trim()}” as well`,
      operation: put({ answers: [...answers.filter((a) => a.text.trim() !== given.trim()), { text: given.trim(), credit: 1 }] }),
      alone: true,
    },
  ];
};

const numberOffers = (value: number, answers: readonly NumberAnswer[], put: (answers: NumberAnswer[]) => SimpleOperation): Offer[] => {
  const off = (a: NumberAnswer): number => (value < a.min ? minus(a.min, value) : minus(value, a.max));
  const nearest = answers.filter((a) => a.credit > 0).sort((a, b) => off(a) - off(b))[0];
  if (!nearest) return [];
  const middle = middleOf(nearest);
  const half = Math.abs(minus(value, middle));
  // far from the key nobody wants a tolerance
  if (half > Math.max(Math.abs(middle) * 0.1, (nearest.max - nearest.min) * 2)) return [];
  const { text: _asWritten, ...range } = nearest;
  return [
    {
      reason: `It lies ${writtenNumber(off(nearest))} outside the key.`,
      label: `Accept ${writtenNumber(middle)} ± ${writtenNumber(half)}`,
      operation: put(answers.map((a) => (a === nearest ? { ...range, min: minus(middle, half), max: plus(middle, half) } : a))),
    },
  ];
};

/**
 * What could be changed so that an answer that was marked wrong counts; nothing for one that counts in full, or that nobody typed.
 * @param language the set's
 */
export function offersFor(item: Item, given: Response | null | undefined, language?: string): Offer[] {
  if (!given || mark(item, given, language).state === 'right') return [];
  const own = item.language ?? language;
  const change = (set: Record<string, unknown>): SimpleOperation => ({ type: 'change', id: item.id, set });
  const comma = writesDecimalComma(own);
  if (item.kind === 'short-answer' && 'text' in given && given.text.trim()) return textOffers(given.text, item.answers, item.match, own, change);
  if (item.kind === 'numeric' && 'text' in given) {
    const value = typedNumber(given.text, item.unit, comma);
    return value === null ? [] : numberOffers(value, item.answers, (answers) => change({ answers }));
  }
  if (item.kind === 'cloze' && 'gaps' in given)
    return item.gaps.flatMap((gap): Offer[] => {
      const typed = given.gaps[gap.id] ?? '';
      if (!typed.trim() || gap.kind === 'choice' || gapMark(item, gap, typed, language).state === 'right') return [];
      const put = (g: Gap): SimpleOperation => change({ gaps: item.gaps.map((x) => (x.id === gap.id ? g : x)) });
      const value = gap.kind === 'number' ? typedNumber(typed, undefined, comma) : null;
      const offers =
        gap.kind === 'text'
          ? textOffers(typed, gap.answers, gap.match ?? defaultMatch, own, (c) => put({ ...gap, ...c }))
          : value === null
            ? []
            : numberOffers(value, gap.answers, (answers) => put({ ...gap, answers }));
      return offers.map((o) => ({ ...o, reason: `Gap ${gap.id}: ${o.reason}`.replace(/: $/, ':') }));
    });
  return [];
}
