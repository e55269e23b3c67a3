/** Rounds of work: one at a time, a failed one does not end them, none goes on after the end, and none where requests are answered only. */
import { jest } from '@jest/globals';
import type { Logger } from '@nestjs/common';
import { Rounds } from './rounds.js';
import { settings } from './settings.js';

process.env['DATABASE_URL'] = 'postgresql://nowhere';
process.env['ZAKUSKA_SECRET'] = 'a secret of the tests, long enough';
const errors: unknown[] = [];
const log = { error: (e: unknown) => errors.push(e) } as unknown as Logger;

beforeEach(() => {
  jest.useFakeTimers();
  errors.splice(0);
});
afterEach(() => jest.useRealTimers());

test('a round that takes long is not joined by another; the next begins when it is due again', async () => {
  let [begun, at, most] = [0, 0, 0];
  const rounds = new Rounds(async () => {
    begun++;
    most = Math.max(most, ++at);
    await new Promise((done) => setTimeout(done, 250));
    at--;
  }, log);
  rounds.begin(100);
  await jest.advanceTimersByTimeAsync(1000);
  expect([begun, most]).toEqual([4, 1]);
  // the end waits for the round under way, and none follows
  const ended = rounds.end();
  await jest.advanceTimersByTimeAsync(300);
  await ended;
  await jest.advanceTimersByTimeAsync(1000);
  expect([begun, at]).toEqual([4, 0]);
});

test('a round that fails is told, and the next one comes', async () => {
  let begun = 0;
  const rounds = new Rounds(() => {
    begun++;
    return Promise.reject(new Error(`round ${begun}`));
  }, log);
  rounds.begin(100);
  await jest.advanceTimersByTimeAsync(350);
  expect(errors.map((e) => (e as Error).message)).toEqual(['round 1', 'round 2', 'round 3']);
  await rounds.end();
});

test('a process that only answers requests has none', async () => {
  const { role } = settings();
  settings().role = 'web';
  let begun = 0;
  const rounds = new Rounds(async () => void begun++, log);
  rounds.begin(10);
  await jest.advanceTimersByTimeAsync(100);
  await rounds.end();
  settings().role = role;
  expect(begun).toBe(0);
});

test('a round that is asked for waits for the one under way, and is one of its own', async () => {
  const order: string[] = [];
  let n = 0;
  const rounds = new Rounds(async () => {
    const of = ++n;
    order.push(`${of} begins`);
    await new Promise((done) => setTimeout(done, 150));
    order.push(`${of} ends`);
  }, log);
  rounds.begin(100);
  await jest.advanceTimersByTimeAsync(120);
  const asked = rounds.now().then(() => order.push('done'));
  await jest.advanceTimersByTimeAsync(400);
  await asked;
  expect(order.slice(0, 5)).toEqual(['1 begins', '1 ends', '2 begins', '2 ends', 'done']);
  const ended = rounds.end();
  await jest.advanceTimersByTimeAsync(200);
  await ended;
});
