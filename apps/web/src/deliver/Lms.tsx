/** The course LMS: connect once, push, receipt with the rehearsal of what arrived. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { itemsWithKey, type Fit, type FitNote, newId, type QuizSet, type Rehearsal } from '@zakuska/core';
import { ExternalLink, Send } from 'lucide-react';
import { type ReactNode, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { DeliverySummary } from './DeliverySummary.js';
import { RehearsalView } from './RehearsalView.js';

type PushView = Schemas['PushView'] & { report: Receipt };
interface Receipt {
  link?: string;
  items?: { title: string; status: string; message?: string }[];
  adapted?: FitNote[];
  problem?: string;
  rehearsal?: Rehearsal;
  unrehearsed?: string;
}

export function Lms({ set, fits, mayEdit }: { set: QuizSet; fits: readonly Fit[] | null; mayEdit: boolean }) {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const services = useQuery({
    queryKey: ['services', view.workspaceId],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/services', { params: { path: { workspace: view.workspaceId } } })),
  });
  const service = services.data?.find((s) => s.service === 'lms');
  const path = { params: { path: { set: view.id } } };
  const pushes = useQuery({
    queryKey: ['pushes', view.id],
    queryFn: () => call(api.GET('/api/v1/sets/{set}/pushes', path)) as Promise<unknown> as Promise<PushView[]>,
  });
  const connect = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/connections', {
          params: { path: { workspace: view.workspaceId } },
          body: { service: 'lms', back: `/sets/${view.id}/deliver?to=lms` },
        }),
      ),
    onSuccess: ({ url }) => location.assign(url),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const disconnect = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/connections/{connection}', { params: { path: { connection: service?.connectionId ?? '' } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['services'] }),
  });
  const [running, setRunning] = useState<PushView | null>(null);
  const push = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/sets/{set}/pushes', { ...path, body: { id: newId(), connectionId: service?.connectionId ?? '' } }),
      ) as Promise<unknown> as Promise<PushView>,
    onSuccess: setRunning,
    onError: (e) => toast.error(wordsOf(e)),
  });
  const again = useMutation({
    mutationFn: (id: string) => call(api.POST('/api/v1/pushes/{push}/again', { params: { path: { push: id } } })) as Promise<unknown> as Promise<PushView>,
    onSuccess: (p) => {
      setRunning(p);
      void queries.invalidateQueries({ queryKey: ['pushes', view.id] });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const runningId = running?.id;
  useEffect(() => {
    if (!runningId) return;
    return follow(runningId, (p) => {
      const over = p.state === 'done' || p.state === 'failed';
      setRunning(over ? null : p);
      if (!over) return;
      void queries.invalidateQueries({ queryKey: ['pushes', view.id] });
      void queries.invalidateQueries({ queryKey: ['set', view.id] });
    });
  }, [runningId, queries, view.id]);
  // a push that goes on while the page is opened anew is followed, too
  const open = pushes.data?.find((p) => p.state === 'waiting' || p.state === 'running');
  useEffect(() => {
    if (open) setRunning((now) => now ?? open);
  }, [open]);
  if (services.isPending) return <Busy what="Fetching" />;
  return (
    <>
      <p className="text-ink-2">
        {service?.connectionId ? <>Connected as {service.accountName}.</> : 'Connect the account once; then sets go there with one press.'}
      </p>
      {service?.connectionId ? (
        <>
          <DeliverySummary set={set} fits={fits} />
          {mayEdit && (
            <div className="flex flex-wrap gap-2">
              <Button look="primary" disabled={push.isPending || running !== null || !itemsWithKey(set).length} onClick={() => push.mutate()}>
                <Send size={15} aria-hidden /> Push as a new quiz
              </Button>
              <Button look="quiet" onClick={() => disconnect.mutate()}>
                Disconnect
              </Button>
            </div>
          )}
        </>
      ) : (
        mayEdit && (
          <Button look="primary" className="mt-3" disabled={connect.isPending} onClick={() => connect.mutate()}>
            Connect the course LMS
          </Button>
        )
      )}
      {running && (
        <div className="mt-4" role="status">
          <progress className="w-full accent-beet" max={running.total} value={running.done} aria-label="Progress of the push" />
          <p className="text-[13.5px] text-ink-2">{running.step}</p>
        </div>
      )}
      {pushes.data?.map((p) => (
        <ReceiptView key={p.id} push={p} again={mayEdit && !running ? () => again.mutate(p.id) : undefined} />
      ))}
    </>
  );
}

/** Follows a push until it is over: by the server's events, and by asking where there are none. Gives what ends it. */
function follow(id: string, told: (p: PushView) => void): () => void {
  let events: EventSource | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let ended = false;
  const hear = (p: PushView): void => {
    if (ended) return;
    if (p.state === 'done' || p.state === 'failed') end();
    told(p);
  };
  const end = (): void => {
    ended = true;
    events?.close();
    clearTimeout(timer);
  };
  const listen = (): void => {
    if (ended) return;
    events = new EventSource(`/api/v1/pushes/${id}/events`);
    events.onmessage = (e: MessageEvent<string>) => hear(JSON.parse(e.data) as PushView);
    events.onerror = () => {
      // a browser tries again by itself where the line was cut, not where it was refused
      if (events?.readyState !== EventSource.CLOSED) return;
      const ask = call(api.GET('/api/v1/pushes/{push}', { params: { path: { push: id } } })) as Promise<unknown> as Promise<PushView>;
      void ask
        .then(hear, () => undefined)
        .then(() => {
          if (!ended) timer = setTimeout(listen, 3000);
        });
    };
  };
  listen();
  return end;
}

function ReceiptView({ push, again }: { push: PushView; again?: (() => void) | undefined }) {
  const { items = [], link, problem } = push.report;
  const arrived = items.filter((i) => i.status === 'arrived').length;
  const when = new Date(push.createdAt).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  let said: ReactNode;
  if (push.state === 'failed')
    said = (
      <p className="text-brick">
        {problem}{' '}
        {again && (
          <button type="button" className="link" onClick={again}>
            Try again
          </button>
        )}
      </p>
    );
  else if (push.state !== 'done') said = <p className="text-ink-2">{push.step}</p>;
  else
    said = (
      <>
        <p>
          {arrived} of {items.length} arrived.{' '}
          {link && (
            <a className="link inline-flex items-center gap-1" href={link} target="_blank" rel="noreferrer">
              Open the quiz <ExternalLink size={13} aria-hidden />
            </a>
          )}
        </p>
        {items
          .filter((i) => i.status !== 'arrived')
          .map((i) => (
            <p key={i.title} className="text-[13.5px] text-brick">
              {i.title}: {i.message}
            </p>
          ))}
      </>
    );
  return (
    <section className="mt-4 border-t border-rule pt-3" aria-label={`Receipt of ${when}`}>
      <h3 className="font-semibold">Receipt, {when}</h3>
      {said}
      {push.report.rehearsal && <RehearsalView rehearsal={push.report.rehearsal} of="what arrived" />}
      {push.report.unrehearsed && <p className="text-[13.5px] text-amber">Not rehearsed: {push.report.unrehearsed}</p>}
    </section>
  );
}
