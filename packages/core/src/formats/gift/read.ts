/** Reads GIFT in one pass over the text. Takes what is found in the field; a question that cannot be read is reported and skipped. */
import { isHeld, minus, plus } from '../../language/decimal.js';
import { newId } from '../../item/ids.js';
import {
  defaultMatch,
  type Diagnostic,
  type Feedback,
  type Gap,
  type Item,
  type MatchRule,
  type NumberAnswer,
  type Option,
  type ReadResult,
  type Section,
  type TextAnswer,
} from '../../item/model.js';
import { keyProblem } from '../../item/kinds.js';
import { escapeXml, isMarkup, richFromPlain, richToPlain, sanitiseRich } from '../../item/richText.js';
import { ReadError } from '../../item/readError.js';
import { ruleFor, tidyRich } from '../../item/sameness.js';
import { byShares } from '../../item/scoring.js';
import { parseNumber } from '../../language/numbers.js';
import { bytesOf, Pictures } from '../pictures.js';
import { asGap } from '../blank.js';
import { FORMAT_MARK } from './formatMark.js';

const BACKSLASH = 92;
const EQUALS = 61;
const TILDE = 126;
const HASH = 35;
const COLON = 58;
const OPEN = 123;
const CLOSE = 125;

/** Whether the sign at a place stands for itself, because an odd number of backslashes is before it. */
function escaped(s: string, at: number, from: number): boolean {
  let n = 0;
  for (let i = at - 1; i >= from && s.charCodeAt(i) === BACKSLASH; i--) n++;
  return n % 2 === 1;
}
/** The place of `what`, not escaped, in s[from, to); −1 where there is none. */
function find(s: string, what: string, from: number, to: number): number {
  for (let at = s.indexOf(what, from); at >= 0 && at < to; at = s.indexOf(what, at + 1)) if (!escaped(s, at, from)) return at;
  return -1;
}
/** s[from, to) without white space around it: one string where a slice and a trim would make two. */
function cut(s: string, from: number, to: number): string {
  while (from < to && s.charCodeAt(from) <= 32) from++;
  while (to > from && s.charCodeAt(to - 1) <= 32) to--;
  return s.slice(from, to);
}
/** Takes escapes out from left to right: two backslashes and an n are a backslash and an n, one and an n a new line. */
const unescaping =
  (escapes: RegExp) =>
  (s: string): string =>
    s.includes('\\') ? s.replace(escapes, (_, c: string) => (c === 'n' ? '\n' : c)) : s;
const unescapeGift = unescaping(/\\([\\~=#{}:n])/g);
/** What is typed: there a star for itself may have a backslash in front. */
const unescapeTyped = unescaping(/\\([\\~=#{}:*n])/g);

interface Answer {
  /** Right by its sign; others earn what their weight says. */
  right: boolean;
  weight: number | null;
  /** As it stands in the file. */
  text: string;
  feedback: string;
}

/** What the comments in front of a question say of it: `[id:…]`, `[label:…]`, `[tag:…]`, a bracket inside kept by a backslash. */
function marksOf(comments: readonly string[]): { id?: string; label?: string; tags: string[] } {
  const out: { id?: string; label?: string; tags: string[] } = { tags: [] };
  for (const c of comments) {
    for (let at = c.indexOf('['); at >= 0; at = c.indexOf('[', at + 1)) {
      const colon = c.indexOf(':', at);
      if (colon < 0) break;
      const name = c.slice(at + 1, colon);
      if (name !== 'id' && name !== 'tag' && name !== 'label') continue;
      const end = find(c, ']', colon, c.length);
      if (end < 0) break;
      const raw = cut(c, colon + 1, end);
      const value = raw.includes('\\') ? raw.replace(/\\(.)/g, '$1') : raw;
      at = end;
      if (!value) continue;
      if (name === 'tag') out.tags.push(value);
      else out[name] ??= value.slice(0, 200);
    }
  }
  return out;
}

/** Reads the text of one file; `pictures` takes what stands in it as data. */
class GiftReader {
  readonly items: Item[] = [];
  readonly sections: Section[] = [];
  readonly diagnostics: Diagnostic[] = [];
  readonly pictures = new Pictures();
  private section: string | undefined;
  /** What is to be told of the question at hand, once it has its id. */
  private remarks: { code: string; message: string }[] = [];

  constructor(private readonly s: string) {}

  /** A field's text, without white space around it, as rich text. Its format mark decides whether it is HTML, else the question's. */
  private rich(raw: string, inherited?: string): string {
    let text = raw;
    let format = inherited;
    if (text.charCodeAt(0) === 91) {
      const m = /^\[(\w+)\]/.exec(text);
      const named = m?.[1]?.toLowerCase();
      if (m && named && /^(html|plain|markdown|mo+dle)$/.test(named)) {
        format = named;
        text = text.slice(m[0].length).trim();
      }
    }
    if (text.includes('\\')) text = unescapeGift(text).trim();
    if (format !== 'html') return text.includes('<') ? richFromPlain(text) : text;
    if (!text.includes('<') && !text.includes('&')) return text;
    // HTML without a tag is text whose signs were written as entities
    if (!isMarkup(text)) return richFromPlain(richToPlain(`<p>${text}</p>`));
    return tidyRich(this.withAssets(sanitiseRich(this.withoutStrays(text))));
  }
  /** Pictures that only a path or an address names are not in the file: their words stay, and it is told. */
  private withoutStrays(html: string): string {
    if (!/<img/i.test(html)) return html;
    return html.replace(/<img\b[^<>]*>/gi, (tag) => {
      const src = /\ssrc\s*=\s*["']?([^"'\s>]*)/i.exec(tag)?.[1] ?? '';
      if (/^(?:data|asset):/.test(src)) return tag;
      const name = src.slice(src.lastIndexOf('/') + 1);
      this.remarks.push({ code: 'picture-missing', message: `the picture ${src.slice(0, 100)} is not in the file.` });
      return escapeXml(/\salt\s*=\s*"([^"]*)"/i.exec(tag)?.[1]?.trim() || `[${name}]`);
    });
  }
  private withAssets(html: string): string {
    if (!html.includes('"data:')) return html;
    return html.replace(/src="data:image\/[a-z]+;base64,([A-Za-z0-9+/=]+)"/g, (whole, data: string) => {
      const src = this.pictures.add(bytesOf(data), 'picture');
      return src ? `src="${src}"` : whole;
    });
  }

  private tell(code: string, message: string, from: number, to: number, item?: string, severity: Diagnostic['severity'] = 'error'): void {
    let line = 1;
    for (let i = this.s.indexOf('\n'); i >= 0 && i < from; i = this.s.indexOf('\n', i + 1)) line++;
    this.diagnostics.push({ code, severity, from, to, line, column: 1, message: `Line ${line}: ${message}`, ...(item && { item }) });
  }

  // ── blocks ──

  /** Questions are parted by blank lines; blank lines inside braces part nothing. Lines that begin with // are comments. */
  read(): void {
    const { s } = this;
    let comments: string[] = [];
    let from = -1;
    let holes: [number, number][] = [];
    let depth = 0;
    let open = -1;
    let close = -1;
    let at = 0;
    const finish = (to: number): void => {
      if (from >= 0) {
        if (holes.length) {
          // comments between the lines of a question are taken out of it
          let text = '';
          let k = from;
          for (const [a, b] of holes) {
            text += s.slice(k, a);
            k = b;
          }
          text += s.slice(k, to);
          this.block(text, 0, text.length, -2, -1, comments, from, to);
        } else this.block(s, from, to, open, close, comments, from, to);
        comments = [];
        holes = [];
      }
      from = -1;
      depth = 0;
      open = -1;
      close = -1;
    };
    while (at < s.length) {
      let end = s.indexOf('\n', at);
      if (end < 0) end = s.length;
      let first = at;
      while (first < end && s.charCodeAt(first) <= 32) first++;
      if (first === end) {
        if (depth === 0) finish(at);
      } else if (s.charCodeAt(first) === 47 && s.charCodeAt(first + 1) === 47) {
        if (depth === 0) comments.push(s.slice(first, end));
        if (from >= 0) holes.push([at, end]);
      } else {
        if (from < 0) from = first;
        for (let i = first; i < end; i++) {
          const c = s.charCodeAt(i);
          if (c === BACKSLASH) i++;
          else if (c === OPEN) {
            if (open < 0) open = i;
            depth++;
          } else if (c === CLOSE && depth > 0 && --depth === 0 && close < 0) close = i;
        }
      }
      at = end + 1;
    }
    finish(s.length);
  }

  /** One block, s[start, end), with the places of its first brace and of the one that closes it; −2 where they are not known. */
  private block(s: string, start: number, end: number, open: number, close: number, comments: readonly string[], from: number, to: number): void {
    let next = this.question(s, start, end, open, close, comments, from, to);
    while (next >= 0) next = this.question(s, next, end, -2, -1, [], from, to);
  }

  /** The first question of a block; gives where a second one begins, −1 where there is none. */
  private question(s: string, start: number, end: number, open: number, close: number, comments: readonly string[], from: number, to: number): number {
    try {
      let at = start;
      let brace = open;
      let closed = close;
      if (s.charCodeAt(at) === 36) {
        const category = /^\$CATEGORY:[ \t]*(.*)/i.exec(s.slice(at, end));
        if (category) {
          this.category(category[1] ?? '');
          at += category[0].length;
          while (at < end && s.charCodeAt(at) <= 32) at++;
          if (at >= end) return -1;
          brace = -2;
        }
      }
      let title: string | undefined;
      if (s.charCodeAt(at) === COLON && s.charCodeAt(at + 1) === COLON) {
        const close_ = find(s, '::', at + 2, end);
        if (close_ < 0) throw new ReadError('the title has no "::" at its end');
        title = unescapeGift(cut(s, at + 2, close_)).trim();
        at = close_ + 2;
        if (brace < at) brace = -2;
      }
      if (brace === -2) {
        brace = find(s, '{', at, end);
        closed = brace < 0 ? -1 : closing(s, brace, end);
      }
      const marks = marksOf(comments);
      const next = closed > 0 ? find(s, '{', closed + 1, end) : -1;
      if (next >= 0) {
        const apart = this.secondQuestion(s, closed + 1, next);
        if (apart >= 0) {
          this.question(s, start, apart, open, close, comments, from, to);
          this.tell('no-blank-line', 'two questions stand without a blank line between them; they are read as two.', from, to, undefined, 'warning');
          return apart;
        }
      }
      this.remarks = [];
      const item =
        next >= 0
          ? this.several(s, at, end, marks.id ?? newId())
          : brace < 0
            ? this.information(cut(s, at, end), marks.id ?? newId())
            : this.answered(s, at, end, brace, closed, marks.id ?? newId());
      if (title) item.title = title;
      if (marks.label) item.label = marks.label;
      if (marks.tags.length) item.tags = marks.tags;
      if (this.section) item.section = this.section;
      this.items.push(item);
      for (const r of this.remarks) this.tell(r.code, r.message, from, to, item.id, 'warning');
      const none = keyProblem(item);
      if (none)
        this.tell(
          several(item) ? 'key-conflict' : none.code,
          several(item) ? 'two answers are marked as right where one may be chosen.' : `the question has ${none.message}.`,
          from,
          to,
          item.id,
        );
    } catch (e) {
      if (!(e instanceof ReadError)) throw e;
      this.tell('item-invalid', `${e.message}; the question was left out.`, from, to);
    }
    return -1;
  }

  /** Where a second question begins between a closed brace and the next open one: on a line of its own; −1 where it is the same question. */
  private secondQuestion(s: string, from: number, next: number): number {
    const line = s.indexOf('\n', from);
    if (line < 0 || line > next) return -1;
    const titled = s.startsWith('::', line + 1 + (/^[ \t]*/.exec(s.slice(line + 1, next))?.[0].length ?? 0));
    return titled || !s.slice(from, line).trim() ? line + 1 : -1;
  }

  /** Several answers in braces within one question: GIFT has one, but people write gaps so. */
  private several(s: string, from: number, to: number, id: string): Item {
    const gaps: Gap[] = [];
    let text = '';
    let general = '';
    let at = from;
    for (let open = find(s, '{', at, to); open >= 0; open = find(s, '{', at, to)) {
      const close = closing(s, open, to);
      if (close < 0) throw new ReadError('a brace is opened and not closed');
      const one = this.answered(s, open, close + 1, open, close, String(gaps.length + 1));
      text += `${s.slice(at, open)}\uE000`;
      at = close + 1;
      general ||= one.feedback?.general ?? '';
      const gap = { id: String(gaps.length + 1), points: 1 };
      if (one.kind === 'short-answer') gaps.push({ ...gap, kind: 'text', answers: one.answers, match: one.match });
      else if (one.kind === 'numeric') gaps.push({ ...gap, kind: 'number', answers: one.answers });
      else if (one.kind === 'multiple-choice') gaps.push({ ...gap, kind: 'choice', options: one.options });
      else throw new ReadError('it has several answers in braces, and not all of them can stand in a gap');
    }
    let n = 0;
    const stem = this.rich(cut(`${text}${s.slice(at, to)}`, 0, text.length + to - at)).replace(/\uE000/g, () => `[[${++n}]]`);
    this.remarks.push({ code: 'gaps-guessed', message: `${gaps.length} answers stand in braces where GIFT has one; they are read as gaps.` });
    return { id, stem, points: gaps.length, kind: 'cloze', gaps, ...(general && { feedback: { general } }) };
  }

  /** A category is a folder of a bank; its items stand together as a part. The folders at the top that every export names are none. */
  private category(raw: string): void {
    const title = unescapeGift(raw)
      .trim()
      .replace(/^\$\w+\$\/?/, '')
      .replace(/^top(\/|$)/, '')
      .trim();
    if (!title) this.section = undefined;
    else {
      this.section = `s${this.sections.length + 1}`;
      this.sections.push({ id: this.section, title });
    }
  }

  // ── one question ──

  private information(text: string, id: string): Item {
    const stem = this.rich(text);
    if (!stem) throw new ReadError('there is nothing but a title');
    return { id, stem, points: 0, kind: 'information' };
  }

  private answered(s: string, from: number, to: number, open: number, close: number, id: string): Item {
    if (close < 0) throw new ReadError('a brace is opened and not closed');
    const head = cut(s, from, open);
    const tail = cut(s, close + 1, to);
    const missing = tail !== '';
    const hashes = find(s, '####', open + 1, close);
    const inner = cut(s, open + 1, hashes < 0 ? close : hashes);
    const format = head.charCodeAt(0) === 91 && /^\[html\]/i.test(head) ? 'html' : undefined;
    const general = hashes < 0 ? '' : this.rich(cut(s, hashes + 4, close), format);
    // a word is missing where text goes on behind the braces
    const stem = this.rich(missing ? `${s.slice(from, open).trimStart()}\uE000${s.slice(close + 1, to).trimEnd()}` : head);
    const asked = (blank: string): string => (missing ? stem.replace('\uE000', blank) : stem);
    const base: { id: string; stem: string; points: number; feedback?: Feedback } = { id, stem: missing ? '' : stem, points: 1 };
    if (general) base.feedback = { general };
    if (!inner) return { ...base, stem: asked('____'), kind: 'essay' };
    if (inner.charCodeAt(0) === HASH) {
      const { answers, otherwise } = this.numbers(cut(inner, 1, inner.length), format);
      if (otherwise) base.feedback = { ...base.feedback, incorrect: otherwise };
      if (answers.some((a) => !isHeld(a.text ?? ''))) {
        const texts = answers.map(({ text, min, credit, feedback }): TextAnswer => ({ text: text ?? String(min), credit, ...(feedback && { feedback }) }));
        this.remarks.push({ code: 'number-as-text', message: 'the number has more figures than can be compared as a number; it is compared as text.' });
        return missing
          ? { ...base, stem: asked('[[1]]'), kind: 'cloze', gaps: [{ id: '1', kind: 'text', points: 1, answers: texts }] }
          : asGap({ ...base, kind: 'short-answer', answers: texts, match: STRICT });
      }
      const plain = answers.map(({ text: _text, ...a }) => a);
      if (missing) return { ...base, stem: asked('[[1]]'), kind: 'cloze', gaps: [{ id: '1', kind: 'number', points: 1, answers: plain }] };
      return asGap({ ...base, kind: 'numeric', answers: plain });
    }
    const first_ = inner.charCodeAt(0) | 32;
    const truth = (first_ === 116 || first_ === 102) && /^(T|TRUE|F|FALSE)\s*(#|$)/i.test(inner);
    if (truth) {
      const answer = /^t/i.test(inner);
      const first = find(inner, '#', 0, inner.length);
      const second = first < 0 ? -1 : find(inner, '#', first + 1, inner.length);
      const wrong = first < 0 ? '' : this.rich(cut(inner, first + 1, second < 0 ? inner.length : second), format);
      const right = second < 0 ? '' : this.rich(cut(inner, second + 1, inner.length), format);
      const optionFeedback = {
        ...(answer ? right && { true: right } : wrong && { true: wrong }),
        ...(answer ? wrong && { false: wrong } : right && { false: right }),
      };
      return { ...base, stem: asked('____'), kind: 'true-false', answer, ...(Object.keys(optionFeedback).length && { optionFeedback }) };
    }
    // "{four}": one answer needs no sign
    const found = answersOf(inner);
    const answers = found.length || /[~=]/.test(inner.replace(/\\./g, '')) ? found : answersOf(`=${inner}`);
    if (!answers.length) throw new ReadError('the braces hold no answer that starts with = or ~');
    const allRight = answers.every((a) => a.right);
    if (allRight && answers.every((a) => find(a.text, '->', 0, a.text.length) >= 0)) {
      const sides = answers.map((a) => {
        const at = find(a.text, '->', 0, a.text.length);
        return { left: this.rich(cut(a.text, 0, at), format), right: this.rich(cut(a.text, at + 2, a.text.length)) };
      });
      return {
        ...base,
        stem: asked('____'),
        kind: 'matching',
        pairs: sides.filter((p) => p.left),
        extraRights: sides.filter((p) => !p.left).map((p) => p.right),
      };
    }
    if (allRight) {
      const texts = answers.flatMap((a): TextAnswer[] => {
        const feedback = a.feedback ? this.rich(a.feedback, format) : '';
        const credit = a.weight ?? 1;
        const text = this.withoutStars(a.text.replace(FORMAT_MARK, ''), credit);
        if (text === null && credit === 0 && feedback) base.feedback = { ...base.feedback, incorrect: feedback };
        return text === null ? [] : [{ text, credit, ...(feedback && { feedback }) }];
      });
      const match = ruleFor(STRICT, texts);
      if (missing) {
        const usual = match.numbersAsValues && match.anyOrder;
        return { ...base, stem: asked('[[1]]'), kind: 'cloze', gaps: [{ id: '1', kind: 'text', points: 1, answers: texts, ...(!usual && { match }) }] };
      }
      return asGap({ ...base, kind: 'short-answer', answers: texts, match });
    }
    const options: Option[] = [];
    let simply = false;
    let earns = false;
    for (let i = 0; i < answers.length; i++) {
      const a = answers[i] as Answer;
      const option: Option = {
        id: OPTION_IDS[i] ?? `o${i + 1}`,
        content: this.rich(a.text, format),
        credit: a.weight === null ? (a.right ? 1 : 0) : clamp(a.weight),
      };
      if (a.feedback) option.feedback = this.rich(a.feedback, format);
      simply ||= a.right;
      earns ||= option.credit > 0;
      options.push(option);
    }
    // No answer is simply right: the percentages share the credit out, even where there is one right answer only.
    if (!simply && earns) return { ...base, stem: asked('____'), kind: 'multiple-response', ...byShares(options) };
    const { feedback } = base;
    return feedback
      ? { id, kind: 'multiple-choice', stem: asked('____'), points: 1, feedback, options }
      : { id, kind: 'multiple-choice', stem: asked('____'), points: 1, options };
  }

  /** A typed answer; a star for itself stands for any letters in several importers, which no rule here says. Null where nothing is left. */
  private withoutStars(raw: string, credit: number): string | null {
    if (find(raw, '*', 0, raw.length) < 0) return unescapeTyped(raw).trim();
    const text = unescapeTyped(raw.replace(/\\.|\*/gs, (c) => (c === '*' ? '' : c))).trim();
    if (text || credit > 0)
      this.remarks.push({
        code: 'answer-pattern',
        message: text
          ? `“${raw.slice(0, 60)}” takes any answer with “${text.slice(0, 60)}” in it; here only “${text.slice(0, 60)}” itself is right.`
          : `“${raw.slice(0, 60)}” takes any answer; that is left out, nothing typed can be held against it.`,
      });
    return text || null;
  }

  /** The accepted numbers with how each is written, and what all others are told. */
  private numbers(text: string, format: string | undefined): { answers: NumberAnswer[]; otherwise: string } {
    const c = text.charCodeAt(0);
    const listed = c === EQUALS || c === TILDE ? answersOf(text) : answersOf(`=${text}`);
    const answers: NumberAnswer[] = [];
    let otherwise = '';
    for (const a of listed) {
      const feedback = a.feedback ? this.rich(a.feedback, format) : '';
      const credit = clamp(a.weight ?? (a.right ? 1 : 0));
      if (!a.text || a.text === '*') {
        if (credit > 0 && a.text) this.remarks.push({ code: 'answer-pattern', message: `any number earns ${credit * 100} % in the file; that is left out.` });
        otherwise ||= feedback;
        continue;
      }
      const range = numberRange(a.text);
      if (!range) throw new ReadError(`“${a.text.slice(0, 40)}” is no number`);
      answers.push({ ...range, credit, ...(feedback && { feedback }), ...(!isHeld(unescapeGift(a.text).replace(/:0*$/, '')) && { text: a.text }) });
    }
    if (!answers.length) throw new ReadError('there is no number behind #');
    return { answers, otherwise };
  }
}

const OPTION_IDS = Array.from({ length: 26 }, (_, i) => `o${i + 1}`);
/** GIFT compares typed answers letter by letter; only capitals do not count. */
const STRICT: MatchRule = { ...defaultMatch, numbersAsValues: false, anyOrder: false };
const clamp = (n: number): number => Math.max(-1, Math.min(1, n));
const several = (item: Item): boolean => item.kind === 'multiple-choice' && item.options.filter((o) => o.credit >= 1).length > 1;

/** The brace that closes the one at `open`; −1 where none does. */
function closing(s: string, open: number, to: number): number {
  let depth = 0;
  for (let i = open; i < to; i++) {
    const c = s.charCodeAt(i);
    if (c === BACKSLASH) i++;
    else if (c === OPEN) depth++;
    else if (c === CLOSE && --depth === 0) return i;
  }
  return -1;
}

/** The answers inside braces, parted at unescaped `=` and `~`; within each, feedback behind the first unescaped `#`. */
function answersOf(body: string): Answer[] {
  const out: Answer[] = [];
  let from = -1;
  let hash = -1;
  let right = false;
  for (let i = 0; i <= body.length; i++) {
    const c = i < body.length ? body.charCodeAt(i) : TILDE;
    if (c === BACKSLASH) i++;
    else if (c === EQUALS || c === TILDE) {
      if (from >= 0) {
        const end = Math.min(i, body.length);
        let text = cut(body, from, hash < 0 ? end : hash);
        let weight: number | null = null;
        if (text.charCodeAt(0) === 37) {
          const w = /^%(-?[\d.,]+)%/.exec(text);
          const n = w ? Number(w[1]?.replace(',', '.')) : Number.NaN;
          if (w && Number.isFinite(n)) {
            weight = n / 100;
            text = text.slice(w[0].length).trim();
          }
        }
        out.push({ right, weight, text, feedback: hash < 0 ? '' : cut(body, hash + 1, end) });
      }
      from = i + 1;
      hash = -1;
      right = c === EQUALS;
    } else if (c === HASH && hash < 0) hash = i;
  }
  return out;
}

function numberRange(raw: string): { min: number; max: number } | null {
  const text = unescapeGift(raw).trim();
  const dots = text.indexOf('..');
  if (dots > 0) {
    const a = parseNumber(text.slice(0, dots));
    const b = parseNumber(text.slice(dots + 2));
    return a === null || b === null ? null : { min: Math.min(a, b), max: Math.max(a, b) };
  }
  const colon = text.indexOf(':');
  const v = parseNumber(colon < 0 ? text : text.slice(0, colon));
  const t = colon < 0 ? 0 : parseNumber(text.slice(colon + 1));
  return v === null || t === null ? null : { min: minus(v, Math.abs(t)), max: plus(v, Math.abs(t)) };
}

/**
 * Reads a GIFT file.
 * @throws ReadError where nothing in it looks like GIFT
 */
export function readGift(input: string): ReadResult {
  const text = input.charCodeAt(0) === 0xfeff ? input.slice(1) : input;
  const clean = text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;
  const reader = new GiftReader(clean);
  reader.read();
  const { items, sections, diagnostics, pictures } = reader;
  if (!items.length && !diagnostics.length) throw new ReadError('no question in this file');
  // parts without an item are folders that hold only folders
  const used = new Set(items.map((i) => i.section));
  const kept = sections.filter((x) => used.has(x.id));
  const ids = new Set<string>();
  for (const i of items) {
    if (ids.has(i.id)) i.id = newId();
    ids.add(i.id);
  }
  return {
    set: { title: 'GIFT questions', items, ...(kept.length && { sections: kept }), ...(Object.keys(pictures.assets).length && { assets: pictures.assets }) },
    diagnostics,
    asides: [],
  };
}
