/** What stands behind "Answer:": letters, texts of options, numbers with tolerance, accepted wordings. */
import { parseNumber } from '../mark/numbers.js';
import type { OptionBlock } from './blocks.js';
import { letterPlace } from './shapes.js';

export const plainOption = (s: string): string =>
  s
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[*_`"'“”‘’«»]/g, '')

    .replace(/\s+/g, ' ')
    .replace(/[ .,;:!?]{1,8}$/, '')
    .trim();

const AND = '(?:,|;|&|\\+|/|and|y|e|et|und|en|i|и|та|і|ve)';
const LETTERS = new RegExp(`^\\(?([A-Za-zА-Яа-я])[).]?\\)?(?:\\s*${AND}\\s*(?:${AND}\\s*)?\\(?([A-Za-zА-Яа-я])[).]?\\)?(?![\\p{L}\\p{N}]))+`, 'u');
const ONE = /^(?:option\s+|letter\s+)?[([]?([A-Za-zА-Яа-я])(?:[)\].:]+|\s*[-–—:]\s|\s|$)\s*/iu;

export type KeyReading = { places: number[]; reason?: string } | { unknown: string } | { conflict: string } | null;

const placeByLetter = (options: readonly OptionBlock[], letter: string): number => {
  const printed = options.findIndex((o) => o.letter && letterPlace(o.letter) === letterPlace(letter));
  if (printed >= 0) return printed;
  return options.some((o) => o.letter) ? -1 : letterPlace(letter) < options.length ? letterPlace(letter) : -1;
};

/** Which options a key names. `texts` are the options' contents in order. */
export function readKey(value: string, options: readonly OptionBlock[], texts: readonly string[]): KeyReading {
  const v = value
    .replace(/^["“]|["”]$/g, '')
    .trim()
    .replace(/\s*[✓✔✅]\s*$/u, '');
  if (!v) return null;
  const wanted = plainOption(v);
  const exact = texts.findIndex((t) => plainOption(t) === wanted);
  if (exact >= 0 && !(wanted.length === 1 && placeByLetter(options, v) >= 0)) return { places: [exact] };
  const several = LETTERS.exec(v);
  if (several && !/^[a-z] [a-z]{2,}/.test(v)) {
    const letters = Array.from(several[0].matchAll(/(?<![\p{L}])([A-Za-zА-Яа-я])(?![\p{L}])/gu), (m) => m[1] ?? '').filter(
      (l, i, all) => !(/^[eyiиі]$/.test(l) && i > 0 && i < all.length - 1 && all.length > 2),
    );
    const places = letters.map((l) => placeByLetter(options, l));
    const bad = places.indexOf(-1);
    if (bad >= 0) return { unknown: letters[bad] ?? '' };
    const rest = v.slice(several[0].length).replace(/^[\s.):–—-]+/, '');
    return { places: [...new Set(places)].sort((a, b) => a - b), ...(rest && { reason: rest }) };
  }
  if (/^[A-H]{2,6}$/.test(v) && [...v].every((l) => placeByLetter(options, l) >= 0))
    return { places: [...v].map((l) => placeByLetter(options, l)).sort((a, b) => a - b) };
  const number = /^(?:option\s+)?\(?(\d{1,2})\)?[.)]?$/i.exec(v);
  if (number && !options.some((o) => o.letter)) {
    const at = Number(number[1]) - 1;
    return at >= 0 && at < options.length ? { places: [at] } : { unknown: number[1] ?? '' };
  }
  // several keys with their texts: "B) first text; D) second text"
  const labelled = v.split(/\s*[;,]\s*(?=[A-Ha-hА-Д][).]\s)|\s+(?:and|und|y|et|e|en|i|и|та)\s+(?=[A-Ha-hА-Д][).]\s)/u);
  if (labelled.length > 1) {
    const readings = labelled.map((part) => readKey(part, options, texts));
    if (readings.every((r) => r !== null && 'places' in r && !r.reason)) {
      return { places: [...new Set(readings.flatMap((r) => (r && 'places' in r ? r.places : [])))].sort((a, b) => a - b) };
    }
  }
  const one = ONE.exec(v);
  if (one && (/[)\].:–—-]/.test(one[0]) || v.trim().length <= 2 || /^[A-H]\s/.test(v))) {
    const place = placeByLetter(options, one[1] ?? '');
    const rest = v.slice(one[0].length).trim();
    if (place < 0) return { unknown: (one[1] ?? '').toUpperCase() };
    if (!rest) return { places: [place] };
    const own = plainOption(texts[place] ?? '');
    const said = plainOption(rest);
    if (said === own || said.startsWith(own)) {
      const after =
        said === own
          ? ''
          : rest
              .slice((texts[place] ?? '').length)
              .replace(/^[\s.,;:–—()-]+/, '')
              .replace(/\)\s*$/, '');
      return { places: [place], ...(after && { reason: after }) };
    }
    if (own.startsWith(said) && said.length > 3) return { places: [place] };
    const other = texts.findIndex((t, i) => i !== place && plainOption(t) === said);
    if (other >= 0) return { conflict: `the letter ${(one[1] ?? '').toUpperCase()} and the text “${rest}” are two options` };
    return { places: [place], reason: rest.replace(/^[(\s–—-]+|\)\s*$/g, '') };
  }
  const starts = texts
    .map((t, i) => ({ i, t: plainOption(t) }))
    .filter(
      ({ t }) =>
        t.length > 1 &&
        (wanted.startsWith(`${t} `) || wanted.startsWith(`${t}.`) || wanted.startsWith(`${t},`) || wanted.startsWith(`${t};`) || wanted.startsWith(`${t} (`)),
    );
  if (starts.length === 1 && starts[0])
    return { places: [starts[0].i], reason: v.slice((texts[starts[0].i] ?? '').length).replace(/^[\s.,;:–—(-]+|\)\s*$/g, '') };
  const list = v.split(/\s*[;,]\s*|\s+and\s+/).map(plainOption);
  const places = list.map((p) => texts.findIndex((t) => plainOption(t) === p));
  if (list.length > 1 && places.every((p) => p >= 0)) return { places: [...new Set(places)].sort((a, b) => a - b) };
  return { unknown: v.length > 40 ? `${v.slice(0, 39)}…` : v };
}

export interface NumberReading {
  min: number;
  max: number;
  unit?: string;
}
const UNIT = '(?:\\s*(%|°\\s?[CF]?|[\\p{L}µμΩ°€$£][\\p{L}\\p{N}µμΩ°/²³^·.-]{0,14}(?:\\s\\p{L}{1,10})?|[€$£]))?';
const NUM = '([-−–+]?\\s?(?:\\d[\\d.,\\u0020\\u00a0\\u202f]*\\d|\\d|[.,]\\d+)(?:\\s*[/⁄]\\s*\\d+)?(?:\\s*[×x·]\\s*10\\s*\\^?\\s*[-−⁻]?[\\d⁰¹²³⁴⁵⁶⁷⁸⁹]+)?)';
const EXACT = new RegExp(`^[=≈~]?\\s*([€$£])?\\s*${NUM}${UNIT}\\s*[.!]?$`, 'u');
const TOLERANCE = new RegExp(`^[=≈~]?\\s*${NUM}${UNIT}\\s*(?:±|\\+\\s?/\\s?[-−–]|\\+-|plus or minus)\\s*${NUM}${UNIT}\\s*\\.?$`, 'u');
const RANGE = new RegExp(`^(?:between\\s+)?${NUM}${UNIT}\\s*(?:–|—|-|to|and|\\.\\.|bis|a|à|до)\\s*${NUM}${UNIT}\\s*\\.?$`, 'u');
const ACCEPT = new RegExp(
  `\\s*[([]\\s*(?:accept|allow|anything from|from)?\\s*${NUM}${UNIT}\\s*(?:–|—|-|to|and|\\.\\.)\\s*${NUM}${UNIT}\\s*(?:accepted|allowed)?\\s*[)\\]]\\s*$`,
  'iu',
);

const tidy = (n: number): number => Number(n.toPrecision(12));

/** A number as a key: "12.5", "12,5 kg", "12.5 ± 0.1", "12.4–12.6"; null where it is none. */
export function readNumber(value: string, decimalComma: boolean): NumberReading | null {
  const v = value.trim().replace(/[\u00a0\u202f]/g, ' ');
  if (!/\d/.test(v) || v.length > 80) return null;
  const num = (s: string | undefined): number | null => (s === undefined ? null : parseNumber(s.replace(/^[−–]\s*/, '-'), decimalComma));
  const accept = ACCEPT.exec(v);
  if (accept) {
    const [a, b] = [num(accept[1]), num(accept[3])];
    const head = readNumber(v.slice(0, accept.index), decimalComma);
    if (a !== null && b !== null && head) return { ...head, min: Math.min(a, b), max: Math.max(a, b) };
  }
  const t = TOLERANCE.exec(v);
  if (t) {
    const [a, d] = [num(t[1]), num(t[3])];
    const unit = t[2] ?? t[4];
    if (a !== null && d !== null) return { min: tidy(a - Math.abs(d)), max: tidy(a + Math.abs(d)), ...(unit && { unit }) };
  }
  const e = EXACT.exec(v);
  const exact = e ? num(e[2]) : null;
  if (e && exact !== null) {
    const unit = e[3] ?? e[1];
    return { min: exact, max: exact, ...(unit && { unit: unit.trim() }) };
  }
  const r = RANGE.exec(v);
  if (r) {
    const [a, b] = [num(r[1]), num(r[3])];
    const unit = r[4] ?? r[2];
    if (a !== null && b !== null && a < b) return { min: a, max: b, ...(unit && { unit }) };
  }
  return null;
}

/** The accepted wordings in a key: "poolish / a poolish", "a or b", "a; b", "X (also accept: Y)". */
export function wordings(value: string): string[] {
  let v = value.trim();
  const more: string[] = [];
  if (v.length > 400) return [v];
  const also =
    /\s*[([]\s*(?:also(?: accept(?:ed)?)?|accept(?: also)?|or)\s*:?\s*([^)\]]+?)\s*[)\]]\s*$/i.exec(v) ??
    /\s*\(([^)]+?)\s+(?:is|are) (?:also )?(?:fine|accepted|ok)(?: too)?\)\s*$/i.exec(v);
  if (also) {
    more.push(...wordings(also[1] ?? ''));
    v = v.slice(0, also.index);
  }
  if (parseNumber(v) !== null) return [v, ...more];
  const parts = v.split(/\s+\/\s+|\s*\|\s*|\s*;\s*|\s+or\s+|(?<=\p{L}{2})\/(?=\p{L}{2})|\s+(?:ou|oder|oppure|lub|или|або|veya)\s+/u);
  return [
    ...new Set(
      [...parts, ...more]
        .map((s) =>
          s
            .trim()
            .replace(/^["“„«]|["”»]$/g, '')
            .replace(/(?<=\p{L}{2})\.$/u, '')
            .trim(),
        )
        .filter(Boolean),
    ),
  ];
}
