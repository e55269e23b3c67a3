/** The signs of questions with their answers in braces: "{=right ~wrong}", "{T}", "{#3}", "{}". See signs/braces.ts. */
import { memoised } from '../surface/lines.js';
import type { Facts } from './facts.js';
import type { Unit } from './unit.js';

/** A question whose braces open at the end of the line. */
export const BRACE_OPEN = /^\s*(?:::[^:\n]{1,120}::)?\s*(\S.*?)\s*\{\s*$/;
/** A question with its braces on one line. */
export const BRACE_WHOLE = /^\s*(?:::[^:\n]{1,120}::)?\s*(\S.*?)\s*\{([^{}]*)\}\s*$/;
/** An answer with its sign: "=" right, "~" wrong. */
export const BRACE_ANSWER = /^\s*([=~])\s*(?:%-?\d+(?:\.\d+)?%)?\s*(?=\S)/;
/** A pair to match: "=left -> right". */
export const BRACE_PAIR = /^\s*=\s*(\S.*?)\s*->\s*(\S.*)$/;
/** Nothing but true or false. */
export const BRACE_TRUTH = /^\s*(T|TRUE|F|FALSE)\s*(?:#.*)?$/i;
/** Nothing but a number or a range: "#4", "#3..5". */
export const BRACE_NUMBER = /^\s*#\s*(-?[\d.,]+(?:\.\.-?[\d.,]+)?)\s*$/;

/** The format has no numbers of its own; numbered questions with braces are gaps in a sentence. */
export const numberedLine = (f: Facts): boolean => f.number !== undefined && f.number.form !== 'loose';

function saysIn(text: string): 'question' | 'answer' | 'both' | '' {
  if (BRACE_OPEN.test(text)) return 'question';
  if (BRACE_ANSWER.test(text)) return 'answer';
  const inner = text.includes('{') ? BRACE_WHOLE.exec(text)?.[2] : undefined;
  return inner !== undefined && (BRACE_TRUTH.test(inner) || BRACE_NUMBER.test(inner) || /^\s*[=~]/.test(inner)) ? 'both' : '';
}
/** Whether a draft has questions with answers in braces: a few that open or hold them, and answers with their signs. */
export function hasBraces(units: readonly Unit[]): boolean {
  let questions = 0;
  let answers = 0;
  for (const u of units) {
    if (numberedLine(u.facts)) continue;
    const says = memoised(u.line, saysIn);
    if (says !== 'answer' && says !== '') questions++;
    if (says !== 'question' && says !== '') answers++;
  }
  return questions >= 2 && answers >= 2;
}
