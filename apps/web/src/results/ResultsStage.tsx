/** Results: what came in from where, and what it says. */
import { finalItems, maximumOf, type QuizSet, type Rounding, roundTotal, settledPoints } from '@zakuska/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Busy, Empty, Foot } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { tabbed } from '../ui/tabbed.js';
import { Courses } from './Courses.js';
import { HandOver } from './HandOver.js';
import { KeepUntil } from './KeepUntil.js';
import { Live } from './Live.js';
import { OutsideRulesLine } from './OutsideRules.js';
import { SendScores } from './SendScores.js';
import { Shown } from './Shown.js';
import { answersChanged, type Attempt, resultsQuery, useSources } from './sources.js';
import { Together } from './Together.js';
import { locale, Say, say } from '../words/say.js';

/** Milliseconds between looks for new responses at a service while the page is open. */
const LOOK_AGAIN = 3 * 60_000;
/** What stands in the address for all versions together. */
const TOGETHER = 'versions';

export default function ResultsStage() {
  const { view, mayEdit, document: doc } = useOpenSet();
  const queries = useQueryClient();
  const [params, setParams] = useSearchParams();
  const [sending, setSending] = useState(false);
  const [handing, setHanding] = useState(false);
  const [every, setEvery] = useState(false);
  const sources = useSources();
  const list = sources.list ?? [];
  const ofVersions = useMemo(() => (sources.list ?? []).filter((s) => s.version && s.responses > 0), [sources.list]);
  const several = new Set(ofVersions.map((s) => s.version)).size > 1;
  const together = several && params.get('of') === TOGETHER;
  const chosen = list.find((d) => d.id === params.get('of')) ?? list.find((d) => d.responses > 0) ?? list[0];
  const results = useQuery({ ...resultsQuery(chosen), enabled: Boolean(chosen) && !together });
  const pulled = useQuery({
    queryKey: ['pull', chosen?.id],
    enabled: Boolean(chosen?.pulls) && mayEdit && !together,
    queryFn: async () => {
      const r = await call(api.POST('/api/v1/placements/{placement}/pull', { params: { path: { placement: chosen?.id ?? '' } } }));
      if (r.added) {
        void queries.invalidateQueries({ queryKey: ['results'] });
        void answersChanged(queries, view.id);
      }
      return { at: new Date(), ...r };
    },
    refetchInterval: LOOK_AGAIN,
    retry: false,
  });
  const found = results.data;
  const severalEach = Boolean(found?.attempts.some((a) => a.counts !== undefined) && found.attempts.some((a) => a.counts === undefined));
  const rounding = doc.aim?.rounding;
  const attempts = useMemo(
    () => (found ? settled(found.set, severalEach && !every ? counting(found.attempts) : found.attempts, rounding) : []),
    [found, severalEach, every, rounding],
  );
  const failed = sources.error ?? results.error;
  if (failed && !results.data)
    return (
      <main>
        <Empty title={say('The results could not be fetched')}>
          <p>{wordsOf(failed)}</p>
          <Button onClick={() => (sources.error ? sources.again() : void results.refetch())}>{say('Try again')}</Button>
        </Empty>
      </main>
    );
  if (!sources.list || (chosen && !together && results.isPending)) return <Busy what={say('Fetching the results')} />;
  const choice = list.length > 1 && (
    <label className="mb-3 flex items-center gap-2 text-sm">
      {say('Results of')}
      <Select className="w-auto!" value={together ? TOGETHER : chosen?.id} onChange={(e) => setParams({ of: e.target.value }, { replace: true })}>
        {several && <option value={TOGETHER}>{say('all versions together, item by item')}</option>}
        {list.map((d) => (
          <option key={d.id} value={d.id}>
            {d.name}: {say('{responses, plural, one {# response} other {# responses}}', { responses: d.responses })}
          </option>
        ))}
      </Select>
    </label>
  );
  if (together)
    return (
      <main className="overflow-auto px-4 py-3 sm:px-6">
        {choice}
        <Together sources={ofVersions} query={resultsQuery} />
      </main>
    );
  if (!chosen || !results.data)
    return (
      <main>
        <Empty title={say('No results yet')}>
          <p>
            {say('Publish the set as a quiz, or push it to a form. As soon as learners hand in, their scores stand here, and each item shows how it worked.')}
          </p>
          <Link to={`/sets/${view.id}/deliver?to=own`} className="link">
            {say('Go to Deliver')}
          </Link>
          <p>
            <Say
              text="Or {elsewhere} that came from elsewhere, or {elsewhere2} that were filled in on paper."
              values={{
                elsewhere: <Elsewhere to="table">{say('mark a table of answers')}</Elsewhere>,
                elsewhere2: <Elsewhere to="sheets">{say('read answer sheets')}</Elsewhere>,
              }}
            />
          </p>
        </Empty>
      </main>
    );
  const { set, sent, underWay, otherwise } = results.data;
  const live = Boolean(chosen.code) && params.get('live') === '1';
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]">
      <main className="overflow-auto px-4 py-3 sm:px-6">
        {choice}
        {chosen.code && <Courses key={chosen.id} delivery={chosen.id} handedIn={attempts.length} mayEdit={mayEdit} />}
        {chosen.placement && attempts.length > 0 && <OutsideRulesLine key={chosen.id} source={chosen} set={view.id} mayEdit={mayEdit} />}
        {otherwise > 0 && (
          <p className="mb-2 text-sm text-amber" role="note">
            {say(
              '{otherwise, plural, one {One response was} other {# responses were}} given other points there than here. What stands here is marked by the items as they were sent.',
              { otherwise },
            )}
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
              {live ? say('Hide the class at work') : say('Show the class at work')}
            </button>
          </p>
        )}
        {live && (
          <div className="mb-6">
            <Live
              key={chosen.id}
              delivery={chosen.id}
              items={sent.items}
              mayEdit={mayEdit}
              onChanged={() => void queries.invalidateQueries({ queryKey: ['deliveries', view.id] })}
            />
          </div>
        )}
        {severalEach && (
          <label className="mb-3 flex items-center gap-2 text-sm">
            <input type="checkbox" checked={every} onChange={(e) => setEvery(e.target.checked)} />
            {say('Every attempt, also those that do not count')}
          </label>
        )}
        {attempts.length ? (
          <Shown set={set} sent={sent} attempts={attempts} source={chosen.id} />
        ) : live ? null : (
          <Empty title={say('Nobody has handed in yet')}>
            <p>
              {underWay
                ? say('{underWay, plural, one {# learner is} other {# learners are}} answering.', { underWay })
                : chosen.code
                  ? say('Show the link or the code to your learners:')
                  : say('Show the link to your learners:')}{' '}
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
          {say('{attempts, plural, one {# response} other {# responses}}', { attempts: attempts.length })}
          {underWay > 0 && say(' · {underWay} still answering', { underWay })}
          {pulled.data &&
            say(' · fetched at {toLocaleTimeString}', {
              toLocaleTimeString: pulled.data.at.toLocaleTimeString(locale(), { hour: '2-digit', minute: '2-digit' }),
            })}
          {pulled.error && <span className="text-brick"> {say('· not fetched: {words}', { words: wordsOf(pulled.error) })}</span>}
        </span>
        <Elsewhere to="table">{say('Mark a table of answers')}</Elsewhere>
        <Elsewhere to="sheets">{say('Read answer sheets')}</Elsewhere>
        {attempts.length > 0 && (
          <Link to={`/sets/${view.id}/results/marking?of=${chosen.id}`} className="link">
            {say('Marking')}
          </Link>
        )}
        {attempts.length > 0 && <KeepUntil key={chosen.id} source={chosen} mayEdit={mayEdit} />}
        {chosen.table && mayEdit && <RemoveTable id={chosen.id} name={chosen.name} people={attempts.length} />}
        {chosen.pulls && mayEdit && (
          <Button disabled={pulled.isFetching} onClick={() => void pulled.refetch()}>
            {say('Fetch responses')}
          </Button>
        )}
        {attempts.length > 0 && mayEdit && <Button onClick={() => setSending(true)}>{say('Send scores')}</Button>}
        {attempts.length > 0 && <Button onClick={() => setHanding(true)}>{say('Hand over …')}</Button>}
        {attempts.length > 0 && <Button onClick={() => copyScores(attempts)}>{say('Copy the score list')}</Button>}
      </Foot>
      {handing && <HandOver source={chosen.id} results={{ set, sittings: attempts, grades: doc.aim?.grades, rounding }} onClose={() => setHanding(false)} />}
      {sending && (
        <SendScores
          source={chosen.id}
          title={set.title}
          maximum={maximumOf(finalItems(set.items, attempts))}
          attempts={attempts}
          onClose={() => setSending(false)}
        />
      )}
    </div>
  );
}

/** Takes a table that was kept away, with all its answers; asked before, since it cannot be undone. */
function RemoveTable({ id, name, people }: { id: string; name: string; people: number }) {
  const { view } = useOpenSet();
  const queries = useQueryClient();
  const [, setParams] = useSearchParams();
  const [asking, setAsking] = useState(false);
  const removing = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/placements/{placement}', { params: { path: { placement: id } } })),
    onSuccess: async () => {
      setAsking(false);
      setParams({}, { replace: true });
      await answersChanged(queries, view.id);
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <>
      <Button onClick={() => setAsking(true)}>{say('Remove this table …')}</Button>
      <Modal
        open={asking}
        onClose={() => setAsking(false)}
        title={say('Remove the table')}
        description={say(
          '{name}: the answers of {people, plural, one {# person} other {# people}}, their points and what was decided go for good. The set stays as it is.',
          { name, people },
        )}
      >
        <Button look="danger" disabled={removing.isPending} onClick={() => removing.mutate()}>
          {say('Remove it')}
        </Button>
      </Modal>
    </>
  );
}

/** The way to answers that came from elsewhere. */
const Elsewhere = ({ to, children }: { to: 'table' | 'sheets'; children: string }) => (
  <Link to={`/sets/${useOpenSet().view.id}/results/${to}`} className="link inline-block">
    {children}
  </Link>
);

/** Names and points, as spreadsheets take them. */
function copyScores(attempts: readonly Attempt[]): void {
  const text = tabbed([[say('Name'), say('Points')], ...attempts.map((a) => [a.name, a.points])]);
  copyText(text, say('{attempts} scores are in the clipboard. Paste them into a spreadsheet.', { attempts: attempts.length }));
}

/** The attempts with the points on what counts for everybody, from most to least. */
function settled(set: QuizSet, attempts: readonly Attempt[], rounding: Rounding | undefined): Attempt[] {
  const points = settledPoints(set, attempts);
  return attempts
    .map((a, n) => ({ ...a, exact: points[n] ?? a.points, points: roundTotal(points[n] ?? a.points, rounding) }))
    .sort((a, b) => b.points - a.points || a.name.localeCompare(b.name));
}

/** The attempts that count, with the points that do. */
const counting = (attempts: readonly Attempt[]): Attempt[] =>
  attempts.flatMap((a) => (a.counts === undefined ? [] : [{ ...a, points: a.counts }])).sort((a, b) => b.points - a.points || a.name.localeCompare(b.name));
