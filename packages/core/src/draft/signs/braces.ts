/**
 * Questions with their answers in braces, as GIFT writes them: "::Title::Stem {=right ~wrong}", on one line or several, "{T}", "{#3}", "{}".
 * The signs are those of the GIFT format (MoodleDocs, "GIFT format", Question types), from memory; only what people type is read here, the format has a reader of its own.
 */
import { W } from '../model/weights.js';
import { BRACE_ANSWER, BRACE_NUMBER, BRACE_OPEN, BRACE_PAIR, BRACE_TRUTH, BRACE_WHOLE, numberedLine } from '../signatures/braces.js';
import type { Segment } from '../signatures/inline.js';
import type { Recogniser, Sign, View } from './sign.js';

/** So far does a question in braces go on. */
const LONGEST = 24;

/** The lines of the braces that a line stands in. */
function blockAround(v: View): string[] {
  const { units } = v.series;
  const out: string[] = [];
  for (let i = v.place; i >= 0 && i > v.place - LONGEST; i--) {
    const t = units[i]?.line.text ?? '';
    if (i < v.place && BRACE_OPEN.test(t)) break;
    out.unshift(t);
  }
  for (let i = v.place + 1; i < units.length && i < v.place + LONGEST; i++) {
    const t = units[i]?.line.text ?? '';
    if (/^\s*\}/.test(t)) break;
    out.push(t);
  }
  return out;
}

const piece = (text: string, from: number, to: number): [number, number] => [from, from + text.slice(from, to).trimEnd().length];

/** The answers within braces on one line. */
function answersIn(text: string, from: number, to: number): { sign: string; from: number; to: number; note?: [number, number] }[] {
  const out: { sign: string; from: number; to: number; note?: [number, number] }[] = [];
  const starts = [...text.slice(from, to).matchAll(/(?<!\\)[=~]/g)].map((m) => from + m.index);
  starts.forEach((at, i) => {
    const end = starts[i + 1] ?? to;
    const head = BRACE_ANSWER.exec(text.slice(at, end))?.[0].length ?? 1;
    const hash = text.slice(at, end).search(/(?<!\\)#/);
    const [a, b] = piece(text, at + head, hash < 0 ? end : at + hash);
    out.push({ sign: text[at] ?? '', from: a, to: b, ...(hash >= 0 && { note: piece(text, at + hash + 1, end) }) });
  });
  return out;
}
const segment = (a: { sign: string; from: number; to: number; note?: [number, number] }, start: number): Segment => ({
  label: '',
  ord: 0,
  sig: 'brace',
  start,
  from: a.from,
  to: a.to,
  marked: a.sign === '=',
  star: false,
  box: false,
  ...(a.note && { note: a.note }),
});

export const braces: Recogniser = {
  name: 'question with answers in braces',
  examples: [
    ['> ::One::What is rye? {\n=a cereal\n~a cheese\n}\nSalt is sweet. {F}', 'question'],
    ['What is rye? {\n> =a cereal\n~a cheese\n}\nSalt is sweet. {F}', 'option'],
    ['Match. {\n> =rye -> cereal\n=brie -> cheese\n}\nSalt is sweet. {F}', 'row'],
    ['> Salt is sweet. {F}\nHow many legs has a table? {#4}', 'question'],
  ],
  find(v) {
    if (!v.series.braces || numberedLine(v.facts)) return [];
    const t = v.line.text;
    const why = 'A question with its answers in braces.';
    const base: Sign = { role: 'question', sort: 'braces', weight: W.braces, why, at: 0 };
    const open = BRACE_OPEN.exec(t);
    if (open) {
      const at = t.indexOf(open[1] ?? '', open[0].indexOf('::', 2) > 0 ? open[0].lastIndexOf('::') + 2 : 0);
      const matching = v.after ? BRACE_PAIR.test(v.after.line.text) : false;
      return [{ ...base, at, to: at + (open[1]?.length ?? 0), ...(matching && { task: 'matching' as const }) }];
    }
    const whole = BRACE_WHOLE.exec(t);
    if (whole) {
      const inner = whole[2] ?? '';
      const from = t.lastIndexOf('{') + 1;
      const at = t.indexOf(whole[1] ?? '', t.trimStart().startsWith('::') ? t.lastIndexOf('::') + 2 : 0);
      const to = at + (whole[1]?.length ?? 0);
      if (!inner.trim()) return [{ ...base, at, to, kind: 'essay' }];
      const said = BRACE_TRUTH.exec(inner) ?? BRACE_NUMBER.exec(inner);
      if (said?.[1]) {
        const key = from + inner.indexOf(said[1]);
        return [{ ...base, at, to, kind: BRACE_TRUTH.test(inner) ? 'true-false' : 'numeric', keysBehind: [[key, key + said[1].length]] }];
      }
      const answers = answersIn(t, from, from + inner.length);
      if (!answers.length) return [];
      if (answers.every((a) => a.sign === '=')) return [{ ...base, at, to, kind: 'short-answer', keysBehind: answers.map((a) => [a.from, a.to]) }];
      return [{ ...base, at, to, sig: 'brace', segments: answers.map((a) => segment(a, a.from - 1)) }];
    }
    if (/^\s*\}\s*$/.test(t)) return [{ role: 'aside', sort: 'rule', weight: W.rule, why: 'Closes the braces of a question.', at: 0 }];
    if (/^\s*\/\//.test(t)) return [{ role: 'aside', weight: W.braces, why: 'A remark.', at: 0 }];
    const pair = BRACE_PAIR.exec(t);
    if (pair) {
      const left = t.indexOf(pair[1] ?? '', t.indexOf('=') + 1);
      const right = t.length - (pair[2]?.length ?? 0);
      return [
        {
          role: 'row',
          sort: 'pair',
          weight: W.braces,
          why: 'A pair in braces.',
          at: left,
          sides: { left: [left, left + (pair[1]?.length ?? 0)], right: [right, t.trimEnd().length], labelled: false },
        },
      ];
    }
    if (!BRACE_ANSWER.test(t)) return [];
    const [answer] = answersIn(t, t.search(/[=~]/), t.length);
    if (!answer) return [];
    if (!blockAround(v).some((line) => /^\s*~/.test(line)))
      return [{ role: 'key', weight: W.braces, why: 'An accepted answer in braces.', at: answer.from, to: answer.to, announced: true }];
    return [{ role: 'option', weight: W.braces, why: 'An answer in braces.', at: answer.from, sig: 'brace', segments: [segment(answer, v.facts.start)] }];
  },
};
