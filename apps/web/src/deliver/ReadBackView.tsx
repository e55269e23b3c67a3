/** What reading a paper again has shown: that all stands on it, or what does not. */
import { type ReadBack } from '@zakuska/core';
import { Check, TriangleAlert } from 'lucide-react';
import { retold } from '../words/retold.js';
import { listed, say } from '../words/say.js';

export function ReadBackView({ back: { items, keys, differences } }: { back: ReadBack }) {
  const what = listed(
    [
      items && say('{items, plural, one {# question} other {# questions}}', { items }),
      keys && say('{keys, plural, one {# key} other {# keys}}', { keys }),
    ].filter((w) => w !== 0),
  );
  const ok = !differences.length;
  return (
    <section className="mt-2" aria-label={say('Read again')}>
      <p className={`flex items-start gap-1.5 text-[13.5px] ${ok ? 'text-ink-2' : 'text-brick'}`}>
        {ok ? <Check size={15} className="mt-0.5 shrink-0 text-dill" aria-hidden /> : <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-hidden />}
        <span>
          {ok
            ? say('Read again from the file: {what} stand there as in the set.', { what })
            : say('Read again from the file: {differences, plural, one {# difference} other {# differences}} from the set.', {
                differences: differences.length,
              })}
        </span>
      </p>
      {!ok && (
        <ul className="mt-1 grid gap-1 text-[13.5px]">
          {differences.slice(0, 20).map((d) => (
            <li key={`${d.item ?? ''} ${d.message}`}>
              <b className="font-semibold">{d.name}</b> {retold(d.message)}.
            </li>
          ))}
          {differences.length > 20 && <li>{say('and {n} more', { n: differences.length - 20 })}</li>}
        </ul>
      )}
    </section>
  );
}
