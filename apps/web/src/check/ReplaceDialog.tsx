/** Find and replace over the whole set, every place shown before it is changed. */
import { findIn, type Item, type Operation, replaceIn, type SetDocument } from '@zakuska/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

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
    if (
      operations.length &&
      perform({
        type: 'all',
        label: say('“{typed}” replaced in {wanted, plural, one {# place} other {# places}}', { typed, wanted: wanted.length }),
        operations,
      })
    )
      onClose();
  };
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={chosen.size ? say('Find and replace in {chosen} chosen items', { chosen: chosen.size }) : say('Find and replace')}
      foot={
        <>
          <p role="status" className="flex-1 text-[13.5px] text-ink-2">
            {typed.trim()
              ? say('{wanted} of {matches, plural, one {# place} other {# places}}.', { wanted: wanted.length, matches: matches.length })
              : say('Type what is to be found.')}
            {checked > 0 && say(' {checked} checked {checked, plural, one {item has} other {items have}} to be checked again.', { checked })}
          </p>
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={!wanted.length} onClick={replace}>
            {say('Replace')}
          </Button>
        </>
      }
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label={say('Find')}>{(id) => <Input id={id} autoFocus dir="auto" value={find} onChange={(e) => setFind(e.target.value)} />}</Field>
        <Field label={say('Replace with')}>{(id) => <Input id={id} dir="auto" value={replacement} onChange={(e) => setReplacement(e.target.value)} />}</Field>
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-beet" checked={whole} onChange={(e) => setWhole(e.target.checked)} /> {say('Whole words only')}
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-beet" checked={capitals} onChange={(e) => setCapitals(e.target.checked)} />{' '}
          {say('Capital letters count')}
        </label>
      </div>
      <ul aria-label={say('Places')} className="mt-3 grid gap-px">
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
      {matches.length > SHOWN && <p className="text-[13.5px] text-ink-2">{say('and {n} more, which are replaced too', { n: matches.length - SHOWN })}</p>}
      {typed.trim() && !matches.length && <p className="mt-2 text-ink-2">{say('Nothing has these words.')}</p>}
    </Modal>
  );
}
