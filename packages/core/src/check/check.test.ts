import { readDraft } from '../draft/read.js';
import { apply, emptyDocument } from '../item/operations.js';
import type { QuizSet } from '../item/model.js';
import { binomialTwoSided, chiSquareUpper, multinomialEven } from './chance.js';
import { findingKey, findingsOf, ruleOf, rules } from './index.js';

const set = (draft: string): QuizSet => readDraft(draft).set;
const codes = (draft: string): string[] => findingsOf(set(draft)).map((f) => f.code);

test.each([
  ['key-longest', '1. What is a poolish?\na) an oven\nb) a wet pre-ferment of equal weights of flour and water *\nc) a knife'],
  ['clue-repeated-words', '1. What does fermentation need?\na) cold\nb) microbes of fermentation *\nc) light'],
  ['clue-grammar', '1. A machine that kneads is a\na) mixer *\nb) oven\nc) icebox'],
  ['absolute-words', '1. When is bread done?\na) when hollow *\nb) always after an hour\nc) when dark'],
  ['all-or-none-of-the-above', '1. Which is a grain?\na) rye\nb) oats\nc) All of the above *'],
  ['negative-not-stressed', '1. Which of these is not a grain?\na) rye\nb) cod *\nc) oats'],
  ['options-out-of-order', '1. How hot is a fridge?\na) 12 °C\nb) 4 °C *\nc) 20 °C'],
  ['options-unequal-form', '1. What is rye?\na) a grain *\nb) a fish.\nc) a fat'],
  ['answer-left-in', '1. What is rye? Correct answer: grain\na) grain *\nb) fish'],
  ['key-missing', '1. What is rye?\na) grain\nb) fish'],
])('%s is found', (code, draft) => {
  expect(codes(draft)).toContain(code);
});

test.each([
  '1. Which of these is NOT a grain?\na) rye\nb) cod *\nc) oats',
  '1. A machine that bakes is an\na) oven *\nb) iron\nc) apple',
  '1. How hot is a fridge?\na) 4 °C *\nb) 12 °C\nc) 20 °C',
  '1. What is true of yeast?\na) It is a fungus. *\nb) It is a plant.\nc) It is a fat.',
  '1. Which knife slices bread?\na) a serrated knife *\nb) a paring knife\nc) a cleaver',
  '1. What is hydration?\na) water as a share of the flour *\nb) salt as a share of the flour\nc) yeast as a share of the flour',
])('nothing is found in a well-made item: %#', (draft) => {
  expect(codes(draft)).toEqual([]);
});

test('keys in one place and one-sided statements are told with their chance, even ones are not', () => {
  const choice = (place: number, n: number): string =>
    `${n}. Question about thing ${n}?\n${['a', 'b', 'c', 'd'].map((l, i) => `${l}) word${n}${l}${i === place ? ' *' : ''}`).join('\n')}\n`;
  const many = Array.from({ length: 12 }, (_, n) => choice(1, n + 1)).join('\n');
  expect(findingsOf(set(many)).find((f) => f.code === 'keys-in-one-place')?.message).toBe(
    'Of 12 items with 4 options, 12 have the key at B. By chance that happens less than once in a thousand.',
  );
  expect(codes(Array.from({ length: 12 }, (_, n) => choice(n % 4, n + 1)).join('\n'))).not.toContain('keys-in-one-place');
  const truths = (answers: boolean[]): string =>
    answers.map((a, n) => `${n + 1}. True or false: Statement ${n} of these holds water${n}.\nAnswer: ${String(a)}\n`).join('\n');
  expect(codes(truths([true, true, true, true, true]))).toContain('true-false-out-of-balance');
  expect(codes(truths([true, true, true, true, false]))).not.toContain('true-false-out-of-balance');
});

test('items that ask the same are told once', () => {
  const draft =
    '1. Which flour forms the strongest gluten network?\na) strong wheat flour *\nb) rye flour\nc) rice flour\n\n2. Which flour forms the strongest gluten network of all?\na) rye flour\nb) strong wheat flour *\nc) rice flour\n\n3. Which flour has no gluten?\na) rice flour *\nb) rye flour\nc) spelt flour';
  expect(
    findingsOf(set(draft))
      .filter((f) => f.code === 'items-alike')
      .map((f) => f.message),
  ).toEqual(['Items 1 and 2 ask nearly the same.']);
});

test('a fix makes its finding go, and changes no key', () => {
  for (const draft of [
    '1. How hot is a fridge?\na) 12 °C\nb) 4 °C *\nc) 20 °C',
    '1. Which is not a grain?\na) rye\nb) cod *\nc) oats',
    '1. What is rye?\na) a grain *\nb) a fish.\nc) a fat',
    '1. A machine that kneads is a\na) mixer *\nb) oven\nc) icebox',
  ]) {
    let document = { ...emptyDocument('T'), set: set(draft) };
    const right = (): string[] => document.set.items.flatMap((i) => ('options' in i ? i.options.filter((o) => o.credit > 0).map((o) => o.content) : []));
    const before = right();
    const [found] = findingsOf(document.set).filter((f) => f.fix);
    for (const o of found?.fix?.operations ?? []) document = apply(document, o).document;
    expect(findingsOf(document.set).map((f) => f.code)).not.toContain(found?.code ?? 'nothing was found');
    expect(right()).toEqual(before);
  }
});

test('every rule says why and where it is published', () => {
  for (const r of rules) expect([r.code, r.why.length > 20, r.source.length > 5, ruleOf(r.code)]).toEqual([r.code, true, true, r]);
});

// Printed tables of the chi-square distribution (95th percentiles), from memory.
test('the chi-square tail agrees with printed percentiles', () => {
  for (const [degrees, x] of [
    [1, 3.841],
    [2, 5.991],
    [3, 7.815],
    [4, 9.488],
    [10, 18.307],
  ] as const)
    expect(chiSquareUpper(x, degrees)).toBeCloseTo(0.05, 4);
});
test('the exact tests agree with counting by hand', () => {
  expect(binomialTwoSided(0, 5)).toBeCloseTo(2 / 32, 12);
  expect(binomialTwoSided(3, 6)).toBeCloseTo(1, 12);
  // three of three in one of three places: 3 of 27 outcomes
  expect(multinomialEven([3, 0, 0])).toBeCloseTo(3 / 27, 12);
  expect(multinomialEven([1, 1, 1])).toBeCloseTo(1, 12);
});

test('a finding set aside stays so when its words change, and can be taken back in', () => {
  const document = { ...emptyDocument('T'), set: set('1. How hot is a fridge?\na) 12 °C\nb) 4 °C *\nc) 20 °C') };
  const [found] = findingsOf(document.set);
  if (!found) throw new Error('nothing was found');
  const key = findingKey(found);
  const away = apply(document, { type: 'dismiss', finding: key, reason: 'the order is the trap' });
  expect(away.document.dismissed).toEqual({ [key]: 'the order is the trap' });
  const moved = apply(away.document, { type: 'change', id: found.items[0] ?? '', set: { points: 3 } });
  expect(moved.document.dismissed).toEqual({ [key]: 'the order is the trap' });
  expect(apply(away.document, away.inverse).document).toEqual(document);
});
