/** Items as something that can be answered by what their text says. */
import type { Item, QuizSet } from '../item/model.js';
import { mark } from '../mark/mark.js';
import { responseOf } from './probes.js';
import { showsSame } from './shows.js';
import type { Playable } from './rehearse.js';

const typedIn = (item: Item): string[][] => {
  if (item.kind === 'short-answer') return [item.answers.map((a) => a.text)];
  if (item.kind === 'numeric') return [item.answers.flatMap((a) => [String(a.min), String(a.max)])];
  if (item.kind !== 'cloze') return [];
  return item.gaps.map((g) =>
    g.kind === 'text' ? g.answers.map((a) => a.text) : g.kind === 'number' ? g.answers.flatMap((a) => [String(a.min), String(a.max)]) : [],
  );
};

/** Items of a set that was read back, marked by the core: for formats whose rules of scoring are those of the model, or few. */
export const playSet = (set: QuizSet): Playable[] =>
  set.items.map((item) => ({
    id: item.id,
    stem: item.stem,
    maximum: item.points,
    typed: typedIn(item),
    ...('options' in item && { options: item.options.map((o) => o.content) }),
    score: (act) => {
      const r = responseOf(item, act, showsSame);
      return r ? mark(item, r, set.language).points : null;
    },
  }));
