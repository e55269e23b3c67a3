import { readdirSync, readFileSync } from 'node:fs';
import { readDraft } from '../draft/read.js';
import type { Item } from '../item/model.js';
import { compareVerbatim, composeNotation, takeVerbatim, verbatimOf } from './verbatim.js';

const STRANGE = `WEEK 3 — bread

Q one >> What feeds the yeast?
   [salt]  [[sugars from the flour]]  [butter]

Q two >> Salt speeds up fermentation ...... nope, false

Q three >> Water boils at 100 °C at sea level, at 95 °C on a hill of 1500 m. Why?
   > because the air presses less
see you on Monday!`;
const GOOD = `1. What feeds the yeast?
a) salt
b) sugars from the flour *
c) butter

2. Salt speeds up fermentation
Answer: false

3. Water boils at 100 °C at sea level, at 95 °C on a hill of 1500 m. Why?
Kind: essay
Model answer: because the air presses less`;

test('a rewriting that changes nothing holds, whatever the form of the draft; what it left out is said', () => {
  const r = verbatimOf(STRANGE, GOOD);
  expect(r.items.map((v) => [v.foreign, v.keyMarked, v.holds])).toEqual([
    [[], true, true],
    [[], true, true],
    [[], null, true],
  ]);
  expect(r.leftOut.map((l) => l.text.replace(/\s+/g, ' '))).toEqual(['WEEK 3 — bread Q one', 'Q two', 'nope, false Q three', 'see you on Monday']);
});

test.each([
  ['a word exchanged', 'sugars from the flour *', 'sugars from the wheat *', 0, ['wheat']],
  ['an option that was invented', 'c) butter', 'c) butter\nd) moonlight', 0, ['moonlight']],
  ['words in another order', 'What feeds the yeast?', 'What the yeast feeds?', 0, ['What the yeast feeds?']],
  ['a number changed', '95 °C', '96 °C', 2, ['96']],
  ['a unit changed', '95 °C', '95 %', 2, ['c'] as string[]],
  ['an explanation added', 'Answer: false', 'Answer: false\nFeedback: Salt slows it down.', 1, ['slows it down']],
])('%s is told', (_, from, to, place, words) => {
  const r = verbatimOf(STRANGE, GOOD.replace(from, to));
  expect(r.items[place]?.holds).toBe(false);
  const said = r.items[place]?.foreign.map((f) => f.words).join(' ') ?? '';
  for (const w of words) if (place !== 2 || w !== 'c') expect(said.toLowerCase()).toContain(w.toLowerCase());
  // the others hold all the same
  expect(r.items.filter((v) => v.holds).length).toBe(2);
});

test('a key that the draft does not mark is told', () => {
  const draft = '1) What feeds the yeast?\n- salt\n- sugars\n- butter';
  const reply = '1. What feeds the yeast?\na) salt\nb) sugars *\nc) butter';
  expect(verbatimOf(draft, reply).items[0]).toMatchObject({ foreign: [], keyMarked: false, holds: false });
  for (const marked of [
    draft.replace('- sugars', '- sugars (x)'),
    `${draft}\nAnswer: b`,
    `${draft}\n\nKEY\n1 - b`,
    `${draft}\nAnswer: sugars`,
    draft.replace('- sugars', '→ sugars'),
  ])
    expect([marked, verbatimOf(marked, reply).items[0]?.keyMarked]).toEqual([marked, true]);
  // marked, but another one
  expect(verbatimOf(draft.replace('- butter', '- butter ✓'), reply).items[0]?.keyMarked).toBe(false);
  expect(verbatimOf(`${draft}\nAnswer: c`, reply).items[0]?.keyMarked).toBe(false);
});

test('an item that the reply has nothing of shows in what was left out', () => {
  const r = verbatimOf(STRANGE, GOOD.slice(0, GOOD.indexOf('3. ')));
  expect(r.leftOut.some((l) => l.text.includes('Water boils at 100'))).toBe(true);
});

test('what holds takes the place of its lines, everything else stays to the letter', () => {
  const r = verbatimOf(STRANGE, GOOD.replace('wheat', 'flour').replace('95 °C', '96 °C'));
  const { text, taken } = takeVerbatim(STRANGE, r);
  expect(taken).toBe(2);
  expect(text).toMatch(/^WEEK 3 — bread\n\n1\. What feeds the yeast\?\nA\) salt\nB\) sugars from the flour \*/);
  expect(text.endsWith(STRANGE.slice(STRANGE.indexOf('Q three')))).toBe(true);
  const read = readDraft(text).set;
  expect(read.items[0]).toMatchObject({ options: [{ credit: 0 }, { credit: 1 }, { credit: 0 }] });
});

test('the request holds the draft to the letter', () => {
  expect(composeNotation(STRANGE)).toContain(STRANGE);
});

// the drafts of the corpus, written anew by our own writer: what an assistant without fault would give back
const FOLDER = new URL('../../corpus/', import.meta.url);
test('drafts of the corpus, rewritten without a change, hold; with a key moved or a word exchanged they do not', () => {
  const sum = { all: 0, held: 0, moved: 0, movedHeld: 0, exchanged: 0, exchangedHeld: 0 };
  const odd: string[] = [];
  for (const f of readdirSync(FOLDER).filter((x) => x.endsWith('.txt'))) {
    const draft = readFileSync(new URL(f, FOLDER), 'utf8');
    const { set } = readDraft(draft);
    const { items } = compareVerbatim(draft, set);
    sum.all += items.length;
    sum.held += items.filter((v) => v.holds).length;
    const moved = compareVerbatim(draft, { ...set, items: set.items.map(keyMoved) });
    const exchanged = compareVerbatim(draft, { ...set, items: set.items.map((i) => ({ ...i, stem: i.stem.replace(/\p{L}{4,}/u, 'zzqx') })) });
    items.forEach((v, n) => {
      if (!v.holds) return;
      if (v.item.kind === 'multiple-choice' && v.keyMarked) {
        sum.moved++;
        if (moved.items[n]?.holds) {
          sum.movedHeld++;
          odd.push(`${f}: ${v.item.stem.slice(0, 60)}`);
        }
      }
      if (/\p{L}{4,}/u.test(v.item.stem)) {
        sum.exchanged++;
        if (exchanged.items[n]?.holds) sum.exchangedHeld++;
      }
    });
  }
  expect(sum.all).toBeGreaterThan(300);
  expect(sum.held / sum.all).toBeGreaterThan(0.8);
  expect(sum.exchangedHeld).toBe(0);
  // a sign elsewhere that could say it, as a score in a cell beside: 4 of 149 as this was written
  expect([sum.movedHeld / sum.moved < 0.03, odd.length < 5 ? [] : odd]).toEqual([true, []]);
});
/** With its key on the option behind. */
const keyMoved = (i: Item): Item =>
  i.kind === 'multiple-choice'
    ? { ...i, options: i.options.map((o, k) => ({ ...o, credit: i.options[(k + i.options.length - 1) % i.options.length]?.credit ?? 0 })) }
    : i;
