/** @jest-environment ./src/testing/environment.mjs */
/** Each command is said once and reached by the keyboard, the palette and the list of keys; typing keeps its keys. */
import { jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { chordOf, type Command, shownKeys, useCommands } from './commands.js';
import { PaletteProvider } from './Palette.js';

// what the command list of the palette needs of a browser
globalThis.ResizeObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
} as never;
Element.prototype.scrollIntoView ??= () => undefined;
afterEach(cleanup);

const event = (key: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent =>
  ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, isComposing: false, ...more }) as KeyboardEvent;

// names of keys: W3C "UI Events KeyboardEvent key Values"
test.each([
  ['j', {}, 'J'],
  ['J', { shiftKey: true }, 'Shift J'],
  ['?', { shiftKey: true }, '?'],
  ['/', {}, '/'],
  ['7', {}, '7'],
  ['ArrowDown', {}, 'ArrowDown'],
  ['F8', { shiftKey: true }, 'Shift F8'],
  ['Enter', { metaKey: true }, 'Ctrl Enter'],
  ['z', { ctrlKey: true, shiftKey: true }, 'Ctrl Shift Z'],
  ['ü', {}, 'Ü'],
  ['Control', { ctrlKey: true }, ''],
  ['Dead', {}, ''],
  ['a', { isComposing: true }, ''],
] as const)('%s with %p is %s', (key, more, chord) => {
  expect(chordOf(event(key, more))).toBe(chord);
});

test.each<[Partial<Command>, string]>([
  [{ keys: ['J', 'ArrowDown'] }, 'J or ↓'],
  [{ keys: ['Ctrl Shift Z', 'Ctrl Y'], shown: 'Ctrl Shift Z' }, 'Ctrl Shift Z'],
  [{ keys: ['1', '2', '3'], shown: '1 to 3' }, '1 to 3'],
  [{}, ''],
])('%p is shown as %s', (command, text) => {
  expect(shownKeys({ name: 'x', run: () => undefined, ...command })).toBe(text);
});

function Screen({ commands }: { commands: readonly Command[] }) {
  useCommands(commands);
  return (
    <>
      <input aria-label="Field" />
      <input type="checkbox" aria-label="Box" />
      <div contentEditable suppressContentEditableWarning aria-label="Page" role="textbox" tabIndex={0} />
      <div role="dialog">
        <button type="button">In a dialog</button>
      </div>
      <div data-own-keys="choices">
        <button type="button">A choice</button>
      </div>
    </>
  );
}
function shown(): { ran: string[]; rerender: (name: string) => void } {
  const ran: string[] = [];
  const commands = (name: string): Command[] => [
    { name, keys: ['J', 'ArrowDown'], run: (k) => void ran.push(`${name} by ${k}`) },
    { name: 'Set the key', keys: ['1', '2'], keysOnly: true, run: (k) => void ran.push(`key ${k}`) },
    { name: 'Take back', keys: ['Ctrl Enter'], whileTyping: true, run: () => void ran.push('taken') },
    { name: 'Close', keys: ['Escape'], keysOnly: true, whileTyping: true, run: () => void ran.push('closed') },
  ];
  const draw = (name: string) => (
    <PaletteProvider>
      <Screen commands={commands(name)} />
    </PaletteProvider>
  );
  const { rerender } = render(draw('Next'));
  return { ran, rerender: (name) => rerender(draw(name)) };
}

test('keys run commands, with the newest of them after a drawing', async () => {
  const { ran, rerender } = shown();
  await userEvent.keyboard('j{ArrowDown}2x');
  rerender('Onward');
  await userEvent.keyboard('j');
  expect(ran).toEqual(['Next by J', 'Next by ArrowDown', 'key 2', 'Onward by J']);
});

test('who types keeps the keys, but for what holds while typing', async () => {
  const { ran } = shown();
  await userEvent.click(screen.getByLabelText('Field'));
  await userEvent.keyboard('j2');
  expect((screen.getByLabelText('Field') as HTMLInputElement).value).toBe('j2');
  expect(ran).toEqual([]);
  await userEvent.keyboard('{Control>}{Enter}{/Control}{Escape}');
  expect(ran).toEqual(['taken', 'closed']);
});

test('Escape ends what is typed in and what it stands in; a box to tick types nothing', async () => {
  const { ran } = shown();
  const field = screen.getByLabelText('Field');
  field.addEventListener('keydown', (e) => {
    if (e.key === 'Escape') ran.push('field ended');
    e.preventDefault(); // as text editors do
  });
  field.focus();
  await userEvent.keyboard('{Escape}');
  expect(ran).toEqual(['closed', 'field ended']);
  screen.getByLabelText('Box').focus();
  await userEvent.keyboard('j');
  expect(ran).toEqual(['closed', 'field ended', 'Next by J']);
});

test('dialogs and lists of choices have keys of their own', async () => {
  const { ran } = shown();
  screen.getByText('In a dialog').focus();
  await userEvent.keyboard('j2{Escape}');
  expect(ran).toEqual([]);
  screen.getByText('A choice').focus();
  await userEvent.keyboard('2{ArrowDown}j');
  expect(ran).toEqual(['Next by J']);
});

test('the palette finds commands by their names, without those that mean something only with their keys', async () => {
  const { ran } = shown();
  await userEvent.keyboard('{Control>}k{/Control}');
  const names = (await screen.findAllByRole('option')).map((o) => o.textContent);
  expect(names).toEqual(['NextJ or ↓', 'Take backCtrl Enter']);
  await userEvent.keyboard('take');
  act(() => void fireEvent.click(screen.getByRole('option', { name: /Take back/ })));
  expect(ran).toEqual(['taken']);
});

test('a screen that is left takes its commands along', async () => {
  const run = jest.fn();
  const { unmount } = render(
    <PaletteProvider>
      <Screen commands={[{ name: 'Next', keys: ['J'], run }]} />
    </PaletteProvider>,
  );
  unmount();
  await userEvent.keyboard('j');
  expect(run).not.toHaveBeenCalled();
});
