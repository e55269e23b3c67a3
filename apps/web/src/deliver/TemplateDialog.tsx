/** A service's import template becomes a destination: what was understood of it is shown, a person agrees or corrects. */
import { useMutation } from '@tanstack/react-query';
import { base64Of, type Importer, importerKeyForms, type ImporterUse, importerUses } from '@zakuska/core';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import type { KeptTemplate } from './deliver.worker.js';
import { deliverer } from './useFits.js';
import { say } from '../words/say.js';

const USES: Record<ImporterUse, string> = {
  question: say('question'),
  option: say('option'),
  key: say('key'),
  points: say('points'),
  feedback: say('feedback'),
  'feedback-correct': say('feedback, right'),
  'feedback-incorrect': say('feedback, wrong'),
  hint: say('hint'),
  tags: say('tags'),
  time: say('seconds'),
  kind: say('kind'),
  number: say('number'),
  picture: say('picture'),
  other: say('left empty'),
};
const KEYS: Record<Importer['keyForm'], string> = {
  letter: say('its letter'),
  number: say('its number'),
  text: say('its text'),
  mark: say('a sign beside it'),
  'first-option': say('standing first'),
};
const MOST_BYTES = 1_000_000;

interface Props {
  kept?: KeptTemplate;
  onClose: () => void;
  onKept: (id: string) => void;
}

export function TemplateDialog({ kept, onClose, onKept }: Props) {
  const { view } = useOpenSet();
  const [file, setFile] = useState<Pick<KeptTemplate, 'data' | 'fileName'> | null>(kept ?? null);
  const [typed, setTyped] = useState(kept?.name);
  const suggested = (file?.fileName ?? '')
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .slice(0, 60);
  const name = typed ?? suggested;
  const [understood, setUnderstood] = useState<Importer | null>(null);
  const [problem, setProblem] = useState('');
  const [columns, setColumns] = useState<ImporterUse[]>([]);
  const [keyForm, setKeyForm] = useState<Importer['keyForm']>('letter');
  const said = kept?.correction;
  useEffect(() => {
    if (!file) return;
    let gone = false;
    deliverer
      .call((remote) => remote.understand(file))
      .then(
        (t) => {
          if (gone) return;
          setUnderstood(t);
          setProblem('');
          setColumns(said && said.columns.length === t.columns.length ? [...said.columns] : t.columns.map((c) => c.use));
          setKeyForm(said?.keyForm ?? t.keyForm);
        },
        (e: unknown) => {
          if (gone) return;
          setUnderstood(null);
          setProblem((e as Error).message);
        },
      );
    return () => {
      gone = true;
    };
  }, [file, said]);
  const choose = async (f: File | undefined): Promise<void> => {
    if (!f) return;
    if (f.size > MOST_BYTES) return setProblem(say('A template has at most 1 MB. Take the rows out that it does not need.'));
    setFile({ fileName: f.name, data: base64Of(new Uint8Array(await f.arrayBuffer())) });
  };
  const changedByHand = understood && (keyForm !== understood.keyForm || columns.some((u, i) => u !== understood.columns[i]?.use));
  const keep = useMutation({
    mutationFn: () =>
      call(
        api.PUT('/api/v1/workspaces/{workspace}/templates', {
          params: { path: { workspace: view.workspaceId } },
          body: { name: name.trim(), fileName: file?.fileName ?? '', data: file?.data ?? '', ...(changedByHand && { correction: { columns, keyForm } }) },
        }),
      ),
    onSuccess: (t) => {
      toast.success(say('{name} is a destination now.', { name: t.name }));
      onKept(t.id);
    },
    onError: (e) => toast.error(wordsOf(e), { duration: 10_000 }),
  });
  const lacks = !columns.includes('question')
    ? say('No column is the question.')
    : !columns.includes('key') && keyForm !== 'first-option'
      ? say('No column says the key.')
      : '';
  const { limits } = understood ?? {};
  const told = understood
    ? [
        say('headings in row {headerRow}, items from row {firstDataRow}', { headerRow: understood.headerRow, firstDataRow: understood.firstDataRow }),
        understood.orientation === 'row-per-item' ? say('a row for each item') : say('a row for each option'),
        understood.maxOptions ? say('up to {maxOptions} options', { maxOptions: understood.maxOptions }) : '',
        limits?.question ? say('questions up to {question} characters', { question: limits.question }) : '',
        limits?.option ? say('options up to {option}', { option: limits.option }) : '',
        limits?.time ? say('{time} seconds', { time: limits.time.join(', ') }) : '',
      ].filter(Boolean)
    : [];
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={kept ? say('Columns of {name}', { name: kept.name }) : say('A service by its import template')}
      description={say('Give the sheet that the service wants filled, empty or with its examples. Sets are written into it as it asks, and read back.')}
      foot={
        understood && (
          <div className="flex w-full flex-wrap items-center gap-3">
            <span className="flex-1 text-sm text-brick" role="status">
              {lacks}
            </span>
            <Button look="primary" disabled={Boolean(lacks) || !name.trim() || keep.isPending} onClick={() => keep.mutate()}>
              {say('Keep as a destination')}
            </Button>
          </div>
        )
      }
    >
      <div className="grid items-start gap-3 sm:grid-cols-2">
        <Field label={say('Template (CSV, TSV or XLSX)')} error={problem || undefined} hint={file?.fileName}>
          {(id, note) => <Input id={id} aria-describedby={note} type="file" accept=".csv,.tsv,.txt,.xlsx" onChange={(e) => void choose(e.target.files?.[0])} />}
        </Field>
        {understood && (
          <Field label={say('Name of the destination')}>
            {(id) => <Input id={id} value={name} maxLength={60} disabled={Boolean(kept)} onChange={(e) => setTyped(e.target.value)} />}
          </Field>
        )}
      </div>
      {understood && (
        <>
          <p className="mt-3 text-[13.5px] text-ink-2">{say('Understood: {told}.', { told: told.join('; ') })}</p>
          <div className="mt-2 max-w-72">
            <Field label={say('The right option is told by')}>
              {(id) => (
                <Select id={id} value={keyForm} onChange={(e) => setKeyForm(e.target.value as Importer['keyForm'])}>
                  {importerKeyForms.map((k) => (
                    <option key={k} value={k}>
                      {KEYS[k]}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          </div>
          <table className="mt-3 w-full text-sm">
            <thead>
              <tr className="border-b border-rule text-left text-ink-2">
                <th className="w-8 py-1 font-semibold">
                  <span className="sr-only">{say('Number¦in a list')}</span>
                </th>
                <th className="w-3/5 font-semibold">{say('Column')}</th>
                <th className="font-semibold">{say('Holds')}</th>
              </tr>
            </thead>
            <tbody>
              {understood.columns.map((c, i) => (
                <tr key={i} className="border-b border-rule-2">
                  <td className="py-1 text-ink-2">{i + 1}</td>
                  <th scope="row" className="max-w-0 truncate pr-3 text-left font-normal" title={c.heading}>
                    {c.heading || <span className="text-ink-2">{say('no heading')}</span>}
                  </th>
                  <td>
                    <Select
                      aria-label={say('Column {n}, {heading}', { n: i + 1, heading: c.heading || say('no heading') })}
                      className="w-auto! py-1!"
                      value={columns[i] ?? 'other'}
                      onChange={(e) => setColumns(columns.map((u, n) => (n === i ? (e.target.value as ImporterUse) : u)))}
                    >
                      {importerUses.map((u) => (
                        <option key={u} value={u}>
                          {USES[u]}
                        </option>
                      ))}
                    </Select>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Modal>
  );
}

/** Takes a template out of the destinations; it can be brought back for a while. */
export function RemoveTemplate({ template: t, onRemoved }: { template: KeptTemplate; onRemoved: () => void }) {
  const { view } = useOpenSet();
  const path = { workspace: view.workspaceId };
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}/templates/{template}', { params: { path: { ...path, template: t.id } } })),
    onSuccess: () => {
      onRemoved();
      const { name, fileName, data, correction } = t;
      const back = (): Promise<unknown> =>
        call(
          api.PUT('/api/v1/workspaces/{workspace}/templates', {
            params: { path },
            body: { name, fileName, data, ...(correction && { correction: { ...correction, columns: [...correction.columns] } }) },
          }),
        );
      toast(say('{name} is no destination any more.', { name }), { action: { label: say('Undo'), onClick: () => void back().then(onRemoved) } });
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <button type="button" className="link" disabled={remove.isPending} onClick={() => remove.mutate()}>
      {say('Remove')}
    </button>
  );
}
