/** What a sign is worth behind a state, and the state that it leads to. */
import { plainOption } from '../signatures/answers.js';
import { entriesIn, groupsIn, keyness, letterEntriesIn, lettersIn } from '../signatures/entries.js';
import { LETTERS, plainSigns, wordsIn } from '../../language/labels.js';
import { truth } from '../../language/truths.js';
import type { Segment } from '../signatures/inline.js';
import { letterOrd } from '../signatures/label.js';
import type { Sign } from '../signs/sign.js';
import { BARE } from '../series/habits.js';
import type { Series } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import { asksForMore } from '../../language/words.js';
import { Mode, type Edge, State } from './state.js';
import { W } from '../model/weights.js';

/** What steps look at. */
export interface Terrain {
  units: readonly Unit[];
  series: Series;
}

/** What it earns or costs to be done with the question at hand. */
export function closing(s: State, g: Terrain): number {
  if (!s.inQuestion) return 0;
  let d = 0;
  const { habits } = g.series;
  if ((s.ask === 'matching' || s.ask === 'ordering') && s.rowLeft + s.rowRight === 0 && s.oCount === 0 && !s.keyed && !s.subSig) d += W.closeTask;
  if (s.brief && s.oCount === 0 && !s.keyed && !s.subSig && s.rowLeft === 0 && s.stemEnd === 0 && s.gaps === 0) d += W.closeBrief;
  if (s.plain && s.oCount === 0 && !s.keyed && s.stemEnd !== 1 && !s.ask) d += s.gaps ? W.closeUnasked * 0.3 : W.closeUnasked;
  if (s.noStem && !s.subSig) d += W.emptyStem;
  if (s.oCount === 1 && !s.said) d += W.closeSingle;
  if (s.oCount > 1 && s.dCount > 1) d += s.oCount === s.dCount ? W.closeSameCount : W.closeOtherCount;
  if (s.oCount > 1 && habits?.size && s.oCount !== habits.size) d -= 0.5;
  if (s.oCount > 8 && s.ask !== 'ordering') d += W.closeLongList * (s.oCount - 8);
  if (s.oCount === 0 && !s.keyed && !s.subSig && !s.ask && s.dCount > 1 && s.stemEnd !== 1) d += W.closeNothing;
  if (habits?.keyed && !s.keyed)
    d += s.oCount > 1 ? (s.plain && habits.plain === 'few' ? W.closePlainUnkeyed : W.closeUnkeyed) : s.plain && !s.ask && !s.subSig ? W.closePlainUnkeyed : 0;
  return d;
}

const wrapped = (u: Unit | undefined): boolean => u !== undefined && u.facts.open && u.facts.length > 45;

/** Makes of a state the one behind a line that is read as a sign says, and gives what that is worth; −∞ where it cannot be. */
export function step(s: State, n: State, u: Unit, g: Terrain, sign: Sign, certain: boolean): number {
  n.become(s);
  const gain = sign.weight + moved(s, n, u, g, sign, certain);
  n.place = s.place + (sign.take ?? 1);
  return gain;
}

const label0 = (sign: Sign): boolean => sign.label !== undefined && sign.label.cls !== 'word';
const NEVER = Number.NEGATIVE_INFINITY;
const forbidden = (certain: boolean): number => (certain ? -6 : NEVER);

function moved(s: State, n: State, u: Unit, g: Terrain, sign: Sign, certain: boolean): number {
  const f = u.facts;
  const before = g.units[s.place - 1];
  const gap = u.gap > 0;
  const lower = f.lower && !g.series.allLower;
  let d = 0;
  /** Ends the question at hand; gives what that is worth. */
  const leave = (): number => {
    if (s.oCount > 1) {
      n.dSig = s.oSig;
      n.dCount = s.oCount;
    }
    n.inQuestion = false;
    n.plain = false;
    n.oSig = '';
    n.oLast = n.oCount = n.oRow = 0;
    n.keyed = false;
    n.subSig = '';
    n.subLast = 0;
    n.ask = '';
    n.said = '';
    n.oSaid = false;
    n.rowLeft = n.rowRight = 0;
    n.rowSig = '';
    n.bare = false;
    return closing(s, g);
  };
  /** A key or note of the question below. */
  const above = (worth: number): number => {
    const left = s.inQuestion ? leave() : 0;
    n.mode = Mode.top;
    return worth + left + W.ahead;
  };
  const addOptions = (): void => {
    const segments = sign.segments ?? [];
    n.oRow = segments[0]?.ord || n.oLast + 1;
    for (const x of segments) {
      n.oCount++;
      n.oLast = x.ord > 1 || (x.ord && s.ask === 'ordering') ? Math.max(n.oLast, x.ord) : x.ord || n.oLast + 1;
    }
    if (s.oCount === 0) n.oIndent = u.line.indent;
    n.oSig = sign.sig ?? '';
    n.oSaid ||= certain;
    n.mode = Mode.options;
  };
  const openQuestion = (): number => {
    const worth = leave();
    n.mode = Mode.stem;
    n.inQuestion = true;
    n.none = false;
    n.qIndent = u.line.indent;
    n.head = 0;
    n.plain = sign.label === undefined;
    // "True or false?" alone asks for what stands below
    const truths =
      f.kind === 'true-false' &&
      f.words <= 12 &&
      sign.label !== undefined &&
      ((f.words <= 8 && /[?:]\s*(?:[([][^()[\]]*[)\]]\s*)?$/.test(f.trimmed)) || g.series.truthColumns !== null);
    n.ask = truths
      ? 'truths'
      : (sign.task ?? (s.partKind === 'ordering' || s.partKind === 'matching' ? s.partKind : f.kind === 'ordering' || f.kind === 'matching' ? f.kind : ''));
    n.stemEnd = f.asks ? 1 : f.open ? (f.asking && f.length < 60 ? 1 : 0) : 2;
    n.bare = !u.line.text.slice(sign.at, sign.to).trim();
    n.noStem = n.bare && sign.sort !== 'points' && sign.sort !== 'options';
    n.gaps = Math.min(3, f.gaps || Number(f.choices));
    n.brief = wordsIn(u.line.text.slice(sign.at, sign.to).trim()) <= (label0(sign) ? 4 : 3);
    if (
      ARROW.test(u.line.text) ||
      sign.keyInFront ||
      sign.keyBehind ||
      sign.keysBehind ||
      sign.truthTicked !== undefined ||
      f.truthBehind ||
      f.choices ||
      (g.series.bracketAnswers && /\([^()]{1,60}\)\s*$/.test(u.line.text))
    )
      n.keyed = true;
    return worth;
  };
  switch (sign.role) {
    case 'aside': {
      if (sign.sort === 'rule' || sign.sort === 'page' || (sign.sort === 'idle' && !s.inQuestion)) return 0;
      if (s.none && s.mode === Mode.top) d += 1.2;
      else if (s.mode === Mode.list && gap) {
        d += 0.6;
        // talk behind the list ends it
        if ((sign.weight < 1 || sign.sort === 'chat') && s.listCount > 0 && g.series.inList(s.place + 1) <= 0 && !g.units[s.place + 1]?.facts.entries.length)
          n.mode = Mode.top;
      }
      if (sign.weight < 1) {
        if (f.labels.some((l) => (l.cls === 'num' || l.cls === 'word') && l.form !== 'loose')) d -= 1.8;
        else if (f.labels.some((l) => l.form !== 'loose')) d -= 0.9;
        if (s.inQuestion && !gap) d -= 1.2;
        if (f.keyAt !== null) d -= 1.5;
      }
      if (sign.sort === 'chat') {
        if (gap && s.mode !== Mode.list) {
          d += s.inQuestion ? closing(s, g) * 0.5 : 0;
          n.mode = Mode.top;
        }
        if (!gap && s.inQuestion) d -= 2.5;
      }
      return d;
    }
    case 'write-on':
      return s.inQuestion ? 0.5 : 0;
    case 'bank':
      if (s.mode === Mode.list) return forbidden(certain);
      if (s.inQuestion && s.oCount > 0 && sign.sort === 'row') d -= 1;
      return d;
    case 'part': {
      if (f.groupEntries > (s.mode === Mode.list ? 0 : 1)) d -= 4.5;
      if (s.mode === Mode.list) {
        // a heading inside the list, or of what comes behind it
        d += f.part || g.series.inList(s.place + 1) > 0 ? 0.3 : -0.5;
        if (!f.part && f.words > 8 && !f.colon) d += W.sentenceInList;
        n.listLast = 0;
        n.head = 1;
        if (g.series.inList(s.place + 1) <= 0) {
          // behind a list a heading starts questions anew
          n.partKind = sign.kind ?? '';
        }
        return d;
      }
      d += leave();
      if (s.inQuestion && !gap) d += u.line.heading || f.part || g.series.heads.has(s.place) ? -0.3 : W.headTight;
      if (s.inQuestion && s.oCount === 0 && !s.keyed && !f.part && !u.line.heading && s.rowLeft === 0) d += W.headAfterOpen;
      n.mode = Mode.top;
      n.head = 1;
      n.partKind = sign.kind ?? '';
      const label = sign.label;
      if (label && label.cls !== 'num') {
        const same = s.qSig === label.sig;
        if (same && label.ord === s.qLast + 1) d -= 1.5;
      } else if (label) d -= s.qSig === label.sig && label.ord === s.qLast + 1 ? 2.5 : 0.8;
      return d;
    }
    case 'instruction': {
      if (s.mode === Mode.list) return forbidden(certain);
      if (s.inQuestion) {
        // its answer stands on the line of the question, so that the question is over
        const over = s.mode === Mode.stem && answered(s, before);
        d += gap || over ? -0.8 : -2.5;
        if (s.oCount === 0 && !s.keyed && s.rowLeft === 0) d -= 1;
        d += leave();
      } else if (s.head === 1) d += 1.3;
      n.mode = Mode.top;
      n.head = s.head || 2;
      if (sign.kind) n.partKind = sign.kind;
      return d;
    }
    case 'question':
      return question(s, n, u, g, sign, certain, openQuestion, addOptions);
    case 'sub': {
      const label = sign.label;
      // a part with options of its own is followed by the next part
      const goesOn = label !== undefined && s.subSig === label.sig && s.oSig !== label.sig && label.ord === s.subLast + 1;
      // never also where a person says that it is a question: then it is one of its own
      if (!s.inQuestion || (s.oCount > 0 && !goesOn) || s.ask === 'matching' || !label) return NEVER;
      if (s.oCount > 0) d += closing(s, g);
      if (!s.subSig) {
        if (label.ord !== 1) return NEVER;
        d += s.ask === 'truths' ? W.subTruths : s.stemEnd === 1 ? -2.5 : s.stemEnd === 2 ? 0.8 : -1.2;
        if (s.bare) d += 1.2;
        if (s.ask === 'ordering') d += W.subForStep;
        if (s.keyed) d -= 2;
      } else {
        if (label.sig !== s.subSig) return NEVER;
        d += label.ord === s.subLast + 1 ? 3.6 : -2;
      }
      if (g.series.namesPart(s.qLast, label.text)) d += W.subNamed;
      n.noStem = false;
      n.subSig = label.sig;
      n.subLast = label.ord;
      n.mode = Mode.stem;
      n.keyed = false;
      n.stemEnd = f.asks ? 1 : 2;
      n.oCount = 0;
      n.oSig = '';
      return d;
    }
    case 'stem': {
      // statements or steps inside the stem, and its words go on
      const listInStem =
        s.mode === Mode.options &&
        !s.oSaid &&
        s.inQuestion &&
        /^(?:num|rom|bullet|bare)/.test(s.oSig) &&
        (f.asks || f.colon || (f.open && f.gap)) &&
        s.oCount > 1;
      if ((s.mode !== Mode.stem && !listInStem && !(s.noStem && s.mode === Mode.notes && sign.sort === 'head')) || !s.inQuestion) return forbidden(certain);
      // behind a kind that is named the stem is one field; farther in it goes on
      if (s.said && !s.noStem && !(before && !gap && u.line.indent > before.line.indent + 2)) d -= 5;
      n.mode = Mode.stem;
      if (s.keyed && !s.noStem) d += gap ? W.stemBehindKey : answered(s, before) ? W.stemUnderAnswer : 0;
      if (listInStem) {
        n.oSig = '';
        n.oLast = n.oCount = n.oRow = 0;
        d += W.stemAfterList - s.oCount * 0.1;
      } else if (s.bare || s.noStem) d += f.labels.some((l) => l.ord === 1 && (l.cls === 'low' || l.cls === 'up') && l.form !== 'loose') ? 0 : W.stemUnderLabel;
      else if (!gap)
        d +=
          before && before.facts.open && !before.facts.asks
            ? wrapped(before)
              ? W.stemWrapped
              : s.stemEnd === 1
                ? W.stemAfterAsk * 0.5
                : W.stemTight * 2
            : before?.facts.asks
              ? W.stemAfterAsk
              : W.stemTight;
      else d += (s.stemEnd === 1 ? W.stemGapAfterAsk : s.stemEnd === 0 && lower ? 0.3 : W.stemGapOpen) + (s.plain ? W.stemGapPlain : 0);
      // "Question 3: Milk drinks", and the question itself below
      if (gap && s.edges[0]?.sign.label?.cls === 'word' && before && before.facts.words <= 8 && !before.facts.asks && !f.number) d += 2;
      // words that go on stand below those of the label's line; a column farther in is a list
      const opened = s.edges[0]?.sign;
      const under = g.units[s.place + 1];
      if (!gap && opened?.role === 'question' && opened.label && u.line.indent > opened.at + 2 && under?.gap === 0 && under.line.indent === u.line.indent)
        d += W.stemColumn;
      // a line wraps where it is full; short lines one below the other are more than one thing
      if (!gap && before && before.facts.open && !wrapped(before) && s.edges[0]?.sign.role === 'stem' && !before.facts.asks) d += W.stemShortLines;
      if (gap && s.edges[0]?.sign.role === 'write-on') d += W.stemAfterLines;
      n.stemEnd = f.asks ? 1 : f.open ? 0 : 2;
      n.gaps = Math.min(3, s.gaps + f.gaps);
      n.brief = s.brief && s.bare && f.words <= 3;
      if (sign.sort === 'head' && !s.bare && !s.noStem)
        d += s.mode === Mode.stem && s.edges[0]?.sign.label?.cls === 'word' && topical(before) ? W.stemBelowTopic : -3;
      if (!n.ask && (f.kind === 'ordering' || f.kind === 'matching')) n.ask = f.kind;
      n.bare = false;
      n.noStem = false;
      return d;
    }
    case 'code':
      if (s.mode === Mode.list) return d - 3;
      if (s.mode !== Mode.stem && s.mode !== Mode.options) d -= 3;
      return d;
    case 'option':
      return optionStep(s, n, u, g, sign, certain, addOptions);
    case 'more-option':
      if (s.mode !== Mode.options) return forbidden(certain);
      if (gap) d -= 2.5;
      d +=
        (before && before.facts.open && !before.facts.asks ? 0.5 : -1.2) +
        (before && before.facts.length > 40 ? 0.4 : -0.6) +
        // behind a mark the words of the line above start farther in than the line itself
        (before && u.line.indent > (before.facts.front.box ? before.facts.front.at : before.line.indent) ? 0.6 : 0);
      if (BARE.has(s.oSig)) d -= 1.2;
      return d;
    case 'note':
      if (s.mode !== Mode.options || BARE.has(s.oSig)) {
        if (s.mode === Mode.key && !gap) {
          n.mode = Mode.notes;
          return d;
        }
        return forbidden(certain);
      }
      if (gap) d -= 1;
      return d;
    case 'key': {
      if (g.series.ahead.has('key')) return s.mode === Mode.list ? forbidden(certain) : above(d);
      if (s.mode === Mode.list || !s.inQuestion) return forbidden(certain && s.inQuestion);
      if (sign.sort === 'alone' && s.oCount < 2) return forbidden(certain);
      if (sign.sort === 'paired' && (s.ask !== 'matching' || s.keyed || s.rowLeft + s.rowRight < 2)) return forbidden(certain);
      if (sign.sort === 'numbered' && sign.entries !== s.qLast) return forbidden(certain);
      // "Best response:" over the options announces them, and no key
      const below = g.units[s.place + 1];
      if (s.oCount === 0 && below?.gap === 0 && !u.line.text.slice(sign.at, sign.to).trim() && startsOptions(below, g.units[s.place + 2]))
        d += W.keyOverOptions;
      if (s.keyed) d += s.subSig ? -0.5 : W.keyAgain * (s.oCount === 0 && s.mode === Mode.stem ? 0.3 : 1);
      // an arrow set in deeper than the options speaks of the one above
      if (sign.sort === 'arrow' && s.mode === Mode.options && u.line.indent > s.oIndent && !gap) d += W.arrowUnderOption;
      if (s.mode === Mode.passage) d -= 4;
      if (s.said === 'matching' || s.said === 'ordering' || s.said === 'information') d -= sign.announced ? 3 : 8;
      d += resolves(s, u, sign, g);
      n.keyed = true;
      n.mode = Mode.key;
      n.bare = !u.line.text.slice(sign.at, sign.to).trim();
      return d;
    }
    case 'field': {
      if (sign.name && g.series.ahead.has(sign.name) && s.mode !== Mode.list) return above(d);
      if (s.mode === Mode.list) return d - 1.5;
      if (!s.inQuestion) d -= sign.name === 'hint' || sign.name === 'feedback' ? 3 : 4.5;
      const next = g.units[s.place + 1];
      if (sign.name === 'kind' && s.inQuestion && s.mode === Mode.stem && sign.kind) {
        n.said = sign.kind;
        n.ask = sign.kind === 'matching' || sign.kind === 'ordering' ? sign.kind : '';
        return d;
      }
      const goesOn =
        sign.name === 'feedback' &&
        s.mode === Mode.options &&
        !s.keyed &&
        next !== undefined &&
        next.facts.labels.some((l) => l.sig === s.oSig && l.ord === s.oLast + 1);
      // points on a line of their own may stand between a question and its options
      const between = sign.name === 'points' && g.series.pointLines && s.mode === Mode.stem;
      n.mode = goesOn ? Mode.options : between ? Mode.stem : Mode.notes;
      n.bare = !goesOn && !u.line.text.slice(sign.at).trim();
      return d;
    }
    case 'more': {
      if (s.mode !== Mode.key && s.mode !== Mode.notes) return forbidden(certain);
      if (s.bare) {
        d += W.moreUnderWord;
        n.bare = false;
        return d;
      }
      if (u.folded) d += W.moreFold;
      else if (gap) d += W.moreGap;
      else
        d +=
          (before && before.facts.open ? W.moreOpen : 0.1) +
          (s.mode === Mode.notes ? 0.6 : -0.2) +
          (before && u.line.indent > before.line.indent + 2 ? 0.4 : 0) +
          (before?.line.own.quoted && u.line.own.quoted ? 0.8 : 0);
      n.mode = Mode.notes;
      return d;
    }
    case 'set-field':
      if (s.inQuestion && sign.sort !== 'passage') return forbidden(certain);
      if (s.mode === Mode.list) return forbidden(certain);
      if (sign.sort === 'passage') {
        d += leave();
        n.mode = Mode.passage;
      } else if (!s.none && (sign.sort === 'language' || sign.sort === 'description')) d -= 4;
      return d;
    case 'passage': {
      if (s.mode === Mode.list) {
        if (!gap) return forbidden(certain);
        d -= 2;
      }
      if (s.mode === Mode.passage) {
        d += W.passageMore - (gap ? 0.7 : wrapped(before) ? -1.2 : 0);
        return d;
      }
      if (s.inQuestion) {
        d += gap ? -0.3 - (s.oCount || s.keyed ? 0 : 1.2) : W.passageOverTight;
        d += leave();
      } else d += s.head === 1 ? W.passageUnderHead : s.head === 2 ? 1 : s.none ? W.passageStart : 0.2;
      n.mode = Mode.passage;
      return d;
    }
    case 'row':
      return rowStep(s, n, u, g, sign, certain);
    case 'table':
      return tableStep(s, n, gap, sign, leave, certain);
    case 'list-head': {
      if (s.none) d += sign.sort === 'row' ? -2.5 : W.listNoQuestions;
      if (s.mode === Mode.list) d -= sign.sort === 'row' ? 0.5 : 2.5;
      else d += leave();
      if (s.inQuestion && !gap) d -= 1.5;
      if (s.ask === 'matching' && s.inQuestion && !s.keyed && sign.sort === 'row') d += W.listUnderTask;
      if (sign.sort !== 'row') {
        // what stands under it?
        let k = 0;
        for (let i = s.place + 1, seen = 0; i < g.units.length && seen < 3; i++) {
          const x = g.units[i] as Unit;
          if (x.facts.furniture) continue;
          seen++;
          const es = x.facts.entries;
          k +=
            g.series.inList(i) > 0
              ? 1
              : x.facts.keyAt !== null || x.facts.asks
                ? -1
                : es.length
                  ? 0.5
                  : x.facts.words <= 2
                    ? 0.4
                    : x.line.text.includes('|')
                      ? 1
                      : x.facts.part
                        ? 0.3
                        : -0.6;
        }
        d += Math.max(-3, Math.min(2.5, k)) - 0.6;
      }
      n.mode = Mode.list;
      n.listLast = 0;
      n.listCount = sign.sort === 'row' ? 1 : 0;
      n.head = 0;
      return d;
    }
    case 'list-entry': {
      const first = s.mode !== Mode.list;
      const entry = sign.sort === undefined || sign.sort === 'group' ? f.entries[0] : undefined;
      if (first) {
        if (s.none || !sign.entries) return forbidden(certain);
        if ((s.ask === 'ordering' || s.ask === 'matching') && s.inQuestion && !s.keyed && s.rowLeft + s.oCount < 2) d -= 4;
        d += W.listFirst + (s.inQuestion && !gap ? W.listFirstTight : 0);
        if (sign.entries < 2 && g.series.inList(s.place) <= 0) d -= 2;
        d += leave();
        n.listLast = 0;
      } else d += 0.5;
      n.mode = Mode.list;
      if (!first && sign.entries) d += f.labels.some((l) => l.cls === 'word') ? 3 : f.labels.length ? 1.2 : 0;
      if (entry && sign.sort === undefined) {
        const due = first ? 1 : s.listLast + 1;
        if (entry.number > 0) {
          if (entry.number === due || (entry.kind === 'dec' && entry.number % 100 === 1 && entry.number > s.listLast)) d += W.listNext;
          else if (entry.number === s.listLast && entry.sub) d += 1;
          else if (entry.number > s.listLast) d += entry.number <= s.listLast + 3 || s.listLast === 0 ? W.listJump : -0.5;
          else if (entry.number === 1 || s.head) d += W.listRestart;
          else d += W.listBack;
          const end = f.entries[f.entries.length - 1];
          n.listLast = Math.max(end?.until ?? 0, end?.number ?? 0);
        } else d += 1;
      } else if (sign.sort === 'bare' && isFullRow(s.edges[0]?.sign)) d += W.listFull;
      else if (sign.sort === 'bare' && s.listCount > 0) d -= s.listLast > 0 ? 1.5 : gap ? 2.5 : 0;
      if (f.asks) d += W.listAsk;
      // the first number is the one that the questions go on with
      if (entry && s.listLast === 0 && s.qLast > 1 && entry.number === s.qLast + 1 && f.entries.length === 1 && keyness([entry]) < 0.6) d += W.listGoesOn;
      n.listCount = s.listCount + 1;
      n.head = 0;
      return d;
    }
    case 'list-more':
      if (s.mode !== Mode.list || s.listCount === 0) return forbidden(certain);
      if (s.edges[0]?.sign.sort === 'chat') d += W.moreBehindTalk;
      if (f.entries.length) d -= 1.5;
      if (gap) d += W.listMoreGap + (isFullRow(s.edges[0]?.sign) ? W.listFull : 0);
      else d += before && u.line.indent > before.line.indent ? W.listMoreDeeper : lower ? 0.7 : 0;
      if (f.asks) d -= 1;
      return d;
    default:
      return 0;
  }
}

/** Whether a row of a list says the keys of all questions. */
const isFullRow = (sign: Sign | undefined): boolean => sign?.role === 'list-head' && sign.sort === 'row' && (sign.entries ?? 0) >= 3;
/** Whether the line above is a question with its answer behind it. */
function answered(s: State, above: Unit | undefined): boolean {
  const sign = s.edges[0]?.sign;
  return sign?.role === 'question' && (sign.keyBehind !== undefined || sign.keysBehind !== undefined || ARROW.test(above?.line.text ?? ''));
}
const ARROW = /(?:->|→|=>)\s*\S.{0,60}$/u;

/** Whether the words of a question's first line may be only its topic: few, and no sign at their end. */
const topical = (u: Unit | undefined): boolean => u !== undefined && u.facts.words <= 8 && !u.facts.asks && !u.facts.gap && u.facts.open;

/** Whether a line and the one below it are the first two options of a question. */
function startsOptions(u: Unit, next: Unit | undefined): boolean {
  if (!next || next.gap > 0) return false;
  if (u.facts.front.box && next.facts.front.box) return true;
  return u.facts.labels.some((l) => l.ord === 1 && l.form !== 'loose' && next.facts.labels.some((x) => x.sig === l.sig && x.ord === 2));
}

function question(s: State, n: State, u: Unit, g: Terrain, sign: Sign, certain: boolean, open: () => number, addOptions: () => void): number {
  const f = u.facts;
  const gap = u.gap > 0;
  const label = sign.label;
  let d = 0;
  if (sign.sort === 'plain' || sign.sort === 'card' || sign.sort === 'braces' || (sign.sort === 'task' && !label)) {
    if (s.mode === Mode.list) {
      if (!certain) return NEVER;
      d -= 6;
    }
    if (s.bare && s.inQuestion && !gap && s.mode === Mode.stem) d += W.taskUnderLabel;
    if (sign.sort === 'plain' || sign.sort === 'card') {
      if (s.inQuestion && s.mode === Mode.stem && !gap && !s.keyed) d += W.plainTight;
      if (s.inQuestion && s.oCount === 0 && !s.keyed && s.rowLeft === 0) d += W.plainAfterOpen;
      if (s.qSig && s.qSig !== 'turn') d += W.plainAmongNumbers;
      const { habits } = g.series;
      if (habits) d += habits.plain === 'most' ? W.plainMost : habits.plain === 'many' ? 0 : W.plainFew;
      if (s.oCount === 1 && !s.keyed) d -= 1;
      if (s.mode === Mode.passage && !gap) d -= 2;
      if (s.partKind === 'matching') d -= 1;
      if (s.partKind === 'true-false') d += W.plainInTruths;
      else if (s.partKind === 'cloze' || s.partKind === 'short-answer' || s.partKind === 'essay') d += W.plainInTruths * 0.4;
    } else {
      if (s.inQuestion && !gap) d -= 2;
      if (s.head) d += 0.5;
    }
    d += open();
    if (sign.segments) addOptions();
    return d;
  }
  if (!label) return forbidden(certain);
  if (s.mode === Mode.list) d += s.head ? W.afterListHead : f.asks && s.listCount > 1 ? W.afterList * 0.6 : W.afterList;
  const ord = label.ord;
  if (ord > 0) {
    const same = label.sig === s.qSig;
    const number = (sig: string): boolean => /^(?:num|word|dec)/.test(sig);
    if (!s.qSig) d += ord === 1 || label.cls === 'dec' ? W.firstIsOne : Math.max(-3, W.firstIsNot * ord);
    else if (label.cls === 'num' && s.qSig.startsWith('dec') && ord === Math.floor(s.qLast / 100) + 1) d += W.next * 0.8;
    else if (ord === s.qLast + 1) d += same ? W.next : number(label.sig) && number(s.qSig) ? W.nextOtherSign : W.otherSeries;
    else if (ord === s.qLast && label.sub) d += W.nextSub;
    else if (ord === 1 || (label.cls === 'dec' && ord % 100 === 1)) d += (s.head || label.cls === 'dec' ? W.restartUnderHead : W.restart) + (same ? 0.6 : -1.2);
    else if (ord > s.qLast) d += (same ? W.jumpStart : W.otherSeries) + W.jump * Math.min(4, ord - s.qLast - 1) + (s.head ? 0.5 : 0);
    else if (ord === s.qLast && same) d += W.repeat;
    else d += same ? W.backward : W.backward + W.otherSeries * 0.6;
    if (s.qSig && same && Math.abs(u.line.indent - s.qIndent) > 3 && label.cls !== 'rom') d += u.line.indent > s.qIndent ? W.deeper : -0.3;
  } else if (label.cls === 'turn') d += 1;
  // a question with nothing to answer, and numbers that start anew below it: that was a part
  if (ord === 1 && s.qSig === 'word' && (label.sig !== 'word' || s.qLast !== 1) && s.inQuestion && s.oCount === 0 && !s.keyed && !s.head)
    d += W.restartBelowWord;
  // it could as well go on the options above
  if (label.sig === s.oSig && s.oCount > 0 && ord === s.oLast + 1) d -= u.line.indent === s.oIndent && s.oIndent > s.qIndent ? 2.6 : 0.8;
  if (s.ask === 'matching' && s.mode === Mode.rows && label.cls === 'num' && ord === s.rowLeft + 1 && !f.asks) d -= 1.5;
  if (s.partKind === 'ordering' && s.head === 2 && s.mode === Mode.top && ord > 1 && s.qLast !== ord - 1) d += W.questionForStep;
  if (s.ask === 'ordering' && s.inQuestion && s.oCount === 0 && !s.keyed && !f.asks) d += W.questionForStep;
  // statements of a stem, counted in Roman numbers
  const above = g.units[s.place - 1]?.facts;
  if (
    label.cls === 'rom' &&
    s.inQuestion &&
    s.mode === Mode.stem &&
    s.qSig !== label.sig &&
    !s.keyed &&
    (ord === 1 ? above?.colon : above?.labels.some((l) => l.sig === label.sig && l.ord === ord - 1))
  )
    d += W.questionInList;
  const within = g.units[s.place + 1]?.facts.labels.find((l) => l.cls === 'dec');
  if (label.cls === 'num' && within && Math.floor(within.ord / 100) === ord) d -= 4;
  if (label.cls === 'turn' && s.noStem && s.inQuestion) d -= 6;
  if (s.partKind === 'matching' && f.bothSides) d -= 2;
  if (s.partKind === 'matching' && sign.sort !== 'task' && !f.kind && s.head) d -= 1;
  d += open();
  if (ord > 0) {
    n.qSig = label.sig;
    n.qLast = ord;
    n.qIndent = u.line.indent;
  } else if (label.cls === 'turn') n.qSig = 'turn';
  // "1 a) …", and "b) …" on the next line
  if (label.sub && !sign.subLabel) {
    n.subSig = `low${label.form}`;
    n.subLast = letterOrd(label.sub);
  }
  if (sign.subLabel) {
    n.subSig = sign.subLabel.sig;
    n.subLast = sign.subLabel.ord;
  }
  if (sign.segments) {
    addOptions();
    if (s.dCount && (sign.segments.length ?? 0) > s.dCount + 1) d -= 0.5;
  }
  return d;
}

const classOf = (sig: string): string => /^(?:num|up|low|roml|rom|other)/.exec(sig)?.[0] ?? sig;
/** Labels of one class may go on from one another though what stands around them differs; letters of one form, though they are large or small. */
const goOnAlike = (a: string, b: string): boolean => classOf(a) === classOf(b) || a.replace(/^up/, 'low') === b.replace(/^up/, 'low');

function optionStep(s: State, n: State, u: Unit, g: Terrain, sign: Sign, certain: boolean, addOptions: () => void): number {
  const gap = u.gap > 0;
  const sig = sign.sig ?? '';
  const segments = sign.segments ?? [];
  const ord = segments[0]?.ord ?? 0;
  const k = segments.length;
  let d = 0;
  if (s.mode === Mode.list || s.mode === Mode.rows || !s.inQuestion) {
    if (!certain || !s.inQuestion) return NEVER;
    d -= 6;
  }
  if (s.said) d += !/^(?:multiple|true|ordering)/.test(s.said) || BARE.has(sig) ? -6 : s.mode === Mode.stem || s.mode === Mode.options ? 4 : -4;
  if (s.subSig && s.mode === Mode.stem) d -= 0.5;
  if (s.ask === 'truths' && segments.some((x) => truth(u.line.text.slice(x.from, x.to), true) === null)) d += W.optionForStatement;
  if (s.mode === Mode.key || s.mode === Mode.notes)
    d += s.oCount > 0 && s.mode === Mode.notes && sig === s.oSig && ord === s.oLast + 1 ? -0.4 : W.optionAfterKey;
  if (BARE.has(sig)) {
    const amongLabels = s.oCount > 0 && s.oSig !== '' && s.oSig !== sig;
    if (amongLabels || s.subSig || (s.mode !== Mode.stem && s.mode !== Mode.options)) {
      if (!certain) return NEVER;
      // what a person said joins the options that are there, and their labels go on
      addOptions();
      if (amongLabels) {
        n.oSig = s.oSig;
        n.oLast = s.oLast;
      }
      return forbidden(certain);
    }
    const free = sign.sort === 'truth' || sign.sort === 'strokes';
    if (gap && s.edges[0]?.sign.role === 'write-on') d += W.bareAfterLines;
    if (s.oCount === 0) {
      if (s.bare) d -= 3;
      d += s.stemEnd === 1 ? W.bareFirstAsk : s.stemEnd === 0 ? W.bareFirstOpen : W.bareFirstClosed;
      if (k > 1) d += 0.5;
      if (u.line.indent > s.qIndent + 1 && s.mode === Mode.stem) d += W.bareDeeper;
      const below = g.units[s.place + 1];
      if (u.line.indent > s.qIndent + 4 && s.mode === Mode.stem && below?.gap === 0 && below.line.indent === u.line.indent) d += W.bareColumn;
      if (free) d += 1;
      else if (s.dSig) d += s.dSig === sig ? W.optionHabit : BARE.has(s.dSig) ? W.bareOtherHabit : W.bareAmongLabels;
      const { habits } = g.series;
      if (habits && !free) d += habits.bare === 'most' ? W.bareMost : habits.bare === 'many' ? 0 : W.bareFew;
      const next = g.units[s.place + 1];
      if (
        k === 1 &&
        (!next ||
          (next.gap !== 0 && next.gap !== u.gap) ||
          next.facts.labels.some((l) => (l.cls === 'num' || l.cls === 'word') && l.form !== 'loose') ||
          next.facts.keyAt !== null)
      )
        d -= 2;
    } else {
      const before = g.units[s.place - 1];
      d += gap ? (before && before.gap > 0 ? 0.2 : W.bareGap) : W.bareNext;
      if (s.oCount >= 5) d += W.bareMany * (s.oCount - 4);
    }
    addOptions();
    return d;
  }
  if (s.oCount === 0) {
    if (s.bare && sign.sort !== 'row') d -= 1.5;
    if (ord > 1) d += s.ask === 'ordering' && sig.startsWith('num') ? W.stepNotFirst : W.optionNotFirst;
    else d += ord === 1 ? W.optionFirst : -0.2;
    if (s.dSig) d += sig === s.dSig ? W.optionHabit : W.optionNewHabit;
    if (s.ask === 'ordering') d += 2.5;
    else if (sig === s.qSig) d += u.line.indent > s.qIndent + 1 ? W.optionSameAsQuestion * 0.3 : W.optionSameAsQuestion;
    if (sig.startsWith('num') && (ord === s.qLast + 1 || ord !== 1) && s.ask !== 'ordering') d -= 1.5;
    if (sign.sort === 'lead') d -= 0.3;
    if (s.stemEnd === 2 && !gap) d -= 0.2;
  } else {
    const same = sig === s.oSig;
    const alike = !same && goOnAlike(sig, s.oSig) && ord === s.oLast + 1;
    if (same && ord === 0) d += W.optionUnlabelled;
    else if (same || alike) {
      const due = ord === s.oLast + 1 || (s.oRow < s.oLast && ord === s.oRow + 1);
      d += due
        ? (sig.startsWith('num') ? W.optionNextNumber : W.optionNext) - (alike ? 1 : 0)
        : ord > s.oLast
          ? k > 1
            ? 1
            : W.optionJump
          : s.ask === 'ordering' && sig.startsWith('num')
            ? W.stepShuffled
            : ord === s.oLast
              ? u.facts.labels.some((l) => l.sig === sig && l.form === 'loose')
                ? W.optionArticle
                : W.optionRepeat
              : ord === 1
                ? W.optionRestart
                : s.oCount < s.oLast
                  ? W.optionFillsHole
                  : -1.2;
      if (sig.endsWith(' ')) d += 0.6;
    } else if (
      ord === 1 &&
      s.mode === Mode.options &&
      !s.oSaid &&
      sig !== 'bullet' &&
      (s.oSig === 'bullet' || BARE.has(s.oSig) || /^(?:num|rom)/.test(s.oSig)) &&
      s.ask !== 'matching'
    ) {
      // statements or steps in the stem; the options come now
      d += W.optionListInStem + W.optionFirst;
      n.oCount = 0;
      n.oLast = 0;
    } else d += s.oSig === 'box' && ord === 0 ? 1 : W.optionOther;
    if (sig === s.qSig && ord === s.qLast + 1 && ord !== s.oLast + 1) d -= 2;
    if (gap && ord === 0) d -= 1.2;
  }
  if (s.ask === 'matching') d -= 1;
  addOptions();
  if (k > 1 && s.dCount && n.oCount > s.dCount + 1) d -= 1;
  return d;
}

function rowStep(s: State, n: State, u: Unit, g: Terrain, sign: Sign, certain: boolean): number {
  if (s.ask !== 'matching' || !s.inQuestion || s.oCount > 0 || s.subSig) return forbidden(certain);
  const f = u.facts;
  const gap = u.gap > 0;
  const label = sign.label;
  let d = 0;
  if (s.keyed) d -= 4;
  if (g.series.heads.has(s.place)) d += W.rowHeads;
  const open = s.mode === Mode.stem || s.mode === Mode.rows;
  if (!open) d -= 5;
  else if (s.said === 'matching') d += sign.announced ? 6 : -3;
  if (sign.sort === 'heads') {
    n.mode = Mode.rows;
    return 1.5;
  }
  if (sign.sort === 'pair') {
    if (label && label.cls === 'num')
      d += label.ord === s.rowLeft + 1 ? W.rowNumbered + (sign.sides?.labelled ? 1 : 0) : s.rowLeft === 0 ? 2.2 + (sign.sides?.labelled ? 2.4 : 0) : -1;
    else d += sign.sides?.labelled ? W.rowBothLabelled : W.rowPair;
    if (f.prefix.at > f.start) d += 1.5;
    if (sign.keyInFront && sign.sides?.labelled) d += W.rowKeyed;
    if (gap && s.rowLeft > 1) d += label ? -0.8 : -2;
    n.rowLeft++;
    if (label?.cls === 'num') n.rowLeft = label.ord;
  } else if (sign.sort === 'side' && label) {
    if (sign.sides?.labelled) d -= 3;
    if (f.kind === 'ordering' || f.kind === 'matching') d -= 3;
    if (label.cls === 'num') {
      d += label.ord === s.rowLeft + 1 ? W.rowNumbered : W.rowOutOfOrder;
      if (s.rowSig && s.rowSig !== label.sig) d += W.rowOtherSeries;
      if (f.asks) d -= 2;
      n.rowLeft = label.ord;
    } else {
      d += label.ord === s.rowRight + 1 ? W.rowNumbered : W.rowOutOfOrder;
      n.rowRight = label.ord;
    }
    if (gap && label.ord > 1 && f.words > 8) d += W.rowGap;
    if (asksForMore(f.trimmed.slice(label.at - f.start))) d += W.rowAsksForMore;
  } else d += f.front.bullet ? 1 : s.rowLeft + s.rowRight ? -0.4 : 0.6;
  if (label?.cls === 'num') n.rowSig = label.sig;
  n.mode = Mode.rows;
  return d;
}

function tableStep(s: State, n: State, gap: boolean, sign: Sign, leave: () => number, certain: boolean): number {
  if (sign.sort === 'keys') {
    if (s.mode !== Mode.list) {
      if (s.none) return forbidden(certain);
      n.listCount = 1;
      const worth = leave();
      n.mode = Mode.list;
      return worth + (gap ? W.keyTableApart : W.keyTableTight);
    }
    n.listCount++;
    return 4;
  }
  if (sign.sort === 'pairs') {
    if (s.ask !== 'matching' || !s.inQuestion || s.keyed) return forbidden(certain);
    n.mode = Mode.rows;
    n.rowLeft += sign.take ?? 1;
    return W.tableTask;
  }
  if (sign.sort === 'stem') {
    if (!s.inQuestion || s.mode !== Mode.stem || s.keyed) return forbidden(certain);
    n.stemEnd = 2;
    return 0;
  }
  if (sign.sort === 'aside') return s.mode === Mode.list ? -3 : 0;
  n.mode = Mode.top;
  n.none = false;
  return leave();
}

/** The words of an option as they are compared, found once for all states that have read it. */
function wordsOf(option: Segment, text: string): string {
  let words = optionWords.get(option);
  if (words === undefined) optionWords.set(option, (words = plainOption(text.slice(option.from, Math.min(option.to, option.from + 120)))));
  return words;
}
const optionWords = new WeakMap<Segment, string>();

/** The words of the options that a state has read, as they are compared, and their labels. */
function optionsRead(s: State, g: Terrain): { label: string; words: string }[] {
  const out: { label: string; words: string }[] = [];
  let at: State | undefined = s;
  for (let i = 0; at && i < 24 && at.oCount > 0; i++) {
    const [edge]: Edge[] = at.edges;
    if (!edge) break;
    const { sign } = edge;
    const text = g.units[edge.from.place]?.line.text ?? '';
    for (const x of [...(sign.segments ?? [])].reverse()) out.unshift({ label: x.label, words: wordsOf(x, text) });
    if (sign.role === 'question' || sign.role === 'sub') break;
    at = edge.from;
  }
  return out;
}

const LABEL = new RegExp(`^[("'[]*\\s*(?:option\\s+)?(الف|[${LETTERS}]|\\d{1,2})(?:[)\\].:,;]|\\s|$)`, 'u');
/** How well a key says one of the options that stand above it. */
function resolves(s: State, u: Unit, sign: Sign, g: Terrain): number {
  const value = u.line.text.slice(sign.at, sign.to).trim();
  if (!value) return 0;
  const letters = lettersIn(value);
  if (
    letters >= 3 &&
    s.ask !== 'matching' &&
    s.ask !== 'ordering' &&
    s.gaps < 2 &&
    !s.subSig &&
    g.series.asMany(letters) > 2 &&
    !/^(?:a?b?c?d?e?f?)$/i.test(value.replace(/[^A-Za-z]/g, ''))
  )
    return W.keyIsList;
  // "mammal, reptile, mammal" behind three questions
  if (s.oCount === 0 && s.gaps < 2 && sign.announced && s.ask !== 'ordering' && s.ask !== 'matching') {
    const each = value.split(/\s*[,;]\s*/);
    const apart = u.gap > 0 && g.series.soleKey && s.qLast === each.length;
    if (each.length > 2 && g.series.asMany(each.length) > 2 && (new Set(each).size < each.length || s.gaps === 1 || apart)) return W.keyIsList;
  }
  if (sign.announced && groupsIn(value).length) return W.keyIsList;
  const listed = s.ask !== 'matching' && s.ask !== 'ordering' ? entriesIn(value) : [];
  const several = listed.length;
  // "1a …, 1b …, 2a …" behind the last part is the list of all
  if (s.subSig && s.oCount === 0 && several >= 3 && new Set(listed.map((e) => e.number)).size > 1) return W.keyIsList;
  if (/^(?:up|low)/.test(s.qSig) && s.qLast > 1 && letterEntriesIn(value).length >= Math.min(3, s.qLast)) return W.keyIsList;
  if (s.oCount === 0)
    return several && several >= 2 && s.gaps < 2 && !s.subSig
      ? W.keyIsList
      : sign.announced || sign.sort === 'alone' || sign.sort === 'arrow' || sign.sort === 'numbered'
        ? 0
        : W.keyUnresolved;
  if (several && several >= 2) return W.keyIsList;
  const label = LABEL.exec(plainSigns(value))?.[1];
  const options = optionsRead(s, g);
  const said = value.split(/\s*[,;]\s*/).map(plainOption);
  if (new Set(said).size < said.length && said.every((w) => options.some((o) => o.words === w || o.label.toLowerCase() === w))) return W.keyIsList;
  if (label && options.some((o) => o.label.toUpperCase() === label.toUpperCase())) return W.keyResolves;
  const words = plainOption(value.slice(0, 120));
  if (options.some((o) => o.words === words || (o.words.length > 3 && (words.startsWith(o.words) || (words.length > 7 && o.words.startsWith(words))))))
    return W.keyResolves;
  const letter = label && value.length < 4 ? (/\d/.test(label) ? Number(label) : letterOrd(label)) : 0;
  if (letter) return letter <= s.oCount && !options.some((o) => o.label) ? W.keyResolves : W.keyUnresolved;
  return sign.announced ? 0 : W.keyUnresolved * 2;
}
