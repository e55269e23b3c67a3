/** @jest-environment ./src/testing/environment.mjs */
/** A learner's page while it is answered: what is kept and when, the end by the clock, practice, the way back, reading aloud. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import type { LearnerItem, PracticeView } from '@zakuska/core';
import { readAloud, spoken } from './aloud.js';
import { Answering } from './Answering.js';
import { heardTime, leftOf, serverNow } from './clock.js';
import type { KeptAttempt } from './kept.js';
import { type AttemptState, type Clock, errorWords, type Given, type Keeper, Refused, type Step } from './server.js';
import { en } from './words/en.js';
import { sayIn } from './words/words.js';

const say = sayIn({ language: 'en', words: en });
const items: LearnerItem[] = [
  {
    id: 'a',
    kind: 'multiple-choice',
    stem: 'Which is a grain?',
    points: 1,
    options: [
      { id: '~1', content: 'rye' },
      { id: '~2', content: 'cod' },
    ],
  },
  { id: 'b', kind: 'short-answer', stem: 'What makes dough rise?', points: 1 },
];
const NOW = Date.parse('2026-11-30T08:00:00Z');
const base: AttemptState = {
  id: 'x',
  title: 'Week two',
  name: 'Ada',
  named: true,
  now: new Date(NOW).toISOString(),
  phase: 'open',
  pages: 'one-by-one',
  back: true,
  place: 0,
  items,
  responses: {},
};
const at = (minutes: number): string => new Date(NOW + minutes * 60_000).toISOString();

let kept: Given[] = [];
let handedIn: Given[] = [];
let steps: [string, Step][] = [];
let due: string | undefined;
let paused = false;
let lineLost = false;
let practice: PracticeView = { tries: 1, hints: ['A hint.'], moreHints: false, done: false, state: 'wrong' };
const keeper: Keeper = {
  note: 'keptHere',
  keptNote: 'kept',
  keep: async (_, __, given): Promise<Clock> => {
    kept.push(given);
    if (lineLost) throw new Refused(0, 'no-connection', '');
    return { now: at(0), phase: 'open', ...(due && { due }) };
  },
  here: async () => ({ now: new Date().toISOString(), phase: 'open', ...(due && { due }), ...(paused && { paused }) }),
  submit: async (_, __, given) => {
    handedIn.push(given);
    return { points: 1, maximum: 2 };
  },
  step: async (_, __, item, step) => {
    steps.push([item, step]);
    return practice;
  },
};
let remembered: KeptAttempt[] = [];
const open = (more: Partial<AttemptState> = {}, own: Partial<KeptAttempt> = {}): void => {
  render(
    <Answering
      attempt={{ ...base, ...more }}
      kept={{ id: 'x', token: 't', responses: {}, place: 0, ...own }}
      keeper={keeper}
      remember={(k) => remembered.push(k)}
      speed={1}
    />,
  );
};
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }));
const wait = async (ms: number): Promise<void> => act(async () => void (await jest.advanceTimersByTimeAsync(ms)));

beforeEach(() => {
  [kept, handedIn, steps, remembered, due, paused, lineLost] = [[], [], [], [], undefined, false, false];
  jest.useFakeTimers({ now: NOW });
  window.scrollTo = () => undefined;
  heardTime(at(0));
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

test('an answer is kept on the device at once, and at the server when typing rests, with the time it was given', async () => {
  open();
  fireEvent.click(screen.getByLabelText('cod'));
  fireEvent.click(screen.getByLabelText('rye'));
  expect(remembered.at(-1)).toMatchObject({ responses: { a: { options: ['~1'] } }, answeredAt: at(0) });
  expect(kept).toEqual([]);
  await wait(1500);
  expect(kept).toEqual([{ responses: { a: { options: ['~1'] } }, place: 0, answeredAt: at(0), times: { a: 1 } }]);
});

test('what could not be sent is sent again by itself, also after loading again; what the server has is not', async () => {
  // the pause, then the moment in which typing could go on
  const again = async (): Promise<void> => {
    await wait(8000);
    await wait(1500);
  };
  lineLost = true;
  open();
  fireEvent.click(screen.getByLabelText('rye'));
  await wait(1500);
  expect(screen.getByText(say('notSent'))).toBeTruthy();
  await again();
  expect(kept).toHaveLength(2);
  lineLost = false;
  await again();
  expect(kept).toHaveLength(3);
  expect(screen.getByText(say('kept'))).toBeTruthy();
  await wait(20_000);
  expect(kept).toHaveLength(3);
  cleanup();
  open({}, { responses: { a: { options: ['~1'] } } });
  await wait(1500);
  expect(kept).toHaveLength(4);
  cleanup();
  open({ responses: { a: { options: ['~1'] } } }, { responses: { a: { options: ['~1'] } } });
  await wait(20_000);
  expect(kept).toHaveLength(4);
});

test('how long each item is looked at: only while the page is in sight, and on from before it was loaded', async () => {
  open({ times: { a: 5 } });
  await wait(3000);
  const hide = (hidden: boolean): void => {
    Object.defineProperty(document, 'hidden', { configurable: true, value: hidden });
    act(() => void document.dispatchEvent(new Event('visibilitychange')));
  };
  hide(true);
  await wait(60_000);
  hide(false);
  await wait(1000);
  press('Next');
  await wait(7000);
  press('Back');
  await wait(1500);
  press('Next');
  press('Next');
  await wait(10_000);
  fireEvent.click(screen.getByRole('button', { name: 'Hand in' }));
  await wait(0);
  // the page before handing in is no item
  expect(handedIn[0]?.times).toEqual({ a: 5 + 3 + 1 + 2, b: 7 });
});

test('on a page with all items, the time until an answer is the time of its item', async () => {
  open({ pages: 'all' });
  await wait(4000);
  fireEvent.click(screen.getByRole('radio', { name: /rye/ }));
  await wait(6000);
  fireEvent.change(screen.getByRole('textbox'), { target: { value: 'yeast' } });
  await wait(2000);
  expect(kept.at(-1)?.times).toEqual({ a: 4, b: 6 });
});

test('paused: no question and no time is seen; it goes on with what was answered, within seconds and not before', async () => {
  due = at(10);
  open({ due });
  fireEvent.click(screen.getByLabelText('rye'));
  [due, paused] = [undefined, true];
  await wait(20_000);
  expect(screen.getByRole('alert').textContent).toBe(en.paused);
  expect(screen.queryByText('Which is a grain?')).toBeNull();
  expect(screen.queryByText(/left$/)).toBeNull();
  // long after the time that it would have ended at
  await wait(20 * 60_000);
  expect(handedIn).toEqual([]);
  [due, paused] = [at(32), false];
  await wait(4000);
  expect(screen.getByLabelText<HTMLInputElement>('rye').checked).toBe(true);
  expect(screen.getAllByText(/^11:\d\d left$/)).not.toHaveLength(0);
});

test('what must be answered is marked, told at the end with the way to it, and held where the teacher says so', () => {
  const must = items.map((i) => (i.id === 'a' ? { ...i, required: true } : i));
  open({ items: must }, { place: 2 });
  expect(screen.getByRole('alert').textContent?.trim()).toBe('Required questions without an answer: 1.');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' }).disabled).toBe(false);
  cleanup();
  open({ items: must, holdsRequired: true }, { place: 2 });
  expect(screen.getByRole('alert').textContent).toBe('Required questions without an answer: 1. Answer them before you hand in.');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' }).disabled).toBe(true);
  press('Question 1 (required)');
  expect(screen.getByText('Question 1 of 2, 1 point, required')).not.toBeNull();
  fireEvent.click(screen.getByLabelText('cod'));
  press('Next');
  press('Next');
  expect(screen.queryByRole('alert')).toBeNull();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' }).disabled).toBe(false);
});

test('before handing in all questions are seen: which have an answer, and which the learner wants to come back to, also after loading again', () => {
  let now: KeptAttempt | undefined;
  const show = (before?: KeptAttempt): void => {
    render(
      <Answering attempt={base} kept={before ?? { id: 'x', token: 't', responses: {}, place: 0 }} keeper={keeper} remember={(k) => void (now = k)} speed={1} />,
    );
  };
  show();
  // what there is to choose from is a group with the question as its name
  fireEvent.click(within(screen.getByRole('group', { name: 'Which is a grain?' })).getByRole('radio', { name: 'rye' }));
  const mark = (): HTMLElement => screen.getByRole('button', { name: 'Come back to this later' });
  fireEvent.click(mark());
  expect(mark().getAttribute('aria-pressed')).toBe('true');
  cleanup();
  show(now);
  expect(mark().getAttribute('aria-pressed')).toBe('true');
  fireEvent.click(screen.getByRole('button', { name: 'Next' }));
  expect(mark().getAttribute('aria-pressed')).toBe('false');
  fireEvent.click(screen.getByRole('button', { name: 'Next' }));
  expect(screen.getAllByRole('listitem').map((l) => l.textContent)).toEqual(['Question 1answered? to come back to', 'Question 2no answer']);
  fireEvent.click(screen.getByRole('button', { name: 'Question 1' }));
  expect(screen.getByText('Which is a grain?')).toBeTruthy();
});

test('a phone whose clock is wrong has as long as the others', async () => {
  heardTime(at(60));
  open({ due: at(70) });
  expect(screen.getAllByText('10:00 left')[0]).not.toBeUndefined();
  fireEvent.click(screen.getByLabelText('rye'));
  await wait(1500);
  expect(kept[0]?.answeredAt).toBe(at(60));
  expect(Math.round((serverNow() - NOW) / 60_000)).toBe(60);
});

test('when the time is over it is handed in by itself, once, with all that was answered', async () => {
  due = at(1);
  open({ due });
  fireEvent.click(screen.getByLabelText('rye'));
  await wait(61_000);
  expect(handedIn).toHaveLength(1);
  expect(handedIn[0]?.responses).toEqual({ a: { options: ['~1'] } });
  expect(screen.getByRole('heading', { name: 'Handed in' })).not.toBeNull();
  await wait(60_000);
  expect(handedIn).toHaveLength(1);
});

test('a time for each item: when it is over the page goes on, and the next one has its own', async () => {
  open({ back: false, itemTimes: { a: 30, b: 60 }, itemDue: new Date(NOW + 20_000).toISOString() });
  expect(screen.getAllByText(/0:20 left for this question/)).not.toHaveLength(0);
  fireEvent.click(screen.getByLabelText('rye'));
  await wait(21_000);
  expect(screen.getByText('What makes dough rise?')).toBeTruthy();
  expect(screen.getAllByText(/(0:59|1:00) left for this question/)).not.toHaveLength(0);
  await wait(63_000);
  expect(screen.getByRole('button', { name: 'Hand in' })).toBeTruthy();
  expect(screen.queryByText(/left for this question/)).toBeNull();
  expect(handedIn).toEqual([]);
  await wait(2000);
  expect(kept.at(-1)).toMatchObject({ responses: { a: { options: ['~1'] } }, place: 2 });
});

test('more time that the teacher gives is heard of without any answer', async () => {
  due = at(15);
  open({ due: at(10) });
  await wait(20_500);
  expect(screen.getByRole('timer').textContent).toBe('15:00 left');
});

test('where nobody may go back there is no way back, also from the end and after loading again', () => {
  open({ back: false, place: 1 });
  expect(screen.getByText('What makes dough rise?')).not.toBeNull();
  expect(screen.queryByRole('button', { name: 'Back' })).toBeNull();
  press('Next');
  expect(screen.getByText('2 questions have no answer yet.')).not.toBeNull();
  expect(screen.queryByRole('button', { name: 'Question 1' })).toBeNull();
});

test('all on one page: every question stands there, and what is missing is said before handing in', async () => {
  open({ pages: 'all' });
  expect(screen.getByText('Question 1 of 2, 1 point')).not.toBeNull();
  fireEvent.change(screen.getByLabelText('Your answer'), { target: { value: 'yeast' } });
  press('Next');
  expect(screen.getByText('1 question has no answer yet.')).not.toBeNull();
  press('Question 1');
  expect(screen.getByText('Question 2 of 2, 1 point')).not.toBeNull();
  press('Next');
  press('Hand in');
  await wait(10);
  expect(handedIn[0]?.responses).toEqual({ b: { text: 'yeast' } });
});

test('without names nobody makes room for another before handing in: what was answered could not be found again', () => {
  const leave = jest.fn();
  const page = (named: boolean) => (
    <Answering
      attempt={{ ...base, named }}
      kept={{ id: 'x', token: 't', responses: {}, place: 0 }}
      keeper={keeper}
      remember={() => undefined}
      speed={1}
      leave={leave}
    />
  );
  const { unmount } = render(page(false));
  expect(screen.queryByRole('button', { name: 'Not Ada?' })).toBeNull();
  unmount();
  render(page(true));
  press('Not Ada?');
  press('Start anew');
  expect(leave).toHaveBeenCalledWith(true);
});

test('practice: an answer is checked, a hint comes, and what is through cannot be changed', async () => {
  open({ practice: Object.fromEntries(items.map((i) => [i.id, { tries: 0, hints: [], moreHints: true, done: false }])) });
  expect(screen.getByRole('button', { name: 'Check' }).hasAttribute('disabled')).toBe(true);
  fireEvent.click(screen.getByLabelText('cod'));
  press('Check');
  await wait(10);
  expect(steps).toEqual([['a', { response: { options: ['~2'] } }]]);
  expect(screen.getByText('A hint.')).not.toBeNull();
  expect(screen.getByText('Not right yet.')).not.toBeNull();
  practice = { tries: 2, hints: ['A hint.'], moreHints: false, done: true, state: 'wrong', points: 0, feedback: [], answer: 'rye' };
  press('Show the answer');
  await wait(10);
  expect(screen.getByText('Right: rye')).not.toBeNull();
  expect((screen.getByLabelText('rye') as HTMLInputElement).disabled).toBe(true);
  expect(screen.queryByRole('button', { name: 'Check' })).toBeNull();
});

test('what went wrong is said in the language of the page, where it is known there', () => {
  const refused = (code: string, more = {}): string => errorWords(new Refused(403, code, 'What the server says.', more), say);
  expect(refused('own-code-needed')).toContain('a code of your own');
  expect(refused('attempts-used', { attempts: 2 })).toContain('2 times already');
  expect(refused('attempts-used', { name: 'Ada' })).toContain('Somebody called Ada');
  expect(refused('something-new')).toBe('What the server says.');
  expect(errorWords('?', say)).toBe('The server could not do this. Try again.');
});

test('time that is left, with hours where there are any', () => {
  expect([3_725_000, 65_000, 900, 0, -5].map(leftOf)).toEqual(['1:02:05', '1:05', '0:01', '0:00', '0:00']);
});

describe('read aloud', () => {
  const said: { text: string; lang: string; rate: number; onend: (() => void) | null; onerror: (() => void) | null }[] = [];
  let cancelled = 0;
  beforeEach(() => {
    said.length = 0;
    cancelled = 0;
    Object.assign(globalThis, {
      SpeechSynthesisUtterance: class {
        lang = '';
        rate = 1;
        constructor(readonly text: string) {}
      },
      speechSynthesis: { cancel: () => cancelled++, speak: (u: (typeof said)[number]) => said.push(u) },
    });
    Element.prototype.scrollIntoView = () => undefined;
    document.body.innerHTML = `<div id="q"><p data-say>What is <b>this</b>?</p><p>not said</p><div lang="fr" data-say>le pain <img alt="a loaf"></div><i data-say> </i></div>`;
  });
  const root = (): Element => document.getElementById('q') as Element;

  test('part after part, each in its language, marked while it is said', () => {
    const ended = jest.fn();
    readAloud(root(), 'en', 0.8, ended);
    expect(said.map((s) => [s.text, s.lang, s.rate])).toEqual([['What is this?', 'en', 0.8]]);
    expect(document.querySelectorAll('.said-now')).toHaveLength(1);
    said[0]?.onend?.();
    expect(said[1]).toMatchObject({ text: 'le pain a loaf', lang: 'fr' });
    expect(ended).not.toHaveBeenCalled();
    said[1]?.onend?.();
    expect(ended).toHaveBeenCalledTimes(1);
    expect(document.querySelectorAll('.said-now')).toHaveLength(0);
  });

  test('stopped, or where a voice fails, it ends once', () => {
    const ended = jest.fn();
    const stop = readAloud(root(), undefined, 1, ended);
    stop();
    said[0]?.onend?.();
    stop();
    expect([ended.mock.calls.length, said.length]).toEqual([1, 1]);
    expect(cancelled).toBeGreaterThan(0);
    const failed = jest.fn();
    readAloud(root(), undefined, 1, failed);
    said.at(-1)?.onerror?.();
    expect(failed).toHaveBeenCalledTimes(1);
  });

  test('a formula is said without its source, and lines do not run together', () => {
    document.body.innerHTML = '<p id="f">a<br>b <math><mi>x</mi><annotation>\\\\frac</annotation></math></p>';
    expect(spoken(document.getElementById('f') as Element)).toBe('a b x');
  });
});
