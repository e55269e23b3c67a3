/** A request for a draft: one sentence with blanks to fill, beside it the text as it goes out; the reply comes in below. */
import {
  type Addition,
  additionNames,
  additions,
  askedKinds,
  bloomLevels,
  composeRequest,
  firstWish,
  type Item,
  keySign,
  kinds,
  nameOf,
  languageName,
  phraseLanguages,
  type Wish,
  wishProblem,
} from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { readAll, useReading } from '../draft/useReading.js';
import { NameDialog } from '../frame/NameDialog.js';
import { useOpenSet } from '../set/context.js';
import { useSources } from '../sources/sources.js';
import { Button } from '../ui/Button.js';
import { Field, Input, TextArea } from '../ui/Field.js';
import { BLANK } from '../ui/blank.js';
import { outcomesFrom } from './drafting.js';
import { KindCounts } from './KindCounts.js';
import { Passages } from './Passages.js';
import { Ways } from './Ways.js';
import { copyRequest, ReplyText, RequestText } from './Outgoing.js';
import { useRequests, useWishes } from '../set/requests.js';
import { inSentence, known, locale, Say, say } from '../words/say.js';

const NO_OVERRIDES: [] = [];

export default function RequestStage() {
  const { view, document: doc, draft, mayEdit } = useOpenSet();
  const [wish, setWish] = useState<Wish>(() => firstWish(doc.set.language ?? 'en'));
  const [reply, setReply] = useState('');
  const [sent, setSent] = useState<{ id: string; text: string } | null>(null);
  const [naming, setNaming] = useState(false);
  const requests = useRequests(view.id);
  const wishes = useWishes(view.workspaceId);
  const navigate = useNavigate();
  const put = (part: Partial<Wish>): void => setWish((w) => ({ ...w, ...part }));

  // the last request of the set is where one goes on from
  const last = requests.data?.find((r) => r.purpose === 'draft' && r.wish);
  const [begun, setBegun] = useState(false);
  useEffect(() => {
    if (begun || !requests.data) return;
    setBegun(true);
    if (last?.wish) setWish(last.wish as Wish);
  }, [begun, requests.data, last]);

  const problem = wishProblem(wish);
  const composed = useMemo(() => composeRequest(wish), [wish]);
  const { reading, busy } = useReading(reply, NO_OVERRIDES, wish.language);
  const read = readAll(reading, reply) ? reading.set.items : [];
  /** Keeps the request with the set; the same one, without a reply, once. */
  const keep = async (): Promise<string | undefined> => {
    if (sent?.text === composed.text && !requests.data?.find((r) => r.id === sent.id)?.reply) return sent.id;
    try {
      const kept = await requests.keep.mutateAsync({ purpose: 'draft', text: composed.text, wish });
      setSent({ id: kept.id, text: kept.text });
      return kept.id;
    } catch (e) {
      toast.error(say('The request could not be kept with the set: {words}', { words: wordsOf(e) }));
      return undefined;
    }
  };
  const copy = (): void => {
    copyRequest(composed.text);
    void keep();
  };
  const take = async (): Promise<void> => {
    draft.add(reply);
    if (sent) await requests.reply.mutateAsync({ request: sent.id, text: reply }).catch(() => undefined);
    await navigate(`/sets/${view.id}/draft`);
  };

  /** Keeps the reply beside others of this set: with its request, or with a copy of that where it has a reply already. */
  const keepToCompare = async (): Promise<void> => {
    try {
      const open = requests.data?.find((r) => r.id === sent?.id && r.text === composed.text && !r.reply);
      const at = open ?? (await requests.keep.mutateAsync({ purpose: 'draft', text: composed.text, wish }));
      await requests.reply.mutateAsync({ request: at.id, text: reply });
      setSent({ id: at.id, text: at.text });
      setReply('');
      toast.success(say('Kept. Ask again, or another assistant, and paste the next reply.'));
    } catch (e) {
      toast.error(say('The reply could not be kept: {words}', { words: wordsOf(e) }));
    }
  };
  const drafts = (requests.data ?? []).filter((r) => r.purpose === 'draft' && r.reply?.trim()).length;

  if (!mayEdit)
    return (
      <main className="p-6">
        <p>{say('You may read this set. Who may edit it can ask for a draft here.')}</p>
      </main>
    );
  return (
    <main className="grid min-h-0 grid-cols-1 content-start gap-6 overflow-auto p-4 sm:px-6 lg:grid-cols-2">
      <section aria-label={say('What to write')} className="grid grid-cols-1 content-start gap-4">
        <Ways set={view.id} />
        <Sentence wish={wish} put={put} set={view.id} />
        <More wish={wish} put={put} />
        <div className="flex flex-wrap items-center gap-2">
          <Button onClick={() => setNaming(true)}>{say('Keep these blanks under a name')}</Button>
          {(wishes.data ?? []).map((w) => (
            <span key={w.id} className="inline-flex items-center">
              <Button look="quiet" onClick={() => setWish({ ...(w.wish as Wish), ...(wish.source && { source: wish.source }) })}>
                {w.name}
              </Button>
              <Button look="quiet" aria-label={say('Forget “{name}”', { name: w.name })} onClick={() => wishes.forget.mutate(w.id)}>
                ×
              </Button>
            </span>
          ))}
        </div>
      </section>
      <div className="grid content-start gap-6">
        <RequestText
          text={composed.text}
          problem={problem}
          note={
            composed.source && composed.source.kept < composed.source.of ? say('the first {share} of the source', { share: share(composed.source) }) : undefined
          }
          low={reply.trim() !== ''}
          onCopy={copy}
          sends={{ purpose: 'draft', keep, onReply: setReply }}
        />
        <ReplyText value={reply} onChange={setReply}>
          {reply.trim() && (
            <p role="status" className="flex flex-wrap items-center gap-3 text-sm text-ink-2">
              <span className="min-w-0 flex-1">{busy && !read.length ? say('Reading …') : wordsOfReply(read, wish)}</span>
              <Button disabled={problem !== null} onClick={() => void keepToCompare()}>
                {say('Keep it to compare')}
              </Button>
              <Button look="primary" onClick={() => void take()}>
                {say('Put the reply into the draft')}
              </Button>
            </p>
          )}
          {read.length > 0 && (
            <ol aria-label={say('What was read')} className="grid max-h-[24vh] gap-0.5 overflow-auto text-sm" tabIndex={0}>
              {read.map((i, n) => (
                <li key={i.id} className="flex gap-2">
                  <b className="w-10 shrink-0 text-right text-dill">{keySign(i)}</b>
                  <span dir="auto" className="min-w-0 truncate">
                    {i.label ?? n + 1}. {nameOf(i, 90)}
                  </span>
                </li>
              ))}
            </ol>
          )}
        </ReplyText>
        {drafts > 0 && (
          <Link className="link text-sm" to={`/sets/${view.id}/draft/compare`}>
            {say('{drafts, plural, one {Look at the draft that is kept} other {Compare the # drafts that are kept}}', { drafts })}
          </Link>
        )}
        {(requests.data?.length ?? 0) > 0 && (
          <details className="text-sm">
            <summary className="cursor-pointer font-semibold">{say('Requests of this set ({requests})', { requests: requests.data?.length })}</summary>
            <ul className="mt-2 grid gap-1">
              {requests.data?.map((r) => (
                <li key={r.id} className="flex flex-wrap items-center gap-x-3">
                  <span className="min-w-0 flex-1 truncate">
                    {new Date(r.createdAt).toLocaleString(locale())} · {r.by || say('somebody')} ·{' '}
                    {r.purpose === 'draft' ? (r.wish as Wish | undefined)?.topic || say('a draft') : r.purpose}
                    {r.reply ? say(' · with its reply') : ''}
                  </span>
                  {r.wish && (
                    <Button
                      look="quiet"
                      onClick={() => {
                        setWish(r.wish as Wish);
                        setSent({ id: r.id, text: r.text });
                        setReply(r.reply ?? '');
                      }}
                    >
                      {say('Open')}
                    </Button>
                  )}
                  <Button look="quiet" onClick={() => copyRequest(r.text, '')}>
                    {say('Copy')}
                  </Button>
                  <Button look="quiet" onClick={() => requests.forget.mutate(r.id)}>
                    {say('Forget')}
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      {naming && (
        <NameDialog
          title={say('Keep these blanks')}
          label={say('Name')}
          value=""
          action={say('Keep')}
          onClose={() => setNaming(false)}
          onName={async (name) => {
            await wishes.keep.mutateAsync({ name, wish });
            toast.success(say('Kept as “{name}” for all sets of the workspace.', { name }));
          }}
        />
      )}
    </main>
  );
}
const share = ({ kept, of }: { kept: number; of: number }): string => `${Math.round((100 * kept) / of)} %`;

/** What was read of a reply, against what was asked for. */
function wordsOfReply(items: readonly Item[], wish: Wish): string {
  const said = askedKinds.flatMap((k) => {
    const [got, due] = [items.filter((i) => i.kind === k).length, wish.counts[k] ?? 0];
    return got || due ? [`${inSentence(known(kinds[k].name))} ${got}${got === due ? '' : say(' of {due}', { due })}`] : [];
  });
  return say('{items} read: {said}', { items: items.length, said: said.join(', ') || say('no items') });
}

function Sentence({ wish, put, set }: { wish: Wish; put: (part: Partial<Wish>) => void; set: string }) {
  const sources = useSources(set);
  const chosen = sources.data?.find((s) => s.name === wish.source?.title);
  const [wanted, setWanted] = useState('');
  const words = useQuery({
    queryKey: ['source', wanted],
    enabled: wanted !== '',
    queryFn: () => call(api.GET('/api/v1/sources/{source}', { params: { path: { source: wanted } } })),
  });
  useEffect(() => {
    if (words.data && wanted) put({ source: { title: words.data.name, text: words.data.text } });
    // only what was fetched just now
    // oxlint-disable-next-line react/exhaustive-deps
  }, [words.data, wanted]);
  return (
    <div className="grid gap-3">
      <p className="text-lg/9">
        <Say
          text="Write {kindCounts} items from {select}, for {input}, in {select2}, with {add}{select3}."
          values={{
            kindCounts: (
              <KindCounts
                all={askedKinds}
                counts={wish.counts}
                most={200}
                options={wish.options}
                bounds={[2, 10]}
                onCount={(k, n) => put({ counts: { ...wish.counts, [k]: n } })}
                onOptions={(options) => put({ options })}
              />
            ),
            select: (
              <select
                aria-label={say('From')}
                className={BLANK}
                value={chosen?.id ?? ''}
                onChange={(e) => {
                  setWanted(e.target.value);
                  if (!e.target.value) put({ source: undefined });
                }}
              >
                <option value="">{say('the topic below')}</option>
                {(sources.data ?? []).map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
              </select>
            ),
            input: (
              <input
                aria-label={say('For whom')}
                placeholder={say('year 8')}
                maxLength={200}
                className={`${BLANK} w-28`}
                value={wish.level}
                onChange={(e) => put({ level: e.target.value })}
              />
            ),
            select2: (
              <select aria-label={say('In the language')} className={BLANK} value={wish.language} onChange={(e) => put({ language: e.target.value })}>
                {[...new Set([wish.language, ...phraseLanguages])].map((l) => (
                  <option key={l} value={l}>
                    {languageName(l, locale())}
                  </option>
                ))}
              </select>
            ),
            add: wish.add.map((a) => <Part key={a} name={additionNames[a]} onGone={() => put({ add: wish.add.filter((x) => x !== a) })} />),
            select3: (
              <select
                aria-label={say('What else to add')}
                className={`${BLANK} w-24`}
                value=""
                onChange={(e) => e.target.value && put({ add: [...wish.add, e.target.value as Addition] })}
              >
                <option value="">{wish.add.length ? say('and …') : say('nothing more')}</option>
                {additions
                  .filter((a) => !wish.add.includes(a))
                  .map((a) => (
                    <option key={a} value={a}>
                      {additionNames[a]}
                    </option>
                  ))}
              </select>
            ),
          }}
        />
      </p>
      {wish.source && chosen && (
        <Passages
          title={wish.source.title}
          now={wish.source.text}
          whole={words.data?.id === chosen.id ? words.data.text : undefined}
          onOpen={() => setWanted(chosen.id)}
          onPassages={(text) => wish.source && put({ source: { title: wish.source.title, text } })}
        />
      )}
      <Field label={wish.source ? say('What of it (may stay empty)') : say('The topic')}>
        {(id) => (
          <TextArea
            id={id}
            rows={2}
            maxLength={4000}
            placeholder={say('How salt and temperature change the rise of a dough')}
            value={wish.topic}
            onChange={(e) => put({ topic: e.target.value })}
          />
        )}
      </Field>
    </div>
  );
}
function Part({ name, onGone }: { name: string; onGone: () => void }): ReactNode {
  return (
    <span className="mr-1 inline-flex items-center gap-1 rounded bg-beet-soft px-1.5 text-[15px]/7 text-beet">
      {name}
      <button type="button" aria-label={say('Without {name}', { name })} className="min-h-6 min-w-6 cursor-pointer" onClick={onGone}>
        ×
      </button>
    </span>
  );
}

/** Outcomes, levels of thinking, length of the source, wishes in own words: the blanks that most leave as they are. */
function More({ wish, put }: { wish: Wish; put: (part: Partial<Wish>) => void }) {
  const [outcomes, setOutcomes] = useState(wish.outcomes.join('\n'));
  const [proposing, setProposing] = useState(false);
  const putOutcomes = (text: string): void => {
    setOutcomes(text);
    put({ outcomes: lines(text).slice(0, 50) });
  };
  /** Behind those that are there. */
  const propose = async (): Promise<void> => {
    const { source } = wish;
    if (!source) return;
    setProposing(true);
    try {
      const found = await outcomesFrom({ id: source.title, name: source.title, text: source.text }, wish.language);
      if (found.length) putOutcomes([...lines(outcomes), ...found.filter((o) => !lines(outcomes).includes(o))].join('\n'));
      else toast(say('The source comes to nothing often enough to propose an outcome of it.'));
    } catch (e) {
      toast.error(say('No outcomes could be proposed: {words}', { words: wordsOf(e) }));
    }
    setProposing(false);
  };
  const joined = wish.outcomes.join('\n');
  useEffect(() => {
    setOutcomes((now) => (lines(now).join('\n') === joined ? now : joined));
  }, [joined]);
  return (
    <details className="grid gap-3" open={wish.outcomes.length > 0 || wish.more !== '' || Object.values(wish.thinking).some(Boolean)}>
      <summary className="cursor-pointer text-sm font-semibold">{say('Outcomes, levels of thinking, wishes of your own')}</summary>
      <div className="mt-3 grid gap-3">
        <div className="grid gap-1">
          <Field label={say('Outcomes, one a line')}>
            {(id) => <TextArea id={id} rows={2} value={outcomes} onChange={(e) => putOutcomes(e.target.value)} />}
          </Field>
          {wish.source && (
            <span>
              <Button look="quiet" disabled={proposing} onClick={() => void propose()}>
                {proposing ? say('Reading the source …') : say('Propose outcomes from the source')}
              </Button>
            </span>
          )}
        </div>
        <fieldset className="flex flex-wrap gap-3">
          <legend className="text-[13.5px] font-semibold">{say('Share of the levels of thinking, in percent')}</legend>
          {bloomLevels.map((b) => (
            <label key={b} className="grid text-[13px]">
              {known(b)}
              <Input
                type="number"
                min={0}
                max={100}
                step={10}
                className="w-20!"
                value={wish.thinking[b] ?? ''}
                onChange={(e) => put({ thinking: { ...wish.thinking, [b]: Math.min(100, Math.max(0, Math.round(e.target.valueAsNumber) || 0)) } })}
              />
            </label>
          ))}
        </fieldset>
        {wish.source && (
          <Field
            label={say('At most so many characters of the source')}
            hint={say('The rest is left out, from the end; how much goes along stands beside the length.')}
          >
            {(id) => (
              <Input
                id={id}
                type="number"
                min={500}
                max={200_000}
                step={500}
                className="w-32!"
                value={wish.most}
                onChange={(e) => put({ most: Math.min(200_000, Math.max(500, Math.round(e.target.valueAsNumber) || 12_000)) })}
              />
            )}
          </Field>
        )}
        <Field label={say('Wishes of your own')}>
          {(id) => <TextArea id={id} rows={2} maxLength={4000} value={wish.more} onChange={(e) => put({ more: e.target.value })} />}
        </Field>
      </div>
    </details>
  );
}
const lines = (text: string): string[] => [...new Set(text.split('\n').map((l) => l.trim().slice(0, 300)))].filter(Boolean);
