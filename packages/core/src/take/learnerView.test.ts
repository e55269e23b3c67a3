import fc from 'fast-check';
import jstat from 'jstat';
import { anyItem } from '../item/arbitrary.js';
import type { Item, Option } from '../item/model.js';
import { mark, type Response } from '../mark/mark.js';
import { rightResponse } from '../mark/answers.js';
import { seeded, shuffled } from '../item/shuffle.js';
import { asGiven, asShown, learnerView } from './learnerView.js';
import { undone } from './undone.js';

const set = { title: 'T', items: [] };
const reversed = <T>(list: readonly T[]): T[] => list.slice().reverse();

/** The same item as another author might have written it, with other keys: what a learner gets may not differ. */
function otherKeys(item: Item): Item {
  const swapped = (options: readonly Option[]): Option[] => options.map((o) => ({ ...o, credit: 1 - o.credit }));
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const options = swapped(item.options);
      const loose = reversed(options.filter((o) => !o.pinned));
      return { ...item, options: item.shuffle ? options.map((o) => (o.pinned ? o : (loose.shift() as Option))) : options };
    }
    case 'ordering':
      return { ...item, sequence: reversed(item.sequence) };
    case 'matching': {
      const rights = reversed(item.pairs.map((p) => p.right));
      return { ...item, pairs: item.pairs.map((p, i) => ({ ...p, right: rights[i] ?? '' })), extraRights: reversed(item.extraRights) };
    }
    case 'cloze':
      return {
        ...item,
        gaps: item.gaps.map((g) => (g.kind === 'choice' ? { ...g, options: reversed(swapped(g.options)) } : g)),
        ...(item.wordBank && { wordBank: reversed(item.wordBank) }),
      };
    case 'true-false':
      return { ...item, answer: !item.answer };
    default:
      return item;
  }
}

const TELLING: ReadonlySet<string> = new Set(
  'credit answer answers scoring match feedback optionFeedback modelAnswer rubric hints pairs extraRights sequence min max tolerance partial'.split(' '),
);
function* namesIn(value: unknown): Generator<string> {
  if (value === null || typeof value !== 'object') return;
  for (const [name, inner] of Object.entries(value)) {
    if (!Array.isArray(value)) yield name;
    yield* namesIn(inner);
  }
}

test('what a learner gets is the same whatever the key, also when the author wrote the lists in another order', () => {
  fc.assert(
    fc.property(anyItem, fc.string(), (item, seed) => {
      const view = learnerView(item, set, seeded(seed));
      // at any depth: names of fields that tell a key, or what is said only afterwards
      expect([...namesIn(view)].filter((name) => TELLING.has(name))).toEqual([]);
      // the same words twice in a gap's list, or apart by nothing but capitals, may stand either way
      fc.pre(item.kind !== 'cloze' || item.gaps.every((g) => g.kind !== 'choice' || new Set(g.options.map((o) => o.content)).size === g.options.length));
      expect(JSON.stringify(learnerView(otherKeys(item), set, seeded(seed)))).toBe(JSON.stringify(view));
    }),
    { numRuns: 500 },
  );
});

test('an attacker who knows every habit of the author and the attempt’s id does no better than chance: 1,000 attempts', () => {
  const options = ['key', 'b', 'c', 'd'].map((id, i) => ({ id, content: `option ${id}`, credit: i ? 0 : 1 }));
  const items: Item[] = [
    { id: 'choice', kind: 'multiple-choice', stem: 'Q', points: 1, shuffle: true, options },
    { id: 'order', kind: 'ordering', stem: 'Q', points: 1, sequence: ['Mix', 'Rest', 'Fold', 'Shape'] },
    {
      id: 'pairs',
      kind: 'matching',
      stem: 'Q',
      points: 1,
      pairs: ['a', 'b', 'c', 'd'].map((x) => ({ left: `left ${x}`, right: `right ${x}` })),
      extraRights: [],
    },
  ];
  for (const item of items) {
    const places = [0, 0, 0, 0];
    const guesses = [0, 0, 0, 0];
    for (let n = 0; n < 1000; n++) {
      const view = learnerView(item, set, seeded(`a secret of the server ${n}`));
      const shown = view.options?.map((o) => o.content) ?? view.pieces ?? view.rights ?? [];
      const first = item.kind === 'ordering' ? 'Mix' : item.kind === 'matching' ? 'right a' : 'option key';
      places[shown.indexOf(first)]!++;
      guesses[undone(shown, `${n}/${item.id}`).indexOf(first)]!++;
    }
    // Pearson's chi-square against equal shares; 16.27 is the 99.9 % point for three degrees of freedom (jstat)
    const limit = (jstat as unknown as { chisquare: { inv(p: number, df: number): number } }).chisquare.inv(0.999, 3);
    for (const counts of [places, guesses]) expect(counts.reduce((sum, c) => sum + (c - 250) ** 2 / 250, 0)).toBeLessThan(limit);
  }
});

test('what a learner chose by the names of the page comes back as the item’s own, and is marked the same', () => {
  fc.assert(
    fc.property(anyItem, fc.string(), (item, seed) => {
      const given = rightResponse(item);
      if (!given) return;
      const shown = asShown(item, given, seeded(seed));
      const view = learnerView(item, set, seeded(seed));
      const names = new Set([...(view.options ?? []), ...(view.gaps ?? []).flatMap((g) => g.options ?? [])].map((o) => o.id));
      if ('options' in shown) for (const name of shown.options) expect(names).toContain(name);
      const back = asGiven(item, shown, seeded(seed));
      expect(mark(item, back)).toEqual(mark(item, given));
    }),
  );
  const strange: Response = { options: ['~9', 'constructor', '__proto__'] };
  const item = { id: 'i', kind: 'multiple-choice', stem: 'Q', points: 1, shuffle: true, options: [] } as Item;
  expect(asGiven(item, strange, seeded('s'))).toEqual(strange);
});

test('a shuffle depends on its chance alone and keeps everything', () => {
  const list = ['a', 'b', 'c', 'd', 'e'];
  expect(shuffled(list, seeded('s'))).toEqual(shuffled(list, seeded('s')));
  expect([...shuffled(list, seeded('s'))].sort()).toEqual(list);
  expect(new Set(['1', '2', '3', '4', '5', '6'].map((s) => shuffled(list, seeded(s)).join(''))).size).toBeGreaterThan(3);
});
