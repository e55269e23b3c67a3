/** Replies matched with the items they are about: reworded, translated, shuffled, shortened, with more and fewer items, with keys that changed. */
import fc from 'fast-check';
import { readDraft } from '../draft/read.js';
import { anySet } from '../item/arbitrary.js';
import type { Item, QuizSet } from '../item/model.js';
import { seeded, shuffled } from '../item/shuffle.js';
import { type Merged, mergeReply } from './merge.js';

const SET = `1. What feeds the yeast in a sourdough starter?
a) salt
b) sugars from the flour *
c) the warmth of the room
d) the air

2. Which flour takes up the most water?
a) rice flour
b) white wheat flour
c) whole rye flour *

3. True or false: A cold dough can rise overnight. Answer: true

4. At how many °C is a white loaf baked?
Answer: 230

5. With 500 g flour and 380 g water the hydration is how many percent?
Answer: 76

6. What is a wet pre-ferment called?
Answer: poolish

7. Choose all that slow fermentation.
Select all that apply.
a) cold *
b) salt *
c) sugar
d) warm water

8. Why is dough left to rest after mixing?
a) The gluten relaxes *
b) The oven heats up
c) The salt melts
`;
const set: QuizSet = readDraft(SET).set;
const merged = (reply: string): Merged => mergeReply(set, readDraft(reply).set);
const places = (m: Merged): (number | null)[] => m.pairs.map((p) => p.reply);
const numbers = (m: Merged, of: (p: Merged['pairs'][number]) => boolean): number[] => m.pairs.flatMap((p, i) => (of(p) ? [i + 1] : []));

test('the same back again: every item is itself, and nothing changed', () => {
  const m = merged(SET);
  expect(places(m)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  expect(numbers(m, (p) => p.keyChanged || p.optionsReordered || p.changes.length > 0)).toEqual([]);
  expect(m.added).toEqual([]);
});

test('simpler words, options in another order, one key changed, one item gone, one new', () => {
  const m = merged(`1. What does the yeast in a starter eat?
a) the air
b) sugars in the flour *
c) salt
d) a warm room

2. Which flour holds the most water?
a) whole rye flour
b) white wheat flour *
c) rice flour

3. True or false: A cold dough can grow during the night. Answer: true

4. How hot (in °C) is the oven for a white loaf?
Answer: 230

5. What is the name of a wet pre-ferment?
Answer: poolish

6. Choose everything that makes fermentation slower.
Select all that apply.
a) warm water
b) sugar
c) salt *
d) cold *

7. Why does dough rest after you mix it?
a) The gluten relaxes *
b) The oven gets hot
c) The salt melts

8. Which tool scores the top of a loaf?
a) a lame *
b) a ladle
`);
  expect(places(m)).toEqual([0, 1, 2, 3, null, 4, 5, 6]);
  expect(m.added).toEqual([7]);
  expect(numbers(m, (p) => p.keyChanged)).toEqual([2]);
  expect(numbers(m, (p) => p.optionsReordered)).toEqual([1, 2, 7]);
});

const SPANISH = `1. ¿Qué alimenta la levadura en una masa madre?
a) la sal
b) los azúcares de la harina *
c) el calor de la habitación
d) el aire

2. ¿Qué harina absorbe más agua?
a) harina de arroz
b) harina blanca de trigo
c) harina integral de centeno *

3. Verdadero o falso: Una masa fría puede levar durante la noche. Respuesta: verdadero

4. ¿A cuántos °C se hornea un pan blanco?
Respuesta: 230

5. Con 500 g de harina y 380 g de agua, ¿de cuánto por ciento es la hidratación?
Respuesta: 76

6. ¿Cómo se llama un prefermento líquido?
Respuesta: poolish

7. Elige todo lo que frena la fermentación.
Selecciona todas las que correspondan.
a) frío *
b) sal *
c) azúcar
d) agua tibia

8. ¿Por qué se deja reposar la masa después de mezclar?
a) El gluten se relaja *
b) El horno se calienta
c) La sal se derrite
`;
test('another language: by build, figures, names and order; the key is where it was', () => {
  const m = merged(SPANISH);
  expect(m.translated).toBe(true);
  expect(places(m)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  expect(numbers(m, (p) => p.keyChanged || p.optionsReordered)).toEqual([]);
});
test('another language with one dropped, and one key changed', () => {
  const m = merged(
    SPANISH.replace(/3\. Verdadero[^\n]*\n\n/, '')
      .replace('c) harina integral de centeno *', 'c) harina integral de centeno')
      .replace('a) harina de arroz', 'a) harina de arroz *')
      .replace('Respuesta: 76', 'Respuesta: 67'),
  );
  expect(places(m)).toEqual([0, 1, null, 2, 3, 4, 5, 6]);
  expect(numbers(m, (p) => p.keyChanged)).toEqual([2, 5]);
});

test('another language in another order: figures find their place again', () => {
  const [first, ...rest] = SPANISH.split('\n\n');
  const moved = [rest[3], first, ...rest.filter((_, i) => i !== 3)].join('\n\n');
  expect(places(merged(moved))).toEqual([1, 2, 3, 4, 0, 5, 6, 7]);
});
test('the same options under another question, with another key, are more of the same sort', () => {
  const m = merged('1. What feeds the bakers of a school?\na) salt\nb) sugars from the flour\nc) the warmth of the room\nd) the air *');
  expect(places(m).filter((k) => k !== null)).toEqual([]);
  expect(m.added).toEqual([0]);
});

test('by their ids, wherever they stand and whatever they say', () => {
  const ids: QuizSet = { ...set, items: set.items.map((i, n) => ({ ...i, id: `q-${n + 1}` })) };
  const reply = readDraft(
    '1. [q-3] True or false: Dough likes the cold. Answer: true\n\n2. [q-1] What do yeasts live on?\na) salt\nb) flour sugars *\nc) heat\nd) air',
  ).set;
  const m = mergeReply(ids, reply);
  expect(m.pairs[2]).toMatchObject({ reply: 0, by: 'id' });
  expect(m.pairs[0]).toMatchObject({ reply: 1, by: 'id', keyChanged: false });
});

test('more like these are no versions of these', () => {
  const m = merged(`1. With 800 g flour and 560 g water the hydration is how many percent?
Answer: 70

2. What kills the yeast in a dough?
a) water hotter than 60 °C *
b) a pinch of salt
c) a long rest
`);
  expect(places(m).filter((x) => x !== null)).toEqual([]);
  expect(m.added).toEqual([0, 1]);
});

test('a reply that drops the keys: the ones before stay, and it is said', () => {
  const m = merged(SET.replaceAll(' *', '').replace('1. What feeds', '1. What really feeds'));
  expect(numbers(m, (p) => p.keyChanged)).toEqual([]);
  expect(numbers(m, (p) => p.keyMissing)).toEqual([1, 2, 7, 8]);
  expect(m.pairs[0]?.changes).toContain('stem');
});
test('an empty reply, and one about something else', () => {
  expect(places(mergeReply(set, { title: '', items: [] }))).toEqual(set.items.map(() => null));
  expect(places(merged('1. Who painted the ceiling?\na) Ada *\nb) Otto\n\n2. When did the war end?\nAnswer: 1648'))).toEqual(set.items.map(() => null));
});

test('the same words in two items of other builds: each finds its own, whatever the order', () => {
  const gap: Item = {
    id: 'a',
    stem: 'Answer: B [[1]]',
    points: 1,
    kind: 'cloze',
    gaps: [{ id: '1', points: 1, kind: 'text', answers: [{ text: '=', credit: 1 }] }],
  };
  const truth: Item = { id: 'b', stem: 'Answer: B', points: 1, kind: 'true-false', answer: true };
  const m = mergeReply(
    { title: '', items: [gap, truth] },
    {
      title: '',
      items: [
        { ...truth, id: 'x' },
        { ...gap, id: 'y' },
      ],
    },
  );
  expect(places(m)).toEqual([1, 0]);
});

/** A set in another order, its options too, with other ids: as an assistant gives it back. */
const asReply = (from: QuizSet, seed: number): { reply: QuizSet; order: number[] } => {
  const chance = seeded(String(seed));
  const order = shuffled(
    from.items.map((_, i) => i),
    chance,
    'items',
  );
  const items = order.map((i): Item => {
    const { label: _, ...item } = from.items[i] as Item;
    const options =
      'options' in item
        ? {
            options: shuffled(
              item.options.map((o) => ({ ...o, id: `new ${o.id}` })),
              chance,
              item.id,
            ),
          }
        : {};
    return { ...item, id: `new ${item.id}`, ...options } as Item;
  });
  return { reply: { ...from, items }, order };
};
test('items and options in any order: each finds itself, and a key is followed by what it says', () => {
  fc.assert(
    fc.property(anySet, fc.nat(1e6), (from, seed) => {
      // items that say the same cannot be told apart
      const stems = new Set(from.items.map((i) => JSON.stringify(i.stem)));
      fc.pre(stems.size === from.items.length && from.items.length > 0 && from.items.every((i) => i.kind !== 'information' && /\p{L}{4}/u.test(i.stem)));
      const { reply, order } = asReply(from, seed);
      const m = mergeReply(from, reply);
      m.pairs.forEach((p, i) => {
        if (p.reply !== null) expect(order[p.reply]).toBe(i);
        expect(p.keyChanged).toBe(false);
      });
    }),
    { numRuns: 200 },
  );
});
