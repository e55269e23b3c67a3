/** Signs that no font of a paper has are told, and no others. */
import type { Item, QuizSet } from '@zakuska/core';
import { undrawn, withUndrawn } from './scripts.js';

const item = (id: string, stem: string): Item => ({ id, kind: 'true-false', stem, points: 1, answer: true });

test('what the fonts have is not told: the languages of the reader, and more', () => {
  for (const text of ['Crème brûlée, Çelik, żółć, ß', 'Привет, їжак', 'ακρίβεια', 'שלום', 'خبز', 'रोटी', 'ngữ ½ → ✓ ≤ 20 °C “x” № 5'])
    expect([text, undrawn(text)]).toEqual([text, []]);
});

test('what is missing is told with its script; what is missing for another reason stays as it was', () => {
  const set: QuizSet = { title: 'Bread', items: [item('a', 'Rye?'), item('b', '小麦粉はどれ'), item('c', '빵'), item('d', 'Bread 🍞')] };
  const told = withUndrawn(
    ['a', 'b', 'c', 'd'].map((of) => ({ item: of, name: of, message: 'not there' })),
    set,
  );
  expect(told.map((d) => d.message)).toEqual([
    'not there',
    expect.stringMatching(/^not there: .*no Chinese or Japanese and no Japanese signs \(小 麦 粉 は ど れ\)/),
    expect.stringMatching(/no Korean signs/),
    expect.stringMatching(/no pictograph signs/),
  ]);
  expect(withUndrawn([{ name: 'Bread', message: 'x' }], set)).toEqual([{ name: 'Bread', message: 'x' }]);
});

test.each([
  ['Ω', true],
  ['я', true],
  ['ħ', true],
  ['𝑥', true],
  ['ა', false],
  ['ก', false],
  ['中', false],
  ['ᄀ', false],
])('%s is drawn: %s', (sign, drawn) => {
  expect(undrawn(sign).length === 0).toBe(drawn);
});
