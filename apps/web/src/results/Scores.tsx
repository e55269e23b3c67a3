/** How scores are spread: the figures of the test, and a bar for each stretch of points. */
import { type Analysis, type Bar, type DotStack, dotStacks, type GradeEdge, gradeEdges, type GradeStep, histogram } from '@zakuska/core';
import { max, scaleBand, scaleLinear } from 'd3';
import { useMemo, useState } from 'react';
import { number, orNone, written } from '../ui/figures.js';
import { GradeCounts } from './Grades.js';
import type { Attempt } from './sources.js';
import { say } from '../words/say.js';

const [WIDE, HIGH, BELOW, LEFT, RIGHT] = [640, 220, 34, 34, 626];

interface Props {
  analysis: Analysis;
  attempts: readonly Attempt[];
  grades: readonly GradeStep[] | undefined;
  /** The share of the points that each person has. */
  shares: readonly number[];
}
export function Scores({ analysis, attempts, grades, shares }: Props) {
  const { figures: f, maximum } = analysis;
  const bars = useMemo(
    () =>
      histogram(
        attempts.map((a) => a.points),
        maximum,
      ),
    [attempts, maximum],
  );
  const most = max(bars, (b) => b.n) ?? 0;
  const x = scaleBand(
    bars.map((b) => b.from),
    [LEFT, RIGHT],
  ).padding(0.12);
  const y = scaleLinear([0, Math.max(1, most)], [HIGH, 8]).nice();
  const points = scaleLinear([bars[0]?.from ?? 0, bars.at(-1)?.to ?? 1], [LEFT, RIGHT]);
  const last = bars.length - 1;
  const [each, setEach] = useState(false);
  const dots = useMemo(() => dotsOf(attempts, bars), [attempts, bars]);
  return (
    <div className="grid max-w-5xl items-start gap-6 lg:grid-cols-[minmax(0,1fr)_280px]">
      <figure className="rounded-lg border border-rule bg-sheet p-4">
        <figcaption className="mb-2 flex flex-wrap items-baseline justify-between gap-2">
          <b>{say('People by points')}</b>
          <label className="flex items-center gap-1.5 text-sm">
            <input type="checkbox" checked={each} onChange={(e) => setEach(e.target.checked)} />
            {say('each person a dot')}
          </label>
        </figcaption>
        <svg
          viewBox={`0 0 ${WIDE} ${HIGH + BELOW}`}
          className="w-full"
          role="img"
          aria-label={say('How {n} scores are spread; the table below says the same.', { n: f.n })}
        >
          {each
            ? dots.stacks.map((stack) =>
                stack.people.map((person, n) => (
                  <circle key={attempts[person]?.id} cx={points(stack.at)} cy={HIGH - (n + 0.5) * dots.size} r={dots.size * 0.44} className="fill-beet">
                    <title>{`${attempts[person]?.name}: ${number(attempts[person]?.points ?? 0)}`}</title>
                  </circle>
                )),
              )
            : bars.map((b) => <rect key={b.from} x={x(b.from)} width={x.bandwidth()} y={y(b.n)} height={HIGH - y(b.n)} className="fill-beet" />)}
          {!each &&
            y
              .ticks(4)
              .filter(Number.isInteger)
              .map((t) => (
                <g key={t}>
                  <line x1={LEFT} x2={RIGHT} y1={y(t)} y2={y(t)} className="stroke-rule-2" />
                  <text x={LEFT - 6} y={y(t) + 4} textAnchor="end" className="fill-ink-2 text-[12px]">
                    {t}
                  </text>
                </g>
              ))}
          {each && <line x1={LEFT} x2={RIGHT} y1={HIGH} y2={HIGH} className="stroke-rule-2" />}
          {points.ticks(10).map((t) => (
            <text key={t} x={points(t)} y={HIGH + 16} textAnchor="middle" className="fill-ink-2 text-[12px]">
              {number(t)}
            </text>
          ))}
          <line x1={points(f.mean)} x2={points(f.mean)} y1={4} y2={HIGH} strokeDasharray="4 3" className="stroke-ink" />
          <text x={points(f.mean)} y={HIGH + 31} textAnchor="middle" className="fill-ink text-[12px]">
            {say('mean {number}', { number: number(f.mean) })}
          </text>
        </svg>
        <details className="mt-2 text-sm">
          <summary className="cursor-pointer">{say('As a table')}</summary>
          <table className="mt-1">
            <thead>
              <tr className="text-left">
                <th className="pr-6 font-semibold">{say('Points')}</th>
                <th className="font-semibold">{say('People')}</th>
              </tr>
            </thead>
            <tbody>
              {bars.map((b, i) => (
                <tr key={b.from}>
                  <td className="pr-6">
                    {i === last
                      ? say('{from} to {to}', { from: written(b.from), to: written(b.to) })
                      : say('{from} to below {to}', { from: written(b.from), to: written(b.to) })}
                  </td>
                  <td>{b.n}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </figure>
      <div>
        <dl className="grid content-start gap-2 text-sm">
          {(
            [
              [say('People'), String(f.n)],
              [say('Mean'), say('{written} of {written2}', { written: written(f.mean), written2: written(maximum) })],
              [say('Median'), written(f.median)],
              [say('Half of all between'), say('{written} and {written2}', { written: written(f.quartiles[0]), written2: written(f.quartiles[1]) })],
              [say('Standard deviation'), written(f.sd)],
              [say('Skew'), orNone(f.skew)],
              [say('Reliability (α)'), orNone(f.alpha)],
              [say('Reliability (ω)'), orNone(f.omega)],
              [say('Standard error of a score'), orNone(f.standardError)],
            ] as const
          ).map(([what, value]) => (
            <div key={what} className="flex justify-between gap-4 border-b border-rule-2 pb-1">
              <dt className="text-ink-2">{what}</dt>
              <dd className="font-[650]">{value}</dd>
            </div>
          ))}
        </dl>
        {f.standardError !== null && (
          <p className="mt-2 text-[13px] text-ink-2">
            {say(
              'By chance alone a score is off by {number} {standardError, plural, one {point} other {points}} or less in two cases of three: a difference of less than {number2} between two learners says little.',
              { number: number(f.standardError, 1), number2: number(f.standardError * 2, 1), standardError: f.standardError },
            )}
          </p>
        )}
        {grades && maximum > 0 && <GradeCounts steps={grades} shares={shares} />}
        {grades && maximum > 0 && f.standardError !== null && (
          <Edges edges={gradeEdges(shares, grades, f.standardError / maximum)} names={attempts.map((a) => a.name)} />
        )}
      </div>
    </div>
  );
}

/** Widest and smallest dot, in units of the drawing. */
const [LARGEST, SMALLEST] = [18, 2];
/** A dot for each, as large as lets the highest stack stand in the drawing. */
function dotsOf(attempts: readonly Attempt[], bars: readonly Bar[]): { size: number; stacks: DotStack[] } {
  const totals = attempts.map((a) => a.points);
  const unit = ((bars.at(-1)?.to ?? 1) - (bars[0]?.from ?? 0)) / (RIGHT - LEFT);
  for (let size = LARGEST; ; size -= 0.5) {
    const stacks = dotStacks(totals, size * unit);
    if (size <= SMALLEST || (max(stacks, (s) => s.people.length) ?? 0) * size <= HIGH - 8) return { size, stacks };
  }
}

/** Whose grade hangs on chance: they lie within a standard error of where one begins. */
function Edges({ edges, names }: { edges: readonly GradeEdge[]; names: readonly string[] }) {
  if (!edges.length) return null;
  const people = (at: readonly number[]): string => at.map((n) => names[n] ?? '').join(', ');
  return (
    <details className="mt-3 text-sm">
      <summary className="cursor-pointer font-semibold">
        {say('Near the edge of a grade: {what, plural, one {# person} other {# people}}', {
          what: new Set(edges.flatMap((e) => [...e.over, ...e.under])).size,
        })}
      </summary>
      <p className="text-[13px] text-ink-2">
        {say('Within one standard error of where a grade begins: with another set of such items it might be the other one.')}
      </p>
      <ul className="mt-1 grid gap-1.5">
        {edges.map(({ step, over, under }) => (
          <li key={step.name}>
            <b>{step.name}</b>
            {over.length > 0 && <span className="block">{say('have it: {people}', { people: people(over) })}</span>}
            {under.length > 0 && <span className="block">{say('have it not: {people}', { people: people(under) })}</span>}
          </li>
        ))}
      </ul>
    </details>
  );
}
