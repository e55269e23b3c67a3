/** A class at work: a line a learner, a mark an item as it comes in, who has lost the line, how long they have. */
import type { Item, Mark } from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { follow } from '../api/follow.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { LOOKS, SIGNS, WORDS } from './states.js';
import { locale, Say, say } from '../words/say.js';

type Seen = Schemas['LiveView'];
type Attempt = Seen['attempts'][number];

/** What a learner is doing, in words. */
export function doing(a: Attempt, items: readonly Pick<Item, 'id'>[], now: number): string {
  if (a.submittedAt) return say('handed in');
  if (a.lost) return say('no connection');
  const place = a.at === undefined ? -1 : items.findIndex((i) => i.id === a.at);
  const where = place < 0 ? (a.place ? say('at the end') : say('at work')) : say('at item {n}', { n: place + 1 });
  if (!a.due) return where;
  const minutes = Math.ceil((Date.parse(a.due) - now) / 60_000);
  return minutes <= 0 ? say('{where}, time over', { where }) : say('{where}, {minutes, plural, one {# minute} other {# minutes}} left', { where, minutes });
}

interface Props {
  delivery: string;
  /** The items as they were published. */
  items: readonly Item[];
  mayEdit: boolean;
  onChanged: () => void;
}
export function Live({ delivery, items, mayEdit, onChanged }: Props) {
  const [seen, setSeen] = useState<Seen>();
  const path = { params: { path: { delivery } } };
  useEffect(
    () =>
      follow<Seen>(
        {
          events: `/api/v1/deliveries/${delivery}/events`,
          read: (data) => JSON.parse(data) as Seen,
          // a line that was refused is tried again; there is nothing to ask for beside it
          ask: () => Promise.reject(new Error(say('no events'))),
          isOpen: () => true,
        },
        setSeen,
      ),
    [delivery],
  );
  const failed = (e: unknown): void => void toast.error(wordsOf(e));
  const time = useMutation({
    mutationFn: (body: { minutes: number; attempt?: string }) => call(api.POST('/api/v1/deliveries/{delivery}/time', { ...path, body })),
    onError: failed,
  });
  const free = useMutation({
    mutationFn: (attempt: string) => call(api.POST('/api/v1/deliveries/{delivery}/free', { ...path, body: { attempt } })),
    onSuccess: () => toast.success(say('They can go on on another device: whoever begins under the name next.')),
    onError: failed,
  });
  const change = useMutation({
    mutationFn: (body: { open?: boolean; paused?: boolean; released?: boolean }) => call(api.PATCH('/api/v1/deliveries/{delivery}', { ...path, body })),
    onSuccess: onChanged,
    onError: failed,
  });
  if (!seen) return <Busy what={say('Looking at the class')} />;
  const under = seen.attempts.filter((a) => !a.submittedAt);
  const shown = items.filter((i) => i.kind !== 'information');
  const lost = under.filter((a) => a.lost).length;
  return (
    <section aria-label={say('Class at work')}>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <p className="flex-1 text-sm" role="status">
          <Say
            text="<b>{under}</b> at work, <b>{n}</b> handed in{more} · {what}"
            values={{
              b: (words) => <b className="font-semibold">{words}</b>,
              under: under.length,
              n: seen.attempts.length - under.length,
              more: lost > 0 && say(', {lost} without connection', { lost }),
              what: seen.paused ? say('paused') : seen.open ? say('open') : say('closed'),
            }}
          />
        </p>
        {mayEdit && under.some((a) => a.due) && <Button onClick={() => time.mutate({ minutes: 5 })}>{say('5 minutes more for all')}</Button>}
        {mayEdit && seen.open && (
          <Button disabled={change.isPending} aria-pressed={seen.paused} onClick={() => change.mutate({ paused: !seen.paused })}>
            {seen.paused ? say('Go on') : say('Pause')}
          </Button>
        )}
        {mayEdit && (
          <Button disabled={change.isPending} onClick={() => change.mutate({ open: !seen.open })}>
            {seen.open ? say('Close') : say('Open again')}
          </Button>
        )}
      </div>
      {seen.attempts.length === 0 ? (
        <p className="text-ink-2">{say('Nobody has begun yet. Who does stands here at once.')}</p>
      ) : (
        <div className="overflow-x-auto border border-rule bg-sheet p-2.5" tabIndex={0} aria-label={say('Learners and items')}>
          <table className="w-full border-separate border-spacing-0.5 text-[13px]">
            <thead>
              <tr className="text-ink-2">
                <th className="px-1 text-left font-semibold">{say('Learner')}</th>
                {shown.map((i) => (
                  <th key={i.id} className="min-w-6 font-semibold">
                    {i.label ?? items.indexOf(i) + 1}
                  </th>
                ))}
                <th className="px-1 text-left font-semibold">{say('Now')}</th>
                {mayEdit && (
                  <th>
                    <span className="sr-only">{say('Time and device')}</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {seen.attempts.map((a) => (
                <tr key={a.id}>
                  <th scope="row" className="max-w-60 truncate px-1 text-left font-normal">
                    {a.name}
                  </th>
                  {shown.map((i) => (
                    <Cell key={i.id} state={a.states[i.id] as Mark['state'] | undefined} here={a.at === i.id} />
                  ))}
                  <td className={`px-1 whitespace-nowrap ${a.lost ? 'text-amber' : 'text-ink-2'}`}>
                    {doing(a, items, Date.parse(seen.now))}
                    {a.points !== undefined && say(', {points} points', { points: a.points.toLocaleString(locale()) })}
                  </td>
                  {mayEdit && (
                    <td className="text-right whitespace-nowrap">
                      {!a.submittedAt && (
                        <>
                          {a.due && (
                            <Button
                              look="quiet"
                              aria-label={say('5 minutes more for {name}', { name: a.name })}
                              onClick={() => time.mutate({ minutes: 5, attempt: a.id })}
                            >
                              {say('+5 min')}
                            </Button>
                          )}
                          <Button look="quiet" aria-label={say('Let {name} go on on another device', { name: a.name })} onClick={() => free.mutate(a.id)}>
                            {say('Other device')}
                          </Button>
                        </>
                      )}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

const Cell = ({ state, here }: { state: Mark['state'] | undefined; here: boolean }) => (
  <td className={`h-7 min-w-6 rounded text-center ${state ? LOOKS[state] : ''} ${here ? 'outline-2 -outline-offset-2 outline-beet' : ''}`}>
    {state && <span aria-hidden>{SIGNS[state]}</span>}
    <span className="sr-only">
      {state ? WORDS[state] : say('no answer yet')}
      {here && say(', at work on it')}
    </span>
  </td>
);
