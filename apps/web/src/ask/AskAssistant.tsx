/** Sends a request to the assistant of the workspace, where there is one that may be asked; what comes back goes where replies are pasted. */
import { amountWords, measure, roomFor } from '@zakuska/core';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { useAsking, useAssistant } from '../set/assistant.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';

export interface Sends {
  purpose: Schemas['AskBody']['purpose'];
  /** Keeps the request with the set, so that its reply is kept too; gives its id where that was possible. */
  keep?: () => Promise<string | undefined>;
  /** Hears the reply, as far as it has come. */
  onReply: (text: string) => void;
}
interface Props extends Sends {
  text: string;
  /** The request cannot go out yet. */
  blocked: boolean;
}
export function AskAssistant({ text, blocked, purpose, keep, onReply }: Props) {
  const { view } = useOpenSet();
  const { data: a } = useAssistant(view.workspaceId);
  const { asked, busy, problem, ask, stop } = useAsking(view.id, view.workspaceId, onReply);
  if (!a?.there || (!a.mine.may && !asked)) return null;
  const words = (n: number): string => amountWords(n, a.unit, a.currency);
  const room = roomFor({ unit: a.unit, amount: a.mine.amount }, a.mine.used, { in: measure(text).tokens, out: a.most }, { in: a.priceIn, out: a.priceOut });
  const begin = async (): Promise<void> => {
    const request = await keep?.();
    onReply('');
    await ask({ purpose, text, request });
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[13.5px]">
      {busy ? (
        <Button onClick={stop} disabled={!asked}>
          Stop
        </Button>
      ) : (
        <Button disabled={blocked || !room.fits} onClick={() => void begin()}>
          Ask {a.name}
        </Button>
      )}
      <span role="status" aria-label="The assistant" className="min-w-0 flex-1 text-ink-2">
        {problem ? (
          <span className="text-brick">{problem}</span>
        ) : busy ? (
          asked?.said || (asked?.reply ? `${a.name} writes: ${asked.reply.split(/\s+/).length} words so far` : `Sent to ${a.name} …`)
        ) : asked ? (
          <>
            <span className={asked.state === 'done' ? '' : 'font-semibold text-amber'}>{asked.said || 'The reply has come.'}</span>{' '}
            {asked.estimated ? 'About ' : ''}
            {(asked.tokensIn + asked.tokensOut).toLocaleString()} tokens, {amountWords(asked.cost, 'money', asked.currency)}; {words(a.mine.left)} left in this
            month.
          </>
        ) : room.fits ? (
          `It may need up to ${words(room.needs)}; you have ${words(room.left)} left in this month.`
        ) : (
          `It may need ${words(room.needs)}, and you have ${words(room.left)} left of ${words(a.mine.amount)} in this month.`
        )}{' '}
        <Link className="link" to="/assistant">
          What was sent
        </Link>
      </span>
    </div>
  );
}
