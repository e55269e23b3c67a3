/** @jest-environment ./src/testing/environment.mjs */
/** An item added by hand: ten kinds from a menu or by name, each whole as the schema wants it, each with a key that is still to be given. */
import '../testing/browser.js';
import { cleanup, render, screen } from '@testing-library/react';
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
