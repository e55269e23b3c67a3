/** @jest-environment ./src/testing/environment.mjs */
import { keepQuestions, load, putAside, questionsOf, store, takeUp } from './kept.js';
import type { AttemptState } from './server.js';

const attempt: AttemptState = {
  id: 'x',
  title: 'Week two',
  name: 'Ada',
  named: true,
  now: '2026-11-30T08:00:00Z',
  phase: 'open',
  pages: 'all',
  back: true,
  place: 0,
  items: [],
  responses: {},
};
beforeEach(() => localStorage.clear());

test('the questions of the attempt under way are on the device until it is handed in or left', () => {
  store('BREAD7', { id: 'x', token: 't', responses: {}, place: 0 });
  keepQuestions('bread7', attempt);
  expect(questionsOf('BREAD7', 'x')).toEqual(attempt);
  // another attempt on this device has others
  expect(questionsOf('BREAD7', 'y')).toBeNull();
  expect(questionsOf('RYE', 'x')).toBeNull();
  keepQuestions('BREAD7', { ...attempt, outcome: { score: 1, max: 1 } as never });
  expect(questionsOf('BREAD7', 'x')).toBeNull();
  keepQuestions('BREAD7', attempt);
  store('BREAD7', null);
  expect(questionsOf('BREAD7', 'x')).toBeNull();
});
test('what somebody put aside is theirs by name, and its questions are asked for again', () => {
  store('BREAD7', { id: 'x', token: 't', responses: { a: { text: 'rye' } }, place: 2 });
  keepQuestions('BREAD7', attempt);
  putAside('BREAD7', ' Ada  Brandt');
  expect([load('BREAD7'), questionsOf('BREAD7', 'x')]).toEqual([null, null]);
  expect(takeUp('BREAD7', 'ada brandt')).toMatchObject({ id: 'x', responses: { a: { text: 'rye' } } });
  expect(load('BREAD7')?.place).toBe(2);
});
