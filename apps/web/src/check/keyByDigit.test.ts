import { apply, emptyDocument, type Item, keySign } from '@zakuska/core';
import { balance, cellOf } from '../item/KeyStrip.js';
import { keyByDigit } from './keyByDigit.js';

const choice = (kind: 'multiple-choice' | 'multiple-response', credits: number[]): Item =>
  ({
    id: 'i',
    kind,
    stem: 's',
    points: 1,
    scoring: 'all-or-nothing',
    options: credits.map((credit, n) => ({ id: String(n), content: `o${n}`, credit })),
  }) as Item;
const press = (item: Item, digit: number): string => {
  const op = keyByDigit(item, digit);
  return op ? keySign(apply({ ...emptyDocument('T'), set: { title: 'T', items: [item] } }, op).document.set.items[0] as Item) : 'nothing';
};

test('a digit sets the one key, turns one of several on and off, or says true and false', () => {
  expect(press(choice('multiple-choice', [1, 0, 0]), 3)).toBe('C');
  expect(press(choice('multiple-choice', [1, 0]), 3)).toBe('nothing');
  expect(press(choice('multiple-response', [1, 0, 1]), 2)).toBe('A B C');
  expect(press(choice('multiple-response', [1, 0, 1]), 1)).toBe('C');
  const truth: Item = { id: 'i', kind: 'true-false', stem: 's', points: 1, answer: null };
  expect([press(truth, 1), press(truth, 2), press(truth, 3)]).toEqual(['T', 'F', 'nothing']);
  expect(press({ ...truth, answer: true }, 1)).toBe('?');
  expect(press({ id: 'i', kind: 'essay', stem: 's', points: 1 }, 1)).toBe('nothing');
});

test('the key strip says what is checked, open, wrong or left out, and whether truth is one-sided', () => {
  const keyed = choice('multiple-choice', [0, 1]);
  expect(cellOf(keyed, 0, { state: 'checked', by: 'A', at: 'x' })).toMatchObject({ sign: 'B', state: 'checked' });
  expect(cellOf(keyed, 0, { state: 'left-out' }).state).toBe('out');
  expect(cellOf(choice('multiple-choice', [0, 0]), 0, undefined)).toMatchObject({ sign: '?', state: 'error' });
  const truths = [true, true, true, true, false].map((answer, n): Item => ({ id: String(n), kind: 'true-false', stem: 's', points: 1, answer }));
  expect(balance(truths)).toEqual({ letters: '', truth: 'true 4 · false 1', oneSided: true });
  expect(balance([keyed, keyed]).letters).toBe('keys B 2');
});
