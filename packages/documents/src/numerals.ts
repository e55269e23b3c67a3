/** Numbers of lists as word processors print them. */

const ROMAN: readonly [number, string][] = [
  [1000, 'm'],
  [900, 'cm'],
  [500, 'd'],
  [400, 'cd'],
  [100, 'c'],
  [90, 'xc'],
  [50, 'l'],
  [40, 'xl'],
  [10, 'x'],
  [9, 'ix'],
  [5, 'v'],
  [4, 'iv'],
  [1, 'i'],
];
function roman(n: number): string {
  let rest = n;
  let out = '';
  for (const [value, sign] of ROMAN) for (; rest >= value; rest -= value) out += sign;
  return out;
}

const LATIN = 'abcdefghijklmnopqrstuvwxyz';
// ECMA-376 part 1, 17.18.59 (ST_NumberFormat); the letters of each alphabet from memory.
const CYRILLIC = 'абвгдежзиклмнопрстуфхцчшщэюя';
const UKRAINIAN = 'абвгдеєжзиіклмнопрстуфхцчшщюя';
const HEBREW = 'אבגדהוזחטיכלמנסעפצקרשת';
const ARABIC = 'أبتثجحخدذرزسشصضطظعغفقكلمنهوي';
const ABJAD = 'أبجدهوزحطيكلمنسعفصقرشتثخذضظغ';
const GREEK = 'αβγδεζηθικλμνξοπρστυφχψω';

/** The letter of a place; behind the last one it is doubled (aa, bb …), as word processors do. */
const lettersOf = (alphabet: string, n: number): string => {
  const letters = [...alphabet];
  return (letters[(n - 1) % letters.length] ?? '').repeat(Math.min(8, Math.floor((n - 1) / letters.length) + 1));
};
/** Hebrew numerals up to 99, where 15 and 16 are written by 9 and 6, 7. */
function hebrewNumber(n: number): string {
  if (n === 15) return 'טו';
  if (n === 16) return 'טז';
  const ones = HEBREW.slice(0, 9);
  const tens = 'יכלמנסעפצ';
  return n < 100 ? (n >= 10 ? (tens[Math.floor(n / 10) - 1] ?? '') : '') + (n % 10 ? (ones[(n % 10) - 1] ?? '') : '') : String(n);
}

const FORMATS: Record<string, (n: number) => string> = {
  decimal: String,
  decimalZero: (n) => String(n).padStart(2, '0'),
  lowerLetter: (n) => lettersOf(LATIN, n),
  upperLetter: (n) => lettersOf(LATIN, n).toUpperCase(),
  lowerRoman: roman,
  upperRoman: (n) => roman(n).toUpperCase(),
  russianLower: (n) => lettersOf(CYRILLIC, n),
  russianUpper: (n) => lettersOf(CYRILLIC, n).toUpperCase(),
  ukrainianLower: (n) => lettersOf(UKRAINIAN, n),
  ukrainianUpper: (n) => lettersOf(UKRAINIAN, n).toUpperCase(),
  greekLower: (n) => lettersOf(GREEK, n),
  greekUpper: (n) => lettersOf(GREEK, n).toUpperCase(),
  hebrew1: hebrewNumber,
  hebrew2: (n) => lettersOf(HEBREW, n),
  arabicAlpha: (n) => lettersOf(ARABIC, n),
  arabicAbjad: (n) => lettersOf(ABJAD, n),
  hindiNumbers: (n) => String(n).replace(/\d/g, (d) => String.fromCharCode(0x0966 + Number(d))),
  ordinal: (n) => `${n}${n % 10 === 1 && n % 100 !== 11 ? 'st' : n % 10 === 2 && n % 100 !== 12 ? 'nd' : n % 10 === 3 && n % 100 !== 13 ? 'rd' : 'th'}`,
  decimalEnclosedCircle: (n) => (n >= 1 && n <= 20 ? String.fromCodePoint(0x2460 + n - 1) : String(n)),
  none: () => '',
};

/** A number of a list by the name that Office Open XML gives its format; an unknown one is decimal. */
export const numeral = (n: number, format: string): string => (n < 1 && format !== 'decimalZero' ? String(n) : (FORMATS[format] ?? String)(n));

/** A bullet as a draft has it: a box stays a box, anything else is a hyphen. */
export const bullet = (sign: string): string => (/[☐□❏❑❒▢]/.test(sign) ? '☐' : /[☑☒✓✔]/.test(sign) ? sign : '-');
