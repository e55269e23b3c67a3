/** Check: items as a typeset sheet with their keys; keyboard first. */
import { includedItems, type Item, keyProblem, type Section, usualLimits } from '@zakuska/core';
import { type ReactNode, type RefObject, useCallback, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { AddItem } from '../edit/AddItem.js';
import { Empty } from '../frame/Frame.js';
import { cellOf, KeyStrip } from '../item/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { SourcePane } from '../sources/SourcePane.js';
import { useShownSource } from '../sources/sources.js';
import { useCommands } from '../ui/commands.js';
import { useNarrow } from '../ui/useNarrow.js';
import { say } from '../words/say.js';
import { Failed } from '../worker/Failed.js';
import { AskedBefore } from './AskedBefore.js';
import { checkCommands } from './checkCommands.js';
import { CheckDialogs, type Dialog } from './CheckDialogs.js';
import { CheckFoot } from './CheckFoot.js';
import { CurrentItem } from './CurrentItem.js';
import { FilterBar, SelectionBar } from './FilterBar.js';
import { Findings, OwnFindings } from './Findings.js';
import { ItemRow } from './ItemRow.js';
import { useNewer } from './NewerDialog.js';
import { Sheet } from './Sheet.js';
import { type Checks, useChecks } from './useChecks.js';
import { type Chosen, useChosen } from './useChosen.js';
import { type ItemChanges, useItemChanges } from './useItemChanges.js';
import { useWalk, type Walk } from './useWalk.js';

/** A place in a source. */
interface Spot {
  source: string;
  from: number;
  to: number;
}
/** What the parts of the screen share. */
interface CheckParts {
  checks: Checks;
  walk: Walk;
  chosen: Chosen;
  changes: ItemChanges;
  narrow: boolean;
}

export default function CheckStage() {
  const { document: doc, mayEdit, view, save } = useOpenSet();
  const { items } = doc.set;
  const narrow = useNarrow();
  const [adding, setAdding] = useState(false);
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const [hardMarks, setHardMarks] = useState(false);
  const finder = useRef<HTMLInputElement>(null);
  const [sourceShown, showSource] = useShownSource();
  const [spot, setSpot] = useState<Spot | null>(null);

  const checks = useChecks(view.id, view.workspaceId, doc);
  const { findings, reading, evidence, hasSource, checking, unknown, failed, again } = checks;
  const walk = useWalk(doc, findings, evidence);
  const chosen = useChosen(items);
  const changes = useItemChanges(walk, chosen, findings);
  const newer = useNewer(view.id, items);
  const { sentenceWords } = { ...usualLimits, ...checking.limits };
  const parts: CheckParts = { checks, walk, chosen, changes, narrow };
  const included = useMemo(() => includedItems(doc), [doc]);
  const checked = useMemo(() => items.filter((i) => doc.reviews[i.id]?.state === 'checked').length, [items, doc.reviews]);
  const out = items.length - included.length;

  const navigate = useNavigate();
  const ask = useCallback(() => {
    const about = chosen.items.length ? chosen.items : included;
    void navigate(`/sets/${view.id}/check/rework`, { state: { items: about.map((i) => i.id) } });
  }, [chosen.items, included, navigate, view.id]);
  const commands = checkCommands({
    document: doc,
    findings,
    evidence,
    hasSource,
    mayEdit,
    newer: newer.length > 0,
    walk,
    chosen,
    changes,
    openDialog: setDialog,
    addItem: () => setAdding(true),
    find: () => finder.current?.focus(),
    ask,
  });
  useCommands(commands);

  const add = <AddItem onAdd={changes.add} shortcut="I" open={adding} onOpen={setAdding} />;
  if (!items.length) return <NoItems set={view.id} add={mayEdit && add} />;
  const close = (): void => setDialog(null);
  const { item } = walk;
  const findingsOf = (alone: boolean) => (
    <Findings
      before={!alone && walk.under === 'editor' && mayEdit && item && <AskedBefore item={item} set={view.id} workspace={view.workspaceId} />}
      findings={findings}
      reading={reading}
      evidence={evidence}
      document={doc}
      current={item}
      passage={item && doc.set.sections?.find((s) => s.id === item.section)}
      sentenceWords={sentenceWords}
      hardMarks={hardMarks}
      onHardMarks={setHardMarks}
      asideOf={walk.asideOf}
      onAsideDone={walk.endAside}
      unknown={unknown}
      alone={alone}
      mayEdit={mayEdit}
      onGo={
        alone
          ? (id, show) => {
              close();
              walk.goFrom(id, show);
            }
          : walk.goFrom
      }
      perform={changes.perform}
    />
  );
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_auto_minmax(0,1fr)_auto]">
      <Progress {...parts} included={included} checked={checked} out={out} />
      <Bar {...parts} finder={finder} onOpen={setDialog} onAsk={ask} />
      <div className={`grid min-h-0 ${sourceShown === null ? 'grid-cols-1' : 'grid-rows-2 lg:grid-cols-2 lg:grid-rows-1'}`}>
        <ItemSheet
          {...parts}
          hardMarks={hardMarks}
          sentenceWords={sentenceWords}
          beside={sourceShown === null && !narrow && findingsOf(false)}
          wide={sourceShown === null}
          onOpenSource={(s) => {
            setSpot(s);
            showSource(s.source);
          }}
        />
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
      <CheckFoot
        document={doc}
        set={view.id}
        mayEdit={mayEdit}
        narrow={narrow}
        findings={unknown ? undefined : findings.length}
        newer={newer.length}
        done={checked + out === items.length}
        sourceShown={sourceShown !== null}
        onSource={(shown) => showSource(shown ? '' : null)}
        onOpen={setDialog}
        failed={failed && <Failed what={say('Findings are not up to date: the checks could not go on.')} again={again} />}
        add={mayEdit && add}
      />
      <CheckDialogs
        open={dialog}
        onClose={close}
        document={doc}
        at={{ set: view.id, workspace: view.workspaceId }}
        saved={save === 'saved'}
        mayEdit={mayEdit}
        walk={walk}
        chosen={chosen}
        changes={changes}
        commands={commands}
        newer={newer}
        findings={() => findingsOf(true)}
      />
    </div>
  );
}

function NoItems({ set, add }: { set: string; add: ReactNode }) {
  return (
    <main>
      <Empty title={say('No items yet')}>
        <p>{say('Items come from the draft: paste your questions there and take them over. Here you then go through them one by one.')}</p>
        <Link to={`/sets/${set}/draft`} className="link">
          {say('Go to Draft')}
        </Link>
        {add && (
          <p>
            {say('Or write them here:')} {add}
          </p>
        )}
      </Empty>
    </main>
  );
}

/** The strip of keys, and how far the checking has come. */
function Progress({ checks, walk, included, checked, out }: CheckParts & { included: readonly Item[]; checked: number; out: number }) {
  const { document: doc } = useOpenSet();
  const { items } = doc.set;
  const { evidence, findings, unknown } = checks;
  const cells = useMemo(
    () => items.map((i, n) => cellOf(i, n, doc.reviews[i.id], evidence.get(i.id)?.verdict === 'contradicted')),
    [items, doc.reviews, evidence],
  );
  const errors = useMemo(() => included.filter((i) => keyProblem(i)).length, [included]);
  return (
    <>
      <KeyStrip
        cells={cells}
        now={walk.item?.id}
        items={included}
        onPick={walk.goFrom}
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
    </>
  );
}

/** What is done with the items that are chosen; without any, what is shown. */
function Bar({
  checks,
  walk,
  chosen,
  changes,
  finder,
  onOpen,
  onAsk,
}: CheckParts & { finder: RefObject<HTMLInputElement | null>; onOpen: (dialog: Dialog) => void; onAsk: () => void }) {
  const { document: doc, mayEdit } = useOpenSet();
  const me = useSession();
  const open = useMemo(
    () => ({ replace: () => onOpen('replace'), preview: () => onOpen('preview'), history: () => onOpen('history'), checks: () => onOpen('checks') }),
    [onOpen],
  );
  const { ofChosen } = changes;
  return chosen.items.length > 0 ? (
    <SelectionBar
      count={chosen.items.length}
      all={walk.shown.length}
      onAll={() => chosen.chooseOnly(walk.shown)}
      onNone={() => chosen.chooseOnly([])}
      onChange={() => onOpen('bulk')}
      onCheck={ofChosen.check}
      onMove={() => onOpen('move')}
      onAsk={onAsk}
      onCopy={ofChosen.copy}
      onLeaveOut={() => ofChosen.leaveOut(true)}
      onTakeIn={() => ofChosen.leaveOut(false)}
      onDelete={ofChosen.remove}
    />
  ) : (
    <FilterBar
      items={doc.set.items}
      shown={walk.shown.length}
      findings={checks.findings}
      work={doc.work}
      me={me.accountId}
      hasSource={checks.hasSource}
      filter={walk.filter}
      onFilter={walk.setFilter}
      finder={finder}
      mayEdit={mayEdit}
      onAsk={onAsk}
      onReplace={open.replace}
      onPreview={open.preview}
      onHistory={open.history}
      onChecks={open.checks}
    />
  );
}

/** The items, with what is open at the one at hand. */
function ItemSheet({
  checks,
  walk,
  chosen,
  changes,
  narrow,
  hardMarks,
  sentenceWords,
  beside,
  wide,
  onOpenSource,
}: CheckParts & { hardMarks: boolean; sentenceWords: number; beside: ReactNode; wide: boolean; onOpenSource: (spot: Spot) => void }) {
  const { document: doc, session, mayEdit, view } = useOpenSet();
  const scroll = useRef<HTMLElement>(null);
  const { shown, under } = walk;
  const placeOf = useMemo(() => new Map(doc.set.items.map((i, n) => [i.id, n])), [doc.set.items]);
  const { findings, evidence } = checks;
  const ownFindings = (i: Item) => (
    <OwnFindings
      findings={findings.filter((f) => f.items.length === 1 && f.items[0] === i.id)}
      mayEdit={mayEdit}
      perform={changes.perform}
      asideOf={walk.asideOf}
      onAsked={walk.endAside}
    />
  );
  return (
    <main ref={scroll} className={`grid min-h-0 grid-cols-1 items-start gap-x-6 overflow-auto sm:px-6 ${wide ? 'lg:grid-cols-[minmax(0,1fr)_330px]' : ''}`}>
      <Sheet
        shown={shown}
        at={walk.at}
        follow={walk.follow}
        under={under}
        scroll={scroll}
        language={doc.set.language}
        hardMarks={hardMarks}
        sentenceWords={sentenceWords}
        onShowAll={walk.showAll}
      >
        {(i, n, measure) => {
          const now = i.id === walk.item?.id;
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
              chosen={chosen.ids.has(i.id)}
              choosing={chosen.items.length > 0}
              mayEdit={mayEdit}
              bare={now && under === 'editor' && mayEdit}
              onPick={walk.go}
              onChoose={chosen.choose}
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
                  perform={changes.perform}
                  onCheck={() => changes.check(i)}
                  onLeaveOut={() => changes.toggleOut(i)}
                  onUnder={walk.toggle}
                  onDone={() => walk.setUnder(null)}
                  {...(narrow && { findings: ownFindings(i) })}
                  at={{ set: view.id, workspace: view.workspaceId }}
                  onOpenSource={(source, from, to) => onOpenSource({ source, from, to })}
                />
              )}
            </ItemRow>
          );
        }}
      </Sheet>
      {beside}
    </main>
  );
}

/** The passage that stands in front of an item: of its section, before the section's first item that is shown. */
function passageBefore(before: Item | undefined, item: Item, sections: readonly Section[] | undefined): Section | null {
  const section = sections?.find((s) => s.id === item.section);
  if (!section || before?.section === section.id) return null;
  return section;
}
