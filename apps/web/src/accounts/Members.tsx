/** Members of a workspace: their roles, who goes, who is invited. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type MemberRole, mayAs, memberRoles, newId } from '@zakuska/core';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, type SessionView, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useMembers } from '../signin/members.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { Field, Select, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { addressesIn, ROLE_WORDS } from './memberWords.js';
import { wholeDay } from '../ui/localTime.js';
import { say } from '../words/say.js';

export type Administered = SessionView['workspaces'][number];
type Member = Schemas['WorkspaceMember'];

interface RoleProps {
  value: MemberRole;
  /** One's own: nobody gives more than they have. */
  most: MemberRole;
  onChange: (role: MemberRole) => void;
  id?: string;
  label?: string;
}
function RoleSelect({ value, most, onChange, id, label }: RoleProps) {
  return (
    <Select className="w-44!" id={id} aria-label={label} value={value} onChange={(e) => onChange(e.target.value as MemberRole)}>
      {memberRoles
        .filter((r) => mayAs(most, r))
        .map((r) => (
          <option key={r} value={r}>
            {ROLE_WORDS[r].name}
          </option>
        ))}
    </Select>
  );
}

export function Members({ workspace: { id: workspace, role: mine } }: { workspace: Administered }) {
  const { accountId } = useSession();
  const queries = useQueryClient();
  const members = useMembers(workspace);
  const [going, setGoing] = useState<Member>();
  const changed = (): void => {
    for (const key of ['members', 'session', 'groups', 'audit']) void queries.invalidateQueries({ queryKey: [key] });
  };
  const give = useMutation({
    mutationFn: ({ member, role }: { member: string; role: MemberRole }) =>
      call(api.PUT('/api/v1/workspaces/{workspace}/members/{member}', { params: { path: { workspace, member } }, body: { role } })),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e)),
  });
  if (members.isError) return <NotFetched query={members} />;
  if (members.isPending) return <Busy what={say('Fetching')} />;
  return (
    <div className="grid gap-8">
      <section aria-label={say('Members')} className="grid gap-2">
        <ul className="border-t border-rule" aria-label={say('Members')}>
          {members.data.map((m) => {
            const may = mayAs(mine, m.role);
            return (
              <li key={m.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-2">
                <span className="min-w-52 flex-1 wrap-anywhere">
                  {m.name}
                  {m.id === accountId && <b className="text-dill"> {say('· you')}</b>}
                  <span className="block text-[13px] text-ink-2">{m.email}</span>
                </span>
                <span className="text-[13px] text-ink-2 max-sm:hidden">{ROLE_WORDS[m.role].may}</span>
                {may ? (
                  <RoleSelect
                    value={m.role}
                    most={mine}
                    label={say('Role of {name}', { name: m.name })}
                    onChange={(role) => give.mutate({ member: m.id, role })}
                  />
                ) : (
                  <span className="w-44">{ROLE_WORDS[m.role].name}</span>
                )}
                <Button disabled={!may} onClick={() => setGoing(m)} aria-label={say('Remove {name}', { name: m.name })}>
                  {say('Remove …')}
                </Button>
              </li>
            );
          })}
        </ul>
        <p className="text-[13.5px] text-ink-2">
          {say('{members, plural, one {# member} other {# members}}. {memberRoles}: each may do what those before may.', {
            members: members.data.length,
            memberRoles: memberRoles.map((r) => ROLE_WORDS[r].name).join(', '),
          })}
        </p>
      </section>
      <Invite workspace={workspace} most={mine} />
      {going && (
        <Remove
          workspace={workspace}
          member={going}
          heirs={members.data.filter((m) => m.id !== going.id)}
          me={accountId}
          onDone={() => {
            setGoing(undefined);
            changed();
          }}
          onClose={() => setGoing(undefined)}
        />
      )}
    </div>
  );
}

interface RemoveProps {
  workspace: string;
  member: Member;
  heirs: readonly Member[];
  me: string;
  onDone: () => void;
  onClose: () => void;
}
function Remove({ workspace, member, heirs, me, onDone, onClose }: RemoveProps) {
  const [to, setTo] = useState(heirs.find((h) => h.id === me)?.id ?? heirs[0]?.id ?? '');
  const remove = useMutation({
    mutationFn: () =>
      call(api.DELETE('/api/v1/workspaces/{workspace}/members/{member}', { params: { path: { workspace, member: member.id }, query: { ...(to && { to }) } } })),
    onSuccess: onDone,
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Remove {name}?', { name: member.name })}
      description={say('They see nothing of the workspace any more. What they did in sets stays, with their name. Their account stays theirs.')}
    >
      <div className="grid gap-3">
        {heirs.length > 0 && (
          <Field label={say('Their sets and folders go to')}>
            {(id) => (
              <Select id={id} value={to} onChange={(e) => setTo(e.target.value)}>
                {heirs.map((h) => (
                  <option key={h.id} value={h.id}>
                    {h.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <div className="flex gap-2">
          <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
            {say('Remove from the workspace')}
          </Button>
          <Button onClick={onClose}>{say('Cancel')}</Button>
        </div>
        {remove.isError && (
          <p className="text-brick" role="alert">
            {wordsOf(remove.error)}
          </p>
        )}
      </div>
    </Modal>
  );
}

function Invite({ workspace, most }: { workspace: string; most: MemberRole }) {
  const queries = useQueryClient();
  const params = { params: { path: { workspace } } };
  const open = useQuery({ queryKey: ['invitations', workspace], queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/invitations', params)) });
  const [typed, setTyped] = useState('');
  const [role, setRole] = useState<MemberRole>('editor');
  const { addresses, others } = addressesIn(typed);
  const changed = (): void => {
    for (const key of ['invitations', 'audit']) void queries.invalidateQueries({ queryKey: [key] });
  };
  // of this asking: sent again after an answer was lost, nobody gets a second mail
  const [asking, setAsking] = useState(newId);
  const invite = useMutation({
    mutationFn: (body: { id: string; emails: string[]; role: MemberRole }) => call(api.POST('/api/v1/workspaces/{workspace}/invitations', { ...params, body })),
    onSuccess: () => {
      setTyped('');
      setAsking(newId);
      changed();
    },
  });
  const withdraw = useMutation({
    mutationFn: (invitation: string) =>
      call(api.DELETE('/api/v1/workspaces/{workspace}/invitations/{invitation}', { params: { path: { workspace, invitation } } })),
    onSuccess: changed,
    onError: (e) => toast.error(wordsOf(e)),
  });
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    invite.mutate({ id: asking, emails: addresses, role });
  };
  const invited = invite.data?.invited ?? [];
  const there = invited.filter((i) => !i.link).map((i) => i.email);
  return (
    <section aria-label={say('Invite people')} className="grid gap-3">
      <h2 className="text-lg font-bold">{say('Invite people')}</h2>
      <form onSubmit={submit} className="grid max-w-xl gap-3">
        <Field
          label={say('Mail addresses')}
          hint={say('One or many, as they stand in a list or a mail.')}
          error={others.length ? say('No address: {others}', { others: others.slice(0, 3).join(', ') }) : undefined}
        >
          {(id, note) => <TextArea id={id} rows={2} required aria-describedby={note} value={typed} onChange={(e) => setTyped(e.target.value)} />}
        </Field>
        <div className="flex flex-wrap items-end gap-2">
          <Field label={say('Role')}>{(id) => <RoleSelect id={id} value={role} most={most} onChange={setRole} />}</Field>
          <Button type="submit" look="primary" disabled={!addresses.length || invite.isPending}>
            {addresses.length > 1 ? say('Invite {addresses} people', { addresses: addresses.length }) : say('Invite')}
          </Button>
          <span className="pb-1.5 text-[13.5px] text-ink-2">{ROLE_WORDS[role].may}</span>
        </div>
      </form>
      {invite.isError && (
        <p className="note error" role="alert">
          {wordsOf(invite.error)}
        </p>
      )}
      {invite.isSuccess && (
        <div className="note info" role="status">
          {there.length > 0 && <p>{say('{there}: a member already.', { there: there.join(', ') })}</p>}
          {invited.some((i) => i.link) && (
            <>
              <p>
                {invite.data.mailed
                  ? say('Mails are on their way. The links, should one not arrive:')
                  : say('No mail server is set up here: hand the links over.')}
              </p>
              <ul aria-label={say('Links')}>
                {invited.map(
                  (i) =>
                    i.link && (
                      <li key={i.email} className="flex flex-wrap items-center gap-2">
                        {i.email}
                        <Button look="quiet" onClick={() => copyText(i.link ?? '', say('The link for {email} is copied.', { email: i.email }))}>
                          {say('Copy the link')}
                        </Button>
                      </li>
                    ),
                )}
              </ul>
              <p>{say('They are good for two weeks, and are shown this once.')}</p>
            </>
          )}
        </div>
      )}
      {open.isError && <NotFetched query={open} />}
      {(open.data?.length ?? 0) > 0 && <h3 className="mt-2 font-[650]">{say('Open invitations')}</h3>}
      {(open.data?.length ?? 0) > 0 && (
        <ul className="border-t border-rule" aria-label={say('Invitations that are open')}>
          {open.data?.map((i) => (
            <li key={i.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-1.5">
              <span className="min-w-52 flex-1 wrap-anywhere">
                {i.email}
                <span className="block text-[13px] text-ink-2">
                  {say('{name}, invited{more},', { name: ROLE_WORDS[i.role].name, more: i.by && say(' by {by}', { by: i.by }) })}{' '}
                  {i.over ? <b className="text-amber">{say('its time is over')}</b> : say('good until {wholeDay}', { wholeDay: wholeDay(i.until) })}
                </span>
              </span>
              <Button
                disabled={invite.isPending || !mayAs(most, i.role)}
                onClick={() => invite.mutate({ id: newId(), emails: [i.email], role: i.role })}
                aria-label={say('New link for {email}', { email: i.email })}
              >
                {say('New link')}
              </Button>
              <Button
                disabled={withdraw.isPending}
                onClick={() => withdraw.mutate(i.id)}
                aria-label={say('Withdraw the invitation of {email}', { email: i.email })}
              >
                {say('Withdraw')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
