/** The table of all findings. A new one is a file and a row. */
import type { Item, QuizSet } from '../item/model.js';
import type { Aim } from '../item/operations.js';
import { type Finding, type Limits, type Rule, usualLimits } from './finding.js';
import { aboveOptions } from './rules/aboveOptions.js';
import { absolutes } from './rules/absolutes.js';
import { absoluteStatement } from './rules/absoluteStatement.js';
import { answerAlternatives } from './rules/answerAlternatives.js';
import { answerLeftIn } from './rules/answerLeftIn.js';
import { articles } from './rules/articles.js';
import { doubleNegative } from './rules/doubleNegative.js';
import { duplicates } from './rules/duplicates.js';
import { emptyText } from './rules/emptyText.js';
import { formulas } from './rules/formulas.js';
import { givesAway } from './rules/givesAway.js';
import { keyLongest } from './rules/keyLongest.js';
import { keyMissing } from './rules/keyMissing.js';
import { keyPositions } from './rules/keyPositions.js';
import { longSentence } from './rules/longSentence.js';
import { manyGaps } from './rules/manyGaps.js';
import { negativeStem } from './rules/negativeStem.js';
import { numberOrder } from './rules/numberOrder.js';
import { numberTooExact } from './rules/numberTooExact.js';
import { optionForm } from './rules/optionForm.js';
import { optionsAlike } from './rules/optionsAlike.js';
import { outcomes } from './rules/outcomes.js';
import { overlap } from './rules/overlap.js';
import { pictureWords } from './rules/pictureWords.js';
import { readingLevel } from './rules/readingLevel.js';
import { repeatedWords } from './rules/repeatedWords.js';
import { truthBalance } from './rules/truthBalance.js';

export type { About, Finding, Limits, Rule, Severity } from './finding.js';
export { findingKey, limitRows, usualLimits } from './finding.js';

/** The table of all rules, in the order in which findings are told. */
export const rules: readonly Rule[] = [
  keyMissing,
  emptyText,
  formulas,
  answerLeftIn,
  optionsAlike,
  overlap,
  keyLongest,
  repeatedWords,
  articles,
  absolutes,
  absoluteStatement,
  aboveOptions,
  negativeStem,
  doubleNegative,
  numberOrder,
  optionForm,
  answerAlternatives,
  numberTooExact,
  manyGaps,
  longSentence,
  readingLevel,
  pictureWords,
  duplicates,
  givesAway,
  keyPositions,
  truthBalance,
  outcomes,
];
/** The rule with a code; undefined for a code that is no longer known. */
export const ruleOf = (code: string): Rule | undefined => rules.find((r) => r.code === code);

/** How a set is checked: what is not said is as usual. */
export interface Checking {
  limits?: Partial<Limits> | undefined;
  aim?: Aim | undefined;
  /** Codes of rules that are not asked. */
  off?: readonly string[] | undefined;
}

/** Codes of what the rules find in an item by itself, each once, with the usual thresholds. */
export function ownFindings(item: Item, language: string | undefined): string[] {
  const about = { language: item.language ?? language, aim: {} };
  return rules.flatMap((r) => (r.ofItem?.(item, usualLimits, about).length ? [r.code] : []));
}

/** Everything that the rules find in a set, item by item, then of the whole set. Pure: the same set gives the same findings. */
export function findingsOf(set: QuizSet, by: Checking = {}): Finding[] {
  const limits = { ...usualLimits, ...by.limits };
  const about = { language: set.language, aim: by.aim ?? {} };
  const asked = rules.filter((r) => !by.off?.includes(r.code));
  const out: Finding[] = [];
  for (const item of set.items)
    for (const rule of asked) for (const f of rule.ofItem?.(item, limits, about) ?? []) out.push({ ...f, code: rule.code, items: [item.id] });
  for (const rule of asked) for (const f of rule.ofSet?.(set, limits, about) ?? []) out.push({ ...f, code: rule.code });
  return out;
}
