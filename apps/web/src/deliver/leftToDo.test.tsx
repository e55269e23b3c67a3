/** @jest-environment ./src/testing/environment.mjs */
import '../testing/browser.js';
import type { Item } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { LeftToDo } from './LeftToDo.js';

afterEach(cleanup);

const truth = (id: string, more: object = {}): Item => ({ id, kind: 'true-false', stem: `Is ${id} so?`, points: 1, answer: true, ...more }) as Item;
const checked = { state: 'checked', by: 'M', at: '' } as const;
const shown = (items: Item[], done: string[]): HTMLElement | null => {
  render(
    <MemoryRouter>
      <LeftToDo set={{ title: 'T', items }} reviews={Object.fromEntries(done.map((id) => [id, checked]))} at="/sets/s/check" />
    </MemoryRouter>,
  );
  return screen.queryByRole('region', { name: 'Before it goes' });
};

test('what has no key, is not checked or shows a picture without words is named, each with its way', () => {
  const items = [truth('a'), truth('b', { answer: null, label: '7b' }), truth('c'), truth('d', { stem: '<img src="data:," alt=""/>' })];
  const region = shown(items, ['a', 'd']) as HTMLElement;
  const lines = within(region)
    .getAllByRole('listitem')
    .map((l) => l.textContent);
  expect(lines).toEqual(['1 item without a key: 7b', '1 item not checked yet: 3', '1 item with a picture that nobody described: 4']);
  expect(within(region).getByRole('link', { name: 'Item 7b in Check' }).getAttribute('href')).toBe('/sets/s/check?item=b');
});
test('of many the first twenty are named, and where all is done nothing stands there', () => {
  const many = Array.from({ length: 23 }, (_, i) => truth(`i${i}`));
  expect(shown(many, [])?.textContent).toMatch(/^23 items not checked yet: 1, 2,.* 20 and 3 more$/);
  cleanup();
  expect(
    shown(
      many,
      many.map((i) => i.id),
    ),
  ).toBeNull();
});
