/** Marks and lines that say the key: beside an option, behind a question, at the head of a list. */
import { atEnd, headOf, pattern } from '../../language/labels.js';
import { ANSWER, FALSE, KEY_HEADING, PART, TRUE } from '../../language/words.js';

const RIGHT =
  'correct(?: answer| option)?|right(?: answer)?|key|answer|correcta?|respuesta correcta|correto|certo|correct[eo]|richtig(?:e antwort)?|bonne réponse|juste|juist|goed|poprawn[ae]|prawidłow[ae]|верно|правильно|правильный ответ|вірно|правильна відповідь|doğru(?: cevap)?|corretta|esatta|giusta';
/** In brackets or behind an arrow, "true" marks the key as "right" does. */
const RIGHT_NOTE = `${RIGHT}|${TRUE}`;
const WRONG = `wrong|incorrect[ao]?|sbagliat[ao]|bł[eę]dn[ea]|неправильный|distractor|foil|${FALSE}`;
const KEY_TAILS: readonly RegExp[] = [
  /\s*(?:[✓✔✅☑√⭐👍]|✔️)+\s*$/u,
  /\s*(?<!\*)\*{1,3}\s*$/,
  pattern(`\\s*[([{]\\s*(?:[✓✔✅*]\\s*)?(?:${RIGHT_NOTE})\\s*[✓✔✅!]?\\s*[)\\]}]\\s*$`),
  pattern(`\\s*(?:<[-=—–]*|←|⇐|<<|[-–—]{1,2}>?|=>|→|✅|✓|◄|◀|⬅️?)\\s*(?:${RIGHT_NOTE})\\s*[!.]?\\s*$`),
  /\s*[([]\s*[xX✓✔*+]\s*[)\]]\s*$/,
  /\s+\+{1,2}\s*$/,
  /\s+(?:←|⇐|<[-=]{1,5})\s*$/,
];
/** Where a key mark at the end of an option starts; −1 where there is none. */
export function keyTail(text: string): number {
  if (!/[✓✔✅☑√⭐👍*+)\]}!.←⇐\p{L}-]\s*$/u.test(text.slice(-40))) return -1;
  for (const t of KEY_TAILS) {
    const m = atEnd(t, text);
    if (m && m.index > 0) return m.index;
  }
  return -1;
}
// an empty box behind an option: another one's is ticked
const WRONG_TAIL = pattern(`\\s*(?:(?<=\\s)[([]\\s{1,3}[)\\]]|[([]\\s*[-–✗✘❌]\\s*[)\\]]|❌|✗|✘|[([]\\s*(?:${WRONG})\\s*[)\\]])\\s*$`);
/** Where a mark that an option is wrong starts at its end; −1 where there is none. */
export const wrongTail = (text: string): number => (/[✗✘❌)\]]\s*$/u.test(text.slice(-20)) ? (atEnd(WRONG_TAIL, text)?.index ?? -1) : -1);
const KEY_HEAD = /^\s*(?:[✓✔✅☑√⭐]|\*(?!\*)(?=\s*\S))\s*/u;
/** Length of a key mark in front of an option's text. */
export const keyHead = (text: string): number => KEY_HEAD.exec(text)?.[0].length ?? 0;

const JUDGED = pattern(
  `^\\s*(?:[-•*]\\s+)?[[(]?(?:(${RIGHT_NOTE})|(${WRONG}))(?:\\s+(?:answer|option|choice))?\\s*\\d?\\s*(?:[\\])]\\s*[:：–—-]?|[\\])]?\\s*[:：)–—-])\\s*(?=\\S)`,
);
/** "Wrong: rice", "Right: yeast": an option that a word in front calls right or wrong; null for others. */
export function judged(line: string): { at: number; right: boolean } | null {
  const m = JUDGED.exec(headOf(line));
  return m ? { at: m[0].length, right: m[1] !== undefined } : null;
}

const JUDGED_BEHIND = pattern(
  `\\s*(?:\\s[–—-]{1,2}|→|->|[:(])\\s*(?:(${RIGHT_NOTE}|that's right|exactly|well done|yes|sí|ja|oui|sì|sim|tak|да|так|evet)|(?:not quite|that's not|${WRONG}|no|nein|non|não|nee|nie|нет|ні|hayır))(?:[!.,:;)]|\\s[–—-]|\\s*$)\\s*`,
);
/** "steam – Correct! The water evaporates.": what an option is called behind it, where its words end, and from where to where the reason stands; null for others. */
export function judgedBehind(text: string): { to: number; reason: [from: number, to: number]; right: boolean } | null {
  if (text.length > 400) return null;
  const m = JUDGED_BEHIND.exec(text);
  if (!m || m.index <= 1) return null;
  const from = m.index + m[0].length;
  // "(Correct – it sets)": the bracket around it is none of its words
  const closing = m[0].includes('(') && !m[0].includes(')') && !/[()]/.test(text.slice(from).trimEnd().slice(0, -1)) ? /\)\s*$/.exec(text)?.index : undefined;
  return { to: m.index, reason: [from, Math.max(from, closing ?? text.length)], right: m[1] !== undefined };
}

const KEY_LINE = pattern(
  `^[\\s\\p{So}\\p{Sk}✔✓→➡👉*•-]*[(\\[]?\\s*(?:the\\s+)?(${ANSWER})(?:\\s+(?:is|are|es|ist|est|è|é|to (?:question|q) ?\\d+))?\\s*(?:[:=]|[-–—]{1,2}>?(?=\\s|[^\\s-]{1,3}$)|→)\\s*`,
);
const KEY_ABBREVIATED = /^[\s*•-]*(?:(?:ans|resp|r[ée]p|risp|antw|lös|odp|отв|відп)\.\s+|[RA](?:\.-|\/)\s+)(?=\S)/iu;
const KEY_WORD_LETTER = pattern(`^\\s*(?:${ANSWER})\\s+(?=\\(?[A-Ha-hА-Д]\\)?(?:\\s*[,&]\\s*[A-Ha-h])*\\s*$)`);
/** The column behind "Answer:", or null where a line does not start so. What follows may be empty and stand on the next line. */
export function keyLine(text: string): number | null {
  const head = headOf(text);
  const m = KEY_LINE.exec(head) ?? KEY_ABBREVIATED.exec(head) ?? (text.length < 60 ? KEY_WORD_LETTER.exec(head) : null);
  return m ? m[0].length : null;
}

const KEY_TITLE = pattern(
  `^(?:[\\s\\p{So}\\p{Sk}*=]|-{2,})*(?:the\\s+)?(?:${KEY_HEADING})(?:\\s+(?:to|for|zu|de|del|van|à) .{1,40}?|\\s+(?:${PART})\\s*\\w{0,4})?\\s*(?:[([][^)\\]]*[)\\]]|[-–—:](?!>)\\s*(?:${PART}).{0,30}|[-–—](?!>)\\s*.{0,40})?\\s*[:=-]*\\s*$`,
);
/** The heading of a key list, with nothing else on the line. */
export const keyTitle = (text: string): boolean => text.length < 120 && text.trim().length < 80 && KEY_TITLE.test(text);
const KEY_TITLE_ROW = pattern(
  `^[\\s\\p{So}*]*(?:${KEY_HEADING})(?:\\s+(?:${PART}|(?:ej|ex|exo|es|aufg|zad|ćw|упр)\\.)\\s*\\w{1,4}|\\s+[A-D](?=\\s*:))?\\s*(?:\\([^)]*\\)\\s*)?(?:[:.–—-]\\s*|\\s+)(?=(?:[A-Za-z][\\s,;]*){2,}$|\\(?(?:第?\\d{1,3}|[IVXL]{1,6}(?=[\\s.)-])|[A-Z](?=\\s))\\s*[.):=–-]*\\s*\\(?[\\p{L}\\d])`,
);
/** The heading of a key list with its entries behind it: the column of the first entry, or −1. */
export const keyTitleRow = (text: string): number => KEY_TITLE_ROW.exec(headOf(text))?.[0].length ?? -1;
