/** Marking: answers put together or one by one, what counts, what is left out, and who decided it. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type Decision, handsOf, isGraded, isQuestion, type Item, ledgerOf, nameOf, mayAs } from '@zakuska/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { wordsOf } from '../../api/client.js';
import { Busy, Empty } from '../../frame/Frame.js';
import { ItemView } from '../../item/ItemView.js';
import { useOpenSet } from '../../set/context.js';
import { useSession } from '../../signin/session.js';
import { Button } from '../../ui/Button.js';
import { Select } from '../../ui/Field.js';
import { type Attempt, type Found, holding, resultsQuery, type Source, useSources } from '../sources.js';
import { type Answer, ByHand } from './ByHand.js';
import { History } from './History.js';
import { Ledger, Staged } from './Ledger.js';
import { Markers } from './Markers.js';
import { useMarking } from './useMarking.js';
import { say } from '../../words/say.js';

export default function MarkingStage() {
  const { view } = useOpenSet();
  const [params] = useSearchParams();
  const sources = useSources();
  const source = sources.list?.find((s) => s.id === params.get('of')) ?? sources.list?.find((s) => s.responses > 0);
  const results = useQuery({ ...resultsQuery(source), enabled: Boolean(source) });
  const failed = sources.error ?? results.error;
  if (failed && !results.data)
    return (
      <main>
        <Empty title={say('The answers could not be fetched')}>
          <p>{wordsOf(failed)}</p>
          <Button onClick={() => (sources.error ? sources.again() : void results.refetch())}>{say('Try again')}</Button>
        </Empty>
      </main>
    );
  if (!sources.list || (source && results.isPending)) return <Busy what={say('Fetching the answers')} />;
  if (!source || !results.data?.attempts.length)
    return (
      <main>
        <Empty title={say('No answers to mark yet')}>
          <p>{say('As soon as somebody has handed in, their answers stand here.')}</p>
          <Link to={`/sets/${view.id}/results`} className="link">
            {say('Back to Results')}
          </Link>
        </Empty>
      </main>
    );
  return <Loaded key={source.id} source={source} found={results.data} />;
}

/** Whether answers to an item are put together, or marked one by one. */
type Way = 'together' | 'one';

function Loaded({ source, found }: { source: Source; found: Found }) {
  const { view } = useOpenSet();
  const mayMark = mayAs(view.role, 'marker');
  const queries = useQueryClient();
  const [params, setParams] = useSearchParams();
  const [history, setHistory] = useState(false);
  const [hidden, setHidden] = useState(false);
  const [byPerson, setByPerson] = useState(false);
  const [alone, setAlone] = useState(false);
  const me = useSession().name;
  const marking = useMarking(source, found, () => void queries.invalidateQueries({ queryKey: ['deliveries', view.id] }));
  const items = useMemo(() => found.sent.items.filter(isQuestion), [found.sent]);
  const held = useMemo(() => holding(found.decisions), [found.decisions]);
  // a second marker gives points without knowing those of the first
  const hands = useMemo(() => handsOf(alone ? holding(found.decisions.filter((k) => k.by === me)) : held), [alone, found.decisions, held, me]);
  const labelOf = (id: string): string => {
    const n = found.sent.items.findIndex((i) => i.id === id);
    return found.sent.items[n]?.label ?? String(n + 1);
  };
  const waiting = (i: Item): number => found.attempts.filter((a) => a.marks[i.id]?.state === 'by-hand').length;
  // the first that waited when the page opened stays, also once it is marked
  const [first] = useState(() => items.find((i) => waiting(i) > 0) ?? items[0]);
  const picked = items.find((i) => i.id === params.get('item')) ?? first;
  /** Whose answer was asked for. */
  const who = params.get('who') ?? undefined;
  const list = useRef<HTMLElement>(null);
  const pickedId = picked?.id;
  useEffect(() => {
    if (pickedId) list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [pickedId]);
  if (!picked) return null;
  // the key as it would be; an item that is left out is shown as it was sent
  const item = marking.then.set.items.find((i) => i.id === picked.id) ?? picked;
  const together = ledgerOf(marking.now, item, []).length > 0;
  const way: Way = together && params.get('by') !== 'one' ? 'together' : 'one';
  const put = (change: Record<string, string>): void => {
    setParams({ of: source.id, item: picked.id, ...(way === 'one' && together && { by: 'one' }), ...change }, { replace: true });
  };
  const whole = (type: 'leave-out' | 'full-points') => ({
    staged: marking.staged.some((d) => d.type === type && d.item === picked.id),
    kept: found.decisions.filter((k) => !k.takenBack && k.decision.type === type && k.decision.item === picked.id).map((k) => k.id),
  });
  const called = (a: Attempt): string => (hidden ? say('Answer {n}', { n: order.indexOf(a) + 1 }) : a.name);
  // the order of scores would tell who is who
  const order = [...found.attempts].sort((a, b) => (hidden ? a.id.localeCompare(b.id) : a.name.localeCompare(b.name)));
  const queue = queueOf(order, byPerson ? items.filter((i) => !isGraded(i)) : [item], byPerson);
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]">
      <main className="grid min-h-0 grid-cols-1 content-start overflow-auto md:grid-cols-[240px_minmax(0,1fr)] md:content-stretch">
        <nav ref={list} aria-label={say('Items')} className="border-b border-rule px-3 py-3 md:overflow-auto md:border-r md:border-b-0">
          <Link to={`/sets/${view.id}/results?of=${source.id}`} className="link text-sm">
            {say('Back to Results')}
          </Link>
          <ul className="mt-2 flex gap-1 overflow-x-auto md:grid md:overflow-visible">
            {items.map((i) => (
              <li key={i.id} className="min-w-40 md:min-w-0">
                <button
                  type="button"
                  aria-current={i.id === picked.id}
                  onClick={() => setParams({ of: source.id, item: i.id }, { replace: true })}
                  className={`grid w-full cursor-pointer grid-cols-[26px_minmax(0,1fr)] rounded px-1.5 py-1 text-left text-sm hover:bg-beet-soft ${i.id === picked.id ? 'bg-beet-soft' : ''}`}
                >
                  <b>{labelOf(i.id)}</b>
                  <span className="truncate">{nameOf(i, 60)}</span>
                  <Note text={noteOf(i, waiting(i), marking.now.leftOut.has(i.id), marking.now.full.has(i.id), marking.staged)} />
                </button>
              </li>
            ))}
          </ul>
        </nav>
        <div className="min-w-0 px-4 py-3 sm:px-6 md:overflow-auto">
          {history ? (
            <>
              <Markers
                decisions={found.decisions}
                attempts={found.attempts}
                hidden={hidden}
                labelOf={labelOf}
                source={source.id}
                onGo={() => setHistory(false)}
              />
              <h2 className="mb-3 text-lg font-bold">{say('What was decided')}</h2>
              <History
                decisions={found.decisions}
                set={found.sent}
                attempts={found.attempts}
                hidden={hidden}
                mayMark={mayMark}
                labelOf={labelOf}
                onBack={(id) => marking.back([id])}
              />
            </>
          ) : (
            <>
              <div className="mb-3 rounded-lg border border-rule bg-sheet px-4 py-3">
                <h2 className="text-[13px] text-ink-2">{say('Item {label}', { label: labelOf(item.id) })}</h2>
                <ItemView item={item} />
                <div className="mt-2 flex flex-wrap gap-2 border-t border-rule-2 pt-2">
                  <Whole
                    state={whole('leave-out')}
                    what={say('Leave this item out')}
                    on={say('Left out for everybody')}
                    disabled={!mayMark}
                    stage={() => marking.stage({ type: 'leave-out', item: picked.id })}
                    back={marking.back}
                  />
                  <Whole
                    state={whole('full-points')}
                    what={say('Give everybody the points')}
                    on={say('Everybody has the points')}
                    disabled={!mayMark}
                    stage={() => marking.stage({ type: 'full-points', item: picked.id })}
                    back={marking.back}
                  />
                </div>
              </div>
              <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm">
                {together && (
                  <label className="flex items-center gap-2">
                    {say('Answers')}
                    <Select className="w-auto!" value={way} onChange={(e) => put({ by: e.target.value })}>
                      <option value="together">{say('put together')}</option>
                      <option value="one">{say('one by one')}</option>
                    </Select>
                  </label>
                )}
                {way === 'one' && (
                  <>
                    <label className="flex items-center gap-2">
                      <input type="checkbox" checked={hidden} onChange={(e) => setHidden(e.target.checked)} />
                      {say('Hide names')}
                    </label>
                    <label className="flex items-center gap-2">
                      <input type="checkbox" checked={alone} onChange={(e) => setAlone(e.target.checked)} />
                      {say('Mark on my own, without the marks of others')}
                    </label>
                    {!together && items.filter((i) => !isGraded(i)).length > 1 && (
                      <label className="flex items-center gap-2">
                        <input type="checkbox" checked={byPerson} onChange={(e) => setByPerson(e.target.checked)} />
                        {say('All answers of one person, then the next')}
                      </label>
                    )}
                  </>
                )}
              </div>
              {way === 'together' ? (
                <Ledger key={item.id} item={item} attempts={found.attempts} marking={marking} mayMark={mayMark} />
              ) : queue.length ? (
                <ByHand
                  key={`${byPerson ? '' : item.id} ${hidden} ${alone} ${who ?? ''}`}
                  alone={alone}
                  source={source}
                  found={alone ? { ...found, decisions: found.decisions.filter((k) => k.by === me) } : found}
                  queue={queue}
                  hands={hands}
                  called={called}
                  mayMark={mayMark}
                  first={who}
                  onPlace={(a) => {
                    if (a.item.id !== picked.id) setParams({ of: source.id, item: a.item.id, ...(who && { who }) }, { replace: true });
                  }}
                />
              ) : (
                <p className="py-4 text-ink-2">{say('Nobody answered this.')}</p>
              )}
            </>
          )}
        </div>
      </main>
      <div>
        <Staged marking={marking} attempts={found.attempts} />
        <footer className="flex min-h-10 flex-wrap items-center gap-x-4 border-t border-rule bg-sheet px-4 py-1 text-[13px] text-ink-2 sm:px-6">
          <span className="hidden flex-1 sm:inline">
            {say('The set stays as it is. What is decided here holds for these answers, and for those that come in later.')}
          </span>
          <Button look="quiet" aria-pressed={history} onClick={() => setHistory(!history)}>
            {history ? say('Back to the answers') : say('What was decided ({decisions})', { decisions: found.decisions.length })}
          </Button>
        </footer>
      </div>
    </div>
  );
}

/** The answers to go through: each of one item, or all of one person and then of the next. */
function queueOf(attempts: readonly Attempt[], items: readonly Item[], byPerson: boolean): Answer[] {
  const answered = ({ attempt, item }: Answer): boolean => attempt.marks[item.id]?.state !== 'unanswered';
  const all = byPerson
    ? attempts.flatMap((attempt) => items.map((item) => ({ attempt, item })))
    : items.flatMap((item) => attempts.map((attempt) => ({ attempt, item })));
  return all.filter(answered);
}

function noteOf(i: Item, waiting: number, out: boolean, full: boolean, staged: readonly Decision[]): string {
  const about = staged.filter((d) => d.item === i.id).length;
  return [
    out && say('left out'),
    full && say('points for everybody'),
    waiting > 0 && say('{waiting} to mark', { waiting }),
    about > 0 && say('{about} about to be decided', { about }),
  ]
    .filter(Boolean)
    .join(', ');
}
const Note = ({ text }: { text: string }) => (text ? <span className="col-start-2 text-[12.5px] text-amber">{text}</span> : null);

interface WholeProps {
  state: { staged: boolean; kept: string[] };
  what: string;
  on: string;
  disabled: boolean;
  stage: () => void;
  back: (ids: string[]) => void;
}
/** What holds for an item as a whole: to be decided, or to be taken back. */
function Whole({ state, what, on, disabled, stage, back }: WholeProps) {
  if (state.kept.length)
    return (
      <span className="flex items-center gap-2 text-sm">
        <b>{on}</b>
        {!disabled && (
          <Button look="quiet" onClick={() => back(state.kept)}>
            {say('Take back')}
          </Button>
        )}
      </span>
    );
  return (
    <Button disabled={disabled || state.staged} onClick={stage}>
      {what}
    </Button>
  );
}
