/**
 * What a source says of the key of an item: the sentences that support it, and those that say otherwise. Found by the words that
 * the question, the key and a sentence have in common, weighted by how rare they are; numbers and their units are compared exactly.
 * It finds what is said in the same words; what is said in others it leaves to the person.
 */
import { plainOf } from '../item/richText.js';
import { isGraded, keyProblem, letterOf } from '../item/kinds.js';
import type { Gap, Item, NumberAnswer } from '../item/model.js';
import { NEGATIVE } from '../language/negatives.js';
import { isNegative, type Sentence, type SentenceIndex, type Token, tokensOf } from './sentences.js';

/** A sentence that speaks for or against a key. */
export interface Hit {
  sentence: Sentence;
  /** 0 to 1: how much of question and answer the sentence has. */
  score: number;
  /** Why it speaks for or against the key, for the person. */
  why: string;
  /** The place of the option, from 0, that it has in place of the key of a choice. */
  instead?: number;
  /** Characters of the sentence that it shares with question and answer. */
  matched: { from: number; to: number }[];
}

/** What the sources say of the key of an item. */
export interface Evidence {
  item: string;
  /** supported: a sentence says so; contradicted: one says otherwise, and none says so as clearly; disputed: both; none: neither was found. */
  verdict: 'supported' | 'contradicted' | 'disputed' | 'none';
  /** The best first, at most three. */
  supports: Hit[];
  contradicts: Hit[];
}

const MOST_HITS = 3;
/** Share of the question's words (by weight) that a sentence must have, to be about the same. */
const ABOUT = 0.34;
/** The same where a sentence is to speak against the key: more is asked, so that few sentences cry wolf. */
const AGAINST = 0.5;
/** Share of an answer's words that a sentence must have, to say it. */
const SAYS = 0.65;

/** Words that a sentence can take from the one before it ("It rests for two hours"), at a part of their weight. */
const CONTEXT = 0.55;

/** A question for what is not so, stressed or not. */
const ASKS_NOT = new RegExp(NEGATIVE.source, 'iu');

interface Wanted {
  tokens: Token[];
  whole: number;
}
const unitsFit = (a: string, b: string): boolean => a === '' || b === '' || a === b;
const sameNumber = (a: Token, b: Token): boolean =>
  !!a.number && !!b.number && Math.abs(a.number.value - b.number.value) < 1e-9 && unitsFit(a.number.unit, b.number.unit);
const has = (s: readonly Token[], t: Token): boolean => (t.number ? s.some((x) => sameNumber(x, t)) : s.some((x) => x.stem === t.stem));

class EvidenceFinder {
  constructor(private readonly index: SentenceIndex) {}

  wanted(text: string, without: readonly Token[] = []): Wanted {
    const seen = new Set<string>();
    const tokens = tokensOf(text, this.index.language).filter((t) => {
      if (seen.has(t.stem) || without.some((w) => w.stem === t.stem)) return false;
      seen.add(t.stem);
      return true;
    });
    return { tokens, whole: tokens.reduce((sum, t) => sum + this.index.weight(t.stem), 0) };
  }

  /** The share of wanted words that a sentence has, by weight; with what it can take from the one before. */
  cover(w: Wanted, at: number, context = false): number {
    if (!w.whole) return 0;
    const s = this.index.sentences[at];
    const before = this.index.sentences[at - 1];
    const near = context && s && before?.source === s.source ? before.tokens : [];
    return w.tokens.reduce((sum, t) => sum + this.index.weight(t.stem) * (s && has(s.tokens, t) ? 1 : has(near, t) ? CONTEXT : 0), 0) / w.whole;
  }

  /** Whether a sentence says an answer: all its numbers, and most of its words. */
  says(w: Wanted, at: number): number {
    const s = this.index.sentences[at];
    if (!s || w.tokens.some((t) => t.number && !has(s.tokens, t))) return 0;
    const c = this.cover(w, at);
    return c >= (w.tokens.length < 3 ? 0.99 : SAYS) ? c : 0;
  }

  /** The sentences that have a word of these, by place. */
  candidates(...all: Wanted[]): number[] {
    const out = new Set<number>();
    for (const w of all)
      for (const t of w.tokens)
        for (const i of this.index.where.get(t.stem) ?? []) {
          out.add(i);
          // the next one may take the word from it
          if (this.index.sentences[i + 1]?.source === this.index.sentences[i]?.source) out.add(i + 1);
        }
    return [...out].sort((a, b) => a - b);
  }

  hit(at: number, score: number, why: string, ...shared: Wanted[]): Hit {
    const sentence = this.index.sentences[at] as Sentence;
    const matched = sentence.tokens
      .filter((t) => shared.some((w) => w.tokens.some((x) => (x.number ? sameNumber(x, t) : x.stem === t.stem))))
      .map(({ from, to }) => ({ from, to }));
    return { sentence, score: Math.min(1, score), why, matched };
  }
  /** Whether the part of a sentence that has most of these words says that something is not so. */
  negative(at: number, ...wanted: Wanted[]): boolean {
    const s = this.sentence(at);
    const shared = s.tokens.filter((t) => wanted.some((w) => has(w.tokens, t)));
    const weight = (c: { from: number; to: number }): number =>
      shared.reduce((sum, t) => sum + (t.from >= c.from && t.from < c.to ? this.index.weight(t.stem) : 0), 0);
    return s.clauses.reduce((a, b) => (weight(b) > weight(a) ? b : a)).negative;
  }
  sentence(at: number): Sentence {
    return this.index.sentences[at] as Sentence;
  }
}

interface Found {
  supports: Hit[];
  contradicts: Hit[];
}
const nothing = (): Found => ({ supports: [], contradicts: [] });
const joint = (about: number, says: number): number => 0.5 * about + 0.5 * says;

/** One answer to a question, against others that would be wrong. */
function ofAnswer(
  r: EvidenceFinder,
  question: string,
  answer: string,
  others: readonly { text: string; name: string; place?: number }[],
  turned: boolean,
): Found {
  const q = r.wanted(question);
  const full = r.wanted(answer);
  // words that the question has too show nothing of the answer
  const own = r.wanted(answer, q.tokens);
  const key = own.tokens.length ? own : full;
  const wrong = others.map((o) => ({ ...o, want: r.wanted(o.text, [...q.tokens, ...full.tokens]) })).filter((o) => o.want.tokens.length);
  const whole = others.map((o) => ({ ...o, want: r.wanted(o.text, q.tokens) })).filter((o) => o.want.tokens.length);
  const out = nothing();
  if (!key.tokens.length) return out;
  const asksNot = isNegative(question) || isNegative(answer);
  const units = new Set(key.tokens.flatMap((t) => (t.number?.unit ? [t.number.unit] : [])));
  for (const at of r.candidates(key, ...wrong.map((o) => o.want), ...(units.size ? [q] : []))) {
    const about = r.cover(q, at, true);
    const said = r.says(key, at);
    // where another option is there more fully, the few words of the key are its words
    const fuller = said > 0 && said < 0.99 ? whole.find((o) => r.says(o.want, at) > said + 0.1) : undefined;
    const says = fuller ? 0 : said;
    // "not" in the sentence and not in the question turns it round
    const round = r.negative(at, q, full) !== asksNot && !turned;
    if (says && about >= ABOUT) {
      if (round && about >= AGAINST) out.contradicts.push(r.hit(at, joint(about, says) - 0.1, 'The sentence says that it is not so.', q, key));
      else if (!round) out.supports.push(r.hit(at, joint(about, says), 'The sentence has the answer.', q, key));
    }
    if (says || about < AGAINST || round) continue;
    const other = (fuller ? [fuller] : wrong).map((o) => ({ o, says: r.says(o.want, at) })).sort((a, b) => b.says - a.says)[0];
    if (other?.says)
      out.contradicts.push({
        ...r.hit(at, joint(about, other.says), `The sentence has ${other.o.name} in place of the key.`, q, other.o.want),
        ...(other.o.place !== undefined && { instead: other.o.place }),
      });
    else {
      const number = r.sentence(at).tokens.find((t) => t.number && units.has(t.number.unit) && !has(q.tokens, t));
      if (number && about >= AGAINST + 0.15)
        out.contradicts.push(r.hit(at, joint(about, 0.8), `The sentence has another number: ${r.sentence(at).text.slice(number.from, number.to)}.`, q));
    }
  }
  return out;
}

/** Words of which one takes the place of the other in an altered statement; English and German, from memory. */
const OPPOSITES: readonly (readonly [string, string])[] = (
  'more less,most least,higher lower,high low,hot cold,hotter colder,warm cool,warmer cooler,before after,increase decrease,increases decreases,raise lower,faster slower,fast slow,above below,over under,wet dry,hard soft,' +
  'strong weak,stronger weaker,longer shorter,long short,large small,larger smaller,first last,always never,raw cooked,open closed,acid alkaline,inside outside,left right,early late,sweet sour,light dark,mehr weniger,höher niedriger,heiß kalt,warm kalt,vor nach,schneller langsamer,über unter,nass trocken,stark schwach,länger kürzer,groß klein,größer kleiner'
)
  .split(',')
  .map((p) => p.split(' ') as [string, string]);
function opposite(a: string, b: string): [string, string] | null {
  const word = (text: string, w: string): boolean => new RegExp(`(?<![\\p{L}])${w}(?![\\p{L}])`, 'iu').test(text);
  for (const [x, y] of OPPOSITES) {
    if (word(a, x) && !word(a, y) && word(b, y) && !word(b, x)) return [x, y];
    if (word(a, y) && !word(a, x) && word(b, x) && !word(b, y)) return [y, x];
  }
  return null;
}

/** A statement that is said to be true, or false. */
function ofStatement(r: EvidenceFinder, statement: string, truth: boolean): Found {
  const w = r.wanted(statement);
  const out = nothing();
  const [yes, no] = truth ? [out.supports, out.contradicts] : [out.contradicts, out.supports];
  const negative = isNegative(statement);
  const words: Wanted = { tokens: w.tokens.filter((t) => !t.number), whole: 0 };
  words.whole = r.wanted(words.tokens.map((t) => statement.slice(t.from, t.to)).join(' ')).whole;
  const numbers = w.tokens.filter((t) => t.number);
  for (const at of r.candidates(w)) {
    const s = r.sentence(at);
    const about = r.cover(words, at, true);
    if (about < AGAINST) continue;
    const other = numbers
      .filter((n) => !has(s.tokens, n))
      .map((n) => s.tokens.find((t) => t.number && t.number.value !== n.number?.value && unitsFit(t.number.unit, n.number?.unit ?? '') && !has(w.tokens, t)))
      .find(Boolean);
    const turned = opposite(statement, s.text);
    if (other) no.push(r.hit(at, about, `The sentence has another number: ${s.text.slice(other.from, other.to)}.`, w));
    else if (numbers.some((n) => !has(s.tokens, n))) continue;
    else if (turned && about >= 0.6) no.push(r.hit(at, about, `The statement says “${turned[0]}”, the sentence “${turned[1]}”.`, w));
    else if (r.negative(at, w) !== negative && about >= 0.6)
      no.push(r.hit(at, about, negative ? 'The sentence says that it is so.' : 'The sentence says that it is not so.', w));
    else if (r.cover(w, at, true) >= 0.75)
      yes.push(r.hit(at, r.cover(w, at, true), truth ? 'The sentence says the same.' : 'The sentence says what the key calls false.', w));
  }
  return out;
}

/** A number that answers a question. */
function ofNumber(r: EvidenceFinder, question: string, answers: readonly NumberAnswer[], unit: string | undefined): Found {
  const q = r.wanted(question);
  const keys = answers.filter((a) => a.credit >= 1);
  const wantedUnit = unit ? (tokensOf(`1 ${unit}`, undefined)[0]?.number?.unit ?? '') : '';
  const out = nothing();
  for (const at of r.candidates(q)) {
    const about = r.cover(q, at, true);
    if (about < ABOUT) continue;
    const numbers = r.sentence(at).tokens.filter((t) => t.number && unitsFit(t.number.unit, wantedUnit));
    const right = numbers.find((t) => keys.some((k) => (t.number?.value ?? NaN) >= k.min - 1e-9 && (t.number?.value ?? NaN) <= k.max + 1e-9));
    const other = numbers.find((t) => !has(q.tokens, t));
    const shown = (t: Token): Wanted => ({ tokens: [...q.tokens, t], whole: 1 });
    if (right) out.supports.push(r.hit(at, joint(about, 1), 'The sentence has the number.', shown(right)));
    else if (other && about >= AGAINST)
      out.contradicts.push(
        r.hit(at, joint(about, wantedUnit ? 1 : 0.7), `The sentence has another number: ${r.sentence(at).text.slice(other.from, other.to)}.`, shown(other)),
      );
  }
  return out;
}

const gapText = (g: Gap): string[] =>
  g.kind === 'choice'
    ? g.options.filter((o) => o.credit >= 1).map((o) => plainOf(o.content))
    : g.kind === 'text'
      ? g.answers.filter((a) => a.credit >= 1).map((a) => a.text)
      : [];

const best = (hits: readonly Hit[]): number => Math.max(0, ...hits.map((h) => h.score));
/** Of several ways to write one answer, the one that a sentence supports best. */
const anyOf = (all: readonly Found[]): Found =>
  all.reduce(
    (a, b) => (best(b.supports) > best(a.supports) || (!a.supports.length && !b.supports.length && best(b.contradicts) < best(a.contradicts)) ? b : a),
    all[0] ?? nothing(),
  );
/** Of several things that all have to be so: supported where each is. */
const allOf = (all: readonly Found[]): Found => ({
  supports: all.every((f) => f.supports.length) ? all.flatMap((f) => f.supports.slice(0, 1)) : [],
  contradicts: all.flatMap((f) => (best(f.contradicts) > best(f.supports) ? f.contradicts : [])),
});

function found(r: EvidenceFinder, item: Item): Found | null {
  const stem = plainOf(item.stem);
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const keys = item.options.filter((o) => o.credit > 0);
      const others = item.options.flatMap((o, i) => (o.credit > 0 ? [] : [{ text: plainOf(o.content), name: `option ${letterOf(i)}`, place: i }]));
      if (ASKS_NOT.test(stem.split(/(?<=[.!])\s+/).at(-1) ?? '')) {
        // "which is NOT": what a sentence says of the others supports, what it says of the key contradicts
        const positive = stem.replace(ASKS_NOT, ' ');
        const said = keys.map((o) => ofAnswer(r, positive, plainOf(o.content), [], true));
        const rest = others.map((o) => ofAnswer(r, positive, o.text, [], true));
        const against = said.flatMap((f) => f.supports);
        return { supports: !against.length && rest.every((f) => f.supports.length) ? rest.flatMap((f) => f.supports) : [], contradicts: against };
      }
      return allOf(keys.map((o) => ofAnswer(r, stem, plainOf(o.content), others, false)));
    }
    case 'true-false':
      return item.answer === null ? null : ofStatement(r, stem, item.answer);
    case 'short-answer':
      return anyOf(item.answers.filter((a) => a.credit >= 1).map((a) => ofAnswer(r, stem, a.text, [], false)));
    case 'numeric':
      return ofNumber(r, stem, item.answers, item.unit);
    case 'cloze': {
      const around = plainOf(item.stem.replace(/\[\[[^\][]*\]\]/g, ' … '));
      return allOf(
        item.gaps.map((g) => {
          if (g.kind === 'number') return ofNumber(r, around, g.answers, undefined);
          const wrong =
            g.kind === 'choice' ? g.options.filter((o) => o.credit < 1).map((o) => ({ text: plainOf(o.content), name: `“${plainOf(o.content)}”` })) : [];
          const f = anyOf(gapText(g).map((t) => ofAnswer(r, around, t, wrong, false)));
          // a sentence that is the text around the gap, with something else in its place
          const q = r.wanted(around);
          if (!f.supports.length && !f.contradicts.length && q.tokens.length >= 3)
            for (const at of r.candidates(q))
              if (r.cover(q, at) >= 0.9 && r.sentence(at).tokens.some((t) => !has(q.tokens, t)) && !r.negative(at, q))
                f.contradicts.push(r.hit(at, r.cover(q, at) - 0.1, 'The sentence is the same but for the gap, and has other words there.', q));
          return f;
        }),
      );
    }
    case 'matching':
      return allOf(
        item.pairs
          .filter((p) => p.left && p.right)
          .map((p) =>
            ofAnswer(
              r,
              plainOf(p.left),
              plainOf(p.right),
              item.pairs.filter((x) => x !== p && x.right !== p.right).map((x) => ({ text: plainOf(x.right), name: `“${plainOf(x.right)}”` })),
              false,
            ),
          ),
      );
    case 'ordering': {
      // each step where it is told best; told in this order it is supported
      const places = item.sequence.map((s) => {
        const w = r.wanted(plainOf(s));
        return r
          .candidates(w)
          .map((at) => ({ at, cover: r.cover(w, at), w }))
          .sort((a, b) => b.cover - a.cover || a.at - b.at)[0];
      });
      const known = places.every((p) => p && p.cover >= SAYS);
      const rising = places.every((p, i) => i === 0 || (p?.at ?? 0) >= (places[i - 1]?.at ?? 0));
      const hits = places.flatMap((p) => (p ? [r.hit(p.at, p.cover, 'The sentence has this step.', p.w)] : []));
      return known && rising ? { supports: hits, contradicts: [] } : nothing();
    }
    default:
      return null;
  }
}

const top = (hits: readonly Hit[]): Hit[] => {
  const bySentence = new Map<Sentence, Hit>();
  for (const h of hits) if (h.score > (bySentence.get(h.sentence)?.score ?? -1)) bySentence.set(h.sentence, h);
  return [...bySentence.values()].sort((a, b) => b.score - a.score).slice(0, MOST_HITS);
};

/** What the sources say of an item's key; null where there is nothing to say: no key, or a person marks it. */
export function evidenceFor(item: Item, index: SentenceIndex): Evidence | null {
  if (!isGraded(item) || keyProblem(item)) return null;
  const f = found(new EvidenceFinder(index), item);
  if (!f) return null;
  const supports = top(f.supports);
  // a sentence that has the key as well as another option speaks for the key
  const contradicts = top(f.contradicts.filter((c) => !supports.some((s) => s.sentence === c.sentence)));
  const [pro, con] = [best(supports), best(contradicts)];
  const verdict =
    con && con > pro + 0.05 ? (pro > 0.75 ? 'disputed' : 'contradicted') : con && pro && con > pro - 0.05 ? 'disputed' : pro ? 'supported' : 'none';
  // weaker sentences against a well supported key are noise
  return { item: item.id, verdict, supports, contradicts: verdict === 'supported' ? [] : contradicts };
}
