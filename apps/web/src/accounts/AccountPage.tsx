/** One's own account: name, address, password, codes, browsers, workspaces, and its end. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, setCsrf, type SessionView, wordsOf } from '../api/client.js';
import { Busy, TopBar } from '../frame/Frame.js';
import { NameDialog } from '../frame/NameDialog.js';
import { NotFetched } from '../frame/NotFetched.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { browserWords, ROLE_WORDS } from './memberWords.js';
import { NameForm } from './NameForm.js';
import { SecondFactor } from './SecondFactor.js';
import { dayAndTime } from '../ui/localTime.js';
import { PASSWORD_HINT, PasswordField } from '../signin/PasswordField.js';
import { say } from '../words/say.js';

type Account = Schemas['AccountView'];

const useAccount = () => useQuery({ queryKey: ['account'], queryFn: () => call(api.GET('/api/v1/account')) });
/** After something about the account has changed. */
function useChanged(): (session?: SessionView) => void {
  const queries = useQueryClient();
  return (session) => {
    if (session) {
      setCsrf(session.csrf);
      queries.setQueryData(['session'], session);
    }
    void queries.invalidateQueries();
  };
}

export default function AccountPage() {
  const account = useAccount();
  return (
    <div className="grid h-dvh grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>
        <h1 className="inline font-[650] text-ink">{say('Your account')}</h1>
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        {account.isError && <NotFetched query={account} />}
        {account.isPending && <Busy what={say('Fetching')} />}
        {account.data && (
          <div className="mx-auto grid max-w-3xl gap-8">
            {account.data.shared ? (
              <p className="note info">
                {say(
                  'This is the demo account, which everybody knows: its password, address and codes stay as they are. An account of your own has them here.',
                )}
              </p>
            ) : (
              <>
                <You account={account.data} />
                <Password />
                <SecondFactor account={account.data} />
              </>
            )}
            <Browsers account={account.data} />
            <Workspaces account={account.data} />
            {!account.data.shared && <End account={account.data} />}
          </div>
        )}
      </main>
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="grid gap-2">
      <h2 className="text-lg font-bold">{title}</h2>
      {children}
    </section>
  );
}

function You({ account }: { account: Account }) {
  const changed = useChanged();
  const rename = async (name: string): Promise<void> => {
    changed(await call(api.PATCH('/api/v1/account', { body: { name } })));
    toast.success(say('The name is changed.'));
  };
  const [email, setEmail] = useState(account.email);
  const [password, setPassword] = useState('');
  const move = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/account/address', { body: { email, password } })),
    onSuccess: ({ mailed }) => {
      setPassword('');
      changed();
      toast.success(mailed ? say('A link went to {email}. The address counts once you have followed it.', { email }) : say('The address is changed.'));
    },
  });
  const other = email.trim().toLowerCase() !== account.email;
  return (
    <Section title={say('Name and address')}>
      <NameForm label={say('Name')} value={account.name} onName={rename} />
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          move.mutate();
        }}
      >
        <Field label={say('Address')} error={move.isError ? wordsOf(move.error) : undefined}>
          {(id, note) => (
            <Input
              id={id}
              type="email"
              className="w-80! max-w-full"
              required
              aria-describedby={note}
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        {(other || !account.confirmed) && <PasswordField className="w-52!" value={password} onChange={setPassword} />}
        {(other || (!account.confirmed && account.mails)) && (
          <Button type="submit" disabled={move.isPending || !password}>
            {other ? say('Change the address') : say('Send a link to confirm it')}
          </Button>
        )}
      </form>
      <p className="text-[13.5px] text-ink-2">
        {account.confirmed ? say('The address is confirmed: a new password can be sent there.') : say('Nobody has confirmed yet that this address is yours.')}
      </p>
    </Section>
  );
}

function Password() {
  const changed = useChanged();
  const [password, setPassword] = useState('');
  const [next, setNext] = useState('');
  const change = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/account/password', { body: { password, next } })),
    onSuccess: () => {
      setPassword('');
      setNext('');
      changed();
      toast.success(say('The password is changed. All other browsers were signed out.'));
    },
  });
  return (
    <Section title={say('Password')}>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          change.mutate();
        }}
      >
        <PasswordField label={say('Password now')} className="w-52!" value={password} onChange={setPassword} />
        <PasswordField label={say('New password')} fresh className="w-52!" value={next} onChange={setNext} />
        <Button type="submit" disabled={change.isPending || !password || !next}>
          {say('Change the password')}
        </Button>
      </form>
      {change.isError ? (
        <p className="text-[13px] text-brick" role="alert">
          {wordsOf(change.error)}
        </p>
      ) : (
        <p className="text-[13.5px] text-ink-2">{PASSWORD_HINT}</p>
      )}
    </Section>
  );
}

function Browsers({ account }: { account: Account }) {
  const changed = useChanged();
  const end = useMutation({
    mutationFn: (session: string | null) =>
      session === null
        ? call(api.DELETE('/api/v1/account/sessions'))
        : call(api.DELETE('/api/v1/account/sessions/{session}', { params: { path: { session } } })),
    onSuccess: () => changed(),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const others = account.sessions.filter((s) => !s.here);
  return (
    <Section title={say('Where you are signed in')}>
      <ul className="border-t border-rule" aria-label={say('Browsers')}>
        {account.sessions.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5">
            <span className="min-w-0 flex-1 wrap-anywhere">
              {browserWords(s.agent)}
              {s.here && <b className="text-dill"> {say('· this one')}</b>}
              <span className="block text-[13px] text-ink-2">
                {say('since {dayAndTime}, last seen {dayAndTime2}', { dayAndTime: dayAndTime(s.since), dayAndTime2: dayAndTime(s.seen) })}
              </span>
            </span>
            {!s.here && (
              <Button
                disabled={end.isPending}
                onClick={() => end.mutate(s.id)}
                aria-label={say('Sign out {browser}, since {dayAndTime}', { browser: browserWords(s.agent), dayAndTime: dayAndTime(s.since) })}
              >
                {say('Sign out')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <Button className="justify-self-start" disabled={end.isPending} onClick={() => end.mutate(null)}>
          {say('Sign all others out')}
        </Button>
      )}
    </Section>
  );
}

function Workspaces({ account }: { account: Account }) {
  const changed = useChanged();
  const [making, setMaking] = useState(false);
  const [leaving, setLeaving] = useState<Account['workspaces'][number] | null>(null);
  const leave = useMutation({
    mutationFn: (workspace: string) => call(api.DELETE('/api/v1/workspaces/{workspace}/membership', { params: { path: { workspace } } })),
    onSuccess: (s) => {
      setLeaving(null);
      changed(s);
    },
  });
  return (
    <Section title={say('Workspaces')}>
      <ul className="border-t border-rule" aria-label={say('Workspaces')}>
        {account.workspaces.map((w) => (
          <li key={w.workspace} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5">
            <span className="min-w-0 flex-1 wrap-anywhere">
              {w.name}
              <span className="block text-[13px] text-ink-2">
                {say('{name}, {sets, plural, one {# set} other {# sets}} of yours', { name: ROLE_WORDS[w.role].name, sets: w.sets })}
              </span>
            </span>
            {w.fate === 'stays' && (
              <Button onClick={() => setLeaving(w)} aria-label={say('Leave {name}', { name: w.name })}>
                {say('Leave …')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {!account.workspaces.length && <p className="text-ink-2">{say('You are a member of none. Ask for an invitation, or make one of your own.')}</p>}
      <Button className="justify-self-start" onClick={() => setMaking(true)}>
        {say('New workspace …')}
      </Button>
      {making && (
        <NameDialog
          title={say('New workspace')}
          label={say('Name')}
          action={say('Make it')}
          onClose={() => setMaking(false)}
          onName={async (name) => changed(await call(api.POST('/api/v1/workspaces', { body: { name } })))}
        />
      )}
      {leaving && (
        <Modal
          open
          onClose={() => setLeaving(null)}
          title={say('Leave {name}?', { name: leaving.name })}
          description={say('{what}You see nothing of the workspace any more until somebody invites you again.', {
            what: leaving.sets
              ? say('{sets, plural, one {# set} other {# sets}} of yours, and your folders, go to another member. ', { sets: leaving.sets })
              : '',
          })}
        >
          <div className="flex gap-2">
            <Button look="danger" disabled={leave.isPending} onClick={() => leave.mutate(leaving.workspace)}>
              {say('Leave the workspace')}
            </Button>
            <Button onClick={() => setLeaving(null)}>{say('Cancel')}</Button>
          </div>
          {leave.isError && (
            <p className="mt-2 text-brick" role="alert">
              {wordsOf(leave.error)}
            </p>
          )}
        </Modal>
      )}
    </Section>
  );
}

function End({ account }: { account: Account }) {
  const { email } = useSession();
  const [asking, setAsking] = useState(false);
  const [password, setPassword] = useState('');
  const end = useMutation({ mutationFn: () => call(api.POST('/api/v1/account/end', { body: { password } })), onSuccess: () => location.assign('/') });
  const of = (fate: Account['workspaces'][number]['fate']): Account['workspaces'] => account.workspaces.filter((w) => w.fate === fate);
  const named = (list: Account['workspaces']): string => list.map((w) => `“${w.name}”`).join(', ');
  const held = of('held');
  return (
    <Section title={say('Delete the account')}>
      <p className="text-ink-2">{say('What you did in sets stays there without your name.')}</p>
      <Button look="danger" className="justify-self-start" onClick={() => setAsking(true)}>
        {say('Delete the account …')}
      </Button>
      {asking && (
        <Modal open onClose={() => setAsking(false)} title={say('Delete the account {email}?', { email })} description={say('This cannot be undone.')}>
          <ul className="mb-3 grid list-disc gap-1 pl-5">
            {of('goes').length > 0 && (
              <li>{say('{named} goes with it, with all sets, quizzes and answers: nobody else is a member.', { named: named(of('goes')) })}</li>
            )}
            {of('stays').map((w) => (
              <li key={w.workspace}>
                {say('In “{name}” {what}; quizzes and answers stay.', {
                  name: w.name,
                  what: w.sets ? say('{sets, plural, one {# set} other {# sets}} of yours get another owner', { sets: w.sets }) : say('no set is yours'),
                })}
              </li>
            ))}
            {held.length > 0 && (
              <li className="text-brick">{say('Nobody else is an owner of {named}. Make somebody else an owner there first.', { named: named(held) })}</li>
            )}
          </ul>
          {held.length === 0 && (
            <form
              className="grid gap-3"
              onSubmit={(e: FormEvent) => {
                e.preventDefault();
                end.mutate();
              }}
            >
              <PasswordField error={end.isError ? wordsOf(end.error) : undefined} value={password} onChange={setPassword} />
              <div className="flex gap-2">
                <Button type="submit" look="danger" disabled={end.isPending || !password}>
                  {say('Delete for good')}
                </Button>
                <Button onClick={() => setAsking(false)}>{say('Cancel')}</Button>
              </div>
            </form>
          )}
        </Modal>
      )}
    </Section>
  );
}
