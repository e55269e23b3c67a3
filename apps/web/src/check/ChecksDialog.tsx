/** How the set is checked: what it is meant to be, the thresholds and rules of the workspace, and where the person looks things up. */
import { type Aim, type Limits, limitRows, type Operation, parseNumber, rules, type SetDocument } from '@zakuska/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { checksKey, useWorkspaceChecks } from './useChecks.js';
import { known, say } from '../words/say.js';
import { retold } from '../words/retold.js';

const H = ({ children }: { children: string }) => <h3 className="mt-5 mb-1.5 font-bold first:mt-0">{children}</h3>;

export function ChecksDialog({
  document: doc,
  workspace,
  mayEdit,
  onClose,
  perform,
}: {
  document: SetDocument;
  workspace: string;
  mayEdit: boolean;
  onClose: () => void;
  perform: (o: Operation) => boolean;
}) {
  const session = useSession();
  const queries = useQueryClient();
  const kept = useWorkspaceChecks(workspace).data;
  const [year, setYear] = useState(doc.aim?.year === undefined ? '' : String(doc.aim.year));
  const [outcomes, setOutcomes] = useState<[string, string][]>(Object.entries(doc.aim?.outcomes ?? {}).map(([o, n]) => [o, String(n)]));
  const [limits, setLimits] = useState<Partial<Record<keyof Limits, string>>>({});
  const [off, setOff] = useState<readonly string[] | null>(null);
  const [search, setSearch] = useState(session.searchAddress);
  const limitOf = (name: keyof Limits, usual: number): string => limits[name] ?? String(kept?.limits[name] ?? usual);
  const offNow = off ?? kept?.off ?? [];
  const there = [...new Set(doc.set.items.flatMap((i) => i.outcomes ?? []))];

  const save = useMutation({
    mutationFn: async () => {
      if (mayEdit) {
        const y = parseNumber(year);
        if (year.trim() && (y === null || y < 1 || y > 20)) throw new Error(say('The school year is a number from 1 to 20, or empty.'));
        const wanted = outcomes.map(([o, n]) => [o.trim(), Math.round(parseNumber(n) ?? 0)] as const).filter(([o]) => o);
        if (wanted.some(([, n]) => n < 1)) throw new Error(say('Say for each outcome how many items it should have at least.'));
        const { year: _year, outcomes: _outcomes, ...kept } = doc.aim ?? {};
        const aim: Aim = { ...(y !== null && { year: y }), ...(wanted.length && { outcomes: Object.fromEntries(wanted) }), ...kept };
        if (JSON.stringify(aim) !== JSON.stringify(doc.aim ?? {})) perform({ type: 'aim', aim: Object.keys(aim).length ? aim : null });
        if (Object.keys(limits).length || off) {
          const all: Record<string, number> = {};
          for (const row of limitRows) {
            const n = parseNumber(limitOf(row.name, row.usual));
            if (n === null) throw new Error(say('“{label}” is a number between {min} and {max}.', { label: retold(row.label), min: row.min, max: row.max }));
            all[row.name] = n;
          }
          await call(api.PUT('/api/v1/workspaces/{workspace}/checks', { params: { path: { workspace } }, body: { limits: all, off: [...offNow] } }));
          await queries.invalidateQueries({ queryKey: checksKey(workspace) });
        }
      }
      if (search.trim() !== session.searchAddress) {
        await call(api.PUT('/api/v1/session/search', { body: { address: search } }));
        await queries.invalidateQueries({ queryKey: ['session'] });
      }
    },
    onSuccess: onClose,
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('How it is checked')}
      foot={
        <>
          <span className="flex-1 text-[13.5px] text-ink-2">{say('Findings that were set aside stay aside.')}</span>
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={save.isPending} onClick={() => save.mutate()}>
            {say('Keep')}
          </Button>
        </>
      }
    >
      <H>{say('This set')}</H>
      <div className="grid gap-3">
        <Field label={say('School year of its readers')} hint={say('Items that read harder are told. Empty: the level is not looked at.')}>
          {(id, note) => (
            <Input
              id={id}
              aria-describedby={note}
              inputMode="numeric"
              className="w-24!"
              disabled={!mayEdit}
              value={year}
              onChange={(e) => setYear(e.target.value)}
            />
          )}
        </Field>
        <fieldset className="grid gap-1.5">
          <legend className="mb-1 text-[13.5px] font-semibold">{say('Items of each outcome, at least')}</legend>
          <datalist id="outcomes-here">
            {there.map((o) => (
              <option key={o} value={o} />
            ))}
          </datalist>
          {outcomes.map(([o, n], i) => (
            <div key={i} className="flex gap-2">
              <Input
                aria-label={say('Outcome')}
                list="outcomes-here"
                disabled={!mayEdit}
                value={o}
                onChange={(e) => setOutcomes((all) => all.map((x, k) => (k === i ? [e.target.value, x[1]] : x)))}
              />
              <Input
                aria-label={say('How many')}
                inputMode="numeric"
                className="w-20!"
                disabled={!mayEdit}
                value={n}
                onChange={(e) => setOutcomes((all) => all.map((x, k) => (k === i ? [x[0], e.target.value] : x)))}
              />
              <Button
                aria-label={say('Take out {o}', { o: o || say('the outcome') })}
                disabled={!mayEdit}
                onClick={() => setOutcomes((all) => all.filter((_, k) => k !== i))}
              >
                <X size={15} aria-hidden />
              </Button>
            </div>
          ))}
          {mayEdit && (
            <div>
              <Button look="quiet" onClick={() => setOutcomes((all) => [...all, [there.find((o) => !all.some(([x]) => x === o)) ?? '', '2']])}>
                <Plus size={15} aria-hidden /> {say('Add an outcome')}
              </Button>
            </div>
          )}
        </fieldset>
      </div>
      <H>{say('All sets of the workspace')}</H>
      <div className="grid gap-1.5">
        {limitRows.map((row) => (
          <label key={row.name} className="flex items-center justify-between gap-3">
            <span>
              {retold(row.label)} <span className="text-[13px] text-ink-2">{say('(usually {usual})', { usual: row.usual })}</span>
            </span>
            <Input
              inputMode="decimal"
              className="w-24!"
              disabled={!mayEdit}
              value={limitOf(row.name, row.usual)}
              onChange={(e) => setLimits((l) => ({ ...l, [row.name]: e.target.value }))}
            />
          </label>
        ))}
      </div>
      <details className="mt-3">
        <summary className="cursor-pointer font-semibold">
          {say('The {rules} rules{what}', { rules: rules.length, what: offNow.length ? say(', {offNow} of them off', { offNow: offNow.length }) : '' })}
        </summary>
        <ul className="mt-2 grid gap-2">
          {rules.map((r) => (
            <li key={r.code}>
              <label className="grid grid-cols-[20px_minmax(0,1fr)] gap-2">
                <input
                  type="checkbox"
                  className="mt-0.5 size-4 accent-beet"
                  disabled={!mayEdit || r.code === 'key-missing'}
                  checked={!offNow.includes(r.code)}
                  onChange={(e) => setOff(e.target.checked ? offNow.filter((c) => c !== r.code) : [...offNow, r.code])}
                />
                <span>
                  <b className="font-[650]">{known(r.name)}</b>
                  <span className="block text-[13.5px] text-ink-2">
                    {known(r.why)} ({r.source})
                  </span>
                </span>
              </label>
            </li>
          ))}
        </ul>
      </details>
      <H>{say('You')}</H>
      <Field
        label={say('Where you look things up')}
        hint={say("The address of your search engine with '{'query'}' in place of the words. Empty: no link is shown.")}
      >
        {(id, note) => (
          <Input
            id={id}
            aria-describedby={note}
            inputMode="url"
            placeholder="https://…{query}"
            maxLength={500}
            value={search}
            onChange={(e) => setSearch(e.target.value)}
          />
        )}
      </Field>
    </Modal>
  );
}
