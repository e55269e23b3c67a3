/** Options that stand in one line: chains of labels of one form, columns parted by wide space, boxes side by side, words between strokes. */
import { LETTERS, letterPlaces, romanValue } from '../../language/labels.js';
import { matchesOf } from '../../language/matches.js';

/** An option among others on one line: its label, its columns, and whether a mark says that it is a key. */
export interface Segment {
  label: string;
  /** Its place in the series, from 1; 0 where it has none. */
  ord: number;
  sig: string;
  /** Columns of the label's start, of the words, and of their end. */
  start: number;
  from: number;
  to: number;
  marked: boolean;
  star: boolean;
  box: boolean;
  /** What is said of it behind it: columns. */
  note?: [number, number];
}
/** Several options on one line, with labels of one sort. */
export interface InlineRun {
  sig: string;
  segments: readonly Segment[];
  /** Words stand in front of the first. */
  lead: boolean;
  /** Only wide space parts them. */
  wide: boolean;
}

const FIND = new RegExp(
  `(?:^|(?<=[\\s;,|/•·]))((?:[([]\\s*[xX✓✔*]?\\s*[)\\]]|[☐☑☒○●◯✓✔✅*+])\\s*)?(?:\\(\\s?(الف|[${LETTERS}]|\\d{1,2}|[ivx]{1,4})\\s?\\)|\\[([A-Wa-w])\\]|(الف|[${LETTERS}]|\\d{1,2}|[ivx]{2,4}|[IVX]{2,4})(\\s?\\)|\\.\\)?(?=\\s|\\p{L})|[、．][\\s]?|\\s[:：](?=\\s)|[:：=](?=\\s|\\p{L})|\\s?[-–](?=\\s)|/(?=\\s)|(?=\\s\\s|\\t))|([A-HА-Д])(?=\\s\\S)|([①-⑳ⓐ-ⓩⒶ-Ⓩ]))\\s*(?=\\S)`,
  'gu',
);
const LONGEST = 4000;
const BLANK_NEXT = /^\s*(?:_{2,}|\.{5,}|…{2,})/;
/** Whether a mark between two options belongs to the one before: it stands nearer to its words, or no mark opens the line. */
function markBehind(text: string, at: number, mark: string): boolean {
  if (at === 0 || !/^[✓✔✅*+]/u.test(mark)) return false;
  const left = /\s*$/.exec(text.slice(0, at))?.[0].length ?? 0;
  const right = /\s*$/.exec(mark)?.[0].length ?? 0;
  if (!text.slice(0, at).trim()) return false;
  return left < right || (left === right && !/^\s*[✓✔✅*+]/u.test(text));
}
const classOf = (c: string): string =>
  /\d/.test(c) ? 'num' : c === c.toUpperCase() && c !== c.toLowerCase() ? 'up' : c === c.toLowerCase() && c !== c.toUpperCase() ? 'low' : 'other';

interface Found {
  label: string;
  ord: number;
  sig: string;
  start: number;
  at: number;
  wide: boolean;
  marked: boolean;
  box: boolean;
}

/** All chains of option labels in a line. */
export function inlineRuns(text: string): InlineRun[] {
  if (text.length > LONGEST || text.length < 4) return [];
  const out: InlineRun[] = [];
  const byForm = new Map<string, Found[]>();
  let count = 0;
  for (const m of matchesOf(FIND, text)) {
    const letter = m[2] ?? m[3] ?? m[4] ?? m[6] ?? m[7] ?? '';
    const sign = m[2]
      ? '()'
      : m[3]
        ? '[]'
        : m[6]
          ? 'loose'
          : m[7]
            ? '○'
            : m[5] === '' || m[5] === undefined
              ? 'wide'
              : /^\s?[-–]$/.test(m[5])
                ? '-'
                : m[5] === '.)'
                  ? '.'
                  : m[5];
    // a mark behind the words of the option before is not in front of this label
    const behind = m[1] ? markBehind(text, m.index, m[1]) : false;
    const start = behind ? m.index + (m[1]?.length ?? 0) : m.index;
    const before = text.slice(0, start);
    const wide = start === 0 || /(?:\s{2,}|\t\s*|[;|/•·]\s*)$/.test(before) || !before.trim();
    const listed = sign === '-' && /,\s*$/.test(before);
    if (!listed && (sign === 'wide' || sign === '-' || sign.trim() === ':' || sign === '=' || sign === '/' || sign === 'loose') && !wide) continue;
    if (++count > 200) break;
    const put = (ord: number, cls: string, row = ''): void => {
      if (ord < 1 || ord > 12) return;
      const sig = `${cls}${sign === 'wide' || sign === 'loose' ? ' ' : /[、．]/.test(sign) ? '.' : sign.trim()}${row}`;
      const list = byForm.get(sig) ?? [];
      byForm.set(sig, list);
      list.push({
        label: sign === '○' && cls === 'num' ? String(ord) : letter,
        ord,
        sig,
        start,
        at: m.index + m[0].length,
        wide,
        marked: !behind && /[xX✓✔✅*+☑☒●]/u.test(m[1] ?? ''),
        box: !behind && Boolean(m[1]) && !/^[*+]/.test(m[1] ?? ''),
      });
    };
    if (sign === '○') put(circled(letter), 'num');
    else if (/^\d/.test(letter)) put(Number(letter), 'num');
    else if (letter === 'الف') put(1, 'other');
    else if (letter.length === 1) letterPlaces(letter).forEach((place, i) => put(place + 1, classOf(letter), "'".repeat(i)));
    if (/^[ivx]+$/.test(letter)) put(romanValue(letter.toUpperCase()), 'roml');
    else if (/^[IVX]{2,}$/.test(letter) || (/^[IVX]$/.test(letter) && wide)) put(romanValue(letter), 'rom');
  }
  mixCases(byForm, text);
  for (const [sig, list] of byForm) {
    // "(1) ____ and water, (2) ____": numbers of blanks
    if (list.length > 1 && list.every((c) => BLANK_NEXT.test(text.slice(c.at, c.at + 8)))) continue;
    const chain = follow(list);
    const [first] = chain;
    if (!first) continue;
    const allWide = chain.slice(1).every((c) => c.wide);
    if (chain.length < 2 && !(first.start > 0 && (first.wide || /^(?:up|low)(?:\(\)|\))$/.test(sig)))) continue;
    if (sig.startsWith('num') && !allWide && (chain.length < 3 || first.ord !== 1)) continue;
    out.push({
      sig,
      lead: text.slice(0, first.start).trim() !== '',
      wide: allWide,
      segments: chain.map((c, i) => {
        const to = chain[i + 1]?.start ?? text.length;
        const parted = i > 0 && /;\s*$/.test(text.slice(chain[i - 1]?.at, c.start));
        // a full stop behind the last of "a) rye; b) oats." ends the row, not the words
        const words = text.slice(c.at, to).replace(i + 1 < chain.length ? /[\s;,|/•·]+$/u : parted ? /(?<=[^.])\.\s*$|\s+$/ : /\s+$/, '');
        return { label: c.label, ord: c.ord, sig, start: c.start, from: c.at, to: c.at + words.length, marked: c.marked, star: false, box: c.box };
      }),
    });
  }
  const glued = out.some((r) => r.segments.length > 2) ? null : gluedIn(text);
  if (glued) out.push(glued);
  const boxes = boxesIn(text);
  if (boxes) out.push(boxes);
  return out;
}
/** "A) dill   b) mint   C) thyme": a slip of the shift key parts no row. */
function mixCases(byForm: Map<string, Found[]>, text: string): void {
  for (const [sig, upper] of byForm) {
    if (!sig.startsWith('up')) continue;
    const other = `low${sig.slice(2)}`;
    const lower = byForm.get(other);
    if (!lower) continue;
    const all = [...upper, ...lower].sort((a, b) => a.start - b.start);
    const chain = follow(all);
    const [first, second, more] = chain;
    // "c. 100 °C      D. 120 °C": half a row, whose letters are in either case
    if (first && second && !more && second.wide && second.ord === first.ord + 1 && first.sig !== second.sig && !text.slice(0, first.start).trim()) {
      for (const form of [sig, other])
        byForm.set(
          form,
          chain.map((c) => ({ ...c, sig: form })),
        );
      continue;
    }
    const whole = chain.length > 2 && chain.every((c, i) => c.ord === i + 1);
    if (!whole || chain.length <= Math.max(follow(upper).length, follow(lower).length)) continue;
    const [keep, drop] = upper.length >= lower.length ? [sig, other] : [other, sig];
    byForm.set(
      keep,
      chain.map((c) => ({ ...c, sig: keep })),
    );
    byForm.delete(drop);
  }
}
/** "A) 5 by 5B) 6 by 4C) 8 by 3": labels that lost the blank in front of them. */
function gluedIn(text: string): InlineRun | null {
  const first = /^\s*(?:[aA])[).]\s?(?=\S)/.exec(text);
  if (!first) return null;
  const lower = /a/.test(first[0]);
  const sign = first[0].includes(')') ? ')' : '.';
  const starts = [first[0].search(/a/i)];
  for (let ord = 2; ord <= 8; ord++) {
    const at = text.indexOf(String.fromCharCode((lower ? 96 : 64) + ord) + sign, (starts[starts.length - 1] ?? 0) + 2);
    if (at < 0) break;
    starts.push(at);
  }
  if (starts.length < 3) return null;
  const sig = `${lower ? 'low' : 'up'}${sign}`;
  return {
    sig,
    lead: false,
    wide: false,
    segments: starts.map((start, i) => {
      const from = start + 2 + (/^\s*/.exec(text.slice(start + 2))?.[0].length ?? 0);
      const to = text.slice(0, starts[i + 1] ?? text.length).trimEnd().length;
      return { label: text[start] ?? '', ord: i + 1, sig, start, from, to: Math.max(from, to), marked: false, star: false, box: false };
    }),
  };
}
const circled = (c: string): number => {
  const code = c.codePointAt(0) ?? 0;
  return code >= 0x2460 && code <= 0x2473
    ? code - 0x245f
    : code >= 0x24d0 && code <= 0x24e9
      ? code - 0x24cf
      : code >= 0x24b6 && code <= 0x24cf
        ? code - 0x24b5
        : 0;
};

/** Labels that go up by one, or jump where wide space parts columns. */
function follow(list: readonly Found[]): Found[] {
  let chain: Found[] = [];
  for (const c of list) {
    const last = chain[chain.length - 1];
    if (!last) chain = [c];
    else if (c.ord === last.ord + 1 || (c.ord > last.ord && c.wide && c.ord <= last.ord + 6)) chain.push(c);
    else if (chain.length === 1 && c.ord === 1 && !(last.start === 0 && last.ord === 1)) chain = [c];
  }
  return chain;
}

/** A box or ring: the sign that fills a bracket, or one that is drawn full. */
const BOX = String.raw`(?:[([]\s{0,3}([xX✓✔*•●]?)\s{0,3}[)\]]|[☐□○◯⬜]|([☑☒●◉■]))\ufe0f?\s*`;
const BOXES = new RegExp(`(?:^|(?<=\\s))${BOX}(?=[\\p{L}\\d“"])`, 'gu');
const BOX_BEHIND = new RegExp(BOX, 'gu');
/** Letters as rings to tick: "o Fett   o Salz". */
const RINGS = /(?:^\s*|\s{2,})[oO]\s{1,3}(?=[\p{L}\d“"])/gu;
/** Boxes side by side, each with where it starts and where its words are. Where all are filled none is marked. */
function boxRun(
  found: readonly RegExpMatchArray[],
  lead: boolean,
  at: (m: RegExpMatchArray, i: number) => [start: number, from: number, to: number],
): InlineRun {
  const filled = found.filter((m) => m[1] || m[2]);
  const segments = found.map((m, i): Segment => {
    const [start, from, to] = at(m, i);
    return { label: '', ord: 0, sig: 'box', start, from, to, marked: filled.includes(m) && filled.length < found.length, star: false, box: true };
  });
  return { sig: 'box', lead, wide: true, segments };
}
/** "1 ( )  2 ( )  3 (x)", "rye [ ]  oats [x]": boxes with words in front of them, the last at the end of the line. */
function boxesBehind(text: string): InlineRun | null {
  if (text.length > 200 || !/[)\]☐□○◯⬜☑☒●◉■]\s*$/u.test(text)) return null;
  const found = matchesOf(BOX_BEHIND, text);
  const words = found.map((m, i): [number, number] => {
    const before = found[i - 1];
    const from = before ? before.index + before[0].length : text.length - text.trimStart().length;
    return [from, from + text.slice(from, m.index).trimEnd().length];
  });
  const last = found.at(-1);
  const brief = words.every(([a, b]) => b > a && b - a <= 20 && /[\p{L}\p{N}]/u.test(text.slice(a, b)) && !/[?:]/.test(text.slice(a, b)));
  if (found.length < 3 || !last || last.index + last[0].length < text.length || !brief) return null;
  return boxRun(found, false, (_, i) => {
    const [from, to] = words[i] as [number, number];
    return [from, from, to];
  });
}
/** "[x] True  [ ] False": boxes with words behind them. */
function boxesIn(text: string): InlineRun | null {
  if (!/[[(☐□○◯⬜☑☒●◉■]|(?:^|\s)[oO]\s/u.test(text)) return null;
  const behind = boxesBehind(text);
  if (behind) return behind;
  const rings = matchesOf(RINGS, text);
  const found = rings.length >= 2 && rings[0] && !text.slice(0, rings[0].index).trim() ? rings : matchesOf(BOXES, text);
  if (found.length < 2 || found.some((m) => /^\(?[A-Za-z\d]\s?[.)]/.test(text.slice(m.index + m[0].length)))) return null;
  return boxRun(found, text.slice(0, found[0]?.index).trim() !== '', (m, i) => {
    const from = (m.index ?? 0) + m[0].length;
    const words = text.slice(from, found[i + 1]?.index ?? text.length).replace(/[\s|/,;]+$/, '');
    return [m.index ?? 0, from, from + words.length];
  });
}
