/** Scores to the gradebook of a connected service: who is who is shown and asked first, then only what is new or has changed is sent. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { matchPeople } from '@zakuska/core';
import { ExternalLink, Send } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

export interface Scored {
  name: string;
  points: number;
}
interface Props {
  /** The delivery or placement that the scores are from. */
  source: string;
  title: string;
  maximum: number;
  attempts: readonly Scored[];
  onClose: () => void;
}
type Gradebook = Schemas['GradebookView'];

const BY = { mail: say('by mail'), name: '', likely: say('by part of the name'), maybe: say('please check'), nobody: say('not found') } as const;
/** Not to be sent. */
const NOBODY = '';

/** The best of each who handed in. */
function bestOf(attempts: readonly Scored[]): Scored[] {
  const best = new Map<string, Scored>();
  for (const a of attempts) {
    const key = a.name.trim().toLowerCase();
    if ((best.get(key)?.points ?? -Infinity) < a.points) best.set(key, a);
  }
  return [...best.values()].sort((a, b) => a.name.localeCompare(b.name));
}

export function SendScores({ source, title: usual, maximum, attempts, onClose }: Props) {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const services = useQuery({
    queryKey: ['services', view.workspaceId],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/services', { params: { path: { workspace: view.workspaceId } } })),
  });
  const connected = services.data?.filter((s) => s.connectionId) ?? [];
  const books = useQuery({
    queryKey: ['gradebooks', connected.map((c) => c.connectionId)],
    enabled: Boolean(services.data),
    queryFn: async () => {
      const lists = await Promise.all(
        connected.map(async (c) => {
          const connection = c.connectionId ?? '';
          const list = await call(api.GET('/api/v1/connections/{connection}/gradebooks', { params: { path: { connection } } }));
          return list.map((book) => ({ book, connection, service: c }));
        }),
      );
      return lists.flat();
    },
  });
  const before = useQuery({ queryKey: ['grades', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/grades', { params: { path: { set: view.id } } })) });
  const [at, setAt] = useState(0);
  const chosen = books.data?.[at];
  const sent = before.data?.find((g) => g.source === source && g.gradebook === chosen?.book.id && g.service === chosen.service.service);
  if (services.isPending || books.isPending || before.isPending)
    return (
      <Modal open onClose={onClose} title={say('Send scores to a gradebook')}>
        {books.isError ? <p className="text-brick">{wordsOf(books.error)}</p> : <Busy what={say('Fetching the gradebooks')} />}
      </Modal>
    );
  if (!chosen)
    return (
      <Modal open onClose={onClose} title={say('Send scores to a gradebook')}>
        <p>
          {books.isError
            ? say('The gradebooks could not be fetched: {words}', { words: wordsOf(books.error) })
            : say('No connected service has a gradebook. Connect the course LMS on Deliver, then come back.')}
        </p>
      </Modal>
    );
  return (
    <Agree
      key={chosen.book.id}
      book={chosen.book}
      connection={chosen.connection}
      source={source}
      usual={sent?.title ?? usual}
      sent={sent?.sent ?? {}}
      maximum={maximum}
      attempts={attempts}
      onClose={onClose}
      onDone={() => void queries.invalidateQueries({ queryKey: ['grades', view.id] })}
      where={
        <Field label={say('Gradebook')}>
          {(id) => (
            <Select id={id} value={at} onChange={(e) => setAt(Number(e.target.value))}>
              {books.data?.map((b, n) => (
                <option key={`${b.connection} ${b.book.id}`} value={n}>
                  {b.book.title}, {b.service.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
      }
    />
  );
}

interface AgreeProps extends Omit<Props, 'title'> {
  book: Gradebook;
  connection: string;
  usual: string;
  /** What stands there from here, by person. */
  sent: Readonly<Record<string, number>>;
  where: React.ReactNode;
  onDone: () => void;
}

function Agree({ book, connection, source, usual, sent, maximum, attempts, where, onClose, onDone }: AgreeProps) {
  const { view } = useOpenSet();
  const learners = useMemo(() => bestOf(attempts), [attempts]);
  const matches = useMemo(() => matchPeople(learners, book.people), [learners, book]);
  const [said, setSaid] = useState<Record<string, string>>({});
  const [title, setTitle] = useState(usual);
  const personOf = (n: number): string => {
    const m = matches[n];
    return said[learners[n]?.name ?? ''] ?? (m && m.by !== 'maybe' && m.person ? m.person : NOBODY);
  };
  const scores = new Map<string, number>();
  const twice = new Set<string>();
  learners.forEach((l, n) => {
    const person = personOf(n);
    if (!person) return;
    if (scores.has(person)) twice.add(person);
    scores.set(person, l.points);
  });
  const due = [...scores].filter(([person, s]) => sent[person] !== s).length;
  const open = learners.filter((_, n) => !personOf(n)).length;
  const send = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/sets/{set}/grades', {
          params: { path: { set: view.id } },
          body: { connectionId: connection, source, gradebook: book.id, title: title.trim() || usual, maximum, scores: Object.fromEntries(scores) },
        }),
      ),
    onSuccess: (r) => {
      onDone();
      const name = (id: string): string => book.people.find((p) => p.id === id)?.name ?? id;
      for (const x of r.refused) toast.error(`${name(x.person)}: ${x.reason}`, { duration: 10_000 });
      toast.success(
        say('{changed, plural, one {# score stands} other {# scores stand}} in {gradebookTitle} now.', {
          changed: r.changed,
          gradebookTitle: r.gradebookTitle,
        }),
      );
      if (!r.refused.length) onClose();
    },
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('Send scores to a gradebook')}
      foot={
        <div className="flex w-full flex-wrap items-center gap-3">
          <span className="flex-1 text-sm text-ink-2">
            {say('{due} to send', { due })}
            {open > 0 && <span className="text-amber"> {say('· {open} without a person stay here', { open })}</span>}
            {twice.size > 0 && <span className="text-brick"> {say('· one person is chosen twice')}</span>}
          </span>
          <Button look="primary" disabled={!due || twice.size > 0 || send.isPending} onClick={() => send.mutate()}>
            <Send size={15} aria-hidden /> {say('Send {due, plural, one {one score} other {# scores}}', { due })}
          </Button>
        </div>
      }
    >
      <div className="grid gap-3 sm:grid-cols-2">
        {where}
        <Field label={say('Column')}>
          {(id) => <Input id={id} value={title} maxLength={200} onChange={(e) => setTitle(e.target.value)} disabled={Object.keys(sent).length > 0} />}
        </Field>
      </div>
      <p className="mt-2 text-[13.5px] text-ink-2">
        {say('Of several attempts the best counts.')}{' '}
        <a hidden={!book.link} className="link inline-flex items-center gap-1" href={book.link} target="_blank" rel="noreferrer">
          {say('Open the gradebook')} <ExternalLink size={13} aria-hidden />
        </a>
      </p>
      <table className="mt-3 w-full text-sm">
        <thead>
          <tr className="border-b border-rule text-left text-ink-2">
            <th className="py-1 pr-2 font-semibold">{say('Handed in as')}</th>
            <th className="px-2 font-semibold">{say('In the gradebook')}</th>
            <th className="px-2 text-right font-semibold">{say('of {maximum}', { maximum })}</th>
            <th className="pl-2 font-semibold">{say('There now')}</th>
          </tr>
        </thead>
        <tbody>
          {learners.map((l, n) => {
            const person = personOf(n);
            const by = matches[n]?.by ?? 'nobody';
            const now = person ? sent[person] : undefined;
            return (
              <tr key={l.name} className="border-b border-rule-2">
                <th scope="row" className="py-1 pr-2 text-left font-normal">
                  {l.name}
                </th>
                <td className="px-2">
                  <span className="flex items-center gap-2">
                    <Select
                      aria-label={say('{name} in the gradebook', { name: l.name })}
                      className="w-auto! py-1!"
                      value={person}
                      onChange={(e) => setSaid({ ...said, [l.name]: e.target.value })}
                    >
                      <option value={NOBODY}>{say('– nobody –')}</option>
                      {book.people.map((p) => (
                        <option key={p.id} value={p.id}>
                          {p.name}
                        </option>
                      ))}
                    </Select>
                    {said[l.name] === undefined && BY[by] && (
                      <span className={`text-[12.5px] ${by === 'maybe' || by === 'nobody' ? 'text-amber' : 'text-ink-2'}`}>{BY[by]}</span>
                    )}
                  </span>
                </td>
                <td className="px-2 text-right font-semibold tabular-nums">{l.points}</td>
                <td className={`pl-2 tabular-nums ${now !== undefined && now !== l.points ? 'text-amber' : 'text-ink-2'}`}>{now ?? '–'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Modal>
  );
}
