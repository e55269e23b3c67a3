import { giftProfile } from '../formats/gift/profile.js';
import { cartridgeProfile, courseLmsProfile, qti2Profile } from '../formats/qti/profile.js';
import { coreFormats } from '../formats/index.js';
import { defaultMatch, type Item, type QuizSet } from '../item/model.js';
import { mark } from '../mark/mark.js';
import { rightResponse } from '../mark/answers.js';
import { destinations } from '../destinations/destinations.js';
import { fit, fitSet, matters } from './fit.js';
import { everything, type Profile } from './profile.js';
import { profileOf } from '../destinations/profileOf.js';

const choiceSheetProfile = coreFormats.byId('csv-choices')?.profile as Profile;

const base = { id: 'x', stem: 'Which?', points: 1 };
const set = (item: Item, more: Partial<QuizSet> = {}): QuizSet => ({ title: 'T', items: [item], ...more });
const told = (item: Item, profile: Profile, more: Partial<QuizSet> = {}): string[] =>
  fit(item, profile, set(item, more)).notes.map((n) => `${n.fit}: ${n.message}`);
const response = (scoring: 'all-or-nothing' | 'per-option' | 'weights', credits: number[]): Item => ({
  ...base,
  kind: 'multiple-response',
  scoring,
  options: credits.map((credit, i) => ({ id: `o${i}`, content: `option ${i}`, credit })),
});

test('what fits is given back as it is, and nothing is said', () => {
  const item: Item = { ...base, kind: 'true-false', answer: true };
  const f = fit(item, qti2Profile, set(item));
  expect(f).toEqual({ items: [item], notes: [], losses: [] });
  expect(f.items[0]).toBe(item);
});

test.each<[string, Item, Profile, string[]]>([
  ['no key', { ...base, kind: 'true-false', answer: null }, giftProfile, ['impossible: it has no key']],
  ['a kind that is not there', { ...base, kind: 'essay' }, choiceSheetProfile, ['impossible: there is nothing of its kind there']],
  [
    'a range in a cartridge',
    { ...base, kind: 'numeric', answers: [{ min: 1, max: 2, credit: 1 }] },
    cartridgeProfile,
    ['impossible: a range of numbers cannot be marked there'],
  ],
  [
    'too many options',
    { ...base, kind: 'multiple-choice', options: [1, 0, 0, 0, 0, 0, 0].map((credit, i) => ({ id: `${i}`, content: `${i}`, credit })) },
    choiceSheetProfile,
    ['impossible: it has 7 options; 6 are possible there'],
  ],
  ['points', { ...base, points: 2, kind: 'true-false', answer: true }, giftProfile, ['lost: its 2 points stay here and have to be set again there']],
  [
    'all or nothing in percentages',
    response('all-or-nothing', [1, 1, 0]),
    giftProfile,
    ['adapted: each key earns its share and each wrong option takes one there'],
  ],
  [
    'numbers as they are written',
    { ...base, kind: 'short-answer', answers: [{ text: '0.5', credit: 1 }], match: defaultMatch },
    qti2Profile,
    ['lost: a number counts only as it is written here (0.5 is not 1/2 there)'],
  ],
  ['hints', { ...base, kind: 'true-false', answer: true, hints: ['Think.'] }, courseLmsProfile, ['lost: hints stay here']],
])('%s', (_name, item, profile, notes) => {
  expect(told(item, profile)).toEqual(notes);
});

test('a matching rule that makes no difference to these answers is not spoken of', () => {
  expect(told({ ...base, kind: 'short-answer', answers: [{ text: 'levain', credit: 1 }], match: defaultMatch }, giftProfile)).toEqual([]);
});

test('an ordering goes as matching, and on to choices where there is no matching', () => {
  const item: Item = { ...base, kind: 'ordering', sequence: ['mix', 'rest', 'bake'] };
  expect(fit(item, giftProfile, set(item)).items.map((i) => i.kind)).toEqual(['matching']);
  const choices = fit(item, cartridgeProfile, set(item)).items;
  expect(choices.map((i) => i.kind)).toEqual(['multiple-choice', 'multiple-choice', 'multiple-choice']);
  for (const c of choices) expect(mark(c, rightResponse(c)).state).toBe('right');
});

test('gaps taken apart share the points', () => {
  const item: Item = {
    ...base,
    points: 3,
    kind: 'cloze',
    stem: 'A [[1]] and [[2]].',
    gaps: [
      { id: '1', kind: 'text', points: 2, answers: [{ text: 'a', credit: 1 }] },
      {
        id: '2',
        kind: 'choice',
        points: 1,
        options: [
          { id: 'p', content: 'b', credit: 1 },
          { id: 'q', content: 'c', credit: 0 },
        ],
      },
    ],
  };
  const { items, losses } = fit(item, { ...giftProfile, holds: { ...giftProfile.holds, points: true } }, set(item));
  expect(items.map((i) => [i.kind, i.points, i.stem])).toEqual([
    ['cloze', 2, 'A [[1]] and ____.'],
    ['multiple-choice', 1, 'A ____ and ____.'],
  ]);
  expect(losses).toEqual(['item']);
});

test('a passage without a place goes in front of the question; a picture that is missing is said', () => {
  const item: Item = { ...base, kind: 'true-false', answer: true, section: 's', stem: `See <img src="asset:${'0'.repeat(64)}" alt="a loaf"/>.` };
  const f = fit(item, giftProfile, set(item, { sections: [{ id: 's', passage: 'A loaf is baked.' }] }));
  expect(f.items[0]?.stem).toBe('<p>A loaf is baked.</p><p>See a loaf.</p>');
  expect(f.notes.map((n) => n.brief)).toEqual(['passage in front', 'picture missing']);
  expect(f.losses).toEqual(['stem', 'section']);
});

test('notes of the teacher’s own are minor: the item still fits', () => {
  const item: Item = { ...base, kind: 'true-false', answer: true, tags: ['yeast'], label: '3' };
  const f = fit(item, courseLmsProfile, set(item));
  expect(f.notes.map((n) => n.minor)).toEqual([true, true]);
  expect(matters(f)).toBe(false);
  expect(f.losses).toEqual(['label', 'tags']);
});

test('fitting what was fitted changes nothing more', () => {
  const items: Item[] = [
    response('per-option', [1, 1, 0]),
    { ...base, id: 'y', kind: 'ordering', sequence: ['a', 'b'] },
    { ...base, id: 'z', points: 2.5, kind: 'true-false', answer: true, hints: ['h'] },
  ];
  for (const d of destinations) {
    for (const formatId of d.forms.length ? d.forms.map((f) => f.format) : [undefined]) {
      const profile = profileOf(d, formatId);
      const once = fitSet({ title: 'T', items }, profile).set;
      expect(fitSet(once, profile).set).toEqual(once);
    }
  }
  expect(everything.kinds).toHaveLength(10);
});
