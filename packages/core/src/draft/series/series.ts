/** What the whole draft does again and again: labels that rise, words that announce, runs of entries that fit the questions. Evidence for the search, never a decision. */
import { behindHead } from '../signatures/questionHead.js';
import { plainForms } from '../../language/labels.js';
import { judged, judgedBehind, keyLine } from '../signatures/keyWords.js';
import type { Line } from '../surface/lines.js';
import { memoised, placeOf } from '../surface/lines.js';
import { truth, truthLegend } from '../../language/truths.js';
import { shows } from '../signatures/shows.js';
import { CONTINUED, PAGE_TAIL } from '../../language/words.js';
import { answerBehind } from '../signatures/behind.js';
import { announced } from '../signatures/announce.js';
import { entriesIn, type ListEntry } from '../signatures/entries.js';
import { subParts } from '../signatures/subParts.js';
import { factsOf } from '../signatures/facts.js';
import { letterAndNumber, turnLabel, type Label } from '../signatures/label.js';
import { W } from '../model/weights.js';
import { groupsOf, type Groups } from './groups.js';
import type { Habits } from './habits.js';
import { openingsIn, type Openings } from './openings.js';
import { listRegions } from './regions.js';
import { hasBraces } from '../signatures/braces.js';
import { answersAlone, answersInPair, quotedAnswer, type Unit } from '../signatures/unit.js';
import { bracketEnd, fillsBlank, isNote, saysAnswer } from '../signatures/bracketEnd.js';
import { cardOf } from '../signatures/card.js';

const NEARLY_ALL_CARDS = 0.8;
/** So many lines with text stand at the start of a draft. */
const NEAR_START = 3;

/** "…?      Yes / No" */
const CHOICE = /[?？.!:]\s+(\p{L}{1,12}\s*[/|]\s*\p{L}{1,12})\s*$/u;
const choiceAtEnd = (text: string): string | undefined => CHOICE.exec(text.slice(-60))?.[1]?.replace(/\s+/g, ' ');
/** "Part A: 1 b, 2 c" */
function entriesBehindWords(text: string): readonly ListEntry[] | null {
  const lead = /^[^:]{2,60}:\s+(?=\d)/.exec(text);
  return lead ? entriesIn(text.slice(lead[0].length)) : null;
}

/** How often short lines say the same words. Keeps what was asked of it, for those who remember the answers. */
export class Texts {
  private readonly counts = new Map<string, number>();
  /** What was asked since this was emptied, with the answers: no line, one, or more. */
  asked = new Map<string, number>();

  /** Counts words once more. */
  add(words: string): void {
    this.counts.set(words, (this.counts.get(words) ?? 0) + 1);
  }
  /** 0, 1, or 2 for more. */
  times(words: string): number {
    return Math.min(2, this.counts.get(words) ?? 0);
  }
  /** How often words stand (0, 1, or 2 for more). That they were asked for is remembered. */
  get(words: string): number {
    const n = this.times(words);
    this.asked.set(words, n);
    return n;
  }
  /** Whether words stand anywhere. That they were asked for is remembered. */
  has(words: string): boolean {
    return this.get(words) > 0;
  }
  /** Whether what was asked before would be answered in the same way. */
  stillSay(asked: ReadonlyMap<string, number>): boolean {
    for (const [words, n] of asked) if (this.times(words) !== n) return false;
    return true;
  }
}

interface Count {
  count: number;
  ones: number;
  max: number;
  rising: number;
  last: number;
}

/** The word that a line opens with; empty where none does. */
export const openingWord = (line: Line): string => factsOf(line).opening?.word ?? '';
const announcing = (text: string): number | null => announced(text) ?? keyLine(text);

/** What comes again over the whole draft. Made once for each reading, and asked by recognisers and search. */
export class Series {
  readonly units: readonly Unit[];
  readonly repeated: ReadonlySet<string>;
  /** Questions and answers take turns: "Q: …", "A: …". */
  readonly talk: boolean;
  private readonly counts = new Map<string, Count>();
  private readonly openings: Openings;
  /** Words that a person said announce keys. */
  private readonly taughtKeys = new Set<string>();
  /** Places of what a person said to an assistant, and of the names of both. */
  readonly spoken: ReadonlySet<number>;
  /** Most lines start with a small letter, so that it says nothing. */
  readonly allLower: boolean;
  /** The words of all short lines without their labels: what options may say. */
  readonly texts = new Texts();
  /** A quote sign stands in front of some options and of little else: it marks the keys. */
  readonly quoteMarks: boolean;
  /** An X behind an option marks the key. */
  readonly tailX: boolean;
  /** Signs right behind some options that mark the keys of this draft: "+", "!", "#". */
  readonly tailSigns: ReadonlySet<string>;
  /** The letter of answers that take turns with the questions, as "R" in "P1. …", "R1. …"; empty where there is none. */
  readonly answerLetter: string;
  /** One line announces a key, and no other does. */
  private readonly announced: number;
  /** How many lines have a truth value in brackets in front of a statement. */
  readonly truthFronts: number;
  /** Answers stand behind a dash on the numbered lines: "1. Capital of France – Paris". */
  readonly dashAnswers: ReadonlySet<Line>;
  /** Points stand in brackets at the right edge. */
  readonly edgePoints: boolean;
  /** Unquoted lines below quoted questions answer them, as in mails. */
  readonly replies: boolean;
  /** Two words between strokes, at the end of several lines: "Yes / No". */
  readonly choices: ReadonlySet<string>;
  /** Quoted lines right below the questions answer them. */
  readonly quotedAnswers: boolean;
  /** Several quoted lines stand below one that is not, again and again. */
  readonly quotedOptions: boolean;
  /** One line, set in deeper, stands below each question, and nothing more: its answer. */
  readonly answersBelow: boolean;
  /** Each question stands apart with one line below it, which answers it. */
  readonly answersInPairs: boolean;
  /** Answers stand in braces. */
  readonly braces: boolean;
  /** Answers stand behind the question marks of nearly all questions, on their lines. */
  readonly answersBehind: boolean;
  /** A star behind questions is a form's mark that they must be answered. */
  readonly required: boolean;
  /** The parts of questions that entries of key lists name: "1a", "2c". */
  readonly parts = new Set<string>();
  /** Names of fields, and "key", that stand above their questions throughout. */
  readonly ahead: ReadonlySet<string>;
  /** Words behind a dash call options right or wrong: "B) steam – Correct! …". */
  readonly verdicts: boolean;
  /** Words in front call options right or wrong. */
  readonly judges: boolean;
  /** Answers stand in brackets behind their questions. */
  readonly bracketAnswers: boolean;
  /** What two columns of boxes or ticks are headed with, if any line does, and the middle of either in characters from the edge. */
  readonly truthColumns: TruthColumns | null;
  /** The signs that a legend gives for true and false. */
  readonly legend: readonly [string, string] | null;
  /** Share of the lines with text that are a question and its answer: "what is a baby swan called - cygnet". */
  readonly cards: number;
  /** Nearly all lines are cards, so that those of one word are too: "Zwiebel - onion". */
  readonly briefCards: boolean;
  /** Share of the questions without options whose answer stands behind an arrow on the next line. */
  readonly arrows: number;
  /** Points stand in brackets on lines of their own. */
  readonly pointLines: boolean;
  /** Places of labels that stand alone on a line, their words on the next, as some pages come apart when they are copied. */
  readonly apart: ReadonlyMap<number, Apart>;
  /** Places of lines that head parts: capitals or Roman numbers that rise once, each over numbered questions. */
  readonly heads: ReadonlySet<number>;
  /** Places of lines that only count what stands below. */
  readonly counters: ReadonlySet<number>;
  /** Numbers that questions have. */
  private readonly numbers = new Set<number>();
  readonly groups: Groups;
  private readonly lists: { inList: Float32Array; heads: Float32Array };
  habits: Habits | null = null;

  constructor(lines: readonly Line[]) {
    const units: Unit[] = [];
    let gap = 1;
    let folded = false;
    for (const line of lines) {
      if (line.own.fold > 0) folded = true;
      if (line.blank) gap++;
      else {
        const facts = factsOf(line);
        units.push({ line, facts, gap, folded });
        // a rule parts as a blank line does
        gap = facts.furniture === 'rule' ? 1 : 0;
      }
      if (line.own.fold === -1 || line.own.fold === 2) folded = false;
    }
    this.units = units;
    let q = 0;
    let a = 0;
    let b = 0;
    for (const [place, label] of wordsBehindNumbers(units)) {
      const u = units[place];
      if (u) u.facts = u.facts.labelled(label);
    }
    this.openings = openingsIn(units);
    for (const [place, label] of this.openings.labels) {
      const u = units[place];
      if (u) u.facts = u.facts.labelled(label);
    }
    for (const u of units) {
      for (const l of u.facts.labels) {
        const c = this.counts.get(l.sig) ?? { count: 0, ones: 0, max: 0, rising: 0, last: 0 };
        c.count++;
        if (l.ord === 1) c.ones++;
        if (l.ord === c.last + 1) c.rising++;
        c.last = l.ord;
        c.max = Math.max(c.max, l.ord);
        this.counts.set(l.sig, c);
      }
      if (shows(u.line, 'turnQ')) q++;
      else if (shows(u.line, 'turnA')) a++;
      else if (shows(u.line, 'turnB')) b++;
    }
    this.talk = q >= 2 && a >= 2 && a >= q * 0.5 && b === 0;
    // "Q what is …", "A a herb": the letters stand without a sign
    if (this.talk)
      for (const u of units) {
        const m = /^\s*Q\s+(?=\p{L})/u.exec(u.line.text);
        if (m) u.facts = u.facts.labelled(turnLabel(u.facts.start, m[0].length));
      }
    for (const u of units) {
      const n = u.facts.labels.find((l) => (l.cls === 'num' || l.cls === 'word' || l.cls === 'dec') && l.form !== 'loose');
      if (n && u.facts.words > 2) this.numbers.add(n.ord);
    }
    for (const u of units) {
      const f = u.facts;
      if (f.length > 110 || f.furniture || f.asks || f.entries.length > 1) continue;
      if (f.number && f.number.form !== 'loose') continue;
      const words = f.plain;
      if (words.length > 2) this.texts.add(words);
    }
    this.repeated = repeatedLines(units);
    this.apart = apartLabels(units);
    this.pointLines = units.filter((u) => shows(u.line, 'pointsAlone')).length >= 2;
    this.heads = partChain(units);
    this.counters = this.openings.heads;
    this.groups = groupsOf(units);
    const full = units.filter((u) => !u.facts.furniture);
    this.answerLetter = answerLetterOf(units);
    this.announced = units.filter((u) => u.facts.keyAt !== null).length;
    this.truthFronts = units.filter((u) => shows(u.line, 'truthFirst')).length;
    const tails = new Map<string, number>();
    for (const u of units) {
      const tail = memoised(u.line, choiceAtEnd);
      if (tail) tails.set(tail, (tails.get(tail) ?? 0) + 1);
    }
    this.choices = new Set([...tails].filter(([, n]) => n >= 2).map(([tail]) => tail));
    const asking = units.filter((u) => u.facts.asks).length;
    const below = units.filter((_, i) => answersAlone(units, i)).length;
    this.answersBelow = below >= 2 && below >= asking * 0.6;
    const inPairs = units.filter((_, i) => answersInPair(units, i)).length;
    this.answersInPairs = inPairs >= 3 && inPairs >= asking * 0.8;
    this.braces = hasBraces(units);
    this.ahead = aheadOf(units);
    const signed = full.filter((u) => u.facts.number && u.facts.number.form !== 'loose' && u.facts.words > 2);
    // where no number has a sign, a number and a blank are labels too
    const numberedLines = signed.length ? signed : full.filter((u) => u.facts.number && u.facts.words > 2);
    const answered = numberedLines.filter((u) => memoised(u.line, answerBehind) !== null).length;
    const otherwise = numberedLines.filter(
      (u) => memoised(u.line, answerBehind) === null && (u.facts.truthBehind || (u.facts.dashAnswer && !u.facts.dashAnswer.brief)),
    ).length;
    this.answersBehind = answered >= 2 && answered + otherwise >= 3 && answered + otherwise >= numberedLines.length * 0.6;
    this.dashAnswers = dashedRuns(full);
    const quotedAsks = units.filter((u) => u.line.own.quoted && u.facts.asks).length;
    const replied = units.filter((u, i) => !u.line.own.quoted && u.gap === 0 && units[i - 1]?.line.own.quoted && units[i - 1]?.facts.asks).length;
    this.replies = replied >= 2 && replied >= quotedAsks * 0.6;
    const quotedLines = units.filter((u) => u.line.own.quoted).length;
    const below2 = units.filter((u, i) => quotedAnswer(units, i)).length;
    const runs = units.filter((u, i) => u.gap === 0 && u.line.own.quoted && units[i - 1]?.line.own.quoted === false && quotedBelow(units, i)).length;
    this.quotedOptions = runs >= 2 && quotedLines < units.length * 0.9;
    this.quotedAnswers = below2 >= 2 && below2 >= quotedLines * 0.8;
    const stars = full.filter((u) => shows(u.line, 'star'));
    this.edgePoints = full.filter((u) => shows(u.line, 'edgePoints')).length >= 2;
    this.required = stars.length >= 2 && stars.filter((u) => u.facts.asks || shows(u.line, 'starAfterStop')).length >= stars.length * 0.6;
    for (const u of units) {
      const entries = u.facts.entries.length ? u.facts.entries : (memoised(u.line, entriesBehindWords) ?? []);
      for (const e of entries) {
        const parts = e.sub ? [] : subParts(e.value);
        if (parts.length > 1) for (const p of parts) this.parts.add(`${e.number}${p.sub}`);
      }
      if (entries.length > 1 || this.parts.size) for (const e of entries) if (e.sub && e.value) this.parts.add(`${e.number}${e.sub}`);
    }
    const judgedOptions = full.flatMap((u) => (u.facts.length < 300 ? (memoised(u.line, judgedBehind) ?? []) : []));
    this.verdicts = judgedOptions.length >= 3 && judgedOptions.some((j) => j.right) && judgedOptions.some((j) => !j.right);
    const judgements = full.flatMap((u) => (u.facts.length < 200 ? (memoised(u.line, judged) ?? []) : []));
    this.judges = judgements.filter((j) => !j.right).length >= 2 && judgements.some((j) => j.right);
    this.bracketAnswers = answersInBrackets(units, full.length);
    this.spoken = spokenLines(units);
    this.allLower = full.length >= 4 && full.filter((u) => u.facts.lower).length > full.length * 0.45;
    this.legend =
      units.slice(0, 12).reduce((found: readonly [string, string] | null, u) => found ?? memoised(u.line, truthLegend), null) ??
      (units.some((u) => u.facts.length < 200 && shows(u.line, 'ringOrCross')) ? ['O', 'X'] : null);
    this.truthColumns = units.reduce((found: TruthColumns | null, u) => {
      const heads = found || u.facts.length >= 60 ? null : memoised(u.line, truthHeads);
      return heads ? { values: heads.values, middles: [columnOf(u.line, heads.middles[0]), columnOf(u.line, heads.middles[1])] } : found;
    }, null);
    const cards = full.flatMap((u) => (u.facts.labels.some((l) => l.form !== 'loose') || u.facts.inline.length ? [] : (memoised(u.line, cardOf) ?? [])));
    this.briefCards = full.length >= 4 && cards.length >= full.length * NEARLY_ALL_CARDS;
    this.cards = full.length < 4 ? 0 : cards.filter((c) => this.briefCards || !c.brief).length / full.length;
    this.arrows = units.filter((u) => shows(u.line, 'arrow')).length;
    this.lists = listRegions(units, this.texts);
    this.tailSigns = tailSignsOf(units);
    const quoted = full.filter((u) => u.line.own.quoted).length;
    this.quoteMarks =
      quoted >= 2 &&
      full.filter((u, i) => u.line.own.quoted && (u.gap === 0 || full[i + 1]?.gap === 0)).length >= quoted * 0.6 &&
      quoted < full.length * 0.4 &&
      full.every((u, i) => !u.line.own.quoted || pointed(u) === pointed(full[i - 1]) || pointed(u) === pointed(full[i + 1])) &&
      units.every((u, i) => !u.line.own.quoted || !units[i + 1]?.line.own.quoted || units[i + 1]?.gap !== 0 || quoted > 5);
    this.tailX = units.filter((u) => shows(u.line, 'tailX') && u.facts.words < 24).length >= 3;
  }

  /** All that the draft does throughout and that signs look at, in one text to compare. */
  get manner(): string {
    const o = this.openings;
    return JSON.stringify([
      this.letterQuestions,
      this.habits?.strokes ?? false,
      this.many,
      [...this.numbers],
      [...this.repeated],
      [...o.keys, '', ...o.reasons, '', ...o.notes, '', ...this.taughtKeys],
      [this.replies, this.edgePoints, this.braces, this.answersBelow, this.answersInPairs, this.quotedAnswers, this.quotedOptions, ...this.choices],
      [this.talk, this.allLower, this.quoteMarks, this.tailX, this.judges, this.answersBehind, this.pointLines, this.briefCards, this.numbered, this.keyedEach],
      [this.truthFronts, this.cards, this.arrows, this.answerLetter],
      this.truthColumns && Object.values(this.truthColumns),
      this.legend,
      this.required,
    ]);
  }
  /** The same for what only steps look at. */
  get course(): string {
    const h = this.habits;
    const habits = h
      ? Object.values(h).map((x: unknown) => (x instanceof Map || x instanceof Set ? [...x] : x))
      : Array.from(this.counts.keys(), (sig) => [sig, this.asQuestion(sig), this.asOption(sig)]);
    return JSON.stringify([this.bracketAnswers, this.soleKey, [...this.ahead], [...this.parts], habits]);
  }
  /** Whether the series say the same of a place as another reading does. */
  alike(place: number, o: Series, there: number): boolean {
    return (
      (place === there || Math.min(place, there) >= NEAR_START) &&
      this.groups.asks[place] === o.groups.asks[there] &&
      this.groups.options[place] === o.groups.options[there] &&
      this.inList(place) === o.inList(there) &&
      this.headsList(place) === o.headsList(there) &&
      this.heads.has(place) === o.heads.has(there) &&
      this.counters.has(place) === o.counters.has(there) &&
      this.answersItself(place) === o.answersItself(there) &&
      this.spoken.has(place) === o.spoken.has(there) &&
      this.apart.get(place)?.ord === o.apart.get(there)?.ord &&
      this.apart.get(place)?.cls === o.apart.get(there)?.cls
    );
  }
  private answersItself(place: number): boolean {
    const line = this.units[place]?.line;
    return line !== undefined && this.dashAnswers.has(line);
  }
  /** What the series say of a place, with the gaps around it. */
  placeOf(place: number): string {
    const { units } = this;
    const apart = (i: number): string => {
      const a = this.apart.get(i);
      return a ? `${a.cls}${a.ord}` : '';
    };
    const gap = (i: number): number => Math.min(2, units[i]?.gap ?? -1);
    return `${Math.min(place, NEAR_START)} ${gap(place - 1)}${gap(place)}${gap(place + 1)}${gap(place + 2)}${units[place]?.folded ? 'f' : ''} ${this.groups.asks[place] ?? 0} ${this.groups.options[place] ?? 0} ${this.inList(place)} ${this.headsList(place)} ${apart(place - 1)},${apart(place)} ${this.heads.has(place) ? 'h' : ''}${this.counters.has(place) ? 'c' : ''}${this.answersItself(place) ? 'a' : ''}${this.spoken.has(place) ? 's' : ''}`;
  }
  /** What the counting of labels says for a series as numbers of questions. */
  asQuestion(sig: string): number {
    const h = this.habits;
    if (h) return h.idle.has(sig) ? W.habitIdle : (h.question.get(sig) ?? W.habitNone);
    const c = this.counts.get(sig);
    if (!c || c.count < 3) return 0;
    if (c.ones >= 3 && c.max <= 8 && c.count / c.ones >= 2) return W.restartsOften;
    return c.ones <= 2 && c.max >= 3 && c.rising >= c.count * 0.5 ? W.risesOnce : 0;
  }
  /** The same for a series as labels of options. */
  asOption(sig: string): number {
    const h = this.habits;
    if (h) return h.option.get(sig) ?? W.habitNone * 0.6;
    const c = this.counts.get(sig);
    if (!c || c.count < 3) return 0;
    if (c.ones >= 2 && c.max <= 10 && c.count / c.ones >= 2) return -W.restartsOften * 0.6;
    return c.ones <= 1 && c.max >= 11 ? -W.risesOnce : 0;
  }
  /** Whether letters label the questions, as far as a first reading tells. */
  get letterQuestions(): boolean {
    return this.habits?.letters ?? false;
  }
  /** How many questions there seem to be. */
  private get many(): number {
    return this.habits?.questions ?? this.numbers.size;
  }
  /** One line alone announces a key. */
  get soleKey(): boolean {
    return this.announced === 1;
  }
  /** Most questions have a line of their own that announces their key. */
  private get keyedEach(): boolean {
    return this.announced > 2 && this.announced * 2 > this.many;
  }
  /** What it says that so many keys stand in a row. */
  asMany(keys: number): number {
    const n = this.many;
    // then words in a row are the answer of one of them
    if (this.keyedEach) return 0;
    return n > 0 && keys === n ? 2.5 : n > 0 && Math.abs(keys - n) <= 1 ? 0.5 : 0;
  }
  /** How well entries on one line name the questions of the draft. */
  names(entries: readonly { number: number; until: number }[]): number {
    if (entries.length < 2) return 0;
    const known = entries.filter((e) => this.numbers.has(e.number)).length;
    return known === entries.length ? 1 + Math.min(1.5, entries.length / 4) : known > entries.length / 2 ? 0.5 : -0.5;
  }
  /** Whether entries of a key list name a part of a question. */
  namesPart(number: number, letter: string): boolean {
    return this.parts.has(`${number}${letter.toLowerCase()}`);
  }
  /** Whether a question seems to have a number. */
  hasNumber(n: number): boolean {
    return this.numbers.has(n);
  }
  /** Most questions have numbers, it seems. */
  get numbered(): boolean {
    return this.numbers.size >= 3;
  }
  /** Words that a person said announce keys. */
  learnKeyWords(words: readonly string[]): void {
    for (const w of words) this.taughtKeys.add(w);
  }
  /** Where the words behind an announcement of a key begin, for announcements known and taught; null where there is none. */
  announcedIn(text: string): number | null {
    return announcing(text);
  }
  /** The column behind a word that turned out to announce keys, or null. */
  keyWordAt(line: Line): number | null {
    const o = factsOf(line).opening;
    return o && (this.openings.keys.has(o.word) || this.taughtKeys.has(o.word)) ? o.at : null;
  }
  /** What a word that comes behind every question says: a reason or a note for the files, and the column behind it; or null. */
  fieldWordAt(line: Line): { at: number; reason: boolean } | null {
    const o = factsOf(line).opening;
    if (!o) return null;
    const reason = this.openings.reasons.has(o.word);
    return reason || this.openings.notes.has(o.word) ? { at: o.at, reason } : null;
  }
  /** How surely a line with text lies in a list of keys whose entries find their questions. */
  inList(place: number): number {
    return this.lists.inList[place] ?? 0;
  }
  /** What speaks for the line at a place as the heading of a list of keys, by the entries below it; 0 for nothing. */
  headsList(place: number): number {
    return this.lists.heads[place] ?? 0;
  }
}

/** Keys and fields that stand right above the questions that they are for: the first before any question, and nearly all with a blank line above and none below. */
function aheadOf(units: readonly Unit[]): Set<string> {
  const nameOf = (u: Unit | undefined): string => (!u ? '' : u.facts.keyAt !== null ? 'key' : (u.facts.field?.name ?? ''));
  const asks = (u: Unit | undefined): boolean =>
    u !== undefined &&
    (u.facts.asks ||
      behindHead(u.facts.text) > 0 ||
      u.facts.labels.some((l) => l.form !== 'loose' && (l.cls === 'num' || l.cls === 'word' || l.cls === 'turn')));
  // "Screen 3.1" between the blank line and the fields
  const headed = (i: number): boolean => {
    const over = units[i - 1];
    return over !== undefined && (over.gap > 0 || i === 1) && over.facts.words <= 4 && !asks(over) && !nameOf(over);
  };
  const seen = new Map<string, { all: number; above: number; first: number }>();
  const firstQuestion = units.findIndex(asks);
  for (let i = 0; i < units.length; i++) {
    if (!nameOf(units[i])) continue;
    let end = i;
    while (end + 1 < units.length && nameOf(units[end + 1]) && units[end + 1]?.gap === 0) end++;
    const next = units[end + 1];
    const above = ((units[i]?.gap ?? 0) > 0 || i === 0 || headed(i)) && next?.gap === 0 && asks(next) && !asks(units[i]);
    for (let k = i; k <= end; k++) {
      const name = nameOf(units[k]);
      const n = seen.get(name) ?? { all: 0, above: 0, first: k };
      n.all++;
      if (above) n.above++;
      seen.set(name, n);
    }
    i = end;
  }
  return new Set([...seen].filter(([, n]) => n.above >= 2 && n.above >= n.all * 0.8 && n.first < firstQuestion).map(([name]) => name));
}
/** The letter of answers: nearly each of its lines stands below one with another letter and the same number, and no other letter comes between. */
function answerLetterOf(units: readonly Unit[]): string {
  const marks = units.flatMap((u) => memoised(u.line, letterAndNumber) ?? []);
  const below = new Map<string, { answers: number; all: number }>();
  marks.forEach((m, i) => {
    const above = marks[i - 1];
    const n = below.get(m.letter) ?? { answers: 0, all: 0 };
    n.all++;
    if (above && above.letter !== m.letter && above.number === m.number) n.answers++;
    below.set(m.letter, n);
  });
  return [...below].find(([, n]) => n.answers >= 2 && n.answers >= n.all * 0.8)?.[0] ?? '';
}
/** Whether a quoted line has another right below it. */
const quotedBelow = (units: readonly Unit[], i: number): boolean => units[i + 1]?.gap === 0 && (units[i + 1]?.line.own.quoted ?? false);
/** Whether a bullet, box or label stands in front. */
const pointed = (u: Unit | undefined): boolean =>
  u !== undefined && (u.facts.front.bullet !== '' || u.facts.front.box !== '' || u.facts.labels.some((l) => l.form !== 'loose'));
/** Lines of runs of three and more whose numbered lines nearly all hold a question and its answer behind a dash (or of two behind wide space), with nothing else that says a key. */
function dashedRuns(units: readonly Unit[]): ReadonlySet<Line> {
  const found = new Set<Line>();
  let run: Unit[] = [];
  const close = (): void => {
    const behind = run.flatMap((u) => u.facts.dashAnswer ?? []);
    const dashed = run.length >= 3 && behind.length >= run.length * 0.8 && behind.filter((d) => !d.brief).length >= run.length * 0.6;
    if (dashed || (run.length >= 2 && behind.length === run.length && behind.every((d) => d.wide))) for (const u of run) found.add(u.line);
    run = [];
  };
  for (const u of units) {
    if (u.facts.number && (u.facts.dashAnswer !== null || (u.facts.number.form !== 'loose' && u.facts.words > 2))) run.push(u);
    else {
      // an instruction parts two runs; what answers or offers stands for all above
      if (u.facts.keyAt !== null || u.facts.labels.some((l) => (l.cls === 'low' || l.cls === 'up') && l.form !== 'loose')) run = [];
      close();
    }
  }
  close();
  return found;
}
/** No question is worth so much, so that the number behind it is its answer. */
const MOST_POINTS = 30;
const NUMBER_END = /[([]\s*(\d+(?:[.,]\d+)?)\s*[)\]]\s*$/;
const numberEnd = (text: string): string | undefined => NUMBER_END.exec(text.slice(-30))?.[1];
/** Whether the numbers in brackets behind nearly all questions and blanks are their answers: one at least is too large for points. */
function numbersBehind(units: readonly Unit[]): boolean {
  const asked = units.filter((u) => (u.facts.asks || u.facts.gap) && u.facts.number && u.facts.number.form !== 'loose' && u.facts.words > 3);
  const ends = asked.flatMap((u) => memoised(u.line, numberEnd) ?? []);
  return ends.length >= 2 && ends.length >= asked.length * 0.8 && ends.some((n) => Number(n.replace(',', '.')) > MOST_POINTS);
}
/** "a) 1/2 + 1/4 = ____ (3/4)": every blank of a row of letters, three at least, has a word or a number in brackets at the end of its line. */
function lettersWithAnswers(units: readonly Unit[], ends: readonly (string | undefined)[]): boolean {
  const lettered = units.flatMap((u, i) =>
    u.facts.gap && !u.facts.number && u.facts.labels.some((l) => l.cls === 'low' && l.form !== 'loose') ? [ends[i] ?? ''] : [],
  );
  return lettered.length >= 3 && lettered.every((e) => /[\p{L}\d]/u.test(e) && !isNote(e)) && new Set(lettered).size > 1;
}
/** Whether answers stand in brackets behind their questions: most questions, or many lines, end so. */
function answersInBrackets(units: readonly Unit[], all: number): boolean {
  const found = units.map((u) => memoised(u.line, bracketEnd));
  const ends = found.map((m, i) => (m?.[1] || units[i]?.facts.gap ? m?.[2] : undefined));
  const numbered = units.flatMap((u, i) =>
    u.facts.words > 3 && u.facts.number && u.facts.number.form !== 'loose'
      ? [u.facts.gap ? fillsBlank(ends[i]) : saysAnswer(ends[i]) || u.facts.truthBehind]
      : [],
  );
  if (numbersBehind(units)) return true;
  const answered = numbered.filter(Boolean).length;
  if (answered >= 3 && answered >= numbered.length * 0.6) return true;
  const gapLines = units.flatMap((u, i) => (u.facts.gap && u.facts.number ? [fillsBlank(ends[i])] : []));
  if (lettersWithAnswers(units, ends)) return true;
  if (gapLines.length >= 2 && gapLines.every(Boolean)) return true;
  const behindGaps = units.filter((u) => u.facts.gap && shows(u.line, 'wordsInBrackets')).length;
  const some = found.flatMap((m) => (m?.[1] ? [m[2]] : []));
  return behindGaps >= 3 || (some.length >= 4 && some.length >= all * 0.25 && some.filter(saysAnswer).length >= some.length * 0.4);
}

/** The number of a page behind wide space, as printed or as scanned. */
const TAIL_NUMBER = /(?:\s{3,}|\t+)[-–—]?\s*(?:\d{1,3}|[lIO]{1,3})(?:\s*(?:of|\/|sur|de|von|di|z|из)\s*\d{1,3})?\s*[-–—]?$/iu;
const lettersOf = (t: string): string =>
  t
    .toLowerCase()
    .replace(/[^\p{L}]+/gu, ' ')
    .trim();
/** A heading as it is compared with its repetition: without page number and "continued". */
const bareHeading = (t: string): string =>
  t
    .replace(PAGE_TAIL, '')
    .replace(CONTINUED, '')
    .replace(TAIL_NUMBER, '')
    .replace(/(?:\s{3,}|\t+)[-–—]?\s*\d{1,3}\s*[-–—]?$/, '')
    .replace(/(\p{L}{3}.*\p{L}{3}.*)/u, (s) => s.replace(/\d+/g, '#'))
    .trim();
/** Lines that are printed again on each page. */
function repeatedLines(units: readonly Unit[]): Set<string> {
  const seen = new Map<string, number[]>();
  const alone = new Set<string>();
  const titles = units.slice(0, 3).map((u) => lettersOf(u.facts.trimmed.split(/\s{3,}/)[0] ?? ''));
  units.forEach((u, i) => {
    const t = u.facts.trimmed;
    if (i > 2 && t.length < 110 && TAIL_NUMBER.test(t)) {
      // the words of the title again, and a number at the edge of the page
      const cell = lettersOf(t.split(/\s{3,}|\t/)[0] ?? '');
      if (cell.length > 7 && titles.some((x) => x.includes(cell) || (x.length > 7 && cell.startsWith(x)))) alone.add(t);
    }
    if (
      t.length < 6 ||
      t.length > 110 ||
      u.facts.labels.some((l) => l.form !== 'loose') ||
      u.facts.keyAt !== null ||
      u.facts.asks ||
      u.facts.front.bullet ||
      u.facts.front.box ||
      u.facts.truth !== null ||
      u.facts.gap ||
      u.facts.field
    )
      return;
    const key = bareHeading(t);
    const at = seen.get(key);
    if (at) at.push(i);
    else seen.set(key, [i]);
  });
  const out = new Set<string>();
  for (const [, at] of seen) {
    const near = (i: number): boolean =>
      [i - 1, i + 1].some((k) => units[k]?.facts.furniture === 'page' || units[k]?.facts.furniture === 'foot' || units[k]?.facts.furniture === 'rule');
    const spread = at.every((i, k) => k === 0 || i - (at[k - 1] ?? 0) >= 6);
    const continued = at.some((i) => /\(|\[/.test(units[i]?.facts.trimmed ?? '') && CONTINUED.test(units[i]?.facts.trimmed ?? ''));
    const [first = 0] = at;
    if (
      at.length >= 2 &&
      spread &&
      (near(first) ||
        at.slice(1).some(near) ||
        (first < 3 && at.length >= 2) ||
        at.length >= 3 ||
        continued ||
        at.every((i) => TAIL_NUMBER.test(units[i]?.facts.trimmed ?? '')))
    )
      for (const i of at.slice(first < 3 && at.length === 2 && continued ? 1 : 0)) out.add(units[i]?.facts.trimmed ?? '');
  }
  for (const t of alone) out.add(t);
  return out;
}

/** A question's number that stands on a line of its own. */
export interface Apart {
  cls: 'num' | 'up' | 'low';
  ord: number;
  text: string;
}
/** Numbers and letters alone on their lines that go on from one another. */
function apartLabels(units: readonly Unit[]): Map<number, Apart> {
  const found = new Map<number, Apart>();
  units.forEach((u, i) => {
    const t = u.facts.trimmed;
    const next = units[i + 1];
    if (t.length > 3 || !next || next.gap > 0 || !/\p{L}/u.test(next.facts.trimmed)) return;
    if (next.facts.labels.some((l) => l.cls !== 'up' && l.cls !== 'low' && l.form !== 'loose' && l.form !== 'wide')) return;
    if (/^\d{1,3}$/.test(t)) found.set(i, { cls: 'num', ord: Number(t), text: t });
    else if (/^[A-H]$/i.test(t)) found.set(i, { cls: t < 'a' ? 'up' : 'low', ord: t.toLowerCase().charCodeAt(0) - 96, text: t });
  });
  if (!found.size) return found;
  const out = new Map<number, Apart>();
  const says = (i: number, cls: Apart['cls'], ord: number): boolean => {
    const a = found.get(i);
    return (a?.cls === cls && a.ord === ord) || (cls === 'num' && (units[i]?.facts.labels.some((l) => l.cls === 'num' && l.ord === ord) ?? false));
  };
  const near = (from: number, to: number, cls: Apart['cls'], ord: number): boolean => {
    for (let i = Math.max(0, from); i <= Math.min(units.length - 1, to); i++) if (says(i, cls, ord)) return true;
    return false;
  };
  for (const [i, a] of found) {
    const reach = a.cls === 'num' ? 24 : 5;
    const next = near(i + 1, i + reach, a.cls, a.ord + 1);
    const before = near(i - reach, i - 1, a.cls, a.ord - 1);
    if (a.ord === 1 ? next : before && (next || a.cls !== 'num' || a.ord > 2)) out.set(i, a);
  }
  return out;
}

/** "1. feladat. Melyik …?": one word behind all numbers is a part of the labels. */
function wordsBehindNumbers(units: readonly Unit[]): Map<number, Label> {
  const seen = new Map<string, { place: number; label: Label }[]>();
  const all = new Map<string, number>();
  units.forEach((u, place) => {
    const label = u.facts.labels.find((l) => l.cls === 'num' && l.form !== 'wide');
    if (!label || u.facts.words < 2) return;
    all.set(label.sig, (all.get(label.sig) ?? 0) + 1);
    const m = /^(\p{L}{3,14})\s?(?:[.:)–-]\s+(?=\S)|[.:)]?\s*$)/u.exec(u.line.text.slice(label.at, label.at + 40));
    // "3 minutes" is an amount
    if (!m || (label.form === 'loose' && !/[.:)–-]\s*$/.test(m[0]))) return;
    const name = `${(m[1] ?? '').toLowerCase()} ${label.sig}`;
    const known = seen.get(name) ?? [];
    known.push({ place, label: { ...label, ...(label.form === 'loose' && { form: '.', sig: 'num.' }), at: label.at + m[0].length } });
    seen.set(name, known);
  });
  for (const [name, found] of seen)
    if (found.length >= 2 && found.length >= (all.get(name.slice(name.indexOf(' ') + 1)) ?? 0) * 0.5) return new Map(found.map((f) => [f.place, f.label]));
  return new Map();
}

/** "A  Put the verbs …", "II. TRUE OR FALSE": labels in a row of their own class, each over questions. */
function partChain(units: readonly Unit[]): Set<number> {
  const out = new Set<number>();
  const chains = { up: [] as { place: number; ord: number }[], rom: [] as { place: number; ord: number }[], other: [] as { place: number; ord: number }[] };
  units.forEach((u, i) => {
    const { facts } = u;
    if (!facts.labels.length || facts.front.box || facts.front.bullet) return;
    const heads = !u.gap && i > 0 && !u.line.bold && !u.line.heading && !facts.kind ? headsNumbers(u, units[i + 1]) : 'any';
    for (const cls of ['up', 'rom', 'other'] as const) {
      const l = facts.labels.find((x) => x.cls === cls);
      if (l && (heads === 'any' || (heads === 'roman' && cls === 'rom'))) chains[cls].push({ place: i, ord: l.ord });
    }
  });
  for (const at of Object.values(chains)) {
    let due = 1;
    const chain: number[] = [];
    for (const c of at)
      if (c.ord === due && numberSoon(units, c.place)) {
        chain.push(c.place);
        due++;
      }
    const ones = at.filter((c) => c.ord === 1).length;
    if (chain.length >= 2 && ones <= 2) for (const place of chain) out.add(place);
  }
  return out;
}
/** Whether a line right below another may head a part all the same: short, over the first of some numbers; or, with Roman numbers, where it says its points. */
function headsNumbers(u: Unit, next: Unit | undefined): 'any' | 'roman' | 'none' {
  const { facts } = u;
  if (facts.asks) return 'none';
  if (next?.gap === 0 && next.facts.labels.some((l) => l.cls === 'num' && l.ord === 1 && l.form !== 'loose') && facts.words <= 5) return 'any';
  return facts.length < 60 && shows(u.line, 'scored') ? 'roman' : 'none';
}
/** Whether numbered questions come soon behind a line, before more labels of its own sort. */
function numberSoon(units: readonly Unit[], place: number): boolean {
  for (let i = place + 1; i < Math.min(units.length, place + 14); i++) {
    const f = (units[i] as Unit).facts;
    if (f.labels.some((l) => l.cls === 'num' || l.cls === 'word')) return true;
    if (f.labels.some((l) => l.cls === 'up' && l.ord > 1 && l.form !== 'loose') && i < place + 4) return false;
  }
  return false;
}

/** Lines in which a person speaks in a copied conversation. */
function spokenLines(units: readonly Unit[]): Set<number> {
  const out = new Set<number>();
  const persons = units.flatMap((u, i) => (u.facts.length < 24 && shows(u.line, 'person') ? [i] : []));
  const replies = units.flatMap((u, i) => (u.facts.length < 24 && shows(u.line, 'assistant') ? [i] : []));
  if (!persons.length || !replies.length) return out;
  for (const p of persons) {
    const end = replies.find((r) => r > p);
    for (let i = p; i < Math.min(units.length, end ?? p + 1); i++) if (i - p < 8) out.add(i);
  }
  for (const r of replies) out.add(r);
  return out;
}

/** Two columns for true and false: which is which, and where each has its middle. */
export interface TruthColumns {
  values: readonly [boolean, boolean];
  middles: readonly [number, number];
}
/** "RIGHT   WRONG" at the end of a line: the heads of two columns. Middles are places in the text. */
function truthHeads(text: string): TruthColumns | null {
  const words = [...text.trimEnd().matchAll(/[^\s|/]+(?:\s[^\s|/]+)*/g)];
  const [a, b] = words.slice(-2).map(([w]) => (/^(?:right|wrong)$/i.test(w) ? /right/i.test(w) : truth(w, true)));
  const [first = 0, second = 0] = words.slice(-2).map((m) => m.index + m[0].length / 2);
  return words.length <= 3 && a !== undefined && b !== undefined && a !== null && b !== null && a !== b ? { values: [a, b], middles: [first, second] } : null;
}
/** Where a place in a line's text stands on the page, in characters from the edge. */
export const columnOf = (line: Line, at: number): number => placeOf(line, Math.floor(at)) - line.from;

const tailSign = (text: string): string | undefined => /[\p{L}\p{N})"”»%.]\s*([+!#^°§~←<¤♦●◄])$/u.exec(plainForms(text).trim())?.[1];
/** Signs that stand at the end of some option-like lines and of no others: marks of keys. */
function tailSignsOf(units: readonly Unit[]): Set<string> {
  const seen = new Map<string, number>();
  let all = 0;
  for (const u of units) {
    const f = u.facts;
    if (!f.labels.some((l) => l.cls === 'up' || l.cls === 'low' || l.cls === 'other' || (l.cls === 'num' && f.length < 60)) && !f.front.bullet && !f.front.box)
      continue;
    all++;
    const sign = memoised(u.line, tailSign);
    if (sign) seen.set(sign, (seen.get(sign) ?? 0) + 1);
  }
  return new Set([...seen].filter(([, n]) => n >= 3 && n < all * 0.6 && n > all * 0.12).map(([sign]) => sign));
}
