/** Each matching rule as a property, the written forms of numbers, what an answer was off by, and worked examples from outside. */
import fc from 'fast-check';
import { apply, emptyDocument } from '../item/operations.js';
import { defaultMatch, type Item, type ItemOf, type MatchRule } from '../item/model.js';
import { answerProblem, mark, typedNumber } from './mark.js';
import { offersFor } from './offers.js';
import { parseNumber } from '../language/numbers.js';
import { answerParts, letterDistance, matchesText, matchText } from '../item/typedText.js';

const rule = (r: Partial<MatchRule>): MatchRule => ({ ...defaultMatch, ...r });
const word = fc.stringMatching(/^[a-zåäöéñçłğß]{3,12}$/u);
const anyRule: fc.Arbitrary<MatchRule> = fc.record({
  caseSensitive: fc.boolean(),
  spaces: fc.constant('collapse' as const),
  punctuation: fc.constantFrom('keep' as const, 'ignore' as const),
  accents: fc.constantFrom('keep' as const, 'ignore' as const),
  numbersAsValues: fc.boolean(),
  anyOrder: fc.boolean(),
  spelling: fc.integer({ min: 0, max: 2 }),
});

/** The whole table, without a band: what `letterDistance` must say. Restricted Damerau distance as in G. Navarro, ACM Computing Surveys 33 (2001), 3.1. */
function wholeTable(a: string, b: string): number {
  const d = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (__, j) => (i && j ? 0 : i + j)));
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const at = (x: number, y: number): number => d[x]?.[y] ?? 0;
      const steps = [at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1)];
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) steps.push(at(i - 2, j - 2) + 1);
      (d[i] as number[])[j] = Math.min(...steps);
    }
  return d[a.length]?.[b.length] ?? 0;
}

describe('what an answer may cost', () => {
  const short = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 9 });
  test('letters are counted in a band of the table, as in the whole of it', () => {
    fc.assert(
      fc.property(short, short, fc.integer({ min: 0, max: 5 }), (a, b, limit) => {
        expect(letterDistance(a, b, limit)).toBe(Math.min(wholeTable(a, b), limit + 1));
      }),
      { numRuns: 2000 },
    );
  });
  test('a list whose parts cannot be paired is refused without trying all orders', () => {
    const parts = (last: string): string => [...Array.from({ length: 11 }, () => 'salt'), last].join('; ');
    expect(matchesText(parts('salt'), parts('flour'), rule({ anyOrder: true }))).toBe(false);
    expect(matchesText(parts('flour'), parts('flour'), rule({ anyOrder: true }))).toBe(true);
  });
  test('answers that are longer than an answer can be are wrong, and nothing is done with them', () => {
    const items: Item[] = [
      { id: 'n', kind: 'numeric', stem: 's', points: 1, answers: [{ min: 1, max: 1, credit: 1 }], unit: 'kg' },
      { id: 's', kind: 'short-answer', stem: 's', points: 1, answers: [{ text: 'a; b', credit: 1 }], match: rule({ anyOrder: true, spelling: 2 }) },
      { id: 'c', kind: 'cloze', stem: '[[1]]', points: 1, gaps: [{ id: '1', kind: 'number', points: 1, answers: [{ min: 1, max: 1, credit: 1 }] }] },
    ];
    const long = [')'.repeat(49_990) + ' 1', `a${' '.repeat(49_990)}b`, '1)'.repeat(25_000), '\t'.repeat(50_000), ';'.repeat(50_000)];
    for (const item of items)
      for (const text of long) {
        const given = item.kind === 'cloze' ? { gaps: { 1: text } } : { text };
        expect(mark(item, given)).toMatchObject({ credit: 0, reason: expect.stringContaining('longer than') });
        expect(answerProblem(item, given)).toContain('at most');
      }
  });
});

describe('matching rules', () => {
  test('the accepted text itself is always accepted, whatever the rule, and a looser rule never refuses more', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 20 }), fc.string({ maxLength: 20 }), anyRule, (accepted, given, r) => {
        fc.pre(/[\p{L}\p{N}]/u.test(accepted.normalize('NFKC')));
        expect(matchesText(accepted, accepted, r)).toBe(true);
        if (!matchesText(given, accepted, r)) return;
        for (const looser of [{ caseSensitive: false }, { anyOrder: true }, { numbersAsValues: true }, { spelling: r.spelling + 1 }] as const)
          expect([given, accepted, looser, matchesText(given, accepted, { ...r, ...looser })]).toEqual([given, accepted, looser, true]);
      }),
      { numRuns: 500 },
    );
  });
  test('of a short answer fewer than half of the letters may differ, however many the rule allows', () => {
    for (const spelling of [2, 3, 5]) expect(matchesText('Q 9', ':Q !9 ', rule({ spelling, numbersAsValues: false }))).toBe(true);
    for (const spelling of [1, 2, 5])
      expect([matchesText('ab', 'cd', rule({ spelling })), matchesText('cat', 'dog', rule({ spelling }))]).toEqual([false, false]);
  });
  test('capitals count where the rule says so', () => {
    fc.assert(
      fc.property(word, (w) => {
        const loud = w.toUpperCase();
        fc.pre(loud.toLowerCase() === w);
        expect(matchesText(loud, w, rule({}))).toBe(true);
        expect(matchesText(loud, w, rule({ caseSensitive: true }))).toBe(false);
      }),
    );
  });
  test('composed and decomposed writing are one text; accents go where they are ignored', () => {
    fc.assert(
      fc.property(word, (w) => {
        expect(matchesText(w.normalize('NFD'), w.normalize('NFC'), rule({}))).toBe(true);
        expect(matchesText(w.normalize('NFD').replace(/\p{M}/gu, ''), w, rule({ accents: 'ignore' }))).toBe(true);
      }),
    );
    expect(matchesText('malo', 'mało', rule({ accents: 'ignore' }))).toBe(true);
    expect(matchesText('malo', 'mało', rule({}))).toBe(false);
    expect(matchesText('ﬁlo Ｄｏｕｇｈ', 'filo dough', rule({}))).toBe(true);
  });
  test('the Turkish i: dotted and dotless are two letters, and both capitals are known', () => {
    expect(matchesText('IŞIK', 'ışık', rule({}), 'tr')).toBe(true);
    expect(matchesText('İNCİR', 'incir', rule({}), 'tr')).toBe(true);
    expect(matchesText('ınce', 'ince', rule({}), 'tr')).toBe(false);
    expect(matchesText('ınce', 'ince', rule({ accents: 'ignore' }), 'tr')).toBe(true);
    expect(matchesText('INCIR', 'incir', rule({}), 'en')).toBe(true);
  });
  test('as many letters may differ as the rule says, and no figure', () => {
    fc.assert(
      fc.property(word, fc.nat(), fc.constantFrom('q', 'x', 'w'), (w, at, letter) => {
        fc.pre(w.length >= 6);
        const i = at % w.length;
        const wrong = `${w.slice(0, i)}${letter}${w.slice(i + 1)}`;
        const d = letterDistance(wrong, w, 3);
        expect(matchesText(wrong, w, rule({ spelling: 1 }))).toBe(d <= 1);
        expect(matchesText(wrong, w, rule({}))).toBe(d === 0);
      }),
    );
    expect(matchesText('tepmerature', 'temperature', rule({ spelling: 1 }))).toBe(true);
    expect(matchesText('121', '120', rule({ spelling: 2 }))).toBe(false);
    expect(matchesText('batch 12', 'batch 13', rule({ spelling: 2 }))).toBe(false);
  });
  test('lists count in any order, each part by the same rule', () => {
    fc.assert(
      fc.property(fc.uniqueArray(word, { minLength: 2, maxLength: 6 }), fc.nat(), (parts, turn) => {
        const n = turn % parts.length;
        const turned = [...parts.slice(n), ...parts.slice(0, n)];
        expect(matchesText(turned.join(', '), parts.join(', '), rule({}))).toBe(true);
        expect(matchesText(turned.join(', '), parts.join(', '), rule({ anyOrder: false }))).toBe(n === 0);
        expect(matchesText(parts.slice(1).join(', '), parts.join(', '), rule({}))).toBe(false);
      }),
    );
    expect(matchesText('5 g AND 6 g', '5 g and 6 g', rule({ caseSensitive: true }))).toBe(false);
    expect(matchesText('Salt AND Flour', 'flour, salt', rule({}))).toBe(true);
    expect(matchText('1/2 and salt', 'salt, 0.5', rule({}))?.by).toBe('list');
    expect(matchesText('flour, watr', 'water, flour', rule({ spelling: 1 }))).toBe(true);
    expect(matchesText('flor, watr', 'water, flour', rule({ spelling: 1 }))).toBe(false);
    expect(matchesText('Wasser und Mehl', 'Mehl, Wasser', rule({}), 'de')).toBe(true);
  });
  test.each([
    ['4, -3', undefined, ['4', '-3']],
    ['1,5; 2', 'de', ['1,5', '2']],
    ['1,250', undefined, ['1,250']],
    ['sel et eau', 'fr', ['sel', 'eau']],
    ['3,5', 'de', ['3,5']],
    ['bread and butter', undefined, ['bread', 'butter']],
  ])('the parts of %j (%s)', (text, language, parts) => expect(answerParts(text, language)).toEqual(parts));
});

// The ways of writing numbers. Unicode 15, general category Nd, for the figures of other scripts; the rest common practice, no source.
test.each([
  ['٣٫٥', 3.5],
  ['۱۲', 12],
  ['१२.५', 12.5],
  ['１２', 12],
  ['1½', 1.5],
  ['-2 1/4', -2.25],
  ['7‰', 0.007],
  ['1’250.50', 1250.5],
  ['6.02 × 10²³', 6.02e23],
  ['2/3', 2 / 3],
])('%s is %d', (text, value) => expect((parseNumber(text) ?? NaN) / value).toBeCloseTo(1, 12));

test('a number is the same in every written form', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 1, max: 99 }), (whole, hundredths) => {
      const value = whole + hundredths / 100;
      const plain = value.toFixed(2);
      const grouped = plain.replace(/\B(?=(\d{3})+\.)/g, ',');
      for (const form of [
        plain,
        plain.replace('.', ','),
        grouped,
        grouped.replaceAll(',', ' '),
        `${whole} ${hundredths}/100`,
        `${(value * 100).toFixed(0)} %`,
        `${value / 1000}e3`,
      ])
        expect([form, parseNumber(form)]).toEqual([form, expect.closeTo(value, 6)]);
    }),
  );
});

test.each([
  ['5 kg', 'kg', 5],
  ['5kg', 'kg', 5],
  ['€ 4.50', '€', 4.5],
  ['4,50 €', '€', 4.5],
  ['180 °C', '°C', 180],
  ['12 m²', 'm2', 12],
  ['3 ML', 'ml', null],
  ['5 g', 'kg', null],
  ['2.5e3 kg', 'kg', 2500],
  ['1/2 l', 'l', 0.5],
  ['75 %', '%', 75],
  ['-18 °C', '°C', -18],
])('%s with the unit %s is %s', (text, unit, value) => expect(typedNumber(text, unit, false)).toBe(value));

/**
 * IMS QTI 2.1 Implementation Guide, section 3.2 "Composition of Water", mapResponse: H and O earn 1 each, Cl −1, anything else −2,
 * bounds 0 and 2; the guide's example is cited from memory. Its weights as shares of two points.
 */
const water: Item = {
  id: 'w',
  kind: 'multiple-response',
  stem: 'Which of the following elements are used to form water?',
  points: 2,
  scoring: 'weights',
  options: [
    ['H', 0.5],
    ['He', -1],
    ['C', -1],
    ['O', 0.5],
    ['N', -1],
    ['Cl', -0.5],
  ].map(([id, credit]) => ({ id: String(id), content: String(id), credit: Number(credit) })),
};
test.each([
  ['H O', 2],
  ['H', 1],
  ['H O Cl', 1],
  ['H Cl', 0],
  ['O He', 0],
  ['He C N', 0],
])('water: %s earns %d of 2', (chosen, points) => expect(mark(water, { options: chosen.split(' ') }).points).toBe(points));

test('what negative credits take below nothing is nothing, and points are rounded half up at four decimals', () => {
  fc.assert(
    fc.property(fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 2, maxLength: 6 }), fc.integer({ min: 0, max: 63 }), (credits, chosen) => {
      const options = [...credits, 1].map((credit, i) => ({ id: `o${i}`, content: `${i}`, credit }));
      for (const scoring of ['all-or-nothing', 'per-option', 'right-minus-wrong', 'weights'] as const) {
        const item: Item = { id: 'i', kind: 'multiple-response', stem: 's', points: 3, scoring, options };
        const m = mark(item, { options: options.filter((_, i) => chosen & (1 << i)).map((o) => o.id) });
        expect(m.points).toBeGreaterThanOrEqual(0);
        expect(m.points).toBeLessThanOrEqual(3);
        expect(m.points * 1e4).toBeCloseTo(Math.round(m.points * 1e4), 6);
      }
    }),
  );
  const gaps: Item = {
    id: 'g',
    kind: 'cloze',
    stem: '[[1]] [[2]]',
    points: 1,
    gaps: [
      {
        id: '1',
        kind: 'choice',
        points: 1,
        options: [
          { id: 'a', content: 'a', credit: 1 },
          { id: 'b', content: 'b', credit: -1 },
        ],
      },
      { id: '2', kind: 'text', points: 1, answers: [{ text: 'x', credit: 1 }] },
    ],
  };
  expect(mark(gaps, { gaps: { '1': 'b', '2': '' } }).points).toBe(0);
});

describe('offers', () => {
  const typed = (text: string, match: Partial<MatchRule> = {}): ItemOf<'short-answer'> => ({
    id: 'i',
    kind: 'short-answer',
    stem: 's',
    points: 1,
    answers: [{ text, credit: 1 }],
    match: rule(match),
  });
  test.each<[string, string, Partial<MatchRule>, string]>([
    ['poolsh', 'poolish', {}, 'One letter differs.'],
    ['Levain', 'levain', { caseSensitive: true }, 'Only capital letters differ.'],
    ['pate', 'pâte', {}, 'Only accents differ.'],
    ['1/2', '0.5', { numbersAsValues: false }, 'It is the same number, written differently.'],
    ['b, a', 'a, b', { anyOrder: false }, 'Only the order of the list differs.'],
    ['well-done', 'well done', {}, 'Only punctuation differs.'],
    ['pulich', 'poolish', {}, ''],
  ])('%s for %s: %s', (given, accepted, match, reason) => {
    const item = typed(accepted, match);
    const offers = offersFor(item, { text: given });
    expect(offers[0]?.reason).toBe(reason);
    for (const offer of offers) {
      const { document } = apply({ ...emptyDocument('T'), set: { title: 'T', items: [item] } }, offer.operation);
      expect(mark(document.set.items[0] as Item, { text: given }).state).toBe('right');
      expect(mark(document.set.items[0] as Item, { text: accepted }).state).toBe('right');
    }
  });
  test('a number near the key is offered as a tolerance, one far off is not; what is right needs no offer', () => {
    const item: Item = { id: 'n', kind: 'numeric', stem: 's', points: 1, answers: [{ min: 75, max: 75, credit: 1 }], unit: '%' };
    const [offer] = offersFor(item, { text: '75.5 %' });
    expect(offer?.label).toBe('Accept 75 ± 0.5');
    const { document } = apply({ ...emptyDocument('T'), set: { title: 'T', items: [item] } }, offer?.operation as never);
    expect(mark(document.set.items[0] as Item, { text: '74,5' }, 'de').state).toBe('right');
    expect(offersFor(item, { text: '90' })).toEqual([]);
    expect(offersFor(item, { text: '75' })).toEqual([]);
  });
  test('a gap is eased alone', () => {
    const item: Item = {
      id: 'c',
      kind: 'cloze',
      stem: 'A [[1]] and a [[2]].',
      points: 2,
      gaps: [
        { id: '1', kind: 'text', points: 1, answers: [{ text: 'biga', credit: 1 }] },
        { id: '2', kind: 'text', points: 1, answers: [{ text: 'poolish', credit: 1 }] },
      ],
    };
    const offers = offersFor(item, { gaps: { '1': 'biga', '2': 'poolsh' } });
    expect(offers.map((o) => o.reason)).toEqual(['Gap 2: One letter differs.', 'Gap 2:']);
  });
});

test('the reason says how an answer came to count', () => {
  const item: Item = { id: 'i', kind: 'short-answer', stem: 's', points: 1, answers: [{ text: '0.5', credit: 1 }], match: defaultMatch };
  expect(mark(item, { text: '½' }).reason).toBe('Accepted: “½” has the value of “0.5”.');
  expect(mark({ ...item, answers: [{ text: 'poolish', credit: 1 }] }, { text: 'poolsh' }).reason).toBe('One letter differs from “poolish”.');
  const weight: Item = { id: 'n', kind: 'numeric', stem: 's', points: 1, answers: [{ min: 5, max: 5, credit: 1 }], unit: 'kg' };
  expect(mark(weight, { text: '5 g' }).reason).toBe('“5 g” does not have the unit kg.');
});

test('where a comma parts decimals, a number with a point counts by whichever reading is in the key', () => {
  const item = (key: number): Item => ({ id: 'n', kind: 'numeric', stem: 's', points: 1, answers: [{ min: key, max: key, credit: 1 }], language: 'es' });
  for (const [key, typed, state] of [
    [1.125, '1.125', 'right'],
    [1.125, '1,125', 'right'],
    [1125, '1.125', 'right'],
    [1125, '1,125', 'wrong'],
    [1.5, '1.5', 'right'],
  ] as const)
    expect([key, typed, mark(item(key), { text: typed }, 'en').state]).toEqual([key, typed, state]);
});
