/** @jest-environment ./src/testing/environment.mjs */
/** An item added by hand: ten kinds from a menu or by name, each whole as the schema wants it, each with a key that is still to be given. */
import '../testing/browser.js';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Item, item as itemSchema, keyProblem, kinds } from '@zakuska/core';
import { AddItem, addCommands } from './AddItem.js';

afterEach(cleanup);

test('the menu has every kind; what is chosen comes as an item with nothing in it', async () => {
  const added: Item[] = [];
  render(<AddItem onAdd={(i) => added.push(i)} shortcut="I" />);
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: /^Add an item/ }));
  expect(screen.getAllByRole('menuitem').map((m) => m.textContent)).toEqual(Object.values(kinds).map((k) => k.name));
  await user.click(screen.getByRole('menuitem', { name: 'Number' }));
  expect(added).toEqual([{ id: expect.any(String), kind: 'numeric', stem: '', points: 1, answers: expect.any(Array) }]);
  expect(screen.queryByRole('menu')).toBeNull();
});

test('what was typed is chosen by Enter before the menu has gone there; an arrow in between counts as always', async () => {
  const added: Item[] = [];
  render(<AddItem onAdd={(i) => added.push(i)} />);
  const button = screen.getByRole('button', { name: /^Add an item/ });
  const user = userEvent.setup();
  button.focus();
  await user.keyboard('{Enter}');
  const first = await screen.findByRole('menuitem', { name: 'Multiple choice' });
  await waitFor(() => expect(document.activeElement).toBe(first));
  // all in one go: nothing of the page runs in between
  for (const key of ['O', 'r', 'd', 'Enter']) fireEvent.keyDown(first, { key });
  expect(added.map((i) => i.kind)).toEqual(['ordering']);
  await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());

  button.focus();
  await user.keyboard('{Enter}');
  const again = await screen.findByRole('menuitem', { name: 'Multiple choice' });
  await waitFor(() => expect(document.activeElement).toBe(again));
  await user.keyboard('{ArrowDown}{Enter}');
  expect(added[1]?.kind).toBe(Object.keys(kinds)[1]);
});

test('each as a command: a whole item of its kind, anew each time, and none has a key by itself', () => {
  const added: Item[] = [];
  const commands = addCommands((i) => added.push(i));
  expect(commands.map((c) => c.name)).toContain('Add an item: matching');
  for (const c of [...commands, ...commands]) c.run('');
  expect(new Set(added.map((i) => i.id)).size).toBe(20);
  for (const i of added) {
    expect(itemSchema.safeParse(i).success).toBe(true);
    // the order of steps is the key, whatever they say
    expect([i.kind, keyProblem(i) !== null]).toEqual([i.kind, kinds[i.kind].graded && i.kind !== 'ordering']);
  }
});
