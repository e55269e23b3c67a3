/** Check: items as a typeset sheet with their keys; keyboard first. */
import { isGraded, type Item, keyProblem, removing, richToPlain, type Review } from '@zakuska/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { Empty, Foot } from '../frame/Frame.js';
import { cellOf, KeyStrip } from '../set/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { SourcePane } from '../sources/SourcePane.js';
import { useShownSource } from '../sources/sources.js';
import { Button, Kbd } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useActions } from '../ui/Palette.js';
import { Findings } from './Findings.js';
import { ItemEditor } from './ItemEditor.js';
import { ItemView } from './ItemView.js';
import { keyByDigit } from './keys.js';
import { TryBox } from './TryBox.js';
import { useFindings } from './useFindings.js';

const KEYS: [string, string][] = [
  ['J or ↓', 'next item'],
  ['K or ↑', 'previous item'],
  ['1 to 9', 'set the key: first, second … option; 1 true, 2 false'],
  ['C', 'mark as checked, and on to the next'],
  ['X', 'leave out, or take back in'],
  ['E', 'edit the item; Escape ends'],
  ['T', 'try an answer'],
  ['U or Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['/', 'find'],
  ['N', 'next item with an error'],
  ['F', 'next item with a finding'],
  ['Ctrl K', 'any action by name'],
];

export default function CheckStage() {
  const { document: doc, session, mayEdit, view } = useOpenSet();
  const me = useSession();
  const { items } = doc.set;
  const [current, setCurrent] = useState<string>();
  const [editing, setEditing] = useState(false);
  const [trying, setTrying] = useState(false);
  const [help, setHelp] = useState(false);
  const [query, setQuery] = useState('');
  const sheet = useRef<HTMLDivElement>(null);
  const finder = useRef<HTMLInputElement>(null);
  const [sourceShown, showSource] = useShownSource();

  const { findings, reading } = useFindings(doc);
  const shown = useMemo(() => {
    const q = query.trim().toLowerCase();
    return q
      ? items.filter((i) =>
          JSON.stringify({ ...i, id: '' })
            .toLowerCase()
            .includes(q),
        )
      : items;
  }, [items, query]);
  const at = Math.max(
    0,
    shown.findIndex((i) => i.id === current),
  );
  const item = shown[at];

  const go = useCallback((id: string | undefined) => {
    if (!id) return;
    setCurrent(id);
    setTrying(false);
    requestAnimationFrame(() => sheet.current?.querySelector(`[data-item="${id}"]`)?.scrollIntoView({ block: 'nearest' }));
  }, []);
  useEffect(() => {
    // what opens under an item comes into view
    if ((trying || editing) && item) sheet.current?.querySelector(`[data-item="${item.id}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [trying, editing, item]);
  const step = useCallback((by: number) => go(shown[Math.min(shown.length - 1, Math.max(0, at + by))]?.id), [shown, at, go]);
  const review = useCallback((i: Item, r: Review | null) => session.perform({ type: 'review', id: i.id, review: r }), [session]);
  const check = useCallback(
    (i: Item) => {
      if (doc.reviews[i.id]?.state === 'checked') return void review(i, null);
      const none = keyProblem(i);
      if (none) return void toast.error(`This item has ${none.message}. Set it first, or leave the item out.`);
      review(i, { state: 'checked', by: me.name, at: new Date().toISOString() });
      step(1);
    },
    [doc.reviews, review, me.name, step],
  );
  const leaveOut = useCallback((i: Item) => void review(i, doc.reviews[i.id]?.state === 'left-out' ? null : { state: 'left-out' }), [doc.reviews, review]);
  const nextError = useCallback(() => {
    const order = [...shown.slice(at + 1), ...shown.slice(0, at + 1)];
    go(order.find((i) => keyProblem(i) && doc.reviews[i.id]?.state !== 'left-out')?.id);
  }, [shown, at, go, doc.reviews]);

  const nextFinding = useCallback(() => {
    const told = new Set(findings.flatMap((f) => (f.items.length === 1 ? f.items : [])));
    const order = [...shown.slice(at + 1), ...shown.slice(0, at + 1)];
    const next = order.find((i) => told.has(i.id) && doc.reviews[i.id]?.state !== 'left-out');
    if (next) go(next.id);
    else toast('No item has a finding.');
  }, [findings, shown, at, go, doc.reviews]);

  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const t = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || t.closest('[role=dialog]')) return;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName) || t.isContentEditable) {
        if (e.key === 'Escape') {
          (t as HTMLInputElement).blur();
          setEditing(false);
          setTrying(false);
        }
        return;
      }
      const keys: Record<string, () => void> = {
        j: () => step(1),
        ArrowDown: () => step(1),
        k: () => step(-1),
        ArrowUp: () => step(-1),
        n: nextError,
        f: nextFinding,
        '/': () => finder.current?.focus(),
        '?': () => setHelp(true),
        Escape: () => {
          setEditing(false);
          setTrying(false);
        },
      };
      const edits: Record<string, () => void> = item
        ? {
            c: () => check(item),
            x: () => leaveOut(item),
            e: () => setEditing((x) => !x),
            t: () => setTrying((x) => !x),
            u: () => void (session.undo() || toast('Nothing to undo.')),
          }
        : {};
      const digit = /^[1-9]$/.test(e.key) && item ? keyByDigit(item, Number(e.key)) : null;
      const run =
        keys[e.key] ?? (mayEdit ? edits[e.key] : e.key === 't' ? edits['t'] : undefined) ?? (digit && mayEdit ? () => void session.perform(digit) : undefined);
      if (!run) return;
      e.preventDefault();
      run();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [item, step, nextError, nextFinding, check, leaveOut, session, mayEdit]);
  const actions = useMemo(
    () => [
      { name: 'Next item with an error', keys: 'N', run: nextError },
      { name: 'Next item with a finding', keys: 'F', run: nextFinding },
      { name: 'Show all keys of the keyboard', keys: '?', run: () => setHelp(true) },
      ...(item && mayEdit ? [{ name: 'Edit the current item', keys: 'E', run: () => setEditing(true) }] : []),
      ...(item && mayEdit ? [{ name: 'Take the current item out of the set', run: () => void session.perform(removing([item.id])) }] : []),
    ],
    [nextError, nextFinding, item, mayEdit, session],
  );
  useActions(actions);

  if (!items.length)
    return (
      <main>
        <Empty title="No items yet">
          <p>Items come from the draft: paste your questions there and take them over. Here you then go through them one by one.</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            Go to Draft
          </Link>
        </Empty>
      </main>
    );
  const count = (state: string): number => items.filter((i) => doc.reviews[i.id]?.state === state).length;
  const checked = count('checked');
  const out = count('left-out');
  const errors = items.filter((i) => keyProblem(i) && doc.reviews[i.id]?.state !== 'left-out').length;
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto]">
      <KeyStrip
        cells={items.map((i, n) => cellOf(i, n, doc.reviews[i.id]))}
        now={item?.id}
        items={items.filter((i) => doc.reviews[i.id]?.state !== 'left-out')}
        onPick={(id) => {
          setQuery('');
          go(id);
        }}
        left={
          <>
            {checked} checked · {items.length - checked - out} open
            <br />
            <span className={errors ? 'font-semibold text-brick' : ''}>
              {errors} {errors === 1 ? 'error' : 'errors'}
            </span>{' '}
            · {out} left out
          </>
        }
      />
      <div className={`grid min-h-0 ${sourceShown === null ? 'grid-cols-1' : 'grid-rows-2 lg:grid-cols-2 lg:grid-rows-1'}`}>
        <main
          className={`grid min-h-0 grid-cols-1 items-start gap-x-6 overflow-auto sm:px-6 ${sourceShown === null ? 'lg:grid-cols-[minmax(0,1fr)_330px]' : ''}`}
        >
          <section ref={sheet} aria-label="Items" className="min-h-full border-x border-rule bg-sheet pt-2 pb-[30vh]">
            {!shown.length && <p className="p-6 text-ink-2">No item has these words.</p>}
            {shown.map((i) => (
              <ItemRow
                key={i.id}
                item={i}
                place={items.indexOf(i)}
                now={i.id === item?.id}
                review={doc.reviews[i.id]}
                passage={passageBefore(items, i, doc.set.sections)}
                onPick={() => go(i.id)}
              >
                {i.id === item?.id && (
                  <>
                    {editing && mayEdit ? (
                      <ItemEditor item={i} perform={session.perform.bind(session)} onDone={() => setEditing(false)} />
                    ) : (
                      mayEdit && (
                        <div className="mt-3 flex flex-wrap gap-2">
                          <Button look={doc.reviews[i.id]?.state === 'checked' ? 'plain' : 'primary'} keys="C" onClick={() => check(i)}>
                            {doc.reviews[i.id]?.state === 'checked' ? 'Open again' : 'Checked'}
                          </Button>
                          <Button keys="E" onClick={() => setEditing(true)}>
                            Edit
                          </Button>
                          {isGraded(i) && (
                            <Button keys="T" onClick={() => setTrying((x) => !x)}>
                              Try
                            </Button>
                          )}
                          <Button keys="X" onClick={() => leaveOut(i)}>
                            {doc.reviews[i.id]?.state === 'left-out' ? 'Take back in' : 'Leave out'}
                          </Button>
                        </div>
                      )
                    )}
                    {trying && isGraded(i) && <TryBox item={i} set={doc.set} />}
                  </>
                )}
              </ItemRow>
            ))}
          </section>
          {sourceShown === null && (
            <Findings
              findings={findings}
              reading={reading}
              document={doc}
              current={item?.id}
              mayEdit={mayEdit}
              onGo={go}
              perform={session.perform.bind(session)}
            />
          )}
        </main>
        {sourceShown !== null && (
          <SourcePane
            set={view.id}
            shown={sourceShown || undefined}
            mayEdit={false}
            onShow={(id) => showSource(id ?? '')}
            onClose={() => showSource(null)}
            onMark={() => undefined}
          />
        )}
      </div>
      <Foot>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>J</Kbd> <Kbd>K</Kbd> next, previous
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>1</Kbd>–<Kbd>9</Kbd> key
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>U</Kbd> undo
        </span>
        <button type="button" className="inline-flex min-h-6 cursor-pointer items-center gap-1" onClick={() => setHelp(true)}>
          <Kbd>?</Kbd> all keys
        </button>
        <label className="flex items-center gap-1.5">
          <Kbd>/</Kbd> Find
          <input
            ref={finder}
            value={query}
            onChange={(e) => setQuery(e.target.value)}
            className="h-7 w-40 rounded border border-rule bg-sheet px-2 text-sm text-ink"
          />
        </label>
        <span className="flex-1" />
        <Button look="quiet" aria-pressed={sourceShown !== null} onClick={() => showSource(sourceShown === null ? '' : null)}>
          Sources
        </Button>
        <Link to={`/sets/${view.id}/text`} className="link text-sm">
          Edit as text
        </Link>
        <Link to={`/sets/${view.id}/deliver`} className="link text-sm">
          {checked + out === items.length ? 'All checked: on to Deliver' : 'Go to Deliver'}
        </Link>
      </Foot>
      <Modal open={help} onClose={() => setHelp(false)} title="Keys of the keyboard">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
          {KEYS.map(([k, what]) => (
            <div key={k} className="contents">
              <dt>
                <Kbd>{k}</Kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </div>
  );
}

/** The passage that stands in front of an item: of its section, before the section's first item. */
function passageBefore(
  items: readonly Item[],
  item: Item,
  sections: readonly import('@zakuska/core').Section[] | undefined,
): { title?: string | undefined; passage?: string | undefined } | null {
  const section = sections?.find((s) => s.id === item.section);
  if (!section || items[items.indexOf(item) - 1]?.section === section.id) return null;
  return section;
}

function ItemRow({
  item,
  place,
  now,
  review,
  passage,
  onPick,
  children,
}: {
  item: Item;
  place: number;
  now: boolean;
  review: Review | undefined;
  passage: { title?: string | undefined; passage?: string | undefined } | null;
  onPick: () => void;
  children: React.ReactNode;
}) {
  const none = keyProblem(item);
  const state = review?.state === 'left-out' ? 'left out' : none ? 'error' : review?.state === 'checked' ? 'checked' : 'open';
  const look = { 'left out': 'text-ink-2', error: 'text-brick', checked: 'text-dill', open: 'text-ink-2' }[state];
  return (
    <>
      {passage && (
        <div className="border-t border-rule-2 py-3 pr-10 pl-[74px] first:border-t-0">
          {passage.title && <h2 className="font-bold text-beet">{passage.title}</h2>}
          {passage.passage && <p className="mt-1 max-w-prose text-ink-2">{richToPlain(passage.passage)}</p>}
        </div>
      )}
      <article
        data-item={item.id}
        aria-current={now ? 'true' : undefined}
        aria-label={`Item ${item.label ?? place + 1}, ${state}`}
        onMouseDown={(e) => !now && !(e.target as HTMLElement).closest('button, a') && onPick()}
        className={`grid grid-cols-[62px_minmax(0,1fr)] border-t border-rule-2 py-2.5 pr-4 [contain-intrinsic-size:auto_140px] sm:grid-cols-[74px_minmax(0,1fr)] sm:pr-10 ${now ? 'bg-linear-to-r from-beet-soft to-transparent to-30% shadow-[inset_3px_0_var(--beet)]' : 'cursor-pointer [content-visibility:auto]'} ${state === 'left out' ? 'text-ink-2' : ''}`}
      >
        <div className="pr-4 text-right font-[650] text-ink-2">
          {item.label ?? place + 1}
          <small className={`block text-xs font-medium ${look}`}>{state}</small>
        </div>
        <div className={state === 'left out' ? 'line-through decoration-1' : ''}>
          <ItemView item={item} />
          {children}
        </div>
      </article>
    </>
  );
}
