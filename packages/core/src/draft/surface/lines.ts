/** The draft as lines. What can be told of a line by its text alone is told once and kept for every further reading. */
import { lookUp } from '../../language/lookUp.js';
import { withSigns } from '../../language/symbols.js';
import { CODE, EMPHASIS, FENCED, HIGHLIGHT, INK, LITERAL, RAW, STRONG, SUBSCRIPT, SUPERSCRIPT, shifted, Stretch, TEX, UNDERLINE, type Run } from './stretch.js';

/** A line's own text: no invisible characters, no emphasis marks, plain blanks. Offsets count from the line's start. */
export interface LineText {
  text: string;
  runs: readonly Run[];
  /** Depth of a markdown heading, 0 for none. */
  heading: number;
  indent: number;
  /** Stands behind `>`. */
  quoted: boolean;
  /** All of its words are bold. */
  bold: boolean;
  /** A name and a time stand in front of it. */
  coated?: true;
  /** Its first word is bold. */
  boldStart: boolean;
  /** Holds characters that nobody sees: soft hyphens, zero-width and bidi marks. */
  invisible: boolean;
  blank: boolean;
  /** All looks that any of its letters has. */
  looks: number;
  /** Opens (1) or closes (−1) an answer that is folded away, or both (2). */
  fold: -1 | 0 | 1 | 2;
  /** What patterns found in it; see `memoised`. */
  memoised: unknown[];
  /** Tells the text from every other one that was seen. */
  id: number;
}

/** A line in its place: characters `from` … `to` of the draft, without the line break. */
export class Line {
  constructor(
    readonly own: LineText,
    readonly index: number,
    readonly from: number,
    readonly to: number,
  ) {}
  get text(): string {
    return this.own.text;
  }
  get heading(): number {
    return this.own.heading;
  }
  get indent(): number {
    return this.own.indent;
  }
  get bold(): boolean {
    return this.own.bold;
  }
  get blank(): boolean {
    return this.own.blank;
  }
}

/** A question about a line's text alone; its answers are kept with the line. */
export interface Finder<T> {
  (text: string): T;
  /** Where its answers are kept. */
  slot?: number;
}
let slots = 0;
const NOTHING = Symbol('nothing');

/** What a pattern finds in a line; found once for all readings, because it depends on the line's text alone. */
export function memoised<T>(line: Line, find: Finder<T>): T {
  find.slot ??= slots++;
  const known = line.own.memoised;
  const before = known[find.slot];
  if (before !== undefined) return (before === NOTHING ? undefined : before) as T;
  const found = find(line.own.text);
  known[find.slot] = found === undefined ? NOTHING : found;
  return found;
}

// Soft hyphen, zero-width and bidi marks, byte-order mark, variation selectors.
const INVISIBLE = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff]|\ufe0f/;
const BLANKS = /[\u00a0\u2000-\u200a\u202f\u205f\u3000]/;
const SPECIAL = /\|\||[*_`<\\&$\u00ad\u00a0\u2000-\u200f\u202a-\u202f\u205f-\u2060\u2066-\u2069\u3000\ufeff]|\ufe0f|[ \t]{31}|^\s{0,3}[#>]/;
/** Runs of blanks beyond this say no more, and would make patterns slow that look for a run's end. */
const LONGEST_BLANK = 30;

/** Lines with more characters are not searched for marks. */
export const LONGEST_MARKED = 20_000;

let ids = 0;

/** Which of some places that rise is the last one up to another, found by halving; the first where all lie behind it. */
export function lastUpTo(count: number, placeOf: (i: number) => number, most: number): number {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (placeOf(mid) <= most) low = mid;
    else high = mid - 1;
  }
  return low;
}

/** How many characters two texts share from their start (or from their end), found by halving. */
export function shared(a: string, b: string, most: number, end: boolean): number {
  let low = 0;
  let high = most;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    const same = end ? a.slice(a.length - mid, a.length - low) === b.slice(b.length - mid, b.length - low) : a.slice(low, mid) === b.slice(low, mid);
    if (same) low = mid;
    else high = mid - 1;
  }
  return low;
}

/**
 * Parts a draft into lines. Line breaks are LF or CRLF. Lines in front of and behind the place where an earlier text
 * differs keep what was told of them.
 */
export function splitLines(draft: string, before?: { draft: string; lines: readonly Line[] }): Line[] {
  const lines: Line[] = [];
  const shortest = Math.min(draft.length, before?.draft.length ?? 0);
  const head = before ? shared(before.draft, draft, shortest, false) : 0;
  const tail = before ? shared(before.draft, draft, shortest - head, true) : 0;
  const coat = coatOf(draft);
  const same = before !== undefined && coatOf(before.draft)?.source === coat?.source;
  const peeled = (raw: string): number => (coat ? (coat.exec(raw.slice(0, 120))?.[0].length ?? 0) : 0);
  for (const l of same ? (before?.lines ?? []) : []) {
    if (l.to + 2 > head) break;
    lines.push(l);
  }
  const last = lines[lines.length - 1];
  let from = last ? draft.indexOf('\n', last.to) + 1 : 0;
  // old lines that lie in the shared end as a whole, with the line break in front of them
  const shift = draft.length - (before?.draft.length ?? 0);
  let next = before ? before.lines.length : 0;
  while (before && next > lines.length && (before.lines[next - 1]?.from ?? 0) > before.draft.length - tail) next--;
  for (let index = lines.length; from <= draft.length; index++) {
    while (before && same && next < before.lines.length && (before.lines[next]?.from ?? 0) + shift < from) next++;
    const old = same ? before?.lines[next] : undefined;
    if (old && old.from + shift === from) {
      for (let k = next; k < (before?.lines.length ?? 0); k++, index++) {
        const l = before?.lines[k] as Line;
        lines.push(shift === 0 && l.index === index ? l : new Line(l.own, index, l.from + shift, l.to + shift));
      }
      return lines;
    }
    let end = draft.indexOf('\n', from);
    if (end < 0) end = draft.length;
    const to = end > from && draft[end - 1] === '\r' ? end - 1 : end;
    const raw = draft.slice(from, to);
    lines.push(new Line(lineText(raw, peeled(raw)), index, from, to));
    from = end + 1;
  }
  return lines;
}

/** Names and times that a copied conversation puts in front of its lines, as people's programs write them. From memory. */
const COATS: readonly RegExp[] = [
  /^\s*\[\d{1,2}[:.]\d{2}(?:[:.]\d{2})?(?:\s?[ap]\.?m\.?)?(?:,?\s*\d{1,4}[./-]\d{1,2}[./-]\d{2,4})?\]\s*[\p{L}][\p{L} .'’-]{0,24}:\s?/iu,
  /^\s*\[?\d{1,4}[./-]\d{1,2}[./-]\d{2,4},?\s+\d{1,2}[:.]\d{2}(?:[:.]\d{2})?(?:\s?[ap]\.?m\.?)?\]?\s*[-–]?\s*[\p{L}][\p{L} .'’-]{0,24}:\s?/iu,
  /^\s*\d{1,2}[:.]\d{2}(?:[:.]\d{2})?(?:\s?[ap]\.?m\.?)?\s*[-–]?\s+[\p{L}][\p{L} .'’-]{0,24}:\s?/iu,
  /^\s*[\p{L}][\p{L} .'’-]{0,24}\s*[([]\d{1,2}[:.]\d{2}(?:[:.]\d{2})?(?:\s?[ap]\.?m\.?)?[)\]]\s*:?\s*/iu,
];
/** What stands in front of the lines of a draft, where at least three of its first hundred and a fifth of them have it. */
function coatOf(draft: string): RegExp | null {
  const head = draft
    .slice(0, 20_000)
    .split('\n', 120)
    .filter((l) => l.trim());
  if (!/\d[:.]\d{2}/.test(draft.slice(0, 20_000))) return null;
  return (
    COATS.find((c) => {
      const n = head.filter((l) => c.test(l.slice(0, 120))).length;
      return n >= 3 && n >= head.length * 0.2;
    }) ?? null
  );
}

const indentOf = (text: string): number => /^\s*/.exec(text)?.[0].replace(/\t/g, '    ').length ?? 0;

/** What a line says by itself. */
export function lineText(copied: string, coat = 0): LineText {
  const written = withSigns(copied);
  // a backslash at the end is a line break that markdown did not get to show
  const tail = written.endsWith('\\') || /\\\s+$/.test(written) ? /\\+(\s*)$/.exec(written) : null;
  const raw =
    tail && (tail[0].length - (tail[1]?.length ?? 0)) % 2 === 1 ? written.slice(0, tail.index + tail[0].length - (tail[1]?.length ?? 0) - 1) : written;
  if (coat > 0) {
    // what stands in front of the words of every line is none of them
    const inner = lineText(raw.slice(coat));
    return { ...inner, runs: inner.runs.map((r) => ({ ...r, from: r.from + coat })), memoised: [], id: ids++, coated: true };
  }
  if (!SPECIAL.test(raw)) {
    const runs = raw ? [{ at: 0, from: 0, length: raw.length, look: 0 }] : [];
    return {
      text: raw,
      runs,
      heading: 0,
      indent: indentOf(raw),
      quoted: false,
      bold: false,
      boldStart: false,
      invisible: false,
      blank: !raw.trim(),
      looks: 0,
      fold: 0,
      memoised: [],
      id: ids++,
    };
  }
  const quote = /^\s{0,3}(?:>\s?)+/.exec(raw)?.[0] ?? '';
  const head = /^\s{0,3}(#{1,6})\s+(?=\S)/.exec(raw.slice(quote.length));
  const { text, runs } = scan(raw, quote.length + (head?.[0].length ?? 0));
  const whole = new Stretch(text, runs);
  return {
    text,
    runs,
    heading: head?.[1]?.length ?? 0,
    indent: indentOf(text),
    quoted: quote.length > 0,
    bold: text.trim() !== '' && (whole.look & STRONG) > 0,
    boldStart: ((runs.find((r) => text.slice(r.at, r.at + r.length).trim())?.look ?? 0) & STRONG) > 0,
    invisible: INVISIBLE.test(raw),
    blank: !text.trim(),
    looks: runs.reduce((all, r) => all | r.look, 0),
    fold: /<details[\s>]/i.test(raw) ? (/<\/details>/i.test(raw) ? 2 : 1) : /<\/details>/i.test(raw) ? -1 : 0,
    memoised: [],
    id: ids++,
  };
}

/** A mark in a line: it turns a look on or off, or stands around what is taken as it is. */
export interface Toggle {
  length: number;
  look: number;
  on: boolean;
}

/** Signs that join or part letters within a word; they belong to the spelling of scripts that join their letters. */
const JOINER = /[\u200c\u200d]/;
const JOINED =
  /^[\p{Script=Arabic}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Tamil}\p{Script=Telugu}\p{Script=Kannada}\p{Script=Malayalam}\p{Script=Sinhala}\p{M}].[\p{L}\p{M}]$/u;
/** Takes marks of emphasis and invisible characters out, keeping place and look of what stays. */
function scan(raw: string, start: number): { text: string; runs: Run[] } {
  // in a line without end nobody marked anything; a picture inside makes a line long, and is none of its words
  const words = raw.length > LONGEST_MARKED ? raw.replace(/<img\s[^<>]*\/>/g, '').length : raw.length;
  const marks = words > LONGEST_MARKED ? new Map<number, Toggle>() : emphasisMarks(raw, start);
  let text = '';
  const runs: Run[] = [];
  let look = 0;
  let blanks = 0;
  const put = (c: string, from: number, own: number): void => {
    const last = runs[runs.length - 1];
    if (last && last.from + last.length === from && last.look === own && last.at + last.length === text.length) last.length += c.length;
    else runs.push({ at: text.length, from, length: c.length, look: own });
    text += c;
  };
  for (let i = start; i < raw.length; ) {
    const mark = marks.get(i);
    if (mark) {
      if (mark.look & (TEX | RAW)) {
        const [open, close] = mark.look & TEX ? texSides(raw, i, mark.length) : [0, 0];
        for (let k = i + open; k < i + mark.length - close; k++) put(shifted(raw[k] ?? ''), k, mark.look | LITERAL);
      } else if (mark.look === (CODE | LITERAL)) {
        for (let k = i + 1; k < i + mark.length - 1; k++) put(shifted(raw[k] ?? ''), k, look | CODE | LITERAL);
      } else if (mark.look === LITERAL) {
        put(shifted(raw[i + 1] ?? ''), i + 1, look | LITERAL);
      } else look = mark.on ? look | mark.look : look & ~mark.look;
      i += mark.length;
      continue;
    }
    const c = raw[i] ?? '';
    if (c === '\u00ad' && i === raw.length - 1) {
      // it parts a word at the end of the line, and is to be seen there
      put('-', i, look);
      i++;
      continue;
    }
    if (INVISIBLE.test(c) && !(JOINER.test(c) && JOINED.test(raw.slice(i - 1, i + 2)))) {
      i++;
      continue;
    }
    if (c === '&') {
      const entity = /^&(?:(lt|gt|amp|quot|apos|nbsp)|#(\d{2,6}));/.exec(raw.slice(i, i + 10));
      if (entity) {
        const said = entity[1] ? (ENTITIES[entity[1]] ?? '') : String.fromCodePoint(Math.min(0x10ffff, Number(entity[2])));
        if (said.length === 1 && !INVISIBLE.test(said)) {
          put(said === '\u00a0' ? ' ' : shifted(said), i, look | LITERAL);
          i += entity[0].length;
          continue;
        }
      }
    }
    const blank = c === ' ' || c === '\t' || BLANKS.test(c);
    blanks = blank ? blanks + 1 : 0;
    if (blanks <= LONGEST_BLANK) put(blank && c !== '\t' ? ' ' : c, i, look);
    i++;
  }
  return { text, runs };
}
const ENTITIES: Record<string, string> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'", nbsp: '\u00a0' };

/** Length of the delimiters of a formula: `$…$`, `$$…$$` or `\(…\)`. */
const texSides = (raw: string, at: number, length: number): [number, number] => {
  const side = raw[at] === '\\' || raw.startsWith('$$', at) ? 2 : 1;
  return [side, Math.min(side, length - side)];
};

const TAG = /<(\/?)(b|strong|i|em|u|ins|sub|sup|mark|ink|code)\s*>/iy;
const TAG_LOOKS: Record<string, number> = {
  b: STRONG,
  strong: STRONG,
  i: EMPHASIS,
  em: EMPHASIS,
  u: UNDERLINE,
  ins: UNDERLINE,
  sub: SUBSCRIPT,
  sup: SUPERSCRIPT,
  mark: HIGHLIGHT,
  ink: INK,
  code: CODE,
};
/** Elements that have no lighter form in a draft; read only where they are closed on the same line. */
const BLOCK = /<(p|ul|ol|table|blockquote|pre|math|a|span)(?:\s[^<>]*)?>/iy;
const PICTURE = /<(?:img\s[^<>]*\/|br\s*\/?)>/iy;
/** Answers folded away; the words on the fold ("Show answer") are only a label. */
const FOLD = /<\/?details(?:\s[^<>]*)?>|<summary(?:\s[^<>]*)?>[^<]*<\/summary>|<\/?summary(?:\s[^<>]*)?>/iy;
const TEX_INNER = /[\\^_=+{}<>|]|^\d{0,3}[A-Za-z]\w{0,2}$|^-?\d{1,4}$/;

/** The places of a line's marks: emphasis in stars or low lines, code, formulas, tags, escapes. */
export function emphasisMarks(raw: string, start: number): Map<number, Toggle> {
  const out = new Map<number, Toggle>();
  // a sign that does not come again is looked for once
  const gone = new Set<string>();
  const after = (sign: string, from: number): number => {
    if (gone.has(sign)) return -1;
    const at = raw.indexOf(sign, from);
    if (at < 0) gone.add(sign);
    return at;
  };
  const bars = raw.includes('||') && !/^\s*\|/.test(raw) && raw.split('||').length === 3;
  const stars: { at: number; length: number; opens: boolean; closes: boolean }[] = [];
  const tags: { at: number; length: number; look: number; closes: boolean }[] = [];
  for (let i = start; i < raw.length; ) {
    const c = raw[i];
    const next = raw[i + 1] ?? '';
    if (c === '\\') {
      const close = next === '(' ? after('\\)', i + 2) : next === '[' ? after('\\]', i + 2) : -1;
      if (close > 0) {
        out.set(i, { length: close + 2 - i, look: TEX, on: true });
        i = close + 2;
        continue;
      }
      if (/[!-/:-@[-`{-~0-9]/.test(next)) {
        out.set(i, { length: 2, look: LITERAL, on: true });
        i += 2;
        continue;
      }
    } else if (c === '`') {
      const close = after('`', i + 1);
      if (close > i + 1 && next !== '`') {
        out.set(i, { length: close + 1 - i, look: CODE | LITERAL, on: true });
        i = close + 1;
        continue;
      }
    } else if (c === '$') {
      const side = next === '$' ? 2 : 1;
      const close = after(side === 2 ? '$$' : '$', i + side);
      const inner = close > 0 ? raw.slice(i + side, close) : '';
      if (inner && inner.length < 400 && inner.trim() === inner && TEX_INNER.test(inner) && !/\d/.test(raw[close + side] ?? '') && raw[i - 1] !== '\\') {
        out.set(i, { length: close + side - i, look: TEX, on: true });
        i = close + side;
        continue;
      }
    } else if (c === '<') {
      TAG.lastIndex = i;
      const tag = TAG.exec(raw);
      if (tag) {
        const name = (tag[2] ?? '').toLowerCase();
        tags.push({ at: i, length: tag[0].length, look: lookUp(TAG_LOOKS, name) ?? 0, closes: tag[1] === '/' });
        i += tag[0].length;
        continue;
      }
      FOLD.lastIndex = i;
      const fold = FOLD.exec(raw);
      if (fold) {
        out.set(i, { length: fold[0].length, look: 0, on: true });
        i += fold[0].length;
        continue;
      }
      PICTURE.lastIndex = i;
      BLOCK.lastIndex = i;
      const whole = PICTURE.exec(raw)?.[0].length ?? blockLength(raw, i, BLOCK.exec(raw));
      if (whole && whole < raw.trim().length - start + 1) {
        out.set(i, { length: whole, look: RAW, on: true });
        i += whole;
        continue;
      }
    } else if (c === '|' && next === '|' && bars) {
      // bars that hide a word until it is touched
      out.set(i, { length: 2, look: 0, on: true });
      i += 2;
      continue;
    } else if (c === '*' || c === '_') {
      let length = 1;
      while (raw[i + length] === c) length++;
      const before = raw[i - 1] ?? ' ';
      const after = raw[i + length] ?? ' ';
      const wordBefore = /[\p{L}\p{N}]/u.test(before);
      const wordAfter = /[\p{L}\p{N}]/u.test(after);
      const opens = !/\s/.test(after) && (c === '*' ? !wordBefore || length > 1 : !wordBefore);
      const closes = !/\s/.test(before) && i > start && (c === '*' ? !wordAfter || length > 1 : !wordAfter);
      if (length <= 3 && (c === '*' || length <= 2)) stars.push({ at: i, length, opens, closes });
      i += length;
      continue;
    }
    i++;
  }
  pairTags(tags, out);
  pairStars(raw, stars, out);
  return out;
}

/** Length of an element that closes on its line, from its opening tag on; 0 where it does not. */
function blockLength(raw: string, at: number, open: RegExpExecArray | null): number {
  if (!open) return 0;
  const close = raw.indexOf(`</${open[1] ?? ''}>`, at);
  return close > at + open[0].length ? close + (open[1]?.length ?? 0) + 3 - at : 0;
}

function pairTags(tags: readonly { at: number; length: number; look: number; closes: boolean }[], out: Map<number, Toggle>): void {
  const open: { at: number; length: number; look: number }[] = [];
  for (const t of tags) {
    if (!t.closes) {
      open.push(t);
      continue;
    }
    const i = open.map((o) => o.look).lastIndexOf(t.look);
    const o = open[i];
    if (!o) continue;
    open.splice(i);
    out.set(o.at, { length: o.length, look: t.look, on: true });
    out.set(t.at, { length: t.length, look: t.look, on: false });
  }
}

/** Pairs stars and low lines as CommonMark does, in its simplest form: the nearest opener of the same sign and length. */
function pairStars(raw: string, stars: readonly { at: number; length: number; opens: boolean; closes: boolean }[], out: Map<number, Toggle>): void {
  const open: { at: number; length: number }[] = [];
  for (const s of stars) {
    const i = s.closes ? open.findLastIndex((o) => raw[o.at] === raw[s.at] && o.length === s.length) : -1;
    const o = open[i];
    if (o && s.at > o.at + o.length) {
      open.splice(i);
      const look = s.length === 1 ? EMPHASIS : s.length === 2 ? STRONG : STRONG | EMPHASIS;
      out.set(o.at, { length: o.length, look, on: true });
      out.set(s.at, { length: s.length, look, on: false });
    } else if (s.opens) open.push(s);
  }
}

/** Where something is said about a line: from its first character that is not blank to its end, or over `most` characters. Line and column count from 1. */
export function spotOf(line: Line, most = Number.POSITIVE_INFINITY): { from: number; to: number; line: number; column: number } {
  const indent = line.text.length - line.text.trimStart().length;
  const from = line.from + indent;
  return { from, to: Math.min(line.to, from + most), line: line.index + 1, column: indent + 1 };
}

/** A part of a line, offsets counted from `origin`. */
export function stretchOf(line: Line, from: number, to: number, origin: number): Stretch {
  const shift = line.from - origin;
  const runs = line.own.runs.map((r) => ({ ...r, from: r.from + shift }));
  return new Stretch(line.text, runs).slice(from, to);
}

/** A line of fenced code: every character stands for itself. */
export function codeOf(draft: string, line: Line, origin: number): Stretch {
  const raw = draft.slice(line.from, line.to);
  const text = Array.from({ length: raw.length }, (_, i) => shifted(raw[i] ?? '')).join('');
  return new Stretch(text, [{ at: 0, from: line.from - origin, length: raw.length, look: FENCED | LITERAL }]);
}

/** The place in the draft of a column of a line's text. */
export function placeOf(line: Line, column: number): number {
  for (const r of line.own.runs) if (column < r.at + r.length) return line.from + r.from + Math.max(0, column - r.at);
  const last = line.own.runs[line.own.runs.length - 1];
  return last ? line.from + last.from + last.length : line.from;
}
