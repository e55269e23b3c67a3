/** Answers that stand behind or below their questions in one and the same way: what a line, or a line and its neighbours, show of it. */
import type { Unit } from '../series/series.js';
import { cardOf } from './card.js';
import type { Facts } from './facts.js';

/** Where a question ends, and the columns of the answer behind it. */
export interface Behind {
  end: number;
  answer: [number, number];
}

const OPTION_TALK = /^(?:circle|tick|choose|select|explain|give|write|why|name|show|use|see|justify|answer)(?![\p{L}])/iu;
/** Words behind the question mark of a line that are no note, and where the question ends; null where there are none. */
export function answerBehind(text: string): Behind | null {
  if (text.length > 300) return null;
  const m = /[?？]["”»)]?\s+(?:(?:->|=>|→|⇒|➜|[-–—=](?=\s))\s*)?(?=[^\s([_.…*])([^?？]{1,60})$/u.exec(text.trimEnd());
  const words = m?.[1] ?? '';
  if (!m || words.split(/\s+/).length > 7 || /\s[/|]\s|(?:^|\s)[A-Ea-e][.)]\s?\S|_{3,}/.test(words) || OPTION_TALK.test(words)) return null;
  const from = m.index + m[0].length - words.length;
  return { end: m.index + m[0].search(/[\s–—=→⇒➜-]/u), answer: [from, from + words.length] };
}
/** "Sert à couper : COUTEAU" */
const LOUD = /^(.*\p{Ll}.*?\S)\s*[:=]\s+(\p{Lu}[\p{Lu} '’-]{1,30})\s*$/u;
/** "1. Capital of France – Paris": where the question ends, and the columns of the answer. */
export function dashAnswer(f: Facts): Behind | null {
  const from = f.number?.at;
  if (from === undefined || f.length > 160) return null;
  const loud = LOUD.exec(f.text.slice(from));
  if (loud) {
    const answer = loud[2] ?? '';
    return { end: from + (loud[1]?.length ?? 0), answer: [f.text.trimEnd().length - answer.length, f.text.trimEnd().length] };
  }
  const card = cardOf(f.text.slice(from));
  if (!card || card.brief || !/^\s[–—-]\s/.test(f.text.slice(from + card.end))) return null;
  return { end: from + card.end, answer: [from + card.answer[0], from + card.answer[1]] };
}
/** Whether a line is quoted and stands alone right below a question that is not. */
export const quotedAnswer = (units: readonly Unit[], place: number): boolean => {
  const [above, u, below] = [units[place - 1], units[place], units[place + 1]];
  return Boolean(u?.line.own.quoted && u.gap === 0 && above && !above.line.own.quoted && above.facts.asks && !below?.line.own.quoted);
};
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
