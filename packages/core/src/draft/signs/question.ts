/** Starts of questions: a number, a word with a number, a letter or Roman number where the draft counts so, or no label at all. */
import { columnOf } from '../series/series.js';
import { memoised, stretchOf } from '../surface/lines.js';
import { EMPHASIS, STRONG, UNDERLINE } from '../surface/stretch.js';
import { TRUTH_SIGN, truthNote } from '../../language/truths.js';
import { pattern, wordsIn } from '../../language/labels.js';
import { asksForMore, INTERROGATIVE, OFFER, POINTS } from '../../language/words.js';
import { answerBehind } from '../signatures/behind.js';
import { behindHead } from '../signatures/questionHead.js';
import { W } from '../model/weights.js';
import { shows } from '../signatures/shows.js';
import { cardOf } from '../signatures/card.js';
import { labelsAt } from '../signatures/label.js';
import type { InlineRun } from '../signatures/inline.js';
import type { Recogniser, Sign, View } from './sign.js';
import { matchesOf } from '../../language/matches.js';

const ASKING = pattern(
  `^(?:${INTERROGATIVE}|ne|name|define|explain|describe|list|state|give|calculate|find|solve|complete|choose|select|identify)(?![\\p{L}])`,
);
/** Nothing but points behind the label. */
const POINTS_ONLY = pattern(`^[\\s(\\[–—-]*\\d+(?:[.,]\\d+)?\\s*(?:${POINTS})[\\s)\\]:.]*$`);

/** "Item 02     Objective 1.2     Level 2": only notes for the files of the school behind the label. */
const metaOnly = (rest: string): boolean =>
  rest
    .trim()
    .split(/\s{2,}|\t/)
    .every((part) => /^[\p{L}.]{2,14}\s?[:=]?\s?[\d.]+$/u.test(part));

/** Runs of options behind a stem on the same line. */
const goesOn = (v: View, r: InlineRun): boolean => {
  const next = v.after;
  return (
    next !== undefined &&
    next.gap === 0 &&
    (next.facts.labels.some((l) => l.sig === r.sig && l.ord === 2) || next.facts.inline.some((x) => x.sig === r.sig && x.segments[0]?.ord === 2))
  );
};
/** The options on the line of a question, from a column on. */
export const optionsBehind = (v: View, from: number): InlineRun[] =>
  v.facts.inline.filter(
    (r) =>
      r.segments[0] &&
      r.segments[0].start >= from &&
      r.segments[0].ord <= 1 &&
      (v.line.text.slice(from, r.segments[0].start).trim() !== '' || (r.segments.length > 2 && r.segments[0].ord === 1 && from > v.facts.start)) &&
      (r.segments.length >= 2 || (r.segments[0].ord === 1 && goesOn(v, r))) &&
      r.segments.every((s) => s.to > s.from),
  );

function labelled(v: View): Sign[] {
  const out: Sign[] = [];
  const { facts, line } = v;
  const apart = v.series.apart.get(v.place);
  if (apart?.cls === 'num') {
    const at = line.text.length;
    const label = { cls: 'num', form: 'loose', sig: 'num ', ord: apart.ord, sub: '', text: apart.text, from: facts.start, at } as const;
    out.push({ role: 'question', weight: W.qApart, why: 'A number on a line of its own, and its words below.', at, to: at, label });
  }
  if (facts.furniture && facts.furniture !== 'foot' && facts.furniture !== 'name') return out;
  for (const label of facts.labels) {
    const rest = line.text.slice(label.at);
    const words = rest.trim();
    let w =
      label.cls === 'word'
        ? W.qWord
        : label.cls === 'turn'
          ? W.qTurn
          : label.cls === 'bonus'
            ? W.qBonus
            : label.cls === 'num' || label.cls === 'dec'
              ? W.qNumber
              : label.cls === 'rom'
                ? W.qRoman
                : label.cls === 'roml'
                  ? W.qRomanLow
                  : W.qLetter;
    if (label.form === 'loose') w += label.cls === 'num' ? W.qLoose : W.qLooseLetter;
    else if (label.form === 'wide') w += W.qWide;
    if (label.cls === 'dec') w += W.qDecimal;
    if (facts.prefix.at > facts.start) w += W.qPrefix;
    if (facts.asks) w += W.asks;
    else if (facts.gap && words.length > 12) w += W.hasGap;
    else if (facts.colon) w += W.endsColon;
    else if (ASKING.test(words)) w += W.asks * 0.6;
    if (line.heading) w += W.headingLabel;
    if (line.bold || line.own.boldStart) w += W.boldLabel;
    const brief = wordsIn(words) <= 2 && !facts.asks;
    if (brief && words && label.cls !== 'word') w += W.qBrief;
    if (!words && label.cls !== 'word') w += W.qEmpty;
    if (facts.keyAt !== null && label.cls !== 'turn') w += W.saysKey;
    if (facts.front.bullet) w += W.bulletQuestion;
    if (facts.front.marked || (facts.front.box && facts.front.box !== '_')) w += W.boxedQuestion;
    if (facts.bothSides && (v.after?.facts.bothSides || v.before?.facts.bothSides) && !facts.inline.some((r) => r.segments.length > 1)) w += W.rowLike;
    const base: Sign = {
      role: 'question',
      weight: w,
      why: label.cls === 'word' ? 'A word for “question” and a number.' : 'A number or letter in front.',
      at: label.at,
      label,
      habit: 'question',
    };
    if (facts.prefix.key) base.keyInFront = facts.prefix.key;
    if (facts.truthBehind && (label.cls === 'low' || label.cls === 'up')) base.weight += W.truthBehind;
    const front = TRUTH_FRONT.exec(rest);
    if (front && !facts.prefix.key && v.series.truthFronts >= 2) {
      const from = label.at + front[0].indexOf(front[1] ?? '');
      out.push({
        ...base,
        weight: w + W.truthBehind,
        at: label.at + front[0].length,
        keyInFront: [from, from + (front[1]?.length ?? 0)],
        why: 'A number, and the truth value in front of the statement.',
      });
    }
    const letter = truthApart(v, label.at);
    if (letter && !facts.prefix.key)
      out.push({
        ...base,
        weight: w + W.truthBehind,
        at: letter.at,
        keyInFront: [letter.from, letter.to],
        why: 'A number, and the truth value in front of the statement.',
      });
    const ticked = tickedBehind(v);
    if (ticked)
      out.push({
        ...base,
        weight: w + W.truthBehind,
        why: 'A statement with a box for true and one for false.',
        to: ticked.at,
        ...(ticked.value !== null && { truthTicked: ticked.value }),
      });
    if (POINTS_ONLY.test(rest)) base.sort = 'points';
    if (label.cls === 'word' && metaOnly(rest)) base.to = label.at;
    if (label.cls === 'word' && facts.part) base.weight -= facts.kind || facts.each !== null ? 3 : W.questionIsPart;
    w = base.weight;
    out.push(base);
    const inner =
      label.cls === 'num' || label.cls === 'word'
        ? labelsAt(line.text, label.at).find(
            (l) => (l.cls === 'low' || l.cls === 'up' || l.cls === 'roml') && l.ord === 1 && l.form !== 'loose' && l.form !== 'wide',
          )
        : undefined;
    if (inner) {
      const next = v.after?.facts.labels.find((l) => l.sig === inner.sig && l.ord === 2);
      const points = ENDS_WITH_POINTS.test(line.text);
      out.push({
        ...base,
        weight: w + W.splitLabel + (points ? W.splitLabelPoints : 0) + (next ? 0.6 : 0),
        why: 'A number and the first letter of its parts.',
        at: inner.at,
        subLabel: inner,
      });
    }
    const answer =
      (v.series.answersBehind && !facts.inline.length ? answerBehind(line.text) : null) ?? (v.series.dashAnswers.has(line) ? facts.dashAnswer : null);
    if (answer && answer.end > label.at)
      out.push({
        ...base,
        weight: w + W.answerBehind,
        to: answer.end,
        keyBehind: answer.answer,
        why: 'A number, a question, and its answer behind it, as the others have.',
      });
    const strokes = strokesBehind(v, label.at);
    if (strokes)
      out.push({
        ...base,
        ...strokes,
        weight: w + W.withOptions + (strokes.segments?.length ?? 0) * W.moreOnLine,
        why: 'A number, a question, and options between strokes.',
      });
    for (const run of optionsBehind(v, label.at)) {
      const first = run.segments[0];
      out.push({
        ...base,
        weight: w + W.withOptions + run.segments.length * W.moreOnLine,
        why: `${base.why.slice(0, -1)}, and options behind the question.`,
        to: first?.start ?? line.text.length,
        segments: run.segments,
        sig: run.sig,
        ...(first && !line.text.slice(label.at, first.start).trim() && { sort: 'options' }),
      });
    }
  }
  return out;
}

const STROKES = /\s+[/|]\s+/g;
const WIDE = /\s{3,}|\t+/g;
const LONGEST_STROKE = 45;
const BRACKETED_STROKES = /^[([]([^()[\]]{3,120})[)\]]\s*(?:[–—=:-]+|->|→|=>)\s*([^()[\]]{1,45}?)\s*$/u;
/** "Which wine? red / white / rosé (red)": options between strokes behind a question, and the key in brackets behind them. */
function strokesBehind(v: View, from: number): Pick<Sign, 'to' | 'segments' | 'sig' | 'keyBehind'> | null {
  const t = v.line.text;
  const mark = t.indexOf('?', from);
  const asks = mark >= 0 ? mark : t.lastIndexOf(':');
  if (asks < from || t.length > 400) return null;
  let start = asks + 1;
  while (start < t.length && /[\s:–—-]/.test(t[start] ?? '')) start++;
  // "(red / green / white) – red": the options in brackets, the key behind a dash
  const bracket = BRACKETED_STROKES.exec(t.slice(start));
  const key = bracket ? null : /\s*\(([^()]{1,60})\)\s*$/.exec(t.slice(start));
  if (bracket) start += bracket[0].indexOf('(') + 1;
  const end = bracket ? start + (bracket[1]?.length ?? 0) : key ? start + key.index : t.trimEnd().length;
  const cells: [number, number][] = [];
  for (const sign of [STROKES, WIDE]) {
    let at = start;
    cells.length = 0;
    for (const m of matchesOf(sign, t.slice(start, end))) {
      cells.push([at, start + m.index]);
      at = start + m.index + m[0].length;
    }
    cells.push([at, end]);
    if (cells.length > 1) break;
  }
  const known = v.series.choices.has(t.slice(start, end).replace(/\s+/g, ' '));
  const labelled = cells.filter(([a, b]) => /^[([]?[A-Za-z][).]\s/.test(t.slice(a, b))).length;
  if (labelled > 1) return null;
  const starred = cells.some(([a]) => /^\*\s?\p{L}/u.test(t.slice(a, a + 3)));
  if (
    cells.length < (key || bracket || known || starred ? 2 : 3) ||
    /^(?:->|=>|→|⇒|➜)/.test(t.slice(start)) ||
    cells.some(([a, b]) => b <= a || b - a > LONGEST_STROKE)
  )
    return null;
  const said = t.trimEnd().length - (bracket?.[2]?.length ?? 0);
  const first = start + (key?.index ?? 0) + (key?.[0].indexOf('(') ?? 0) + 1;
  return {
    to: asks + 1,
    sig: 'strokes',
    segments: cells.map(([a, b]) => ({ label: '', ord: 0, sig: 'bare', start: a, from: a, to: b, marked: false, star: false, box: false })),
    ...(bracket?.[2] && { keyBehind: [said, said + bracket[2].length] as [number, number] }),
    ...(key?.[1] && { keyBehind: [first, first + key[1].length] as [number, number] }),
  };
}
const ENDS_WITH_POINTS = /[([]\s*\d{1,2}\s*(?:p|pts?|points?|marks?|P|Punkte?)?\.?\s*[)\]]\s*$|_{2,}\s*\/\s*\d+\s*$/i;

const TICK_BOX = '(?:[([]\\s{0,3}([xX✓✔*]?)\\s{0,3}[)\\]]|[○◯☐□⚪]|([●◉☑☒■✓✔✗]))';
const TICKS = new RegExp(`\\s*${TICK_BOX}\\s*${TICK_BOX}\\s*$`, 'u');
/** One tick far behind a statement. */
const TICK = /(?<=\S)\s{2,}([xX✓✔×●•*])\s*$/u;
/**
 * Which column of true and false is ticked behind a statement, in columns that the draft heads with them: of two boxes the filled one
 * ("… readable.   [x]  [ ]"), or the one under whose head a tick stands alone.
 */
function tickedBehind(v: View): { at: number; value: boolean | null } | null {
  const columns = v.series.truthColumns;
  if (!columns) return null;
  const { values, middles } = columns;
  const m = TICKS.exec(v.line.text);
  if (m?.index) {
    const first = Boolean(m[1] ?? m[2]);
    return { at: m.index, value: first === Boolean(m[3] ?? m[4]) ? null : values[first ? 0 : 1] };
  }
  const alone = TICK.exec(v.line.text);
  // a tab has no width of its own
  if (!alone || alone[0].includes('\t')) return null;
  const column = columnOf(v.line, alone.index + alone[0].trimEnd().length - 1);
  const [left, right] = middles.map((x) => Math.abs(column - x));
  if (left === undefined || right === undefined || Math.abs(left - right) < 2) return null;
  return { at: alone.index, value: values[left < right ? 0 : 1] };
}

/** "(T) Ligaments join bones.", "F – The skull is one bone." */
const TRUTH_FRONT = new RegExp(`^\\s*${TRUTH_SIGN}(?=\\p{Lu}\\p{L}*\\s)`, 'iu');
/** "_F_ You may run in the kitchen.": a letter for true or false that alone is underlined or bold, and a statement behind it. */
function truthApart(v: View, from: number): { from: number; to: number; at: number } | null {
  const rest = /^\s*([TFVRWPN])\s+(?=\p{Lu}\p{L}*\s)/u.exec(v.line.text.slice(from));
  if (!rest || v.facts.words < 4) return null;
  const at = from + rest[0].length;
  const letter = from + rest[0].indexOf(rest[1] ?? '');
  const lookAt = (column: number): number => stretchOf(v.line, column, column + 1, 0).look;
  return lookAt(letter) & (EMPHASIS | STRONG | UNDERLINE) && !lookAt(at) ? { from: letter, to: letter + 1, at } : null;
}

const capitals = (t: string): boolean => t.length > 5 && t.length < 90 && t === t.toUpperCase() && t !== t.toLowerCase() && !/[?？_]/.test(t);

/** A form shows so in front of a question whether it was answered rightly. */
const MARKED_ANSWER: ReadonlySet<string> = new Set(['✓', '✗']);
/** A question without a label. */
function plain(v: View): Sign[] {
  const { facts, line } = v;
  if (facts.furniture) return [];
  let at = facts.start;
  if (facts.front.bullet || (facts.asks && MARKED_ANSWER.has(facts.front.box))) at = facts.front.at;
  const head = behindHead(line.text);
  if (head) at = head;
  if (facts.prefix.blank || facts.prefix.key || facts.prefix.truths) return [];
  const words = facts.words;
  let w = W.qPlain + (v.gap ? W.qPlainGap : W.qPlainTight);
  if (facts.asks) w += W.plainAsks;
  else if (facts.gap) w += W.hasGap;
  else if (facts.colon) w += W.endsColon * 0.5;
  else if (facts.asking && v.gap && words > 3 && !/[.!]$/.test(facts.trimmed)) w += W.plainAsking;
  if (memoised(line, truthNote)) w += W.truthNote;
  if (asksForMore(facts.trimmed)) w += W.asksForMore;
  if (v.series.numbered) w += W.plainAmongNumbered;
  if (head) w += W.plainHead;
  if (facts.truthBehind) w += W.truthBehind;
  if (v.lower) w += W.lowerStart;
  if (words < 3) w += W.fewWords;
  if (facts.keyAt !== null) w += W.saysKey;
  if (facts.field) w += W.saysField;
  if (facts.chat) w += facts.asks && !OFFER.test(facts.trimmed) ? 0 : W.saysChat;
  if (/!\s*$/.test(facts.trimmed)) w += W.exclaims;
  if (!facts.asks && !facts.gap && /\S(?:\t|\s{5,})\s*\S/.test(line.text)) w += W.wideInside;
  if (capitals(facts.trimmed)) w += W.wideInside;
  if (facts.part) w += W.saysPart;
  if (line.bold && facts.asks) w += W.boldLabel;
  if (line.heading && !facts.asks) w += W.headingPlain;
  if (facts.front.bullet) w += W.bulletQuestion;
  if (facts.front.box || (v.series.quoteMarks && line.own.quoted)) w += W.boxedPlain;
  for (const l of facts.labels)
    if (l.form !== 'loose') w += l.cls === 'num' || l.cls === 'word' || l.cls === 'turn' ? W.plainDespiteNumber : W.plainDespiteLetter;
  if (!v.series.braces && shows(line, 'answersInBraces')) w += W.bracedText;
  if (facts.asks && v.series.arrows >= 3 && v.after?.gap === 0 && shows(v.after.line, 'arrow')) w += W.arrowBelow;
  if (v.series.pointLines && v.after?.gap === 0 && shows(v.after.line, 'pointsAlone')) w += W.plainScored;
  if (v.series.required && shows(line, 'star')) w += W.plainRequired;
  w += v.series.groups.asks[v.place] ?? 0;
  if ((v.series.groups.options[v.place] ?? 0) > 0 && !facts.asks) w -= 1;
  if (v.series.units[v.place - 1]?.facts.truthBehind && facts.truthBehind) w += 1;
  const inFront = TRUTH_FRONT.exec(line.text);
  const found = v.series.cards > 0.35 ? memoised(line, cardOf) : null;
  const card = found?.brief && !v.series.briefCards ? null : found;
  const base: Sign = { role: 'question', sort: 'plain', weight: w, why: 'A question without a number.', at };
  const out = [base];
  if (inFront && v.series.truthFronts >= 2) {
    const from = inFront[0].indexOf(inFront[1] ?? '');
    out.push({
      ...base,
      weight: w + W.truthBehind,
      at: inFront[0].length,
      keyInFront: [from, from + (inFront[1]?.length ?? 0)],
      why: 'A statement with its truth value in front, as others have.',
    });
  }
  if (card && !facts.kind)
    out.push({
      ...base,
      sort: 'card',
      why: 'A question and its answer on one line, as the others have.',
      to: card.end,
      keyBehind: card.answer,
      weight: w + W.card * v.series.cards + (card.asks ? W.cardAsks : 0),
    });
  const strokes = strokesBehind(v, at);
  if (strokes) out.push({ ...base, ...strokes, weight: w + (strokes.segments?.length ?? 0) * W.moreOnLine, why: 'A question, and options between strokes.' });
  for (const run of optionsBehind(v, at))
    out.push({ ...base, weight: w + run.segments.length * W.moreOnLine, to: run.segments[0]?.start ?? line.text.length, segments: run.segments, sig: run.sig });
  return out;
}

/** Lines that begin a question. */
export const question: Recogniser = {
  name: 'start of a question',
  examples: [
    ['> 1. What is it?', 'question'],
    ['> Frage 3: Was ist das?', 'question'],
    ['> (४) यह क्या है?', 'question'],
    ['> What is it?', 'question'],
    ['> IV. What is it?', 'question'],
    ['> Which is blue? a) sky b) grass', 'question'],
  ],
  find: (v) => [...labelled(v), ...plain(v)],
};

/** Words, and a line behind them to write the answer on. */
const LINE_BEHIND = /(?<=[\p{L}\d)\]:=?!"”»]\.?\s{0,12})(?:_{3,}|\.{6,}|…{3,})$/u;
const writesBehind = (t: string): boolean => {
  const end = t.trimEnd();
  const line = end.length < 300 ? LINE_BEHIND.exec(end) : null;
  // a blank in front is one to fill in
  return line !== null && !/_{3}|…{2}/.test(end.slice(0, line.index)) && /\p{L}{2}/u.test(end.slice(3, line.index));
};
/** "a) What mass …? [2]" under a question: a part of it with an answer of its own. */
export const sub: Recogniser = {
  name: 'part of a question',
  examples: [['> a) Define osmosis. [2]', 'sub']],
  find(v) {
    const out: Sign[] = [];
    for (const label of v.facts.labels) {
      const t = v.line.text;
      // "1. Arteries carry blood to the heart.   T / F" below "Task 2"
      const toCircle = label.cls === 'num' && memoised(v.line, truthNote) !== null;
      if ((label.cls !== 'low' && label.cls !== 'roml' && label.cls !== 'up' && !toCircle) || label.form === 'loose' || label.form === 'wide') continue;
      let w =
        W.sub +
        (v.facts.asks ? W.subAsks : 0) +
        (/[([]\s*\d{1,2}\s*(?:p|pts?|points?|marks?|P|Punkte?)?\.?\s*[)\]]\s*$|_{2,}\s*\/\s*\d+\s*$/i.test(t) ? W.subPoints : 0);
      if (v.after && v.after.facts.keyAt !== null) w += W.subKeyed;
      if (v.facts.truthBehind || toCircle) w += W.truthBehind;
      if (label.cls === 'roml') w -= 0.5;
      if (label.cls === 'up') w -= 1;
      const beside = [v.gap < 2 ? v.before : undefined, v.after && v.after.gap < 2 ? v.after : undefined].filter((n) =>
        n?.facts.labels.some((l) => l.cls === label.cls),
      );
      if (writesBehind(t) && beside.length && beside.every((n) => n && writesBehind(n.line.text)))
        w += W.subWrites + (v.series.parts.size > 0 ? W.subListed : 0);
      if (/[*✓✔✅]\s*$/u.test(t)) w += W.subTicked;
      const ticked = tickedBehind(v);
      if (ticked) w += W.subTicked + W.truthBehind;
      out.push({
        role: 'sub',
        weight: w,
        why: 'A letter with an answer of its own: a part of the question above.',
        at: label.at,
        label,
        ...(ticked && { to: ticked.at, ...(ticked.value !== null && { truthTicked: ticked.value }) }),
      });
    }
    return out;
  },
};
