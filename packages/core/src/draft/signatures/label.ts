/** Labels: whatever could number a question or name an option at the start of some words, in any script and with any sign behind. */
import { letterPlace, letterPlaces, romanValue } from '../../language/labels.js';
import { QUESTION } from '../../language/words.js';
import { partPlace, withinValue } from './entries.js';

/** What labels count with: digits, large and small letters, Roman numbers, letters of other scripts, words, turns of talk … */
export type LabelClass = 'num' | 'up' | 'low' | 'rom' | 'roml' | 'other' | 'word' | 'turn' | 'bonus' | 'dec';

/** A label in front of some words. */
export interface Label {
  cls: LabelClass;
  /** What stands around it: ".", "()", "wide" (only wide space behind), "loose" (one blank) … */
  form: string;
  /** Class and form in one: labels of one series have the same. */
  sig: string;
  /** Its place in the series, from 1; 0 where it has none ("Q:"). */
  ord: number;
  /** The letter of a part: "3a". */
  sub: string;
  /** As printed: "12", "3a", "IV", "B". */
  text: string;
  /** Column where the label starts, and where the words behind it start. */
  from: number;
  at: number;
}

/** The label of a question or a speaker that has no number ("Q", "Host:"), from one column on to where the words start. */
export const turnLabel = (from: number, at: number): Label => ({ cls: 'turn', form: 'turn', sig: 'turn', ord: 0, sub: '', text: '', from, at });

const LETTER_AND_NUMBER = /^\s*[*_]{0,2}(\p{Lu})\s?(\d{1,3})\s?[.:)]\s*(?=\S)/u;
/** "R1. Rojo": the capital, the number, and the column of the words behind; null where a line does not start so. */
export function letterAndNumber(line: string): { letter: string; number: number; at: number } | null {
  const m = LETTER_AND_NUMBER.exec(line.slice(0, 24));
  return m ? { letter: m[1] ?? '', number: Number(m[2]), at: m[0].length } : null;
}

const DIGITS = /\p{Nd}/u;
const CIRCLED: readonly [number, number][] = [
  [0x2460, 20],
  [0x2474, 20],
  [0x2488, 20],
  [0x2776, 10],
  [0x2780, 10],
  [0x278a, 10],
  [0x24f5, 10],
];
/** The value of a sign that is a whole label by itself: "③", "⑴", "1️⃣". */
function circledValue(c: string): number {
  const code = c.codePointAt(0) ?? 0;
  for (const [from, n] of CIRCLED) if (code >= from && code < from + n) return code - from + 1;
  return 0;
}
/** The place of a letter in its row, from 1; 0 for none. */
export const letterOrd = (c: string): number => letterPlace(c) + 1;
const digitValue = (c: string): number => {
  const code = c.codePointAt(0) ?? 0;
  if (code < 128) return code - 48;
  // decimal digits of every script stand in rows of ten that begin at a multiple of sixteen or six
  let zero = code;
  while (code - zero < 9 && DIGITS.test(String.fromCodePoint(zero - 1))) zero--;
  return code - zero;
};

const Q_WORD = new RegExp(
  `^(?:(?:multiple[- ]choice|true[/ -]false|short[- ]answer|practice|quiz|test|sample|bonus) )?(?:${QUESTION}|ques(?:tion)?\\.?|no\\.?|nr\\.?|n[º°]|№|#|number|fr\\.|frage|exercise|exercice|ejercicio|esercizio|[üu]bung|problem|card|item|mcq|quiz|问题|第|問|문제|प्रश्न|سؤال|שאלה|ερώτηση|fråga|spørgsmål|spørsmål|kysymys|otázka|kérdés|întrebare(?:a)?|въпрос|питање|pitanje|câu|soal|kysymys|küsimus|klausimas|jautājums)(?![\\p{Ll}])\\.?\\s*(?:no\\.?|nr\\.?|n[º°]|num\\.?|#|№)?\\s*(\\p{Nd}{1,4})([a-h](?![\\p{L}\\d]))?(?:\\s*(?:of|von|de|sur|di|van|z|из|з|av|/)\\s*\\p{Nd}{1,3})?\\s*(题|問|번|号)?(?:\\s*[([]?(?=\\s*$))?(?:\\s*\\([\\p{L} ,/+-]{3,30}\\)(?=\\s*[:.,]))?(?:\\s*(?:\\.-|(?<=\\)),|[.):：|>》]|\\])+|\\s*[-–—](?=\\s|\\p{Lu})|(?=\\s|$|[([*]))\\s*`,
  'iu',
);
const Q_BARE =
  /^(?:(?:Q|Question|Qu\.|Pregunta|Frage|Pergunta|Domanda|Vraag|Pytanie|Вопрос|Питання|Soru|Fråga|Spørgsmål|Otázka|Front|Card|Prompt)\s*[:.：]|[SPFВDVK]\s*:)\s+(?=\S)/u;
/** "Option A: …", "OPT_B=…", "Choice 2) …" */
const OPTION_WORD =
  /^(?:opt(?:ion)?|choice|alternative|answer|antwort|réponse|respuesta|risposta|resposta|antwoord|odpowied[zź]|ответ|відповідь|cevap|svar|vastaus|jawaban|opción|opcion|proposition|opzione|opção|optie|opcja|вариант|варіант|seçenek|alternatif|alternativ|möglichkeit)[ _-]?([A-Ha-h]|\d)\s*(?:[:.)=-]+)\s*(?=\S)/iu;
const BONUS =
  /^[([]?(?:bonus|extra credit|extra(?=[- ]question)|joker|zusatz(?:frage|aufgabe)?|pregunta extra|question bonus|bonusvraag|tie-?break(?:er)?)(?:[- ]?question)?[)\]]?\s*(?:[.:)–—-]\s+|(?<=[\])])\s+|(?=\()|$)/iu;
/** Numbers as a scanner reads them: "l.", "lO.", "I2)". */
const SCANNED = /^((?=[\dlI|OoS]*[lI|OoS])[\dlI|][\dlI|OoS]{0,2})([.)])\s*(?=\p{Lu}|\s\S)/u;
const ROMAN_UP = /^[IVXL]{1,7}$/;
const ROMAN_LOW = /^[ivxl]{1,6}$/;

/** All labels that some words can be taken to start with, from a column on. */
export function labelsAt(line: string, from: number): Label[] {
  const out: Label[] = [];
  const text = line.slice(from, from + 160);
  if (!text) return out;
  const put = (cls: LabelClass, form: string, ord: number, at: number, said: string, sub = ''): void => {
    out.push({
      cls,
      form,
      sig: cls === 'word' || cls === 'turn' || cls === 'bonus' ? cls : `${cls}${form === 'wide' || form === 'loose' ? ' ' : form}`,
      ord,
      sub,
      text: said,
      from,
      at: from + at,
    });
  };
  const first = text[0] ?? '';
  if (/[\p{L}#№第[]/u.test(first) && /\p{Nd}|:|\.|：|bonus|extra|joker|zusatz|tie/iu.test(text)) {
    let m = Q_WORD.exec(text);
    if (
      m &&
      m[1] &&
      !(/[\p{L}\d]\s*$/u.test(m[0]) && !/^q\d/i.test(text) && /^\p{Ll}/u.test(text.slice(m[0].length))) &&
      !/^\s*[-–—,]\s*\d/.test(text.slice(m[0].length))
    ) {
      const said = Array.from(m[1], (c) => digitValue(c)).join('');
      put('word', 'word', Number(said), m[0].length, `${/^Q\d/.test(text) && !line.slice(0, from).trim() ? 'Q' : ''}${said}${m[2] ?? ''}`, m[2] ?? '');
    } else if ((m = Q_BARE.exec(text))) put('turn', 'turn', 0, m[0].length, '');
    if ((m = BONUS.exec(text))) put('bonus', 'bonus', 0, m[0].length, 'Bonus');
  }
  const named = OPTION_WORD.exec(text);
  if (named) {
    const c = named[1] ?? '';
    const cls: LabelClass = /\d/.test(c) ? 'num' : c === c.toUpperCase() ? 'up' : 'low';
    out.length = 0;
    put(cls, 'opt', /\d/.test(c) ? Number(c) : letterOrd(c), named[0].length, c);
    return out;
  }
  const record = /^\[\s*(?:q|question|item|frage)?\s*0*(\d{1,4})\s*\]\s*$/i.exec(text);
  if (record && /[a-z]/i.test(record[0])) put('word', 'word', Number(record[1]), record[0].length, record[1] ?? '');
  // "A1.", "B-2)": a part's letter and a number
  const lettered = LETTER_NUMBER.exec(text);
  if (lettered)
    put(
      'dec',
      'A',
      withinValue(String(partPlace(lettered[1] ?? '')), lettered[2] ?? lettered[3] ?? ''),
      lettered[0].length,
      lettered[0].replace(/[([\s)\]:]+|\.\s*$/g, ''),
    );
  token(text, put);
  const scanned = SCANNED.exec(text);
  // "I." is a Roman number more often than a scanned 1
  if (scanned && scanned[1] !== 'I') {
    const said = (scanned[1] ?? '').replace(/[lI|]/g, '1').replace(/[oO]/g, '0').replace(/S/g, '5');
    if (!out.some((l) => l.cls === 'num') && Number(said) > 0) put('num', scanned[2] ?? '.', Number(said), scanned[0].length, said);
  }
  return out;
}

type Put = (cls: LabelClass, form: string, ord: number, at: number, said: string, sub?: string) => void;

const OPENERS: Record<string, string> = { '(': ')', '[': ']', '（': '）', '【': '】', '{': '}', '<': '>', '«': '»', '〔': '〕' };
// the parts of Russian papers are А, В and С
const LETTER_NUMBER = /^[([]?([A-HА-ЕС])(?:[-.]?(\d{1,2})\s?[)\].:]+\s*(?=\S)|[-.](\d{1,2})\s+(?=\S))/;
const LATIN_LETTER = /[A-Za-z]/;
/** The first letter of Persian and Urdu labels is written out. */
const NAMED_LETTER = /^الف(?!\p{L})/u;

/** One token at the start: digits, a Roman number or a letter, with the signs around it. */
function token(text: string, put: Put): void {
  let p = 0;
  let open = '';
  const opener = text[0] ?? '';
  const whole = circledValue(text);
  if (whole) {
    const length = 1;
    const more = /^[.):]?\s*/.exec(text.slice(length))?.[0].length ?? 0;
    put('num', '○', whole, length + more, String(whole));
    return;
  }
  const emoji = /^(?:🅰|🅱|🅲|🅳|🅴|🅵|🅐|🅑|🅒|🅓|🅔|🅕)\ufe0f?[.):]?\s*/u.exec(text);
  if (emoji) {
    put(
      'up',
      '○',
      letterOrd(String.fromCodePoint(text.codePointAt(0) ?? 0)),
      emoji[0].length,
      String.fromCharCode(64 + letterOrd(String.fromCodePoint(text.codePointAt(0) ?? 0))),
    );
    return;
  }
  if (OPENERS[opener]) {
    open = opener;
    p = 1;
    while (text[p] === ' ') p++;
  }
  const start = p;
  let value = 0;
  let cls: LabelClass | '' = '';
  let said = '';
  let sub = '';
  let c = String.fromCodePoint(text.codePointAt(p) ?? 32);
  if (DIGITS.test(c)) {
    let n = 0;
    while (p < text.length && n < 6) {
      c = String.fromCodePoint(text.codePointAt(p) ?? 32);
      if (!DIGITS.test(c)) break;
      value = value * 10 + digitValue(c);
      said += String(digitValue(c));
      p += c.length;
      n++;
    }
    if (n > 5) return;
    cls = 'num';
    if (text.startsWith('\ufe0f\u20e3', p) || text[p] === '\u20e3') {
      const at = p + (text[p] === '\u20e3' ? 1 : 2);
      put('num', '⃣', value, at + (/^[.):]?\s*/.exec(text.slice(at))?.[0].length ?? 0), said);
      return;
    }
    // "2.1", "2.1.", "1.1.1"
    const dec = /^\.(\d{1,2})(?:\.(\d{1,2}))?[.):]?(?=\s+[\p{L}¿¡«“"'‘({[_]|\s*$)/u.exec(text.slice(p));
    if (dec && !open && n <= 2) {
      const at = p + dec[0].length + (/^\s*/.exec(text.slice(p + dec[0].length))?.[0].length ?? 0);
      put(
        'dec',
        dec[2] ? '..' : '.',
        (value * 100 + Number(dec[1])) * (dec[2] ? 100 : 1) + Number(dec[2] ?? 0),
        at,
        `${said}.${dec[1] ?? ''}${dec[2] ? `.${dec[2]}` : ''}`,
      );
    }
    const letter = /^\s?([a-hA-H])(?![\p{L}\d'’])/u.exec(text.slice(p));
    if (letter && /^\s?[.):\]\s-]|^$/.test(text.slice(p + letter[0].length)) && (letter[0].length === 1 || /^[.)]/.test(text.slice(p + letter[0].length)))) {
      sub = (letter[1] ?? '').toLowerCase();
      p += letter[0].length;
    }
  } else if (/\p{L}|[\u24b6-\u24e9\u249c-\u24b5]|🅐|🅑|🅒|🅓/u.test(c)) {
    const word = /^[IVXLivxl]{1,7}/.exec(text.slice(p))?.[0] ?? '';
    const after = text[p + word.length] ?? '';
    if (word.length > 1 && !/[\p{L}\p{N}'’]/u.test(after)) {
      if (ROMAN_UP.test(word) && romanValue(word)) {
        cls = 'rom';
        value = romanValue(word);
      } else if (ROMAN_LOW.test(word) && romanValue(word.toUpperCase())) {
        cls = 'roml';
        value = romanValue(word.toUpperCase());
      } else return;
      said = word;
      p += word.length;
    } else {
      const named = NAMED_LETTER.exec(text.slice(p))?.[0] ?? '';
      if (named) c = named;
      const ord = named ? 1 : letterOrd(c);
      const next = text[p + c.length] ?? '';
      if (!ord || ord > 16 || /[\p{L}\p{N}'’]/u.test(next)) {
        if (!(word.length === 1 && romanValue(word.toUpperCase()) && !/[\p{L}\p{N}'’]/u.test(next))) return;
      }
      value = ord;
      cls = LATIN_LETTER.test(c) || /\p{Script=Cyrillic}|\p{Script=Greek}/u.test(c) ? (c === c.toUpperCase() ? 'up' : 'low') : 'other';
      said = c;
      p += c.length;
    }
  } else return;
  const close = closing(text, p, open, start);
  if (!close) return;
  const [form, at] = close;
  if (cls === 'num' || cls === 'rom' || cls === 'roml') put(cls, form, value, at, said + sub, sub);
  else if (cls) {
    if (value > 0 && value <= 16) put(cls, form, value, at, said);
    // where a letter has places in several rows, the series tells which is meant
    letterPlaces(said).forEach((place, i) => {
      if (i > 0 && form !== 'loose') put(cls as LabelClass, `${form}${"'".repeat(i)}`, place + 1, at, said);
    });
    // "I.", "V.", "X." and "i)", "v)" are both a letter and a Roman number
    const roman = /^[IVX]$/i.test(said) ? romanValue(said.toUpperCase()) : 0;
    if (roman && form !== 'loose') put(said === said.toUpperCase() ? 'rom' : 'roml', form, roman, at, said);
  }
}

/** The sign behind a label and the column of the words; null where nothing tells that it is one. */
function closing(text: string, p: number, open: string, start: number): [form: string, at: number] | null {
  const rest = text.slice(p);
  if (open) {
    const end = OPENERS[open] ?? ')';
    const m = new RegExp(`^\\s?\\${end}[.:]?\\s*`).exec(rest);
    return m ? [open + end, p + m[0].length] : null;
  }
  const letter = !DIGITS.test(text[start] ?? '');
  let m = /^\s?(\.-|\.\)|\)-?\.?|\]|\.[:°]|[.．](?!\d)|、(?!\d+、)|[:：](?=\s)|°\)?(?!\s?[CFKcf](?!\p{L}))|º\)?|ª\)?|»|>(?!>)|\}|・)\s*/u.exec(rest);
  if (m && m[1]) {
    let sign = m[1];
    // "e.g." and "U.S." are words
    if (sign === '.' && letter && /^\p{L}\./u.test(rest.slice(m[0].length)) && m[0].length === 1) return null;
    // "A: he said" loses to the words where nothing follows
    if (sign === '．' || sign === '、') sign = '.';
    if (sign === '：') sign = ':';
    if (sign === ')-' || sign === ').') sign = ')';
    return [sign, p + m[0].length];
  }
  m = /^\s?\/\s+(?=\S)|^\/(?=\p{Lu})/u.exec(rest);
  if (m) return ['/', p + m[0].length];
  m = /^\s?[-–—]\s+(?=\S)|^[-–—](?=\p{Lu}\p{Ll})/u.exec(rest);
  if (m) return ['-', p + m[0].length];
  m = /^\s?=\s*(?=\S)/u.exec(rest);
  if (m && letter) return ['=', p + m[0].length];
  m = /^\s?\|\s*(?=\S)/u.exec(rest);
  if (m) return ['|', p + m[0].length];
  m = /^(?:\s{2,}|\s*\t\s*)(?=\S)/u.exec(rest);
  if (m) return ['wide', p + m[0].length];
  m = /^\s(?=[\p{L}\p{N}¿¡«“"'‘({[_$€£+−<-]|–\d)/u.exec(rest);
  if (m) return ['loose', p + 1];
  return null;
}
