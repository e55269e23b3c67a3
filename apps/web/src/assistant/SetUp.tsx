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
import { say } from '../words/say.js';

type Body = Schemas['AssistantBody'];
const EMPTY: Body = {
  name: say('Assistant'),
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
      toast.success(say('{name} may be asked now.', { name: body.name }));
    },
  });
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}/assistant', path)),
    onSuccess: () => {
      changed();
      toast(say('No assistant is asked any more. What was sent stays below.'));
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
  const unit = body.unit === 'money' ? body.currency : say('tokens');
  const persons = Object.entries(body.persons ?? {});
  const others = (members.data ?? []).filter((m) => !persons.some(([id]) => id === m.id));
  return (
    <details className="rounded-lg border border-rule bg-sheet p-4" open={!assistant.there}>
      <summary className="cursor-pointer font-semibold">
        {assistant.there ? say('Which assistant, and who may ask how much') : say('Set an assistant up')}
      </summary>
      <form
        className="mt-4 grid gap-4"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div className="grid items-start gap-3 sm:grid-cols-2">
          <Field label={say('What people call it')}>
            {(f) => <Input id={f} required maxLength={100} value={body.name} onChange={(e) => put({ name: e.target.value })} />}
          </Field>
          <Field label={say('How it is talked to')}>
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
          <Field label={say('Address')} hint={assistant.own ? say('Empty for the assistant that this installation has.') : undefined}>
            {(f, note) => (
              <Input
                id={f}
                aria-describedby={note}
                type="url"
                required={!assistant.own}
                placeholder={assistant.own ? say('that of this installation') : 'https://assistant.school.example/v1/chat'}
                value={body.address}
                onChange={(e) => put({ address: e.target.value })}
              />
            )}
          </Field>
          <Field label={say('Model')}>
            {(f) => <Input id={f} required maxLength={200} value={body.model} onChange={(e) => put({ model: e.target.value })} />}
          </Field>
          <Field label={say('Secret')} hint={say('Kept encrypted, and sent to this address only.')}>
            {(f, note) =>
              secret === null ? (
                <span className="flex min-h-9 items-center gap-2">
                  <span className="text-ink-2">{say('kept')}</span>
                  <Button id={f} aria-describedby={note} look="quiet" onClick={() => setSecret('')}>
                    {say('Set another one')}
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
          {number('most', say('Tokens that a reply may have'), 50)}
          {number('priceIn', say('Price of a million tokens that go out, {currency}', { currency: body.currency }), 0.01)}
          {number('priceOut', say('Price of a million tokens that come back, {currency}', { currency: body.currency }), 0.01)}
          <Field label={say('Currency')}>
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
          <Field label={say('Who may ask')}>
            {(f) => (
              <Select id={f} value={body.who} onChange={(e) => put({ who: e.target.value as Body['who'] })}>
                <option value="owner">{say('owners')}</option>
                <option value="administrator">{say('owners and administrators')}</option>
                <option value="editor">{say('they and editors')}</option>
                <option value="marker">{say('they and markers')}</option>
                <option value="reader">{say('everybody in the workspace')}</option>
              </Select>
            )}
          </Field>
          <Field label={say('Each person’s allowance is counted in')}>
            {(f) => (
              <Select id={f} value={body.unit} onChange={(e) => put({ unit: e.target.value as Body['unit'] })}>
                <option value="money">{say('money')}</option>
                <option value="tokens">{say('tokens')}</option>
              </Select>
            )}
          </Field>
          {number(
            'amount',
            say('In a month, each person may use ({unit})', { unit }),
            body.unit === 'money' ? 0.01 : 1,
            say('What would pass it is not sent.'),
          )}
        </div>
        <fieldset className="grid gap-2">
          <legend className="text-[13.5px] font-semibold">{say('Persons with another allowance')}</legend>
          {persons.map(([account, amount]) => (
            <div key={account} className="flex items-center gap-2 text-sm">
              <span className="w-48 truncate">{members.data?.find((m) => m.id === account)?.name ?? say('somebody')}</span>
              <Input
                aria-label={say('Allowance of {name}', { name: members.data?.find((m) => m.id === account)?.name ?? say('somebody') })}
                type="number"
                min={0}
                step={body.unit === 'money' ? 0.01 : 1}
                className="w-28!"
                value={Number.isFinite(amount) ? amount : ''}
                onChange={(e) => put({ persons: { ...body.persons, [account]: e.target.valueAsNumber } })}
              />
              {unit}
              <Button look="quiet" onClick={() => put({ persons: Object.fromEntries(persons.filter(([id]) => id !== account)) })}>
                {say('As the others')}
              </Button>
            </div>
          ))}
          {others.length > 0 && (
            <Select
              aria-label={say('Another allowance for')}
              className="w-64!"
              value=""
              onChange={(e) => e.target.value && put({ persons: { ...body.persons, [e.target.value]: 0 } })}
            >
              <option value="">{say('for …')}</option>
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
            {say('Keep it so')}
          </Button>
          {assistant.there && (
            <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
              {say('Ask no assistant any more')}
            </Button>
          )}
        </span>
      </form>
    </details>
  );
}
