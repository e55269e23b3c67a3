/** @jest-environment ./src/testing/environment.mjs */
/** A mark to look at: a letter says which is meant, several go on by Enter, what is written is typed. */
import '../../testing/browser.js';
import { jest } from '@jest/globals';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DoubtCard } from './DoubtCard.js';
import type { FieldView } from './reading.js';

afterEach(cleanup);
const field = (more: Partial<FieldView>): FieldView => ({
  item: 'i',
  label: '4',
  is: 'bubbles',
  several: false,
  signs: ['A', 'B', 'C'].map((value) => ({ value, sign: value })),
  given: [],
  doubt: 'several',
  ...more,
});
const shown = (more: Partial<FieldView>, back?: () => void): jest.Mock => {
  const onSay = jest.fn();
  const of = field(more);
  const entry = { id: 'e', file: 'a.jpg', person: '', view: { is: 'waiting' as const }, said: new Map() };
  render(<DoubtCard doubt={{ entry, field: of, at: 0 }} left={2} onSay={onSay} onBack={back} />);
  return onSay;
};

test('of two circles a letter says which; Enter takes neither, Delete says that nothing is marked', async () => {
  const say = shown({ given: ['A', 'B'] });
  expect(screen.queryByRole('button', { name: /^It is/ })).toBeNull();
  await userEvent.keyboard('{Enter}');
  expect(say).not.toHaveBeenCalled();
  await userEvent.keyboard('b');
  await userEvent.keyboard('{Delete}');
  expect(say.mock.calls).toEqual([[['B']], [[]]]);
});

test('where several count, letters mark and unmark in the order of the row, and Enter goes on', async () => {
  const say = shown({ several: true, given: ['C'], doubt: 'faint' });
  await userEvent.keyboard('ab');
  expect(screen.getByRole('button', { name: 'It is A, B, C' })).toBeTruthy();
  await userEvent.keyboard('b{Enter}');
  expect(say.mock.calls).toEqual([[['A', 'C']]]);
});

test('what is written is typed, wherever the focus was; nothing typed is nothing written', async () => {
  const back = jest.fn();
  const say = shown({ is: 'box', signs: [], doubt: 'written' }, back);
  (document.activeElement as HTMLElement).blur();
  await userEvent.keyboard(' pain {Enter}');
  expect(say.mock.calls).toEqual([[['pain']]]);
  await userEvent.clear(screen.getByRole('textbox', { name: 'What is written' }));
  await userEvent.click(screen.getByRole('button', { name: 'Nothing is written' }));
  expect(say.mock.calls[1]).toEqual([[]]);
  await userEvent.click(screen.getByRole('button', { name: 'Back to the one before' }));
  expect(back).toHaveBeenCalledTimes(1);
});
