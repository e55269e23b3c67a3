/** While an item is written: where the workspace asks nearly the same already. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Item, nameOf } from '@zakuska/core';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Say, say } from '../words/say.js';

/** ms without a change before it is looked for. */
const REST = 700;
/** A stem of fewer letters is like many. */
const SHORT = 12;

interface Props {
  item: Item;
  set: string;
  workspace: string;
  className?: string;
}
export function AskedBefore({ item, set, workspace, className = '' }: Props) {
  const queries = useQueryClient();
  const [asked, setAsked] = useState(item);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(item), REST);
    return () => clearTimeout(timer);
  }, [item]);
  const path = { params: { path: { workspace } } };
  const key = ['bank', 'like', workspace, set, asked];
  const found = useQuery({
    queryKey: key,
    enabled: asked.stem.length >= SHORT,
    retry: false,
    staleTime: 60_000,
    queryFn: () => call(api.POST('/api/v1/workspaces/{workspace}/bank/like', { ...path, body: { item: asked, set } })),
  });
  const differ = useMutation({
    mutationFn: (r: Schemas['BankItem']) =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/bank/not-alike', {
          ...path,
          body: {
            items: [
              { set, item: item.id },
              { set: r.set, item: r.item.id },
            ],
            differ: true,
          },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['bank'] }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (asked.id !== item.id || !found.data?.length) return null;
  return (
    <div role="status" className={`rounded border border-amber/40 bg-amber-soft px-3 py-2 text-[13.5px] ${className}`}>
      <b className="font-semibold">{say('Asked nearly so already')}</b>
      <ul className="mt-0.5 grid gap-0.5">
        {found.data.map((r) => (
          <li key={`${r.set} ${r.item.id}`}>
            <Say
              text="in {link}: {name}"
              values={{
                link: (
                  <Link className="link" to={`/sets/${r.set}/check?item=${encodeURIComponent(r.item.id)}`}>
                    {r.setTitle}
                  </Link>
                ),
                name: nameOf(r.item, 90),
              }}
            />{' '}
            <button type="button" className="link cursor-pointer" disabled={differ.isPending} onClick={() => differ.mutate(r)}>
              {say('Not the same')}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
