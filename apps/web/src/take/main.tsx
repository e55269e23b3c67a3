/** Learners' pages: enter by code, answer one question after the other, hand in. Answers are kept on the device. */
import type { Response as Answer } from '@zakuska/core';
import { type FormEvent, StrictMode, useEffect, useRef, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { AnswerInput } from './AnswerInput.js';
import { previewed } from './preview.js';
import { type AttemptState, type Keeper, type Outcome, Refused, server, type Welcome } from './server.js';
import { Text } from './Text.js';
import './take.css';

interface Kept {
  id: string;
  token: string;
  responses: Record<string, Answer>;
  place: number;
}
const keyOf = (code: string): string => `take ${code.toUpperCase()}`;
const load = (code: string): Kept | null => {
  try {
    return JSON.parse(localStorage.getItem(keyOf(code)) ?? 'null') as Kept | null;
  } catch {
    return null;
  }
};
const store = (code: string, kept: Kept | null): void => {
  try {
    if (kept) localStorage.setItem(keyOf(code), JSON.stringify(kept));
    else localStorage.removeItem(keyOf(code));
  } catch {
    /* a private window: goes on without */
  }
};
const random = (bytes: number): string => Array.from(crypto.getRandomValues(new Uint8Array(bytes)), (b) => b.toString(16).padStart(2, '0')).join('');
const newUuid = (): string => {
  const h = random(16);
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-a${h.slice(17, 20)}-${h.slice(20)}`;
};
const words = (e: unknown): string => (e instanceof Error ? e.message : 'Something went wrong.');

function Enter() {
  const [code, setCode] = useState('');
  const [error, setError] = useState('');
  const submit = async (e: FormEvent): Promise<void> => {
    e.preventDefault();
    const clean = code.toUpperCase().replace(/[\s-]/g, '');
    try {
      await server.welcome(clean);
      location.assign(`/t/${encodeURIComponent(clean)}`);
    } catch (x) {
      setError(words(x));
    }
  };
  return (
    <main className="page">
      <h1>Enter a quiz</h1>
      <form onSubmit={(e) => void submit(e)}>
        <label>
          Entry code
          <input
            className="code"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            autoComplete="off"
            autoCapitalize="characters"
            maxLength={12}
            required
          />
        </label>
        {error && (
          <p className="error" role="alert">
            {error}
          </p>
        )}
        <button className="primary" type="submit">
          Go on
        </button>
      </form>
    </main>
  );
}

function Quiz({ code }: { code: string }) {
  const [welcome, setWelcome] = useState<Welcome | null>(null);
  const [attempt, setAttempt] = useState<AttemptState | null>(null);
  const [kept, setKept] = useState<Kept | null>(() => load(code));
  const [name, setName] = useState('');
  const [error, setError] = useState('');
  useEffect(() => {
    const open = async (): Promise<void> => {
      try {
        if (kept) setAttempt(await server.attempt(kept.id, kept.token));
        else setWelcome(await server.welcome(code));
      } catch (e) {
        if (e instanceof Refused && e.status === 404 && kept) {
          store(code, null);
          setKept(null);
        } else setError(words(e));
      }
    };
    void open();
  }, [code, kept === null]);
  const begin = async (e: FormEvent): Promise<void> => {
    e.preventDefault();
    const fresh: Kept = { id: newUuid(), token: random(24), responses: {}, place: 0 };
    try {
      const a = await server.begin(code, fresh.id, fresh.token, name);
      store(code, fresh);
      setKept(fresh);
      setAttempt(a);
      setError('');
    } catch (x) {
      setError(words(x));
    }
  };
  if (attempt && kept) return <Answering attempt={attempt} kept={kept} keeper={server} remember={(k) => store(code, k)} />;
  if (!welcome)
    return (
      <main className="page">
        {error ? (
          <>
            <h1>This does not work</h1>
            <p className="error" role="alert">
              {error}
            </p>
            <p>
              <a href="/t">Enter another code</a>
            </p>
          </>
        ) : (
          <p role="status">Opening …</p>
        )}
      </main>
    );
  return (
    <main className="page">
      <h1>{welcome.title}</h1>
      <p>
        {welcome.items} questions, {welcome.points} points.{' '}
        {welcome.shows === 'nothing' ? 'Your teacher tells you the result.' : 'You see your score when you have handed in.'}
      </p>
      {welcome.open ? (
        <form onSubmit={(e) => void begin(e)}>
          <label>
            Your name
            <input value={name} onChange={(e) => setName(e.target.value)} autoComplete="name" maxLength={100} required />
          </label>
          {error && (
            <p className="error" role="alert">
              {error}
            </p>
          )}
          <button className="primary" type="submit">
            Begin
          </button>
        </form>
      ) : (
        <p className="error">This quiz is closed. Ask your teacher.</p>
      )}
    </main>
  );
}

const answered = (r: Answer | undefined): boolean => {
  if (!r) return false;
  if ('text' in r) return r.text.trim() !== '';
  if ('options' in r) return r.options.length > 0;
  if ('gaps' in r) return Object.values(r.gaps).some((g) => g.trim());
  if ('pairs' in r) return r.pairs.some(Boolean);
  return true;
};

function Answering({
  attempt,
  kept,
  keeper,
  remember,
}: {
  attempt: AttemptState;
  kept: Kept;
  keeper: Keeper;
  /** Keeps the answers on this device. */
  remember: (kept: Kept) => void;
}) {
  const [responses, setResponses] = useState<Record<string, Answer>>(() => ({ ...attempt.responses, ...kept.responses }));
  const [place, setPlace] = useState(kept.place);
  const [outcome, setOutcome] = useState<Outcome | null>(attempt.outcome ?? null);
  const [said, setSaid] = useState('');
  const [sending, setSending] = useState(false);
  const heading = useRef<HTMLDivElement>(null);
  const { items } = attempt;
  const item = items[place];
  const first = useRef(true);
  const latest = useRef(remember);
  latest.current = remember;

  useEffect(() => {
    if (outcome) return;
    latest.current({ ...kept, responses, place });
    if (first.current) {
      first.current = false;
      return;
    }
    const timer = setTimeout(() => {
      keeper.keep(kept.id, kept.token, responses).then(
        () => setSaid(keeper.keptNote),
        (e: unknown) => setSaid(e instanceof Refused && e.status === 0 ? 'no connection: kept on this device' : words(e)),
      );
    }, 1200);
    return () => clearTimeout(timer);
  }, [responses, place, outcome, kept, keeper]);
  const go = (to: number): void => {
    setPlace(to);
    scrollTo(0, 0);
    requestAnimationFrame(() => heading.current?.focus());
  };
  const submit = async (): Promise<void> => {
    setSending(true);
    setSaid('Handing in …');
    for (let tries = 0; ; tries++) {
      try {
        setOutcome(await keeper.submit(kept.id, kept.token, responses));
        scrollTo(0, 0);
        break;
      } catch (e) {
        setSaid(words(e));
        if (!(e instanceof Refused) || e.status !== 0 || tries > 200) break;
        await new Promise((r) => setTimeout(r, 2000));
      }
    }
    setSending(false);
  };
  if (outcome) return <Result attempt={attempt} outcome={outcome} />;
  const questions = items.filter((i) => i.kind !== 'information');
  const open = questions.filter((i) => !answered(responses[i.id]));
  return (
    <>
      <main className="page">
        <h1 className="top">
          {attempt.title} · {attempt.name}
        </h1>
        <div className="bar" aria-hidden>
          {items.map((i, n) => (
            <i key={i.id} className={`${answered(responses[i.id]) ? 'done' : ''} ${n === place ? 'here' : ''}`} />
          ))}
        </div>
        {item ? (
          <div
            ref={heading}
            tabIndex={-1}
            style={{ outline: 'none' }}
            {...((item.language ?? attempt.language) && { lang: item.language ?? attempt.language })}
          >
            <p className="place">
              {item.kind === 'information'
                ? 'Read this'
                : `Question ${questions.indexOf(item) + 1} of ${questions.length}, ${item.points} ${item.points === 1 ? 'point' : 'points'}`}
            </p>
            {item.instructions && <Text className="passage" text={item.instructions} />}
            {item.passage && <Text className="passage" text={item.passage} />}
            <Text className="stem" text={item.stem} />
            {item.wordBank && <p className="place">Words: {item.wordBank.join(', ')}</p>}
            <AnswerInput key={item.id} item={item} value={responses[item.id]} onChange={(r) => setResponses((all) => ({ ...all, [item.id]: r }))} />
          </div>
        ) : (
          <div ref={heading} tabIndex={-1} style={{ outline: 'none' }}>
            <p className="stem">{open.length ? `${open.length} of ${questions.length} questions have no answer yet.` : 'Every question has an answer.'}</p>
            <ul className="list">
              {open.map((i) => (
                <li key={i.id}>
                  <button type="button" onClick={() => go(items.indexOf(i))}>
                    Question {questions.indexOf(i) + 1}
                  </button>
                </li>
              ))}
            </ul>
          </div>
        )}
      </main>
      <div className="act">
        <button type="button" disabled={place === 0 || sending} onClick={() => go(place - 1)}>
          Back
        </button>
        <span role="status">{said || keeper.note}</span>
        {item ? (
          <button type="button" className="primary" onClick={() => go(place + 1)}>
            Next
          </button>
        ) : (
          <button type="button" className="primary" disabled={sending} onClick={() => void submit()}>
            Hand in
          </button>
        )}
      </div>
    </>
  );
}

const STATES = { right: 'right', partly: 'partly right', wrong: 'wrong', unanswered: 'no answer', 'by-hand': 'marked by your teacher' } as const;

/** What learners will see, inside the teacher's page: nothing is kept, sent or counted. */
function Preview() {
  const [shown, setShown] = useState<Awaited<ReturnType<typeof previewed>> | null>(null);
  useEffect(() => void previewed().then(setShown), []);
  if (!shown) return <p role="status">Opening …</p>;
  return <Answering attempt={shown.attempt} kept={{ id: '', token: '', responses: {}, place: shown.place }} keeper={shown} remember={() => undefined} />;
}

function Result({ attempt, outcome }: { attempt: AttemptState; outcome: Outcome }) {
  const { points = 0, maximum = 0 } = outcome;
  return (
    <main className="page">
      <h1 className="top">
        {attempt.title} · {attempt.name}
      </h1>
      <h2>Handed in</h2>
      {outcome.shows === 'nothing' ? (
        <p>Your answers have arrived. Your teacher tells you the result.</p>
      ) : (
        <>
          <p className="score">
            {points} of {maximum} points ({maximum ? Math.round((100 * points) / maximum) : 0} %)
          </p>
          {outcome.byHand ? <p>Your teacher still marks answers worth {outcome.byHand} points.</p> : null}
        </>
      )}
      {outcome.items && (
        <ol className="list">
          {outcome.items.map((o) => {
            const item = attempt.items.find((i) => i.id === o.id);
            if (!item || item.kind === 'information') return null;
            return (
              <li key={o.id}>
                <Text text={item.stem} />
                <span className={`state ${o.state}`}>{STATES[o.state]}</span>
                {o.answer && <div>Right: {o.answer}</div>}
                {o.feedback.map((f) => (
                  <Text key={f} className="passage" text={f} />
                ))}
              </li>
            );
          })}
        </ol>
      )}
    </main>
  );
}

document.documentElement.dataset['theme'] =
  (window.parent !== window && parent.document.documentElement.dataset['theme']) || (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
const code = decodeURIComponent(location.pathname.split('/')[2] ?? '');
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>{code === 'preview' && window.parent !== window ? <Preview /> : code ? <Quiz code={code} /> : <Enter />}</StrictMode>,
);
