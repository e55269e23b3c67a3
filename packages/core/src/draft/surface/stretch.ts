/** A stretch of a draft: text as people read it, that knows the place in the draft and the look of each of its letters. */
import { escapeXml, richFromPlain, sanitiseRich } from '../../item/richText.js';
import { matchesOf } from '../../language/matches.js';

/** How letters look, as bits of a run's `look`. */
export const STRONG = 1;
/** Italic. */
export const EMPHASIS = 2;
/** Marked with colour behind it. */
export const HIGHLIGHT = 4;
/** Underlined. */
export const UNDERLINE = 8;
/** Below the line. */
export const SUBSCRIPT = 16;
/** Above the line. */
export const SUPERSCRIPT = 32;
/** In the letters of code. */
export const CODE = 64;
/** Letters that stand for themselves (escaped, code, TeX): in `text` they are shifted out of reach of every pattern. */
export const LITERAL = 128;
/** A formula in TeX. */
export const TEX = 256;
/** Markup that goes into the rich text as it is. */
export const RAW = 512;
/** A line of a fenced block of code. */
export const FENCED = 1024;
/** Letters in a colour of their own. */
export const INK = 2048;

/** The looks that can say which option is the key, by the names that people give them. */
export const keyLooks = { bold: STRONG, highlight: HIGHLIGHT, colour: INK, underline: UNDERLINE, italic: EMPHASIS } as const;
/** A look of options that may say the keys. */
export type KeyLook = keyof typeof keyLooks;
/** The bits of all looks that may say keys. */
export const KEY_LOOKS = STRONG | HIGHLIGHT | UNDERLINE | INK | EMPHASIS;

const SHIFT = 0xea00;
/** A character out of reach of patterns; only ASCII can carry structure. */
export const shifted = (c: string): string => (c > ' ' && c <= '~' ? String.fromCharCode(c.charCodeAt(0) + SHIFT) : c);
/** Literal characters as themselves again. */
export const unshifted = (text: string): string => text.replace(/[\uea21-\uea7e]/g, (c) => String.fromCharCode(c.charCodeAt(0) - SHIFT));

/** Letters that stand together in the draft and look alike. */
export interface Run {
  /** Index in the stretch's text. */
  at: number;
  /** Offset in the draft, relative to what the reader calls the stretch's origin. */
  from: number;
  length: number;
  look: number;
}

/** How two stretches are joined: a wrapped line, a line of its own, a paragraph of its own. */
export type Joint = ' ' | '\n' | '\n\n';

/** Whether a word was parted at the end of a line: "sta-" and "tions"; not "Nord-" and "und Süd". */
const parted = (left: string, right: string): boolean =>
  /\p{L}{2}[-\u2010\u00ac]$/u.test(left.slice(-4)) &&
  /^\p{Ll}{2}/u.test(right) &&
  !/^(?:und|oder|and|or|et|ou|y|o|e|en|of|bzw|sowie|i|lub)(?!\p{L})/u.test(right);

/** A text whose letters know their place in the draft (UTF-16 offset) and their look (bits above). Never changed: every change gives a new one. */
export class Stretch {
  constructor(
    readonly text: string,
    readonly runs: readonly Run[],
  ) {}
  static readonly empty = new Stretch('', []);

  /** Several stretches as one; `joint` stands between two that both have text. */
  static join(parts: readonly Stretch[], joint: Joint | ((index: number) => Joint) = ' '): Stretch {
    const full = parts.length === 1 ? (parts[0] as Stretch) : undefined;
    if (full) return full;
    let text = '';
    const runs: Run[] = [];
    parts.forEach((p, i) => {
      if (!p.text) return;
      const between = typeof joint === 'string' ? joint : joint(i);
      if (text && between === ' ' && parted(text, p.text)) {
        // a word that the end of a line parted is one again
        text = text.slice(0, -1);
        const last = runs[runs.length - 1];
        if (last) last.length = Math.max(0, Math.min(last.length, text.length - last.at));
      } else if (text) text += between;
      for (const r of p.runs) runs.push({ ...r, at: r.at + text.length });
      text += p.text;
    });
    return new Stretch(text, runs);
  }

  /** The letters from one column to another. */
  slice(from: number, to = this.text.length): Stretch {
    if (from <= 0 && to >= this.text.length) return this;
    const start = Math.max(0, from);
    const runs: Run[] = [];
    for (const r of this.runs) {
      const a = Math.max(r.at, start);
      const b = Math.min(r.at + r.length, to);
      if (b > a) runs.push({ at: a - start, from: r.from + (a - r.at), length: b - a, look: r.look });
    }
    return new Stretch(this.text.slice(start, Math.max(start, to)), runs);
  }

  /** Without the characters from … to; what stood on both sides is joined by a blank. */
  without(from: number, to: number): Stretch {
    return Stretch.join([this.slice(0, from).trimmed(), this.slice(to).trimmed()]);
  }

  /** The parts between signs, trimmed; parts without words are left out. */
  split(sign: RegExp): Stretch[] {
    const out: Stretch[] = [];
    let from = 0;
    for (const m of matchesOf(sign, this.text)) {
      out.push(this.slice(from, m.index).trimmed());
      from = m.index + m[0].length;
    }
    out.push(this.slice(from).trimmed());
    return out.filter((p) => p.text);
  }

  /** Without white space at both ends. */
  trimmed(): Stretch {
    const lead = this.text.length - this.text.trimStart().length;
    return this.slice(lead, Math.max(lead, this.text.trimEnd().length));
  }

  /** The looks that all of its letters share; 0 where it has none. */
  get look(): number {
    let look = -1;
    let formulas = -1;
    for (const r of this.runs) {
      if (!/[^\s.:;,]/.test(this.text.slice(r.at, r.at + r.length))) continue;
      // a formula among words looks as it looks everywhere
      if (r.look & TEX) formulas &= r.look;
      else look &= r.look;
    }
    if (look === -1) look = formulas;
    return look === -1 ? 0 : look;
  }

  /** The words alone, blanks collapsed. */
  get plain(): string {
    if (this.known === undefined) {
      const words = this.runs.some((r) => r.look & TEX) ? this.withFormulas() : this.runs.some((r) => r.look & LITERAL) ? unshifted(this.text) : this.text;
      this.known = (/\s\s|[^\S ]/.test(words) ? words.replace(/\s+/g, ' ') : words).trim();
    }
    return this.known;
  }
  private known: string | undefined;
  private withFormulas(): string {
    let out = '';
    let at = 0;
    for (const r of this.runs) {
      const words = unshifted(this.text.slice(r.at, r.at + r.length));
      out += unshifted(this.text.slice(at, r.at)) + (r.look & TEX ? `\\(${words}\\)` : words);
      at = r.at + r.length;
    }
    return out + unshifted(this.text.slice(at));
  }

  /** As rich text: emphasis of a part, code, TeX and paragraphs are kept; emphasis of all of it is only layout and goes. */
  get rich(): string {
    const text = this.text;
    const special = this.runs.some((r) => r.look & ~LITERAL);
    if (!special && !text.includes('\n')) return richFromPlain(this.plain);
    const whole = this.look & KEY_LOOKS;
    const blocks: { code: boolean; html: string }[] = [];
    let open = { code: false, html: '' };
    let plain = '';
    let markup = false;
    const put = (raw: string, look: number): void => {
      const code = (look & FENCED) > 0;
      const pieces = code ? [raw] : raw.split('\n\n');
      pieces.forEach((piece, i) => {
        if (i > 0 || code !== open.code) {
          blocks.push(open);
          open = { code, html: '' };
        }
        const words = unshifted(piece);
        const html = dressed(words, look & ~whole, code);
        if (html !== escapeXml(look & TEX ? `\\(${words}\\)` : words)) markup = true;
        open.html += html;
      });
      plain += look & TEX ? `\\(${unshifted(raw)}\\)` : unshifted(raw);
    };
    let at = 0;
    for (const r of this.runs) {
      // a joint belongs to the code where code stands on both sides
      if (r.at > at) put(text.slice(at, r.at), open.code && r.look & FENCED ? FENCED : 0);
      put(text.slice(r.at, r.at + r.length), r.look);
      at = r.at + r.length;
    }
    if (at < text.length) put(text.slice(at), 0);
    blocks.push(open);
    const filled = blocks
      .map((b) => ({ ...b, html: b.code ? b.html.replace(/^\n|\s+$/g, '') : b.html.replace(/[^\S\n]+/g, ' ').trim() }))
      .filter((b) => b.html);
    if (filled.length > 1 || filled.some((b) => b.code)) {
      return sanitiseRich(
        filled
          .map((b) => (b.code ? `<pre><code>${b.html}</code></pre>` : /^<(?:table|ul|ol|pre|blockquote|p)\b/.test(b.html) ? b.html : `<p>${lines(b.html)}</p>`))
          .join(''),
      );
    }
    if (!markup)
      return richFromPlain(
        plain
          .replace(/[^\S\n]+/g, ' ')
          .replace(/ ?\n ?/g, '\n')
          .trim(),
      );
    return sanitiseRich(lines(filled[0]?.html ?? ''));
  }
}

const lines = (html: string): string => html.replace(/ ?\n ?/g, '<br/>');

const TAGS: readonly [number, string][] = [
  [STRONG, 'strong'],
  [HIGHLIGHT, 'strong'],
  [INK, 'strong'],
  [EMPHASIS, 'em'],
  [UNDERLINE, 'u'],
  [SUBSCRIPT, 'sub'],
  [SUPERSCRIPT, 'sup'],
  [CODE, 'code'],
];
function dressed(words: string, look: number, code: boolean): string {
  if (look & RAW) return words;
  if (look & TEX) return `\\(${escapeXml(words)}\\)`;
  let html = escapeXml(words);
  if (code || !words.trim()) return html;
  for (const [bit, tag] of TAGS) if (look & bit && !(tag === 'strong' && look & (bit - 1) & (STRONG | HIGHLIGHT))) html = `<${tag}>${html}</${tag}>`;
  return html;
}
