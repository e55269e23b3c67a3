/** All versions together: each item over everybody who met it, and how it did in each version. */
import { type QueryFunction, type QueryKey, useQueries, type UseQueryResult } from '@tanstack/react-query';
import { equate, EQUATE_LEAST, type Equated, finalItems, type Item, type Mark, nameOf, type NotEquated, type QuizSet, together } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { Busy } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { ItemView } from '../item/ItemView.js';
import { fixed, number, percent, written } from '../ui/figures.js';
import { say } from '../words/say.js';

interface Source {
  id: string;
  version: string;
}
interface Found {
  set: QuizSet;
  attempts: readonly { marks: Record<string, Mark> }[];
}
/** How the answers of a source are fetched. */
interface Query {
  queryKey: QueryKey;
  queryFn: QueryFunction<Found>;
  refetchInterval?: number;
  structuralSharing?: boolean;
}
/** All results as one, which is a new object only where something in them is new. */
const combine = (results: readonly UseQueryResult<Found>[]) => ({
  data: results.map((r) => r.data),
  failed: results.find((r) => r.isError && !r.data),
  pending: results.some((r) => r.isPending),
});

export function Together<S extends Source>({ sources, query }: { sources: readonly S[]; query: (source: S) => Query }) {
  const { data, failed, pending } = useQueries({ queries: sources.map(query), combine });
  const { names, rows, people, scales } = useMemo(() => {
    const byVersion = new Map<string, { items: Item[]; points: number[][] }>();
    const known = new Map<string, Item>();
    sources.forEach(({ version }, n) => {
      const found = data[n];
      if (!found) return;
      const items = finalItems(found.set.items, found.attempts);
      for (const i of items) if (!known.has(i.id)) known.set(i.id, i);
      const there = byVersion.get(version);
      // a version that was sent out twice is one, as long as it holds the same items
      if (there && there.items.map((i) => i.id).join() !== items.map((i) => i.id).join()) return;
      const points = found.attempts.map((a) => items.map((i) => a.marks[i.id]?.points ?? 0));
      byVersion.set(version, { items, points: [...(there?.points ?? []), ...points] });
    });
    const versions = [...byVersion].sort(([a], [b]) => a.localeCompare(b)).map(([name, v]) => ({ name, ...v }));
    const all = together(versions).sort((a, b) => a.difficulty - b.difficulty);
    return {
      names: versions.map((v) => v.name),
      scales: equate(versions),
      people: versions.reduce((n, v) => n + v.points.length, 0),
      rows: all.flatMap((figure) => {
        const item = known.get(figure.id);
        return item ? [{ figure, item }] : [];
      }),
    };
  }, [sources, data]);
  const [picked, setPicked] = useState<string>();
  if (failed) return <NotFetched query={failed} />;
  if (pending) return <Busy what={say('Fetching the results of all versions')} />;
  const current = rows.find((r) => r.item.id === picked) ?? rows[0];
  return (
    <div className="grid grid-cols-1 items-start gap-6 xl:grid-cols-[minmax(0,1fr)_370px]">
      <section className="overflow-x-auto border border-rule bg-sheet p-2.5" tabIndex={0} aria-label={say('Items in all versions')}>
        <p className="px-1 pb-2 text-[13.5px] text-ink-2">
          {say(
            '{people, plural, one {# response} other {# responses}} to versions {names}; items from most missed. The share of points that was earned, and by how many.',
            { people, names: names.join(', ') },
          )}
        </p>
        <table className="w-full text-sm">
          <thead className="text-left text-[13px] text-ink-2">
            <tr>
              <th className="px-1 py-1 font-semibold">{say('Item')}</th>
              <th className="px-1 text-right font-semibold">{say('All')}</th>
              <th className="px-1 text-right font-semibold" title={say('How the item goes with the rest of its version, −1 to 1')}>
                {say('With the rest')}
              </th>
              {names.map((n) => (
                <th key={n} className="px-1 text-right font-semibold">
                  {n}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ figure, item }) => (
              <tr key={item.id} className={`border-t border-rule-2 ${item.id === current?.item.id ? 'bg-beet-soft' : ''}`}>
                <th scope="row" className="max-w-0 px-1 text-left font-normal">
                  <button type="button" className="w-full cursor-pointer truncate py-1.5 text-left hover:text-beet" onClick={() => setPicked(item.id)}>
                    {nameOf(item, 90)}
                  </button>
                </th>
                <td className="px-1 text-right whitespace-nowrap tabular-nums">
                  <b className="font-semibold">{percent(figure.difficulty)}</b> <span className="text-[13px] text-ink-2">{say('of {n}', { n: figure.n })}</span>
                </td>
                <td className={`px-1 text-right tabular-nums ${figure.discrimination !== null && figure.discrimination < 0.1 ? 'text-brick' : ''}`}>
                  {figure.discrimination === null ? '–' : fixed(figure.discrimination, 2)}
                </td>
                {names.map((n) => {
                  const v = figure.versions.find((x) => x.name === n);
                  return (
                    <td key={n} className="px-1 text-right whitespace-nowrap text-ink-2 tabular-nums">
                      {v ? say('{percent} of {n}', { percent: percent(v.difficulty), n: v.n }) : ''}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <div className="grid gap-6">
        {current && (
          <aside aria-label={say('The item')} className="border border-rule bg-sheet p-4">
            <ItemView item={current.item} />
          </aside>
        )}
        {scales.length > 0 && <Scales base={names[0] ?? ''} scales={scales} />}
      </div>
    </div>
  );
}

const WHY: Readonly<Record<NotEquated['why'], string>> = {
  people: say('it takes {people} people in each version', { people: EQUATE_LEAST.people }),
  items: say('it takes {items} items that both have', { items: EQUATE_LEAST.items }),
  spread: say('all have as many points'),
};
/** What points of each version are worth in the first: a harder version is no disadvantage to who got it. */
function Scales({ base, scales }: { base: string; scales: readonly (Equated | NotEquated)[] }) {
  return (
    <section aria-label={say('Versions on one scale')} className="border border-rule bg-sheet p-4 text-sm">
      <h2 className="mb-1 text-base font-bold">{say('Versions on one scale')}</h2>
      <ul className="grid gap-1.5">
        {scales.map((s) => (
          <li key={s.name}>
            <b>{s.name}</b>{' '}
            {'why' in s ? (
              <span className="text-ink-2">{say('has no figure: {WHY}.', { WHY: WHY[s.why] })}</span>
            ) : (
              <>
                {say('{name} × {written} {what} {written2}: 10 points are like {number} in {base}', {
                  name: s.name,
                  written: written(s.slope),
                  what: s.shift < 0 ? '−' : '+',
                  written2: written(Math.abs(s.shift)),
                  number: number(10 * s.slope + s.shift),
                  base,
                })}{' '}
                <span className="text-ink-2">
                  {say('(by {common, plural, one {# common item} other {# common items}}, {n, plural, one {# person} other {# people}})', {
                    common: s.common,
                    n: s.n,
                  })}
                </span>
              </>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-2 text-ink-2">
        {say(
          'By the items that versions have in common (chained linear equating), so that an abler group is told from an easier version. Points stay as they are: it is for you to say what follows.',
        )}
      </p>
    </section>
  );
}
