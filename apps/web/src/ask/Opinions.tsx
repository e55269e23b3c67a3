/** What a second opinion says of the keys: how many agree, and each one that does not with its answer and its reason. */
import { keySign, nameOf, type Opinion } from '@zakuska/core';
import { Link } from 'react-router';
import { ItemView } from '../item/ItemView.js';
import { say } from '../words/say.js';

export function Opinions({ opinions, set }: { opinions: readonly Opinion[]; set: string }) {
  const agree = opinions.filter((o) => o.agrees).length;
  const against = opinions.filter((o) => o.agrees === false);
  const silent = opinions.filter((o) => o.agrees === null);
  return (
    <section aria-label={say('Second opinion')} className="grid gap-3">
      <p role="status" className="text-sm">
        {agree === opinions.length
          ? say('{opinions, plural, one {# answer} other {# answers}}, and all agree with the keys.', { opinions: opinions.length })
          : say('{agree} of {opinions, plural, one {# answer} other {# answers}} agree with the keys{what}.', {
              agree,
              opinions: opinions.length,
              what: against.length ? say(', {against, plural, one {# does} other {# do}} not', { against: against.length }) : '',
            })}
        {silent.length > 0 && say(' {silent, plural, one {# item} other {# items}} without an answer that could be compared.', { silent: silent.length })}
      </p>
      <ul className="grid gap-3">
        {against.map((o) => (
          <li key={o.item.id}>
            <article aria-label={say('Disagreement: {name}', { name: nameOf(o.item, 60) })} className="grid gap-2 rounded border border-rule bg-sheet p-3">
              <p>
                <b className="text-brick">{say('key {keySign}, answered {said}', { keySign: keySign(o.item), said: o.said })}</b>
                {o.reason && (
                  <span dir="auto" className="text-ink-2">
                    {' '}
                    {o.reason}
                  </span>
                )}
              </p>
              <ItemView item={o.item} />
              <Link className="link text-sm" to={`/sets/${set}/check?item=${encodeURIComponent(o.item.id)}`}>
                {say('Go to the item')}
              </Link>
            </article>
          </li>
        ))}
      </ul>
      {silent.length > 0 && (
        <details className="text-sm text-ink-2">
          <summary className="cursor-pointer">{say('Not answered, or not to be compared')}</summary>
          <ul className="mt-1 grid gap-0.5">
            {silent.map((o) => (
              <li key={o.item.id} dir="auto">
                {nameOf(o.item, 80)}
                {o.said && `: “${o.said}”`}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
