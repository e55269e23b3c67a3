/** Several drafts: a table with a draft a column and what matters a row, their items underneath side by side. Take a whole one, or pick items. */
import {
  type Checking,
  type ComparedDraft,
  composeAgain,
  type DraftFigures,
  findingKey,
  kinds,
  letterOf,
  type SourceText,
  type Wish,
  writeNotation,
  UNTITLED,
} from '@zakuska/core';
import { type ReactNode, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { useWorkspaceChecks } from '../check/useChecks.js';
import { Busy, Empty, Foot } from '../frame/Frame.js';
import { ItemView } from '../item/ItemView.js';
import { useOpenSet } from '../set/context.js';
import { useRequests } from '../set/requests.js';
import { useSourceTexts } from '../sources/sources.js';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';
import { AskAssistant } from './AskAssistant.js';
import { copyText } from '../ui/copyText.js';
import { WorkerClient } from '../worker/client.js';
import { Failed } from '../worker/Failed.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { Comparer } from './compare.worker.js';
import { dayAndTime } from '../ui/localTime.js';
import { retold } from '../words/retold.js';
import { inSentence, known, say } from '../words/say.js';

const comparer = new WorkerClient<Comparer>(() => new Worker(new URL('./compare.worker.js', import.meta.url), { type: 'module' }));
interface Question {
  texts: readonly string[];
  language: string | undefined;
  checking: Checking;
  sources: readonly SourceText[] | null;
}
const compareCall = () =>
  latestFrom(comparer, (remote, q: Question): Promise<ComparedDraft[]> => remote.compare(q.texts, q.language, q.checking, q.sources ?? []));

/** So many findings are told of each draft. */
const MOST_FINDINGS = 3;
const ROWS: readonly { name: string; cell: (f: DraftFigures) => ReactNode }[] = [
  { name: say('Items'), cell: (f) => f.kinds.map((k) => `${k.count} ${inSentence(known(kinds[k.kind].name))}`).join(', ') || say('none') },
  { name: say('Keys'), cell: (f) => f.places.map((n, i) => `${letterOf(i)} ${n}`).join('  ') || '–' },
  { name: say('True statements'), cell: (f) => (f.truths.of ? say('{yes} of {of}', { yes: f.truths.yes, of: f.truths.of }) : '–') },
  { name: say('Without a key'), cell: (f) => f.withoutKey },
  { name: say('Doubts of the reader'), cell: (f) => f.doubts },
  {
    name: say('Findings'),
    cell: (f) =>
      f.findings.length ? (
        <ul className="grid gap-1">
          {f.findings.slice(0, MOST_FINDINGS).map((x) => (
            <li key={findingKey(x)} className={x.severity === 'error' ? 'text-brick' : x.severity === 'warning' ? 'text-amber' : ''}>
              {retold(x.message)}
            </li>
          ))}
          {f.findings.length > MOST_FINDINGS && <li className="text-ink-2">{say('and {n} more', { n: f.findings.length - MOST_FINDINGS })}</li>}
        </ul>
      ) : (
        say('none')
      ),
  },
  {
    name: say('What the sources say'),
    cell: (f) =>
      f.evidence
        ? say('{supported} supported, {contradicted} against, {silent} not found', {
            supported: f.evidence.supported,
            contradicted: f.evidence.contradicted,
            silent: f.evidence.silent,
          })
        : say('no source'),
  },
  { name: say('Reads like year'), cell: (f) => (f.year === undefined ? '–' : Math.max(1, Math.round(f.year))) },
];

export default function CompareStage() {
  const { view, document: doc, draft, mayEdit } = useOpenSet();
  const requests = useRequests(view.id);
  const settings = useWorkspaceChecks(view.workspaceId).data;
  const { any, texts: sources } = useSourceTexts(view.id);
  const replies = useMemo(() => (requests.data ?? []).filter((r) => r.purpose === 'draft' && r.reply?.trim()).reverse(), [requests.data]);
  const question = useMemo<Question>(
    () => ({
      texts: replies.map((r) => r.reply ?? ''),
      language: doc.set.language,
      checking: { limits: settings?.limits as Checking['limits'], off: settings?.off },
      sources: any ? sources : [],
    }),
    [replies, doc.set.language, settings, any, sources],
  );
  const { value, failed, again } = useLatest(question, compareCall);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const navigate = useNavigate();
  const compared = value?.length === replies.length ? value : null;

  const put = async (text: string, said: string): Promise<void> => {
    draft.add(text);
    toast(said);
    await navigate(`/sets/${view.id}/draft`);
  };
  const pickedItems = (compared ?? []).flatMap((d, n) => d.items.filter((_, i) => picked.has(`${n} ${i}`)));

  if (requests.isPending) return <Busy what={say('Opening the drafts')} />;
  if (!replies.length)
    return (
      <main>
        <Empty title={say('No drafts to compare')}>
          <p>
            {say('Ask for a draft, paste the reply, and keep it to compare. Replies of several assistants, or of several tries, then stand here side by side.')}
          </p>
          <Link className="link" to={`/sets/${view.id}/draft/request`}>
            {say('Ask for a draft')}
          </Link>
        </Empty>
      </main>
    );
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]">
      <main className="overflow-auto p-4 sm:px-6" tabIndex={0}>
        <div className="mb-3 flex flex-wrap items-baseline gap-3">
          <h2 className="flex-1 text-xl font-bold">{say('Drafts side by side')}</h2>
          <Link className="link text-sm" to={`/sets/${view.id}/draft/request`}>
            {say('Ask for another')}
          </Link>
        </div>
        {failed && <Failed what={say('The drafts could not be compared.')} again={again} />}
        {!compared && !failed && <p role="status">{say('Reading {replies, plural, one {# draft} other {# drafts}} …', { replies: replies.length })}</p>}
        {compared && (
          <table className="w-full table-fixed border-collapse text-sm [&_td]:p-2 [&_td]:align-top [&_th]:p-2 [&_th]:text-left [&_th]:align-top">
            <colgroup>
              <col className="w-36" />
              {replies.map((r) => (
                <col key={r.id} className="w-72" />
              ))}
            </colgroup>
            <thead>
              <tr className="border-b border-rule">
                <td />
                {replies.map((r, n) => (
                  <th key={r.id} scope="col">
                    {say('Draft {n}', { n: n + 1 })}
                    <span className="block font-normal text-ink-2">{dayAndTime(r.createdAt)}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {ROWS.map((row) => (
                <tr key={row.name} className="border-b border-rule-2">
                  <th scope="row">{row.name}</th>
                  {compared.map((d, n) => (
                    <td key={replies[n]?.id} className="whitespace-pre-wrap tabular-nums">
                      {row.cell(d.figures)}
                    </td>
                  ))}
                </tr>
              ))}
              {mayEdit && (
                <tr className="border-b border-rule">
                  <th scope="row">{say('What now')}</th>
                  {replies.map((r, n) => (
                    <td key={r.id}>
                      <Again request={r} n={n + 1} set={view.id} onTake={() => void put(r.reply ?? '', say('Draft {n} stands in the draft.', { n: n + 1 }))} />
                    </td>
                  ))}
                </tr>
              )}
              <tr>
                <th scope="row">{say('Its items')}</th>
                {compared.map((d, n) => (
                  <td key={replies[n]?.id}>
                    <ol className="grid gap-3">
                      {d.items.map((item, i) => (
                        <li key={item.id} className="grid grid-cols-[auto_minmax(0,1fr)] gap-2 border-t border-rule-2 pt-2">
                          {mayEdit && (
                            <input
                              type="checkbox"
                              className="mt-1 size-4 accent-beet"
                              aria-label={say('Pick item {n} of draft {n2}', { n: i + 1, n2: n + 1 })}
                              checked={picked.has(`${n} ${i}`)}
                              onChange={() =>
                                setPicked((p) => (p.has(`${n} ${i}`) ? new Set([...p].filter((x) => x !== `${n} ${i}`)) : new Set([...p, `${n} ${i}`])))
                              }
                            />
                          )}
                          <ItemView item={item} />
                        </li>
                      ))}
                    </ol>
                  </td>
                ))}
              </tr>
            </tbody>
          </table>
        )}
      </main>
      <Foot>
        <span role="status" className="flex-1">
          {picked.size
            ? say('{picked, plural, one {# item} other {# items}} picked', { picked: picked.size })
            : say('Take a whole draft, or pick items from several')}
        </span>
        {mayEdit && (
          <Button
            look="primary"
            disabled={!picked.size}
            onClick={() =>
              void put(
                writeNotation({ title: UNTITLED, items: pickedItems }),
                say('{pickedItems, plural, one {# item} other {# items}} stand in the draft.', { pickedItems: pickedItems.length }),
              )
            }
          >
            {say('Put the picked items into the draft')}
          </Button>
        )}
      </Foot>
    </div>
  );
}

/** Take a draft as it is, or ask for it again with a word on what was wrong. */
function Again({
  request,
  n,
  set,
  onTake,
}: {
  request: { id: string; text: string; wish?: unknown; reply?: string };
  n: number;
  set: string;
  onTake: () => void;
}) {
  const requests = useRequests(set);
  const [wrong, setWrong] = useState('');
  const text = composeAgain(request.text, request.reply ?? '', wrong);
  const keep = async (): Promise<string | undefined> => {
    try {
      return (await requests.keep.mutateAsync({ purpose: 'draft', text, ...(request.wish !== undefined && { wish: request.wish as Wish }) })).id;
    } catch (e) {
      toast.error(say('The request could not be kept with the set: {words}', { words: wordsOf(e) }));
      return undefined;
    }
  };
  const ask = async (): Promise<void> => {
    copyText(text, say('The request to write it again is copied. Paste what comes back under “Ask for another”.'));
    await keep();
    setWrong('');
  };
  return (
    <div className="grid justify-items-start gap-2">
      <Button onClick={onTake}>{say('Take draft {n}', { n })}</Button>
      <form
        className="flex w-full gap-1"
        onSubmit={(e) => {
          e.preventDefault();
          if (wrong.trim()) void ask();
        }}
      >
        <Input
          aria-label={say('What was wrong with draft {n}', { n })}
          placeholder={say('What was wrong')}
          maxLength={1000}
          value={wrong}
          onChange={(e) => setWrong(e.target.value)}
        />
        <Button type="submit" disabled={!wrong.trim()}>
          {say('Copy “again”')}
        </Button>
      </form>
      {/* what comes back is kept with its request, and stands here as another draft */}
      <AskAssistant text={text} blocked={!wrong.trim()} purpose="draft" keep={keep} onReply={() => undefined} />
      <Button look="quiet" onClick={() => requests.forget.mutate(request.id)}>
        {say('Forget draft {n}', { n })}
      </Button>
    </div>
  );
}
