/** The own delivery: a quiz by link, entry code and QR. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { brokenFormulasOf, isForClass, languageName, progressOf, type QuizRules, type QuizSet, SHOWN, usualRules, wholeChange } from '@zakuska/core';
import { escapeXml } from '@zakuska/core/markup';
import { Copy } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, type DeliveryView, type Schemas, wordsOf } from '../api/client.js';
import { PlatformsDialog } from '../course/PlatformsDialog.js';
import { ShowsField } from '../course/ShowsField.js';
import { Busy } from '../frame/Frame.js';
import { PeopleDialog } from '../quiz/PeopleDialog.js';
import { RulesDialog } from '../quiz/RulesDialog.js';
import { ShowDialog } from '../quiz/ShowDialog.js';
import { presetOf, rulesWords } from '../quiz/rulesWords.js';
import { useOpenSet } from '../set/context.js';
import { type Goes, goesWords } from '../set/goes.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Select } from '../ui/Field.js';
import { locale, say } from '../words/say.js';

const NONE = { missing: 0, stale: 0 };
/** Attempts per person, as they can be chosen. */
const ATTEMPTS = { 1: say('one'), 2: say('two'), 3: say('three'), 0: say('as many as they like') } as const;

export function Own({ set, goes, mayEdit }: { set: QuizSet; goes: Goes; mayEdit: boolean }) {
  const { view, document: doc } = useOpenSet();
  const queries = useQueryClient();
  const [choice, setChoice] = useState<readonly string[]>([]);
  const further = useMemo(() => (goes.language === undefined ? Object.keys(doc.set.translations ?? {}) : []), [goes.language, doc.set.translations]);
  const progress = useMemo(() => new Map(further.map((l) => [l, progressOf(doc.set, l)])), [further, doc.set]);
  const chosen = choice.filter((l) => further.includes(l));
  const [rules, setRules] = useState<QuizRules>(usualRules());
  const [classList, setClassList] = useState<string>();
  // one attempt where the answers are shown, unless the teacher says otherwise
  const [said, setSaid] = useState(false);
  const [inRules, setInRules] = useState(false);
  const shows = presetOf(rules.shows);
  const versions = goes.version === undefined ? (doc.drawn?.versions ?? []) : [];
  const [each, setEach] = useState(false);
  const eachGetsOne = each && versions.length > 1;
  const [inCourses, setInCourses] = useState(false);
  const broken = useMemo(() => set.items.filter((i) => brokenFormulasOf(i).length).length, [set]);
  const key = ['deliveries', view.id];
  const path = { params: { path: { set: view.id } } };
  const list = useQuery({ queryKey: key, queryFn: () => call(api.GET('/api/v1/sets/{set}/deliveries', path)) });
  const changed = (): void => {
    void queries.invalidateQueries({ queryKey: key });
    void queries.invalidateQueries({ queryKey: ['set', view.id] });
  };
  const publish = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/sets/{set}/deliveries', {
          ...path,
          body: {
            rules,
            title: set.title,
            ...(classList && { classList }),
            ...goes,
            ...(chosen.length > 0 && { choice: chosen }),
            ...(eachGetsOne && { versions: true }),
          },
        }),
      ),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  return (
    <>
      <p className="text-ink-2">{say('A quiz by link, entry code and QR, for any phone. It stays as it is when you edit the set later.')}</p>
      {mayEdit && (
        <div className="mt-3 grid gap-3">
          <ShowsField value={shows} onValue={(v) => setRules((r) => ({ ...r, shows: SHOWN[v], ...(!said && { attempts: usualRules(v).attempts }) }))} />
          <Field label={say('Attempts per person')}>
            {(id) => (
              <Select
                id={id}
                value={rules.attempts}
                onChange={(e) => {
                  setSaid(true);
                  setRules((r) => ({ ...r, attempts: Number(e.target.value) }));
                }}
              >
                {[...new Set([1, 2, 3, 0, rules.attempts])].map((n) => (
                  <option key={n} value={n}>
                    {ATTEMPTS[n as keyof typeof ATTEMPTS] ?? n}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <div className="text-sm">
            <Button onClick={() => setInRules(true)}>{say('Who, when and how …')}</Button>
            <p className="mt-1 text-[13.5px] text-ink-2">
              {rulesWords({ ...rules, attempts: 0 }).join(' · ') || say('anybody with the code, at any time, one item after the other')}
            </p>
          </div>
          {further.length > 0 && (
            <fieldset className="grid gap-1">
              <legend className="text-[13.5px] font-semibold">{say('Learners may choose as well')}</legend>
              {further.map((l) => {
                const { missing, stale } = progress.get(l) ?? NONE;
                return (
                  <label key={l} className="flex flex-wrap items-center gap-x-2 text-sm">
                    <input
                      type="checkbox"
                      checked={choice.includes(l)}
                      onChange={(e) => setChoice((c) => (e.target.checked ? [...c, l] : c.filter((x) => x !== l)))}
                    />
                    {languageName(l, locale())}
                    {missing + stale > 0 && <span className="text-amber">{say('{missing} missing, {stale} stale', { missing, stale })}</span>}
                  </label>
                );
              })}
            </fieldset>
          )}
          {versions.length > 1 && (
            <label className="flex items-start gap-2 text-sm">
              <input type="checkbox" className="mt-0.5" checked={each} onChange={(e) => setEach(e.target.checked)} />
              <span>
                {say('Each learner gets one of the versions {versions}{what}', {
                  versions: versions.map((v) => v.name).join(', '),
                  what: isForClass(rules) ? say(', as many of each in the class') : say(', the one that fewest have so far'),
                })}
              </span>
            </label>
          )}
          {rules.shows.keys === 'handed-in' && rules.attempts !== 1 && (
            <p className="text-[13.5px] text-amber">{say('From the second attempt on, learners know the answers.')}</p>
          )}
          {broken > 0 && (
            <p className="text-[13.5px] text-brick">
              {say(
                '{broken, plural, one {# item has a formula} other {# items have formulas}} that cannot be drawn; learners see the text of it. Check names them.',
                { broken },
              )}
            </p>
          )}
          <Button look="primary" disabled={publish.isPending} onClick={() => publish.mutate()}>
            {eachGetsOne
              ? say('Publish {versions} versions', { versions: versions.length })
              : say('Publish {items, plural, one {# item} other {# items}}', { items: set.items.length })}
          </Button>
        </div>
      )}
      {inRules && (
        <RulesDialog
          rules={rules}
          classList={classList}
          workspace={view.workspaceId}
          onClose={() => setInRules(false)}
          onDone={(r, c) => {
            if (r.attempts !== rules.attempts) setSaid(true);
            setRules(r);
            setClassList(c);
            setInRules(false);
          }}
        />
      )}
      <p className="mt-3 text-sm">
        <button type="button" className="link" onClick={() => setInCourses(true)}>
          {say('Open quizzes inside courses (LTI 1.3)')}
        </button>
      </p>
      {inCourses && <PlatformsDialog workspace={view.workspaceId} onClose={() => setInCourses(false)} />}
      {list.isPending && <Busy what={say('Fetching')} />}
      {publishedAtOnce(list.data ?? []).map((all) => (
        <Published key={all[0].id} all={all} mayEdit={mayEdit} onChanged={changed} />
      ))}
    </>
  );
}

/** Markup that shows a quiz inside another page. */
const frameOf = ({ link, title }: Pick<DeliveryView, 'link' | 'title'>): string =>
  `<iframe src="${link}" title="${escapeXml(title)}" style="width:100%;height:720px;border:0"></iframe>`;

type AtOnce = readonly [DeliveryView, ...DeliveryView[]];
/** Deliveries with those that were published together: by their versions, where the first of them stood. */
function publishedAtOnce(list: readonly DeliveryView[]): AtOnce[] {
  const by = new Map<string, DeliveryView[]>();
  for (const d of list) by.set(d.together ?? d.id, [...(by.get(d.together ?? d.id) ?? []), d]);
  return [...by.values()].map((all) => all.sort((a, b) => (a.version < b.version ? -1 : 1)) as unknown as AtOnce);
}

/** A quiz that is published; of several versions published at once all, by one code. */
function Published({ all, mayEdit, onChanged }: { all: AtOnce; mayEdit: boolean; onChanged: () => void }) {
  const { view } = useOpenSet();
  const [d] = all;
  const several = all.length > 1;
  const handedIn = all.reduce((n, one) => n + one.responses, 0);
  const [dialog, setDialog] = useState<'people' | 'rules' | 'show'>();
  const change = useMutation({
    mutationFn: (body: { open?: boolean; released?: boolean; rules?: Schemas['RulesChange'] }) =>
      call(api.PATCH('/api/v1/deliveries/{delivery}', { params: { path: { delivery: d.id } }, body })),
    onSuccess: () => {
      setDialog(undefined);
      onChanged();
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const personal = d.rules.enter === 'personal';
  const waits = Object.values(d.rules.shows).includes('released');
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <div className={personal ? '' : 'grid grid-cols-[1fr_104px] gap-3'}>
        <div>
          {personal ? (
            <p className="text-[15px] font-semibold">{say('Each has a code of their own.')}</p>
          ) : (
            <>
              <p className="text-[13px] text-ink-2">{say('Entry code')}</p>
              <p className="font-mono text-2xl/8 font-bold tracking-widest" data-code>
                {d.code}
              </p>
              <p className="text-[13.5px] break-all">
                <a className="link" href={d.link} target="_blank" rel="noreferrer">
                  {d.link.replace(/^https?:\/\//, '')}
                </a>
              </p>
            </>
          )}
          <p className="mt-1 text-[13px] text-ink-2">
            {several ? (
              <b className="font-semibold text-ink">{say('one of the versions {all} for each ·', { all: all.map((one) => one.version).join(', ') })} </b>
            ) : (
              goesWords(d) && <b className="font-semibold text-ink">{goesWords(d)} · </b>
            )}
            {d.choice.length > 0 && (
              <b className="font-semibold text-ink">{say('also {choice} ·', { choice: d.choice.map((l) => languageName(l, locale())).join(', ') })} </b>
            )}
            {say('{what} · {items} items · {handedIn} handed in · {what2}{more}', {
              what: new Date(d.createdAt).toLocaleString(locale(), { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }),
              items: d.items,
              handedIn,
              what2: d.paused ? say('paused') : d.open ? say('open') : say('closed'),
              more: d.className !== undefined && ` · ${d.className}`,
            })}
            {rulesWords(d.rules).map((w) => ` · ${w}`)}
          </p>
        </div>
        {!personal && (
          <img
            src={`/api/v1/deliveries/${d.id}/qr.svg`}
            alt={say('QR code of the link {link}', { link: d.link })}
            className="size-26 rounded border border-rule bg-[#fff]"
          />
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        {!personal && (
          <>
            <Button onClick={() => copyText(d.link, say('The link is in the clipboard.'), say('Mark the link and copy it.'))}>
              <Copy size={15} aria-hidden /> {say('Copy link')}
            </Button>
            <Button onClick={() => setDialog('show')}>{say('Show large')}</Button>
            <Button onClick={() => copyText(frameOf(d), say('The frame is in the clipboard. Paste it into the HTML of a page.'))}>
              {say('Copy as frame')}
            </Button>
          </>
        )}
        {mayEdit && (
          <>
            <Button disabled={change.isPending} onClick={() => change.mutate({ open: !d.open })}>
              {d.open ? say('Close') : say('Open again')}
            </Button>
            {waits && (
              <Button disabled={change.isPending} onClick={() => change.mutate({ released: !d.released })}>
                {d.released ? say('Hide again') : say('Release to learners')}
              </Button>
            )}
            {d.className !== undefined && <Button onClick={() => setDialog('people')}>{personal ? say('Codes') : say('Class')}</Button>}
            <Button onClick={() => setDialog('rules')}>{say('Rules')}</Button>
          </>
        )}
        {!several && <LookAt of={d} set={view.id} />}
      </div>
      {several && (
        <ul className="mt-2 grid gap-1 text-sm" aria-label={say('Versions')}>
          {all.map((one) => (
            <li key={one.id} className="flex flex-wrap gap-x-3">
              <span>{say('Version {version}: {responses} handed in', { version: one.version, responses: one.responses })}</span>
              <LookAt of={one} set={view.id} />
            </li>
          ))}
        </ul>
      )}
      {dialog === 'show' && <ShowDialog delivery={d.id} code={d.code} link={d.link} title={d.title} onClose={() => setDialog(undefined)} />}
      {dialog === 'people' && <PeopleDialog delivery={d.id} title={d.title} personal={personal} onClose={() => setDialog(undefined)} />}
      {dialog === 'rules' && (
        <RulesDialog
          published
          rules={d.rules}
          workspace={view.workspaceId}
          busy={change.isPending}
          onClose={() => setDialog(undefined)}
          onDone={(changed) => {
            // who comes in, the orders and practice stay as they were published
            const { enter: _, shuffle: __, practice: ___, ...rules } = wholeChange(changed);
            change.mutate({ rules });
          }}
        />
      )}
    </section>
  );
}

const LookAt = ({ of: { id }, set }: { of: Pick<DeliveryView, 'id'>; set: string }) => (
  <>
    <Link to={`/sets/${set}/results?of=${id}`} className="link self-center text-sm">
      {say('Results')}
    </Link>
    <Link to={`/sets/${set}/results?of=${id}&live=1`} className="link self-center text-sm">
      {say('At work')}
    </Link>
  </>
);
