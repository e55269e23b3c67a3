import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, call, setCsrf, type SessionView, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';

export function SignInForm({ onDone, email: known = '' }: { onDone: (s: SessionView) => void; email?: string }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState('');
  const [error, setError] = useState<string>();
  const [busy, setBusy] = useState(false);
  // only where the demo is there: a school's own server offers no account that everybody knows
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => call(api.GET('/api/v1/session/demo')), staleTime: Number.POSITIVE_INFINITY });
  const signIn = async (body: { email: string; password: string }): Promise<void> => {
    setBusy(true);
    setError(undefined);
    try {
      const s = await call(api.POST('/api/v1/session', { body }));
      setCsrf(s.csrf);
      onDone(s);
    } catch (e) {
      setError(wordsOf(e));
    } finally {
      setBusy(false);
    }
  };
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    void signIn({ email, password });
  };
  return (
    <form onSubmit={submit} className="grid gap-3">
      <Field label="Address">
        {(id) => <Input id={id} type="email" autoComplete="username" required value={email} onChange={(e) => setEmail(e.target.value)} />}
      </Field>
      <Field label="Password" error={error}>
        {(id, note) => (
          <Input
            id={id}
            type="password"
            autoComplete="current-password"
            required
            aria-describedby={note}
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        )}
      </Field>
      <Button type="submit" look="primary" disabled={busy}>
        Sign in
      </Button>
      {demo.data?.email && demo.data.password && (
        <div className="note info mt-3 text-ink-2">
          <b className="text-ink">To look around:</b> Saltmarsh Cookery School, a made-up school.
          <br />
          {demo.data.email}, password {demo.data.password}
          <br />
          <button
            type="button"
            className="link"
            disabled={busy}
            onClick={() => void signIn({ email: demo.data.email ?? '', password: demo.data.password ?? '' })}
          >
            Sign in with the demo account
          </button>
        </div>
      )}
    </form>
  );
}

export function SignIn({ onDone }: { onDone: (s: SessionView) => void }) {
  return (
    <main className="mx-auto grid min-h-screen max-w-4xl content-center gap-10 p-6 md:grid-cols-[1fr_340px]">
      <div className="grid content-start gap-4">
        <h1 className="text-3xl font-extrabold tracking-tight text-beet">zakuska</h1>
        <p className="max-w-md text-lg/7">
          Paste the questions you have. See line by line what was understood. Check the keys. Send them where your learners are, and know that they will mark
          themselves.
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
        <h2 className="mb-3 text-lg font-bold">Sign in</h2>
        <SignInForm onDone={onDone} />
      </div>
    </main>
  );
}
