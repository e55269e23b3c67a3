/** Any table of answers, marked: by the items of a set, by a row that holds the key, or by keys that are typed. It is kept where a person says so. */
import { useMutation } from '@tanstack/react-query';
import { type ColumnSaid, csvText, type KeptTable, type QuizSet, type ResponseUse } from '@zakuska/core';
import { ClipboardPaste, FileUp } from 'lucide-react';
import { type ReactNode, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { ChooseFiles } from '../ui/ChooseFiles.js';
import { copyText } from '../ui/copyText.js';
import { Field, Input, Select, TextArea, useTyped } from '../ui/Field.js';
import { saveFile } from '../ui/saveFile.js';
import { tabbed } from '../ui/tabbed.js';
import { percent, written } from '../ui/figures.js';
import { away } from './worker.js';
import { latestFrom, useLatest } from '../worker/latest.js';
import type { ColumnView, MarkingAsked, MarkingView } from './tableMarking.js';
import { retold } from '../words/retold.js';
import { Say, say } from '../words/say.js';

/** What a column can be used for, as it is said to people. */
const USES: readonly [ResponseUse, string][] = [
  ['question', say('Question')],
  ['other', say('Not marked')],
  ['name', say('Name')],
  ['first name', say('First name')],
  ['last name', say('Last name')],
  ['mail', say('Mail')],
  ['id', say('Number of the person')],
  ['class', say('Class')],
  ['time', say('Time')],
  ['score', say('Score that stands there')],
];
const ATTEMPTS = { '': say('each row counts'), last: say('the last one'), first: say('the first one'), best: say('the best one') } as const;
/** People that are listed; a file holds them all. */
const SHOWN = 1000;

/** What was opened, and under which number: a table that is opened anew is marked anew. */
interface Opened {
  name: string;
  sheets: string[];
  turn: number;
}

interface Props {
  /** Marks by the items of this set. */
  set?: QuizSet;
  /** What keeps a marked table; none where nobody may. */
  keep?: { label: string; run: (title: string, kept: KeptTable) => Promise<void> } | undefined;
}
export function MarkTable({ set, keep }: Props) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [error, setError] = useState<string>();
  const open = async (name: string, file: Blob): Promise<void> => {
    setError(undefined);
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      const r = await away.call((remote) => remote.open(bytes, name));
      if ('error' in r) setError(`${name}: ${r.error}`);
      else setOpened((before) => ({ name, sheets: r.sheets, turn: (before?.turn ?? 0) + 1 }));
    } catch {
      setError(say('{name}: This file could not be read.', { name }));
    }
  };
  if (!opened) return <Ask onOpen={open} error={error} />;
  return <Marking key={opened.turn} opened={opened} set={set} keep={keep} onAnother={() => setOpened(null)} />;
}

/** Where the table comes from: a file, or what was copied. */
function Ask({ onOpen, error }: { onOpen: (name: string, file: Blob) => Promise<void>; error: string | undefined }) {
  const [pasted, setPasted] = useState('');
  const take = async (f: File | undefined): Promise<void> => {
    if (f) await onOpen(f.name, f);
  };
  return (
    <div
      className="mx-auto grid max-w-2xl grid-cols-[minmax(0,1fr)] gap-4 py-8"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <h2 className="text-xl font-bold">{say('Mark a table of answers')}</h2>
      <p className="text-ink-2">
        {say('As forms, learning platforms and games give it out: a row for each person, or for each answer. The key is a row of the table, or you type it.')}
      </p>
      <div>
        <ChooseFiles look="primary" label={say('Table of answers')} accept=".csv,.tsv,.txt,.xlsx,.xlsm,.ods" onFiles={([f]) => void take(f)}>
          <FileUp size={16} aria-hidden /> {say('Open a table')}
        </ChooseFiles>
        <span className="ms-3 text-sm text-ink-2">{say('CSV, TSV, XLSX or ODS; it may be dropped here.')}</span>
      </div>
      <Field label={say('Or paste it, with its headings')}>
        {(id) => <TextArea id={id} rows={6} className="max-h-[40vh] min-h-36 font-mono text-sm" value={pasted} onChange={(e) => setPasted(e.target.value)} />}
      </Field>
      <div>
        <Button disabled={!pasted.trim()} onClick={() => void onOpen('pasted table.tsv', new Blob([pasted]))}>
          <ClipboardPaste size={16} aria-hidden /> {say('Mark what was pasted')}
        </Button>
      </div>
      {error && (
        <p role="alert" className="text-brick">
          {error}
        </p>
      )}
    </div>
  );
}

/** Says something of a column; undefined takes it back, so that what was found holds again. */
type Say = (column: number, more: { [K in keyof ColumnSaid]?: ColumnSaid[K] | undefined }) => void;
const markingCall = () => latestFrom(away, async (remote, asked: MarkingAsked): Promise<MarkingView | { error: string }> => await remote.mark(asked));
/** The choices for what is right, beside rows of the table. */
const BY_SET = 'set';
const TYPED = 'typed';

function Marking({ opened, set, keep, onAnother }: { opened: Opened; set: QuizSet | undefined; keep: Props['keep']; onAnother: () => void }) {
  const [sheet, setSheet] = useState(0);
  const [said, setSaid] = useState<ReadonlyMap<number, ColumnSaid>>(new Map());
  const [key, setKey] = useState<string>(set ? BY_SET : '');
  const [attempts, setAttempts] = useState<keyof typeof ATTEMPTS>('');
  const asked = useMemo<MarkingAsked>(
    () => ({
      sheet,
      columns: [...said],
      ...(key === BY_SET && { set }),
      ...(key === TYPED ? { keyRow: null } : key !== '' && key !== BY_SET && { keyRow: Number(key) }),
      ...(attempts && { attempts }),
    }),
    [sheet, said, key, set, attempts],
  );
  const { value, failed, busy, again } = useLatest(asked, markingCall);
  const title = opened.name.replace(/\.[^.]+$/, '');
  const keeping = useMutation({
    mutationFn: async (k: NonNullable<Props['keep']>) => {
      const kept = await away.call((remote) => remote.keep(asked));
      if ('error' in kept) throw new Error(kept.error);
      await k.run(title, kept);
    },
    onError: (e) => toast.error(say('The table was not kept: {words}', { words: wordsOf(e) })),
  });
  const change: Say = (column, more) =>
    setSaid((now) => {
      const next = Object.entries({ ...now.get(column), ...more }).filter(([, v]) => v !== undefined);
      return new Map(now).set(column, Object.fromEntries(next) as ColumnSaid);
    });
  const view = value && !('error' in value) ? value : null;
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section aria-label={say('Columns of the table')} className="grid min-w-0 content-start gap-3">
        <div className="flex flex-wrap items-end gap-3">
          <div className="min-w-40 flex-1">
            <h2 className="truncate text-lg font-bold">{opened.name}</h2>
            <button type="button" className="link text-sm" onClick={onAnother}>
              {say('Another table')}
            </button>
          </div>
          {opened.sheets.length > 1 && (
            <Field label={say('Sheet')}>
              {(id) => (
                <Select
                  id={id}
                  value={sheet}
                  onChange={(e) => {
                    setSheet(Number(e.target.value));
                    setSaid(new Map());
                    setKey(set ? BY_SET : '');
                  }}
                >
                  {opened.sheets.map((name, i) => (
                    <option key={i} value={i}>
                      {name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          )}
          <Field label={say('What is right')}>
            {(id) => (
              <Select id={id} value={key === '' ? (view?.keyRow ?? TYPED) : key} onChange={(e) => setKey(e.target.value)}>
                {set && <option value={BY_SET}>{say('the keys of this set')}</option>}
                <option value={TYPED}>{say('what I type below')}</option>
                {view?.rows.map((r) => (
                  <option key={r.at} value={r.at}>
                    {say('row {n}: {name}', { n: r.at + 1, name: r.name })}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Field label={say('Of a person who tried again')}>
            {(id) => (
              <Select id={id} value={attempts} onChange={(e) => setAttempts(e.target.value as keyof typeof ATTEMPTS)}>
                {Object.entries(ATTEMPTS).map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
        {value && 'error' in value && (
          <p role="alert" className="text-brick">
            {value.error}
          </p>
        )}
        {failed && (
          <p role="alert" className="text-brick">
            {say('This table could not be marked.')}{' '}
            <button type="button" className="link" onClick={again}>
              {say('Try again')}
            </button>
          </p>
        )}
        {view && <Columns view={view} said={said} onSay={change} />}
      </section>
      {view && (
        <Outcome view={view} busy={busy} title={title}>
          {keep && !view.problem && (
            <Button disabled={keeping.isPending} onClick={() => keeping.mutate(keep)}>
              {keeping.isPending ? say('Being kept …') : keep.label}
            </Button>
          )}
        </Outcome>
      )}
    </div>
  );
}

/** Each column with its use; of questions what is right, and the points. */
function Columns({ view, said, onSay }: { view: MarkingView; said: ReadonlyMap<number, ColumnSaid>; onSay: Say }) {
  return (
    <table className="w-full text-sm">
      <thead className="max-sm:sr-only">
        <tr className="text-left text-[13px] text-ink-2">
          <th className="py-1 font-semibold">{say('Column')}</th>
          <th className="w-44 py-1 font-semibold">{say('Used as')}</th>
          <th className="w-56 py-1 font-semibold">{say('What is right')}</th>
          <th className="w-20 py-1 font-semibold">{say('Points')}</th>
          <th className="w-16 py-1 text-right font-semibold">{say('Earned')}</th>
        </tr>
      </thead>
      <tbody>
        {view.columns.map((c, i) => (c.heading || c.answers.length ? <ColumnRow key={i} place={i} column={c} said={said.get(i)} onSay={onSay} /> : null))}
      </tbody>
    </table>
  );
}

function ColumnRow({ place, column: c, said, onSay }: { place: number; column: ColumnView; said: ColumnSaid | undefined; onSay: Say }) {
  const name = c.heading || say('Column {n}', { n: place + 1 });
  const byItem = c.marked?.by === 'item';
  const key = useTyped(said?.key ?? (byItem ? '' : (c.marked?.key ?? '')), (v) => onSay(place, { key: v.trim() ? v : undefined }));
  const worth = useTyped(said?.points === undefined ? (c.marked ? String(c.marked.points) : '') : String(said.points), (v) => {
    const n = Number(v.replace(',', '.'));
    if (!v.trim()) onSay(place, { points: undefined });
    else if (Number.isFinite(n) && n >= 0) onSay(place, { points: n });
  });
  return (
    <tr className="border-t border-rule-2 align-top max-sm:grid max-sm:grid-cols-[8rem_minmax(0,1fr)_4rem] max-sm:pb-2">
      <th scope="row" className="py-1.5 pe-3 text-left font-normal max-sm:col-span-full sm:max-w-0">
        <span className="line-clamp-2 font-semibold">{name}</span>
        <span className="block truncate text-[13px] text-ink-2">{c.answers.join(' · ')}</span>
      </th>
      <td className="py-1.5 pe-2">
        <Select aria-label={say('{name}: used as', { name })} value={c.use} onChange={(e) => onSay(place, { use: e.target.value as ResponseUse })}>
          {USES.map(([use, words]) => (
            <option key={use} value={use}>
              {words}
            </option>
          ))}
          {c.use === 'answer' && <option value="answer">{say('Answer')}</option>}
        </Select>
      </td>
      <td className="py-1.5 pe-2">
        {c.use === 'question' && (
          <Input
            {...key}
            aria-label={say('{name}: what is right', { name })}
            placeholder={byItem ? say('As the item: {key}', { key: c.marked?.key ?? '' }) : say('Not marked: no key')}
          />
        )}
      </td>
      <td className="py-1.5 pe-2">{c.marked && <Input {...worth} aria-label={say('{name}: points', { name })} inputMode="decimal" />}</td>
      <td className="py-2.5 text-right tabular-nums max-sm:hidden">{c.marked && percent(c.marked.earned)}</td>
    </tr>
  );
}

/** What came out: the mean, what was missed most, who has what; copied or saved. */
function Outcome({ view, busy, title, children }: { view: MarkingView; busy: boolean; title: string; children: ReactNode }) {
  const { people, mostMissed, lowScorers } = view;
  const max = people[0]?.max ?? 0;
  const rows = (): (string | number)[][] => [[say('Name'), say('Points'), say('Of')], ...people.map((p) => [p.name, p.score, p.max])];
  const save = (): void => saveFile(new TextEncoder().encode(csvText(rows().map((r) => r.map(String)))), `${title} scores.csv`, 'text/csv');
  return (
    <aside aria-label={say('Scores')} aria-busy={busy} className="grid content-start gap-3 rounded-lg border border-rule bg-sheet p-4">
      {view.problem ? (
        <p role="status" className="text-amber">
          {say('{problem} Choose the row under “What is right”, or type the keys beside the questions.', { problem: view.problem })}
        </p>
      ) : (
        <>
          <p role="status">
            <Say
              text="<b>{written}</b> of {written2} points on average, {people, plural, one {# person} other {# people}}"
              values={{ b: (words) => <b className="text-2xl">{words}</b>, written: written(view.mean), written2: written(max), people: people.length }}
            />
          </p>
          <div className="flex flex-wrap gap-2">
            <Button
              onClick={() => copyText(tabbed(rows()), say('{people} scores are in the clipboard. Paste them into a spreadsheet.', { people: people.length }))}
            >
              {say('Copy the scores')}
            </Button>
            <Button onClick={save}>{say('Download CSV')}</Button>
            {children}
          </div>
          {mostMissed.length > 0 && (
            <div>
              <h3 className="font-semibold">{say('Missed most')}</h3>
              <ol className="text-sm">
                {mostMissed.slice(0, 5).map((i) => (
                  <li key={i} className="flex gap-2 border-t border-rule-2 py-1">
                    <span className="line-clamp-2 min-w-0 flex-1">{view.columns[i]?.heading}</span>
                    <span className="tabular-nums">{percent(view.columns[i]?.marked?.earned ?? 0)}</span>
                  </li>
                ))}
              </ol>
            </div>
          )}
          <h3 className="font-semibold">
            {say('Scores')}
            {lowScorers.length > 0 && <span className="font-normal text-ink-2">{say(', {lowScorers} under half', { lowScorers: lowScorers.length })}</span>}
          </h3>
          <div className="max-h-[46vh] overflow-auto" tabIndex={0} role="region" aria-label={say('Scores of people')}>
            <table className="w-full text-sm">
              <tbody>
                {people.slice(0, SHOWN).map((p, i) => (
                  <tr key={i} className="border-t border-rule-2">
                    <th scope="row" className="py-1 text-left font-normal break-words">
                      {p.name}
                    </th>
                    <td className={`py-1 text-right tabular-nums ${p.score < p.max / 2 ? 'text-brick' : ''}`}>{written(p.score)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {people.length > SHOWN && <p className="py-2 text-sm text-ink-2">{say('And {n} more: all are in the file.', { n: people.length - SHOWN })}</p>}
          </div>
        </>
      )}
      {view.notes.length > 0 && (
        <ul className="grid gap-1 border-t border-rule pt-2 text-[13.5px] text-ink-2">
          {view.notes.map((n) => (
            <li key={n}>{retold(n)}</li>
          ))}
        </ul>
      )}
    </aside>
  );
}
