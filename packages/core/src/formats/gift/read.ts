/** Reads GIFT in one pass over the text. Takes what is found in the field; a question that cannot be read is reported and skipped. */
import { newId, stableId } from '../../item/ids.js';
import { defaultMatch, type Diagnostic, type Item, type Option, type ReadResult } from '../../item/model.js';
import { gapMarks } from '../../item/kinds.js';
import { isMarkup, richFromPlain, richToPlain, sanitiseRich } from '../../item/richText.js';
import { ReadError } from '../../item/readError.js';
import { parseNumber } from '../../mark/numbers.js';

interface Answer {
  /** '=' right, '~' wrong unless weighted. */
  sign: string;
  weight: number | null;
  text: string;
  feedback?: string;
}

const FORMAT = /^\s*\[(\w+)\]/;
/** The four format marks of GIFT; the last is spelt with a pattern. */
const FORMATS = { has: (s: string): boolean => /^(html|plain|markdown|mo+dle)$/.test(s) };
const unescapeGift = (s: string): string => s.replace(/\\n/g, '\n').replace(/\\([\\~=#{}:])/g, '$1');

/** Text of a GIFT field as rich text: its format mark decides whether it is HTML. */
function rich(raw: string, inherited?: string): string {
  const m = FORMAT.exec(raw);
  const known = m && FORMATS.has((m[1] ?? '').toLowerCase()) ? m : null;
  const text = unescapeGift(known ? raw.slice(known[0].length) : raw).trim();
  const format = known?.[1]?.toLowerCase() ?? inherited;
  if (format !== 'html') return richFromPlain(text);
  // HTML without a tag is text whose signs were written as entities
  return isMarkup(text) ? sanitiseRich(text) : richFromPlain(richToPlain(`<p>${text}</p>`));
}
const formatOf = (raw: string): string | undefined => FORMAT.exec(raw)?.[1]?.toLowerCase();

/** The place of `what` in a text where no backslash stands before it, from a place on; −1 where there is none. */
function findPlain(s: string, what: string, from = 0): number {
  for (let i = from; i < s.length; i++) {
    if (s[i] === '\\') i++;
    else if (s.startsWith(what, i)) return i;
  }
  return -1;
}

/** The answers inside braces, parted at unescaped `=` and `~`. */
function answersOf(body: string): Answer[] {
  const starts: number[] = [];
  for (let i = 0; i < body.length; i++) {
    if (body[i] === '\\') i++;
    else if (body[i] === '=' || body[i] === '~') starts.push(i);
  }
  return starts.map((at, n) => {
    let text = body.slice(at + 1, starts[n + 1] ?? body.length).trim();
    let weight: number | null = null;
    const w = /^%(-?[\d.,]+)%/.exec(text);
    if (w) {
      weight = Number(w[1]?.replace(',', '.')) / 100;
      text = text.slice(w[0].length).trim();
    }
    const hash = findPlain(text, '#');
    return {
      sign: body[at] ?? '~',
      weight,
      text: hash < 0 ? text : text.slice(0, hash).trim(),
      ...(hash >= 0 && text.slice(hash + 1).trim() && { feedback: rich(text.slice(hash + 1)) }),
    };
  });
}

function numberRange(raw: string): { min: number; max: number } | null {
  const text = unescapeGift(raw).trim();
  const range = text.split('..');
  if (range.length === 2) {
    const [a, b] = range.map((x) => parseNumber(x));
    return a == null || b == null ? null : { min: Math.min(a, b), max: Math.max(a, b) };
  }
  const [value, tolerance = '0'] = text.split(':');
  const v = parseNumber(value ?? '');
  const t = parseNumber(tolerance);
  return v === null || t === null ? null : { min: tidy(v - t), max: tidy(v + t) };
}
const tidy = (n: number): number => Number(n.toPrecision(12));

const closeTo = (a: number, b: number): boolean => Math.abs(a - b) < 1e-4;

/** Percentages that say "each key its share, each wrong option takes its share" are that rule and not single weights. */
function asResponse(answers: Answer[], options: Option[]): Pick<Extract<Item, { kind: 'multiple-response' }>, 'options' | 'scoring'> {
  const credits = answers.map((a) => a.weight ?? (a.sign === '=' ? 1 : 0));
  const keys = credits.filter((c) => c > 0).length;
  const others = credits.length - keys;
  const share = (c: number): boolean => (c > 0 ? closeTo(c, 1 / keys) : others > 0 && closeTo(c, -1 / others));
  if (keys > 0 && credits.every(share))
    return { scoring: 'right-minus-wrong', options: options.map((o, i) => ({ ...o, credit: (credits[i] ?? 0) > 0 ? 1 : 0 })) };
  return { scoring: 'weights', options: options.map((o, i) => ({ ...o, credit: Math.max(-1, Math.min(1, credits[i] ?? 0)) })) };
}

function itemOf(head: string, body: string | null, tail: string, id: string): Item {
  const format = formatOf(head);
  const missingWord = body !== null && tail.trim() !== '';
  const stem = rich(missingWord ? `${head}____${tail}` : head);
  const base = { id, stem, points: 1 };
  if (body === null) return { ...base, kind: 'information', points: 0 };
  const hashes = findPlain(body, '####');
  const general = hashes >= 0 ? rich(body.slice(hashes + 4)) : undefined;
  const inner = (hashes >= 0 ? body.slice(0, hashes) : body).trim();
  const common = { ...base, ...(general && { feedback: { general } }) };
  if (!inner) return { ...common, kind: 'essay' };
  const truth = /^(T|TRUE|F|FALSE)\s*(#|$)/i.exec(inner);
  if (truth) {
    const answer = /^t/i.test(inner);
    const [, wrong = '', right = ''] = splitPlain(inner, '#');
    const of = (t: boolean, text: string): object => (text.trim() ? { [String(t)]: rich(text) } : {});
    const optionFeedback = { ...of(!answer, wrong), ...of(answer, right) };
    return { ...common, kind: 'true-false', answer, ...(Object.keys(optionFeedback).length && { optionFeedback }) };
  }
  if (inner.startsWith('#')) {
    const rest = inner.slice(1).trim();
    const listed = /^[=~]/.test(rest) ? answersOf(rest) : answersOf(`=${rest}`);
    const answers = listed.flatMap((a) => {
      const r = numberRange(a.text);
      return r ? [{ ...r, credit: a.weight ?? (a.sign === '=' ? 1 : 0), ...(a.feedback && { feedback: a.feedback }) }] : [];
    });
    if (answers.length < listed.filter((a) => a.text).length) throw new ReadError('a numerical answer is no number');
    return { ...common, kind: 'numeric', answers };
  }
  const answers = answersOf(inner);
  if (!answers.length) throw new ReadError('the braces hold no answer that starts with = or ~');
  if (answers.every((a) => a.sign === '=' && findPlain(a.text, '->') >= 0)) {
    const sides = answers.map((a) => {
      const at = findPlain(a.text, '->');
      return { left: rich(a.text.slice(0, at)), right: rich(a.text.slice(at + 2)) };
    });
    return { ...common, kind: 'matching', pairs: sides.filter((s) => s.left), extraRights: sides.filter((s) => !s.left).map((s) => s.right) };
  }
  if (answers.every((a) => a.sign === '=') && !missingWord) {
    return {
      ...common,
      kind: 'short-answer',
      match: defaultMatch,
      answers: answers.map((a) => ({
        text: unescapeGift(a.text.replace(FORMAT, '')).trim(),
        credit: a.weight ?? 1,
        ...(a.feedback && { feedback: a.feedback }),
      })),
    };
  }
  if (answers.every((a) => a.sign === '=')) {
    const cloze = stem.replace('____', '[[1]]');
    return {
      ...common,
      stem: cloze,
      kind: 'cloze',
      gaps: [{ id: '1', kind: 'text', points: 1, answers: answers.map((a) => ({ text: unescapeGift(a.text).trim(), credit: a.weight ?? 1 })) }],
    };
  }
  const options = answers.map(
    (a, i): Option => ({
      id: stableId(`${id}/${i}`),
      content: rich(a.text, format),
      credit: a.weight ?? (a.sign === '=' ? 1 : 0),
      ...(a.feedback && { feedback: a.feedback }),
    }),
  );
  // No answer is simply right: the percentages share the credit out, even where there is one right answer only.
  const positive = answers.filter((a) => (a.weight ?? 0) > 0).length;
  const several = !answers.some((a) => a.sign === '=' && a.weight === null) && (positive > 1 || (positive === 1 && !answers.some((a) => a.sign === '=')));
  if (several) return { ...common, kind: 'multiple-response', ...asResponse(answers, options) };
  return { ...common, kind: 'multiple-choice', options };
}

function splitPlain(s: string, sign: string): string[] {
  const out: string[] = [];
  let from = 0;
  for (let at = findPlain(s, sign); at >= 0; at = findPlain(s, sign, from)) {
    out.push(s.slice(from, at));
    from = at + sign.length;
  }
  return [...out, s.slice(from)];
}

/** One question's text: from a blank line to the next, but blank lines inside braces do not end it. */
function* questions(text: string): Generator<{ from: number; text: string; comments: string[] }> {
  const lines = text.split('\n');
  let at = 0;
  let from = -1;
  let depth = 0;
  let current: string[] = [];
  let comments: string[] = [];
  for (const line of [...lines, '']) {
    const comment = depth === 0 && /^\s*\/\//.test(line);
    if (comment) comments.push(line.trim());
    else if (!line.trim() && depth === 0) {
      if (current.length) {
        yield { from, text: current.join('\n'), comments };
        comments = [];
        current = [];
      }
    } else if (!(depth > 0 && /^\s*\/\//.test(line))) {
      if (!current.length) from = at;
      current.push(line);
      for (let i = 0; i < line.length; i++) {
        if (line[i] === '\\') i++;
        else if (line[i] === '{') depth++;
        else if (line[i] === '}') depth = Math.max(0, depth - 1);
      }
    }
    at += line.length + 1;
  }
  if (current.length) yield { from, text: current.join('\n'), comments };
}

/**
 * Reads a GIFT file.
 * @throws ReadError where nothing in it looks like GIFT
 */
export function readGift(input: string): ReadResult {
  const text = input.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
  const items: Item[] = [];
  const diagnostics: Diagnostic[] = [];
  let tags: string[] = [];
  let line = 1;
  let counted = 0;
  for (const q of questions(text)) {
    for (; counted < q.from; counted++) if (text[counted] === '\n') line++;
    const category = /^\s*\$CATEGORY:\s*(.*)/i.exec(q.text);
    let rest = q.text;
    if (category) {
      tags = [(category[1] ?? '').trim().replace(/^\$\w+\$\//, '')].filter(Boolean);
      rest = q.text.slice(category[0].length).trim();
      if (!rest) continue;
    }
    try {
      const id = q.comments.map((c) => /\[id:([^\]]+)\]/.exec(c)?.[1]).find(Boolean) ?? newId();
      let title: string | undefined;
      const named = /^\s*::/.exec(rest);
      if (named) {
        const end = findPlain(rest, '::', named[0].length);
        if (end < 0) throw new ReadError('the title has no "::" at its end');
        title = unescapeGift(rest.slice(named[0].length, end)).trim();
        rest = rest.slice(end + 2);
      }
      const open = findPlain(rest, '{');
      const close = open < 0 ? -1 : closing(rest, open);
      if (open >= 0 && close < 0) throw new ReadError('a brace is opened and not closed');
      const item = open < 0 ? itemOf(rest, null, '', id) : itemOf(rest.slice(0, open), rest.slice(open + 1, close), rest.slice(close + 1), id);
      const ownTags = q.comments.flatMap((c) => Array.from(c.matchAll(/\[tag:([^\]]+)\]/g), (m) => m[1] ?? ''));
      const all = [...tags, ...ownTags];
      if (gapMarks(item.stem).length === 0 && item.kind === 'cloze') throw new ReadError('the blank has no place');
      items.push({ ...item, ...(title && { title }), ...(all.length && { tags: all }) });
    } catch (e) {
      if (!(e instanceof ReadError)) throw e;
      diagnostics.push({
        code: 'item-invalid',
        severity: 'error',
        from: q.from,
        to: q.from + q.text.length,
        line,
        column: 1,
        message: `Line ${line}: ${e.message}; the question was left out.`,
      });
    }
  }
  if (!items.length && !diagnostics.length) throw new ReadError('no question in this file');
  return { set: { title: 'GIFT questions', items }, diagnostics, asides: [] };
}

function closing(s: string, open: number): number {
  let depth = 0;
  for (let i = open; i < s.length; i++) {
    if (s[i] === '\\') i++;
    else if (s[i] === '{') depth++;
    else if (s[i] === '}' && --depth === 0) return i;
  }
  return -1;
}
