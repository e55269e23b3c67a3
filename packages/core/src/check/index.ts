/** The table of all findings. A new one is a rule and a row. */
import { keyProblem } from '../item/kinds.js';
import type { QuizSet } from '../item/model.js';
import { type Finding, type Limits, type Rule, usualLimits } from './finding.js';
import { aboveOptions, absolutes, articles, keyLongest, numberOrder, optionForm, repeatedWords } from './rules/choice.js';
import { duplicates, keyPositions, truthBalance } from './rules/set.js';
import { answerLeftIn, negativeStem } from './rules/stem.js';

export type { Finding, Limits, Rule, Severity } from './finding.js';
export { findingKey, usualLimits } from './finding.js';

const keyMissing: Rule = {
  code: 'key-missing',
  name: 'No complete key',
  why: 'An item without a key cannot mark itself.',
  source: 'The item model',
  ofItem(item) {
    const none = keyProblem(item);
    return none ? [{ severity: 'error', place: 'key', message: `The item has ${none.message}.` }] : [];
  },
};

export const rules: readonly Rule[] = [
  keyMissing,
  answerLeftIn,
  keyLongest,
  repeatedWords,
  articles,
  absolutes,
  aboveOptions,
  negativeStem,
  numberOrder,
  optionForm,
  duplicates,
  keyPositions,
  truthBalance,
];
export const ruleOf = (code: string): Rule | undefined => rules.find((r) => r.code === code);

/** Everything that the rules find in a set, item by item, then of the whole set. Pure: the same set gives the same findings. */
export function findingsOf(set: QuizSet, limits: Limits = usualLimits): Finding[] {
  const out: Finding[] = [];
  for (const item of set.items)
    for (const rule of rules) for (const f of rule.ofItem?.(item, limits) ?? []) out.push({ ...f, code: rule.code, items: [item.id] });
  for (const rule of rules) for (const f of rule.ofSet?.(set, limits) ?? []) out.push({ ...f, code: rule.code });
  return out;
}
