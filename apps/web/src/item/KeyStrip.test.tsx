/** @jest-environment ./src/testing/environment.mjs */
/** The key strip by keyboard: one stop for Tab, arrows from key to key. */
import '../testing/browser.js';
import type { Item } from '@zakuska/core';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { KeyStrip } from './KeyStrip.js';

afterEach(cleanup);
const items = ['a', 'b', 'c', 'd'].map((id): Item => ({ id, kind: 'true-false', stem: id, points: 1, answer: true }));
const cells = items.map((i, n) => ({ id: i.id, sign: 'T', state: '', name: `Item ${n + 1}: key T` }));
function Strip() {
  const [now, setNow] = useState('b');
  return (
    <>
      <KeyStrip cells={cells as never} items={items} now={now} onPick={setNow} left="" />
      <button type="button">behind</button>
    </>
  );
}
const here = (): string | null | undefined => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent;

test('Tab comes to the item at hand and leaves at once; arrows, Home and End go along', async () => {
  const user = userEvent.setup();
  render(<Strip />);
  await user.tab();
  expect(here()).toBe('Item 2: key T');
  await user.keyboard('{ArrowRight}');
  await waitFor(() => expect(here()).toBe('Item 3: key T'));
  expect(screen.getByRole('button', { name: 'Item 3: key T' }).getAttribute('aria-current')).toBe('true');
  await user.keyboard('{End}');
  await waitFor(() => expect(here()).toBe('Item 4: key T'));
  // there is nothing behind the last
  await user.keyboard('{ArrowRight}');
  expect(here()).toBe('Item 4: key T');
  await user.keyboard('{Home}{ArrowRight}');
  await waitFor(() => expect(here()).toBe('Item 2: key T'));
  await user.tab();
  expect(here()).toBe('behind');
  await user.tab({ shift: true });
  expect(here()).toBe('Item 2: key T');
});
