/** Two items that ask the same. */
import { plainOf } from '../../item/richText.js';
import { isQuestion } from '../../item/kinds.js';
import type { Rule } from '../finding.js';
import { contentWords } from '../../language/contentWords.js';

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
  examples: {
    found: [
      '1. Which flour forms the strongest gluten network?\na) strong wheat flour *\nb) rye flour\nc) rice flour\n\n2. Which flour forms the strongest gluten network of all?\na) rye flour\nb) strong wheat flour *\nc) rice flour',
    ],
    fine: [
      '1. Which flour forms the strongest gluten network?\na) strong wheat flour *\nb) rye flour\nc) rice flour\n\n2. Which flour has no gluten?\na) rice flour *\nb) rye flour\nc) spelt flour',
    ],
  },
};
