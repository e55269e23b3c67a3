/** Items of the bank that ask nearly the same, in groups: one wording is kept for all, or they are said to be different. */
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { fieldNames, joinWith, saidOtherwise, mayAs } from '@zakuska/core';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { operateOn } from '../api/operateOn.js';
import { Busy, Empty, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { ItemView } from '../item/ItemView.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button } from '../ui/Button.js';
import { usedWords } from './used.js';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';

type Row = Schemas['BankItem'];
const placeOf = (r: Row): { set: string; item: string } => ({ set: r.set, item: r.item.id });

export default function NearPage() {
  const workspace = useWorkspace();
  const queries = useQueryClient();
  const path = { workspace: workspace?.id ?? '' };
  const mayEdit = mayAs(workspace?.role, 'editor');
  const found = useInfiniteQuery({
    queryKey: ['bank', 'near', workspace?.id],
    enabled: Boolean(workspace),
    initialPageParam: 0,
    queryFn: ({ pageParam: from }) => call(api.GET('/api/v1/workspaces/{workspace}/bank/near', { params: { path, query: { from } } })),
    getNextPageParam: (last, pages) => (pages.length * 50 < last.total ? pages.length * 50 : undefined),
  });
  const changed = (): void => {
    for (const key of ['bank', 'set', 'sets']) void queries.invalidateQueries({ queryKey: [key] });
  };
  const differ = useMutation({
    mutationFn: ({ items, differ: they }: { items: readonly Row[]; differ: boolean }) =>
      call(api.POST('/api/v1/workspaces/{workspace}/bank/not-alike', { params: { path }, body: { items: items.map(placeOf), differ: they } })),
    onSuccess: (_, { items, differ: they }) => {
      changed();
      if (they) toast(say('They are told apart from now on.'), { action: { label: say('Undo'), onClick: () => differ.mutate({ items, differ: false }) } });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const join = useMutation({
    mutationFn: async ({ kept, others }: { kept: Row; others: readonly Row[] }) => {
      for (const r of others) {
        await operateOn(r.set, () => joinWith(r.item, kept.item, kept.set));
      }
    },
    onSettled: changed,
    onSuccess: (_, { others }) =>
      toast(say('{others, plural, one {# item} other {# items}} joined. Each set’s history can take it back.', { others: others.length })),
    onError: (e) => toast.error(wordsOf(e), { duration: 8000 }),
  });
  const groups = found.data?.pages.flatMap((p) => p.groups) ?? [];
  const total = found.data?.pages[0]?.total ?? 0;
  return (
    <div className="min-h-dvh">
      <TopBar>
        <Link to="/bank" className="hover:text-beet hover:underline">
          {say('Bank')}
        </Link>{' '}
        / <h1 className="inline font-[650] text-ink">{say('Asked nearly the same')}</h1>
      </TopBar>
      <main className="mx-auto grid max-w-6xl gap-8 px-4 py-5 sm:px-6">
        {found.isPending && <Busy what={say('Comparing all items')} />}
        {found.isError && <NotFetched query={found} />}
        {found.data && !total && (
          <Empty title={say('No two items ask the same')}>
            <p>{say('Items of different sets whose question and options are nearly the same words would stand here, side by side.')}</p>
            <Link className="link" to="/bank">
              {say('Back to the bank')}
            </Link>
          </Empty>
        )}
        {total > 0 && (
          <p role="status" className="text-ink-2">
            {say(
              '{total, plural, one {# group} other {# groups}} of items whose words are nearly the same. What is joined has one wording, and is counted as one question wherever it is used.',
              { total },
            )}
          </p>
        )}
        {groups.map(({ items }, n) => {
          const [head] = items;
          if (!head) return null;
          return (
            <section
              key={`${head.set} ${head.item.id}`}
              aria-label={say('Group {n}: asked {items} times', { n: n + 1, items: items.length })}
              className="border-t border-rule pt-4"
            >
              <div className="grid gap-4 md:grid-cols-2">
                {items.map((r) => {
                  const fields = saidOtherwise(head.item, r.item);
                  return (
                    <article key={`${r.set} ${r.item.id}`} className="grid content-start gap-2 rounded border border-rule bg-sheet p-4">
                      <p className="text-[13.5px] text-ink-2">
                        <Link className="link" to={`/sets/${r.set}/check?item=${encodeURIComponent(r.item.id)}`}>
                          {r.setTitle}
                        </Link>
                        {r.path.length > 0 && `, ${r.path.join(' / ')}`} · {usedWords(r.use)}
                      </p>
                      <ItemView item={r.item} />
                      {r !== head && (
                        <p className="text-[13.5px] text-ink-2">
                          {fields.length
                            ? say('Other than the first: {fieldNames}.', { fieldNames: retold(fieldNames(fields)) })
                            : say('The same as the first.')}
                        </p>
                      )}
                      {mayEdit && (
                        <span>
                          <Button disabled={join.isPending} onClick={() => join.mutate({ kept: r, others: items.filter((x) => x !== r) })}>
                            {items.length === 2 ? say('Keep this wording for both') : say('Keep this wording for all')}
                          </Button>
                        </span>
                      )}
                    </article>
                  );
                })}
              </div>
              {mayEdit && (
                <Button look="quiet" className="mt-2" disabled={differ.isPending} onClick={() => differ.mutate({ items, differ: true })}>
                  {say('Not the same')}
                </Button>
              )}
            </section>
          );
        })}
        {found.hasNextPage && (
          <span>
            <Button disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
              {say('Show more groups')}
            </Button>
          </span>
        )}
      </main>
    </div>
  );
}
