/** What was done to the set, by whom and when; named points; the difference from any of them to now, and the way back. */
import { differencesOf, documentBefore, goBack, type ItemDifference, nameOf, type Operation, sayOperation, type SetDocument, type Step } from '@zakuska/core';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Bookmark, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { saidBy, WordsChanged } from '../item/WordsChanged.js';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { dayAndTime } from '../ui/localTime.js';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';

type StepView = Schemas['StepView'];
const stepOf = (s: StepView): Step => ({ version: s.version, operation: s.operation, inverse: s.inverse });

export function HistoryDialog({
  set,
  document: doc,
  saved,
  mayEdit,
  onClose,
  perform,
}: {
  set: string;
  document: SetDocument;
  /** Whether all edits are on the server: the history ends with what is there. */
  saved: boolean;
  mayEdit: boolean;
  onClose: () => void;
  perform: (o: Operation) => boolean;
}) {
  const queries = useQueryClient();
  const path = { params: { path: { set } } };
  const steps = useInfiniteQuery({
    queryKey: ['history', set],
    enabled: saved,
    gcTime: 0,
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      call(api.GET('/api/v1/sets/{set}/history', { params: { path: { set }, query: pageParam === undefined ? {} : { before: String(pageParam) } } })),
    getNextPageParam: (last) => (last.length < 200 ? undefined : last.at(-1)?.version),
  });
  const points = useQuery({ queryKey: ['points', set], queryFn: () => call(api.GET('/api/v1/sets/{set}/points', path)) });
  const list = useMemo(() => steps.data?.pages.flat() ?? [], [steps.data]);
  const [picked, setPicked] = useState<number | null>(null);
  const [name, setName] = useState('');
  const now = list[0]?.version ?? 0;

  const keep = useMutation({
    mutationFn: () => call(api.POST('/api/v1/sets/{set}/points', { ...path, body: { name: name.trim(), version: picked ?? now } })),
    onSuccess: () => {
      setName('');
      return queries.invalidateQueries({ queryKey: ['points', set] });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const remove = useMutation({
    mutationFn: (point: string) => call(api.DELETE('/api/v1/sets/{set}/points/{point}', { params: { path: { set, point } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['points', set] }),
    onError: (e) => toast.error(wordsOf(e)),
  });

  // the set as it was after the picked version, where the steps since then are here
  const since = useMemo(() => (picked === null ? [] : list.filter((s) => s.version > picked).map(stepOf)), [picked, list]);
  const then = useMemo(() => {
    if (picked === null) return null;
    try {
      return documentBefore(doc, since);
    } catch {
      return null;
    }
  }, [picked, doc, since]);
  const differences = useMemo(() => (then ? differencesOf(then, doc) : []), [then, doc]);
  const reached = picked === null || !list.length || (list.at(-1)?.version ?? 0) <= picked + 1 || !steps.hasNextPage;
  const back = (): void => {
    const point = points.data?.find((p) => p.version === picked);
    const step = list.find((s) => s.version === picked);
    const label = say('Back to {what}', { what: point ? `“${point.name}”` : step ? dayAndTime(step.at) : say('the beginning') });
    if (perform(goBack(since, label))) {
      toast(say('{label}. Undo takes this back.', { label }));
      onClose();
    }
  };
  const named = new Map<number, typeof points.data>();
  for (const p of points.data ?? []) named.set(p.version, [...(named.get(p.version) ?? []), p]);
  const line = (version: number, what: string, by: string) => (
    <li key={version} className="border-t border-rule-2 first:border-t-0">
      {named.get(version)?.map((p) => (
        <div key={p.id} className="flex items-center gap-1.5 pt-1 text-beet">
          <Bookmark size={14} aria-hidden />
          <b className="min-w-0 flex-1 truncate">{p.name}</b>
          {mayEdit && (
            <button
              type="button"
              aria-label={say('Take the name “{name}” away', { name: p.name })}
              className="grid size-6 cursor-pointer place-items-center rounded hover:bg-beet-soft"
              onClick={() => remove.mutate(p.id)}
            >
              <X size={14} aria-hidden />
            </button>
          )}
        </div>
      ))}
      <button
        type="button"
        aria-pressed={picked === version}
        onClick={() => setPicked(version)}
        className={`w-full cursor-pointer py-1.5 pr-1 pl-2 text-left ${picked === version ? 'bg-beet-soft shadow-[inset_3px_0_var(--beet)]' : 'hover:bg-paper'}`}
      >
        {what}
        <span className="block text-[13px] text-ink-2">{by}</span>
      </button>
    </li>
  );
  return (
    <Modal open full onClose={onClose} title={say('History of the set')}>
      {!saved || steps.isPending ? (
        <Busy what={saved ? say('Fetching the history') : say('Saving the last edits')} />
      ) : steps.isError ? (
        <p role="alert" className="note error">
          {wordsOf(steps.error)}
        </p>
      ) : (
        <div className="grid h-full min-h-0 gap-5 md:grid-cols-[340px_minmax(0,1fr)]">
          <div className="min-h-0 overflow-auto" tabIndex={0} role="region" aria-label={say('Steps, the newest first')}>
            <ol>
              {list.map((s) => line(s.version, retold(sayOperation(s.operation, doc.set.items)), `${s.by}, ${dayAndTime(s.at)}`))}
              {!steps.hasNextPage && line(0, say('The beginning'), say('The set as it was first kept here'))}
            </ol>
            {steps.hasNextPage && (
              <Button look="quiet" disabled={steps.isFetchingNextPage} onClick={() => void steps.fetchNextPage()}>
                {steps.isFetchingNextPage ? say('Fetching …') : say('Earlier steps')}
              </Button>
            )}
          </div>
          <div className="min-h-0 overflow-auto" tabIndex={0} role="region" aria-label={say('What is different now')}>
            {picked === null ? (
              <p className="text-ink-2">{say('Choose a step to see what has changed since then, to give it a name, or to go back to it.')}</p>
            ) : !reached || !then ? (
              <p className="text-ink-2">{say('Fetch the earlier steps first.')}</p>
            ) : (
              <>
                <div className="mb-3 flex flex-wrap items-center gap-2">
                  {mayEdit && (
                    <Button look="primary" disabled={!since.length} onClick={back}>
                      {say('Go back to this')}
                    </Button>
                  )}
                  {mayEdit && picked > 0 && (
                    <form
                      className="flex gap-2"
                      onSubmit={(e) => {
                        e.preventDefault();
                        if (name.trim()) keep.mutate();
                      }}
                    >
                      <Input
                        aria-label={say('Name of this point')}
                        placeholder={say('Name this point')}
                        maxLength={200}
                        className="w-52!"
                        value={name}
                        onChange={(e) => setName(e.target.value)}
                      />
                      <Button type="submit" disabled={!name.trim() || keep.isPending}>
                        {say('Name')}
                      </Button>
                    </form>
                  )}
                </div>
                <h3 className="mb-1 font-bold">
                  {since.length
                    ? say('Since then: {what}', { what: differences.length ? '' : say('the items are the same') })
                    : say('This is the set as it is now.')}
                </h3>
                <ul className="grid gap-3">
                  {differences.map((d) => (
                    <Difference key={`${d.id}${d.what}`} d={d} place={doc.set.items.findIndex((i) => i.id === d.id)} />
                  ))}
                </ul>
              </>
            )}
          </div>
        </div>
      )}
    </Modal>
  );
}

const WHAT = { added: say('added'), gone: say('taken out'), changed: say('changed'), moved: say('moved') } as const;
function Difference({ d, place }: { d: ItemDifference; place: number }) {
  const item = d.after ?? d.before;
  if (!item) return null;
  return (
    <li className="border-t border-rule-2 pt-2">
      <b>
        {place >= 0 ? say('Item {label}', { label: item.label ?? place + 1 }) : nameOf(item, 60)} <span className="font-medium text-ink-2">{WHAT[d.what]}</span>
      </b>
      {d.what === 'changed'
        ? d.before && d.after && <WordsChanged before={d.before} after={d.after} />
        : d.what !== 'moved' && (
            <p dir="auto" className={`whitespace-pre-wrap ${d.what === 'added' ? 'text-dill' : 'text-brick line-through'}`}>
              {saidBy(item)}
            </p>
          )}
    </li>
  );
}
