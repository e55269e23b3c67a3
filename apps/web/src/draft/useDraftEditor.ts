/** The editor of a draft on its page: made for the open draft, with where the caret is and what is selected in it. */
import type { Fix } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import type { DraftSession } from '../set/DraftSession.js';
import { createEditor, overridesOf } from './editor.js';
import { apartFrom } from './paste.js';
import type { Picking } from './RoleMenu.js';

/** The first and the last of some lines, from 0. */
export type Lines = readonly [number, number];

export interface DraftEditor {
  view: RefObject<EditorView | null>;
  /** Where the editor is put, and the page that scrolls it. */
  host: RefObject<HTMLDivElement | null>;
  page: RefObject<HTMLDivElement | null>;
  /** Line of the caret, from 0. */
  caret: number;
  selected: Lines;
  /** Rises when lines have moved on the page. */
  geometry: number;
  /** The line whose role is being asked for. */
  picking: Picking | null;
  setPicking: (picking: Picking | null) => void;
  /** The lines that are being shown as one question. */
  showing: Lines | null;
  setShowing: (lines: Lines | null) => void;
  /** Goes to a place, that is then in sight. */
  goTo: (offset: number) => void;
  edit: (edits: Fix['edits']) => void;
  focus: () => void;
}

/** Whoever opens a draft writes on at once: behind what is there. A dialog that led here gives the focus back first. */
const takeCaret = (v: EditorView): ReturnType<typeof setTimeout> =>
  setTimeout(() => {
    const now = document.activeElement;
    const elsewhere = now !== null && now !== document.body && !now.closest('nav[aria-label="Stages"]');
    // on a touch screen the caret brings up half a screen of keys: only where nothing is there to be read
    if (elsewhere || (matchMedia('(pointer: coarse)').matches && v.state.doc.length > 0)) return;
    v.dispatch({ selection: { anchor: v.state.doc.length } });
    v.focus();
  });

/** Puts text of somebody else into the draft: where the caret is, if somebody is writing; else behind what is there. */
function addText(v: EditorView, added: string): void {
  const whole = v.state.doc.length;
  const { from, to } = v.hasFocus ? v.state.selection.main : { from: whole, to: whole };
  const at = v.state.doc.toString().trim() ? { from, to } : { from: 0, to: whole };
  const lead = apartFrom(v.state.sliceDoc(0, at.from));
  v.dispatch({ changes: { ...at, insert: `${lead}${added}` }, selection: { anchor: at.from + lead.length }, userEvent: 'input.paste' });
}

/** @param replaced rises when the text was replaced from outside: the editor is then made anew */
export function useDraftEditor(draft: DraftSession, mayEdit: boolean, replaced: number): DraftEditor {
  const host = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const [caret, setCaret] = useState(0);
  const [selected, setSelected] = useState<Lines>([0, 0]);
  const [geometry, setGeometry] = useState(0);
  const [picking, setPicking] = useState<Picking | null>(null);
  const [showing, setShowing] = useState<Lines | null>(null);

  useEffect(() => {
    if (!host.current) return;
    const { text, overrides } = draft.get();
    const v = createEditor(host.current, text, overrides, !mayEdit, {
      onChange: (e) => draft.change(e.state.doc.toString(), overridesOf(e)),
      onPick: (e, line) => {
        if (!mayEdit) return;
        const at = e.coordsAtPos(e.state.doc.line(line + 1).from);
        setPicking({ line, top: (at?.bottom ?? 100) + 2, left: Math.max(8, (at?.left ?? 140) - 4) });
      },
      onCaret: (line, lines) => {
        setCaret(line);
        setSelected((now) => (now[0] === lines[0] && now[1] === lines[1] ? now : lines));
      },
      onShow: (from, to) => mayEdit && setShowing([from, to]),
      onGeometry: () => setGeometry((g) => g + 1),
    });
    view.current = v;
    draft.editor = (added) => addText(v, added);
    const taken = mayEdit ? takeCaret(v) : undefined;
    return () => {
      clearTimeout(taken);
      draft.editor = null;
      v.destroy();
    };
  }, [draft, mayEdit, replaced]);

  const goTo = useCallback((offset: number) => {
    const v = view.current;
    if (!v) return;
    const at = Math.min(offset, v.state.doc.length);
    v.dispatch({ selection: { anchor: at } });
    const block = v.lineBlockAt(at);
    page.current?.scrollTo({ top: Math.max(0, block.top - 160) });
    v.focus();
  }, []);
  const edit = useCallback((edits: Fix['edits']) => {
    const v = view.current;
    if (!v) return;
    v.dispatch({ changes: [...edits].sort((a, b) => a.from - b.from).map((e) => ({ from: e.from, to: e.to, insert: e.insert })) });
    v.focus();
  }, []);
  const focus = useCallback(() => view.current?.focus(), []);
  return { view, host, page, caret, selected, geometry, picking, setPicking, showing, setShowing, goTo, edit, focus };
}
