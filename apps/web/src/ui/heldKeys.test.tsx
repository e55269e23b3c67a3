/** @jest-environment ./src/testing/environment.mjs */
import '../testing/browser.js';
import { afterEach, expect, jest, test } from '@jest/globals';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { holdKeys } from './heldKeys.js';

afterEach(() => {
  // whatever still waits is ended by a key that is no letter
  fireEvent.keyDown(document.body, { key: 'Escape' });
  cleanup();
  jest.useRealTimers();
});

/** What was typed into the field that has the focus; jsdom has no editing of its own. */
function typed(): string[] {
  const out: string[] = [];
  document.execCommand = (what: string, _: boolean | undefined, text: string | undefined) => {
    out.push(`${what} ${text} into ${document.activeElement?.getAttribute('aria-label')}`);
    return true;
  };
  return out;
}
function shortcuts(): string[] {
  const out: string[] = [];
  window.addEventListener('keydown', (e: KeyboardEvent) => out.push(e.key));
  return out;
}
const press = (...keys: string[]): void => keys.forEach((key) => void fireEvent.keyDown(document.activeElement ?? document.body, { key }));

test('letters wait for the field, are typed there once, and are no shortcuts', async () => {
  const out = typed();
  const heard = shortcuts();
  holdKeys();
  press('S', 'x', 'Backspace', 'a');
  expect([out, heard]).toEqual([[], []]);
  render(<input aria-label="Question" />);
  screen.getByLabelText('Question').focus();
  press('l');
  expect(out).toEqual(['insertText Sa into Question']);
  expect(heard).toEqual(['l']);
  await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
  press('t');
  expect(out).toHaveLength(1);
});

test('without a further key the letters come as soon as the field is there', async () => {
  const out = typed();
  holdKeys();
  press('a', 'b');
  render(<textarea aria-label="Text" />);
  screen.getByLabelText('Text').focus();
  await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
  expect(out).toEqual(['insertText ab into Text']);
});

test('Escape, or a chord, ends it; a field that never comes is not waited for', () => {
  const out = typed();
  const heard = shortcuts();
  holdKeys();
  press('a', 'Escape', 'b');
  expect(heard).toEqual(['Escape', 'b']);
  jest.useFakeTimers();
  holdKeys();
  press('c');
  jest.advanceTimersByTime(16_000);
  press('d');
  expect(heard).toEqual(['Escape', 'b', 'd']);
  expect(out).toEqual([]);
});
