/** What reading a paper again has shown: that all stands on it, or what does not. */
import { counted, type ReadBack } from '@zakuska/core';
import { Check, TriangleAlert } from 'lucide-react';

export function ReadBackView({ back: { items, keys, differences } }: { back: ReadBack }) {
  const what = [items && counted(items, 'question'), keys && counted(keys, 'key')].filter(Boolean).join(' and ');
  const ok = !differences.length;
  return (
    <section className="mt-2" aria-label="Read again">
      <p className={`flex items-start gap-1.5 text-[13.5px] ${ok ? 'text-ink-2' : 'text-brick'}`}>
        {ok ? <Check size={15} className="mt-0.5 shrink-0 text-dill" aria-hidden /> : <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-hidden />}
        <span>
          {ok
            ? `Read again from the file: ${what} stand there as in the set.`
            : `Read again from the file: ${counted(differences.length, 'difference')} from the set.`}
        </span>
      </p>
      {!ok && (
        <ul className="mt-1 grid gap-1 text-[13.5px]">
          {differences.slice(0, 20).map((d) => (
            <li key={`${d.item ?? ''} ${d.message}`}>
              <b className="font-semibold">{d.name}</b> {d.message}.
            </li>
          ))}
          {differences.length > 20 && <li>and {differences.length - 20} more</li>}
        </ul>
      )}
    </section>
  );
}
