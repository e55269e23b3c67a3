/** What to draw: how many versions of how many items, by which blueprint, with how much in common. */
import { againstPlan, type DrawPlan, type PoolItem, versionName } from '@zakuska/core';
import { Dices } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { BlueprintTable } from './BlueprintTable.js';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';

const OVERLAP = { little: say('as few as can be'), none: say('none, rather an item too few'), any: say('does not matter') } as const;

/** Numbers of items as they are typed: one for all versions, or one for each. */
const sizesOf = (text: string): number[] =>
  text
    .split(/[\s,;]+/)
    .map(Number)
    .filter((n) => Number.isInteger(n) && n > 0 && n <= 1000);
const saySizes = ({ versions }: DrawPlan): string => {
  const all = versions.map((v) => v.count);
  return new Set(all).size === 1 ? String(all[0]) : all.join(', ');
};
const withSizes = (plan: DrawPlan, many: number, sizes: readonly number[]): DrawPlan => ({
  ...plan,
  versions: Array.from({ length: many }, (_, i) => ({
    name: plan.versions[i]?.name ?? versionName(i),
    count: sizes[Math.min(i, sizes.length - 1)] ?? 1,
  })),
});

interface Props {
  pool: readonly PoolItem[];
  groups: readonly (readonly number[])[];
  plan: DrawPlan;
  mayEdit: boolean;
  onPlan: (plan: DrawPlan) => void;
}

export function PlanForm({ pool, groups, plan, mayEdit, onPlan }: Props) {
  const [sizes, setSizes] = useState<string>();
  const against = useMemo(() => againstPlan(pool, plan, groups), [pool, plan, groups]);
  const twins = groups.reduce((n, g) => n + g.length, 0);
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-[110px_minmax(0,1fr)] items-start gap-3">
        <Field label={say('Versions')}>
          {(id) => (
            <Input
              id={id}
              type="number"
              min={1}
              max={26}
              disabled={!mayEdit}
              value={plan.versions.length}
              onChange={(e) =>
                onPlan(
                  withSizes(
                    plan,
                    Math.max(1, Math.min(26, Math.round(Number(e.target.value)) || 1)),
                    plan.versions.map((v) => v.count),
                  ),
                )
              }
            />
          )}
        </Field>
        <Field label={say('Items in each')} hint={say('one number, or one for each: 8, 10, 12')}>
          {(id, note) => (
            <Input
              id={id}
              aria-describedby={note}
              inputMode="numeric"
              disabled={!mayEdit}
              value={sizes ?? saySizes(plan)}
              onChange={(e) => {
                setSizes(e.target.value);
                const said = sizesOf(e.target.value);
                if (said.length) onPlan(withSizes(plan, said.length > 1 ? said.length : plan.versions.length, said));
              }}
              onBlur={() => setSizes(undefined)}
            />
          )}
        </Field>
      </div>
      <section aria-label={say('Blueprint')}>
        <h3 className="text-[13.5px] font-semibold">{say('Blueprint')}</h3>
        {plan.rows.length === 0 && <p className="text-[13.5px] text-ink-2">{say('Without rows, any items of the set are drawn.')}</p>}
        <BlueprintTable pool={pool} groups={groups} rows={plan.rows} mayEdit={mayEdit} onRows={(rows) => onPlan({ ...plan, rows })} />
      </section>
      <Field label={say('Items in common')}>
        {(id) => (
          <Select id={id} disabled={!mayEdit} value={plan.overlap} onChange={(e) => onPlan({ ...plan, overlap: e.target.value as keyof typeof OVERLAP })}>
            {Object.entries(OVERLAP).map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <fieldset className="grid gap-1 text-sm">
        <legend className="mb-1 text-[13.5px] font-semibold">{say('In another order in each version')}</legend>
        {(['items', 'options'] as const).map((what) => (
          <label key={what} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-beet"
              disabled={!mayEdit}
              checked={plan.shuffle[what]}
              onChange={(e) => onPlan({ ...plan, shuffle: { ...plan.shuffle, [what]: e.target.checked } })}
            />
            {what}
          </label>
        ))}
      </fieldset>
      <Field label={say('Seed')} hint={say('the same seed draws the same versions again')}>
        {(id, note) => (
          <span className="flex gap-2">
            <Input
              id={id}
              aria-describedby={note}
              type="number"
              min={0}
              disabled={!mayEdit}
              className="tabular-nums"
              value={plan.seed}
              onChange={(e) => onPlan({ ...plan, seed: Math.max(0, Math.min(4_294_967_295, Math.round(Number(e.target.value)) || 0)) })}
            />
            {mayEdit && (
              <Button
                aria-label={say('Another seed')}
                title={say('Another seed')}
                onClick={() => onPlan({ ...plan, seed: Math.floor(Math.random() * 100_000) })}
              >
                <Dices size={16} aria-hidden />
              </Button>
            )}
          </span>
        )}
      </Field>
      {twins > 0 && (
        <p className="text-[13.5px] text-ink-2">{say('{twins} items ask nearly the same as another; a version holds only one of each group.', { twins })}</p>
      )}
      {against.length > 0 && (
        <ul role="alert" className="grid gap-1 text-[13.5px] text-amber">
          {against.map((u) => (
            <li key={u.message}>{retold(u.message)}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
