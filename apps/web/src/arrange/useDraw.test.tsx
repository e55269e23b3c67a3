/** @jest-environment ./src/testing/environment.mjs */
/** A draw under way: what is told on the way is shown, and what is told behind the end is not. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import type { Drawn, DrawPlan } from '@zakuska/core';
import { act, cleanup, renderHook } from '@testing-library/react';

type Draw = (set: unknown, use: unknown, plan: unknown, onFirst: (d: Drawn) => void, tell: (gap: number) => void) => Promise<Drawn>;
let draw: Draw;
class Ended extends Error {}
jest.unstable_mockModule('comlink', () => ({ proxy: (f: unknown) => f }));
jest.unstable_mockModule('../worker/client.js', () => ({
  WorkerEnded: Ended,
  WorkerClient: class {
    call = (f: (w: { draw: Draw }) => Promise<Drawn>) => f({ draw: (...args) => draw(...args) });
    end = (): void => undefined;
  },
}));
const { useDraw } = await import('./useDraw.js');
afterEach(cleanup);

const drawnOf = (name: string): Drawn => ({ plan: {} as DrawPlan, versions: [{ name, items: [] }] });
const begin = () => {
  const ends: [string, boolean][] = [];
  const { result } = renderHook(() => useDraw((d, stopped) => ends.push([d.versions[0]?.name ?? '', stopped])));
  return { result, ends };
};

test('the first answer, how far it is, the end; what comes late changes nothing', async () => {
  let tell: (gap: number) => void = () => undefined;
  let first: (d: Drawn) => void = () => undefined;
  let finish: (d: Drawn) => void = () => undefined;
  draw = (_s, _u, _p, onFirst, told) => {
    [first, tell] = [onFirst, told];
    return new Promise((resolve) => (finish = resolve));
  };
  const { result, ends } = begin();
  act(() => result.current.start({ title: '', items: [] }, {}, {} as DrawPlan));
  expect(result.current.drawing.state).toBe('first');
  act(() => first(drawnOf('first')));
  act(() => tell(0.5));
  expect(result.current.drawing).toMatchObject({ state: 'better', gap: 0.5 });
  await act(async () => {
    finish(drawnOf('best'));
    await Promise.resolve();
  });
  expect([result.current.drawing.state, ends]).toEqual(['none', [['best', false]]]);
  // lines of their own: these were sent before the end and come behind it
  act(() => {
    first(drawnOf('first'));
    tell(0.1);
  });
  expect(result.current.drawing.state).toBe('none');
});

test('stopped, the first answer is the draw; a failure is said', async () => {
  let fail: (e: Error) => void = () => undefined;
  draw = (_s, _u, _p, onFirst) =>
    new Promise((_, reject) => {
      onFirst(drawnOf('first'));
      fail = reject;
    });
  const { result, ends } = begin();
  const end = async (e: Error): Promise<void> => {
    act(() => result.current.start({ title: '', items: [] }, {}, {} as DrawPlan));
    await act(async () => {
      fail(e);
      await Promise.resolve();
    });
  };
  await end(new Ended('stopped'));
  expect([result.current.drawing.state, ends]).toEqual(['none', [['first', true]]]);
  await end(new Error('out of memory'));
  expect(result.current.drawing).toEqual({ state: 'failed', why: 'out of memory' });
});
