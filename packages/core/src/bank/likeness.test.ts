/** Near-duplicates: what is one, and whether MinHash and LSH find what exact Jaccard finds. */
import { numbersFrom } from '../item/shuffle.js';
import { fingerprint, jaccard, nearGroups, nearlySame } from './likeness.js';
import { made } from './testing.js';
import type { Item } from '../item/model.js';

const asked = (stem: string, ...options: string[]): Item =>
  made(0, { stem, ...(options.length && { options: options.map((content, i) => ({ id: `o${i}`, content, credit: i === 0 ? 1 : 0 })) }) });
const near = (a: Item, b: Item): boolean => nearlySame(fingerprint(a), fingerprint(b));

test.each([
  ['signs and capitals', 'Which flour forms the strongest gluten network?', 'which flour forms the strongest gluten network', true],
  ['a word more', 'Which flour forms the strongest gluten network?', 'Which flour forms the strongest gluten network of all flours?', true],
  ['another thing asked', 'Which flour forms the strongest gluten network?', 'Which flour has no gluten at all in it?', false],
])('%s', (_, a, b, same) => {
  const options = ['strong wheat flour', 'rye flour', 'rice flour'];
  expect(near(asked(a, ...options), asked(b, ...options.slice().reverse()))).toBe(same);
});
test('items that share only their options ask different things', () => {
  const options = ['Paris', 'Madrid', 'Rome', 'Lisbon'];
  expect(near(asked('What is the capital of France?', ...options), asked('What is the capital of Spain?', ...options))).toBe(false);
});
test('a text without blanks between its words is compared by its signs', () => {
  expect(near(asked('发酵面团需要什么温度？', '三十度', '十度'), asked('发酵面团需要什么温度', '十度', '三十度'))).toBe(true);
  expect(near(asked('发酵面团需要什么温度？', '三十度', '十度'), asked('刀具应该如何保存？', '三十度', '十度'))).toBe(false);
});
test('likeness is what the definition says', () => {
  // Jaccard, Bulletin de la Société Vaudoise des Sciences Naturelles 37, 1901: what both have, by what either has
  expect(jaccard(new Set([1, 2, 3]), new Set([2, 3, 4]))).toBe(0.5);
  expect(jaccard(new Set(), new Set())).toBe(1);
});

test('groups: texts to read and empty items belong to none; a pool of one question is one group', () => {
  expect(nearGroups([made(1), made(2), made(3)])).toEqual([]);
  expect(nearGroups(Array.from({ length: 400 }, (_, i) => ({ ...made(1), id: `i${i}` })))).toEqual([Array.from({ length: 400 }, (_, i) => i)]);
  expect(
    nearGroups([made(1, { kind: 'information', stem: 'Read this.' } as Partial<Item>), made(1, { kind: 'information', stem: 'Read this.' } as Partial<Item>)]),
  ).toEqual([]);
});

test('against exact Jaccard over all pairs: at least 97 of 100 near pairs stand in a group, and no pair of a group’s head is far', () => {
  const random = numbersFrom(20261128);
  const items: Item[] = [];
  for (let n = 0; n < 300; n++) {
    const item = made(n);
    items.push(item);
    if (random() < 0.5) continue;
    // the same again, with words dropped, changed or put in another place
    const words = item.stem.split(' ');
    const changes = 1 + Math.floor(random() * 3);
    for (let c = 0; c < changes; c++) {
      const at = Math.floor(random() * words.length);
      if (random() < 0.5) words.splice(at, 1);
      else words[at] = `word${Math.floor(random() * 1000)}`;
    }
    items.push({ ...item, id: `${item.id} again`, stem: words.join(' ') });
  }
  const prints = items.map(fingerprint);
  const groups = nearGroups(items);
  const groupOf = new Map(groups.flatMap((g, k) => g.map((i) => [i, k] as const)));
  let [pairs, found] = [0, 0];
  items.forEach((_, i) => {
    for (let k = i + 1; k < items.length; k++) {
      if (!nearlySame(prints[i] as never, prints[k] as never)) continue;
      pairs++;
      if (groupOf.get(i) !== undefined && groupOf.get(i) === groupOf.get(k)) found++;
    }
  });
  expect(pairs).toBeGreaterThan(50);
  expect(found / pairs).toBeGreaterThanOrEqual(0.97);
  for (const [head, ...rest] of groups) for (const i of rest) expect(nearlySame(prints[head as number] as never, prints[i] as never)).toBe(true);
});
