/** Where questions start: at a number, a letter over numbered options, a box with true or false. */
import { keyLine } from '../keys.js';
import { decimal, inlineOptions, lettered, letterPlace, loosely, numbered, pattern, romanNumbered, type NumberLabel } from '../labels.js';
import { told, type Line } from '../lines.js';
import { emptyPart, type Block, type Outliner } from '../outline.js';
import { pointsNote } from '../points.js';
import { POINTS } from '../words.js';
import { truthBox } from '../truths.js';
import type { Construct } from './construct.js';
import { addInline } from './options.js';
import { describe } from './parts.js';

/** "Question 4 – 2 points": nothing else on the line of the number. */
const POINTS_ONLY = pattern(`^[\\s(\\[–—-]*\\d+(?:[.,]\\d+)?\\s*(?:${POINTS})[\\s)\\]:.]*$`);

/** Opens a question, with options that stand behind its stem on the same line. */
export function openQuestion(o: Outliner, line: Line, at: number, label: { label?: string; number?: number; sub?: string; form?: string }): Block {
  const b = o.open(line, line.text.length, label);
  const inline = inlineOptions(line.text.slice(at));
  const first = inline[0];
  if (first && letterPlace(first.letter) === 0 && first.start > 0 && inline.every((i) => line.text.slice(at + i.at, at + i.to).trim())) {
    b.stem.push(o.piece(line, at, at + first.start));
    addInline(o, line, inline, at);
  } else if (POINTS_ONLY.test(line.text.slice(at))) b.fields.push({ name: 'points', line: line.index, pieces: [o.piece(line, at)] });
  else if (line.text.slice(at).trim()) b.stem.push(o.piece(line, at));
  return b;
}

/** Numbers that rise by one from a line on, with nothing but wrapped text between: how many, and which number comes after them. */
function runFrom(o: Outliner, line: Line, form: string): { length: number; after: number | null; last: number } {
  let length = 0;
  let last = line.index;
  let gap = 0;
  for (let i = line.index; i < o.lines.length && length < 60; i++) {
    const l = o.lines[i] as Line;
    if (l.blank) {
      gap++;
      if (gap > 1 && length > 0) continue;
      continue;
    }
    const n = told(l, numbered);
    if (n && n.form === form && n.number === length + 1) {
      if (length > 0 && gap > 0 && i - last > 2) return { length, after: n.number, last };
      length++;
      last = i;
      gap = 0;
      continue;
    }
    if (n) return { length, after: n.number, last };
    if (told(l, keyLine) !== null || told(l, lettered) || l.heading > 0) {
      const next = nextNumbered(o, i, form);
      return { length, after: next, last };
    }
    if (i - last > 3) return { length, after: nextNumbered(o, i, form), last };
  }
  return { length, after: null, last };
}
function nextNumbered(o: Outliner, index: number, form: string): number | null {
  for (let i = index + 1; i < Math.min(o.lines.length, index + 40); i++) {
    const n = told(o.lines[i] as Line, numbered);
    if (n && n.form === form) return n.number;
  }
  return null;
}

/** Whether a numbered line starts a question, or is a step, an option or a statement under the one above. */
export function startsQuestion(o: Outliner, line: Line, n: NumberLabel): boolean {
  const b = o.block;
  if (o.habits.optionForms.has(n.form)) return !b;
  if (!b || n.form === 'word' || n.form === 'hash' || n.sub) return true;
  if (b.keys.length && !b.count.number) return !midSentence(o, line, n, b);
  const numbers = b.count.number;
  const letters = b.count.letter > 0;
  const due = b.number !== undefined && n.number === b.number + 1;
  if (numbers && n.number === numbers + 1 && !letters) {
    // the list goes on, unless the next question is due and stands apart
    if (!due) return n.form !== b.entries[0]?.form && o.blankBefore;
    const deeper = line.indent > (o.lines[b.line]?.indent ?? 0) + 1;
    return !(deeper || n.form !== b.form || runsOn(o, line, n, b));
  }
  if (n.number === 1 && !b.entries.length && !b.keys.length && listStarts(o, line, n, b)) return false;
  return due || !midSentence(o, line, n, b);
}

/** Whether a run of numbers goes on past a number that could be the next question's: that number comes again behind the run. */
function runsOn(o: Outliner, line: Line, n: NumberLabel, b: Block): boolean {
  if (o.blankBefore) return false;
  for (let i = line.index + 1, want = n.number + 1; i < Math.min(o.lines.length, line.index + 30); i++) {
    const l = o.lines[i] as Line;
    const m = told(l, numbered);
    if (!m || m.form !== n.form) continue;
    if (m.number === (b.number ?? 0) + 1) return true;
    if (m.number !== want) return false;
    want++;
  }
  // no further question: the kind says whether it is a list
  const kind = o.kindOf(b);
  return kind === 'ordering' || kind === 'matching';
}

/** Whether a 1 right under a question starts a list of its own. */
function listStarts(o: Outliner, line: Line, n: NumberLabel, b: Block): boolean {
  const opens = o.lines[b.line];
  const kind = o.kindOf(b);
  const run = runFrom(o, line, n.form);
  const own = kind === 'ordering' || kind === 'matching';
  if (own && b.part.kind !== kind) return true;
  if (own && (run.length >= 2 || b.number === undefined)) return true;
  if (run.length < 2) return false;
  if (line.indent > (opens?.indent ?? 0) + 1 && !o.blankBefore) return true;
  if (b.number !== undefined && n.form !== b.form && !o.blankBefore) return true;
  return b.number !== undefined && run.after === b.number + 1 && (!o.blankBefore || /[:?]\s*$/.test(o.stem(b)));
}

/** A date or an amount at the start of a wrapped line: not the number that is due, and the sentence before goes on. */
function midSentence(o: Outliner, line: Line, n: NumberLabel, b: Block): boolean {
  if (o.blankBefore || line.heading > 0 || line.bold || b.number === undefined) return false;
  if (n.number === b.number + 1 || n.number === b.number || n.number === 1) return false;
  if (b.entries.length || b.keys.length || b.pairs.length || b.fields.length) return false;
  const above = o.lines[line.index - 1]?.text.trimEnd() ?? '';
  return !/[.?!:;…_]["”»)]?$/.test(above) && above.length > 25;
}

export const questions: Construct = {
  name: 'question',
  read(o, line) {
    const text = line.text;
    const box = told(line, truthBox);
    const inner = box ? numbered(text.slice(box.at)) : null;
    if (box && inner && !lettered(text.slice(box.at))) {
      const b = openQuestion(o, line, box.at + inner.at, inner);
      b.keys.push({ line: line.index, pieces: [o.piece(line, 0, box.at)], feedback: [], truth: box.value });
      return o.say(line, 'question', `${inner.label} ${box.value ? 'T' : 'F'}`, 'A number with true or false in a box before it.');
    }
    const roman = o.habits.roman ? told(line, romanNumbered) : null;
    if (roman) {
      openQuestion(o, line, roman.at, roman);
      return o.say(line, 'question', roman.label, 'Starts with a Roman number, as the other questions do.');
    }
    if (o.habits.letterQuestions) {
      const l = told(line, lettered);
      if (l && l.form === o.habits.letterQuestions && /[A-Z]/.test(l.letter)) {
        openQuestion(o, line, l.at, { label: l.letter, number: letterPlace(l.letter) + 1, form: 'letter' });
        return o.say(line, 'question', l.letter, 'Starts with a capital letter, as the other questions do; their options have numbers.');
      }
    }
    const within = o.habits.decimals ? told(line, decimal) : null;
    if (within) {
      openQuestion(o, line, within.at, { label: within.label, form: 'decimal' });
      return o.say(line, 'question', within.label, 'Starts with a number within a number, as the other questions do.');
    }
    const choice = told(line, circleTruth);
    const after = choice ? numbered(text.slice(choice)) : null;
    if (choice && after) {
      openQuestion(o, line, choice + after.at, after).kind = 'true-false';
      return o.say(line, 'question', after.label, 'A number with “T F” before it, to circle one.');
    }
    if (subQuestion(o, line)) return true;
    const n = told(line, numbered) ?? looseNumber(o, line);
    if (!n || !startsQuestion(o, line, n)) return false;
    const below = o.habits.decimals ? o.next(line.index) : undefined;
    if (below && told(below, decimal)?.label === `${n.number}.1`) {
      const part = o.openPart(line, 'A number over questions numbered within it.');
      if (text.length < 70 || !/[.!]\s*$/.test(text)) describe(part, line);
      else {
        part.title = '';
        part.passage.push({ line: line.index, from: n.at, to: text.length });
        o.say(line, 'passage', 'passage', 'A text with a number, over the questions numbered within it.');
      }
      return true;
    }
    if (o.habits.optionForms.has(n.form) && !o.block) return false;
    leadIn(o, n);
    if (o.part.until !== undefined && o.part.passage.length > 0 && n.number > o.part.until) {
      o.part = { ...emptyPart(line.index), label: o.part.label };
      o.parts.push(o.part);
    }
    const first = told(line, firstSub);
    if (first && n.form !== 'cell') {
      openQuestion(o, line, n.at + first.at, { ...n, label: `${n.label}${first.letter}`, sub: first.letter });
      return o.say(line, 'question', `${n.label}${first.letter}`, 'A number and the first of the letters below, each with points of its own.');
    }
    openQuestion(o, line, n.at, n);
    return o.say(line, 'question', n.label, why(o, n));
  },
};
/** "T  F   3. Raw chicken …": the column of the number. */
const circleTruth = (t: string): number => /^\s*(?:T\s{1,4}F|True\s+False|V\s{1,4}F|R\s{1,4}F)\s+(?=\d{1,3}\s*[.)])/.exec(t)?.[0].length ?? 0;

const BARE_POINTS = /\[\d{1,2}\]\s*$/;
/** "1. (a) Define osmosis. [2]": a number and the letter a, with points of its own. */
function firstSub(t: string): { letter: string; at: number } | null {
  const n = numbered(t);
  const l = n ? lettered(t.slice(n.at)) : null;
  return l && letterPlace(l.letter) === 0 && (pointsNote(t.slice((n?.at ?? 0) + l.at)) || BARE_POINTS.test(t))
    ? { letter: l.letter.toLowerCase(), at: l.at }
    : null;
}
/** "(b) Give an example. [1]" below "(a) …": the next part of the same question. */
function subQuestion(o: Outliner, line: Line): boolean {
  const b = o.block;
  if (!b?.sub || b.entries.length) return false;
  const l = told(line, lettered);
  if (!l || letterPlace(l.letter) !== letterPlace(b.sub) + 1 || !(pointsNote(line.text) || BARE_POINTS.test(line.text) || b.keys.length)) return false;
  const stem = (b.label ?? '').slice(0, -1);
  o.open(line, l.at, {
    label: `${stem}${l.letter.toLowerCase()}`,
    sub: l.letter.toLowerCase(),
    form: 'sub',
    ...(b.number !== undefined && { number: b.number }),
  });
  return o.say(line, 'question', `${stem}${l.letter.toLowerCase()}`, 'The next letter of the question above, with points of its own.');
}
const why = (o: Outliner, n: NumberLabel): string => {
  const before = o.blocks[o.blocks.length - 2];
  if (n.form === 'word') return 'Starts with a word for “question” and a number.';
  return before?.number !== undefined && n.number === before.number + 1
    ? `Starts with ${n.number}, the number that is due.`
    : 'Starts with a number, as the other questions do.';
};

/** "10 Describe …", where the draft numbers without a sign and this number is due. */
function looseNumber(o: Outliner, line: Line): NumberLabel | null {
  if (!o.habits.bareNumbers) return null;
  const n = told(line, loosely);
  const last = o.blocks[o.blocks.length - 1]?.number ?? 0;
  return n && (n.number === last + 1 || (o.blankBefore && n.number > last && n.number <= last + 3)) ? n : null;
}

/** Before "3a" a question "3" with nothing to answer is the text that 3a and 3b share. */
function leadIn(o: Outliner, n: NumberLabel): void {
  const b = o.blocks[o.blocks.length - 1];
  if (n.sub === 'a' && b && b === o.block && b.number === n.number && !b.sub && !o.complete(b)) {
    o.drop(b);
    o.part = sharing(o, b);
  } else if (!n.sub && o.part.lead) {
    o.part = o.part.lead;
  }
}
/** A part whose passage is the stem of a question with sub-questions. */
export function sharing(o: Outliner, b: Block): Block['part'] {
  const lead = b.part.lead ?? b.part;
  const part: Block['part'] = { ...emptyPart(b.line), label: lead.label, ranges: lead.ranges, passage: b.stem, lead };
  if (lead.kind) part.kind = lead.kind;
  if (lead.points !== undefined) part.points = lead.points;
  o.parts.push(part);
  for (const p of b.stem) {
    const role = o.roles[p.line];
    if (role) o.roles[p.line] = { role: 'passage', mark: b.label ?? 'passage', reason: 'Shared by the questions below, which have letters.' };
  }
  return part;
}
