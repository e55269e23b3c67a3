/** Arrange: the order of the items, by drag and keyboard, in parts with what each asks and is worth. */
import {
  changePart,
  dissolvePart,
  includedItems,
  type Item,
  makePart,
  maximumOf,
  moveRun,
  moveTo,
  nameOf,
  newId,
  numberItems,
  type Operation,
  runsOfSet,
  type Section,
} from '@zakuska/core';
import { DropdownMenu } from 'radix-ui';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { AddItem, addCommands } from '../edit/AddItem.js';
import { Empty, Foot, KeyHint } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button, Kbd } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { Dragging } from '../ui/Dragging.js';
import { useRows } from '../ui/useRows.js';
import { ArrangeRow, PartHead } from './ArrangeRow.js';
import { ArrangeTabs } from './ArrangeTabs.js';
import { PartDialog } from './PartDialog.js';
import { say } from '../words/say.js';

/** px of a row before it is measured. */
const ROW = 45;
const NUMBERING = [
  ['through', say('Number them through')],
  ['parts', say('Number them anew in each part')],
  ['none', say('No numbers of their own')],
] as const;

export default function ArrangeStage() {
  const { document: doc, session, mayEdit, view } = useOpenSet();
  const { set } = doc;
  const { items } = set;
  const navigate = useNavigate();
  const [current, setCurrent] = useState(0);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [dialog, setDialog] = useState<{ part: Section; fresh: boolean } | null>(null);
  const scroll = useRef<HTMLElement>(null);
  const list = useRef<HTMLOListElement>(null);
  const { places, before, after, measure, show } = useRows({
    count: items.length,
    scroll,
    list,
    estimate: ROW,
    keyOf: (i) => items[i]?.id ?? '',
    always: current,
  });
  const runs = useMemo(() => runsOfSet(set), [set]);
  const perform = (operation: Operation | null): boolean => operation !== null && session.perform(operation);
  /** Whether a key has gone to another row. The row with the focus may have been scrolled off the page by then, and the focus with it. */
  const goes = useRef(false);
  const go = (to: number): void => {
    goes.current = true;
    setCurrent(Math.max(0, Math.min(items.length - 1, to)));
  };
  const move = (id: string, to: number): void => {
    if (perform(moveTo(set, id, to))) go(to);
  };
  const remove = (item: Item): void => {
    if (session.perform({ type: 'remove', ids: [item.id] }))
      toast(say('“{name}” was taken out.', { name: nameOf(item, 40) }), { action: { label: say('Undo'), onClick: () => session.undo() } });
  };
  const choose = (id: string): void => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  /** Behind all others, in the part of the last; it is written in Check. */
  const add = (blank: Item): void => {
    const section = items.at(-1)?.section;
    const made = { ...blank, ...(section && { section }) };
    if (session.perform({ type: 'insert', at: items.length, items: [made] })) void navigate(`/sets/${view.id}/check?item=${made.id}&edit`);
  };
  const picked = items.filter((i) => chosen.has(i.id));
  const makeOne = (): void => setDialog({ part: { id: newId(), title: say('Part {n}', { n: (set.sections?.length ?? 0) + 1 }) }, fresh: true });
  useCommands(
    mayEdit
      ? [
          ...addCommands(add),
          ...(picked.length ? [{ name: say('Make a part of the chosen items'), keys: ['P'], run: makeOne }] : []),
          ...NUMBERING.map(([how, name]) => ({ name: say('{name}: the items', { name }), run: () => void perform(numberItems(set, how)) })),
        ]
      : [],
  );
  // before the page is painted: the next key is for the new row
  useLayoutEffect(() => {
    if (!list.current || !(goes.current || list.current.contains(document.activeElement))) return;
    goes.current = false;
    list.current.querySelector<HTMLElement>(`[data-index="${current}"] [data-row]`)?.focus({ preventScroll: true });
    show(current);
  }, [current, items, show]);
  if (!items.length)
    return (
      <main>
        <Empty title={say('Nothing to arrange yet')}>
          <p>{say('When items have been taken from the draft, their order is set here.')}</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            {say('Go to Draft')}
          </Link>
          {mayEdit && (
            <p>
              {say('Or write one:')} <AddItem onAdd={add} />
            </p>
          )}
        </Empty>
      </main>
    );
  const included = includedItems(doc);
  const dropped = (what: { item?: string }, onto: { at?: number }): void => {
    const from = items.findIndex((i) => i.id === what.item);
    if (from < 0 || onto.at === undefined || what.item === undefined) return;
    // it comes to stand in front of the line on which it was let go
    move(what.item, onto.at > from ? onto.at - 1 : onto.at);
  };
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto]">
      <ArrangeTabs />
      <main ref={scroll} className="overflow-auto px-4 sm:px-6">
        <div className="mx-auto max-w-4xl py-5">
          <Dragging onDrop={(what, onto) => dropped(what as { item?: string }, onto as { at?: number })}>
            <ol ref={list} aria-label={say('Items in order')} className="border-y border-rule bg-sheet">
              {before > 0 && <li aria-hidden style={{ height: before }} />}
              {places.map((i) => {
                const item = items[i];
                if (!item) return null;
                const at = runs.findIndex((r) => r.from === i);
                const run = runs[at];
                const own = run ? items.slice(run.from, run.to) : [];
                return (
                  <li key={item.id} ref={measure} data-index={i} aria-posinset={i + 1} aria-setsize={items.length} className="border-rule-2 not-first:border-t">
                    {run?.section && (
                      <PartHead
                        section={run.section}
                        items={own.length}
                        points={maximumOf(own)}
                        first={at === 0}
                        last={at === runs.length - 1}
                        mayEdit={mayEdit}
                        onEdit={() => run.section && setDialog({ part: run.section, fresh: false })}
                        onMove={(by) => void perform(moveRun(set, at, by))}
                        onDissolve={() => run.section && perform(dissolvePart(set, run.section.id))}
                      />
                    )}
                    {/* where a part ends and no other begins */}
                    {run && !run.section && i > 0 && <div aria-hidden className="h-2 border-b border-rule-2 bg-paper/60" />}
                    <ArrangeRow
                      item={item}
                      at={i}
                      count={items.length}
                      current={i === current}
                      chosen={chosen.has(item.id)}
                      leftOut={doc.reviews[item.id]?.state === 'left-out'}
                      mayEdit={mayEdit}
                      onFocus={() => setCurrent(i)}
                      onChoose={() => choose(item.id)}
                      onGo={(by) => go(i + by)}
                      onMove={(to) => move(item.id, to)}
                      onRemove={() => remove(item)}
                    />
                  </li>
                );
              })}
              {after > 0 && <li aria-hidden style={{ height: after }} />}
            </ol>
          </Dragging>
        </div>
      </main>
      <Foot>
        {picked.length > 0 ? (
          <>
            <b className="text-ink">{say('{picked, plural, one {# item} other {# items}} chosen', { picked: picked.length })}</b>
            <span className="flex-1" />
            <Button look="quiet" onClick={() => setChosen(new Set())}>
              {say('Choose none')}
            </Button>
            <Button look="primary" keys="P" onClick={makeOne}>
              {say('Make a part of {picked, plural, one {it} other {them}}', { picked: picked.length })}
            </Button>
          </>
        ) : (
          <>
            <span>
              {say('{included, plural, one {# item} other {# items}}', { included: included.length })},{' '}
              {say('{maximum, plural, one {# point} other {# points}}', { maximum: maximumOf(included) })}
            </span>
            <KeyHint>
              <Kbd>↑</Kbd> <Kbd>↓</Kbd> {say('go')}
            </KeyHint>
            <KeyHint>
              <Kbd>Alt ↑</Kbd> <Kbd>Alt ↓</Kbd> {say('move the item')}
            </KeyHint>
            <KeyHint>
              <Kbd>S</Kbd> {say('choose, for a part')}
            </KeyHint>
            <span className="flex-1" />
            {mayEdit && (
              <>
                <AddItem onAdd={add} />
                <DropdownMenu.Root>
                  <DropdownMenu.Trigger asChild>
                    <Button>{say('Numbers')}</Button>
                  </DropdownMenu.Trigger>
                  <DropdownMenu.Portal>
                    <DropdownMenu.Content side="top" align="end" className="z-50 min-w-48 rounded-lg border border-rule bg-sheet p-1.5">
                      {NUMBERING.map(([how, name]) => (
                        <DropdownMenu.Item
                          key={how}
                          className="cursor-pointer rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet"
                          onSelect={() => void (perform(numberItems(set, how)) || toast(say('They are numbered so already.')))}
                        >
                          {name}
                        </DropdownMenu.Item>
                      ))}
                    </DropdownMenu.Content>
                  </DropdownMenu.Portal>
                </DropdownMenu.Root>
                <Button onClick={() => void session.undo()}>{say('Undo')}</Button>
              </>
            )}
          </>
        )}
      </Foot>
      {dialog && (
        <PartDialog
          set={set}
          part={dialog.part}
          fresh={dialog.fresh}
          count={dialog.fresh ? picked.length : items.filter((i) => i.section === dialog.part.id).length}
          onDone={(part, points) => {
            const { id: _, ...fields } = part;
            if (!perform(dialog.fresh ? makePart(set, chosen, fields) : changePart(set, part, points))) return;
            setChosen(new Set());
            setDialog(null);
          }}
          onClose={() => setDialog(null)}
        />
      )}
    </div>
  );
}
