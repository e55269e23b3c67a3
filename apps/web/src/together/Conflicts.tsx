/** Edits that touch what somebody else changed meanwhile: told in a line that leaves the typing alone, and decided on when there is time. */
import { apply, changesOf, includedItems, type Item, nameOf, type Operation, OperationError, sayOperation, type SetDocument } from '@zakuska/core';
import { useState, useSyncExternalStore } from 'react';
import { ItemView } from '../item/ItemView.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useOpenSet } from '../set/context.js';
import type { Conflict } from '../set/SetSession.js';
import { listed, say } from '../words/say.js';
import { retold } from '../words/retold.js';

/** The set as it would be with an operation on top; null where it does not fit any more. */
function withMine(doc: SetDocument, operation: Operation): SetDocument | null {
  try {
    return apply(doc, operation).document;
  } catch (e) {
    if (e instanceof OperationError) return null;
    throw e;
  }
}
/** The items that an operation is about. */
const about = (op: Operation): string[] => [
  ...new Set(
    changesOf(op).flatMap((o) =>
      o.type === 'change' || o.type === 'move' || o.type === 'review'
        ? [o.id]
        : o.type === 'replace'
          ? [o.item.id]
          : o.type === 'insert'
            ? o.items.map((i) => i.id)
            : o.type === 'remove'
              ? o.ids
              : [],
    ),
  ),
];
const names = (list: readonly string[]): string => (list.length ? listed(list) : say('Somebody else'));

/** The line below the stages. */
export function Conflicts() {
  const { session, draft, conflicts, document: doc } = useOpenSet();
  const { theirs, text } = useSyncExternalStore(draft.subscribe, draft.get);
  const [open, setOpen] = useState(false);
  const waiting = conflicts.length + (theirs ? 1 : 0);
  if (!waiting) return <div />;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-amber-soft px-4 py-1.5 sm:px-6">
      <p role="status" className="min-w-0">
        {conflicts.length > 0
          ? say('{names} changed the same as you{what}: theirs is in the set, yours is kept here.', {
              names: names([...new Set(conflicts.flatMap((c) => c.by))]),
              what: conflicts.length > 1 ? say(' in {conflicts, plural, one {# place} other {# places}}', { conflicts: conflicts.length }) : '',
            })
          : say('Somebody else changed this draft. Your text is kept in this browser and not sent.')}
      </p>
      <Button onClick={() => setOpen(true)}>{say('{waiting, plural, one {Compare both} other {Compare all #}}', { waiting })}</Button>
      <Modal
        open={open}
        onClose={() => setOpen(false)}
        wide
        title={say('Changed by two at once')}
        description={say('Theirs is in the set. Say for each of yours whether it goes on top; until then it waits here.')}
      >
        <ul className="grid gap-4">
          {conflicts.map((c) => (
            <Versions key={c.id} conflict={c} doc={doc} onMine={() => session.settle(c, true)} onTheirs={() => session.settle(c, false)} />
          ))}
          {theirs && (
            <li className="grid gap-3 sm:grid-cols-2">
              <Side name={say('Your draft')} action={say('Keep mine')} onChoose={() => draft.settle(true)}>
                <Text text={text} />
              </Side>
              <Side name={say('Their draft')} action={say('Take theirs')} onChoose={() => draft.settle(false)}>
                <Text text={theirs.text} />
              </Side>
            </li>
          )}
        </ul>
      </Modal>
    </div>
  );
}

/** One change of mine beside what they made of the same item. */
function Versions({ conflict, doc, onMine, onTheirs }: { conflict: Conflict; doc: SetDocument; onMine: () => void; onTheirs: () => void }) {
  const { operation, by } = conflict;
  const mine = withMine(doc, operation);
  const ids = about(operation);
  const itemIn = (of: SetDocument | null, id: string): Item | undefined => of?.set.items.find((i) => i.id === id);
  const shown = ids.filter((id) => JSON.stringify(itemIn(mine, id)) !== JSON.stringify(itemIn(doc, id))).slice(0, 3);
  const first = ids.map((id) => itemIn(doc, id)).find(Boolean);
  const place = first ? includedItems(doc).indexOf(first) + 1 : 0;
  const what = retold(sayOperation(operation, doc.set.items));
  return (
    <li className="grid gap-2 border-t border-rule pt-3 first:border-0 first:pt-0">
      <p className="font-semibold">
        {first ? say('Item {label}: {name}', { label: first.label ?? (place || ''), name: nameOf(first, 60) }) : say('The set')}
        <span className="font-normal text-ink-2"> · {what}</span>
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        <Side name={say('Yours')} action={mine ? say('Use mine') : undefined} onChoose={onMine}>
          {mine ? (
            shown.map((id) => <Shown key={id} item={itemIn(mine, id)} gone={say('Removed.')} />)
          ) : (
            <p>{say('It does not fit any more: {what}.', { what })}</p>
          )}
          {mine && !shown.length && <p>{what}</p>}
        </Side>
        <Side name={by.length ? names(by) : say('As it is now')} action={mine ? say('Keep theirs') : say('Let mine go')} onChoose={onTheirs}>
          {(shown.length ? shown : ids.slice(0, 1)).map((id) => (
            <Shown key={id} item={itemIn(doc, id)} gone={say('Removed meanwhile.')} />
          ))}
        </Side>
      </div>
    </li>
  );
}
const Shown = ({ item, gone }: { item: Item | undefined; gone: string }) => (item ? <ItemView item={item} /> : <p className="text-ink-2">{gone}</p>);
const Text = ({ text }: { text: string }) => (
  <>
    <p className="text-sm text-ink-2">{say('{split, plural, one {# line} other {# lines}}', { split: text.split('\n').length })}</p>
    <pre className="max-h-48 overflow-auto rounded border border-rule bg-paper p-2 font-mono text-xs whitespace-pre-wrap" tabIndex={0}>
      {text.slice(0, 4000)}
    </pre>
  </>
);

function Side({ name, action, onChoose, children }: { name: string; action: string | undefined; onChoose: () => void; children: React.ReactNode }) {
  return (
    <section className="grid content-start gap-2 rounded border border-rule p-3" aria-label={name}>
      <h3 className="text-sm font-semibold text-ink-2">{name}</h3>
      {children}
      {action && <Button onClick={onChoose}>{action}</Button>}
    </section>
  );
}
