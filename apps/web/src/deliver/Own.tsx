/** The own delivery: a quiz by link, entry code and QR. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { brokenFormulasOf, languageName, progressOf, type QuizSet } from '@zakuska/core';
import { Copy } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, call, type DeliveryView, wordsOf } from '../api/client.js';
import { PlatformsDialog } from '../course/PlatformsDialog.js';
import { type Shows, ShowsField } from '../course/ShowsField.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { type Goes, goesWords } from '../set/goes.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Select } from '../ui/Field.js';

const NONE = { missing: 0, stale: 0 };
/** Attempts per person, as they can be chosen. */
const ATTEMPTS = { 1: 'one', 2: 'two', 3: 'three', 0: 'as many as they like' } as const;

export function Own({ set, goes, mayEdit }: { set: QuizSet; goes: Goes; mayEdit: boolean }) {
  const { view, document: doc } = useOpenSet();
  const queries = useQueryClient();
  const [choice, setChoice] = useState<readonly string[]>([]);
  const further = useMemo(() => (goes.language === undefined ? Object.keys(doc.set.translations ?? {}) : []), [goes.language, doc.set.translations]);
  const progress = useMemo(() => new Map(further.map((l) => [l, progressOf(doc.set, l)])), [further, doc.set]);
  const chosen = choice.filter((l) => further.includes(l));
  const [shows, setShows] = useState<Shows>('score');
  // one attempt where the answers are shown, unless the teacher says otherwise
  const [said, setSaid] = useState<keyof typeof ATTEMPTS>();
  const attempts = said ?? (shows === 'answers' ? 1 : 0);
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
          body: { shows, title: set.title, attempts, ...goes, ...(chosen.length > 0 && { choice: chosen }) },
        }),
      ),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  return (
    <>
      <p className="text-ink-2">A quiz by link, entry code and QR, for any phone. It stays as it is when you edit the set later.</p>
      {mayEdit && (
        <div className="mt-3 grid gap-3">
          <ShowsField value={shows} onValue={setShows} />
          <Field label="Attempts per person">
            {(id) => (
              <Select id={id} value={attempts} onChange={(e) => setSaid(Number(e.target.value) as keyof typeof ATTEMPTS)}>
                {([1, 2, 3, 0] as const).map((n) => (
                  <option key={n} value={n}>
                    {ATTEMPTS[n]}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          {further.length > 0 && (
            <fieldset className="grid gap-1">
              <legend className="text-[13.5px] font-semibold">Learners may choose as well</legend>
              {further.map((l) => {
                const { missing, stale } = progress.get(l) ?? NONE;
                return (
                  <label key={l} className="flex flex-wrap items-center gap-x-2 text-sm">
                    <input
                      type="checkbox"
                      checked={choice.includes(l)}
                      onChange={(e) => setChoice((c) => (e.target.checked ? [...c, l] : c.filter((x) => x !== l)))}
                    />
                    {languageName(l)}
                    {missing + stale > 0 && (
                      <span className="text-amber">
                        {missing} missing, {stale} stale
                      </span>
                    )}
                  </label>
                );
              })}
            </fieldset>
          )}
          {shows === 'answers' && attempts !== 1 && <p className="text-[13.5px] text-amber">From the second attempt on, learners know the answers.</p>}
          {broken > 0 && (
            <p className="text-[13.5px] text-brick">
              {broken} {broken === 1 ? 'item has a formula' : 'items have formulas'} that cannot be drawn; learners see the text of it. Check names them.
            </p>
          )}
          <Button look="primary" disabled={publish.isPending} onClick={() => publish.mutate()}>
            Publish {set.items.length} items
          </Button>
        </div>
      )}
      <p className="mt-3 text-sm">
        <button type="button" className="link" onClick={() => setInCourses(true)}>
          Open quizzes inside courses (LTI 1.3)
        </button>
      </p>
      {inCourses && <PlatformsDialog workspace={view.workspaceId} owner={view.role === 'owner'} onClose={() => setInCourses(false)} />}
      {list.isPending && <Busy what="Fetching" />}
      {list.data?.map((d) => (
        <Published key={d.id} d={d} mayEdit={mayEdit} onChanged={changed} />
      ))}
    </>
  );
}

function Published({ d, mayEdit, onChanged }: { d: DeliveryView; mayEdit: boolean; onChanged: () => void }) {
  const { view } = useOpenSet();
  const toggle = useMutation({
    mutationFn: () => call(api.PATCH('/api/v1/deliveries/{delivery}', { params: { path: { delivery: d.id } }, body: { open: !d.open } })),
    onSuccess: onChanged,
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <div className="grid grid-cols-[1fr_104px] gap-3">
        <div>
          <p className="text-[13px] text-ink-2">Entry code</p>
          <p className="font-mono text-2xl/8 font-bold tracking-widest" data-code>
            {d.code}
          </p>
          <p className="text-[13.5px] break-all">
            <a className="link" href={d.link} target="_blank" rel="noreferrer">
              {d.link.replace(/^https?:\/\//, '')}
            </a>
          </p>
          <p className="mt-1 text-[13px] text-ink-2">
            {goesWords(d) && <b className="font-semibold text-ink">{goesWords(d)} · </b>}
            {d.choice.length > 0 && <b className="font-semibold text-ink">also {d.choice.map(languageName).join(', ')} · </b>}
            {new Date(d.createdAt).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })} · {d.items} items ·{' '}
            {d.responses} handed in · {d.open ? 'open' : 'closed'}
            {d.attempts > 0 && ` · ${d.attempts === 1 ? 'one attempt' : `${d.attempts} attempts`} each`}
          </p>
        </div>
        <img src={`/api/v1/deliveries/${d.id}/qr.svg`} alt={`QR code of the link ${d.link}`} className="size-26 rounded border border-rule bg-[#fff]" />
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={() => copyText(d.link, 'The link is in the clipboard.', 'Mark the link and copy it.')}>
          <Copy size={15} aria-hidden /> Copy link
        </Button>
        {mayEdit && (
          <Button disabled={toggle.isPending} onClick={() => toggle.mutate()}>
            {d.open ? 'Close' : 'Open again'}
          </Button>
        )}
        <Link to={`/sets/${view.id}/results?of=${d.id}`} className="link self-center text-sm">
          Results
        </Link>
      </div>
    </section>
  );
}
