/** Chosen items on their way into a set: one that is there, or a new one. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { copiesFor, mayAs } from '@zakuska/core';
import { useState } from 'react';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { operateOn } from '../api/operateOn.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select, useTyped } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  workspace: string;
  items: readonly Schemas['BankItem'][];
  /** They become a set of their own, that versions are drawn from. */
  pool?: boolean;
  onClose: () => void;
  onTaken: (set: { id: string; title: string }) => void;
}

export function TakeDialog({ workspace, items, pool = false, onClose, onTaken }: Props) {
  const queries = useQueryClient();
  const [into, setInto] = useState('');
  const [find, setFind] = useState('');
  const words = useTyped(find, setFind);
  const [title, setTitle] = useState('');
  const sets = useQuery({
    queryKey: ['sets', workspace, 'to take into', find],
    placeholderData: keepPreviousData,
    queryFn: () =>
      call(api.GET('/api/v1/workspaces/{workspace}/sets', { params: { path: { workspace }, query: { sort: 'opened', ...(find && { q: find }) } } })),
  });
  const many = (sets.data?.length ?? 0) > 30;
  const take = useMutation({
    mutationFn: async () => {
      const set = into
        ? { id: into, title: sets.data?.find((s) => s.id === into)?.title ?? '' }
        : await call(
            api.POST('/api/v1/workspaces/{workspace}/sets', {
              params: { path: { workspace } },
              body: { title: title.trim() || (pool ? say('Pool') : say('From the bank')) },
            }),
          );
      const languages = new Set(items.map((i) => i.language));
      await operateOn(set.id, (document) => ({
        type: 'insert',
        at: document.set.items.length,
        // what is in another language than the set says so by itself
        items: items.flatMap((i) =>
          copiesFor([i.item], languages.size > 1 || (i.language && i.language !== document.set.language) ? i.language : undefined, i.set),
        ),
      }));
      return set;
    },
    onSuccess: (set) => {
      void queries.invalidateQueries({ queryKey: ['sets'] });
      void queries.invalidateQueries({ queryKey: ['set', set.id] });
      void queries.invalidateQueries({ queryKey: ['bank'] });
      onTaken(set);
    },
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={
        pool
          ? say('A pool of {items, plural, one {# item} other {# items}}', { items: items.length })
          : say('Take {items, plural, one {# item} other {# items}} into a set', { items: items.length })
      }
      description={say('They are copied{what}; what stands in the other sets stays as it is.', {
        what: pool ? say(' into a set, from which the versions are drawn') : '',
      })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          take.mutate();
        }}
      >
        {!pool && (
          <>
            {(many || find) && <Input type="search" aria-label={say('Find a set')} placeholder={say('Find a set by its words')} {...words} />}
            <Field label={say('Into')}>
              {(id) => (
                <Select id={id} value={into} onChange={(e) => setInto(e.target.value)}>
                  <option value="">{say('a new set')}</option>
                  {sets.data
                    ?.filter((s) => mayAs(s.role, 'editor'))
                    .map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.title}
                        {s.path.length > 0 && `, ${s.path.join(' / ')}`}: {say('{items, plural, one {# item} other {# items}}', { items: s.items })}
                      </option>
                    ))}
                </Select>
              )}
            </Field>
          </>
        )}
        {!into && (
          <Field label={say('Title')} error={take.isError ? wordsOf(take.error) : undefined}>
            {(id) => (
              <Input id={id} maxLength={300} value={title} placeholder={pool ? say('Pool') : say('From the bank')} onChange={(e) => setTitle(e.target.value)} />
            )}
          </Field>
        )}
        {into && take.isError && <p className="text-[13.5px] text-brick">{wordsOf(take.error)}</p>}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={take.isPending}>
            {pool ? say('On to the versions') : say('Take {items}', { items: items.length })}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
