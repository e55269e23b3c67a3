/** What a cell of keys says: places of options by letters, numbers or words; truth by whatever two signs the column has. */
import { plainOption, readKey } from '../../draft/signatures/answers.js';
import { letterPlace, romanValue } from '../../language/labels.js';
import { truth } from '../../language/truths.js';
import { FALSE, TRUE } from '../../language/words.js';

/** How a key names options: by letters, by numbers from 1 or from 0, by Roman numbers, by their words; or the first option is always right. */
export const keyForms = ['letters', 'numbers', 'numbers from 0', 'roman', 'text', 'first'] as const;
/** How a key names options. */
export type KeyForm = (typeof keyForms)[number];

const LETTER = /^[([]?[A-Za-zА-Яа-яҐґЄєІі][.)\]]?$/u;
const NUMBER = /^[([]?\d{1,2}[.)\]]?$/;
const ROMAN = /^[([]?[ivx]{1,4}[.)\]]?$/i;
const JOINING = new Set(['and', 'und', 'et', 'y', 'e', 'en', 'i', 'и', 'та', 've', 'or', 'oder', 'o', 'ou', 'lub', 'или']);
/** Whether a cell is a list of labels and nothing else: "A, C", "(1) and (3)". */
export const isListOf = (cell: string, label: RegExp): boolean =>
  // its first word tells of most cells that they are none
  label.test(/^[^,;/&+|\s]*/.exec(cell)?.[0] ?? '') &&
  cell
    .replace(/\s+/g, ' ')
    .replace(/ ?([,;/&+|]) ?/g, '$1')
    .split(/[,;/&+| ]/)
    .every((word, i, all) => label.test(word) || (i > 0 && i < all.length - 1 && JOINING.has(word)));
/** Whether a cell is a list of letters and nothing else. */
export const isLetters = (cell: string): boolean => cell.length < 24 && isListOf(cell, LETTER);

/** The places that a cell of letters or numbers names, 0-based; null where it names none. */
export function placesIn(key: string, form: KeyForm): number[] | null {
  const t = key.trim();
  if (t.length === 1) {
    const c = t.charCodeAt(0);
    if (form === 'letters' && ((c >= 65 && c <= 90) || (c >= 97 && c <= 122))) return [letterPlace(t)];
    if ((form === 'numbers' || form === 'numbers from 0') && c >= 48 && c <= 57) return [c - 48 - (form === 'numbers' ? 1 : 0)];
  }
  if (form === 'letters') {
    if (/^[A-Ha-h]{2,6}$/.test(t) && t === t.toUpperCase() && [...t].every((c, i, all) => i === 0 || c > (all[i - 1] ?? '')))
      return [...t].map((c) => c.charCodeAt(0) - 65);
    // single letters; what joins them in a language ("y", "и") stands between others
    if (!isListOf(t, LETTER)) return null;
    const found = Array.from(t.matchAll(/(?<!\p{L})\p{L}(?!\p{L})/gu), (m) => m[0]);
    const joined = found.filter((c, i) => !(i > 0 && i < found.length - 1 && /[yeiиі]/.test(c) && /\p{Lu}/u.test(found[0] ?? '')));
    return joined.map(letterPlace);
  }
  if (form === 'roman') return isListOf(t, ROMAN) ? Array.from(t.matchAll(/[ivx]+/gi), (m) => romanValue(m[0].toUpperCase()) - 1) : null;
  if (form === 'numbers' || form === 'numbers from 0')
    return isListOf(t, NUMBER) ? Array.from(t.matchAll(/\d+/g), (m) => Number(m[0]) - (form === 'numbers' ? 1 : 0)) : null;
  return null;
}

/** A word and its stop in front of a label: "no. 3", "Option B", "Antwort: C", "→ A", "#2". */
const WORDS_BEFORE =
  /^(?:[\p{L}]{1,14}[.:]?\s*(?:(?:no|nr|n[º°]|num|№)\.?\s*)?[:=]?\s+|[#№→>=:–-]{1,3}\s*|(?:no|nr|n[º°]|num|opt|ans|q)\.?\s*(?=\d))(?=[([]?(?:\p{L}|\d{1,2})(?:[.)\]:]|\s*$|\s+[–—-]|\s*,))/iu;

/** What a key's cell comes to among the options of its row. */
export type KeyPlaces = { places: readonly number[]; by: 'label' | 'text' } | { unknown: string } | { conflict: string };

/** The entries of a cell that lists several. */
export const many = (cell: string): string[] =>
  cell
    .split(/[;,|\n]/)
    .map((s) => s.trim())
    .filter(Boolean);
const sorted = (places: readonly number[]): readonly number[] => (places.length < 2 ? places : [...new Set(places)].sort((a, b) => a - b));

/**
 * The places, 0-based, that the key of a row names.
 * @param key the cell, not empty
 * @param texts the options' words
 * @param form how the column names options; where a cell does not, other forms are tried
 */
export function placesOf(key: string, texts: readonly string[], form: KeyForm): KeyPlaces {
  // most cells are a label of the column's own form, and nothing else has to be looked at
  if (form !== 'text') {
    const named = placesIn(key, form);
    if (named?.length && named.every((p) => p >= 0 && p < texts.length)) return { places: sorted(named), by: 'label' };
  }
  const wanted = plainOption(key);
  const plain = texts.map(plainOption);
  const exact = plain.indexOf(wanted);
  if (form === 'text') {
    if (exact >= 0) return { places: [exact], by: 'text' };
    const parts = many(key).map((p) => plain.indexOf(plainOption(p)));
    if (parts.length > 1 && parts.every((p) => p >= 0)) return { places: sorted(parts), by: 'text' };
  }
  const bare = key.replace(WORDS_BEFORE, '');
  const forms: readonly KeyForm[] = form === 'numbers from 0' || form === 'roman' ? [form, 'letters'] : [form, 'letters', 'numbers'];
  for (const said of exact < 0 && bare !== key ? [key, bare] : [key])
    for (const f of forms) {
      const places = placesIn(said, f);
      if (!places?.length) continue;
      if (places.every((p) => p >= 0 && p < texts.length)) return { places: sorted(places), by: 'label' };
      // a number or letter may be an option's very words
      if (exact >= 0 && form !== f) return { places: [exact], by: 'text' };
      if (said === bare || bare === key) return { unknown: key };
    }
  if (exact >= 0) return { places: [exact], by: 'text' };
  const labels = texts.map((_, i) =>
    form === 'numbers' ? String(i + 1) : form === 'numbers from 0' ? String(i) : form === 'roman' ? (ROMANS[i] ?? '') : String.fromCharCode(65 + i),
  );
  for (const said of [key, ...(bare === key ? [] : [bare])]) {
    const reading = readKey(said, labels, texts);
    if (reading && 'conflict' in reading) return reading;
    if (reading && 'places' in reading) return { places: reading.places, by: /^\W*(?:\p{L}|\d{1,2})(?![\p{L}\d])/u.test(said) ? 'label' : 'text' };
  }
  return { unknown: key };
}

/** Roman numbers of places, in small letters. */
export const ROMANS: readonly string[] = ['i', 'ii', 'iii', 'iv', 'v', 'vi', 'vii', 'viii', 'ix', 'x'];

const WORD_TRUE = new RegExp(`^(?:${TRUE})$`, 'iu');
const WORD_FALSE = new RegExp(`^(?:${FALSE})$`, 'iu');
/** Pairs of signs for true and false, as they are written in columns of two values. Common practice, no source. */
const PAIRS: readonly (readonly [string, string])[] = [
  ['1', '0'],
  ['x', ''],
  ['+', '-'],
  ['+', '−'],
  ['✓', '✗'],
  ['✓', ''],
  ['✔', '✘'],
  ['✔', ''],
  ['✓', '✘'],
  ['✔', '✗'],
  ['✓', 'x'],
  ['✔', 'x'],
  ['☑', '☐'],
  ['r', 'w'],
  ['c', 'e'],
  ['c', 'i'],
  ['c', 'f'],
  ['g', 'f'],
  ['j', 'o'],
  ['j', 'n'],
  ['y', 'n'],
  ['yes', 'no'],
  ['ja', 'nein'],
  ['ja', 'nee'],
  ['oui', 'non'],
  ['sí', 'no'],
  ['si', 'no'],
  ['sì', 'no'],
  ['sim', 'não'],
  ['tak', 'nie'],
  ['да', 'нет'],
  ['так', 'ні'],
  ['evet', 'hayır'],
  ['s', 'n'],
];

/** The two signs, true's first, that a heading explains: "vero=1/falso=0", "1 = true, 0 = false", "R = richtig, F = falsch". */
export function truthSignsIn(heading: string): readonly [string, string] | null {
  let yes = '';
  let no = '';
  // bounded: 200 characters
  for (const [, a = '', b = ''] of heading.slice(0, 200).matchAll(/([\p{L}\d✓✔✗✘+−-]+)\s*(?:=|:|–|→|->)\s*([\p{L}\d✓✔✗✘+−-]+)/gu)) {
    const [left, right] = [a, b].map((w) => (WORD_TRUE.test(w) ? true : WORD_FALSE.test(w) ? false : null));
    const value = left ?? right;
    if (value === null || value === undefined || (left !== null && right !== null)) continue;
    const sign = (left === null ? a : b).toLowerCase();
    if (value) yes = sign;
    else no = sign;
  }
  return yes && no ? [yes, no] : null;
}

/**
 * The two signs, true's first, by which a column says true and false; null where its values are no such pair.
 * @param values of the column, in small letters; '' where a cell is empty
 */
export function truthSignsOf(values: ReadonlySet<string>): readonly [string, string] | null {
  // among other words a pair counts where both of it come; ones and noughts only where there is no other number
  if (values.size > 3 && [...values].filter((v) => /^\d/.test(v)).length > 2) return null;
  const said = values.size > 2 ? new Set([...values].filter(Boolean)) : values;
  return PAIRS.find(([yes, no]) => said.has(yes) && said.has(no)) ?? null;
}

/** The truth value of a cell; null where it says none. @param signs the pair that the column uses, where it is none of the usual words */
export function truthOf(cell: string, signs?: readonly [string, string]): boolean | null {
  const said = cell.trim().toLowerCase();
  if (signs && said === signs[0]) return true;
  if (signs && said === signs[1]) return false;
  return said ? truth(said, true) : null;
}
