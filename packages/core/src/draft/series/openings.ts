/**
 * Words that open lines again and again, and what they turn out to announce in this draft, whatever their language:
 * what stands behind them is a label or a text of the options above (a key), a number that rises (a question), what asks (a question),
 * or words that come behind every key (a reason). Found by counting and resolving, never by a list of words.
 */
import { behindHead } from '../signatures/questionHead.js';
import { plainOption } from '../signatures/answers.js';
import { LETTERS, plainSigns } from '../../language/labels.js';
import { keyTail } from '../signatures/keyWords.js';
import type { Facts } from '../signatures/facts.js';
import { turnLabel, type Label } from '../signatures/label.js';
import type { Opening } from '../signatures/opening.js';
import { memoised, type Line } from '../surface/lines.js';
import { truth } from '../../language/truths.js';

interface Opened {
  line: Line;
  facts: Facts;
}

const FIRST_LABEL = new RegExp(`^["'“«([]*\\s*(الف|[${LETTERS}]|\\d{1,2})(?:[)\\].:,;]|\\s|$)`, 'u');
/** Words that do not announce keys, however well what is behind them resolves. */
const NOT_A_KEY =
  /^(?:q|question|frage|pregunta|domanda|vraag|pergunta|name|part|teil|page|diff\p{L}*|level|points?|marks?|time|dok|los?|chapter|section|skill|topic|tags?|hint|note|match|gap|kind|unit)(?![\p{L}])/u;
const LOOK_BACK = 14;
/** A note for the files is short; a reason has some words. */
const REASON_WORDS = 3;
const SHORT = 90;

/** Words to whoever shows the questions, below their slides. From memory. */
const NOTES = /^(?:speaker|presenter|teacher|trainer|facilitator|host)(?:'?s)? notes?$/u;

interface Use extends Opening {
  place: number;
  value: string;
}

/** What the openings of a draft announce. */
export interface Openings {
  keys: ReadonlySet<string>;
  reasons: ReadonlySet<string>;
  /** Short notes behind every question: "Chapter: 3". */
  notes: ReadonlySet<string>;
  /** Places of lines that only count what stands below: "Slide 12", "Bagian B". */
  heads: ReadonlySet<number>;
  /** Labels that openings make, by the place of their line. */
  labels: ReadonlyMap<number, Label>;
}

/** Labels and words of the options right above a line. */
function optionsAbove(units: readonly Opened[], place: number, stop: string): { labels: Set<string>; words: Set<string> } {
  const labels = new Set<string>();
  const words = new Set<string>();
  for (let i = place - 1; i >= 0 && i >= place - LOOK_BACK; i--) {
    const f = (units[i] as Opened).facts;
    if (f.opening?.word === stop) break;
    for (const l of f.labels)
      if (l.cls !== 'word' && l.cls !== 'turn' && l.cls !== 'bonus' && l.cls !== 'dec' && f.words < 40) {
        if (l.form !== 'loose') labels.add(l.text.toUpperCase());
        words.add(plainOption(f.text.slice(l.at)));
      }
    for (const r of f.inline)
      for (const s of r.segments) {
        labels.add(s.label.toUpperCase());
        words.add(plainOption(f.text.slice(s.from, s.to)));
      }
    if (f.front.bullet || f.front.box) words.add(plainOption(f.text.slice(f.front.at)));
    else if (!f.labels.length && f.length < SHORT) words.add(plainOption(f.text));
  }
  words.delete('');
  return { labels, words };
}
function resolves(u: Use, units: readonly Opened[]): boolean {
  const { labels, words } = optionsAbove(units, u.place, u.word);
  const value = plainSigns(u.value);
  if (words.has(plainOption(value))) return true;
  const label = FIRST_LABEL.exec(value)?.[1]?.toUpperCase();
  return label !== undefined && labels.size > 1 && labels.has(label);
}

const share = <T>(all: readonly T[], is: (x: T, i: number) => boolean): number => all.filter(is).length / Math.max(1, all.length);

/** Finds out what the repeated openings announce. */
export function openingsIn(units: readonly Opened[]): Openings {
  const keys = new Set<string>();
  const reasons = new Set<string>();
  const notes = new Set<string>();
  const labels = new Map<number, Label>();
  const heads = new Set<number>();
  const uses = new Map<string, Use[]>();
  units.forEach(({ facts: f }, place) => {
    if (f.length > 400 || f.furniture) return;
    const o = f.opening;
    if (!o) return;
    const known =
      f.keyAt !== null || f.field !== null || f.labels.some((l) => l.cls === 'word' || l.cls === 'turn' || (l.form !== 'loose' && l.from <= f.start));
    if (known) return;
    const all = uses.get(o.word) ?? [];
    all.push({ ...o, place, value: f.text.slice(o.at).trim() });
    uses.set(o.word, all);
  });
  const announced = units.filter((u) => u.facts.keyAt !== null).length;
  // where options have letters a number is no key of theirs
  const lettered = units.filter((u) => u.facts.labels.some((l) => (l.cls === 'up' || l.cls === 'low') && l.form !== 'loose')).length >= 4;
  const looksLikeKey = (v: string): boolean =>
    /^[([]?[A-Ha-hА-Да-д](?:[)\].:]|\s*$|\s*[,&])/.test(v) || (!lettered && /^[([]?\d(?:[)\].:]|\s*$|\s*[,&])/.test(v)) || truth(v, false) !== null;
  for (const [word, all] of uses) {
    if (all.length < 2) continue;
    if (word.length > 1 && !NOT_A_KEY.test(word)) {
      const resolved = share(all, (u) => resolves(u, units)) >= 0.75;
      const like = all.length >= 3 && announced < 3 && share(all, (u) => looksLikeKey(u.value)) >= 0.7;
      const byNumber = word.endsWith('#') && share(all, (u) => answersNumber(u, units)) >= 0.8;
      if (resolved || like || byNumber) {
        keys.add(word);
        continue;
      }
    }
    if (asQuestions(all, units)) {
      for (const u of all) {
        const f = units[u.place]?.facts;
        const from = f?.start ?? 0;
        const decimal = /(\d+\.\d+)\W*$/.exec(f?.text.slice(0, u.at) ?? '')?.[1];
        if (decimal) {
          labels.set(u.place, { cls: 'dec', form: '.', sig: 'dec.', ord: u.ord, sub: '', text: decimal, from, at: u.at });
          continue;
        }
        labels.set(
          u.place,
          u.ord ? { cls: 'word', form: 'word', sig: 'word', ord: u.ord, sub: '', text: String(u.ord), from, at: u.at } : turnLabel(from, u.at),
        );
      }
    }
  }
  if (!keys.size && !announced && !lettered) {
    const numbered = units.filter((u) => couldAsk(u.facts)).length;
    for (const [word, all] of uses) if (all.length >= 3 && all.length >= numbered * 0.6 && answersEach(word, all, units)) keys.add(word);
  }
  for (const [word, all] of uses) {
    if (keys.has(word) || !word.endsWith('#') || all.length < 2 || all.some((u) => labels.has(u.place))) continue;
    const rises = all.every((u, i) => i === 0 || u.ord > (all[i - 1]?.ord ?? 0));
    // a number alone on line after line only counts what stands below
    const counts = all.length >= 3 && all.every((u, i) => !u.value && (i === 0 ? u.ord <= 2 : u.ord === (all[i - 1]?.ord ?? 0) + 1));
    if (rises && (counts || share(all, (u) => headsSomething(u, units)) >= (all.length > 3 ? 0.75 : 1))) for (const u of all) heads.add(u.place);
  }
  pairsOf(uses, units, keys, labels);
  // keys are marks at the options
  const marked = announced === 0 && !keys.size && units.filter((u) => u.facts.front.star || u.facts.front.marked || memoised(u.line, keyTail) > 0).length >= 2;
  // what comes behind keys again and again is a reason, or a note for the files
  const isKey = (place: number): boolean => {
    const f = units[place]?.facts;
    if (!f) return false;
    const o = f.opening;
    return f.keyAt !== null || f.field !== null || (o !== null && (keys.has(o.word) || reasons.has(o.word) || notes.has(o.word)));
  };
  for (const [word, all] of uses) {
    if (
      keys.has(word) ||
      all.some((u) => labels.has(u.place) || behindHead(units[u.place]?.facts.text ?? '') > 0) ||
      (word.length < 2 && /\p{L}/u.test(word)) ||
      !all.every((u) => u.signed && !units[u.place]?.facts.part)
    )
      continue;
    const words = all.reduce((sum, u) => sum + u.value.split(/\s+/, 60).length, 0) / all.length;
    const long = all.reduce((sum, u) => sum + u.value.length, 0) / all.length;
    // what is the same every time explains nothing
    const different = new Set(all.map((u) => u.value)).size;
    const explains = all.length >= 2 && different > all.length * 0.6 && (words >= REASON_WORDS || long > 24);
    const symbol = !/\p{L}/u.test(word);
    const forPresenter = NOTES.test(word);
    const below = share(all, (u) => isKey(u.place - 1) || ((symbol || forPresenter || marked) && closesQuestion(u.place, units)));
    if (forPresenter && all.length >= 2 && below >= 0.75) notes.add(word);
    else if (explains && below >= 0.75) reasons.add(word);
    else if ((all.length >= 4 || (all.length === 3 && all.every((u) => isKey(u.place - 1)))) && all.every((u) => u.value.length < SHORT)) notes.add(word);
  }
  return { keys, reasons, notes, heads, labels };
}

/** "Term: …", "Definition: …" in turn, and little else: the one asks, the other answers. */
function pairsOf(uses: ReadonlyMap<string, readonly Use[]>, units: readonly Opened[], keys: Set<string>, labels: Map<number, Label>): void {
  for (const [ask, asked] of uses) {
    if (asked.length < 2 || keys.has(ask) || asked.some((u) => !u.signed || u.ord)) continue;
    for (const [say, said] of uses) {
      if (said.length !== asked.length || say === ask || keys.has(say) || !said.every((u, i) => u.signed && u.place === (asked[i]?.place ?? -2) + 1)) continue;
      if (asked.length + said.length < units.length * 0.7 || new Set(said.map((u) => u.value)).size < said.length || said.some((u) => !u.value)) continue;
      keys.add(say);
      for (const u of asked) labels.set(u.place, turnLabel(units[u.place]?.facts.start ?? 0, u.at));
      return;
    }
  }
}

/** Whether a line has some words, and asks or has a label. */
const couldAsk = (f: Facts): boolean => f.words > 2 && (f.asks || f.labels.some((l) => l.form !== 'loose'));
/** A word right below numbered questions, with something else behind it each time: "Expected: …". */
function answersEach(word: string, all: readonly Use[], units: readonly Opened[]): boolean {
  if (word.length < 2 || NOT_A_KEY.test(word) || all.some((u) => !u.signed || u.ord || !u.value)) return false;
  const below = share(all, (u) => {
    const above = units[u.place - 1];
    return above !== undefined && couldAsk(above.facts);
  });
  return below >= 0.8 && new Set(all.map((u) => u.value)).size > all.length * 0.6;
}
/** "A4 Almond" below "Q4 Which nut …?" */
function answersNumber(u: Use, units: readonly Opened[]): boolean {
  for (let i = u.place - 1; i >= 0 && i >= u.place - LOOK_BACK; i--) {
    const label = units[i]?.facts.labels.find((l) => l.cls === 'word' || (l.cls === 'num' && l.form !== 'loose'));
    if (label) return label.ord === u.ord;
  }
  return false;
}

/** Openings whose numbers rise, or behind which something asks, and options or an answer below. */
function asQuestions(all: readonly Use[], units: readonly Opened[]): boolean {
  const [first] = all;
  if (!first || share(all, (u, i) => numbersBetween(units, u.place, all[i + 1]?.place)) >= 0.5) return false;
  const asked = share(all, (u) => {
    const f = units[u.place]?.facts;
    if (!f) return false;
    const next = units[u.place + 1]?.facts;
    if (f.asks || f.gap) return true;
    // the words may stand on the next line, where nothing is behind the number
    if (!u.value) return next !== undefined && (next.asks || next.gap || optionsSoon(units, u.place + 1));
    return optionsSoon(units, u.place);
  });
  if (first.ord > 0) {
    const rises = share(all.slice(1), (u, i) => u.ord === (all[i]?.ord ?? 0) + 1 || u.ord === 1);
    return rises >= 0.75 && (first.ord <= 2 || first.ord % 100 === 1) && asked >= 0.7 && !units[first.place]?.facts.part;
  }
  return asked >= 0.8 && all.every((u) => u.value.length > 8);
}
/** Whether a line stands between the last option of a question, or what is behind it, and the next question. */
function closesQuestion(place: number, units: readonly Opened[]): boolean {
  const f = units[place - 1]?.facts;
  return f !== undefined && (f.labels.some((l) => l.ord > 1 && l.form !== 'loose') || f.front.bullet !== '' || f.front.box !== '');
}
/** A few words and a number with something that asks, or a number, soon below. */
function headsSomething(u: Use, units: readonly Opened[]): boolean {
  const own = units[u.place]?.facts;
  if (u.value.length > 40 || !own || own.asks || own.part || own.kind) return false;
  for (let i = u.place + 1; i <= u.place + 3; i++) {
    const f = units[i]?.facts;
    if (f && (f.asks || f.gap || f.number || f.kind || optionsSoon(units, i))) return true;
  }
  return false;
}
/** Whether numbered questions stand below an opening, so that it heads them. */
function numbersBetween(units: readonly Opened[], from: number, to = units.length): boolean {
  for (let i = from + 1; i < Math.min(to, from + 24); i++) {
    const f = units[i]?.facts;
    if (f && f.labels.some((l) => l.cls === 'num' && l.form !== 'loose' && l.form !== 'wide') && (f.asks || f.gap || f.words > 5)) return true;
  }
  return false;
}
function optionsSoon(units: readonly Opened[], place: number): boolean {
  for (let i = place + 1; i <= place + 6; i++) {
    const f = units[i]?.facts;
    if (!f) return false;
    // boxes alone are a list of things to do; one that is ticked makes them options
    if (f.front.box) {
      if (f.front.marked || f.front.star || keyTail(f.text) > 0) return true;
    } else if (i > place + 2) return false;
    else if (f.labels.some((l) => l.ord === 1 && l.cls !== 'word' && l.form !== 'loose') || f.inline.some((r) => r.segments.length > 1)) return true;
  }
  return false;
}
