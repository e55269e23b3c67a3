/** Who sees a set or a folder and may do what with it; and a link by which anybody signed in gets a copy of a set. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { useMembers } from '../signin/members.js';
import { useMayIn, useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { GroupsDialog } from './GroupsDialog.js';
import { say } from '../words/say.js';

type May = Schemas['ShareBody']['may'];
const MAY: Record<May, string> = { read: say('may look at it'), copy: say('may look and copy'), edit: say('may change it') };

interface Props {
  what: 'set' | 'folder';
  id: string;
  title: string;
  workspace: string;
  /** Whether the person may say who sees it; others look. */
  may: boolean;
  onClose: () => void;
}
export function ShareDialog({ what, id, title, workspace, may, onClose }: Props) {
  const queries = useQueryClient();
  const session = useSession();
  const mayGroup = useMayIn(workspace, 'administrator');
  const [grouping, setGrouping] = useState(false);
  const path = { params: { path: { workspace } } };
  const members = useMembers(workspace);
  const groups = useQuery({ queryKey: ['groups', workspace], queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/groups', path)) });
  const said = useQuery({
    queryKey: ['sharing', id],
    queryFn: () =>
      what === 'set'
        ? call(api.GET('/api/v1/sets/{set}/sharing', { params: { path: { set: id } } }))
        : call(api.GET('/api/v1/folders/{folder}/sharing', { params: { path: { folder: id } } })),
  });
  const [now, setNow] = useState<Schemas['SharingBody']>();
  useEffect(() => {
    if (said.data) setNow((old) => old ?? { restricted: said.data.restricted, shares: said.data.shares.map(({ name: _, ...s }) => s) });
  }, [said.data]);
  const save = useMutation({
    mutationFn: (body: Schemas['SharingBody']) =>
      what === 'set'
        ? call(api.PUT('/api/v1/sets/{set}/sharing', { params: { path: { set: id } }, body }))
        : call(api.PUT('/api/v1/folders/{folder}/sharing', { params: { path: { folder: id } }, body })),
    onSuccess: () => {
      for (const key of ['sharing', 'sets', 'set', 'folders', 'bank']) void queries.invalidateQueries({ queryKey: [key] });
      toast(say('Who sees it is saved.'));
      onClose();
    },
  });
  const link = useMutation({
    mutationFn: async (make: boolean) => {
      if (make) await call(api.POST('/api/v1/sets/{set}/copy-link', { params: { path: { set: id } } }));
      else await call(api.DELETE('/api/v1/sets/{set}/copy-link', { params: { path: { set: id } } }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['sharing', id] }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (!now || !said.data || !members.data || !groups.data)
    return (
      <Modal open onClose={onClose} title={say('Share “{title}”', { title })}>
        {said.isError ? <p className="note error">{wordsOf(said.error)}</p> : <Busy what={say('Fetching')} />}
      </Modal>
    );
  const nameOf = (s: Schemas['ShareBody']): string =>
    s.group
      ? say('{name} (group)', { name: groups.data.find((g) => g.id === s.group)?.name ?? '?' })
      : (members.data.find((m) => m.id === s.account)?.name ?? '?');
  const named = new Set(now.shares.map((s) => s.account ?? s.group));
  const people = members.data.filter((m) => !named.has(m.id) && m.id !== session.accountId);
  const others = groups.data.filter((g) => !named.has(g.id));
  const closed = now.restricted || said.data.closedBy !== undefined;
  const change = (shares: Schemas['ShareBody'][]): void => setNow({ ...now, shares });
  const address = said.data.link && `${location.origin}/copy/${said.data.link}`;
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Share “{title}”', { title })}
      foot={
        may ? (
          <>
            <Button look="primary" disabled={save.isPending} onClick={() => save.mutate(now)}>
              {say('Save')}
            </Button>
            <Button onClick={onClose}>{say('Cancel')}</Button>
            {save.isError && <span className="text-[13.5px] text-brick">{wordsOf(save.error)}</span>}
          </>
        ) : (
          <span className="text-[13.5px] text-ink-2">{say('Whoever made it, and owners of the workspace, say who sees it.')}</span>
        )
      }
    >
      <fieldset disabled={!may} className="grid gap-4">
        <div className="grid gap-1" role="radiogroup" aria-label={say('Who sees it')}>
          {said.data.closedBy !== undefined && (
            <p className="text-[13.5px] text-ink-2">
              {say('It lies in “{closedBy}”, which only some see: those, and who is named here.', { closedBy: said.data.closedBy })}
            </p>
          )}
          {(
            [
              [false, say('All of the workspace, by their role there')],
              [true, say('Only who is named here, whoever made it, and owners of the workspace')],
            ] as const
          ).map(([value, words]) => (
            <label key={words} className="flex items-start gap-2">
              <input
                type="radio"
                name="who"
                className="mt-1 accent-beet"
                checked={now.restricted === value}
                onChange={() => setNow({ ...now, restricted: value })}
              />
              {words}
            </label>
          ))}
        </div>
        <div className="grid gap-1.5">
          <h3 className="font-semibold">{closed ? say('Named') : say('May do more than their role lets them')}</h3>
          {now.shares.length === 0 && <p className="text-[13.5px] text-ink-2">{say('Nobody yet.')}</p>}
          <ul className="grid gap-1.5">
            {now.shares.map((s, i) => (
              <li key={s.account ?? s.group} className="grid grid-cols-[minmax(0,1fr)_11rem_auto] items-center gap-2">
                <span className="truncate">{nameOf(s)}</span>
                <Select
                  aria-label={say('What {name} may do', { name: nameOf(s) })}
                  className="py-1! text-sm"
                  value={s.may}
                  onChange={(e) => change(now.shares.map((x, k) => (k === i ? { ...x, may: e.target.value as May } : x)))}
                >
                  {Object.entries(MAY).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </Select>
                <button
                  type="button"
                  aria-label={say('Take out {name}', { name: nameOf(s) })}
                  className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-brick-soft hover:text-brick"
                  onClick={() => change(now.shares.filter((_, k) => k !== i))}
                >
                  <Trash2 size={15} aria-hidden />
                </button>
              </li>
            ))}
          </ul>
          {may && (
            <span className="flex flex-wrap items-center gap-3">
              <Select
                aria-label={say('Name a person or group')}
                className="w-64! text-sm"
                value=""
                onChange={(e) => {
                  const [kind, key] = e.target.value.split(' ');
                  if (key) change([...now.shares, { ...(kind === 'group' ? { group: key } : { account: key }), may: 'read' }]);
                }}
              >
                <option value="">{say('Add a person or group …')}</option>
                {others.map((g) => (
                  <option key={g.id} value={`group ${g.id}`}>
                    {say('{name} (group of {members})', { name: g.name, members: g.members.length })}
                  </option>
                ))}
                {people.map((m) => (
                  <option key={m.id} value={`account ${m.id}`}>
                    {m.name}, {m.email}
                  </option>
                ))}
              </Select>
              {mayGroup && (
                <button type="button" className="link text-sm" onClick={() => setGrouping(true)}>
                  {say('Groups')}
                </button>
              )}
            </span>
          )}
        </div>
        {what === 'set' && may && (
          <div className="grid gap-1.5 border-t border-rule pt-3">
            <h3 className="font-semibold">{say('A copy for anybody signed in')}</h3>
            {address ? (
              <>
                <Input readOnly aria-label={say('Link to a copy')} value={address} onFocus={(e) => e.target.select()} />
                <span className="flex gap-2">
                  <Button onClick={() => copyText(address, say('The link is copied.'))}>{say('Copy the link')}</Button>
                  <Button look="quiet" disabled={link.isPending} onClick={() => link.mutate(false)}>
                    {say('Take the link back')}
                  </Button>
                </span>
              </>
            ) : (
              <span>
                <Button disabled={link.isPending} onClick={() => link.mutate(true)}>
                  {say('Make a link')}
                </Button>
              </span>
            )}
            <p className="text-[13px] text-ink-2">
              {say('Who opens it gets the items as they are then, in a workspace of their own. Responses and checks stay here.')}
            </p>
          </div>
        )}
      </fieldset>
      {grouping && <GroupsDialog workspace={workspace} groups={groups.data} members={members.data} onClose={() => setGrouping(false)} />}
    </Modal>
  );
}
