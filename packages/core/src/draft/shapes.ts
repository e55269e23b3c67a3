/** The shapes that a line can have, each told by its own small function: numbers, option labels, key marks, fields. */
import {
  ANSWER,
  BLOOM,
  DEPTH,
  DIFFICULTY,
  FALSE,
  FALSE_SHORT,
  FEEDBACK,
  HINT,
  KEY_HEADING,
  OUTCOME,
  PART,
  POINTS,
  QUESTION,
  TAGS,
  TIME,
  TRUE,
  TRUE_SHORT,
} from './words.js';

const re = (source: string, flags = 'iu'): RegExp => new RegExp(source, flags);

/** Labels and field names stand at the start of a line, marks at its end: no pattern looks further than this. */
const WINDOW = 240;
const headOf = (text: string): string => (text.length > WINDOW ? text.slice(0, WINDOW) : text);
/** Runs a pattern on the end of a text; the index is that of the whole text. */
function atEnd(pattern: RegExp, text: string): RegExpExecArray | null {
  if (text.length <= WINDOW) return pattern.exec(text);
  const end = text.trimEnd();
  const from = Math.max(0, end.length - WINDOW);
  const m = pattern.exec(end.slice(from));
  if (m) m.index += from;
  return m;
}

export interface Numbered {
  label: string;
  number: number;
  /** Column where the text behind the number starts. */
  at: number;
  form: string;
}

const NUMBER_FORMS: readonly [string, RegExp][] = [
  ['word', re(`^\\s*(?:${QUESTION})\\.?\\s*(?:no\\.?|nr\\.?|#|№)?\\s*(\\d{1,4})\\s*(?:[.):]|[-–—](?=\\s)|(?=\\s|$))\\s*`)],
  ['hash', /^\s*(?:#|№|n[º°]\s?)\s?(\d{1,4})\s*[.):]?\s+/i],
  ['round', /^\s*\((\d{1,4})\)\s*/],
  ['dot', /^\s*(?:_{2,}\s*)?(\d{1,4})\s?\.-?(?!\d)\s*(?=\S|$)/],
  ['paren', /^\s*(?:_{2,}\s*)?(\d{1,4})\s?[)]-?\s*/],
  ['colon', /^\s*(\d{1,4})\s?:\s+/],
  ['dash', /^\s*(\d{1,4})\s?[-–—]\s+/],
  ['keycap', /^\s*(\d|10)\u20e3\s*/],
  ['bare', /^\s*(\d{1,3})\s{2,}(?=\S)/],
];

/** Lets most lines go before the forms are tried one by one. */
const NUMBER_LIKE = /^\s*(?:_{2,}\s*)?\p{L}{0,9}\.?\s*(?:no\.?|nr\.?|n[º°]|[#№(])?\s?\d/iu;
/** A question number at the start of a line. */
export function numbered(line: string): Numbered | null {
  const text = headOf(line);
  if (!NUMBER_LIKE.test(text)) return null;
  for (const [form, pattern] of NUMBER_FORMS) {
    const m = pattern.exec(text);
    if (m) return { label: m[1] ?? '', number: Number(m[1]), at: m[0].length, form };
  }
  return null;
}

const ROMAN: Record<string, number> = { I: 1, V: 5, X: 10, L: 50 };
/** The value of a Roman number up to 89; 0 where the letters are none. */
export function romanValue(roman: string): number {
  if (!/^(?:L?X{0,3}|XL)(?:IX|IV|V?I{0,3})$/.test(roman)) return 0;
  return [...roman].reduce((sum, c, i, all) => sum + ((ROMAN[c] ?? 0) < (ROMAN[all[i + 1] ?? ''] ?? 0) ? -(ROMAN[c] ?? 0) : (ROMAN[c] ?? 0)), 0);
}
/** A question numbered "IV."; only where the draft numbers its questions so. */
export function romanNumbered(text: string): Numbered | null {
  const m = /^\s*([IVXL]{1,7})\s?[.)]\s+(?=\S)/.exec(text);
  const number = m ? romanValue(m[1] ?? '') : 0;
  return m && number ? { label: m[1] ?? '', number, at: m[0].length, form: 'roman' } : null;
}
/** A truth value in a box in front of the question's number: "( V ) 4. …". */
export function truthBox(text: string): { value: string; at: number } | null {
  const m = /^\s*[([]\s*([TFVtfv])\s*[)\]]\s*(?=\d{1,3}\s*[.)])/.exec(text);
  return m ? { value: m[1] ?? '', at: m[0].length } : null;
}

const LATIN = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const CYRILLIC = 'АБВГДЕЖЗИК';
/** The place in the alphabet that an option letter has, 0-based; −1 for none. */
export function letterPlace(letter: string): number {
  const up = letter.toUpperCase();
  const latin = LATIN.indexOf(up);
  return latin >= 0 ? latin : CYRILLIC.indexOf(up);
}

export interface OptionShape {
  /** 'A', 'b', 'В'; empty for bullets. */
  letter: string;
  at: number;
  form: string;
  /** A mark in front of or within the label says that it is the key. */
  marked: boolean;
  /** A star and a blank stand in front: a key mark, unless every option has one; then it is a bullet. */
  star?: boolean;
}

const MARK = '[*✓✔✅☑√⭐]';
const LETTER_FORMS: readonly [string, RegExp][] = [
  ['round', re(`^\\s*(?:[-•]\\s+)?(${MARK}|=)?\\s*\\(([A-WYZa-wyzА-ХЦ-Яа-хц-я])\\)\\s*`, 'u')],
  ['square', re(`^\\s*(${MARK})?\\s*\\[([A-WYZa-wyz])\\]\\s+`, 'u')],
  ['paren', re(`^\\s*(?:[-•]\\s+)?(${MARK}|=)?\\s*([A-Za-zА-Яа-я])\\s?\\)\\s*`, 'u')],
  ['dot', re(`^\\s*(?:[-•]\\s+)?(${MARK}|=)?\\s*([A-Za-zА-Яа-я])\\.(?![A-Za-z]\\.)\\s*(?=\\S)`, 'u')],
  ['colon', re(`^\\s*(?:[-•]\\s+)?(${MARK})?\\s*([A-Za-zА-Яа-я]):\\s+`, 'u')],
  ['dash', re(`^\\s*(${MARK})?\\s*([A-Za-zА-Яа-я])\\s?[-–—]\\s+`, 'u')],
  ['bare', re(`^\\s*(${MARK})?\\s*([A-Ha-hА-Д])(?:\\s{2,}|\\t)(?=\\S)`, 'u')],
];

const LETTER_LIKE = re(`^\\s*(?:[-•]\\s+)?(?:${MARK}|=)?\\s*[([]?[A-Za-zА-Яа-я](?:[).:\\]\\t]|\\s[)–—-]|\\s{2}|[–—-])`, 'u');
/** A lettered option. `bare` letters ("A mouth") are told apart from words by the lines around. */
export function lettered(line: string): OptionShape | null {
  const text = headOf(line);
  if (!LETTER_LIKE.test(text)) return null;
  for (const [form, pattern] of LETTER_FORMS) {
    const m = pattern.exec(text);
    const star = /^\s*\*\s+/.test(text);
    if (m) return { letter: m[2] ?? '', at: m[0].length, form, marked: Boolean(m[1]) && !star, ...(star && { star }) };
  }
  return null;
}
/** A single capital and one blank: an option only where its neighbours are A, B, C too. */
export function bareLetter(text: string): OptionShape | null {
  const m = /^\s*([A-H])\s(?=\S)/.exec(text);
  return m ? { letter: m[1] ?? '', at: m[0].length, form: 'bare-single', marked: false } : null;
}

const BULLETS: readonly [string, RegExp][] = [
  ['box', /^\s*(?:[-*•]\s+)?\[\s?([xX✓✔*]?)\s?\]\s*(?=\S)/],
  ['circle-box', /^\s*(?:[-*•]\s+)?\(\s?([xX✓✔*•]?)\s?\)\s+(?=\S)/],
  ['ballot', /^\s*(?:[-*•]\s+)?(?:☐|□|○|◯|⚪|(☑|☒|✅|✔|✓|◉|●|🔘))\s*(?=\S)/u],
  ['key-star', /^\s*(\*)(?=[^\s*])/],
  ['bullet', /^\s*[-•◦▪‣·–—+*]\s+(?=\S)/],
];
/** A bulleted or boxed option; a mark in the box says that it is the key. */
export function bulleted(text: string): OptionShape | null {
  for (const [form, pattern] of BULLETS) {
    const m = pattern.exec(text);
    if (m) return { letter: '', at: m[0].length, form, marked: Boolean(m[1]?.trim()) };
  }
  return null;
}

const RIGHT =
  'correct(?: answer)?|right(?: answer)?|key|correcta?|correto|correct[eo]|richtig|bonne réponse|juist|goed|poprawn[ae]|prawidłow[ae]|верно|правильно|правильный ответ|вірно|правильна відповідь|doğru(?: cevap)?|corretta|vrai answer|answer';
const KEY_TAILS: readonly RegExp[] = [
  /\s*(?:[✓✔✅☑√⭐]|✔️)+\s*$/u,
  /\s*(?<!\*)\*{1,3}\s*$/,
  re(`\\s*[([]\\s*(?:[✓✔✅*]\\s*)?(?:${RIGHT})\\s*[✓✔✅!]?\\s*[)\\]]\\s*$`),
  re(`\\s*(?:<[-=—–]+|←|⇐|<<|[-–—]{1,2}>?|=>|→)\\s*(?:${RIGHT})\\s*[!.]?\\s*$`),
  /\s*\(\s*[xX]\s*\)\s*$/,
  /\s*\[\s*[xX✓✔]\s*\]\s*$/,
];
/** Where a key mark at the end of an option starts; −1 where there is none. */
export function keyTail(text: string): number {
  if (!/[✓✔✅☑√⭐*)\]!.\p{L}]\s*$/u.test(text.slice(-40))) return -1;
  for (const t of KEY_TAILS) {
    const m = atEnd(t, text);
    if (m && m.index > 0) return m.index;
  }
  return -1;
}
const KEY_HEAD = /^\s*(?:[✓✔✅☑√⭐]|\*(?!\*))\s*/u;
/** Length of a key mark in front of an option's text. */
export const keyHead = (text: string): number => KEY_HEAD.exec(text)?.[0].length ?? 0;

/** Options in two or three columns of one line, parted by tabs: the letters go up, but not one by one ("a.  …   c.  …"). */
export function columnOptions(text: string): { letter: string; at: number; text: string; start: number; marked: boolean }[] {
  if (text.length > 4000 || !text.includes('\t')) return [];
  const found: { letter: string; at: number; text: string; start: number; marked: boolean }[] = [];
  let from = 0;
  for (const cell of text.split('\t')) {
    const l = lettered(`${cell}x`) ?? lettered(`${cell} x`);
    const last = found[found.length - 1];
    if (l && (!last || letterPlace(l.letter) > letterPlace(last.letter)))
      found.push({ letter: l.letter, start: from, at: from + Math.min(l.at, cell.length), text: cell.slice(l.at).trim(), marked: l.marked });
    else if (last && cell.trim()) last.text = `${last.text} ${cell.trim()}`.trim();
    else if (cell.trim()) return [];
    from += cell.length + 1;
  }
  return found.length >= 2 ? found : [];
}

/** Several lettered options on one line: their places. The letters must follow one another. */
const SEVERAL = /(?:^|\s|[;,|*✓✔✅])\(?[A-Za-zА-Яа-я][).].*(?:\s|[;,|*✓✔✅])\(?[A-Za-zА-Яа-я][).]/u;
export function inlineOptions(text: string): { letter: string; at: number; text: string; start: number; marked: boolean }[] {
  if (text.length > 4000 || !SEVERAL.test(text)) return [];
  const found: { letter: string; start: number; at: number; marked: boolean }[] = [];
  const pattern = /(?:^|(?<=\s)|(?<=[;,|]))(\*|✓|✔|✅)?\(?([A-Za-zА-Яа-я])[).](?=\s|[^\s.])\s*/gu;
  for (const m of text.matchAll(pattern)) {
    const place = letterPlace(m[2] ?? '');
    const last = found[found.length - 1];
    if (last ? place === letterPlace(last.letter) + 1 : place >= 0)
      found.push({ letter: m[2] ?? '', start: m.index, at: m.index + m[0].length, marked: Boolean(m[1]) });
  }
  if (found.length < 2) return [];
  return found.map((f, i) => ({ ...f, text: text.slice(f.at, found[i + 1]?.start ?? text.length).replace(/\s*[;|]?\s*$/, '') }));
}

export interface KeyLine {
  /** Column where the answer starts. */
  at: number;
  value: string;
}
const KEY_LINE = re(`^\\s*(?:[-*•✅✔👉➡→]+\\s*)?[(\\[]?\\s*(?:the\\s+)?(${ANSWER})\\s*(?:is|are|es|ist|est|è|é)?\\s*(?:[:=]|[-–—]{1,2}>?|→)\\s*`);
const KEY_WORD_LETTER = re(`^\\s*(?:${ANSWER})\\s+(?=\\(?[A-Ha-h]\\)?(?:\\s*[,&]\\s*[A-Ha-h])*\\s*$)`);
/** "Answer: B". The value may be empty and stand on the next line. */
export function keyLine(text: string): KeyLine | null {
  const head = headOf(text);
  const m = KEY_LINE.exec(head) ?? (text.length < 60 ? KEY_WORD_LETTER.exec(head) : null);
  if (!m) return null;
  let value = text.slice(m[0].length);
  if (/^\s*[([]/.test(text) && /[)\]]\s*$/.test(value)) value = value.replace(/[)\]]\s*$/, '');
  return { at: m[0].length, value: value.trim() };
}

const KEY_TITLE = re(
  `^[\\s\\p{So}\\p{Sk}]*(?:the\\s+)?(?:${KEY_HEADING})\\s*(?:\\([^)]*\\)|[-–—:]\\s*(?:${PART}).*|for teachers?|for (?:${PART}).*|[-–—]\\s*.{0,40})?\\s*:?\\s*$`,
);
/** The heading of a key list, with nothing else on the line. */
export const keyTitle = (text: string): boolean => text.length < 120 && text.trim().length < 70 && KEY_TITLE.test(text);
const KEY_TITLE_ROW = re(`^[\\s\\p{So}]*(?:${KEY_HEADING})\\s*[:–—-]\\s*(?=\\(?(?:\\d{1,3}|[IVXL]{1,6}(?=\\s))\\s*[.):=–-]?\\s*[A-Za-zА-я])`);
/** The heading of a key list with its entries behind it: column of the first entry, or −1. */
export const keyTitleRow = (text: string): number => KEY_TITLE_ROW.exec(headOf(text))?.[0].length ?? -1;

export type FieldName = 'feedback' | 'correct' | 'incorrect' | 'hint' | 'points' | 'tags' | 'outcomes' | 'difficulty' | 'bloom' | 'depth' | 'time';
const FIELDS: readonly [FieldName, RegExp][] = [
  ['correct', re('^\\s*(?:if (?:correct|right)|correct feedback|feedback[ ,(-]*(?:if |for )?(?:correct|right)\\)?|right)\\s*:\\s*')],
  ['incorrect', re('^\\s*(?:if (?:incorrect|wrong)|incorrect feedback|feedback[ ,(-]*(?:if |for )?(?:incorrect|wrong)\\)?|wrong)\\s*:\\s*')],
  ['bloom', re(`^\\s*(?:${BLOOM})\\s*:\\s*`)],
  ['depth', re(`^\\s*(?:${DEPTH})\\s*:\\s*`)],
  ['hint', re(`^\\s*(?:[-*•💡]+\\s*)?(?:${HINT})\\s*\\d?\\s*[:–—]\\s*`)],
  ['points', re(`^\\s*(?:${POINTS})\\s*[:=]\\s*`)],
  ['tags', re(`^\\s*(?:${TAGS})\\s*:\\s*`)],
  ['outcomes', re(`^\\s*(?:${OUTCOME})\\s*:\\s*`)],
  ['difficulty', re(`^\\s*(?:${DIFFICULTY})\\s*:\\s*`)],
  ['time', re(`^\\s*(?:${TIME})\\s*:\\s*`)],
  ['feedback', re(`^\\s*(?:[-*•💡ℹ]+\\s*)?[(\\[]?(?:general )?(?:${FEEDBACK})\\s*\\??\\s*[:–—]\\s*`)],
];
/** A field line: which field, and the column where its value starts. */
export function field(line: string): { name: FieldName; at: number } | null {
  const text = headOf(line);
  if (!/[:=–—]/.test(text)) return null;
  for (const [name, pattern] of FIELDS) {
    const m = pattern.exec(text);
    if (m) return { name, at: m[0].length };
  }
  return null;
}

const PART_LINE = re(`^\\s*(?:${PART})\\s*(?:[A-Z]|\\d{1,2}|[IVX]{1,4}|one|two|three|four)?(?:\\s*[:.–—)(-]|\\s{2,}|\\s*$)`);
/** "Part B: …" */
export const partLine = (text: string): boolean => PART_LINE.test(headOf(text));

/** Points in brackets or behind a dash: "(2 points)", "[2 pts]", "— 2 marks". */
const POINTS_NOTE = re(`\\s*(?:[(\\[]\\s*(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})(?:\\s+each)?\\s*[)\\]]|[-–—]\\s*(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})\\s*$)`);
export function pointsNote(text: string): { from: number; to: number; points: number } | null {
  const m = POINTS_NOTE.exec(headOf(text)) ?? atEnd(POINTS_NOTE, text);
  return m ? { from: m.index, to: m.index + m[0].length, points: Number((m[1] ?? m[2] ?? '').replace(',', '.')) } : null;
}
const POINTS_EACH = re(
  `(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})\\s*(?:each|cada|chacune?|jeweils|je|ciascun[oa]|elk|każde|per (?:question|domanda|vraag)|par question|pro frage|je frage|por (?:pregunta|quest[aã]o)|za pytanie|за вопрос|за питання|apiece)|(?:each|cada una)\\s*(?:is worth\\s*)?(\\d+(?:[.,]\\d+)?)\\s*(?:${POINTS})`,
);
/** Points of every item of a part: "2 points each". */
export function pointsEach(text: string): number | null {
  const m = POINTS_EACH.exec(headOf(text));
  return m ? Number((m[1] ?? m[2] ?? '').replace(',', '.')) : null;
}

const TRUE_WORD = re(`^(?:${TRUE})$`);
const FALSE_WORD = re(`^(?:${FALSE})$`);
/** The truth value that a word says; null where it says none. Single letters only where `letters` allows them. */
export function truth(word: string, letters: boolean): boolean | null {
  const w = word
    .trim()
    .replace(/[.!]$/, '')
    .replace(/^["'“]|["'”]$/g, '');
  if (TRUE_WORD.test(w)) return true;
  if (FALSE_WORD.test(w)) return false;
  if (letters && w.length === 1) return TRUE_SHORT.has(w.toLowerCase()) ? true : FALSE_SHORT.has(w.toLowerCase()) ? false : null;
  return null;
}

const T = `${TRUE}|T|V`;
const F = `${FALSE}|F`;
const BOTH = `(?:${T})\\s*(?:/|or|o|ou|oder|of|lub|czy|или|чи|або|ya da)\\s*(?:${F})`;
const TF_HEAD = re(`^\\s*[(\\[]?\\s*(?:${BOTH})\\s*[)\\]]?\\s*[?:.)–—-]*\\s*`);
const TF_NOTE = re(`\\s*[(\\[]\\s*(?:${BOTH})\\s*[)\\]]\\s*$`);
const TF_BARE = re(`\\s+(?:${BOTH})\\s*$`);
/** "True or False:" in front of a statement or "(T/F)" behind it: the columns of the note. */
export function truthNote(text: string): { from: number; to: number } | null {
  const head = TF_HEAD.exec(headOf(text));
  if (head && head[0].length < text.length) return { from: 0, to: head[0].length };
  const tail = atEnd(TF_NOTE, text) ?? atEnd(TF_BARE, text);
  return tail ? { from: tail.index, to: text.length } : null;
}
const TF_KEY = re(`\\s*(?:[(\\[]\\s*(${T}|${F})\\s*[)\\]]|[-–—:=>→]+\\s*(${T}|${F})|[✅❌✔✗✓✘]\\s*(${T}|${F}))\\s*[.!]?\\s*$`);
const TF_KEY_BARE = /\s{2,}([TFVtf])\s*$/;
/** The answer behind a statement: "… (True)", "… – False", "… ❌ False", "…   T". */
export function truthKey(text: string): { from: number; value: boolean } | null {
  const m = atEnd(TF_KEY, text) ?? atEnd(TF_KEY_BARE, text);
  const word = m?.slice(1).find(Boolean);
  const value = word ? truth(word, true) : null;
  return m && m.index > 0 && value !== null ? { from: m.index, value } : null;
}

/** A blank to fill in: at least three low lines, dots, an empty bracket, "[blank]". */
export const BLANK = /_{2,}|\.{5,}|…{2,}|\(\s{2,}\)|\[\s*blank\s*\]|\[\s{2,}\]/gi;
