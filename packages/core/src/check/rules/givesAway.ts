/** A question that tells the answer of another. */
import { plainOf } from '../../item/richText.js';
import { isQuestion } from '../../item/kinds.js';
import type { Item } from '../../item/model.js';
import { guideline, type Rule } from '../finding.js';
import { keysOf, optionsOf } from '../options.js';
import { contentWords } from '../../language/contentWords.js';

/** The words of the key, where it has so few that they can be found elsewhere. */
function keyTexts(item: Item): string[] {
  if (item.kind === 'multiple-choice') return keysOf(optionsOf(item)).map((o) => plainOf(o.content));
  if (item.kind === 'short-answer') return item.answers.filter((a) => a.credit >= 1).map((a) => a.text);
  return [];
}
/** What a statement tells: a question tells little, and an untrue statement nothing. */
const told = (item: Item): string => (item.kind === 'true-false' && item.answer === false ? '' : plainOf(item.stem.replace(/\[\[[^\][]*\]\]/g, ' ')));

export const givesAway: Rule = {
  code: 'gives-away',
  name: 'One question tells the answer of another',
  why: 'Who reads on finds the answer, and the item measures reading.',
  source: guideline(4),
  examples: {
    found: [
      '1. What do bakers call a pre-ferment of equal weights of flour and water?\na) biga\nb) poolish *\nc) levain\n\n2. A poolish, a pre-ferment of equal weights of flour and water, ripens overnight. At what temperature?\na) 5 °C\nb) 20 °C *\nc) 40 °C',
    ],
    fine: [
      '1. What does a baker call a pre-ferment of equal weights of flour and water?\na) biga\nb) poolish *\nc) levain\n\n2. Which pre-ferment is the driest?\na) biga *\nb) poolish\nc) levain',
      '1. Which grain has the most gluten?\na) wheat *\nb) rye\nc) oats\n\n2. Where is most wheat milled?\na) near the sea *\nb) in towns\nc) on farms',
    ],
  },
  ofSet({ items }) {
    const tells = items.map((i) => new Set(isQuestion(i) ? contentWords(told(i)) : []));
    // the items that tell a word, in order: only those that tell the rarest word of a key are looked at
    const where = new Map<string, number[]>();
    tells.forEach((words, i) => {
      for (const w of words) {
        const list = where.get(w);
        if (list) list.push(i);
        else where.set(w, [i]);
      }
    });
    const out: ReturnType<NonNullable<Rule['ofSet']>> = [];
    items.forEach((item, at) => {
      // the rarer the words that two items share, the surer that one speaks of what the other asks
      const asked = [...new Set(contentWords(plainOf(item.stem)))];
      const weight = (w: string): number => Math.log(1 + items.length / (where.get(w)?.length ?? 1));
      const whole = asked.reduce((sum, w) => sum + weight(w), 0);
      if (asked.length < 3) return;
      for (const key of keyTexts(item)) {
        const words = contentWords(key);
        if (!words.length || words.length > 4 || words.every((w) => asked.includes(w) || w.length < 4)) continue;
        const rarest = words.reduce((x, y) => ((where.get(y)?.length ?? 0) < (where.get(x)?.length ?? 0) ? y : x));
        const teller = (where.get(rarest) ?? []).find((k) => {
          const said = tells[k];
          if (k === at || !said || items[k]?.section !== item.section || !words.every((w) => said.has(w))) return false;
          const shared = asked.filter((w) => said.has(w));
          return shared.length >= 3 && shared.reduce((sum, w) => sum + weight(w), 0) >= whole * 0.6;
        });
        if (teller === undefined) continue;
        const other = items[teller];
        if (other)
          out.push({
            severity: 'warning',
            items: [item.id, other.id],
            message: `Item ${other.label ?? teller + 1} tells the answer of item ${item.label ?? at + 1}: “${key.slice(0, 60)}”.`,
          });
      }
    });
    return out;
  },
};
