/** Views of the bank by name: kept, opened again, thrown away. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { NameDialog } from '../frame/NameDialog.js';
import { say } from '../words/say.js';

interface Props {
  workspace: string;
  /** The query of the address that is shown. */
  address: string;
  /** Whether anything is asked that is worth keeping. */
  worth: boolean;
}
export function Views({ workspace, address, worth }: Props) {
  const queries = useQueryClient();
  const path = { params: { path: { workspace } } };
  const [naming, setNaming] = useState(false);
  const views = useQuery({ queryKey: ['bank views', workspace], queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/bank/views', path)) });
  const changed = (): Promise<void> => queries.invalidateQueries({ queryKey: ['bank views'] });
  const keep = useMutation({
    mutationFn: (body: { name: string; address: string }) => call(api.PUT('/api/v1/workspaces/{workspace}/bank/views', { ...path, body })),
    onSuccess: changed,
  });
  const remove = useMutation({
    mutationFn: (v: { id: string; name: string; address: string }) =>
      call(api.DELETE('/api/v1/workspaces/{workspace}/bank/views/{view}', { params: { path: { workspace, view: v.id } } })),
    onSuccess: (_, v) => {
      void changed();
      toast(say('The view “{name}” is gone.', { name: v.name }), {
        action: { label: say('Undo'), onClick: () => keep.mutate({ name: v.name, address: v.address }) },
      });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const list = views.data ?? [];
  const known = list.some((v) => v.address === address);
  if (!list.length && !worth) return null;
  return (
    <section aria-label={say('Views')} className="grid gap-0.5 text-sm">
      <h2 className="mb-0.5 text-[13.5px] font-semibold">{say('Views')}</h2>
      <ul>
        {list.map((v) => (
          <li key={v.id} className="flex min-h-6 items-center gap-1">
            <Link to={`/bank?${v.address}`} className={`min-w-0 flex-1 truncate hover:underline ${v.address === address ? 'font-semibold text-beet' : ''}`}>
              {v.name}
            </Link>
            <button
              type="button"
              aria-label={say('Forget the view “{name}”', { name: v.name })}
              className="grid size-6 cursor-pointer place-items-center rounded text-ink-2 hover:bg-brick-soft hover:text-brick"
              onClick={() => remove.mutate(v)}
            >
              <X size={13} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {worth && !known && (
        <button type="button" className="link cursor-pointer justify-self-start text-[13px]" onClick={() => setNaming(true)}>
          {say('Keep this view')}
        </button>
      )}
      {naming && (
        <NameDialog
          title={say('Keep this view')}
          label={say('Name')}
          action={say('Keep')}
          onName={(name) => keep.mutateAsync({ name, address })}
          onClose={() => setNaming(false)}
        />
      )}
    </section>
  );
}
