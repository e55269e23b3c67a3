/** Editing an item in place. What is typed becomes an operation when typing rests; nothing has to be saved. */
import type { Editor } from '@tiptap/core';
import {
  bloomLevels,
  convert,
  type Converted,
  gapMarks,
  type Item,
  type ItemOf,
  type Kind,
  kinds,
  newId,
  type Operation,
  type QuizSet,
  type Section,
} from '@zakuska/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { EditorPageContext, type EditorPage } from './extensions.js';
import { type ItemEdit, ItemEditContext } from './itemEdit.js';
import { KindFields, Texts } from './Kinds.js';
import { RichEditor } from './RichEditor.js';
import { Toolbar } from './Toolbar.js';
import { TypedArea, TypedNumber } from './typed.js';

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
  const [converting, setConverting] = useState<Converted | null>(null);
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
  const turn = (c: Converted): void => {
    setConverting(null);
    perform({ type: 'replace', item: c.item });
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
        <section ref={box} data-own-keys="all" aria-label="Edit the item" className="grid gap-3 rounded-md border border-rule bg-paper p-3">
          <Toolbar editor={active} onFormula={newFormula} onGap={item.kind === 'cloze' ? newGap : null} />
          <RichEditor
            key={item.kind}
            label={item.kind === 'information' ? 'Text' : 'Question'}
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
              <TypedNumber label="Points" value={item.points} onCommit={(n) => edit(null, () => ({ points: Math.round((n ?? 0) * 1e4) / 1e4 }))} />
              <RichEditor label="Feedback when right" line value={item.feedback?.correct ?? ''} onFocus={setActive} onCommit={(v) => feedback('correct', v)} />
              <RichEditor
                label="Feedback when wrong"
                line
                value={item.feedback?.incorrect ?? ''}
                onFocus={setActive}
                onCommit={(v) => feedback('incorrect', v)}
              />
              <RichEditor label="Feedback always" line value={item.feedback?.general ?? ''} onFocus={setActive} onCommit={(v) => feedback('general', v)} />
            </div>
          )}
          {item.kind !== 'information' && item.hints !== undefined && (
            <Texts
              id={item.id}
              legend="Hints, one after the other"
              name="hint"
              addWords="Add a hint"
              texts={item.hints}
              onChange={(make) => edit(null, (i: Item) => ({ hints: empty(make(i.hints ?? [])) }))}
            />
          )}
          <Details item={item} set={set} edit={edit} perform={perform} focus={setActive} />
          <div className="flex flex-wrap items-center gap-3">
            <Button look="primary" keys="Esc" onClick={onDone}>
              Done
            </Button>
            {item.kind !== 'information' && item.hints === undefined && (
              <Button look="quiet" onClick={() => edit(null, () => ({ hints: [''] }))}>
                Add a hint
              </Button>
            )}
            <label className="flex items-center gap-1.5 text-[13.5px]">
              Make it
              <Select
                className="w-auto! py-1!"
                value={item.kind}
                onChange={(e) => {
                  const c = convert(current(id) ?? item, e.target.value as Kind, set.language);
                  if (c.lost.length) setConverting(c);
                  else turn(c);
                }}
              >
                {(Object.keys(kinds) as Kind[]).map((k) => (
                  <option key={k} value={k}>
                    {kinds[k].name.toLowerCase()}
                  </option>
                ))}
              </Select>
            </label>
            <span className="flex-1" />
            <span className="text-[13px] text-ink-2">Edits are saved by themselves.</span>
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
          {converting && (
            <Modal
              open
              onClose={() => setConverting(null)}
              title={`Make it ${kinds[converting.item.kind].name.toLowerCase()}?`}
              foot={
                <>
                  <span className="flex-1" />
                  <Button onClick={() => setConverting(null)}>Cancel</Button>
                  <Button look="primary" autoFocus onClick={() => turn(converting)}>
                    Make it so
                  </Button>
                </>
              }
            >
              <p>This goes: {converting.lost.join('; ')}.</p>
              {converting.needed.length > 0 && <p className="mt-1">You will have to add {converting.needed.join(' and ')}.</p>}
              <p className="mt-1 text-ink-2">Undo brings it back.</p>
            </Modal>
          )}
        </section>
      </ItemEditContext.Provider>
    </EditorPageContext.Provider>
  );
}
const empty = (list: string[]): string[] | undefined => (list.length ? list : undefined);
const words = (v: string): string[] | undefined => {
  const list = [
    ...new Set(
      v
        .split(/[,;\n]/)
        .map((t) => t.trim())
        .filter(Boolean),
    ),
  ];
  return list.length ? list : undefined;
};
const THREE = [
  ['', 'as the set'],
  ['yes', 'yes'],
  ['no', 'no'],
] as const;

/** What is seldom changed: names, tags, settings of delivery, level, and the part with its passage. */
function Details({
  item,
  set,
  edit,
  perform,
  focus,
}: {
  item: Item;
  set: QuizSet;
  edit: ItemEdit['edit'];
  perform: (o: Operation) => boolean;
  focus: (e: Editor) => void;
}) {
  const part = set.sections?.find((s) => s.id === item.section);
  const section = (change: Partial<Section>): void => {
    const sections = (set.sections ?? []).map((s) =>
      s.id === item.section ? (Object.fromEntries(Object.entries({ ...s, ...change }).filter(([, v]) => v !== undefined && v !== '')) as Section) : s,
    );
    perform({ type: 'describe', set: { sections } });
  };
  const three = (name: 'required' | 'shuffle', label: string) => (
    <Field label={label}>
      {(id) => (
        <Select
          id={id}
          value={item[name] === undefined ? '' : item[name] ? 'yes' : 'no'}
          onChange={(e) => edit(null, () => ({ [name]: e.target.value === '' ? undefined : e.target.value === 'yes' }))}
        >
          {THREE.map(([v, t]) => (
            <option key={v} value={v}>
              {t}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
  const level = (change: NonNullable<Item['level']>): void =>
    edit(null, (i: ItemOf<Kind>) => {
      const next = Object.fromEntries(Object.entries({ ...i.level, ...change }).filter(([, v]) => v !== undefined));
      return { level: Object.keys(next).length ? next : undefined };
    });
  return (
    <details className="border-t border-rule pt-2">
      <summary className="cursor-pointer text-[13.5px] font-semibold">
        Part, tags and settings
        <span className="font-normal text-ink-2">
          {' '}
          {[part && (part.title ?? 'a part without a title'), ...(item.tags ?? []), ...(item.outcomes ?? []), item.timeLimit && `${item.timeLimit} s`]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <TypedArea label="Tags" hint="with commas between" value={item.tags?.join(', ') ?? ''} onCommit={(v) => edit(null, () => ({ tags: words(v) }))} />
        <TypedArea
          label="Outcomes"
          hint="with commas between"
          value={item.outcomes?.join(', ') ?? ''}
          onCommit={(v) => edit(null, () => ({ outcomes: words(v) }))}
        />
        <TypedArea label="Number or name" value={item.label ?? ''} onCommit={(v) => edit(null, () => ({ label: v.trim() || undefined }))} />
        <TypedArea label="Title" value={item.title ?? ''} onCommit={(v) => edit(null, () => ({ title: v.trim() || undefined }))} />
        <TypedNumber
          label="Time limit, seconds"
          optional
          value={item.timeLimit ?? null}
          min={1}
          onCommit={(n) => edit(null, () => ({ timeLimit: n ?? undefined }))}
        />
        {three('required', 'Must be answered')}
        {'options' in item || item.kind === 'matching' || item.kind === 'ordering' ? three('shuffle', 'Shuffled') : null}
        <Field label="What it asks for">
          {(id) => (
            <Select id={id} value={item.level?.bloom ?? ''} onChange={(e) => level({ bloom: (e.target.value || undefined) as never })}>
              <option value="">not said</option>
              {bloomLevels.map((b) => (
                <option key={b}>{b}</option>
              ))}
            </Select>
          )}
        </Field>
        <TypedArea
          label="Language"
          hint="a code, where it is not the set's"
          value={item.language ?? ''}
          onCommit={(v) => edit(null, () => ({ language: /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/i.test(v.trim()) ? v.trim() : undefined }))}
        />
        <label className="flex items-center gap-2 self-end pb-2">
          <input
            type="checkbox"
            className="size-4 accent-beet"
            checked={item.bonus ?? false}
            onChange={(e) => edit(null, () => ({ bonus: e.target.checked || undefined }))}
          />{' '}
          A bonus
        </label>
      </div>
      <div className="mt-3 grid gap-2">
        <div className="flex flex-wrap items-end gap-2">
          <Field label="Part">
            {(id) => (
              <Select id={id} className="w-auto!" value={item.section ?? ''} onChange={(e) => edit(null, () => ({ section: e.target.value || undefined }))}>
                <option value="">none</option>
                {set.sections?.map((s, n) => (
                  <option key={s.id} value={s.id}>
                    {s.title || `Part ${n + 1}`}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Button
            onClick={() => {
              const id = newId();
              perform({
                type: 'all',
                label: 'Made a part',
                operations: [
                  { type: 'describe', set: { sections: [...(set.sections ?? []), { id, title: `Part ${(set.sections?.length ?? 0) + 1}` }] } },
                  { type: 'change', id: item.id, set: { section: id } },
                ],
              });
            }}
          >
            Make a new part
          </Button>
        </div>
        {part && (
          <div key={part.id} className="grid gap-2">
            <SectionTitle value={part.title ?? ''} onCommit={(title) => section({ title })} />
            <RichEditor
              label="Instructions of the part"
              line
              value={part.instructions ?? ''}
              onFocus={focus}
              onCommit={(instructions) => section({ instructions })}
            />
            <RichEditor label="Passage that its items are about" value={part.passage ?? ''} onFocus={focus} onCommit={(passage) => section({ passage })} />
          </div>
        )}
      </div>
    </details>
  );
}
function SectionTitle({ value, onCommit }: { value: string; onCommit: (v: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Field label="Title of the part">
      {(id) => (
        <Input
          id={id}
          value={typed ?? value}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => {
            if (typed !== null && typed.trim() !== value) onCommit(typed.trim());
            setTyped(null);
          }}
        />
      )}
    </Field>
  );
}
