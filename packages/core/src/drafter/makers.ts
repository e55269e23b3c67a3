/** Items of each kind from what can be asked of the statements. A further kind is a row of the table at the end. */
import { newId } from '../item/ids.js';
import { defaultMatch, type Item, type Option } from '../item/model.js';
import { shuffled } from '../item/shuffle.js';
import { tokensOf } from '../source/sentences.js';
import { type Definition, definitionsOf, exchangedFact, type Fact, factsOf, type Ground, sameGenus } from './facts.js';
import { mentions } from './mentions.js';
import type { DraftedKind } from './names.js';
import type { Statement } from './statements.js';
import { SPELLED, upperFirst, type Word } from './words.js';

/** An item that could be offered. */
export interface Candidate {
  item: Item;
  /** The statements that it comes from. */
  from: Statement[];
  /** What it asks for: asked once only. */
  answer: string;
  /** How it was made, in a sentence. */
  how: string;
  /** 0 to 1. */
  worth: number;
  /** Of true/false. */
  truth?: boolean;
  /** Why it needs a closer look. */
  doubt?: string | undefined;
}

/** What a maker is told beside the ground. */
export interface Making {
  options: number;
}
type Maker = (ground: Ground, making: Making) => Candidate[];

const GAP = '____';
const common = () => ({ id: newId(), points: 1 });
const gapped = (f: Fact): string => exchangedFact(f, GAP);

/** A candidate that asks for a fact. */
const asking = (f: Fact, item: Item, how: string, worth = f.worth): Candidate => ({
  item,
  from: [f.statement],
  answer: f.answer,
  how,
  worth,
  ...(f.doubt && { doubt: f.doubt }),
});

const factsFrom = (ground: Ground): Fact[] => ground.statements.flatMap((s) => factsOf(s, ground));

/** Whether another sentence of the sources has the words of a statement together with a distractor: then that may be right as well. */
function alsoRight(ground: Ground, s: Statement, without: string, distractor: string): boolean {
  const wanted = tokensOf(without, ground.index.language);
  const own = tokensOf(distractor, ground.index.language);
  if (!own.length) return false;
  const whole = wanted.reduce((sum, t) => sum + ground.index.weight(t.stem), 0) || 1;
  return (ground.index.where.get(own[0]?.stem ?? '') ?? []).some((i) => {
    const o = ground.index.sentences[i];
    if (!o || i === s.at) return false;
    const has = (stem: string): boolean => o.tokens.some((t) => t.stem === stem);
    return own.every((t) => has(t.stem)) && wanted.reduce((sum, t) => sum + (has(t.stem) ? ground.index.weight(t.stem) : 0), 0) / whole > 0.5;
  });
}

/** Options with the key among them: numbers in their order, others by chance. */
function optionsOf(key: string, wrong: readonly string[], ground: Ground, making: Making, numbers: boolean): Option[] | null {
  const count = making.options - 1;
  if (wrong.length < count) return null;
  const value = (t: string): number => Number(t.replace(/,/g, '')) || SPELLED.indexOf(t.toLowerCase());
  // of numbers the key may stand in any place: so many of the others below it
  const place = ground.chance(`place ${key} ${wrong[0]}`) % making.options;
  const chosen = numbers
    ? (() => {
        const below = wrong.filter((n) => value(n) < value(key));
        const above = wrong.filter((n) => value(n) > value(key));
        const under = Math.min(below.length, Math.max(place, count - above.length));
        return [...below.slice(0, under), ...above.slice(0, count - under)];
      })()
    : wrong.slice(0, count);
  if (chosen.length < count) return null;
  const all = [key, ...chosen];
  const sorted = numbers ? all.sort((a, b) => value(a) - value(b)) : shuffled(all, ground.chance, `options ${key}`);
  return sorted.map((content) => ({ id: newId(), content, credit: content === key ? 1 : 0 }));
}

/** Of two as long as each other the choice is fair; one that is far longer than the others tells itself. */
const nearLength = (key: string, others: readonly string[]): string[] => others.filter((o) => o.length > key.length * 0.6 && o.length < key.length * 1.7);

const choices: Maker = (ground, making) => {
  const out: Candidate[] = [];
  for (const f of factsFrom(ground)) {
    if (f.sort === 'opposite') continue;
    const without = exchangedFact(f, '');
    const numbers = f.sort === 'number' || f.sort === 'year';
    const wrong = (f.sort === 'cause' ? nearLength(f.answer, f.instead) : f.instead).filter((w) => numbers || !alsoRight(ground, f.statement, without, w));
    const options = optionsOf(f.answer, wrong, ground, making, numbers);
    if (!options) continue;
    out.push(asking(f, { ...common(), kind: 'multiple-choice', stem: gapped(f), options }, `Blank for ${ASKED[f.sort]}; distractors are ${f.how}.`));
  }
  const definitions = definitionsOf(ground);
  for (const d of definitions) {
    const others = definitions.filter(
      (o) => o !== d && o.plural === d.plural && sameGenus(o, d, ground.lexicon) && !mentions(d.term, o.term) && !mentions(o.term, d.term),
    );
    const meanings = optionsOf(
      d.meaning,
      nearLength(
        d.meaning,
        others.filter((o) => !mentions(o.meaning, d.term)).map((o) => o.meaning),
      ),
      ground,
      making,
      false,
    );
    if (meanings)
      out.push({
        item: {
          ...common(),
          kind: 'multiple-choice',
          stem: `${d.plural ? 'What are' : 'What is'} ${named(d, ground)}?`,
          options: meanings.map((o) => ({ ...o, content: upperFirst(o.content) })),
        },
        from: [d.statement],
        answer: d.term,
        how: 'Asks for the meaning of a term; distractors are what the source says of other terms.',
        worth: 0.95,
      });
    const terms = optionsOf(
      d.term,
      others.filter((o) => !mentions(d.meaning, o.term)).map((o) => o.term),
      ground,
      making,
      false,
    );
    if (terms && !meanings)
      out.push({
        item: {
          ...common(),
          kind: 'multiple-choice',
          stem: `Which ${d.statement.words.some((w) => w.role === 'name' && d.term.includes(w.text)) ? 'name' : 'term'} is meant? ${upperFirst(d.meaning)}.`,
          options: terms.map((o) => ({ ...o, content: upperFirst(o.content) })),
        },
        from: [d.statement],
        answer: d.term,
        how: 'Asks for the term of a definition; distractors are other terms that the source defines.',
        worth: 0.85,
      });
  }
  return out;
};
const ASKED: Readonly<Record<Fact['sort'], string>> = {
  number: 'a number',
  year: 'a year',
  name: 'a name',
  term: 'a term',
  opposite: 'a word',
  cause: 'a reason',
};
/** The beginning of a statement as it stands inside a sentence: in small letters where its first word is no name. */
function inside(text: string, first: Word | undefined, ground: Ground): string {
  const small = text.charAt(0).toLowerCase() + text.slice(1);
  if (!first || first.role === 'determiner') return small;
  if (/^\p{Lu}.*\p{Lu}/u.test(first.text)) return text;
  // at the beginning of a sentence every word has a capital: one that the database knows as no name needs none
  const senses = ground.lexicon(first.base);
  return senses.length ? (senses.some((s) => !s.instance && !/^\p{Lu}/u.test(s.words[0] ?? '')) ? small : text) : first.role === 'adjective' ? small : text;
}
/** A term as it is asked for within a question: with the article that it has in the source. */
function named(d: Definition, ground: Ground): string {
  const { text, words } = d.statement;
  return inside(text.slice(0, text.toLowerCase().indexOf(d.term.toLowerCase()) + d.term.length), words[0], ground);
}

const truths: Maker = (ground) => {
  const out: Candidate[] = [];
  for (const s of ground.statements) {
    // only what is false for certain once it is exchanged
    const facts = factsOf(s, ground).filter((f) => f.sort !== 'cause' && f.sort !== 'term' && f.instead.length);
    const f = facts.find((x) => x.sort === 'opposite' && !x.doubt) ?? facts.find((x) => !x.doubt) ?? facts[0];
    const [instead] = f?.instead ?? [];
    if (!f || !instead) continue;
    out.push({ ...asking(f, { ...common(), kind: 'true-false', stem: s.text, answer: true }, 'A statement of the source as it stands.'), truth: true });
    out.push({
      ...asking(
        f,
        { ...common(), kind: 'true-false', stem: exchangedFact(f, instead), answer: false },
        `A statement of the source with “${f.answer}” exchanged for “${instead}” (${f.how}).`,
      ),
      truth: false,
    });
  }
  return out;
};

/** "Debian was founded … in 1993." → "In which year was Debian founded …?"; null where the sentence is built otherwise. */
function yearQuestion(f: Fact, ground: Ground): string | null {
  const { text, words } = f.statement;
  const be = words.findIndex((w) => /^(?:was|were)$/.test(w.lower));
  const verb = words[be];
  if (!verb || be < 1 || be > 6) return null;
  const before = words.slice(0, be);
  if (before.some((w) => !['determiner', 'adjective', 'noun', 'name'].includes(w.role))) return null;
  const year = / in (\d{4})\.$/.exec(text);
  if (year?.[1] !== f.answer || /,/.test(text)) return null;
  const subject = inside(text.slice(0, verb.from).trim(), before[0], ground);
  return `In which year ${verb.lower} ${subject}${text.slice(verb.to, text.length - year[0].length)}?`;
}

/** What is typed has to be called for by the words around it more firmly than what is chosen. */
const TYPED = 0.64;

const shortAnswers: Maker = (ground) => [
  ...definitionsOf(ground).map(
    (d): Candidate => ({
      item: {
        ...common(),
        kind: 'short-answer',
        stem: `Which ${d.statement.words.some((w) => w.role === 'name' && d.term.includes(w.text)) ? 'name' : 'term'} is meant? ${upperFirst(d.meaning)}.`,
        answers: answersFor(d.term),
        match: defaultMatch,
      },
      from: [d.statement],
      answer: d.term,
      how: 'Asks for the term of a definition.',
      worth: 0.9,
    }),
  ),
  ...factsFrom(ground)
    .filter((f) => f.sort === 'name' || (f.sort === 'term' && f.worth > TYPED))
    .map((f) =>
      asking(
        f,
        {
          ...common(),
          kind: 'short-answer',
          stem: (f.sort === 'year' && yearQuestion(f, ground)) || gapped(f),
          answers: answersFor(f.answer),
          match: defaultMatch,
        },
        `Asks for ${ASKED[f.sort]}.`,
        f.sort === 'name' ? f.worth - 0.05 : f.worth,
      ),
    ),
];
const answersFor = (answer: string): { text: string; credit: number }[] => [{ text: answer, credit: 1 }];

const numbers: Maker = (ground) =>
  factsFrom(ground)
    .filter((f) => (f.sort === 'year' || f.sort === 'number') && f.value !== undefined)
    .map((f) => {
      const value = f.value as number;
      return asking(
        f,
        { ...common(), kind: 'numeric', stem: (f.sort === 'year' && yearQuestion(f, ground)) || gapped(f), answers: [{ min: value, max: value, credit: 1 }] },
        `Asks for ${ASKED[f.sort]}.`,
      );
    });

const blanks: Maker = (ground) =>
  factsFrom(ground)
    .filter((f) => f.sort !== 'cause' && f.sort !== 'opposite' && (f.sort !== 'term' || f.worth > TYPED))
    .map((f) => {
      const id = newId();
      const number = f.value !== undefined && (f.sort === 'number' || f.sort === 'year') && /^\d/.test(f.answer);
      return asking(
        f,
        {
          ...common(),
          kind: 'cloze',
          stem: exchangedFact(f, `[[${id}]]`),
          gaps: [
            number
              ? { id, points: 1, kind: 'number', answers: [{ min: f.value as number, max: f.value as number, credit: 1 }] }
              : { id, points: 1, kind: 'text', answers: answersFor(f.answer) },
          ],
        },
        `Blank for ${ASKED[f.sort]}.`,
        f.worth - (f.sort === 'term' ? 0.02 : 0),
      );
    });

const FEWEST_PAIRS = 4;
const MOST_PAIRS = 6;
const pairs: Maker = (ground) => {
  const out: Candidate[] = [];
  for (const plural of [false, true]) {
    let rest = definitionsOf(ground).filter((d) => d.plural === plural);
    while (rest.length >= FEWEST_PAIRS) {
      const own: Definition[] = [];
      for (const d of rest)
        if (
          own.length < MOST_PAIRS &&
          !own.some((o) => mentions(o.meaning, d.term) || mentions(d.meaning, o.term) || mentions(o.term, d.term) || mentions(d.term, o.term))
        )
          own.push(d);
      if (own.length < FEWEST_PAIRS) break;
      rest = rest.filter((d) => !own.includes(d));
      out.push({
        item: {
          ...common(),
          kind: 'matching',
          stem: 'Match each term with what it means.',
          points: own.length,
          pairs: own.map((d) => ({ left: upperFirst(d.term), right: upperFirst(d.meaning) })),
          extraRights: [],
        },
        from: own.map((d) => d.statement),
        answer: own.map((d) => d.term).join(', '),
        how: 'Terms of the source with what it says they are.',
        worth: 0.9,
      });
    }
  }
  return out;
};

/** The makers, by the kind that they make. */
export const makers: Readonly<Record<DraftedKind, Maker>> = {
  'multiple-choice': choices,
  'true-false': truths,
  'short-answer': shortAnswers,
  numeric: numbers,
  cloze: blanks,
  matching: pairs,
};
