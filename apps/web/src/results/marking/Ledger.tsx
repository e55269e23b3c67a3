/** All answers to an item put together, with what each earns: a key press decides for everybody who gave it. */
import { type Item, ledgerOf, type LedgerPart, type LedgerRow, ruleOffers } from '@zakuska/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type Command, useCommands } from '../../ui/commands.js';
import { Button } from '../../ui/Button.js';
import { Rich } from '../../ui/Rich.js';
import { written } from '../../ui/figures.js';
import type { Attempt } from '../sources.js';
import { Credits, stepsOf } from './Credits.js';
import type { Marking } from './useMarking.js';
import { pointsText } from './words.js';
import { retold } from '../../words/retold.js';
import { say } from '../../words/say.js';

/** So many rows are shown at first. */
const SHOWN = 200;
const people = (n: number): string => say('{n, plural, one {# person} other {# people}}', { n });

interface Props {
  item: Item;
  attempts: readonly Attempt[];
  marking: Marking;
  mayMark: boolean;
}
export function Ledger({ item, attempts, marking, mayMark }: Props) {
  const given = useMemo(() => attempts.map((a) => a.responses[item.id]), [attempts, item.id]);
  // rows stand in the order of the marks that are kept, so that none moves while points are given
  const before = useMemo(() => {
    const kept = marking.now.set.items.find((i) => i.id === item.id) ?? item;
    return ledgerOf(marking.now, kept, given).map((p) => new Map(p.rows.map((r, n) => [r.key, { n, share: r.share }])));
  }, [marking.now, item, given]);
  const parts = useMemo(
    () =>
      ledgerOf(marking.then, item, given).map((part, p) => ({
        ...part,
        rows: part.rows.toSorted((a, b) => (before[p]?.get(a.key)?.n ?? 0) - (before[p]?.get(b.key)?.n ?? 0)),
      })),
    [marking.then, item, given, before],
  );
  const rows = useMemo(() => parts.flatMap((part, p) => part.rows.map((row) => ({ part, row, id: `${p} ${row.key}` }))), [parts]);
  const [at, setAt] = useState('');
  const [all, setAll] = useState(false);
  const place = Math.max(
    0,
    rows.findIndex((r) => r.id === at),
  );
  const current = rows[place];
  const table = useRef<HTMLDivElement>(null);
  useEffect(() => {
    table.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const go = (by: number): void => setAt(rows[Math.min(rows.length - 1, Math.max(0, place + by))]?.id ?? '');
  const give = (share: number): void => {
    if (!current || !mayMark) return;
    setAt(rows[Math.min(rows.length - 1, place + 1)]?.id ?? '');
    marking.stage(current.row.give(share));
  };
  const commands: Command[] = [
    { name: say('Next answer'), keys: ['J', 'ArrowDown'], run: () => go(1) },
    { name: say('Answer before'), keys: ['K', 'ArrowUp'], run: () => go(-1) },
    {
      name: say('Give points to all with this answer'),
      keys: [...'0123456789'],
      shown: say('0 to 9'),
      keysOnly: true,
      run: (key) => {
        const step = current && stepsOf(current.part.points, current.part.whole).find((s) => s.key === key);
        if (step) give(step.share);
      },
    },
  ];
  useCommands(commands);
  if (!rows.length)
    return (
      <p className="py-4 text-ink-2">{parts.length ? say('Nobody answered this.') : say('Answers of this kind are not put together. Mark them one by one.')}</p>
    );
  const many = rows.length > SHOWN && !all;
  return (
    <>
      <div ref={table} className="grid gap-5">
        {parts.map((part, p) => (
          <Part
            key={part.gap?.id ?? ''}
            title={part.gap ? say('Gap {n}, {pointsText}', { n: p + 1, pointsText: pointsText(part.points) }) : ''}
            part={part}
            rows={many ? part.rows.slice(0, SHOWN) : part.rows}
            before={before[p]}
            current={current?.part === part ? current.row.key : undefined}
            total={attempts.length}
            mayMark={mayMark}
            onPick={(row) => setAt(`${p} ${row.key}`)}
            onGive={(row, share) => {
              setAt(`${p} ${row.key}`);
              marking.stage(row.give(share));
            }}
          />
        ))}
      </div>
      {many && (
        <Button look="quiet" onClick={() => setAll(true)}>
          {say('Show all {rows} answers', { rows: rows.length })}
        </Button>
      )}
      {current?.part.typed && current.row.share < 1 && mayMark && <Rules item={item} part={current.part} row={current.row} marking={marking} />}
    </>
  );
}

interface PartProps {
  title: string;
  part: LedgerPart;
  rows: readonly LedgerRow[];
  /** What each row earned before anything was decided here. */
  before: ReadonlyMap<string, { share: number }> | undefined;
  current: string | undefined;
  total: number;
  mayMark: boolean;
  onPick: (row: LedgerRow) => void;
  onGive: (row: LedgerRow, share: number) => void;
}
function Part({ title, part, rows, before, current, total, mayMark, onPick, onGive }: PartProps) {
  const silent = total - part.rows.reduce((n, r) => n + r.who.length, 0);
  return (
    <section aria-label={title || say('Answers')} className="max-w-3xl">
      {title && <h3 className="pb-1 font-bold">{title}</h3>}
      <table className="w-full text-sm">
        <thead>
          <tr className="text-left text-[13px] text-ink-2">
            <th className="py-1 pr-2 pl-1.5 font-semibold">{say('Answer')}</th>
            <th className="w-20 py-1 pr-2 text-right font-semibold">{say('People')}</th>
            <th className="py-1 pl-2 font-semibold">{say('Points')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.key}
              aria-current={row.key === current}
              onClick={() => onPick(row)}
              className={`border-t border-rule-2 align-top ${row.key === current ? 'bg-beet-soft' : ''}`}
            >
              <td className="max-w-0 py-1.5 pr-2 pl-1.5">
                <div className="font-medium wrap-anywhere">{part.typed ? row.text : <Rich text={row.text} />}</div>
                {row.also.length > 0 && (
                  <div className="text-[13px] wrap-anywhere text-ink-2">{say('also as {also}', { also: row.also.slice(0, 6).join(' · ') })}</div>
                )}
                {row.near !== undefined && <div className="text-[13px] wrap-anywhere text-ink-2">{say('spelt nearly as “{near}”', { near: row.near })}</div>}
                <Told row={row} was={before?.get(row.key)?.share} points={part.points} />
              </td>
              <td className="w-20 py-1.5 pr-2 text-right">{row.who.length}</td>
              <td className="w-px py-1 pl-2 whitespace-nowrap">
                <Credits
                  label={say('Points for “{name}”', { name: row.name })}
                  points={part.points}
                  whole={part.whole}
                  share={row.share}
                  disabled={!mayMark}
                  onGive={(share) => onGive(row, share)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {part.typed && silent > 0 && (
        <p className="border-t border-rule-2 pt-1.5 text-[13px] text-ink-2">{say('{people} gave no answer.', { people: people(silent) })}</p>
      )}
    </section>
  );
}

/** Who decided, or what it earned before. */
function Told({ row, was, points }: { row: LedgerRow; was: number | undefined; points: number }) {
  if (was !== undefined && Math.abs(was - row.share) > 1e-9)
    return <div className="text-[13px] text-amber">{say('had {pointsText} before', { pointsText: pointsText(was * points) })}</div>;
  return row.decided ? <div className="text-[13px] text-ink-2">{say('decided by a person')}</div> : null;
}

/** Rules that would let the chosen answer count, with what else they would change. */
function Rules({ item, part, row, marking }: { item: Item; part: LedgerPart; row: LedgerRow; marking: Marking }) {
  const { then, effectWith } = marking;
  const offers = useMemo(
    () => ruleOffers(item, part.gap, row.text, then.set.language).map((o) => ({ ...o, effect: effectWith(o.decision) })),
    [item, part.gap, row.text, then, effectWith],
  );
  if (!offers.length) return null;
  return (
    <section aria-label={say('Rules that would do it')} className="mt-4 max-w-3xl rounded-lg border border-rule bg-sheet p-3 text-sm">
      <h3 className="font-bold">{say('A rule that lets “{row}” count', { row: row.text })}</h3>
      <ul className="mt-1.5 grid gap-2">
        {offers.map((o) => {
          const more = o.effect.people.filter((x) => x.after > x.before).length;
          const fewer = o.effect.people.length - more;
          return (
            <li key={o.label} className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <Button onClick={() => marking.stage(o.decision)}>{retold(o.label)}</Button>
              <span>
                {retold(o.reason)} {more ? say('{people} would have more points', { people: people(more) }) : say('Nobody would have more points')}
                {fewer ? say(', {people} less', { people: people(fewer) }) : ''}.
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** What is about to be decided, for whom it changes what, and the button that does it. */
export function Staged({ marking, attempts }: { marking: Marking; attempts: readonly Attempt[] }) {
  const { staged, effect } = marking;
  const [open, setOpen] = useState(false);
  useCommands([
    { name: say('Apply what is decided'), keys: ['Ctrl Enter'], whileTyping: true, run: marking.apply },
    { name: say('Take the last decision away'), keys: ['U'], run: marking.unstage },
  ]);
  if (!staged.length) return null;
  return (
    <section aria-label={say('About to be decided')} className="border-t border-rule bg-sheet px-4 py-2 sm:px-6">
      {open && effect.people.length > 0 && (
        <ul className="mb-2 max-h-48 overflow-auto border-b border-rule-2 pb-2 text-sm sm:columns-2 lg:columns-3">
          {effect.people.map((p) => (
            <li key={p.place}>
              {attempts[p.place]?.name}: {written(attempts[p.place]?.points ?? 0)} → <b>{written((attempts[p.place]?.points ?? 0) + p.after - p.before)}</b>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <p role="status" className="flex-1 basis-72">
          {say('{staged, plural, one {# decision} other {# decisions}}', { staged: staged.length })}:{' '}
          {effect.people.length ? (
            <>
              {say('{people, plural, one {# person gets} other {# people get}} other points, the mean changes by {signed}.', {
                people: effect.people.length,
                signed: signed(effect.mean.after - effect.mean.before),
              })}
            </>
          ) : (
            say('nobody gets other points.')
          )}
        </p>
        {effect.people.length > 0 && (
          <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? say('Hide who') : say('Show who')}
          </Button>
        )}
        <Button onClick={marking.discard}>{say('Discard')}</Button>
        <Button look="primary" disabled={marking.applying} onClick={marking.apply}>
          {say('Mark all anew')}
        </Button>
      </div>
    </section>
  );
}
const signed = (n: number): string => `${n > 0 ? '+' : n < 0 ? '−' : '±'}${written(Math.abs(n))}`;
