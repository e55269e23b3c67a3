/** @jest-environment ./src/testing/environment.mjs */
/** What is pasted into a draft, and what is marked in a source: what becomes of it, and what is turned away. */
import '../testing/browser.js';
import { EditorView } from '@codemirror/view';
import { takeMarked, takePaste } from './paste.js';

const editorOf = (doc = ''): EditorView => new EditorView({ doc });
const textOf = (view: EditorView): string => view.state.doc.toString();
/** Pastes; what is left to the editor is not put in here. */
function paste(view: EditorView, given: { plain?: string; html?: string }, held = 0): { kept: boolean } {
  let kept = true;
  const event = {
    clipboardData: { getData: (type: string) => (type === 'text/html' ? given.html : given.plain) ?? '' },
    preventDefault: () => {
      kept = false;
    },
    stopPropagation: () => undefined,
  };
  takePaste(event as unknown as React.ClipboardEvent, view, held);
  return { kept };
}

describe('a paste', () => {
  test('of plain words is left to the editor', () => {
    const view = editorOf();
    expect([paste(view, { plain: '1. Which flour?' }).kept, textOf(view)]).toEqual([true, '']);
  });
  test('of a formatted page brings its numbers and its bold', () => {
    const view = editorOf('before ');
    view.dispatch({ selection: { anchor: 7 } });
    const { kept } = paste(view, { plain: 'Rye\nOats', html: '<ol><li><b>Rye</b></li><li>Oats</li></ol>' });
    expect(kept).toBe(false);
    expect(textOf(view)).toMatch(/^before 1\. \*\*Rye\*\*\n2\. Oats/);
  });
  test('of the source of a page is read as the page', () => {
    const view = editorOf();
    paste(view, { plain: '<!DOCTYPE html><html><body><ol><li>Rye</li><li>Oats</li></ol></body></html>' });
    expect(textOf(view)).toMatch(/1\. Rye\n2\. Oats/);
    expect(textOf(view)).not.toContain('<li>');
  });
  test('of bytes that are no text, or of too much, changes nothing', () => {
    const view = editorOf('as it was');
    expect(paste(view, { plain: '\u0000\u0001\u0002\u0003\u0004\u0005\u0006PK' }).kept).toBe(false);
    expect(paste(view, { plain: 'one more' }, 8_000_000).kept).toBe(false);
    expect(textOf(view)).toBe('as it was');
  });
  test('of text with a stray sign is text', () => {
    expect(paste(editorOf(), { plain: `A page\u000c${'of many words '.repeat(80)}` }).kept).toBe(true);
  });
});

describe('what is marked in a source', () => {
  const text = (words: string) => ({ as: 'text' as const, text: words });
  test('is the next question, behind a blank line', () => {
    const view = editorOf();
    expect(takeMarked(view, text('Which flour?\na) rye *\nb) oats'), 1)).toBe(true);
    takeMarked(view, text('Which oven?'), 2);
    expect(textOf(view)).toBe('1. Which flour?\na) rye *\nb) oats\n\n2. Which oven?');
    expect(view.state.selection.main.head).toBe(view.state.doc.length);
  });
  test('keeps a number of its own', () => {
    const view = editorOf('1. One?\n\n');
    takeMarked(view, text('7) Which flour?'), 2);
    takeMarked(view, text('Frage 8: Welches Mehl?'), 3);
    expect(textOf(view)).toBe('1. One?\n\n7) Which flour?\n\nFrage 8: Welches Mehl?');
  });
  test('as a picture stands there with its words, whose signs cannot end it', () => {
    const view = editorOf();
    takeMarked(view, { as: 'picture', src: 'asset:abc', alt: 'A "loaf" <b>' } as Parameters<typeof takeMarked>[1], 1);
    expect(textOf(view)).toBe('1. <img src="asset:abc" alt="A loaf b"/>\n');
  });
  test('is turned away where the draft is full', () => {
    const view = editorOf('x'.repeat(7_999_990));
    expect(takeMarked(view, text('Which flour?'), 1)).toBe(false);
    expect(view.state.doc.length).toBe(7_999_990);
  });
});
