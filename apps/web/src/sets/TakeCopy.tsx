/** Where a link to a copy leads: what it is, and into which workspace the copy goes. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, call, wordsOf } from '../api/client.js';
import { Busy, Empty, TopBar } from '../frame/Frame.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { say } from '../words/say.js';

export default function TakeCopy() {
  const { token = '' } = useParams();
  const session = useSession();
  const own = session.workspaces.filter((w) => mayAs(w.role, 'editor'));
  const [into, setInto] = useState(own[0]?.id ?? '');
  const queries = useQueryClient();
  const navigate = useNavigate();
  const path = { params: { path: { token } } };
  const linked = useQuery({ queryKey: ['copies', token], retry: 1, queryFn: () => call(api.GET('/api/v1/copies/{token}', path)) });
  const take = useMutation({
    mutationFn: () => call(api.POST('/api/v1/copies/{token}', { ...path, body: { workspace: into } })),
    onSuccess: (s) => {
      void queries.invalidateQueries({ queryKey: ['sets'] });
      void navigate(`/sets/${s.id}/check`);
    },
  });
  return (
    <div className="min-h-dvh">
      <TopBar />
      <main>
        {linked.isPending ? (
          <Busy what={say('Looking')} />
        ) : linked.isError ? (
          <Empty title={say('No set here')}>
            <p>{wordsOf(linked.error)}</p>
          </Empty>
        ) : (
          <Empty title={linked.data.title}>
            <p>
              {say(
                '{by} gives you a copy of this set with {items, plural, one {# item} other {# items}}. It is yours to change; what you do with it is not seen by them.',
                { by: linked.data.by, items: linked.data.items },
              )}
            </p>
            {own.length > 1 && (
              <Field label={say('Into the workspace')}>
                {(id) => (
                  <Select id={id} value={into} onChange={(e) => setInto(e.target.value)}>
                    {own.map((w) => (
                      <option key={w.id} value={w.id}>
                        {w.name}
                      </option>
                    ))}
                  </Select>
                )}
              </Field>
            )}
            {own.length ? (
              <Button look="primary" disabled={take.isPending} onClick={() => take.mutate()}>
                {say('Take the copy')}
              </Button>
            ) : (
              <p className="text-ink-2">{say('You may look at sets in your workspaces, not make any. Ask an owner to let you.')}</p>
            )}
            {take.isError && <p className="text-brick">{wordsOf(take.error)}</p>}
          </Empty>
        )}
      </main>
    </div>
  );
}
