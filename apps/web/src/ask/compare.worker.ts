/** Reads and compares drafts, away from the page. */
import { type Checking, type ComparedDraft, compareDrafts, type SourceText } from '@zakuska/core';
import { expose } from 'comlink';

const remote = {
  compare: (texts: readonly string[], language: string | undefined, checking: Checking, sources: readonly SourceText[]): ComparedDraft[] =>
    compareDrafts(texts, language, checking, sources),
};
export type Comparer = typeof remote;
expose(remote);
