/** The drafter with the whole lexicon: on a text of ours, and on prose of many other writers, what must hold of every item. */
import fs from 'node:fs';
import path from 'node:path';
import { evidenceFor, indexSources, type Item, isGraded, item as itemSchema, keyProblem, plainOf, readDraft, writeNotation } from '@zakuska/core';
import { type DraftedItems, draftedKinds, Drafter } from '@zakuska/core/drafter';
import { english } from './index.js';

const root = new URL('../../../../', import.meta.url).pathname;
const sourdough = fs.readFileSync(path.join(root, 'packages/core/corpus/evidence/sourdough.txt'), 'utf8');
const source = (text: string) => [{ id: 's', name: 'Notes', text }];
const all = Object.fromEntries(draftedKinds.map((k) => [k, 6]));
const drafted = (text: string, counts = all, seed = 'a', language = 'en'): DraftedItems => new Drafter(source(text), language).draft({ counts, seed }, english);

const words = (t: string): string =>
  ` ${t
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;
/** What the key says. */
const keyOf = (i: Item): string[] => {
  if (i.kind === 'multiple-choice') return i.options.filter((o) => o.credit > 0).map((o) => plainOf(o.content));
  if (i.kind === 'short-answer') return i.answers.map((a) => a.text);
  if (i.kind === 'cloze') return i.gaps.flatMap((g) => (g.kind === 'text' ? g.answers.map((a) => a.text) : []));
  return [];
};

/** What holds of whatever was drafted from a text. */
function holds(text: string, result: DraftedItems): void {
  const index = indexSources(source(text), 'en');
  const asked = new Set<string>();
  for (const { item, evidence, how } of result.drafted) {
    expect(itemSchema.safeParse(item).success).toBe(true);
    expect(keyProblem(item)).toBeNull();
    expect(isGraded(item)).toBe(true);
    expect(how).not.toBe('');
    // the sentence stands in the source, and says the key
    for (const e of evidence) expect(text.slice(e.from, e.to).replace(/\s+/g, ' ')).toBe(e.text.replace(/\s+/g, ' '));
    const said = words(evidence.map((e) => e.text).join(' '));
    for (const key of keyOf(item)) {
      // a resolved pronoun brings its word from the sentence before
      if (!how.includes('stands for')) expect(said).toContain(words(key).trim());
      expect(words(plainOf(item.stem))).not.toContain(words(key));
    }
    if (item.kind === 'multiple-choice') {
      const texts = item.options.map((o) => words(plainOf(o.content)));
      expect(new Set(texts).size).toBe(4);
      expect(item.options.filter((o) => o.credit > 0)).toHaveLength(1);
    }
    if (item.kind === 'true-false') expect(['contradicted', 'disputed']).not.toContain(evidenceFor(item, index)?.verdict);
    // nothing is asked twice, nor of one sentence twice
    for (const e of evidence) {
      expect(asked.has(`${e.from}`)).toBe(false);
      asked.add(`${e.from}`);
    }
  }
  const truths = result.drafted.flatMap(({ item }) => (item.kind === 'true-false' ? [item.answer] : []));
  expect(Math.abs(truths.filter(Boolean).length - truths.filter((t) => !t).length)).toBeLessThanOrEqual(truths.length ? Math.max(1, truths.length / 2) : 0);
  for (const f of result.fewer) expect(f.made).toBeLessThan(f.asked);
}

test('a text of ours gives items over the whole of it, each with its sentence', () => {
  const result = drafted(sourdough);
  expect(result.drafted.length).toBeGreaterThanOrEqual(12);
  holds(sourdough, result);
  const places = result.drafted.map((d) => (d.evidence[0]?.from ?? 0) / sourdough.length);
  expect(Math.min(...places)).toBeLessThan(0.25);
  expect(Math.max(...places)).toBeGreaterThan(0.75);
  // what was made is told where it is fewer than asked
  expect(result.fewer.map((f) => f.kind)).toContain('matching');
});

test('the same wish gives the same items, another seed others', () => {
  const stems = (seed: string): string[] =>
    drafted(sourdough, { 'multiple-choice': 3, numeric: 3 }, seed).drafted.map((d) =>
      JSON.stringify({ ...d.item, id: '', options: 0 }).replace(/"id":"[^"]*"/g, ''),
    );
  expect(stems('a')).toEqual(stems('a'));
});

test('an item goes through the notation and comes back the same', () => {
  for (const { item } of drafted(sourdough).drafted) {
    const back = readDraft(writeNotation({ title: '', items: [item] })).set.items[0];
    expect(back?.kind).toBe(item.kind);
    expect(keyProblem(back as Item)).toBeNull();
  }
});

test('percentages keep their value: "50 %" asks for 50', () => {
  const { drafted: items } = drafted(
    'A stiff starter has a hydration of about 50%. A liquid starter has a hydration of about 100 %. Starters need a fixed hydration.',
    { numeric: 2 },
  );
  expect(items.flatMap((d) => (d.item.kind === 'numeric' ? d.item.answers.map((a) => a.min) : [])).sort()).toEqual([100, 50]);
});

test('sentences that hang on others, point at a page, or are no sentences are left', () => {
  const hanging = [
    'This makes the dough rise for 12 minutes in a warm kitchen.',
    'As shown above, bread dough has to rest for 12 minutes in a kitchen.',
    'See section 4 for the 12 minutes that bread dough has to rest in a kitchen.',
    'You leave the bread dough for 12 minutes in a warm kitchen.',
    'In a warm kitchen it takes 12 minutes before bread dough has risen.',
    'A dough developed by bakers with 12 minutes of rest for bread.',
    'London, Macmillan, 1934, a history of bread dough and kitchens.',
    'How many minutes has bread dough to rest in a warm kitchen?',
    'The project started bread dough courses for kitchens in 1994.',
  ];
  for (const sentence of hanging) {
    const text = `Bread dough rests in kitchens. Bread dough is made in kitchens. ${sentence} Bread dough tires kitchens.`;
    expect(drafted(text, { numeric: 3, 'true-false': 2, cloze: 3 }).drafted.filter((d) => sentence.includes(d.evidence[0]?.text ?? '?'))).toEqual([]);
  }
});

test('an opening pronoun becomes what it stands for, and that is told', () => {
  const text = 'A stiff starter has little water. It ripens in 12 hours in a cold kitchen. A stiff starter keeps well. Every starter ripens.';
  const [one] = drafted(text, { numeric: 1 }).drafted;
  expect(plainOf(one?.item.stem ?? '')).toBe('A stiff starter ripens in ____ hours in a cold kitchen.');
  expect(one?.how).toContain('“It” stands for “A stiff starter”');
});

test('texts of other writers, of all kinds, give nothing that breaks a rule', () => {
  // the descriptions that packages from the registry bring along: prose, lists, code, tables, in several languages
  const packages = path.join(root, 'node_modules');
  const files = fs
    .readdirSync(packages)
    .filter((n) => !n.startsWith('.') && !n.startsWith('@'))
    .map((n) => path.join(packages, n, 'README.md'))
    .filter((f) => fs.existsSync(f) && fs.statSync(f).size > 6000);
  const step = Math.ceil(files.length / Math.max(6, Number(process.env['ZAKUSKA_TIMES'] ?? 1) * 8));
  let seen = 0;
  for (let i = 0; i < files.length; i += step) {
    const text = fs.readFileSync(files[i] as string, 'utf8').slice(0, 20_000);
    holds(text, drafted(text));
    seen++;
  }
  expect(seen).toBeGreaterThan(4);
});

test('other languages have the kinds that need no lexicon', () => {
  const german =
    'Roggenmehl bindet viel Wasser. Der Sauerteig reift bei 24 Grad in etwa 8 Stunden. Ein Brot von 900 Gramm backt 45 Minuten bei 220 Grad. Die Stückgare im Kühlschrank dauert 12 Stunden. Salz macht etwa 2 Prozent des Mehls aus. Brot aus Roggenmehl wird im Kasten gebacken.';
  const { drafted: items } = drafted(german, all, 'a', 'de');
  expect(items.length).toBeGreaterThanOrEqual(3);
  for (const d of items) expect(keyProblem(d.item)).toBeNull();
  expect(items.map((d) => d.item.kind)).not.toContain('matching');
});

test('nothing to draft from is told, wrong numbers are refused', () => {
  for (const text of ['', '   \n\n ', '1234567890 '.repeat(50), '東京は日本の首都です。', '}{][ ;;; ()']) expect(drafted(text).drafted).toEqual([]);
  expect(drafted('', { cloze: 2 }).fewer).toEqual([{ kind: 'cloze', asked: 2, made: 0, message: 'gaps: 0 of 2; the source has no sentences.' }]);
  expect(() => new Drafter(source('A.'), 'en').draft({ counts: {}, options: 9 }, english)).toThrow('3 to 6');
});

test('a text that argues, or that tells how something is used, is told to the person; one that tells is not', () => {
  const facts = Array.from({ length: 24 }, (_, i) => `Saltmarsh ${i + 2}.0 was released in June ${1981 + i} for the masons of Saltmarsh.`);
  const views = Array.from(
    { length: 30 },
    (_, i) => `However, we claim that a warm oven is more useful than a cold oven, and therefore that oven ${i} matters to us.`,
  );
  const uses = Array.from({ length: 30 }, (_, i) => `Click the button of the oven dialog to select the default options of oven ${i}.`);
  const from = (...lines: string[][]): DraftedItems => drafted(lines.flat().join('\n\n'));
  expect(from(facts).caution).toBeUndefined();
  expect(from(facts, uses).caution).toContain('how something is used');
  const argued = from(facts, views);
  expect(argued.caution).toContain('argues more than it tells');
  expect(argued.drafted.length).toBeGreaterThan(0);
  for (const d of argued.drafted) expect(d.how).not.toMatch(/the opposite|a term|a reason|meaning|definition/);
});

test('what is less sure has to be asked for: then it stands beside what is sure, each item with the reason, and no rule is broken', () => {
  const legend = `The Old Mill

The old mill of Saltmarsh was built by Anna Berger in 1823. The wheel turned for 87 years. The impressive tower was added in 1841 for the harvest of barley.

The mill has two floors. On the upper floor, visitors could see how the grain was poured into the hopper between the stones.

The Harbour

The harbour of Saltmarsh was opened in 1902 by Emil Lindqvist. The quay is probably one of the longest in Norway. The quay has a length of 640 metres.`;
  const wish = { counts: all, seed: 'a' };
  for (const text of [legend, sourdough]) {
    const drafter = new Drafter(source(text), 'en');
    const sure = drafter.draft(wish, english);
    const more = drafter.draft({ ...wish, unsure: true }, english);
    holds(text, more);
    expect(sure.drafted.every((d) => d.doubt === undefined)).toBe(true);
    expect(more.drafted.length).toBeGreaterThan(sure.drafted.length);
    expect(more.drafted.filter((d) => d.doubt).every((d) => /^Needs a closer look: .+\.$/.test(d.doubt ?? ''))).toBe(true);
    expect(more.drafted.some((d) => d.doubt)).toBe(true);
    // what can stand alone is counted the same
    expect(more.usable).toBe(sure.usable);
  }
});

test('no reason stands among the options twice', () => {
  const text = [
    'Bread dough rests in a bowl because the starter needs many warm hours.',
    'Bread dough tears in the hand because the gluten has no water left.',
    'Rye dough sticks to the hand because the starch holds much more water.',
    'Rye bread keeps for a week because the starch holds much more water.',
    'White bread dries in a day because the crumb gives up its moisture.',
    'A bread dough is made of flour and water. Rye bread dough is a dough of rye.',
  ].join(' ');
  for (const seed of ['a', 'b', 'c', 'd'])
    for (const { item } of drafted(text, { 'multiple-choice': 6 }, seed).drafted)
      if (item.kind === 'multiple-choice') expect(new Set(item.options.map((o) => o.content)).size).toBe(item.options.length);
});
