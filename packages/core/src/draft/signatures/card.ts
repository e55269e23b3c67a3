/** A question and its answer on one line: "what is a baby swan called - cygnet", "Capital of Peru? Lima", "term = meaning". */

const BEHIND =
  /^(.*?\S)(?:\s*[?？]\s*(?:→|=>|->|➜|⇒|[-–—=](?=\s))\s*|\s+[-–—]+>?\s+|\s*(?:→|=>|->|➜|⇒)\s*|\s+=\s+|\s*::\s*|\s*[?？]\s+(?=\S)|\s{3,}|\t+)([^\t]{1,80})$/u;
const BRACKETS = /^(.*\S)\s*[([]([^()[\]]{1,60})[)\]]\s*[.?]?\s*$/u;
const ASKING =
  /^(?:what|which|who|whom|whose|when|where|why|how|name|in which|in what|at what|qu[ée]|qui|quel|quelle|où|combien|qual|quale|quanti?|quante|wie|was|wer|wo|wann|warum|welche[rsn]?|wat|welke|hoe|kt[oó]r\p{L}|kto|co|jak|ile|gdzie|что|кто|как\p{L}*|где|когда|сколько|який|яка|яке|які|що|хто|скільки|hangi|ne|kim|kaç|¿|a \p{L}+ of|vad|hva|hvad|mikä)(?![\p{L}])/iu;

/** A word and what it means on one line; columns of both. */
export interface Card {
  /** Column where the question ends, and the columns of the answer. */
  end: number;
  answer: [number, number];
  asks: boolean;
  /** The question is one word, or a few without anything that asks: a card only among others like it. */
  brief: boolean;
}

/** The question and the answer of a line that could hold both, or null. */
export function cardOf(line: string): Card | null {
  if (line.length > 240 || line.length < 6) return null;
  const text = line.replace(/\s+$/, '');
  const start = text.length - text.trimStart().length;
  let m = BEHIND.exec(text.slice(start));
  let question = m?.[1] ?? '';
  let answer = m?.[2] ?? '';
  let close = 0;
  if (!m) {
    m = BRACKETS.exec(text.slice(start));
    question = m?.[1] ?? '';
    answer = m?.[2] ?? '';
    close = m ? text.slice(start + m[0].lastIndexOf(answer) + answer.length).length : 0;
    if (!m) return null;
  }
  if (/[?？]\s/.test((m[0] ?? '').slice(question.length, question.length + 3)) && !close) question += '?';
  // what stands behind the answer as a further one belongs to it: "oak (oak tree is fine too)"
  const words = answer.trim().split(/\s+/).length;
  if (
    words > 8 ||
    // "Words (German – English)": the dash stands within brackets
    /\([^()]*$/.test(question) ||
    !/\p{L}{2}|[^\p{ASCII}]/u.test(question.replace(/[^\p{L}]/gu, '')) ||
    (question.split(/\s+/).length < 2 && answer.length > 60) ||
    /^\d+\s*(?:p|pts?|points?|marks?)\b|^[([]\d{1,2}[)\]]$/i.test(answer) ||
    // two to choose from
    /^(?:T\s*\/\s*F|true\s*\/\s*false|\p{L}\/\p{L}|\p{Lu}{2,5}\s*\/\s*\p{Lu}{2,5})$/u.test(answer.trim())
  )
    return null;
  const inner = close ? null : /^\((.*)\)$/.exec(answer);
  if (inner?.[1]) {
    answer = inner[1];
    close = 1;
  }
  const from = close ? text.length - close - answer.length : text.length - answer.length;
  return {
    end: start + question.length,
    answer: [from, from + answer.length],
    asks: ASKING.test(question) || /[?？]$/.test(question),
    brief: question.split(/\s+/).length < 2,
  };
}
