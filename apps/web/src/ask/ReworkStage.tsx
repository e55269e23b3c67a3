/** Chosen items and an assistant: a request to rework them or to answer them without their keys, and the reply laid beside them. */
import {
  type AimName,
  aimNames,
  aims,
  askedKinds,
  composeOpinion,
  composeRework,
  type Item,
  kinds,
  languageName,
  nameOf,
  opinionsOf,
  phraseLanguages,
  type ReworkAim,
} from '@zakuska/core';
import { useEffect, useMemo, useState } from 'react';
import { Link, useLocation, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { Busy, Empty } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { Field, Input, Select, TextArea } from '../ui/Field.js';
import { copyRequest, ReplyText, RequestText } from './Outgoing.js';
import { Opinions } from './Opinions.js';
import { Proof } from './Proof.js';
import { useRequests } from '../set/requests.js';
import { known, locale, say } from '../words/say.js';

type What = AimName | 'opinion';
const DETAIL: Readonly<Record<NonNullable<ReworkAim['asks']>, string>> = { language: 'es', words: '', count: '2', year: '6', kind: 'cloze' };

export default function ReworkStage() {
  const { view, document: doc, mayEdit } = useOpenSet();
  const [params, setParams] = useSearchParams();
  const { state } = useLocation() as { state: { items?: string[]; what?: AimName; detail?: string } | null };
  const requests = useRequests(view.id);
  const id = params.get('request');
  const kept = requests.data?.find((r) => r.id === id);
  const [what, setWhat] = useState<What>(state?.what ?? 'simpler');
  const [detail, setDetail] = useState(state?.detail ?? '');
  const [reply, setReply] = useState('');
  const [opened, setOpened] = useState<string | null>(null);
  // what was decided on a reply is of one request; that it is kept with the set meanwhile changes nothing
  const [opening, setOpening] = useState(0);
  // a request that was kept is gone on with, also after the page was closed
  useEffect(() => {
    if (!kept || opened === kept.id) return;
    setOpened(kept.id);
    setOpening((n) => n + 1);
    setWhat(kept.purpose === 'opinion' ? 'opinion' : ((kept.aim as AimName | undefined) ?? 'words'));
    setDetail(kept.detail);
    setReply(kept.reply ?? '');
  }, [kept, opened]);

  const ids = kept?.items ?? state?.items;
  const items = useMemo(() => (ids ?? []).flatMap((i) => doc.set.items.find((x) => x.id === i) ?? []), [ids, doc.set.items]);
  const aim: ReworkAim | undefined = what === 'opinion' ? undefined : aims[what];
  const asks = aim?.asks;
  const opinion = useMemo(() => (what === 'opinion' ? composeOpinion(items) : undefined), [what, items]);
  const text = useMemo(
    () => (opinion ? opinion.text : composeRework(items, what as AimName, detail, doc.set.language ?? 'en')),
    [opinion, items, what, detail, doc.set.language],
  );
  const problem =
    what === 'opinion' && !opinion?.asked.length
      ? say('None of these items has a key that could be compared.')
      : asks === 'words' && !detail.trim()
        ? say('Say in your own words what is to be done.')
        : asks && !detail.trim()
          ? say('Fill in the blank.')
          : null;
  const opinions = useMemo(
    () => (opinion && reply.trim() ? opinionsOf(opinion.asked, reply, kept?.purpose === 'opinion' ? kept.text : undefined) : null),
    [opinion, reply, kept],
  );

  const { mutate: keepReply } = requests.reply;
  useEffect(() => {
    if (!id || !kept || reply === (kept.reply ?? '')) return;
    const timer = setTimeout(() => keepReply({ request: id, text: reply }), 500);
    return () => clearTimeout(timer);
  }, [id, kept, reply, keepReply]);

  if (id && requests.isPending) return <Busy what={say('Opening the request')} />;
  if (!items.length || !mayEdit)
    return (
      <main>
        <Empty title={mayEdit ? say('No items chosen') : say('You may read this set')}>
          <p>
            {mayEdit
              ? say('Choose items in Check, and ask for a rework of them or for a second opinion on their keys.')
              : say('Who may edit it can ask for a rework here.')}
          </p>
          <Link className="link" to={`/sets/${view.id}/check`}>
            {say('Go to Check')}
          </Link>
        </Empty>
      </main>
    );
  /** Keeps the request with the set; the same one once. */
  const keep = async (): Promise<string | undefined> => {
    if (kept?.text === text) return kept.id;
    // the reply to another request; at once, so that one pasted meanwhile stays
    if (kept) setReply('');
    try {
      const made = await requests.keep.mutateAsync({
        purpose: what === 'opinion' ? 'opinion' : 'rework',
        text,
        ...(what !== 'opinion' && { aim: what }),
        detail,
        items: (opinion?.asked ?? items).map((i) => i.id),
      });
      setOpened(made.id);
      setParams({ request: made.id }, { replace: true });
      return made.id;
    } catch (e) {
      toast.error(say('The request could not be kept with the set: {words}', { words: wordsOf(e) }));
      return undefined;
    }
  };
  const copy = (): void => {
    copyRequest(text);
    void keep();
  };
  return (
    <main className="grid min-h-0 grid-cols-1 content-start gap-5 overflow-auto p-4 sm:px-6">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="flex-1 text-xl font-bold">{what === 'opinion' ? say('Second opinion on the keys') : say('Rework')}</h2>
        <Link className="link text-sm" to={`/sets/${view.id}/check`}>
          {say('Back to Check')}
        </Link>
      </div>
      <div className="grid gap-6 lg:grid-cols-2">
        <section aria-label={say('What to ask')} className="grid content-start gap-3">
          <Field label={say('What is to become of {items, plural, one {# item} other {# items}}', { items: items.length })}>
            {(f) => (
              <Select
                id={f}
                value={what}
                onChange={(e) => {
                  const next = e.target.value as What;
                  const wants = next === 'opinion' ? undefined : (aims[next] as ReworkAim).asks;
                  setWhat(next);
                  setDetail(wants ? DETAIL[wants] : '');
                }}
              >
                <optgroup label={say('Say them anew')}>{aimNames.filter((a) => !(aims[a] as ReworkAim).adds).map((a) => option(a))}</optgroup>
                <optgroup label={say('Add to them')}>{aimNames.filter((a) => (aims[a] as ReworkAim).adds).map((a) => option(a))}</optgroup>
                <option value="opinion">{say('answered without their keys: a second opinion')}</option>
              </Select>
            )}
          </Field>
          {asks && <Detail asks={asks} value={detail} onChange={setDetail} />}
          <Chosen items={items} />
        </section>
        <RequestText
          text={text}
          problem={problem}
          note={
            opinion && opinion.asked.length < items.length
              ? say('{n, plural, one {# item} other {# items}} without a key left out', { n: items.length - opinion.asked.length })
              : undefined
          }
          low={reply.trim() !== ''}
          onCopy={copy}
          sends={{ purpose: what === 'opinion' ? 'opinion' : 'rework', keep, onReply: setReply }}
        />
      </div>
      <ReplyText value={reply} kept={kept !== undefined && kept.reply === reply} low={reply.trim() !== ''} onChange={setReply} />
      {opinions ? (
        <Opinions opinions={opinions} set={view.id} />
      ) : (
        what !== 'opinion' &&
        reply.trim() && <Proof key={`${opening} ${what}`} items={items} reply={reply} aim={what} language={what === 'language' ? detail : doc.set.language} />
      )}
    </main>
  );
}
const option = (a: AimName) => (
  <option key={a} value={a}>
    {aims[a].name}
  </option>
);

function Detail({ asks, value, onChange }: { asks: NonNullable<ReworkAim['asks']>; value: string; onChange: (v: string) => void }) {
  if (asks === 'language')
    return (
      <Field label={say('Which language')}>
        {(f) => (
          <Select id={f} value={value} onChange={(e) => onChange(e.target.value)}>
            {phraseLanguages.map((l) => (
              <option key={l} value={l}>
                {languageName(l, locale())}
              </option>
            ))}
          </Select>
        )}
      </Field>
    );
  if (asks === 'kind')
    return (
      <Field label={say('Which kind')}>
        {(f) => (
          <Select id={f} value={value} onChange={(e) => onChange(e.target.value)}>
            {askedKinds.map((k) => (
              <option key={k} value={k}>
                {known(kinds[k].name)}
              </option>
            ))}
          </Select>
        )}
      </Field>
    );
  if (asks === 'words')
    return (
      <Field label={say('In your own words')}>
        {(f) => (
          <TextArea
            id={f}
            rows={2}
            maxLength={4000}
            placeholder={say('Use metric units throughout.')}
            value={value}
            onChange={(e) => onChange(e.target.value)}
          />
        )}
      </Field>
    );
  return (
    <Field label={asks === 'year' ? say('School year') : say('How many')}>
      {(f) => <Input id={f} type="number" min={1} max={50} className="w-24!" value={value} onChange={(e) => onChange(e.target.value)} />}
    </Field>
  );
}

function Chosen({ items }: { items: readonly Item[] }) {
  return (
    <ul aria-label={say('Chosen items')} className="grid max-h-[18vh] gap-0.5 overflow-auto text-sm text-ink-2" tabIndex={0}>
      {items.map((i, n) => (
        <li key={i.id} dir="auto" className="truncate">
          {i.label ?? n + 1}. {nameOf(i, 90)}
        </li>
      ))}
    </ul>
  );
}
