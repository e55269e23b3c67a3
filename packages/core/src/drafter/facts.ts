/** What of a statement can be asked: numbers, names, terms, opposites, definitions, causes; each with what may stand in its place. */
import { shuffled, type Chance } from '../item/shuffle.js';
import { akin, baseForms, type Lexicon, type Sense, sensesOf } from '../lexicon/lexicon.js';
import type { SentenceIndex } from '../source/sentences.js';
import type { Manner } from './manner.js';
import { mentions } from './mentions.js';
import type { Statement } from './statements.js';
import { ARTICLE, withoutStop } from './statements.js';
import { pluralOf, SPELLED, upperFirst, type Word } from './words.js';

/** What sort of thing is asked for. */
export type Sort = 'number' | 'year' | 'name' | 'term' | 'opposite' | 'cause';

/** A stretch of a statement that can be asked for. */
export interface Fact {
  statement: Statement;
  sort: Sort;
  /** Characters of the statement's text. */
  from: number;
  to: number;
  answer: string;
  /** Of numbers. */
  value?: number;
  /** What may stand in its place and makes the statement wrong, the likeliest first. */
  instead: string[];
  /** Where those come from, for the person. */
  how: string;
  /** How good it is to ask for this, 0 to 1. */
  worth: number;
  /** Why it needs a closer look, beside a doubt of its sentence. */
  doubt?: string | undefined;
}

/** "A supernova is the explosion of a star that …": a term and what is said of it. */
export interface Definition {
  statement: Statement;
  term: string;
  /** The noun that says what sort of thing it is: "explosion". */
  genus: string;
  /** With its article, as "the explosion of a star …". */
  meaning: string;
  plural: boolean;
}

/** All that facts are found with. */
export interface Ground {
  index: SentenceIndex;
  statements: readonly Statement[];
  lexicon: Lexicon;
  english: boolean;
  /** How the sources speak. */
  manner: Manner;
  /** Whether what is less sure is wanted too, each with its doubt. */
  unsure: boolean;
  chance: Chance;
}

/** Nouns that are never worth a question by themselves, from memory. */
export const PALE: ReadonlySet<string> = new Set(
  'thing way time part kind number case example fact use type form people year day place point sort lot bit set list name end side group area work life man men person amount level order line word state result reason problem idea question answer view change need member hand fashion while piece couple pair variety range rest majority minority half quarter addition order thanks terms basis course effect means something anything person others nature role purpose aim goal importance advantage disadvantage one none both anyone someone everyone nobody everybody anybody software code information data program date extent degree detail feature aspect approach manner instance matter attempt effort step process method system issue possibility ability option choice version copy situation condition interest figure page book text section chapter paragraph sentence author user reader writer team century month week hour minute second decade period moment today tomorrow yesterday beginning middle start top bottom front back left right top world country percent percentage'.split(
    ' ',
  ),
);
/** Pairs whose exchange turns a statement round, from memory: no others did so for certain in sentences of foreign texts. */
const OPPOSITES: readonly (readonly [string, string])[] = [
  ['more', 'less'],
  ['larger', 'smaller'],
  ['bigger', 'smaller'],
  ['higher', 'lower'],
  ['longer', 'shorter'],
  ['faster', 'slower'],
  ['earlier', 'later'],
  ['older', 'younger'],
  ['hotter', 'colder'],
  ['warmer', 'cooler'],
  ['stronger', 'weaker'],
  ['brighter', 'fainter'],
  ['heavier', 'lighter'],
  ['northern', 'southern'],
  ['eastern', 'western'],
  ['north', 'south'],
  ['east', 'west'],
  ['increases', 'decreases'],
  ['expands', 'contracts'],
  ['rises', 'falls'],
  ['fastest', 'slowest'],
  ['largest', 'smallest'],
  ['highest', 'lowest'],
  ['longest', 'shortest'],
  ['hottest', 'coldest'],
];
const oppositeOf = new Map(
  OPPOSITES.flatMap(([a, b]): [string, string][] => [
    [a, b],
    [b, a],
  ]),
);

const cased = (like: string, word: string): string => (/^\p{Lu}/u.test(like) ? upperFirst(word) : word);
const sameWords = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
/** Runs of nouns or names, each as one: "lactic acid bacteria" without its adjectives. */
export function runsOf(words: readonly Word[], text: string): { words: Word[]; from: number; to: number; text: string }[] {
  const out: { words: Word[]; from: number; to: number; text: string }[] = [];
  let run: Word[] = [];
  const close = (): void => {
    const [first] = run;
    const last = run.at(-1);
    if (first && last) out.push({ words: run, from: first.from, to: last.to, text: text.slice(first.from, last.to) });
    run = [];
  };
  for (const w of words) {
    const last = run.at(-1);
    const beside = last && /^ $/.test(text.slice(last.to, w.from));
    if ((w.role === 'noun' || w.role === 'name') && !w.marks.has('Pronoun')) {
      if (!beside) close();
      run.push(w);
    } else close();
  }
  close();
  return out;
}

/**
 * What of a text that argues, or of one of many subjects, can be asked for by itself: of 31 judged items that asked such texts for a term
 * or an opposite 14 were kept, of the others 3 in 4 (`corpus/drafter/judged.md`).
 */
const TOLD: ReadonlySet<Sort> = new Set(['number', 'year', 'name']);
/** Without what it speaks of, a sentence with no other name says nothing: "____ has continued to develop new products". */
const takesSubjectAway = (f: Fact): boolean => {
  const { words } = f.statement;
  const verb = words.find((w) => w.role === 'verb')?.from ?? 0;
  return (
    (f.sort === 'term' || f.sort === 'name') &&
    f.from < verb &&
    !words.some((w) => (w.role === 'name' || w.role === 'number') && !(w.from >= f.from && w.to <= f.to))
  );
};

/** Why what is asked for needs a closer look, beside a doubt of its sentence. */
const doubtOf = (f: Fact, ground: Ground): string | undefined =>
  TOLD.has(f.sort) || !(ground.manner === 'argues' || ground.index.sentences.length > ARTICLE)
    ? undefined
    : ground.manner === 'argues'
      ? 'its text argues, and this is no number, year or name'
      : 'its text speaks of much, and this is no number, year or name';

/** The facts of a statement, the best first; found once for all makers. */
export function factsOf(s: Statement, ground: Ground): readonly Fact[] {
  const found = remembered(ground, 'facts', () => new Map<Statement, readonly Fact[]>());
  let facts = found.get(s);
  if (!facts) {
    facts = [...numbersOf(s, ground), ...namesOf(s, ground), ...termsOf(s, ground), ...oppositesOf(s, ground), ...causesOf(s, ground)]
      .filter((f) => !ground.english || (!takesSubjectAway(f) && (ground.unsure || !doubtOf(f, ground))))
      .map((f) => ({ ...f, doubt: f.doubt ?? doubtOf(f, ground) }))
      .sort((a, b) => b.worth - a.worth);
    found.set(s, facts);
  }
  return facts;
}

const YEAR = /^1\d{3}$|^20\d{2}$/;
const MONTHS = /^(?:jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)$/;

/** Other numbers of the same make, four below and four above, none of them in the statement. */
function otherNumbers(value: number, written: string, sort: 'number' | 'year', ground: Ground, label: string): string[] {
  const spelled = SPELLED.indexOf(written.toLowerCase());
  const decimals = /[.,](\d{1,2})$/.exec(written)?.[1]?.length ?? 0;
  const grouped = /\d{1,3},\d{3}/.test(written);
  const steps = sort === 'year' ? [-23, -12, -7, -4, 3, 6, 11, 19] : spelled >= 0 ? [-3, -2, -1, 1, 2, 3] : [0.5, 0.75, 1.25, 1.5, 2, 0.25];
  const made = steps.map((step) => {
    if (sort === 'year' || spelled >= 0) return value + step;
    // as round as the number itself
    const own = 10 ** Math.max(-decimals, Math.floor(Math.log10(Math.max(1, Math.abs(value)))) - (/[1-9]0*$/.exec(String(value))?.index ?? 0));
    const raw = value * step;
    const to = Math.abs(value) < 10 && !decimals ? 1 : value >= 20 && value % 5 === 0 && own === 1 ? 5 : own;
    return Math.round(raw / to) * to;
  });
  const write = (n: number): string =>
    spelled >= 0 ? (SPELLED[n] ?? '') : grouped ? n.toLocaleString('en-US', { minimumFractionDigits: decimals }) : n.toFixed(decimals);
  const last = sort === 'year' ? lastYear(ground) : Number.POSITIVE_INFINITY;
  const out = made.filter((n) => n > 0 && n <= last && n !== value && !(value <= 100 && n > 100 && /^\s?(?:%|percent|per cent)/.test(label))).map(write);
  return shuffled([...new Set(out.filter((x) => x && x !== written))], ground.chance, `numbers ${written} ${label}`);
}

/** The last year that the sources speak of: none after it is offered. */
const lastYear = (ground: Ground): number =>
  remembered(ground, 'last year', () =>
    ground.index.sentences.reduce(
      (last, o) => o.tokens.reduce((l, t) => (t.number && t.number.value > l && YEAR.test(String(t.number.value)) ? t.number.value : l), last),
      0,
    ),
  );

/** What is counted in words so that the count is worth a question: "eight hours", "four legs"; two formats are not. */
const COUNTED = /noun\.(?:time|quantity)/;
const MEASURE =
  /^\s?(?:[%°€$£]|per ?cent|(?:[kmcµ]?[glmsVAWJ]|[kmc]?m[²³]|mph|km\/h|hours?|minutes?|seconds?|days?|weeks?|months?|years?|degrees?|met(?:re|er)s?|kilomet(?:re|er)s?|miles?|feet|inches|grams?|kilograms?|kilos?|tons?|tonnes?|lit(?:re|er)s?|volts?|watts?|people|inhabitants)\b)/;
const WHOLE_NUMBER = /^(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?)$/;
const BEFORE_A_YEAR = /(?:^|(?<!than)\s)(?:in|since|until|till|from|by|of|before|after|around|about|during|prior to|circa|year)\s$|,\s*$/i;
/** An end of a range, a ratio, a date, a version, a share of a name: no number by itself. */
const BOUND_BEFORE =
  /(?:\d\s?(?:to|and|or|-|–|x|×|\/)\s?|[-:.$£€]|\b(?:version|number|no\.?|step|level|grade|page|type|or|between|from|last|past|next|aged?)\s)$/i;
const BOUND_AFTER = /^(?:\s?(?:to|and|or|-|–|—|x|×|\/)\s?(?:\d|a\b|half|less|more|fewer|so)|st\b|nd\b|rd\b|th\b|-|\.\d|:|['’]s|s\b)/i;

function numbersOf(s: Statement, ground: Ground): Fact[] {
  const out: Fact[] = [];
  for (const [i, w] of s.words.entries()) {
    if (w.role !== 'number' || w.value === undefined) continue;
    const written = stripTail(w.text);
    const spelled = SPELLED.includes(w.lower);
    if (!i || (!spelled && !WHOLE_NUMBER.test(written))) continue;
    const to = w.from + written.length;
    const before = s.text.slice(0, w.from);
    const after = s.text.slice(to);
    const last = s.words[i - 1];
    const next = s.words[i + 1];
    // what stands twice gives itself away
    if (mentions(`${before}|${after}`, written)) continue;
    const dated = MONTHS.test(last?.lower ?? '');
    // one end of a span of years, exchanged, may turn the span round
    if (/\b(?:from|between)\s$/i.test(before) || /\b(?:from|between)\s[^,]*\d[^,]*\s(?:to|and|until|till)\s[^,]*$/i.test(before)) continue;
    const year =
      YEAR.test(written) &&
      (BEFORE_A_YEAR.test(before) || dated) &&
      // "In 1996 the best is …" tells how it stood when it was written
      (!ground.english || happened(s)) &&
      !/^(?:[-–]?\p{L}|[-–]\d|\s?[%°]|\s\p{Ll}{3,}s\b|\s(?!BC|AD|CE)\p{Ll}?\p{Lu}\p{L}{0,2}\b)/u.test(after);
    if (!year) {
      // "82437VX" is a name, "1200m" a length
      if (/^\p{L}/u.test(after) && !MEASURE.test(after)) continue;
      if (BOUND_BEFORE.test(before) || BOUND_AFTER.test(after) || dated || (next && MONTHS.test(next.lower))) continue;
      // "Debian 2.1": a part of a name
      if (last && i && /^\p{Lu}/u.test(last.text) && !/,\s*$/.test(before)) continue;
      if (last && i === 1 && last.role !== 'preposition' && last.role !== 'determiner') continue;
      const measured = /^\s?[%°€$£]/.test(after) || (!!next && /^(?:noun|name)$/.test(next.role) && !YEAR.test(written));
      if (!measured) continue;
      if (spelled && ground.english && (w.value < 2 || !next?.plural || !COUNTED.test(sensesOf(ground.lexicon, next.base, 'noun')[0]?.field ?? ''))) continue;
      if (!spelled && w.value < 3 && !/^\s?[%°]/.test(after)) continue;
      // "a limit of 260 lines": of what, a name or a measure of nature has to say
      if (ground.english && !MEASURE.test(after) && !s.words.some((o) => o.role === 'name' || /^\p{Lu}{2}/u.test(o.text))) continue;
    }
    out.push({
      statement: s,
      sort: year ? 'year' : 'number',
      from: w.from,
      to,
      answer: written,
      value: w.value,
      instead: otherNumbers(w.value, written, year ? 'year' : 'number', ground, after.slice(0, 12)).filter((n) => !mentions(s.text, n)),
      how: year ? 'years near it' : 'other numbers of the same size',
      worth: year ? 0.9 : spelled ? 0.7 : 0.85,
    });
  }
  return out;
}
/** Whether the first verb in a tense tells what was. */
const happened = (s: Statement): boolean => {
  const verb = s.words.find((w) => w.role === 'verb' && ['PresentTense', 'PastTense', 'Copula', 'Auxiliary', 'Modal'].some((m) => w.marks.has(m)));
  return !!verb && (verb.marks.has('PastTense') || /^(?:was|were|had|did|has|have)$/.test(verb.lower));
};
const stripTail = (text: string): string => /^[\d.,]*\d/.exec(text)?.[0] ?? text;

/**
 * What sort of thing a name names: a person by the tagger, anything else by the database's sorts ("a city", "a country"). Null where it
 * cannot be told: then no other name is of the same sort for certain.
 */
function nameSort(run: { words: readonly Word[]; text: string }, lexicon: Lexicon): string | null {
  const marks = (name: string): boolean => run.words.some((w) => w.marks.has(name));
  const senses = lexicon(run.text.toLowerCase());
  const sense = senses.find((s) => s.instance && /^noun\.(?:location|object)$/.test(s.field));
  // a word that is more than a name may be meant as that
  if (sense && !senses.some((s) => !s.instance && s.class !== 'adjective')) return sense.above[0] ?? null;
  // a first or last name alone may be anybody's
  return (marks('Person') || marks('FirstName')) && run.words.length > 1 && !senses.length ? 'person' : null;
}

/** The names of the sources by their sort, each with how often it stands there. */
function allNames(ground: Ground): Map<string, Map<string, number>> {
  return remembered(ground, 'names', () => {
    const out = new Map<string, Map<string, number>>();
    for (const s of ground.statements)
      for (const run of runsOf(s.words, s.text)) {
        if (!run.words.every((w) => w.role === 'name') || !asName(run, s)) continue;
        const sort = nameSort(run, ground.lexicon);
        if (!sort) continue;
        const names = out.get(sort) ?? new Map<string, number>();
        names.set(run.text, (names.get(run.text) ?? 0) + 1);
        out.set(sort, names);
      }
    return out;
  });
}
const DATED =
  /^(?:january|february|march|april|june|july|august|september|october|november|december|monday|tuesday|wednesday|thursday|friday|saturday|sunday)$/i;
/** One of several names in a row: each could stand in the other's place. */
const LISTED_AFTER = /^,? (?:and|or) (?:\p{Lu}|the \p{Lu})|^, \p{Lu}[^,]*(?:,| and| or)/u;
const LISTED_BEFORE = /(?:(?<!\p{L})\p{Lu}\p{L}*,? (?:and|or) (?:the )?|,? and )$/u;
const asName = (run: { words: readonly Word[]; text: string; from: number }, s: Statement): boolean =>
  run.words.length <= 4 &&
  run.text.length > 1 &&
  !/\d|['’.]/.test(run.text) &&
  !run.words.some((w) => DATED.test(w.lower) || /^\p{Ll}/u.test(w.text)) &&
  // "Professor X", "Mr" and adjectives of nations are parts of something
  !/^(?:Mr|Mrs|Dr|Professor|Sir|Saint|St)\b/.test(run.text) &&
  // a part of a longer name: "International Union of Pure …"
  !/^[-’'/]|^\s\p{Lu}|^ (?:of|and|for) (?:the )?\p{Lu}/u.test(s.text.slice(run.from + run.text.length)) &&
  !/(?<!\p{L})\p{Lu}\p{L}* (?:of|and|for) (?:the )?$/u.test(s.text.slice(0, run.from));

const kept = new WeakMap<Ground, Map<string, unknown>>();
/** Computed once for all statements. */
function remembered<T>(ground: Ground, name: string, make: () => T): T {
  let own = kept.get(ground);
  if (!own) kept.set(ground, (own = new Map()));
  if (!own.has(name)) own.set(name, make());
  return own.get(name) as T;
}

const PLACED =
  /\b(?:born|founded|held|established|built|died|located|situated|based|formed|opened|discovered|found|met|signed|crowned|buried|invented|introduced|started|began) (?:\p{L}+ )?(?:in|at|near) $/u;

function namesOf(s: Statement, ground: Ground): Fact[] {
  const out: Fact[] = [];
  for (const run of runsOf(s.words, s.text)) {
    if (!run.words.every((w) => w.role === 'name') || !asName(run, s)) continue;
    const sort = nameSort(run, ground.lexicon);
    if (!sort || LISTED_AFTER.test(s.text.slice(run.to)) || LISTED_BEFORE.test(s.text.slice(0, run.from))) continue;
    if (/\bthe $/i.test(s.text.slice(0, run.from))) continue;
    // a name of the whole source asks nothing
    if ((ground.index.where.get(run.words.at(-1)?.stem ?? '')?.length ?? 0) > 0.2 * ground.index.sentences.length) continue;
    // what a name does in its sentence has to call for it: "by ____", "was born in ____", with a number that says which
    const before = s.text.slice(0, run.from);
    const called =
      (sort === 'person' ? /\bby $/ : PLACED).test(before) && s.words.some((w) => (w.value ?? 0) > 12 || (w.role === 'name' && !run.words.includes(w)));
    if (!called && !ground.unsure) continue;
    // "the tradition in ____" of a Spanish worker
    if (run.words.some((w) => s.words.some((o) => !run.words.includes(o) && /^\p{Lu}/u.test(o.text) && o.lower.slice(0, 4) === w.lower.slice(0, 4)))) continue;
    const fits = (n: string): boolean => !mentions(s.text, n) && !mentions(n, run.text) && !mentions(run.text, n) && !alike(n, run.text);
    const others = [...(allNames(ground).get(sort) ?? [])]
      .filter(([n]) => fits(n))
      .sort((a, b) => b[1] - a[1])
      .map(([n]) => n);
    const beside = sort === 'person' ? [] : (ground.lexicon(run.text.toLowerCase()).find((x) => x.above[0] === sort)?.siblings ?? []);
    const known = beside.map((o) => o.word).filter((n) => /^\p{Lu}[\p{L} ]+$/u.test(n) && fits(n) && !others.includes(n));
    out.push({
      statement: s,
      sort: 'name',
      from: run.from,
      to: run.to,
      answer: run.text,
      instead: [...others, ...known.slice(0, 8)],
      how: sort === 'person' ? 'other persons of the source' : 'others of the same sort',
      worth: called ? 0.8 : 0.7,
      ...(!called && { doubt: 'another name may fit as well' }),
    });
  }
  return out;
}
/** Whether two words differ in a letter or an ending only. */
const alike = (a: string, b: string): boolean => {
  const x = a.toLowerCase();
  const y = b.toLowerCase();
  return x === y || baseForms(x).some((f) => baseForms(y).includes(f)) || (x.length > 4 && y.length > 4 && x.slice(0, -2) === y.slice(0, -2));
};

/** The nouns of the sources that are asked for, by their base form, each with how often it stands there. */
function allTerms(ground: Ground): Map<string, number> {
  return remembered(ground, 'terms', () => {
    const out = new Map<string, number>();
    for (const s of ground.statements)
      for (const run of runsOf(s.words, s.text)) {
        const [w] = run.words;
        if (w && run.words.length === 1 && w.role === 'noun' && !PALE.has(w.base) && w.base.length >= 3) out.set(w.base, (out.get(w.base) ?? 0) + 1);
      }
    return out;
  });
}

/** How alike two nouns are as sorts of things: 3 for coordinate terms, 2 for the same sort two steps up, 1 for the same field. */
function nearness(a: readonly Sense[], b: readonly Sense[]): number {
  const [x] = a;
  if (!x) return 0;
  for (const y of b.slice(0, 2)) {
    if (x.above[0] && x.above[0] === y.above[0]) return 3;
    if (x.above.slice(0, 2).some((id) => y.above.slice(0, 2).includes(id))) return 2;
  }
  return b[0]?.field === x.field && !/noun\.(?:Tops|cognition|attribute|act|communication|state)/.test(x.field) ? 1 : 0;
}

/**
 * How firmly the words around a term call for it: the words that stand with it in other sentences, too. What nothing calls for can
 * be filled in many ways.
 */
function tiesOf(s: Statement, w: Word, ground: Ground): number {
  const { index } = ground;
  const beside = new Set((index.where.get(w.stem) ?? []).filter((i) => i !== s.at).flatMap((i) => index.sentences[i]?.tokens.map((t) => t.stem) ?? []));
  const common = index.sentences.length * 0.25;
  return new Set(
    s.sentence.tokens.filter((t) => t.stem !== w.stem && !t.number && beside.has(t.stem) && (index.where.get(t.stem)?.length ?? 0) < common).map((t) => t.stem),
  ).size;
}

const NATURAL = /noun\.(?:substance|food|animal|plant)/;

function termsOf(s: Statement, ground: Ground): Fact[] {
  if (!ground.english) return roughTerms(s, ground);
  const out: Fact[] = [];
  const runs = runsOf(s.words, s.text);
  const opening = s.words[0]?.role === 'preposition' ? s.text.indexOf(',') : -1;
  for (const run of runs) {
    const [w] = run.words;
    if (!w || run.words.length !== 1 || w.role !== 'noun' || PALE.has(w.base) || w.base.length < 4 || !/^\p{L}+$/u.test(w.text) || w.base.endsWith('ing'))
      continue;
    // asked once: a word that stands twice gives itself away
    if (s.words.some((o) => o !== w && (o.stem === w.stem || o.base === w.base))) continue;
    const senses = sensesOf(ground.lexicon, w.base, 'noun');
    const [sense] = senses;
    const times = ground.index.where.get(w.stem)?.length ?? 0;
    // the word of the subject: often here, seldom elsewhere; what stands in every other sentence asks nothing
    const rare = sense ? sense.count < 12 : true;
    if (times > Math.max(6, ground.index.sentences.length * 0.15) || !rare) continue;
    // what grows, is eaten, made of, or happens by itself is called by one name; of other things, what the source defines or says often
    const natural = !!sense && NATURAL.test(sense.field) && senses.length < 5;
    // a defined term is asked for where its sentence is about it
    const defined =
      w !== s.words[0] && run === runs.find((r) => r.from > opening) && definitionsOf(ground).some((d) => d.statement !== s && alike(d.term, w.base));
    if (!natural && !defined && !ground.unsure) continue;
    // of two in a row each could stand in the other's place
    if (/(?:\band|\bor|,) $/.test(s.text.slice(0, w.from)) || /^(?: and| or|,) \p{L}+[ .,]/u.test(s.text.slice(w.to))) continue;
    const ties = tiesOf(s, w, ground);
    const called = (natural || defined) && ties >= 3 && times >= 3;
    if (!called && (!ground.unsure || times < 2)) continue;
    const others = [...allTerms(ground)]
      .filter(([base]) => base !== w.base && !mentions(s.text, base) && !s.words.some((o) => o.base === base) && !alike(base, w.base))
      .map(([base, often]) => ({ base, often, near: nearness(senses, sensesOf(ground.lexicon, base, 'noun')) }))
      .filter((o) => o.near > 2 && !akin(ground.lexicon, o.base, w.base))
      .sort((a, b) => b.near - a.near || b.often - a.often)
      .map((o) => o.base);
    const coordinate = (sense?.siblings ?? [])
      .filter((o) => o.count >= 1 && /^[a-z]+$/.test(o.word) && !sense?.words.includes(o.word) && !sense?.below.includes(o.word))
      .map((o) => o.word)
      .filter((n) => !others.includes(n) && !mentions(s.text, n) && !alike(n, w.base));
    const article = /(?:^|\s)(an?)\s+$/i.exec(s.text.slice(0, w.from))?.[1]?.toLowerCase();
    // from the database alone they are seldom what a learner would think of
    const instead = (natural && others.length > 1 ? [...others, ...coordinate] : natural || !called ? others : [])
      .map((base) => (w.plural ? pluralOf(base) : base))
      .filter((n) => !article || /^[aeiou]/i.test(n) === (article === 'an'));
    out.push({
      statement: s,
      sort: 'term',
      from: w.from,
      to: w.to,
      answer: w.text,
      instead: instead.map((n) => cased(w.text, n)),
      how: others.length >= 3 ? 'things of the same sort in the source' : 'things of the same sort (lexical database)',
      worth: 0.4 + Math.min(0.15, times / 40) + Math.min(0.1, 0.02 * ties) + (w.from > s.text.length / 3 ? 0.05 : 0) + (natural || defined ? 0.1 : 0.05),
      ...(!called && { doubt: 'another word may fit as well' }),
    });
  }
  return out;
}

/** Terms of a language without lexicon: long words that the source says again and again. */
function roughTerms(s: Statement, ground: Ground): Fact[] {
  return s.words
    .filter((w, i) => i > 0 && w.role === 'noun' && w.text.length > 4 && /^\p{L}+$/u.test(w.text) && s.words.filter((o) => o.stem === w.stem).length === 1)
    .map((w) => ({ w, times: ground.index.where.get(w.stem)?.length ?? 0 }))
    .filter(({ times }) => times >= 3 && times < Math.max(8, ground.index.sentences.length * 0.2))
    .map(({ w, times }) => ({
      statement: s,
      sort: 'term' as const,
      from: w.from,
      to: w.to,
      answer: w.text,
      instead: [],
      how: 'a word that the source says often',
      worth: 0.4 + Math.min(0.2, times / 40),
    }));
}

function oppositesOf(s: Statement, ground: Ground): Fact[] {
  // a denial, or both words in one sentence, and an exchange may say nothing false
  if (!ground.english || /\b(?:not|never|no|or less|or more|than or)\b|n['’]t\b/i.test(s.text)) return [];
  return s.words.flatMap((w): Fact[] => {
    const other = oppositeOf.get(w.lower);
    if (!other || s.words.some((o) => o.lower === other)) return [];
    const after = s.text.slice(w.to);
    // a comparison says with what it compares
    if (/(?:er|more|less)$/.test(w.lower) && !/(?:thern|tern)$/.test(w.lower) && !/^\s(?:\p{L}+\s)?than\s[\p{L}\d]/u.test(after)) return [];
    // "more than adequate" compares with nothing
    if (/^(?:more|less)$/.test(w.lower) && s.words.find((o) => o.from > w.to + ' than'.length)?.role === 'adjective' && after.startsWith(' than')) return [];
    if (/^ than (?:one|two|half|all|1|2)\b/i.test(after)) return [];
    if (after.startsWith('-') || /\btimes $/.test(s.text.slice(0, w.from)) || (/tern|thern|st$|^north|^south/.test(w.lower) && /^\p{Lu}/u.test(w.text)))
      return [];
    return [{ statement: s, sort: 'opposite', from: w.from, to: w.to, answer: w.text, instead: [cased(w.text, other)], how: 'the opposite', worth: 0.6 }];
  });
}

/** A reason that says by a pronoun what it speaks of is no other thing's reason. */
const BOUND_REASON = /^of\b|(?<!\p{L})(?:it|they|this|that|these|those|there|he|she)(?!\p{L})/iu;
/** "…, because its starch has not set": the reason can be asked for, the reasons of other statements beside it. */
function causesOf(s: Statement, ground: Ground): Fact[] {
  if (!ground.english) return [];
  const m = /,?\s(because|so that|in order to)\s/.exec(s.text);
  if (!m || m.index < 20) return [];
  const from = m.index + m[0].length;
  const to = withoutStop(s.text).length;
  const answer = s.text.slice(from, to);
  const count = answer.split(' ').length;
  if (count < 3 || count > 14 || /[,;:]/.test(answer)) return [];
  const others = remembered(ground, `causes ${m[1]}`, () =>
    ground.statements.flatMap((o) => {
      const c = new RegExp(`,?\\s${m[1]}\\s`).exec(o.text);
      const text = c ? withoutStop(o.text).slice(c.index + c[0].length) : '';
      const n = text.split(' ').length;
      return c && n >= 3 && n <= 14 && !/[,;:]/.test(text) ? [text] : [];
    }),
  ).filter((o, i, all) => o !== answer && !BOUND_REASON.test(o) && all.indexOf(o) === i);
  if (BOUND_REASON.test(answer)) return [];
  return [{ statement: s, sort: 'cause', from, to, answer, instead: others, how: 'reasons that the source gives for other things', worth: 0.7 }];
}

const GENUS = /^(is|are) ((?:an?|the|any) .+)$/u;
/** A second statement behind the definition, or a word that points. */
const RUNS_ON = /;|(?:\b(?:and|but)|,) (?:it|they|he|she|is|are|was|were|has|have)\b|, and \p{L}+s\b|\b(?:corresponding|this|such)\b/iu;
// "The most …", "an effort to …" say something of a thing, not what it is; from memory.
const SAYS_SOMETHING =
  /^(?:the|an?)\s+(?:\p{L}+\s+)?(?:effort|attempt|commitment|advance|image|solution|leader|means|average|partitioning|alternative|combination|topic|outgrowth|basis|problem|way|choice|step|part|form|result|success|failure|idea|fact|aim|goal|task|reason|case|kind|lot|bit|number|question|matter|example|point|thing)\b|^(?:the|an?)\s+(?:most|only|same|best|main|major|first|last|key|good|great|few|large number|common|important|useful|very|more|less|rather|new|difficult|elegant|fundamental|standard|classical|conceptual|mature|leading|rich|complete|full|fast|advanced|excellent|typical|powerful|popular|famous|nice|long|short|fine|real|true|perfect|unique|simple|proprietary|certain|special|particular|typical|natural)\b/iu;
/** The last noun of the first run: "a worldwide group of volunteers" is a group. */
function genusOf(words: readonly Word[]): string | null {
  const from = words.findIndex((w) => w.role === 'noun' || w.role === 'name');
  if (from < 0 || words.slice(0, from).some((w) => !/^(?:determiner|adjective|adverb|other|verb)$/.test(w.role))) return null;
  let at = from;
  while (words[at + 1]?.role === 'noun') at++;
  return words[at]?.base ?? null;
}
/** Whether two things are of sorts near each other, so that the one may be taken for the other. */
export function sameGenus(a: Definition, b: Definition, lexicon: Lexicon): boolean {
  return a.genus === b.genus || nearness(sensesOf(lexicon, a.genus, 'noun'), sensesOf(lexicon, b.genus, 'noun')) > 0;
}
/** What is only said to stand in a relation to something else is not told by that: "a partner in 80 projects"; from memory. */
const RELATED = new Set(
  'partner member variant refinement variation descendant derivative branch ancestor subset extension tribute sponsor testament touchstone project word'.split(
    ' ',
  ),
);
/** Whether a meaning says enough to be the meaning of one thing only: of a name, by another name or a number; "a set of libraries" is many. */
function tellsApart(meaning: readonly Word[], name: boolean): boolean {
  const content = new Set(meaning.filter((w) => /^(?:noun|name|verb|adjective)$/.test(w.role) && !PALE.has(w.base)).map((w) => w.stem));
  if (meaning.some((w) => w.role === 'name' || w.role === 'number' || /\p{Lu}{2}/u.test(w.text))) return content.size >= 3;
  return content.size >= (name ? 7 : 4);
}
/** The definitions among the statements. */
export function definitionsOf(ground: Ground): Definition[] {
  return remembered(ground, 'definitions', () => {
    const out: Definition[] = [];
    for (const s of ground.statements) {
      const verb = s.words.findIndex((w) => w.lower === 'is' || w.lower === 'are');
      const at = s.words[verb];
      if (!at || verb < 1 || verb > 6 || !ground.english || ground.manner === 'argues' || s.about) continue;
      const subject = s.text.slice(0, at.from).trim();
      const m = GENUS.exec(withoutStop(s.text).slice(at.from));
      const meaning = m?.[2];
      if (!m || !meaning) continue;
      const own = s.words.slice(0, verb);
      if (own.some((w) => !['determiner', 'noun', 'name', 'adjective'].includes(w.role) && !w.marks.has('Gerund'))) continue;
      const term = subject.replace(/^(?:an?|the)\s+/i, '');
      const last = own.at(-1);
      if (
        !last ||
        !term ||
        (last.role !== 'noun' && last.role !== 'name') ||
        (own.length === 1 && PALE.has(last.base)) ||
        own.some((w) => /^(?:typical|average|common|basic|first|main|usual|normal|standard|other|original)$/.test(w.lower)) ||
        /^(?:some|many|most|all|every|each|no|any|several|few|his|her|their|its|our)\b/i.test(subject)
      )
        continue;
      const length = meaning.split(' ').length;
      if (length < 6 || length > 22 || term.length < 3 || /['’]s\b|,|\bor\b/.test(term)) continue;
      if (/^the\b/i.test(meaning) && length < 10) continue;
      if (RUNS_ON.test(meaning) || SAYS_SOMETHING.test(meaning)) continue;
      const stems = new Set(own.filter((w) => w.role !== 'determiner').map((w) => w.stem));
      const rest = s.words.slice(verb + 1);
      if (rest.some((w) => stems.has(w.stem) || (/^(?:it|its|they|their|them)$/.test(w.lower) && !rest.some((n) => n.from < w.from && n.role === 'noun'))))
        continue;
      // what comes behind the noun tells it from others of its genus
      if (
        !/\s(?:that|which|who|whose|where|of|for|used|to|in|with|made|called|by|between|from|consisting|designed|containing|produced|on|when|at|having)\s/i.test(
          meaning,
        )
      )
        continue;
      if (/^the\s/i.test(subject) && !/^(?:the)\s/i.test(meaning) && last.role !== 'name' && own.length < 3) continue;
      const genus = genusOf(s.words.slice(verb + 1));
      if (!tellsApart(rest, last.role === 'name' || /\p{Lu}{2}/u.test(last.text))) continue;
      if (genus && !PALE.has(genus) && !RELATED.has(genus)) out.push({ statement: s, term, meaning, genus, plural: m[1] === 'are' });
    }
    // what is defined twice is defined in part
    return out.filter((d) => !out.some((o) => o !== d && sameWords(o.term, d.term)));
  });
}

/** A statement with something else in the place of its fact. */
export function exchangedFact(f: Fact, instead: string): string {
  const { text } = f.statement;
  return text.slice(0, f.from) + instead + text.slice(f.to);
}
