/** How far two people agree who marked the same answers, and where they differ, for a third to decide. */
import { agreementOf, doubleMarks, markerPairs, type TwoMarkers } from '@zakuska/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useOpenSet } from '../../set/context.js';
import { orNone, percent, written } from '../../ui/figures.js';
import type { Attempt, Kept } from '../sources.js';
import { say } from '../../words/say.js';

interface Props {
  decisions: readonly Kept[];
  attempts: readonly Attempt[];
  hidden: boolean;
  source: string;
  labelOf: (item: string) => string;
  /** Somebody goes to an answer. */
  onGo: () => void;
}
export function Markers({ decisions, ...rest }: Props) {
  const pairs = useMemo(() => markerPairs(doubleMarks(decisions.filter((k) => !k.takenBack))), [decisions]);
  return pairs.map((p) => <Pair key={`${p.first} ${p.second}`} pair={p} {...rest} />);
}

function Pair({ pair, attempts, hidden, source, labelOf, onGo }: Omit<Props, 'decisions'> & { pair: TwoMarkers }) {
  const { view } = useOpenSet();
  const a = agreementOf(pair.answers.map((x) => x.points));
  const differ = pair.answers.filter((x) => x.points[0] !== x.points[1]);
  const more = a.stricter < 0 ? pair.first : pair.second;
  return (
    <section
      aria-label={say('{first} and {second}', { first: pair.first, second: pair.second })}
      className="mb-5 max-w-3xl rounded-lg border border-rule bg-sheet p-4 text-sm"
    >
      <h2 className="font-bold">
        {say('{first} and {second} marked the same {n, plural, one {# answer} other {# answers}}', { first: pair.first, second: pair.second, n: a.n })}
      </h2>
      <p className="mt-1">
        {say('The same points for {same} ({percent}). Agreement beyond chance (Cohen’s κ) {orNone}, weighted by how far apart they are {orNone2}.{more}', {
          same: a.same,
          percent: percent(a.same / a.n),
          orNone: orNone(a.kappa),
          orNone2: orNone(a.weighted),
          more: Math.abs(a.stricter) > 1e-9 && say(' {more} gives {written} more on average.', { more, written: written(Math.abs(a.stricter)) }),
        })}
      </p>
      {differ.length > 0 && (
        <>
          <p className="mt-2">{say('They differ here. The last mark counts; a third person decides by marking once more:')}</p>
          <ul className="mt-1 grid gap-1">
            {differ.map((x) => {
              const n = attempts.findIndex((p) => p.id === x.attempt);
              return (
                <li key={`${x.attempt} ${x.item}`}>
                  <Link
                    className="link"
                    onClick={onGo}
                    to={`/sets/${view.id}/results/marking?of=${source}&item=${x.item}&by=one&who=${encodeURIComponent(x.attempt)}`}
                  >
                    {say('{what}, item {label}', {
                      what: hidden ? say('answer {n}', { n: n + 1 }) : (attempts[n]?.name ?? say('somebody')),
                      label: labelOf(x.item),
                    })}
                  </Link>
                  {say(': {written} and {written2}', { written: written(x.points[0]), written2: written(x.points[1]) })}
                </li>
              );
            })}
          </ul>
        </>
      )}
    </section>
  );
}
