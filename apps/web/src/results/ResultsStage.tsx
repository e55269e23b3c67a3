/** Results: learners against items, and how each item worked. */
import {
  counted,
  type Figures,
  figures,
  isGraded,
  type Item,
  keyPlaces,
  letterOf,
  type Mark,
  nameOf,
  type QuizSet,
  type Response,
  serviceRows,
} from '@zakuska/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { scaleLinear } from 'd3';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, call, wordsOf } from '../api/client.js';
import { Busy, Empty, Foot } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { type Goes, goesWords } from '../set/goes.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Select } from '../ui/Field.js';
import { Rich } from '../ui/Rich.js';
import { tabbed } from '../ui/tabbed.js';
import { Courses } from './Courses.js';
import { Live } from './Live.js';
import { SendScores } from './SendScores.js';
import { LOOKS, SIGNS, WORDS } from './states.js';
import { Together } from './Together.js';

interface Attempt {
  id: string;
  name: string;
  /** Which attempt of the person it is. */
  attempt: number;
  sameDeviceAs?: string;
  /** The points that count for the person; absent where another attempt of theirs does, or nobody said which. */
  counts?: number;
  /** Arrived after the end, with answers that were given before it. */
  late?: boolean;
  /** Handed in by the clock. */
  byClock?: boolean;
  practice?: Record<string, { tries: number; hints: number; first?: string }>;
  points: number;
  startedAt: string;
  submittedAt: string;
  marks: Record<string, Mark>;
  responses: Record<string, Response>;
}
const number = (n: number, digits = 1): string => n.toLocaleString(undefined, { maximumFractionDigits: digits });

/** Where responses come from: the own quiz, or a service that they are fetched from. */
interface Source {
  id: string;
  name: string;
  responses: number;
  /** Where learners answer. */
  link: string;
  /** The version that it is of; empty for the whole set. */
  version: string;
  code?: string;
  placement?: true;
}
/** Milliseconds between looks for new responses at a service while the page is open. */
const LOOK_AGAIN = 3 * 60_000;
/** What stands in the address for all versions together. */
const TOGETHER = 'versions';

interface Found {
  set: QuizSet;
  attempts: Attempt[];
  underWay: number;
  /** Responses that the service marked otherwise. */
  otherwise: number;
}

async function fetchResults(of: Source): Promise<Found> {
  if (!of.placement) return { ...(await call(api.GET('/api/v1/deliveries/{delivery}/results', { params: { path: { delivery: of.id } } }))), otherwise: 0 };
  return { ...(await call(api.GET('/api/v1/placements/{placement}/results', { params: { path: { placement: of.id } } }))), underWay: 0 };
}

const day = (at: string): string => new Date(at).toLocaleDateString();

function useSources(): { list: Source[] | null; error: Error | null; again: () => void } {
  const { view } = useOpenSet();
  const path = { params: { path: { set: view.id } } };
  const deliveries = useQuery({ queryKey: ['deliveries', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/deliveries', path)) });
  const placements = useQuery({ queryKey: ['placements', view.id], queryFn: () => call(api.GET('/api/v1/sets/{set}/placements', path)) });
  const again = (): void => {
    void deliveries.refetch();
    void placements.refetch();
  };
  const error = deliveries.error ?? placements.error;
  if (!deliveries.data || !placements.data) return { list: null, error, again };
  const own = deliveries.data.map(
    (d): Source => ({
      id: d.id,
      name: `${before(d)}${d.code}, ${day(d.createdAt)}`,
      version: d.version,
      responses: d.responses,
      link: d.link,
      code: d.code,
    }),
  );
  const there = placements.data
    .filter((p) => p.pulls)
    .map((p): Source => {
      const row = Object.values(serviceRows).find((s) => s.id === p.service);
      return {
        id: p.id,
        name: `${before(p)}${row?.name ?? p.service}: ${p.title}, ${day(p.createdAt)}`,
        version: p.version,
        responses: p.responses,
        link: p.link,
        placement: true,
      };
    });
  return { list: [...own, ...there], error: null, again };
}

/** What of the set it was, in front of a name. */
const before = (goes: Goes): string => (goesWords(goes) ? `${goesWords(goes)}, ` : '');

export default function ResultsStage() {
  const { view, mayEdit } = useOpenSet();
  const queries = useQueryClient();
  const [params, setParams] = useSearchParams();
  const [sending, setSending] = useState(false);
  const [every, setEvery] = useState(false);
  const sources = useSources();
  const list = sources.list ?? [];
  const ofVersions = useMemo(() => (sources.list ?? []).filter((s) => s.version && s.responses > 0), [sources.list]);
  const several = new Set(ofVersions.map((s) => s.version)).size > 1;
  const together = several && params.get('of') === TOGETHER;
  const chosen = list.find((d) => d.id === params.get('of')) ?? list.find((d) => d.responses > 0) ?? list[0];
  const results = useQuery({
    queryKey: ['results', chosen?.id],
    enabled: Boolean(chosen) && !together,
    queryFn: () => fetchResults(chosen as Source),
    refetchInterval: 10_000,
  });
  const pulled = useQuery({
    queryKey: ['pull', chosen?.id],
    enabled: Boolean(chosen?.placement) && mayEdit && !together,
    queryFn: async () => {
      const r = await call(api.POST('/api/v1/placements/{placement}/pull', { params: { path: { placement: chosen?.id ?? '' } } }));
      if (r.added) for (const key of ['results', 'placements']) void queries.invalidateQueries({ queryKey: [key] });
      return { at: new Date(), ...r };
    },
    refetchInterval: LOOK_AGAIN,
    retry: false,
  });
  const failed = sources.error ?? results.error;
  if (failed && !results.data)
    return (
      <main>
        <Empty title="The results could not be fetched">
          <p>{wordsOf(failed)}</p>
          <Button onClick={() => (sources.error ? sources.again() : void results.refetch())}>Try again</Button>
        </Empty>
      </main>
    );
  if (!sources.list || (chosen && !together && results.isPending)) return <Busy what="Fetching the results" />;
  const choice = list.length > 1 && (
    <label className="mb-3 flex items-center gap-2 text-sm">
      Results of
      <Select className="w-auto!" value={together ? TOGETHER : chosen?.id} onChange={(e) => setParams({ of: e.target.value }, { replace: true })}>
        {several && <option value={TOGETHER}>all versions together, item by item</option>}
        {list.map((d) => (
          <option key={d.id} value={d.id}>
            {d.name}: {counted(d.responses, 'response')}
          </option>
        ))}
      </Select>
    </label>
  );
  if (together)
    return (
      <main className="overflow-auto px-4 py-3 sm:px-6">
        {choice}
        <Together sources={ofVersions} fetch={fetchResults} />
      </main>
    );
  if (!chosen || !results.data)
    return (
      <main>
        <Empty title="No results yet">
          <p>Publish the set as a quiz, or push it to a form. As soon as learners hand in, their scores stand here, and each item shows how it worked.</p>
          <Link to={`/sets/${view.id}/deliver?to=own`} className="link">
            Go to Deliver
          </Link>
          <p>
            Or <MarkATable set={view.id}>mark a table of answers</MarkATable> that came from elsewhere.
          </p>
        </Empty>
      </main>
    );
  const { set, underWay, otherwise } = results.data;
  const severalEach = results.data.attempts.some((a) => a.counts !== undefined) && results.data.attempts.some((a) => a.counts === undefined);
  const attempts = severalEach && !every ? counting(results.data.attempts) : results.data.attempts;
  const live = Boolean(chosen.code) && params.get('live') === '1';
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]">
      <main className="overflow-auto px-4 py-3 sm:px-6">
        {choice}
        {chosen.code && <Courses key={chosen.id} delivery={chosen.id} handedIn={attempts.length} mayEdit={mayEdit} />}
        {otherwise > 0 && (
          <p className="mb-2 text-sm text-amber" role="note">
            {otherwise === 1 ? 'One response was' : `${otherwise} responses were`} given other points there than here. What stands here is marked by the items
            as they were sent.
          </p>
        )}
        {chosen.code && (underWay > 0 || live || attempts.length === 0) && (
          <p className="mb-3 text-sm">
            <button
              type="button"
              className="link"
              aria-expanded={live}
              onClick={() => setParams({ of: chosen.id, ...(!live && { live: '1' }) }, { replace: true })}
            >
              {live ? 'Hide the class at work' : 'Show the class at work'}
            </button>
          </p>
        )}
        {live && (
          <div className="mb-6">
            <Live
              key={chosen.id}
              delivery={chosen.id}
              items={set.items}
              mayEdit={mayEdit}
              onChanged={() => void queries.invalidateQueries({ queryKey: ['deliveries', view.id] })}
            />
          </div>
        )}
        {severalEach && (
          <label className="mb-3 flex items-center gap-2 text-sm">
            <input type="checkbox" checked={every} onChange={(e) => setEvery(e.target.checked)} />
            Every attempt, also those that do not count
          </label>
        )}
        {attempts.length ? (
          <Table set={set} attempts={attempts} />
        ) : live ? null : (
          <Empty title="Nobody has handed in yet">
            <p>
              {underWay
                ? `${counted(underWay, 'learner is', 'learners are')} answering.`
                : chosen.code
                  ? 'Show the link or the code to your learners:'
                  : 'Show the link to your learners:'}{' '}
              {chosen.code && <b className="font-mono">{chosen.code}</b>}
            </p>
            <a className="link break-all" href={chosen.link}>
              {chosen.link}
            </a>
          </Empty>
        )}
      </main>
      <Foot>
        <span className="flex-1">
          Items from most missed, learners from highest{underWay > 0 && ` · ${underWay} still answering`}
          {pulled.data && ` · fetched at ${pulled.data.at.toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' })}`}
          {pulled.error && <span className="text-brick"> · not fetched: {wordsOf(pulled.error)}</span>}
        </span>
        <MarkATable set={view.id}>Mark a table of answers</MarkATable>
        {chosen.placement && mayEdit && (
          <Button disabled={pulled.isFetching} onClick={() => void pulled.refetch()}>
            Fetch responses
          </Button>
        )}
        {attempts.length > 0 && mayEdit && <Button onClick={() => setSending(true)}>Send scores</Button>}
        {attempts.length > 0 && <Button onClick={() => copyScores(attempts)}>Copy the score list</Button>}
      </Foot>
      {sending && (
        <SendScores
          source={chosen.id}
          title={set.title}
          maximum={set.items.filter(isGraded).reduce((n, i) => n + (i.bonus ? 0 : i.points), 0)}
          attempts={attempts}
          onClose={() => setSending(false)}
        />
      )}
    </div>
  );
}

const MarkATable = ({ set, children }: { set: string; children: string }) => (
  <Link to={`/sets/${set}/results/table`} className="link">
    {children}
  </Link>
);

/** Names and points, as spreadsheets take them. */
function copyScores(attempts: readonly Attempt[]): void {
  const text = tabbed([['Name', 'Points'], ...attempts.map((a) => [a.name, a.points])]);
  copyText(text, `${attempts.length} scores are in the clipboard. Paste them into a spreadsheet.`);
}

/** The attempts that count, with the points that do. */
const counting = (attempts: readonly Attempt[]): Attempt[] =>
  attempts.flatMap((a) => (a.counts === undefined ? [] : [{ ...a, points: a.counts }])).sort((a, b) => b.points - a.points || a.name.localeCompare(b.name));

/** What practice took, all items together. */
function practiceWords(practice: NonNullable<Attempt['practice']>): string {
  const all = Object.values(practice);
  const sum = (of: (p: (typeof all)[number]) => number): number => all.reduce((n, p) => n + of(p), 0);
  const hints = sum((p) => p.hints);
  return `${counted(
    sum((p) => p.tries),
    'try',
    'tries',
  )}${hints ? `, ${counted(hints, 'hint')}` : ''}, ${sum((p) => (p.first === 'right' ? 1 : 0))} right at once`;
}

function Table({ set, attempts }: { set: QuizSet; attempts: Attempt[] }) {
  const counted = useMemo(() => set.items.filter(isGraded), [set]);
  const f = useMemo(
    () =>
      figures(
        counted,
        attempts.map((a) => counted.map((i) => a.marks[i.id]?.points ?? 0)),
      ),
    [counted, attempts],
  );
  const order = useMemo(() => [...counted].sort((a, b) => figureOf(f, a).difficulty - figureOf(f, b).difficulty), [counted, f]);
  const essays = set.items.filter((i) => i.kind === 'essay');
  const columns = [...order, ...essays];
  const [picked, setPicked] = useState<string>();
  const item = columns.find((i) => i.id === picked) ?? columns[0];
  const maximum = counted.reduce((s, i) => s + (i.bonus ? 0 : i.points), 0);
  const low = attempts.filter((a) => a.points < maximum / 2).length;
  const discuss = f.items.filter((i) => i.difficulty < 0.5 || (i.discrimination !== null && i.discrimination < 0.1)).length;
  const open = essays.length ? attempts.filter((a) => essays.some((e) => a.marks[e.id]?.state === 'by-hand')).length : 0;
  const label = (i: Item): string => i.label ?? String(set.items.indexOf(i) + 1);
  return (
    <>
      <dl className="flex flex-wrap gap-x-7 gap-y-2 pb-4">
        {(
          [
            [String(f.n), `responses${open ? `, ${open} to mark by hand` : ''}`],
            [number(f.mean), `mean of ${number(maximum)}`],
            [number(f.median), 'median'],
            [number(f.sd), 'SD'],
            [f.alpha === null ? '–' : number(f.alpha, 2), 'reliability (α)'],
            [f.standardError === null ? '–' : number(f.standardError), 'standard error'],
            [String(discuss), 'items to discuss'],
            [String(low), 'learners under half'],
          ] as const
        ).map(([value, what]) => (
          <div key={what} className="flex flex-col-reverse">
            <dt className="text-[13px] text-ink-2">{what}</dt>
            <dd className="text-xl/6 font-[650]">{value}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-1 items-start gap-6 xl:grid-cols-[minmax(0,1fr)_370px]">
        <section className="relative overflow-x-auto border border-rule bg-sheet p-2.5" tabIndex={0} aria-label="Learners and items">
          <table className="w-full border-separate border-spacing-0.5 text-[13px]">
            <thead>
              <tr>
                <th className="px-1 text-left font-semibold text-ink-2">Learner</th>
                {columns.map((i) => (
                  <th key={i.id} className="p-0">
                    <button
                      type="button"
                      aria-pressed={i.id === item?.id}
                      aria-label={`Item ${label(i)}: ${nameOf(i, 60)}`}
                      onClick={() => setPicked(i.id)}
                      className={`h-7 w-full min-w-6 cursor-pointer rounded font-semibold hover:bg-beet-soft ${i.id === item?.id ? 'text-beet outline-2 outline-beet' : 'text-ink-2'}`}
                    >
                      {label(i)}
                    </button>
                  </th>
                ))}
                <th className="px-1 text-right font-semibold whitespace-nowrap text-ink-2">of {number(maximum)}</th>
              </tr>
            </thead>
            <tbody>
              {attempts.map((a) => (
                <tr key={a.id}>
                  <th scope="row" className="max-w-72 truncate px-1 text-left font-normal">
                    {a.name}
                    {a.attempt > 1 && <span className="ml-1.5 text-[12.5px] font-normal text-amber">attempt {a.attempt}</span>}
                    {a.late && <span className="ml-1.5 text-[12.5px] text-amber">arrived late, answered in time</span>}
                    {a.byClock && <span className="ml-1.5 text-[12.5px] text-amber">ended by the clock</span>}
                    {a.practice && <span className="ml-1.5 text-[12.5px] text-ink-2">{practiceWords(a.practice)}</span>}
                    {a.sameDeviceAs && (
                      <span className="ml-1.5 text-[12.5px] font-normal text-ink-2" title={`${a.sameDeviceAs} had handed in on this device before`}>
                        device of {a.sameDeviceAs}
                      </span>
                    )}
                  </th>
                  {columns.map((i) => {
                    const state = a.marks[i.id]?.state ?? 'unanswered';
                    return (
                      <td key={i.id} className={`h-[26px] text-center ${LOOKS[state]}`} title={`${a.name}, item ${label(i)}: ${WORDS[state]}`}>
                        <span aria-hidden>{SIGNS[state]}</span>
                        <span className="sr-only">{WORDS[state]}</span>
                      </td>
                    );
                  })}
                  <td className="px-1 text-right font-[650]">{number(a.points)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        {item && <ItemSheet item={item} label={label(item)} attempts={attempts} f={f} />}
      </div>
    </>
  );
}

const figureOf = (f: Figures, item: Item): Figures['items'][number] =>
  f.items.find((x) => x.id === item.id) ?? { id: item.id, difficulty: 0, discrimination: null };

/** What an answer was, in a few words, for counting who answered what. */
function answerWords(item: Item, r: Response | undefined): string[] {
  if (!r) return ['no answer'];
  if ('options' in r && 'options' in item) return r.options.map((id) => letterOf(item.options.findIndex((o) => o.id === id)));
  if ('truth' in r) return [r.truth ? 'true' : 'false'];
  if ('text' in r) return [r.text.trim() || 'no answer'];
  if ('gaps' in r) return [Object.values(r.gaps).join(' / ')];
  return [];
}

function ItemSheet({ item, label, attempts, f }: { item: Item; label: string; attempts: Attempt[]; f: Figures }) {
  const figure = figureOf(f, item);
  const rows = useMemo(() => {
    const counts = new Map<string, number>();
    if (item.kind === 'multiple-choice' || item.kind === 'multiple-response') item.options.forEach((_, i) => counts.set(letterOf(i), 0));
    if (item.kind === 'true-false') for (const t of ['true', 'false']) counts.set(t, 0);
    for (const a of attempts) for (const w of answerWords(item, a.responses[item.id])) counts.set(w, (counts.get(w) ?? 0) + 1);
    const all = [...counts];
    return 'options' in item || item.kind === 'true-false' ? all : all.sort((a, b) => b[1] - a[1]).slice(0, 8);
  }, [item, attempts]);
  const key = new Set(
    item.kind === 'multiple-choice' || item.kind === 'multiple-response'
      ? keyPlaces(item).map(letterOf)
      : item.kind === 'true-false'
        ? [String(item.answer)]
        : [],
  );
  const isKey = (w: string): boolean =>
    key.has(w) || (!key.size && attempts.some((a) => a.marks[item.id]?.state === 'right' && answerWords(item, a.responses[item.id])[0] === w));
  const width = scaleLinear([0, Math.max(1, ...rows.map((r) => r[1]))], [0, 100]);
  return (
    <aside aria-label={`Item ${label}`} className="rounded-lg border border-rule bg-sheet p-4">
      <div className="mb-2 flex gap-1.5 text-[17px]/[1.35] font-bold">
        <span>{label}.</span>
        <Rich text={item.stem} />
      </div>
      {isGraded(item) ? (
        <dl className="mb-3 flex gap-6">
          {(
            [
              [`${Math.round(figure.difficulty * 100)} %`, 'of the points'],
              [figure.discrimination === null ? '–' : number(figure.discrimination, 2), 'discrimination'],
            ] as const
          ).map(([v, w]) => (
            <div key={w} className="flex flex-col-reverse">
              <dt className="text-[13px] text-ink-2">{w}</dt>
              <dd
                className={`text-xl/6 font-[650] ${w === 'discrimination' && figure.discrimination !== null && figure.discrimination < 0.1 ? 'text-amber' : ''}`}
              >
                {v}
              </dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="mb-2 text-ink-2">Marked by a person.</p>
      )}
      <ul className="grid gap-1.5 text-sm">
        {rows.map(([w, n]) => (
          <li key={w} className="grid grid-cols-[minmax(24px,auto)_minmax(0,1fr)_32px] items-center gap-2">
            <span className={`max-w-44 truncate ${isKey(w) ? 'font-bold text-dill' : ''}`} title={w}>
              {w}
              {isKey(w) && <span className="sr-only"> (right)</span>}
            </span>
            <span className="h-4 bg-rule-2">
              <span className={`block h-4 rounded-xs ${isKey(w) ? 'bg-dill' : 'bg-rule'}`} style={{ width: `${width(n)}%` }} />
            </span>
            <span className="text-right text-ink-2">{n}</span>
          </li>
        ))}
      </ul>
      {figure.discrimination !== null && figure.discrimination < 0.1 && (
        <p className="mt-3 text-[13.5px]">Learners with high scores did no better here than others. Read the item and its key again.</p>
      )}
    </aside>
  );
}
