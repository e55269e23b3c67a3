/** For a draft that is read with doubts: any assistant writes it anew in the notation, and every word and every key of that is looked up in the draft. */
import { composeNotation, nameOf, takeVerbatim, verbatimOf } from '@zakuska/core';
import { useMemo, useState, useSyncExternalStore } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { Empty } from '../frame/Frame.js';
import { ItemView } from '../item/ItemView.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { copyRequest, ReplyText, RequestText } from './Outgoing.js';
import { locale, say } from '../words/say.js';

/** Beyond this a draft is put into the notation a part at a time: no assistant gives back so much. */
const MOST = 60_000;

export default function NotationStage() {
  const { view, draft, document: doc, mayEdit } = useOpenSet();
  const { text } = useSyncExternalStore(draft.subscribe, draft.get);
  const [reply, setReply] = useState('');
  const navigate = useNavigate();
  const request = useMemo(() => composeNotation(text, doc.set.language ?? 'en'), [text, doc.set.language]);
  const result = useMemo(() => (reply.trim() ? verbatimOf(text, reply, doc.set.language) : null), [text, reply, doc.set.language]);
  const holding = result?.items.filter((v) => v.holds) ?? [];
  const others = result?.items.filter((v) => !v.holds) ?? [];
  const take = (): void => {
    if (!result) return;
    const before = text;
    const next = takeVerbatim(text, result);
    draft.rewrite(next.text);
    toast(say('{taken, plural, one {# item} other {# items}} written anew in the draft; all other lines are as they were.', { taken: next.taken }), {
      duration: 15_000,
      action: { label: say('Undo'), onClick: () => draft.rewrite(before) },
    });
    void navigate(`/sets/${view.id}/draft`);
  };
  if (!text.trim() || !mayEdit)
    return (
      <main>
        <Empty title={say('No draft to put into the notation')}>
          <p>
            {say(
              'Paste the draft first. Where it is read with doubts, an assistant can write it anew here, and nothing of what it adds or leaves out goes unseen.',
            )}
          </p>
          <Link className="link" to={`/sets/${view.id}/draft`}>
            {say('Go to the draft')}
          </Link>
        </Empty>
      </main>
    );
  return (
    <main className="grid min-h-0 grid-cols-1 content-start gap-5 overflow-auto p-4 sm:px-6">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="flex-1 text-xl font-bold">{say('Put into the notation')}</h2>
        <Link className="link text-sm" to={`/sets/${view.id}/draft`}>
          {say('Back to the draft')}
        </Link>
      </div>
      <p className="max-w-prose text-sm text-ink-2">
        {say(
          'The request asks for the same items, word for word, in a form that reads without a doubt. What comes back is compared with the draft: every word has to stand in it, and every key has to have its mark there.',
        )}
      </p>
      <RequestText
        text={request}
        problem={
          text.length > MOST
            ? say('The draft has {text} characters; put it into the notation in parts of at most {MOST}.', {
                text: text.length.toLocaleString(locale()),
                MOST: MOST.toLocaleString(locale()),
              })
            : null
        }
        low={reply.trim() !== ''}
        onCopy={() => copyRequest(request)}
        sends={{ purpose: 'notation', onReply: setReply }}
      />
      <ReplyText value={reply} low={reply.trim() !== ''} onChange={setReply} />
      {result && (
        <section aria-label={say('Compared with the draft')} className="grid gap-3">
          <div className="flex flex-wrap items-center gap-3 border-b border-rule pb-2">
            <p role="status" className="flex-1 text-sm">
              {result.items.length
                ? say('{holding} of {items, plural, one {# item} other {# items}} say what the draft says, word for word and key for key.', {
                    holding: holding.length,
                    items: result.items.length,
                  })
                : say('No items were found in the reply. It is kept as you pasted it.')}
            </p>
            <Button look="primary" disabled={!holding.length} onClick={take}>
              {say('Take what holds ({holding})', { holding: holding.length })}
            </Button>
          </div>
          {others.map((v) => (
            <article
              key={v.item.id}
              aria-label={say('Does not hold: {name}', { name: nameOf(v.item, 60) })}
              className="grid gap-2 rounded border border-rule bg-sheet p-3"
            >
              <ul className="text-sm">
                {v.foreign.map((f, n) => (
                  <li key={n}>
                    <b className="text-brick">{say('Not in the draft so ({part}):', { part: f.part })}</b> <span dir="auto">{f.words}</span>
                  </li>
                ))}
                {v.keyMarked === false && <li className="font-semibold text-brick">{say('The draft does not mark this key.')}</li>}
                {v.from === undefined && <li className="font-semibold text-brick">{say('This item stands nowhere in the draft.')}</li>}
              </ul>
              <ItemView item={v.item} />
            </article>
          ))}
          {result.leftOut.length > 0 && (
            <details className="text-sm" open={result.leftOut.length < 12}>
              <summary className="cursor-pointer font-semibold">{say('Left out of the draft ({leftOut})', { leftOut: result.leftOut.length })}</summary>
              <ul className="mt-1 grid gap-0.5 text-ink-2">
                {result.leftOut.slice(0, 200).map((l) => (
                  <li key={l.from} dir="auto" className="line-clamp-3">
                    {l.text.replace(/\s+/g, ' ')}
                  </li>
                ))}
              </ul>
            </details>
          )}
        </section>
      )}
    </main>
  );
}
