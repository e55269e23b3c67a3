/** The receipt of a push: what became of it, and the rehearsal of what arrived. */
import { ExternalLink } from 'lucide-react';
import type { ReactNode } from 'react';
import type { PushedItem, PushView } from './push.js';
import { RehearsalView } from './RehearsalView.js';
import { locale, say } from '../words/say.js';
import { retold } from '../words/retold.js';

/** How many of what. */
const SAID: readonly [PushedItem['status'], string][] = [
  ['arrived', say('arrived')],
  ['changed', say('changed')],
  ['same', say('as before')],
  ['taken out', say('taken out')],
  ['refused', say('refused')],
  ['waiting', say('not sent')],
];

export function ReceiptView({ push, again }: { push: PushView; again?: (() => void) | undefined }) {
  const { items = [], link, problem, rehearsal, unrehearsed, adapted = [] } = push.report;
  const when = new Date(push.createdAt).toLocaleString(locale(), { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  const counts = SAID.flatMap(([status, words]) => {
    const n = items.filter((i) => i.status === status).length;
    return n ? [`${n} ${words}`] : [];
  });
  const onTheWay = adapted.filter((n) => n.fit !== 'impossible' && !n.minor).length;
  let said: ReactNode = null;
  if (push.state === 'failed' || push.state === 'stopped')
    said = (
      <p className={push.state === 'failed' ? 'text-brick' : 'text-amber'}>
        {problem ?? say('Stopped before all of it was sent.')}{' '}
        {again && (
          <button type="button" className="link" onClick={again}>
            {push.state === 'failed' ? say('Try again') : say('Go on')}
          </button>
        )}
      </p>
    );
  return (
    <section className="mt-4 border-t border-rule pt-3" aria-label={say('Receipt of {when}', { when })}>
      <h3 className="font-semibold">{say('Receipt, {when}', { when })}</h3>
      {said}
      {counts.length > 0 && (
        <p>
          {counts.join(', ')}.{' '}
          {link && push.state === 'done' && (
            <a className="link inline-flex items-center gap-1" href={link} target="_blank" rel="noreferrer">
              {say('Open')} <ExternalLink size={13} aria-hidden />
            </a>
          )}
        </p>
      )}
      {items
        .filter((i) => i.status === 'refused')
        .map((i) => (
          <p key={i.key} className="text-[13.5px] text-brick">
            {i.name}: {retold(i.message ?? '')}
          </p>
        ))}
      {onTheWay > 0 && push.state === 'done' && (
        <details className="text-[13.5px] text-ink-2">
          <summary className="cursor-pointer">{say('{onTheWay, plural, one {One thing changed} other {# things changed}} on the way', { onTheWay })}</summary>
          <ul className="mt-1 grid gap-0.5">
            {adapted
              .filter((n) => n.fit !== 'impossible' && !n.minor)
              .map((n) => (
                <li key={`${n.item} ${n.message}`}>
                  <b className="font-semibold">{items.find((i) => i.item === n.item)?.name}</b> {retold(n.message)}
                </li>
              ))}
          </ul>
        </details>
      )}
      {rehearsal && <RehearsalView rehearsal={rehearsal} of={say('what arrived')} />}
      {unrehearsed && <p className="text-[13.5px] text-amber">{say('Not rehearsed: {unrehearsed}', { unrehearsed })}</p>}
    </section>
  );
}
