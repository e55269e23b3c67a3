/** @jest-environment ./src/testing/environment.mjs */
/**
import '../testing/browser.js';
 * @jest-environment jsdom
 */
/** What is said of a second opinion: agreement in one sentence, disagreement with answer and reason, silence by name. */
import type { Item, Opinion } from '@zakuska/core';
import { cleanup, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { Opinions } from './Opinions.js';

const item = (id: string, stem: string): Item => ({ id, kind: 'true-false', stem, points: 1, answer: true });
const shown = (opinions: Opinion[]): void =>
  void render(
    <MemoryRouter>
      <Opinions opinions={opinions} set="s" />
    </MemoryRouter>,
  );

test('all agree', () => {
  shown([{ item: item('a', 'Salt is a mineral.'), said: 'true', agrees: true }]);
  expect(screen.getByRole('status').textContent).toBe('1 answer, and all agree with the keys.');
  expect(screen.queryByRole('article')).toBeNull();
});

test('one disagrees with its reason and leads to the item, one is silent', () => {
  shown([
    { item: item('a', 'Salt is a mineral.'), said: 'true', agrees: true },
    { item: item('b & c', 'Rye is a fish.'), said: 'false', reason: 'It is a grain.', agrees: false },
    { item: item('d', 'Dough sleeps.'), said: 'who knows', agrees: null },
  ]);
  expect(screen.getByRole('status').textContent).toBe('1 of 3 answers agree with the keys, 1 does not. 1 item without an answer that could be compared.');
  const article = screen.getByRole('article');
  expect(article.textContent).toContain('answered false');
  expect(article.textContent).toContain('It is a grain.');
  expect(screen.getByRole('link', { name: 'Go to the item' }).getAttribute('href')).toBe('/sets/s/check?item=b%20%26%20c');
  expect(screen.getByText(/Dough sleeps/).textContent).toContain('“who knows”');
});

afterEach(cleanup);
