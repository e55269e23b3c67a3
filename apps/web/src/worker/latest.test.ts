/** However questions and failures fall, the newest question is answered or told as failed, and nothing hangs. */
import { jest } from '@jest/globals';
import fc from 'fast-check';
import { LatestCall } from './latest.js';

const settle = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};

let silenced: { mockRestore: () => void };
beforeEach(() => {
  silenced = jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => silenced.mockRestore());

type Move = { move: 'ask' } | { move: 'answer' } | { move: 'fail' } | { move: 'again' };
const moves = fc.array(
  fc.oneof(
    fc.constant<Move>({ move: 'ask' }),
    fc.constant<Move>({ move: 'answer' }),
    fc.constant<Move>({ move: 'fail' }),
    fc.constant<Move>({ move: 'again' }),
  ),
  { maxLength: 30 },
);

test('one at a time, and the newest in the end', async () => {
  await fc.assert(
    fc.asyncProperty(moves, async (list) => {
      const open: { question: number; answer: (n: number) => void; fail: (e: Error) => void }[] = [];
      let most = 0;
      const call = new LatestCall<number, number>(
        (question) =>
          new Promise((answer, fail) => {
            open.push({ question, answer, fail });
            most = Math.max(most, open.length);
          }),
      );
      let asked = 0;
      for (const { move } of list) {
        if (move === 'ask') call.ask(++asked);
        else if (move === 'again') call.again();
        else {
          const next = open.shift();
          if (move === 'answer') next?.answer(next.question);
          else next?.fail(new Error('planted'));
        }
        await settle();
      }
      // whatever is under way now goes well
      for (let i = 0; i < 4 && open.length; i++) {
        const next = open.shift();
        next?.answer(next.question);
        await settle();
      }
      expect(most).toBeLessThanOrEqual(1);
      expect(open).toEqual([]);
      expect(call.get().busy).toBe(false);
      if (asked && !call.get().failed) expect(call.get().value).toBe(asked);
      // after a failure another try answers
      if (call.get().failed) {
        call.again();
        await settle();
        open.shift()?.answer(asked);
        await settle();
        expect(call.get()).toEqual({ value: asked, busy: false, failed: false });
      }
    }),
  );
});

test('a question that fails is asked once more, afresh; twice failed is told, and the answer before stays', async () => {
  const asked: [string, string | null, boolean][] = [];
  const call = new LatestCall<string, string>(async (question, before, afresh) => {
    asked.push([question, before, afresh]);
    if (question === 'bad' || (question === 'shaky' && !afresh)) throw new Error('planted');
    return question.toUpperCase();
  });
  const seen: boolean[] = [];
  call.subscribe(() => seen.push(call.get().failed));
  call.ask('shaky');
  await settle();
  expect(call.get()).toEqual({ value: 'SHAKY', busy: false, failed: false });
  call.ask('bad');
  await settle();
  expect(call.get()).toEqual({ value: 'SHAKY', busy: false, failed: true });
  call.ask('good');
  await settle();
  expect(call.get()).toEqual({ value: 'GOOD', busy: false, failed: false });
  expect(asked).toEqual([
    ['shaky', null, false],
    ['shaky', null, true],
    ['bad', 'SHAKY', false],
    ['bad', 'SHAKY', true],
    ['good', 'SHAKY', false],
  ]);
  expect(seen).toEqual([false, true, false]);
});

test('what takes long is told as busy, until it is answered', async () => {
  jest.useFakeTimers();
  try {
    let answer: (n: number) => void = () => {};
    const call = new LatestCall<number, number>(() => new Promise((a) => (answer = a)));
    call.ask(1);
    jest.advanceTimersByTime(399);
    expect(call.get().busy).toBe(false);
    jest.advanceTimersByTime(2);
    expect(call.get().busy).toBe(true);
    answer(1);
    await settle();
    expect(call.get()).toEqual({ value: 1, busy: false, failed: false });
  } finally {
    jest.useRealTimers();
  }
});
