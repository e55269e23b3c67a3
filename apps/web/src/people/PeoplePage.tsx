/** What is kept of learners: found by name, deleted with a record of it; how long answers are kept; what was deleted before. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { type FormEvent, useState } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { WorkspaceField } from '../frame/WorkspaceField.js';
import { useSession } from '../signin/session.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { type PersonRecord, RECORD_NAMES, removedWords } from './recordWords.js';
import { dayAndTime, wholeDay } from '../ui/localTime.js';
import { say } from '../words/say.js';

/** The server looks for no fewer. */
const FEWEST_LETTERS = 2;

export default function PeoplePage() {
  const { workspaces } = useSession();
  const current = useWorkspace();
  const [params, setParams] = useSearchParams();
  const mine = workspaces.filter((w) => mayAs(w.role, 'editor'));
  const workspace = mine.find((w) => w.id === params.get('workspace')) ?? mine.find((w) => w.id === current?.id) ?? mine[0];
  const id = workspace?.id ?? '';
  const words = params.get('words') ?? '';
  const [typed, setTyped] = useState(words);
  const go = (next: Record<string, string>): void => setParams({ ...Object.fromEntries(params), ...next }, { replace: true });
  const look = (e: FormEvent): void => {
    e.preventDefault();
    go({ words: typed.trim() });
  };
  return (
    <div className="grid h-dvh grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <h1 className="inline font-[650] text-ink">{say('What is kept of people')}</h1>
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        {workspace ? (
          <div className="mx-auto grid max-w-5xl gap-6">
            <WorkspaceField workspaces={mine} value={id} onChange={(w) => go({ workspace: w })} />
            <section aria-label={say('Find a person')} className="grid gap-3">
              <h2 className="text-lg font-bold">{say('Somebody asks what is kept, or to be forgotten')}</h2>
              <p className="max-w-prose text-ink-2">
                {say(
                  'Answers, class lists, mails and courses of this workspace are looked through, as far as you may change them. What was sent to a course, a gradebook or a form stays there, and has to be deleted there.',
                )}
              </p>
              <form className="flex flex-wrap items-end gap-2" onSubmit={look} role="search">
                <Field label={say('Part of a name, a whole mail address, or a number of the school')}>
                  {(f) => <Input id={f} type="search" className="w-80 max-w-full" maxLength={300} value={typed} onChange={(e) => setTyped(e.target.value)} />}
                </Field>
                <Button type="submit" look="primary" disabled={typed.trim().length < FEWEST_LETTERS}>
                  {say('Find')}
                </Button>
              </form>
              {words.length >= FEWEST_LETTERS && <Records key={`${id} ${words}`} workspace={id} words={words} />}
            </section>
            <Keeping key={id} workspace={id} admin={mayAs(workspace.role, 'administrator')} />
            <Erasures workspace={id} />
          </div>
        ) : (
          <p className="text-ink-2">{say('You may read sets here and change none: whoever may change them finds and deletes what is kept of people.')}</p>
        )}
      </main>
    </div>
  );
}

const nameOf = (r: Pick<PersonRecord, 'kind' | 'id'>): string => `${r.kind} ${r.id}`;

function Records({ workspace, words }: { workspace: string; words: string }) {
  const queries = useQueryClient();
  const found = useQuery({
    queryKey: ['people', workspace, words],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/people', { params: { path: { workspace }, query: { words } } })),
    staleTime: 0,
    gcTime: 0,
  });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [asking, setAsking] = useState(false);
  const all = found.data ?? [];
  const chosen = all.filter((r) => !left.has(nameOf(r)));
  const erase = useMutation({
    mutationFn: (reference: string) =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/people/erase', {
          params: { path: { workspace } },
          body: { records: chosen.map(({ kind, id }) => ({ kind, id })), reference },
        }),
      ),
    onSuccess: (now) => {
      setAsking(false);
      queries.setQueryData(['erasures', workspace], now);
      // whatever page shows results, classes or people
      void queries.invalidateQueries();
      toast.success(say('Deleted. That it was done is written down below.'));
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (found.isError) return <NotFetched query={found} />;
  if (found.isPending) return <Busy what={say('Looking')} />;
  if (!all.length) return <p role="status">{say('Nothing is kept of “{words}”.', { words })}</p>;
  const turn = (r: PersonRecord): void => {
    const next = new Set(left);
    if (!next.delete(nameOf(r))) next.add(nameOf(r));
    setLeft(next);
  };
  return (
    <>
      <div className="overflow-x-auto">
        <table className="w-full bg-sheet text-sm">
          <caption className="sr-only">{say('Records of people with “{words}”', { words })}</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left">
              <th className="p-2">
                <input
                  type="checkbox"
                  aria-label={say('All of them')}
                  checked={chosen.length === all.length}
                  onChange={() => setLeft(chosen.length === all.length ? new Set(all.map(nameOf)) : new Set())}
                />
              </th>
              <th className="p-2">{say('Name')}</th>
              <th className="p-2">{say('What')}</th>
              <th className="p-2">{say('Where')}</th>
              <th className="p-2">{say('Since')}</th>
            </tr>
          </thead>
          <tbody>
            {all.map((r) => (
              <tr key={nameOf(r)} className="border-b border-rule-2">
                <td className="p-2">
                  <input
                    type="checkbox"
                    aria-label={`${r.name}, ${RECORD_NAMES[r.kind]}, ${r.place}`}
                    checked={!left.has(nameOf(r))}
                    onChange={() => turn(r)}
                  />
                </td>
                <td className="p-2 wrap-anywhere">
                  {r.name} <span className="text-ink-2">{[r.number, r.mail].filter(Boolean).join(', ')}</span>
                </td>
                <td className="p-2">{RECORD_NAMES[r.kind]}</td>
                <td className="p-2 wrap-anywhere">{r.place}</td>
                <td className="p-2 whitespace-nowrap">{wholeDay(r.at)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="flex flex-wrap items-center gap-3">
        <span role="status">{say('{chosen} of {all, plural, one {# record} other {# records}} ticked', { chosen: chosen.length, all: all.length })}</span>
        <Button disabled={!chosen.length} onClick={() => setAsking(true)}>
          {say('Delete what is ticked …')}
        </Button>
      </p>
      {asking && <AskErase records={chosen} pending={erase.isPending} onErase={(reference) => erase.mutate(reference)} onClose={() => setAsking(false)} />}
    </>
  );
}

interface AskProps {
  records: readonly PersonRecord[];
  pending: boolean;
  onErase: (reference: string) => void;
  onClose: () => void;
}
function AskErase({ records, pending, onErase, onClose }: AskProps) {
  const [reference, setReference] = useState('');
  const names = [...new Set(records.map((r) => r.name))];
  const counts = new Map<string, number>();
  for (const r of records) counts.set(r.kind, (counts.get(r.kind) ?? 0) + 1);
  return (
    <Modal
      open
      onClose={onClose}
      title={say('{names, plural, one {Delete what is kept of {names2}?} other {Delete what is kept of # people?}}', { names: names.length, names2: names[0] })}
      description={say('{removed}. This cannot be undone.', { removed: removedWords(Object.fromEntries(counts)) })}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={pending} onClick={() => onErase(reference)}>
            {pending ? say('Deleting …') : say('Delete for good')}
          </Button>
        </>
      }
    >
      {names.length > 1 && (
        <p className="mb-3 max-h-24 overflow-auto text-sm" tabIndex={0}>
          {names.join(', ')}
        </p>
      )}
      <Field label={say('Why (may stay empty)')} hint={say('It stays with the record that this was done. Name nobody: “letter of 12 November” will do.')}>
        {(f, note) => <Input id={f} aria-describedby={note} maxLength={200} value={reference} onChange={(e) => setReference(e.target.value)} />}
      </Field>
    </Modal>
  );
}

const CHOICES = [3, 6, 12, 24, 36, 60, 120];
const months = (n: number): string =>
  n % 12 ? say('{n, plural, one {# month} other {# months}}', { n }) : say('{n, plural, one {# year} other {# years}}', { n: n / 12 });

function Keeping({ workspace, admin }: { workspace: string; admin: boolean }) {
  const queries = useQueryClient();
  const path = { params: { path: { workspace } } };
  const keeping = useQuery({ queryKey: ['keeping', workspace], queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/keeping', path)) });
  const [wanted, setWanted] = useState<number | null>(null);
  const keep = useMutation({
    mutationFn: (n: number | null) => call(api.PUT('/api/v1/workspaces/{workspace}/keeping', { ...path, body: { months: n } })),
    onSuccess: (now) => {
      queries.setQueryData(['keeping', workspace], now);
      setWanted(null);
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const now = keeping.data?.months ?? null;
  return (
    <section aria-label={say('How long answers are kept')} className="grid gap-2">
      <h2 className="text-lg font-bold">{say('How long answers are kept')}</h2>
      {keeping.isError && <NotFetched query={keeping} />}
      {keeping.data && (
        <p className="max-w-prose text-ink-2">
          {say('{what} How the items did stays with the items, as figures of nobody. A day for one quiz alone is set in its Results.', {
            what:
              now === null
                ? say('As long as the set is there.')
                : say('{months} from when they were handed in; then they go by themselves.', { months: months(now) }),
          })}
        </p>
      )}
      {admin && keeping.data && (
        <Field label={say('Keep answers for')}>
          {(f) => (
            <Select
              id={f}
              className="w-60!"
              value={now ?? ''}
              onChange={(e) => {
                const n = e.target.value ? Number(e.target.value) : null;
                // longer does no harm
                if (n === null || (now !== null && n >= now)) keep.mutate(n);
                else setWanted(n);
              }}
            >
              <option value="">{say('as long as the set is there')}</option>
              {[...new Set([...CHOICES, ...(now === null ? [] : [now])])]
                .sort((a, b) => a - b)
                .map((n) => (
                  <option key={n} value={n}>
                    {months(n)}
                  </option>
                ))}
            </Select>
          )}
        </Field>
      )}
      {wanted !== null && (
        <Modal
          open
          onClose={() => setWanted(null)}
          title={say('Keep answers for {months}?', { months: months(wanted) })}
          description={say('Answers of the whole workspace that are older are deleted within minutes. This cannot be undone.')}
        >
          <div className="flex gap-2">
            <Button look="primary" disabled={keep.isPending} onClick={() => keep.mutate(wanted)}>
              {say('Delete what is older')}
            </Button>
            <Button onClick={() => setWanted(null)}>{say('Cancel')}</Button>
          </div>
        </Modal>
      )}
    </section>
  );
}

function Erasures({ workspace }: { workspace: string }) {
  const all = useQuery({
    queryKey: ['erasures', workspace],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/erasures', { params: { path: { workspace } } })),
  });
  return (
    <section aria-label={say('What was deleted')} className="grid gap-2">
      <h2 className="text-lg font-bold">{say('What was deleted')}</h2>
      {all.isError && <NotFetched query={all} />}
      {all.isPending && <Busy what={say('Fetching')} />}
      {all.data?.length === 0 && (
        <p className="text-ink-2">{say('Nothing so far. Each deletion stands here with its day, who did it and how much went; no name stays.')}</p>
      )}
      {(all.data?.length ?? 0) > 0 && (
        <ul aria-label={say('Deletions')} className="border-t border-rule text-sm">
          {all.data?.map((e: Schemas['ErasureView']) => (
            <li key={e.id} className="flex flex-wrap gap-x-3 border-b border-rule py-2">
              <span className="text-ink-2 tabular-nums">{dayAndTime(e.at)}</span>
              <span className="min-w-0 flex-1">
                {removedWords(e.removed)}
                {e.reference && <span className="text-ink-2">: {e.reference}</span>}
              </span>
              <span>{e.cause === 'time' ? say('their time was over') : e.by || say('an account that is gone')}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
