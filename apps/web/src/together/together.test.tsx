/** @jest-environment ./src/testing/environment.mjs */
/** Changed by two at once: told without standing in the way, both versions side by side, decided one by one. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { emptyDocument, type Item, type Operation, type SetDocument } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Conflict } from '../set/SetSession.js';

const item = (id: string, stem: string): Item => ({ id, kind: 'true-false', stem, points: 1, answer: true });
let doc: SetDocument;
let conflicts: Conflict[];
let draft: { text: string; theirs: { text: string } | null };
const settled: [unknown, boolean][] = [];
jest.unstable_mockModule('../set/context.js', () => ({
  useOpenSet: () => ({
    document: doc,
    conflicts,
    session: { settle: (c: Conflict, mine: boolean) => void settled.push([c.id, mine]) },
    draft: { subscribe: () => () => undefined, get: () => draft, settle: (mine: boolean) => void settled.push(['draft', mine]) },
  }),
}));
const { Conflicts } = await import('./Conflicts.js');
const mine = (operation: Operation, by = ['L. Brandt']): Conflict => ({ id: `c${conflicts.length}`, operation, by });

beforeEach(() => {
  doc = { ...emptyDocument('T'), set: { title: 'T', items: [item('a', 'Rye is a grain, says she.'), item('b', 'Salt is sweet.')] } };
  conflicts = [];
  draft = { text: 'my words', theirs: null };
  settled.length = 0;
});
afterEach(cleanup);

test('nothing is shown where nothing waits', () => {
  const { container } = render(<Conflicts />);
  expect(container.textContent).toBe('');
});

test('mine and theirs side by side, by name; Escape leaves it for later, a press decides', async () => {
  conflicts.push(mine({ type: 'change', id: 'a', set: { stem: 'Rye is a cereal, says he.' } }));
  const user = userEvent.setup();
  render(<Conflicts />);
  expect(screen.getByRole('status').textContent).toBe('L. Brandt changed the same as you: theirs is in the set, yours is kept here.');
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Compare both' }));
  const region = (name: string) => within(screen.getByRole('dialog')).getByRole('region', { name });
  expect(region('Yours').textContent).toContain('Rye is a cereal, says he.');
  expect(region('L. Brandt').textContent).toContain('Rye is a grain, says she.');
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(settled).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Compare both' }));
  await user.click(within(region('Yours')).getByRole('button', { name: 'Use mine' }));
  expect(settled).toEqual([['c0', true]]);
});

test('a change of what they removed does not fit any more, and what it was is said', async () => {
  conflicts.push(mine({ type: 'change', id: 'gone', set: { stem: 'Mine.' } }), mine({ type: 'remove', ids: ['b'] }, []));
  const user = userEvent.setup();
  render(<Conflicts />);
  await user.click(screen.getByRole('button', { name: 'Compare all 2' }));
  const dialog = screen.getByRole('dialog');
  expect(dialog.textContent).toContain('It does not fit any more');
  expect(dialog.textContent).toContain('Removed meanwhile.');
  expect(within(dialog).getAllByRole('button', { name: 'Use mine' })).toHaveLength(1);
  // whose change it was is not known: what the set holds is shown
  expect(within(dialog).getByRole('region', { name: 'As it is now' }).textContent).toContain('Salt is sweet.');
  await user.click(within(dialog).getByRole('button', { name: 'Let mine go' }));
  expect(settled).toEqual([['c0', false]]);
});

test('two drafts are compared in the same place', async () => {
  draft.theirs = { text: 'their words\nand more' };
  const user = userEvent.setup();
  render(<Conflicts />);
  expect(screen.getByRole('status').textContent).toContain('Somebody else changed this draft.');
  await user.click(screen.getByRole('button', { name: 'Compare both' }));
  expect(screen.getByRole('region', { name: 'Their draft' }).textContent).toContain('2 lines');
  await user.click(screen.getByRole('button', { name: 'Keep mine' }));
  expect(settled).toEqual([['draft', true]]);
});
