/** Which assistant the workspace asks, what it costs, and who may ask how much: for administrators. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { assistantInterfaces } from '@zakuska/core';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { assistantKey } from '../set/assistant.js';
import { useMembers } from '../signin/members.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';

type Body = Schemas['AssistantBody'];
const EMPTY: Body = {
  name: 'Assistant',
  interface: 'chat',
  address: '',
  model: '',
  priceIn: 0,
  priceOut: 0,
  currency: 'EUR',
  most: 4000,
  who: 'editor',
  unit: 'money',
  amount: 5,
  persons: {},
};

export function SetUp({ workspace, assistant }: { workspace: string; assistant: Schemas['AssistantView'] }) {
  const queries = useQueryClient();
  const members = useMembers(workspace);
  const there = assistant.setUp;
  const [body, setBody] = useState<Body>(() => {
    if (!there) return EMPTY;
    const { hasSecret: _, ...rest } = there;
    return { ...rest, persons: { ...rest.persons } };
  });
  const [secret, setSecret] = useState<string | null>(there?.hasSecret ? null : '');
  const put = (part: Partial<Body>): void => setBody((b) => ({ ...b, ...part }));
  const path = { params: { path: { workspace } } };
  const changed = (): void => void queries.invalidateQueries({ queryKey: assistantKey(workspace) });
  const save = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/workspaces/{workspace}/assistant', { ...path, body: { ...body, ...(secret !== null && { secret }) } })),
    onSuccess: () => {
      changed();
      if (secret) setSecret(null);
      toast.success(`${body.name} may be asked now.`);
    },
  });
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}/assistant', path)),
    onSuccess: () => {
      changed();
      toast('No assistant is asked any more. What was sent stays below.');
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  const number = (name: 'priceIn' | 'priceOut' | 'most' | 'amount', label: string, step: number, hint?: string) => (
    <Field label={label} hint={hint}>
      {(f, note) => (
        <Input
          id={f}
          aria-describedby={note}
          type="number"
          min={name === 'most' ? 50 : 0}
          step={step}
          required
          value={Number.isFinite(body[name]) ? body[name] : ''}
          onChange={(e) => put({ [name]: e.target.valueAsNumber })}
        />
      )}
    </Field>
  );
  const unit = body.unit === 'money' ? body.currency : 'tokens';
  const persons = Object.entries(body.persons ?? {});
  const others = (members.data ?? []).filter((m) => !persons.some(([id]) => id === m.id));
  return (
    <details className="rounded-lg border border-rule bg-sheet p-4" open={!assistant.there}>
      <summary className="cursor-pointer font-semibold">{assistant.there ? 'Which assistant, and who may ask how much' : 'Set an assistant up'}</summary>
      <form
        className="mt-4 grid gap-4"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div className="grid items-start gap-3 sm:grid-cols-2">
          <Field label="What people call it">
            {(f) => <Input id={f} required maxLength={100} value={body.name} onChange={(e) => put({ name: e.target.value })} />}
          </Field>
          <Field label="How it is talked to">
            {(f) => (
              <Select id={f} value={body.interface} onChange={(e) => put({ interface: e.target.value as Body['interface'] })}>
                {assistantInterfaces.map((i) => (
                  <option key={i.id} value={i.id}>
                    {i.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Field label="Address" hint={assistant.own ? 'Empty for the assistant that this installation has.' : undefined}>
            {(f, note) => (
              <Input
                id={f}
                aria-describedby={note}
                type="url"
                required={!assistant.own}
                placeholder={assistant.own ? 'that of this installation' : 'https://assistant.school.example/v1/chat'}
                value={body.address}
                onChange={(e) => put({ address: e.target.value })}
              />
            )}
          </Field>
          <Field label="Model">{(f) => <Input id={f} required maxLength={200} value={body.model} onChange={(e) => put({ model: e.target.value })} />}</Field>
          <Field label="Secret" hint="Kept encrypted, and sent to this address only.">
            {(f, note) =>
              secret === null ? (
                <span className="flex min-h-9 items-center gap-2">
                  <span className="text-ink-2">kept</span>
                  <Button id={f} aria-describedby={note} look="quiet" onClick={() => setSecret('')}>
                    Set another one
                  </Button>
                </span>
              ) : (
                <Input
                  id={f}
                  aria-describedby={note}
                  type="password"
                  autoComplete="off"
                  maxLength={4000}
                  value={secret}
                  onChange={(e) => setSecret(e.target.value)}
                />
              )
            }
          </Field>
          {number('most', 'Tokens that a reply may have', 50)}
          {number('priceIn', `Price of a million tokens that go out, ${body.currency}`, 0.01)}
          {number('priceOut', `Price of a million tokens that come back, ${body.currency}`, 0.01)}
          <Field label="Currency">
            {(f) => (
              <Input
                id={f}
                required
                pattern="[A-Z]{3}"
                className="w-24!"
                value={body.currency}
                onChange={(e) => put({ currency: e.target.value.toUpperCase() })}
              />
            )}
          </Field>
          <Field label="Who may ask">
            {(f) => (
              <Select id={f} value={body.who} onChange={(e) => put({ who: e.target.value as Body['who'] })}>
                <option value="owner">owners</option>
                <option value="administrator">owners and administrators</option>
                <option value="editor">they and editors</option>
                <option value="marker">they and markers</option>
                <option value="reader">everybody in the workspace</option>
              </Select>
            )}
          </Field>
          <Field label="Each person’s allowance is counted in">
            {(f) => (
              <Select id={f} value={body.unit} onChange={(e) => put({ unit: e.target.value as Body['unit'] })}>
                <option value="money">money</option>
                <option value="tokens">tokens</option>
              </Select>
            )}
          </Field>
          {number('amount', `In a month, each person may use (${unit})`, body.unit === 'money' ? 0.01 : 1, 'What would pass it is not sent.')}
        </div>
        <fieldset className="grid gap-2">
          <legend className="text-[13.5px] font-semibold">Persons with another allowance</legend>
          {persons.map(([account, amount]) => (
            <div key={account} className="flex items-center gap-2 text-sm">
              <span className="w-48 truncate">{members.data?.find((m) => m.id === account)?.name ?? 'somebody'}</span>
              <Input
                aria-label={`Allowance of ${members.data?.find((m) => m.id === account)?.name ?? 'somebody'}`}
                type="number"
                min={0}
                step={body.unit === 'money' ? 0.01 : 1}
                className="w-28!"
                value={Number.isFinite(amount) ? amount : ''}
                onChange={(e) => put({ persons: { ...body.persons, [account]: e.target.valueAsNumber } })}
              />
              {unit}
              <Button look="quiet" onClick={() => put({ persons: Object.fromEntries(persons.filter(([id]) => id !== account)) })}>
                As the others
              </Button>
            </div>
          ))}
          {others.length > 0 && (
            <Select
              aria-label="Another allowance for"
              className="w-64!"
              value=""
              onChange={(e) => e.target.value && put({ persons: { ...body.persons, [e.target.value]: 0 } })}
            >
              <option value="">for …</option>
              {others.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </Select>
          )}
        </fieldset>
        {save.isError && (
          <p role="alert" className="text-brick">
            {wordsOf(save.error)}
          </p>
        )}
        <span className="flex gap-2">
          <Button type="submit" look="primary" disabled={save.isPending}>
            Keep it so
          </Button>
          {assistant.there && (
            <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
              Ask no assistant any more
            </Button>
          )}
        </span>
      </form>
    </details>
  );
}
