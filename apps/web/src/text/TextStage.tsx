/** A set as text: edited in the notation with find, replace and several cursors, and taken back with ids and checks where nothing changed. */
import { difference, type Diagnostic, identified, type QuizSet, writeNotation } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { createEditor, showMarks } from '../draft/editor.js';
import { DoubtCount } from '../draft/DoubtCount.js';
import { NotationGuide } from '../draft/NotationGuide.js';
import { ReadingLine } from '../draft/ReadingLine.js';
import { readAll, useReading } from '../draft/useReading.js';
import { Failed } from '../worker/Failed.js';
import { Busy, Foot } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button, Kbd } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useCommands } from '../ui/commands.js';
import { keepText, keptText, type KeptText } from './TextSession.js';
import { Say, say } from '../words/say.js';

export default function TextStage() {
  const { document: doc, view } = useOpenSet();
  const [start, setStart] = useState<KeptText | null>(null);
  const [restored, setRestored] = useState(false);
  // the text is written once; later changes of the set are merged when it is taken back
  const written = useEffectEvent((): KeptText => ({ base: doc.set, text: writeNotation(doc.set) }));
  useEffect(() => {
    let current = true;
    void keptText(view.id).then((kept) => {
      if (!current) return;
      setRestored(kept !== null);
      setStart(kept ?? written());
    });
    return () => {
      current = false;
    };
  }, [view.id]);
  if (!start) return <Busy what={say('Writing the set as text')} />;
  return <TextEditor key={view.id} start={start} restored={restored} />;
}

function TextEditor({ start, restored }: { start: KeptText; restored: boolean }) {
  const { document: doc, session, mayEdit, view: setView } = useOpenSet();
  const [text, setText] = useState(start.text);
  const [caret, setCaret] = useState(0);
  const [guide, setGuide] = useState(false);
  const [sure, setSure] = useState(false);
  const [kept, setKept] = useState(true);
  const baseKept = useRef(restored);
  const host = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  const navigate = useNavigate();
  const noOverrides = useRef<[]>([]);
  const { reading, failed, again } = useReading(text, noOverrides.current, start.base.language, 'auto', caret);
  const first = useRef(writeNotation(start.base));
  const changed = text !== first.current;

  useEffect(() => {
    if (!host.current) return;
    const v = createEditor(host.current, start.text, [], !mayEdit, {
      onChange: (e) => {
        const now = e.state.doc.toString();
        setText(now);
        setKept(false);
        void keepText(setView.id, now === first.current ? null : { base: start.base, text: now }, !baseKept.current).then(() => {
          if (editor.current?.state.doc.toString() === now) setKept(true);
        });
        baseKept.current = now !== first.current;
      },
      onPick: () => undefined,
      onCaret: setCaret,
      onGeometry: () => undefined,
      label: say('Set as text'),
      placeholder: say('The set has no items. Type some in the notation.'),
    });
    editor.current = v;
    v.focus();
    return () => v.destroy();
  }, [start, mayEdit, setView.id]);
  useEffect(() => {
    if (reading && editor.current && reading.text === editor.current.state.doc.toString()) showMarks(editor.current, reading);
  }, [reading]);

  const back = useMemo(() => (readAll(reading, text) ? identified(start.base, reading.set, reading.diagnostics) : null), [reading, text, start.base]);
  const doubts = useMemo(() => (back?.diagnostics ?? []).filter((d) => d.severity !== 'info'), [back]);
  const goTo = useCallback((at: number) => {
    const v = editor.current;
    if (!v) return;
    v.dispatch({ selection: { anchor: Math.min(at, v.state.doc.length) } });
    page.current?.scrollTo({ top: Math.max(0, v.lineBlockAt(Math.min(at, v.state.doc.length)).top - 160) });
    v.focus();
  }, []);
  const nextDoubt = useCallback(() => {
    const at = editor.current?.state.selection.main.head ?? 0;
    const next: Diagnostic | undefined = doubts.find((d) => d.from > at) ?? doubts[0];
    if (next) goTo(next.from);
  }, [doubts, goTo]);

  const leave = useCallback(async () => {
    await keepText(setView.id, null, false);
    await navigate(`/sets/${setView.id}/check`);
  }, [navigate, setView.id]);
  const take = useCallback(() => {
    if (!back) return;
    const operations = difference(start.base, back.set);
    // what others did to the set while it was open as text stays: only what changed here is done
    const here = operations.filter((o) => o.type !== 'remove' || o.ids.some((id) => doc.set.items.some((i) => i.id === id)));
    if (here.length && !session.perform({ type: 'all', label: say('Take the text back'), operations: here })) {
      toast.error(say('The set was changed meanwhile in a way that the text does not fit. Your text is kept; open the set as text again to go on from it.'));
      return;
    }
    toast(here.length ? say('Taken back: {summary}. Undo brings the old set back.', { summary: summary(back) }) : say('Nothing was changed.'));
    void leave();
  }, [back, start.base, doc.set.items, session, leave]);

  useCommands([
    { name: say('Take the text back into the set'), keys: ['Ctrl Enter'], whileTyping: true, run: take },
    { name: say('Next doubt'), keys: ['F8'], whileTyping: true, run: nextDoubt },
    { name: say('The notation, with examples'), run: () => setGuide(true) },
  ]);

  const atCaret = editor.current && caret < editor.current.state.doc.lines ? editor.current.state.doc.line(caret + 1).from : 0;
  const item = reading?.set.items.find((i) => i.source && i.source.from <= atCaret && atCaret <= i.source.to);
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto_auto]">
      <section aria-label={say('About this text')} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-4 py-2 text-[14px] sm:px-6">
        <h2 className="text-base font-bold">{say('The set as text')}</h2>
        <p className="text-ink-2">
          {restored
            ? say('What you typed earlier is here again. It becomes the set when you take it back.')
            : say('Change it as you like; it becomes the set when you take it back.')}
        </p>
        <span className="hidden items-center gap-1 text-ink-2 lg:flex">
          <Kbd>Ctrl F</Kbd>{' '}
          <Say text="find and replace {kbd} next of the same {kbd2} drag: a column" values={{ kbd: <Kbd>Ctrl D</Kbd>, kbd2: <Kbd>Alt</Kbd> }} />
        </span>
      </section>
      <main ref={page} tabIndex={0} className="overflow-auto sm:px-6">
        <section className="min-h-full border-x border-rule bg-sheet" aria-label={say('Text of the set')}>
          <div ref={host} />
        </section>
      </main>
      {reading ? <ReadingLine line={caret} role={reading.roles[caret]} item={item} /> : <span />}
      <Foot>
        <span role="status" className="min-w-0 flex-1">
          {failed ? (
            <Failed what={say('This text could not be read as it is now. It is kept as you typed it.')} again={again} />
          ) : back ? (
            summary(back)
          ) : (
            say('Reading …')
          )}
          {changed && kept && say(' · kept in this browser')}
          <DoubtCount count={doubts.length} onNext={nextDoubt} />
        </span>
        <Button look="quiet" onClick={() => setGuide(true)}>
          {say('Notation')}
        </Button>
        <Button onClick={() => (changed ? setSure(true) : void leave())}>{changed ? say('Leave as it was') : say('Back to Check')}</Button>
        {mayEdit && (
          <Button look="primary" keys="Ctrl Enter" disabled={!back} onClick={take}>
            {say('Use this text')}
          </Button>
        )}
      </Foot>
      <Modal open={guide} onClose={() => setGuide(false)} title={say('The notation')} wide>
        <NotationGuide />
      </Modal>
      <Modal open={sure} onClose={() => setSure(false)} title={say('Leave the set as it was?')} description={say('What you typed in the text is thrown away.')}>
        <div className="flex gap-2">
          <Button look="danger" onClick={() => void leave()}>
            {say('Throw the text away')}
          </Button>
          <Button onClick={() => setSure(false)}>{say('Go on editing')}</Button>
        </div>
      </Modal>
    </div>
  );
}

/** What taking back would do, in a line. */
function summary(b: { same: number; changed: number; added: number; removed: number; set: QuizSet }): string {
  const parts = [say('{same} unchanged', { same: b.same })];
  if (b.changed) parts.push(say('{changed} changed', { changed: b.changed }));
  if (b.added) parts.push(say('{added} new', { added: b.added }));
  if (b.removed) parts.push(say('{removed} taken out', { removed: b.removed }));
  return parts.join(' · ');
}
