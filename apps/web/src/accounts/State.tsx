/** How a workspace stands: what waits or has failed on its way out, and how much is kept. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { Button } from '../ui/Button.js';
import type { Administered } from './Members.js';
import { dayAndTime } from '../ui/localTime.js';
import { locale, say } from '../words/say.js';

type Job = Schemas['JobView'];
const KINDS: Record<Job['kind'], string> = { push: say('To a service'), mail: say('Mail'), score: say('Points to a course') };
const STATES: Record<Job['state'], string> = { waiting: say('waiting'), slow: say('waiting longer than it should'), failed: say('failed') };
const LOOKS: Record<Job['state'], string> = { waiting: 'text-ink-2', slow: 'font-[650] text-amber', failed: 'font-[650] text-brick' };
const EVERY = 15_000;

const size = (bytes: number): string => {
  const [unit, of] = bytes >= 1e9 ? (['GB', 1e9] as const) : bytes >= 1e6 ? (['MB', 1e6] as const) : (['kB', 1e3] as const);
  return `${(bytes / of).toLocaleString(locale(), { maximumFractionDigits: 1 })} ${unit}`;
};

export function State({ workspace: { id: workspace } }: { workspace: Administered }) {
  const queries = useQueryClient();
  const path = { workspace };
  const state = useQuery({
    queryKey: ['state', workspace],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/state', { params: { path } })),
    refetchInterval: EVERY,
    staleTime: 0,
  });
  const again = useMutation({
    mutationFn: async ({ kind, id }: Pick<Job, 'kind' | 'id'>): Promise<void> => {
      if (kind === 'push') await call(api.POST('/api/v1/pushes/{push}/again', { params: { path: { push: id } } }));
      else await call(api.POST('/api/v1/workspaces/{workspace}/state/again', { params: { path }, body: { kind, id } }));
    },
    onSuccess: () => void queries.invalidateQueries({ queryKey: ['state', workspace] }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (state.isError) return <NotFetched query={state} />;
  if (state.isPending) return <Busy what={say('Looking')} />;
  const { storage, jobs } = state.data;
  const figures: [string, string][] = [
    [
      say('Sets'),
      storage.sets.toLocaleString(locale()) + (storage.binned ? say(', and {binned} in the bin', { binned: storage.binned.toLocaleString(locale()) }) : ''),
    ],
    [say('Items'), storage.items.toLocaleString(locale())],
    [say('Quizzes'), storage.quizzes.toLocaleString(locale())],
    [say('Answers of people'), storage.answers.toLocaleString(locale())],
    [say('Space of all that'), size(storage.bytes)],
  ];
  return (
    <div className="grid gap-8">
      <section aria-label={say('On its way out')} className="grid gap-2">
        <h2 className="text-lg font-bold">{say('On its way out')}</h2>
        {!jobs.length && (
          <p className="text-ink-2" role="status">
            {say('Nothing waits, nothing has failed. What goes to services, mailboxes and courses stands here until it has arrived.')}
          </p>
        )}
        {jobs.length > 0 && (
          <div className="overflow-x-auto">
            <table className="w-full bg-sheet text-sm">
              <caption className="sr-only">{say('What waits or has failed, failed ones first')}</caption>
              <thead>
                <tr className="border-b-2 border-ink text-left">
                  <th className="p-2">{say('What')}</th>
                  <th className="p-2">{say('Of')}</th>
                  <th className="p-2">{say('To')}</th>
                  <th className="p-2">{say('Since')}</th>
                  <th className="p-2">{say('How it stands')}</th>
                  <th className="p-2">
                    <span className="sr-only">{say('Again')}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {jobs.map((j) => (
                  <tr key={`${j.kind} ${j.id}`} className="border-b border-rule-2 align-top">
                    <td className="p-2">{KINDS[j.kind]}</td>
                    <td className="p-2 wrap-anywhere">{j.of}</td>
                    <td className="p-2 wrap-anywhere">{j.to}</td>
                    <td className="p-2 whitespace-nowrap">{dayAndTime(j.at)}</td>
                    <td className="p-2">
                      <span className={LOOKS[j.state]}>{STATES[j.state]}</span>
                      {j.tries > 1 && <span className="text-ink-2">{say(', {tries} tries', { tries: j.tries })}</span>}
                      {j.problem && <span className="block text-[13px] text-ink-2">{j.problem}</span>}
                    </td>
                    <td className="p-2">
                      {j.state === 'failed' && (
                        <Button disabled={again.isPending} onClick={() => again.mutate(j)} aria-label={say('Try again: {of} to {to}', { of: j.of, to: j.to })}>
                          {say('Try again')}
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <section aria-label={say('What is kept')} className="grid gap-2">
        <h2 className="text-lg font-bold">{say('What is kept')}</h2>
        <dl className="grid max-w-md grid-cols-[auto_1fr] gap-x-6 gap-y-1">
          {figures.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-2">{name}</dt>
              <dd className="tabular-nums">{value}</dd>
            </div>
          ))}
        </dl>
      </section>
    </div>
  );
}
