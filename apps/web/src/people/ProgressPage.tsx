/** A class over its quizzes: who reached what share of the points in each, in their order in time. */
import { useQuery } from '@tanstack/react-query';
import { line, mean, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { classesOf } from '../api/classes.js';
import { api, call, type Schemas } from '../api/client.js';
import { Busy, Empty, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { WorkspaceField } from '../frame/WorkspaceField.js';
import { useSession } from '../signin/session.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Select } from '../ui/Field.js';
import { percent } from '../ui/figures.js';
import { shortDay } from '../ui/localTime.js';
import { tabbed } from '../ui/tabbed.js';
import { say } from '../words/say.js';

type View = Schemas['ProgressView'];
/** Fewer than half of the points are few (common practice, no source). */
const FEW = 0.5;

export default function ProgressPage() {
  const { workspaces } = useSession();
  const current = useWorkspace();
  const [params, setParams] = useSearchParams();
  const workspace = workspaces.find((w) => w.id === params.get('workspace')) ?? current;
  const classes = useQuery({ ...classesOf(workspace?.id ?? ''), enabled: Boolean(workspace) });
  const chosen = classes.data?.find((c) => c.id === params.get('class')) ?? classes.data?.[0];
  const progress = useQuery({
    queryKey: ['progress', chosen?.id],
    enabled: Boolean(chosen),
    queryFn: () => call(api.GET('/api/v1/classes/{class}/progress', { params: { path: { class: chosen?.id ?? '' } } })),
  });
  const go = (next: Record<string, string>): void => setParams(next, { replace: true });
  return (
    <div className="grid h-dvh grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <h1 className="inline font-[650] text-ink">{say('Progress of a class')}</h1>
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        <div className="mb-4 flex flex-wrap gap-4">
          <WorkspaceField workspaces={workspaces} value={workspace?.id} onChange={(w) => go({ workspace: w })} />
          {(classes.data?.length ?? 0) > 0 && (
            <Field label={say('Class')}>
              {(f) => (
                <Select id={f} className="w-72!" value={chosen?.id} onChange={(e) => go({ workspace: workspace?.id ?? '', class: e.target.value })}>
                  {classes.data?.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          )}
        </div>
        {classes.isError && <NotFetched query={classes} />}
        {progress.isError && <NotFetched query={progress} />}
        {(classes.isPending || (chosen && progress.isPending)) && <Busy what={say('Fetching')} />}
        {classes.data?.length === 0 && (
          <Empty title={say('No class yet')}>
            <p>
              {say(
                'Classes are made where a quiz is published: Deliver, own quiz, Who, when and how, Classes. Whoever is on one is followed here over all quizzes.',
              )}
            </p>
          </Empty>
        )}
        {progress.data &&
          (progress.data.quizzes.length ? (
            <Over view={progress.data} />
          ) : (
            <p className="text-ink-2">{say('Nobody of this class has handed in a quiz yet. Who typed a name is known by it, where one on the list has it.')}</p>
          ))}
      </main>
    </div>
  );
}

function Over({ view: { quizzes, people } }: { view: View }) {
  const rows = useMemo(
    () =>
      people.map((p) => {
        const shares = p.points.map((points, n) => {
          const maximum = quizzes[n]?.maximum ?? 0;
          return points === null || maximum === 0 ? null : points / maximum;
        });
        return { ...p, shares, mean: mean(shares.filter((s) => s !== null)) };
      }),
    [quizzes, people],
  );
  const means = quizzes.map((_, n) => mean(rows.flatMap((r) => r.shares[n] ?? [])));
  const several = quizzes.length > 1;
  const copy = (): void =>
    copyText(
      tabbed([
        [say('Name'), ...quizzes.map((q) => q.title), say('Mean, per cent')],
        ...rows.map((r) => [
          r.name,
          ...r.shares.map((s) => (s === null ? '' : Math.round(s * 1000) / 10)),
          r.mean === undefined ? '' : Math.round(r.mean * 1000) / 10,
        ]),
      ]),
      say('The table is in the clipboard, in per cent. Paste it into a spreadsheet.'),
    );
  return (
    <>
      <section aria-label={say('People and quizzes')} tabIndex={0} className="overflow-x-auto border border-rule bg-sheet p-2.5">
        <table className="border-separate border-spacing-0.5 text-[13px]">
          <thead>
            <tr className="align-bottom">
              <th className="sticky left-0 bg-sheet px-1 text-left font-semibold text-ink-2">{say('Learner')}</th>
              {quizzes.map((q) => (
                <th key={q.id} className="max-w-36 px-1 text-left font-semibold">
                  <Link className="link line-clamp-2" to={`/sets/${q.set}/results?of=${q.id}`}>
                    {q.title}
                  </Link>
                  <span className="font-normal text-ink-2">{shortDay(q.at)}</span>
                </th>
              ))}
              <th className="px-1 text-right font-semibold text-ink-2">{say('Mean')}</th>
              {several && <th className="px-1 text-left font-semibold text-ink-2">{say('First to last')}</th>}
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={r.id}>
                <th scope="row" className="sticky left-0 max-w-60 truncate bg-sheet px-1 text-left font-normal">
                  {r.name}
                </th>
                {r.shares.map((s, n) => (
                  <td
                    key={quizzes[n]?.id}
                    className={`h-[26px] px-1.5 tabular-nums ${s === null ? 'text-ink-2' : s < FEW ? 'bg-brick-soft text-brick' : 'bg-dill-soft text-dill'}`}
                  >
                    {s === null ? '–' : percent(s)}
                    {s === null && <span className="sr-only">{say('not handed in')}</span>}
                  </td>
                ))}
                <td className="px-1 text-right font-[650] tabular-nums">{r.mean === undefined ? '–' : percent(r.mean)}</td>
                {several && (
                  <td className="px-1">
                    <Spark shares={r.shares} means={means} />
                  </td>
                )}
              </tr>
            ))}
            <tr>
              <th scope="row" className="sticky left-0 bg-sheet px-1 pt-1 text-left font-semibold">
                {say('All')}
              </th>
              {means.map((m, n) => (
                <td key={quizzes[n]?.id} className="px-1.5 pt-1 font-[650] tabular-nums">
                  {m === undefined ? '–' : percent(m)}
                </td>
              ))}
              <td />
              {several && <td />}
            </tr>
          </tbody>
        </table>
      </section>
      <p className="mt-2 flex flex-wrap items-center gap-3 text-sm text-ink-2">
        <span className="min-w-0 flex-1">
          {say('The share of the points that count for everybody; of several attempts the one that counts there.{more}', {
            more: several && say(' The line of each learner is beside that of all, which is dashed.'),
          })}
        </span>
        <Button onClick={copy}>{say('Copy the table')}</Button>
      </p>
    </>
  );
}

const [WIDE, HIGH] = [84, 20];
/** How somebody went from quiz to quiz, beside the mean of all; what was not handed in is left out. */
function Spark({ shares, means }: { shares: readonly (number | null)[]; means: readonly (number | undefined)[] }) {
  if (shares.filter((s) => s !== null).length < 2) return null;
  const x = scaleLinear([0, shares.length - 1], [2, WIDE - 2]);
  const y = scaleLinear([0, 1], [HIGH - 2, 2]);
  const path = (values: readonly (number | null | undefined)[]): string =>
    line<[number, number]>()
      .x(([n]) => x(n))
      .y(([, s]) => y(s))(values.flatMap((s, n): [number, number][] => (s === null || s === undefined ? [] : [[n, s]]))) ?? '';
  return (
    <svg width={WIDE} height={HIGH} aria-hidden className="overflow-visible">
      <path d={path(means)} fill="none" strokeDasharray="3 2" className="stroke-ink-2" />
      <path d={path(shares)} fill="none" strokeWidth={2} className="stroke-beet" />
    </svg>
  );
}
