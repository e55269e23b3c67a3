/** What is said of a set itself, beside its items. */
import type { QuizSet } from '../item/model.js';
import { giftProfile } from '../formats/gift/profile.js';
import { cartridgeProfile, qti2Profile } from '../formats/qti/profile.js';
import { setLosses } from './ofSet.js';
import { everything } from './profile.js';

const set: QuizSet = {
  title: 'Week two',
  description: '<p>For <strong>bakers</strong></p>',
  language: 'de',
  items: [],
  translations: { es: { set: { title: { text: 'Semana dos', of: 'x' } }, items: {} } } as unknown as NonNullable<QuizSet['translations']>,
};
const said = (s: QuizSet, profile = giftProfile): string[] => setLosses(s, profile).map((l) => `${l.field}: ${l.brief}`);

test('what has no place is told, field by field, in the order of the table', () => {
  expect(said(set)).toEqual(['title: name of the file', 'description: stays here', 'language: stays here', 'translations: stays here']);
  expect(setLosses(set, giftProfile)[1]?.message).toBe('its description stays here');
});

test('what has a place is not told, and what goes as plain words is told as that', () => {
  expect(said(set, everything)).toEqual([]);
  expect(said(set, qti2Profile)).toEqual(['translations: stays here', 'description: plain text']);
  expect(said(set, cartridgeProfile)).toEqual(['language: stays here', 'translations: stays here', 'description: plain text']);
  expect(said({ ...set, description: 'For bakers' }, qti2Profile)).toEqual(['translations: stays here']);
});

test('a set that says nothing of itself loses nothing', () => {
  expect(said({ title: 'Untitled set', items: [] })).toEqual([]);
  expect(said({ title: '', items: [], translations: {} })).toEqual([]);
});
