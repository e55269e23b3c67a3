/** The columns of a table over the table itself, with the first items as they will be. */
import {
  blankMapping,
  type ColumnUse,
  columnUses,
  type KeyForm,
  keyForms,
  letterOf,
  type Mapping,
  type Sureness,
  type TableLayout,
  tableLayouts,
  withSaidSince,
} from '@zakuska/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { ItemView } from '../item/ItemView.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import type { SheetView } from '../files/open.worker.js';
import type { TablePreview } from '../files/preview.js';
import { opener } from '../files/opening.js';
import { TwoReadings } from './TwoReadings.js';
import { retold } from '../words/retold.js';
import { listed, say } from '../words/say.js';

/** What a person agreed to take of one sheet. */
export interface SheetChoice {
  sheet: number;
  mapping: Mapping | null;
  rows: number[] | null;
  /** How many it gives; null where that was not counted to the end. */
  items: number | null;
}
/** A mapping that was kept under a name. */
export interface SavedMapping {
  id: string;
  name: string;
  signature: string;
  mapping: Mapping;
}

const USE_NAMES: Record<ColumnUse, string> = {
  ignore: say('not used'),
  number: say('number'),
  question: say('question'),
  kind: say('kind of item'),
  option: say('option'),
  options: say('all options'),
  'right option': say('right option'),
  'wrong option': say('wrong option'),
  mark: say('right or wrong (option left of it)'),
  'true mark': say('marked where true'),
  'false mark': say('marked where false'),
  key: say('key'),
  accepted: say('further answer'),
  from: say('least number'),
  to: say('greatest number'),
  gap: say('answer of a gap'),
  left: say('left side'),
  partner: say('its partner'),
  step: say('step'),
  tolerance: say('tolerance'),
  unit: say('unit'),
  points: say('points'),
  feedback: say('feedback'),
  'feedback right': say('feedback if right'),
  'feedback wrong': say('feedback if wrong'),
  'option feedback': say('feedback of an option'),
  hint: say('hint'),
  tags: say('tags'),
  outcome: say('outcome'),
  difficulty: say('difficulty'),
  time: say('time limit'),
  picture: say('picture file'),
  passage: say('passage'),
  part: say('part'),
};
const SURE: Record<Sureness, string> = { sure: '', likely: say('likely'), unsure: say('may be otherwise') };
const KEY_FORMS: Record<KeyForm, string> = {
  letters: say('by letter (A, B)'),
  numbers: say('by number (1, 2)'),
  'numbers from 0': say('by number from 0 (0, 1)'),
  roman: say('by Roman number (i, ii)'),
  text: say('by its words'),
  first: say('not: the first is right'),
};
const LAYOUTS: Record<TableLayout, string> = {
  row: say('one row'),
  grouped: say('several rows, by number or question'),
  below: say('a row, its options below it'),
  packed: say('one cell with its options'),
};
const SEPARATORS: [string, string][] = [
  ['\n', say('a line break')],
  ['|', '|'],
  [';', ';'],
  [' ', say('their letters')],
  [' / ', '/ with blanks'],
  ['/', '/'],
  [',', ','],
];
/** Rows from "2-40, 45", 0-based; null for all, or where it cannot be told. */
function rowsIn(text: string, count: number): number[] | null {
  if (!text.trim()) return null;
  const out: number[] = [];
  for (const piece of text.split(/[,;]/)) {
    const m = /^\s*(\d+)\s*(?:[-–]\s*(\d+)\s*)?$/.exec(piece);
    if (!m) return null;
    const [from, to] = [Number(m[1]), Math.min(count, Number(m[2] ?? m[1]))];
    for (let r = from; r <= to; r++) out.push(r - 1);
  }
  return out;
}

/** The kept mapping whose headings stand in a sheet, at the row where they stand. */
function knownMapping(kept: readonly SavedMapping[], sheet: SheetView): SavedMapping | undefined {
  for (const k of kept) {
    const header = k.signature && k.mapping.header >= 0 ? sheet.heads.indexOf(k.signature) : -1;
    if (header >= 0) return { ...k, mapping: { ...k.mapping, header } };
  }
  return undefined;
}

interface SheetState {
  mapping: Mapping | null;
  rows: string;
  take: boolean;
  /** Which of two readings of the keys the person said is right; null until then. */
  answer: 'first' | 'second' | null;
}

/** What a mapping takes the keys from, in words: "Column F, by number (1, 2)". */
function keysBy(mapping: Mapping | null): string {
  const at = (use: ColumnUse): string[] => mapping?.columns.flatMap((u, c) => (u === use ? [letterOf(c)] : [])) ?? [];
  const columns = (places: readonly string[]): string =>
    `${say('{places, plural, one {Column} other {Columns}}', { places: places.length })} ${places.join(', ')}`;
  const [keys, marks, right] = [at('key'), at('mark'), at('right option')];
  if (marks.length) return say('{columns} marked as right', { columns: columns(marks) });
  if (right.length) return say('{columns} with the right option', { columns: columns(right) });
  if (keys.length) return `${columns(keys)}, ${KEY_FORMS[mapping?.keyForm ?? 'letters']}`;
  return mapping?.keyForm === 'first' ? say('The first option is right') : say('As the options are marked');
}

/** Whether the person still has to say how the keys of a sheet are to be read: two readings are as good, and no column was changed. */
const open = (sheet: SheetView | undefined, state: SheetState | undefined): boolean =>
  Boolean(sheet?.other && state?.take && state.answer === null && state.mapping === sheet.mapping);

export function TableMapping({
  id,
  name,
  sheets,
  kept,
  workspace,
  agreed,
  last,
  onCancel,
  onAgree,
}: {
  id: string;
  name: string;
  sheets: SheetView[];
  kept: SavedMapping[];
  workspace: string;
  agreed: SheetChoice[] | null;
  last: boolean;
  onCancel: () => void;
  onAgree: (choices: SheetChoice[]) => void;
}) {
  const [n, setN] = useState(() =>
    Math.max(
      0,
      sheets.findIndex((s) => s.mapping || s.template),
    ),
  );
  const [states, setStates] = useState<SheetState[]>(() =>
    sheets.map((s, i): SheetState => {
      const before = agreed?.find((a) => a.sheet === i);
      const known = knownMapping(kept, s);
      return {
        mapping: before?.mapping ?? known?.mapping ?? s.mapping,
        rows: '',
        answer: null,
        take: agreed ? before !== undefined : s.template || s.mapping !== null || known !== undefined,
      };
    }),
  );
  const [previews, setPreviews] = useState<Record<number, TablePreview>>({});
  const [gone, setGone] = useState(false);
  const sheet = sheets[n];
  const state = states[n];
  const change = (part: Partial<SheetState>): void => setStates((all) => all.map((s, i) => (i === n ? { ...s, ...part } : s)));
  const map = (part: Partial<Mapping>): void => change({ mapping: { ...(state?.mapping ?? blankMapping(sheet?.columns ?? 0)), ...part }, take: true });
  useEffect(() => {
    let current = true;
    states.forEach((s, i) => {
      const view = sheets[i];
      if (!view || (!s.mapping && !view.template)) return;
      const rows = rowsIn(s.rows, view.rowCount);
      const { mapping } = s;
      const show = (p: TablePreview | null): void => void (current && p && setPreviews((all) => ({ ...all, [i]: p })));
      const look = async (): Promise<void> => {
        const seen = await opener.call((remote) => remote.seen(id, i, mapping, rows));
        show(seen);
        if (current && !seen.whole && mapping) show(await opener.call((remote) => remote.whole(id, i, mapping, rows)));
      };
      look().catch(() => current && setGone(true));
    });
    return () => {
      current = false;
    };
  }, [states, id, sheets]);
  // a mapping that was kept may arrive after the dialog
  useEffect(() => {
    setStates((all) =>
      all.map((s, i) => {
        const view = sheets[i];
        const known = view && knownMapping(kept, view);
        return known && s.mapping === sheets[i]?.mapping ? { ...s, mapping: known.mapping, take: true } : s;
      }),
    );
  }, [kept, sheets]);

  const unanswered = states.findIndex((s, i) => open(sheets[i], s));
  const taken = states.flatMap((s, i) => (s.take && (previews[i]?.count ?? 0) > 0 ? [i] : []));
  const counted = taken.every((i) => previews[i]?.whole);
  const count = taken.reduce((sum, i) => sum + (previews[i]?.count ?? 0), 0);
  const keep = useKeep(workspace, id);
  const agree = (): void => {
    // what the person said of keys that can be read in two ways is known again by the headings
    for (const i of taken) {
      const s = states[i];
      if (!s?.answer || !s.mapping || s.mapping.header < 0) continue;
      const named = [name.replace(/\.[^.]+$/, ''), sheets.length > 1 ? sheets[i]?.name : ''].filter(Boolean).join(', ').slice(0, 100);
      keep.mutate(
        { name: named || say('A table'), sheet: i, mapping: s.mapping },
        { onSuccess: () => toast(say('How its keys are read is kept: a file with the same headings is read so.')), onError: () => undefined },
      );
    }
    onAgree(
      taken.map((i) => ({
        sheet: i,
        mapping: states[i]?.mapping ?? null,
        rows: rowsIn(states[i]?.rows ?? '', sheets[i]?.rowCount ?? 0),
        items: previews[i]?.whole ? previews[i].count : null,
      })),
    );
  };
  const template = async (): Promise<void> => {
    const { bytes, name: file } = await opener.call((remote) => remote.template());
    const url = URL.createObjectURL(new Blob([bytes as BlobPart]));
    Object.assign(document.createElement('a'), { href: url, download: file }).click();
    setTimeout(() => URL.revokeObjectURL(url), 1000);
  };
  const preview = previews[n];
  const found = sheet && knownMapping(kept, sheet);
  const known = found && JSON.stringify(found.mapping) === JSON.stringify(state?.mapping) ? found : undefined;
  return (
    <Modal
      open
      onClose={onCancel}
      title={say('The columns of {name}', { name })}
      full
      foot={
        <>
          <Button look="quiet" onClick={() => void template()}>
            <Download size={15} aria-hidden /> {say('Template with an explanation')}
          </Button>
          {state?.mapping && sheet && !sheet.template && <Keep workspace={workspace} mapping={state.mapping} known={known?.name} id={id} n={n} />}
          <span className="flex-1" />
          <Button onClick={onCancel}>{say('Cancel')}</Button>
          {unanswered >= 0 && (
            <span className="self-center text-amber">
              {say('Say first which keys {what}are right.', { what: sheets.length > 1 ? say('of “{name}” ', { name: sheets[unanswered]?.name ?? '' }) : '' })}
            </span>
          )}
          <Button look="primary" disabled={!count || unanswered >= 0} onClick={agree}>
            {`${last ? say('These columns are right') : say('Agreed')}${counted ? say(': {count} items', { count }) : ''}`}
          </Button>
        </>
      }
    >
      {gone && (
        <p role="alert" className="mb-3 font-[650] text-brick">
          {say('This table is no longer open, because what read it was stopped. Cancel, and open the file again.')}
        </p>
      )}
      {sheets.length > 1 && (
        <div role="tablist" aria-label={say('Sheets')} className="mb-3 flex flex-wrap gap-2">
          {sheets.map((s, i) => (
            <button
              key={`${s.name}${i}`}
              type="button"
              role="tab"
              aria-selected={i === n}
              onClick={() => setN(i)}
              className={`min-h-8 cursor-pointer rounded border px-3 ${i === n ? 'border-beet font-semibold text-beet' : 'border-rule'}`}
            >
              {s.name || say('Sheet {n}', { n: i + 1 })}{' '}
              <span className="text-[13px] text-ink-2">{states[i]?.take ? say('{count} items', { count: previews[i]?.count ?? 0 }) : say('left alone')}</span>
            </button>
          ))}
        </div>
      )}
      {sheet && state && (
        <>
          {sheets.length > 1 && (
            <label className="mb-2 flex min-h-7 cursor-pointer items-center gap-2">
              <input type="checkbox" className="accent-beet" checked={state.take} onChange={(e) => change({ take: e.target.checked })} />{' '}
              {say('Take this sheet')}
            </label>
          )}
          {sheet.template ? (
            <p className="mb-3 text-ink-2">{say('This sheet has the columns of the template; there is nothing to settle.')}</p>
          ) : (
            <Settings
              sheet={sheet}
              state={state}
              map={map}
              change={change}
              propose={async (c) => {
                const before = state.mapping ?? blankMapping(sheet.columns);
                const m = (await opener.call((remote) => remote.proposeWith(id, n, { hidden: before.hidden, ...c }))) ?? { ...before, ...c };
                // a person goes on while it is looked for
                setStates((all) => all.map((s, i) => (i === n ? { ...s, mapping: withSaidSince(before, s.mapping ?? before, m) } : s)));
              }}
            />
          )}
          {sheet.other && (state.answer !== null || open(sheet, state)) && (
            <TwoReadings
              differs={sheet.other.differs}
              how={[keysBy(sheet.mapping), keysBy(sheet.other.mapping)]}
              answer={state.answer}
              onAnswer={(answer) => change({ answer, mapping: answer === 'first' ? sheet.mapping : (sheet.other?.mapping ?? null), take: true })}
            />
          )}
          <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1.55fr)_minmax(0,1fr)]">
            <Grid
              sheet={sheet}
              mapping={state.mapping}
              preview={preview}
              onUse={(c, use) => {
                const columns = Array.from({ length: sheet.columns }, (_, i) => state.mapping?.columns[i] ?? 'ignore');
                columns[c] = use;
                map({ columns });
              }}
            />
            <section aria-label={say('The items as they will be')} className="min-w-0">
              <p role="status" className="mb-2">
                <b>{say('{count} items', { count: preview?.count ?? 0 })}</b>
                {preview && !preview.whole && (
                  <span className="text-ink-2"> {say('in the first rows · counting those of all {rowCount}', { rowCount: sheet.rowCount })}</span>
                )}
                {open(sheet, state) && <span className="text-ink-2"> {say('· shown with the first reading')}</span>}
                {preview?.reasons.length ? (
                  <span className="text-ink-2">
                    {' '}
                    {say('· rows without an item: {reasons}', { reasons: preview.reasons.map(([r, k]) => `${k} ${retold(r)}`).join(', ') })}
                  </span>
                ) : null}
              </p>
              {preview && preview.problemCount > 0 && (
                <details className="mb-2">
                  <summary className="cursor-pointer text-amber">
                    {say('{problemCount} to look at, such as keys that point nowhere', { problemCount: preview.problemCount })}
                  </summary>
                  <ul className="max-h-40 overflow-auto text-[13.5px]">
                    {preview.problems.map((p) => (
                      <li key={`${p.line}${p.message}`}>{retold(p.message)}</li>
                    ))}
                  </ul>
                </details>
              )}
              {preview?.first.map((item, i) => (
                <div key={item.id} className="mb-3 border-t border-rule pt-2">
                  <b className="text-[13px] text-ink-2">{item.label ?? i + 1}</b>
                  <ItemView item={item} />
                </div>
              ))}
              {!preview?.first.length && <p className="text-ink-2">{say('Say which column holds the questions, and which the options or keys.')}</p>}
            </section>
          </div>
        </>
      )}
    </Modal>
  );
}

function Settings({
  sheet,
  state,
  map,
  change,
  propose,
}: {
  sheet: SheetView;
  state: SheetState;
  map: (m: Partial<Mapping>) => void;
  change: (s: Partial<SheetState>) => void;
  propose: (c: { header?: number; hidden?: boolean }) => Promise<void>;
}) {
  const m = state.mapping;
  const bad = state.rows.trim() !== '' && rowsIn(state.rows, sheet.rowCount) === null;
  return (
    <div className="mb-3 grid gap-x-4 gap-y-2 sm:grid-cols-3 lg:grid-cols-5">
      <Field label={say('Headings in row')}>
        {(i) => (
          <Select id={i} value={m?.header ?? -1} onChange={(e) => void propose({ header: Number(e.target.value) })}>
            <option value={-1}>{say('no headings')}</option>
            {sheet.rows.slice(0, 30).map((r, k) => (
              <option key={k} value={k}>
                {k + 1}: {r.filter(Boolean).slice(0, 3).join(', ').slice(0, 40) || say('(empty)')}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <Field label={say('An item is')}>
        {(i) => (
          <Select id={i} value={m?.layout ?? 'row'} onChange={(e) => map({ layout: e.target.value as TableLayout })}>
            {tableLayouts.map((l) => (
              <option key={l} value={l}>
                {LAYOUTS[l]}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <Field label={say('The key names options')}>
        {(i) => (
          <Select id={i} value={m?.keyForm ?? 'letters'} onChange={(e) => map({ keyForm: e.target.value as KeyForm })}>
            {keyForms.map((f) => (
              <option key={f} value={f}>
                {KEY_FORMS[f]}
              </option>
            ))}
          </Select>
        )}
      </Field>
      {m?.columns.includes('options') && (
        <Field label={say('Options are parted by')}>
          {(i) => (
            <Select id={i} value={m.separator} onChange={(e) => map({ separator: e.target.value })}>
              {SEPARATORS.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Select>
          )}
        </Field>
      )}
      <Field label={say('Rows')} error={bad ? say('Write 2-40, 45.') : undefined}>
        {(i) => (
          <Input
            id={i}
            placeholder={say('all {rowCount}', { rowCount: sheet.rowCount })}
            value={state.rows}
            onChange={(e) => change({ rows: e.target.value })}
          />
        )}
      </Field>
      {sheet.hiddenRows + sheet.hiddenColumns > 0 && (
        <label className="flex min-h-8 cursor-pointer items-center gap-2 self-end">
          <input type="checkbox" className="accent-beet" checked={m?.hidden ?? false} onChange={(e) => void propose({ hidden: e.target.checked })} />
          {say('Read hidden {what} too', {
            what: listed(
              [
                sheet.hiddenRows && say('rows ({hiddenRows})', { hiddenRows: sheet.hiddenRows }),
                sheet.hiddenColumns && say('columns ({hiddenColumns})', { hiddenColumns: sheet.hiddenColumns }),
              ].filter((w) => w !== 0),
            ),
          })}
        </label>
      )}
    </div>
  );
}

function Grid({
  sheet,
  mapping,
  preview,
  onUse,
}: {
  sheet: SheetView;
  mapping: Mapping | null;
  preview: TablePreview | undefined;
  onUse: (column: number, use: ColumnUse) => void;
}) {
  const of = useMemo(() => new Map(preview?.rows.map((r) => [r.row, r])), [preview]);
  const columns = Array.from({ length: Math.min(sheet.columns, 60) }, (_, i) => i);
  return (
    <div className="max-h-[52vh] min-w-0 overflow-auto border border-rule" tabIndex={0} role="region" aria-label={say('The table')}>
      <table className="border-collapse text-[13px]">
        <thead className="sticky top-0 z-10 bg-paper">
          <tr>
            <th scope="col" className="border-b border-rule px-2">
              <span className="sr-only">{say('Row')}</span>
            </th>
            {columns.map((c) => {
              const use = mapping?.columns[c] ?? 'ignore';
              return (
                <th key={c} scope="col" className="border-b border-l border-rule p-1 text-left align-top">
                  {sheet.template ? (
                    letterOf(c)
                  ) : (
                    <select
                      aria-label={say('Column {letter} is', { letter: letterOf(c) })}
                      value={use}
                      onChange={(e) => onUse(c, e.target.value as ColumnUse)}
                      className={`min-h-7 w-full min-w-28 cursor-pointer rounded border bg-sheet px-1 ${use === 'ignore' ? 'border-rule font-normal text-ink-2' : 'border-beet font-semibold text-beet'}`}
                    >
                      {columnUses.map((u) => (
                        <option key={u} value={u}>
                          {USE_NAMES[u]}
                        </option>
                      ))}
                    </select>
                  )}
                  {!sheet.template && use === sheet.mapping?.columns[c] && sheet.sure[c] && sheet.sure[c] !== 'sure' && (
                    <span className={`block px-1 text-[12px] font-normal ${sheet.sure[c] === 'unsure' ? 'text-amber' : 'text-ink-2'}`}>
                      {SURE[sheet.sure[c]]}
                    </span>
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {sheet.rows.map((row, r) => {
            const reading = of.get(r);
            const out = reading?.item === undefined && !sheet.template;
            return (
              <tr key={r} className={out ? 'bg-paper text-ink-2' : ''}>
                <th
                  scope="row"
                  className="border-b border-rule-2 px-2 text-right align-top font-normal tabular-nums text-ink-2"
                  title={reading?.reason && retold(reading.reason)}
                >
                  {r + 1}
                </th>
                {columns.map((c) => (
                  <td
                    key={c}
                    className={`max-w-64 truncate border-b border-l border-rule-2 px-2 py-0.5 ${r === mapping?.header ? 'font-semibold' : ''} ${mapping?.columns[c] === 'ignore' && !sheet.template ? 'text-ink-2' : ''}`}
                    title={row[c]}
                  >
                    {row[c]}
                    {c === 0 && out && reading?.reason && r !== mapping?.header ? <i className="ml-2 text-ink-2">{retold(reading.reason)}</i> : null}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {sheet.rowCount > sheet.rows.length && (
        <p className="p-2 text-ink-2">{say('{n} more rows are read and not shown.', { n: sheet.rowCount - sheet.rows.length })}</p>
      )}
    </div>
  );
}

/** Keeps a mapping under a name for the next file with the same headings. */
/** Keeps the columns of a sheet under a name; a file with the same headings is known by them. */
function useKeep(workspace: string, id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ name, sheet, mapping }: { name: string; sheet: number; mapping: Mapping }) =>
      call(
        api.PUT('/api/v1/workspaces/{workspace}/mappings', {
          params: { path: { workspace } },
          body: { name, signature: await opener.call((remote) => remote.signature(id, sheet, mapping)), mapping },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['mappings'] }),
  });
}

function Keep({ workspace, mapping, known, id, n }: { workspace: string; mapping: Mapping; known: string | undefined; id: string; n: number }) {
  const [name, setName] = useState('');
  const keep = useKeep(workspace, id);
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!name.trim()) return;
        keep.mutate(
          { name: name.trim(), sheet: n, mapping },
          {
            onSuccess: () => {
              toast(say('Kept as “{name}”. A file with the same headings is recognised.', { name: name.trim() }));
              setName('');
            },
            onError: (e) => toast.error(wordsOf(e)),
          },
        );
      }}
    >
      {known && <span className="text-dill">{say('✓ recognised: “{known}”', { known })}</span>}
      <Input
        aria-label={say('Name for this mapping')}
        placeholder={say('Keep these columns as …')}
        maxLength={100}
        value={name}
        onChange={(e) => setName(e.target.value)}
        className="w-52!"
      />
      <Button type="submit" disabled={!name.trim() || keep.isPending}>
        {say('Keep')}
      </Button>
    </form>
  );
}
