/**
 * What a learner reads of an item, as sentences. Counting rule: an option of six words or more is a sentence of its own; shorter
 * ones end an unfinished question, or stand as one list behind it, and never count as sentences of one word each.
 */
import { plainOf } from '../item/richText.js';
import type { Item, QuizSet } from '../item/model.js';
import { stripEnd } from '../item/strip.js';

const SENTENCE_WORDS = 6;
const ends = (text: string): boolean => /[.!?…]["”»)]*$/.test(text);
const words = (text: string): number => text.split(/\s+/).length;

/** The text of an item, a sentence or list a paragraph. */
export function readText(item: Item): string {
  const stem = plainOf(item.stem);
  const choices =
    'options' in item
      ? item.options.map((o) => plainOf(o.content))
      : item.kind === 'matching'
        ? item.pairs.map((p) => `${plainOf(p.left)} ${plainOf(p.right)}`)
        : item.kind === 'ordering'
          ? item.sequence.map(plainOf)
          : [];
  const short = choices.filter((c) => c && words(c) < SENTENCE_WORDS).map((c) => c.replace(/[.;,]$/, ''));
  const long = choices.filter((c) => words(c) >= SENTENCE_WORDS);
  if (!short.length) return [stem, ...long].filter(Boolean).join('\n\n');
  // an unfinished question is read with one option at a time: their usual length stands for all
  const first = ends(stem)
    ? [stem, short.join(', ')]
    : [`${stripEnd(stem, /[:_\s]/)} ${[...short].sort((a, b) => words(a) - words(b))[short.length >> 1] ?? ''}`];
  return [...first, ...long].filter(Boolean).join('\n\n');
}

/** The text of a set with its passages. */
export const setText = (set: QuizSet): string =>
  [...(set.sections ?? []).map((s) => plainOf(s.passage ?? '')), ...set.items.map(readText)].filter(Boolean).join('\n\n');
