/** What is shown of results: learners against items, how scores are spread, what was reached by outcome, or what to talk over. */
import { analyse, type Item, type QuizSet, toDiscuss } from '@zakuska/core';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { number, orNone } from '../ui/figures.js';
import { GradesDialog } from './Grades.js';
import { Grid } from './Grid.js';
import { Groups } from './Groups.js';
import { Model } from './Model.js';
import { Parts } from './Parts.js';
import { Scores } from './Scores.js';
import type { Attempt } from './sources.js';
import { TalkOver } from './TalkOver.js';
import { say } from '../words/say.js';

const VIEWS = {
  grid: say('Learners and items'),
  scores: say('Scores'),
  parts: say('Outcomes and parts'),
  groups: say('Groups'),
  talk: say('To talk over'),
} as const;
type View = keyof typeof VIEWS;

interface Props {
  set: QuizSet;
  /** The set as it was sent. */
  sent: QuizSet;
  attempts: Attempt[];
  source: string;
}
export function Shown({ set, sent, attempts, source }: Props) {
  const [params, setParams] = useSearchParams();
  const asked = params.get('see') ?? '';
  const see: View = asked in VIEWS ? (asked as View) : 'grid';
  const analysis = useMemo(() => analyse(set, attempts), [set, attempts]);
  const { figures: f, maximum } = analysis;
  const low = attempts.filter((a) => a.points < maximum / 2).length;
  const discuss = analysis.items.filter(toDiscuss).length;
  const open = attempts.filter((a) => analysis.waiting.some((e) => a.marks[e.id]?.state === 'by-hand')).length;
  const { document: doc, mayEdit } = useOpenSet();
  const grades = doc.aim?.grades;
  const [grading, setGrading] = useState(false);
  const shares = maximum ? attempts.map((a) => a.points / maximum) : [];
  // numbers are those that people met, also where an item was left out since
  const labelOf = useCallback((i: Item): string => i.label ?? String(sent.items.findIndex((x) => x.id === i.id) + 1), [sent]);
  return (
    <>
      <dl className="flex flex-wrap gap-x-7 gap-y-2 pb-3">
        {(
          [
            [String(f.n), `responses${open ? say(', {open} to mark by hand', { open }) : ''}`],
            [number(f.mean), say('mean of {number}', { number: number(maximum) })],
            [number(f.median), say('median')],
            [number(f.sd), say('SD')],
            [orNone(f.alpha), say('reliability (α)')],
            [orNone(f.standardError, 1), say('standard error')],
            [String(discuss), say('items to discuss')],
            [String(low), say('learners under half')],
          ] as const
        ).map(([value, what]) => (
          <div key={what} className="flex flex-col-reverse">
            <dt className="text-[13px] text-ink-2">{what}</dt>
            <dd className="text-xl/6 font-[650]">{value}</dd>
          </div>
        ))}
      </dl>
      <nav aria-label={say('What is shown')} className="mb-3 flex flex-wrap gap-1 border-b border-rule">
        {(Object.keys(VIEWS) as View[]).map((v) => (
          <button
            key={v}
            type="button"
            aria-current={v === see}
            onClick={() =>
              setParams(
                (now) => {
                  now.set('see', v);
                  return now;
                },
                { replace: true },
              )
            }
            className={`-mb-px cursor-pointer border-b-[3px] px-2 py-1 text-sm font-semibold ${v === see ? 'border-beet text-beet' : 'border-transparent text-ink-2 hover:border-rule'}`}
          >
            {VIEWS[v]}
          </button>
        ))}
        {mayEdit && (
          <Button look="quiet" className="ml-auto" onClick={() => setGrading(true)}>
            {say('Grades …')}
          </Button>
        )}
      </nav>
      {grading && <GradesDialog points={attempts.map((a) => a.exact ?? a.points)} maximum={maximum} onClose={() => setGrading(false)} />}
      {see === 'grid' ? (
        <Grid analysis={analysis} attempts={attempts} set={set} grades={grades} rounding={doc.aim?.rounding} source={source} labelOf={labelOf} />
      ) : see === 'scores' ? (
        <>
          <Scores analysis={analysis} attempts={attempts} grades={grades} shares={shares} />
          <Model analysis={analysis} attempts={attempts} labelOf={labelOf} />
        </>
      ) : see === 'parts' ? (
        <Parts set={set} attempts={attempts} />
      ) : see === 'groups' ? (
        <Groups set={set} attempts={attempts} labelOf={labelOf} />
      ) : (
        <TalkOver analysis={analysis} set={set} source={source} labelOf={labelOf} />
      )}
    </>
  );
}
