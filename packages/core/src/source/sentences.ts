/** Sources as sentences whose words can be found: tokens, stems, numbers with their units, weights by how rare a word is. */
// @ts-expect-error: the package ships no types
import untyped from 'snowball-stemmers';
import { lookUp } from '../language/lookUp.js';
import { isEmptyWord } from '../language/contentWords.js';
import { parseNumber, writesDecimalComma } from '../language/numbers.js';
import { clock, type Cue } from './subtitles.js';
import { stripEnd } from '../item/strip.js';

const snowball = untyped as { newStemmer(algorithm: string): { stem(word: string): string } };

/** A source as it is kept. */
export interface SourceText {
  id: string;
  name: string;
  text: string;
  /** A transcript's words with their times; `text` is then not looked at. */
  cues?: readonly Cue[] | undefined;
}

/** A word of a sentence as it is compared. */
export interface Token {
  /** What is compared: the stem of a word, or `#` and the value of a number. */
  stem: string;
  from: number;
  to: number;
  /** Of a number: its value and what it counts ("%", "°c", "minut"), where that stands beside it. */
  number?: { value: number; unit: string };
}

/** A sentence of a source with its place (UTF-16 offsets) and its words. */
export interface Sentence {
  source: string;
  sourceName: string;
  /** Characters of the source's text; of a transcript, of its cues joined by blanks. */
  from: number;
  to: number;
  text: string;
  /** Where it stands, in words: "paragraph 3", "at 02:10". */
  place: string;
  /** Seconds from the start, of a transcript. */
  time?: number;
  tokens: Token[];
  /** Its parts between commas and conjunctions, each with whether it says that something is not so. */
  clauses: { from: number; to: number; negative: boolean }[];
}

// The languages of the reader for which Snowball has a stemmer (Porter 2001, snowballstem.org); others are compared as written.
const STEMMERS: Readonly<Record<string, string>> = {
  ar: 'arabic',
  hy: 'armenian',
  eu: 'basque',
  ca: 'catalan',
  cs: 'czech',
  da: 'danish',
  nl: 'dutch',
  en: 'english',
  fi: 'finnish',
  fr: 'french',
  de: 'german',
  hu: 'hungarian',
  it: 'italian',
  ga: 'irish',
  nb: 'norwegian',
  no: 'norwegian',
  pt: 'portuguese',
  ro: 'romanian',
  ru: 'russian',
  es: 'spanish',
  sl: 'slovene',
  sv: 'swedish',
  ta: 'tamil',
  tr: 'turkish',
};
/** Gives the stem of a word, by the stemmer of its language. */
export type Stem = (word: string) => string;
const stemmers = new Map<string, Stem>();
/** The stem of a word, in small letters. */
export function stemmerOf(language: string | undefined): Stem {
  const code = (language ?? 'en').slice(0, 2);
  let stem = stemmers.get(code);
  if (!stem) {
    const name = STEMMERS[code];
    const own = name ? snowball.newStemmer(name) : null;
    const known = new Map<string, string>();
    stem = (word) => {
      let s = known.get(word);
      if (s === undefined) {
        s = own ? own.stem(word) : word;
        if (known.size < 50_000) known.set(word, s);
      }
      return s;
    };
    stemmers.set(code, stem);
  }
  return stem;
}

// Small numbers in words, from memory; tens and hundreds in words are rare in questions.
const NUMBER_WORDS: Record<string, number> = Object.fromEntries(
  (
    [
      'one two three four five six seven eight nine ten eleven twelve',
      'eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf',
      'un deux trois quatre cinq six sept huit neuf dix onze douze',
      'uno dos tres cuatro cinco seis siete ocho nueve diez once doce',
    ] as const
  ).flatMap((row) => row.split(' ').map((w, i) => [w, i + 1] as const)),
);
Object.assign(NUMBER_WORDS, { half: 0.5, twenty: 20, thirty: 30, forty: 40, fifty: 50, sixty: 60, hundred: 100, thousand: 1000 });
/** "One" is a number in front of what is measured, and a word elsewhere. */
const ONE = /^(?:one|eine?|une?|una?|uno)$/;
for (const w of ['one', 'un', 'uno', 'eins']) delete NUMBER_WORDS[w];
const MEASURED =
  /^\s(?:hour|minute|second|day|week|month|year|gram|kilo|litre|liter|metre|meter|cup|spoon|stunde|minute|tag|woche|monat|jahr|liter|heure|jour|semaine|mois|an(?:née)?|hora|minuto|día|semana|mes|año)/iu;

const NEGATION =
  /(?<![\p{L}])(?:no|not|never|no longer|cannot|without|neither|nor|hardly|scarcely|\p{L}+n['’]t|nicht|kein\p{Ll}*|nie|niemals|ohne|kaum|pas|jamais|sans|nunca|jamás|sin|apenas|não|nem|sem|non|mai|senza|niet|geen|nooit|zonder|bez|не|нет|değil\p{Ll}*)(?![\p{L}])/iu;
/** Whether a sentence denies something. */
export const isNegative = (text: string): boolean => NEGATION.test(text);

const PIECE = /[+−-]?\d[\d.,'’\u00a0\u202f]*(?:\s?[×x]\s?10\^?[−-]?\d+)?(?:[½¼¾⅓⅔])?|[½¼¾⅓⅔]|[\p{L}][\p{L}\p{M}'’]*/gu;
const UNIT = /^\s?(%|°\s?[CF]|[€$£]|(?:µ|m|c|k|d)?[gGlLmsWVAJ](?:\/[lLkgmh]+)?[²³23]?(?![\p{L}]))/u;
// One writing for units of time and share, from memory.
const UNIT_NAMES: Readonly<Record<string, string>> = {
  percent: '%',
  'per cent': '%',
  degrees: '°',
  min: 'minut',
  h: 'hour',
  hrs: 'hour',
  hr: 'hour',
  s: 'second',
  sec: 'second',
  gram: 'g',
  grams: 'g',
  litre: 'l',
  litres: 'l',
  liter: 'l',
  liters: 'l',
  kilogram: 'kg',
  kilograms: 'kg',
  kilo: 'kg',
  kilos: 'kg',
  metre: 'm',
  metres: 'm',
};

/** The words and numbers of a text that carry content, with their places. */
export function tokensOf(text: string, language: string | undefined): Token[] {
  const stem = stemmerOf(language);
  const comma = writesDecimalComma(language);
  const out: Token[] = [];
  for (const m of text.matchAll(PIECE)) {
    const from = m.index;
    const raw = m[0];
    const word = raw.normalize('NFKC').toLowerCase().replace(/’/g, "'");
    const spelled = NUMBER_WORDS[word] ?? (ONE.test(word) && MEASURED.test(text.slice(from + raw.length)) ? 1 : undefined);
    if (/\d|[½¼¾⅓⅔]/.test(raw) || spelled !== undefined) {
      const written = stripEnd(raw, /[.,'’\s]/);
      // a dash between two numbers is no minus
      const value = spelled ?? parseNumber(/[\d\p{L}]\s?$/u.test(text.slice(0, from)) ? written.replace(/^[−-]/, '') : written, comma);
      if (value !== null) {
        const behind = text.slice(from + written.length);
        const sign = UNIT.exec(behind)?.[1];
        const next = /^[\s-]?([\p{L}]+(?: cent)?)/u.exec(behind)?.[1]?.toLowerCase();
        const before = /([€$£])\s?$/.exec(text.slice(0, from))?.[1];
        const named = sign ?? before ?? (next === undefined ? '' : (lookUp(UNIT_NAMES, next) ?? (isEmptyWord(next) ? '' : stem(next))));
        const unit = (lookUp(UNIT_NAMES, named) ?? named).toLowerCase().replace(/\s/g, '');
        out.push({ stem: `#${value}`, from, to: from + written.length, number: { value, unit } });
        continue;
      }
    }
    const bare = word.replace(/'s?$/, '').replace(/^(?:l|d|qu|j|n|s|m|t|c|dell|all|un|nell)'(?=\p{L})/u, '');
    if (bare.length < 2 || isEmptyWord(bare) || (bare.length < 3 && !/^\p{Lu}/u.test(raw))) continue;
    out.push({ stem: stem(bare), from, to: from + raw.length });
  }
  return out;
}

const ABBREVIATED =
  /(?:(?<![\p{L}])(?:[eE]\.g|[iI]\.e|etc|vs|approx|[DM]r|Mrs|Ms|St|[fF]ig|ca|bzw|[zZ]\.\s?B|[dD]\.\s?h|usw|[nN]r|[pP]\.\s?ej|[pP]\.\s?ex|No)|(?<=^|\s)[A-Z])\.\s*$/u;

/** The sentences of a stretch of text, with their places in it. */
function split(text: string, language: string | undefined): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  const segmenter = new Intl.Segmenter(language ?? 'en', { granularity: 'sentence' });
  for (const { segment, index } of segmenter.segment(text)) {
    const last = out.at(-1);
    if (last && ABBREVIATED.test(text.slice(last.from, last.to))) last.to = index + segment.length;
    else out.push({ from: index, to: index + segment.length });
  }
  return out.map(({ from, to }) => {
    const piece = text.slice(from, to);
    return { from: from + (piece.length - piece.trimStart().length), to: to - (piece.length - piece.trimEnd().length) };
  });
}

// Conjunctions that begin a clause of its own, from memory.
const JOINT =
  /[,;:]|(?<![\p{L}])(?:because|but|although|while|whereas|weil|aber|obwohl|während|parce que|mais|porque|pero|aunque|mas|perché|ma|omdat|maar)(?![\p{L}])/giu;
function clausesOf(text: string): Sentence['clauses'] {
  const ends = [...text.matchAll(JOINT)].map((m) => m.index);
  return [...ends, text.length].map((to, i) => {
    const from = i ? (ends[i - 1] ?? 0) : 0;
    return { from, to, negative: isNegative(text.slice(from, to)) };
  });
}

/** The sentences of all sources, findable by the stems of their words. */
export interface SentenceIndex {
  language: string | undefined;
  sentences: Sentence[];
  /** Stem → the sentences that have it, by their place in `sentences`. */
  where: ReadonlyMap<string, readonly number[]>;
  /** The weight of a stem: ln(1 + sentences / sentences with it), after Spärck Jones 1972. A stem that no sentence has weighs most. */
  weight(stem: string): number;
}

/** The cues of a transcript as one text, with the place where each begins. */
export const joinedCues = (cues: readonly Cue[]): { text: string; starts: number[] } => {
  const starts: number[] = [];
  let text = '';
  for (const c of cues) {
    if (text) text += ' ';
    starts.push(text.length);
    text += c.text.replace(/\s+/g, ' ');
  }
  return { text, starts };
};

/** Reads sources into an index; the same sources give the same index. */
export function indexSources(sources: readonly SourceText[], language?: string): SentenceIndex {
  const sentences: Sentence[] = [];
  for (const s of sources) {
    const add = (text: string, at: number, place: (from: number) => Pick<Sentence, 'place' | 'time'>): void => {
      for (const { from, to } of split(text, language)) {
        const own = text.slice(from, to);
        if (!/[\p{L}\p{N}]/u.test(own)) continue;
        sentences.push({
          source: s.id,
          sourceName: s.name,
          from: at + from,
          to: at + to,
          text: own,
          ...place(from),
          tokens: tokensOf(own, language),
          clauses: clausesOf(own),
        });
      }
    };
    if (s.cues?.length) {
      const { text, starts } = joinedCues(s.cues);
      add(text, 0, (from) => {
        const cue =
          s.cues?.[
            Math.max(
              0,
              starts.findLastIndex((x) => x <= from),
            )
          ];
        return { place: `at ${clock(cue?.from ?? 0)}`, time: cue?.from ?? 0 };
      });
    } else {
      let n = 0;
      for (const m of s.text.matchAll(/[^\n]+(?:\n(?![ \t]*\n)[^\n]+)*/g)) {
        if (!m[0].trim()) continue;
        n++;
        add(m[0].replace(/\n/g, ' '), m.index, () => ({ place: `paragraph ${n}` }));
      }
    }
  }
  const where = new Map<string, number[]>();
  sentences.forEach((s, i) => {
    for (const t of new Set(s.tokens.map((x) => x.stem))) {
      const list = where.get(t);
      if (list) list.push(i);
      else where.set(t, [i]);
    }
  });
  return { language, sentences, where, weight: (stem) => Math.log(1 + (sentences.length + 1) / (where.get(stem)?.length ?? 0.5)) };
}
