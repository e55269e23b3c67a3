/** What a rehearsal found: three scores, and the items that would mark otherwise than here. */
import type { Rehearsal } from '@zakuska/core';
import { Check, TriangleAlert } from 'lucide-react';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';

const percent = (part: number, whole: number): string => (whole ? `${Math.round((part / whole) * 1000) / 10} %` : '–');

export function RehearsalView({ rehearsal: r, of }: { rehearsal: Rehearsal; of: string }) {
  const odd = r.items.filter((i) => i.verdict === 'differs' || i.verdict === 'missing');
  const byHand = r.items.filter((i) => i.verdict === 'by-hand').length;
  const tried = r.items.reduce((s, i) => s + i.tried, 0);
  const asDue = Math.abs(r.half - r.halfDue) < 1e-3;
  const scores: [string, string, boolean][] = [
    [percent(r.right, r.maximum), say('all right'), r.right >= r.maximum - 1e-3],
    [percent(r.wrong, r.maximum), say('all wrong'), r.wrong <= 1e-3],
    [r.halfDue || r.half ? `${r.half} / ${r.halfDue}` : '–', say('half right: got / expected'), asDue],
  ];
  return (
    <section className="mt-2" aria-label={say('Rehearsal')}>
      {r.maximum > 0 && (
        <dl className="grid grid-cols-3 gap-2">
          {scores.map(([value, what, ok]) => (
            <div key={what} className="flex flex-col-reverse rounded border border-rule px-2 py-1.5">
              <dt className="text-[12.5px] text-ink-2">{what}</dt>
              <dd className={`text-[17px]/6 font-bold tabular-nums ${ok ? 'text-dill' : 'text-brick'}`}>{value}</dd>
            </div>
          ))}
        </dl>
      )}
      <p className={`mt-1.5 flex items-start gap-1.5 text-[13.5px] ${r.ok ? 'text-ink-2' : 'text-brick'}`}>
        {r.ok ? <Check size={15} className="mt-0.5 shrink-0 text-dill" aria-hidden /> : <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-hidden />}
        <span>
          {r.ok
            ? say('Rehearsed on {of} with {tried} responses: every key marks as it should.', { of, tried })
            : say('Rehearsed on {of}: {odd, plural, one {one item marks} other {# items mark}} otherwise than here.', { of, odd: odd.length })}
          {byHand > 0 && say(' {byHand, plural, one {One is} other {# are}} marked by a person.', { byHand })}
        </span>
      </p>
      {odd.length > 0 && (
        <ul className="mt-1 grid gap-1 text-[13.5px]">
          {odd.map((i) => (
            <li key={i.item}>
              <b className="font-semibold">{i.name}</b> {i.reason && retold(i.reason)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
