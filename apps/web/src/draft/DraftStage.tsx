/** Draft: the page as it was pasted, and in the margin, line by line, what was understood. */
import { type Fix, fromHtml, isPageSource, keyProblem, type Item, type Role, taughtBy, writtenOut } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { Foot } from '../frame/Frame.js';
import { useOpenFiles } from '../open/OpenFiles.js';
import { cellOf, KeyStrip } from '../item/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import type { Marked } from '../sources/PdfPages.js';
import { SourcePane } from '../sources/SourcePane.js';
import { useShownSource, useSources } from '../sources/sources.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useCommands } from '../ui/commands.js';
import { createEditor, override, overridesOf, selectedLines, showMarks } from './editor.js';
import { DoubtCount } from './DoubtCount.js';
import { NotationGuide } from './NotationGuide.js';
import { ReadingLine } from './ReadingLine.js';
import { KeyQuestion } from './KeyQuestion.js';
import { DoubtNotes, LineDoubts } from './DoubtNotes.js';
import { type Picking, RoleMenu } from './RoleMenu.js';
import { ROLES } from './roles.js';
import { ShowQuestion } from './ShowQuestion.js';
import { TakeAgain } from './TakeAgain.js';
import { readAll, useReading } from './useReading.js';
import { Failed } from '../worker/Failed.js';
import { inSentence, say } from '../words/say.js';
import { fixed } from '../ui/figures.js';

const LIMIT = 8_000_000;
const SAMPLE = `Sure! Here are three questions on starters:

1. What feeds the yeast in a sourdough starter?
a) salt
b) sugars from the flour *
c) butter

2. True or False: Salt speeds up fermentation.
Answer: False

3. With 500 g flour and 380 g water the hydration is ____ %. [76]

Let me know if you would like more!
`;

interface Said {
  line: number;
  role: Role;
}

const NONE: Item[] = [];

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

export default function DraftStage() {
  const { draft, session, document: doc, mayEdit, view: setView } = useOpenSet();
  const state = useSyncExternalStore(draft.subscribe, draft.get);
  const language = doc.set.language;
  // until a person decided, no look is taken for a mark of keys
  const [caret, setCaret] = useState(0);
  const { reading, busy, failed, again } = useReading(state.text, state.overrides, language, state.keysFrom ?? 'none', caret);
  const files = useOpenFiles();
  const host = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const [picking, setPicking] = useState<Picking | null>(null);
  const [geometry, setGeometry] = useState(0);
  const [taking, setTaking] = useState<Item[] | null>(null);
  const [guide, setGuide] = useState(false);
  const [selected, setSelected] = useState<readonly [number, number]>([0, 0]);
  const [showing, setShowing] = useState<readonly [number, number] | null>(null);
  const [sourceShown, showSource] = useShownSource();
  const sources = useSources(setView.id);
  const navigate = useNavigate();

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
    draft.editor = (added) => {
      const whole = v.state.doc.length;
      // where the caret is, if somebody is writing; else behind what is there
      const { from, to } = v.hasFocus ? v.state.selection.main : { from: whole, to: whole };
      const at = v.state.doc.toString().trim() ? { from, to } : { from: 0, to: whole };
      const before = v.state.sliceDoc(0, at.from);
      const lead = before.trim() ? (before.endsWith('\n\n') ? '' : '\n\n') : '';
      v.dispatch({ changes: { ...at, insert: `${lead}${added}` }, selection: { anchor: at.from + lead.length }, userEvent: 'input.paste' });
    };
    const taken = mayEdit ? takeCaret(v) : undefined;
    return () => {
      clearTimeout(taken);
      draft.editor = null;
      v.destroy();
    };
    // the editor is made anew when the text was replaced from outside
  }, [draft, mayEdit, state.replaced]);

  useEffect(() => {
    if (reading && view.current && reading.text === view.current.state.doc.toString()) showMarks(view.current, reading);
  }, [reading, state.replaced]);

  // what a correction taught is told once the reading that knows it is there
  const corrected = useRef<{ said: readonly Said[]; before: NonNullable<typeof reading> } | null>(null);
  const correct = useCallback(
    (said: readonly { line: number; role: Role | null }[]): void => {
      const v = view.current;
      if (!v) return;
      const sure = said.filter((s): s is Said => s.role !== null);
      corrected.current = sure.length && readAll(reading, v.state.doc.toString()) ? { said: sure, before: reading } : null;
      override(v, said);
    },
    [reading],
  );
  useEffect(() => {
    const c = corrected.current;
    if (!c || !reading || reading === c.before || reading.text !== c.before.text) return;
    corrected.current = null;
    const own = new Set(c.said.map((s) => s.line));
    const further = [...new Set(c.said.flatMap((s) => taughtBy(c.before.roles, reading.roles, s.line)))].filter((l) => !own.has(l)).length;
    const undo = {
      label: say('Undo'),
      onClick: () =>
        view.current &&
        override(
          view.current,
          c.said.map((s) => ({ line: s.line, role: null })),
        ),
    };
    const [one] = c.said;
    if (c.said.length > 1)
      toast(
        say('Read as you showed{what}: {items} questions.', {
          what: further ? say(', and {further} further {further, plural, one {line} other {lines}} like them', { further }) : '',
          items: reading.set.items.length,
        }),
        { duration: 10_000, action: undo },
      );
    else if (one && further) {
      const name = inSentence(ROLES.find((r) => r.role === one.role)?.name ?? one.role);
      toast(say('{further} further {further, plural, one {line is} other {lines are}} read as “{name}” too.', { further, name }), {
        duration: 10_000,
        action: undo,
      });
    }
  }, [reading]);

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

  const items = reading?.set.items ?? NONE;
  const notes = useMemo(() => (reading?.diagnostics ?? []).filter((d) => d.severity !== 'info' || d.fixes?.length), [reading]);
  const doubts = useMemo(() => notes.filter((d) => d.severity !== 'info'), [notes]);
  const safe = useMemo(() => notes.flatMap((d) => d.fixes?.filter((f) => f.safe).slice(0, 1) ?? []), [notes]);
  const current = readAll(reading, state.text);
  const wrong = useMemo(() => new Map(doubts.filter((d) => d.severity === 'error' && d.item).map((d) => [d.item, d])), [doubts]);
  const cells = useMemo(
    () =>
      items.map((i, n) => {
        const cell = cellOf(i, n, undefined, wrong.has(i.id));
        return wrong.get(i.id)?.code === 'key-unknown-option' ? { ...cell, sign: '?!' } : cell;
      }),
    [items, wrong],
  );
  const caretItem = useMemo(() => {
    const at = view.current && caret < view.current.state.doc.lines ? view.current.state.doc.line(caret + 1).from : 0;
    return items.find((i) => i.source && i.source.from <= at && at <= i.source.to)?.id;
  }, [caret, items]);

  const take = useCallback(() => {
    if (!readAll(reading, draft.get().text)) return;
    const taken = doc.set.items;
    const fresh = reading.set.items;
    if (!taken.length) {
      session.perform({
        type: 'all',
        label: say('Take the items'),
        operations: [
          { type: 'insert', at: 0, items: fresh },
          ...(reading.set.sections ? [{ type: 'describe' as const, set: { sections: reading.set.sections } }] : []),
        ],
      });
      void navigate(`/sets/${setView.id}/check`);
    } else setTaking(fresh);
  }, [reading, draft, doc.set.items, session, navigate, setView.id]);
  // asked for while the last letters were still being read: done when they are
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    if (!asked || !current) return;
    setAsked(false);
    if (items.length) take();
    else toast(say('No question was found in the draft yet.'));
  }, [asked, current, items.length, take]);
  const nextDoubt = useCallback(
    (by: 1 | -1) => {
      const at = view.current?.state.selection.main.head ?? 0;
      const list = by > 0 ? doubts : [...doubts].reverse();
      const d = list.find((x) => (by > 0 ? x.from > at : x.from < at)) ?? list[0];
      if (d) goTo(d.from);
    },
    [doubts, goTo],
  );
  useCommands([
    { name: say('Take the items to Check'), keys: ['Ctrl Enter'], whileTyping: true, run: () => setAsked(mayEdit && state.text.trim() !== '') },
    { name: say('Next doubt'), keys: ['F8'], whileTyping: true, run: () => nextDoubt(1) },
    { name: say('Previous doubt'), keys: ['Shift F8'], whileTyping: true, run: () => nextDoubt(-1) },
    { name: say('The notation, with examples'), run: () => setGuide(true) },
    ...(mayEdit ? [{ name: say('Have the draft put into the notation'), run: () => void navigate(`/sets/${setView.id}/draft/notation`) }] : []),
    ...(mayEdit ? [{ name: say('Draft from a source'), run: () => void navigate(`/sets/${setView.id}/draft/source`) }] : []),
    ...(mayEdit ? [{ name: say('Draft from a list of words'), run: () => void navigate(`/sets/${setView.id}/draft/words`) }] : []),
    ...(mayEdit ? [{ name: say('Ask an assistant for a draft'), run: () => void navigate(`/sets/${setView.id}/draft/request`) }] : []),
    {
      name: say('Show what the selected lines are'),
      // the editor hears it, and opens the roles of one line where one is meant
      shown: 'Alt Enter',
      run: () => view.current && setShowing(selectedLines(view.current)),
    },
    ...(mayEdit && safe.length ? [{ name: say('Apply all safe fixes'), run: () => edit(safe.flatMap((f) => f.edits)) }] : []),
  ]);

  const onPaste = (e: React.ClipboardEvent): void => {
    const html = e.clipboardData.getData('text/html');
    const plain = e.clipboardData.getData('text/plain');
    // the source of a page is read as the page
    const source = isPageSource(plain) ? plain : html;
    const rich = source && source.length < LIMIT ? fromHtml(source) : null;
    const written = plain.length < LIMIT ? writtenOut(plain) : null;
    const text = written?.text ?? (rich?.formatted ? rich.text : plain);
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they tell binary data from text
    const odd = text.slice(0, 20_000).match(/[\u0000-\u0008\u000e-\u001a\ufffd]/g)?.length ?? 0;
    if (text.length + state.text.length > LIMIT) {
      e.preventDefault();
      toast.error(
        say('This paste has {n} million characters; a draft holds 8 million. Split it into several sets. Nothing was changed.', {
          n: fixed(text.length / 1e6, 1),
        }),
      );
    } else if (odd > 5 && odd > Math.min(text.length, 20_000) * 0.01) {
      e.preventDefault();
      e.stopPropagation();
      toast.error(say('What was pasted is no text. Copy the words themselves from the program that shows them. Nothing was changed.'));
    } else if (written && view.current) {
      e.preventDefault();
      e.stopPropagation();
      view.current.dispatch(view.current.state.replaceSelection(written.text), { userEvent: 'input.paste', scrollIntoView: true });
      toast(written.note);
    } else if (rich?.formatted && view.current) {
      e.preventDefault();
      e.stopPropagation();
      view.current.dispatch(view.current.state.replaceSelection(rich.text), { userEvent: 'input.paste', scrollIntoView: true });
      const lost = rich.picturesLost
        ? say(' {picturesLost, plural, one {# picture} other {# pictures}} could not come along: only the address was copied.', {
            picturesLost: rich.picturesLost,
          })
        : '';
      toast(say('Pasted with its numbers, bold and tables.{lost} Ctrl Shift V pastes the words alone.', { lost }));
    }
  };

  const mark = (marked: Marked): void => {
    const v = view.current;
    if (!v) return;
    const at = v.state.doc.length;
    const lead = v.state.doc.toString().trim() ? (v.state.sliceDoc(Math.max(0, at - 2)) === '\n\n' ? '' : '\n\n') : '';
    // a region with numbers of its own keeps them
    const own = /^\s*(?:\d{1,3}\s?[.)]|\p{L}{1,10}\s*\d{1,3}\s*[.:)])/mu;
    const words = marked.as === 'text' ? marked.text : `<img src="${marked.src}" alt="${marked.alt.replace(/["<>]/g, '')}"/>\n`;
    if (at + words.length > LIMIT)
      return void toast.error(say('The draft holds 8 million characters; this picture would be too much. Take the items to Check first.'));
    const insert = `${lead}${own.test(words) ? '' : `${items.length + 1}. `}${words}`;
    v.dispatch({ changes: { from: at, insert }, selection: { anchor: at + insert.length }, userEvent: 'input.paste', scrollIntoView: true });
    page.current?.scrollTo({ top: page.current.scrollHeight });
    v.focus();
    toast(
      marked.as === 'text'
        ? say('The text stands at the end of the draft.')
        : say('The picture stands at the end of the draft as a question; type its options and key below.'),
    );
  };
  const fix = (f: Fix): void => (f.roles?.length ? correct(f.roles as Said[]) : edit(f.edits));
  const keyed = items.filter((i) => !keyProblem(i)).length;
  const asides = reading?.asides ?? 0;
  const options = items.reduce((n, i) => n + ('options' in i ? i.options.length : 0), 0);
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto_auto]">
      <KeyStrip
        cells={cells}
        now={caretItem}
        items={items}
        onPick={(id) => goTo(items.find((i) => i.id === id)?.source?.from ?? 0)}
        left={
          <>
            {say('{items, plural, one {# question} other {# questions}} read', { items: items.length })}
            <br />
            {say('{keyed} with a key', { keyed })}
          </>
        }
      />
      <div className={`grid min-h-0 ${sourceShown === null ? 'grid-cols-1' : 'grid-rows-2 lg:grid-cols-2 lg:grid-rows-1'}`}>
        <main
          ref={page}
          tabIndex={sourceShown === null ? undefined : 0}
          className={`grid min-h-0 grid-cols-1 items-start gap-x-6 overflow-auto px-0 sm:px-6 ${sourceShown === null ? 'lg:grid-cols-[minmax(0,1fr)_330px]' : ''}`}
          onPasteCapture={onPaste}
        >
          <section className="min-h-full border-x border-rule bg-sheet" aria-label={say('Draft text')}>
            {!state.text && mayEdit && (
              <div className="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-3">
                <p className="max-w-md">
                  {say('Paste the questions as they are, with greetings, numbers, stars and answer lines. Nothing has to be tidied first.')}
                </p>
                <Button onClick={() => view.current && edit([{ from: 0, to: view.current.state.doc.length, insert: SAMPLE }])}>
                  {say('Try it with a sample')}
                </Button>
                <Button onClick={files.pick}>{say('Open files')}</Button>
                <span className="flex flex-wrap gap-x-4 text-sm">
                  <span>{say('or draft:')}</span>
                  <Link className="link" to={`/sets/${setView.id}/draft/source`}>
                    {say('from a source')}
                  </Link>
                  <Link className="link" to={`/sets/${setView.id}/draft/words`}>
                    {say('from a list of words')}
                  </Link>
                  <Link className="link" to={`/sets/${setView.id}/draft/request`}>
                    {say('with an assistant')}
                  </Link>
                </span>
              </div>
            )}
            {mayEdit && reading && <KeyQuestion looks={reading.looks} decided={state.keysFrom} onDecide={(k) => draft.decideKeys(k)} />}
            <div ref={host} />
            {picking && (
              <RoleMenu
                at={picking}
                role={reading?.roles[picking.line]}
                said={state.overrides.some((o) => o.line === picking.line)}
                onClose={() => {
                  setPicking(null);
                  view.current?.focus();
                }}
                onPick={(role) => correct([{ line: picking.line, role }])}
              />
            )}
          </section>
          {sourceShown === null && (
            <DoubtNotes doubts={current ? notes : []} view={view.current} geometry={geometry} onFix={fix} onGo={goTo} mayEdit={mayEdit} />
          )}
        </main>
        {sourceShown !== null && (
          <SourcePane
            set={setView.id}
            shown={sourceShown || undefined}
            mayEdit={mayEdit}
            onShow={(id) => showSource(id ?? '')}
            onClose={() => showSource(null)}
            onMark={mark}
          />
        )}
      </div>
      {/* beside the lines on wide screens */}
      <div>
        {current && <LineDoubts doubts={notes.filter((d) => d.line === caret + 1)} mayEdit={mayEdit} onFix={fix} />}
        {reading?.text ? <ReadingLine line={caret} role={reading.roles[caret]} item={items.find((i) => i.id === caretItem)} /> : null}
      </div>
      <Foot>
        <span role="status" className="min-w-0 flex-1 max-lg:basis-full">
          {failed ? (
            <Failed what={say('This text could not be read as it is now. It is kept as you typed it.')} again={again} />
          ) : busy ? (
            say('Reading …')
          ) : reading?.text ? (
            say(
              '{items, plural, one {# question} other {# questions}} · {options, plural, one {# option} other {# options}} · {keyed, plural, one {# key} other {# keys}} · {asides, plural, one {# line} other {# lines}} set aside',
              { items: items.length, options, keyed, asides },
            )
          ) : (
            say('Nothing to read yet')
          )}
          {!busy && !failed && <DoubtCount count={doubts.length} onNext={() => nextDoubt(1)} />}
          {!busy && !failed && mayEdit && doubts.length > 0 && (
            <Link className="link ml-3 inline-block" to={`/sets/${setView.id}/draft/notation`}>
              {say('Have it put into the notation')}
            </Link>
          )}
        </span>
        <Button look="quiet" aria-pressed={sourceShown !== null} onClick={() => showSource(sourceShown === null ? '' : null)}>
          {say('Sources{what}', { what: sources.data?.length ? ` (${sources.data.length})` : '' })}
        </Button>
        {mayEdit && (
          <Button look="quiet" onClick={() => void navigate(`/sets/${setView.id}/draft/${sources.data?.length ? 'source' : 'request'}`)}>
            {say('Draft help')}
          </Button>
        )}
        <Button look="quiet" onClick={() => setGuide(true)}>
          {say('Notation')}
        </Button>
        {mayEdit && selected[1] > selected[0] && (
          <Button onClick={() => setShowing(selected)}>{say('Show what these {n} lines are', { n: selected[1] - selected[0] + 1 })}</Button>
        )}
        {mayEdit && (
          <>
            {safe.length > 0 && (
              <Button onClick={() => edit(safe.flatMap((f) => f.edits))}>
                {say('Apply {safe} safe {safe, plural, one {fix} other {fixes}}', { safe: safe.length })}
              </Button>
            )}
            <Button look="primary" keys="Ctrl Enter" disabled={!items.length || !current} onClick={take}>
              {say('Take {items, plural, one {# item} other {# items}} to Check', { items: items.length })}
            </Button>
          </>
        )}
      </Foot>
      {showing && view.current && (
        <ShowQuestion
          lines={Array.from({ length: showing[1] - showing[0] + 1 }, (_, i) => ({
            line: showing[0] + i,
            text: view.current?.state.doc.line(showing[0] + i + 1).text ?? '',
          }))}
          roles={reading?.roles ?? []}
          onClose={() => {
            setShowing(null);
            view.current?.focus();
          }}
          onSay={correct}
        />
      )}
      <Modal open={guide} onClose={() => setGuide(false)} title={say('The notation')} wide>
        <NotationGuide />
      </Modal>
      {taking && <TakeAgain fresh={taking} sections={reading?.set.sections} onClose={() => setTaking(null)} />}
    </div>
  );
}
