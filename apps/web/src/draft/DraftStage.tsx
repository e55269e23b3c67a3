/** Draft: the page as it was pasted, and in the margin, line by line, what was understood. */
import { type Fix, type Item, keyProblem } from '@zakuska/core';
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useNavigate } from 'react-router';
import { cellOf, KeyStrip } from '../item/KeyStrip.js';
import { useOpenFiles } from '../open/OpenFiles.js';
import { useOpenSet } from '../set/context.js';
import { SourcePane } from '../sources/SourcePane.js';
import { useShownSource, useSources } from '../sources/sources.js';
import { useCommands } from '../ui/commands.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';
import { Failed } from '../worker/Failed.js';
import { DoubtNotes, LineDoubts } from './DoubtNotes.js';
import { DraftFoot } from './DraftFoot.js';
import { DraftStart } from './DraftStart.js';
import { selectedLines, showMarks } from './editor.js';
import { KeyQuestion } from './KeyQuestion.js';
import { NotationGuide } from './NotationGuide.js';
import { takeMarked, takePaste } from './paste.js';
import { ReadingLine } from './ReadingLine.js';
import { RoleMenu } from './RoleMenu.js';
import { ShowQuestion } from './ShowQuestion.js';
import { TakeAgain } from './TakeAgain.js';
import { type Said, useCorrections } from './useCorrections.js';
import { useDraftEditor } from './useDraftEditor.js';
import { readAll, type Reading, useReading } from './useReading.js';
import { useTaking } from './useTaking.js';

const NONE: Item[] = [];

/** What a reading doubts: all that can be acted on, what of it is no mere hint, and the fixes that are safe to apply unseen. */
function useDoubts(reading: Reading | null) {
  return useMemo(() => {
    const notes = (reading?.diagnostics ?? []).filter((d) => d.severity !== 'info' || d.fixes?.length);
    return {
      notes,
      doubts: notes.filter((d) => d.severity !== 'info'),
      safe: notes.flatMap((d) => d.fixes?.filter((f) => f.safe).slice(0, 1) ?? []),
    };
  }, [reading]);
}

export default function DraftStage() {
  const { draft, document: doc, mayEdit, view: setView } = useOpenSet();
  const state = useSyncExternalStore(draft.subscribe, draft.get);
  const editor = useDraftEditor(draft, mayEdit, state.replaced);
  const { view, page, caret, picking, showing, goTo, edit } = editor;
  // until a person decided, no look is taken for a mark of keys
  const { reading, busy, failed, again } = useReading(state.text, state.overrides, doc.set.language, state.keysFrom ?? 'none', caret);
  const files = useOpenFiles();
  const [guide, setGuide] = useState(false);
  const [sourceShown, showSource] = useShownSource();
  const sources = useSources(setView.id);
  const navigate = useNavigate();

  useEffect(() => {
    if (reading && view.current && reading.text === view.current.state.doc.toString()) showMarks(view.current, reading);
  }, [view, reading, state.replaced]);
  const correct = useCorrections(view, reading);
  const read = readAll(reading, state.text) ? reading : null;
  const taking = useTaking(read);

  const items = reading?.set.items ?? NONE;
  const keyed = useMemo(() => items.filter((i) => !keyProblem(i)).length, [items]);
  const { notes, doubts, safe } = useDoubts(reading);
  const caretAt = view.current && caret < view.current.state.doc.lines ? view.current.state.doc.line(caret + 1).from : 0;
  const caretItem = items.find((i) => i.source && i.source.from <= caretAt && caretAt <= i.source.to);
  const nextDoubt = useCallback(
    (by: 1 | -1) => {
      const at = view.current?.state.selection.main.head ?? 0;
      const list = by > 0 ? doubts : [...doubts].reverse();
      const d = list.find((x) => (by > 0 ? x.from > at : x.from < at)) ?? list[0];
      if (d) goTo(d.from);
    },
    [view, doubts, goTo],
  );
  const fixAll = (): void => edit(safe.flatMap((f) => f.edits));
  const to = (name: string, where: string) => ({ name, run: () => void navigate(`/sets/${setView.id}/draft/${where}`) });
  useCommands([
    { name: say('Take the items to Check'), keys: ['Ctrl Enter'], whileTyping: true, run: () => mayEdit && state.text.trim() !== '' && taking.takeWhenRead() },
    { name: say('Next doubt'), keys: ['F8'], whileTyping: true, run: () => nextDoubt(1) },
    { name: say('Previous doubt'), keys: ['Shift F8'], whileTyping: true, run: () => nextDoubt(-1) },
    { name: say('The notation, with examples'), run: () => setGuide(true) },
    ...(mayEdit
      ? [
          to(say('Have the draft put into the notation'), 'notation'),
          to(say('Draft from a source'), 'source'),
          to(say('Draft from a list of words'), 'words'),
          to(say('Ask an assistant for a draft'), 'request'),
        ]
      : []),
    {
      name: say('Show what the selected lines are'),
      // the editor hears it, and opens the roles of one line where one is meant
      shown: 'Alt Enter',
      run: () => view.current && editor.setShowing(selectedLines(view.current)),
    },
    ...(mayEdit && safe.length ? [{ name: say('Apply all safe fixes'), run: fixAll }] : []),
  ]);

  const fix = (f: Fix): void => (f.roles?.length ? correct(f.roles as Said[]) : edit(f.edits));
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto_auto]">
      <DraftKeys reading={reading} items={items} keyed={keyed} now={caretItem?.id} goTo={goTo} />
      <div className={`grid min-h-0 ${sourceShown === null ? 'grid-cols-1' : 'grid-rows-2 lg:grid-cols-2 lg:grid-rows-1'}`}>
        <main
          ref={page}
          tabIndex={sourceShown === null ? undefined : 0}
          className={`grid min-h-0 grid-cols-1 items-start gap-x-6 overflow-auto px-0 sm:px-6 ${sourceShown === null ? 'lg:grid-cols-[minmax(0,1fr)_330px]' : ''}`}
          onPasteCapture={(e) => takePaste(e, view.current, state.text.length)}
        >
          <section className="min-h-full border-x border-rule bg-sheet" aria-label={say('Draft text')}>
            {!state.text && mayEdit && (
              <DraftStart
                set={setView.id}
                onFiles={files.pick}
                onSample={(text) => view.current && edit([{ from: 0, to: view.current.state.doc.length, insert: text }])}
              />
            )}
            {mayEdit && reading && <KeyQuestion looks={reading.looks} decided={state.keysFrom} onDecide={(k) => draft.decideKeys(k)} />}
            <div ref={editor.host} />
            {picking && (
              <RoleMenu
                at={picking}
                role={reading?.roles[picking.line]}
                said={state.overrides.some((o) => o.line === picking.line)}
                onClose={() => {
                  editor.setPicking(null);
                  editor.focus();
                }}
                onPick={(role) => correct([{ line: picking.line, role }])}
              />
            )}
          </section>
          {sourceShown === null && (
            <DoubtNotes doubts={read ? notes : []} view={view.current} geometry={editor.geometry} onFix={fix} onGo={goTo} mayEdit={mayEdit} />
          )}
        </main>
        {sourceShown !== null && (
          <SourcePane
            set={setView.id}
            shown={sourceShown || undefined}
            mayEdit={mayEdit}
            onShow={(id) => showSource(id ?? '')}
            onClose={() => showSource(null)}
            onMark={(marked) => {
              if (!view.current || !takeMarked(view.current, marked, items.length + 1)) return;
              page.current?.scrollTo({ top: page.current.scrollHeight });
              editor.focus();
            }}
          />
        )}
      </div>
      {/* beside the lines on wide screens */}
      <div>
        {read && <LineDoubts doubts={notes.filter((d) => d.line === caret + 1)} mayEdit={mayEdit} onFix={fix} />}
        {reading?.text ? <ReadingLine line={caret} role={reading.roles[caret]} item={caretItem} /> : null}
      </div>
      <DraftFoot
        set={setView.id}
        items={items}
        keyed={keyed}
        asides={reading?.text ? reading.asides : undefined}
        doubts={doubts.length}
        busy={busy}
        failed={failed && <Failed what={say('This text could not be read as it is now. It is kept as you typed it.')} again={again} />}
        mayEdit={mayEdit}
        current={read !== null}
        selected={editor.selected}
        safe={safe.length}
        sources={sources.data?.length ?? 0}
        sourceShown={sourceShown !== null}
        onSource={(shown) => showSource(shown ? '' : null)}
        onNextDoubt={() => nextDoubt(1)}
        onGuide={() => setGuide(true)}
        onShow={editor.setShowing}
        onFixAll={fixAll}
        onTake={taking.take}
      />
      {showing && view.current && (
        <ShowQuestion
          lines={Array.from({ length: showing[1] - showing[0] + 1 }, (_, i) => ({
            line: showing[0] + i,
            text: view.current?.state.doc.line(showing[0] + i + 1).text ?? '',
          }))}
          roles={reading?.roles ?? []}
          onClose={() => {
            editor.setShowing(null);
            editor.focus();
          }}
          onSay={correct}
        />
      )}
      <Modal open={guide} onClose={() => setGuide(false)} title={say('The notation')} wide>
        <NotationGuide />
      </Modal>
      {taking.fresh && <TakeAgain fresh={taking.fresh.items} sections={taking.fresh.sections} onClose={taking.end} />}
    </div>
  );
}

/** The strip of keys as they were read; what is wrong with one shows. */
function DraftKeys({
  reading,
  items,
  keyed,
  now,
  goTo,
}: {
  reading: Reading | null;
  items: readonly Item[];
  keyed: number;
  now: string | undefined;
  goTo: (offset: number) => void;
}) {
  const cells = useMemo(() => {
    const wrong = new Map((reading?.diagnostics ?? []).filter((d) => d.severity === 'error' && d.item).map((d) => [d.item, d]));
    return items.map((i, n) => {
      const cell = cellOf(i, n, undefined, wrong.has(i.id));
      return wrong.get(i.id)?.code === 'key-unknown-option' ? { ...cell, sign: '?!' } : cell;
    });
  }, [reading, items]);
  return (
    <KeyStrip
      cells={cells}
      now={now}
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
  );
}
