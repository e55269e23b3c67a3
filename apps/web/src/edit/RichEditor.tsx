/** A rich text that is edited in place. What is typed is handed on when typing rests or the text is left. */
import type { Editor } from '@tiptap/core';
import { EditorContent, useEditor } from '@tiptap/react';
import { useEffect, useId, useLayoutEffect, useRef } from 'react';
import { toast } from 'sonner';
import { extensions } from './extensions.js';
import { fromEditor, pictureData, toEditor } from './richDoc.js';
import { say } from '../words/say.js';

const REST = 600;

export async function insertPictures(editor: Editor, files: readonly File[]): Promise<void> {
  for (const file of files) {
    if (!file.type.startsWith('image/')) continue;
    try {
      const src = await pictureData(file);
      // the name of a file says nothing to who cannot see the picture: it is described by hand, and asked for before it goes out
      editor
        .chain()
        .focus()
        .insertContent({ type: 'image', attrs: { src, alt: '' } })
        .run();
    } catch {
      toast.error(say('{name} could not be read. PNG, JPEG, GIF and WebP can be put in.', { name: file.name || say('The picture') }));
    }
  }
}

export function RichEditor({
  label,
  value,
  onCommit,
  line = false,
  placeholder,
  hideLabel = false,
  className = '',
  autoFocus = false,
  onFocus,
  onEnter,
  onEmptyBackspace,
  onMove,
}: {
  label: string;
  value: string;
  onCommit: (rich: string) => void;
  /** One line to begin with: Enter asks for the next row. */
  line?: boolean;
  placeholder?: string;
  hideLabel?: boolean;
  className?: string;
  autoFocus?: boolean;
  onFocus: (editor: Editor) => void;
  onEnter?: () => void;
  onEmptyBackspace?: () => void;
  onMove?: (by: -1 | 1) => void;
}) {
  const id = useId();
  const calls = useRef({ onCommit, onFocus, onEnter, onEmptyBackspace, onMove });
  calls.current = { onCommit, onFocus, onEnter, onEmptyBackspace, onMove };
  /** The text that the page knows, in the editor's own writing of it. */
  const known = useRef('');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const commit = useRef((e: Editor): void => {
    clearTimeout(timer.current);
    const now = fromEditor(e.getHTML());
    if (now === known.current) return;
    known.current = now;
    calls.current.onCommit(now);
  });
  const editor = useEditor({
    extensions,
    content: toEditor(value),
    autofocus: autoFocus ? 'end' : false,
    immediatelyRender: true,
    shouldRerenderOnTransaction: false,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': String(!line),
        'aria-labelledby': id,
        dir: 'auto',
        class: `rich min-h-8 rounded border border-rule bg-sheet px-2 py-1 hover:border-ink-2 ${line ? '' : 'text-[17px]/[1.4]'}`,
      },
      handleKeyDown: (view, e) => {
        const c = calls.current;
        if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown') && c.onMove) {
          c.onMove(e.key === 'ArrowUp' ? -1 : 1);
          return true;
        }
        if (!line) return false;
        if (
          e.key === 'Enter' &&
          !e.shiftKey &&
          !e.ctrlKey &&
          c.onEnter &&
          !view.state.selection.$from.node(-1)?.type.name.match(/listItem|tableCell|tableHeader/)
        ) {
          c.onEnter();
          return true;
        }
        if (e.key === 'Backspace' && c.onEmptyBackspace && view.state.doc.textContent === '' && view.state.doc.content.size <= 2) {
          c.onEmptyBackspace();
          return true;
        }
        return false;
      },
      handlePaste: (_view, e) => {
        const files = [...(e.clipboardData?.files ?? [])].filter((f) => f.type.startsWith('image/'));
        if (!files.length || !editorRef.current) return false;
        void insertPictures(editorRef.current, files);
        return true;
      },
      handleDrop: (_view, e) => {
        const files = [...(e.dataTransfer?.files ?? [])].filter((f) => f.type.startsWith('image/'));
        if (!files.length || !editorRef.current) return false;
        e.preventDefault();
        e.stopPropagation();
        void insertPictures(editorRef.current, files);
        return true;
      },
    },
    onUpdate: ({ editor: e }) => {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => commit.current(e), REST);
    },
    onFocus: ({ editor: e }) => calls.current.onFocus(e),
    onBlur: ({ editor: e }) => commit.current(e),
  });
  const editorRef = useRef<Editor>(null);
  // what it holds as it is made; it tells of itself later, when on a busy machine something is typed already
  if (editor && editorRef.current !== editor) known.current = fromEditor(editor.getHTML());
  editorRef.current = editor;
  // the editor itself takes the focus a frame later: what is typed until then would go to the row above
  const focused = useRef(!autoFocus);
  useLayoutEffect(() => {
    // one that was drawn in pieces is gone when it comes on the page, and another is made in its place
    if (focused.current || !editor || editor.isDestroyed) return;
    focused.current = true;
    editor.view.focus();
  }, [editor]);
  // what is typed is not lost when the editor closes under it
  useEffect(() => {
    const e = editor;
    return () => {
      clearTimeout(timer.current);
      // oxlint-disable-next-line react/exhaustive-deps -- the newest is meant
      if (e && !e.isDestroyed) commit.current(e);
    };
  }, [editor]);
  // a value that changes from outside (undo, another person) shows, unless something is being typed
  const shown = useRef(value);
  useEffect(() => {
    if (!editor || value === shown.current) return;
    shown.current = value;
    if (fromEditor(toEditor(value)) === known.current) return;
    const now = fromEditor(editor.getHTML());
    if (now !== known.current) return;
    editor.commands.setContent(toEditor(value), { emitUpdate: false });
    known.current = fromEditor(editor.getHTML());
  }, [editor, value]);
  return (
    <div className={`grid min-w-0 gap-1 ${className}`}>
      <span id={id} className={hideLabel ? 'sr-only' : 'text-[13.5px] font-semibold'}>
        {label}
      </span>
      <EditorContent editor={editor} data-placeholder={placeholder} className={placeholder && !value ? 'rich-empty' : ''} />
    </div>
  );
}
