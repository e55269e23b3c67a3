/** Labels at the start of a line: numbers of questions, letters and bullets of options. */
import { QUESTION } from './words.js';
import { matchesOf } from './matches.js';

/** A regular expression from words; without case and with Unicode where nothing else is said. */
export const pattern = (source: string, flags = 'iu'): RegExp => new RegExp(source, flags);

/** Labels and field names stand at the start of a line, marks at its end: no pattern looks further than this. */
const WINDOW = 240;
/** The first characters of a text: labels and announcements stand within them. */
export const headOf = (text: string): string => (text.length > WINDOW ? text.slice(0, WINDOW) : text);
/** Runs a pattern on the end of a text; the index is that of the whole text. */
export function atEnd(find: RegExp, text: string): RegExpExecArray | null {
  if (text.length <= WINDOW) return find.exec(text);
  const end = text.trimEnd();
  const from = Math.max(0, end.length - WINDOW);
  const m = find.exec(end.slice(from));
  if (m) m.index += from;
  return m;
}

/** The number of a question in front of its words. */
export interface NumberLabel {
  /** As printed: "12", "3a", "IV". */
  label: string;
  number: number;
  /** Column where the text behind the label starts. */
  at: number;
  /** The way it is written; a draft keeps to one way for one purpose. */
  form: string;
  /** The letter behind the number of a part of a question: "3a". */
  sub?: string;
}

const NUMBER_FORMS: readonly [form: string, find: RegExp][] = [
  [
    'word',
    pattern(`^\\s*(?:[-•*]\\s+)?(?:${QUESTION})\\.?\\s*(?:no\\.?|nr\\.?|n[º°]|#|№)?\\s*(\\d{1,5})([a-h]?)\\s*(?:\\.-|[.):]|[-–—](?=\\s)|(?=[\\s([]|$))\\s*`),
  ],
  ['hash', /^\s*(?:#|№|n[º°]\s?)\s?(\d{1,5})([a-h]?)\s*[.):]?\s+/iu],
  ['round', /^\s*\((\d{1,5})([a-h]?)\)\s*/u],
  ['square', /^\s*\[(\d{1,3})([a-h]?)\]\s+(?=\S)/u],
  ['dot', /^\s*(?:_{2,}\s*)?(\d{1,5})([a-h]?)\s?\.-?(?!\d)\s*(?=\S|$)/u],
  ['paren', /^\s*(?:_{2,}\s*)?(\d{1,5})([a-h]?)\s?[)]-?\s*/u],
  ['slash', /^\s*(\d{1,3})([a-h]?)\s?\/\s+(?=\S)/u],
  ['colon', /^\s*(\d{1,5})([a-h]?)\s?:\s+/u],
  ['dash', /^\s*(\d{1,5})([a-h]?)\s?[-–—]\s+/u],
  ['keycap', /^\s*(\d|10)\u20e3()\s*/u],
  ['bare', /^\s*(\d{1,3})([a-h]?)(?:\s{2,}|\t)(?=\S)/u],
];
/** Lets most lines go before the forms are tried one by one. */
const NUMBER_LIKE = /^\s*(?:_{2,}\s*|[-•*]\s+(?=\p{L}))?\p{L}{0,9}\.?\s*(?:no\.?|nr\.?|n[º°]|[#№([])?\s?\d/iu;

/** A question number at the start of a line. */
export function numbered(line: string): NumberLabel | null {
  const text = headOf(line);
  if (!NUMBER_LIKE.test(text)) return null;
  for (const [form, find] of NUMBER_FORMS) {
    const m = find.exec(text);
    if (m) {
      const sub = m[2];
      // "question 8 needs …" is a sentence about a question
      if (form === 'word' && /[\p{L}\d]\s*$/u.test(m[0]) && /^\p{Ll}/u.test(text.slice(m[0].length))) return null;
      return {
        label: `${/^\s*Q\d/.test(text) && form === 'word' ? 'Q' : ''}${m[1] ?? ''}${sub ?? ''}`,
        number: Number(m[1]),
        at: m[0].length,
        form,
        ...(sub && { sub }),
      };
    }
  }
  return null;
}
/** A number and one blank ("10 Describe …"); a label only where the draft numbers so. */
export function loosely(line: string): NumberLabel | null {
  const m = /^\s*(\d{1,3})([a-h]?)\s(?=[\p{L}¿¡«“"'‘({[_])/u.exec(headOf(line));
  return m ? { label: `${m[1] ?? ''}${m[2] ?? ''}`, number: Number(m[1]), at: m[0].length, form: 'bare', ...(m[2] && { sub: m[2] }) } : null;
}

const ROMAN: Record<string, number> = { I: 1, V: 5, X: 10, L: 50 };
/** The value of a Roman number up to 89; 0 where the letters are none. */
export function romanValue(roman: string): number {
  if (!/^(?:L?X{0,3}|XL)(?:IX|IV|V?I{0,3})$/.test(roman)) return 0;
  return [...roman].reduce((sum, c, i, all) => sum + ((ROMAN[c] ?? 0) < (ROMAN[all[i + 1] ?? ''] ?? 0) ? -(ROMAN[c] ?? 0) : (ROMAN[c] ?? 0)), 0);
}
/** Letters as they follow one another in labels; the usual row of a script first, since a letter may have places in several. From memory. */
const ROWS = [
  'ABCDEFGHIJKLMNOPQRSTUVWXYZ',
  'АБВГДЕЖЗИК',
  'АБВГҐДЕЄЖЗ',
  'АБВГДЂЕЖЗ',
  'ΑΒΓΔΕΖΗΘ',
  'אבגדהוזחטיכל',
  'أبجدهوزح',
  'ابجدهوزح',
  'أبتثجحخد',
  'ابتثجحخد',
  'ابپتثجچ',
  'कखगघङचछज',
  'अबसद',
  'अबकड',
  'अआइईउऊ',
  'কখগঘঙচ',
  'અબકડ',
  'ਉਅੲਸਹ',
  'அஆஇஈஉ',
  'అఆఇఈ',
  'ಅಆಇಈ',
  'എബിസിഡി',
  'กขคงจฉ',
  'ກຂຄງ',
  'កខគឃង',
  'ကခဂဃင',
  'アイウエオカキク',
  'イロハニホヘ',
  'あいうえおかきく',
  'いろはにほへ',
  '가나다라마바사아',
  'ㄱㄴㄷㄹㅁㅂ',
  '一二三四五六七八九十',
  '甲乙丙丁戊己',
  'აბგდევზ',
  'ԱԲԳԴԵԶ',
  'ሀለሐመሠረ',
  '🅰🅱🅲🅳🅴🅵',
  '🅐🅑🅒🅓🅔🅕',
  'ⓐⓑⓒⓓⓔⓕ',
  'ⒶⒷⒸⒹⒺⒻ',
  '⒜⒝⒞⒟⒠⒡',
].map((row) => Array.from(row));
const PLACES = new Map<string, number[]>();
for (const row of ROWS)
  row.forEach((letter, place) => {
    for (const l of new Set([letter, letter.toLowerCase()])) {
      const known = PLACES.get(l) ?? [];
      if (!known.includes(place)) known.push(place);
      PLACES.set(l, known);
    }
  });
/** The letters of all rows but the Latin one, as the inside of a character class. */
export const LETTERS_BEYOND_LATIN = `А-Яа-яҐґЄєІіЇї${[...PLACES.keys()].filter((l) => !/[A-Za-zА-Яа-яҐґЄє]/.test(l)).join('')}`;
/** The letters of all rows, as the inside of a character class. */
export const LETTERS = `A-Za-z${LETTERS_BEYOND_LATIN}`;
/** The places that an option letter has in the rows of its script, 0-based; the usual one first. */
export const letterPlaces = (letter: string): readonly number[] => PLACES.get(letter) ?? PLACES.get(letter.toUpperCase()) ?? [];
/** The place in the alphabet that an option letter has, 0-based; −1 for none. */
export const letterPlace = (letter: string): number => letterPlaces(letter)[0] ?? -1;
/** Full-width forms and digits of any script as plain ones, one for one. */
export const plainForms = (text: string): string => (/[^\u0000-\u024f]/.test(text) ? text.replace(/[\uff01-\uff5e\p{Nd}【】〔〕]|\u20e3/gu, plainSign) : text);
/** The same, and circled numbers and the stops of Chinese and Japanese too. */
export const plainSigns = (text: string): string =>
  /[^\u0000-\u024f]/.test(text) ? text.replace(/[\uff01-\uff5e①-⑨❶-❾➀-➈\p{Nd}【】〔〕、。〜]/gu, plainSign) : text;
const UNSPACED = /[\u0e00-\u0eff\u1780-\u17ff\u3040-\u30ff\u4e00-\u9fff]/g;
/** So many letters of a script without blanks are about a word. */
const PER_WORD = 2.5;
const MOST_WORDS = 40;
const BLANK_SIGN = /\s/;
/** How many words a text has, up to 40; in scripts without blanks by its letters. */
export function wordsIn(text: string): number {
  let spaced = 1;
  let far = false;
  let blank = false;
  for (let i = 0; i < text.length && spaced < MOST_WORDS; i++) {
    const code = text.charCodeAt(i);
    const is = code === 32 || (code > 8 && code < 14) || (code >= 0xa0 && BLANK_SIGN.test(text[i] ?? ''));
    if (is && !blank) spaced++;
    if (code >= 0x0e00) far = true;
    blank = is;
  }
  const letters = far ? (text.slice(0, 200).match(UNSPACED)?.length ?? 0) : 0;
  return Math.min(MOST_WORDS, spaced + Math.floor(letters / PER_WORD));
}
function plainSign(c: string): string {
  const code = c.charCodeAt(0);
  if (c.length > 1 || code < 128) return c;
  if (code >= 0xff01 && code <= 0xff5e) return String.fromCharCode(code - 0xfee0);
  for (const from of [0x2460, 0x2776, 0x2780]) if (code >= from && code < from + 9) return String(code - from + 1);
  const signs = SIGNS[c];
  if (signs) return signs;
  // decimal digits stand in rows of ten
  let zero = code;
  while (code - zero < 9 && /\p{Nd}/u.test(String.fromCharCode(zero - 1))) zero--;
  return String(code - zero);
}
const SIGNS: Record<string, string> = { '【': '[', '】': ']', '〔': '[', '〕': ']', '、': ',', '。': '.', '〜': '~', '\u20e3': '.' };

/** The letter of an option in front of its words. */
export interface OptionLabel {
  /** 'A', 'b', 'В'; empty for bullets and boxes. */
  letter: string;
  at: number;
  form: string;
  /** A mark in front of or within the label says that it is the key. */
  marked: boolean;
  /** A star and a blank stand in front: a key mark, unless every option has one; then it is a bullet. */
  star?: boolean;
}

const MARK = '[*✓✔✅☑√⭐→]';
const BOX = '(?:[(\\[]\\s?([xX✓✔*]?)\\s?[)\\]]\\s*)';
const LETTER = `[${LETTERS}]`;
const LETTER_FORMS: readonly [form: string, find: RegExp][] = [
  ['round', pattern(`^\\s*(?:[-•]\\s+)?${BOX}?(${MARK}|=)?\\s*\\(([A-WYZa-wyzА-ХЦ-Яа-хц-яא-לابتثجحخدهوزأ])\\)\\s*`, 'u')],
  ['square', pattern(`^\\s*${BOX}?(${MARK})?\\s*\\[([A-WYZa-wyz])\\]\\s+`, 'u')],
  ['paren', pattern(`^\\s*(?:[-•]\\s+|[❌✗✘]\\s*)?${BOX}?(${MARK}|=)?\\s*(${LETTER})\\s?\\)\\s*`, 'u')],
  ['dot', pattern(`^\\s*(?:[-•]\\s+)?${BOX}?(${MARK}|=)?\\s*(${LETTER})(?:\\.-|\\.(?!\\p{L}\\.))\\s*`, 'u')],
  ['colon', pattern(`^\\s*(?:[-•]\\s+)?${BOX}?(${MARK})?\\s*(${LETTER}):\\s+`, 'u')],
  ['dash', pattern(`^\\s*${BOX}?(${MARK})?\\s*(${LETTER})\\s?[-–—]\\s+`, 'u')],
  ['slash', pattern(`^\\s*${BOX}?(${MARK})?\\s*([A-Ha-h])\\s?/\\s+(?=\\S)`, 'u')],
  ['bare', pattern(`^\\s*${BOX}?(${MARK})?\\s*([A-HА-Д])(?:\\s{2,}|\\t)(?=\\S)`, 'u')],
];
const LETTER_LIKE = pattern(`^\\s*(?:[-•]\\s+|[❌✗✘]\\s*)?${BOX}?(?:${MARK}|=)?\\s*[([]?${LETTER}(?:[).:/\\]\\t]|\\s[)–—/-]|\\s{2}|[–—-])`, 'u');

/** A lettered option. */
export function lettered(line: string): OptionLabel | null {
  const text = headOf(line);
  if (!LETTER_LIKE.test(text)) return null;
  for (const [form, find] of LETTER_FORMS) {
    const m = find.exec(text);
    if (!m) continue;
    const star = /^\s*\*\s+/.test(text);
    return { letter: m[3] ?? '', at: m[0].length, form, marked: Boolean(m[1]?.trim()) || (Boolean(m[2]) && !star), ...(star && { star }) };
  }
  return null;
}
/** A single capital and one blank ("A mouth"): an option only where its neighbours are A, B, C too. */
export function bareLetter(text: string): OptionLabel | null {
  const m = /^\s*([A-HА-Е])\s(?=\S)/u.exec(headOf(text));
  return m ? { letter: m[1] ?? '', at: m[0].length, form: 'bare-single', marked: false } : null;
}
/** An option among others on one line. */
export interface InlineOption {
  letter: string;
  /** Column of the label and of the text behind it; the text ends at `to`. */
  start: number;
  at: number;
  to: number;
  marked: boolean;
}

/** Several options on one line. The letters must follow one another; a label stands behind a blank or a separator. */
const SEVERAL = /(?:^|[\s;,|*✓✔✅([])[A-Za-zА-Яа-я][).\]].*[\s;,|*✓✔✅([][A-Za-zА-Яа-я][).\]]/u;
const INLINE = /(?:^|(?<=[\s;,|]))(\*|✓|✔|✅|→|[([]\s?[xX✓*]?\s?[)\]]\s?)?([([])?([A-Za-zА-ЯҐЄІа-яґєі])([).\]])(?=\s|[^\s.])\s*/gu;
/** The options on one line; none where fewer than two have labels that go on from one another. */
export function inlineOptions(text: string): InlineOption[] {
  if (text.length > 4000 || !SEVERAL.test(text)) return [];
  let found: (InlineOption & { sign: string })[] = [];
  for (const m of matchesOf(INLINE, text)) {
    const letter = m[3] ?? '';
    const place = letterPlace(letter);
    const last = found[found.length - 1];
    const sign = `${m[2] ?? ''}${m[4] ?? ''}`;
    const one = { letter, start: m.index, at: m.index + m[0].length, to: text.length, marked: /[*✓✔✅→xX]/.test(m[1] ?? ''), sign };
    if (last && place === letterPlace(last.letter) + 1 && sign === last.sign) {
      last.to = m.index;
      found.push(one);
    } else if (place === 0 && found.length < 2) found = [one];
    else if (!last && place > 0) found.push(one);
  }
  return found.length < 2 ? [] : found.map(({ sign: _, ...f }) => f);
}
