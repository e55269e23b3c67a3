/** The draft as lines: each with its place, its text without invisible characters and emphasis marks, and what the marks said. */

export interface Line {
  index: number;
  /** Characters of the draft, without the line break. */
  from: number;
  to: number;
  /** As people read it: no invisible characters, no markdown emphasis, plain blanks. */
  text: string;
  /** Place in the draft of each character of `text`; absent where nothing was taken out. */
  map?: number[];
  /** All of the text is bold. */
  bold: boolean;
  /** Depth of a markdown heading, 0 for none. */
  heading: number;
  indent: number;
}

// Soft hyphen, zero-width and bidi marks, byte-order mark, variation selectors.
const INVISIBLE = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff]|\ufe0f/;
const EMPHASIS = /\*\*|__(?=\S)|(?<=\S)__/;

/** The place in the draft of a column of a line's text. */
export const placeOf = (line: Line, column: number): number =>
  line.map ? (column < line.map.length ? (line.map[column] ?? line.to) : (line.map[line.map.length - 1] ?? line.from - 1) + 1) : line.from + column;

/** Takes characters out of a line's text while keeping their places; `drop(i)` gives how many go at a column. */
function without(text: string, map: number[] | undefined, from: number, drop: (s: string, i: number) => number): { text: string; map: number[] } {
  let out = '';
  const places: number[] = [];
  for (let i = 0; i < text.length; ) {
    const n = drop(text, i);
    if (n) {
      i += n;
      continue;
    }
    out += text[i];
    places.push(map ? (map[i] ?? from) : from + i);
    i++;
  }
  return { text: out, map: places };
}

/** Columns of paired `**` marks; single ones stay what they are (a key mark, a product sign). */
function emphasisAt(text: string): Set<number> {
  const at: number[] = [];
  for (let i = text.indexOf('**'); i >= 0; i = text.indexOf('**', i + 2)) at.push(i);
  return new Set(at.slice(0, at.length - (at.length % 2)));
}

const SPACES = /[\u00a0\u2000-\u200a\u202f\u205f\u3000]/;
const SPACES_ALL = new RegExp(SPACES, 'g');
const LONG_RUN = /[ \t]{31}/;

export function splitLines(draft: string): Line[] {
  const lines: Line[] = [];
  let from = 0;
  for (let index = 0; from <= draft.length; index++) {
    let end = draft.indexOf('\n', from);
    if (end < 0) end = draft.length;
    const to = end > from && draft[end - 1] === '\r' ? end - 1 : end;
    lines.push(lineOf(draft.slice(from, to), index, from, to));
    from = end + 1;
  }
  return lines;
}

function lineOf(raw: string, index: number, from: number, to: number): Line {
  let text = raw;
  let map: number[] | undefined;
  if (INVISIBLE.test(text)) ({ text, map } = without(text, map, from, (s, i) => (INVISIBLE.test(s[i] ?? '') ? 1 : 0)));
  if (SPACES.test(text)) text = text.replace(SPACES_ALL, ' ');
  // Very long runs of blanks say no more than long ones, and would make patterns slow that look for a run's end.
  if (LONG_RUN.test(text)) {
    let run = 0;
    ({ text, map } = without(text, map, from, (s, i) => {
      run = s[i] === ' ' || s[i] === '\t' ? run + 1 : 0;
      return run > 30 ? 1 : 0;
    }));
  }
  let heading = 0;
  const head = /^\s{0,3}(#{1,6})\s+(?=\S)/.exec(text);
  if (head) {
    heading = head[1]?.length ?? 0;
    ({ text, map } = without(text, map, from, (_, i) => (i === 0 ? head[0].length : 0)));
  }
  const quote = /^\s{0,3}(?:>\s?)+/.exec(text);
  if (quote) ({ text, map } = without(text, map, from, (_, i) => (i === 0 ? quote[0].length : 0)));
  let bold = false;
  if (EMPHASIS.test(text) && text.includes('**')) {
    const trimmed = text.trim();
    bold = /^\*\*[^*]+\*\*[.:]?$/.test(trimmed);
    const marks = emphasisAt(text);
    ({ text, map } = without(text, map, from, (_, i) => (marks.has(i) ? 2 : 0)));
  }
  // A whole line in single marks: *Explanation: …* or _…_
  const italic = /^(\s*)([*_])(?![\s*_])(.*[^\s*_])\2\s*$/.exec(text);
  if (italic && !(italic[3] ?? '').includes(italic[2] ?? '*')) {
    const first = (italic[1] ?? '').length;
    const last = text.trimEnd().length - 1;
    ({ text, map } = without(text, map, from, (_, i) => (i === first || i === last ? 1 : 0)));
  }
  return { index, from, to, text, ...(map && { map }), bold, heading, indent: /^\s*/.exec(text)?.[0].replace(/\t/g, '    ').length ?? 0 };
}
