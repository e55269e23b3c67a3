/** Whether what somebody answered is what the key says, where there is nothing but a table: letters, texts, numbers, dates, several at once. */
import { defaultMatch } from '../item/model.js';
import { stripEnd } from '../item/strip.js';
import { matchText } from '../item/typedText.js';
import { parseNumber } from '../language/numbers.js';
import { truth } from '../language/truths.js';

const plain = (s: string): string => stripEnd(spaced(s), /[.!;,]/);
const spaced = (s: string): string =>
  s
    .normalize('NFKC')
    .replace(/[\u00ad\u200b-\u200f\u2060\ufeff]/g, '')
    .replace(/[\u2018\u2019\u02bc\u00b4`]/g, "'")
    .replace(/[\u201c\u201d\u201e\u00ab\u00bb]/g, '"')
    .replace(/[\u2010-\u2015\u2212]/g, '-')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();

/** The label and the words of an answer such as "B) rye" or "c". */
function parts(s: string): { letter: string | null; words: string } {
  const t = s.trim();
  const m = /^(?:[([]?(\p{L})[)\].:]\s*|(\p{L})$)(.*)$/su.exec(t);
  return m ? { letter: plain(m[1] ?? m[2] ?? ''), words: plain(m[3] ?? '') } : { letter: null, words: plain(t) };
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** A time of day in minutes: "7:30", "07:30:00 AM", "7.30 pm"; null for what is none. */
function timeOf(s: string): number | null {
  const m = /^(\d{1,2})[:.](\d{2})(?::\d{2})?\s*([ap])?\.?(?:m\.?)?$/i.exec(s.trim());
  if (!m || (!s.includes(':') && !m[3]) || Number(m[1]) > 23 || Number(m[2]) > 59) return null;
  const hour = Number(m[1]) % (m[3] ? 12 : 24);
  return (hour + (m[3]?.toLowerCase() === 'p' ? 12 : 0)) * 60 + Number(m[2]);
}

/** A day in any common way of writing, as ISO; null for what is none. `monthFirst` reads 3/4/2026 as March. */
function dayOf(s: string, monthFirst: boolean): string | null {
  const words = /^(?:(\d{1,2})\.? (\p{L}{3,9})|(\p{L}{3,9})\.? (\d{1,2})),? (\d{4})$/u.exec(s.trim().replace(/(\d)(?:st|nd|rd|th)\b/i, '$1'));
  const month = MONTHS.indexOf((words?.[2] ?? words?.[3] ?? '').slice(0, 3).toLowerCase());
  if (words && month >= 0) return `${words[5] ?? ''}-${String(month + 1).padStart(2, '0')}-${(words[1] ?? words[4] ?? '').padStart(2, '0')}`;
  const iso = /^(\d{4})[-./](\d{1,2})[-./](\d{1,2})(?:[T ].*)?$/.exec(s.trim());
  const other = /^(\d{1,2})[-./](\d{1,2})[-./](\d{4})(?:[T ,].*)?$/.exec(s.trim());
  const [y, m, d] = iso ? [iso[1], iso[2], iso[3]] : other ? (monthFirst ? [other[3], other[1], other[2]] : [other[3], other[2], other[1]]) : [];
  if (!y || !m || !d || Number(m) > 12 || Number(d) > 31) return null;
  return `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`;
}

/** What is longer is no amount. */
const LONGEST_AMOUNT = 40;
/** A number with a currency or a unit, the unit apart: "3.50 €" is 3.5 and "€". */
export function amount(s: string): { value: number; unit: string } | null {
  const t = s
    .normalize('NFKC')
    .replace(/[\u2212\u2013]/g, '-')
    .trim();
  if (t.length > LONGEST_AMOUNT) return null;
  // bounded: by the length above
  const m = /^([€$£¥]?)\s*([-+]?[\d.,' ]*\d(?:\s*\/\s*\d+)?(?:e[-+]?\d+)?)\s*([€$£¥%°]?\s*\p{L}{0,12}[²³]?(?:\/\p{L}{1,4})?)\.?$/iu.exec(t);
  if (!m) return null;
  const figures = (m[2] ?? '').replace(/(?<=\d)[' ](?=\d{3}\b)/g, '');
  // a comma with other than three figures behind is a decimal one
  const comma = /^[-+]?\d+,\d+$/.test(figures) && !/,\d{3}$/.test(figures);
  const value = parseNumber(figures, comma);
  return value === null ? null : { value, unit: `${m[1] ?? ''}${m[3] ?? ''}`.toLowerCase().replace(/\s+/g, '') };
}

/** Whether one answer is one accepted answer. */
export function sameAnswer(given: string, accepted: string, monthFirst = false): boolean {
  const [g, a] = [plain(given), plain(accepted)];
  if (!g || !a) return false;
  if (g === a) return true;
  const [x, y] = [parts(given), parts(accepted)];
  if (x.letter && y.letter && (!x.words || !y.words)) return x.letter === y.letter;
  if (x.words && y.words && (x.words === a || y.words === g || x.words === y.words)) return true;
  const [t, u] = [truth(given, true), truth(accepted, true)];
  if (t !== null && u !== null) return t === u;
  const [d, e] = [dayOf(given, monthFirst), dayOf(accepted, monthFirst)];
  if (d !== null || e !== null) return d === e;
  const [h, i] = [timeOf(given), timeOf(accepted)];
  if (h !== null && i !== null) return h === i;
  const [n, m] = [amount(given), amount(accepted)];
  if (n && m) return Math.abs(n.value - m.value) <= 1e-9 * Math.max(1, Math.abs(n.value)) && (!n.unit || !m.unit || n.unit === m.unit);
  if (n || m) return false;
  return matchText(given, accepted, defaultMatch) !== null;
}

/** Answers that a cell holds several of, as sorted pieces: options that hold commas come apart in the same way everywhere, so that sets stay comparable. */
const piecesOf = (cell: string, sign: RegExp): string[] =>
  cell
    .split(sign)
    .map((p) => {
      const { letter, words } = parts(p);
      return words || letter || plain(p);
    })
    .filter(Boolean)
    .sort();

/** How the cells of a column are compared with its key. */
export interface Comparison {
  /** A learner's cell against the key's. */
  right: (cell: string) => boolean;
  /** What it is, in words for the person: one of several accepted, several at once. */
  how: 'one' | 'several' | 'accepted';
}

/** What parts accepted answers of which one is enough: a stroke with blanks or between words, "or". */
const OR = / *(?:\||\s\/\s|(?<=\p{L}{2})\/(?=\p{L}{2})|\s(?:or|oder|o|ou|of|lub|или|або|veya)\s) */u;

/**
 * How a column is compared with its key: learners' cells tell whether several were chosen at once or several are accepted.
 * @param cells what all learners gave
 */
export function comparisonOf(key: string, cells: readonly string[]): Comparison {
  const monthFirst = [key, ...cells].some((c) => {
    const m = /^(\d{1,2})[-./](\d{1,2})[-./]\d{4}/.exec(c.trim());
    return m !== null && Number(m[2]) > 12;
  });
  const one = (cell: string): boolean => sameAnswer(cell, key, monthFirst);
  const filled = cells.filter((c) => c.trim());
  // numbers and dates are written with signs that part other things
  if (amount(key) || dayOf(key, false) || timeOf(key) !== null) return { right: one, how: 'one' };
  const sign =
    /;/.test(key) || (!/,/.test(key) && filled.filter((c) => c.includes(';')).length > filled.length * 0.1) ? /;/ : /[,\n]|\s(?:and|&)\s(?=[A-Ha-h]\b)/;
  const keyPieces = piecesOf(key, sign);
  const known = new Set(filled.map(plain));
  const alternatives = key
    .split(OR)
    .map((a) => a.trim())
    .filter(Boolean);
  if (alternatives.length > 1 && !filled.some((c) => plain(c) === plain(key) && OR.test(c)))
    return { right: (cell) => alternatives.some((a) => sameAnswer(cell, a, monthFirst)), how: 'accepted' };
  const letters = keyPieces.length > 1 && keyPieces.every((p) => /^\p{L}$/u.test(p));
  // letters without a sign between them: "AC", in the key or in what people gave
  if (letters) {
    const of = (c: string): string =>
      /^[\s,;&/]*(?:[A-H](?:[\s,;&/]|and)*){1,8}$/i.test(c.slice(0, 60))
        ? [...c.toLowerCase().replace(/and|[^a-h]/g, '')].sort().join('')
        : piecesOf(c, sign).join('');
    const target = keyPieces.join('');
    return { right: (cell) => of(cell) === target, how: 'several' };
  }
  const severalGiven = filled.filter((c) => piecesOf(c, sign).length > 1);
  // the key itself without signs
  const packed = /^[A-H]{2,6}$/.test(key.trim()) && filled.filter((c) => /^[A-H]{1,6}$/i.test(c.trim().replace(/[\s,;]+/g, ''))).length > filled.length * 0.7;
  if (packed) {
    const of = (c: string): string => [...c.toUpperCase().replace(/[^A-H]/g, '')].sort().join('');
    return { right: (cell) => of(cell) === of(key), how: 'several' };
  }
  if (keyPieces.length > 1 && severalGiven.length) {
    // where learners gave single pieces of it and nobody several, each piece is an accepted answer
    const target = keyPieces.join('\u0000');
    return { right: (cell) => one(cell) || piecesOf(cell, sign).join('\u0000') === target, how: 'several' };
  }
  if (keyPieces.length > 1 && /;/.test(key) && keyPieces.some((p) => known.has(p)))
    return { right: (cell) => one(cell) || key.split(sign).some((a) => sameAnswer(cell, a, monthFirst)), how: 'accepted' };
  return { right: one, how: 'one' };
}
