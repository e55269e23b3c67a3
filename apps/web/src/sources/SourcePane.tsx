/** What a set is made from, readable beside the work: articles, notes, transcripts with their times, pages to mark. */
import { clock, joinedCues } from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { FilePlus2, Globe, Trash2, X } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import type { Marked } from './PdfPages.js';
import { keepAsSource, type SourceSummary, useSourceAction, useSources } from './sources.js';
import { locale, say } from '../words/say.js';

const PdfPages = lazy(() => import('./PdfPages.js'));

export function SourcePane({
  set,
  shown,
  spot = null,
  mayEdit,
  onShow,
  onClose,
  onMark,
}: {
  set: string;
  /** Which source is shown; the first where none is named. */
  shown: string | undefined;
  /** Characters of a source that are to be looked at. */
  spot?: Spot | null;
  mayEdit: boolean;
  onShow: (id: string | undefined) => void;
  onClose: () => void;
  /** A person marked a part of a page. */
  onMark: (marked: Marked) => void;
}) {
  const session = useSession();
  const sources = useSources(set);
  const [asking, setAsking] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const list = sources.data ?? [];
  const now = list.find((s) => s.id === shown) ?? list[0];
  const add = useSourceAction(set, async (files: File[]) => {
    for (const f of files) {
      try {
        const made = await keepAsSource(set, f, session.maxUploadBytes);
        onShow(made.id);
      } catch (e) {
        toast.error(wordsOf(e));
      }
    }
  });
  const remove = useSourceAction(set, async (s: SourceSummary) => {
    await call(api.DELETE('/api/v1/sources/{source}', { params: { path: { source: s.id } } }));
    onShow(undefined);
    toast(say('“{name}” is no source of this set any more.', { name: s.name }));
  });
  return (
    <section aria-label={say('Sources')} className="flex min-h-0 flex-col overflow-hidden border-l border-rule bg-sheet">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-3 py-2">
        {list.length > 0 ? (
          <Select aria-label={say('Source')} value={now?.id ?? ''} onChange={(e) => onShow(e.target.value)} className="w-auto! min-w-0 flex-1">
            {list.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </Select>
        ) : (
          <b className="flex-1">{say('Sources')}</b>
        )}
        {mayEdit && (
          <>
            <Button onClick={() => input.current?.click()} disabled={add.isPending}>
              <FilePlus2 size={15} aria-hidden /> {add.isPending ? say('Reading …') : say('Add a file')}
            </Button>
            <Button onClick={() => setAsking(true)}>
              <Globe size={15} aria-hidden /> {say('Add an address')}
            </Button>
            {now && (
              <button
                type="button"
                aria-label={say('Remove {name} from the sources', { name: now.name })}
                className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-brick-soft hover:text-brick"
                onClick={() => remove.mutate(now)}
              >
                <Trash2 size={16} aria-hidden />
              </button>
            )}
          </>
        )}
        <button
          type="button"
          aria-label={say('Close the sources')}
          className="grid size-8 cursor-pointer place-items-center rounded hover:bg-paper"
          onClick={onClose}
        >
          <X size={17} aria-hidden />
        </button>
        <input
          ref={input}
          type="file"
          multiple
          className="hidden"
          tabIndex={-1}
          aria-label={say('Source files')}
          accept=".docx,.odt,.pdf,.html,.htm,.md,.txt,.srt,.vtt,text/*"
          onChange={(e) => {
            add.mutate([...(e.target.files ?? [])]);
            e.target.value = '';
          }}
        />
      </div>
      {sources.isPending && <Busy what={say('Fetching the sources')} />}
      {sources.isError && (
        <p role="alert" className="note error m-3">
          {wordsOf(sources.error)}
        </p>
      )}
      {sources.data?.length === 0 && (
        <p className="p-4 text-ink-2">
          {say(
            'A source is what the questions are made from and checked against: an article, notes, a transcript (SRT or WebVTT), a document or a web page. It is kept with the set.',
          )}
        </p>
      )}
      {now && <ShownSource key={now.id} source={now} spot={spot?.source === now.id ? spot : null} mayEdit={mayEdit} onMark={onMark} />}
      {asking && <AddressForm set={set} onClose={() => setAsking(false)} onDone={onShow} />}
    </section>
  );
}

interface Spot {
  source: string;
  from: number;
  to: number;
}

/** The part of a stretch that lies in a cue; null where none does. */
const inCue = (spot: Spot, start: number, length: number): { from: number; to: number } | null => {
  const [from, to] = [Math.max(0, spot.from - start), Math.min(length, spot.to - start)];
  return to > from ? { from, to } : null;
};

/** A text with a stretch of it marked and in view. */
function Spotted({ text, spot }: { text: string; spot: { from: number; to: number } }) {
  const mark = useRef<HTMLElement>(null);
  useEffect(() => void mark.current?.scrollIntoView({ block: 'center' }), [spot]);
  return (
    <>
      {text.slice(0, spot.from)}
      <mark ref={mark} className="bg-amber-soft text-ink">
        {text.slice(spot.from, spot.to)}
      </mark>
      {text.slice(spot.to)}
    </>
  );
}

function ShownSource({ source, spot, mayEdit, onMark }: { source: SourceSummary; spot: Spot | null; mayEdit: boolean; onMark: (m: Marked) => void }) {
  const [asText, setAsText] = useState(!source.hasFile);
  useEffect(() => {
    if (spot) setAsText(true);
  }, [spot]);
  const full = useQuery({
    queryKey: ['source', source.id],
    staleTime: Number.POSITIVE_INFINITY,
    enabled: asText,
    queryFn: () => call(api.GET('/api/v1/sources/{source}', { params: { path: { source: source.id } } })),
  });
  const starts = useMemo(() => (full.data?.cues.length ? joinedCues(full.data.cues).starts : null), [full.data]);
  return (
    <>
      {source.hasFile && (
        <div className="flex gap-4 border-b border-rule px-3 py-1 text-[13.5px]">
          {[false, true].map((t) => (
            <button
              key={String(t)}
              type="button"
              aria-pressed={asText === t}
              onClick={() => setAsText(t)}
              className={`min-h-7 cursor-pointer ${asText === t ? 'font-semibold text-beet' : 'text-ink-2'}`}
            >
              {t ? say('Its text') : say('Its pages')}
            </button>
          ))}
        </div>
      )}
      {asText ? (
        <div className="min-h-0 flex-1 overflow-auto px-4 py-3" tabIndex={0} role="region" aria-label={say('Text of {name}', { name: source.name })}>
          {source.address && (
            <p className="mb-2 text-[13px] break-all text-ink-2">
              {say('From {address}, {what}', { address: source.address, what: new Date(source.createdAt).toLocaleDateString(locale()) })}
            </p>
          )}
          {full.isPending && <Busy what={say('Fetching')} />}
          {full.data?.cues.length ? (
            <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-1">
              {full.data.cues.map((c, i) => {
                const here = spot && starts ? inCue(spot, starts[i] ?? 0, c.text.length) : null;
                return (
                  <div key={c.from} className="contents">
                    <dt className="text-right tabular-nums text-ink-2">{clock(c.from)}</dt>
                    <dd dir="auto">{here ? <Spotted text={c.text.replace(/\s+/g, ' ')} spot={here} /> : c.text}</dd>
                  </div>
                );
              })}
            </dl>
          ) : (
            <div dir="auto" className="whitespace-pre-wrap">
              {full.data?.text ? (
                spot ? (
                  <Spotted text={full.data.text} spot={spot} />
                ) : (
                  full.data.text
                )
              ) : full.data ? (
                say('There is no text in this source.')
              ) : (
                ''
              )}
            </div>
          )}
        </div>
      ) : (
        <Suspense fallback={<Busy what={say('Opening the pages')} />}>
          <PdfPages source={source.id} name={source.name} mayEdit={mayEdit} onMark={onMark} />
        </Suspense>
      )}
    </>
  );
}

function AddressForm({ set, onClose, onDone }: { set: string; onClose: () => void; onDone: (id: string) => void }) {
  const [address, setAddress] = useState('');
  const fetch = useSourceAction(set, async (a: string) =>
    call(api.POST('/api/v1/sets/{set}/sources/address', { params: { path: { set } }, body: { address: a } })),
  );
  return (
    <Modal open onClose={onClose} title={say('A web page as a source')} description={say('The server fetches the page and keeps its main text with the set.')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          fetch.mutate(address, {
            onSuccess: (s) => {
              onDone(s.id);
              onClose();
            },
          });
        }}
      >
        <Field label={say('Address')} error={fetch.isError ? wordsOf(fetch.error) : undefined}>
          {(id) => (
            <Input
              id={id}
              autoFocus
              type="text"
              inputMode="url"
              placeholder="https://"
              maxLength={2000}
              value={address}
              onChange={(e) => setAddress(e.target.value)}
            />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={!address.trim() || fetch.isPending}>
            {fetch.isPending ? say('Fetching …') : say('Fetch the page')}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
