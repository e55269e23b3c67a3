/** What comes back from assistants, in the ways they write it, and what it costs. */
import fc from 'fast-check';
import { type Allowance, amountWords, assistantInterfaces, costOf, monthOf, roomFor, usedOf } from './index.js';

const [chat] = assistantInterfaces;
const piece = (data: unknown) => chat!.piece(typeof data === 'string' ? data : JSON.stringify(data));

test.each([
  ['plain text', { text: 'Hello' }, { text: 'Hello' }],
  ['plain end', { end: 'whole', tokens: { in: 3, out: 4 } }, { end: 'whole', tokens: { in: 3, out: 4 } }],
  ['a choice', { choices: [{ delta: { content: 'Hello' } }] }, { text: 'Hello' }],
  ['a choice that is over', { choices: [{ delta: {}, finish_reason: 'stop' }] }, { end: 'whole' }],
  ['one that had its most', { choices: [{ delta: {}, finish_reason: 'length' }] }, { end: 'cut' }],
  ['counts of tokens', { choices: [], usage: { prompt_tokens: 12, completion_tokens: 30 } }, { tokens: { in: 12, out: 30 } }],
  ['the mark behind the last', '[DONE]', null],
  ['the first, without words', { choices: [{ delta: { role: 'assistant', content: '' } }] }, null],
  ['an error with words', { error: { message: 'Too busy.' } }, { problem: 'Too busy.' }],
  ['an error page in the stream', '<html>', { problem: 'It sent what is no JSON.' }],
  ['counts that are none', { usage: { prompt_tokens: -1, completion_tokens: 'x' } }, null],
])('%s', (_, data, expected) => expect(piece(data)).toEqual(expected));

test('whatever comes is a piece or nothing, never an exception', () => {
  fc.assert(fc.property(fc.oneof(fc.json(), fc.string()), (data) => void piece(data)));
});

test('what is asked: one message, streamed, with its most', () => {
  expect(chat!.body({ model: 'm', text: 'Write.', most: 100 })).toMatchObject({
    model: 'm',
    messages: [{ role: 'user', content: 'Write.' }],
    max_tokens: 100,
    stream: true,
  });
});

test('cost by the million tokens', () => {
  // 2,000 tokens in at 0.50 and 1,000 out at 1.50 per million: 0.001 + 0.0015
  expect(costOf({ in: 2000, out: 1000 }, { in: 0.5, out: 1.5 })).toBe(0.0025);
  expect(costOf({ in: 1e6, out: 1e6 }, { in: 3, out: 15 })).toBe(18);
  expect([amountWords(0.0025, 'money', 'EUR'), amountWords(18, 'money', 'EUR'), amountWords(12345.4, 'tokens', 'EUR')]).toEqual([
    '0.0025 EUR',
    '18.00 EUR',
    '12,345 tokens',
  ]);
  expect(monthOf(new Date('2026-12-01T00:30:00Z'))).toBe('2026-12');
});

test('however many requests are asked one after the other, what they use never passes the allowance', () => {
  const amounts = fc.record({
    in: fc.integer({ min: 1, max: 5000 }),
    out: fc.integer({ min: 1, max: 5000 }),
    share: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  fc.assert(
    fc.property(
      fc.constantFrom<Allowance>({ unit: 'tokens', amount: 20_000 }, { unit: 'money', amount: 0.05 }),
      fc.record({ in: fc.integer({ min: 0, max: 20 }), out: fc.integer({ min: 0, max: 60 }) }),
      fc.array(amounts, { maxLength: 30 }),
      (allowance, prices, list) => {
        let used = 0;
        for (const a of list) {
          const room = roomFor(allowance, used, a, prices);
          expect(room.left).toBeGreaterThanOrEqual(0);
          if (room.fits) used += usedOf({ in: a.in, out: Math.floor(a.out * a.share) }, prices, allowance.unit);
          else expect(room.needs).toBeGreaterThan(room.left);
        }
        expect(used).toBeLessThanOrEqual(allowance.amount + 1e-6);
      },
    ),
  );
});
