/** Answer an item as a learner and see the marks and the reason at once, with what can be done about it. Nothing is kept. */
import { asGiven, type Item, learnerView, mark, offersFor, type Operation, type QuizSet, type Response, seeded } from '@zakuska/core';
import { useEffect, useRef, useState } from 'react';
import { AnswerInput } from '../take/AnswerInput.js';
import { Button } from '../ui/Button.js';
import '../take/answers.css';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';

const chance = seeded('try');
const LOOKS = { right: 'text-dill', partly: 'text-amber', wrong: 'text-brick', unanswered: 'text-ink-2', 'by-hand': 'text-ink-2' } as const;

export function TryBox({ item, set, perform }: { item: Item; set: QuizSet; perform: ((o: Operation) => boolean) | null }) {
  const [shown, setShown] = useState<Response>();
  const given = shown && asGiven(item, shown, chance);
  const m = mark(item, given, set.language);
  const offers = perform ? offersFor(item, given, set.language) : [];
  const box = useRef<HTMLElement>(null);
  useEffect(() => void box.current?.querySelector<HTMLElement>('input, select, textarea, button')?.focus(), []);
  return (
    <section ref={box} data-own-keys="choices" aria-label={say('Try an answer')} className="mt-3 grid gap-2 rounded-md border border-rule bg-paper px-3 py-2.5">
      <AnswerInput item={learnerView(item, set, chance)} value={shown} onChange={setShown} />
      <p role="status" className="text-[13.5px]">
        <b className={LOOKS[m.state]}>{say('{points} of {points2, plural, one {# point} other {# points}}', { points: m.points, points2: item.points })}</b>{' '}
        <span className="text-ink-2">{retold(m.reason)}</span>
      </p>
      {offers.length > 0 && (
        <ul className="flex flex-wrap items-center gap-2">
          {offers.map((o) => (
            <li key={o.label + o.reason} className="flex flex-wrap items-center gap-2">
              {o.reason.startsWith('Gap') && <span className="text-[13.5px] text-ink-2">{retold(o.reason)}</span>}
              <Button onClick={() => perform?.({ type: 'all', label: o.label, operations: [o.operation] })}>{retold(o.label)}</Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
