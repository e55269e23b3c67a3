/** The course LMS: connect once, push, receipt with the rehearsal of what arrived. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { deliverable, type Fit, type FitNote, newId, type QuizSet, type Rehearsal } from '@zakuska/core';
import { ExternalLink, Send } from 'lucide-react';
import { type ReactNode, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Going } from './Going.js';
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
  const runningId = running?.id;
  useEffect(() => {
    if (!runningId) return;
    const events = new EventSource(`/api/v1/pushes/${runningId}/events`);
    events.onmessage = (e: MessageEvent<string>) => {
      const p = JSON.parse(e.data) as PushView;
      setRunning(p);
      if (p.state === 'done' || p.state === 'failed') {
        events.close();
        setRunning(null);
        void queries.invalidateQueries({ queryKey: ['pushes', view.id] });
        void queries.invalidateQueries({ queryKey: ['set', view.id] });
      }
    };
    return () => events.close();
  }, [runningId, queries, view.id]);
  if (services.isPending) return <Busy what="Fetching" />;
  return (
    <>
      <p className="text-ink-2">
        {service?.connectionId ? <>Connected as {service.accountName}.</> : 'Connect the account once; then sets go there with one press.'}
      </p>
      {service?.connectionId ? (
        <>
          <Going set={set} fits={fits} />
          {mayEdit && (
            <div className="flex flex-wrap gap-2">
              <Button look="primary" disabled={push.isPending || running !== null || !deliverable(set).length} onClick={() => push.mutate()}>
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
        <ReceiptView key={p.id} push={p} />
      ))}
    </>
  );
}

function ReceiptView({ push }: { push: PushView }) {
  const { items = [], link, problem } = push.report;
  const arrived = items.filter((i) => i.status === 'arrived').length;
  const when = new Date(push.createdAt).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  let said: ReactNode;
  if (push.state === 'failed') said = <p className="text-brick">{problem}</p>;
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
