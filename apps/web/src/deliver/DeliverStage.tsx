/** Deliver: what each item becomes at each destination, then what goes, then the receipt. */
import { deliverable, type FitNote, fitGift, fitQti, formatById, type Item, kinds, maximumOf, nameOf, newId, type QuizSet } from '@zakuska/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy, Download, ExternalLink, Send } from 'lucide-react';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { api, call, type DeliveryView, type Schemas, wordsOf } from '../api/client.js';
import { Busy, Empty } from '../frame/Frame.js';
import { cellOf, KeyStrip } from '../set/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { useActions } from '../ui/Palette.js';

type PushView = Schemas['PushView'] & { report: Receipt };
interface Receipt {
  link?: string;
  items?: { title: string; status: string; message?: string }[];
  adapted?: FitNote[];
  problem?: string;
}

interface Destination {
  id: string;
  name: string;
  what: string;
  fit: (item: Item, set?: QuizSet) => FitNote[];
}
const ownFit = (item: Item): FitNote[] => fitQti(item).filter((n) => n.fit === 'impossible');
const DESTINATIONS: Destination[] = [
  { id: 'own', name: 'Own quiz', what: 'link and code', fit: ownFit },
  { id: 'lms', name: 'Course LMS', what: 'QTI 2.1, pushed', fit: fitQti },
  { id: 'gift', name: 'GIFT', what: 'file', fit: fitGift },
  { id: 'qti21', name: 'QTI 2.1', what: 'package', fit: fitQti },
  { id: 'qti30', name: 'QTI 3.0', what: 'package', fit: fitQti },
];
const LOOK = { adapted: 'text-amber', lost: 'text-amber', impossible: 'text-brick font-[650]' } as const;
const WORD = { adapted: 'adapted', lost: 'in part', impossible: 'stays here' } as const;
const worst = (notes: FitNote[]): FitNote['fit'] | null => (['impossible', 'adapted', 'lost'] as const).find((f) => notes.some((n) => n.fit === f)) ?? null;

export default function DeliverStage() {
  const { document: doc, view, mayEdit } = useOpenSet();
  const [params, setParams] = useSearchParams();
  const chosen = DESTINATIONS.find((d) => d.id === params.get('to')) ?? (DESTINATIONS[0] as Destination);
  const [focus, setFocus] = useState<string>();
  const set = useMemo<QuizSet>(() => ({ ...doc.set, items: doc.set.items.filter((i) => doc.reviews[i.id]?.state !== 'left-out') }), [doc]);
  const { items } = set;
  const fits = useMemo(() => items.map((i) => DESTINATIONS.map((d) => d.fit(i, set))), [items, set]);
  const choose = (id: string): void => setParams({ to: id }, { replace: true });
  useEffect(() => {
    const said = params.get('connection');
    if (!said) return;
    if (said === 'made') toast.success('The course LMS is connected.');
    else toast.error('The course LMS was not connected: it was refused there.');
    setParams({ to: 'lms' }, { replace: true });
  }, [params, setParams]);
  const actions = useMemo(
    () => DESTINATIONS.map((d) => ({ name: `Deliver to ${d.name}`, run: () => setParams({ to: d.id }, { replace: true }) })),
    [setParams],
  );
  useActions(actions);

  if (!items.length)
    return (
      <main>
        <Empty title="Nothing to deliver yet">
          <p>Take items from the draft and check them. Then they go from here to files, to your LMS, or out as a quiz by link.</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            Go to Draft
          </Link>
        </Empty>
      </main>
    );
  const at = DESTINATIONS.indexOf(chosen);
  const told = fits.flatMap((row, i) => (row[at] ?? []).map((n) => ({ n, item: items[i] as Item })));
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)]">
      <KeyStrip
        cells={items.map((i, n) => cellOf(i, n, doc.reviews[i.id]))}
        now={focus}
        items={items}
        onPick={setFocus}
        left={
          <>
            {items.length} items
            <br />
            {maximumOf(items)} points
          </>
        }
      />
      <main className="grid grid-cols-1 items-start gap-6 overflow-auto p-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_370px]">
        <section className="relative overflow-x-auto">
          <table className="w-full bg-sheet text-sm">
            <caption className="sr-only">What each item becomes at each destination</caption>
            <thead>
              <tr className="border-b-2 border-ink align-bottom">
                <th className="p-2">
                  <span className="sr-only">Number</span>
                </th>
                <th className="p-2 text-left">Item</th>
                {DESTINATIONS.map((d) => (
                  <th key={d.id} className={`p-0 text-left ${d.id === chosen.id ? 'bg-beet-soft' : ''}`}>
                    <button
                      type="button"
                      aria-pressed={d.id === chosen.id}
                      onClick={() => choose(d.id)}
                      className="w-full cursor-pointer p-2 text-left font-semibold hover:underline"
                    >
                      {d.name}
                      <small className="block font-normal text-ink-2">{d.what}</small>
                    </button>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {items.map((item, i) => (
                <tr key={item.id} className={`border-b border-rule-2 ${item.id === focus ? 'bg-beet-soft' : ''}`}>
                  <td className="w-8 px-2 py-1 text-right text-ink-2">{item.label ?? i + 1}</td>
                  <td className="max-w-0 truncate px-2 py-1" title={nameOf(item, 300)}>
                    {nameOf(item, 120)}
                  </td>
                  {DESTINATIONS.map((d, n) => {
                    const notes = fits[i]?.[n] ?? [];
                    const f = worst(notes);
                    return (
                      <td
                        key={d.id}
                        className={`w-[92px] px-2 py-1 whitespace-nowrap ${d.id === chosen.id ? 'bg-beet-soft/60' : ''}`}
                        title={notes.map((x) => x.message).join('; ')}
                      >
                        {f ? (
                          <button type="button" className={`min-h-6 cursor-pointer ${LOOK[f]}`} onClick={() => (choose(d.id), setFocus(item.id))}>
                            {WORD[f]}
                          </button>
                        ) : (
                          <span className="text-dill">{item.kind === 'essay' ? 'by hand' : 'fits'}</span>
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
            <tfoot>
              <tr className="border-t-2 border-ink font-semibold">
                <td />
                <td className="p-2">{items.length} items</td>
                {DESTINATIONS.map((d, n) => {
                  const stay = fits.filter((r) => worst(r[n] ?? []) === 'impossible').length;
                  const other = fits.filter((r) => (r[n] ?? []).length && worst(r[n] ?? []) !== 'impossible').length;
                  return (
                    <td key={d.id} className={`p-2 text-[13px] ${d.id === chosen.id ? 'bg-beet-soft/60' : ''}`}>
                      <span className="text-dill">{items.length - stay - other} fit</span>
                      {other > 0 && <span className="block text-amber">{other} changed</span>}
                      {stay > 0 && <span className="block text-brick">{stay} stay</span>}
                    </td>
                  );
                })}
              </tr>
            </tfoot>
          </table>
        </section>
        <aside className="rounded-lg border border-rule bg-sheet p-4" aria-label={chosen.name}>
          <h2 className="text-[17px] font-bold">{chosen.name}</h2>
          {chosen.id === 'own' ? (
            <Own set={set} mayEdit={mayEdit} />
          ) : chosen.id === 'lms' ? (
            <Lms set={set} mayEdit={mayEdit} />
          ) : (
            <FileOut set={set} format={chosen.id} />
          )}
          {told.length > 0 && (
            <>
              <h3 className="mt-4 mb-1 font-semibold">What changes on the way</h3>
              <ul className="grid gap-1 text-[13.5px]">
                {told.map(({ n, item }) => (
                  <li key={`${n.item}${n.message}`} className={item.id === focus ? 'bg-beet-soft' : ''}>
                    <b className={LOOK[n.fit]}>{item.label ?? items.indexOf(item) + 1}</b> {n.message}
                  </li>
                ))}
              </ul>
            </>
          )}
        </aside>
      </main>
    </div>
  );
}

function Going({ set }: { set: QuizSet }) {
  const items = deliverable(set);
  const byKind = new Map<string, number>();
  for (const i of items) byKind.set(kinds[i.kind].name, (byKind.get(kinds[i.kind].name) ?? 0) + 1);
  return (
    <ul className="my-2 list-disc pl-5 text-sm">
      <li>
        {items.length} items, {maximumOf(items)} points
      </li>
      <li>{[...byKind].map(([k, n]) => `${n} ${k.toLowerCase()}`).join(', ')}</li>
    </ul>
  );
}

function FileOut({ set, format }: { set: QuizSet; format: string }) {
  const f = formatById(format);
  const download = (): void => {
    const written = f?.write?.(set);
    if (!written) return;
    const url = URL.createObjectURL(new Blob([written.bytes as Uint8Array<ArrayBuffer>], { type: f?.mediaType ?? '' }));
    const a = document.createElement('a');
    a.href = url;
    a.download = written.name;
    a.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
    toast.success(`${written.name} was written.`);
  };
  return (
    <>
      <p className="text-ink-2">A file to import where you need it.</p>
      <Going set={set} />
      <Button look="primary" disabled={!deliverable(set).length} onClick={download}>
        <Download size={16} aria-hidden /> Download {f?.name}
      </Button>
    </>
  );
}

const SHOWS = { answers: 'the score, with right and wrong and feedback', score: 'the score only', nothing: 'nothing yet' } as const;

function Own({ set, mayEdit }: { set: QuizSet; mayEdit: boolean }) {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const [shows, setShows] = useState<keyof typeof SHOWS>('score');
  const key = ['deliveries', view.id];
  const path = { params: { path: { set: view.id } } };
  const list = useQuery({ queryKey: key, queryFn: () => call(api.GET('/api/v1/sets/{set}/deliveries', path)) });
  const changed = (): void => {
    void queries.invalidateQueries({ queryKey: key });
    void queries.invalidateQueries({ queryKey: ['set', view.id] });
  };
  const publish = useMutation({
    mutationFn: () => call(api.POST('/api/v1/sets/{set}/deliveries', { ...path, body: { shows, title: set.title } })),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  return (
    <>
      <p className="text-ink-2">A quiz by link, entry code and QR, for any phone. It stays as it is when you edit the set later.</p>
      {mayEdit && (
        <div className="mt-3 grid gap-3">
          <Field label="Learners see after handing in">
            {(id) => (
              <Select id={id} value={shows} onChange={(e) => setShows(e.target.value as keyof typeof SHOWS)}>
                {Object.entries(SHOWS).map(([k, v]) => (
                  <option key={k} value={k}>
                    {v}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Button look="primary" disabled={publish.isPending} onClick={() => publish.mutate()}>
            Publish {set.items.length} items
          </Button>
        </div>
      )}
      {list.isPending && <Busy what="Fetching" />}
      {list.data?.map((d) => (
        <Published key={d.id} d={d} mayEdit={mayEdit} onChanged={changed} />
      ))}
    </>
  );
}

function Published({ d, mayEdit, onChanged }: { d: DeliveryView; mayEdit: boolean; onChanged: () => void }) {
  const { view } = useOpenSet();
  const toggle = useMutation({
    mutationFn: () => call(api.PATCH('/api/v1/deliveries/{delivery}', { params: { path: { delivery: d.id } }, body: { open: !d.open } })),
    onSuccess: onChanged,
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <div className="grid grid-cols-[1fr_104px] gap-3">
        <div>
          <p className="text-[13px] text-ink-2">Entry code</p>
          <p className="font-mono text-2xl/8 font-bold tracking-widest" data-code>
            {d.code}
          </p>
          <p className="text-[13.5px] break-all">
            <a className="link" href={d.link} target="_blank" rel="noreferrer">
              {d.link.replace(/^https?:\/\//, '')}
            </a>
          </p>
          <p className="mt-1 text-[13px] text-ink-2">
            {new Date(d.createdAt).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })} · {d.items} items ·{' '}
            {d.responses} handed in · {d.open ? 'open' : 'closed'}
          </p>
        </div>
        <img src={`/api/v1/deliveries/${d.id}/qr.svg`} alt={`QR code of the link ${d.link}`} className="size-26 rounded border border-rule bg-[#fff]" />
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          onClick={() =>
            void navigator.clipboard.writeText(d.link).then(
              () => toast.success('The link is in the clipboard.'),
              () => toast.error('The browser did not allow copying. Mark the link and copy it.'),
            )
          }
        >
          <Copy size={15} aria-hidden /> Copy link
        </Button>
        {mayEdit && (
          <Button disabled={toggle.isPending} onClick={() => toggle.mutate()}>
            {d.open ? 'Close' : 'Open again'}
          </Button>
        )}
        <Link to={`/sets/${view.id}/results?of=${d.id}`} className="link self-center text-sm">
          Results
        </Link>
      </div>
    </section>
  );
}

function Lms({ set, mayEdit }: { set: QuizSet; mayEdit: boolean }) {
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
          <Going set={set} />
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
    </section>
  );
}
