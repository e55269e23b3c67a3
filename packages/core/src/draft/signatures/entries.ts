/** Entries of key lists within a line: labels that go up, each with something short behind it. */
import { plainOption } from './answers.js';
import { letterPlace, romanValue, wordsIn } from '../../language/labels.js';
import { truth } from '../../language/truths.js';
import { ANSWER } from '../../language/words.js';
import { matchesOf } from '../../language/matches.js';

/** An entry of a list of keys: its number, and the columns of what it says. */
export interface ListEntry {
  /** "12", "3a", "IV", "Bonus". */
  label: string;
  number: number;
  sub: string;
  kind: 'num' | 'rom' | 'dec' | 'bonus';
  /** The last number of a run: "1–5 CABDA". */
  until: number;
  /** Columns of the label's start and of the value. */
  start: number;
  from: number;
  to: number;
  value: string;
  /** The sign behind the label. */
  sign: string;
}

const WORD =
  '(?:第|[Aa]ns(?:wer)?|[Rr]esp(?:uesta)?|[Rr]ép(?:onse)?|[Rr]isposta|[Rr]esposta|[Aa]ntw(?:oor[dt])?|[Ll]ösung|[Oo]dp(?:owied[zź])?|[Оо]твет|[Вв]ідповідь|[Cc]evap|[Qq](?:uestions?|u|ues)?|[Nn]o|[Nn]r|[Ii]tem|[Pp]regunta|[Ff]rage|[Aa]ufgabe|[Pp]ergunta|[Qq]uest[aã]o|[Dd]omanda|[Vv]raag|[Pp]ytanie|[Zz]adanie|[Вв]опрос|[Зз]адание|[Пп]итання|[Ss]oru|[Ff]r|[Aa]ufg|[Zz]ad|[Ee]x|[Dd]u|[Nn](?=\\.))\\.?\\s*(?:n[º°]\\s?|#|№)?|#|№';
const FIND = new RegExp(
  `(?:^|(?<=[\\s,;|–—.)•·\\]])|(?<=^\\s{0,8}[([]))(?:${WORD})?\\s*(?:(\\d{1,3})\\(([a-h]|[ivx]{1,4})\\)(?!\\s*(?:\\d{1,3}\\s?\\(|$))|[([](\\d{1,3})([a-h])?[)\\]]|(\\d{1,2})\\.(\\d{1,2}(?:\\.\\d{1,2})?)(?=[.):]?\\s)|(\\d{1,3}|(?<=^\\s*)\\d{4,5}(?=\\s*[.):]))([a-h](?=\\s*[.):=]\\s*\\S|\\s+(?!\\d{1,3}\\s?[.):a-zA-ZА-Яа-я\\s]|[-–—;,/|•·])\\S))?|([IVX]{1,6}(?![\\p{L}]))|([Bb]onus|BONUS|[Tt]ie-?break(?:er)?)|(?<part>[A-HА-ЕС])[-.]?(?<within>\\d{1,2})(?=[\\s.):=–-]))(\\ufe0f?\\u20e3\\s*|[問题題]\\s*[:：.．]?\\s*|\\s*(?:\\.\\)|°\\)?(?!\\s?[CF](?!\\p{L}))|[.)])(?!\\d)(?:\\s*[-–:=]>?(?!\\d))?\\s*|\\s*[:：=→»]+\\s*|\\s?\\/\\s+(?=\\S)|\\s*\\|\\s*(?=\\S)|(?!\\s+[-–−]\\d)\\s*[-–—]{1,2}>?\\s*|(?<=[\\])])\\s*|(?=[A-HVTFRPWSNJDYА-ЕНПΑ-ΗΣΛ](?![\\p{L}])|[a-hfvtrа-еα-η](?![\\p{L}]))|\\s*[…_]+\\s*|\\s+(?=\\S))`,
  'gu',
);
/** What the first entry of a line starts with. */
const STARTS = new RegExp(`^[\\s|(*•–—✓✅-]*(?:${WORD})?\\s*[([]?(?:\\d|[IVX]|[Bb]onus|BONUS|[Tt]ie|[A-HА-ЕС][-.]?\\d)`, 'u');
const LONGEST = 3000;

const ONE = /^(?:[([]?[ivx]{1,4}[)\]]|[([]?[A-Ha-hА-Еа-еא-ו][)\].]?|[TFVRWPDYJNtfvrНВП]|\d{1,4}(?:[.,]\d+)?)[.!]?$/u;
const MANY = /^[([]?[A-H][)\].]?(?:\s*[,&+/]\s*(?:and\s)?[([]?[A-H][)\].]?)+$/i;
const LEAD = new RegExp(`^(?:${ANSWER})\\s*[:=–-]?\\s+`, 'iu');
/** "b, p. 112", "3 (S. 14)" */
const PAGE = /[\s,;]+\(?(?:pp?|pgs?|pág|pag|s|str|с|стр|side|sivu|ch)\.\s?\d{1,4}\)?\s*$/iu;
/** A value that could be nothing but a key: a letter, several, true or false, a number. */
export function keyValue(v: string): boolean {
  const t = v.replace(PAGE, '').trim();
  if (t.length > 60 || !t) return false;
  if (ONE.test(t) || MANY.test(t) || truth(t, true) !== null) return true;
  const lead = LEAD.exec(t);
  return lead ? keyValue(t.slice(lead[0].length)) : false;
}

const RANGE = /^[\s(|*-]*(?:Q(?:uestions?)?\.?\s*|fragen\s*|nr\.?\s*)?(\d{1,3})\s*(?:[-–—]|to|bis|a|à|do|до)\s*(\d{1,3})\)?\s*[.:)=]?\s+(\S.*)$/iu;
const GLUED = /^\s*[A-HTFVRВНПа-дa-htfvr][,;.]?(?:\s|[A-HTFVRВНПа-дa-htfvr][,;.]?)*$/u;

const SEVERAL_RANGES = /(\d{1,3})\s*[-–—]\s*(\d{1,3})\s*[.:)]?\s+((?:[A-Za-zА-Яа-я](?:[\s,;]+|$)){2,})/gu;
/** "1-5   A C B D A       6-10   B C D A B" */
function rangesIn(text: string): ListEntry[] {
  if (!/\d\s*[-–—]\s*\d/.test(text)) return [];
  const out: ListEntry[] = [];
  let at = 0;
  for (const m of matchesOf(SEVERAL_RANGES, text)) {
    const letters = (m[3] ?? '').replace(/[^\p{L}]/gu, '');
    if (text.slice(at, m.index).trim() || letters.length !== Number(m[2]) - Number(m[1]) + 1) return [];
    const from = m.index + m[0].length - (m[3] ?? '').length;
    at = m.index + m[0].length;
    out.push({
      label: m[1] ?? '',
      number: Number(m[1]),
      sub: '',
      kind: 'num',
      until: Number(m[2]),
      start: m.index,
      from,
      to: from + (m[3] ?? '').trimEnd().length,
      value: (m[3] ?? '').trim(),
      sign: '',
    });
  }
  return out.length > 1 && !text.slice(at).trim() ? out : [];
}

/** Which part a letter names, from 1: Russian papers have the parts А, В and С. */
export const partPlace = (letter: string): number => (letter === 'С' ? partPlace('Г') : letterPlace(letter) + 1);
/** "2.1" counts as 201, "1.1.3" as 10103. */
export const withinValue = (first: string, rest: string): number => rest.split('.').reduce((n, x) => n * 100 + Number(x), Number(first));

/** Reads a line into entries. Their labels go up by one, or a value that is a key stands between; a line that starts otherwise has none. */
export function entriesIn(text: string): ListEntry[] {
  if (text.length > LONGEST || !/\d|[IVX]|[Bb]onus|BONUS|[Tt]ie/.test(text)) return [];
  const range = RANGE.exec(text);
  // "1 A 2 C" is no range from 1 to 2: there are as many keys as numbers
  const letters = (range?.[3] ?? '').replace(/[^\p{L}]/gu, '').length;
  const worded = range !== null && /\d\s*\p{L}+\s*\d/u.test(range[0].slice(0, range[0].length - (range[3]?.length ?? 0)));
  if (range && Number(range[2]) > Number(range[1]) && GLUED.test(range[3] ?? '') && (!worded || letters === Number(range[2]) - Number(range[1]) + 1)) {
    const from = text.length - (range[3]?.length ?? 0);
    return [
      {
        label: range[1] ?? '',
        number: Number(range[1]),
        sub: '',
        kind: 'num',
        until: Number(range[2]),
        start: 0,
        from,
        to: text.trimEnd().length,
        value: (range[3] ?? '').trim(),
        sign: '',
      },
    ];
  }
  const ranges = rangesIn(text);
  if (ranges.length) return ranges;
  if (!STARTS.test(text)) return [];
  const out: ListEntry[] = [];
  for (const m of matchesOf(FIND, text)) {
    const start = m.index + m[0].length - m[0].trimStart().length;
    const from = m.index + m[0].length;
    const { part, within } = m.groups ?? {};
    const roman = m[9] ? romanValue(m[9]) : 0;
    if (m[9] && (!roman || (m[9].length === 1 && !(m[13] ?? '').trim() && !/^[([]?(?:\p{L}|\d{1,3})[)\].,;]?(?:\s|$)/u.test(text.slice(from))))) continue;
    const dec = m[5] !== undefined || part !== undefined;
    const number = m[10]
      ? -1
      : part
        ? withinValue(String(partPlace(part)), within ?? '')
        : dec
          ? withinValue(m[5] ?? '', m[6] ?? '')
          : roman || Number(m[1] ?? m[3] ?? m[7]);
    const sub = (m[2] ?? m[4] ?? m[8] ?? '').toLowerCase();
    const kind = m[10] ? 'bonus' : dec ? 'dec' : roman ? 'rom' : 'num';
    const sign = (m[13] ?? '').trim() || (m[3] ? ')' : '');
    const last = out[out.length - 1];
    if (!last) {
      if (!/^[\s|(*•–—✓✅-]*$/u.test(text.slice(0, start))) return [];
    } else {
      const between = text.slice(last.from, start);
      const value = between.replace(/[\s,;،؛、|/–—•·-]+$/u, '').trim();
      if (!value) continue;
      // "1.2 …; 2 …": a question without parts behind one that has some
      const whole = kind === 'num' && last.kind === 'dec' && number === Math.floor(last.number / 100) + 1;
      if (kind !== last.kind && kind !== 'bonus' && !whole) continue;
      const before = text.slice(0, start);
      if (/\d[.,]$/.test(before)) continue;
      const wide = /(?:\s{2,}|\t|[,;|•·]\s*|\s[–—/-]\s|[([])$/u.test(before);
      const step = last.until ? number - last.until : number - last.number;
      const next =
        whole ||
        step === 1 ||
        (step === 0 && sub !== '' && sub > last.sub) ||
        (step === 0 && wide && /^[A-H]$/i.test(value) && /^[A-H](?![\p{L}])/iu.test(text.slice(from))) ||
        kind === 'bonus';
      const signed = /[.):=/°]/.test(sign) && last.sign === sign && step === 1 && value.length < 60;
      const short = keyValue(value) || (value.length <= 14 && wordsIn(value) === 1);
      const ok =
        signed ||
        // "6 basil. 7 Because it rises."
        (step === 1 && !sign && !last.sign && /[.!?]\s+$/.test(before) && /^\p{Lu}/u.test(text.slice(from))) ||
        (whole && wide) ||
        (kind === 'dec' && step > 0 && wide) ||
        (wide && step > 0 && step <= 12 && (next || /\s{2,}$|\t$|\|\s*$/.test(before) || keyValue(value))) ||
        (wide && sub !== '' && step >= 0 && step <= 1) ||
        (next && short) ||
        (short && step > 0 && step <= 12 && keyValue(value));
      if (!ok) continue;
      if (/[.:,]$/.test(before.trimEnd()) && !wide && !short && !signed && sign + last.sign) continue;
    }
    if (!/\S/.test(text.slice(from))) continue;
    if (last) close(last, text, start);
    out.push({
      label: `${part ? `${part}${within ?? ''}` : dec ? `${m[5] ?? ''}.${m[6] ?? ''}` : (m[1] ?? m[3] ?? m[7] ?? m[9] ?? 'Bonus')}${sub}`,
      number,
      sub,
      kind,
      until: 0,
      start,
      from,
      to: text.length,
      value: '',
      sign,
    });
  }
  const last = out[out.length - 1];
  if (last) close(last, text, text.length);
  // "1. ______   2. ______": lines to sign or write on
  return out.some((e) => !/^[_.…\s]*$/.test(e.value)) ? out : [];
}
function close(e: ListEntry, text: string, end: number): void {
  const words = text.slice(e.from, end).replace(end < text.length ? /\s*(?:[,;|•·([]|\s[–—/-])?\s*$/u : /[\s|]+$/, '');
  e.to = e.from + words.length;
  e.value = words.trim();
}

/** What lines of a draft say, as far as somebody asks. */
export interface KnownTexts {
  has(words: string): boolean;
}

/** Whether a value, or what stands before a dash in it, is a line of the draft: an option's words. */
export function saysKnown(value: string, known: KnownTexts): boolean {
  if (value.length < 3 || value.length > 400) return false;
  if (known.has(plainOption(value))) return true;
  const cut = value.search(/\s[–—-]\s|[;:(]|\.\s/);
  return cut > 2 && known.has(plainOption(value.slice(0, cut)));
}

const FIRST_IS_KEY =
  /^[([]?[A-Ha-hА-Еа-е][)\].:]*(?:\s*(?:[,&+/]|and|und|y|et)\s*[([]?[A-Ha-h][)\].:]?)*\s*(?:[.):–—(=,-]|\s{2,}|→|because\b)|^(?:true|false|richtig|falsch|verdadero|falso|vrai|faux|vero|prawda|fałsz|[TFVR])\s*[-–—.,;:(=]/iu;
/** How much entries look like keys and not like questions: from −1 to 1.5 for each. */
export function keyness(entries: readonly ListEntry[], known?: KnownTexts): number {
  let sum = 0;
  for (const e of entries) {
    if (e.until) sum += 1.5;
    else if (known && saysKnown(e.value, known)) sum += 1.3;
    else if (keyValue(e.value)) sum += 1.2;
    else if (FIRST_IS_KEY.test(e.value)) sum += 1;
    else if (/[?？]\s*$/.test(e.value) || e.value.length > 90 || /_{3,}/.test(e.value)) sum -= 0.8;
    else sum += e.value.split(/\s+/).length <= 5 ? 0.4 : -0.1;
  }
  return sum;
}

const LETTER_ENTRY = /(?:^|(?<=[\s,;|]))\(?([A-Za-z])(?:\s?(?:[.):=]|[-–—]>?)\s*|\s+|(?=\d(?!\d)))(?=\S)/g;
/** Entries named by letters, for questions that are: "A: 3  B: 1  E: true". */
export function letterEntriesIn(text: string): ListEntry[] {
  const out: ListEntry[] = [];
  for (const m of matchesOf(LETTER_ENTRY, text.slice(0, LONGEST))) {
    const number = (m[1] ?? 'A').toUpperCase().charCodeAt(0) - 64;
    const last = out[out.length - 1];
    if (!last && text.slice(0, m.index).trim()) return [];
    if (last && number !== last.number + 1) continue;
    if (last) close(last, text, m.index);
    out.push({ label: m[1] ?? '', number, sub: '', kind: 'num', until: 0, start: m.index, from: m.index + m[0].length, to: text.length, value: '', sign: ':' });
  }
  const last = out[out.length - 1];
  if (last) close(last, text, text.length);
  return out;
}

const LETTER_ROW =
  /^(?:[A-Ha-hTFV]{3,}|[A-Ha-hА-Да-д](?:[\s,;./–-]+[A-Ha-hА-Да-д]){2,}|[TFVR](?:[\s,;./–-]+[TFVR]){2,}|[A-HTF]{2,}(?:\s+[A-HTF]{2,})*\s*)[.;]?$/u;

/** What stands behind the name of a group; looked for first, because the name could start anywhere. */
const GROUP_SIGN = /[A-HIVX\d]\s*[:–—.)-]\s*\(?\d/u;
const GROUPS = /(?:^\s*|(?<=[\s;|]))(?:([IVX]{1,4}|[A-H])\s?[.)]|(\p{L}{1,14}\.?\s*(?:[A-H]|\d{1,2}|[IVX]{1,4}))\s*[:–—-])\s*(?=\(?\d)/gu;
/** "Gr. A: 1a, 2b   Gr. B: 1c, 2a": the keys of several parts in one row, by the columns of each; empty where there are none or one. */
export function groupsIn(text: string): { heading: string; at: number; to: number }[] {
  if (text.length > 400 || !GROUP_SIGN.test(text)) return [];
  const out = matchesOf(GROUPS, text).map((m) => ({ heading: m[1] ?? m[2] ?? '', start: m.index, at: m.index + m[0].length, to: text.length }));
  out.forEach((g, i) => {
    g.to = g.at + text.slice(g.at, out[i + 1]?.start).replace(/[\s;|,]+$/, '').length;
  });
  const whole = out.length > 1 && !text.slice(0, out[0]?.start).trim() && out.every((g) => entriesIn(text.slice(g.at, g.to)).length > 0);
  return whole ? out.map(({ heading, at, to }) => ({ heading, at, to })) : [];
}

/** How many keys stand in a row without numbers: "B C A D", "TFTTF". */
export function lettersIn(t: string): number {
  const trimmed = t.trim();
  return LETTER_ROW.test(trimmed) ? trimmed.replace(/[\s,;./–-]/g, '').length : 0;
}
