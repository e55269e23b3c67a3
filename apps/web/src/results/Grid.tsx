/** Learners against items: who got what, from most missed, and the item that is looked at. */
import { type Analysis, counted, type GradeStep, gradeOf, type Item, nameOf, type QuizSet } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { number } from './figuresWords.js';
import { ItemSheet } from './ItemSheet.js';
import { PersonSheet } from './PersonSheet.js';
import type { Attempt } from './sources.js';
import { LOOKS, SIGNS, WORDS } from './states.js';

/** What practice took, all items together. */
function practiceWords(practice: NonNullable<Attempt['practice']>): string {
  const all = Object.values(practice);
  const sum = (of: (p: (typeof all)[number]) => number): number => all.reduce((n, p) => n + of(p), 0);
  const hints = sum((p) => p.hints);
  return `${counted(
    sum((p) => p.tries),
    'try',
    'tries',
  )}${hints ? `, ${counted(hints, 'hint')}` : ''}, ${sum((p) => (p.first === 'right' ? 1 : 0))} right at once`;
}

interface Props {
  analysis: Analysis;
  attempts: Attempt[];
  /** The set with the keys that count. */
  set: QuizSet;
  grades: readonly GradeStep[] | undefined;
  source: string;
  labelOf: (item: Item) => string;
}
export function Grid({ analysis, attempts, set, grades, source, labelOf: label }: Props) {
  const order = useMemo(() => analysis.items.toSorted((a, b) => a.figures.difficulty - b.figures.difficulty).map((i) => i.item), [analysis]);
  // what waits for a person stands behind, and counts once nobody waits
  const columns = [...order, ...analysis.waiting];
  const [picked, setPicked] = useState<string>();
  const [person, setPerson] = useState<string>();
  const item = columns.find((i) => i.id === picked) ?? columns[0];
  const { maximum } = analysis;
  return (
    <div className="grid grid-cols-1 items-start gap-6 xl:grid-cols-[minmax(0,1fr)_370px]">
      <section className="relative overflow-x-auto border border-rule bg-sheet p-2.5" tabIndex={0} aria-label="Learners and items">
        <table className="w-full border-separate border-spacing-0.5 text-[13px]">
          <thead>
            <tr>
              <th className="px-1 text-left font-semibold text-ink-2">Learner</th>
              {columns.map((i) => (
                <th key={i.id} className="p-0">
                  <button
                    type="button"
                    aria-pressed={i.id === item?.id}
                    aria-label={`Item ${label(i)}: ${nameOf(i, 60)}`}
                    onClick={() => setPicked(i.id)}
                    className={`h-7 w-full min-w-6 cursor-pointer rounded font-semibold hover:bg-beet-soft ${i.id === item?.id ? 'text-beet outline-2 outline-beet' : 'text-ink-2'}`}
                  >
                    {label(i)}
                  </button>
                </th>
              ))}
              <th className="px-1 text-right font-semibold whitespace-nowrap text-ink-2">of {number(maximum)}</th>
              {grades && <th className="px-1 text-left font-semibold text-ink-2">Grade</th>}
            </tr>
          </thead>
          <tbody>
            {attempts.map((a) => (
              <tr key={a.id}>
                <th scope="row" className="max-w-72 truncate px-1 text-left font-normal">
                  <button type="button" className="cursor-pointer rounded hover:text-beet hover:underline" onClick={() => setPerson(a.id)}>
                    {a.name}
                  </button>
                  {a.attempt > 1 && <span className="ml-1.5 text-[12.5px] font-normal text-amber">attempt {a.attempt}</span>}
                  {a.late && <span className="ml-1.5 text-[12.5px] text-amber">arrived late, answered in time</span>}
                  {a.byClock && <span className="ml-1.5 text-[12.5px] text-amber">ended by the clock</span>}
                  {a.practice && <span className="ml-1.5 text-[12.5px] text-ink-2">{practiceWords(a.practice)}</span>}
                  {a.sameDeviceAs && (
                    <span className="ml-1.5 text-[12.5px] font-normal text-ink-2" title={`${a.sameDeviceAs} had handed in on this device before`}>
                      device of {a.sameDeviceAs}
                    </span>
                  )}
                </th>
                {columns.map((i) => {
                  const state = a.marks[i.id]?.state ?? 'unanswered';
                  return (
                    <td key={i.id} className={`h-[26px] text-center ${LOOKS[state]}`} title={`${a.name}, item ${label(i)}: ${WORDS[state]}`}>
                      <span aria-hidden>{SIGNS[state]}</span>
                      <span className="sr-only">{WORDS[state]}</span>
                    </td>
                  );
                })}
                <td className="px-1 text-right font-[650]">{number(a.points)}</td>
                {grades && <td className="px-1 whitespace-nowrap">{maximum ? gradeOf(a.points / maximum, grades) : ''}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {item && <ItemSheet item={item} label={label(item)} attempts={attempts} analysis={analysis} source={source} />}
      {person !== undefined && (
        <PersonSheet
          results={{ set, sittings: attempts, grades }}
          at={attempts.findIndex((a) => a.id === person)}
          source={source}
          labelOf={label}
          onGo={(at) => setPerson(attempts[at]?.id)}
          onClose={() => setPerson(undefined)}
        />
      )}
    </div>
  );
}
