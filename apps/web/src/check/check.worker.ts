/** Findings, reading level and evidence of a set, away from the page. */
import {
  type Checking,
  type Evidence,
  evidenceFor,
  type Finding,
  findingsOf,
  indexSources,
  type Item,
  type QuizSet,
  type Readability,
  readabilityOf,
  type SentenceIndex,
  setText,
  type SourceText,
} from '@zakuska/core';
import { expose } from 'comlink';

export interface Checked {
  findings: Finding[];
  /** Of all questions, options and passages together. */
  reading: Readability | null;
  /** What the sources say of each key; empty where there is no source. */
  evidence: Evidence[];
}

let sources: readonly SourceText[] = [];
let index: SentenceIndex | null = null;
/** What was found for an item, as long as neither it nor the sources change. */
let known = new Map<string, { item: string; evidence: Evidence | null }>();

function evidenceOf(items: readonly Item[], language: string | undefined): Evidence[] {
  if (!sources.length) return [];
  if (!index || index.language !== language) {
    index = indexSources(sources, language);
    known = new Map();
  }
  const { sentences } = index;
  if (!sentences.length) return [];
  return items.flatMap((i) => {
    const item = JSON.stringify(i);
    let k = known.get(i.id);
    if (k?.item !== item) {
      k = { item, evidence: evidenceFor(i, index as SentenceIndex) };
      known.set(i.id, k);
    }
    return k.evidence ?? [];
  });
}

const remote = {
  /** The sources that keys are looked up in from now on. */
  use(list: readonly SourceText[]): void {
    sources = list;
    index = null;
  },
  check: (set: QuizSet, by: Checking): Checked => ({
    findings: findingsOf(set, by),
    reading: readabilityOf(setText(set)),
    evidence: evidenceOf(set.items, set.language),
  }),
};
export type Checker = typeof remote;
expose(remote);
