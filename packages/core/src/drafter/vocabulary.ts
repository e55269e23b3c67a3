/** Items from a list of words: by what they mean, by an example with the word blanked, by a synonym, or from the word to its meaning. */
import { newId } from '../item/ids.js';
import { defaultMatch, type Item } from '../item/model.js';
import { seeded, shuffled } from '../item/shuffle.js';
import { akin, type Lexicon, type Sense, sensesOf, type WordClass } from '../lexicon/lexicon.js';
import { stemmerOf, tokensOf, type SentenceIndex } from '../source/sentences.js';
import { foundIn, inForm } from './inflect.js';
import type { Asking } from './names.js';
import type { ListedWord } from './wordList.js';
import { upperFirst } from './words.js';

/** A word with the meaning that is asked for. */
export interface VocabularyWord {
  word: string;
  /** The meaning of the lexical database that was chosen; none where only the own gloss holds. */
  sense?: Sense | undefined;
  /** A gloss of one's own goes before the database's. */
  gloss?: string | undefined;
  /** An example of one's own, with the word in it. */
  example?: string | undefined;
}

/** What is asked of a list of words. */
export interface VocabularyWish {
  ask: Asking;
  /** Chosen among options, typed, or matched with others. */
  as: 'choice' | 'typed' | 'matching';
  options?: number;
  seed?: string;
}

/** Items from words, and the words that gave none. */
export interface VocabularyItems {
  drafted: { item: Item; word: string; how: string }[];
  without: { word: string; why: string }[];
}

/** The meanings to choose from, the likeliest first, each with how well it fits the sources (0 where they say nothing). */
export function meaningsOf(word: string, lexicon: Lexicon, index?: SentenceIndex): { sense: Sense; fit: number }[] {
  const senses = sensesOf(lexicon, word.toLowerCase());
  if (!index) return senses.map((sense) => ({ sense, fit: 0 }));
  // the words around it in the sources, held against the words of each meaning (Lesk 1986)
  const stem = stemmerOf(index.language)(word.toLowerCase());
  const around = new Set<string>();
  for (const i of index.where.get(stem) ?? [])
    for (const s of [index.sentences[i - 1], index.sentences[i], index.sentences[i + 1]])
      for (const t of s?.tokens ?? []) if (t.stem !== stem) around.add(t.stem);
  const everywhere = new Set(index.where.keys());
  return senses
    .map((sense, i) => {
      const own = [sense.gloss, ...sense.examples, ...sense.words, sense.field.split('.')[1] ?? '', ...sense.siblings.slice(0, 8).map((s) => s.word)].join(' ');
      const stems = [...new Set(tokensOf(own, index.language).map((t) => t.stem))].filter((t) => t !== stem);
      // near it counts double, anywhere in the source single; by the length of what could be found
      const fit = stems.reduce((sum, t) => sum + (around.has(t) ? 2 : everywhere.has(t) ? 1 : 0), 0) / Math.sqrt(Math.max(4, stems.length));
      return { sense, fit, i };
    })
    .sort((a, b) => b.fit - a.fit || a.i - b.i)
    .map(({ sense, fit }) => ({ sense, fit }));
}

/** Words of the glosses of a meaning, each once. */
const wordsIn = (s: Sense): Set<string> => new Set(tokensOf([s.gloss, ...s.examples, ...s.words].join(' '), 'en').map((t) => t.stem));

/**
 * How well each meaning of each word goes with the other words of its list: a list of cookery words means the "poach" of cooking. Each
 * other word gives the most of the words that one of its meanings has in common, by how rare they are in the list.
 */
function fitsInList(all: readonly (readonly Sense[])[]): number[][] {
  const stems = all.map((senses) => senses.map(wordsIn));
  const having = new Map<string, number>();
  for (const of of stems) for (const t of new Set(of.flatMap((x) => [...x]))) having.set(t, (having.get(t) ?? 0) + 1);
  const weight = (t: string): number => Math.log(1 + all.length / (having.get(t) ?? 1));
  return all.map((senses, i) =>
    senses.map((sense, j) =>
      all.reduce((sum, others, k) => {
        if (k === i) return sum;
        const most = others.reduce((m, o, l) => {
          let shared = sense.field === o.field ? 0.4 : 0;
          for (const t of stems[i]?.[j] ?? []) if (stems[k]?.[l]?.has(t)) shared += weight(t);
          return Math.max(m, shared);
        }, 0);
        return sum + most;
      }, 0),
    ),
  );
}

/** The words of a list with the likeliest meaning of each: nearest to the sources, and to the other words of the list. */
export function withMeanings(list: readonly ListedWord[], lexicon: Lexicon, index?: SentenceIndex): VocabularyWord[] {
  const all = list.map(({ word, gloss }) => (gloss === undefined ? meaningsOf(word, lexicon, index) : []));
  const fits = fitsInList(all.map((m) => m.map((x) => x.sense)));
  return list.map(({ word, gloss }, i) => {
    const own = all[i] ?? [];
    const best = (of: readonly number[]): number => Math.max(...of, 1e-9);
    const inSource = best(own.map((m) => m.fit));
    const inList = best(fits[i] ?? []);
    const met = best(own.map((m) => m.sense.count));
    let chosen: Sense | undefined;
    let most = -1;
    own.forEach((m, j) => {
      const value = m.fit / inSource + (fits[i]?.[j] ?? 0) / inList + (0.3 * m.sense.count) / met;
      if (value > most) {
        most = value;
        chosen = m.sense;
      }
    });
    return { word, gloss, sense: chosen };
  });
}

/** Whether one of two meanings says all that the other says: then it may be right as well. */
function saysAsMuch(a: string, b: string): boolean {
  const [x, y] = [a, b].map((t) => new Set(tokensOf(t, 'en').map((w) => w.stem))) as [Set<string>, Set<string>];
  const shared = [...x].filter((t) => y.has(t)).length;
  return shared > 0 && shared >= 0.7 * Math.min(x.size, y.size);
}

const glossOf = (w: VocabularyWord): string => w.gloss?.trim() || w.sense?.gloss || '';
const classOf = (w: VocabularyWord): WordClass | undefined => w.sense?.class;

/** What a word gives to be asked by; null where it gives nothing. */
interface Asked {
  stem: string;
  key: string;
  /** What stands in the key's place for another word; null where that has nothing. */
  as: (other: VocabularyWord) => string | null;
  /** The same for a word of the database. */
  asWord: (word: string) => string | null;
  how: string;
  feedback?: string;
}

class Asker {
  private readonly words: readonly VocabularyWord[];
  constructor(
    words: readonly VocabularyWord[],
    private readonly lexicon: Lexicon,
    private readonly seed: string,
  ) {
    this.words = words;
  }

  asked(w: VocabularyWord, ask: Exclude<Asking, 'mix'>): Asked | string {
    const gloss = glossOf(w);
    const says = foundIn(gloss, w.word, classOf(w));
    if (ask === 'definition') {
      if (!gloss) return 'it has no meaning yet';
      // a meaning that names the word gives it away
      const shown = says ? `${gloss.slice(0, says.from)}____${gloss.slice(says.to)}` : gloss;
      return {
        stem: `Which word means “${shown}”?`,
        key: w.word,
        as: (o) => o.word,
        asWord: (o) => o,
        how: w.gloss ? 'By your own gloss.' : 'By its meaning.',
      };
    }
    if (ask === 'example') {
      for (const example of [w.example ?? '', ...(w.sense?.examples ?? [])]) {
        const at = foundIn(example, w.word, classOf(w));
        if (!at || example.split(/\s+/).length < 3) continue;
        const form = (word: string, c: WordClass | undefined): string => inForm(word, c, at.form);
        return {
          stem: upperFirst(`${example.slice(0, at.from)}____${example.slice(at.to)}`),
          key: example.slice(at.from, at.to),
          as: (o) => form(o.word, classOf(o)),
          asWord: (o) => form(o, classOf(w)),
          how: 'By an example with the word blanked.',
          ...(gloss && { feedback: `${w.word}: ${gloss}` }),
        };
      }
      return 'no example of this meaning has it in it';
    }
    if (ask === 'synonym') {
      const other = w.sense?.words.find((s) => s.toLowerCase() !== w.word.toLowerCase() && !foundIn(s, w.word, undefined));
      if (!other) return 'the lexical database has no other word for it';
      return {
        stem: `Which word means about the same as “${w.word}”?`,
        key: other,
        as: (o) => o.sense?.words.find((s) => s.toLowerCase() !== o.word.toLowerCase()) ?? o.word,
        asWord: (o) => o,
        how: 'By a synonym.',
        ...(gloss && { feedback: `${w.word}, ${other}: ${gloss}` }),
      };
    }
    if (!gloss) return 'it has no meaning yet';
    if (says) return 'its meaning names it';
    return { stem: `What does “${w.word}” mean?`, key: gloss, as: (o) => glossOf(o) || null, asWord: () => null, how: 'From the word to its meaning.' };
  }

  /** Wrong answers: words of the list of the same class first, then neighbours in the database; nothing that is akin to the key. */
  distractors(w: VocabularyWord, a: Asked, count: number): string[] {
    const c = classOf(w);
    const own = new Set([w.word, a.key, ...(w.sense?.words ?? []), ...(w.sense?.below ?? [])].map((x) => x.toLowerCase()));
    const out: string[] = [];
    const related = (x: string, y: string): boolean => akin(this.lexicon, x.toLowerCase(), y.toLowerCase());
    const add = (text: string | null, word: string): void => {
      if (text === null || out.length >= count || own.has(text.toLowerCase()) || own.has(word.toLowerCase())) return;
      if (out.some((o) => o.toLowerCase() === text.toLowerCase()) || related(word, w.word) || related(text, a.key)) return;
      if (foundIn(a.stem, text, undefined) || saysAsMuch(text, a.key)) return;
      out.push(text);
    };
    const others = shuffled(
      this.words.filter((o) => o !== w && o.word.toLowerCase() !== w.word.toLowerCase()),
      seeded(this.seed),
      `others ${w.word}`,
    );
    const same = others.filter((o) => classOf(o) === c && (!c || !w.sense || !o.sense || o.sense.id !== w.sense.id));
    // of the same field first: a tool beside tools
    for (const o of same.filter((x) => x.sense?.field === w.sense?.field)) add(a.as(o), o.word);
    for (const o of same) add(a.as(o), o.word);
    const near = (w.sense?.siblings ?? []).slice().sort((x, y) => Math.abs(x.count - (w.sense?.count ?? 0)) - Math.abs(y.count - (w.sense?.count ?? 0)));
    for (const o of near) if (/^[a-z]/.test(o.word)) add(a.asWord(o.word), o.word);
    // a list of own glosses has no classes: any of its words will do
    for (const o of others) add(a.as(o), o.word);
    return out;
  }
}

const TURN: readonly Exclude<Asking, 'mix'>[] = ['definition', 'example', 'meaning', 'synonym'];
const PAIRS = 6;
const FEWEST_PAIRS = 3;

/**
 * Makes an item of every word. A word that cannot be asked in the way wished for is asked in another, and that is told in `how`; one that
 * cannot be asked at all is told with its reason.
 * @throws RangeError where a number is out of its bounds
 */
export function vocabularyItems(words: readonly VocabularyWord[], wish: VocabularyWish, lexicon: Lexicon): VocabularyItems {
  const options = wish.options ?? 4;
  if (!Number.isInteger(options) || options < 2 || options > 8) throw new RangeError('a choice has from 2 to 8 options');
  const seed = wish.seed ?? 'words';
  const asker = new Asker(words, lexicon, seed);
  const drafted: VocabularyItems['drafted'] = [];
  const without: VocabularyItems['without'] = [];
  if (wish.as === 'matching') return matched(words);
  for (const [i, w] of words.entries()) {
    const first = wish.ask === 'mix' ? (TURN[i % TURN.length] ?? 'definition') : wish.ask;
    let reason = '';
    let made: { item: Item; how: string } | null = null;
    for (const ask of [first, ...TURN.filter((t) => t !== first && !(wish.as === 'typed' && t === 'meaning'))]) {
      if (wish.as === 'typed' && ask === 'meaning') continue;
      const a = asker.asked(w, ask);
      if (typeof a === 'string') {
        reason ||= a;
        continue;
      }
      const item = wish.as === 'typed' ? typed(w, a) : chosen(w, a);
      if (!item) {
        reason ||= 'there are too few other words to choose from';
        continue;
      }
      made = { item, how: ask === first || wish.ask === 'mix' ? a.how : `${a.how} (${reason})` };
      break;
    }
    if (made) drafted.push({ ...made, word: w.word });
    else without.push({ word: w.word, why: reason || 'it has no meaning yet' });
  }
  return { drafted, without };

  function chosen(w: VocabularyWord, a: Asked): Item | null {
    const wrong = asker.distractors(w, a, options - 1);
    if (!wrong.length) return null;
    const all = shuffled([a.key, ...wrong], seeded(seed), `options ${w.word}`);
    return {
      id: newId(),
      kind: 'multiple-choice',
      points: 1,
      stem: a.stem,
      options: all.map((content) => ({ id: newId(), content, credit: content === a.key ? 1 : 0 })),
      ...(a.feedback && { feedback: { general: a.feedback } }),
    };
  }
  function typed(w: VocabularyWord, a: Asked): Item {
    // another word for the same is right as well
    const also = a.key.toLowerCase() === w.word.toLowerCase() ? (w.gloss ? [] : (w.sense?.words ?? [])) : [];
    const texts = [...new Set([a.key, ...also.map((t) => (t.toLowerCase() === w.word.toLowerCase() ? a.key : t))])];
    return {
      id: newId(),
      kind: 'short-answer',
      points: 1,
      stem: a.stem,
      answers: texts.map((text) => ({ text, credit: 1 })),
      match: defaultMatch,
      ...(a.feedback && { feedback: { general: a.feedback } }),
    };
  }
  function matched(all: readonly VocabularyWord[]): VocabularyItems {
    const able = all.filter((w) => glossOf(w) && !foundIn(glossOf(w), w.word, classOf(w)));
    for (const w of all) if (!able.includes(w)) without.push({ word: w.word, why: glossOf(w) ? 'its meaning names it' : 'it has no meaning yet' });
    // as even as can be: 13 words are 5, 4 and 4
    const groups = Math.ceil(able.length / PAIRS);
    for (let g = 0, at = 0; g < groups; g++) {
      const own = able.slice(at, at + Math.ceil((able.length - at) / (groups - g)));
      at += own.length;
      if (own.length < FEWEST_PAIRS) {
        for (const w of own) without.push({ word: w.word, why: `matching needs ${FEWEST_PAIRS} words at least` });
        continue;
      }
      drafted.push({
        item: {
          id: newId(),
          kind: 'matching',
          points: own.length,
          stem: 'Match each word with what it means.',
          pairs: own.map((w) => ({ left: w.word, right: glossOf(w) })),
          extraRights: [],
        },
        word: own.map((w) => w.word).join(', '),
        how: 'Words with their meanings.',
      });
    }
    return { drafted, without };
  }
}
