/** What happened in a workspace: who did what and when, filtered, as a table to take along. */
import { useInfiniteQuery } from '@tanstack/react-query';
import { auditKinds } from '@zakuska/core';
import { useState } from 'react';
import { api, call, type Schemas } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useMembers } from '../signin/members.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select, useTyped } from '../ui/Field.js';
import type { Administered } from './Members.js';
import { dayAndTime } from '../ui/localTime.js';
import { known, say } from '../words/say.js';

type Event = Schemas['AuditView'];
interface Filter {
  what?: Event['what'];
  account?: string;
  words?: string;
  from?: string;
  to?: string;
}

export function AuditLog({ workspace: { id: workspace } }: { workspace: Administered }) {
  const [filter, setFilter] = useState<Filter>({});
  const put = (change: Partial<Record<keyof Filter, string>>): void =>
    setFilter((now) => Object.fromEntries(Object.entries({ ...now, ...change }).filter(([, v]) => v)) as Filter);
  const words = useTyped(filter.words ?? '', (said) => put({ words: said }));
  const members = useMembers(workspace);
  const log = useInfiniteQuery({
    queryKey: ['audit', workspace, filter],
    queryFn: ({ pageParam }) =>
      call(api.GET('/api/v1/workspaces/{workspace}/audit', { params: { path: { workspace }, query: { ...filter, ...(pageParam && { before: pageParam }) } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
    staleTime: 0,
  });
  const events = log.data?.pages.flatMap((p) => p.events) ?? [];
  const query = new URLSearchParams(filter as Record<string, string>);
  return (
    <section aria-label={say('What happened')} className="grid gap-3">
      <div role="search" className="flex flex-wrap items-end gap-2" aria-label={say('Filter')}>
        <Field label={say('What')}>
          {(id) => (
            <Select id={id} className="w-52!" value={filter.what ?? ''} onChange={(e) => put({ what: e.target.value })}>
              <option value="">{say('everything')}</option>
              {auditKinds.map((k) => (
                <option key={k} value={k}>
                  {known(k)}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label={say('Who')}>
          {(id) => (
            <Select id={id} className="w-44!" value={filter.account ?? ''} onChange={(e) => put({ account: e.target.value })}>
              <option value="">{say('everybody')}</option>
              {members.data?.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label={say('Words')}>{(id) => <Input id={id} type="search" className="w-40!" maxLength={100} {...words} />}</Field>
        <Field label={say('From')}>
          {(id) => <Input id={id} type="date" className="w-40!" value={filter.from ?? ''} onChange={(e) => put({ from: e.target.value })} />}
        </Field>
        <Field label={say('To')}>
          {(id) => <Input id={id} type="date" className="w-40!" value={filter.to ?? ''} onChange={(e) => put({ to: e.target.value })} />}
        </Field>
        <a className="link pb-1.5" href={`/api/v1/workspaces/${workspace}/audit.csv?${query.toString()}`} download="what-happened.csv">
          {say('As a table (CSV)')}
        </a>
      </div>
      {log.isError && <NotFetched query={log} />}
      {log.isPending && <Busy what={say('Fetching')} />}
      {log.isSuccess && !events.length && (
        <p className="text-ink-2" role="status">
          {query.size
            ? say('Nothing like that happened.')
            : say(
                'Nothing so far. Sign-ins, roles, shares, deliveries, keys changed after answers, files taken and deletions stand here, for thirteen months.',
              )}
        </p>
      )}
      {events.length > 0 && (
        <div className="overflow-x-auto">
          <table className="w-full bg-sheet text-sm">
            <caption className="sr-only">{say('What happened, the last first')}</caption>
            <thead>
              <tr className="border-b-2 border-ink text-left">
                <th className="p-2">{say('When')}</th>
                <th className="p-2">{say('Who')}</th>
                <th className="p-2">{say('What')}</th>
                <th className="p-2">{say('Of what')}</th>
              </tr>
            </thead>
            <tbody>
              {events.map((e) => (
                <tr key={e.id} className="border-b border-rule-2 align-top">
                  <td className="p-2 whitespace-nowrap tabular-nums">{dayAndTime(e.at)}</td>
                  <td className="p-2 wrap-anywhere">{e.by || <span className="text-ink-2">{say('nobody signed in')}</span>}</td>
                  <td className="p-2">{e.what}</td>
                  <td className="p-2 wrap-anywhere">
                    {Object.entries(e.about).map(([k, v]) => (
                      <span key={k} className="mr-3">
                        <span className="text-ink-2">{k}</span> {v}
                      </span>
                    ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {log.hasNextPage && (
        <Button className="justify-self-start" disabled={log.isFetchingNextPage} onClick={() => void log.fetchNextPage()}>
          {log.isFetchingNextPage ? say('Fetching …') : say('Earlier')}
        </Button>
      )}
    </section>
  );
}
