/** Findings and reading level of a set, away from the page. */
import { type Finding, findingsOf, type QuizSet, type Readability, readabilityOf, richToPlain } from '@zakuska/core';
import { expose } from 'comlink';

export interface Checked {
  findings: Finding[];
  /** Of all questions, options and passages together. */
  reading: Readability | null;
}

/** What a learner reads of a set, a sentence a line. */
const textOf = (set: QuizSet): string =>
  [...(set.sections ?? []).flatMap((s) => [s.passage ?? '']), ...set.items.flatMap((i) => [i.stem, ...('options' in i ? i.options.map((o) => o.content) : [])])]
    .map((t) => richToPlain(t).trim())
    .filter(Boolean)
    .join('\n\n');

const remote = {
  check: (set: QuizSet): Checked => ({ findings: findingsOf(set), reading: readabilityOf(textOf(set)) }),
};
export type Checker = typeof remote;
expose(remote);
