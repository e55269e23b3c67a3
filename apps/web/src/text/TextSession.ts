/** A set that is open as text: what it was made from, and what was typed, kept in this browser until it is taken back. */
import type { QuizSet } from '@zakuska/core';
import { local } from '../set/local.js';

export interface KeptText {
  /** The set that the text was written from; changes are counted from it, so that others' work meanwhile stays. */
  base: QuizSet;
  text: string;
}

const key = (set: string): string => `${set} as text`;
const baseKey = (set: string): string => `${set} before text`;

export async function keptText(set: string): Promise<KeptText | null> {
  const [text, base] = await Promise.all([local.draft(key(set)), local.draft(baseKey(set))]);
  if (!text || !base) return null;
  try {
    return { text: text.text, base: JSON.parse(base.text) as QuizSet };
  } catch {
    return null;
  }
}

/** Keeps what was typed, or forgets it. The set that it was written from is kept once, in front of the first change. */
export async function keepText(set: string, kept: KeptText | null, first: boolean): Promise<void> {
  if (first || !kept) await local.keepDraft(baseKey(set), kept && { base: 0, text: JSON.stringify(kept.base), overrides: [] });
  await local.keepDraft(key(set), kept && { base: 0, text: kept.text, overrides: [] });
}
