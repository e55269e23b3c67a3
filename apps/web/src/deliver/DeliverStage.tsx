/** Deliver: what each item becomes at each destination, then what goes, then the receipt with the rehearsal. */
import {
  destinations,
  type Destination,
  type Fit,
  type FitNote,
  goingSet,
  type Item,
  languageName,
  matters,
  maximumOf,
  nameOf,
  progressOf,
  type QuizSet,
  type ServiceRow,
  serviceRows,
  type SetLoss,
} from '@zakuska/core';
import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { Busy, Empty } from '../frame/Frame.js';
import { cellOf, KeyStrip } from '../item/KeyStrip.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { Field, Select } from '../ui/Field.js';
import { useNarrow } from '../ui/useNarrow.js';
import { useRows } from '../ui/useRows.js';
import { Failed } from '../worker/Failed.js';
import { Connected } from './Connected.js';
import { type Goes, goesWords, languageWords } from '../set/goes.js';
import { FileOut } from './FileOut.js';
import type { KeptTemplate } from './deliver.worker.js';
import { LeftToDo } from './LeftToDo.js';
import { Own } from './Own.js';
import { Shorten } from './Shorten.js';
import { RemoveTemplate, TemplateDialog } from './TemplateDialog.js';
import { useTemplates } from './useTemplates.js';
import { useFits } from './useFits.js';
import { known, locale, say } from '../words/say.js';
import { retold } from '../words/retold.js';

const LOOK = { adapted: 'text-amber', lost: 'text-amber', impossible: 'text-brick font-[650]' } as const;
const rank = (n: FitNote): number => (n.fit === 'impossible' ? 0 : n.minor ? 3 : n.fit === 'adapted' ? 1 : 2);
const first = (notes: readonly FitNote[]): FitNote | undefined => [...notes].sort((a, b) => rank(a) - rank(b))[0];

export default function DeliverStage() {
  const { document: doc, view, mayEdit, session } = useOpenSet();
  const [params, setParams] = useSearchParams();
  const { templates, changed } = useTemplates();
  const all = useMemo<readonly Destination[]>(
    () => [
      ...destinations.map((d) => ({ ...d, name: known(d.name), what: known(d.what) })),
      ...templates.map((t) => ({ id: t.id, name: t.name, what: say('template, filled'), forms: [] })),
    ],
    [templates],
  );
  const chosen = all.find((d) => d.id === params.get('to')) ?? (all[0] as Destination);
  const template = templates.find((t) => t.id === chosen.id);
  const narrow = useNarrow();
  const [adding, setAdding] = useState<KeptTemplate | 'new'>();
  const [focus, setFocus] = useState<string>();
  const [forms, setForms] = useState<Record<string, string>>({});
  const version = doc.drawn?.versions.find((v) => v.name === params.get('version'))?.name;
  const tongues = useMemo(() => Object.keys(doc.set.translations ?? {}), [doc.set.translations]);
  const language = tongues.flatMap((l) => [l, `+${l}`]).find((l) => l === params.get('in'));
  const goes = useMemo<Goes>(() => ({ ...(version !== undefined && { version }), ...(language !== undefined && { language }) }), [version, language]);
  const set = useMemo(() => goingSet(doc, version, language) as QuizSet, [doc, version, language]);
  const { items } = set;
  const { fits, failed, again } = useFits(set, forms, templates);
  /** The address of a destination, and of what goes there. */
  const at = useCallback(
    (to: string, { version: v, language: l }: Goes) => ({ to, ...(v !== undefined && { version: v }), ...(l !== undefined && { in: l }) }),
    [],
  );
  const choose = (id: string): void => setParams(at(id, goes), { replace: true });
  const send = (next: Goes): void => setParams(at(chosen.id, next), { replace: true });
  useEffect(() => {
    const said = params.get('connection');
    if (!said) return;
    if (said === 'made') toast.success(say('{name} is connected.', { name: chosen.name }));
    else toast.error(say('{name} was not connected: it was refused there.', { name: chosen.name }));
    setParams(at(chosen.id, goes), { replace: true });
  }, [params, setParams, chosen, at, goes]);
  const scroll = useRef<HTMLElement>(null);
  const commands = useMemo(
    () => all.map((d) => ({ name: say('Deliver to {name}', { name: d.name }), run: () => setParams(at(d.id, goes), { replace: true }) })),
    [all, setParams, at, goes],
  );
  useCommands(commands);

  if (!items.length)
    return (
      <main>
        <Empty title={say('Nothing to deliver yet')}>
          <p>{say('Take items from the draft and check them. Then they go from here to files, to your LMS, or out as a quiz by link.')}</p>
          <Link to={`/sets/${view.id}/draft`} className="link">
            {say('Go to Draft')}
          </Link>
        </Empty>
      </main>
    );
  const here = fits?.items[chosen.id] ?? null;
  const service: ServiceRow | undefined = Object.values(serviceRows).find((s) => s.id === chosen.id);
  const table = (
    <section className="relative">
      {failed && <Failed what={say('What fits where could not be worked out for the set as it now is.')} again={again} />}
      {fits ? (
        <FitTable
          all={narrow ? [chosen] : all}
          scroll={scroll}
          items={items}
          fits={fits.items}
          chosen={chosen.id}
          focus={focus}
          onChoose={choose}
          onFocus={setFocus}
        />
      ) : (
        !failed && <Busy what={say('Looking at what fits where')} />
      )}
      {mayEdit && (
        <p className="mt-3 text-sm">
          <button type="button" className="link" onClick={() => setAdding('new')}>
            {say('Add a service by its import template')}
          </button>
        </p>
      )}
    </section>
  );
  const panel = (
    <aside
      className="rounded-lg border border-rule bg-sheet p-4 lg:sticky lg:top-0 lg:max-h-[calc(100vh-210px)] lg:overflow-auto"
      aria-label={chosen.name}
      tabIndex={0}
    >
      <h2 className="text-[17px] font-bold">{chosen.name}</h2>
      <LeftToDo set={set} reviews={doc.reviews} at={`/sets/${view.id}/check`} />
      {language !== undefined && <Untranslated set={doc.set} language={language.replace('+', '')} at={`/sets/${view.id}/check/languages`} />}
      {chosen.id === 'own' ? (
        <Own set={set} goes={goes} mayEdit={mayEdit} />
      ) : service ? (
        <Connected key={`${service.id} ${goesWords(goes)}`} set={set} goes={goes} service={service} mayEdit={mayEdit} />
      ) : (
        <FileOut
          key={`${chosen.id} ${goesWords(goes)}`}
          set={set}
          fits={here}
          to={chosen}
          form={forms[chosen.id] ?? chosen.forms[0]?.format ?? ''}
          onForm={(id) => setForms({ ...forms, [chosen.id]: id })}
          template={template}
        >
          {template && mayEdit && (
            <p className="mt-2 flex gap-3 text-sm">
              <button type="button" className="link" onClick={() => setAdding(template)}>
                {say('Its columns')}
              </button>
              <RemoveTemplate template={template} onRemoved={() => (changed(), choose('own'))} />
            </p>
          )}
        </FileOut>
      )}
      {here && (
        <Changes
          items={items}
          fits={here}
          ofSet={fits?.ofSet[chosen.id] ?? []}
          focus={focus}
          onFocus={setFocus}
          // items of a version stand in its order, and those of a language in its words; they are mended in the set
          {...(mayEdit &&
            version === undefined &&
            language === undefined && {
              onLeaveOut: (item: Item) => {
                session.perform({ type: 'review', id: item.id, review: { state: 'left-out' } });
                toast(say('“{name}” is left out.', { name: nameOf(item, 40) }), { action: { label: say('Undo'), onClick: () => session.undo() } });
              },
              onShorter: (item: Item) => {
                session.perform({ type: 'replace', item, review: null });
                toast(say('“{name}” has shorter words now, here and everywhere.', { name: nameOf(item, 40) }), {
                  action: { label: say('Undo'), onClick: () => session.undo() },
                });
              },
              onKeep: (item: Item, as: Item) => {
                session.perform({ type: 'replace', item: as, review: null });
                toast(say('“{name}” is so here too, and has to be checked again.', { name: nameOf(item, 40) }), {
                  action: { label: say('Undo'), onClick: () => session.undo() },
                });
              },
            })}
        />
      )}
    </aside>
  );
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[auto_minmax(0,1fr)]">
      <KeyStrip
        cells={items.map((i, n) => cellOf(i, n, doc.reviews[i.id]))}
        now={focus}
        items={items}
        onPick={setFocus}
        left={
          <>
            {doc.drawn && (
              <Select
                aria-label={say('What goes out')}
                className="mb-0.5 w-36! py-0.5! text-[13px]"
                value={version ?? ''}
                onChange={(e) => send({ ...(e.target.value && { version: e.target.value }), ...(language !== undefined && { language }) })}
              >
                <option value="">{say('the whole set')}</option>
                {doc.drawn.versions.map((v) => (
                  <option key={v.name} value={v.name}>
                    {say('version {name}', { name: v.name })}
                  </option>
                ))}
              </Select>
            )}
            {tongues.length > 0 && (
              <Select
                aria-label={say('In which language')}
                className="mb-0.5 w-36! py-0.5! text-[13px]"
                value={language ?? ''}
                onChange={(e) => send({ ...(version !== undefined && { version }), ...(e.target.value && { language: e.target.value }) })}
              >
                <option value="">{doc.set.language ? say('in {language}', { language: languageName(doc.set.language, locale()) }) : say('as written')}</option>
                {tongues.map((l) => (
                  <option key={l} value={l}>
                    {languageWords(l)}
                  </option>
                ))}
                {tongues.map((l) => (
                  <option key={`+${l}`} value={`+${l}`}>
                    {languageWords(`+${l}`)}
                  </option>
                ))}
              </Select>
            )}
            {!doc.drawn && <span className="block">{say('{items} items', { items: items.length })}</span>}
            <span className="block">
              {say('{more}{maximum} points', { more: doc.drawn && say('{items} items, ', { items: items.length }), maximum: maximumOf(items) })}
            </span>
          </>
        }
      />
      <main ref={scroll} className="grid grid-cols-1 items-start gap-5 overflow-auto p-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        {narrow ? (
          <>
            <Field label={say('Where to')}>
              {(id) => (
                <Select id={id} value={chosen.id} onChange={(e) => choose(e.target.value)}>
                  {all.map((d) => (
                    <option key={d.id} value={d.id}>
                      {d.name}: {d.what}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            {panel}
            {table}
          </>
        ) : (
          <>
            {table}
            {panel}
          </>
        )}
      </main>
      {adding && (
        <TemplateDialog
          {...(adding !== 'new' && { kept: adding })}
          onClose={() => setAdding(undefined)}
          onKept={(id) => {
            changed();
            setAdding(undefined);
            choose(id);
          }}
        />
      )}
    </div>
  );
}

/** Texts that go out untranslated, or in words that the original no longer has. */
function Untranslated({ set, language, at }: { set: QuizSet; language: string; at: string }) {
  const { missing, stale } = useMemo(() => progressOf(set, language), [set, language]);
  if (!missing && !stale) return null;
  const said = [
    missing && say('{missing, plural, one {# text} other {# texts}} not translated', { missing }),
    stale && say('{stale} of an older original', { stale }),
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <p className="mb-2 text-[13.5px] text-amber">
      {languageName(language, locale())}: {said}.{' '}
      <Link className="link" to={`${at}?in=${language}&show=open`}>
        {say('Look at them')}
      </Link>
    </p>
  );
}

interface TableProps {
  all: readonly Destination[];
  scroll: RefObject<HTMLElement | null>;
  items: readonly Item[];
  fits: Record<string, Fit[]>;
  chosen: string;
  focus: string | undefined;
  onChoose: (id: string) => void;
  onFocus: (id: string) => void;
}

/** px of a row before it is measured. */
const ROW = 33;
const Gap = ({ height }: { height: number }) => (
  <tr aria-hidden>
    <td style={{ height }} />
  </tr>
);

/** Items down, destinations across; one word in each cell, the whole of it on focus and beside the table. */
function FitTable({ all, scroll, items, fits, chosen, focus, onChoose, onFocus }: TableProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const { places, before, after, measure, show } = useRows({
    count: items.length,
    scroll,
    list: body,
    estimate: ROW,
    keyOf: (i) => items[i]?.id ?? '',
  });
  const at = focus === undefined ? -1 : items.findIndex((i) => i.id === focus);
  useEffect(() => {
    if (at >= 0) show(at);
  }, [at, show]);
  const tint = (id: string): string => (id === chosen ? 'bg-beet-soft/60' : '');
  return (
    <table className="w-full bg-sheet text-sm" aria-rowcount={items.length + 2}>
      <caption className="sr-only">{say('What each item becomes at each destination')}</caption>
      <thead className="bg-sheet lg:sticky lg:-top-4 lg:z-10 lg:shadow-[0_2px_0_var(--ink)]">
        <tr className="border-b-2 border-ink align-bottom">
          <th className="p-2">
            <span className="sr-only">{say('Number¦in a list')}</span>
          </th>
          <th className="min-w-36 p-2 text-left">{say('Item')}</th>
          {all.map((d) => (
            <th key={d.id} className={`p-0 text-left ${d.id === chosen ? 'bg-beet-soft' : ''}`}>
              <button
                type="button"
                aria-pressed={d.id === chosen}
                onClick={() => onChoose(d.id)}
                className="w-full cursor-pointer px-1.5 py-2 text-left font-semibold hover:underline"
              >
                {d.name}
                <small className="block font-normal text-ink-2">{d.what}</small>
              </button>
            </th>
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {before > 0 && <Gap height={before} />}
        {places.map((i) => {
          const item = items[i];
          return (
            item && (
              <tr
                key={item.id}
                ref={measure}
                data-index={i}
                aria-rowindex={i + 2}
                className={`border-b border-rule-2 ${item.id === focus ? 'bg-beet-soft' : ''}`}
              >
                <td className="w-8 px-2 py-1 text-right text-ink-2">{item.label ?? i + 1}</td>
                <td className="max-w-0 px-2 py-1" title={nameOf(item, 300)}>
                  <span className="line-clamp-2 wrap-break-word">{nameOf(item, 120)}</span>
                </td>
                {all.map((d) => {
                  const f = fits[d.id]?.[i];
                  const n = f && first(f.notes);
                  const notes = f?.notes.map((x) => retold(x.message)).join('; ');
                  return (
                    <td key={d.id} className={`w-[78px] px-1.5 py-1 text-[13px] ${tint(d.id)}`} title={notes}>
                      {n && !n.minor ? (
                        <button
                          type="button"
                          className={`min-h-6 cursor-pointer text-left ${LOOK[n.fit]}`}
                          aria-label={say('Item {label}, {name}: {notes}', {
                            label: item.label ?? i + 1,
                            name: d.name,
                            notes,
                          })}
                          onClick={() => (onChoose(d.id), onFocus(item.id))}
                        >
                          {retold(n.brief)}
                        </button>
                      ) : (
                        <span className="text-dill">{item.kind === 'essay' ? say('by hand') : say('fits')}</span>
                      )}
                    </td>
                  );
                })}
              </tr>
            )
          );
        })}
        {after > 0 && <Gap height={after} />}
      </tbody>
      <tfoot>
        <tr className="border-t-2 border-ink font-semibold">
          <td />
          <td className="p-2">{say('{items} items', { items: items.length })}</td>
          {all.map((d) => {
            const list = fits[d.id] ?? [];
            const stay = list.filter((f) => !f.items.length).length;
            const other = list.filter((f) => f.items.length && matters(f)).length;
            return (
              <td key={d.id} className={`px-1.5 py-2 align-top text-[13px] ${tint(d.id)}`}>
                <span className="text-dill">{say('{n} fit', { n: items.length - stay - other })}</span>
                {other > 0 && <span className="block text-amber">{say('{other} change', { other })}</span>}
                {stay > 0 && <span className="block text-brick">{say('{stay} stay', { stay })}</span>}
              </td>
            );
          })}
        </tr>
      </tfoot>
    </table>
  );
}

/** Fields that stay behind without a learner's noticing: they are kept when an item is made here as it is there. */
const NOTES = ['section', 'label', 'title', 'tags', 'outcomes', 'level', 'rubric', 'modelAnswer', 'lines'] as const;
const withNotes = (as: Item, item: Item): Item => {
  const own = item as Item & Partial<Record<(typeof NOTES)[number], unknown>>;
  const essay = as.kind === 'essay';
  const kept = NOTES.filter((n) => own[n] !== undefined && (essay || !['rubric', 'modelAnswer', 'lines'].includes(n)));
  return { ...as, id: item.id, ...Object.fromEntries(kept.map((n) => [n, own[n]])) } as Item;
};

interface ChangesProps {
  items: readonly Item[];
  fits: readonly Fit[];
  /** What of the set itself stays behind. */
  ofSet: readonly SetLoss[];
  focus: string | undefined;
  onFocus: (id: string) => void;
  onLeaveOut?: (item: Item) => void;
  onKeep?: (item: Item, as: Item) => void;
  onShorter?: (item: Item) => void;
}

/** So many are shown at first. */
const MOST = 200;

/** What changes on the way, the item in focus with what can be done about it. */
function Changes({ items, fits, ofSet, focus, onFocus, onLeaveOut, onKeep, onShorter }: ChangesProps) {
  const told = fits.flatMap((f, i) => (matters(f) ? [{ f, item: items[i] as Item, n: i }] : []));
  const minor = fits.flatMap((f, i) => (f.notes.some((n) => n.minor) ? [{ f, item: items[i] as Item, n: i }] : []));
  const [most, setMost] = useState(MOST);
  if (!told.length && !minor.length && !ofSet.length) return null;
  return (
    <>
      {ofSet.length > 0 && (
        <p className="mt-3 text-[13.5px] text-ink-2">{say('Of the set: {ofSet}.', { ofSet: ofSet.map((l) => retold(l.message)).join('; ') })}</p>
      )}
      {told.length > 0 && (
        <>
          <h3 className="mt-4 mb-1 font-semibold">{say('What changes on the way')}</h3>
          <ul className="grid gap-1 text-[13.5px]">
            {told.slice(0, most).map(({ f, item, n }) => {
              const as = f.items.length === 1 ? f.items[0] : undefined;
              const now = item.id === focus;
              return (
                <li key={item.id} className={now ? '-mx-2 rounded bg-beet-soft px-2 py-1' : ''}>
                  <button type="button" className="cursor-pointer text-left hover:underline" aria-expanded={now} onClick={() => onFocus(item.id)}>
                    <b className={LOOK[first(f.notes)?.fit ?? 'lost']}>{item.label ?? n + 1}</b>{' '}
                    {f.notes
                      .filter((x) => !x.minor)
                      .map((x) => retold(x.message))
                      .join('; ')}
                  </button>
                  {now && f.long && onShorter && <Shorten item={item} long={f.long} onShorter={onShorter} />}
                  {now && (onKeep || onLeaveOut) && (
                    <span className="mt-1 flex flex-wrap gap-2">
                      {as && onKeep && <Button onClick={() => onKeep(item, withNotes(as, item))}>{say('Change it in the set too')}</Button>}
                      {onLeaveOut && <Button onClick={() => onLeaveOut(item)}>{say('Leave it out')}</Button>}
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
          {told.length > most && (
            <Button look="quiet" onClick={() => setMost(most + 10 * MOST)}>
              {say('Show more of {told}', { told: told.length })}
            </Button>
          )}
        </>
      )}
      {minor.length > 0 && (
        <details className="mt-3 text-[13.5px] text-ink-2">
          <summary className="cursor-pointer">
            {say('Notes of yours that stay here, on {minor, plural, one {one item} other {# items}}', { minor: minor.length })}
          </summary>
          <ul className="mt-1 grid gap-0.5">
            {minor.slice(0, most).map(({ f, item, n }) => (
              <li key={item.id}>
                <b className="font-semibold">{item.label ?? n + 1}</b>{' '}
                {f.notes
                  .filter((x) => x.minor)
                  .map((x) => retold(x.message))
                  .join('; ')}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
