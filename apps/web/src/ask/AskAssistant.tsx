/** Sends a request to the assistant of the workspace, where there is one that may be asked; what comes back goes where replies are pasted. */
import { amountWords, measure, roomFor } from '@zakuska/core';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { useAsking, useAssistant } from '../set/assistant.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { locale, say } from '../words/say.js';

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
          {say('Stop')}
        </Button>
      ) : (
        <Button disabled={blocked || !room.fits} onClick={() => void begin()}>
          {say('Ask {name}', { name: a.name })}
        </Button>
      )}
      <span role="status" aria-label={say('The assistant')} className="min-w-0 flex-1 text-ink-2">
        {problem ? (
          <span className="text-brick">{problem}</span>
        ) : busy ? (
          asked?.said ||
          (asked?.reply
            ? say('{name} writes: {split} words so far', { name: a.name, split: asked.reply.split(/\s+/).length })
            : say('Sent to {name} …', { name: a.name }))
        ) : asked ? (
          <>
            <span className={asked.state === 'done' ? '' : 'font-semibold text-amber'}>{asked.said || say('The reply has come.')}</span>{' '}
            {say('{what}{n} tokens, {amount}; {words} left in this month.', {
              what: asked.estimated ? say('About ') : '',
              n: (asked.tokensIn + asked.tokensOut).toLocaleString(locale()),
              amount: amountWords(asked.cost, 'money', asked.currency),
              words: words(a.mine.left),
            })}
          </>
        ) : room.fits ? (
          say('It may need up to {words}; you have {words2} left in this month.', { words: words(room.needs), words2: words(room.left) })
        ) : (
          say('It may need {words}, and you have {words2} left of {words3} in this month.', {
            words: words(room.needs),
            words2: words(room.left),
            words3: words(a.mine.amount),
          })
        )}{' '}
        <Link className="link" to="/assistant">
          {say('What was sent')}
        </Link>
      </span>
    </div>
  );
}
