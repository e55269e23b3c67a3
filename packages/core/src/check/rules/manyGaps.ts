/** A text with so many gaps that it can hardly be read. */
import { plainOf } from '../../item/richText.js';
import type { Rule } from '../finding.js';

export const manyGaps: Rule = {
  code: 'gaps-too-many',
  name: 'More gaps than text',
  why: 'Where too many words are missing, nothing is left to find them from.',
  source: 'Haladyna and Rodriguez 2013, Developing and Validating Test Items, on completion items (from memory); the share is common practice',
  examples: {
    found: ['1. The ___ rises when ___ makes ___ .\nAnswers: dough; yeast; gas'],
    fine: ['1. The dough rises because ___ makes gas from the sugar of the flour.\nAnswer: yeast'],
  },
  ofItem(item, { gapShare }) {
    if (item.kind !== 'cloze' || item.gaps.length < 3) return [];
    const words = plainOf(item.stem.replace(/\[\[[^\][]*\]\]/g, ' ')).match(/[\p{L}\p{N}]+/gu)?.length ?? 0;
    return item.gaps.length / (words + item.gaps.length) > gapShare
      ? [{ severity: 'note', place: 'stem', message: `${item.gaps.length} gaps stand among ${words} words.` }]
      : [];
  },
};
