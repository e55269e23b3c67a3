/** @jest-environment ./src/testing/environment.mjs */
/** A value that is typed is handed on when the field is left, or goes away in the very moment of the last letter; nothing is handed on twice. */
import '../testing/browser.js';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useTyped } from './Field.js';

afterEach(cleanup);
const told: string[] = [];
beforeEach(() => told.splice(0));
const Typed = ({ value }: { value: string }) => <input aria-label="Tolerance" {...useTyped(value, (v) => told.push(v))} />;
const field = (): HTMLInputElement => screen.getByLabelText('Tolerance');
const type = (value: string): void => void fireEvent.change(field(), { target: { value } });

test('left, it is handed on once; what comes from outside shows unless something is being typed', () => {
  const { rerender } = render(<Typed value="0" />);
  type('2');
  rerender(<Typed value="7" />);
  expect(field().value).toBe('2');
  fireEvent.blur(field());
  expect(told).toEqual(['2']);
  rerender(<Typed value="2" />);
  fireEvent.blur(field());
  expect([field().value, told]).toEqual(['2', ['2']]);
});

test('the field goes before what was typed is drawn: it is not lost', () => {
  const { unmount } = render(<Typed value="0" />);
  act(() => {
    type('2');
    unmount();
  });
  expect(told).toEqual(['2']);
});

test('the field is left before what was typed is drawn', () => {
  render(<Typed value="0" />);
  act(() => {
    type('2');
    fireEvent.blur(field());
  });
  expect(told).toEqual(['2']);
});
