/** After handing in: as much as the teacher lets be seen by now. */
import { useEffect, useRef, useState } from 'react';
import { NotYou } from './NotYou.js';
import type { AttemptState, Outcome } from './server.js';
import { Text } from './Text.js';
import { useSay } from './words/words.js';

export const STATES = { right: 'right', partly: 'partly', wrong: 'wrong', unanswered: 'noAnswer', 'by-hand': 'markedByTeacher' } as const;
const LOOK_AGAIN = 30_000;

interface Props {
  attempt: AttemptState;
  outcome: Outcome;
  leave?: ((unsent: boolean) => void) | undefined;
  /** What may be seen by now; absent where nothing more comes. */
  again?: (() => Promise<Outcome | undefined>) | undefined;
}
export function Result({ attempt, outcome: first, leave, again }: Props) {
  const say = useSay();
  const [outcome, setOutcome] = useState(first);
  const { points = 0, maximum = 0 } = outcome;
  const waits = outcome.later !== undefined;
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  useEffect(() => {
    if (!waits || !again) return;
    const timer = setInterval(
      () =>
        void again().then(
          (o) => o && setOutcome(o),
          () => undefined,
        ),
      LOOK_AGAIN,
    );
    return () => clearInterval(timer);
  }, [waits, again]);
  const numbers = new Map(attempt.items.filter((i) => i.kind !== 'information').map((i, n) => [i.id, n + 1]));
  const told = new Map(outcome.items?.map((o) => [o.id, o]));
  return (
    <main className="page">
      <div className="top">
        <h1>
          {attempt.title} · {attempt.name}
        </h1>
        <NotYou name={attempt.name} unsent={false} leave={leave} />
      </div>
      {/* what one has handed in is gone from the page: who listens goes on from here */}
      <h2 ref={heading} tabIndex={-1} style={{ outline: 'none' }}>
        {say('handedIn')}
      </h2>
      {outcome.byClock && <p className="error">{say('byClock')}</p>}
      {outcome.points === undefined ? (
        <p>
          {say('arrived')} {!outcome.later && !outcome.items && say('teacherTells')}
        </p>
      ) : (
        <>
          <p className="score">{say('score', { points, maximum, percent: maximum ? Math.round((100 * points) / maximum) : 0 })}</p>
          {outcome.late ? <p>{say('wasLate', { percent: outcome.late })}</p> : null}
          {outcome.byHand ? <p>{say('byHand', { n: outcome.byHand })}</p> : null}
        </>
      )}
      {outcome.later && <p>{outcome.later === 'closed' ? say('moreWhenClosed') : say('moreWhenReleased')}</p>}
      {outcome.items && (
        <ol className="list" {...(attempt.language && { lang: attempt.language })}>
          {attempt.items.map((item) => {
            const o = told.get(item.id);
            if (!o || item.kind === 'information') return null;
            return (
              <li key={o.id}>
                <p className="place">{say('question', { n: numbers.get(o.id) ?? 0 })}</p>
                <Text text={item.stem} />
                {o.state && <span className={`state ${o.state}`}>{say(STATES[o.state])}</span>}
                {o.answer && <div>{say('rightAnswer', { answer: o.answer })}</div>}
                {o.feedback?.map((f) => (
                  <Text key={f} className="passage" text={f} />
                ))}
              </li>
            );
          })}
        </ol>
      )}
    </main>
  );
}
