/** Answer an item as a learner and see the marks and the reason at once. Nothing is kept. */
import { type Item, learnerView, mark, type QuizSet, type Response } from '@zakuska/core';
import { useState } from 'react';
import { AnswerInput } from '../take/AnswerInput.js';
import '../take/answers.css';

const LOOKS = { right: 'text-dill', partly: 'text-amber', wrong: 'text-brick', unanswered: 'text-ink-2', 'by-hand': 'text-ink-2' } as const;

export function TryBox({ item, set }: { item: Item; set: QuizSet }) {
  const [given, setGiven] = useState<Response>();
  const m = mark(item, given, set.language);
  return (
    <section aria-label="Try an answer" className="mt-3 grid gap-2 rounded-md border border-rule bg-paper px-3 py-2.5">
      <AnswerInput item={learnerView(item, set, 'try')} value={given} onChange={setGiven} />
      <p role="status" className="text-[13.5px]">
        <b className={LOOKS[m.state]}>
          {m.points} of {item.points} points
        </b>{' '}
        <span className="text-ink-2">{m.reason}</span>
      </p>
    </section>
  );
}
