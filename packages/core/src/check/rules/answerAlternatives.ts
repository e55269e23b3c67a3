/** Several accepted answers that stand in one line. */
import type { TextAnswer } from '../../item/model.js';
import { parseNumber } from '../../language/numbers.js';
import type { Rule } from '../finding.js';
import { partsOf } from '../../item/strip.js';

/** The alternatives in a text; one where it is no list of such. */
export const alternatives = (text: string, language?: string): string[] => {
  if (parseNumber(text) !== null) return [text];
  // "of" is Dutch for or, and a plain word of English
  const parts = partsOf(text.replace(/\s+/g, ' '), language?.startsWith('nl') ? / of |\// : / (?:or|oder|ou|o|lub|или|або|veya) |\//);
  // "km/h" and "and/or" are one word; the alternatives of an answer are words of their own
  const words = parts.every((p) => p.length > 2 && p.split(/\s+/).length <= 4);
  return parts.length > 1 && words && !/\d\s*\/|and\/or/.test(text) ? parts : [text];
};

/** Accepted answers that hold each other, or a number that a text answer would miss. */
export const answerAlternatives: Rule = {
  code: 'answers-in-one',
  name: 'Several answers written as one',
  why: 'A learner who types one of them is marked wrong: only the whole line counts.',
  source: 'Common practice, no source',
  examples: {
    // a draft's alternatives are taken apart when it is read; those of files are not
    found: [],
    fine: ['1. How fast is the belt?\nAnswer: 3 km/h', '1. What is half?\nAnswers: 1/2'],
  },
  ofItem(item, _limits, { language }) {
    /** Alternatives that do not count yet, behind the answer they stand in; it stays, so that nobody who was right is wrong. */
    const missing = (answers: readonly TextAnswer[], a: TextAnswer): string[] => {
      const parts = alternatives(a.text, language);
      return parts.length > 1 ? parts.filter((p) => !answers.some((b) => b.text === p)) : [];
    };
    const split = (answers: readonly TextAnswer[]): TextAnswer[] => answers.flatMap((a) => [a, ...missing(answers, a).map((text) => ({ ...a, text }))]);
    if (item.kind === 'short-answer') {
      const answers = split(item.answers);
      const one = item.answers.find((a) => missing(item.answers, a).length > 0);
      return one
        ? [
            {
              severity: 'warning',
              place: 'key',
              message: `“${one.text}” counts as one answer.`,
              fix: { label: 'Accept each of them', operations: [{ type: 'change', id: item.id, set: { answers } }] },
            },
          ]
        : [];
    }
    if (item.kind !== 'cloze') return [];
    const gap = item.gaps.find((g) => g.kind === 'text' && g.answers.some((a) => missing(g.answers, a).length > 0));
    return gap
      ? [
          {
            severity: 'warning',
            place: 'key',
            message: `The answers of gap ${gap.id} count as one.`,
            fix: {
              label: 'Accept each of them',
              operations: [{ type: 'change', id: item.id, set: { gaps: item.gaps.map((g) => (g.kind === 'text' ? { ...g, answers: split(g.answers) } : g)) } }],
            },
          },
        ]
      : [];
  },
};
