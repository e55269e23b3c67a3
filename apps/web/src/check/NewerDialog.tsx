/** Items that were taken from other sets and have changed there since: both side by side, the newer one to take or to leave. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { fieldNames, type Item, keepOwn, type Operation, saidOtherwise, takeNewer } from '@zakuska/core';
import { Link } from 'react-router';
import { api, call, type Schemas } from '../api/client.js';
import { ItemView } from '../item/ItemView.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { Say, say } from '../words/say.js';
import { retold } from '../words/retold.js';

export type Newer = Schemas['NewerView'];

/** The items of a set whose origins have changed, as long as they still are in it. */
export function useNewer(set: string, items: readonly Item[]): { mine: Item; newer: Newer }[] {
  const found = useQuery({
    queryKey: ['newer', set],
    enabled: items.some((i) => i.takenFrom),
    staleTime: 30_000,
    queryFn: () => call(api.GET('/api/v1/sets/{set}/newer', { params: { path: { set } } })),
  });
  return (found.data ?? []).flatMap((newer) => {
    const mine = items.find((i) => i.id === newer.item);
    return mine ? [{ mine, newer }] : [];
  });
}

interface Props {
  set: string;
  pairs: readonly { mine: Item; newer: Newer }[];
  mayEdit: boolean;
  perform: (o: Operation) => boolean;
  onClose: () => void;
}
export function NewerDialog({ set, pairs, mayEdit, perform, onClose }: Props) {
  const queries = useQueryClient();
  const settle = (pair: Props['pairs'][number], operation: Operation): void => {
    if (!perform(operation)) return;
    // told no more, whether or not the server has heard of it yet
    queries.setQueryData<Newer[]>(['newer', set], (all) => all?.filter((n) => n !== pair.newer));
    if (pairs.length === 1) onClose();
  };
  return (
    <Modal
      wide
      open
      onClose={onClose}
      title={say('Changed where they were taken from')}
      description={say('What you take is to be checked again; Undo brings the own wording back.')}
    >
      <ul className="grid gap-6">
        {pairs.map((pair) => {
          const { mine, newer } = pair;
          const fields = saidOtherwise(mine, newer.there);
          return (
            <li key={mine.id} className="grid gap-2">
              <p className="text-[13.5px] text-ink-2">
                <Say
                  text="From {link}{what}"
                  values={{
                    link: (
                      <Link className="link" to={`/sets/${newer.set}/check?item=${encodeURIComponent(newer.there.id)}`}>
                        {newer.setTitle}
                      </Link>
                    ),
                    what:
                      fields.length > 0
                        ? say(': {fieldNames} differ{fields, plural, one {s} other {}}', { fieldNames: retold(fieldNames(fields)), fields: fields.length })
                        : say(': it says the same as yours now'),
                  }}
                />
              </p>
              <div className="grid gap-3 sm:grid-cols-2">
                <section aria-label={say('Here')} className="rounded border border-rule p-3">
                  <h3 className="mb-1 text-[13px] font-semibold text-ink-2">{say('Here')}</h3>
                  <ItemView item={mine} />
                </section>
                <section aria-label={say('There now')} className="rounded border border-rule p-3">
                  <h3 className="mb-1 text-[13px] font-semibold text-ink-2">{say('There now')}</h3>
                  <ItemView item={newer.there} />
                </section>
              </div>
              {mayEdit && (
                <span className="flex gap-2">
                  <Button look="primary" onClick={() => settle(pair, takeNewer(mine, newer.there))}>
                    {say('Take the newer')}
                  </Button>
                  <Button onClick={() => settle(pair, keepOwn(mine, newer.there))}>{say('Keep mine')}</Button>
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </Modal>
  );
}
