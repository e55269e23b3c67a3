/** Items by versions, with positions in the cells; what each version comes to, and its keys, at the foot; how much they have in common beside it. */
import { type Drawn, type DrawFigures, isQuestion, keySign, kinds, nameOf, type PoolItem, sayRow, versionSet } from '@zakuska/core';
import { Pin } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { Button } from '../ui/Button.js';
import { known, say } from '../words/say.js';
import { fixed } from '../ui/figures.js';

interface Props {
  pool: readonly PoolItem[];
  drawn: Drawn;
  figures: DrawFigures;
  /** Where a version is delivered. */
  deliver: (version: string) => string;
  pinned: ReadonlySet<string>;
  onPin?: ((id: string) => void) | undefined;
  onApart?: ((ids: string[]) => void) | undefined;
  onExchange?: ((version: number, id: string) => void) | undefined;
}

export function VersionsTable({ pool, drawn, figures, deliver, pinned, onPin, onApart, onExchange }: Props) {
  const [all, setAll] = useState(false);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const places = useMemo(() => drawn.versions.map((v) => new Map(v.items.map((id, i) => [id, i + 1]))), [drawn]);
  const keys = useMemo(() => drawn.versions.map((_, v) => versionSet(pool, drawn, v, '').items.filter(isQuestion).map(keySign)), [pool, drawn]);
  const held = pool.filter((p) => places.some((m) => m.has(p.item.id)));
  const shown = all ? pool.filter((p) => isQuestion(p.item) || places.some((m) => m.has(p.item.id))) : held;
  const rest = pool.filter((p) => isQuestion(p.item)).length - held.filter((p) => isQuestion(p.item)).length;
  const mark = (id: string): void => setMarked((was) => (was.has(id) ? new Set([...was].filter((x) => x !== id)) : new Set([...was, id])));
  const cell = 'border-l border-rule-2 px-1.5 py-1 text-center tabular-nums';
  const rows = drawn.plan.rows;
  return (
    <div className="grid gap-4">
      <div className="overflow-x-auto">
        <table className="w-full bg-sheet text-sm">
          <caption className="sr-only">{say('Items by versions, with the position of each item')}</caption>
          <thead>
            <tr className="border-b-2 border-ink align-bottom">
              <th className="p-2 text-left">{say('Item')}</th>
              {figures.versions.map((v) => (
                <th key={v.name} className="w-14 sm:w-28 border-l border-rule-2 px-2 py-2">
                  {v.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map(({ item }) => {
              const name = nameOf(item, 110);
              return (
                <tr key={item.id} className="border-b border-rule-2">
                  <th scope="row" className="max-w-0 py-1 pr-2 pl-1 text-left font-normal">
                    <span className="flex items-center gap-1.5">
                      {onApart && (
                        <input
                          type="checkbox"
                          className="accent-beet"
                          aria-label={say('Mark “{name}”', { name })}
                          checked={marked.has(item.id)}
                          onChange={() => mark(item.id)}
                        />
                      )}
                      {onPin && (
                        <button
                          type="button"
                          aria-pressed={pinned.has(item.id)}
                          aria-label={say('In every version: “{name}”', { name })}
                          title={pinned.has(item.id) ? say('Stands in every version') : say('Let it stand in every version')}
                          className={`grid size-6 flex-none cursor-pointer place-items-center rounded hover:bg-beet-soft ${pinned.has(item.id) ? 'text-beet' : 'text-ink-2 opacity-60 hover:opacity-100'}`}
                          onClick={() => onPin(item.id)}
                        >
                          <Pin size={14} aria-hidden {...(pinned.has(item.id) && { fill: 'currentColor' })} />
                        </button>
                      )}
                      <span className="truncate" title={`${nameOf(item, 300)} · ${known(kinds[item.kind].name)}`}>
                        {name}
                      </span>
                    </span>
                  </th>
                  {places.map((m, v) => {
                    const at = m.get(item.id);
                    return (
                      <td key={drawn.versions[v]?.name} className={cell}>
                        {at !== undefined &&
                          (onExchange ? (
                            <button
                              type="button"
                              className="min-h-6 min-w-6 cursor-pointer rounded hover:bg-beet-soft hover:text-beet"
                              title={say('Exchange it for another item')}
                              aria-label={say('Item {at} of version {name}: exchange', { at, name: drawn.versions[v]?.name ?? '' })}
                              onClick={() => onExchange(v, item.id)}
                            >
                              {at}
                            </button>
                          ) : (
                            at
                          ))}
                      </td>
                    );
                  })}
                </tr>
              );
            })}
          </tbody>
          <tfoot className="border-t-2 border-ink">
            <Foot name={say('Items')} cells={figures.versions.map((v) => v.questions)} />
            <Foot name={say('Points')} cells={figures.versions.map((v) => v.points)} />
            <Foot name={say('Mean difficulty')} cells={figures.versions.map((v) => (v.difficulty === null ? '–' : fixed(v.difficulty, 2)))} />
            {rows.map((row, r) => (
              <Foot
                // oxlint-disable-next-line react/no-array-index-key
                key={r}
                name={sayRow(row)}
                cells={figures.versions.map((v) => v.rows[r] ?? 0)}
                wrong={(x) => x !== (row.count ?? row.points ?? 0)}
              />
            ))}
            <tr className="border-t border-rule-2 align-top">
              <th scope="row" className="p-2 text-left font-normal text-ink-2">
                {say('Keys, in order')}
              </th>
              {keys.map((k, v) => (
                <td key={drawn.versions[v]?.name} className={`${cell} align-top`}>
                  <span
                    className="flex flex-wrap justify-center gap-px font-mono text-[12.5px]"
                    aria-label={say('Keys of version {name}: {k}', { name: drawn.versions[v]?.name ?? '', k: k.join(' ') })}
                  >
                    {k.map((sign, i) => (
                      // oxlint-disable-next-line react/no-array-index-key
                      // oxlint-disable-next-line react/no-array-index-key
                      <span key={i} className="min-w-4 rounded-sm bg-dill-soft px-0.5 text-dill">
                        {sign}
                      </span>
                    ))}
                  </span>
                </td>
              ))}
            </tr>
            <tr>
              <td />
              {figures.versions.map((v) => (
                <td key={v.name} className={cell}>
                  <Link className="link text-[13px]" to={deliver(v.name)}>
                    {say('Deliver {name}', { name: v.name })}
                  </Link>
                </td>
              ))}
            </tr>
          </tfoot>
        </table>
      </div>
      <div className="flex flex-wrap items-center gap-3 text-sm">
        {rest > 0 && (
          <button type="button" className="link" aria-pressed={all} onClick={() => setAll(!all)}>
            {all ? say('Show only what a version holds') : say('Show the {rest} that no version holds', { rest })}
          </button>
        )}
        {onApart && marked.size > 1 && (
          <Button
            onClick={() => {
              onApart([...marked]);
              setMarked(new Set());
            }}
          >
            {say('Never in one version: the {marked} marked', { marked: marked.size })}
          </Button>
        )}
      </div>
      {figures.versions.length > 1 && <Overlap figures={figures} />}
    </div>
  );
}

function Foot({ name, cells, wrong }: { name: string; cells: (number | string)[]; wrong?: (cell: number | string) => boolean }) {
  return (
    <tr className="border-t border-rule-2">
      <th scope="row" className="px-2 py-1 text-left font-normal text-ink-2">
        {name}
      </th>
      {cells.map((c, i) => (
        // oxlint-disable-next-line react/no-array-index-key
        // oxlint-disable-next-line react/no-array-index-key
        <td key={i} className={`border-l border-rule-2 px-2 py-1 text-center tabular-nums ${wrong?.(c) ? 'font-[650] text-brick' : ''}`}>
          {c}
        </td>
      ))}
    </tr>
  );
}

/** How many items two versions have in common, as a triangle. */
function Overlap({ figures }: { figures: DrawFigures }) {
  const { versions, overlap } = figures;
  return (
    <table className="w-fit text-sm">
      <caption className="pb-1 text-left text-[13.5px] font-semibold whitespace-nowrap">{say('Items in common')}</caption>
      <tbody>
        {versions.slice(1).map((row, i) => (
          <tr key={row.name}>
            <th scope="row" className="pr-2 font-semibold">
              {row.name}
            </th>
            {versions.slice(0, i + 1).map((column, k) => {
              const n = overlap[i + 1]?.[k] ?? 0;
              return (
                <td
                  key={column.name}
                  className={`size-8 border border-rule-2 text-center tabular-nums ${n ? 'bg-amber-soft text-amber' : 'text-ink-2'}`}
                  title={say('{name} and {name2}: {n}', { name: row.name, name2: column.name, n })}
                >
                  {n}
                </td>
              );
            })}
          </tr>
        ))}
        <tr>
          <td />
          {versions.slice(0, -1).map((v) => (
            <th key={v.name} scope="col" className="font-semibold">
              {v.name}
            </th>
          ))}
        </tr>
      </tbody>
    </table>
  );
}
