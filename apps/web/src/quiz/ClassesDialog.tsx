/** Classes of the workspace: chosen, made by typing or pasting a list, changed, deleted. */
import { type ReadClassList, readClassList } from '@zakuska/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { classesOf, fetchClass } from '../api/classes.js';
import { api, call, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { Field, Input, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { retold } from '../words/retold.js';
import { say } from '../words/say.js';

interface Member {
  /** Of somebody who is on the list already. */
  id?: string;
  name: string;
  mail: string;
  number: string;
  extra: number;
}
interface Editing {
  /** Of a class that is there already. */
  id?: string;
  name: string;
  members: Member[];
}

export function ClassesDialog({ workspace, onClose }: { workspace: string; onClose: (chosen?: string) => void }) {
  const queries = useQueryClient();
  const list = useQuery(classesOf(workspace));
  const [editing, setEditing] = useState<Editing>();
  const [removing, setRemoving] = useState<string>();
  const changed = (): void => void queries.invalidateQueries({ queryKey: classesOf(workspace).queryKey });
  const open = useMutation({
    mutationFn: fetchClass,
    onSuccess: ({ id, name, members }) => setEditing({ id, name, members }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const remove = useMutation({
    mutationFn: (id: string) => call(api.DELETE('/api/v1/classes/{class}', { params: { path: { class: id } } })),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (editing)
    return (
      <ClassForm
        workspace={workspace}
        given={editing}
        onBack={() => setEditing(undefined)}
        onKept={(id) => {
          changed();
          onClose(id);
        }}
      />
    );
  return (
    <Modal
      open
      onClose={() => onClose()}
      title={say('Classes')}
      description={say('Who takes a quiz by name, or by a code of their own. A class serves for many quizzes.')}
      foot={
        <Button look="primary" onClick={() => setEditing({ name: '', members: [] })}>
          {say('New class')}
        </Button>
      }
    >
      {list.isPending && <Busy what={say('Fetching')} />}
      {list.isError && <p className="text-brick">{wordsOf(list.error)}</p>}
      {list.data?.length === 0 && <p className="text-ink-2">{say('No class yet. Paste the names of one, as they stand in any list.')}</p>}
      {list.data && list.data.length > 0 && (
        <ul className="border-y border-rule">
          {list.data.map((c) => (
            <li key={c.id} className="flex items-center gap-2 border-b border-rule-2 py-2 last:border-0">
              <span className="min-w-0 flex-1 truncate">
                <b className="font-semibold">{c.name}</b>{' '}
                <span className="text-ink-2">{say('{people, plural, one {one person} other {# people}}', { people: c.people })}</span>
              </span>
              {removing === c.id ? (
                <>
                  <span className="text-[13px] text-brick">{say('Codes for its quizzes end. Answers stay.')}</span>
                  <Button look="danger" onClick={() => remove.mutate(c.id)}>
                    {say('Delete it')}
                  </Button>
                </>
              ) : (
                <>
                  <Button onClick={() => onClose(c.id)}>{say('Choose')}</Button>
                  <Button look="quiet" aria-label={say('Change {name}', { name: c.name })} onClick={() => open.mutate(c.id)}>
                    {say('Change')}
                  </Button>
                  <Button look="quiet" aria-label={say('Delete {name}', { name: c.name })} onClick={() => setRemoving(c.id)}>
                    {say('Delete')}
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
    </Modal>
  );
}

const NOTHING: ReadClassList = { members: [], notes: [] };
const same = (a: { name: string; mail: string }, b: { name: string; mail: string }): boolean =>
  a.mail && b.mail ? a.mail.toLowerCase() === b.mail.toLowerCase() : a.name.toLowerCase() === b.name.toLowerCase();

function ClassForm({ workspace, given, onBack, onKept }: { workspace: string; given: Editing; onBack: () => void; onKept: (id: string) => void }) {
  const [name, setName] = useState(given.name);
  const [members, setMembers] = useState(given.members);
  const [text, setText] = useState('');
  const read = useMemo(() => (text.trim() ? readClassList(text) : NOTHING), [text]);
  // who is on the list already is not there twice
  const added = read.members.filter((m) => !members.some((x) => same(x, m))).map((m): Member => ({ ...m, extra: 0 }));
  const all = [...members, ...added];
  const keep = useMutation({
    mutationFn: () =>
      given.id
        ? call(api.PUT('/api/v1/classes/{class}', { params: { path: { class: given.id } }, body: { name: name.trim(), members: all } }))
        : call(api.POST('/api/v1/workspaces/{workspace}/classes', { params: { path: { workspace } }, body: { name: name.trim(), members: all } })),
    onSuccess: (c) => onKept(c.id),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const change = (at: number, with_: Partial<Member>): void => setMembers((list) => list.map((m, i) => (i === at ? { ...m, ...with_ } : m)));
  return (
    <Modal
      open
      wide
      onClose={onBack}
      title={given.id ? say('Change the class') : say('New class')}
      foot={
        <>
          <span className="flex-1 text-sm text-ink-2" role="status">
            {say('{all, plural, one {One person} other {# people}}', { all: all.length })}
            {added.length > 0 && members.length > 0 && say(', {added} new', { added: added.length })}
          </span>
          <Button onClick={onBack}>{say('Cancel')}</Button>
          <Button look="primary" disabled={!name.trim() || !all.length || keep.isPending} onClick={() => keep.mutate()}>
            {say('Keep the class')}
          </Button>
        </>
      }
    >
      <div className="grid gap-4">
        <Field label={say('Name of the class')}>{(id) => <Input id={id} value={name} maxLength={100} onChange={(e) => setName(e.target.value)} />}</Field>
        <Field
          label={members.length ? say('Add people') : say('People')}
          hint={say('A name a line, or pasted from a sheet: names, mails and numbers are found by themselves. The users of a OneRoster export as well.')}
        >
          {(id, note) => (
            <TextArea
              id={id}
              aria-describedby={note}
              rows={5}
              className="max-h-60 font-mono text-sm"
              placeholder={'Ada Brandt\nBéla Çelik, bela@saltmarsh.example'}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          )}
        </Field>
        {read.notes.map((n) => (
          <p key={n} className="text-[13.5px] text-amber">
            {retold(n)}
          </p>
        ))}
        {all.length > 0 && (
          <table className="w-full text-sm">
            <thead>
              <tr className="text-left text-[13px] text-ink-2">
                <th className="py-1 font-semibold">{say('Name')}</th>
                <th className="py-1 font-semibold">{say('Mail')}</th>
                <th className="py-1 font-semibold">{say('Number¦in a list')}</th>
                <th className="py-1 font-semibold">{say('Extra time, %')}</th>
                <th>
                  <span className="sr-only">{say('Remove')}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {members.map((m, i) => (
                <tr key={m.id ?? `${m.name} ${i}`} className="border-t border-rule-2">
                  <td className="py-1">{m.name}</td>
                  <td className="py-1 text-ink-2">{m.mail}</td>
                  <td className="py-1 text-ink-2">{m.number}</td>
                  <td className="py-1">
                    <Input
                      type="number"
                      min={0}
                      max={400}
                      step={5}
                      className="w-20!"
                      aria-label={say('Extra time of {name}, per cent', { name: m.name })}
                      value={m.extra || ''}
                      onChange={(e) => change(i, { extra: Math.min(400, Math.max(0, e.target.valueAsNumber || 0)) })}
                    />
                  </td>
                  <td className="py-1 text-right">
                    <Button
                      look="quiet"
                      aria-label={say('Remove {name}', { name: m.name })}
                      onClick={() => setMembers((list) => list.filter((_, n) => n !== i))}
                    >
                      {say('Remove')}
                    </Button>
                  </td>
                </tr>
              ))}
              {added.map((m) => (
                <tr key={`new ${m.name} ${m.mail} ${m.number}`} className="border-t border-rule-2">
                  <td className="py-1">{m.name}</td>
                  <td className="py-1 text-ink-2">{m.mail}</td>
                  <td className="py-1 text-ink-2">{m.number}</td>
                  <td className="py-1 text-[13px] text-ink-2" colSpan={2}>
                    {say('new')}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {added.length > 0 && (
          <Button
            className="justify-self-start"
            onClick={() => {
              setMembers(all);
              setText('');
            }}
          >
            {say('Put them on the list')}
          </Button>
        )}
      </div>
    </Modal>
  );
}
