/** Large tables are looked at before all of them is read. */
import { type Mapping, propose, type TableSheet } from '@zakuska/core';
import { previewSeen, previewWhole, readSheet, SEEN_ROWS } from './preview.js';

const sheet = (count: number): TableSheet => ({
  name: 'Shelf',
  rows: [
    ['Question', 'A', 'B', 'C', 'Key'],
    ...Array.from({ length: count }, (_, i) => [`Which flour is number ${i}?`, `rye ${i}`, `oat ${i}`, `corn ${i}`, i === 3000 ? 'Z' : 'ABC'.charAt(i % 3)]),
  ],
});
const mappingOf = (s: TableSheet): Mapping => propose(s)?.mapping as Mapping;

test('of a large table what is seen comes first, and the whole is what reading it at once gives', async () => {
  const large = sheet(4000);
  const mapping = mappingOf(large);
  const seen = previewSeen(large, mapping, null);
  expect(seen).toMatchObject({ whole: false, count: SEEN_ROWS - 1, problemCount: 0 });
  const whole = await previewWhole(large, mapping, null, () => true);
  const all = readSheet(large, mapping, null);
  expect(whole).toMatchObject({ whole: true, count: 4000, problemCount: all.diagnostics.filter((d) => d.severity !== 'info').length });
  expect(whole?.problemCount).toBeGreaterThan(0);
  const stems = (p: typeof seen | null): string[] => (p?.first ?? []).map((i) => i.stem);
  expect(stems(whole)).toEqual(stems(seen));
});
test('a small one is whole at once, and only chosen rows are read', () => {
  const small = sheet(20);
  expect(previewSeen(small, mappingOf(small), null)).toMatchObject({ whole: true, count: 20 });
  expect(previewSeen(small, mappingOf(small), [1, 2])).toMatchObject({ whole: true, count: 2, reasons: [['not chosen', 18]] });
});
test('what is no longer asked for is given up', async () => {
  const large = sheet(30_000);
  let asked = 0;
  expect(await previewWhole(large, mappingOf(large), null, () => ++asked < 2)).toBeNull();
  expect(asked).toBe(2);
});
