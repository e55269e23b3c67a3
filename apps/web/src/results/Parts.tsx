/** What the class can, by outcome, part or kind, and who needs what once more. */
import { byParts, type Kind, kinds, type PartedBy, type QuizSet } from '@zakuska/core';
import { Repeat } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Select } from '../ui/Field.js';
import { number, percent } from '../ui/figures.js';
import type { Attempt } from './sources.js';
import { useRetake } from './useRetake.js';
import { inSentence, known, say } from '../words/say.js';

const BY: Readonly<Record<PartedBy, { by: string; none: string }>> = {
  outcome: { by: say('outcome'), none: say('without an outcome') },
  part: { by: say('part of the set'), none: say('outside of all parts') },
  kind: { by: say('kind of item'), none: '' },
};

interface Props {
  /** The set with the keys that count. */
  set: QuizSet;
  attempts: readonly Attempt[];
}
export function Parts({ set, attempts }: Props) {
  const { mayEdit } = useOpenSet();
  const able: PartedBy[] = [
    ...(set.items.some((i) => i.outcomes?.length) ? ['outcome' as const] : []),
    ...(set.sections?.length ? ['part' as const] : []),
    'kind',
  ];
  const [asked, setAsked] = useState<PartedBy>();
  const by = asked && able.includes(asked) ? asked : (able[0] as PartedBy);
  const parts = useMemo(() => byParts(set, attempts, by), [set, attempts, by]);
  const retake = useRetake(set);
  const nameOfPart = (name: string): string => (name === '' ? BY[by].none : by === 'kind' ? inSentence(known(kinds[name as Kind].name)) : name);
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
        <label className="flex items-center gap-2">
          {say('By')}
          <Select className="w-auto!" value={by} onChange={(e) => setAsked(e.target.value as PartedBy)}>
            {able.map((b) => (
              <option key={b} value={b}>
                {BY[b].by}
              </option>
            ))}
          </Select>
        </label>
        {!able.includes('outcome') && (
          <span className="text-ink-2">{say('No item has an outcome yet; outcomes are set in the editor of an item, or for many in Arrange.')}</span>
        )}
      </div>
      <section aria-label={say('What was reached, by {by}', { by: BY[by].by })} tabIndex={0} className="max-w-5xl overflow-x-auto">
        <table className="w-full min-w-xl text-sm">
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              <th className="py-1 pr-4 font-semibold">{BY[by].by[0]?.toUpperCase() + BY[by].by.slice(1)}</th>
              <th className="py-1 pr-4 font-semibold">{say('Items')}</th>
              <th className="py-1 pr-4 font-semibold">{say('Points')}</th>
              <th className="w-48 py-1 pr-4 font-semibold">{say('Reached')}</th>
              <th className="py-1 pr-4 font-semibold">{say('With fewer than half of the points')}</th>
              {mayEdit && (
                <th>
                  <span className="sr-only">{say('Retake')}</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {parts.map((p) => {
              const needs = p.under.map((n) => attempts[n]?.name ?? '');
              return (
                <tr key={p.name} className="border-t border-rule-2 align-top">
                  <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                    {nameOfPart(p.name)}
                  </th>
                  <td className="py-1.5 pr-4">{p.items.length}</td>
                  <td className="py-1.5 pr-4">{number(p.maximum)}</td>
                  <td className="py-1.5 pr-4">
                    <span className="flex items-center gap-2">
                      <span className="h-2.5 flex-1 rounded-sm bg-rule-2" aria-hidden>
                        <span
                          className={`drawn-bar block h-full rounded-sm ${p.reached < 0.5 ? 'bg-brick' : 'bg-dill'}`}
                          style={{ width: `${p.reached * 100}%` }}
                        />
                      </span>
                      <span className="w-11 text-right">{percent(p.reached)}</span>
                    </span>
                  </td>
                  <td className="py-1.5 pr-4">
                    {needs.length === 0 ? (
                      <span className="text-ink-2">{say('nobody')}</span>
                    ) : (
                      <details>
                        <summary className="cursor-pointer">{say('{needs, plural, one {# person} other {# people}}', { needs: needs.length })}</summary>
                        <p className="mt-1">{needs.join(', ')}</p>
                        <button
                          type="button"
                          className="link"
                          onClick={() =>
                            copyText(needs.join('\n'), say('{needs, plural, one {# name} other {# names}} in the clipboard.', { needs: needs.length }))
                          }
                        >
                          {say('Copy the names')}
                        </button>
                      </details>
                    )}
                  </td>
                  {mayEdit && (
                    <td className="py-0.5 text-right">
                      <Button
                        look="quiet"
                        disabled={retake.isPending}
                        aria-label={say('Make a retake of {nameOfPart}', { nameOfPart: nameOfPart(p.name) })}
                        onClick={() => retake.mutate(p.items)}
                      >
                        <Repeat size={15} aria-hidden /> {say('Retake')}
                      </Button>
                    </td>
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
    </>
  );
}
