/** How one item worked: its figures, who answered what, how able those were, and what is worth a look. */
import { type Analysis, type Item, type ItemAnalysis, letterOf, type OptionFigures, richToPlain, type Response } from '@zakuska/core';
import { line, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { Rich } from '../ui/Rich.js';
import { duration, remarkWords } from './figuresWords.js';
import { number, orNone, percent } from '../ui/figures.js';
import type { Attempt } from './sources.js';
import { say } from '../words/say.js';

/** Typed answers that are shown. */
const SHOWN = 8;
/** Below this an item sorts people hardly at all. Common practice, no source. */
const WEAK = 0.1;

/** One answer with all who gave it. */
interface Given {
  key: string;
  /** The letter of an option. */
  letter?: string;
  text: string;
  n: number;
  right: boolean;
  worked?: OptionFigures;
}

/** What was typed, in a few words; what was put together in another way is not told here. */
function typed(r: Response | undefined): string {
  if (!r) return say('no answer');
  if ('text' in r) return r.text.trim() || say('no answer');
  if ('gaps' in r) return Object.values(r.gaps).join(' / ');
  return '';
}

function answersOf(item: Item, attempts: readonly Attempt[], analysis: Analysis): Given[] {
  const own = analysis.items.find((i) => i.item.id === item.id);
  if (own?.options.length)
    return own.options.map((worked, n): Given => {
      const option = 'options' in item ? item.options[n] : undefined;
      return {
        key: worked.id,
        ...(option && { letter: letterOf(n) }),
        text: option ? richToPlain(option.content) : worked.id,
        n: worked.n,
        right: own.keys.has(worked.id),
        worked,
      };
    });
  const counts = new Map<string, { n: number; right: boolean }>();
  for (const a of attempts) {
    const text = typed(a.responses[item.id]);
    if (!text) continue;
    const known = counts.get(text) ?? { n: 0, right: a.marks[item.id]?.state === 'right' };
    known.n++;
    counts.set(text, known);
  }
  return [...counts]
    .sort((a, b) => b[1].n - a[1].n)
    .slice(0, SHOWN)
    .map(([text, c]) => ({ key: text, text, ...c }));
}

interface Props {
  item: Item;
  label: string;
  attempts: Attempt[];
  analysis: Analysis;
  source: string;
}
export function ItemSheet({ item, label, attempts, analysis, source }: Props) {
  const { view } = useOpenSet();
  const own = analysis.items.find((i) => i.item.id === item.id);
  const rows = useMemo(() => answersOf(item, attempts, analysis), [item, attempts, analysis]);
  const width = scaleLinear([0, Math.max(1, ...rows.map((r) => r.n))], [0, 100]);
  return (
    <aside aria-label={say('Item {label}', { label })} className="rounded-lg border border-rule bg-sheet p-4">
      <div className="mb-2 flex gap-1.5 text-[17px]/[1.35] font-bold">
        <span>{label}.</span>
        <Rich text={item.stem} />
      </div>
      {own ? (
        <dl className="mb-3 flex flex-wrap gap-x-6 gap-y-2">
          {(
            [
              [
                percent(own.figures.difficulty),
                say('of the points ({percent} to {percent2})', { percent: percent(own.figures.interval[0]), percent2: percent(own.figures.interval[1]) }),
                false,
              ],
              [orNone(own.figures.discrimination), say('discrimination'), (own.figures.discrimination ?? 1) < WEAK],
              [orNone(own.figures.upperLower), say('upper less lower 27 %'), false],
              [orNone(own.figures.alphaWithout), say('α without it'), false],
            ] as const
          ).map(([value, what, weak]) => (
            <div key={what} className="flex flex-col-reverse">
              <dt className="text-[13px] text-ink-2">{what}</dt>
              <dd className={`text-xl/6 font-[650] ${weak ? 'text-amber' : ''}`}>{value}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="mb-2 text-ink-2">
          {say('{attempts} to mark by hand. It counts once all are marked.', {
            attempts: attempts.filter((a) => a.marks[item.id]?.state === 'by-hand').length,
          })}
        </p>
      )}
      {own && <HowItWent own={own} attempts={attempts} />}
      <ul className="grid gap-1.5 text-sm">
        {rows.map((r) => (
          <li key={r.key} className="grid grid-cols-[minmax(0,1fr)_88px_28px_52px] items-center gap-2">
            <span className={`truncate ${r.right ? 'font-bold text-dill' : ''}`} title={r.text}>
              {r.letter && `${r.letter}. `}
              {r.text}
              {r.right && <span className="sr-only"> {say('(right)')}</span>}
            </span>
            <span className="h-4 bg-rule-2" aria-hidden>
              <span className={`drawn-bar block h-4 rounded-xs ${r.right ? 'bg-dill' : 'bg-rule'}`} style={{ width: `${width(r.n)}%` }} />
            </span>
            <span className="text-right text-ink-2">{r.n}</span>
            {r.worked?.fifths.length ? <Curve worked={r.worked} right={r.right} /> : <span />}
          </li>
        ))}
      </ul>
      {rows.some((r) => r.worked?.fifths.length) && (
        <p className="mt-1.5 text-[12.5px] text-ink-2">
          {say('The lines: how many chose it, from the fifth with the fewest points on the rest to the fifth with the most.')}
        </p>
      )}
      {own &&
        remarkWords(own).map((said) => (
          <p key={said} className="mt-3 text-[13.5px]">
            {said}
          </p>
        ))}
      <p className="mt-3 text-sm">
        <Link className="link" to={`/sets/${view.id}/results/marking?of=${source}&item=${item.id}`}>
          {own ? say('Change what counts here') : say('Mark these answers')}
        </Link>
      </p>
    </aside>
  );
}

/** How long it took, what it took, and who gave no answer, as far as that is known. */
function HowItWent({ own, attempts }: { own: ItemAnalysis; attempts: readonly Attempt[] }) {
  const { seconds, omitted, notReached, item } = own;
  const practised = attempts.flatMap((a) => a.practice?.[item.id] ?? []).filter((p) => p.tries > 0);
  const mean = (of: (p: (typeof practised)[number]) => number): string => number(practised.reduce((sum, p) => sum + of(p), 0) / practised.length, 1);
  const said = [
    seconds &&
      say('Looked at for {duration} in the middle, half of all between {duration2} and {duration3}.', {
        duration: duration(seconds.median),
        duration2: duration(seconds.quartiles[0]),
        duration3: duration(seconds.quartiles[1]),
      }),
    practised.length > 0 && say('On average {mean} tries and {mean2} hints.', { mean: mean((p) => p.tries), mean2: mean((p) => p.hints) }),
    omitted > 0 && say('Left out by {percent}.', { percent: percent(omitted) }),
    notReached > 0 && say('Not reached by {percent}.', { percent: percent(notReached) }),
  ].filter(Boolean);
  return said.length ? <p className="mb-3 text-[13.5px] text-ink-2">{said.join(' ')}</p> : null;
}

const [WIDE, HIGH] = [52, 18];
/** Who chose an option, from the least able fifth to the ablest. */
function Curve({ worked, right }: { worked: OptionFigures; right: boolean }) {
  const x = scaleLinear([0, worked.fifths.length - 1], [1, WIDE - 1]);
  const y = scaleLinear([0, 1], [HIGH - 1, 1]);
  const path = line<number>()
    .x((_, i) => x(i))
    .y((share) => y(share))(worked.fifths);
  const said = say('{fifths}, from the least able fifth to the ablest', { fifths: worked.fifths.map(percent).join(', ') });
  return (
    <svg role="img" aria-label={said} width={WIDE} height={HIGH} className="overflow-visible">
      <title>
        {say('{said}; correlation with the rest {what}', { said, what: worked.discrimination === null ? say('unknown') : number(worked.discrimination, 2) })}
      </title>
      <line x1={0} x2={WIDE} y1={HIGH - 0.5} y2={HIGH - 0.5} className="stroke-rule" />
      <path d={path ?? ''} fill="none" strokeWidth={2} className={right ? 'stroke-dill' : 'stroke-ink-2'} />
    </svg>
  );
}
