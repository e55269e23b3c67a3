import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { ApiError, api, call, setCsrf, type SessionView, wordsOf } from '../api/client.js';
import { SpokenLanguage } from './SpokenLanguage.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { PasswordField } from './PasswordField.js';
import { Say, say } from '../words/say.js';

/** What the sign-in says beside "wrong": the account has a second factor. */
const CODE_NEEDED = new Set(['code-needed', 'wrong-code']);

interface FormProps {
  onDone: (s: SessionView) => void;
  email?: string;
  /** Stands below the button. */
  children?: ReactNode;
}
export function SignInForm({ onDone, email: known = '', children }: FormProps) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState('');
  const [code, setCode] = useState<string>();
  const [error, setError] = useState<string>();
  const [busy, setBusy] = useState(false);
  // only where the demo is there: a school's own server offers no account that everybody knows
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => call(api.GET('/api/v1/session/demo')), staleTime: Number.POSITIVE_INFINITY });
  const signIn = async (body: { email: string; password: string; code?: string }): Promise<void> => {
    setBusy(true);
    setError(undefined);
    try {
      const s = await call(api.POST('/api/v1/session', { body }));
      setCsrf(s.csrf);
      onDone(s);
    } catch (e) {
      const asks = e instanceof ApiError && CODE_NEEDED.has(e.code);
      if (asks) setCode('');
      // that a code is asked for is no fault
      if (!(asks && code === undefined)) setError(wordsOf(e));
    } finally {
      setBusy(false);
    }
  };
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    void signIn({ email, password, ...(code && { code }) });
  };
  return (
    <form onSubmit={submit} className="grid gap-3">
      <Field label={say('Address')}>
        {(id) => <Input id={id} type="email" autoComplete="username" required value={email} onChange={(e) => setEmail(e.target.value)} />}
      </Field>
      <PasswordField error={code === undefined ? error : undefined} value={password} onChange={setPassword} />
      {code !== undefined && (
        <Field label={say('Code')} error={error} hint={say('The six digits that your device shows now, or one of your spare codes.')}>
          {(id, note) => (
            <Input
              id={id}
              autoFocus
              autoComplete="one-time-code"
              required
              maxLength={20}
              aria-describedby={note}
              value={code}
              onChange={(e) => setCode(e.target.value)}
            />
          )}
        </Field>
      )}
      <Button type="submit" look="primary" disabled={busy}>
        {say('Sign in')}
      </Button>
      {children}
      {demo.data?.email && demo.data.password && (
        <div className="note info mt-3 text-ink-2">
          <Say text="<b>To look around:</b> Saltmarsh Cookery School, a made-up school." values={{ b: (words) => <b className="text-ink">{words}</b> }} />
          <br />
          {say('{email}, password {password}', { email: demo.data.email, password: demo.data.password })}
          <br />
          <button
            type="button"
            className="link"
            disabled={busy}
            onClick={() => void signIn({ email: demo.data.email ?? '', password: demo.data.password ?? '' })}
          >
            {say('Sign in with the demo account')}
          </button>
        </div>
      )}
    </form>
  );
}

type Way = 'sign in' | 'sign-up' | 'forgotten';
const WAYS: Record<Exclude<Way, 'sign in'>, { title: string; says: string; action: string; sent: string }> = {
  'sign-up': {
    title: say('Make an account'),
    says: say('A link goes to your address; following it makes the account.'),
    action: say('Send the link'),
    sent: say('A link is on its way. It is good for a day.'),
  },
  forgotten: {
    title: say('A new password'),
    says: say('A link goes to the address of your account; there you choose a new one. All browsers are signed out.'),
    action: say('Send the link'),
    sent: say('If there is an account with this address, a link is on its way. It is good for two hours.'),
  },
};

/** Asks for a link by mail, to make an account or a new password. */
function LinkForm({ way, onBack }: { way: Exclude<Way, 'sign in'>; onBack: () => void }) {
  const [email, setEmail] = useState('');
  const send = useMutation({ mutationFn: () => call(api.POST(`/api/v1/links/${way}`, { body: { email } })) });
  const { says, action, sent } = WAYS[way];
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    send.mutate();
  };
  return (
    <form onSubmit={submit} className="grid gap-3">
      <p className="text-ink-2">{says}</p>
      <Field label={say('Address')} error={send.isError ? wordsOf(send.error) : undefined}>
        {(id, note) => (
          <Input
            id={id}
            type="email"
            autoComplete="email"
            autoFocus
            required
            aria-describedby={note}
            value={email}
            onChange={(e) => setEmail(e.target.value)}
          />
        )}
      </Field>
      <Button type="submit" look="primary" disabled={send.isPending}>
        {action}
      </Button>
      {send.isSuccess && (
        <p className="note info" role="status">
          {say('{sent} Look into {email}, also among the mails that were put aside.', { sent, email })}
        </p>
      )}
      <p>
        <Button look="quiet" onClick={onBack}>
          {say('Back to signing in')}
        </Button>
      </p>
    </form>
  );
}

export function SignIn({ onDone }: { onDone: (s: SessionView) => void }) {
  const [way, setWay] = useState<Way>('sign in');
  const [params] = useSearchParams();
  const { pathname } = useLocation();
  const refused = params.get('refused');
  const ways = useQuery({ queryKey: ['ways'], queryFn: () => call(api.GET('/api/v1/session/ways')), staleTime: Number.POSITIVE_INFINITY });
  return (
    <main className="mx-auto grid min-h-screen max-w-4xl content-center gap-10 p-6 md:grid-cols-[1fr_340px]">
      <div className="grid content-start gap-4">
        <h1 className="text-3xl font-extrabold tracking-tight text-beet">zakuska</h1>
        <p className="max-w-md text-lg/7">
          {say(
            'Paste the questions you have. See line by line what was understood. Check the keys. Send them where your learners are, and know that they will mark themselves.',
          )}
        </p>
        <div className="mt-2 max-w-md overflow-hidden rounded border border-rule bg-sheet font-mono text-sm/7" aria-hidden>
          {[
            ['aside', 'Sure, here are your questions:', 'text-ink-2 italic'],
            ['1', '1. What feeds the yeast in a starter?', 'font-bold'],
            ['A', 'a) salt', ''],
            ['B ✓', 'b) sugars from the flour *', 'bg-dill-soft'],
            ['C', 'c) butter', ''],
          ].map(([mark, text, look]) => (
            <div key={text} className="grid grid-cols-[64px_1fr]">
              <span className="border-r border-rule pr-2 text-right font-sans text-[13px]/7 font-semibold text-ink-2">{mark}</span>
              <span className={`pl-3 ${look}`}>{text}</span>
            </div>
          ))}
        </div>
      </div>
      <div>
        <h2 className="mb-3 text-lg font-bold">{way === 'sign in' ? say('Sign in') : WAYS[way].title}</h2>
        {way === 'sign in' ? (
          <SignInForm onDone={onDone}>
            {ways.data?.provider && (
              <a
                className="rounded-md border border-rule bg-sheet px-3 py-1.5 text-center text-sm/4.5 font-semibold hover:border-ink-2"
                href={`/api/v1/session/provider?back=${encodeURIComponent(pathname)}`}
              >
                {say('Sign in with {provider}', { provider: ways.data.provider })}
              </a>
            )}
            {refused && (
              <p className="note error" role="alert">
                {refused}
              </p>
            )}
            <p className="-mx-1.5 flex flex-wrap justify-between gap-x-3">
              {ways.data?.forgotten && (
                <Button look="quiet" onClick={() => setWay('forgotten')}>
                  {say('I forgot my password')}
                </Button>
              )}
              {ways.data?.signUp && (
                <Button look="quiet" onClick={() => setWay('sign-up')}>
                  {say('Make an account')}
                </Button>
              )}
            </p>
          </SignInForm>
        ) : (
          <LinkForm key={way} way={way} onBack={() => setWay('sign in')} />
        )}
        <SpokenLanguage />
      </div>
    </main>
  );
}
