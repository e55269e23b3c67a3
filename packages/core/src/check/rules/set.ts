/** What only the whole set shows: where the keys stand, how many statements are true, which items are alike. */
import { isQuestion, keyPlaces, letterOf } from '../../item/kinds.js';
import type { Item } from '../../item/model.js';
import { binomialTwoSided, multinomialEven } from '../chance.js';
import { guideline, type Rule } from '../finding.js';
import { contentWords, plainOf } from '../words.js';

const inWords = (p: number): string =>
  p < 0.001
    ? 'less than once in a thousand'
    : p < 0.01
      ? `about ${Math.max(1, Math.round(p * 1000))} times in a thousand`
      : `about ${Math.max(1, Math.round(p * 100))} times in a hundred`;

export const keyPositions: Rule = {
  code: 'keys-in-one-place',
  name: 'The key too often in one place',
  why: 'Who guesses the same letter throughout scores too well.',
  source: guideline(20),
  ofSet({ items }, { chance }) {
    const choices = items.filter((i): i is Item & { kind: 'multiple-choice' } => i.kind === 'multiple-choice' && keyPlaces(i).length === 1);
    const out: ReturnType<NonNullable<Rule['ofSet']>> = [];
    for (const size of [3, 4, 5]) {
      const of = choices.filter((i) => i.options.length === size);
      if (of.length < 6) continue;
      const counts = Array.from({ length: size }, (_, p) => of.filter((i) => keyPlaces(i)[0] === p).length);
      const p = multinomialEven(counts);
      if (p > chance) continue;
      const most = counts.indexOf(Math.max(...counts));
      out.push({
        severity: 'warning',
        items: of.map((i) => i.id),
        place: 'key',
        message: `Of ${of.length} items with ${size} options, ${counts[most] ?? 0} have the key at ${letterOf(most)}. By chance that happens ${inWords(p)}.`,
      });
    }
    return out;
  },
};

export const truthBalance: Rule = {
  code: 'true-false-out-of-balance',
  name: 'Statements nearly all true, or nearly all false',
  why: 'Who ticks the same throughout scores too well.',
  source: guideline(20),
  ofSet({ items }, { chance }) {
    const all = items.filter((i): i is Item & { kind: 'true-false' } => i.kind === 'true-false' && i.answer !== null);
    const yes = all.filter((i) => i.answer).length;
    const p = all.length < 5 ? 1 : binomialTwoSided(yes, all.length);
    // five of one sort happen six times in a hundred and are seen at once; a limit of one in a hundred would never tell
    if (p > Math.max(chance, 0.07) || (yes !== 0 && yes !== all.length && p > chance)) return [];
    return [
      {
        severity: 'warning',
        items: all.map((i) => i.id),
        place: 'key',
        message: `${yes} of ${all.length} statements are true. By chance so uneven a list happens ${inWords(p)}.`,
      },
    ];
  },
};

/** Share of the words that two items have in common (Jaccard). */
function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let both = 0;
  for (const w of a) if (b.has(w)) both++;
  return both / (a.size + b.size - both || 1);
}
export const duplicates: Rule = {
  code: 'items-alike',
  name: 'Two items that ask the same',
  why: 'The same question twice counts twice, and one may give the other away.',
  source: 'Common practice, no source',
  ofSet({ items }, { likeness: limit }) {
    const words = items.map(
      (i) => new Set([...contentWords(plainOf(i.stem)), ...('options' in i ? i.options.flatMap((o) => contentWords(plainOf(o.content))) : [])]),
    );
    // only items that share a word are compared
    const by = new Map<string, number[]>();
    const out: ReturnType<NonNullable<Rule['ofSet']>> = [];
    items.forEach((item, i) => {
      const own = words[i] as Set<string>;
      if (!isQuestion(item) || own.size < 4) return;
      const near = new Map<number, number>();
      for (const w of own) {
        const list = by.get(w) ?? [];
        if (list.length < 200) for (const k of list) near.set(k, (near.get(k) ?? 0) + 1);
        list.push(i);
        by.set(w, list);
      }
      for (const [k, shared] of near) {
        const other = items[k];
        if (!other || other.kind !== item.kind || shared < own.size * limit * 0.6) continue;
        if (likeness(own, words[k] as Set<string>) >= limit)
          out.push({
            severity: 'warning',
            items: [other.id, item.id],
            message: `Items ${other.label ?? k + 1} and ${item.label ?? i + 1} ask nearly the same.`,
          });
      }
    });
    return out;
  },
};
