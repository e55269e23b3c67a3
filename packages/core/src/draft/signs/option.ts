/** Options: with a letter, number, bullet or box in front, several on a line, in columns, or bare lines. */
import { judged } from '../signatures/keyWords.js';
import { memoised } from '../surface/lines.js';
import { plainOption } from '../signatures/answers.js';
import { truthNote } from '../../language/truths.js';
import { W } from '../model/weights.js';
import type { Segment } from '../signatures/inline.js';
import type { Label } from '../signatures/label.js';
import type { Recogniser, Sign, View } from './sign.js';
import { matchesOf } from '../../language/matches.js';

const segment = (v: View, label: Label | null, sig: string, from: number): Segment => {
  const f = v.facts.front;
  return {
    label: label?.text ?? '',
    ord: label?.ord ?? 0,
    sig,
    start: v.facts.start,
    from,
    to: v.line.text.trimEnd().length,
    marked: f.marked || (v.series.quoteMarks && v.line.own.quoted) || (f.bullet !== '' && f.bullet === v.series.legend?.[0]),
    star: f.star,
    box: Boolean(f.box) && f.box !== '✓' && f.box !== '*' && f.box !== 'x',
  };
};

function labelled(v: View): Sign[] {
  const out: Sign[] = [];
  const { facts, line } = v;
  const apart = v.series.apart.get(v.place);
  if (apart && apart.cls !== 'num') {
    const at = line.text.length;
    const sig = `${apart.cls} `;
    const label = { cls: apart.cls, form: 'loose', sig, ord: apart.ord, sub: '', text: apart.text, from: facts.start, at };
    out.push({
      role: 'option',
      weight: W.oApart,
      why: 'A letter on a line of its own, and its words below.',
      at,
      label,
      sig,
      segments: [{ label: apart.text, ord: apart.ord, sig, start: facts.start, from: at, to: at, marked: false, star: false, box: false }],
    });
  }
  if (facts.furniture && facts.furniture !== 'foot') return out;
  for (const label of facts.labels) {
    if (label.cls === 'word' || label.cls === 'turn' || label.cls === 'bonus' || label.sub || label.cls === 'dec') continue;
    if (facts.prefix.at > facts.start && (facts.prefix.key || facts.prefix.truths)) continue;
    const words = line.text.slice(label.at).trim();
    let w = label.cls === 'num' ? W.oNumber : label.cls === 'rom' || label.cls === 'roml' ? W.oRoman : W.oLetter;
    if (label.form === 'loose') w += W.oLoose;
    if (facts.front.box) w += W.oBoxed;
    if (facts.asks) w += W.oAsks;
    if (!words) w += W.oEmpty;
    if (facts.gap && !/^[_.…\s]+$/.test(words)) w += W.oGap;
    if (facts.keyAt !== null && label.form !== 'wide') w += W.saysKey * 0.5;
    if (line.heading) w += W.oHeading;
    if (facts.truthBehind && [v.before, v.after].every((n) => !n?.facts.labels.some((l) => l.cls === label.cls) || n.facts.truthBehind)) w -= W.truthBehind;
    if (label.cls === 'num' && memoised(line, truthNote)) w -= W.truthBehind;
    out.push({
      role: 'option',
      weight: w,
      why: 'A letter or number in front.',
      at: label.at,
      label,
      habit: 'option',
      sig: label.sig,
      segments: [segment(v, label, label.sig, label.at)],
    });
  }
  return out;
}

function several(v: View): Sign[] {
  const out: Sign[] = [];
  for (const run of v.facts.inline) {
    if (run.segments.length < 2 && !run.lead) continue;
    const first = run.segments[0];
    if (!first) continue;
    // the label at the start alone is the plain reading
    if (run.segments.length === 1 && (!run.wide || first.ord < 2)) continue;
    const number = run.sig.startsWith('num');
    let w = (run.sig === 'box' ? W.oBoxes : number ? W.oNumber : W.oLetter) + (run.segments.length - 1) * W.moreOnLine;
    if (run.lead) w += W.oLeadWords + (v.facts.number && v.facts.number.form !== 'loose' ? W.oLeadNumber : 0);
    if (run.segments.some((s) => s.to <= s.from)) w += W.oEmpty;
    out.push({
      role: 'option',
      sort: run.lead ? 'lead' : 'row',
      weight: w,
      why: 'Several options on one line.',
      at: v.facts.start,
      habit: 'option',
      sig: run.sig,
      segments: run.segments,
    });
  }
  return out;
}

/** "O basil", "x thyme": the column behind a typed ring or cross; 0 where there is none. */
const ringed = (t: string): number => /^\s*(?:[OoxX]\s{1,4}(?=[\p{L}\d])|0\s{1,4}(?=\p{L}))/u.exec(t)?.[0].length ?? 0;
/** Whether a cross stands there and not a ring. */
const crossed = (t: string): boolean => /^\s*x/i.test(t);

function bulleted(v: View): Sign[] {
  const { facts, line } = v;
  const f = facts.front;
  const ring = ringed(line.text);
  const ringsBeside = [v.gap === 0 ? v.before : undefined, v.after?.gap === 0 ? v.after : undefined].filter((n) => n && ringed(n.line.text));
  // crosses alone are marks: some ring is among them
  if (ring && ringsBeside.length && [line, ...ringsBeside.map((n) => n?.line)].some((l) => l && !crossed(l.text)))
    return [
      {
        role: 'option',
        weight: W.oBox,
        why: 'A letter O as a ring to tick, or an X in its place, as on the lines around.',
        at: ring,
        sig: 'box',
        segments: [{ ...segment(v, null, 'box', ring), ...(crossed(line.text) && { marked: true }) }],
      },
    ];
  const j = v.series.judges ? memoised(line, judged) : null;
  if (j && [v.gap === 0 ? v.before : undefined, v.after?.gap === 0 ? v.after : undefined].some((n) => n && memoised(n.line, judged)))
    return [
      {
        role: 'option',
        weight: W.oJudged,
        why: 'Called right or wrong in front, as the lines around.',
        at: j.at,
        sig: 'judged',
        segments: [{ ...segment(v, null, 'judged', j.at), marked: j.right }],
      },
    ];
  if ((!f.bullet && !f.box) || facts.furniture || f.box === 'x') return [];
  if (f.box === '✓' && !f.bullet && facts.labels.some((l) => l.form !== 'loose')) return [];
  const tick = f.box === '✓' && !f.bullet && /^\s*[👉→➡►»⇒]/u.test(line.text);
  const sig = tick ? 'tick' : f.box && f.box !== '✓' && f.box !== '✗' && f.box !== '*' && f.box !== '*w' && f.box !== '=' ? 'box' : 'bullet';
  let w = sig === 'box' ? W.oBox : W.oBullet;
  if (f.box === '_') w += W.oLineInFront;
  if (f.box === '✓' || f.box === '=' || f.box === '*w') w += W.oTicked;
  // one question under another is a list of questions
  if (facts.asks) w += [v.before, v.after].some((n) => n?.facts.asks && n.facts.front.bullet === f.bullet) ? W.oAsksAgain : W.oAsks;
  if (facts.keyAt !== null) w += W.saysKey;
  if (facts.field && facts.field.at > f.at) w += W.saysField;
  // "-  a  root": behind a bullet and a blank too many an article is no label
  for (const l of facts.labels) if (l.form !== 'loose' && l.cls !== 'roml' && !(l.form === 'wide' && /^[aei]$/.test(l.text))) w += W.oBulletDespiteLabel;
  return [
    {
      role: 'option',
      weight: w,
      why: sig === 'box' ? 'A box or ring in front.' : 'A bullet in front.',
      at: f.at,
      sig,
      segments: [segment(v, null, sig, f.at)],
    },
  ];
}

/** The columns between signs, from one column of a text to another; where two signs meet there is nothing between. */
function partedBy(sign: RegExp, text: string, begin: number, end: number): [number, number][] {
  const out: [number, number][] = [];
  let from = begin;
  for (const m of matchesOf(sign, text.slice(0, end))) {
    if (m.index < begin) continue;
    out.push([from, m.index]);
    from = m.index + m[0].length;
  }
  out.push([from, end]);
  return out;
}
const bareSegment = (from: number, to: number, marked = false): Segment => ({
  label: '',
  ord: 0,
  sig: 'bare',
  start: from,
  from,
  to,
  marked,
  star: false,
  box: false,
});

/** "Options: rye, oat, spelt", "Choices: [rye, oat]": what names them in front, in several languages (from memory). */
const NAMED =
  /^\s*(?:[-*•]\s+)?(?:(?:answer\s+)?(?:options?|choices)|possible answers|opciones|opzioni|opções|optionen|antwort(?:möglichkeiten|optionen)|auswahl|choix|propositions|opties|antwoordopties|opcje|odpowiedzi do wyboru|варианты(?:\s+ответ(?:ов|а))?|варіанти(?:\s+відповід(?:ей|і))?|alternativ(?:es|as|er))\s*[:：]\s*(?=\S)/iu;
/** What parts the options behind such a word, the surest first. */
const PARTS = [/\s*[|;]\s*/g, /\s+\/\s+/g, /\s*,\s+/g];
/** The columns of options that stand behind a word which names them; empty where there are none. */
function namedIn(text: string): readonly (readonly [number, number])[] {
  const head = NAMED.exec(text.slice(0, 60));
  if (!head || text.length > 400) return [];
  let [from, to] = [head[0].length, text.trimEnd().length];
  if (/^\[.*\]$|^\(.*\)$/.test(text.slice(from, to))) [from, to] = [from + 1, to - 1];
  const sign = PARTS.find((p) => text.slice(from, to).search(p) > 0);
  if (!sign) return [];
  const out = partedBy(sign, text, from, to);
  return out.every(([a, b]) => b > a && b - a < 60 && !/[.?!]\s/.test(text.slice(a, b))) ? out : [];
}
function named(v: View): Sign[] {
  const cells = v.facts.inline.some((r) => r.segments.length > 1) ? [] : memoised(v.line, namedIn);
  if (cells.length < 2) return [];
  const segments = cells.map(([from, to]) => bareSegment(from, to));
  return [
    { role: 'option', sort: 'strokes', weight: W.oNamed, why: 'Several options behind a word that names them.', at: v.facts.start, sig: 'strokes', segments },
  ];
}

/** "red / white / rosé — white": the place of the option that is said again behind the last one, which is cut there; −1 where none is. */
function keyBehind(text: string, cells: [number, number][]): number {
  const last = cells.at(-1);
  const m = last && /^(.*\S)\s+(?:[–—-]|->|→|=>?)\s+(\S.*)$/u.exec(text.slice(...last));
  if (!last || !m) return -1;
  const end = last[0] + (m[1] ?? '').length;
  const at = cells.findIndex((c) => plainOption(text.slice(c[0], c === last ? end : c[1])) === plainOption(m[2] ?? ''));
  if (at >= 0) last[1] = end;
  return at;
}

const STROKES = /\s+[/|]\s+|\s*;\s+|\s+[•·∙]\s+/g;
/** Dashes part options only where there are several, below a question. */
const DASHES = /\s+[–-]\s+/g;
/** A line without any label. */
function bare(v: View): Sign[] {
  const { facts, line } = v;
  if (facts.furniture || facts.front.bullet) return [];
  const text = line.text;
  const end = text.trimEnd().length;
  const marked = (facts.front.marked && facts.front.box !== '') || (v.series.quoteMarks && line.own.quoted);
  const begin = facts.front.box ? facts.front.at : facts.start;
  let cells: [number, number][] = [];
  const part = (sign: RegExp): void => {
    cells = partedBy(sign, text, begin, end).filter(([from, to]) => to > from);
  };
  part(/\s{3,}|\t+\s*/g);
  let sort = 'bare';
  let ticked = false;
  let said = -1;
  const [one, two] = cells;
  if (one && two && cells.length === 2 && /^(?:[xX✓✔✅*+]|true|right|correct|richtig|correcta?|juste|esatta|goed)$/iu.test(text.slice(...two))) {
    ticked = true;
    cells.length = 1;
  } else if (cells.length < 2) {
    part(STROKES);
    if (cells.length < 2 && v.before?.facts.asks && v.gap === 0) {
      part(DASHES);
      if (cells.length < 3) cells.length = 0;
    }
    const ok = cells.length >= 2 && cells.every(([a, b]) => b - a < 60 && !/[.?!]\s/.test(text.slice(a, b)));
    if (ok && cells.length === 2 && !v.series.habits?.strokes && !/\s\/\s/.test(text)) cells.length = 0;
    if (!ok || !cells.length) cells.splice(0, cells.length, [begin, end]);
    else {
      sort = 'strokes';
      said = keyBehind(text, cells);
    }
  } else sort = 'cells';
  if (facts.truth !== null && cells.length === 1) sort = 'truth';
  let w = W.oBare + (sort === 'truth' ? W.oTruth : sort === 'strokes' ? W.oStrokes : sort === 'cells' ? W.oCells : 0);
  if (facts.asks) w += W.bareAsks;
  if (facts.length > 110) w += W.bareLong;
  if (facts.keyAt !== null) w += W.saysKey;
  if (facts.field) w += W.saysField;
  if (line.heading || facts.part) w += W.oHeading;
  if (facts.gap) w += W.oGap;
  if (facts.truthBehind) w -= W.truthBehind;
  for (const l of facts.labels) if (l.form !== 'loose') w += l.cls === 'num' || l.cls === 'word' ? W.bareDespiteNumber : W.bareDespiteLetter;
  if (marked || ticked) w += W.bareMarked;
  w += v.series.groups.options[v.place] ?? 0;
  if (v.series.quotedOptions && line.own.quoted && (v.gap === 0 || v.after?.gap === 0)) w += W.oQuoted;
  return [
    {
      role: 'option',
      sort,
      weight: w,
      why: sort === 'truth' ? 'True or false, alone on a line.' : 'A short line among others like it.',
      at: facts.start,
      sig: sort,
      segments: cells.map(([from, to], i) => bareSegment(from, to, (marked && from === begin) || ticked || i === said)),
    },
  ];
}

/** Options, with labels and without, alone or several on a line. */
export const option: Recogniser = {
  name: 'option',
  examples: [
    ['> a) one', 'option'],
    ['> (B) two', 'option'],
    ['> - three', 'option'],
    ['> [x] four', 'option'],
    ['> a) one   b) two', 'option'],
    ['> ア、海', 'option'],
    ['> Options: rye, oat, spelt', 'option'],
    ['> plain words', 'option'],
  ],
  find: (v) => [...labelled(v), ...several(v), ...bulleted(v), ...named(v), ...bare(v)],
};

/** A line that goes on from the option above. */
export const moreOption: Recogniser = {
  name: 'wrapped option',
  examples: [['> and goes on here', 'more-option']],
  find(v) {
    const { facts } = v;
    if (facts.furniture) return [];
    let w = v.lower ? W.lowerGoesOn : W.moreOption;
    if (facts.keyAt !== null) w += W.saysKey;
    if (v.line.heading) w += W.oHeading;
    if (facts.front.bullet) w += W.bulletGoesOn;
    if (facts.asks) w += W.moreAsks;
    if (v.line.own.coated || v.series.counters.has(v.place)) w += W.utterance;
    const above = v.series.apart.get(v.place - 1);
    if (above && above.cls !== 'num') w += W.oApart;
    for (const l of facts.labels) if (l.form !== 'loose') w += l.cls === 'num' || l.cls === 'word' ? W.moreDespiteNumber : W.moreDespiteLetter;
    return [{ role: 'more-option', weight: w, why: 'Goes on from the option above.', at: facts.start }];
  },
};
