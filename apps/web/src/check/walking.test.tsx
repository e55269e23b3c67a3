/** @jest-environment ./src/testing/environment.mjs */
/** Going through the items, choosing some, and what the keys do. */
import '../testing/browser.js';
import { apply, type Evidence, type Finding, type Item, type Operation, type SetDocument } from '@zakuska/core';
import { act, cleanup, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { checkCommands } from './checkCommands.js';
import type { Dialog } from './CheckDialogs.js';
import { useChosen } from './useChosen.js';
import type { ItemChanges } from './useItemChanges.js';
import { useWalk } from './useWalk.js';

afterEach(cleanup);

const item = (id: string, credit = 1): Item =>
  ({
    id,
    kind: 'multiple-choice',
    stem: `Which is ${id}?`,
    points: 1,
    options: [
      { id: 'a', content: 'rye', credit },
      { id: 'b', content: 'oats', credit: 0 },
    ],
  }) as Item;
const start = (): SetDocument => ({ set: { title: 'T', items: [item('one'), item('two', 0), item('three'), item('four', 0)] }, reviews: {} });
const NONE: Finding[] = [];
const NO_EVIDENCE: ReadonlyMap<string, Evidence> = new Map();
const walking = (at = '/', document = start()) =>
  renderHook(({ doc }) => useWalk(doc, NONE, NO_EVIDENCE), {
    initialProps: { doc: document },
    wrapper: ({ children }: { children: ReactNode }) => <MemoryRouter initialEntries={[at]}>{children}</MemoryRouter>,
  });

describe('the item at hand', () => {
  test('is the first, which nothing follows yet; steps stay inside the set', () => {
    const { result } = walking();
    expect([result.current.item?.id, result.current.follow]).toEqual(['one', false]);
    act(() => result.current.step(1));
    act(() => result.current.step(1));
    expect([result.current.item?.id, result.current.follow]).toEqual(['three', true]);
    act(() => result.current.step(9));
    expect(result.current.item?.id).toBe('four');
    act(() => result.current.step(-9));
    expect(result.current.item?.id).toBe('one');
  });
  test('is the one that another screen leads to, with its editor open', () => {
    const { result } = walking('/?item=three&edit');
    expect([result.current.item?.id, result.current.under]).toEqual(['three', 'editor']);
  });
  test('the next of which something is true comes round behind the last, and is none that is left out', () => {
    const { result } = walking('/', { ...start(), reviews: { two: { state: 'left-out' } } });
    const keyless = (i: Item): boolean => 'options' in i && i.options.every((o) => o.credit === 0);
    act(() => result.current.next(keyless, 'none'));
    expect(result.current.item?.id).toBe('four');
    act(() => result.current.next(keyless, 'none'));
    expect(result.current.item?.id).toBe('four');
    act(() => result.current.next(() => false, 'none'));
    expect(result.current.item?.id).toBe('four');
  });
  test('stays in sight while it is edited, though a change takes it out of what is filtered for', () => {
    const { result, rerender } = walking();
    act(() => result.current.setFilter({ words: 'two' }));
    expect(result.current.shown.map((i) => i.id)).toEqual(['two']);
    act(() => result.current.go('two'));
    act(() => result.current.toggle('editor'));
    const doc = start();
    rerender({ doc: { ...doc, set: { ...doc.set, items: doc.set.items.map((i) => (i.id === 'two' ? { ...i, stem: 'Another?' } : i)) } } });
    expect(result.current.shown.map((i) => i.id)).toEqual(['two']);
    act(() => result.current.toggle('editor'));
    expect(result.current.shown).toEqual([]);
  });
  test('another one closes the editor; what the source says stays open; one that is filtered away comes back', () => {
    const { result } = walking();
    act(() => result.current.toggle('editor'));
    act(() => result.current.go('two'));
    expect(result.current.under).toBeNull();
    act(() => result.current.toggle('evidence'));
    act(() => result.current.go('three'));
    expect(result.current.under).toBe('evidence');
    act(() => result.current.setFilter({ words: 'one' }));
    act(() => result.current.goFrom('four'));
    expect([result.current.item?.id, result.current.shown.length]).toEqual(['four', 4]);
  });
});

test('all of what is shown is chosen, then none; what leaves the set is no longer among the chosen', () => {
  const { items } = start().set;
  const { result, rerender } = renderHook(({ of }) => useChosen(of), { initialProps: { of: items } });
  act(() => result.current.chooseAll(items.slice(1)));
  expect(result.current.items.map((i) => i.id)).toEqual(['two', 'three', 'four']);
  act(() => result.current.choose('one'));
  act(() => result.current.choose('four', true));
  rerender({ of: items.slice(0, 3) });
  expect(result.current.items.map((i) => i.id)).toEqual(['one', 'two', 'three']);
  act(() => result.current.chooseAll(items.slice(0, 3)));
  expect(result.current.items).toEqual([]);
});

describe('what can be done', () => {
  /** The commands at the first item, what they did to the document, and the dialogs they opened. */
  const commandsOf = (mayEdit = true, chosenOnes: readonly Item[] = []) => {
    const { result } = walking();
    let doc = start();
    const opened: Dialog[] = [];
    const only: string[][] = [];
    const perform = (o: Operation): boolean => {
      doc = apply(doc, o).document;
      return true;
    };
    const nothing = (): void => undefined;
    const list = checkCommands({
      document: doc,
      findings: NONE,
      evidence: NO_EVIDENCE,
      hasSource: false,
      mayEdit,
      newer: false,
      walk: result.current,
      chosen: {
        ids: new Set(chosenOnes.map((i) => i.id)),
        items: chosenOnes,
        choose: nothing,
        chooseAll: nothing,
        chooseOnly: (of) => only.push(of.map((i) => i.id)),
      },
      changes: { perform, undo: nothing, add: nothing, copy: nothing, ofChosen: { check: nothing } } as unknown as ItemChanges,
      openDialog: (d) => opened.push(d),
      addItem: nothing,
      find: nothing,
      ask: nothing,
    });
    const press = (key: string): void => act(() => list.find((c) => c.keys?.includes(key))?.run(key));
    return { list, press, opened, only, document: () => doc };
  };
  test('no key stands for two things, whoever looks', () => {
    for (const { list } of [commandsOf(), commandsOf(false), commandsOf(true, [item('one')])]) {
      const keys = list.flatMap((c) => c.keys ?? []);
      expect(keys.length).toBeGreaterThan(10);
      expect(keys.filter((k, n) => keys.indexOf(k) !== n)).toEqual([]);
    }
  });
  test('who may only look changes nothing', () => {
    const { list } = commandsOf(false);
    for (const key of ['1', 'C', 'X', 'E', 'B', 'R', 'U', 'I']) expect(list.some((c) => c.keys?.includes(key))).toBe(false);
  });
  test('a digit sets the key', () => {
    const { press, document } = commandsOf();
    press('2');
    expect(document().set.items[0]).toMatchObject({ options: [{ credit: 0 }, { credit: 1 }] });
  });
  test('changing many begins with the item at hand where none is chosen', () => {
    const one = commandsOf();
    one.press('B');
    expect([one.opened, one.only]).toEqual([['bulk'], [['one']]]);
    const some = commandsOf(true, [item('two')]);
    some.press('B');
    expect([some.opened, some.only]).toEqual([['bulk'], []]);
  });
});
