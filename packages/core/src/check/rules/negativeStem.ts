/** A negative word that nothing stresses. */
import { NEGATIVE } from '../../language/negatives.js';
import { plainOf } from '../../item/richText.js';
import { guideline, type Rule } from '../finding.js';

/** A negative word counts in the sentence that asks; Spanish and Portuguese "no" only before a verb is hard to tell, so only capitals are looked for there. */
export const negativeStem: Rule = {
  code: 'negative-not-stressed',
  name: 'A negative word that is easily missed',
  why: 'Who reads fast misses “not” and answers the opposite. Ask positively, or write the word in capitals or bold.',
  source: guideline(17),
  ofItem(item) {
    if (!('options' in item)) return [];
    const sentences = plainOf(item.stem).split(/(?<=[.!])\s+/);
    const asks = sentences[sentences.length - 1] ?? '';
    const m = NEGATIVE.exec(asks);
    // "no" is Spanish and Portuguese for not, and English for none: only before a verb does it turn a question round
    if (!m || (m[1] === 'no' && !/(?<![\p{L}])no\s+(?:es|son|se|tiene|hay|debe|puede|contiene)(?![\p{L}])/u.test(asks))) return [];
    const word = m[1] ?? '';
    const stressed = new RegExp(`<(?:strong|em|u)>[^<]*${word}[^<]*</`, 'iu').test(item.stem);
    // a negative in a relative clause describes what is asked for: "a volcano that has not erupted is called"
    if (
      stressed ||
      new RegExp(`(?<![\\p{L}])(?:that|which|who|das|der|die|que|qui|che)\\s+(?:\\p{L}+\\s+){0,2}${word}(?![\\p{L}])`, 'iu').test(
        asks.replace(/^[^,]*?which of/i, ''),
      ) ||
      /\b(?:whether or|or) not\b|not only/i.test(asks)
    )
      return [];
    const at = item.stem.lastIndexOf(word);
    const loud = at < 0 ? null : `${item.stem.slice(0, at)}${word.toUpperCase()}${item.stem.slice(at + word.length)}`;
    return [
      {
        severity: 'note',
        place: 'stem',
        message: `“${word}” turns the question round, and nothing stresses it.`,
        ...(loud !== null && { fix: { label: `Write “${word.toUpperCase()}”`, operations: [{ type: 'change' as const, id: item.id, set: { stem: loud } }] } }),
      },
    ];
  },
  examples: {
    found: ['1. Which of these is not a grain?\na) rye\nb) cod *\nc) oats'],
    fine: [
      '1. Which of these is NOT a grain?\na) rye\nb) cod *\nc) oats',
      '1. Dough that has not rested is called\na) young *\nb) old\nc) ripe',
      '1. Whether or not it rains, what is baked?\na) bread *\nb) ice\nc) soup',
    ],
  },
};
