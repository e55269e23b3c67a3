/** What stands behind "Answer:": labels and texts of options, numbers with tolerance, accepted wordings. */
import { remembered } from '../../language/remembered.js';
import { isHeld, minus, plus } from '../../language/decimal.js';
import { parseNumber } from '../../language/numbers.js';
import { LETTERS, letterPlace, plainSigns, romanValue } from '../../language/labels.js';
import { matchesOf } from '../../language/matches.js';
import { subParts } from './subParts.js';

/** An option's words as they are compared: no case, quotes, emphasis or sign at the end. */
export const plainOption = remembered((s) =>
  s
    .normalize('NFKC')
    .toLowerCase()
    .replace(/["'“”‘’„«»]/g, '')
    .replace(/\s+/g, ' ')
    .replace(/[ .,;:!?]{1,8}$/, '')
    .trim(),
);

/** Which options a key names, and where in it a reason starts; or what is wrong with it. Null where it says nothing. */
export type KeyReading = { places: number[]; reasonAt?: number } | { unknown: string } | { conflict: string } | null;

const LOOKALIKE: Record<string, string> = { А: 'A', В: 'B', С: 'C', Е: 'E', Н: 'H', К: 'K', І: 'I' };
/** Letters in squares, rings and brackets, which label options as the letters in them do. */
const ENCLOSED = /^[\u{1f170}-\u{1f189}\u{1f150}-\u{1f169}\u24b6-\u24e9\u249c-\u24b5]$/u;
const folded = (letter: string): string => {
  const up = letter.toUpperCase();
  return LOOKALIKE[up] ?? (ENCLOSED.test(up) && letterPlace(letter) >= 0 ? String.fromCharCode(65 + letterPlace(letter)) : up);
};

/** The place of the option with a printed label; without printed labels letters and numbers count from the first. −1 for none. */
function placeOfLabel(labels: readonly string[], said: string): number {
  const printed = labels.findIndex((l) => l !== '' && folded(l) === folded(said));
  if (printed >= 0) return printed;
  if (labels.some(Boolean)) {
    const roman = /^[ivx]+$/i.test(said) ? romanValue(said.toUpperCase()) : 0;
    return roman ? labels.findIndex((l) => romanValue(l.toUpperCase()) === roman && l.length > 0 && /^[ivx]+$/i.test(l)) : -1;
  }
  const place = /^\d+$/.test(said) ? Number(said) - 1 : letterPlace(said);
  return place < labels.length ? place : -1;
}

const LABEL = `[([]?\\s*(الف|[${LETTERS}]|\\d{1,2}|[ivxIVX]{1,4})\\s*(?:(?:\\.\\)|[)\\].:])(?!\\d)|(?!['’]\\S|[\\p{L}\\p{N}]|[.,]\\d))`;
const AND = '(?:\\s*(?:[,;&+/]|,?\\s(?:and|y|e|et|und|en|i|и|та|і|ve|or|plus)\\s)\\s*)';
const LABELS = new RegExp(`^(?:(?:options?|letters?|answers?|both|choices?|numbers?)\\s+)*${LABEL}(?:${AND}${LABEL})*`, 'iu');
const ONE_LABEL = new RegExp(`(?<![\\p{L}\\p{N}])${LABEL}`, 'giu');
const WORD_BEFORE_LABEL = new RegExp(`^(\\p{L}{3,14})\\s([${LETTERS}])(?=[.):]\\s|\\s*[–—-]\\s|[.)]?\\s*$)`, 'u');
/** "(all of them)", "both", "only": says nothing more. */
const NOTHING_MORE = /^[\s.,;:(–—-]*(?:(?:are|is|both|all|only|alle|todas?|tutte|toutes|beide|ambas)[^.]{0,24})?[)\s.]*$/iu;

/** Which options a key names. `labels` are the printed labels (empty where there is none), `texts` the options' contents. */
export function readKey(value: string, labels: readonly string[], texts: readonly string[]): KeyReading {
  const plain = texts.map(plainOption);
  const quotes = /^["“'\s]*/.exec(value)?.[0].length ?? 0;
  // "Alternativa B. Because …": a word that no option has, in front of a label that one has
  const word = WORD_BEFORE_LABEL.exec(value.slice(quotes));
  const named = word !== null && placeOfLabel(labels, word[2] ?? '') >= 0 && !plain.some((t) => t.includes((word[1] ?? '').toLowerCase()));
  const lead = quotes + (named ? (word[1]?.length ?? 0) + 1 : 0);
  const v = plainSigns(value)
    .slice(lead)
    .replace(/["”\s]+$/, '')
    .replace(/\s*(?:[✓✔✅]\ufe0f?)+\s*$/u, '');
  if (!v) return null;
  const wanted = plainOption(v);
  const exact = plain.indexOf(wanted);
  const asLabel = wanted.length <= 2 ? placeOfLabel(labels, wanted) : -1;
  if (exact >= 0 && asLabel < 0) return { places: [exact] };
  // "a) T   b) F   c) T" says something of each
  const each = subParts(v);
  if (each.length > 1 && each.length === labels.length) return { conflict: `the key says something of each of the options: “${v.slice(0, 40)}”` };
  // "A C D", "A-C-D", "ACD"
  const bare = /^(?:[A-Ha-h](?:[\s-]+|$)){2,}$/.test(v) || /^[A-H]{2,6}$/.test(v) ? v.replace(/[\s-]/g, '') : '';
  // "BAA" is no set of letters: it names one option twice
  if (bare && new Set(bare).size < bare.length) return { unknown: v };
  if (bare && [...bare].every((l) => placeOfLabel(labels, l) >= 0)) return { places: sorted([...bare].map((l) => placeOfLabel(labels, l))) };
  // "23" under options 1 to 4
  const digits = /^\d{2,6}$/.test(v) && !labels.includes(v) && labels.some((l) => /^\d$/.test(l)) ? [...v] : [];
  if (digits.length && new Set(digits).size === digits.length && digits.every((d) => labels.includes(d)))
    return { places: sorted(digits.map((d) => labels.indexOf(d))) };
  const head = LABELS.exec(v);
  if (head) {
    const reading = byLabels(v, head[0], labels, texts, plain);
    if (reading) return 'reasonAt' in reading && reading.reasonAt !== undefined ? { ...reading, reasonAt: reading.reasonAt + lead } : reading;
  }
  for (const sign of [/\s*;\s*/, /\s*[,;]\s*|\s+(?:and|und|y|et|e|en|i|и|та|ve)\s+/u, /\s*[,;/]\s*/]) {
    const parts = v.split(sign).map(plainOption).filter(Boolean);
    const places = parts.map((p) => plain.indexOf(p.replace(/^(?:and|und|y|et|e|en|и|та)\s/u, '')));
    // "yes, yes, no" names one option twice: the keys of several questions
    if (parts.length > 1 && places.every((p) => p >= 0)) return new Set(places).size < places.length ? { unknown: v } : { places: sorted(places) };
  }
  const byWords = withoutArticle(wanted, plain);
  if (byWords >= 0) return { places: [byWords] };
  const byText = textStart(v, wanted, plain, texts);
  if (byText) return byText.reasonAt === undefined ? byText : { ...byText, reasonAt: byText.reasonAt + lead };
  return { unknown: v.length > 40 ? `${v.slice(0, 39)}…` : v };
}
const sorted = (places: readonly number[]): number[] => [...new Set(places)].sort((a, b) => a - b);

function byLabels(v: string, head: string, labels: readonly string[], texts: readonly string[], plain: readonly string[]): KeyReading {
  const words = head.replace(/^(?:(?:options?|letters?|answers?|both|choices?|numbers?)\s+)+/i, '');
  const said = matchesOf(ONE_LABEL, words)
    .map((m) => m[1] ?? '')
    .filter((l, i, all) => !(i > 0 && i < all.length - 1 && /^[yeiиіe]$/.test(l) && all.length > 2 && placeOfLabel(labels, l) < 0));
  const rest = v.slice(head.length);
  const signed = /[)\].:]\s*$/.test(head);
  const apart = signed || !rest.trim() || /^\s*(?:[-–—:=(,;.]|→|because|since|as\s|weil|porque|parce|perché|omdat|ponieważ|потому|бо\s|çünkü)/iu.test(rest);
  const places = said.map((l) => placeOfLabel(labels, l));
  // "A dog" is words, not the label A with words behind; but "B Latin" with that very text is the label
  if (!apart) {
    const own = plain[places[0] ?? -1];
    const words = plainOption(rest);
    // "B longer", where B is "longer than a new one"
    if (said.length !== 1 || own === undefined || (words !== own && !(words.length > 3 && own.startsWith(`${words} `)))) return null;
    return { places: [places[0] ?? 0] };
  }
  const bad = places.indexOf(-1);
  if (bad >= 0) {
    // a number or a word may be an option's text: "12 %", "A and B"
    if (!signed && rest.trim() === '' && said.length === 1 && /^\d+$/.test(said[0] ?? '') && plain.some((t) => t.startsWith(said[0] ?? ''))) return null;
    return said.length === 1 && rest.trim() && !signed ? null : { unknown: said[bad] ?? '' };
  }
  if (said.length > 1 && rest.trim() && signed) {
    // "B) first text; D) second text": the labels of one list, each with its text
    const many = v.split(/\s*[;,]\s*(?=[([]?[A-Za-zА-Я][).\]]\s)|\s+(?:and|und|y|et|e|en|i|и|та|ve)\s+(?=[([]?[A-Za-zА-Я][).\]]\s)/u);
    if (many.length > 1) return several(many, labels, texts);
  }
  if (said.length === 1) {
    const many = v.split(/\s*[;,]\s*(?=[([]?[A-Za-zА-Я][).\]]\s)|\s+(?:and|und|y|et|e|en|i|и|та|ve)\s+(?=[([]?[A-Za-zА-Я][).\]]\s)/u);
    if (many.length > 1) {
      const all = several(many, labels, texts);
      if (all) return all;
    }
  }
  if (said.length > 1) {
    const more = rest.replace(/^[\s.):–—-]+/, '');
    return { places: sorted(places), ...(more && !NOTHING_MORE.test(rest) && { reasonAt: v.length - more.length }) };
  }
  const [place = 0] = places;
  const own = plain[place] ?? '';
  const more = rest.replace(/^[\s(:;,.–—=→-]+/u, '');
  const words2 = plainOption(rest.replace(/^[\s:;–—=→-]+/u, '').replace(/^\((.*)\)$/u, '$1'));
  if (!words2 || words2 === own || NOTHING_MORE.test(rest)) return { places: [place] };
  const other = plain.findIndex((t, i) => i !== place && t === words2);
  if (other >= 0)
    return { conflict: `the letter ${(said[0] ?? '').toUpperCase()} and the text “${rest.replace(/^[\s:;–—=→.)-]+/u, '').trim()}” are two options` };
  // "b – Segmentation comes before …": a sentence that starts with the option's word is a reason as a whole
  const goesOn =
    own &&
    words2.startsWith(own) &&
    /^\s(?!because|since|as\s|weil|denn|porque|parce|perch|omdat|bo\s|ponieważ|потому|бо\s|тому|çünkü)\p{Ll}/u.test(words2.slice(own.length)) &&
    own.split(/\s+/).length < 3;
  if (own && !goesOn && words2.startsWith(own) && /^[\s.,;:(–—-]/u.test(words2.slice(own.length))) {
    const after = behindText(v, texts[place] ?? '', head.length);
    return { places: [place], ...(after < v.length && { reasonAt: after }) };
  }
  if (own.startsWith(words2) && words2.length > 3) return { places: [place] };
  const farther = plain.findIndex((t, i) => i !== place && t.length > 3 && words2.startsWith(`${t} `));
  if (farther >= 0 && !words2.startsWith(own))
    return { conflict: `the letter ${(said[0] ?? '').toUpperCase()} and the words “${texts[farther] ?? ''}” are two options` };
  return { places: [place], reasonAt: v.length - more.length };
}
function several(many: readonly string[], labels: readonly string[], texts: readonly string[]): KeyReading {
  const readings = many.map((part) => readKey(part, labels, texts));
  if (readings.every((r): r is { places: number[] } => r !== null && 'places' in r && r.reasonAt === undefined))
    return { places: sorted(readings.flatMap((r) => r.places)) };
  const bad = readings.find((r): r is { unknown: string } => r !== null && 'unknown' in r);
  return bad ?? null;
}
/** Where a reason starts behind an option's words within a key. */
function behindText(v: string, text: string, from: number): number {
  const at = v.toLowerCase().indexOf(text.toLowerCase().replace(/[ .,;:!?]+$/, ''), from);
  if (at < 0) return v.length;
  const rest = v.slice(at + text.replace(/[ .,;:!?]+$/, '').length);
  return v.length - rest.replace(/^[\s.,;:–—()-]+/u, '').length;
}
const ARTICLE = /^(?:the|an?|der|die|das|den|ein(?:e[nr]?)?|les?|la|une?|el|los|las|un[oa]?|il|lo|gli|i|os?|as|um(?:a)?|de|het|een)\s+/iu;
/** The one option that a key says but for an article, or in words that stand in no other; −1 for none. */
function withoutArticle(wanted: string, plain: readonly string[]): number {
  const bare = (t: string): string => t.replace(ARTICLE, '');
  const same = plain.flatMap((t, i) => (bare(t) === bare(wanted) ? [i] : []));
  if (same.length === 1) return same[0] ?? -1;
  if (wanted.length < 4 || /\d/.test(wanted)) return -1;
  const inside = plain.flatMap((t, i) => (` ${t} `.includes(` ${bare(wanted)} `) ? [i] : []));
  return inside.length === 1 ? (inside[0] ?? -1) : -1;
}
/** A key that starts with one option's words, or is the start of one. */
function textStart(v: string, wanted: string, plain: readonly string[], texts: readonly string[]): { places: number[]; reasonAt?: number } | null {
  const starts = plain.map((t, i) => ({ i, t })).filter(({ t }) => t.length > 1 && wanted.startsWith(t) && /^[\s.,;:(–—-]/u.test(wanted.slice(t.length)));
  const longest = starts.sort((a, b) => b.t.length - a.t.length)[0];
  if (longest) {
    const at = behindText(v, texts[longest.i] ?? '', 0);
    return { places: [longest.i], ...(at < v.length && { reasonAt: at }) };
  }
  const whole = plain.map((t, i) => ({ i, t })).filter(({ t }) => wanted.length > 7 && t.startsWith(wanted));
  return whole.length === 1 && whole[0] ? { places: [whole[0].i] } : null;
}

/** A number as an answer says it: its bounds, its unit, and whether a tolerance stood with it. */
export interface NumberReading {
  min: number;
  max: number;
  unit?: string;
}
const UNIT = '(?:\\s*(?!(?:to|and|bis|a|à|до)\\s)(%|°\\s?[CF]?|[\\p{L}µμΩ°€$£][\\p{L}\\p{N}µμΩ°/²³^·.-]{0,14}(?:\\s\\p{L}{1,10})?|[€$£]))?';
const NUM =
  '([-−–+]?\\s?(?:\\d[\\d.,\\u0020\\u00a0\\u202f]*\\d|\\d|[.,]\\d+)(?:\\s*[/⁄]\\s*\\d+)?(?:\\s*[×x·*]\\s*10\\s*\\^?\\s*[-−⁻]?[\\d⁰¹²³⁴⁵⁶⁷⁸⁹]+|[eE][-−+]?\\d{1,3}(?![\\p{L}\\d]))?)';
const ABOUT = '(?:about|approx(?:imately|\\.)?|around|ca\\.?|circa|etwa|ungefähr|environ|aprox\\.?|cerca de|около|приблизно|yaklaşık)?';
const EXACT = new RegExp(`^[=≈~]?\\s*${ABOUT}\\s*([€$£])?\\s*${NUM}${UNIT}\\s*[.!]?$`, 'iu');
const TOLERANCE = new RegExp(`^[=≈~]?\\s*${NUM}${UNIT}\\s*[([]?\\s*(?:±|\\+\\s?/\\s?[-−–]|\\+-|plus or minus)\\s*${NUM}${UNIT}\\s*[)\\]]?\\s*\\.?$`, 'u');
const RANGE = new RegExp(`^(?:between\\s+)?${NUM}${UNIT}\\s*(?:–|—|-|to|and|\\.\\.|bis|a|à|до)\\s*${NUM}${UNIT}\\s*\\.?$`, 'u');
const ACCEPT = new RegExp(
  `\\s*[([]\\s*(?:accept|allow|anything from|from|zulässig:?|erlaubt:?|aceptar:?|se acepta:?|accepter:?|accetta(?:re)?:?|aceitar:?|goed:?|dopuszczalne:?|допускается:?|range:?|tolerance:?)?\\s*${NUM}${UNIT}\\s*(?:–|—|-|to|and|bis|a|à|до|\\.\\.)\\s*${NUM}${UNIT}\\s*(?:(?:is|are)?\\s*(?:also |all )?(?:accepted|allowed|fine|ok(?:ay)?)|gilt auch|gelten|est accepté|vale)?\\s*[)\\]]\\s*$`,
  'iu',
);

/** What a mark scheme says in front of the numbers that it takes: "accept 1 to 5". */
const TAKEN = /^(?:accept|allow|anything from|zulässig|se acepta|accepter|accettare|aceitar)\s*:?\s+(?=[-−–+]?\d)/i;
/** A number as a key: "12.5", "12,5 kg", "12.5 ± 0.1", "12.4–12.6"; null where it is none. */
export function readNumber(value: string, decimalComma: boolean): NumberReading | null {
  const given = value.trim().replace(/[\u00a0\u202f]/g, ' ');
  if (!/\d/.test(given) || given.length > 80) return null;
  const v = given.replace(TAKEN, '');
  const num = (s: string | undefined): number | null => {
    // more figures than a number holds are a name of something, and compared as text
    if (s === undefined || (s.length > 15 && !isHeld(s.replace(/[\s'’]/g, '')))) return null;
    return parseNumber(s.replace(/^[−–]\s*/, '-'), decimalComma);
  };
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
    if (a !== null && d !== null) return { min: minus(a, Math.abs(d)), max: plus(a, Math.abs(d)), ...(unit && { unit }) };
  }
  const e = EXACT.exec(v);
  const exact = e ? num(e[2]) : null;
  if (e && exact !== null) {
    const unit = e[3] ?? e[1];
    return { min: exact, max: exact, ...(unit && { unit: unit.trim().replace(/(?<=\p{L}{2})\.$/u, '') }) };
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
    // bounded: 400 characters
    /\s*[([]\s*(?:also(?: accept(?:ed)?)?|accept(?: also)?|or)\s*:?\s*([^)\]]+?)\s*[)\]]\s*$/i.exec(v) ??
    // bounded: 400 characters
    /\s*[([]\s*(?:también vale|vale también|también|auch richtig|auch|aussi|accepter aussi|anche|vale anche|também|aceita-se também|ook goed|ook|także|również|также|тоже|також|veya|oppure|alternativ\p{L}*)\s*:?\s*([^)\]]+?)\s*[)\]]\s*$/iu.exec(
      v,
    ) ??
    /\s*\(\s*[«“"„]?\s*([^)]+?)\s*[»”"]?\s+(?:(?:is|are) (?:also )?(?:fine|accepted|ok)(?: too)?|gilt auch|ist auch richtig|est accepté(?:e)?(?: aussi)?|est aussi accepté(?:e)?|también (?:vale|sirve)|va bene(?: anche)?|também serve|mag ook|też (?:dobrze|może być)|тоже (?:верно|подходит)|теж підходить)\)\s*$/iu.exec(
      v,
    );
  if (also) {
    more.push(...wordings(also[1] ?? ''));
    v = v.slice(0, also.index);
  }
  if (parseNumber(v) !== null) return [v, ...more];
  // "4 (four)", "four (4)": once in figures, once in words
  const twice = /^(\d{1,4})\s*\((\p{L}[\p{L} -]{1,24})\)$|^(\p{L}[\p{L} -]{1,24}?)\s*\((\d{1,4})\)$/u.exec(v)?.slice(1).filter(Boolean);
  if (twice) return [...twice, ...more];
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
