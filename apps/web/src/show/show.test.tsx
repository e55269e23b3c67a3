/** @jest-environment ./src/testing/environment.mjs */
/** Slides in the room: what moves them, what is kept hidden, the time, and the window of the person who speaks. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { deckOf, readDraft } from '@zakuska/core';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { begun, minutes, moved, type Move, placeOfQuestion, type Showing, showKeys } from './showing.js';
import SlideShow from './SlideShow.js';

const { set } = readDraft(`# Bread

1. Bread rises.
Answer: true
Feedback: By gas.
Time limit: 30

2. What is **kneaded**?
a) dough *
b) water

3. What temperature does water boil at, in °C?
Answer: 100
`);
const deck = deckOf(set);
const { slides } = deck;

afterEach(cleanup);

describe('moves', () => {
  const after = (...moves: Move[]): Showing => moves.reduce<Showing>((s, m) => moved(s, m, slides), begun);
  const d = (digit: string): Move => ({ digit });
  test.each<[string, Move[], Partial<Showing>]>([
    ['on', ['next'], { at: 1 }],
    ['not before the first', ['back'], { at: 0 }],
    ['not behind the last', ['last', 'next'], { at: slides.length - 1 }],
    ['to the first', ['last', 'first'], { at: 0 }],
    ['hidden, and shown again', ['next', 'dark'], { at: 1, dark: true }],
    ['shown again by going on', ['dark', 'next'], { at: 1, dark: false }],
    ['to a question', [d('3'), 'go'], { at: placeOfQuestion(slides, '3'), typed: '' }],
    ['to none', ['next', d('9'), 'go'], { at: 1, typed: '' }],
    ['without a number, on', ['go'], { at: 1 }],
    ['digits are kept until then', [d('1'), d('2')], { at: 0, typed: '12' }],
    ['and forgotten by another key', [d('1'), 'next', 'go'], { at: 2, typed: '' }],
  ])('%s', (_name, moves, expected) => {
    expect(after(...moves)).toMatchObject(expected);
  });
  test('no key means two things; times are minutes and seconds', () => {
    const keys = showKeys.flatMap((k) => k.keys);
    expect(new Set(keys).size).toBe(keys.length);
    expect([minutes(5), minutes(65), minutes(600)]).toEqual(['0:05', '1:05', '10:00']);
  });
});

describe('the show', () => {
  const open = (onClose = jest.fn()) => {
    render(<SlideShow deck={deck} title="Bread" onClose={onClose} />);
    return { keys: userEvent.setup(), onClose };
  };
  const slide = (): HTMLElement => screen.getByRole('region', { name: /^Slide/ });

  test('a question, then its key, then what is said to it; what is to come is hidden and has its place', async () => {
    const { keys } = open();
    expect(slide().textContent).toContain('Bread');
    await keys.keyboard('{ArrowRight}');
    expect(slide().getAttribute('aria-label')).toBe(`Slide 2 of ${slides.length}`);
    expect(slide().textContent).toContain('Bread rises.');
    expect(within(slide()).queryByRole('img', { name: 'key' })).toBeNull();
    expect(screen.getByText('By gas.').closest('[aria-hidden=true]')).not.toBeNull();
    await keys.keyboard('{PageDown}');
    expect(within(slide()).getByRole('img', { name: 'key' })).toBeTruthy();
    expect(screen.getByText('By gas.').closest('[aria-hidden=true]')).not.toBeNull();
    await keys.keyboard(' ');
    expect(screen.getByText('By gas.').closest('[aria-hidden=true]')).toBeNull();
    await keys.keyboard('3{Enter}');
    expect(slide().textContent).toContain('does water boil');
    await keys.keyboard('b');
    expect(slide().textContent).not.toContain('does water boil');
  });

  test('by buttons, which Enter and Space press; at the ends they rest; it is closed by Escape', async () => {
    const { keys, onClose } = open();
    const on = screen.getByRole<HTMLButtonElement>('button', { name: 'On to the next step' });
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Back a step' }).disabled).toBe(true);
    on.focus();
    await keys.keyboard(' {Enter}');
    expect(slide().getAttribute('aria-label')).toBe(`Slide 3 of ${slides.length}`);
    await keys.keyboard('{End}');
    expect(on.disabled).toBe(true);
    await keys.keyboard('{Escape}');
    expect(onClose).toHaveBeenCalled();
  });

  test('the time of the question runs down, is over, and belongs to this question', async () => {
    jest.useFakeTimers();
    try {
      render(<SlideShow deck={deck} title="Bread" onClose={() => undefined} />);
      const keys = userEvent.setup({ advanceTimers: jest.advanceTimersByTime });
      await keys.keyboard('{ArrowRight}t');
      expect(screen.getByRole('timer').textContent).toContain('0:30');
      act(() => void jest.advanceTimersByTime(12_000));
      expect(screen.getByRole('timer').textContent).toContain('0:18');
      act(() => void jest.advanceTimersByTime(20_000));
      expect(screen.getByRole('timer').textContent).toContain('0:00Time is up');
      // its key is still this question
      await keys.keyboard('{ArrowRight}');
      expect(screen.getByRole('timer')).toBeTruthy();
      await keys.keyboard('2{Enter}');
      expect(screen.queryByRole('timer')).toBeNull();
      await keys.keyboard('t');
      expect(screen.getByRole('timer').textContent).toContain('1:00');
    } finally {
      jest.useRealTimers();
    }
  });

  test('the window of the person who speaks has the notes and the next slide, and hears the same keys', async () => {
    const { keys } = open();
    const frame = document.body.appendChild(document.createElement('iframe'));
    const other = frame.contentWindow as Window;
    const opened = jest.spyOn(window, 'open').mockReturnValue(other);
    try {
      await keys.keyboard('{ArrowRight}w');
      const there = within(other.document.body);
      expect(there.getByRole('region', { name: /^In the room: Slide 2/ }).textContent).toContain('Bread rises.');
      expect(there.getByRole('region', { name: /^Next: Slide 3/ })).toBeTruthy();
      expect(there.getByText(/^Key: /)).toBeTruthy();
      act(() => void other.document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'PageDown', bubbles: true })));
      expect(slide().getAttribute('aria-label')).toBe(`Slide 3 of ${slides.length}`);
      await keys.click(there.getByRole('button', { name: 'Hide the slide' }));
      expect(slide().textContent).not.toContain('Bread rises.');
      act(() => void other.dispatchEvent(new Event('pagehide')));
      expect(screen.getByRole('button', { name: /Notes/ }).getAttribute('aria-pressed')).toBe('false');
    } finally {
      opened.mockRestore();
      frame.remove();
    }
  });

  test('a browser that opens no second window: the show goes on', async () => {
    const { keys } = open();
    const opened = jest.spyOn(window, 'open').mockReturnValue(null);
    await keys.click(screen.getByRole('button', { name: /Notes/ }));
    expect(screen.getByRole('button', { name: /Notes/ }).getAttribute('aria-pressed')).toBe('false');
    opened.mockRestore();
  });
});
