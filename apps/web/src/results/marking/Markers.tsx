/** How far two people agree who marked the same answers, and where they differ, for a third to decide. */
import { agreementOf, counted, doubleMarks, markerPairs, type TwoMarkers } from '@zakuska/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useOpenSet } from '../../set/context.js';
import { orNone, percent, written } from '../../ui/figures.js';
import type { Attempt, Kept } from '../sources.js';

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
    <section aria-label={`${pair.first} and ${pair.second}`} className="mb-5 max-w-3xl rounded-lg border border-rule bg-sheet p-4 text-sm">
      <h2 className="font-bold">
        {pair.first} and {pair.second} marked the same {counted(a.n, 'answer')}
      </h2>
      <p className="mt-1">
        The same points for {a.same} ({percent(a.same / a.n)}). Agreement beyond chance (Cohen’s κ) {orNone(a.kappa)}, weighted by how far apart they are{' '}
        {orNone(a.weighted)}.{Math.abs(a.stricter) > 1e-9 && ` ${more} gives ${written(Math.abs(a.stricter))} more on average.`}
      </p>
      {differ.length > 0 && (
        <>
          <p className="mt-2">They differ here. The last mark counts; a third person decides by marking once more:</p>
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
                    {hidden ? `answer ${n + 1}` : (attempts[n]?.name ?? 'somebody')}, item {labelOf(x.item)}
                  </Link>
                  : {written(x.points[0])} and {written(x.points[1])}
                </li>
              );
            })}
          </ul>
        </>
      )}
    </section>
  );
}
