import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import jstat from 'jstat';
import { readDraft } from '../draft/read.js';
import { apply, emptyDocument } from '../item/operations.js';
import { defaultMatch, type Item, type QuizSet } from '../item/model.js';
import { balanceKeys } from './balance.js';
import { chiSquareUpper } from '../stats/chiSquare.js';
import { binomialTwoSided, multinomialEven } from './chance.js';
import { findingKey, findingsOf, ruleOf, rules } from './index.js';

const set = (draft: string): QuizSet => readDraft(draft).set;
const codes = (draft: string): string[] => findingsOf(set(draft)).map((f) => f.code);

test.each(rules.flatMap((r) => r.examples.found.map((draft) => [r, draft] as const)))('$code is found: %#', (rule, draft) => {
  expect(findingsOf(set(draft), { aim: rule.examples.aim }).map((f) => f.code)).toContain(rule.code);
});
test.each(rules.flatMap((r) => r.examples.fine.map((draft) => [r, draft] as const)))('$code does not cry wolf: %#', (rule, draft) => {
  expect(findingsOf(set(draft), { aim: rule.examples.aim }).map((f) => f.code)).not.toContain(rule.code);
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

// every fix that a rule offers, on the examples in which it is found
const fixable = rules.flatMap((r) =>
  r.examples.found.flatMap((draft) => {
    const items = set(draft);
    const found = findingsOf(items, { aim: r.examples.aim }).find((f) => f.code === r.code && f.fix);
    return found ? [{ code: r.code, items, found, aim: r.examples.aim }] : [];
  }),
);
test.each(fixable)('the fix of $code makes its finding go, and changes no key', ({ code, items, found, aim }) => {
  const keys = (of: QuizSet): unknown[] =>
    of.items.map((i) =>
      'options' in i
        ? i.options
            .filter((o) => o.credit > 0)
            .map((o) => o.content.replace(/[.\s]+$/, '').toLowerCase())
            .sort()
        : i.kind,
    );
  let document = { ...emptyDocument('T'), set: items };
  for (const o of found.fix?.operations ?? []) document = apply(document, o).document;
  expect(findingsOf(document.set, { aim }).filter((f) => f.code === code && f.items[0] === found.items[0] && f.place === found.place)).toEqual([]);
  expect(keys(document.set)).toEqual(keys(items));
});
test('so many rules offer a fix', () => {
  expect(new Set(fixable.map((f) => f.code)).size).toBeGreaterThanOrEqual(6);
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

test('alternatives in one answer are told, and taken apart by the fix; units are left alone', () => {
  const typed = (text: string): QuizSet => ({
    title: 'T',
    items: [{ id: 'i', kind: 'short-answer', stem: 'What is it called?', points: 1, answers: [{ text, credit: 1 }], match: defaultMatch }],
  });
  const [found] = findingsOf(typed('levain / sourdough starter')).filter((f) => f.code === 'answers-in-one');
  const fixed = apply({ ...emptyDocument('T'), set: typed('levain / sourdough starter') }, found?.fix?.operations[0] as never).document.set;
  expect(fixed.items[0]).toMatchObject({ answers: [{ text: 'levain / sourdough starter' }, { text: 'levain' }, { text: 'sourdough starter' }] });
  expect(findingsOf(fixed)).toEqual([]);
  for (const one of ['km/h', 'and/or', '1/2', 'either of them', '3 kg/m']) expect([one, findingsOf(typed(one))]).toEqual([one, []]);
});
test('a picture without words is told, one with words is not', () => {
  const of = (img: string): string[] =>
    findingsOf({ title: 'T', items: [{ id: 'i', kind: 'essay', stem: `<p>Describe it. ${img}</p>`, points: 1 }] }).map((f) => f.code);
  expect(of('<img src="asset:1"/>')).toEqual(['picture-without-words']);
  expect(of('<img src="asset:1" alt=" "/>')).toEqual(['picture-without-words']);
  expect(of('<img src="asset:1" alt="an oven"/>')).toEqual([]);
});
test('rules that are off are not asked, and limits move what is found', () => {
  const poolish = set(rules.find((r) => r.code === 'key-longest')?.examples.found[0] ?? '');
  expect(findingsOf(poolish, { off: ['key-longest'] })).toEqual([]);
  expect(findingsOf(poolish, { limits: { lengthRatio: 2 } }).map((f) => f.code)).toEqual(['key-longest']);
  expect(findingsOf(poolish, { limits: { lengthRatio: 40 } })).toEqual([]);
});

// jstat 1.9.6, a reference library: its chi-square distribution and its multinomial by way of its binomial.
test('the chi-square tail and the exact tests agree with jstat', () => {
  for (let degrees = 1; degrees <= 12; degrees++)
    for (const x of [0.01, 0.5, 1, 2.5, 7, 15, 31.4]) expect(chiSquareUpper(x, degrees)).toBeCloseTo(1 - jstat.chisquare.cdf(x, degrees), 9);
  for (const [k, n] of [
    [0, 6],
    [2, 9],
    [11, 15],
    [20, 40],
  ] as const) {
    const p = (i: number): number => jstat.binomial.pdf(i, n, 0.5);
    let sum = 0;
    for (let i = 0; i <= n; i++) if (p(i) <= p(k) * (1 + 1e-9)) sum += p(i);
    expect(binomialTwoSided(k, n)).toBeCloseTo(sum, 9);
    expect(multinomialEven([k, n - k])).toBeCloseTo(sum, 9);
  }
});

describe('shuffling to balance', () => {
  const choice = (id: string, contents: readonly string[], key: number, pinned: readonly number[] = []): Item => ({
    id,
    kind: 'multiple-choice',
    stem: `Question ${id}?`,
    points: 1,
    options: contents.map((content, i) => ({ id: `${id}${i}`, content, credit: i === key ? 1 : 0, ...(pinned.includes(i) && { pinned: true }) })),
  });
  const four = fc.tuple(fc.integer({ min: 0, max: 3 }), fc.subarray([0, 1, 2, 3], { maxLength: 2 }), fc.boolean());
  test('no option is lost, none that is pinned or ordered moves, and the keys are as even as those leave them', () => {
    fc.assert(
      fc.property(fc.array(four, { minLength: 1, maxLength: 30 }), (rows) => {
        const items = rows.map(([key, pinned, ordered], n) =>
          choice(`i${n}`, ordered ? ['1 g', '2 g', '3 g', '4 g'] : ['rye', 'oats', 'millet', 'spelt'], key, pinned),
        );
        let document = { ...emptyDocument('T'), set: { title: 'T', items } };
        for (const o of balanceKeys(items)) document = apply(document, o).document;
        const after = document.set.items as typeof items;
        after.forEach((item, n) => {
          const before = items[n];
          if (!('options' in item) || !before || !('options' in before)) throw new Error('a choice became something else');
          expect([...item.options].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(before.options);
          before.options.forEach((o, p) => (o.pinned || rows[n]?.[2]) && expect(item.options[p]).toEqual(o));
        });
        const count = (list: readonly Item[]): number[] => [0, 1, 2, 3].map((p) => list.filter((i) => 'options' in i && i.options[p]?.credit === 1).length);
        if (rows.every(([, pinned, ordered]) => !ordered && !pinned.length))
          expect(Math.max(...count(after)) - Math.min(...count(after))).toBeLessThanOrEqual(1);
        else expect(Math.max(...count(after))).toBeLessThanOrEqual(Math.max(...count(items)));
      }),
    );
  });
  test('the fix of the finding makes it go', () => {
    const items = Array.from({ length: 12 }, (_, n) => choice(`i${n}`, ['rye', 'oats', 'millet', 'spelt'], 1));
    const [found] = findingsOf({ title: 'T', items }).filter((f) => f.code === 'keys-in-one-place');
    let document = { ...emptyDocument('T'), set: { title: 'T', items } };
    for (const o of found?.fix?.operations ?? []) document = apply(document, o).document;
    expect(found?.fix?.label).toBe('Shuffle to balance');
    expect(findingsOf(document.set).map((f) => f.code)).not.toContain('keys-in-one-place');
  });
});

describe('well-made items', () => {
  const corpus = new URL('../../corpus/', import.meta.url);
  test('nothing is found in twenty items that were written with care', () => {
    expect(codes(readFileSync(new URL('evidence/sourdough-items.txt', corpus), 'utf8'))).toEqual([]);
  });
  // 420 items of drafts that were not written for the checks; the findings were read one by one: two in three name a clue or slip that is there
  test('on given drafts at most one item in ten has a finding besides a missing key', () => {
    let items = 0;
    const told = new Set<string>();
    for (const name of readdirSync(corpus).filter((f) => f.endsWith('.txt'))) {
      const read = set(readFileSync(new URL(name, corpus), 'utf8'));
      items += read.items.length;
      for (const f of findingsOf(read)) if (f.severity !== 'error') for (const id of f.items) told.add(`${name} ${id}`);
    }
    expect(items).toBeGreaterThan(400);
    expect(told.size / items).toBeLessThan(0.1);
  });
});
