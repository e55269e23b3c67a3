/** Answers that stand behind their questions on one line, in one and the same way. */
import { cardOf } from './card.js';

/** Where a question ends, and the columns of the answer behind it. */
export interface Behind {
  end: number;
  answer: [number, number];
  /** What asks is one word: it does so only among others. */
  brief?: boolean;
  /** It stands behind a question mark and wide space. */
  wide?: boolean;
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
/** Answers there are no places to write on, no points, no "T   F" to choose from. */
const WIDE_BEHIND = /^[?？]\s{3,}(?!\S{1,2}\s*[/|]?\s{1,8}\S{1,2}$)(?=[\p{L}\d])[^_…☐□○[\]]*$/u;
/** "1. Capital of France – Paris": where the question ends, and the columns of the answer; `from` is the column behind the number. */
export function dashAnswer(text: string, from: number | undefined): Behind | null {
  if (from === undefined || text.length > 160) return null;
  const loud = LOUD.exec(text.slice(from));
  if (loud) {
    const answer = loud[2] ?? '';
    const end = text.trimEnd().length;
    return { end: from + (loud[1]?.length ?? 0), answer: [end - answer.length, end] };
  }
  const card = cardOf(text.slice(from));
  if (!card) return null;
  const wide = WIDE_BEHIND.test(text.slice(from + card.end - 1));
  if (!wide && !/^\s+[–—-]\s/.test(text.slice(from + card.end))) return null;
  return { ...(wide && { wide }), end: from + card.end, answer: [from + card.answer[0], from + card.answer[1]], ...(card.brief && { brief: true }) };
}
