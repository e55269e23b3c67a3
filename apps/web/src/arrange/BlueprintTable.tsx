/** The blueprint: rows of sorts of items, how many of each, and what the pool offers. */
import { type BlueprintRow, bloomLevels, difficultyOf, difficultyThirds, isQuestion, kinds, offersOf, type PoolItem } from '@zakuska/core';
import { Plus, X } from 'lucide-react';
import { useMemo } from 'react';
import { Button } from '../ui/Button.js';
import { Input, Select } from '../ui/Field.js';
import { known, say } from '../words/say.js';

/** What a row can ask of its items, as it stands in a choice: a field with its value. */
interface Sort {
  group: string;
  name: string;
  set: Partial<BlueprintRow>;
}
const THIRDS: Sort[] = Object.entries(difficultyThirds).map(([name, difficulty]) => ({
  group: say('Difficulty'),
  name: say('{name}, {from} to {to}', { name: known(name), from: difficulty.from, to: difficulty.to }),
  set: { difficulty },
}));

/** The sorts of items that a pool has. */
function sortsOf(pool: readonly PoolItem[]): Sort[] {
  const items = pool.map((p) => p.item).filter(isQuestion);
  const distinct = (list: readonly string[]): string[] => [...new Set(list)].sort((a, b) => a.localeCompare(b));
  const parts = new Map(
    pool.flatMap((p) => p.set.sections?.filter((s) => s.id === p.item.section).map((s) => [s.title ?? s.id, s.title ?? say('Part')] as const) ?? []),
  );
  return [
    ...distinct(items.flatMap((i) => i.outcomes ?? [])).map((outcome) => ({ group: say('Outcome'), name: outcome, set: { outcome } })),
    ...distinct(items.flatMap((i) => i.tags ?? [])).map((tag) => ({ group: say('Tag'), name: tag, set: { tag } })),
    ...[...new Set(items.map((i) => i.kind))].map((kind) => ({ group: say('Kind'), name: known(kinds[kind].name), set: { kind } })),
    ...bloomLevels.filter((bloom) => items.some((i) => i.level?.bloom === bloom)).map((bloom) => ({ group: say('Level'), name: known(bloom), set: { bloom } })),
    ...(pool.some((p) => difficultyOf(p) !== undefined) ? THIRDS : []),
    ...[...parts].map(([part, name]) => ({ group: say('Part'), name, set: { part } })),
  ];
}
const FIELDS = ['outcome', 'tag', 'kind', 'bloom', 'difficulty', 'part'] as const;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const without = (row: BlueprintRow, field: (typeof FIELDS)[number]): BlueprintRow => {
  const { [field]: _, ...rest } = row;
  return rest;
};

interface Props {
  pool: readonly PoolItem[];
  groups: readonly (readonly number[])[];
  rows: readonly BlueprintRow[];
  mayEdit: boolean;
  onRows: (rows: BlueprintRow[]) => void;
}

export function BlueprintTable({ pool, groups, rows, mayEdit, onRows }: Props) {
  const sorts = useMemo(() => sortsOf(pool), [pool]);
  const offers = useMemo(() => offersOf(pool, rows, groups), [pool, rows, groups]);
  const put = (at: number, row: BlueprintRow): void => onRows(rows.map((r, i) => (i === at ? row : r)));
  const by = [...new Set(sorts.map((s) => s.group))];
  return (
    <div>
      {rows.length > 0 && (
        <table className="w-full text-sm">
          <caption className="sr-only">{say('Blueprint: what each version is made of')}</caption>
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              <th className="py-1 font-semibold">{say('Items with')}</th>
              <th className="w-33 py-1 pl-2 font-semibold">{say('In each version')}</th>
              <th className="w-12 py-1 pl-1 font-semibold">{say('Offered')}</th>
              <th className="w-7">
                <span className="sr-only">{say('Take out')}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, at) => {
              const said = FIELDS.filter((f) => row[f] !== undefined);
              const offer = offers[at];
              const [asked, has] = row.points !== undefined && row.count === undefined ? [row.points, offer?.points ?? 0] : [row.count ?? 0, offer?.items ?? 0];
              return (
                // rows have nothing else to be known by
                // oxlint-disable-next-line react/no-array-index-key
                // rows have nothing else to be known by
                // oxlint-disable-next-line react/no-array-index-key
                <tr key={at} className="border-t border-rule-2 align-top">
                  <td className="grid gap-1 py-1">
                    {[...said, null].slice(0, 3).map((field, n) => {
                      const now = field === null ? -1 : sorts.findIndex((s) => same(s.set[field], row[field]));
                      if (field === null && n > 0 && said.length > 2) return null;
                      return (
                        <Select
                          key={field ?? 'more'}
                          disabled={!mayEdit}
                          aria-label={say('Row {n}: {what}', { n: at + 1, what: n ? say('and with') : say('items with') })}
                          className={`py-1! text-sm ${field === null && n > 0 ? 'text-ink-2' : ''}`}
                          value={now < 0 ? '' : now}
                          onChange={(e) => {
                            const chosen = sorts[e.target.value === '' ? -1 : Number(e.target.value)];
                            const bare = field === null ? row : without(row, field);
                            put(at, { ...bare, ...chosen?.set });
                          }}
                        >
                          <option value="">{field !== null && now < 0 ? String(row[field]) : n ? say('and …') : say('anything')}</option>
                          {by.map((group) => (
                            <optgroup key={group} label={group}>
                              {sorts.map((s, i) => s.group === group && <option key={s.name} value={i}>{`${s.name}`}</option>)}
                            </optgroup>
                          ))}
                        </Select>
                      );
                    })}
                  </td>
                  <td className="py-1 pl-2">
                    <span className="flex gap-1">
                      <Input
                        type="number"
                        min={0}
                        max={1000}
                        disabled={!mayEdit}
                        aria-label={say('Row {n}: how many', { n: at + 1 })}
                        className="w-13! px-1! py-1! text-right tabular-nums"
                        value={asked}
                        onChange={(e) => {
                          const n = Math.max(0, Math.min(1000, Number(e.target.value) || 0));
                          put(at, row.count !== undefined ? { ...row, count: Math.round(n) } : { ...row, points: n });
                        }}
                      />
                      <Select
                        disabled={!mayEdit}
                        aria-label={say('Row {n}: items or points', { n: at + 1 })}
                        className="w-19! px-1! py-1! text-sm"
                        value={row.count !== undefined ? 'items' : 'points'}
                        onChange={(e) => {
                          const { count: _, points: __, ...rest } = row;
                          put(at, e.target.value === 'items' ? { ...rest, count: Math.round(asked) } : { ...rest, points: asked });
                        }}
                      >
                        <option value="items">{say('items')}</option>
                        <option value="points">{say('points')}</option>
                      </Select>
                    </span>
                  </td>
                  <td className={`py-2 pl-2 tabular-nums ${asked > has ? 'font-[650] text-brick' : 'text-ink-2'}`}>{has}</td>
                  <td className="py-1">
                    {mayEdit && (
                      <button
                        type="button"
                        aria-label={say('Take out row {n}', { n: at + 1 })}
                        className="grid size-7 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet"
                        onClick={() => onRows(rows.filter((_, i) => i !== at))}
                      >
                        <X size={15} aria-hidden />
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {mayEdit && (
        <span className="mt-1 flex flex-wrap gap-1">
          <Button
            look="quiet"
            onClick={() => onRows([...rows, { ...sorts.find((s) => !rows.some((r) => same({ ...r, count: 1 }, { ...s.set, count: 1 })))?.set, count: 1 }])}
          >
            <Plus size={15} aria-hidden /> {say('Add a row')}
          </Button>
          {rows.length === 0 && sorts.some((s) => s.set.outcome) && (
            <Button look="quiet" onClick={() => onRows(sorts.flatMap((s) => (s.set.outcome ? [{ ...s.set, count: 1 }] : [])))}>
              {say('A row for each outcome')}
            </Button>
          )}
        </span>
      )}
    </div>
  );
}
