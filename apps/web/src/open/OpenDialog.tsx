/** What was understood of the files that are being opened, and where their questions go. Nothing is taken before the person agrees. */
import { type Item, nameOf, newId, type Operation, type Section } from '@zakuska/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import type { OpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { useWorkspace } from '../signin/workspace.js';
import { keepAsSource } from '../sources/sources.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { opener, type Opening, readFiles } from '../files/opening.js';
import { type SavedMapping, TableMapping, type SheetChoice } from './TableMapping.js';
import { say } from '../words/say.js';
import { fixed } from '../ui/figures.js';
import { retold } from '../words/retold.js';

type Where = 'here' | 'each' | 'one';
interface Report {
  name: string;
  set?: { id: string; title: string };
  said: string;
}

const titleOf = (name: string): string => name.replace(/(\.zak|\.gift)?\.[^.]+$/, '') || name;

/** Items and what stands around them as one step of a set. */
function insertion(label: string, at: number, items: Item[], sections: Section[], before: Section[]): Operation {
  return {
    type: 'all',
    label,
    operations: [...(sections.length ? [{ type: 'describe' as const, set: { sections: [...before, ...sections] } }] : []), { type: 'insert', at, items }],
  };
}

export default function OpenDialog({ openings, set, onClose }: { openings: Opening[]; set: OpenSet | null; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspace();
  const [files, setFiles] = useState(openings);
  const [choices, setChoices] = useState<Record<string, SheetChoice[]>>({});
  const [mapping, setMapping] = useState<string | null>(null);
  const [where, setWhere] = useState<Where>(set?.mayEdit ? 'here' : 'each');
  const [reports, setReports] = useState<Report[] | null>(null);
  const [working, setWorking] = useState(false);
  const stopped = useRef(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const kept = useQuery({
    queryKey: ['mappings', workspace?.id],
    enabled: Boolean(workspace),
    queryFn: () =>
      call(api.GET('/api/v1/workspaces/{workspace}/mappings', { params: { path: { workspace: workspace?.id ?? '' } } })) as Promise<SavedMapping[]>,
  });
  useEffect(() => {
    stopped.current = false;
    void readFiles(
      openings,
      session.maxUploadBytes,
      (id, change) => setFiles((all) => all.map((f) => (f.id === id ? { ...f, ...change } : f))),
      () => stopped.current,
    );
    return () => {
      stopped.current = true;
      for (const o of openings) opener.call((remote) => remote.close(o.id)).catch(() => {});
    };
  }, [openings, session.maxUploadBytes]);

  const busy = files.some((f) => f.state === 'waiting' || f.state === 'reading');
  const read = files.filter((f) => f.state === 'read');
  const unmapped = read.filter((f) => f.opened?.as === 'tables' && !choices[f.id]);
  const [only] = files;
  const single = files.length === 1 ? only : undefined;

  /** The pages of a PDF stay with the set, to be looked at and marked beside its draft. */
  const keepPages = useCallback(
    async (id: string, file: File): Promise<void> => {
      try {
        const kept = await keepAsSource(id, file, session.maxUploadBytes);
        void queries.invalidateQueries({ queryKey: ['sources', id] });
        void navigate(`/sets/${id}/draft?source=${kept.id}`);
      } catch (e) {
        toast.error(wordsOf(e));
      }
    },
    [session.maxUploadBytes, queries, navigate],
  );

  // one table is shown at once, one document in a set goes straight to its draft
  const shown = useRef(false);
  useEffect(() => {
    if (shown.current || !single || single.state !== 'read' || !single.opened) return;
    if (single.opened.as === 'tables') {
      shown.current = true;
      setMapping(single.id);
    } else if (single.opened.as === 'draft' && set?.mayEdit) {
      shown.current = true;
      const { text, notes, pdf } = single.opened;
      if (text) set.draft.add(text);
      void navigate(`/sets/${set.view.id}/draft`);
      if (pdf) void keepPages(set.view.id, single.file);
      toast(notes.length ? notes.join(' ') : say('{name} stands in the draft now.', { name: single.file.name }), { duration: 9000 });
      onClose();
    }
  }, [single, set, navigate, onClose, keepPages]);

  const itemsOf = async (f: Opening): Promise<{ items: Item[]; sections: Section[] }> => {
    const { opened } = f;
    if (opened?.as === 'items') {
      const names = new Map(opened.sections.map((s) => [s.id, newId()]));
      return {
        items: opened.items.map((i) => (i.section ? { ...i, section: names.get(i.section) ?? i.section } : i)),
        sections: opened.sections.map((s) => ({ ...s, id: names.get(s.id) ?? s.id })),
      };
    }
    const chosen = choices[f.id];
    return chosen ? opener.call((remote) => remote.take(f.id, chosen)) : { items: [], sections: [] };
  };

  /** Puts what was read into a set that is not open: its draft, or its items. */
  const fill = async (id: string, parts: readonly Opening[]): Promise<number> => {
    const texts = parts.flatMap((p) =>
      p.opened?.as === 'draft' && p.opened.text ? [parts.length > 1 ? `# ${titleOf(p.file.name)}\n\n${p.opened.text}` : p.opened.text] : [],
    );
    if (texts.length)
      await call(api.PUT('/api/v1/sets/{set}/draft', { params: { path: { set: id } }, body: { base: 0, text: texts.join('\n\n'), overrides: [] } }));
    for (const p of parts) if (p.opened?.as === 'draft' && p.opened.pdf) await keepAsSource(id, p.file, session.maxUploadBytes);
    const items: Item[] = [];
    const sections: Section[] = [];
    for (const p of parts) {
      const got = await itemsOf(p);
      items.push(...got.items);
      sections.push(...got.sections);
    }
    if (items.length)
      await call(
        api.POST('/api/v1/sets/{set}/operations', {
          params: { path: { set: id } },
          body: { base: 0, operations: [{ id: newId(), operation: insertion(say('Open a file'), 0, items, sections, []) }] },
        }),
      );
    return items.length;
  };
  const create = async (title: string): Promise<{ id: string; title: string }> =>
    call(
      api.POST('/api/v1/workspaces/{workspace}/sets', {
        params: { path: { workspace: workspace?.id ?? '' } },
        body: { title, ...(set?.view.folder && { folder: set.view.folder }) },
      }),
    );

  const saidOf = (f: Opening, items: number): string => {
    if (f.opened?.as === 'draft') return say('draft with about {questions, plural, one {# question} other {# questions}}', { questions: f.opened.questions });
    return say('{items, plural, one {# item} other {# items}} taken', { items });
  };

  const takeHere = async (): Promise<void> => {
    if (!set) return;
    let taken = 0;
    for (const f of read) {
      if (f.opened?.as === 'draft') {
        set.draft.add(read.length > 1 ? `# ${titleOf(f.file.name)}\n\n${f.opened.text}` : f.opened.text);
        continue;
      }
      const { items, sections } = await itemsOf(f);
      const now = set.session.get().document.set;
      if (items.length && set.session.perform(insertion(say('Open {name}', { name: f.file.name }), now.items.length, items, sections, now.sections ?? [])))
        taken += items.length;
    }
    toast(taken ? say('{taken, plural, one {# item} other {# items}} taken. Undo takes them out again.', { taken }) : say('The text stands in the draft.'));
    void navigate(`/sets/${set.view.id}/${taken ? 'check' : 'draft'}`);
    onClose();
  };
  const takeNew = async (): Promise<void> => {
    const done: Report[] = files.filter((f) => f.state === 'failed').map((f) => ({ name: f.file.name, said: f.error ?? '' }));
    const groups = where === 'one' ? [read] : read.map((f) => [f]);
    for (const group of groups) {
      const [first] = group;
      if (!first) continue;
      const name =
        where === 'one' && group.length > 1 ? say('{title} and {n} more', { title: titleOf(first.file.name), n: group.length - 1 }) : titleOf(first.file.name);
      try {
        const made = await create(name.slice(0, 300));
        const items = await fill(made.id, group);
        done.push({
          name: group.map((g) => g.file.name).join(', '),
          set: made,
          said: group.length > 1 ? say('{items, plural, one {# item} other {# items}}', { items }) : saidOf(first, items),
        });
        if (single) {
          void navigate(`/sets/${made.id}/${items ? 'check' : 'draft'}${first.opened?.as === 'draft' && first.opened.pdf ? '?source=' : ''}`);
          void queries.invalidateQueries({ queryKey: ['sets'] });
          return onClose();
        }
      } catch (e) {
        done.push({ name: first.file.name, said: wordsOf(e) });
      }
      setReports([...done]);
    }
    void queries.invalidateQueries({ queryKey: ['sets'] });
    setReports(done);
  };
  const take = async (): Promise<void> => {
    setWorking(true);
    try {
      await (where === 'here' ? takeHere() : takeNew());
    } catch (e) {
      toast.error(wordsOf(e));
    } finally {
      setWorking(false);
    }
  };
  const stop = (): void => {
    stopped.current = true;
    opener.end();
    setFiles((all) =>
      all.map((f) => (f.state === 'waiting' || f.state === 'reading' ? { ...f, state: 'stopped', error: say('Stopped before it was read.') } : f)),
    );
  };

  const open = files.find((f) => f.id === mapping);
  const title = say('{files, plural, one {Open {name}} other {Open # files}}', { files: files.length, name: only?.file.name ?? '' });
  if (open?.opened?.as === 'tables')
    return (
      <TableMapping
        id={open.id}
        name={open.file.name}
        sheets={open.opened.sheets}
        kept={kept.data ?? []}
        workspace={workspace?.id ?? ''}
        agreed={choices[open.id] ?? null}
        last={single !== undefined}
        onCancel={() => (single ? onClose() : setMapping(null))}
        onAgree={(chosen) => {
          setChoices((all) => ({ ...all, [open.id]: chosen }));
          setMapping(null);
        }}
      />
    );
  return (
    <Modal open onClose={onClose} title={title} wide>
      {reports ? (
        <ReportList reports={reports} onClose={onClose} />
      ) : (
        <>
          <ul className="border-y border-rule">
            {files.map((f) => (
              <li key={f.id} className="border-rule-2 py-2 not-first:border-t">
                <FileLine file={f} choice={choices[f.id]} onMap={() => setMapping(f.id)} />
              </li>
            ))}
          </ul>
          {!busy && read.length > 0 && (files.length > 1 || !set?.mayEdit) && (
            <fieldset className="mt-3 flex flex-wrap gap-x-5 gap-y-1">
              <legend className="sr-only">{say('Where the questions go')}</legend>
              {[
                ...(set?.mayEdit ? [['here', say('Into “{title}”', { title: set.view.title })] as const] : []),
                ...(files.length > 1
                  ? ([
                      ['each', say('A new set for each file')],
                      ['one', say('All in one new set')],
                    ] as const)
                  : ([['each', say('Into a new set')]] as const)),
              ].map(([value, label]) => (
                <label key={value} className="flex min-h-7 cursor-pointer items-center gap-2">
                  <input type="radio" name="where" checked={where === value} onChange={() => setWhere(value)} className="accent-beet" /> {label}
                </label>
              ))}
            </fieldset>
          )}
          <div className="mt-4 flex flex-wrap items-center gap-2">
            <span role="status" className="min-w-0 flex-1 text-[13.5px] text-ink-2">
              {busy
                ? say('Reading {n} of {files} …', { n: files.filter((f) => f.state !== 'waiting' && f.state !== 'reading').length + 1, files: files.length })
                : unmapped.length
                  ? say('{unmapped, plural, one {# table} other {# tables}} {unmapped, plural, one {waits} other {wait}} for you to look at the columns.', {
                      unmapped: unmapped.length,
                    })
                  : ''}
            </span>
            {busy && <Button onClick={stop}>{say('Stop reading')}</Button>}
            <Button onClick={onClose}>{say('Cancel')}</Button>
            <Button look="primary" disabled={busy || !read.length || unmapped.length > 0 || working} onClick={() => void take()}>
              {working
                ? say('Taking …')
                : single?.opened?.as === 'items'
                  ? say('Take {items, plural, one {# item} other {# items}}', { items: single.opened.items.length })
                  : say('Take what was read')}
            </Button>
          </div>
        </>
      )}
    </Modal>
  );
}

function FileLine({ file, choice, onMap }: { file: Opening; choice: SheetChoice[] | undefined; onMap: () => void }) {
  const { opened } = file;
  const size =
    file.file.size < 1e5 ? say('{max} kB', { max: Math.max(1, Math.round(file.file.size / 1e3)) }) : say('{n} MB', { n: fixed(file.file.size / 1e6, 1) });
  return (
    <div className="grid gap-0.5">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <b className="min-w-0 break-words">{file.file.name}</b>
        <span className="text-[13px] text-ink-2">
          {opened ? `${opened.kind}, ` : ''}
          {size}
        </span>
        {file.state === 'reading' && <span className="text-ink-2">{say('reading {progress}', { progress: file.progress ?? '…' })}</span>}
        {file.state === 'waiting' && <span className="text-ink-2">{say('waits')}</span>}
      </div>
      {file.error && (
        <p role="alert" className="text-brick">
          {file.error}
        </p>
      )}
      {opened?.as === 'draft' && (
        <p className="text-ink-2">
          {say('About {questions, plural, one {# question} other {# questions}}{what}. {notes}', {
            questions: opened.questions,
            what: opened.pictures ? `, ${say('{pictures, plural, one {# picture} other {# pictures}}', { pictures: opened.pictures })}` : '',
            notes: opened.notes.join(' '),
          })}
        </p>
      )}
      {opened?.as === 'tables' && (
        <p className="flex flex-wrap items-center gap-x-3">
          {choice ? (
            <span className="text-dill">
              {say('✓ {what} agreed', {
                what: choice.some((c) => c.items === null)
                  ? say('columns')
                  : say('{choice, plural, one {# item} other {# items}}', { choice: choice.reduce((n, c) => n + (c.items ?? 0), 0) }),
              })}
            </span>
          ) : (
            <span className="text-ink-2">
              {say('{sheets, plural, one {# sheet} other {# sheets}}; nothing is taken before you have seen the columns.', { sheets: opened.sheets.length })}
            </span>
          )}
          <Button look="quiet" onClick={onMap}>
            {choice ? say('Look at the columns again') : say('Look at the columns')}
          </Button>
        </p>
      )}
      {opened?.as === 'items' && <PackageReport opened={opened} />}
    </div>
  );
}

/** What came in from a package, item by item. */
function PackageReport({ opened }: { opened: Extract<NonNullable<Opening['opened']>, { as: 'items' }> }) {
  const of = useMemo(() => {
    const by = new Map<string, string[]>();
    for (const d of opened.diagnostics) if (d.item && d.severity !== 'info') by.set(d.item, [...(by.get(d.item) ?? []), retold(d.message)]);
    return by;
  }, [opened]);
  const apart = opened.diagnostics.filter((d) => !d.item);
  return (
    <>
      <p className="text-ink-2">
        {say('{items, plural, one {# item} other {# items}}', { items: opened.items.length })}
        {opened.pictures ? `, ${say('{pictures, plural, one {# picture} other {# pictures}}', { pictures: opened.pictures })}` : ''}
        {opened.passages ? `, ${say('{passages, plural, one {# passage} other {# passages}}', { passages: opened.passages })}` : ''}
        {of.size ? say(', {of} with something to look at', { of: of.size }) : ''}.
      </p>
      {apart.map((d) => (
        <p key={`${d.code}${d.message}`} className={d.severity === 'info' ? 'text-ink-2' : 'text-amber'}>
          {retold(d.message)}
        </p>
      ))}
      <details>
        <summary className="cursor-pointer text-beet">{say('Item by item')}</summary>
        <ol className="mt-1 max-h-72 overflow-auto border-t border-rule-2">
          {opened.items.map((i, n) => (
            <li key={i.id} className="grid grid-cols-[3ch_minmax(0,1fr)] gap-2 border-rule-2 py-1 not-first:border-t">
              <span className="text-right tabular-nums text-ink-2">{i.label ?? n + 1}</span>
              <div>
                {nameOf(i, 110)} <span className="text-[13px] text-ink-2">{i.kind.replace('-', ' ')}</span>
                {of.get(i.id)?.map((m) => (
                  <p key={m} className="text-[13.5px] text-amber">
                    {m}
                  </p>
                ))}
              </div>
            </li>
          ))}
        </ol>
      </details>
    </>
  );
}

function ReportList({ reports, onClose }: { reports: Report[]; onClose: () => void }) {
  return (
    <>
      <ul className="border-y border-rule">
        {reports.map((r) => (
          <li key={`${r.name}${r.set?.id ?? ''}`} className="flex flex-wrap items-baseline gap-x-3 border-rule-2 py-1.5 not-first:border-t">
            <b className="min-w-0 break-words">{r.name}</b>
            <span className={r.set ? 'text-ink-2' : 'text-brick'}>{r.said}</span>
            {r.set && (
              <Link className="link" to={`/sets/${r.set.id}`} onClick={onClose}>
                {say('Open “{title}”', { title: r.set.title })}
              </Link>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button look="primary" onClick={onClose}>
          {say('Done')}
        </Button>
      </div>
    </>
  );
}
