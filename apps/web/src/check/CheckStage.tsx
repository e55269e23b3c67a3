/** Check: items as a typeset sheet with their keys; keyboard first. */
import {
  copyItems,
  type Filter,
  filterItems,
  includedItems,
  isFiltering,
  type Item,
  keyProblem,
  leaveOut,
  markChecked,
  moveItems,
  removing,
  type Review,
  type Section,
  type SimpleOperation,
  usualLimits,
} from '@zakuska/core';
import { lazy, Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { Empty, Foot } from '../frame/Frame.js';
import { AddItem, addCommands } from '../edit/AddItem.js';
import { cellOf, KeyStrip } from '../item/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { SourcePane } from '../sources/SourcePane.js';
import { useShownSource } from '../sources/sources.js';
import { Button, Kbd } from '../ui/Button.js';
import { KeyList } from '../ui/KeyList.js';
import { holdKeys } from '../ui/heldKeys.js';
import { Modal } from '../ui/Modal.js';
import { useNarrow } from '../ui/useNarrow.js';
import { type Command, useCommands } from '../ui/commands.js';
import { AskedBefore } from './AskedBefore.js';
import { BulkDialog, MoveDialog } from './BulkDialog.js';
import { ChecksDialog } from './ChecksDialog.js';
import { CurrentItem, type Under } from './CurrentItem.js';
import { DivideDialog } from './DivideDialog.js';
import { FilterBar, SelectionBar } from './FilterBar.js';
import { Findings, OwnFindings } from './Findings.js';
import { ItemRow } from './ItemRow.js';
import { keyByDigit } from './keyByDigit.js';
import { NewerDialog, useNewer } from './NewerDialog.js';
import { ReplaceDialog } from './ReplaceDialog.js';
import { useChecks } from './useChecks.js';
import { Failed } from '../worker/Failed.js';
import { Sheet } from './Sheet.js';
import { Say, say } from '../words/say.js';
import { retold } from '../words/retold.js';

const HistoryDialog = lazy(() => import('./HistoryDialog.js').then((m) => ({ default: m.HistoryDialog })));
const PreviewDialog = lazy(() => import('./PreviewDialog.js').then((m) => ({ default: m.PreviewDialog })));

type Dialog = 'divide' | 'newer' | 'keys' | 'bulk' | 'move' | 'replace' | 'history' | 'preview' | 'checks' | 'findings';

export default function CheckStage() {
  const { document: doc, session, mayEdit, view, save } = useOpenSet();
  const me = useSession();
  const { items } = doc.set;
  // another stage may lead to one item
  const [params] = useSearchParams();
  const [current, setCurrent] = useState(params.get('item') ?? undefined);
  const [under, setUnder] = useState<Under | null>(params.has('edit') ? 'editor' : null);
  const narrow = useNarrow();
  const [adding, setAdding] = useState(false);
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const [filter, setFilter] = useState<Filter>({});
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [asideOf, setAsideOf] = useState<string | null>(null);
  const [hardMarks, setHardMarks] = useState(false);
  const scroll = useRef<HTMLElement>(null);
  const finder = useRef<HTMLInputElement>(null);
  const [sourceShown, showSource] = useShownSource();
  const [spot, setSpot] = useState<{ source: string; from: number; to: number } | null>(null);

  const { findings, reading, evidence, hasSource, checking, unknown, failed, again } = useChecks(view.id, view.workspaceId, doc);
  const filtered = useMemo(() => (isFiltering(filter) ? filterItems(doc, filter, findings, evidence) : items), [doc, filter, findings, evidence, items]);
  // the item at hand stays in sight although a change takes it out of what is filtered for
  const shown = useMemo(() => {
    if (filtered === items || !current || filtered.some((i) => i.id === current) || under === null) return filtered;
    const keep = new Set([...filtered.map((i) => i.id), current]);
    return items.filter((i) => keep.has(i.id));
  }, [filtered, items, current, under]);
  const placeOf = useMemo(() => new Map(items.map((i, n) => [i.id, n])), [items]);
  const cells = useMemo(
    () => items.map((i, n) => cellOf(i, n, doc.reviews[i.id], evidence.get(i.id)?.verdict === 'contradicted')),
    [items, doc.reviews, evidence],
  );
  const included = useMemo(() => includedItems(doc), [doc]);
  const errors = useMemo(() => included.filter((i) => keyProblem(i)).length, [included]);
  const checked = useMemo(() => items.filter((i) => doc.reviews[i.id]?.state === 'checked').length, [items, doc.reviews]);
  const picked = useMemo(() => items.filter((i) => chosen.has(i.id)), [items, chosen]);
  const at = Math.max(
    0,
    shown.findIndex((i) => i.id === current),
  );
  const item = shown[at];
  const sentenceWords = { ...usualLimits, ...checking.limits }.sentenceWords;

  const go = useCallback((id: string | undefined) => {
    if (!id) return;
    setCurrent(id);
    setUnder((u) => (u === 'evidence' ? u : null));
    setAsideOf(null);
  }, []);
  const openDialog = useMemo(
    () => ({
      replace: () => setDialog('replace'),
      preview: () => setDialog('preview'),
      history: () => setDialog('history'),
      checks: () => setDialog('checks'),
    }),
    [],
  );
  const showAll = useCallback(() => setFilter({}), []);
  const endAside = useCallback(() => setAsideOf(null), []);
  /** Goes to an item from elsewhere on the page, also to one that is filtered away. */
  const goFrom = useCallback(
    (id: string, show?: 'evidence') => {
      if (!shown.some((i) => i.id === id)) setFilter({});
      go(id);
      if (show) setUnder(show);
    },
    [shown, go],
  );
  const step = useCallback((by: number) => go(shown[Math.min(shown.length - 1, Math.max(0, at + by))]?.id), [shown, at, go]);
  const perform = useMemo(() => session.perform.bind(session), [session]);
  const doAll = useCallback((label: string, operations: SimpleOperation[]) => operations.length > 0 && perform({ type: 'all', label, operations }), [perform]);
  const review = useCallback((i: Item, r: Review | null) => perform({ type: 'review', id: i.id, review: r }), [perform]);
  const check = useCallback(
    (i: Item) => {
      if (doc.reviews[i.id]?.state === 'checked') return void review(i, null);
      const none = keyProblem(i);
      if (none) return void toast.error(say('This item has {message}. Set it first, or leave the item out.', { message: retold(none.message) }));
      const next = shown[at + 1]?.id;
      review(i, { state: 'checked', by: me.name, at: new Date().toISOString() });
      go(next);
    },
    [doc.reviews, review, me.name, shown, at, go],
  );
  const many = (n: number): string => say('{n, plural, one {# item} other {# items}}', { n });
  const checkPicked = (): void => {
    const { operations, faulty } = markChecked(doc, picked, me.name, new Date().toISOString());
    const done = doAll(say('Checked {many}', { many: many(operations.length) }), operations);
    const left = faulty.length ? say(' {many} {faulty, plural, one {has} other {have}} no key yet.', { many: many(faulty.length), faulty: faulty.length }) : '';
    if (done)
      toast(say('{many} marked as checked.{left}', { many: many(operations.length), left }), { action: { label: say('Undo'), onClick: () => session.undo() } });
    else toast(faulty.length ? say('Nothing was marked.{left}', { left }) : say('They are checked or left out already.'));
  };
  const toggleOut = useCallback((i: Item) => void review(i, doc.reviews[i.id]?.state === 'left-out' ? null : { state: 'left-out' }), [doc.reviews, review]);
  /** Goes to the next shown item, from the current one on and round, of which something is true. */
  const next = useCallback(
    (is: (i: Item) => boolean, none: string) => {
      const order = [...shown.slice(at + 1), ...shown.slice(0, at + 1)];
      const found = order.find((i) => doc.reviews[i.id]?.state !== 'left-out' && is(i));
      if (found) go(found.id);
      else toast(none);
    },
    [shown, at, go, doc.reviews],
  );
  const nextError = useCallback(() => next((i) => keyProblem(i) !== null, say('No item has an error.')), [next]);
  const nextFinding = useCallback(() => {
    const told = new Set(findings.flatMap((f) => (f.items.length === 1 ? f.items : [])));
    next((i) => told.has(i.id), say('No item has a finding.'));
  }, [findings, next]);
  const nextUnsupported = useCallback(() => {
    if (!hasSource) return void toast(say('The set has no source. Add one under Sources.'));
    setUnder('evidence');
    next((i) => (evidence.get(i.id)?.verdict ?? 'supported') !== 'supported', say('The source supports the key of every item.'));
  }, [evidence, next, hasSource]);
  const nextOpen = useCallback(() => next((i) => !doc.reviews[i.id], say('Every item is checked.')), [next, doc.reviews]);
  const own = useMemo(() => findings.filter((f) => item && f.items.includes(item.id)), [findings, item]);
  const applyFirstFix = useCallback(() => {
    const f = own.find((x) => x.fix);
    if (f?.fix) perform({ type: 'all', label: retold(f.fix.label), operations: f.fix.operations });
    else toast(say('No finding of this item offers a fix.'));
  }, [own, perform]);
  const setAside = useCallback(() => {
    const f = own.find((x) => x.severity !== 'error');
    if (f) setAsideOf(f.code);
    else toast(say('This item has no finding that can be set aside.'));
  }, [own]);
  /** Behind the item at hand, in its part; its editor opens. */
  const add = useCallback(
    (blank: Item) => {
      const section = item?.section;
      const place = item ? (placeOf.get(item.id) ?? items.length - 1) + 1 : items.length;
      if (!perform({ type: 'insert', at: place, items: [{ ...blank, ...(section && { section }) }] })) return;
      setFilter({});
      setCurrent(blank.id);
      setUnder('editor');
      setAsideOf(null);
    },
    [item, placeOf, items.length, perform],
  );
  const toggle = useCallback(
    (u: Under) => {
      if (u === 'editor' && under !== 'editor') holdKeys();
      setUnder(under === u ? null : u);
    },
    [under],
  );
  const choose = useCallback(
    (id: string, on?: boolean) => setChosen((c) => ((on ?? !c.has(id)) ? new Set([...c, id]) : new Set([...c].filter((x) => x !== id)))),
    [],
  );
  const chooseAll = useCallback(() => setChosen((c) => (shown.every((i) => c.has(i.id)) ? new Set() : new Set(shown.map((i) => i.id)))), [shown]);
  const bulk = useCallback(() => {
    if (!picked.length && item) setChosen(new Set([item.id]));
    setDialog('bulk');
  }, [picked.length, item]);

  const navigate = useNavigate();
  const ask = useCallback(() => {
    const about = picked.length ? picked : included;
    void navigate(`/sets/${view.id}/check/rework`, { state: { items: about.map((i) => i.id) } });
  }, [picked, included, navigate, view.id]);

  const newer = useNewer(view.id, items);
  const noSource = (): void => void toast(say('The set has no source. Add one under Sources.'));
  const forItem: Command[] =
    mayEdit && item
      ? [
          {
            name: say('Set the key: first, second … option; 1 true, 2 false'),
            keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
            shown: say('1 to 9'),
            keysOnly: true,
            run: (key) => {
              const operation = keyByDigit(item, Number(key));
              if (operation) perform(operation);
            },
          },
          { name: say('Mark the item as checked, and on to the next'), keys: ['C'], run: () => check(item) },
          { name: say('Leave the item out, or take it back in'), keys: ['X'], run: () => toggleOut(item) },
          { name: say('Edit the current item; Escape ends'), keys: ['E'], run: () => toggle('editor') },
          { name: say('Do what the first finding offers'), keys: ['M'], run: applyFirstFix },
          { name: say('Set the first finding aside, with a reason'), keys: ['D'], run: setAside },
          { name: say('Choose the item, or not'), keys: ['S'], run: () => choose(item.id) },
          { name: say('Choose all items that are shown, or none'), keys: ['A'], run: chooseAll },
          { name: say('Change the chosen items'), keys: ['B'], run: bulk },
          ...(picked.length ? [{ name: say('Mark the chosen items as checked'), keys: ['Shift C'], run: checkPicked }] : []),
          { name: say('Rework the chosen items with an assistant, or all'), keys: ['W'], run: ask },
          { name: say('Copy the current item'), run: () => void doAll(say('Copied an item'), copyItems(items, new Set([item.id]))) },
          { name: say('Take the current item out of the set'), run: () => void perform(removing([item.id])) },
        ]
      : [];
  const commands: Command[] = [
    { name: say('Next item'), keys: ['J', 'ArrowDown'], keysOnly: true, run: () => step(1) },
    { name: say('Previous item'), keys: ['K', 'ArrowUp'], keysOnly: true, run: () => step(-1) },
    ...forItem,
    { name: say('Try an answer'), keys: ['T'], run: () => toggle('try') },
    { name: say('What the source says of the key'), keys: ['V'], run: () => (hasSource ? toggle('evidence') : noSource()) },
    { name: say('Next item with an error'), keys: ['N'], run: nextError },
    { name: say('Next item with a finding'), keys: ['F'], run: nextFinding },
    { name: say('Next item that the source does not support'), keys: ['G'], run: nextUnsupported },
    { name: say('Next item that is not checked yet'), keys: ['O'], run: nextOpen },
    ...(mayEdit ? [{ name: say('Add an item'), keys: ['I'], keysOnly: true, run: () => setAdding(true) }, ...addCommands(add)] : []),
    ...(mayEdit ? [{ name: say('Find and replace'), keys: ['R'], run: () => setDialog('replace') }] : []),
    { name: say('Words to find'), keys: ['/'], run: () => finder.current?.focus() },
    { name: say('Preview as a learner'), keys: ['P'], run: () => setDialog('preview') },
    { name: say('History of the set'), keys: ['H'], run: () => setDialog('history') },
    { name: say('How the set is checked'), run: () => setDialog('checks') },
    ...(mayEdit || doc.work ? [{ name: say('Divide the checking among colleagues'), run: () => setDialog('divide') }] : []),
    ...(newer.length ? [{ name: say('What has changed where items were taken from'), run: () => setDialog('newer') }] : []),
    ...(mayEdit ? [{ name: say('Undo the last change'), keys: ['U'], run: () => void (session.undo() || toast(say('Nothing to undo.'))) }] : []),
    {
      name: say('Close what is open'),
      keys: ['Escape'],
      keysOnly: true,
      whileTyping: true,
      run: () => {
        if (document.activeElement instanceof HTMLElement && document.activeElement !== document.body) document.activeElement.blur();
        setUnder(null);
        setAsideOf(null);
      },
    },
    { name: say('Show all shortcuts'), keys: ['?'], run: () => setDialog('keys') },
  ];
  useCommands(commands);

  if (!items.length)
    return (
      <main>
        <Empty title={say('No items yet')}>
          <p>{say('Items come from the draft: paste your questions there and take them over. Here you then go through them one by one.')}</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            {say('Go to Draft')}
          </Link>
          {mayEdit && (
            <p>
              {say('Or write them here:')} <AddItem onAdd={add} shortcut="I" open={adding} onOpen={setAdding} />
            </p>
          )}
        </Empty>
      </main>
    );
  const out = items.length - included.length;
  const section = item && doc.set.sections?.find((s) => s.id === item.section);
  const close = (): void => setDialog(null);
  const findingsOf = (alone: boolean) => (
    <Findings
      before={!alone && under === 'editor' && mayEdit && item && <AskedBefore item={item} set={view.id} workspace={view.workspaceId} />}
      findings={findings}
      reading={reading}
      evidence={evidence}
      document={doc}
      current={item}
      passage={section}
      sentenceWords={sentenceWords}
      hardMarks={hardMarks}
      onHardMarks={setHardMarks}
      asideOf={asideOf}
      onAsideDone={endAside}
      unknown={unknown}
      alone={alone}
      mayEdit={mayEdit}
      onGo={
        alone
          ? (id, show) => {
              close();
              goFrom(id, show);
            }
          : goFrom
      }
      perform={perform}
    />
  );
  const ids = picked.map((i) => i.id);
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_auto_minmax(0,1fr)_auto]">
      <KeyStrip
        cells={cells}
        now={item?.id}
        items={included}
        onPick={goFrom}
        left={
          <>
            {say('{checked} checked · {n} not yet', { checked, n: items.length - checked - out })}
            <br />
            <span className={errors ? 'font-semibold text-brick' : ''}>{say('{errors, plural, one {# error} other {# errors}}', { errors })}</span>{' '}
            {say('· {out} left out', { out })}
          </>
        }
      />
      {/* for who listens: that a mark arrived, and that something was found */}
      <p role="status" className="sr-only">
        {say('{checked} of {included} checked. {what}', {
          checked,
          included: included.length,
          what: unknown ? '' : `${say('{findings, plural, one {# finding} other {# findings}}', { findings: findings.length })}.`,
        })}
      </p>
      {picked.length > 0 ? (
        <SelectionBar
          count={picked.length}
          all={shown.length}
          onAll={() => setChosen(new Set(shown.map((i) => i.id)))}
          onNone={() => setChosen(new Set())}
          onChange={() => setDialog('bulk')}
          onCheck={checkPicked}
          onMove={() => setDialog('move')}
          onAsk={ask}
          onCopy={() =>
            doAll(say('Copied {many}', { many: many(picked.length) }), copyItems(items, chosen)) &&
            void toast(say('{many} copied, behind the last of them.', { many: many(picked.length) }))
          }
          onLeaveOut={() => void doAll(say('Left out {many}', { many: many(picked.length) }), leaveOut(doc, ids, true))}
          onTakeIn={() => void doAll(say('Took in {many}', { many: many(picked.length) }), leaveOut(doc, ids, false))}
          onDelete={() => {
            const removal = removing(ids);
            if (!perform(removal.type === 'all' ? { ...removal, label: say('Deleted {many}', { many: many(ids.length) }) } : removal)) return;
            setChosen(new Set());
            toast(say('{many} deleted. Undo brings them back.', { many: many(ids.length) }));
          }}
        />
      ) : (
        <FilterBar
          items={items}
          shown={shown.length}
          findings={findings}
          work={doc.work}
          me={me.accountId}
          hasSource={hasSource}
          filter={filter}
          onFilter={setFilter}
          finder={finder}
          mayEdit={mayEdit}
          onAsk={ask}
          onReplace={openDialog.replace}
          onPreview={openDialog.preview}
          onHistory={openDialog.history}
          onChecks={openDialog.checks}
        />
      )}
      <div className={`grid min-h-0 ${sourceShown === null ? 'grid-cols-1' : 'grid-rows-2 lg:grid-cols-2 lg:grid-rows-1'}`}>
        <main
          ref={scroll}
          className={`grid min-h-0 grid-cols-1 items-start gap-x-6 overflow-auto sm:px-6 ${sourceShown === null ? 'lg:grid-cols-[minmax(0,1fr)_330px]' : ''}`}
        >
          <Sheet
            shown={shown}
            at={at}
            follow={current !== undefined}
            under={under}
            scroll={scroll}
            language={doc.set.language}
            hardMarks={hardMarks}
            sentenceWords={sentenceWords}
            onShowAll={showAll}
          >
            {(i, n, measure) => {
              const now = i.id === item?.id;
              const editing = now && under === 'editor' && mayEdit;
              return (
                <ItemRow
                  key={i.id}
                  item={i}
                  row={n}
                  rows={shown.length}
                  measure={measure}
                  place={placeOf.get(i.id) ?? 0}
                  now={now}
                  review={doc.reviews[i.id]}
                  passage={passageBefore(shown[n - 1], i, doc.set.sections)}
                  chosen={chosen.has(i.id)}
                  choosing={picked.length > 0}
                  mayEdit={mayEdit}
                  bare={editing}
                  onPick={go}
                  onChoose={choose}
                >
                  {now && (
                    <CurrentItem
                      item={i}
                      set={doc.set}
                      review={doc.reviews[i.id]}
                      under={under}
                      evidence={evidence.get(i.id)}
                      mayEdit={mayEdit}
                      now={(id) => session.get().document.set.items.find((x) => x.id === id)}
                      perform={perform}
                      onCheck={() => check(i)}
                      onLeaveOut={() => toggleOut(i)}
                      onUnder={toggle}
                      onDone={() => setUnder(null)}
                      {...(narrow && {
                        findings: (
                          <OwnFindings
                            findings={findings.filter((f) => f.items.length === 1 && f.items[0] === i.id)}
                            mayEdit={mayEdit}
                            perform={perform}
                            asideOf={asideOf}
                            onAsked={endAside}
                          />
                        ),
                      })}
                      at={{ set: view.id, workspace: view.workspaceId }}
                      onOpenSource={(source, from, to) => {
                        setSpot({ source, from, to });
                        showSource(source);
                      }}
                    />
                  )}
                </ItemRow>
              );
            }}
          </Sheet>
          {sourceShown === null && !narrow && findingsOf(false)}
        </main>
        {sourceShown !== null && (
          <SourcePane
            set={view.id}
            shown={sourceShown || undefined}
            spot={spot}
            mayEdit={false}
            onShow={(id) => showSource(id ?? '')}
            onClose={() => showSource(null)}
            onMark={() => undefined}
          />
        )}
      </div>
      <Foot>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>J</Kbd> <Kbd>K</Kbd> {say('next, previous')}
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>1</Kbd>
          <Say text="–{kbd} key" values={{ kbd: <Kbd>9</Kbd> }} />
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>F</Kbd> {say('finding')}
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>U</Kbd> {say('undo')}
        </span>
        <button type="button" className="hidden min-h-6 cursor-pointer items-center gap-1 sm:inline-flex" onClick={() => setDialog('keys')}>
          <Kbd>?</Kbd> {say('all shortcuts')}
        </button>
        <span className="flex-1">{failed && <Failed what={say('Findings are not up to date: the checks could not go on.')} again={again} />}</span>
        {narrow && (
          <Button look="quiet" onClick={() => setDialog('findings')}>
            {unknown ? say('Checking …') : say('{findings, plural, one {# finding} other {# findings}}', { findings: findings.length })}
          </Button>
        )}
        {mayEdit && <AddItem onAdd={add} shortcut="I" open={adding} onOpen={setAdding} />}
        {newer.length > 0 && (
          <Button look="quiet" onClick={() => setDialog('newer')}>
            {say('{many} changed where taken from', { many: many(newer.length) })}
          </Button>
        )}
        {(mayEdit || doc.work) && (
          <Button look="quiet" onClick={() => setDialog('divide')}>
            {doc.work ? say('Who checks what') : say('Divide the checking')}
          </Button>
        )}
        <Button look="quiet" aria-pressed={sourceShown !== null} onClick={() => showSource(sourceShown === null ? '' : null)}>
          {say('Sources')}
        </Button>
        <Link to={`/sets/${view.id}/check/languages`} className="link text-sm">
          {say('Languages')}
        </Link>
        <Link to={`/sets/${view.id}/text`} className="link text-sm">
          {say('Edit as text')}
        </Link>
        <Link to={`/sets/${view.id}/deliver`} className="link text-sm">
          {checked + out === items.length ? say('All checked: on to Deliver') : say('Go to Deliver')}
        </Link>
      </Foot>
      <KeyList open={dialog === 'keys'} commands={commands} onClose={close} />
      {dialog === 'findings' && (
        <Modal open onClose={close} title={say('Findings')}>
          {findingsOf(true)}
        </Modal>
      )}
      {dialog === 'bulk' && picked.length > 0 && <BulkDialog items={picked} document={doc} onClose={close} perform={perform} />}
      {dialog === 'move' && (
        <MoveDialog
          items={items}
          chosen={chosen}
          onClose={close}
          onMove={(to) => void doAll(say('Moved {many}', { many: many(picked.length) }), moveItems(items, chosen, to))}
        />
      )}
      {dialog === 'replace' && <ReplaceDialog document={doc} chosen={chosen} words={filter.words ?? ''} onClose={close} perform={perform} />}
      {dialog === 'checks' && <ChecksDialog document={doc} workspace={view.workspaceId} mayEdit={mayEdit} onClose={close} perform={perform} />}
      {dialog === 'divide' && (
        <DivideDialog
          document={doc}
          workspace={view.workspaceId}
          mayEdit={mayEdit}
          perform={perform}
          onShow={(account) => {
            setFilter({ work: account });
            close();
          }}
          onClose={close}
        />
      )}
      {dialog === 'newer' && newer.length > 0 && <NewerDialog set={view.id} pairs={newer} mayEdit={mayEdit} perform={perform} onClose={close} />}
      <Suspense fallback={null}>
        {dialog === 'history' && <HistoryDialog set={view.id} document={doc} saved={save === 'saved'} mayEdit={mayEdit} onClose={close} perform={perform} />}
        {dialog === 'preview' && <PreviewDialog set={{ ...doc.set, items: included }} first={item} onClose={close} />}
      </Suspense>
    </div>
  );
}

/** The passage that stands in front of an item: of its section, before the section's first item that is shown. */
function passageBefore(before: Item | undefined, item: Item, sections: readonly Section[] | undefined): Section | null {
  const section = sections?.find((s) => s.id === item.section);
  if (!section || before?.section === section.id) return null;
  return section;
}
