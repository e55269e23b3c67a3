/** The checking of a set divided among colleagues, and how far everybody is. */
import { divided, type Operation, type SetDocument, shares, mayAs } from '@zakuska/core';
import { useState } from 'react';
import { wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useMembers } from '../signin/members.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  document: SetDocument;
  workspace: string;
  mayEdit: boolean;
  perform: (o: Operation) => boolean;
  /** Shows what one of them is to check. */
  onShow: (account: string) => void;
  onClose: () => void;
}
export function DivideDialog({ document, workspace, mayEdit, perform, onShow, onClose }: Props) {
  const members = useMembers(workspace);
  const [anew, setAnew] = useState(!document.work);
  const [chosen, setChosen] = useState<readonly string[]>(document.work?.map((w) => w.account) ?? []);
  const place = new Map(document.set.items.map((i, n) => [i.id, n + 1]));
  const people = (members.data ?? []).filter((m) => chosen.includes(m.id)).map((m) => ({ account: m.id, name: m.name }));
  const work = divided(document, people);
  const open = document.set.items.filter((i) => !document.reviews[i.id]).length;
  const stretch = (items: readonly string[]): string => {
    const [first, last] = [place.get(items[0] ?? ''), place.get(items.at(-1) ?? '')];
    return first === undefined
      ? say('nothing')
      : first === last
        ? say('item {first}', { first })
        : say('{items, plural, one {# item} other {# items}}, from {first} to {last}', { items: items.length, first, last: last ?? '' });
  };
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Divide the checking')}
      description={
        anew
          ? say('{open, plural, one {# item} other {# items}} still to be looked at. Everybody gets a stretch; items of one passage stay together.', { open })
          : say('Who looks at what, and how far everybody is.')
      }
      foot={
        mayEdit && (
          <>
            {anew ? (
              <>
                <Button
                  look="primary"
                  disabled={!people.length || !open}
                  onClick={() => perform({ type: 'divide', work: work.filter((w) => w.items.length) }) && onClose()}
                >
                  {say('Divide')}
                </Button>
                {document.work && <Button onClick={() => setAnew(false)}>{say('Back')}</Button>}
              </>
            ) : (
              <>
                <Button onClick={() => setAnew(true)}>{say('Divide anew')}</Button>
                <Button look="quiet" onClick={() => perform({ type: 'divide', work: null }) && onClose()}>
                  {say('No longer divided')}
                </Button>
              </>
            )}
          </>
        )
      }
    >
      {anew ? (
        members.isPending ? (
          <Busy what={say('Fetching')} />
        ) : members.isError ? (
          <p className="note error">{wordsOf(members.error)}</p>
        ) : (
          <fieldset disabled={!mayEdit} className="grid gap-1.5">
            <legend className="mb-1 text-[13.5px] font-semibold">{say('Who checks')}</legend>
            {members.data
              .filter((m) => mayAs(m.role, 'editor'))
              .map((m) => {
                const own = work.find((w) => w.account === m.id);
                return (
                  <label key={m.id} className="flex flex-wrap items-center gap-x-2">
                    <input
                      type="checkbox"
                      className="accent-beet"
                      checked={chosen.includes(m.id)}
                      onChange={(e) => setChosen(e.target.checked ? [...chosen, m.id] : chosen.filter((x) => x !== m.id))}
                    />
                    {m.name}
                    {own && <span className="text-[13.5px] text-ink-2">{stretch(own.items)}</span>}
                  </label>
                );
              })}
          </fieldset>
        )
      ) : (
        <ul className="grid gap-3">
          {shares(document).map((s) => (
            <li key={s.account ?? ''} className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1">
              <span>
                <b className="font-semibold">{s.name}</b> <span className="text-[13.5px] text-ink-2">{stretch(s.items)}</span>
              </span>
              {s.account !== undefined && (
                <Button look="quiet" onClick={() => onShow(s.account ?? '')}>
                  {say('Show them')}
                </Button>
              )}
              <progress
                className="h-2 w-full appearance-none overflow-hidden rounded-full bg-rule-2 [&::-moz-progress-bar]:bg-dill [&::-webkit-progress-bar]:bg-rule-2 [&::-webkit-progress-value]:bg-dill"
                max={Math.max(1, s.items.length)}
                value={s.through}
                aria-label={say('How far {name} is', { name: s.name })}
              />
              <span className="text-right text-[13.5px] text-ink-2 tabular-nums">
                {s.through === s.items.length ? say('through') : say('{through} of {items}', { through: s.through, items: s.items.length })}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Modal>
  );
}
