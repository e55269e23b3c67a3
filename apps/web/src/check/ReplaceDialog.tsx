/** Find and replace over the whole set, every place shown before it is changed. */
import { counted, findIn, type Item, type Operation, replaceIn, type SetDocument } from '@zakuska/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';

const SHOWN = 300;

export function ReplaceDialog({
  document: doc,
  chosen,
  words,
  onClose,
  perform,
}: {
  document: SetDocument;
  /** Only in these, where some are chosen. */
  chosen: ReadonlySet<string>;
  words: string;
  onClose: () => void;
  perform: (o: Operation) => boolean;
}) {
  const [find, setFind] = useState(words);
  const [replacement, setReplacement] = useState('');
  const [capitals, setCapitals] = useState(false);
  const [whole, setWhole] = useState(false);
  const [not, setNot] = useState<ReadonlySet<string>>(new Set());
  const set = useMemo(() => (chosen.size ? { ...doc.set, items: doc.set.items.filter((i) => chosen.has(i.id)) } : doc.set), [doc.set, chosen]);
  const typed = useDeferredValue(find);
  const search = useMemo(() => ({ find: typed, capitals, words: whole }), [typed, capitals, whole]);
  const matches = useMemo(() => findIn(set, search), [set, search]);
  const wanted = matches.filter((m) => !not.has(m.id));
  const number = new Map<string, string>(doc.set.items.map((i: Item, n) => [i.id, i.label ?? String(n + 1)]));
  const checked = new Set(wanted.filter((m) => doc.reviews[m.item]?.state === 'checked').map((m) => m.item)).size;
  const replace = (): void => {
    const operations = replaceIn(set, search, replacement, new Set(wanted.map((m) => m.id)));
    if (operations.length && perform({ type: 'all', label: `“${typed}” replaced in ${counted(wanted.length, 'place')}`, operations })) onClose();
  };
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={chosen.size ? `Find and replace in ${chosen.size} chosen items` : 'Find and replace'}
      foot={
        <>
          <p role="status" className="flex-1 text-[13.5px] text-ink-2">
            {typed.trim() ? `${wanted.length} of ${counted(matches.length, 'place')}.` : 'Type what is to be found.'}
            {checked > 0 && ` ${checked} checked ${checked === 1 ? 'item has' : 'items have'} to be checked again.`}
          </p>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="primary" disabled={!wanted.length} onClick={replace}>
            Replace
          </Button>
        </>
      }
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label="Find">{(id) => <Input id={id} autoFocus dir="auto" value={find} onChange={(e) => setFind(e.target.value)} />}</Field>
        <Field label="Replace with">{(id) => <Input id={id} dir="auto" value={replacement} onChange={(e) => setReplacement(e.target.value)} />}</Field>
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-beet" checked={whole} onChange={(e) => setWhole(e.target.checked)} /> Whole words only
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-beet" checked={capitals} onChange={(e) => setCapitals(e.target.checked)} /> Capital letters count
        </label>
      </div>
      <ul aria-label="Places" className="mt-3 grid gap-px">
        {matches.slice(0, SHOWN).map((m) => (
          <li key={m.id}>
            <label className="grid cursor-pointer grid-cols-[20px_minmax(0,1fr)] gap-2 border-t border-rule-2 py-1.5">
              <input
                type="checkbox"
                className="mt-0.5 size-4 accent-beet"
                checked={!not.has(m.id)}
                onChange={(e) => setNot((n) => new Set(e.target.checked ? [...n].filter((x) => x !== m.id) : [...n, m.id]))}
              />
              <span>
                <span className="block text-[13px] text-ink-2">
                  {number.get(m.item)} · {m.place}
                </span>
                <span dir="auto">
                  {m.context[0]}
                  <del className="text-brick">{m.context[1]}</del>
                  {replacement && <ins className="ml-1 font-[650] text-dill no-underline">{replacement}</ins>}
                  {m.context[2]}
                </span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      {matches.length > SHOWN && <p className="text-[13.5px] text-ink-2">and {matches.length - SHOWN} more, which are replaced too</p>}
      {typed.trim() && !matches.length && <p className="mt-2 text-ink-2">Nothing has these words.</p>}
    </Modal>
  );
}
