/**
 * The texts that a pattern of `patternMatch` takes, where they are few: alternatives, optional signs, small classes, groups, small counts
 * (XML Schema Part 2, appendix F: regular expressions, which match the whole text).
 */

/** Most texts that a pattern is written out to. */
const MOST = 50;

class TooMany extends Error {}

class Expander {
  private at = 0;
  constructor(private readonly pattern: string) {}

  all(): string[] {
    const texts = this.alternatives();
    if (this.at < this.pattern.length) throw new TooMany();
    return [...new Set(texts)];
  }

  private alternatives(): string[] {
    let out = this.sequence();
    while (this.pattern[this.at] === '|') {
      this.at++;
      out = this.few([...out, ...this.sequence()]);
    }
    return out;
  }

  private sequence(): string[] {
    let out = [''];
    while (this.at < this.pattern.length && !'|)'.includes(this.pattern[this.at] ?? '')) {
      const pieces = this.counted(this.atom());
      out = this.few(out.flatMap((o) => pieces.map((p) => o + p)));
    }
    return out;
  }

  private atom(): string[] {
    const c = this.pattern[this.at++] ?? '';
    if (c === '(') {
      if (this.pattern.startsWith('?:', this.at)) this.at += 2;
      const inside = this.alternatives();
      if (this.pattern[this.at++] !== ')') throw new TooMany();
      return inside;
    }
    if (c === '[') return this.oneOf();
    if (c === '\\') {
      const next = this.pattern[this.at++] ?? '';
      // \d, \w, \p{…} stand for many
      if (/[A-Za-z]/.test(next) || !next) throw new TooMany();
      return [next];
    }
    // anchors have no meaning of their own there, but people write them
    if ((c === '^' && this.at === 1) || (c === '$' && this.at === this.pattern.length)) return [''];
    if ('.*+?{}^$'.includes(c)) throw new TooMany();
    return [c];
  }

  private oneOf(): string[] {
    const end = this.pattern.indexOf(']', this.at);
    const body = this.pattern.slice(this.at, end);
    if (end < 0 || !body || /^\^|[\\-]/.test(body)) throw new TooMany();
    this.at = end + 1;
    return this.few([...body]);
  }

  private counted(pieces: string[]): string[] {
    if (this.pattern[this.at] === '?') {
      this.at++;
      return ['', ...pieces];
    }
    const m = /^\{(\d)(?:,(\d))?\}/.exec(this.pattern.slice(this.at, this.at + 5));
    if (!m) return pieces;
    this.at += m[0].length;
    let out: string[] = [];
    let now = [''];
    for (let n = 0; n <= Number(m[2] ?? m[1]); n++) {
      if (n >= Number(m[1])) out = this.few([...out, ...now]);
      now = this.few(now.flatMap((o) => pieces.map((p) => o + p)));
    }
    return out;
  }

  private few(list: string[]): string[] {
    if (list.length > MOST) throw new TooMany();
    return list;
  }
}

/** The texts that a pattern takes; null where they are more than fifty, or written by means that are not read here. */
export function textsOfPattern(pattern: string): string[] | null {
  if (pattern.length > 1000) return null;
  try {
    return new Expander(pattern).all().filter(Boolean);
  } catch (e) {
    if (e instanceof TooMany) return null;
    throw e;
  }
}
