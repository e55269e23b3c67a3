/** What was sent to the assistant, by whom, what it cost; and, for administrators, which assistant that is and who may ask it. */
import { useQuery } from '@tanstack/react-query';
import { amountWords, monthOf, mayAs } from '@zakuska/core';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useAssistant } from '../set/assistant.js';
import { WorkspaceField } from '../frame/WorkspaceField.js';
import { useSession } from '../signin/session.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { byPerson } from './byPerson.js';
import { SetUp } from './SetUp.js';
import { locale, say } from '../words/say.js';

type Asked = Schemas['AskedView'];
const PURPOSES: Readonly<Record<Asked['purpose'], string>> = {
  draft: say('a draft'),
  rework: say('a rework'),
  opinion: say('a second opinion'),
  notation: say('a draft in the notation'),
};
const STATES: Readonly<Record<Asked['state'], string>> = {
  running: say('under way'),
  done: say('whole'),
  cut: say('cut off'),
  stopped: say('stopped'),
  broken: say('broken off'),
};
/** The present month and the eleven before it. */
const MONTHS = Array.from({ length: 12 }, (_, n) => {
  const d = new Date();
  d.setUTCDate(1);
  d.setUTCMonth(d.getUTCMonth() - n);
  return monthOf(d);
});
const monthName = (month: string): string => new Date(`${month}-15T00:00:00Z`).toLocaleString(locale(), { month: 'long', year: 'numeric', timeZone: 'UTC' });

export default function AssistantPage() {
  const { workspaces } = useSession();
  const current = useWorkspace();
  const [params, setParams] = useSearchParams();
  const workspace = workspaces.find((w) => w.id === params.get('workspace')) ?? current;
  const month = MONTHS.find((m) => m === params.get('month')) ?? (MONTHS[0] as string);
  const id = workspace?.id ?? '';
  const assistant = useAssistant(id);
  const asks = useQuery({
    queryKey: ['asks', id, month],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/asks', { params: { path: { workspace: id }, query: { month } } })),
    staleTime: 0,
  });
  const go = (next: Record<string, string>): void => setParams({ ...Object.fromEntries(params), ...next }, { replace: true });
  const a = assistant.data;
  const admin = mayAs(workspace?.role, 'administrator');
  const list = asks.data ?? [];
  return (
    <div className="grid h-dvh grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <h1 className="inline font-[650] text-ink">{say('Assistant')}</h1>
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        <div className="mx-auto grid max-w-5xl gap-5">
          <WorkspaceField workspaces={workspaces} value={id} onChange={(w) => go({ workspace: w })} />
          {assistant.isError && <NotFetched query={assistant} />}
          {assistant.isPending && <Busy what={say('Fetching')} />}
          {a && (
            <p className="max-w-prose">
              {say(
                '{what} What goes out is the request as it stands on the page, to the letter, and nothing else: no names or answers of learners. It is kept below as it was sent.',
                {
                  what: a.there
                    ? a.mine.may
                      ? say('You may ask {name} (model {model}). Of {amount} in this month you have {amount2} left.', {
                          name: a.name,
                          model: a.model,
                          amount: amountWords(a.mine.amount, a.unit, a.currency),
                          amount2: amountWords(a.mine.left, a.unit, a.currency),
                        })
                      : say('Requests of this workspace may go to {name} (model {model}). You may not ask it; copying a request works for everybody.', {
                          name: a.name,
                          model: a.model,
                        })
                    : admin
                      ? say(
                          'No assistant is set up. Nothing is sent from here; requests are copied and pasted. Set one up below, and people may send them with one press.',
                        )
                      : say('No assistant is set up. Nothing is sent from here; requests are copied and pasted.'),
                },
              )}
            </p>
          )}
          {a && admin && <SetUp key={id} workspace={id} assistant={a} />}
          <section aria-label={say('What was sent')} className="grid gap-3">
            <div className="flex flex-wrap items-end gap-3">
              <h2 className="flex-1 text-lg font-bold">{say('What was sent')}</h2>
              <Select aria-label={say('Month')} className="w-44!" value={month} onChange={(e) => go({ month: e.target.value })}>
                {MONTHS.map((m) => (
                  <option key={m} value={m}>
                    {monthName(m)}
                  </option>
                ))}
              </Select>
              <a className="link text-sm" href={`/api/v1/workspaces/${id}/asks.csv?month=${month}`} download={`assistant ${month}.csv`}>
                {say('Save as CSV')}
              </a>
            </div>
            {asks.isError && <p className="text-brick">{wordsOf(asks.error)}</p>}
            {asks.isPending && <Busy what={say('Fetching')} />}
            {asks.data && !list.length && <p className="text-ink-2">{say('Nothing in {month}.', { month: monthName(month) })}</p>}
            {list.length > 0 && admin && <People list={list} />}
            {list.length > 0 && <Log workspace={id} list={list} admin={admin} />}
          </section>
        </div>
      </main>
    </div>
  );
}

function People({ list }: { list: readonly Asked[] }) {
  return (
    <table className="w-full bg-sheet text-sm">
      <caption className="sr-only">{say('By person')}</caption>
      <thead>
        <tr className="border-b-2 border-ink text-left">
          <th className="p-2">{say('Who')}</th>
          <th className="p-2 text-right">{say('Requests')}</th>
          <th className="p-2 text-right">{say('Tokens out')}</th>
          <th className="p-2 text-right">{say('Tokens back')}</th>
          <th className="p-2 text-right">{say('Cost')}</th>
        </tr>
      </thead>
      <tbody className="tabular-nums">
        {byPerson(list).map((p) => (
          <tr key={p.person} className="border-b border-rule-2">
            <td className="p-2">{p.person}</td>
            <td className="p-2 text-right">{p.asks}</td>
            <td className="p-2 text-right">{p.tokensIn.toLocaleString(locale())}</td>
            <td className="p-2 text-right">{p.tokensOut.toLocaleString(locale())}</td>
            <td className="p-2 text-right">{p.costs.map((c) => amountWords(c.cost, 'money', c.currency)).join(', ')}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** So many are shown at first. */
const MOST = 100;

function Log({ workspace, list, admin }: { workspace: string; list: readonly Asked[]; admin: boolean }) {
  const [open, setOpen] = useState('');
  const [most, setMost] = useState(MOST);
  return (
    <>
      <ul aria-label={say('Requests')} className="border-t border-rule">
        {list.slice(0, most).map((a) => (
          <li key={a.id} className="border-b border-rule py-2 text-sm">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <span className="text-ink-2 tabular-nums">
                {new Date(a.createdAt).toLocaleString(locale(), { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}
              </span>
              {admin && <span>{a.person}</span>}
              <span className="min-w-0 flex-1">
                {say('{PURPOSES} for', { PURPOSES: PURPOSES[a.purpose] })}{' '}
                {a.set ? (
                  <Link className="link" to={`/sets/${a.set}`}>
                    {a.title}
                  </Link>
                ) : (
                  a.title
                )}
              </span>
              <span className={a.state === 'done' ? 'text-dill' : 'text-amber'}>{STATES[a.state]}</span>
              <span className="text-ink-2 tabular-nums">
                {say('{what}{tokensIn} + {tokensOut} tokens, {amount}', {
                  what: a.estimated && a.tokensIn + a.tokensOut > 0 ? say('about ') : '',
                  tokensIn: a.tokensIn.toLocaleString(locale()),
                  tokensOut: a.tokensOut.toLocaleString(locale()),
                  amount: amountWords(a.cost, 'money', a.currency),
                })}
              </span>
              <Button look="quiet" aria-expanded={open === a.id} onClick={() => setOpen(open === a.id ? '' : a.id)}>
                {say('What was sent')}
              </Button>
            </div>
            {a.said && <p className="text-ink-2">{a.said}</p>}
            {open === a.id && <Sent workspace={workspace} id={a.id} />}
          </li>
        ))}
      </ul>
      {list.length > most && (
        <Button look="quiet" onClick={() => setMost(most + 10 * MOST)}>
          {say('Show more of {list, plural, one {# request} other {# requests}}', { list: list.length })}
        </Button>
      )}
    </>
  );
}

function Sent({ workspace, id }: { workspace: string; id: string }) {
  const sent = useQuery({
    queryKey: ['sent', id],
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/asks/{one}', { params: { path: { workspace, one: id } } })),
  });
  if (sent.isError) return <p className="text-brick">{wordsOf(sent.error)}</p>;
  if (!sent.data) return <Busy what={say('Fetching')} />;
  const text = 'max-h-80 overflow-auto rounded border border-rule bg-sheet p-3 font-mono text-[12.5px]/5 whitespace-pre-wrap';
  return (
    <div className="mt-2 grid gap-3 lg:grid-cols-2">
      <section aria-label={say('Sent')}>
        <h3 className="text-[13.5px] font-semibold">{say('Sent, to the letter')}</h3>
        <pre className={text} tabIndex={0}>
          {sent.data.text}
        </pre>
      </section>
      <section aria-label={say('Came back')}>
        <h3 className="text-[13.5px] font-semibold">{say('Came back')}</h3>
        <pre className={text} tabIndex={0}>
          {sent.data.reply || say('nothing')}
        </pre>
      </section>
    </div>
  );
}
