/** What is said of a set itself beside its items: what goes comes back, what is said to stay behind does. */
import { setLosses, type QuizSet } from '@zakuska/core';
import { allFormats } from './index.js';

const base: QuizSet = {
  title: 'Woche zwei',
  items: [{ id: '00000000-0000-1000-8000-000000000001', kind: 'true-false', stem: 'Brot ist gut.', points: 1, answer: true }],
};
const sets = {
  title: base,
  description: { ...base, description: 'Nur für Bäcker. Mehl & Wasser < 5 kg.' },
  language: { ...base, language: 'de' },
} satisfies Partial<Record<keyof QuizSet, QuizSet>>;
const trips = allFormats.formats.filter((f) => f.write && f.profile && (f.read || /^(?:qti|cc|text$|markdown$|xlsx)/.test(f.id)));

test('most formats make the trip', () => expect(trips.length).toBeGreaterThan(15));

describe.each(trips.map((f) => [f.id, f] as const))('%s', (_, format) => {
  test.each(Object.entries(sets))('%s', async (field, set) => {
    const { bytes, name } = (await format.write?.(structuredClone(set))) ?? { bytes: new Uint8Array(), name: '' };
    const { set: back } = await allFormats.read(bytes, name);
    const lost = setLosses(set, format.profile ?? { kinds: [], holds: {}, rich: true, pictures: true }).some((l) => l.field === field);
    expect([field, lost, JSON.stringify(back[field as keyof QuizSet]) === JSON.stringify(set[field as keyof typeof set])]).toEqual([field, lost, !lost]);
  });

  test('a description with a look comes back, or is said to become plain', async () => {
    const set: QuizSet = { ...base, description: '<p>Nur für <strong>Bäcker</strong></p><ul><li>am Montag</li></ul>' };
    const { bytes, name } = (await format.write?.(structuredClone(set))) ?? { bytes: new Uint8Array(), name: '' };
    const { set: back } = await allFormats.read(bytes, name);
    const lost = format.profile && setLosses(set, format.profile).some((l) => l.field === 'description');
    if (!lost) expect(back.description).toBe(set.description);
    else expect(back.description).not.toBe(set.description);
  });
});
