/** Arrange: the order of the items, with parts and points. */
import { includedItems, isQuestion, type Item, kinds, maximumOf, nameOf, newId } from '@zakuska/core';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { Empty, Foot } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button, Kbd } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { useRows } from '../ui/useRows.js';
import { ArrangeTabs } from './ArrangeTabs.js';

/** px of a row before it is measured. */
const ROW = 45;

export default function ArrangeStage() {
  const { document: doc, session, mayEdit, view } = useOpenSet();
  const { items, sections } = doc.set;
  const [current, setCurrent] = useState(0);
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
  const move = (from: number, to: number): void => {
    const item = items[from];
    if (!item || to < 0 || to >= items.length || !session.perform({ type: 'move', id: item.id, to })) return;
    setCurrent(to);
  };
  const remove = (item: Item): void => {
    if (session.perform({ type: 'remove', ids: [item.id] }))
      toast(`“${nameOf(item, 40)}” was taken out.`, { action: { label: 'Undo', onClick: () => session.undo() } });
  };
  const commands = useMemo(
    () =>
      mayEdit
        ? [
            {
              name: 'Add an empty multiple-choice item',
              run: () => void session.perform({ type: 'insert', at: items.length, items: [{ ...kinds['multiple-choice'].blank(), id: newId() }] }),
            },
          ]
        : [],
    [mayEdit, session, items.length],
  );
  useCommands(commands);
  useEffect(() => {
    if (!list.current?.contains(document.activeElement)) return;
    list.current.querySelector<HTMLElement>(`[data-index="${current}"] [data-row]`)?.focus({ preventScroll: true });
    show(current);
  }, [current, items, show]);
  if (!items.length)
    return (
      <main>
        <Empty title="Nothing to arrange yet">
          <p>When items have been taken from the draft, their order is set here.</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            Go to Draft
          </Link>
        </Empty>
      </main>
    );
  const out = (i: Item): boolean => doc.reviews[i.id]?.state === 'left-out';
  const included = includedItems(doc);
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)_auto]">
      <ArrangeTabs />
      <main ref={scroll} className="overflow-auto px-4 sm:px-6">
        <div className="mx-auto max-w-4xl py-5">
          <ol ref={list} aria-label="Items in order" className="border-y border-rule bg-sheet">
            {before > 0 && <li aria-hidden style={{ height: before }} />}
            {places.map((i) => {
              const item = items[i];
              if (!item) return null;
              const section = sections?.find((s) => s.id === item.section);
              const opens = section && items[i - 1]?.section !== item.section;
              return (
                <li key={item.id} ref={measure} data-index={i} aria-posinset={i + 1} aria-setsize={items.length} className="border-rule-2 not-first:border-t">
                  {opens && <h2 className="px-4 pt-3 pb-1 font-bold text-beet">{section.title ?? 'Part'}</h2>}
                  <div
                    data-row
                    tabIndex={i === current ? 0 : -1}
                    onFocus={() => setCurrent(i)}
                    onKeyDown={(e) => {
                      if (e.target !== e.currentTarget) return;
                      const by = e.key === 'ArrowDown' || e.key === 'j' ? 1 : e.key === 'ArrowUp' || e.key === 'k' ? -1 : 0;
                      if (!by) return;
                      e.preventDefault();
                      if (e.altKey && mayEdit) move(i, i + by);
                      else setCurrent(Math.max(0, Math.min(items.length - 1, i + by)));
                    }}
                    className={`grid grid-cols-[40px_minmax(0,1fr)_auto] items-center gap-3 px-3 py-1.5 sm:grid-cols-[40px_minmax(0,1fr)_130px_80px_auto] ${i === current ? 'bg-beet-soft/60' : ''} ${out(item) ? 'text-ink-2 line-through' : ''}`}
                  >
                    <span className="text-right font-[650] text-ink-2">{i + 1}</span>
                    <span className="truncate">{nameOf(item, 120)}</span>
                    <span className="hidden text-[13.5px] text-ink-2 sm:block">{kinds[item.kind].name}</span>
                    <span className="hidden text-right text-[13.5px] text-ink-2 sm:block">
                      {isQuestion(item) ? `${item.points} ${item.points === 1 ? 'point' : 'points'}` : ''}
                    </span>
                    {mayEdit && (
                      <span className="flex">
                        {(
                          [
                            ['Move up', ArrowUp, () => move(i, i - 1), i === 0],
                            ['Move down', ArrowDown, () => move(i, i + 1), i === items.length - 1],
                            ['Take out', Trash2, () => remove(item), false],
                          ] as const
                        ).map(([name, Icon, run, off]) => (
                          <button
                            key={name}
                            type="button"
                            aria-label={`${name}: item ${i + 1}`}
                            title={name}
                            disabled={off}
                            onClick={run}
                            className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet disabled:opacity-30"
                          >
                            <Icon size={16} aria-hidden />
                          </button>
                        ))}
                      </span>
                    )}
                  </div>
                </li>
              );
            })}
            {after > 0 && <li aria-hidden style={{ height: after }} />}
          </ol>
        </div>
      </main>
      <Foot>
        <span>
          {included.length} items, {maximumOf(included)} points
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>↑</Kbd> <Kbd>↓</Kbd> go
        </span>
        <span className="hidden items-center gap-1 md:flex">
          <Kbd>Alt ↑</Kbd> <Kbd>Alt ↓</Kbd> move the item
        </span>
        <span className="flex-1" />
        {mayEdit && <Button onClick={() => void session.undo()}>Undo</Button>}
      </Foot>
    </div>
  );
}
