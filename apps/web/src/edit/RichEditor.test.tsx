/** @jest-environment ./src/testing/environment.mjs */
/** The editor of a text: what is typed ahead, before the editor has told of itself, is handed on like everything else. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import type { Editor } from '@tiptap/core';
import { act, cleanup, render } from '@testing-library/react';
import { RichEditor } from './RichEditor.js';

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

function open(value = '') {
  const committed: string[] = [];
  let editor: Editor | undefined;
  const page = (text: string) => (
    <RichEditor label="Option C" line value={text} autoFocus onCommit={(c) => committed.push(c)} onFocus={(e) => void (editor = e)} />
  );
  const { rerender } = render(page(value));
  if (!editor) throw new Error('it takes the focus as it is made');
  return { committed, editor, show: (text: string) => rerender(page(text)) };
}

test('letters that come in the moment in which a row is made are kept', () => {
  const { committed, editor } = open();
  // nothing has been waited for: on a busy machine keys are there first
  act(() => void editor.commands.insertContent('a stone'));
  act(() => void jest.advanceTimersByTime(700));
  expect(committed).toEqual(['a stone']);
});

test('what nobody changed is not handed on, and a value from outside shows unless something is being typed', () => {
  const { committed, editor, show } = open('rye');
  act(() => void jest.advanceTimersByTime(700));
  show('rye bread');
  expect(editor.getText()).toBe('rye bread');
  act(() => void editor.commands.insertContentAt(editor.state.doc.content.size - 1, ' crumb'));
  show('somebody else');
  expect(editor.getText()).toBe('rye bread crumb');
  act(() => void jest.advanceTimersByTime(700));
  expect(committed).toEqual(['rye bread crumb']);
});

test('drawn in pieces, it is gone before it is on the page: another is there in its place, with what was to be shown, and takes what is typed', () => {
  const committed: string[] = [];
  let editor: Editor | undefined;
  let later = 2;
  /** Drawn behind it, a moment later, before anything is on the page. */
  const Slow = () => {
    if (later-- > 0) jest.advanceTimersByTime(5);
    return null;
  };
  render(
    <>
      <RichEditor label="Option C" line value="rye" autoFocus onCommit={(c) => committed.push(c)} onFocus={(e) => void (editor = e)} />
      <Slow />
    </>,
  );
  act(() => void jest.advanceTimersByTime(100));
  expect(document.querySelector('[role="textbox"]')?.textContent).toBe('rye');
  act(() => void editor?.commands.insertContentAt(editor.state.doc.content.size - 1, ' bread'));
  act(() => void jest.advanceTimersByTime(700));
  expect(committed).toEqual(['rye bread']);
});
