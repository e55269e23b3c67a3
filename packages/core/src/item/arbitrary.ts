/** Random items for properties. Development only: nothing of the product imports it. */
import fc from 'fast-check';
import type { Item, Option } from './model.js';
import { defaultMatch } from './model.js';

const word = fc.stringMatching(/^[A-Za-zäéßøЖ][a-zäéñøж]{1,9}$/);
/** Words with the signs that formats give a meaning to. */
export const phrase = fc
  .array(
    fc.oneof(
      { weight: 8, arbitrary: word },
      { weight: 1, arbitrary: fc.constantFrom('=', '~', '{x}', '#', 'a:b', '->', '50%', 'x < y', '&', '"so"', 'C\\D', '//') },
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

const own: fc.Arbitrary<Record<string, unknown>> = fc.oneof(
  choiceBase.map(([t, ids, key]) => ({ kind: 'multiple-choice', options: optionsOf(t, ids).map((o, i) => ({ ...o, credit: i === key ? 1 : 0 })) })),
  fc.tuple(choiceBase, fc.constantFrom('all-or-nothing', 'per-option', 'right-minus-wrong')).map(([[t, ids, key, more], scoring]) => ({
    kind: 'multiple-response',
    scoring,
    options: optionsOf(t, ids).map((o, i) => ({ ...o, credit: i === key || (more[i] && i !== (key + 1) % t.length) ? 1 : 0 })),
  })),
  fc.boolean().map((answer) => ({ kind: 'true-false', answer })),
  distinct(1, 3).map((t) => ({ kind: 'short-answer', match: defaultMatch, answers: t.map((text) => ({ text, credit: 1 })) })),
  fc
    .tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: 0, max: 20 }))
    .map(([a, d]) => ({ kind: 'numeric', answers: [{ min: a / 4 - d / 8, max: a / 4 + d / 8, credit: 1 }] })),
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
