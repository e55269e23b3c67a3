/** Two groups side by side: their scores, and whether an item is harder for one of them than its points say. */
import { compareGroups, GROUP_LEAST, type Item, onList, type QuizSet } from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { classesOf, fetchClass } from '../api/classes.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useOpenSet } from '../set/context.js';
import { Select } from '../ui/Field.js';
import { number, orNone, percent, written } from '../ui/figures.js';
import type { Attempt } from './sources.js';
import { listed, say } from '../words/say.js';

const DIFFERS = { hardly: say('works the same for both'), somewhat: say('somewhat harder for'), much: say('much harder for') } as const;
const OTHERS = say('everybody else');

const useClass = (id: string | undefined) => useQuery({ queryKey: ['class', id], queryFn: () => fetchClass(id ?? ''), enabled: id !== undefined });

interface Props {
  set: QuizSet;
  attempts: readonly Attempt[];
  labelOf: (item: Item) => string;
}
export function Groups({ set, attempts, labelOf }: Props) {
  const { view } = useOpenSet();
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const classes = useQuery(classesOf(view.workspaceId));
  const list = classes.data ?? [];
  const one = list.find((c) => c.id === first) ?? list[0];
  const other = list.find((c) => c.id === second && c.id !== one?.id);
  const members = useClass(one?.id);
  const otherMembers = useClass(other?.id);
  const compared = useMemo(() => {
    if (!members.data || (other && !otherMembers.data)) return null;
    const inFirst = onList(attempts, members.data.members);
    const inSecond = other ? onList(attempts, otherMembers.data?.members ?? []) : inFirst.map((x) => !x);
    // who stands on both lists is of neither
    const groups = inFirst.map((a, i) => (a === inSecond[i] ? null : !a));
    return compareGroups(set, attempts, groups);
  }, [set, attempts, other, members.data, otherMembers.data]);
  if (classes.isError) return <NotFetched query={classes} />;
  if (classes.data && !one)
    return (
      <p className="max-w-prose text-ink-2">
        {say(
          'Groups are classes. Make one where a quiz is published (Deliver → own quiz → Rules → Classes), or choose there which class a quiz is for; whoever stands on its list is compared here with the others, by number, mail or name.',
        )}
      </p>
    );
  const names = [one?.name ?? '', other?.name ?? OTHERS] as const;
  const small = compared?.figures.some((f) => f.n < GROUP_LEAST) ?? false;
  return (
    <div className="max-w-5xl text-sm">
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          {say('Compare')}
          <Select className="w-auto!" value={one?.id ?? ''} onChange={(e) => setFirst(e.target.value)}>
            {list.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Select>
        </label>
        <label className="flex items-center gap-2">
          {say('with')}
          <Select className="w-auto!" value={other?.id ?? ''} onChange={(e) => setSecond(e.target.value)}>
            <option value="">{OTHERS}</option>
            {list
              .filter((c) => c.id !== one?.id)
              .map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
          </Select>
        </label>
      </div>
      {members.isError && <NotFetched query={members} />}
      {otherMembers.isError && <NotFetched query={otherMembers} />}
      {compared && (
        <>
          <section aria-label={say('Scores of both groups')} tabIndex={0} className="overflow-x-auto">
            <table className="mb-5">
              <thead>
                <tr className="text-left text-[13px] text-ink-2">
                  <th className="py-1 pr-6 font-semibold">{say('Group')}</th>
                  <th className="py-1 pr-6 font-semibold">{say('People')}</th>
                  <th className="py-1 pr-6 font-semibold">{say('Mean of {number}', { number: number(compared.maximum) })}</th>
                  <th className="py-1 pr-6 font-semibold">{say('Median')}</th>
                  <th className="py-1 pr-6 font-semibold">{say('SD')}</th>
                </tr>
              </thead>
              <tbody>
                {compared.figures.map((f, n) => (
                  <tr key={n === 0 ? 'first' : 'second'} className="border-t border-rule-2">
                    <th scope="row" className="py-1 pr-6 text-left font-semibold">
                      {names[n]}
                    </th>
                    <td className="py-1 pr-6">{f.n}</td>
                    <td className="py-1 pr-6">{f.n ? written(f.mean) : '–'}</td>
                    <td className="py-1 pr-6">{f.n ? written(f.median) : '–'}</td>
                    <td className="py-1 pr-6">{f.n > 1 ? written(f.sd) : '–'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <p className="mb-2 max-w-prose text-ink-2">
            {small
              ? say('It takes {GROUP_LEAST} people in each group to say whether an item works the same for both; here are {figures}.', {
                  GROUP_LEAST,
                  figures: listed(compared.figures.map((f) => say('{n, plural, one {# person} other {# people}}', { n: f.n }))),
                })
              : say(
                  'People with the same points are compared, so that a group that knows more is no reason (Mantel–Haenszel). An item that differs is worth reading with the group in mind; it need not be unfair.',
                )}
          </p>
          <section aria-label={say('Items in both groups')} tabIndex={0} className="overflow-x-auto">
            <table className="min-w-xl">
              <thead>
                <tr className="text-left text-[13px] text-ink-2">
                  <th className="py-1 pr-4 font-semibold">{say('Item')}</th>
                  {names.map((name) => (
                    <th key={name} className="py-1 pr-4 font-semibold">
                      {name}
                    </th>
                  ))}
                  {!small && (
                    <>
                      <th className="py-1 pr-4 font-semibold">{say('Odds, same points')}</th>
                      <th className="py-1 pr-4 font-semibold">{say('With the same points')}</th>
                    </>
                  )}
                </tr>
              </thead>
              <tbody>
                {compared.items.map(({ item, reached, groups }) => (
                  <tr key={item.id} className="border-t border-rule-2">
                    <th scope="row" className="py-1 pr-4 text-left font-semibold">
                      {labelOf(item)}
                    </th>
                    {reached.map((share, n) => (
                      <td key={names[n]} className="py-1 pr-4">
                        {compared.figures[n]?.n ? percent(share) : '–'}
                      </td>
                    ))}
                    {!small && (
                      <>
                        <td className="py-1 pr-4">
                          {orNone(groups?.odds ?? null)}
                          {groups && (
                            <span className="text-ink-2">
                              {' '}
                              {say('({written} to {written2})', { written: written(groups.interval[0]), written2: written(groups.interval[1]) })}
                            </span>
                          )}
                        </td>
                        <td className={`py-1 pr-4 ${groups && groups.differs !== 'hardly' ? 'text-amber' : 'text-ink-2'}`}>
                          {groups
                            ? groups.differs === 'hardly'
                              ? DIFFERS.hardly
                              : `${DIFFERS[groups.differs]} ${names[groups.delta < 0 ? 1 : 0]}`
                            : say('no figure')}
                        </td>
                      </>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </>
      )}
    </div>
  );
}
