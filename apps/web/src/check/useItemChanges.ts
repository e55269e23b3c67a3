/** What is done to items in Check: marked, left out, added, copied, moved, deleted; each is one step of undo. */
import {
  copyItems,
  type Finding,
  type Item,
  keyProblem,
  leaveOut,
  markChecked,
  moveItems,
  type Operation,
  removing,
  type Review,
  type SimpleOperation,
} from '@zakuska/core';
import { useCallback, useMemo } from 'react';
import { toast } from 'sonner';
import { useOpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';
import type { Chosen } from './useChosen.js';
import type { Walk } from './useWalk.js';

/** "3 items". */
export const manyItems = (n: number): string => say('{n, plural, one {# item} other {# items}}', { n });

export interface ItemChanges {
  perform: (operation: Operation) => boolean;
  undo: () => void;
  /** Marks an item as checked and goes on to the next, or takes the mark off; tells where it has no key. */
  check: (item: Item) => void;
  toggleOut: (item: Item) => void;
  /** Does what the first finding of the item at hand offers. */
  applyFirstFix: () => void;
  /** Asks for a reason to set the first finding of the item at hand aside. */
  setAside: () => void;
  /** Adds an item behind the one at hand, in its part; its editor opens. */
  add: (blank: Item) => void;
  copy: (item: Item) => void;
  /** All of these are done with the items that are chosen. */
  ofChosen: { check: () => void; copy: () => void; leaveOut: (out: boolean) => void; remove: () => void; move: (to: Parameters<typeof moveItems>[2]) => void };
}

export function useItemChanges(walk: Walk, chosen: Chosen, findings: readonly Finding[]): ItemChanges {
  const { document: doc, session } = useOpenSet();
  const me = useSession();
  const { items } = doc.set;
  const { shown, at, item, go, open, setAsideOf } = walk;
  const perform = useMemo(() => session.perform.bind(session), [session]);
  const undo = useCallback(() => void (session.undo() || toast(say('Nothing to undo.'))), [session]);
  const doAll = (label: string, operations: SimpleOperation[]): boolean => operations.length > 0 && perform({ type: 'all', label, operations });
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
  const toggleOut = useCallback((i: Item) => void review(i, doc.reviews[i.id]?.state === 'left-out' ? null : { state: 'left-out' }), [doc.reviews, review]);

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
  }, [own, setAsideOf]);

  const add = useCallback(
    (blank: Item) => {
      const section = item?.section;
      const place = item ? items.findIndex((i) => i.id === item.id) + 1 : items.length;
      if (perform({ type: 'insert', at: place, items: [{ ...blank, ...(section && { section }) }] })) open(blank.id);
    },
    [item, items, perform, open],
  );

  const count = chosen.items.length;
  const ids = chosen.items.map((i) => i.id);
  return {
    perform,
    undo,
    check,
    toggleOut,
    applyFirstFix,
    setAside,
    add,
    copy: (i) => void doAll(say('Copied an item'), copyItems(items, new Set([i.id]))),
    ofChosen: {
      check: () => {
        const { operations, faulty } = markChecked(doc, chosen.items, me.name, new Date().toISOString());
        const done = doAll(say('Checked {many}', { many: manyItems(operations.length) }), operations);
        const left = faulty.length
          ? say(' {many} {faulty, plural, one {has} other {have}} no key yet.', { many: manyItems(faulty.length), faulty: faulty.length })
          : '';
        if (done)
          toast(say('{many} marked as checked.{left}', { many: manyItems(operations.length), left }), {
            action: { label: say('Undo'), onClick: () => session.undo() },
          });
        else toast(faulty.length ? say('Nothing was marked.{left}', { left }) : say('They are checked or left out already.'));
      },
      copy: () => {
        if (doAll(say('Copied {many}', { many: manyItems(count) }), copyItems(items, chosen.ids)))
          toast(say('{many} copied, behind the last of them.', { many: manyItems(count) }));
      },
      leaveOut: (out) => {
        const label = out ? say('Left out {many}', { many: manyItems(count) }) : say('Took in {many}', { many: manyItems(count) });
        doAll(label, leaveOut(doc, ids, out));
      },
      remove: () => {
        const removal = removing(ids);
        if (!perform(removal.type === 'all' ? { ...removal, label: say('Deleted {many}', { many: manyItems(count) }) } : removal)) return;
        chosen.chooseOnly([]);
        toast(say('{many} deleted. Undo brings them back.', { many: manyItems(count) }));
      },
      move: (to) => void doAll(say('Moved {many}', { many: manyItems(count) }), moveItems(items, chosen.ids, to)),
    },
  };
}
