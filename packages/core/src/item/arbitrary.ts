/** Random items for properties. Development only: nothing of the product imports it. */
import fc from 'fast-check';
import type { Item, Option, QuizSet } from './model.js';
import { defaultMatch } from './model.js';
import { minus, plus } from '../language/decimal.js';
import { escapeXml } from './markup.js';

const word = fc.stringMatching(/^[A-Za-zäéßøЖ][a-zäéñøж]{1,9}$/);
/** Words with the signs that formats give a meaning to. */
export const phrase = fc
  .array(
    fc.oneof(
      { weight: 8, arbitrary: word },
      { weight: 1, arbitrary: fc.constantFrom('=', '~', '{x}', '#', 'a:b', '->', '50%', 'x < y', '&', '"so"', 'C\\D', '//', '*', '\\n', '$\\neq$', '\\\\') },
    ),
    { minLength: 1, maxLength: 6 },
  )
  .map((w) => w.join(' '));
const uuid = fc.uuid();
const distinct = (min: number, max: number): fc.Arbitrary<string[]> =>
  fc.uniqueArray(phrase, { minLength: min, maxLength: max, selector: (s) => s.toLowerCase() });
const points = fc.constantFrom(0.5, 1, 1, 2, 3, 2.5);
const common = fc.record({ id: uuid, stem: phrase, points });
const optional = fc.record({ feedback: fc.record({ correct: phrase, incorrect: phrase, general: phrase }, { requiredKeys: [] }) }, { requiredKeys: [] });
const optionsOf = (texts: string[], ids: string[]): Option[] => texts.map((content, i) => ({ id: ids[i] ?? String(i), content, credit: 0 }));
const choiceBase = distinct(2, 6).chain((t) =>
  fc.tuple(
    fc.constant(t),
    fc.uniqueArray(uuid, { minLength: t.length, maxLength: t.length }),
    fc.integer({ min: 0, max: t.length - 1 }),
    fc.array(fc.boolean(), { minLength: t.length, maxLength: t.length }),
  ),
);

/** Numbers in every usual size: with powers, up to 15 figures, with tolerances far below or above them. */
const figure = fc.oneof(
  { weight: 4, arbitrary: fc.integer({ min: -9000, max: 9000 }).map((n) => n / 8) },
  { weight: 1, arbitrary: fc.constantFrom(1.6e-19, 6.02e23, 2.5e-3, 1e-7, 4006381333931, 123456789012345, -0.000123456789, 299792458, 0.1, 0) },
  { weight: 1, arbitrary: fc.tuple(fc.integer({ min: -99_999, max: 99_999 }), fc.integer({ min: -24, max: 22 })).map(([n, e]) => Number(`${n}e${e}`)) },
  { weight: 1, arbitrary: fc.integer({ min: -(10 ** 15), max: 10 ** 15 }) },
);
const tolerance = fc.constantFrom(0, 0, 0.5, 0.01, 1e-9, 1e-12, 20);
const range = fc.tuple(figure, tolerance).map(([a, t]) => ({ min: minus(a, t), max: plus(a, t) }));

const own: fc.Arbitrary<Record<string, unknown>> = fc.oneof(
  choiceBase.map(([t, ids, key]) => ({ kind: 'multiple-choice', options: optionsOf(t, ids).map((o, i) => ({ ...o, credit: i === key ? 1 : 0 })) })),
  fc.tuple(choiceBase, fc.constantFrom('all-or-nothing', 'per-option', 'right-minus-wrong')).map(([[t, ids, key, more], scoring]) => ({
    kind: 'multiple-response',
    scoring,
    options: optionsOf(t, ids).map((o, i) => ({ ...o, credit: i === key || (more[i] && i !== (key + 1) % t.length) ? 1 : 0 })),
  })),
  fc.boolean().map((answer) => ({ kind: 'true-false', answer })),
  distinct(1, 3).map((t) => ({ kind: 'short-answer', match: defaultMatch, answers: t.map((text) => ({ text, credit: 1 })) })),
  range.map((r) => ({ kind: 'numeric', answers: [{ ...r, credit: 1 }] })),
  fc.array(distinct(1, 2), { minLength: 1, maxLength: 3 }).map((g) => ({
    kind: 'cloze',
    stem: g.map((_, i) => `Words [[${i + 1}]]`).join(' and '),
    gaps: g.map((t, i) => ({ id: String(i + 1), kind: 'text', points: 1, answers: t.map((text) => ({ text, credit: 1 })) })),
  })),
  fc.tuple(distinct(4, 8)).map(([t]) => ({
    kind: 'matching',
    pairs: t.slice(0, t.length >> 1).map((left, i) => ({ left, right: t[(t.length >> 1) + i] ?? 'x' })),
    extraRights: t.length % 2 ? t.slice(-1) : [],
  })),
  distinct(2, 5).map((sequence) => ({ kind: 'ordering', sequence })),
  fc.constant({ kind: 'essay' }),
  fc.constant({ kind: 'information', points: 0 }),
);

/** Any item of any kind with a complete key. */
export const anyItem: fc.Arbitrary<Item> = fc.tuple(common, optional, own).map(([c, o, k]) => ({ ...c, ...o, ...k }) as unknown as Item);
export const anyGraded = anyItem.filter((i) => i.kind !== 'essay' && i.kind !== 'information');

// ── whole sets, with every field of the model ──

/** Words that a reader of drafts could take for something else. */
const treacherous = fc.constantFrom(
  'Answer: B',
  'a) first b) second',
  '1. one',
  'Part B: matching',
  'True or False: so',
  '(2 points)',
  'Sure, here it is',
  'Points: 3',
  '____',
  '[x] done',
  'Discuss this',
  'Match the words',
  '-> there',
  '# heading',
  'x * y * z',
  'a_b_c',
  '`code`',
  '\\(x^2\\)',
  'C:\\temp',
  '5 $ and 6 $',
  'a | b',
  '{gap}',
  'Bonus: yes',
  'Page 3',
  '12.5',
  '1,250',
  'T/F',
  'Feedback: no',
  'Select all that apply',
  'Answer key',
  '&amp; <q>',
  'a; b / c or d',
  '"quoted"',
  'Kind: essay',
  // TeX whose commands begin like escapes, and signs that single formats take for their own
  '$\\neq$ \\(\\rho\\) \\tau',
  '$$\\frac{a}{b}$$',
  '\\\\',
  '\\n\\r\\t',
  '*blue*',
  'bl?e',
  '%50%half',
  '[html]b',
  '::t::',
  '$CATEGORY: x',
  '=2+3',
  '@home',
  '-5 to 5',
  ']]> & <!-- x -->',
  '&#61;',
  '６．５ ＝ x',
  '{1:MC:=a~b}',
  '6.02e23',
  '“curly” ‘ones’',
);
const wild = fc.oneof(
  { weight: 4, arbitrary: phrase },
  { weight: 2, arbitrary: treacherous },
  { weight: 1, arbitrary: fc.tuple(phrase, treacherous).map((t) => t.join(' ')) },
);
/** A picture of one pixel, by the SHA-256 of its bytes. */
const PICTURE = '6b7fa434f92a8b80aab02d9bf1a12e49ffcae424e4013a1c4f68b67e3d2bbcd0';
const pictureData = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
const marked = fc.oneof(
  { weight: 6, arbitrary: wild },
  {
    weight: 1,
    arbitrary: fc
      .tuple(word, word, word)
      .chain(([a, b, c]) =>
        fc.constantFrom(
          `${a} <strong>${b}</strong> ${c}`,
          `<em>${a}</em>`,
          `${a}<sub>2</sub> &amp; ${b}`,
          `<p>${a}</p><p>${b} <em>${c}</em></p>`,
          `<p>${a}</p><pre><code>${b} = 1;\n${c}</code></pre>`,
          `<p>${a}</p><pre><code>for i in x:\n    if i:\n        ${b}(i)\n\n    ${c} = 1 # 2</code></pre>`,
          `<ul><li>${a}</li><li>${b}</li></ul>`,
          `${a}<br/>${b}`,
          `${a} <img src="asset:${PICTURE}" alt="${b}"/>`,
          `<table><tbody><tr><td>${a}</td><td>${b}</td></tr></tbody></table>`,
        ),
      ),
  },
);
const credit = fc.constantFrom(0, 0, 1, 0.5, -0.25);
const notes = fc.record(
  {
    title: wild,
    label: fc.constantFrom('3a', 'IV', 'Bonus', '12'),
    hints: fc.array(marked, { minLength: 1, maxLength: 2 }),
    tags: fc.uniqueArray(word, { minLength: 1, maxLength: 3 }),
    outcomes: fc.uniqueArray(wild, { minLength: 1, maxLength: 2 }),
    level: fc.record(
      { bloom: fc.constantFrom('apply' as const, 'create' as const), depth: fc.constantFrom(1, 4), difficulty: fc.constantFrom(0, 0.4, 1) },
      { requiredKeys: [] },
    ),
    bonus: fc.constant(true),
    required: fc.boolean(),
    shuffle: fc.boolean(),
    timeLimit: fc.constantFrom(30, 90.5),
    language: fc.constant('es'),
    feedback: fc.record({ correct: marked, incorrect: marked, general: marked }, { requiredKeys: [] }),
  },
  { requiredKeys: [] },
);
const match = fc.record({
  caseSensitive: fc.boolean(),
  spaces: fc.constant('collapse' as const),
  punctuation: fc.constantFrom('keep' as const, 'ignore' as const),
  accents: fc.constantFrom('keep' as const, 'ignore' as const),
  numbersAsValues: fc.boolean(),
  anyOrder: fc.boolean(),
  spelling: fc.constantFrom(0, 2),
});
const textAnswers = (max: number): fc.Arbitrary<object[]> =>
  fc
    .uniqueArray(wild, { minLength: 1, maxLength: max, selector: (s) => s.toLowerCase().trim() })
    .chain((t) =>
      fc
        .tuple(
          fc.array(fc.constantFrom(1, 1, 0.5, 0), { minLength: t.length, maxLength: t.length }),
          fc.array(fc.option(marked, { freq: 5 }), { minLength: t.length, maxLength: t.length }),
        )
        .map(([c, f]) => t.map((text, i) => ({ text, credit: c[i] ?? 1, ...(f[i] != null && { feedback: f[i] }) }))),
    );
const numberAnswer = fc
  .tuple(range, fc.constantFrom(1, 1, 0.5))
  .map(([r, c]) => ({ ...r, credit: c }))
  .chain((n) => fc.option(marked, { freq: 5 }).map((feedback) => (feedback === null ? n : { ...n, feedback })));
const someOptions = fc.uniqueArray(marked, { minLength: 1, maxLength: 6 }).chain((t) =>
  fc
    .tuple(
      fc.array(credit, { minLength: t.length, maxLength: t.length }),
      fc.array(fc.option(marked), { minLength: t.length, maxLength: t.length }),
      fc.array(fc.boolean(), { minLength: t.length, maxLength: t.length }),
    )
    .map(([c, f, p]) =>
      t.map((content, i) => ({
        id: `o${i}`,
        content,
        credit: c[i] ?? 0,
        ...(f[i] !== null && { feedback: f[i] }),
        ...(p[i] && i === 0 && { pinned: true }),
      })),
    ),
);
const gapKinds = fc.oneof(
  textAnswers(2).map((answers) => ({ kind: 'text', answers })),
  fc.tuple(textAnswers(1), match).map(([answers, m]) => ({ kind: 'text', answers, match: m })),
  numberAnswer.map((a) => ({ kind: 'number', answers: [a] })),
  fc
    .uniqueArray(word, { minLength: 2, maxLength: 4 })
    .map((w) => ({ kind: 'choice', options: w.map((content, i) => ({ id: `g${i}`, content, credit: i === 0 ? 1 : 0 })) })),
);
const ownOf = (stems: 'plain' | 'rich'): fc.Arbitrary<Record<string, unknown>> =>
  fc.oneof(
    someOptions.map((options) => ({ kind: 'multiple-choice', options })),
    fc
      .tuple(someOptions, fc.constantFrom('all-or-nothing', 'per-option', 'right-minus-wrong', 'weights'))
      .map(([options, scoring]) => ({ kind: 'multiple-response', options, scoring })),
    fc.constantFrom(true, false, null).map((answer) => ({ kind: 'true-false', answer })),
    fc.tuple(fc.boolean(), marked, marked).map(([answer, t, f]) => ({ kind: 'true-false', answer, optionFeedback: { true: t, false: f } })),
    fc.tuple(textAnswers(3), match).map(([answers, m]) => ({ kind: 'short-answer', answers, match: m })),
    fc
      .tuple(fc.array(numberAnswer, { minLength: 1, maxLength: 2 }), fc.option(fc.constantFrom('g', 'm/s', '%')))
      .map(([answers, unit]) => ({ kind: 'numeric', answers, ...(unit && { unit }) })),
    fc
      .tuple(
        fc.array(fc.tuple(gapKinds, fc.constantFrom(1, 1, 2)), { minLength: 1, maxLength: 3 }),
        wild,
        fc.option(fc.uniqueArray(word, { minLength: 1, maxLength: 3 })),
      )
      .chain(([g, w, bank]) => {
        const gaps = g.map((_, i) => `[[${i + 1}]]`);
        return fc
          .constantFrom(
            `${w} ${gaps.join(' and ')} end`,
            `${w} ${gaps.join(' ')}`,
            `${gaps.join(', ')} ${w}`,
            ...(stems === 'plain'
              ? []
              : [
                  `<p>${escapeXml(w)}</p><p>so ${gaps.join(' and <em>')}${'</em>'.repeat(gaps.length - 1)}</p>`,
                  `<ul>${gaps.map((x) => `<li>${escapeXml(w)} ${x}.</li>`).join('')}</ul>`,
                ]),
          )
          .map((stem) => [g, stem, bank] as const);
      })
      .map(([g, stem, bank]) => ({
        kind: 'cloze',
        stem,
        gaps: g.map(([gap, points], i) => ({ id: String(i + 1), points, ...gap })),
        ...(bank && { wordBank: bank }),
      })),
    fc.uniqueArray(marked, { minLength: 3, maxLength: 7 }).map((t) => ({
      kind: 'matching',
      pairs: t.slice(0, t.length >> 1).map((left, i) => ({ left, right: t[(t.length >> 1) + i] ?? '' })),
      extraRights: t.length % 2 ? t.slice(-1) : [],
    })),
    fc.uniqueArray(marked, { minLength: 2, maxLength: 5 }).map((sequence) => ({ kind: 'ordering', sequence })),
    fc.record({ modelAnswer: marked, rubric: marked, lines: fc.constantFrom(3, 12) }, { requiredKeys: [] }).map((o) => ({ kind: 'essay', ...o })),
    fc.constant({ kind: 'information', points: 0 }),
  );
const wildItem = (stems: 'plain' | 'rich'): fc.Arbitrary<Item> =>
  fc
    .tuple(fc.record({ id: uuid, stem: marked, points: fc.constantFrom(1, 1, 0, 2.5) }), notes, ownOf(stems))
    .map(([c, n, k]) => ({ ...c, ...n, ...k }) as unknown as Item);

const setOf = (stems: 'plain' | 'rich'): fc.Arbitrary<QuizSet> =>
  fc
    .record({
      title: fc.tuple(word, word).map((w) => w.join(' ')),
      items: fc.uniqueArray(wildItem(stems), { minLength: 1, maxLength: 6, selector: (i) => i.id }),
      split: fc.nat(6),
      part: fc.record({ title: fc.tuple(word, word).map((w) => w.join(' ')), passage: marked, instructions: marked }, { requiredKeys: ['title'] }),
      parts: fc.boolean(),
    })
    .map(({ title, items, split, part, parts }) => ({
      title,
      assets: { [PICTURE]: { mediaType: 'image/png', name: 'dot.png', data: pictureData } },
      items: parts ? items.map((i, n) => (n >= split ? { ...i, section: 's1' } : i)) : items,
      ...(parts && split < items.length && { sections: [{ id: 's1', ...part }] }),
    }));

/** Single answers without their feedback, which the notation has no place for. */
const quiet = (set: QuizSet): QuizSet => ({
  ...set,
  items: set.items.map((i): Item => {
    const without = <T extends { feedback?: string | undefined }>(l: readonly T[]): T[] => l.map(({ feedback: _feedback, ...a }) => a as unknown as T);
    if (i.kind === 'short-answer') return { ...i, answers: without(i.answers) };
    if (i.kind === 'numeric') return { ...i, answers: without(i.answers) };
    if (i.kind !== 'cloze') return i;
    return {
      ...i,
      gaps: i.gaps.map((g) => (g.kind === 'choice' ? g : g.kind === 'text' ? { ...g, answers: without(g.answers) } : { ...g, answers: without(g.answers) })),
    };
  }),
});

/** Any set: all kinds and fields, texts that look like labels, keys and headings. */
export const anySet = setOf('plain').map(quiet);
/** The same, also with gaps inside lists and paragraphs and with feedback of single answers. */
export const anyRichSet = setOf('rich');
