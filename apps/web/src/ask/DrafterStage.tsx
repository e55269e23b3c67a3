/** A draft from a source by computation: one sentence with blanks, the items below it, each beside the sentence that it was made from. */
import { type DraftedKind, draftedKinds, type SourceText } from '@zakuska/core';
import type { DraftWish } from '@zakuska/core/drafter';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { useSourceAction, useSourceTexts } from '../sources/sources.js';
import { Button } from '../ui/Button.js';
import { Field, TextArea } from '../ui/Field.js';
import { Failed } from '../worker/Failed.js';
import { useLatest } from '../worker/latest.js';
import { BLANK } from '../ui/blank.js';
import { KindCounts } from './KindCounts.js';
import { Ways } from './Ways.js';
import { DraftedList, type Offered } from './DraftedList.js';
import { NOTHING, sourceCall } from './drafting.js';
import { retold } from '../words/retold.js';
import { Say, say } from '../words/say.js';

const USUAL: Partial<Record<DraftedKind, number>> = { 'multiple-choice': 4, 'true-false': 4, 'short-answer': 2, numeric: 2 };
const PASTED = 'pasted';
const NONE: readonly SourceText[] = [];

export default function DrafterStage() {
  const { view, document: doc, mayEdit } = useOpenSet();
  const { any, texts } = useSourceTexts(view.id);
  const [from, setFrom] = useState('');
  const [pasted, setPasted] = useState('');
  const [counts, setCounts] = useState(USUAL);
  const [options, setOptions] = useState(4);
  const [round, setRound] = useState(1);
  const [keep, setKeep] = useState(true);
  const [unsure, setUnsure] = useState(false);
  // no source yet, or one that is pasted here
  const typing = from === PASTED || (texts !== null && !any);
  const sources = useMemo<readonly SourceText[]>(() => {
    if (typing) return pasted.trim() ? [{ id: PASTED, name: say('pasted text'), text: pasted }] : NONE;
    return from ? (texts ?? NONE).filter((t) => t.id === from) : (texts ?? NONE);
  }, [typing, pasted, from, texts]);
  const wish = useMemo<DraftWish>(() => ({ counts, options, seed: String(round), unsure }), [counts, options, round, unsure]);
  const question = useMemo(() => ({ sources, language: doc.set.language, wish }), [sources, doc.set.language, wish]);
  const { value, busy, failed, again } = useLatest(question, sourceCall);
  const keepSource = useSourceAction(view.id, (text: string) =>
    call(
      api.POST('/api/v1/sets/{set}/sources', {
        params: { path: { set: view.id } },
        body: { name: text.trim().split('\n', 1)[0]?.slice(0, 80) || say('pasted text'), mediaType: 'text/plain', text },
      }),
    ),
  );
  const offered = useMemo<Offered[]>(
    () =>
      (sources.length ? (value?.drafted ?? []) : []).map(({ item, evidence, how, doubt }) => ({
        key: `${item.kind} ${evidence.map((e) => `${e.source} ${e.from}`).join(' ')}`,
        item,
        beside: (
          <>
            {evidence.slice(0, 3).map((e) => (
              <blockquote key={`${e.source} ${e.from}`} className="border-l-2 border-rule pl-2" dir="auto">
                {e.text}{' '}
                <span className="text-[12.5px] whitespace-nowrap">
                  ({evidence.length > 1 || sources.length > 1 ? `${e.sourceName}, ` : ''}
                  {e.place})
                </span>
              </blockquote>
            ))}
            {evidence.length > 3 && <p>{say('and {n} more sentences', { n: evidence.length - 3 })}</p>}
            <p>{how}</p>
            {doubt && <p className="text-amber">{doubt}</p>}
          </>
        ),
      })),
    [value, sources],
  );
  if (!mayEdit)
    return (
      <main className="p-6">
        <p>{say('You may read this set. Who may edit it can draft from its sources here.')}</p>
      </main>
    );
  if (any && !texts) return <Busy what={say('Opening the sources')} />;
  return (
    <main className="grid min-h-0 grid-cols-1 content-start gap-4 overflow-auto p-4 sm:px-6" tabIndex={0}>
      <Ways set={view.id} />
      <p className="text-lg/9">
        <Say
          text="Make {kindCounts} items from {select}."
          values={{
            kindCounts: (
              <KindCounts
                all={draftedKinds}
                counts={counts}
                most={100}
                options={options}
                bounds={[3, 6]}
                onCount={(k, n) => setCounts((c) => ({ ...c, [k]: n }))}
                onOptions={setOptions}
              />
            ),
            select: (
              <select aria-label={say('From')} className={`${BLANK} max-w-full`} value={typing ? PASTED : from} onChange={(e) => setFrom(e.target.value)}>
                {any && <option value="">{(texts?.length ?? 0) > 1 ? say('all sources') : (texts?.[0]?.name ?? say('the source'))}</option>}
                {(texts?.length ?? 0) > 1 &&
                  texts?.map((t) => (
                    <option key={t.id} value={t.id}>
                      {t.name}
                    </option>
                  ))}
                <option value={PASTED}>{say('a text that is pasted below')}</option>
              </select>
            ),
          }}
        />
      </p>
      {typing && (
        <Field
          label={say('The text')}
          hint={say(
            'An article, notes, a transcript. It stays here: nothing is sent to an assistant. Sentences that can stand alone, with numbers, years, names and definitions, give the most.',
          )}
        >
          {(id, note) => (
            <TextArea
              id={id}
              aria-describedby={note}
              rows={5}
              maxLength={1_000_000}
              className="max-h-[30vh] min-h-28 overflow-auto"
              value={pasted}
              onChange={(e) => setPasted(e.target.value)}
            />
          )}
        </Field>
      )}
      <label className="flex items-center gap-2 text-sm">
        <input type="checkbox" checked={unsure} onChange={(e) => setUnsure(e.target.checked)} />
        {say('Also items that need a closer look, each with the reason')}
      </label>
      {typing && pasted.trim() && (
        <label className="flex items-center gap-2 text-sm">
          <input type="checkbox" checked={keep} onChange={(e) => setKeep(e.target.checked)} />
          {say('Keep the text as a source of the set, so that Check can show the sentences')}
        </label>
      )}
      {failed && <Failed what={say('Nothing could be drafted from this.')} again={again} />}
      {sources.length > 0 && !failed && (
        <DraftedList
          offered={offered}
          busy={busy || !value || value === NOTHING}
          note={
            value &&
            value !== NOTHING && (
              <>
                {value.caution && value.drafted.length > 0 && <span className="block text-amber">{value.caution}</span>}
                {value.fewer.map((f) => (
                  <span key={f.kind} className="block text-ink-2">
                    {retold(f.message).charAt(0).toUpperCase() + retold(f.message).slice(1)}
                  </span>
                ))}
                {value.drafted.length > 0 && (
                  <span className="block">
                    <Button look="quiet" className="-ml-2" onClick={() => setRound((r) => r + 1)}>
                      {say('Draw the distractors anew')}
                    </Button>
                  </span>
                )}
              </>
            )
          }
          {...(typing &&
            keep && {
              onPut: async () => {
                await keepSource
                  .mutateAsync(pasted)
                  .catch((e: unknown) => toast.error(say('The text could not be kept as a source: {words}', { words: wordsOf(e) })));
              },
            })}
        />
      )}
    </main>
  );
}
