/** Sentences that are too long to be held in mind. */
import { plainOf } from '../../item/richText.js';
import type { Rule } from '../finding.js';
import { sentencesOf } from '../readability.js';

export const longSentence: Rule = {
  code: 'long-sentence',
  name: 'A long sentence in the question',
  why: 'Who has forgotten the beginning when the end comes answers another question.',
  source: 'Haladyna, Downing and Rodriguez 2002, guideline 13 (number from memory); the number of words is common practice',
  examples: {
    found: [
      '1. If a baker who has mixed a dough with cold water in the early morning and has left it to rise on a wooden table beside an open window in winter comes back after two hours, what does the baker see?\na) a small dough *\nb) a large dough',
    ],
    fine: [
      '1. A baker mixes a dough with cold water early in the morning. It rises on a table beside an open window in winter. What does the baker see after two hours?\na) a small dough *\nb) a large dough',
    ],
  },
  ofItem(item, { sentenceWords }) {
    if (item.kind === 'information') return [];
    const longest = Math.max(0, ...sentencesOf(plainOf(item.stem)).map((s) => s.words));
    return longest > sentenceWords ? [{ severity: 'note', place: 'stem', message: `A sentence has ${longest} words.` }] : [];
  },
};
