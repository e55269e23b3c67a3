/** Where a link of a mail leads: an account is made, a password renewed, an address confirmed, a workspace joined. Following it is one press. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { useParams } from 'react-router';
import { ApiError, api, call, type Schemas, setCsrf, type SessionView, wordsOf } from '../api/client.js';
import { Busy } from '../frame/Frame.js';
import { SignInForm } from '../signin/SignIn.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { ROLE_WORDS } from './memberWords.js';
import { PASSWORD_HINT, PasswordField } from '../signin/PasswordField.js';
import { inSentence, Say, say } from '../words/say.js';

type Leads = Schemas['LinkedAccountView'];

export default function LinkPage() {
  const { token = '' } = useParams();
  const link = useQuery({
    queryKey: ['link', token],
    queryFn: () => call(api.GET('/api/v1/links/{token}', { params: { path: { token } } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: (n, e) => n < 5 && e instanceof ApiError && e.status === 0,
  });
  const session = useQuery({
    queryKey: ['session at a link'],
    queryFn: () =>
      call(api.GET('/api/v1/session')).catch((e: unknown) => {
        if (e instanceof ApiError && e.status === 401) return null;
        throw e;
      }),
  });
  return (
    <main className="mx-auto grid min-h-screen max-w-md content-center gap-4 p-6">
      <p className="text-3xl font-extrabold tracking-tight text-beet">zakuska</p>
      {link.isPending || session.isPending ? (
        <Busy what={say('Opening')} />
      ) : link.isError ? (
        <>
          <h1 className="text-xl font-bold">{say('The link does not work')}</h1>
          <Over>{wordsOf(link.error)}</Over>
        </>
      ) : (
        <Follow token={token} leads={link.data} signedIn={session.data ?? null} />
      )}
    </main>
  );
}

function Over({ children }: { children: ReactNode }) {
  return (
    <>
      <p className="note error" role="alert">
        {children}
      </p>
      <a className="link" href="/">
        {say('To the sign-in')}
      </a>
    </>
  );
}

/** Goes on into the application, signed in or not. */
const goIn = (): void => location.assign('/');

function Follow({ token, leads, signedIn }: { token: string; leads: Leads; signedIn: SessionView | null }) {
  const { purpose, email } = leads;
  const params = { params: { path: { token } } };
  if (purpose === 'address')
    return (
      <One
        title={say('Confirm your address')}
        says={<>{say('From now on you sign in with {email}, and mails go there.', { email })}</>}
        action={say('This address is mine')}
        done={say('The address is confirmed.')}
        run={() => call(api.POST('/api/v1/links/{token}', { ...params, body: {} }))}
      />
    );
  if (purpose === 'invitation' && (signedIn || leads.account)) return <Join token={token} leads={leads} signedIn={signedIn} />;
  return <WithPassword token={token} leads={leads} />;
}

interface OneProps {
  title: string;
  says: ReactNode;
  action: string;
  done: string;
  run: () => Promise<unknown>;
}
function One({ title, says, action, done, run }: OneProps) {
  const follow = useMutation({ mutationFn: run });
  return (
    <>
      <h1 className="text-xl font-bold">{title}</h1>
      <p>{says}</p>
      {follow.isSuccess ? (
        <p className="note info" role="status">
          {done}{' '}
          <Button look="quiet" onClick={goIn}>
            {say('Go on')}
          </Button>
        </p>
      ) : (
        <Button look="primary" className="justify-self-start" disabled={follow.isPending} onClick={() => follow.mutate()}>
          {action}
        </Button>
      )}
      {follow.isError && (
        <p className="note error" role="alert">
          {wordsOf(follow.error)}
        </p>
      )}
    </>
  );
}

const invitedTo = ({ workspace, role, by }: Leads): ReactNode => (
  <>
    <Say
      text="{by} invites you to <b>{workspace}</b>{more}."
      values={{
        by: by || say('Somebody'),
        b: (words) => <b>{words}</b>,
        workspace,
        more: role && <> {say('as {name}: {may}', { name: inSentence(ROLE_WORDS[role].name), may: ROLE_WORDS[role].may })}</>,
      }}
    />
  </>
);

function Join({ token, leads, signedIn }: { token: string; leads: Leads; signedIn: SessionView | null }) {
  const queries = useQueryClient();
  const [session, setSession] = useState(signedIn);
  const [other, setOther] = useState(false);
  const join = useMutation({
    mutationFn: (s: SessionView) => {
      setCsrf(s.csrf);
      return call(api.POST('/api/v1/links/{token}/join', { params: { path: { token } } }));
    },
    onSuccess: () => {
      queries.clear();
      goIn();
    },
  });
  return (
    <>
      <h1 className="text-xl font-bold">{say('Join {workspace}', { workspace: leads.workspace })}</h1>
      <p>{invitedTo(leads)}</p>
      {session && !other ? (
        <div className="flex flex-wrap items-center gap-2">
          <Button look="primary" disabled={join.isPending} onClick={() => join.mutate(session)}>
            {say('Join as {name}', { name: session.name })}
          </Button>
          <Button look="quiet" onClick={() => setOther(true)}>
            {say('With another account')}
          </Button>
        </div>
      ) : (
        <>
          <p className="text-ink-2">{say('Sign in to join.')}</p>
          <SignInForm
            email={leads.email}
            onDone={(s) => {
              setSession(s);
              setOther(false);
              join.mutate(s);
            }}
          />
        </>
      )}
      {join.isError && (
        <p className="note error" role="alert">
          {wordsOf(join.error)}{' '}
          <Button look="quiet" onClick={goIn}>
            {say('Go on')}
          </Button>
        </p>
      )}
    </>
  );
}

const TITLES = { 'sign-up': say('Make your account'), reset: say('A new password'), invitation: say('Make your account') } as const;

function WithPassword({ token, leads }: { token: string; leads: Leads }) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const isNew = leads.purpose !== 'reset';
  const follow = useMutation({
    mutationFn: () => call(api.POST('/api/v1/links/{token}', { params: { path: { token } }, body: { password, ...(isNew && { name }) } })),
    onSuccess: goIn,
  });
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    follow.mutate();
  };
  const code = follow.error instanceof ApiError ? follow.error.code : '';
  const ofPassword = code.startsWith('password');
  const words = follow.isError ? wordsOf(follow.error) : undefined;
  return (
    <>
      <h1 className="text-xl font-bold">{TITLES[leads.purpose as keyof typeof TITLES]}</h1>
      {leads.purpose === 'invitation' && <p>{invitedTo(leads)}</p>}
      <form onSubmit={submit} className="grid gap-3">
        <Field label={say('Address')}>{(id) => <Input id={id} type="email" autoComplete="username" readOnly value={leads.email} />}</Field>
        {isNew && (
          <Field label={say('Your name')} hint={say('Colleagues see it beside what you change.')}>
            {(id, note) => (
              <Input
                id={id}
                autoFocus
                required
                maxLength={200}
                autoComplete="name"
                aria-describedby={note}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            )}
          </Field>
        )}
        <PasswordField
          label={isNew ? say('Password') : say('New password')}
          fresh
          error={ofPassword ? words : undefined}
          hint={PASSWORD_HINT}
          value={password}
          onChange={setPassword}
        />
        <Button type="submit" look="primary" disabled={follow.isPending}>
          {isNew ? say('Make the account') : say('Keep the new password')}
        </Button>
      </form>
      {words && !ofPassword && <Over>{words}</Over>}
    </>
  );
}
