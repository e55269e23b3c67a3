/** One's own account: name, address, password, codes, browsers, workspaces, and its end. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { counted } from '@zakuska/core';
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
        <h1 className="inline font-[650] text-ink">Your account</h1>
      </TopBar>
      <main className="overflow-auto border-t border-rule px-4 pt-4 pb-12 sm:px-6" tabIndex={-1}>
        {account.isError && <NotFetched query={account} />}
        {account.isPending && <Busy what="Fetching" />}
        {account.data && (
          <div className="mx-auto grid max-w-3xl gap-8">
            {account.data.shared ? (
              <p className="note info">
                This is the demo account, which everybody knows: its password, address and codes stay as they are. An account of your own has them here.
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
    toast.success('The name is changed.');
  };
  const [email, setEmail] = useState(account.email);
  const [password, setPassword] = useState('');
  const move = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/account/address', { body: { email, password } })),
    onSuccess: ({ mailed }) => {
      setPassword('');
      changed();
      toast.success(mailed ? `A link went to ${email}. The address counts once you have followed it.` : 'The address is changed.');
    },
  });
  const other = email.trim().toLowerCase() !== account.email;
  return (
    <Section title="Name and address">
      <NameForm label="Name" value={account.name} onName={rename} />
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          move.mutate();
        }}
      >
        <Field label="Address" error={move.isError ? wordsOf(move.error) : undefined}>
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
            {other ? 'Change the address' : 'Send a link to confirm it'}
          </Button>
        )}
      </form>
      <p className="text-[13.5px] text-ink-2">
        {account.confirmed ? 'The address is confirmed: a new password can be sent there.' : 'Nobody has confirmed yet that this address is yours.'}
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
      toast.success('The password is changed. All other browsers were signed out.');
    },
  });
  return (
    <Section title="Password">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          change.mutate();
        }}
      >
        <PasswordField label="Password now" className="w-52!" value={password} onChange={setPassword} />
        <PasswordField label="New password" fresh className="w-52!" value={next} onChange={setNext} />
        <Button type="submit" disabled={change.isPending || !password || !next}>
          Change the password
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
    <Section title="Where you are signed in">
      <ul className="border-t border-rule" aria-label="Browsers">
        {account.sessions.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5">
            <span className="min-w-0 flex-1 wrap-anywhere">
              {browserWords(s.agent)}
              {s.here && <b className="text-dill"> · this one</b>}
              <span className="block text-[13px] text-ink-2">
                since {dayAndTime(s.since)}, last seen {dayAndTime(s.seen)}
              </span>
            </span>
            {!s.here && (
              <Button disabled={end.isPending} onClick={() => end.mutate(s.id)} aria-label={`Sign out ${browserWords(s.agent)}, since ${dayAndTime(s.since)}`}>
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <Button className="justify-self-start" disabled={end.isPending} onClick={() => end.mutate(null)}>
          Sign all others out
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
    <Section title="Workspaces">
      <ul className="border-t border-rule" aria-label="Workspaces">
        {account.workspaces.map((w) => (
          <li key={w.workspace} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5">
            <span className="min-w-0 flex-1 wrap-anywhere">
              {w.name}
              <span className="block text-[13px] text-ink-2">
                {ROLE_WORDS[w.role].name}, {counted(w.sets, 'set')} of yours
              </span>
            </span>
            {w.fate === 'stays' && (
              <Button onClick={() => setLeaving(w)} aria-label={`Leave ${w.name}`}>
                Leave …
              </Button>
            )}
          </li>
        ))}
      </ul>
      {!account.workspaces.length && <p className="text-ink-2">You are a member of none. Ask for an invitation, or make one of your own.</p>}
      <Button className="justify-self-start" onClick={() => setMaking(true)}>
        New workspace …
      </Button>
      {making && (
        <NameDialog
          title="New workspace"
          label="Name"
          action="Make it"
          onClose={() => setMaking(false)}
          onName={async (name) => changed(await call(api.POST('/api/v1/workspaces', { body: { name } })))}
        />
      )}
      {leaving && (
        <Modal
          open
          onClose={() => setLeaving(null)}
          title={`Leave ${leaving.name}?`}
          description={`${leaving.sets ? `${counted(leaving.sets, 'set')} of yours, and your folders, go to another member. ` : ''}You see nothing of the workspace any more until somebody invites you again.`}
        >
          <div className="flex gap-2">
            <Button look="danger" disabled={leave.isPending} onClick={() => leave.mutate(leaving.workspace)}>
              Leave the workspace
            </Button>
            <Button onClick={() => setLeaving(null)}>Cancel</Button>
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
    <Section title="Delete the account">
      <p className="text-ink-2">What you did in sets stays there without your name.</p>
      <Button look="danger" className="justify-self-start" onClick={() => setAsking(true)}>
        Delete the account …
      </Button>
      {asking && (
        <Modal open onClose={() => setAsking(false)} title={`Delete the account ${email}?`} description="This cannot be undone.">
          <ul className="mb-3 grid list-disc gap-1 pl-5">
            {of('goes').length > 0 && <li>{named(of('goes'))} goes with it, with all sets, quizzes and answers: nobody else is a member.</li>}
            {of('stays').map((w) => (
              <li key={w.workspace}>
                In “{w.name}” {w.sets ? `${counted(w.sets, 'set')} of yours get another owner` : 'no set is yours'}; quizzes and answers stay.
              </li>
            ))}
            {held.length > 0 && <li className="text-brick">Nobody else is an owner of {named(held)}. Make somebody else an owner there first.</li>}
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
                  Delete for good
                </Button>
                <Button onClick={() => setAsking(false)}>Cancel</Button>
              </div>
            </form>
          )}
        </Modal>
      )}
    </Section>
  );
}
