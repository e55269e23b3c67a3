/** @jest-environment ./src/testing/environment.mjs */
/** Help on each screen with the shortcuts that hold there, and the tour: left at any time, gone through in five steps. */
import '../testing/browser.js';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { useCommands } from '../ui/commands.js';
import { PaletteProvider } from '../ui/Palette.js';
import { helpAt, STAGES } from './stages.js';
import { useHelp } from './useHelp.js';

afterEach(cleanup);
const done: string[] = [];
function Screen() {
  const { shown, tour } = useHelp();
  useCommands([
    { name: 'Mark as checked', keys: ['C'], run: () => done.push('checked') },
    { name: 'Without keys', run: () => undefined },
  ]);
  return (
    <>
      <input aria-label="words" />
      <button type="button" onClick={tour}>
        tour
      </button>
      {shown}
    </>
  );
}
const open = (at: string) => {
  render(
    <MemoryRouter initialEntries={[at]}>
      <PaletteProvider>
        <Screen />
      </PaletteProvider>
    </MemoryRouter>,
  );
  return userEvent.setup();
};

test.each([
  ['/sets/x/draft', 'Draft'],
  ['/sets/x/check', 'Check'],
  ['/sets/x/results/marking', 'Results'],
  ['/bank/near', 'Bank'],
  ['/', 'Sets'],
  ['/somewhere/else', 'Sets'],
])('%s is helped with as %s', (path, name) => {
  expect(helpAt(path).name).toBe(name);
});

test('every screen says what it is for, what to do first, and an example', () => {
  for (const s of STAGES) {
    expect([s.name, s.what.length > 40, s.steps.length >= 3, s.example.before !== '' && s.example.after !== '']).toEqual([s.name, true, true, true]);
    for (const step of s.steps) expect(step).toMatch(/^\p{Lu}.*\.$/u);
  }
});

test('F1, also from a field: what the page is for, with the shortcuts that hold there', async () => {
  const user = open('/sets/x/check');
  await user.click(screen.getByLabelText('words'));
  await user.keyboard('{F1}');
  const dialog = screen.getByRole('dialog', { name: 'Help: Check' });
  expect(within(dialog).getByText('Mark as checked').previousElementSibling?.textContent).toBe('C');
  expect(within(dialog).queryByText('Without keys')).toBeNull();
  await user.keyboard('c');
  expect(done).toEqual([]);
  await user.click(within(dialog).getByRole('button', { name: 'The way in five steps' }));
  expect(screen.getByRole('dialog', { name: '1 of 5: Draft' })).not.toBeNull();
});

test('the tour: five steps there and back, and out of it at any time', async () => {
  const user = open('/');
  await user.click(screen.getByRole('button', { name: 'tour' }));
  const names = ['1 of 5: Draft', '2 of 5: Check', '3 of 5: Arrange', '4 of 5: Deliver', '5 of 5: Results'];
  for (const name of names) {
    expect(screen.getByRole('dialog', { name })).not.toBeNull();
    if (name !== names[4]) await user.click(screen.getByRole('button', { name: 'Next' }));
  }
  await user.click(screen.getByRole('button', { name: 'Back' }));
  expect(screen.getByRole('dialog', { name: '4 of 5: Deliver' })).not.toBeNull();
  await user.click(screen.getByRole('button', { name: 'Skip the rest' }));
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'tour' }));
  expect(screen.getByRole('dialog', { name: '1 of 5: Draft' })).not.toBeNull();
});
