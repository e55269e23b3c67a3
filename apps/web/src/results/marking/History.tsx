/** Who decided what on the answers, the latest first; each can be taken back. */
import type { QuizSet } from '@zakuska/core';
import { Button } from '../../ui/Button.js';
import type { Attempt, Kept } from '../sources.js';
import { decisionWords } from './words.js';
import { dayAndTime } from '../../ui/localTime.js';
import { say } from '../../words/say.js';

interface Props {
  decisions: readonly Kept[];
  set: QuizSet;
  attempts: readonly Attempt[];
  hidden: boolean;
  mayMark: boolean;
  labelOf: (item: string) => string;
  onBack: (id: string) => void;
}
export function History({ decisions, set, attempts, hidden, mayMark, labelOf, onBack }: Props) {
  if (!decisions.length) return <p className="text-sm text-ink-2">{say('Nothing was decided yet. All answers are marked by their items.')}</p>;
  return (
    <ol className="grid gap-2 text-sm">
      {[...decisions].reverse().map((k) => {
        const item = set.items.find((i) => i.id === k.decision.item);
        const attempt = k.decision.type === 'hand' ? k.decision.attempt : undefined;
        const who = hidden ? undefined : attempts.find((a) => a.id === attempt)?.name;
        return (
          <li key={k.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule-2 pb-2">
            <span className={`flex-1 basis-64 wrap-anywhere ${k.takenBack ? 'text-ink-2 line-through' : ''}`}>
              {decisionWords(k.decision, item, labelOf(k.decision.item), who)}
            </span>
            <span className="text-[13px] text-ink-2">
              {k.by || say('somebody')}, {dayAndTime(k.at)}
              {k.takenBack && say('; taken back by {by}', { by: k.takenBack.by || say('somebody') })}
            </span>
            {!k.takenBack && mayMark && (
              <Button look="quiet" onClick={() => onBack(k.id)}>
                {say('Take back')}
              </Button>
            )}
          </li>
        );
      })}
    </ol>
  );
}
