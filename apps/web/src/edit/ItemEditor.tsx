/** Editing an item in place. What is typed becomes an operation when typing rests; nothing has to be saved. */
import type { Editor } from '@tiptap/core';
import { gapMarks, type Item, type Operation, type QuizSet } from '@zakuska/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Details } from './Details.js';
import { EditorPageContext, type EditorPage } from './extensions.js';
import { type ItemEdit, ItemEditContext } from './itemEdit.js';
import { KindFields, Texts } from './Kinds.js';
import { MakeKind } from './MakeKind.js';
import { RichEditor } from './RichEditor.js';
import { Toolbar } from './Toolbar.js';
import { TypedNumber } from './typed.js';
import { say } from '../words/say.js';

const FormulaDialog = lazy(() => import('./FormulaDialog.js').then((m) => ({ default: m.FormulaDialog })));

type FormulaAsked = { tex: string; display: boolean; done: (f: { tex: string; display: boolean } | null) => void };

export function ItemEditor({
  item,
  set,
  current,
  perform,
  onDone,
}: {
  item: Item;
  set: QuizSet /** The item as it is at this moment. */;
  current: (id: string) => Item | undefined;
  perform: (o: Operation) => boolean;
  onDone: () => void;
}) {
  const [active, setActive] = useState<Editor | null>(null);
  const [formula, setFormula] = useState<FormulaAsked | null>(null);
  const { id } = item;
  const latest = useRef({ current, perform });
  latest.current = { current, perform };

  const edit = useCallback<ItemEdit['edit']>(
    (kind, make) => {
      const now = latest.current.current(id);
      if (!now || (kind !== null && now.kind !== kind)) return;
      const made = make(now as never);
      const was = now as unknown as Record<string, unknown>;
      const put = Object.fromEntries(Object.entries(made).filter(([k, v]) => v !== undefined && JSON.stringify(v) !== JSON.stringify(was[k])));
      const unset = Object.keys(made).filter((k) => made[k] === undefined && was[k] !== undefined);
      if (Object.keys(put).length || unset.length) latest.current.perform({ type: 'change', id, set: put, ...(unset.length && { unset }) });
    },
    [id],
  );
  const box = useRef<HTMLElement>(null);
  // the editor is taller than the item was: its top comes to the top of what scrolls, and nothing else moves
  useEffect(() => {
    const main = box.current?.closest('main');
    const article = box.current?.closest('article');
    if (main && article) main.scrollTop += article.getBoundingClientRect().top - main.getBoundingClientRect().top;
  }, []);
  const language = item.language ?? set.language;
  const itemEdit = useMemo<ItemEdit>(() => ({ edit, focus: setActive, language }), [edit, language]);
  const gaps = item.kind === 'cloze' ? item.gaps : null;
  const page = useMemo<EditorPage>(
    () => ({
      editFormula: (tex, display, done) => setFormula({ tex, display, done }),
      gapText: (gap) => {
        const g = gaps?.find((x) => x.id === gap);
        return !g
          ? ''
          : g.kind === 'choice'
            ? (g.options.find((o) => o.credit >= 1)?.content ?? '')
            : g.kind === 'text'
              ? (g.answers[0]?.text ?? '')
              : (g.answers[0]?.text ?? String(g.answers[0]?.min ?? ''));
      },
    }),
    [gaps],
  );
  const newFormula = (editor: Editor): void =>
    setFormula({
      tex: editor.state.doc.textBetween(editor.state.selection.from, editor.state.selection.to).trim(),
      display: false,
      done: (f) => void (f && editor.chain().focus().insertContent({ type: 'formula', attrs: f }).run()),
    });
  /** The marked words become a gap whose answer they are; a question that has none becomes a text with gaps. */
  const newGap = (editor: Editor): void => {
    const { from, to } = editor.state.selection;
    const words = editor.state.doc.textBetween(from, to).trim();
    const now = current(id);
    if (!words || !now) return;
    const used = new Set(gapMarks(now.stem).concat(now.kind === 'cloze' ? now.gaps.map((g) => g.id) : []));
    let n = 1;
    while (used.has(String(n))) n++;
    edit('cloze', (i) => ({ gaps: [...i.gaps, { id: String(n), kind: 'text', points: 1, answers: [{ text: words, credit: 1 }] }] }));
    editor
      .chain()
      .focus()
      .insertContentAt({ from, to }, { type: 'gap', attrs: { id: String(n) } })
      .run();
  };
  const feedback = (name: 'correct' | 'incorrect' | 'general', v: string): void =>
    edit(null, (i: Item) => {
      const { [name]: _, ...rest } = i.feedback ?? {};
      const next = v ? { ...rest, [name]: v } : rest;
      return { feedback: Object.keys(next).length ? next : undefined };
    });
  return (
    <EditorPageContext.Provider value={page}>
      <ItemEditContext.Provider value={itemEdit}>
        <section ref={box} data-own-keys="all" aria-label={say('Edit the item')} className="grid gap-3 rounded-md border border-rule bg-paper p-3">
          <Toolbar editor={active} onFormula={newFormula} onGap={item.kind === 'cloze' ? newGap : null} />
          <RichEditor
            key={item.kind}
            label={item.kind === 'information' ? say('Text') : say('Question')}
            value={item.stem}
            autoFocus
            onFocus={setActive}
            onCommit={(stem) =>
              edit(null, (i: Item) => {
                if (i.kind !== 'cloze') return { stem };
                const left = new Set(gapMarks(stem));
                return { stem, gaps: i.gaps.filter((g) => left.has(g.id)) };
              })
            }
          />
          <KindFields item={item} />
          {item.kind !== 'information' && (
            <div className="grid gap-3 lg:grid-cols-[auto_1fr_1fr_1fr]">
              <TypedNumber label={say('Points')} value={item.points} onCommit={(n) => edit(null, () => ({ points: Math.round((n ?? 0) * 1e4) / 1e4 }))} />
              <RichEditor
                label={say('Feedback when right')}
                line
                value={item.feedback?.correct ?? ''}
                onFocus={setActive}
                onCommit={(v) => feedback('correct', v)}
              />
              <RichEditor
                label={say('Feedback when wrong')}
                line
                value={item.feedback?.incorrect ?? ''}
                onFocus={setActive}
                onCommit={(v) => feedback('incorrect', v)}
              />
              <RichEditor
                label={say('Feedback always')}
                line
                value={item.feedback?.general ?? ''}
                onFocus={setActive}
                onCommit={(v) => feedback('general', v)}
              />
            </div>
          )}
          {item.kind !== 'information' && item.hints !== undefined && (
            <Texts
              id={item.id}
              legend={say('Hints, one after the other')}
              name="hint"
              addWords={say('Add a hint')}
              texts={item.hints}
              onChange={(make) => edit(null, (i: Item) => ({ hints: empty(make(i.hints ?? [])) }))}
            />
          )}
          <Details item={item} set={set} edit={edit} perform={perform} focus={setActive} />
          <div className="flex flex-wrap items-center gap-3">
            <Button look="primary" keys="Esc" onClick={onDone}>
              {say('Done')}
            </Button>
            {item.kind !== 'information' && item.hints === undefined && (
              <Button look="quiet" onClick={() => edit(null, () => ({ hints: [''] }))}>
                {say('Add a hint')}
              </Button>
            )}
            <MakeKind item={item} language={set.language} now={() => current(id) ?? item} onMake={(made) => perform({ type: 'replace', item: made })} />
            <span className="flex-1" />
            <span className="text-[13px] text-ink-2">{say('Edits are saved by themselves.')}</span>
          </div>
          {formula && (
            <Suspense fallback={null}>
              <FormulaDialog
                tex={formula.tex}
                display={formula.display}
                onClose={() => setFormula(null)}
                onDone={(f) => {
                  formula.done(f);
                  setFormula(null);
                }}
              />
            </Suspense>
          )}
        </section>
      </ItemEditContext.Provider>
    </EditorPageContext.Provider>
  );
}

const empty = (list: string[]): string[] | undefined => (list.length ? list : undefined);
