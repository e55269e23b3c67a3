/** What the simulated assistant knows: a few facts of a kitchen, and some words of Spanish. */

/** Something that can be asked. */
export interface Fact {
  /** Words that a topic names it by. */
  of: string;
  question: string;
  right: string;
  wrong: readonly [string, string, string];
  /** Said as a sentence that holds, with the word that matters in brackets. */
  holds: string;
  /** The same with that word wrong. */
  fails: string;
  why: string;
}

const fact = (of: string, question: string, right: string, wrong: Fact['wrong'], holds: string, fails: string, why: string): Fact => ({
  of,
  question,
  right,
  wrong,
  holds,
  fails,
  why,
});

export const FACTS: readonly Fact[] = [
  fact(
    'salt bread dough yeast',
    'What does salt do to yeast in a dough?',
    'it slows it down',
    ['it feeds it', 'it colours it', 'it turns it into acid'],
    'Salt [slows] the yeast in a dough.',
    'Salt speeds up the yeast in a dough.',
    'Salt draws water from the yeast cells.',
  ),
  fact(
    'salt bread dough',
    'How much salt is usual for 500 grams of flour?',
    '10 grams',
    ['1 gram', '50 grams', '100 grams'],
    'For 500 grams of flour, about [10] grams of salt are usual.',
    'For 500 grams of flour, about 90 grams of salt are usual.',
    'Two per cent of the flour is usual.',
  ),
  fact(
    'salt bread dough gluten',
    'What does salt do to the gluten of a dough?',
    'it tightens it',
    ['it dissolves it', 'it sweetens it', 'it freezes it'],
    'Salt makes the gluten of a dough [tighter].',
    'Salt makes the gluten of a dough weaker.',
    'Salt lets the strands of gluten lie closer together.',
  ),
  fact(
    'bread dough starter yeast sourdough',
    'What feeds the yeast in a starter?',
    'sugars from the flour',
    ['salt', 'butter', 'the air'],
    'The yeast in a starter lives on sugars from the [flour].',
    'The yeast in a starter lives on salt.',
    'Enzymes turn the starch of the flour into sugars.',
  ),
  fact(
    'bread dough starter sourdough',
    'What gives sourdough bread its sour taste?',
    'acids of bacteria',
    ['vinegar', 'lemon juice', 'old flour'],
    'The sour taste of sourdough comes from [acids] of bacteria.',
    'The sour taste of sourdough comes from vinegar.',
    'Lactic acid bacteria make acids while they grow.',
  ),
  fact(
    'bread dough temperature rise',
    'What does a cold room do to a rising dough?',
    'it slows the rise',
    ['it doubles the rise', 'it dries it', 'it bakes it'],
    'In a [cold] room a dough rises more slowly.',
    'In a warm room a dough rises more slowly.',
    'Yeast works more slowly in the cold.',
  ),
  fact(
    'knife knives cutting safety',
    'How do you carry a knife through the kitchen?',
    'point down, close to the body',
    ['point up', 'in the apron pocket', 'above the head'],
    'A knife is carried with its point [down].',
    'A knife is carried with its point up.',
    'A point that shows down can hurt nobody beside you.',
  ),
  fact(
    'fire safety oil kitchen',
    'What puts out burning oil in a pan?',
    'a lid',
    ['water', 'flour', 'blowing'],
    'Burning oil in a pan is put out with a [lid].',
    'Burning oil in a pan is put out with water.',
    'A lid keeps the air away.',
  ),
  fact(
    'stock broth sauce',
    'How is a stock brought to heat?',
    'slowly, without boiling hard',
    ['at full heat', 'in the freezer', 'with a lid and a stone'],
    'A clear stock is heated [slowly].',
    'A clear stock is boiled as hard as possible.',
    'Boiling hard makes a stock cloudy.',
  ),
  fact(
    'hygiene hands safety',
    'What do you do first when you enter the kitchen?',
    'wash your hands',
    ['light the stove', 'taste the soup', 'sharpen a knife'],
    'Who enters the kitchen [washes] their hands first.',
    'Who enters the kitchen tastes the soup first.',
    'Hands carry germs from outside.',
  ),
];

/** Words of the kitchen in Spanish; longer ones first, so that "sugars from the flour" is no word by word. */
export const SPANISH: readonly (readonly [string, string])[] = Object.entries({
  'what feeds the yeast in a starter': '¿qué alimenta la levadura de una masa madre',
  'sugars from the flour': 'los azúcares de la harina',
  'which of these': '¿cuáles de estos',
  'speeds up fermentation': 'acelera la fermentación',
  'slows the yeast': 'frena la levadura',
  'how many grams are': '¿cuántos gramos son',
  'how many': '¿cuántos',
  'how much': '¿cuánto',
  'what is': '¿qué es',
  'what does': '¿qué hace',
  what: '¿qué',
  which: '¿qué',
  fermentation: 'fermentación',
  kilograms: 'kilogramos',
  starter: 'masa madre',
  vinegar: 'vinagre',
  butter: 'mantequilla',
  kitchen: 'cocina',
  grams: 'gramos',
  flour: 'harina',
  yeast: 'levadura',
  water: 'agua',
  bread: 'pan',
  dough: 'masa',
  knife: 'cuchillo',
  salt: 'sal',
  milk: 'leche',
  sugar: 'azúcar',
  lid: 'tapa',
  oil: 'aceite',
  the: 'la',
  of: 'de',
  and: 'y',
  in: 'en',
  is: 'es',
  are: 'son',
  with: 'con',
  for: 'para',
}).sort((a, b) => b[0].length - a[0].length);

const wordsOf = (text: string): Set<string> => new Set(text.toLowerCase().match(/\p{L}{3,}/gu) ?? []);
/** How many words two texts have in common. */
export function common(a: string, b: string): number {
  const there = wordsOf(b);
  return [...wordsOf(a)].filter((w) => there.has(w)).length;
}

/** The facts that a topic names, the nearest first; all of them where it names none. */
export function factsOn(topic: string): Fact[] {
  const near = FACTS.map((f) => ({ f, n: common(topic, `${f.of} ${f.question}`) }))
    .filter((x) => x.n > 0)
    .sort((a, b) => b.n - a.n);
  return near.length ? near.map((x) => x.f) : [...FACTS];
}

/** A text in Spanish as far as the words are known; the case of its first letter stays. */
export function inSpanish(text: string): string {
  let out = text;
  const kept: string[] = [];
  for (const [en, es] of SPANISH)
    out = out.replace(new RegExp(`(?<!\\p{L})${en}(?!\\p{L})`, 'giu'), (m) => {
      kept.push(/^\p{Lu}/u.test(m) ? es.replace(/\p{L}/u, (c) => c.toUpperCase()) : es);
      return `\u0001${kept.length - 1}\u0001`;
    });
  return out.replace(/\u0001(\d+)\u0001/g, (_, n: string) => kept[Number(n)] ?? '');
}
