/** A line with text as the reader goes over it, and what it shows together with its neighbours. */
import type { Line } from '../surface/lines.js';
import type { Facts } from './facts.js';

/** A line with text. */
export interface Unit {
  line: Line;
  facts: Facts;
  /** Blank lines before it. */
  gap: number;
  /** Stands inside an answer that is folded away. */
  folded: boolean;
}

/** Whether a line is quoted and stands alone right below a question that is not. */
export const quotedAnswer = (units: readonly Unit[], place: number): boolean => {
  const [above, u, below] = [units[place - 1], units[place], units[place + 1]];
  return Boolean(u?.line.own.quoted && u.gap === 0 && above && !above.line.own.quoted && above.facts.asks && !below?.line.own.quoted);
};
/** Whether a line is the second of two that stand apart, the first of which asks: its answer, where the others are so too. */
export function answersInPair(units: readonly Unit[], place: number): boolean {
  const [above, u, below] = [units[place - 1], units[place], units[place + 1]];
  if (!above || !u || u.gap > 0 || above.gap === 0 || (below && below.gap === 0)) return false;
  return (
    above.facts.asks &&
    !u.facts.asks &&
    !u.facts.furniture &&
    !u.facts.front.box &&
    u.facts.inline.every((r) => r.segments.length < 2) &&
    u.facts.keyAt === null
  );
}
/** Whether a line alone, set in deeper than the question above, is its answer: the next line asks again or stands apart. */
export function answersAlone(units: readonly Unit[], place: number): boolean {
  const [above, u, below] = [units[place - 1], units[place], units[place + 1]];
  if (!above || !u || u.gap > 0 || !above.facts.asks || u.facts.asks || u.line.indent <= above.line.indent) return false;
  if (
    u.facts.labels.some((l) => l.form !== 'loose') ||
    u.facts.front.bullet ||
    u.facts.front.box ||
    u.facts.furniture ||
    u.facts.inline.some((r) => r.segments.length > 1)
  )
    return false;
  return !below || below.gap > 0 || below.line.indent < u.line.indent;
}
