/** A set in one of its languages, in both, and for learners who choose: keys hold in each, whatever was put in another order. */
import { runs } from '../item/runs.js';
import fc from 'fast-check';
import { goingSet, goingToChoose } from '../bank/going.js';
import { readDraft } from '../draft/read.js';
import { drawPlan } from '../item/drawn.js';
import { anyRichSet } from '../item/arbitrary.js';
import type { Item, QuizSet } from '../item/model.js';
import { apply, clash, type Operation, type SetDocument } from '../item/operations.js';
import { readSetFile, writeSetFile } from '../item/setFile.js';
import { rightResponse } from '../mark/answers.js';
import { mark } from '../mark/mark.js';
import {
  acceptingAll,
  BrokenCodes,
  checkedTranslation,
  inBoth,
  inLanguage,
  progressOf,
  responseIn,
  sameSingles,
  sideBySide,
  typedTranslation,
  unitsOf,
  withTranslations,
} from './index.js';

const SET: QuizSet = {
  ...readDraft(`# Dough

1. Which flour takes up **most** water?
A) wheat
B) rye *

2. Dough rests in the {fridge}.

3. What feeds a starter?
Answer: flour | rye flour

4. Match.
poolish -> a wet pre-ferment
biga -> a stiff pre-ferment
`).set,
  language: 'en',
};
SET.items.push({ id: 'steps', kind: 'ordering', stem: 'Put in order.', points: 1, sequence: ['mix', 'rest', 'bake'] });
/** Every text through `say`, as somebody types it. */
const typedAll = (set: QuizSet, say: (original: string) => string): QuizSet => {
  const made = sideBySide(set, 'fr').map((r) => [r.unit.id, typedTranslation(r, say(r.original), 'Ada')] as const);
  return withTranslations(set, 'fr', Object.fromEntries(made));
};
/** Words behind words, so that no two texts become one. */
const french = (s: string): string => `${s} fr`;
const FRENCH = typedAll(SET, french);

test('side by side: codes for markup and gaps, states, the key', () => {
  const rows = sideBySide(SET, 'fr');
  expect(rows.map((r) => r.unit.id)).toEqual(unitsOf(SET).map((u) => u.id));
  expect(rows.find((r) => r.original.startsWith('Which'))).toMatchObject({
    original: 'Which flour takes up <1>most</1> water?',
    codes: '1: strong',
    state: 'missing',
  });
  expect(rows.find((r) => r.original.startsWith('Dough rests'))).toMatchObject({ original: 'Dough rests in the <1/>.', codes: '1: [[1]]' });
  expect(rows.filter((r) => r.unit.right).map((r) => r.original)).toEqual(['rye']);
  const [stem] = sideBySide(FRENCH, 'fr').filter((r) => r.original.startsWith('Which'));
  expect(stem).toMatchObject({
    state: 'made',
    translated: 'Which flour takes up <1>most</1> water? fr',
    kept: { by: 'Ada', text: 'Which flour takes up <strong>most</strong> water? fr' },
  });
  expect(() => typedTranslation(stem!, 'sans code', 'Ada')).toThrow(BrokenCodes);
  expect(typedTranslation(stem!, '<1>Quelle</1> farine ? <script>x</script>', 'Ada').text).not.toContain('<script');
  const checked = checkedTranslation(stem!, 'Otto')!;
  expect(checked).toMatchObject({ state: 'checked', by: 'Otto' });
  // its original changes: stale; looked at once more: right for the new one
  const edited: QuizSet = { ...FRENCH, items: FRENCH.items.map((i, n) => (n === 0 ? { ...i, stem: 'Which flour takes up **least** water?' } : i)) };
  const later = sideBySide(withTranslations(edited, 'fr', { [stem!.unit.id]: checked }), 'fr').find((r) => r.unit.id === stem!.unit.id)!;
  expect(later.state).toBe('stale');
  const again = checkedTranslation(later, 'Otto')!;
  expect(progressOf(withTranslations(edited, 'fr', { [stem!.unit.id]: again }), 'fr')).toMatchObject({ stale: 0, checked: 1 });
});

test('both languages: each text once in each; what is typed is right in either; gaps stand once', () => {
  const both = inBoth(FRENCH, 'fr');
  expect(both).toMatchObject({ title: 'Dough', language: 'en' });
  expect(both.translations).toBeUndefined();
  const [choice, cloze, typed, pairs, order] = both.items;
  expect(choice).toMatchObject({
    stem: 'Which flour takes up <strong>most</strong> water?<br>Which flour takes up <strong>most</strong> water? fr',
    options: [{ content: 'wheat / wheat fr' }, { content: 'rye / rye fr' }],
  });
  expect(cloze?.stem.match(/\[\[/g)).toHaveLength(1);
  for (const text of ['flour', 'rye flour', 'flour fr', 'rye flour fr']) expect(mark(typed as Item, { text }).credit).toBe(1);
  for (const gap of ['fridge', 'fridge fr']) expect(mark(cloze as Item, { gaps: { 1: gap } }).credit).toBe(1);
  expect(pairs).toMatchObject({ pairs: [{ left: 'poolish / poolish fr', right: 'a wet pre-ferment / a wet pre-ferment fr' }, {}] });
  expect(order).toMatchObject({ sequence: ['mix / mix fr', 'rest / rest fr', 'bake / bake fr'] });
  // without a translation a text stands alone
  expect(inBoth(SET, 'fr').items).toEqual(SET.items);
});

test('sides that become the same in translation stay in the original: a key is never two', () => {
  const same = typedAll(SET, (s) => (/wet|stiff|^rest|bake/.test(s) ? 'pareil' : french(s)));
  const [, , , pairs, order] = inLanguage(same, 'fr').items;
  expect(pairs).toMatchObject({
    pairs: [
      { left: 'poolish fr', right: 'a wet pre-ferment' },
      { left: 'biga fr', right: 'a stiff pre-ferment' },
    ],
  });
  expect(order).toMatchObject({ sequence: ['mix', 'rest', 'bake'] });
});

test('any set: who answers right in the other language is right, as in the language of the set', () => {
  fc.assert(
    fc.property(anyRichSet, (made) => {
      const own = typedAll(readSetFile(writeSetFile(made)).set, french);
      const document: SetDocument = { set: own, reviews: {} };
      const going = goingToChoose(document, undefined, ['fr'])!;
      const shown = inLanguage(going, 'fr');
      const accepting = acceptingAll(own, ['fr']);
      going.items.forEach((item, n) => {
        const theirs = shown.items[n] as Item;
        const right = rightResponse(theirs);
        if (!right) return;
        const best = mark(own.items[n] as Item, rightResponse(own.items[n] as Item) ?? right).credit;
        expect(mark(item, responseIn(theirs, item, right)).credit).toBe(best);
        expect(responseIn(item, theirs, responseIn(theirs, item, right))).toEqual(right);
        // what was right in the language of the set still is
        expect(mark(accepting.items[n] as Item, rightResponse(own.items[n] as Item) ?? right).credit).toBe(best);
      });
      // both in one: each text has its sentence once, each gap stands once
      for (const [n, i] of inBoth(own, 'fr').items.entries())
        if (i.kind === 'cloze') expect(sameSingles(i.stem.replace(/\(\S+\) …/g, ''), own.items[n]?.stem ?? '') || i.stem.includes('\\(')).toBe(true);
    }),
    { numRuns: runs(60) },
  );
});

test('a version in another language has the words of its own order', () => {
  const plan = drawPlan.parse({ versions: [{ name: 'B', count: 5 }], seed: 4 });
  const name = 'B';
  const document: SetDocument = { set: FRENCH, reviews: {}, drawn: { plan, versions: [{ name, items: FRENCH.items.map((i) => i.id).reverse() }] } };
  const plain = goingSet(document, name)!;
  const other = goingSet(document, name, 'fr')!;
  expect(other.title).toBe(`Dough fr, version ${name}`);
  expect(goingToChoose(document, name, ['fr'])?.items.map((i) => i.id)).toEqual(plain.items.map((i) => i.id));
  plain.items.forEach((item, n) => {
    const theirs = other.items[n] as Item;
    expect(theirs.id).toBe(item.id);
    if (item.kind === 'matching' && theirs.kind === 'matching') expect(theirs.pairs.map((p) => p.left)).toEqual(item.pairs.map((p) => `${p.left} fr`));
    if ('options' in item && 'options' in theirs) expect(theirs.options.map((o) => o.content)).toEqual(item.options.map((o) => `${o.content} fr`));
  });
  expect(goingSet(document, name, 'de')).toBeNull();
  expect(goingSet(document, name, '+fr')?.items[0]?.stem).toContain(' fr');
  expect(goingToChoose(document, name, ['fr', 'de'])).toBeNull();
});

describe('the operation', () => {
  const [a, b] = unitsOf(SET);
  const op: Operation = { type: 'translate', language: 'fr', set: { [a!.id]: { text: 'Pâte', print: 'x', state: 'made' } } };
  test('is undone to the letter, also where it replaced or took away', () => {
    const start: SetDocument = { set: SET, reviews: {} };
    const one = apply(start, op);
    expect(one.document.set.translations).toEqual({ fr: { [a!.id]: { text: 'Pâte', print: 'x', state: 'made' } } });
    expect(apply(one.document, one.inverse).document).toEqual(start);
    const two = apply(one.document, {
      type: 'translate',
      language: 'fr',
      set: { [b!.id]: { text: 'Quelle', print: 'y', state: 'checked' } },
      unset: [a!.id],
    });
    expect(Object.keys(two.document.set.translations?.['fr'] ?? {})).toEqual([b!.id]);
    expect(apply(two.document, two.inverse).document).toEqual(one.document);
  });
  test('two people who translate other texts do not clash; the same text, in the same language, does', () => {
    const other: Operation = { ...op, set: { [b!.id]: { text: 'Quelle', print: 'y', state: 'made' } } };
    expect(clash(op, other)).toBe(false);
    expect(clash(op, { ...op, language: 'de' })).toBe(false);
    expect(clash(op, { type: 'translate', language: 'fr', set: {}, unset: [a!.id] })).toBe(true);
    // an item may go while somebody translates it: its translation waits for it to come back
    expect(clash(op, { type: 'remove', ids: [SET.items[0]!.id] })).toBe(false);
  });
});
