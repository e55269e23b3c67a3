/** A blank in a question's text, which makes a typed answer a gap. */
import type { Item } from '../item/model.js';
import type { Recast } from '../fit/recast.js';

const BLANK = /_{3,}/g;

/** Where the blank that is asked for stands: the one that ends the text, else the only one; null where there is none, or it could be several. */
export function blankIn(stem: string): { from: number; to: number } | null {
  if (!stem.includes('___')) return null;
  const all = Array.from(stem.matchAll(BLANK), (m) => ({ from: m.index, to: m.index + m[0].length }));
  const last = all[all.length - 1];
  if (!last) return null;
  const ends = /^(\s|<\/?[a-z]+\/?>)*$/i.test(stem.slice(last.to));
  return ends || all.length === 1 ? last : null;
}

const withGap = (stem: string, at: { from: number; to: number }): string => `${stem.slice(0, at.from)}[[1]]${stem.slice(at.to)}`;

/** A typed answer to a question with a blank, as that blank. Anything else is given back as it is. */
export function asGap(item: Item): Item {
  if (item.kind !== 'short-answer' && item.kind !== 'numeric') return item;
  const at = blankIn(item.stem);
  if (!at) return item;
  if (item.kind === 'short-answer') {
    const { answers, match, ...rest } = item;
    return { ...rest, kind: 'cloze', stem: withGap(item.stem, at), gaps: [{ id: '1', kind: 'text', points: 1, answers, match }] };
  }
  const { answers, unit: _unit, ...rest } = item;
  return { ...rest, kind: 'cloze', stem: withGap(item.stem, at), gaps: [{ id: '1', kind: 'number', points: 1, answers }] };
}

/** A typed answer whose stem has a blank, as a gap. */
export const blankAsGap: Recast = { brief: 'as a gap', message: 'its blank becomes a gap to fill', make: (item) => [asGap(item)] };
