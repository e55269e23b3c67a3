/** A connected service: where to, what goes, progress, receipts. One shape for all of them; what a service lacks is not shown. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { itemsWithKey, newId, type QuizSet, type ServiceRow, type Settings } from '@zakuska/core';
import { Send } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { AllVersions } from './AllVersions.js';
import type { Goes } from '../set/goes.js';
import { GoingOut } from './GoingOut.js';
import { linesOf } from './goingLines.js';
import { HowItIsSet } from './HowItIsSet.js';
import { PlacementView } from './PlacementView.js';
import { asPush, isOpen, type Service } from './push.js';
import { ReceiptView } from './ReceiptView.js';
import { usePieces } from './usePieces.js';
import { usePushes, useRunning } from './usePushes.js';
import { say } from '../words/say.js';

interface Props {
  set: QuizSet;
  /** What of the open set it is. */
  goes: Goes;
  service: ServiceRow;
  mayEdit: boolean;
}

export function Connected({ set, goes, service: row, mayEdit }: Props) {
  const { view } = useOpenSet();
  const services = useQuery({
    queryKey: ['services', view.workspaceId],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/services', { params: { path: { workspace: view.workspaceId } } })),
  });
  const connect = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/connections', {
          params: { path: { workspace: view.workspaceId } },
          body: { service: row.id, back: `/sets/${view.id}/deliver?to=${row.id}` },
        }),
      ),
    onSuccess: ({ url }) => location.assign(url),
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (services.isPending) return <Busy what={say('Fetching')} />;
  const service = services.data?.find((s) => s.service === row.id);
  if (!service?.connectionId)
    return (
      <>
        <p className="text-ink-2">{say('Connect the account once; then sets go there with one press.')}</p>
        {mayEdit && (
          <Button look="primary" className="mt-3" disabled={connect.isPending} onClick={() => connect.mutate()}>
            {say('Connect {name}', { name: row.name })}
          </Button>
        )}
        <Past service={row.id} />
      </>
    );
  return <Ready set={set} goes={goes} row={row} service={service} mayEdit={mayEdit} />;
}

/** Receipts of a service that is no longer connected. */
function Past({ service }: { service: string }) {
  const pushes = usePushes();
  return pushes.data?.filter((p) => p.service === service).map((p) => <ReceiptView key={p.id} push={p} />);
}

function Ready({ set, goes, row, service, mayEdit }: { set: QuizSet; goes: Goes; row: ServiceRow; service: Service; mayEdit: boolean }) {
  const { view, document: doc } = useOpenSet();
  const queries = useQueryClient();
  const path = { params: { path: { set: view.id } } };
  const connectionId = service.connectionId ?? '';
  const pushes = usePushes();
  const placements = useQuery({ queryKey: ['placements', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/placements', path)) });
  const containers = useQuery({
    queryKey: ['containers', connectionId],
    queryFn: () => call(api.GET('/api/v1/connections/{connection}/containers', { params: { path: { connection: connectionId } } })),
    staleTime: 30_000,
    retry: 1,
  });
  const mine = placements.data?.filter((p) => p.service === row.id) ?? [];
  const [picked, setContainer] = useState<string>();
  const [part, setPart] = useState('');
  const [title, setTitle] = useState<string>();
  const [settings, setSettings] = useState<Settings>({});
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [takeOut, setTakeOut] = useState(false);
  // where the set went last, as long as that is there: pushing again makes no second one by mistake
  const container =
    picked ??
    containers.data?.find((c) => c.id === mine.find((p) => p.version === (goes.version ?? '') && p.language === (goes.language ?? ''))?.container)?.id ??
    containers.data?.find((c) => c.fresh)?.id ??
    '';
  const chosen = containers.data?.find((c) => c.id === container);
  const fresh = !container || Boolean(chosen?.fresh);
  const there = mine.find((p) => p.container === container);
  const keyed = useMemo(() => ({ ...set, items: itemsWithKey(set) }), [set]);
  // what is asked for every push begins as it was last time
  const howSet = useMemo<Settings>(() => ({ ...(there?.settings as Settings | undefined), ...settings }), [settings, there?.settings]);
  const pieces = usePieces(keyed, row.id, howSet);
  const lines = useMemo(() => linesOf(pieces ?? [], there), [pieces, there]);
  const going = lines.filter((l) => !without.has(l.item));
  const wanted = new Set(pieces?.filter((p) => !without.has(p.item)).map((p) => p.key));
  const gone = pieces && there ? there.pieces.filter((p) => !wanted.has(p.key)).length : 0;
  const work = going.filter((l) => l.state !== 'same').length + (takeOut ? gone : 0);

  const { running, noted } = useRunning(row.id, pushes.data, (p) => {
    changed();
    setContainer(undefined);
    if (p.state === 'done') toast.success(say('“{title}” has arrived.', { title: p.report.title ?? set.title }));
  });
  const changed = (): void => {
    for (const key of ['pushes', 'placements', 'set']) void queries.invalidateQueries({ queryKey: [key, view.id] });
    void queries.invalidateQueries({ queryKey: ['containers'] });
  };
  const push = useMutation({
    mutationFn: () =>
      asPush(
        call(
          api.POST('/api/v1/sets/{set}/pushes', {
            ...path,
            body: {
              id: newId(),
              connectionId,
              ...(container && { container, ...(part && { part }) }),
              ...goes,
              ...(fresh && { title: title?.trim() || set.title }),
              settings: { ...howSet },
              ...(without.size > 0 && { items: going.map((l) => l.item) }),
              ...(takeOut && { takeOut }),
            },
          }),
        ),
      ),
    onSuccess: noted,
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  const again = useMutation({
    mutationFn: (id: string) => asPush(call(api.POST('/api/v1/pushes/{push}/again', { params: { path: { push: id } } }))),
    onSuccess: (p) => {
      noted(p);
      changed();
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const stop = useMutation({
    mutationFn: (id: string) => asPush(call(api.POST('/api/v1/pushes/{push}/stop', { params: { path: { push: id } } }))),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const disconnect = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/connections/{connection}', { params: { path: { connection: connectionId } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['services'] }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const settled = Boolean(container && pieces && going.length && !work);
  const list = <GoingOut lines={lines} without={without} onWithout={setWithout} known={Boolean(there)} left={set.items.length - lines.length} />;
  const { one } = row.container;
  const named = (s: string): string => s || say('Untitled {one}', { one });
  const many = say('{going, plural, one {one item} other {# items}}', { going: going.length });
  const verb = fresh
    ? say('Push {many} to {what}', { many, what: chosen ? chosen.title.replace(/^A /, 'a ') : say('a new {one}', { one }) })
    : there
      ? say('Bring {title} up to date', { title: chosen?.title ?? one })
      : say('Add {many}', { many });
  return (
    <>
      <p className="text-ink-2">
        {say('Connected as {accountName}.', { accountName: service.accountName })}{' '}
        {mayEdit && (
          <button type="button" className="link" onClick={() => disconnect.mutate()}>
            {say('Disconnect')}
          </button>
        )}
      </p>
      {mayEdit && !running && (
        <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-3">
          {(containers.data?.length ?? 0) > 0 && (
            <Field label={say('Where to')}>
              {(id) => (
                <Select
                  id={id}
                  value={container}
                  onChange={(e) => {
                    setContainer(e.target.value);
                    setPart('');
                    setTakeOut(false);
                  }}
                >
                  {!containers.data?.some((c) => c.fresh) && <option value="">{say('A new {one}', { one })}</option>}
                  {containers.data?.map((c) => (
                    <option key={c.id} value={c.id}>
                      {named(c.title)}
                      {c.holds && `: ${c.holds}`}
                      {mine.some((p) => p.container === c.id) ? say(', has items of this set') : ''}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          )}
          {containers.isError && (
            <p className="text-[13.5px] text-amber">
              {say('What is there could not be fetched: {words}', { words: wordsOf(containers.error) })}{' '}
              <button type="button" className="link" onClick={() => void containers.refetch()}>
                {say('Try again')}
              </button>
            </p>
          )}
          {chosen && !settled && chosen.parts.length > 0 && (
            <Field label={row.parts?.label ?? say('New items go')}>
              {(id) => (
                <Select id={id} value={part} onChange={(e) => setPart(e.target.value)}>
                  <option value="">{row.parts?.none ?? say('behind all that is there')}</option>
                  {chosen.parts.map((x) => (
                    <option key={x.id} value={x.id}>
                      {row.parts ? x.title : say('into “{named}”', { named: named(x.title) })}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          )}
          {fresh && (
            <Field label={chosen ? say('Title') : say('Title of the new {one}', { one })}>
              {(id) => <Input id={id} value={title ?? set.title} maxLength={200} onChange={(e) => setTitle(e.target.value)} />}
            </Field>
          )}
          <HowItIsSet settings={row.settings.filter((s) => fresh || s.everyPush)} values={howSet} onValues={setSettings} />
          {!pieces ? (
            <Busy what={say('Looking at what goes')} />
          ) : settled ? (
            <details className="text-sm">
              <summary className="cursor-pointer text-dill">{say('All of it stands there as it is here')}</summary>
              {list}
            </details>
          ) : (
            list
          )}
          {gone > 0 && (
            <label className="flex items-start gap-2 text-sm">
              <input type="checkbox" className="mt-1 accent-beet" checked={takeOut} onChange={(e) => setTakeOut(e.target.checked)} />
              {say('Take out there what no longer goes: {gone, plural, one {one entry} other {# entries}}', { gone })}
            </label>
          )}
          {!settled && (
            <Button
              look="primary"
              className="justify-self-start text-left whitespace-normal!"
              disabled={push.isPending || !going.length || !pieces}
              onClick={() => push.mutate()}
            >
              <Send size={15} aria-hidden /> {verb}
            </Button>
          )}
        </div>
      )}
      {mayEdit && !running && goes.version === undefined && doc.drawn && (
        <AllVersions
          drawn={doc.drawn}
          row={row}
          containers={containers.data ?? []}
          placements={mine}
          language={goes.language}
          send={(body) =>
            asPush(call(api.POST('/api/v1/sets/{set}/pushes', { ...path, body: { id: newId(), connectionId, settings: { ...howSet }, ...body } })))
          }
          onSent={(p) => {
            noted(p);
            changed();
          }}
        />
      )}
      {running && (
        <div className="mt-4">
          <div role="status">
            <progress
              className="h-2 w-full appearance-none overflow-hidden rounded-full bg-rule-2 [&::-moz-progress-bar]:bg-beet [&::-webkit-progress-bar]:bg-rule-2 [&::-webkit-progress-value]:bg-beet"
              max={running.total}
              value={running.done}
              aria-label={say('Progress of the push')}
            />
            <p className="truncate text-[13.5px] text-ink-2">{running.step}</p>
          </div>
          {running.report.items && <GoingOut.Ticking items={running.report.items} />}
          {mayEdit && (
            <Button className="mt-2" disabled={stop.isPending} onClick={() => stop.mutate(running.id)}>
              {say('Stop')}
            </Button>
          )}
        </div>
      )}
      {mine.map((p) => (
        <PlacementView
          key={p.id}
          placement={p}
          row={row}
          pieces={pieces}
          mayEdit={mayEdit}
          onChoose={() => setContainer(p.container)}
          chosen={p.container === container}
        />
      ))}
      {pushes.data
        ?.filter((p) => p.service === row.id && !isOpen(p))
        .map((p) => (
          <ReceiptView key={p.id} push={p} again={mayEdit && !running ? () => again.mutate(p.id) : undefined} />
        ))}
    </>
  );
}
