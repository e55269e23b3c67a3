import fc from 'fast-check';
import { anyItem } from '../item/arbitrary.js';
import { learnerView, shuffled } from './learnerView.js';

test('what a learner gets names no key: it is the same whichever option is the key, and has no feedback', () => {
  fc.assert(
    fc.property(anyItem, (item) => {
      const view = learnerView(item, { title: 'T', items: [item] }, 'seed');
      const text = JSON.stringify(view);
      for (const word of ['credit', 'answer', 'feedback', 'modelAnswer', 'min']) expect(Object.keys(view)).not.toContain(word);
      if ('options' in item)
        expect(
          JSON.stringify(learnerView({ ...item, options: item.options.map((o) => ({ ...o, credit: 1 - o.credit })) }, { title: 'T', items: [] }, 'seed')),
        ).toBe(text);
      if (item.kind === 'ordering') expect(view.pieces).not.toEqual(item.sequence);
      if (item.kind === 'matching')
        expect([...(view.rights ?? [])].sort()).toEqual([...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])].sort());
    }),
  );
});

test('a shuffle depends on its seed alone and keeps everything', () => {
  const list = ['a', 'b', 'c', 'd', 'e'];
  expect(shuffled(list, 's')).toEqual(shuffled(list, 's'));
  expect([...shuffled(list, 's')].sort()).toEqual(list);
  expect(new Set(['1', '2', '3', '4', '5', '6'].map((s) => shuffled(list, s).join(''))).size).toBeGreaterThan(3);
});
