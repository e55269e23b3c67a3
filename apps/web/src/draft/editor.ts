/** The draft editor: plain text with the role of every line in the margin, doubts underlined, and overrides that travel with their lines. */
import { history, historyKeymap, defaultKeymap } from '@codemirror/commands';
import { highlightSelectionMatches, search, searchKeymap } from '@codemirror/search';
import { EditorState, type Extension, RangeSet, RangeSetBuilder, RangeValue, StateEffect, StateField } from '@codemirror/state';
import {
  crosshairCursor,
  Decoration,
  type DecorationSet,
  drawSelection,
  EditorView,
  gutter,
  GutterMarker,
  keymap,
  lineNumbers,
  placeholder,
  rectangularSelection,
  ViewPlugin,
  type ViewUpdate,
  WidgetType,
} from '@codemirror/view';
import { type Diagnostic, looksOf, type LineRole, type Role } from '@zakuska/core';
import type { Override } from '../set/DraftSession.js';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';
import { markOf } from './roles.js';

export interface Marks {
  roles: readonly LineRole[];
  diagnostics: readonly Diagnostic[];
}
const setMarks = StateEffect.define<Marks>();
const marks = StateField.define<Marks>({
  create: () => ({ roles: [], diagnostics: [] }),
  update(value, tr) {
    for (const e of tr.effects) if (e.is(setMarks)) return e.value;
    return value;
  },
});

class OverrideValue extends RangeValue {
  constructor(readonly role: Role) {
    super();
  }
  override eq(other: OverrideValue): boolean {
    return other.role === this.role;
  }
}
const setOverride = StateEffect.define<{ line: number; role: Role | null }>({});
/** Overrides stand at the start of their line and move with it. */
const overrides = StateField.define<RangeSet<OverrideValue>>({
  create: () => RangeSet.empty,
  update(value, tr) {
    let out = value.map(tr.changes);
    for (const e of tr.effects) {
      if (!e.is(setOverride)) continue;
      const at = tr.state.doc.line(e.value.line + 1).from;
      out = out.update({ filter: (from) => from !== at, ...(e.value.role && { add: [new OverrideValue(e.value.role).range(at)] }) });
    }
    return out;
  },
});

export function overridesOf(view: EditorView): Override[] {
  const out: Override[] = [];
  const seen = new Set<number>();
  for (const c = view.state.field(overrides).iter(); c.value; c.next()) {
    const line = view.state.doc.lineAt(c.from).number - 1;
    if (seen.has(line)) continue; // two lines were joined: the first one's role stays
    seen.add(line);
    out.push({ line, role: c.value.role });
  }
  return out;
}

class RoleMarker extends GutterMarker {
  constructor(
    readonly text: string,
    readonly role: Role,
    readonly said: boolean,
    readonly reason: string,
  ) {
    super();
  }
  override eq(o: RoleMarker): boolean {
    return o.text === this.text && o.role === this.role && o.said === this.said && o.reason === this.reason;
  }
  override toDOM(): Node {
    const span = document.createElement('span');
    span.className = `role role-${this.role}${this.said ? ' role-said' : ''}`;
    span.textContent = this.text;
    span.title = `${retold(this.reason)}\n${say('Press for another role (Alt+Enter)')}`;
    return span;
  }
}

const roleGutter = (onPick: (view: EditorView, line: number) => void): Extension =>
  gutter({
    class: 'cm-roles',
    lineMarker(view, block) {
      const n = view.state.doc.lineAt(block.from).number - 1;
      const r = view.state.field(marks).roles[n];
      if (!r || r.role === 'blank') return null;
      let said = false;
      view.state.field(overrides).between(block.from, block.from, () => void (said = true));
      return new RoleMarker(markOf(r.mark) || '·', r.role, said, r.reason);
    },
    lineMarkerChange: (u) => u.startState.field(marks) !== u.state.field(marks) || u.startState.field(overrides) !== u.state.field(overrides),
    initialSpacer: () => new RoleMarker(markOf('feedback'), 'feedback', false, ''),
    domEventHandlers: {
      mousedown(view, block, event) {
        event.preventDefault();
        onPick(view, view.state.doc.lineAt(block.from).number - 1);
        return true;
      },
    },
  });

/**
 * A plugin that decorates what is in view.
 * @param anew whether it is decorated anew after an update
 */
function decorating(
  anew: (u: ViewUpdate) => boolean,
  build: (view: EditorView) => DecorationSet,
  provide?: (plugin: ViewPlugin<{ decorations: DecorationSet }>) => Extension,
): Extension {
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = build(view);
      }
      update(u: ViewUpdate): void {
        if (anew(u)) this.decorations = build(u.view);
      }
    },
    { decorations: (p) => p.decorations, ...(provide && { provide }) },
  );
}
/** Another text, other lines in view, or another reading. */
const anew = (u: ViewUpdate): boolean => u.docChanged || u.viewportChanged || u.startState.field(marks) !== u.state.field(marks);

/** How the lines in view look: the question bold, keys green, asides faint; doubts underlined. */
const looks = decorating(anew, (view) => {
  const { roles, diagnostics } = view.state.field(marks);
  const { doc } = view.state;
  const b = new RangeSetBuilder<Decoration>();
  for (const { from, to } of view.visibleRanges) {
    const doubts = diagnostics.filter((d) => d.severity !== 'info' && d.to >= from && d.from <= to && d.to <= doc.length);
    for (let at = from; at <= to; ) {
      const line = doc.lineAt(at);
      const r = roles[line.number - 1];
      if (r && r.role !== 'blank') {
        const key = r.role === 'key' || r.mark.endsWith('✓') || r.mark.includes('✓ ');
        b.add(line.from, line.from, Decoration.line({ class: `line-${r.role}${key ? ' line-right' : ''}` }));
      }
      for (const d of doubts.filter((x) => x.from >= line.from && x.from <= line.to && x.to > x.from).sort((x, y) => x.from - y.from)) {
        b.add(d.from, Math.min(d.to, line.to), Decoration.mark({ class: `doubt doubt-${d.severity}`, attributes: { title: retold(d.message) } }));
      }
      at = line.to + 1;
    }
  }
  return b.finish();
});

const hidden = Decoration.replace({});
const sign = Decoration.mark({ class: 'drawn-sign' });
/** Bold is drawn bold, without its stars; they are there where somebody writes. Signs in code stand for themselves. */
const drawn = decorating(
  (u) => anew(u) || u.selectionSet || u.focusChanged,
  (view) => {
    const { doc, selection } = view.state;
    const { roles } = view.state.field(marks);
    const b = new RangeSetBuilder<Decoration>();
    for (const { from, to } of view.visibleRanges)
      for (let at = from; at <= to; ) {
        const line = doc.lineAt(at);
        const written = view.hasFocus && selection.ranges.some((r) => r.to >= line.from && r.from <= line.to);
        if (!roles[line.number - 1]?.code)
          for (const d of looksOf(line.text)) {
            const how = d.looks.length ? Decoration.mark({ class: d.looks.map((l) => `drawn-${l}`).join(' ') }) : written ? sign : hidden;
            b.add(line.from + d.from, line.from + d.to, how);
          }
        at = line.to + 1;
      }
    return b.finish();
  },
);

/** A picture in the text is one long line of data; the editor shows the picture itself. */
class PictureWidget extends WidgetType {
  constructor(
    readonly source: string,
    readonly words: string,
  ) {
    super();
  }
  override eq(o: PictureWidget): boolean {
    return o.source === this.source;
  }
  override toDOM(): HTMLElement {
    const img = document.createElement('img');
    img.src = this.source;
    img.alt = this.words || say('Picture');
    img.className = 'draft-picture';
    return img;
  }
}
const PICTURE = /<img src="(data:image\/(?:png|jpeg|gif|webp);base64,[A-Za-z0-9+/=]+)" alt="([^"<>]*)"\/>/g;
const pictures = decorating(
  (u) => u.docChanged || u.viewportChanged,
  (view) => {
    const b = new RangeSetBuilder<Decoration>();
    for (const { from, to } of view.visibleRanges) {
      const start = view.state.doc.lineAt(from).from;
      const text = view.state.doc.sliceString(start, view.state.doc.lineAt(to).to);
      for (const m of text.matchAll(PICTURE))
        b.add(start + m.index, start + m.index + m[0].length, Decoration.replace({ widget: new PictureWidget(m[1] ?? '', m[2] ?? '') }));
    }
    return b.finish();
  },
  (p) => EditorView.atomicRanges.of((view) => view.plugin(p)?.decorations ?? Decoration.none),
);

const look = EditorView.theme({
  '&': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '14.5px' },
  '.cm-content': { fontFamily: 'var(--mono)', lineHeight: '26px', padding: '6px 0 60vh', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0 14px' },
  '.cm-gutters': { backgroundColor: 'var(--sheet)', border: 'none', color: 'var(--ink-2)' },
  '.cm-lineNumbers .cm-gutterElement': { fontFamily: 'var(--mono)', fontSize: '12px', lineHeight: '26px', minWidth: '34px', padding: '0 8px 0 0' },
  '.cm-roles': { minWidth: '84px', borderRight: '1px solid var(--rule)' },
  '.cm-roles .cm-gutterElement': { font: '600 13px/26px var(--next)', textAlign: 'right', padding: '0 10px 0 4px', cursor: 'pointer', whiteSpace: 'nowrap' },
  '.cm-roles .cm-gutterElement:hover': { background: 'var(--beet-soft)' },
  '.role-question, .role-part': { color: 'var(--beet)' },
  '.role-key, .role-key-list': { color: 'var(--dill)' },
  '.role-said': { textDecoration: 'underline dotted' },
  '.line-question': { fontWeight: '650' },
  '.line-part': { fontWeight: '650', color: 'var(--beet)' },
  '.line-aside': { color: 'var(--ink-2)', fontStyle: 'italic' },
  '.line-right': { backgroundImage: 'linear-gradient(90deg, var(--dill-soft), transparent 70%)' },
  '.drawn-sign': { color: 'var(--ink-2)', fontWeight: '400' },
  '.drawn-bold': { fontWeight: '750' },
  '.drawn-italic': { fontStyle: 'italic' },
  '.drawn-underline': { textDecoration: 'underline' },
  '.drawn-highlight': { backgroundColor: 'var(--amber-soft)' },
  '.drawn-colour': { color: 'var(--brick)' },
  '.drawn-below': { verticalAlign: 'sub', fontSize: '0.75em', lineHeight: '1' },
  '.drawn-above': { verticalAlign: 'super', fontSize: '0.75em', lineHeight: '1' },
  '.doubt': { textDecoration: 'underline wavy var(--amber)', textUnderlineOffset: '4px' },
  '.doubt-error': { textDecorationColor: 'var(--brick)' },
  '&.cm-focused': { outline: 'none' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '2px' },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground': {
    background: 'color-mix(in srgb, var(--beet) 22%, transparent) !important',
  },
  '.cm-panels': { backgroundColor: 'var(--paper)', color: 'var(--ink)' },
  '.draft-picture': { display: 'inline-block', maxHeight: '120px', maxWidth: '320px', verticalAlign: 'middle', border: '1px solid var(--rule)' },
  '.cm-placeholder': { color: 'var(--ink-2)', whiteSpace: 'pre-wrap' },
});

export interface EditorHooks {
  onChange(view: EditorView): void;
  onPick(view: EditorView, line: number): void;
  /** The line of the caret, and the first and last line that are selected. */
  onCaret(line: number, selected: readonly [number, number]): void;
  /** Several lines are to be shown as one question. */
  onShow?(from: number, to: number): void;
  onGeometry(): void;
  /** What the empty editor says; the words for a draft where nothing is given. */
  placeholder?: string;
  label?: string;
}

export function createEditor(parent: HTMLElement, text: string, kept: readonly Override[], readOnly: boolean, hooks: EditorHooks): EditorView {
  const view = new EditorView({
    doc: text,
    parent,
    extensions: [
      lineNumbers(),
      roleGutter(hooks.onPick),
      history(),
      drawSelection(),
      EditorState.allowMultipleSelections.of(true),
      rectangularSelection(),
      crosshairCursor(),
      pictures,
      drawn,
      search({ top: true }),
      highlightSelectionMatches(),
      keymap.of([
        {
          key: 'Alt-Enter',
          run: (v) => {
            const [from, to] = selectedLines(v);
            if (to > from && hooks.onShow) hooks.onShow(from, to);
            else hooks.onPick(v, v.state.doc.lineAt(v.state.selection.main.head).number - 1);
            return true;
          },
        },
        ...defaultKeymap.filter((k) => k.key !== 'Alt-Enter' && k.key !== 'Mod-Enter'),
        ...historyKeymap,
        ...searchKeymap,
      ]),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': hooks.label ?? say('Draft'), spellcheck: 'true' }),
      EditorView.editable.of(!readOnly),
      placeholder(
        hooks.placeholder ??
          'Paste or type your questions here.\n\n1. What feeds the yeast in a sourdough starter?\na) salt\nb) sugars from the flour *\nc) butter',
      ),
      marks,
      overrides,
      looks,
      look,
      EditorView.updateListener.of((u) => {
        if (u.docChanged || u.startState.field(overrides) !== u.state.field(overrides)) hooks.onChange(u.view);
        if (u.selectionSet || u.docChanged) hooks.onCaret(u.state.doc.lineAt(u.state.selection.main.head).number - 1, selectedLines(u.view));
        if (u.geometryChanged || u.viewportChanged) hooks.onGeometry();
      }),
    ],
  });
  for (const o of kept) if (o.line < view.state.doc.lines) view.dispatch({ effects: setOverride.of({ line: o.line, role: o.role }) });
  return view;
}

export const showMarks = (view: EditorView, m: Marks): void => view.dispatch({ effects: setMarks.of(m) });
/** Says what lines are, or with null that the reader decides. */
export const override = (view: EditorView, said: readonly { line: number; role: Role | null }[]): void =>
  view.dispatch({ effects: said.filter((s) => s.line < view.state.doc.lines).map((s) => setOverride.of(s)) });
/** The first and the last line of the selection; a line of which nothing is selected does not count. */
export function selectedLines(view: EditorView): readonly [number, number] {
  const { from, to } = view.state.selection.main;
  const first = view.state.doc.lineAt(from).number - 1;
  const last = view.state.doc.lineAt(to);
  return [first, Math.max(first, last.number - 1 - (to === last.from && to > from ? 1 : 0))];
}
