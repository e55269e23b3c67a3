/** A day on which all answers of one source go. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { asInstant, asLocal } from '../ui/localTime.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import type { Source } from './sources.js';
import { locale, say } from '../words/say.js';

export function KeepUntil({ source, mayEdit }: { source: Source; mayEdit: boolean }) {
  const queries = useQueryClient();
  const { id } = source;
  const [typed, setTyped] = useState<string>();
  const kept = useQuery({
    queryKey: ['keeping', id],
    queryFn: () =>
      source.placement
        ? call(api.GET('/api/v1/placements/{placement}/keeping', { params: { path: { placement: id } } }))
        : call(api.GET('/api/v1/deliveries/{delivery}/keeping', { params: { path: { delivery: id } } })),
  });
  const keep = useMutation({
    mutationFn: (until: string | null) =>
      source.placement
        ? call(api.PUT('/api/v1/placements/{placement}/keeping', { params: { path: { placement: id } }, body: { until } }))
        : call(api.PUT('/api/v1/deliveries/{delivery}/keeping', { params: { path: { delivery: id } }, body: { until } })),
    onSuccess: (now) => {
      queries.setQueryData(['keeping', id], now);
      setTyped(undefined);
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const until = kept.data?.until;
  const said = until ? say('Kept until {what}', { what: new Date(until).toLocaleDateString(locale(), { dateStyle: 'medium' }) }) : '';
  if (!mayEdit) return said ? <span>{said}</span> : null;
  return (
    <>
      <Button disabled={!kept.data} onClick={() => setTyped(asLocal(until ?? undefined))}>
        {said || say('Keep until …')}
      </Button>
      {typed !== undefined && (
        <Modal
          open
          onClose={() => setTyped(undefined)}
          title={say('Until when these answers are kept')}
          description={
            source.code
              ? say('Then all answers to this quiz are deleted, and it is closed. How its items did stays with the items, as figures of nobody.')
              : say('Then all these answers are deleted here.')
          }
          foot={
            <>
              {until && (
                <Button look="quiet" disabled={keep.isPending} onClick={() => keep.mutate(null)}>
                  {say('Set no day')}
                </Button>
              )}
              <span className="flex-1" />
              <Button onClick={() => setTyped(undefined)}>{say('Cancel')}</Button>
              <Button look="primary" disabled={keep.isPending || !typed} onClick={() => keep.mutate(asInstant(typed) ?? null)}>
                {say('Keep until then')}
              </Button>
            </>
          }
        >
          <Field label={say('Keep until')}>{(f) => <Input id={f} type="datetime-local" value={typed} onChange={(e) => setTyped(e.target.value)} />}</Field>
        </Modal>
      )}
    </>
  );
}
