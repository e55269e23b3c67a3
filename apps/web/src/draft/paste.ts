/** What comes into a draft from outside the keyboard: what is pasted, and what is marked in a source. */
import { fromHtml, isPageSource, writtenOut } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { toast } from 'sonner';
import type { Marked } from '../sources/PdfPages.js';
import { fixed } from '../ui/figures.js';
import { say } from '../words/say.js';

/** A draft holds so many characters. */
const LIMIT = 8_000_000;

/** What keeps an added question apart from the text before it: a blank line, where there is none yet. */
export const apartFrom = (before: string): string => (before.trim() && !before.endsWith('\n\n') ? '\n\n' : '');

/** Puts text in place of the selection. */
function insert(view: EditorView, text: string): void {
  view.dispatch(view.state.replaceSelection(text), { userEvent: 'input.paste', scrollIntoView: true });
}

/** Whether text is bytes of something else, shown as letters. */
function isNoText(text: string): boolean {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: they tell binary data from text
  const odd = text.slice(0, 20_000).match(/[\u0000-\u0008\u000e-\u001a\ufffd]/g)?.length ?? 0;
  return odd > 5 && odd > Math.min(text.length, 20_000) * 0.01;
}

/**
 * Takes a paste where the editor's own would lose something or take too much: pages with their numbers and tables, files written out as text, what is no text.
 * @param held how many characters the draft has; a paste that is left alone goes to the editor
 */
export function takePaste(event: React.ClipboardEvent, view: EditorView | null, held: number): void {
  const html = event.clipboardData.getData('text/html');
  const plain = event.clipboardData.getData('text/plain');
  // the source of a page is read as the page
  const source = isPageSource(plain) ? plain : html;
  const rich = source && source.length < LIMIT ? fromHtml(source) : null;
  const written = plain.length < LIMIT ? writtenOut(plain) : null;
  const text = written?.text ?? (rich?.formatted ? rich.text : plain);
  const taken = (): void => {
    event.preventDefault();
    event.stopPropagation();
  };
  if (text.length + held > LIMIT) {
    event.preventDefault();
    toast.error(
      say('This paste has {n} million characters; a draft holds 8 million. Split it into several sets. Nothing was changed.', {
        n: fixed(text.length / 1e6, 1),
      }),
    );
  } else if (isNoText(text)) {
    taken();
    toast.error(say('What was pasted is no text. Copy the words themselves from the program that shows them. Nothing was changed.'));
  } else if (written && view) {
    taken();
    insert(view, written.text);
    toast(written.note);
  } else if (rich?.formatted && view) {
    taken();
    insert(view, rich.text);
    const lost = rich.picturesLost
      ? say(' {picturesLost, plural, one {# picture} other {# pictures}} could not come along: only the address was copied.', {
          picturesLost: rich.picturesLost,
        })
      : '';
    toast(say('Pasted with its numbers, bold and tables.{lost} Ctrl Shift V pastes the words alone.', { lost }));
  }
}

/**
 * Puts what was marked in a source at the end of the draft, as the next question.
 * @param number of that question, for what has none of its own
 * @returns whether there was room for it
 */
export function takeMarked(view: EditorView, marked: Marked, number: number): boolean {
  const at = view.state.doc.length;
  const lead = apartFrom(view.state.doc.toString());
  // a region with numbers of its own keeps them
  const own = /^\s*(?:\d{1,3}\s?[.)]|\p{L}{1,10}\s*\d{1,3}\s*[.:)])/mu;
  const words = marked.as === 'text' ? marked.text : `<img src="${marked.src}" alt="${marked.alt.replace(/["<>]/g, '')}"/>\n`;
  if (at + words.length > LIMIT) {
    toast.error(say('The draft holds 8 million characters; this picture would be too much. Take the items to Check first.'));
    return false;
  }
  const added = `${lead}${own.test(words) ? '' : `${number}. `}${words}`;
  view.dispatch({ changes: { from: at, insert: added }, selection: { anchor: at + added.length }, userEvent: 'input.paste', scrollIntoView: true });
  toast(
    marked.as === 'text'
      ? say('The text stands at the end of the draft.')
      : say('The picture stands at the end of the draft as a question; type its options and key below.'),
  );
  return true;
}
