/** Versions of a set: drawn by a blueprint, shown side by side, each delivered on its own. */
import {
  drawDifference,
  type Drawn,
  drawPlan,
  type DrawPlan,
  figuresOf,
  isQuestion,
  nameOf,
  nearGroups,
  type ItemUse,
  poolOfDocument,
  versionName,
  withUse,
} from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { Empty } from '../frame/Frame.js';
import { useOfSet } from '../api/use.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { ArrangeTabs } from './ArrangeTabs.js';
import { ExchangeDialog } from './ExchangeDialog.js';
import { PlanForm } from './PlanForm.js';
import { useDraw } from './useDraw.js';
import { VersionsTable } from './VersionsTable.js';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';

/** What is asked where nothing was yet: two versions of what the set has enough for. */
const usual = (questions: number): DrawPlan =>
  drawPlan.parse({
    versions: [0, 1].map((i) => ({ name: versionName(i), count: Math.max(1, Math.min(10, Math.floor(questions / 2))) })),
    seed: Math.floor(Math.random() * 100_000),
  });
const NO_USE: Readonly<Record<string, ItemUse>> = {};
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

export default function VersionsStage() {
  const { document: doc, session, mayEdit, view } = useOpenSet();
  // what answers say goes into the draw; without it the given levels count
  const used = useQuery(useOfSet(view.id));
  const use = used.data ?? NO_USE;
  const pool = useMemo(() => withUse(poolOfDocument(doc), use), [doc, use]);
  const groups = useMemo(() => nearGroups(pool.map((p) => p.item)), [pool]);
  const questions = pool.filter((p) => isQuestion(p.item)).length;
  const [first] = useState(() => usual(questions));
  const [edited, setPlan] = useState<DrawPlan>();
  const plan = edited ?? doc.drawn?.plan ?? first;
  /** Drawn anew, to take or leave. */
  const [anew, setAnew] = useState<Drawn>();
  const [exchange, setExchange] = useState<{ at: number; id: string }>();
  const keep = (drawn: Drawn, said: string): void => {
    if (!session.perform({ type: 'draw', drawn })) return;
    setAnew(undefined);
    setPlan(undefined);
    toast(said, { action: { label: say('Undo'), onClick: () => session.undo() } });
  };
  const { drawing, start, stop } = useDraw((drawn, stopped) => {
    const said = say('{versions, plural, one {# version} other {# versions}} drawn{what}.', {
      versions: drawn.versions.length,
      what: stopped ? say(', as they were when you stopped') : '',
    });
    if (!doc.drawn) keep(drawn, said);
    else if (same(doc.drawn.versions, drawn.versions) && same(doc.drawn.plan, drawn.plan)) toast(say('Drawn again, the versions are the same.'));
    else setAnew(drawn);
  });
  const shown = (drawing.state === 'better' ? drawing.so : undefined) ?? anew ?? doc.drawn;
  const figures = useMemo(() => shown && figuresOf(pool, shown), [pool, shown]);
  const going = drawing.state === 'first' || drawing.state === 'better';
  const go = (): void => {
    setAnew(undefined);
    start({ ...doc.set, items: pool.map((p) => p.item) }, use, plan);
  };
  useCommands(mayEdit && pool.length ? [{ name: doc.drawn ? say('Draw the versions again') : say('Draw versions'), run: go }] : []);
  if (!questions)
    return (
      <main className="grid grid-rows-[auto_minmax(0,1fr)]">
        <ArrangeTabs />
        <Empty title={say('Nothing to draw from yet')}>
          <p>{say('Versions are drawn from the items of the set. Take items from the draft first.')}</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            {say('Go to Draft')}
          </Link>
        </Empty>
      </main>
    );
  const pinned = new Set(plan.pinned);
  const stale = shown === doc.drawn && doc.drawn && edited && !same(edited, doc.drawn.plan);
  const gone = figures?.versions.filter((v) => v.gone.length) ?? [];
  const name = (id: string): string => {
    const item = pool.find((p) => p.item.id === id)?.item;
    return item ? `“${nameOf(item, 40)}”` : say('an item that is gone');
  };
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)]">
      <ArrangeTabs />
      <main className="grid grid-cols-1 items-start gap-5 overflow-auto p-4 sm:px-6 lg:grid-cols-[400px_minmax(0,1fr)]">
        <section aria-label={say('What to draw')} className="rounded-lg border border-rule bg-sheet p-4">
          <h2 className="mb-2 text-[17px] font-bold">
            {say('What to draw')}{' '}
            <small className="font-normal text-ink-2">{say('from {questions, plural, one {# item} other {# items}}', { questions })}</small>
          </h2>
          <PlanForm pool={pool} groups={groups} plan={plan} mayEdit={mayEdit} onPlan={setPlan} />
          {plan.apart.length > 0 && (
            <ul className="mt-3 grid gap-1 text-[13.5px]">
              {plan.apart.map((ids, i) => (
                <li key={ids.join()}>
                  {say('Never in one version: {ids}', { ids: ids.map(name).join(', ') })}{' '}
                  {mayEdit && (
                    <button type="button" className="link" onClick={() => setPlan({ ...plan, apart: plan.apart.filter((_, k) => k !== i) })}>
                      {say('Take back')}
                    </button>
                  )}
                </li>
              ))}
            </ul>
          )}
          {pinned.size > 0 && (
            <p className="mt-3 text-[13.5px] text-ink-2">{say('{pinned, plural, one {# item} other {# items}} in every version.', { pinned: pinned.size })}</p>
          )}
          {mayEdit && (
            <div className="mt-4 flex flex-wrap gap-2">
              <Button look="primary" disabled={going} onClick={go}>
                {doc.drawn ? say('Draw again') : say('Draw versions')}
              </Button>
              {doc.drawn && !going && (
                <Button look="quiet" onClick={() => session.perform({ type: 'draw', drawn: null }) && setAnew(undefined)}>
                  {say('Take the versions away')}
                </Button>
              )}
            </div>
          )}
        </section>
        <section aria-label={say('What was drawn')} className="min-w-0">
          {going && (
            <p role="status" className="mb-3 flex flex-wrap items-center gap-3 text-sm">
              {drawing.state === 'first'
                ? say('Drawing …')
                : say('A first draw is there; looking for a fairer one{what} …', {
                    what: drawing.gap === null ? '' : say(', at most {max} % better', { max: Math.max(1, Math.round(drawing.gap * 100)) }),
                  })}
              <Button onClick={stop}>{drawing.state === 'better' ? say('Stop and take this') : say('Stop')}</Button>
            </p>
          )}
          {drawing.state === 'failed' && (
            <p role="alert" className="mb-3 font-[650] text-brick">
              {say('The versions could not be drawn: {why}', { why: drawing.why })}{' '}
              <button type="button" className="link" onClick={go}>
                {say('Try again')}
              </button>
            </p>
          )}
          {anew && doc.drawn && !going && (
            <div className="note mb-3 text-sm">
              <p>{say('Drawn anew. The versions that you have stay until you take these:')}</p>
              <ul className="my-1">
                {drawDifference(doc.drawn, anew).map((d) => (
                  <li key={d.name}>
                    {d.name}: {d.in.length ? say('{in} come in, {out} go out', { in: d.in.length, out: d.out.length }) : say('the same items')}
                  </li>
                ))}
              </ul>
              <span className="flex gap-2">
                <Button look="primary" onClick={() => keep(anew, say('The new versions are taken.'))}>
                  {say('Take the new ones')}
                </Button>
                <Button onClick={() => setAnew(undefined)}>{say('Keep the old ones')}</Button>
              </span>
            </div>
          )}
          {stale && (
            <p className="mb-3 text-[13.5px] text-amber">{say('What to draw has changed since. These versions stay as they are until you draw again.')}</p>
          )}
          {gone.map((v) => (
            <p key={v.name} className="mb-2 text-[13.5px] text-brick">
              {say(
                'Version {name} held {gone, plural, one {# item} other {# items}} that {gone, plural, one {is} other {are}} no longer in the set. It goes out without {gone, plural, one {it} other {them}}; draw again to fill it.',
                { name: v.name, gone: v.gone.length },
              )}
            </p>
          ))}
          {shown && figures ? (
            <>
              {figures.unmet.length > 0 && (
                <ul className="mb-3 grid gap-0.5 text-[13.5px] text-brick">
                  {figures.unmet.map((u) => (
                    <li key={u.message}>{retold(u.message)}</li>
                  ))}
                </ul>
              )}
              <VersionsTable
                pool={pool}
                drawn={shown}
                figures={figures}
                deliver={(version) => `/sets/${view.id}/deliver?version=${encodeURIComponent(version)}`}
                pinned={pinned}
                onPin={mayEdit ? (id) => setPlan({ ...plan, pinned: pinned.has(id) ? plan.pinned.filter((x) => x !== id) : [...plan.pinned, id] }) : undefined}
                onApart={mayEdit ? (ids) => setPlan({ ...plan, apart: [...plan.apart, ids] }) : undefined}
                onExchange={mayEdit && shown === doc.drawn ? (at, id) => setExchange({ at, id }) : undefined}
              />
              {shown.gap !== undefined && (
                <p className="mt-3 text-[13px] text-ink-2">
                  {shown.gap === 0
                    ? say('No other draw would be noticeably fairer.')
                    : say('At most {n} % away from the fairest draw there is.', { n: Math.ceil(shown.gap * 1000) / 10 })}
                </p>
              )}
            </>
          ) : (
            !going && (
              <Empty title={say('No versions yet')}>
                <p>{say('Say what to draw; then every version stands here with its items, its points and its keys.')}</p>
              </Empty>
            )
          )}
        </section>
      </main>
      {exchange && doc.drawn && (
        <ExchangeDialog
          pool={pool}
          drawn={doc.drawn}
          {...exchange}
          onClose={() => setExchange(undefined)}
          onExchanged={(drawn) => {
            setExchange(undefined);
            keep(drawn, say('Exchanged.'));
          }}
        />
      )}
    </div>
  );
}
