/** What a whole draft does: how it numbers, labels options, repeats headers. The evidence for reading one line is weighed over all of them. */
import { kindIn, partLine } from './headings.js';
import { decimal, lettered, letterPlace, loosely, numbered, romanNumbered, type NumberLabel } from './labels.js';
import { keyLine } from './keys.js';
import { told, type Line } from './lines.js';
import { pointsEach } from './points.js';
import { CONTINUED, PAGE_TAIL } from './words.js';

export interface Habits {
  /** Forms of numbers that start anew under question after question: they label options. */
  optionForms: ReadonlySet<string>;
  /** Questions are numbered "1  Why …", without a sign behind. */
  bareNumbers: boolean;
  /** Questions are numbered 1.1, 1.2, 2.1. */
  decimals: boolean;
  /** Questions and answers take turns: "Q: …", "A: …". */
  talk: boolean;
  /** Questions are numbered I, II, III. */
  roman: boolean;
  /** Form of the capital letters that label questions over numbered options; empty where options have the letters. */
  letterQuestions: string;
  /** Parts are headed A, B, C. */
  letterParts: boolean;
  /** Questions have numbers at all. */
  numbered: boolean;
  /** Headings that are printed again on later pages. */
  repeated: ReadonlySet<string>;
}

/** A heading as it is compared with its repetition: without page number, "continued" and what stands far to the right. */
export const headingKey = (text: string): string =>
  text
    .replace(PAGE_TAIL, '')
    .replace(CONTINUED, '')
    .replace(/(?:\s{3,}|\t).*$/, '')
    .trim()
    .toLowerCase();

interface Form {
  count: number;
  ones: number;
  max: number;
  /** Lines that stand right under the number before them. */
  tight: number;
  /** Runs that stand under a question labelled otherwise. */
  under: number;
  /** Runs right under an unlabelled question. */
  underPlain: number;
  last: number;
  lastLine: number;
  openers: Map<string, number>;
}

/** Whose turn a line is in a draft of "Q:" and "A:". */
const turnOf = (t: string): 'q' | 'a' | 'b' | '' => (/^\s*Q\s?[:.)]\s/.test(t) ? 'q' : /^\s*A\s?:\s/.test(t) ? 'a' : /^\s*B\s?[:.)]\s/.test(t) ? 'b' : '');
const headsPage = (t: string): boolean => t.length < 120 && (PAGE_TAIL.test(t) || CONTINUED.test(t));
const isHeading = (l: Line): boolean => told(l, headingLike);
const headingLike = (t: string): boolean => partLine(t) || pointsEach(t) !== null || (kindIn(t) !== undefined && !/\?\s*$/.test(t));

/** Weighs the lines of a draft. */
export function habitsOf(lines: readonly Line[]): Habits {
  const forms = new Map<string, Form>();
  const full = lines.filter((l) => !l.blank);
  let romans = 0;
  let romanLast = 0;
  let romanHeads = 0;
  let romanTight = 0;
  let romanAt = -9;
  let asked = 0;
  let answered = 0;
  let bees = 0;
  let decimals = 0;
  let loose = 0;
  let looseLast = 0;
  const capitals: { place: number; form: string; at: number }[] = [];
  const seen = new Map<string, number>();
  const repeated = new Set<string>();
  full.forEach((l, i) => {
    const t = l.text;
    if (told(l, headsPage)) repeated.add(headingKey(t));
    else if (i < 6) seen.set(headingKey(t), i);
    const r = told(l, romanNumbered);
    if (r && (r.number === romanLast + 1 || r.number === 1)) {
      romans++;
      if (r.number > 1 && i === romanAt + 1) romanTight++;
      romanAt = i;
      romanLast = r.number;
      if (isHeading(l) && nextNumber(full, i) === 1) romanHeads++;
    }
    if (told(l, decimal)) decimals++;
    const turn = told(l, turnOf);
    if (turn === 'q') asked++;
    else if (turn === 'a') answered++;
    else if (turn === 'b') bees++;
    const n = told(l, numbered);
    const b = n?.form === 'bare' ? n : n ? null : told(l, loosely);
    if (b && b.number === looseLast + 1) {
      loose++;
      looseLast = b.number;
    }
    if (n) count(forms, full, i, n);
    else {
      const o = told(l, lettered);
      if (o && !o.marked && /[A-Z]/.test(o.letter)) capitals.push({ place: letterPlace(o.letter), form: o.form, at: i });
    }
  });
  const optionForms = new Set<string>();
  let letterQuestions = '';
  for (const [form, f] of forms) {
    if (f.ones < 2 || f.max > 12 || f.max < 2 || form === 'word' || f.tight < (f.count - f.ones) * 0.8) continue;
    const [opener, times] = [...f.openers].sort((a, b) => b[1] - a[1])[0] ?? ['', 0];
    if (f.under >= f.ones * 0.7 && times >= f.ones * 0.6) {
      optionForms.add(form);
      if (opener.startsWith('letter:')) letterQuestions = opener.slice(7);
    } else if (f.underPlain >= f.ones * 0.7 && ![...forms].some(([other, o]) => other !== form && o.count >= f.ones)) optionForms.add(form);
  }
  const arabic = [...forms].reduce((sum, [form, f]) => sum + (optionForms.has(form) ? 0 : f.count), 0);
  const dotted = [...forms].reduce((sum, [form, f]) => sum + (optionForms.has(form) || form === 'bare' ? 0 : f.count), 0);
  return {
    optionForms,
    letterQuestions,
    letterParts: !letterQuestions && headsParts(capitals, full),
    decimals: decimals >= 2 && decimals > dotted,
    talk: asked >= 1 && answered >= 1 && answered >= asked * 0.5 && bees === 0,
    roman: romans >= 2 && !(arabic > 0 && romanTight > romans * 0.4) && romanLast >= 2 && romans > arabic && romanHeads < romans / 2,
    bareNumbers: loose >= 2 && loose >= dotted,
    numbered: arabic > 0 || (decimals >= 2 && decimals > dotted) || loose >= 2 || romans >= 2 || letterQuestions !== '',
    repeated: new Set([...repeated].filter((r) => r.length > 5)),
  };
}

function count(forms: Map<string, Form>, full: readonly Line[], i: number, n: NumberLabel): void {
  const f = forms.get(n.form) ?? { count: 0, ones: 0, max: 0, tight: 0, under: 0, underPlain: 0, last: 0, lastLine: -9, openers: new Map() };
  f.count++;
  f.max = Math.max(f.max, n.number);
  const line = full[i];
  if (n.number === 1 && line) {
    f.ones++;
    const above = opener(full, i, n.form);
    if (above) {
      if (above.family === 'plain') f.underPlain++;
      else {
        f.under++;
        f.openers.set(above.family, (f.openers.get(above.family) ?? 0) + 1);
      }
    }
  } else if (n.number === f.last + 1 && i - f.lastLine <= 2) f.tight++;
  f.last = n.number;
  f.lastLine = i;
  forms.set(n.form, f);
}

/** What stands over the first of a run of numbers: a question labelled in another way, or one without label. */
function opener(full: readonly Line[], i: number, form: string): { family: string } | null {
  const line = full[i];
  for (let k = i - 1; k >= Math.max(0, i - 4); k--) {
    const l = full[k];
    if (!l || !line || line.index - l.index > i - k + 1 || isHeading(l) || told(l, keyLine) !== null) return null;
    const n = told(l, numbered);
    if (n) return n.form === form ? null : { family: n.form };
    const r = told(l, romanNumbered);
    if (r) return { family: 'roman' };
    const o = told(l, lettered);
    if (o) return /[A-Z]/.test(o.letter) ? { family: `letter:${o.form}` } : null;
    if (k === i - 1 && /[?:]\s*$/.test(l.text) && (k === 0 || (full[k - 1]?.index ?? 0) < l.index - 1 || told(full[k - 1] as Line, keyLine) !== null))
      return { family: 'plain' };
  }
  return null;
}

const nextNumber = (full: readonly Line[], i: number): number | null => {
  const next = full[i + 1];
  return next ? (told(next, numbered)?.number ?? null) : null;
};

/** Capital letters that rise once through the draft, each over numbered questions. */
function headsParts(capitals: readonly { place: number; form: string; at: number }[], full: readonly Line[]): boolean {
  const heads = capitals.filter((c) => {
    const next = full[c.at + 1];
    const line = full[c.at];
    return next && line && !/\?\s*$/.test(line.text) && (told(next, numbered) ?? told(next, loosely)) !== null;
  });
  const heading = heads.filter((c) => isHeading(full[c.at] as Line) || (full[c.at + 1]?.index ?? 0) > (full[c.at]?.index ?? 0) + 1);
  return (
    heads.length >= 2 && heading.length === heads.length && heads.every((c, i) => i === 0 || c.place > (heads[i - 1]?.place ?? -1)) && heads[0]?.place === 0
  );
}
