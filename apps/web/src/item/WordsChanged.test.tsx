/** @jest-environment ./src/testing/environment.mjs */
/**
import '../testing/browser.js';
 * @jest-environment jsdom
 */
/** Two wordings in one text: changes in a row read as one; where hardly a word stays, both stand whole. */
import type { Item } from '@zakuska/core';
import { cleanup, render } from '@testing-library/react';
import { saidBy, WordsChanged } from './WordsChanged.js';

const item = (stem: string, ...options: string[]): Item => ({
  id: 'i',
  kind: 'multiple-choice',
  stem,
  points: 1,
  options: options.map((content, n) => ({ id: String(n), content, credit: n === 1 ? 1 : 0 })),
});
const texts = (tag: string): string[] => [...document.querySelectorAll(tag)].map((e) => e.textContent ?? '');

test('words that change side by side read as one change, and what stays stands once', () => {
  render(
    <WordsChanged
      before={item('What feeds the yeast in a starter?', 'salt', 'sugars')}
      after={item('What food has the yeast in a starter?', 'salt', 'sugars')}
    />,
  );
  expect(texts('del').map((t) => t.trim())).toEqual(['feeds']);
  expect(texts('ins').join(' ')).toContain('food has');
  expect(document.body.textContent?.match(/the yeast in a starter/g)).toHaveLength(1);
  // the key stands on both
  expect(document.body.textContent).toContain('✓ B sugars');
});

test('in another language both are shown whole', () => {
  const [before, after] = [item('What feeds the yeast?', 'salt', 'sugars'), item('¿Qué alimenta la levadura?', 'la sal', 'los azúcares')];
  render(<WordsChanged before={before} after={after} />);
  expect(texts('del')).toEqual([saidBy(before)]);
  expect(texts('ins')).toEqual([saidBy(after)]);
});

afterEach(cleanup);
