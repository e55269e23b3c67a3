import { type Item, type QuizSet } from '@zakuska/core';
import { heavy } from './heavy.js';

const setOf = (count: number): QuizSet => ({
  title: 'T',
  items: Array.from({ length: count }, (_, n): Item => ({ id: `i${n}`, kind: 'true-false', stem: `S ${n}`, points: 1, answer: n % 2 === 0 }) as Item),
});

test('a large set is packed, fitted and rehearsed in a thread as a small one is here', async () => {
  for (const count of [3, 150]) {
    const set = setOf(count);
    const going = { service: 'lms', setId: 's', set, settings: {} };
    const bytes = await heavy('prepare', going);
    const { pieces, notes } = await heavy('pieces', going);
    expect(pieces).toHaveLength(count);
    expect(Array.isArray(notes)).toBe(true);
    const rehearsal = await heavy('rehearse', { ...going, bytes: new Uint8Array(bytes ?? []), pieces: [] });
    expect(rehearsal).toMatchObject({ ok: true, items: { length: count } });
  }
});
