/** Learners' pages: enter by code, answer one question after the other, hand in. Answers are kept on the device. */
import type { Response as Answer } from '@zakuska/core';
import { type FormEvent, StrictMode, useEffect, useRef, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { Boundary } from '../ui/Boundary.js';
import { AnswerInput } from './AnswerInput.js';
import { device, type KeptAttempt, type Launch, launchOf, load, newUuid, putAside, random, store, takeUp } from './kept.js';
import { previewed } from './preview.js';
import { type AttemptState, type Keeper, type Outcome, passing, Refused, server, untilDone, type Welcome } from './server.js';
import { Languages } from './Languages.js';
import { Text } from './Text.js';
import './take.css';

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

const times = (n: number): string => (n === 1 ? 'once' : `${n} times`);

function Quiz({ code, launch }: { code: string; launch: Launch | undefined }) {
  const [welcome, setWelcome] = useState<Welcome | null>(null);
  const [attempt, setAttempt] = useState<AttemptState | null>(null);
  const [kept, setKept] = useState<KeptAttempt | null>(() => (launch?.fresh ? null : load(code)));
  const [name, setName] = useState('');
  const [language, setLanguage] = useState('');
  const [error, setError] = useState('');
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    let here = true;
    const said = (why: string): void => void (here && setError(why));
    const open = async (): Promise<void> => {
      try {
        if (kept) {
          const a = await untilDone(() => server.attempt(kept.id, kept.token, kept.language), said);
          if (here) setAttempt(a);
        } else {
          const w = await untilDone(() => server.welcome(code, launch?.token), said);
          if (here) setWelcome(w);
        }
        said('');
      } catch (e) {
        if (e instanceof Refused && e.status === 404 && kept) {
          store(code, null);
          setKept(null);
        } else said(words(e));
      }
    };
    void open();
    return () => void (here = false);
  }, [code, kept, launch]);
  const begin = async (e: FormEvent): Promise<void> => {
    e.preventDefault();
    const left = launch ? null : takeUp(code, name);
    if (left) return setKept(left);
    const inIt = language || undefined;
    const fresh: KeptAttempt = { id: newUuid(), token: random(24), responses: {}, place: 0, ...(inIt && { language: inIt }) };
    setBusy(true);
    try {
      const a = await untilDone(() => server.begin(code, fresh.id, fresh.token, launch ? { launch: launch.token } : { name }, device(), inIt), setError);
      // who comes from a course may go on with what was begun, here or on another device
      const before = load(code);
      const now: KeptAttempt = before?.id === a.id ? { ...before, token: fresh.token } : { ...fresh, id: a.id };
      if (now.language !== inIt) await change(language, now);
      else {
        store(code, now);
        setKept(now);
        setAttempt(a);
      }
      setError('');
    } catch (x) {
      setError(words(x));
    }
    setBusy(false);
  };
  /** The next person at this device starts clean; what this one has not handed in stays for them. */
  const leave = (unsent: boolean): void => {
    if (kept && attempt && unsent) {
      void server.keep(kept.id, kept.token, load(code)?.responses ?? kept.responses, kept.language).catch(() => undefined);
      putAside(code, attempt.name);
    } else store(code, null);
    setKept(null);
    setAttempt(null);
    setWelcome(null);
    setName('');
    setError('');
  };
  /** The same attempt in another language: the server says what was answered so far in its words. */
  const change = async (to: string, now: KeptAttempt): Promise<void> => {
    await server.keep(now.id, now.token, now.responses, now.language);
    const a = await server.attempt(now.id, now.token, to || undefined);
    const { language: _, ...rest } = now;
    const next: KeptAttempt = { ...rest, responses: a.responses, ...(to && { language: to }) };
    store(code, next);
    setKept(next);
    setAttempt(a);
  };
  if (attempt && kept)
    return (
      <Answering
        key={`${attempt.id} ${kept.language ?? ''}`}
        attempt={attempt}
        kept={kept}
        keeper={server}
        remember={(k) => store(code, k)}
        change={change}
        {...(!launch && { leave })}
      />
    );
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
  const { learner } = welcome;
  return (
    <main className="page">
      <h1>{welcome.title}</h1>
      <p>
        {welcome.items} questions, {welcome.points} points.{' '}
        {welcome.shows === 'nothing' ? 'Your teacher tells you the result.' : 'You see your score when you have handed in.'}
        {welcome.attempts === 1 && ' You have one attempt.'}
        {welcome.attempts > 1 && ` You have ${welcome.attempts} attempts.`}
      </p>
      {welcome.open ? (
        <form onSubmit={(e) => void begin(e)}>
          {learner ? (
            <p>
              You are <strong>{learner.name}</strong>.
              {learner.underWay ? ' What you have answered so far is kept.' : learner.handedIn > 0 && ` You have handed in ${times(learner.handedIn)}.`}
            </p>
          ) : (
            <label>
              Your name
              <input value={name} onChange={(e) => setName(e.target.value)} autoComplete="name" maxLength={100} required />
            </label>
          )}
          {welcome.languages && (
            <Languages
              languages={welcome.languages}
              value={language || (welcome.languages[0] ?? '')}
              onChoose={(l) => setLanguage(l === welcome.languages?.[0] ? '' : l)}
            />
          )}
          {error && (
            <p className="error" role="alert">
              {error}
            </p>
          )}
          <button className="primary" type="submit" disabled={busy}>
            {learner?.underWay ? 'Go on' : learner?.handedIn ? 'Begin again' : 'Begin'}
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
  change,
  leave,
}: {
  attempt: AttemptState;
  kept: KeptAttempt;
  keeper: Keeper;
  /** Keeps the answers on this device. */
  remember: (kept: KeptAttempt) => void;
  /** Goes on in another language; absent where there is no choice. */
  change?: (language: string, now: KeptAttempt) => Promise<void>;
  /** Makes room for another person at this device; absent where there is nobody to make room for. */
  leave?: (unsent: boolean) => void;
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
      keeper.keep(kept.id, kept.token, responses, kept.language).then(
        () => setSaid(keeper.keptNote),
        (e: unknown) => setSaid(passing(e) ? 'not sent yet: kept on this device' : words(e)),
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
    try {
      setOutcome(await untilDone(() => keeper.submit(kept.id, kept.token, responses, kept.language), setSaid));
      scrollTo(0, 0);
    } catch (e) {
      setSaid(words(e));
      const at = e instanceof Refused ? items.findIndex((i) => i.id === e.item) : -1;
      if (at >= 0) setPlace(at);
    }
    setSending(false);
  };
  if (outcome) return <Result attempt={attempt} outcome={outcome} leave={leave} />;
  const questions = items.filter((i) => i.kind !== 'information');
  const open = questions.filter((i) => !answered(responses[i.id]));
  return (
    <>
      <main className="page">
        <h1 className="top">
          {attempt.title} · {attempt.name}
          <NotYou name={attempt.name} unsent leave={leave} />
        </h1>
        {change && attempt.languages && (
          <Languages
            languages={attempt.languages}
            value={kept.language ?? attempt.languages[0] ?? ''}
            onChoose={(to) => void change(to === attempt.languages?.[0] ? '' : to, { ...kept, responses, place }).catch((e: unknown) => setSaid(words(e)))}
          />
        )}
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
            <Boundary
              of={item.id}
              fallback={(_, again) => (
                <p className="error" role="alert">
                  This question cannot be shown. Go on with the others and tell your teacher.{' '}
                  <button type="button" onClick={again}>
                    Try again
                  </button>
                </p>
              )}
            >
              {item.instructions && <Text className="passage" text={item.instructions} />}
              {item.passage && <Text className="passage" text={item.passage} />}
              <Text className="stem" text={item.stem} />
              {item.wordBank && <p className="place">Words: {item.wordBank.join(', ')}</p>}
              <AnswerInput key={item.id} item={item} value={responses[item.id]} onChange={(r) => setResponses((all) => ({ ...all, [item.id]: r }))} />
            </Boundary>
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

/** On a shared computer: who sits here now is somebody else. */
function NotYou({ name, unsent, leave }: { name: string; unsent: boolean; leave?: ((unsent: boolean) => void) | undefined }) {
  const [asked, setAsked] = useState(false);
  if (!leave) return null;
  if (!asked)
    return (
      <button type="button" className="quiet" onClick={() => setAsked(true)}>
        Not {name}?
      </button>
    );
  return (
    <span className="ask" role="alert">
      {unsent ? `What ${name} has answered stays here and can be gone on with by that name. ` : `${name} has handed in. `}
      <button type="button" className="quiet" onClick={() => leave(unsent)}>
        Start anew
      </button>
      <button type="button" className="quiet" onClick={() => setAsked(false)}>
        Stay
      </button>
    </span>
  );
}

/** Where even the page cannot be shown: the answers are on the device, and can be handed in from here. */
function Rescue({ code }: { code: string }) {
  const kept = load(code);
  const [said, setSaid] = useState('');
  const submit = (): void => {
    if (!kept) return;
    setSaid('Handing in …');
    untilDone(() => server.submit(kept.id, kept.token, kept.responses, kept.language), setSaid).then(
      () => setSaid('Your answers have arrived.'),
      (e: unknown) => setSaid(words(e)),
    );
  };
  return (
    <main className="page">
      <h1>This page cannot be shown</h1>
      <p role="status">{said || (kept ? `The ${Object.keys(kept.responses).length} answers that you gave are kept on this device.` : 'Nothing was lost.')}</p>
      <p>
        <button type="button" onClick={() => location.reload()}>
          Load the page again
        </button>{' '}
        {kept && (
          <button type="button" className="primary" onClick={submit}>
            Hand in what is there
          </button>
        )}
      </p>
    </main>
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

function Result({ attempt, outcome, leave }: { attempt: AttemptState; outcome: Outcome; leave?: ((unsent: boolean) => void) | undefined }) {
  const { points = 0, maximum = 0 } = outcome;
  return (
    <main className="page">
      <h1 className="top">
        {attempt.title} · {attempt.name}
        <NotYou name={attempt.name} unsent={false} leave={leave} />
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
const launch = launchOf(code);
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    {code === 'preview' && window.parent !== window ? (
      <Preview />
    ) : code ? (
      <Boundary fallback={() => <Rescue code={code} />}>
        <Quiz code={code} launch={launch} />
      </Boundary>
    ) : (
      <Enter />
    )}
  </StrictMode>,
);
