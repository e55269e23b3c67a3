/** Two groups compared: who is of which, what each reached, and what is not said of few. */
import type { QuizSet } from '../item/model.js';
import { compareGroups, onList } from './compare.js';

test('people are found on a list by number, mail or name; a name that two have is nobody’s', () => {
  const list = [
    { name: 'Ada  Brook', mail: '', number: '' },
    { name: 'Ben Hill', mail: 'ben@saltmarsh.example', number: '12' },
    { name: 'Ida', mail: '', number: '1' },
    { name: 'Ida', mail: '', number: '2' },
  ];
  const people = [
    { name: 'ada brook' },
    { name: 'B. H.', mail: 'BEN@saltmarsh.example' },
    { name: 'somebody', number: '12' },
    { name: 'Ida' },
    { name: 'Ida', number: '2' },
    { name: '' },
    { name: 'Cy', mail: '', number: '' },
  ];
  expect(onList(people, list)).toEqual([true, true, true, false, true, false, false]);
  expect(onList(people, [])).toEqual(people.map(() => false));
});

const set = {
  title: 'T',
  items: ['a', 'b'].map((id) => ({ id, kind: 'true-false', stem: id, points: 2, answer: true })),
} as unknown as QuizSet;
const sat = (a: boolean, b: boolean) => ({
  responses: {},
  marks: Object.fromEntries(
    Object.entries({ a, b }).map(([id, right]) => [
      id,
      { state: right ? ('right' as const) : ('wrong' as const), points: right ? 2 : 0, credit: Number(right), reason: '' },
    ]),
  ),
});
test('each group by itself, and nothing of who is of neither', () => {
  const found = compareGroups(set, [sat(true, true), sat(true, false), sat(false, false), sat(true, true)], [false, false, true, null]);
  expect(found.figures.map((f) => [f.n, f.mean])).toEqual([
    [2, 3],
    [1, 0],
  ]);
  expect(found.maximum).toBe(4);
  expect(found.items.map((i) => [i.item.id, ...i.reached, i.groups])).toEqual([
    ['a', 1, 0, null],
    ['b', 0.5, 0, null],
  ]);
});
test('groups that are large enough: an item that one of them misses whatever its points are is told', () => {
  const people = Array.from({ length: 120 }, (_, i) => (i % 2 ? sat(i % 3 > 0, true) : sat(true, i % 3 > 0)));
  const [a, b] = compareGroups(
    set,
    people,
    people.map((_, i) => i % 2 === 1),
  ).items;
  expect(a?.groups).toBeNull();
  expect(b?.groups).toBeNull();
  const mixed = people.map((p, i) => (i % 10 === 0 ? sat(false, true) : i % 10 === 5 ? sat(true, false) : p));
  const told = compareGroups(
    set,
    mixed,
    mixed.map((_, i) => i % 2 === 1),
  ).items;
  expect(told.map((t) => Math.sign(t.groups?.delta ?? 0))).toEqual([-1, 1]);
});
