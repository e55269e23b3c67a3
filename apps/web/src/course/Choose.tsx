/** Somebody who teaches came from a course: which quiz the link there opens. */
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, call, type Schemas, type SetSummary, wordsOf } from '../api/client.js';
import { Busy, Empty, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { type Shows, ShowsField } from './ShowsField.js';
import { say } from '../words/say.js';

const PAGE = 200;

export default function Choose() {
  const { launch: id = '' } = useParams();
  const launch = useQuery({
    queryKey: ['launch', id],
    queryFn: () => call(api.GET('/api/v1/lti/launches/{launch}', { params: { path: { launch: id } } })),
    retry: false,
  });
  return (
    <div className="min-h-screen">
      <TopBar>{launch.data?.course}</TopBar>
      <main className="mx-auto max-w-3xl px-4 py-6 sm:px-6">
        {launch.isPending ? (
          <Busy what={say('Opening')} />
        ) : launch.data ? (
          <Sets launch={launch.data} />
        ) : (
          <Empty title={say('This course belongs to another workspace')}>
            <p>
              {say(
                '{words} Sign in with the account that belongs to the workspace in which the platform was registered, then open the link in your course again.',
                { words: wordsOf(launch.error) },
              )}
            </p>
          </Empty>
        )}
      </main>
    </div>
  );
}

function Sets({ launch }: { launch: Schemas['LaunchView'] }) {
  const navigate = useNavigate();
  const [words, setWords] = useState('');
  const [shows, setShows] = useState<Shows>('score');
  const path = { workspace: launch.workspaceId };
  const sets = useInfiniteQuery({
    queryKey: ['sets', launch.workspaceId],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: after }) => call(api.GET('/api/v1/workspaces/{workspace}/sets', { params: { path, query: after ? { after } : {} } })),
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last.at(-1)?.id),
  });
  const choose = useMutation({
    mutationFn: ({ set, version }: { set: string; version: string }) =>
      call(api.POST('/api/v1/lti/launches/{launch}/choice', { params: { path: { launch: launch.id } }, body: { set, shows, ...(version && { version }) } })),
    onSuccess: ({ next }) => (/^https?:/.test(next) ? location.assign(next) : void navigate(next)),
  });
  const found = (sets.data?.pages.flat() ?? []).filter((s) => [s.title, ...s.path].join(' ').toLowerCase().includes(words.trim().toLowerCase()));
  return (
    <>
      <h1 className="text-2xl font-bold">{say('Choose a quiz for {course}', { course: launch.course || launch.platform })}</h1>
      <p className="mt-1 text-ink-2">
        {say('The set is published as it is now and opened from {what} by name. Scores go back to {platform} by themselves: the best of each learner.', {
          what: launch.title ? `“${launch.title}”` : say('the course'),
          platform: launch.platform,
        })}
      </p>
      <div className="mt-4 grid gap-3 sm:grid-cols-2">
        <Field label={say('Find a set')}>{(field) => <Input id={field} type="search" value={words} onChange={(e) => setWords(e.target.value)} />}</Field>
        <ShowsField value={shows} onValue={setShows} />
      </div>
      {choose.isError && (
        <p className="mt-3 text-brick" role="alert">
          {wordsOf(choose.error)}
        </p>
      )}
      {sets.isPending && <Busy what={say('Fetching the sets')} />}
      {sets.isError && <NotFetched query={sets} className="mt-3" />}
      {sets.data && !found.length && (
        <p className="mt-5 text-ink-2">
          {words ? say('No set has these words.') : say('There is no set yet. Make one first, then open the link in your course again.')}
        </p>
      )}
      <ul className="mt-4 border-y border-rule bg-sheet">
        {found.map((s) => (
          <SetRow key={s.id} set={s} busy={choose.isPending} onChoose={(version) => choose.mutate({ set: s.id, version })} />
        ))}
      </ul>
      {sets.hasNextPage && (
        <Button look="quiet" disabled={sets.isFetchingNextPage} onClick={() => void sets.fetchNextPage()}>
          {say('Show more')}
        </Button>
      )}
    </>
  );
}

function SetRow({ set: s, busy, onChoose }: { set: SetSummary; busy: boolean; onChoose: (version: string) => void }) {
  const [version, setVersion] = useState('');
  const included = s.items - s.leftOut;
  const why = !included
    ? say('no items yet')
    : s.withoutKey
      ? say('{withoutKey, plural, one {one item has} other {# items have}} no key', { withoutKey: s.withoutKey })
      : null;
  return (
    <li className="flex items-center gap-3 border-b border-rule-2 px-3 py-2 last:border-0">
      <span className="min-w-0 flex-1">
        <b className="block truncate font-semibold">{s.title}</b>
        <span className="text-[13px] text-ink-2">
          {s.path.length > 0 && `${s.path.join(' / ')} · `}
          {say('{included, plural, one {# item} other {# items}}', { included })},{' '}
          {say('{points, plural, one {# point} other {# points}}', { points: s.points })}
          {why && <span className="text-amber"> · {why}</span>}
        </span>
      </span>
      {s.versions.length > 0 && (
        <Select
          aria-label={say('What of {title}', { title: s.title })}
          className="w-36! py-1! text-sm"
          value={version}
          onChange={(e) => setVersion(e.target.value)}
        >
          <option value="">{say('the whole set')}</option>
          {s.versions.map((v) => (
            <option key={v} value={v}>
              {say('version {v}', { v })}
            </option>
          ))}
        </Select>
      )}
      <Button disabled={busy || why !== null} aria-label={say('Choose {title}', { title: s.title })} onClick={() => onChoose(version)}>
        {say('Choose')}
      </Button>
    </li>
  );
}
