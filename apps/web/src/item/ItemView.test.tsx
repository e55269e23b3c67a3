/** @jest-environment ./src/testing/environment.mjs */
/** An item as a screen reader meets it: options and pairs are lists, and the key is said, not only drawn. */
import '../testing/browser.js';
import type { Item } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import { ItemView } from './ItemView.js';

afterEach(cleanup);
const show = (item: Partial<Item> & { kind: Item['kind'] }): void => void render(<ItemView item={{ id: 'i', stem: 'S', points: 1, ...item } as Item} />);
const said = (name: string): (string | null)[] =>
  within(screen.getByRole('list', { name }))
    .getAllByRole('listitem')
    .map((l) => l.textContent);

test('the option that is the key says so', () => {
  show({
    kind: 'multiple-choice',
    options: [
      { id: 'a', content: 'rye', credit: 0 },
      { id: 'b', content: 'wheat', credit: 1, feedback: 'Of course.' },
    ],
  });
  expect(said('Options')).toEqual(['Arye', 'B, the key:wheatOf course.']);
});

test('pairs say what goes with what, and what goes with nothing', () => {
  show({ kind: 'matching', pairs: [{ left: 'whisk', right: 'to beat' }], extraRights: ['to peel'] });
  expect(said('Pairs')).toEqual(['whisk→goes withto beat', '–goes with nothing:to peel']);
});

test.each([
  [{ kind: 'true-false', answer: false }, 'F, the key:false'],
  [{ kind: 'numeric', answers: [{ min: 4, max: 5, credit: 1 }], unit: 'g' }, '=, the key:4 to 5 g'],
  [
    {
      kind: 'short-answer',
      answers: [
        { text: 'levain', credit: 1 },
        { text: 'starter', credit: 0.5 },
      ],
    },
    'ab, the key:levain / starter (50 %)',
  ],
] as const)('%o', (item, words) => {
  show(item as never);
  expect(document.body.textContent).toContain(words);
});
